// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/network_files.h"

#include "app/shown_text.h"
#include "core/edit/placed_reading.h"

#include <QFileInfo>

namespace underridge::app {
namespace {

const QString ownSuffix = QStringLiteral(".underridge");

} // namespace

NetworkFiles::NetworkFiles(const Desk& desk, QString demoFolder, SmallPictures pictures, QObject* parent)
    : QObject(parent),
      desk_(desk),
      shared_(desk, nullptr),
      demoFolder_(std::move(demoFolder)),
      pictures_(std::move(pictures)) {
    connect(&shared_, &SharedFile::rebased, this, &NetworkFiles::stateChanged);
    connect(&shared_, &SharedFile::saveAsWanted, this, [this] { save(true); });
    connect(&desk_.session.workspace(), &Workspace::documentReplaced, this, [this] {
        const edit::Document& document = desk_.session.document();
        shared_.keep(QString::fromStdString(document.path()), document.hash());
        readOnly_ = false;
    });
}

void NetworkFiles::create(WhenDone done) {
    mayLeave([this, done = std::move(done)](bool may) {
        if (may) {
            ++opening_; // what is still being read is not wanted any more
            model::Network fresh = model::emptyNetwork(said(tr("New network")), desk_.session.ids());
            desk_.session.setDocument(
                edit::Document::fresh(world(), begun_ ? begun_(std::move(fresh)) : std::move(fresh)));
            Q_EMIT placed({});
        }
        done(may);
    });
}

void NetworkFiles::open(const QString& path, WhenDone done) {
    mayLeave([this, path, done = std::move(done)](bool may) {
        if (!may)
            return done(false);
        // Work on this very file that was cut off comes first.
        const auto left = edit::Document::recoverable(world());
        const auto cutOff = std::find_if(left.begin(), left.end(), [&](const edit::Recoverable& from) {
            return QString::fromStdString(from.header.path) == path;
        });
        if (cutOff == left.end())
            return readFile(path, done);
        desk_.dialogs.choose(
            {tr("Recover"),
             tr("The last work on %1 was not saved. Recover it?").arg(QFileInfo(path).fileName()),
             {{tr("Recover"), QMessageBox::AcceptRole},
              {tr("Open the file as it is"), QMessageBox::RejectRole}}},
            [this, path, from = *cutOff, done](int choice) {
                // What was cut off stays to be recovered from the start page.
                choice == 0 ? readRecoverable(from, done) : readFile(path, done);
            });
    });
}

void NetworkFiles::openSample(const QString& name, WhenDone done) {
    mayLeave([this, name, done = std::move(done)](bool may) {
        if (!may)
            return done(false);
        const QString path = QStringLiteral("%1/%2%3").arg(demoFolder_, name, ownSuffix);
        read(
            tr("Opening %1").arg(QFileInfo(path).fileName()),
            [world = world(), path = path.toStdString()] {
                return Opening{edit::Document::open(world, path)};
            },
            [this, done](Opened opening) {
                place(asNew(opening->document->document), opening, {});
                done(true);
            },
            done);
    });
}

void NetworkFiles::openLast() {
    if (const QString path = desk_.settings.lastFile();
        desk_.settings.opensLast() && !path.isEmpty() && QFileInfo::exists(path))
        open(path);
}

void NetworkFiles::recover(const edit::Recoverable& from, WhenDone done) {
    mayLeave(
        [this, from, done = std::move(done)](bool may) { may ? readRecoverable(from, done) : done(false); });
}

void NetworkFiles::read(const QString& words, std::function<Opening()> make, std::function<void(Opened)> then,
                        const WhenDone& done) {
    const int mine = ++opening_;
    const auto go = [this, mine, then = std::move(then), done](const Opened& opening) {
        if (mine != opening_)
            return done(false); // something else has been asked for since
        if (opening->document)
            return then(opening);
        desk_.messages.refuse(tr("Open"), opening->document.refusal());
        done(false);
    };
    desk_.jobs.run<Opened>(
        words,
        [make = std::move(make), unit = desk_.session.lengthUnit()](const Wanted&) {
            auto opening = std::make_shared<Opening>(make());
            if (opening->document) {
                const auto& network = opening->document->document.network();
                const auto sheets = network.sheetsInOrder();
                opening->scene =
                    scene::Scene::build(network, sheets.empty() ? model::SheetId{} : sheets.front().id, unit);
            }
            return opening;
        },
        [this, mine, go, done, before = desk_.session.network()](Opened opening) {
            if (mine != opening_ || desk_.session.network() == before)
                return go(opening);
            // Something was done while it was read: that may be let go of only by the
            // person.
            mayLeave([go, opening, done](bool may) { may ? go(opening) : done(false); });
        },
        done.orNot());
}

void NetworkFiles::readFile(const QString& path, const WhenDone& done) {
    read(
        tr("Opening %1").arg(QFileInfo(path).fileName()),
        [world = world(), path = path.toStdString(), catalogue = desk_.session.catalogue()]() -> Opening {
            const auto bytes = world.files.read(path);
            if (!bytes)
                return {bytes.refusal()};
            if (exchange::isOwn(*bytes))
                return {edit::Document::openRead(world, path, *bytes)};
            auto loaded = edit::readPlaced(*bytes, {path, catalogue});
            if (!loaded)
                return {loaded.refusal()};
            return {edit::Document::Opened{edit::Document::fresh(world, std::move(loaded->network)),
                                           std::move(loaded->remarks)},
                    {},
                    true};
        },
        [this, path, done](const Opened& opening) { takeFile(path, opening, done); }, done);
}

void NetworkFiles::readRecoverable(const edit::Recoverable& from, const WhenDone& done) {
    read(
        tr("Recovering the last work"),
        [world = world(), from] { return Opening{edit::Document::recover(world, from)}; },
        [this, done](Opened opening) {
            place(std::move(opening->document->document), opening, {});
            desk_.messages.list(tr("Recovered"), opening->document->remarks);
            done(true);
        },
        done);
}

void NetworkFiles::takeFile(const QString& path, const Opened& opening, const WhenDone& done) {
    const auto take = [this, path, opening, done](SharedFile::Use use) {
        edit::Document& read = opening->document->document;
        place(use == SharedFile::Use::copy ? asNew(read) : std::move(read), opening, path);
        readOnly_ = use == SharedFile::Use::readOnly;
        remember(path, !pictures_.has(path));
        Q_EMIT stateChanged();
        if (const auto sheets = desk_.session.network().all<model::Sheet>().size();
            opening->foreign && sheets > 1)
            desk_.messages.tell(
                advice(tr("%L1 sheets; the others are in the list at the upper left").arg(sheets)));
        desk_.messages.list(tr("Opened %1").arg(QFileInfo(path).fileName()), opening->document->remarks);
        done(true);
    };
    if (opening->foreign) // it has no file of its own
        return take(SharedFile::Use::own);
    shared_.claim(path, [take, done](std::optional<SharedFile::Use> use) { use ? take(*use) : done(false); });
}

void NetworkFiles::place(edit::Document document, const Opened& opening, const QString& path) {
    desk_.session.setDocument(std::move(document), std::move(opening->scene));
    Q_EMIT placed(path);
}

edit::Document NetworkFiles::asNew(const edit::Document& document) {
    model::Network network = document.network();
    model::NetworkInfo info = network.info();
    info.id = desk_.session.ids().make<model::NetworkId>();
    network.put(std::move(info));
    return edit::Document::fresh(world(), std::move(network));
}

void NetworkFiles::rememberWhere() {
    const QString path = QString::fromStdString(desk_.session.document().path());
    if (const auto view = desk_.session.sheets().view(); view && !path.isEmpty())
        desk_.settings.setPlaceIn(path, {desk_.session.sheet(), *view});
}

void NetworkFiles::remember(const QString& path, bool redraw) {
    constexpr std::size_t mostDrawn = 20'000; // a larger one would take seconds
    desk_.settings.addRecent(QFileInfo(path).absoluteFilePath());
    if (!redraw || !pictures_.isKept() || desk_.session.scene().count<scene::Plate>() > mostDrawn)
        return;
    desk_.jobs.run<Result<Done>>(
        tr("Drawing a small picture of %1").arg(QFileInfo(path).fileName()),
        [pictures = pictures_, path, scene = desk_.session.scene(),
         name = desk_.session.network().info().name](const Wanted&) {
            return pictures.keep(path, scene, name);
        },
        [](const Result<Done>&) {}); // without one the start page shows a name alone
}

void NetworkFiles::mayLeave(WhenDone then) {
    if (!desk_.typed.commitAll())
        return then(false);
    if (saving_) {
        afterSaving_.push_back([this, then = std::move(then)] { mayLeave(then); });
        return;
    }
    rememberWhere();
    if (!desk_.session.document().modified())
        return then(true);
    askAboutChanges([this, then = std::move(then)](SaveAnswer answer) {
        if (answer == SaveAnswer::save)
            saveBeforeLeaving(then);
        else
            then(answer == SaveAnswer::discard);
    });
}

void NetworkFiles::askAboutChanges(std::function<void(SaveAnswer)> then) {
    desk_.dialogs.choose({tr("Save changes?"),
                          tr("“%1” has changes that are not saved.")
                              .arg(QString::fromStdString(desk_.session.network().info().name)),
                          {{tr("Save"), QMessageBox::AcceptRole},
                           {tr("Discard changes"), QMessageBox::DestructiveRole},
                           {tr("Cancel"), QMessageBox::RejectRole}}},
                         [then = std::move(then)](int choice) {
                             then(choice < 0 ? SaveAnswer::cancel : static_cast<SaveAnswer>(choice));
                         });
}

void NetworkFiles::saveBeforeLeaving(const WhenDone& then) {
    // Cancelling the file dialog answers "no" too.
    auto answered = std::make_shared<bool>(false);
    const auto once = std::shared_ptr<void>(nullptr, [then, answered](void*) {
        if (!*answered)
            then(false);
    });
    pathToSave(readOnly_, [this, then, answered, once](const QString& path) {
        *answered = true;
        saveTo(path, then);
    });
}

void NetworkFiles::leave() {
    rememberWhere();
    desk_.settings.setLastFile(QString::fromStdString(desk_.session.document().path()));
    desk_.session.document().close();
    shared_.release();
}

void NetworkFiles::save(bool underAnotherName) {
    pathToSave(underAnotherName || readOnly_, [this](const QString& path) { saveTo(path); });
}

void NetworkFiles::pathToSave(bool ask, std::function<void(const QString&)> then) {
    desk_.typed.commitAll(); // what cannot be taken stays in its field, and the rest is saved
    const QString path = QString::fromStdString(desk_.session.document().path());
    if (!ask && !path.isEmpty())
        return then(path);
    const QString folder = path.isEmpty() ? QString() : QFileInfo(path).absolutePath() + QLatin1Char('/');
    desk_.fileDialogs.choose({tr("Save as"), tr("Underridge networks (*.underridge)"), ownSuffix.mid(1),
                              folder + desk_.networkName() + ownSuffix, true},
                             std::move(then));
}

void NetworkFiles::saveTo(const QString& path, WhenDone done) {
    if (saving_) { // after the one under way, with what is there then
        afterSaving_.push_back([this, path, done = std::move(done)] { saveTo(path, done); });
        return;
    }
    if (!shared_.claimForSaving(path))
        return done(false);
    saving_ = true;
    shared_.setBeingWritten(true);
    Q_EMIT stateChanged();
    auto saving =
        std::make_shared<edit::Document::Saving>(desk_.session.document().beginSave(path.toStdString()));
    const auto ended = [this, path, saving, done](const Result<std::uint64_t>& written) {
        finishSave(path, *saving, written, done);
    };
    desk_.jobs.run<Result<std::uint64_t>>(
        tr("Saving %1").arg(QFileInfo(path).fileName()),
        [saving, &files = desk_.files()](const Wanted&) { return edit::Document::write(files, *saving); },
        ended,
        // The file may be written all the same; what is open stays "not saved" until
        // another save says so.
        [ended, path] { ended(error(tr("saving was cancelled"), tr("save again"), {path.toStdString()})); });
}

void NetworkFiles::finishSave(const QString& path, const edit::Document::Saving& saving,
                              const Result<std::uint64_t>& written, const WhenDone& done) {
    saving_ = false;
    bool good = false;
    if (!written) {
        shared_.forget();
        desk_.messages.refuse(tr("Save"), written.refusal());
    } else if (desk_.session.document().endSave(saving, *written)) { // else another is open by now
        good = true;
        shared_.keep(path, *written);
        readOnly_ = false;
        remember(path);
    }
    Q_EMIT stateChanged();
    done(good && !desk_.session.document().modified());
    for (const auto& next : std::exchange(afterSaving_, {}))
        next();
    shared_.setBeingWritten(saving_); // the next may have begun
}

} // namespace underridge::app
