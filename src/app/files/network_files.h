// SPDX-License-Identifier: GPL-3.0-or-later
// The network that is open in a window, and files: new, open, samples, save, recovery.
// Each asks first about what would be lost; reading and writing is done beside the
// window.
#pragma once
#include "app/desk.h"
#include "app/files/shared_file.h"
#include "app/files/small_pictures.h"

namespace underridge::app {

class NetworkFiles : public QObject {
    Q_OBJECT
public:
    /// `demoFolder` holds the samples; `pictures` of files are kept when they are opened
    /// or saved.
    NetworkFiles(const Desk& desk, QString demoFolder, SmallPictures pictures, QObject* parent);

    void create(WhenDone done = {});
    /// What an empty network gets before it is shown.
    void beginWith(std::function<model::Network(model::Network)> begun) { begun_ = std::move(begun); }
    /// Opens a file, whatever its format; a refusal is shown and leaves all as it was.
    /// What is in a foreign format becomes a new network, to be saved under a name of
    /// its own.
    void open(const QString& path, WhenDone done = {});
    /// A sample is looked at and changed freely: it is a new network, saved under a name
    /// of its own. `name`: first-office, fennick-quay.
    void openSample(const QString& name, WhenDone done = {});
    /// The network that was open when the program was left, if the person wants that.
    void openLast();
    /// Takes up work that was cut off.
    void recover(const edit::Recoverable& from, WhenDone done = {});
    /// Saves under the document's path, or one asked for.
    void save(bool underAnotherName = false);
    /// Saves on a worker; the sheet goes on meanwhile. One that is under way is followed
    /// by this one.
    void saveTo(const QString& path, WhenDone done = {});

    /// Takes what is typed, waits for a save under way, asks about changes; then says
    /// whether what is open may go.
    void mayLeave(WhenDone then);
    /// The network goes, in peace: to be called after mayLeave().
    void leave();

    bool isSaving() const { return saving_; }
    /// The file is open elsewhere: it is saved under another name only.
    bool isReadOnly() const { return readOnly_; }
    /// Looks whether another program changed the file.
    void look() { shared_.look(); }

    enum class SaveAnswer { save, discard, cancel }; ///< in the order they are offered

Q_SIGNALS:
    /// Another network is in place. `path`: the file that it was read from, to be shown
    /// as it was left; empty: there is none.
    void placed(const QString& path);
    /// Whether it is saved, being saved or read-only.
    void stateChanged();

private:
    struct Opening {
        Result<edit::Document::Opened> document;
        scene::Scene scene = {};
        bool foreign = false;
    };
    using Opened = std::shared_ptr<Opening>;
    /// Reads beside the window, asks about what was changed meanwhile, and goes on.
    void read(const QString& words, std::function<Opening()> make, std::function<void(Opened)> then,
              const WhenDone& done);
    void readFile(const QString& path, const WhenDone& done);
    void readRecoverable(const edit::Recoverable& from, const WhenDone& done);
    /// A file that was read, if it may be used.
    void takeFile(const QString& path, const Opened& opening, const WhenDone& done);
    /// Puts it in place.
    void place(edit::Document document, const Opened& opening, const QString& path);
    edit::Document asNew(const edit::Document& document);
    void rememberWhere();
    /// A recent file; its small picture is drawn again when what it shows has changed.
    void remember(const QString& path, bool redraw = true);
    void askAboutChanges(std::function<void(SaveAnswer)> then);
    void saveBeforeLeaving(const WhenDone& then);
    void pathToSave(bool ask, std::function<void(const QString&)> then);
    void finishSave(const QString& path, const edit::Document::Saving& saving,
                    const Result<std::uint64_t>& written, const WhenDone& done);
    const edit::World& world() const { return desk_.session.workspace().world(); }

    Desk desk_;
    std::function<model::Network(model::Network)> begun_;
    SharedFile shared_;
    QString demoFolder_;
    SmallPictures pictures_;
    bool saving_ = false, readOnly_ = false;
    int opening_ = 0; ///< of several asked for at once the latest counts
    std::vector<std::function<void()>> afterSaving_;
};

} // namespace underridge::app
