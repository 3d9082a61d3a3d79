// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/main_window.h"

#include "app/plurals.h"
#include "app/sheet/name_series_dialog.h"
#include "app/shown_text.h"
#include "app/style/flat_style.h"
#include "app/window/place_line.h"
#include "app/window/preferences.h"
#include "core/edit/devices.h"
#include "core/exchange/catalogue_file.h"
#include "core/model/references.h"

#include <QApplication>
#include <QCloseEvent>
#include <QDockWidget>
#include <QFile>
#include <QMenuBar>
#include <QMimeData>
#include <QSettings>
#include <QTabBar>
#include <QTabWidget>
#include <QToolBar>
#include <QToolButton>

namespace underridge::app {
using namespace model;
namespace {
constexpr int journalRetryMs = 3000;
constexpr int patienceMs = 150; ///< a window that comes later seems not to come
} // namespace

MainWindow::MainWindow(WindowWorld world, QWidget* parent)
    : QMainWindow(parent),
      world_(std::move(world)),
      settings_(world_.settingsPath.isEmpty()
                    ? std::make_unique<QSettings>()
                    : std::make_unique<QSettings>(world_.settingsPath, QSettings::IniFormat)),
      theme_((useFlatStyle(), useEnglishPlurals(), new DesktopTheme(this))),
      session_(new Session(world_.world, exchange::builtInCatalogue(), world_.seed, this)),
      fields_(new TypedFields(this)),
      jobs_(new Jobs(this)),
      dialogs_(new Dialogs(this)),
      fileDialogs_(*dialogs_, preferred_, this),
      desk_{*session_, preferred_, *fields_, *jobs_, *dialogs_, fileDialogs_, messages_, this},
      files_(new NetworkFiles(desk_, world_.demoFolder, SmallPictures(world_.picturePath), this)),
      interchange_(new Interchange(desk_, *theme_, this)),
      clips_(new Clips(desk_, this)),
      models_(new OwnModels(desk_, *theme_, world_.libraryPath, this)),
      cabling_(desk_),
      groups_(desk_),
      sheets_(desk_),
      plans_(desk_, world_.planPath),
      status_(new StatusLine(*jobs_)),
      checker_(new Checker(session_->workspace(), this)),
      sheet_(new SheetView(*session_)),
      commands_(new Commands(this, sheet_)),
      start_(new StartPage),
      stack_(new QStackedWidget) {
    setObjectName(QStringLiteral("mainWindow"));
    setAcceptDrops(true);
    setMinimumSize(800, 560);
    setDockOptions(QMainWindow::AnimatedDocks | QMainWindow::AllowTabbedDocks);
    stack_->addWidget(start_);
    stack_->addWidget(sheet_);
    setCentralWidget(stack_);
    commands_->applyKeys(settings());
    addCommands();
    buildDocks();
    buildPlaceLine();
    buildMenus();
    setStatusBar(status_);
    connectSheet();
    connectPanels();
    connectStart();
    connectFiles();
    watchDocument();
    models_->load();
    applyTextScale();
    applyHabits();
    restoreWindow();
    applyTheme();
    refreshState();
    showStart();
}

void MainWindow::connectSheet() {
    connect(theme_, &DesktopTheme::changed, this, &MainWindow::applyTheme);
    connect(&session_->workspace(), &Workspace::stateChanged, this, &MainWindow::refreshState);
    connect(&session_->selected(), &Selection::changed, this, &MainWindow::refreshEnabled);
    connect(&session_->workspace(), &Workspace::refused, this, &MainWindow::tell);
    connect(sheet_, &SheetView::hintChanged, this,
            [this](const QString& hint) { status_->setHint(hint, sheet_->inGesture()); });
    connect(sheet_, &Surface::zoomChanged, status_, &StatusLine::showZoom);
    connect(sheet_, &SheetView::faceplateWanted, this, [this] { showBottom(faceplates_); });
    connect(sheet_, &SheetView::dragOutWanted, this, [this] { clips_->dragOut(sheet_); });
    connect(&sheet_->fields(), &FieldsInPlace::seriesWanted, this, &MainWindow::nameSeries);
    files_->beginWith([this](Network network) { return plans_.begun(std::move(network)); });
    connect(sheet_, &SheetView::lineMeasured, this, [this](double units) { plans_.measured(units); });
    connect(sheet_, &SheetView::placingEnded, catalogue_, &CataloguePanel::clearChoice);
    connect(catalogue_, &CataloguePanel::chosen, this, [this](const DeviceModel& model) {
        if (showsSheet())
            return sheet_->startPlacing(model);
        files_->create([this, id = model.id](bool made) { // a new network begins with it
            if (const DeviceModel* chosen = made ? session_->catalogue().device(id) : nullptr)
                sheet_->startPlacing(*chosen);
        });
    });
}

void MainWindow::connectPanels() {
    connect(outline_, &OutlinePanel::activated, this, [this](ObjectRef object) { goTo({object}); });
    connect(outline_, &OutlinePanel::removeWanted, this, [this] { groups_.remove(); });
    connect(sheetsPanel_, &SheetsPanel::newWanted, this, [this] { sheets_.add(SheetActs::With::nothing); });
    connect(sheetsPanel_, &SheetsPanel::removeWanted, this, [this](SheetId sheet) { sheets_.remove(sheet); });
    sheet_->setTakesDrop(
        [this](QPoint at) { return sheetsPanel_->drop(at, session_->selected().devices()); });
    connect(details_, &DetailsPanel::otherPortWanted, this,
            [this](LinkId link, int end) { sheet_->linking().openDrawerForLink(link, end); });
    connect(findings_, &FindingsPanel::goTo, this, &MainWindow::goTo);
    connect(findings_, &FindingsPanel::exportWanted, this,
            [this] { interchange_->chooseFindings(checker_->sifted()); });
    connect(registers_, &RegistersPanel::goTo, this, &MainWindow::goTo);
    connect(faceplates_, &FaceplatePanel::dragged, sheet_, &SheetView::dragLink);
    connect(&session_->workspace(), &Workspace::documentReplaced, this,
            [this] { status_->setHint({}, false); }); // it was of something in the other
    connect(faceplates_, &FaceplatePanel::hinted, this,
            [this](const QString& hint) { status_->setHint(hint, false); });
    connect(chain_, &ChainPanel::goTo, this, &MainWindow::goTo);
    connect(trace_, &TracePanel::goTo, this, &MainWindow::goTo);
    connect(details_, &DetailsPanel::planWanted, this, [this](GroupId group) { plans_.choose(group); });
    connect(details_, &DetailsPanel::planSheetWanted, this, [this](GroupId group) { plans_.show(group); });
    connect(details_, &DetailsPanel::planGoes, this, [this](GroupId group) { plans_.remove(group); });
    connect(racks_, &RackPanel::goTo, this, &MainWindow::goTo);
    connect(details_, &DetailsPanel::missingWanted, this, [this] { showBottom(missing_); });
    connect(missing_, &MissingPanel::putWanted, this,
            [this](const std::vector<DeviceId>& devices) { sheet_->putOn(devices); });
    connect(missing_, &MissingPanel::countChanged, this, [this](int count) {
        bottomTabs_->setTabText(bottomTabs_->indexOf(missing_),
                                count == 0 ? tr("Not on this sheet")
                                           : tr("Not on this sheet (%1)").arg(count));
    });
    connect(details_, &DetailsPanel::findingsWanted, this, [this] { showBottom(findings_); });
    connect(details_, &DetailsPanel::chainWanted, this, [this] { showBottom(chain_); });
    connect(details_, &DetailsPanel::interfacesWanted, this, [this](const QString& device) {
        showBottom(registers_);
        registers_->show(edit::Register::interfaces);
        registers_->filter().setText(device);
    });
    connect(checker_, &Checker::changed, this, [this] {
        session_->workspace().setReported(checker_->reported());
        const auto all = checker_->findings().size();
        bottomTabs_->setTabText(bottomTabs_->indexOf(findings_),
                                all == 0 ? tr("Findings") : tr("Findings (%1)").arg(all));
    });
    connect(find_, &FindField::goTo, this, &MainWindow::goTo);
    connect(find_, &FindField::left, sheet_, qOverload<>(&QWidget::setFocus));
    connect(find_, &FindField::goToSheet, this, [this](SheetId sheet) { session_->showSheet(sheet); });
    connect(find_, &FindField::selectWanted, this, [this](const edit::Refs& objects) {
        session_->select(objects);
        sheet_->fitSelection();
        sheet_->setFocus();
    });
    connect(find_, &FindField::goToPort, this, [this](const PortRef& port) {
        goTo({refTo(port.device)});
        session_->selectPort(port);
        if (session_->network().linkAt(port))
            showBottom(chain_);
    });
    connect(remarks_, &RemarksPanel::goTo, this, &MainWindow::goToRemark);
}

void MainWindow::connectStart() {
    connect(start_, &StartPage::newWanted, this, [this] { files_->create(); });
    connect(start_, &StartPage::firstOfficeWanted, this,
            [this] { action(CommandId::firstOffice)->trigger(); });
    connect(start_, &StartPage::fennickQuayWanted, this,
            [this] { action(CommandId::fennickQuay)->trigger(); });
    connect(start_, &StartPage::openWanted, this, [this] { commands_->run(CommandId::open); });
    connect(start_, &StartPage::recentWanted, this, [this](const QString& path) { files_->open(path); });
    connect(start_, &StartPage::recoverWanted, this,
            [this](const edit::Recoverable& from) { files_->recover(from); });
    connect(start_, &StartPage::discardWanted, this, [this](const edit::Recoverable& from) {
        edit::Document::discard(world_.world, from);
        showStart();
    });
}

void MainWindow::connectFiles() {
    connect(&messages_, &Messages::told, this, &MainWindow::tell);
    connect(&messages_, &Messages::refused, this, &MainWindow::report);
    connect(&messages_, &Messages::listed, this, &MainWindow::showRemarks);
    connect(files_, &NetworkFiles::stateChanged, this, &MainWindow::refreshState);
    connect(files_, &NetworkFiles::placed, this, [this](const QString& path) {
        showSheet();
        showWhereLeft(path);
    });
    connect(interchange_, &Interchange::imported, this, [this](edit::ImportOnto onto) {
        onto == edit::ImportOnto::ownSheets ? sheet_->fitAll() : sheet_->fitSelection();
    });
    connect(clips_, &Clips::pasted, this, [this](const edit::Clip& clip) { sheet_->paste(clip); });
    connect(clips_, &Clips::canPasteChanged, this, &MainWindow::refreshEnabled);
}

void MainWindow::watchDocument() {
    connect(commands_, &Commands::running, &session_->workspace(), &Workspace::settle);
    connect(commands_, &Commands::ran, this, &MainWindow::refreshChecks);
    connect(&session_->navigation(), &Navigation::changed, commands_, &Commands::refresh);
    fields_->add(details_, [this] { return details_->commitTyped(); });
    fields_->add(sheet_, [this] { return sheet_->fields().commit(); });
    fields_->add(filter_, [this] { return filter_->commit(); });
    fields_->add(registers_, [this] { return registers_->commitTyped(); });
    journalRetry_.setInterval(journalRetryMs);
    connect(&journalRetry_, &QTimer::timeout, this, [this] {
        session_->document().catchUpJournal();
        refreshState();
    });
    connect(&session_->workspace(), &Workspace::catalogueChanged, catalogue_, &CataloguePanel::refill);
}

MainWindow::~MainWindow() {
    if (QWidget* focused = focusWidget())
        focused->clearFocus();     // while what it has to say finds everybody there
    bottomDock_->disconnect(this); // it tells of its hiding when the rest is gone already
    delete dialogs_;               // what waits for an answer gets none, while there is somebody to hear it
    delete jobs_;
}

void MainWindow::applyTextScale() {
    static const QFont standard = QApplication::font();
    QFont font = standard;
    const int percent = preferred_.textScale();
    if (standard.pointSizeF() > 0)
        font.setPointSizeF(standard.pointSizeF() * percent / 100);
    else
        font.setPixelSize(standard.pixelSize() * percent / 100);
    if (QApplication::font() != font)
        QApplication::setFont(font);
}

void MainWindow::applyHabits() {
    session_->workspace().setLengthUnit(preferred_.lengthUnit());
    session_->workspace().setHabits(preferred_.habits());
    // A desktop that wants less motion has no animated widgets either.
    sheet_->setMotion(preferred_.motion() && style()->styleHint(QStyle::SH_Widget_Animation_Duration) > 0);
}

void MainWindow::editPreferences() {
    dialogs_->ask(
        [this] {
            auto* dialog = new Preferences(settings(), *theme_, this);
            connect(dialog, &Preferences::changed, this, [this] {
                commands_->applyKeys(settings());
                applyTextScale();
                applyHabits();
            });
            return dialog;
        },
        [this](QDialog&, int) { refreshChecks(); });
}

void MainWindow::nameSeries(const std::vector<DeviceId>& devices) {
    dialogs_->show<NameSeriesDialog>(
        [this, devices] { return new NameSeriesDialog(*session_, devices, this); },
        [this](NameSeriesDialog& dialog, bool accepted) {
            if (!accepted || dialog.names().empty())
                return;
            edit::Refs refs;
            std::vector<std::string> names;
            for (const edit::NewName& name : dialog.names()) {
                refs.push_back(refTo(name.device));
                names.push_back(name.after);
            }
            session_->apply(edit::rename(session_->network(), refs, names));
        });
}

void MainWindow::buildPlaceLine() {
    auto* bar = new QToolBar(tr("Place line"), this);
    bar->setObjectName(QStringLiteral("placeLine"));
    bar->setMovable(false);
    bar->setContextMenuPolicy(Qt::PreventContextMenu);
    place_ = new PlaceLine(*session_, action(CommandId::goBack), action(CommandId::goForward));
    bar->addWidget(place_);
    auto* space = new QWidget;
    space->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Preferred);
    bar->addWidget(space);
    std::vector<QAction*> actions;
    for (const Command& command : commandTable())
        actions.push_back(action(command.id));
    find_ = new FindField(session_->workspace(), std::move(actions), *settings_, this);
    find_->setFixedWidth(300);
    bar->addWidget(find_);
    addToolBar(Qt::TopToolBarArea, bar);
    buildFilterBar();
    buildArrangeBar();
    overlayBar_ = new OverlayBar(*session_, *checker_);
    addBar(tr("Overlay"), "overlayBar", overlayBar_);
}

template <class Bar>
void MainWindow::addBar(const QString& title, const char* name, Bar* wanted) {
    auto* bar = new QToolBar(title, this);
    bar->setObjectName(QLatin1String(name));
    bar->setMovable(false);
    bar->setContextMenuPolicy(Qt::PreventContextMenu);
    bar->addWidget(wanted);
    addToolBarBreak();
    addToolBar(Qt::TopToolBarArea, bar);
    const auto follow = [this, bar, wanted] { bar->setVisible(showsSheet() && wanted->isWanted()); };
    connect(wanted, &Bar::wantedChanged, bar, follow);
    connect(stack_, &QStackedWidget::currentChanged, bar, follow);
    connect(wanted, &Bar::left, sheet_, qOverload<>(&QWidget::setFocus));
    follow();
}

void MainWindow::buildFilterBar() {
    filter_ = new FilterBar(*session_);
    addBar(tr("Filter"), "filterBar", filter_);
}

void MainWindow::buildArrangeBar() {
    arrangeActs_ = new ArrangeActs(*session_, *jobs_, *sheet_, this);
    arrangeBar_ = new ArrangeBar(*session_, *arrangeActs_);
    addBar(tr("Arrange"), "arrangeBar", arrangeBar_);
}

void MainWindow::buildDocks() {
    catalogue_ = new CataloguePanel(session_->catalogue());
    outline_ = new OutlinePanel(*session_);
    leftTabs_ = new QTabWidget;
    leftTabs_->setDocumentMode(true);
    leftTabs_->setAccessibleName(tr("Catalogue, outline, sheets"));
    leftTabs_->addTab(catalogue_, tr("Catalogue"));
    leftTabs_->addTab(outline_, tr("Outline"));
    sheetsPanel_ = new SheetsPanel(*session_);
    leftTabs_->addTab(sheetsPanel_, tr("Sheets"));
    leftTabs_->setMinimumWidth(leftTabs_->tabBar()->sizeHint().width());
    leftDock_ = new QDockWidget(tr("Catalogue, outline, sheets"), this);
    leftDock_->setObjectName(QStringLiteral("leftDock"));
    leftDock_->setWidget(leftTabs_);
    addDockWidget(Qt::LeftDockWidgetArea, leftDock_);
    details_ = new DetailsPanel(*session_, *checker_);
    detailsDock_ = new QDockWidget(tr("Details"), this);
    detailsDock_->setObjectName(QStringLiteral("detailsDock"));
    detailsDock_->setWidget(details_);
    addDockWidget(Qt::RightDockWidgetArea, detailsDock_);
    resizeDocks({leftDock_, detailsDock_}, {240, 290}, Qt::Horizontal);
    remarks_ = new RemarksPanel;
    findings_ = new FindingsPanel(session_->workspace(), *checker_);
    chain_ = new ChainPanel(*session_);
    trace_ = new TracePanel(*session_, *checker_);
    registers_ = new RegistersPanel(*session_, settings(), *dialogs_);
    bottomTabs_ = new QTabWidget;
    bottomTabs_->setDocumentMode(true);
    bottomTabs_->setAccessibleName(tr("Faceplates, registers, findings"));
    faceplates_ = new FaceplatePanel(*session_, *dialogs_);
    bottomTabs_->addTab(faceplates_, tr("Faceplates"));
    bottomTabs_->addTab(registers_, tr("Registers"));
    bottomTabs_->addTab(findings_, tr("Findings"));
    bottomTabs_->addTab(chain_, tr("Chain"));
    bottomTabs_->addTab(trace_, tr("Trace"));
    racks_ = new RackPanel(*session_);
    bottomTabs_->addTab(racks_, tr("Racks"));
    missing_ = new MissingPanel(*session_);
    bottomTabs_->addTab(missing_, tr("Not on this sheet"));
    bottomTabs_->addTab(remarks_, tr("Remarks"));
    bottomDock_ = new QDockWidget(tr("Faceplates, registers, findings"), this);
    bottomDock_->setObjectName(QStringLiteral("bottomDock"));
    bottomDock_->setWidget(bottomTabs_);
    addDockWidget(Qt::BottomDockWidgetArea, bottomDock_);
    resizeDocks({bottomDock_}, {230}, Qt::Vertical);
    bottomDock_->hide();
    setCorner(Qt::BottomLeftCorner, Qt::BottomDockWidgetArea); // tables want the whole width
    setCorner(Qt::BottomRightCorner, Qt::BottomDockWidgetArea);
    connect(bottomDock_, &QDockWidget::visibilityChanged, this,
            [this](bool shown) { action(CommandId::bottomDock)->setChecked(shown); });
}

void MainWindow::report(const QString& title, const Remark& why) {
    tell(why);
    stopWaiting();
    if (isVisible()) // else nobody is there to read it
        dialogs_->choose({title,
                          QString::fromStdString(why.text()),
                          {{tr("Close"), QMessageBox::RejectRole}},
                          QMessageBox::Warning},
                         [](int) {});
}

void MainWindow::applyTheme() {
    const paint::Theme& theme = theme_->theme();
    QApplication::setPalette(paletteFor(theme));
    sheet_->setTheme(theme);
    catalogue_->setTheme(theme);
    faceplates_->setTheme(theme);
    chain_->setTheme(theme);
    racks_->setTheme(theme_->theme());
    sheetsPanel_->setTheme(theme_->theme());
    arrangeBar_->setTheme(theme_->theme());
    refreshChecks();
}

void MainWindow::refreshChecks() {
    action(CommandId::followTheme)->setChecked(theme_->choice() == ThemeChoice::desktop);
    action(CommandId::lightTheme)->setChecked(theme_->choice() == ThemeChoice::light);
    action(CommandId::darkTheme)->setChecked(theme_->choice() == ThemeChoice::dark);
    if (const Sheet* sheet = session_->network().sheet(session_->sheet())) {
        action(CommandId::portLabels)->setChecked(sheet->portLabels);
        action(CommandId::linkLabels)->setChecked(sheet->linkLabels);
        action(CommandId::linesAlongAxes)->setChecked(sheet->lines == LineStyle::axes);
        action(CommandId::linesBundled)->setChecked(sheet->lines == LineStyle::bundled);
        action(CommandId::linksOnDemand)->setChecked(sheet->linksOnDemand);
        action(CommandId::showGroups)->setChecked(sheet->drawsGroups());
        action(CommandId::closeFar)->setChecked(sheet->closing);
    }
}

void MainWindow::refreshState() {
    const auto& document = std::as_const(*session_).document(); // whatever is still being made
    const auto name = [](const char* verb, const std::string& what) {
        return what.empty() ? tr(verb)
                            : QStringLiteral("%1 “%2”").arg(tr(verb), QString::fromStdString(what));
    };
    QAction* undo = action(CommandId::undo);
    QAction* redo = action(CommandId::redo);
    undo->setText(name("&Undo", document.history().undoName()));
    redo->setText(name("&Redo", document.history().redoName()));
    const QString network = QString::fromStdString(session_->network().info().name);
    setWindowTitle(QStringLiteral("%1[*]%2 – Underridge")
                       .arg(network, files_->isReadOnly() ? tr(" (read-only)") : QString()));
    setWindowModified(document.modified());
    setWindowFilePath(QString());
    if (document.journalTrouble() && !journalRetry_.isActive())
        tell(warning(tr("this work is not being kept safe as you go: %1")
                         .arg(shownText(document.journalTrouble()->what)),
                     tr("save, or make room; it is tried again by itself")));
    document.journalTrouble() ? journalRetry_.start() : journalRetry_.stop();
    status_->showState(document, files_->isSaving());
    place_->refresh();
    refreshChecks();
    refreshEnabled();
}

/// The first child that takes the keyboard; the panel itself when none does.
static QWidget* firstFieldOf(QWidget* panel) {
    for (QWidget* field : panel->findChildren<QWidget*>())
        if (field->focusPolicy() & Qt::TabFocus && field->isVisible() && field->isEnabled())
            return field;
    return panel;
}

void MainWindow::focusNextPanel() {
    QWidget* left = leftTabs_->currentWidget() == catalogue_ ? static_cast<QWidget*>(&catalogue_->search())
                    : leftTabs_->currentWidget() == outline_ ? static_cast<QWidget*>(&outline_->tree())
                                                             : &sheetsPanel_->list();
    struct Stop {
        QWidget* panel;
        QWidget* field;
    };
    const Stop stops[] = {{sheet_, sheet_},
                          {details_, firstFieldOf(details_->widget())},
                          {bottomTabs_, firstFieldOf(bottomTabs_->currentWidget())},
                          {leftTabs_, left},
                          {find_, find_}};
    const QWidget* focus = focusWidget();
    const auto at = std::find_if(std::begin(stops), std::end(stops), [&](const Stop& stop) {
        return focus && (focus == stop.panel || stop.panel->isAncestorOf(focus));
    });
    const std::size_t here = at == std::end(stops) ? 0 : static_cast<std::size_t>(at - stops);
    for (std::size_t step = 1; step <= std::size(stops); ++step) { // hidden panels are passed over
        const Stop& next = stops[(here + step) % std::size(stops)];
        if (next.panel->isVisible())
            return next.field->setFocus(Qt::TabFocusReason);
    }
}

void MainWindow::goTo(const std::vector<ObjectRef>& objects) {
    session_->navigation().goTo(objects);
    sheet_->setFocus();
}

void MainWindow::showBottom(QWidget* panel) {
    bottomTabs_->setCurrentWidget(panel);
    bottomDock_->show();
}

void MainWindow::showStart() {
    start_->fill(preferred_.recentFiles(), SmallPictures(world_.picturePath),
                 edit::Document::recoverable(world_.world));
    stack_->setCurrentWidget(start_);
    start_->setFocus();
    status_->setZoomShown(false); // there is nothing to be near to
    refreshEnabled();
}

void MainWindow::showSheet() {
    stack_->setCurrentWidget(sheet_);
    sheet_->setFocus();
    status_->setZoomShown(true);
    refreshState();
}

void MainWindow::showWhenOpened() {
    if (!jobs_->busy())
        return show();
    waitsToShow_ = new QObject(this);
    QTimer::singleShot(patienceMs, waitsToShow_, [this] { stopWaiting(); });
    connect(
        jobs_, &Jobs::idle, waitsToShow_, [this] { stopWaiting(); },
        Qt::QueuedConnection); // what was opened is in place by then
}

void MainWindow::stopWaiting() {
    if (!waitsToShow_)
        return;
    delete waitsToShow_;
    show();
}

void MainWindow::showWhereLeft(const QString& path) {
    sheet_->fitAll();
    const auto place = path.isEmpty() ? std::nullopt : preferred_.placeIn(path);
    if (!place || !session_->network().sheet(place->sheet))
        return;
    session_->sheets().show(session_->network(), place->sheet);
    sheet_->look(place->view.centre, place->view.zoom);
    if (session_->scene().itemsIn(sheet_->camera().visible()).all().empty())
        sheet_->fitAll(); // what was there has been moved by another program
}

void MainWindow::showRemarks(const QString& about, const std::vector<Remark>& remarks) {
    remarks_->show(about, remarks);
    if (remarks.empty())
        return;
    const auto wrong = std::find_if(remarks.begin(), remarks.end(),
                                    [](const Remark& remark) { return remark.severity != Severity::advice; });
    if (wrong != remarks.end())
        tell(*wrong);
    showBottom(remarks_);
}

void MainWindow::goToRemark(const Remark& remark) {
    const Network& network = session_->network();
    ObjectRef about{kindOf(network, remark.where.id), remark.where.id};
    if (about.kind == Kind::unknown && !remark.where.object.empty())
        network.all<Device>().forEach([&](const Device& each) {
            if (about.kind == Kind::unknown &&
                (each.name == remark.where.object || idText(each.id.value) == remark.where.object))
                about = refTo(each.id);
        });
    if (about.kind == Kind::unknown)
        tell(advice(tr("what this remark is about is not on a sheet"), {}, remark.where));
    else
        goTo({about});
}

void MainWindow::restoreWindow() {
    resize(1280, 800);
    restoreGeometry(settings().value(QStringLiteral("window/geometry")).toByteArray());
    restoreState(settings().value(QStringLiteral("window/docks")).toByteArray());
    const QString choice = settings().value(QStringLiteral("window/theme")).toString();
    theme_->choose(choice == QStringLiteral("dark")    ? ThemeChoice::dark
                   : choice == QStringLiteral("light") ? ThemeChoice::light
                                                       : ThemeChoice::desktop);
    leftTabs_->setCurrentIndex(settings().value(QStringLiteral("window/leftTab"), 0).toInt());
}

void MainWindow::rememberWindow() {
    settings().setValue(QStringLiteral("window/geometry"), saveGeometry());
    settings().setValue(QStringLiteral("window/docks"), saveState());
    const char* names[] = {"desktop", "light", "dark"};
    settings().setValue(QStringLiteral("window/theme"),
                        QString::fromLatin1(names[static_cast<int>(theme_->choice())]));
    settings().setValue(QStringLiteral("window/leftTab"), leftTabs_->currentIndex());
    settings().sync();
}

void MainWindow::changeEvent(QEvent* event) {
    if (event->type() == QEvent::ActivationChange && isActiveWindow()) {
        files_->look();
        clips_->look(); // another program may have filled it before this one began to listen
    }
    QMainWindow::changeEvent(event);
}

void MainWindow::closeEvent(QCloseEvent* event) {
    if (closing_ == Closing::no) {
        closing_ = Closing::asking;
        closingLater_ = false;
        files_->mayLeave([this](bool may) { // before this event ends, or much later
            closing_ = may ? Closing::yes : Closing::no;
            if (may && closingLater_)
                close();
        });
        closingLater_ = true;
    }
    if (closing_ != Closing::yes) {
        event->ignore();
        return;
    }
    files_->leave();
    rememberWindow();
    event->accept();
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() || event->mimeData()->hasFormat(QString::fromLatin1(modelMimeType)))
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    if (const QByteArray id = event->mimeData()->data(QString::fromLatin1(modelMimeType)); !id.isEmpty()) {
        event->acceptProposedAction(); // beside the sheet: a new network begins with it
        files_->create([this, model = id.toStdString()](bool made) {
            if (const DeviceModel* chosen = made ? session_->catalogue().device(model) : nullptr)
                sheet_->putInView(*chosen);
        });
        return;
    }
    const QList<QUrl> urls = event->mimeData()->urls();
    if (urls.isEmpty() || !urls.front().isLocalFile())
        return;
    event->acceptProposedAction();
    const QString path = urls.front().toLocalFile();
    // Onto a sheet with something on it a file in a foreign format is an import.
    QFile file(path);
    const QByteArray start = file.open(QIODevice::ReadOnly) ? file.read(64) : QByteArray();
    const bool own = exchange::isOwn({start.data(), static_cast<std::size_t>(start.size())});
    if (showsSheet() && !own && session_->network().all<Device>().size() > 0)
        interchange_->importFile(path);
    else
        files_->open(path);
}

} // namespace underridge::app
