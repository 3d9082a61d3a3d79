// SPDX-License-Identifier: GPL-3.0-or-later
// The main window: menus from the command table, the place line, docks, status line;
// files and recovery.
#pragma once
#include "app/commands/commands.h"
#include "app/jobs/jobs.h"
#include "app/panels/catalogue_panel.h"
#include "app/panels/chain_panel.h"
#include "app/panels/details_panel.h"
#include "app/panels/faceplate_panel.h"
#include "app/panels/findings_panel.h"
#include "app/panels/outline_panel.h"
#include "app/panels/registers_panel.h"
#include "app/panels/remarks_panel.h"
#include "app/session/dialogs.h"
#include "app/session/session.h"
#include "app/session/settings.h"
#include "app/session/typed_fields.h"
#include "app/sheet/sheet_view.h"
#include "app/window/checker.h"
#include "app/window/desktop_theme.h"
#include "app/window/file_watch.h"
#include "app/window/find_field.h"
#include "app/window/import_dialog.h"
#include "app/window/print_dialog.h"
#include "app/window/schedule_dialog.h"
#include "app/window/start_page.h"

#include "core/edit/claim.h"
#include "core/edit/differences.h"
#include "core/edit/import.h"

#include <QMainWindow>
#include <QStackedWidget>
#include <QTabWidget>
#include <QTemporaryDir>
#include <QToolButton>
#include <map>

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

    Session& session() { return *session_; }
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
    QAction* action(CommandId id) { return commands_->action(id); }
    Commands& commands() { return *commands_; }
    bool showsSheet() const { return stack_->currentWidget() == sheet_; }
    QString statusText() const;
    DesktopTheme& theme() { return *theme_; }

    /// Told how a thing ended that takes its time: whether it was done.
    using Done = std::function<void(bool)>;

    /// Opens a file in this window, whatever its format; a refusal is shown and leaves
    /// all as it was. What is in a foreign format becomes a new network, to be saved
    /// under a name of its own.
    void openFile(const QString& path, Done done = {});
    /// Takes a file into the open network after a preview, as one step.
    void importFile(const QString& path, Done done = {});
    /// Matches a cable schedule against the drawing and, after a preview, takes it in as
    /// one step.
    void mergeCables(const QString& path, Done done = {});
    /// Takes in a tester's results after a preview.
    void mergeResults(const QString& path, Done done = {});
    /// Writes labels of the selected cables, or of all, as PDF.
    void printLabelsTo(const QString& path, Done done = {});
    /// Writes the network in the format of the suffix and lists what it cannot hold.
    void exportTo(const QString& path, Done done = {});
    void openFirstOffice() { openSample(QStringLiteral("first-office")); }
    void openFennickQuay() { openSample(QStringLiteral("fennick-quay")); }
    /// A sample is looked at and changed freely: it is a new network, saved under a name
    /// of its own.
    void openSample(const QString& name);
    /// Saves on a worker; the sheet goes on meanwhile. One that is under way is followed
    /// by this one.
    void saveTo(const QString& path, Done done = {});
    bool isSaving() const { return saving_; }
    void newNetwork(Done done = {});
    /// The network that was open when the program was left, if the person wants that.
    void openLast();
    void showStart();
    void showSheet();
    /// Takes up work that was cut off, in place of what is open, which is asked about
    /// first.
    void recover(const edit::Recoverable& from, Done done = {});
    Jobs& jobs() { return *jobs_; }
    Dialogs& dialogs() { return *dialogs_; }

    /// What the question "save changes?" is answered with, asked by a dialog unless a
    /// test says.
    enum class SaveAnswer { save, discard, cancel };
    std::function<SaveAnswer()> askSave;
    /// A file name from a dialog unless a test says; empty: cancelled.
    std::function<QString(bool forSaving)> askPath;
    std::function<QString()> askPicturePath;
    std::function<QString()> askExportPath;
    /// What to do with a file that is open elsewhere; nothing: cancelled.
    enum class SharedAnswer { own, readOnly, copy };
    std::function<std::optional<SharedAnswer>(const QString& why)> askShared;
    /// What to do when another program changed the file.
    enum class ChangedAnswer { takeFile, keepMine, saveAs };
    std::function<ChangedAnswer(const std::vector<edit::Difference>&)> askChanged;
    bool isReadOnly() const { return readOnly_; }
    std::function<bool(const edit::Recoverable&)> askRecover;
    /// Whether to write over a file that the chosen name with its suffix means.
    std::function<bool(const QString& path)> askOverwrite;

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
    void addLookCommands();
    void addPanelCommands();
    void buildMenus();
    void fillContextMenu();
    void selectAll();
    void switchLabels(bool model::Sheet::*which);
    void applyHabits();
    void applyTextScale();
    void editPreferences();
    void nameSeries(const std::vector<model::DeviceId>& devices);
    void connectSheet();
    void connectPanels();
    void connectStart();
    void watchDocument();
    void buildPlaceLine();
    void buildDocks();
    void buildStatus();
    void applyTheme();
    void refreshChecks();
    void refreshState();
    void refreshEnabled();
    void tell(const Remark& remark);
    void showLatestHint();
    void restoreWindow();
    void rememberWindow();
    void rememberWhere();
    void showWhereLeft(const QString& path);
    QSettings& settings() { return *settings_; }
    void fillRecentMenu();
    /// Takes what is typed anywhere; false when something cannot be taken, which is told.
    bool commitTyped() { return fields_->commitAll(); }
    /// Takes what is typed, waits for a save under way, asks about changes; then says
    /// whether what is open may go.
    void mayLeave(Done then);
    void askAboutChanges(std::function<void(SaveAnswer)> then);
    /// Whether the file may be used, and how; nothing: not at all.
    void claim(const QString& path, std::function<void(std::optional<SharedAnswer>)> then);
    bool claimForSaving(const QString& path);
    void fileChanged(const QByteArray& bytes, quint64 hash);
    struct ChangedFile;
    void showChangedFile();
    void answerChangedFile(const ChangedFile& file, ChangedAnswer answer);
    /// The document's path, or one asked for; `then` is not called when that is
    /// cancelled.
    void pathToSave(bool ask, std::function<void(const QString&)> then);
    /// The path with a suffix; asks first if a file of that name is there though the
    /// person did not name it.
    void withSuffix(const QString& path, const QString& suffix, std::function<void(const QString&)> then);
    /// A path from the hook of a test or from a dialog; `then` is not called when that is
    /// cancelled.
    struct FileQuestion {
        QString title, filter, suffix, proposed;
        bool saving = false;
    };
    void chooseFile(const FileQuestion& question, const std::function<QString()>& hook,
                    std::function<void(const QString&)> then);
    void chooseNetwork(const QString& title, std::function<void(const QString&)> then);
    /// Says what went wrong where it cannot be missed.
    void report(const QString& title, const Remark& remark);
    struct Opening {
        Result<edit::Document::Opened> document;
        scene::Scene scene;
        bool foreign = false;
    };
    void read(const QString& path, Done done);
    void opened(const QString& path, std::shared_ptr<Opening> opening, Done done);
    void take(const QString& path, std::shared_ptr<Opening> opening, SharedAnswer shared, const Done& done);
    void finishSave(const QString& path, const edit::Document::Saving& saving,
                    const Result<std::uint64_t>& written, const Done& done);
    void offerImport(const QString& path, std::shared_ptr<exchange::Loaded> loaded, Done done);
    void takeImport(const QString& path, std::shared_ptr<exchange::Loaded> loaded, edit::ImportOnto onto,
                    const Done& done);
    void match(const QString& path, const edit::ScheduleTable& table, Done done);
    void copySelection();
    void dragSelectionOut();
    void lookAtClipboard();
    void pasteClipboard();
    void exportData();
    void exportPicture();
    /// What the network is called, as a file may be.
    QString networkName() const;
    /// The same as its own file, where it has one.
    QString proposedName() const;
    void writePicture(const QString& path);
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
    /// Shows a dialog about cabling; `then` follows when it is accepted.
    void ask(std::function<QDialog*()> make, std::function<void(QDialog&)> then = {}, Done done = {});
    /// Shows what a schedule or results would do, and takes them in.
    void takeIn(std::shared_ptr<edit::Schedule> schedule, const QString& path, Done done);
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
    Checker* checker_;
    SheetView* sheet_;
    Commands* commands_;
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
    QTimer hintTimer_;
    TypedFields* fields_;
    Jobs* jobs_;
    Dialogs* dialogs_;
    bool saving_ = false;
    std::vector<std::function<void()>> afterSaving_;
    std::shared_ptr<ChangedFile> changedFile_; ///< to be asked about
    enum class Closing { no, asking, yes };
    Closing closing_ = Closing::no;
    bool closingLater_ = false; ///< the event that asked for it is over
    QToolButton* cancelJob_ = nullptr;
    QLabel* job_ = nullptr;
    std::unique_ptr<QTemporaryDir> dragFolder_; ///< the SVG of a selection dragged out
    QString latestHint_;
    bool clipboardHolds_ = false;
    bool readOnly_ = false; ///< the file is open elsewhere
    std::unique_ptr<edit::Claim> claim_, nextClaim_;
    FileWatch* watch_ = nullptr;
    QTimer journalRetry_; ///< runs while the journal cannot be written
};

} // namespace underridge::app
