// SPDX-License-Identifier: GPL-3.0-or-later
// The main window: menus from the command table, the place line, docks, status line.
#pragma once
#include "app/arranging/align_acts.h"
#include "app/arranging/arrange_bar.h"
#include "app/cabling/cabling_dialogs.h"
#include "app/commands/commands.h"
#include "app/desk.h"
#include "app/files/clips.h"
#include "app/files/interchange.h"
#include "app/files/network_files.h"
#include "app/find/filter_bar.h"
#include "app/find/find_field.h"
#include "app/groups/group_acts.h"
#include "app/models/own_models.h"
#include "app/overlays/overlay_bar.h"
#include "app/panels/catalogue_panel.h"
#include "app/panels/chain_panel.h"
#include "app/panels/details_panel.h"
#include "app/panels/faceplate_panel.h"
#include "app/panels/findings_panel.h"
#include "app/panels/outline_panel.h"
#include "app/panels/registers_panel.h"
#include "app/panels/remarks_panel.h"
#include "app/panels/trace_panel.h"
#include "app/plans/plan_acts.h"
#include "app/racks/rack_panel.h"
#include "app/sheet/sheet_view.h"
#include "app/sheets/missing_panel.h"
#include "app/sheets/sheet_acts.h"
#include "app/sheets/sheets_panel.h"
#include "app/style/desktop_theme.h"
#include "app/window/checker.h"
#include "app/window/start_page.h"
#include "app/window/status_line.h"

#include <QMainWindow>
#include <QPointer>
#include <QStackedWidget>
#include <QTabWidget>
#include <QToolButton>
#include <map>

class QDockWidget;
class QSettings;

namespace underridge::edit {
struct Pattern;
}

namespace underridge::app {

/// Everything the window needs of the world, so that tests can pass their own.
struct WindowWorld {
    edit::World world;
    std::uint64_t seed = 1;
    QString settingsPath;     ///< an ini file; empty: the desktop's usual place
    QString libraryPath;      ///< of the own models; empty: none are kept
    QString demoFolder;       ///< holds first-office.underridge and fennick-quay.underridge
    QString picturePath = {}; ///< of small pictures of files; empty: none are kept
    QString planPath = {};    ///< folder of the own plans; empty: none are kept
};

class PlaceLine;

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(WindowWorld world, QWidget* parent = nullptr);
    ~MainWindow() override;

    Session& session() { return *session_; }
    NetworkFiles& files() { return *files_; }
    Interchange& interchange() { return *interchange_; }
    SheetView& sheet() { return *sheet_; }
    CataloguePanel& catalogue() { return *catalogue_; }
    OutlinePanel& outline() { return *outline_; }
    SheetsPanel& sheetsPanel() { return *sheetsPanel_; }
    DetailsPanel& details() { return *details_; }
    FindField& find() { return *find_; }
    FilterBar& filter() { return *filter_; }
    ArrangeBar& arranging() { return *arrangeBar_; }
    MissingPanel& missing() { return *missing_; }
    RackPanel& racks() { return *racks_; }
    StartPage& startPage() { return *start_; }
    RemarksPanel& remarks() { return *remarks_; }
    FindingsPanel& findings() { return *findings_; }
    ChainPanel& chain() { return *chain_; }
    TracePanel& trace() { return *trace_; }
    OverlayBar& overlayBar() { return *overlayBar_; }
    RegistersPanel& registers() { return *registers_; }
    FaceplatePanel& faceplates() { return *faceplates_; }
    Checker& checker() { return *checker_; }
    QDockWidget& bottomDock() { return *bottomDock_; }
    QAction* action(CommandId id) { return commands_->action(id); }
    Commands& commands() { return *commands_; }
    bool showsSheet() const { return stack_->currentWidget() == sheet_; }
    QString statusText() const { return status_->text(); }
    DesktopTheme& theme() { return *theme_; }

    void showStart();
    void showSheet();
    /// Shows the window with what is being opened in it, or at the latest after a moment,
    /// so that the start page does not flash up before a file that is there at once.
    void showWhenOpened();
    Jobs& jobs() { return *jobs_; }
    Dialogs& dialogs() { return *dialogs_; }
    FileDialogs& fileDialogs() { return fileDialogs_; }

protected:
    void changeEvent(QEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void addCommands();
    void addFileCommands();
    void addEditCommands();
    void addPlaceCommands();
    void addLinkCommands();
    void addCableCommands();
    void declareRing();
    void addGroupCommands();
    void addArrangeCommands();
    void addPattern();
    void place(const edit::Pattern& pattern);
    void addPlanCommands();
    void addSheetCommands();
    void addLookCommands();
    void addPanelCommands();
    void buildMenus();
    void fillContextMenu();
    void selectAll();
    void switchLabels(bool model::Sheet::*which);
    /// To a way links run, or from it to straight.
    void switchLines(model::LineStyle style);
    void applyHabits();
    void applyTextScale();
    void editPreferences();
    void nameSeries(const std::vector<model::DeviceId>& devices);
    void connectSheet();
    void connectPanels();
    void connectStart();
    void connectFiles();
    void watchDocument();
    void buildPlaceLine();
    void buildFilterBar();
    void buildArrangeBar();
    /// A bar above the sheet that is there while it is wanted.
    template <class Bar>
    void addBar(const QString& title, const char* name, Bar* bar);
    void buildDocks();
    void applyTheme();
    void refreshChecks();
    void refreshState();
    void refreshEnabled();
    void tell(const Remark& remark) { status_->tell(remark, theme_->theme()); }
    /// Says what went wrong where it cannot be missed.
    void report(const QString& title, const Remark& why);
    void stopWaiting();
    void restoreWindow();
    void rememberWindow();
    void showWhereLeft(const QString& path);
    QSettings& settings() { return *settings_; }
    void fillRecentMenu();
    std::vector<model::LinkId> selectedLinks() const;
    void showAbout();
    void focusNextPanel();
    /// Shows and selects the first of these that can be shown; the sheet gets the
    /// keyboard.
    void goTo(const std::vector<model::ObjectRef>& objects);
    /// Shows a panel of the bottom dock.
    void showBottom(QWidget* panel);
    void showRemarks(const QString& about, const std::vector<Remark>& remarks);
    void goToRemark(const Remark& remark);

    WindowWorld world_;
    std::unique_ptr<QSettings> settings_;
    Settings preferred_{*settings_};
    DesktopTheme* theme_;
    Session* session_;
    TypedFields* fields_;
    Jobs* jobs_;
    Dialogs* dialogs_;
    FileDialogs fileDialogs_;
    Messages messages_;
    Desk desk_;
    NetworkFiles* files_;
    Interchange* interchange_;
    Clips* clips_;
    OwnModels* models_;
    CablingDialogs cabling_;
    GroupActs groups_;
    SheetActs sheets_;
    PlanActs plans_;
    StatusLine* status_;
    Checker* checker_;
    SheetView* sheet_;
    Commands* commands_;
    StartPage* start_;
    QStackedWidget* stack_;
    CataloguePanel* catalogue_ = nullptr;
    SheetsPanel* sheetsPanel_ = nullptr;
    OutlinePanel* outline_ = nullptr;
    DetailsPanel* details_ = nullptr;
    RemarksPanel* remarks_ = nullptr;
    FindingsPanel* findings_ = nullptr;
    ChainPanel* chain_ = nullptr;
    TracePanel* trace_ = nullptr;
    OverlayBar* overlayBar_ = nullptr;
    RegistersPanel* registers_ = nullptr;
    FaceplatePanel* faceplates_ = nullptr;
    QTabWidget* bottomTabs_ = nullptr;
    FindField* find_ = nullptr;
    FilterBar* filter_ = nullptr;
    ArrangeActs* arrangeActs_ = nullptr;
    ArrangeBar* arrangeBar_ = nullptr;
    std::unique_ptr<AlignActs> align_;
    MissingPanel* missing_ = nullptr;
    RackPanel* racks_ = nullptr;
    QDockWidget *leftDock_ = nullptr, *detailsDock_ = nullptr, *bottomDock_ = nullptr;
    QTabWidget* leftTabs_ = nullptr;
    PlaceLine* place_ = nullptr;
    QMenu* recentMenu_ = nullptr;
    enum class Closing { no, asking, yes };
    Closing closing_ = Closing::no;
    bool closingLater_ = false;     ///< the event that asked for it is over
    QPointer<QObject> waitsToShow_; ///< as long as the window does
    QTimer journalRetry_;           ///< runs while the journal cannot be written
};

} // namespace underridge::app
