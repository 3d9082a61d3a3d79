// SPDX-License-Identifier: GPL-3.0-or-later
// What the commands of the window do and when they can, by subject; and the menus made
// from them.
#include "app/arranging/pattern_dialog.h"
#include "app/commands/key_sheet.h"
#include "app/sheet/snapping.h"
#include "app/shown_text.h"
#include "app/window/main_window.h"
#include "core/edit/groups.h"
#include "core/edit/lags.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/edit/power.h"
#include "core/edit/rings.h"
#include "core/edit/sheets.h"
#include "core/model/group_tree.h"
#include "core/model/racks.h"
#include "core/model/standing.h"

#include <QDockWidget>
#include <QFileInfo>
#include <QMenuBar>

namespace underridge::app {
using namespace model;
using Id = CommandId;

void MainWindow::addCommands() {
    addFileCommands();
    addEditCommands();
    addPlaceCommands();
    addLinkCommands();
    addCableCommands();
    addGroupCommands();
    addArrangeCommands();
    addPlanCommands();
    addSheetCommands();
    addLookCommands();
    addPanelCommands();
    connect(&sheet_->contextMenu(), &QMenu::aboutToShow, this, &MainWindow::fillContextMenu);
}

void MainWindow::addFileCommands() {
    const auto onSheet = [this] { return showsSheet(); };
    commands_->add(
        {
            {Id::newNetwork, [this] { files_->create(); }},
            {Id::open,
             [this] {
                 desk_.chooseNetwork(tr("Open"), [this](const QString& path) { files_->open(path); });
             }},
            {Id::firstOffice, [this] { files_->openSample(QStringLiteral("first-office")); }},
            {Id::fennickAsFound, [this] { files_->openSample(QStringLiteral("fennick-quay-as-found")); }},
            {Id::fennickQuay, [this] { files_->openSample(QStringLiteral("fennick-quay")); }},
            {Id::startPage, [this] { showsSheet() ? showStart() : showSheet(); }},
            {Id::quit, [this] { close(); }},
        },
        {});
    const auto chosen = [this](const QString& title, void (Interchange::*act)(const QString&, WhenDone)) {
        desk_.chooseNetwork(title, [this, act](const QString& path) { (interchange_->*act)(path, {}); });
    };
    commands_->add(
        {
            {Id::save, [this] { files_->save(); }},
            {Id::saveAs, [this] { files_->save(true); }},
            {Id::import, [chosen] { chosen(tr("Import"), &Interchange::importFile); }},
            {Id::mergeCables, [chosen] { chosen(tr("Merge cable schedule"), &Interchange::mergeCables); }},
            {Id::mergeResults, [chosen] { chosen(tr("Merge tester results"), &Interchange::mergeResults); }},
            {Id::exportData, [this] { interchange_->chooseExport(); }},
            {Id::exportPicture, [this] { interchange_->choosePicture(); }},
            {Id::print, [this] { interchange_->print(); }},
        },
        onSheet);
}

void MainWindow::addEditCommands() {
    const auto any = [this] { return !session_->selection().empty(); };
    commands_->add(
        {
            {Id::cut,
             [this] {
                 clips_->copy();
                 edit::Refs taken = session_->selection();
                 std::erase_if(taken, [](ObjectRef ref) { return ref.kind == Kind::cableRoute; });
                 session_->apply(edit::removeWithMembers(session_->network(), taken)); // what was copied
             }},
            {Id::copy, [this] { clips_->copy(); }},
            {Id::duplicate,
             [this] {
                 session_->applyTo(session_->selection().size(), [now = session_->network(),
                                                                  sheet = session_->sheet(),
                                                                  selection = session_->selection(),
                                                                  seed = session_->ids().next()] {
                     IdSource ids(seed);
                     return edit::duplicateObjects(now, sheet, selection, {gridStep * 4, gridStep * 8}, ids);
                 });
             }},
            {Id::remove, [this] { groups_.remove(); }},
            {Id::openSelected, [this] { sheet_->openSelected(); }},
        },
        any);
    commands_->add(
        Id::undo, [this] { session_->undo(); },
        [this] {
            return session_->workspace().isUnsettled() ||
                   std::as_const(*session_).document().history().canUndo();
        });
    commands_->add(
        Id::redo, [this] { session_->redo(); },
        [this] { return std::as_const(*session_).document().history().canRedo(); });
    commands_->add(
        Id::paste, [this] { clips_->paste(); }, [this] { return clips_->canPaste(); });
    commands_->add(
        Id::rename, [this] { sheet_->fields().rename(session_->selection()); },
        [this] { return !session_->selected().devices().empty() || !groups_.selected().empty(); });
    commands_->add(
        Id::selectAll, [this] { selectAll(); }, [this] { return showsSheet(); });
    commands_->add(Id::find, [this] {
        find_->setFocus();
        find_->selectAll();
    });
    commands_->add(Id::preferences, [this] { editPreferences(); });
}

void MainWindow::selectAll() {
    edit::Refs all;
    session_->scene().forEachPlate([&](const scene::Plate& plate) { all.push_back(plate.object()); });
    session_->scene().forEach<scene::Tile>([&](const scene::Tile& tile) { all.push_back(refTo(tile.id)); });
    session_->network().forEachNoteOf(session_->sheet(),
                                      [&](const Note& note) { all.push_back(refTo(note.id)); });
    session_->select(std::move(all));
}

void MainWindow::addPlaceCommands() {
    const auto onSheet = [this] { return showsSheet(); };
    commands_->add(
        {
            {Id::addDevice, [this] { sheet_->adding().open(); }},
            {Id::addNote, [this] { sheet_->addNoteHere(); }},
            {Id::addZone, [this] { sheet_->startZone(); }},
            {Id::addPattern, [this] { addPattern(); }},
            {Id::updateModels, [this] { models_->update(); }},
        },
        onSheet);
    commands_->add(Id::ownModels, [this] { models_->editAll(); });
}

void MainWindow::addLinkCommands() {
    const auto several = [this] { return session_->selected().devices().size() > 1; };
    const auto oneLink = [this] {
        return session_->selection().size() == 1 && session_->selection().front().kind == Kind::link;
    };
    commands_->add(
        Id::link, [this] { sheet_->linkSelection(); }, [this] { return showsSheet(); });
    commands_->add(
        {
            {Id::linkInRow,
             [this] {
                 if (sheet_->refusesLinks())
                     return;
                 session_->apply(edit::linkInRow(session_->network(), session_->catalogue(),
                                                 session_->selected().devices(), session_->ids(),
                                                 session_->habits()));
             }},
            {Id::linkMany, [this] { cabling_.linkMany(); }},
        },
        several);
    commands_->add(
        {
            {Id::otherPort,
             [this] { sheet_->linking().openDrawerForLink({session_->selection().front().id}, 1); }},
        },
        oneLink);
    commands_->add(
        Id::straighten,
        [this] {
            session_->apply(edit::straighten(session_->network(), session_->sheet(), selectedLinks()));
        },
        [this] { return showsSheet() && !selectedLinks().empty(); });
    commands_->add(
        Id::makeLag,
        [this] { session_->apply(edit::makeLag(session_->network(), selectedLinks(), {}, session_->ids())); },
        [this] { return selectedLinks().size() > 1; });
    commands_->add(
        Id::dissolveLag, [this] { session_->apply(edit::dissolveLag(session_->network(), selectedLinks())); },
        [this] {
            const auto links = selectedLinks();
            return std::any_of(links.begin(), links.end(), [this](LinkId id) {
                return isInLag(session_->network(), *session_->network().link(id));
            });
        });
    commands_->add(
        Id::declareRing, [this] { declareRing(); },
        [this] { return selectedLinks().size() > 1 || session_->selected().devices().size() > 1; });
    commands_->add(
        Id::dissolveRing,
        [this] {
            session_->apply(edit::dissolveRings(session_->network(),
                                                edit::ringsOf(session_->network(), selectedLinks())));
        },
        [this] { return !edit::ringsOf(session_->network(), selectedLinks()).empty(); });
}

/// Of the selected links, else of those among the selected devices.
void MainWindow::declareRing() {
    model::Ring ring;
    ring.links = selectedLinks();
    if (ring.links.size() < 2) {
        auto among = edit::ringAmong(session_->network(), session_->selected().devices());
        if (!among) {
            session_->apply(among.refusal());
            return;
        }
        ring.links = *std::move(among);
        ring.owner = session_->selected().devices().front();
    }
    session_->apply(edit::declareRing(session_->network(), std::move(ring), session_->ids()));
}

void MainWindow::addCableCommands() {
    const auto hasCables = [this] { return showsSheet() && session_->network().all<Cable>().size() > 0; };
    commands_->add(
        {
            {Id::labelCables, [this] { cabling_.labelCables(); }},
            {Id::printLabels, [this] { interchange_->chooseLabels(); }},
            {Id::printDoorSheets, [this] { interchange_->chooseDoorSheets(); }},
            {Id::cableLengths, [this] { cabling_.setLengths(); }},
        },
        hasCables);
    commands_->add(
        {
            {Id::places, [this] { cabling_.editPlaces(); }},
            {Id::cableStock, [this] { cabling_.editStock(); }},
        },
        [this] { return showsSheet(); });
    commands_->add(
        Id::followCables, [this] { showBottom(chain_); }, [this] { return !session_->selection().empty(); });
}

void MainWindow::addGroupCommands() {
    const auto hasGroups = [this] { return showsSheet() && session_->scene().folding(); };
    const auto chosen = [this] { return !groups_.selected().empty(); };
    commands_->add(
        Id::group, [this] { groups_.group(sheet_->fields(), onGrid(sheet_->pointerOrMiddle())); },
        [this] { return showsSheet(); });
    commands_->add(
        Id::ungroup, [this] { groups_.ungroup(); }, chosen);
    commands_->add(
        Id::foldOrUnfold, [this] { groups_.foldOrUnfold(); },
        [this, hasGroups] { return hasGroups() && !groups_.foldable().empty(); });
    commands_->add(
        {
            {Id::foldAll, [this] { groups_.foldAll(true); }},
            {Id::unfoldAll, [this] { groups_.foldAll(false); }},
        },
        hasGroups);
    commands_->add(
        Id::enterGroup, [this] { session_->navigation().enter(groups_.selected().front()); }, chosen);
    commands_->add(
        Id::leaveGroup, [this] { session_->navigation().leaveGroup(); },
        [this] { return session_->navigation().canLeaveGroup(); });
    commands_->add(
        Id::showGroups,
        [this] {
            const Sheet* sheet = session_->network().sheet(session_->sheet());
            groups_.showGroups(sheet && !sheet->groups);
        },
        [this] { return showsSheet(); });
    commands_->add(
        Id::closeFar, [this] { groups_.switchClosing(); }, hasGroups);
    commands_->add(
        Id::tuck, [this] { groups_.tuckOrBringOut(); },
        [this] { return showsSheet() && !session_->selected().devices().empty(); });
    commands_->add({{Id::tuckAll, [this] { groups_.tuckAll(true); }},
                    {Id::bringOutAll, [this] { groups_.tuckAll(false); }}},
                   [this] { return showsSheet(); });
}

void MainWindow::addPattern() {
    fields_->commitAll();
    const Point centre = onGrid(sheet_->pointerOrMiddle());
    dialogs_->show<PatternDialog>(
        [this, centre] { return new PatternDialog(*session_, centre, this); },
        [this](PatternDialog& dialog, bool done) {
            if (!done)
                return;
            const edit::Pattern pattern = dialog.pattern();
            if (!dialog.isToBeDrawn())
                return place(pattern);
            sheet_->setFocus();
            sheet_->drawExtent(dialog.plates(), [this, pattern](const scene::Rect& area) {
                place(edit::fittedInto(session_->catalogue(), pattern, area, session_->habits()));
            });
        });
}

void MainWindow::place(const edit::Pattern& pattern) {
    if (session_->apply(edit::addPattern(session_->network(), session_->catalogue(), session_->sheet(),
                                         pattern, session_->ids(), session_->habits())))
        sheet_->fitSelection();
}

void MainWindow::addArrangeCommands() {
    const auto can = [this] { return showsSheet() && arrangeActs_->canArrange(); };
    commands_->add(
        {
            {Id::arrange, [this] { arrangeBar_->isWanted() ? arrangeBar_->close() : arrangeBar_->open(); }},
            {Id::arrangeAgain, [this] { arrangeActs_->again(); }},
        },
        can);
    commands_->add(
        Id::fitIn, [this] { arrangeActs_->fitIn(); },
        [this] { return showsSheet() && arrangeActs_->canFitIn(); });
    align_ = std::make_unique<AlignActs>(*session_, *sheet_);
    for (const Id id : AlignActs::commands()) {
        commands_->add(
            id, [this, id] { align_->act(id); }, [this, id] { return showsSheet() && align_->can(id); });
        connect(action(id), &QAction::hovered, this, [this, id] { align_->preview(id); });
    }
}

void MainWindow::addPlanCommands() {
    commands_->add(
        Id::sortOut, [this] { groups_.sortOut(); },
        [this] { return showsSheet() && session_->network().all<Device>().size() > 1; });
    const auto plan = [this] {
        const Group* group = session_->network().group(plans_.subject());
        return showsSheet() && group && group->plan;
    };
    commands_->add(
        Id::rack, [this] { showBottom(racks_); }, [this] { return showsSheet(); });
    commands_->add(
        Id::plan, [this] { plans_.choose(plans_.subject()); },
        [this] { return showsSheet() && plans_.subject(); });
    commands_->add(
        Id::sheetOnPlan, [this] { plans_.show(plans_.subject()); }, plan);
    commands_->add(
        Id::measurePlan, [this] { sheet_->startMeasuring(); },
        [this] { return showsSheet() && plans_.canMeasure(); });
    const auto onFloor = [this] {
        const Sheet* sheet = session_->network().sheet(session_->sheet());
        return showsSheet() && sheet && floorDrawn(session_->network(), *sheet);
    };
    commands_->add(
        Id::feedPower,
        [this] {
            std::vector<DeviceId> devices = session_->selected().devices();
            for (const GroupId group : groups_.selected())
                for (const DeviceId id : devicesWithin(session_->network(), group))
                    devices.push_back(id);
            auto act = edit::withCords(edit::feedAll(session_->network(), devices), session_->network(),
                                       session_->catalogue(), session_->ids());
            if (act)
                act->subjects = session_->selection();
            session_->apply(std::move(act));
        },
        [this] { return !session_->selected().devices().empty() || !groups_.selected().empty(); });
    commands_->add(
        Id::drawTray, [this] { sheet_->startRoute(CableRouteKind::tray); }, onFloor);
    commands_->add(
        Id::drawConduit, [this] { sheet_->startRoute(CableRouteKind::conduit); }, onFloor);
}

void MainWindow::addSheetCommands() {
    using With = SheetActs::With;
    const auto onSheet = [this] { return showsSheet(); };
    commands_->add(
        {
            {Id::newSheet, [this] { sheets_.add(With::nothing); }},
            {Id::sheetLikeThis, [this] { sheets_.add(With::all); }},
            {Id::showMissing, [this] { showBottom(missing_); }},
            {Id::filterSheet, [this] { filter_->open(); }},
        },
        onSheet);
    commands_->add(
        Id::sheetOfGroup, [this] { sheets_.add(With::group); },
        [this] { return groups_.selected().size() == 1 && session_->selection().size() == 1; });
    commands_->add(
        {
            {Id::sheetOfSelection, [this] { sheets_.add(With::selection); }},
            {Id::takeOff, [this] { sheets_.takeOff(); }},
        },
        [this] { return showsSheet() && sheets_.canTakeOff(); });
    commands_->add(
        {
            {Id::sheetOfDataLink, [this] { sheets_.add(With::dataLink); }},
            {Id::sheetOfNetwork, [this] { sheets_.add(With::network); }},
        },
        [this] { return showsSheet() && session_->network().all<Device>().size() > 0; });
    commands_->add(
        Id::sheetOfRacks, [this] { sheets_.add(With::racks); },
        [this] { return showsSheet() && !racksOf(session_->network()).empty(); });
    commands_->add(
        Id::removeSheet, [this] { sheets_.remove(session_->sheet()); },
        [this] { return showsSheet() && sheets_.canRemove(); });
}

void MainWindow::addLookCommands() {
    commands_->add(
        {
            {Id::zoomIn, [this] { sheet_->zoomBy(1.25); }},
            {Id::zoomOut, [this] { sheet_->zoomBy(0.8); }},
            {Id::zoomWhole, [this] { sheet_->look(sheet_->camera().centre(), 1); }},
            {Id::fit, [this] { sheet_->fitAll(); }},
            {Id::fitSelection, [this] { sheet_->fitSelection(); }},
            {Id::home, [this] { session_->navigation().home(); }},
            {Id::portLabels, [this] { switchLabels(&Sheet::portLabels); }},
            {Id::linkLabels, [this] { switchLabels(&Sheet::linkLabels); }},
            {Id::linesAlongAxes, [this] { switchLines(LineStyle::axes); }},
            {Id::linesBundled, [this] { switchLines(LineStyle::bundled); }},
            {Id::linksOnDemand,
             [this] {
                 const Sheet* held = session_->network().sheet(session_->sheet());
                 session_->apply(edit::setLinksOnDemand(session_->network(), session_->sheet(),
                                                        held && !held->linksOnDemand));
             }},
        },
        [this] { return showsSheet(); });
    commands_->add(
        Id::goBack, [this] { session_->navigation().back(); },
        [this] { return showsSheet() && session_->navigation().canGoBack(); });
    commands_->add(
        Id::goForward, [this] { session_->navigation().forward(); },
        [this] { return showsSheet() && session_->navigation().canGoForward(); });
    const std::pair<Id, ThemeChoice> themes[] = {{Id::followTheme, ThemeChoice::desktop},
                                                 {Id::lightTheme, ThemeChoice::light},
                                                 {Id::darkTheme, ThemeChoice::dark}};
    for (const auto& [id, choice] : themes)
        commands_->add(id, [this, wanted = choice] { theme_->choose(wanted); });
    commands_->add(Id::fullScreen, [this] { isFullScreen() ? showNormal() : showFullScreen(); });
}

void MainWindow::switchLabels(bool Sheet::*which) {
    const Sheet* held = session_->network().sheet(session_->sheet());
    if (!held)
        return;
    Sheet wanted = *held;
    wanted.*which = !(wanted.*which);
    session_->apply(
        edit::setSheetLabels(session_->network(), wanted.id, wanted.portLabels, wanted.linkLabels));
}

void MainWindow::switchLines(LineStyle style) {
    const Sheet* held = session_->network().sheet(session_->sheet());
    const bool on = held && held->lines == style;
    session_->apply(
        edit::setLineStyle(session_->network(), session_->sheet(), on ? LineStyle::straight : style));
}

void MainWindow::addPanelCommands() {
    commands_->add(Id::nextPanel, [this] { focusNextPanel(); });
    commands_->add(Id::showFaceplates, [this] {
        showBottom(faceplates_);
        faceplates_->first().setFocus();
    });
    commands_->add(Id::showRegisters, [this] {
        showBottom(registers_);
        registers_->table().setFocus();
    });
    commands_->add(Id::showFindings, [this] {
        showBottom(findings_);
        findings_->list().setFocus();
    });
    commands_->add(
        Id::trace,
        [this] {
            const edit::Refs& chosen = session_->selection();
            const bool cables = session_->selected().port().known() ||
                                (chosen.size() == 1 && chosen.front().kind == Kind::link);
            showBottom(cables ? static_cast<QWidget*>(chain_) : trace_);
            if (!cables)
                trace_->start();
        },
        [this] { return showsSheet(); });
    commands_->add(
        Id::overlay, [this] { overlayBar_->open(); }, [this] { return showsSheet(); });
    commands_->add(Id::bottomDock, [this] { bottomDock_->setVisible(!bottomDock_->isVisible()); });
    commands_->add(Id::keys, [this] { showKeySheet(settings(), this); });
    commands_->add(Id::about, [this] { showAbout(); });
}

void MainWindow::buildMenus() {
    std::map<std::string, QMenu*> menus;
    for (const Command& command : commandTable()) {
        QMenu*& menu = menus[command.menu];
        if (!menu) {
            menu = menuBar()->addMenu(shown(command.menu));
            menu->setToolTipsVisible(true);
            connect(menu, &QMenu::aboutToHide, this, [this] { align_->endPreview(); });
        }
        if (command.separatorBefore)
            menu->addSeparator();
        menu->addAction(action(command.id));
        if (command.id == CommandId::open) {
            recentMenu_ = menu->addMenu(tr("Open &recent"));
            connect(recentMenu_, &QMenu::aboutToShow, this, &MainWindow::fillRecentMenu);
        }
    }
    QMenu* view = menus.at("&View");
    view->addSeparator();
    view->addAction(leftDock_->toggleViewAction());
    view->addAction(detailsDock_->toggleViewAction());
}

/// Only what applies to what is selected, and can act.
void MainWindow::fillContextMenu() {
    QMenu& menu = sheet_->contextMenu();
    menu.clear();
    bool devices = false, links = false, notes = false, groups = false, routes = false;
    for (const ObjectRef object : session_->selection()) {
        devices |= object.kind == Kind::device;
        links |= object.kind == Kind::link;
        notes |= object.kind == Kind::note;
        groups |= object.kind == Kind::group;
        routes |= object.kind == Kind::cableRoute;
    }
    const auto part = [&](bool applies, std::initializer_list<Id> ids) {
        if (applies)
            for (const Id id : ids)
                if (action(id)->isEnabled())
                    menu.addAction(action(id));
        menu.addSeparator(); // of several in a row one is shown
    };
    part(devices || links || notes, {Id::openSelected});
    part(groups, {Id::enterGroup, Id::foldOrUnfold, Id::rename, Id::ungroup});
    part(routes, {Id::rename});
    part(devices, {Id::rename, Id::link, Id::linkInRow, Id::linkMany});
    part(devices || groups, {Id::group});
    part(links,
         {Id::otherPort, Id::makeLag, Id::dissolveLag, Id::declareRing, Id::dissolveRing, Id::straighten});
    part(devices || links, {Id::followCables});
    part(links, {Id::labelCables});
    part(devices || notes, {Id::cut, Id::copy});
    part(!links || devices || notes, {Id::paste});
    part(devices || notes, {Id::duplicate});
    part(devices || links || notes || groups || routes, {Id::takeOff, Id::remove, Id::fitSelection});
    part(session_->selection().empty(), {Id::addDevice, Id::addNote, Id::group, Id::selectAll, Id::fit});
    part(session_->selection().empty(), {Id::drawTray, Id::drawConduit});
    part(session_->selection().empty(), {Id::leaveGroup, Id::foldAll, Id::unfoldAll});
}

void MainWindow::refreshEnabled() {
    commands_->refresh();
}

void MainWindow::showAbout() {
    dialogs_->choose({tr("About Underridge"),
                      tr("Underridge %1\n\nNetwork topology diagrams that know what they draw.\n\nFree "
                         "software under the GNU General Public License, version 3 or later.")
                          .arg(QStringLiteral(UNDERRIDGE_VERSION)),
                      {{tr("Close"), QMessageBox::RejectRole}},
                      QMessageBox::NoIcon},
                     [](int) {});
}

std::vector<LinkId> MainWindow::selectedLinks() const {
    std::vector<LinkId> out;
    for (const ObjectRef ref : session_->selection())
        if (session_->network().link({ref.id}))
            out.push_back({ref.id});
    return out;
}

void MainWindow::fillRecentMenu() {
    recentMenu_->clear();
    for (const QString& path : preferred_.recentFiles())
        connect(recentMenu_->addAction(asLabel(QFileInfo(path).fileName())), &QAction::triggered, this,
                [this, path] { files_->open(path); });
    if (recentMenu_->isEmpty())
        recentMenu_->addAction(tr("No recent files"))->setEnabled(false);
}

} // namespace underridge::app
