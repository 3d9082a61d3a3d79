// SPDX-License-Identifier: GPL-3.0-or-later
// The main window: menus from the command table, the place line, docks, status line; files and recovery.
#pragma once
#include "app/commands/command_table.h"
#include "app/panels/catalogue_panel.h"
#include "app/panels/chain_panel.h"
#include "app/panels/details_panel.h"
#include "app/panels/faceplate_panel.h"
#include "app/panels/findings_panel.h"
#include "app/panels/outline_panel.h"
#include "app/panels/registers_panel.h"
#include "app/panels/remarks_panel.h"
#include "app/session/typed_fields.h"
#include "app/sheet/sheet_view.h"
#include "app/window/checker.h"
#include "app/window/desktop_theme.h"
#include "app/window/editor.h"
#include "app/window/file_watch.h"
#include "app/window/find_field.h"
#include "app/window/import_dialog.h"
#include "app/window/print_dialog.h"
#include "app/window/schedule_dialog.h"
#include "app/window/start_page.h"

#include "core/edit/claim.h"
#include "core/edit/differences.h"

#include <QMainWindow>
#include <QStackedWidget>
#include <QTabWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <map>
#include <thread>

class QDockWidget;
class QSettings;

namespace underridge::app {

class ModelEditor;
class Preferences;

/// Everything the window needs of the world, so that tests can pass their own.
struct WindowWorld {
    edit::World world;
    std::uint64_t seed = 1;
    QString settingsPath; ///< an ini file; empty: the desktop's usual place
    QString libraryPath;  ///< of the own models; empty: none are kept
    QString demoFolder;   ///< holds first-office.underridge and fennick-quay.underridge
};

class MainWindow : public QMainWindow {
    Q_OBJECT
public:
    explicit MainWindow(WindowWorld world, QWidget* parent = nullptr);
    ~MainWindow() override;

    Editor& editor() { return *editor_; }
    SheetView& sheet() { return *sheet_; }
    CataloguePanel& catalogue() { return *catalogue_; }
    OutlinePanel& outline() { return *outline_; }
    DetailsPanel& details() { return *details_; }
    FindField& find() { return *find_; }
    StartPage& startPage() { return *start_; }
    RemarksPanel& remarks() { return *remarks_; }
    FindingsPanel& findings() { return *findings_; }
    ChainPanel& chain() { return *chain_; }
    RegistersPanel& registers() { return *registers_; }
    FaceplatePanel& faceplates() { return *faceplates_; }
    Checker& checker() { return *checker_; }
    QDockWidget& bottomDock() { return *bottomDock_; }
    QAction* action(CommandId id) { return actions_.at(id); }
    bool showsSheet() const { return stack_->currentWidget() == sheet_; }
    QString statusText() const;
    DesktopTheme& theme() { return *theme_; }

    /// Opens a file in this window, whatever its format; a refusal is shown and leaves all as it was. What is
    /// in a foreign format becomes a new network, to be saved under a name of its own.
    bool openFile(const QString& path);
    /// Takes a file into the open network after a preview, as one step.
    bool importFile(const QString& path);
    /// Matches a cable schedule against the drawing and, after a preview, takes it in as one step.
    bool mergeCables(const QString& path);
    /// Takes in a tester's results after a preview.
    bool mergeResults(const QString& path);
    /// Writes labels of the selected cables, or of all, as PDF.
    bool printLabelsTo(const QString& path);
    /// Writes the network in the format of the suffix and lists what it cannot hold.
    bool exportTo(const QString& path);
    void openFirstOffice() { openSample(QStringLiteral("first-office")); }
    void openFennickQuay() { openSample(QStringLiteral("fennick-quay")); }
    /// A sample is looked at and changed freely: it is a new network, saved under a name of its own.
    void openSample(const QString& name);
    /// Saves and waits: before something is closed.
    bool saveTo(const QString& path);
    /// Saves on a worker; the sheet goes on meanwhile. stateChanged() of the editor tells when it is done.
    void saveInBackground(const QString& path);
    bool isSaving() const { return saver_.joinable(); }
    void newNetwork();
    void showStart();
    void showSheet();
    bool recover(const edit::Recoverable& from);

    /// What the question "save changes?" is answered with, asked by a dialog unless a test says.
    enum class SaveAnswer { save, discard, cancel };
    std::function<SaveAnswer()> askSave;
    /// A file name from a dialog unless a test says; empty: cancelled.
    std::function<QString(bool forSaving)> askPath;
    std::function<QString()> askPicturePath;
    std::function<QString()> askExportPath;
    /// Shows the library unless a test takes it over.
    std::function<void(ModelEditor&)> askModels;
    std::function<bool(QTreeWidget&)> askUpdate;
    std::function<void(Preferences&)> askPreferences;
    /// Shows the print preview unless a test takes it over.
    std::function<void(PrintDialog&)> askPrint;
    /// What to do with a file that is open elsewhere; nothing: cancelled.
    enum class SharedAnswer { own, readOnly, copy };
    std::function<std::optional<SharedAnswer>(const QString& why)> askShared;
    /// What to do when another program changed the file.
    enum class ChangedAnswer { takeFile, keepMine, saveAs };
    std::function<ChangedAnswer(const std::vector<edit::Difference>&)> askChanged;
    bool isReadOnly() const { return readOnly_; }
    /// Shows the preview of an import; false: cancelled.
    std::function<bool(ImportDialog&)> askImport;
    std::function<bool(ScheduleDialog&)> askSchedule;
    /// Shows any of the dialogs about cabling; false: cancelled.
    std::function<bool(QDialog&)> askCabling;
    std::function<bool(const edit::Recoverable&)> askRecover;

protected:
    void changeEvent(QEvent* event) override;
    void closeEvent(QCloseEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void buildActions();
    void buildMenus();
    void applyKeys();
    void applyTextScale();
    void editPreferences();
    void buildPlaceLine();
    void buildDocks();
    void buildStatus();
    void run(CommandId id);
    void applyTheme();
    void refreshThemeChecks();
    void refreshState();
    void refreshEnabled();
    void tell(const Remark& remark);
    void showLatestHint();
    void restoreWindow();
    void rememberWindow();
    QSettings& settings() { return *settings_; }
    QStringList recentFiles() const;
    void addRecent(const QString& path);
    void fillRecentMenu();
    bool mayLeave();
    std::optional<SharedAnswer> claim(const QString& path);
    void fileChanged(const QByteArray& bytes, quint64 hash);
    ChangedAnswer askAboutChange(const std::vector<edit::Difference>& differences);
    /// The document's path, or one asked for; empty: cancelled.
    QString pathToSave(bool ask);
    void waitForSaving();
    /// Takes what is typed anywhere; false when something cannot be taken, which is told.
    bool commitTyped() { return fields_->commitAll(); }
    struct Opening {
        Result<edit::Document::Opened> document;
        scene::Scene scene;
        bool foreign = false;
    };
    /// Reads a file and builds its scene on a worker, with progress and cancel; nothing: cancelled.
    std::unique_ptr<Opening> readOnWorker(const QString& path);
    std::unique_ptr<Result<exchange::Loaded>> loadOnWorker(const QString& path);
    void copySelection();
    void dragSelectionOut();
    void lookAtClipboard();
    void pasteClipboard();
    void exportPicture();
    void printSheet();
    void loadLibrary();
    void editModels();
    void updateModels();
    std::vector<model::LinkId> selectedLinks() const;
    void linkMany();
    void labelCables();
    void printLabels();
    void setCableLengths();
    void editStock();
    void editPlaces();
    bool ask(QDialog& dialog);
    /// Shows what a schedule or results would do, and takes them in.
    bool takeIn(const edit::Schedule& schedule, const QString& path);
    void showKeys();
    void showAbout();
    void focusNextPanel();
    void goTo(quint64 object, bool isLink);
    void goToSubjects(const std::vector<model::ObjectRef>& subjects);
    /// Shows a panel of the bottom dock.
    void showBottom(QWidget* panel);
    void showRemarks(const QString& about, const std::vector<Remark>& remarks);
    void goToRemark(const Remark& remark);
    QString askPathOr(bool saving);
    QString askExport();

    WindowWorld world_;
    std::unique_ptr<QSettings> settings_;
    DesktopTheme* theme_;
    Editor* editor_;
    Checker* checker_;
    SheetView* sheet_;
    StartPage* start_;
    QStackedWidget* stack_;
    CataloguePanel* catalogue_ = nullptr;
    OutlinePanel* outline_ = nullptr;
    DetailsPanel* details_ = nullptr;
    RemarksPanel* remarks_ = nullptr;
    FindingsPanel* findings_ = nullptr;
    ChainPanel* chain_ = nullptr;
    RegistersPanel* registers_ = nullptr;
    FaceplatePanel* faceplates_ = nullptr;
    QTabWidget* bottomTabs_ = nullptr;
    FindField* find_ = nullptr;
    QDockWidget *leftDock_ = nullptr, *detailsDock_ = nullptr, *bottomDock_ = nullptr;
    QTabWidget* leftTabs_ = nullptr;
    QToolButton* sheetName_ = nullptr;
    QLabel *hint_ = nullptr, *zoom_ = nullptr, *saved_ = nullptr, *counts_ = nullptr;
    QMenu* recentMenu_ = nullptr;
    std::map<CommandId, QAction*> actions_;
    QTimer hintTimer_;
    std::jthread saver_, opener_;
    std::unique_ptr<QTemporaryDir> dragFolder_; ///< the SVG of a selection dragged out
    QString latestHint_;
    bool clipboardHolds_ = false;
    bool readOnly_ = false; ///< the file is open elsewhere
    std::unique_ptr<edit::Claim> claim_, nextClaim_;
    FileWatch* watch_ = nullptr;
    TypedFields* fields_;
    QTimer journalRetry_; ///< runs while the journal cannot be written
};

/// Every key and gesture, as shown by F1: made from the command table.
QString keySheetHtml();

} // namespace underridge::app
