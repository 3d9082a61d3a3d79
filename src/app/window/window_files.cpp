// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's files: new, open, save, recovery, pictures, recent files.
#include "app/shown_text.h"
#include "app/window/main_window.h"
#include "core/layout/reading.h"
#include "paint/picture.h"

#include <QApplication>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QRegularExpression>
#include <QSettings>

namespace underridge::app {
namespace {

const QString ownSuffix = QStringLiteral(".underridge");

} // namespace

void MainWindow::showStart() {
    start_->fill(preferred_.recentFiles(), edit::Document::recoverable(world_.world));
    stack_->setCurrentWidget(start_);
    start_->setFocus();
    zoom_->hide(); // there is nothing to be near to
    refreshEnabled();
}

void MainWindow::showSheet() {
    stack_->setCurrentWidget(sheet_);
    sheet_->setFocus();
    zoom_->show();
    refreshState();
}

void MainWindow::newNetwork(Done done) {
    mayLeave([this, done = std::move(done)](bool may) {
        if (may) {
            session_->setDocument(
                edit::Document::fresh(world_.world, model::emptyNetwork("New network", session_->ids())));
            showSheet();
            sheet_->fitAll();
        }
        if (done)
            done(may);
    });
}

void MainWindow::openFile(const QString& path, Done done) {
    mayLeave([this, path, done = std::move(done)](bool may) {
        if (!may) {
            if (done)
                done(false);
            return;
        }
        // Work on this very file that was cut off comes first.
        for (const edit::Recoverable& from : edit::Document::recoverable(world_.world)) {
            if (QString::fromStdString(from.header.path) != path)
                continue;
            const auto answered = [this, path, from, done](bool wanted) {
                if (!wanted) // what was cut off stays to be recovered from the start page
                    return read(path, done);
                auto recovered = edit::Document::recover(world_.world, from);
                if (!recovered)
                    return report(tr("Recover"), recovered.refusal());
                session_->setDocument(std::move(recovered->document));
                showSheet();
                sheet_->fitAll();
                showRemarks(tr("Recovered"), recovered->remarks);
                if (done)
                    done(true);
            };
            if (askRecover)
                return answered(askRecover(from));
            return dialogs_->ask(
                [this, path] {
                    auto* box = new QMessageBox(
                        QMessageBox::Question, tr("Recover"),
                        tr("The last work on %1 was not saved. Recover it?").arg(QFileInfo(path).fileName()),
                        {}, this);
                    box->addButton(tr("Recover"), QMessageBox::AcceptRole);
                    box->addButton(tr("Open the file as it is"), QMessageBox::RejectRole);
                    return box;
                },
                [answered](QDialog& dialog, int) {
                    auto& box = static_cast<QMessageBox&>(dialog);
                    answered(box.clickedButton() &&
                             box.buttonRole(box.clickedButton()) == QMessageBox::AcceptRole);
                });
        }
        read(path, done);
    });
}

void MainWindow::read(const QString& path, Done done) {
    jobs_->run<std::shared_ptr<Opening>>(
        tr("Opening %1").arg(QFileInfo(path).fileName()),
        [world = world_.world, path = path.toStdString(), catalogue = session_->catalogue(),
         unit = session_->lengthUnit()](const Wanted&) {
            const auto read = [&]() -> Opening {
                const auto bytes = world.files.read(path);
                if (!bytes)
                    return {bytes.refusal(), {}};
                if (exchange::isOwn(*bytes))
                    return {edit::Document::open(world, path), {}};
                auto loaded = layout::readPlaced(*bytes, {path, catalogue});
                if (!loaded)
                    return {loaded.refusal(), {}};
                return {edit::Document::Opened{edit::Document::fresh(world, std::move(loaded->network)),
                                               std::move(loaded->remarks)},
                        {},
                        true};
            };
            auto opening = std::make_shared<Opening>(read());
            if (opening->document) {
                const auto& network = opening->document->document.network();
                const auto sheets = network.sheetsInOrder();
                opening->scene =
                    scene::Scene::build(network, sheets.empty() ? model::SheetId{} : sheets.front().id, unit);
            }
            return opening;
        },
        [this, path, done, before = session_->network()](std::shared_ptr<Opening> opening) {
            if (session_->network() == before)
                return opened(path, std::move(opening), done);
            // Something was done while it was read: that may be let go of only by the
            // person.
            mayLeave([this, path, opening = std::move(opening), done](bool may) {
                if (may)
                    opened(path, opening, done);
                else if (done)
                    done(false);
            });
        },
        [done] {
            if (done)
                done(false);
        });
}

void MainWindow::opened(const QString& path, std::shared_ptr<Opening> opening, Done done) {
    if (!opening->document) {
        report(tr("Open"), opening->document.refusal());
        if (done)
            done(false);
        return;
    }
    if (opening->foreign) // it has no file of its own
        return take(path, std::move(opening), SharedAnswer::own, done);
    claim(path, [this, path, opening = std::move(opening), done](std::optional<SharedAnswer> answer) {
        if (answer)
            take(path, opening, *answer, done);
        else if (done)
            done(false);
    });
}

void MainWindow::take(const QString& path, std::shared_ptr<Opening> opening, SharedAnswer shared,
                      const Done& done) {
    const std::vector<Remark> remarks = std::move(opening->document->remarks);
    const auto asCopy = [&] {
        model::Network network = opening->document->document.network();
        model::NetworkInfo info = network.info();
        info.id = session_->ids().make<model::NetworkId>();
        network.put(std::move(info));
        return edit::Document::fresh(world_.world, std::move(network));
    };
    if (shared == SharedAnswer::own && !opening->foreign && claim_ &&
        QString::fromStdString(claim_->path()) == path) {
        nextClaim_ = std::move(claim_);
    }
    session_->setDocument(shared == SharedAnswer::copy ? asCopy() : std::move(opening->document->document),
                          std::move(opening->scene));
    readOnly_ = shared == SharedAnswer::readOnly;
    showSheet();
    showWhereLeft(path);
    preferred_.addRecent(QFileInfo(path).absoluteFilePath());
    refreshState();
    if (const auto sheets = session_->network().all<model::Sheet>().size(); opening->foreign && sheets > 1)
        tell(advice(tr("%1 sheets; the others are in the list at the upper left").arg(sheets).toStdString()));
    showRemarks(tr("Opened %1").arg(QFileInfo(path).fileName()), remarks);
    if (done)
        done(true);
}

void MainWindow::rememberWhere() {
    const QString path = QString::fromStdString(session_->document().path());
    if (const auto view = session_->sheets().view(); view && !path.isEmpty())
        preferred_.setPlaceIn(path, {session_->sheet(), *view});
}

void MainWindow::showWhereLeft(const QString& path) {
    sheet_->fitAll();
    const auto place = preferred_.placeIn(path);
    if (!place || !session_->network().sheet(place->sheet))
        return;
    session_->sheets().show(session_->network(), place->sheet);
    sheet_->look(place->view.centre, place->view.zoom);
    if (session_->scene().itemsIn(sheet_->camera().visible()).all().empty())
        sheet_->fitAll(); // what was there has been moved by another program
}

void MainWindow::openLast() {
    if (const QString path = preferred_.lastFile();
        preferred_.opensLast() && !path.isEmpty() && QFileInfo::exists(path))
        openFile(path);
}

void MainWindow::openSample(const QString& name) {
    mayLeave([this, name](bool may) {
        if (!may)
            return;
        auto opened = edit::Document::open(
            world_.world, QStringLiteral("%1/%2%3").arg(world_.demoFolder, name, ownSuffix).toStdString());
        if (!opened) {
            tell(opened.refusal());
            return;
        }
        model::Network network = opened->document.network();
        model::NetworkInfo info = network.info();
        info.id = session_->ids().make<model::NetworkId>();
        network.put(std::move(info));
        session_->setDocument(edit::Document::fresh(world_.world, std::move(network)));
        showSheet();
        sheet_->fitAll();
    });
}

void MainWindow::recover(const edit::Recoverable& from, Done done) {
    mayLeave([this, from, done = std::move(done)](bool may) {
        if (may) {
            auto recovered = edit::Document::recover(world_.world, from);
            if (recovered) {
                session_->setDocument(std::move(recovered->document));
                showSheet();
                sheet_->fitAll();
                showRemarks(tr("Recovered"), recovered->remarks);
            } else {
                report(tr("Recover"), recovered.refusal());
                may = false;
            }
        }
        if (done)
            done(may);
    });
}

void MainWindow::mayLeave(Done then) {
    if (!commitTyped())
        return then(false);
    if (saving_) {
        afterSaving_.push_back([this, then = std::move(then)] { mayLeave(then); });
        return;
    }
    rememberWhere();
    if (!session_->document().modified())
        return then(true);
    askAboutChanges([this, then = std::move(then)](SaveAnswer answer) {
        switch (answer) {
        case SaveAnswer::save: {
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
            break;
        }
        case SaveAnswer::discard:
            then(true);
            break;
        case SaveAnswer::cancel:
            then(false);
            break;
        }
    });
}

void MainWindow::askAboutChanges(std::function<void(SaveAnswer)> then) {
    if (askSave)
        return then(askSave());
    dialogs_->ask(
        [this] {
            auto* box = new QMessageBox(QMessageBox::Question, tr("Save changes?"),
                                        tr("“%1” has changes that are not saved.")
                                            .arg(QString::fromStdString(session_->network().info().name)),
                                        {}, this);
            box->setDefaultButton(box->addButton(tr("Save"), QMessageBox::AcceptRole));
            box->addButton(tr("Discard changes"), QMessageBox::DestructiveRole);
            box->setEscapeButton(box->addButton(tr("Cancel"), QMessageBox::RejectRole));
            return box;
        },
        [then = std::move(then)](QDialog& dialog, int) {
            auto& box = static_cast<QMessageBox&>(dialog);
            const auto role =
                box.clickedButton() ? box.buttonRole(box.clickedButton()) : QMessageBox::RejectRole;
            then(role == QMessageBox::AcceptRole        ? SaveAnswer::save
                 : role == QMessageBox::DestructiveRole ? SaveAnswer::discard
                                                        : SaveAnswer::cancel);
        });
}

void MainWindow::pathToSave(bool ask, std::function<void(const QString&)> then) {
    commitTyped(); // what cannot be taken stays in its field, and the rest is saved
    const QString path = QString::fromStdString(session_->document().path());
    if (!ask && !path.isEmpty())
        return then(path);
    chooseFile({tr("Save as"), tr("Underridge networks (*.underridge)"), ownSuffix.mid(1),
                (path.isEmpty() ? QString() : QFileInfo(path).absolutePath() + QLatin1Char('/')) +
                    networkName() + ownSuffix,
                true},
               askPath ? [this] { return askPath(true); } : std::function<QString()>(), std::move(then));
}

void MainWindow::chooseNetwork(const QString& title, std::function<void(const QString&)> then) {
    const QString own = tr("Underridge networks (*.underridge)");
    chooseFile({title,
                tr("Networks (*.underridge *.json *.graphml *.xml *.csv *.tsv *.xlsx)") +
                    QStringLiteral(";;") + own + QStringLiteral(";;") + tr("All files (*)"),
                {},
                {},
                false},
               askPath ? [this] { return askPath(false); } : std::function<QString()>(), std::move(then));
}

void MainWindow::chooseFile(const FileQuestion& question, const std::function<QString()>& hook,
                            std::function<void(const QString&)> then) {
    const auto chosen = [this, question, then = std::move(then)](const QString& path) {
        if (path.isEmpty())
            return;
        preferred_.setFolder(QFileInfo(path).absolutePath());
        if (question.saving)
            withSuffix(path, question.suffix, then);
        else
            then(path);
    };
    if (hook)
        return chosen(hook());
    dialogs_->ask(
        [this, question] {
            const QFileInfo proposed(question.proposed);
            const bool hasFolder = question.proposed.contains(QLatin1Char('/'));
            const QString folder = hasFolder ? proposed.absolutePath() : preferred_.folder();
            auto* dialog = new QFileDialog(this, question.title, folder, question.filter);
            dialog->setAcceptMode(question.saving ? QFileDialog::AcceptSave : QFileDialog::AcceptOpen);
            dialog->setFileMode(question.saving ? QFileDialog::AnyFile : QFileDialog::ExistingFile);
            if (question.saving) {
                dialog->selectFile(proposed.fileName());
                dialog->setDefaultSuffix(question.suffix); // so that its own question is about the right file
                connect(dialog, &QFileDialog::filterSelected, dialog, [dialog](const QString& filter) {
                    static const QRegularExpression suffix(QStringLiteral("\\*\\.(\\w+)"));
                    dialog->setDefaultSuffix(suffix.match(filter).captured(1));
                });
            }
            return dialog;
        },
        [chosen](QDialog& dialog, int result) {
            const QStringList files = static_cast<QFileDialog&>(dialog).selectedFiles();
            if (result == QDialog::Accepted && !files.isEmpty())
                chosen(files.front());
        });
}

void MainWindow::withSuffix(const QString& path, const QString& suffix,
                            std::function<void(const QString&)> then) {
    if (suffix.isEmpty() || !QFileInfo(path).suffix().isEmpty())
        return then(path);
    const QString whole = path + QLatin1Char('.') + suffix;
    if (!QFileInfo::exists(whole))
        return then(whole);
    if (askOverwrite) {
        if (askOverwrite(whole))
            then(whole);
        return;
    }
    dialogs_->ask(
        [this, whole] {
            auto* box =
                new QMessageBox(QMessageBox::Question, tr("File is there"),
                                tr("%1 is there already.").arg(QFileInfo(whole).fileName()), {}, this);
            box->addButton(tr("Write over it"), QMessageBox::DestructiveRole);
            box->setEscapeButton(box->addButton(tr("Cancel"), QMessageBox::RejectRole));
            return box;
        },
        [whole, then = std::move(then)](QDialog& dialog, int) {
            auto& box = static_cast<QMessageBox&>(dialog);
            if (box.clickedButton() && box.buttonRole(box.clickedButton()) == QMessageBox::DestructiveRole)
                then(whole);
        });
}

void MainWindow::report(const QString& title, const Remark& remark) {
    tell(remark);
    if (askSave || !isVisible())
        return; // a test, or nobody to read it
    dialogs_->ask(
        [this, title, words = QString::fromStdString(remark.text())] {
            return new QMessageBox(QMessageBox::Warning, title, words, QMessageBox::Ok, this);
        },
        [](QDialog&, int) {});
}

void MainWindow::saveTo(const QString& path, Done done) {
    if (saving_) { // after the one under way, with what is there then
        afterSaving_.push_back([this, path, done = std::move(done)] { saveTo(path, done); });
        return;
    }
    if (!claimForSaving(path)) {
        if (done)
            done(false);
        return;
    }
    saving_ = true;
    saved_->setText(tr("saving…"));
    auto saving =
        std::make_shared<edit::Document::Saving>(session_->document().beginSave(path.toStdString()));
    jobs_->run<Result<std::uint64_t>>(
        tr("Saving %1").arg(QFileInfo(path).fileName()),
        [saving, &files = world_.world.files](const Wanted&) {
            return edit::Document::write(files, *saving);
        },
        [this, path, saving, done](Result<std::uint64_t> written) {
            finishSave(path, *saving, written, done);
        },
        // The file may be written all the same; what is open stays "not saved" until
        // another save says so.
        [this, path, saving, done] {
            finishSave(path, *saving, error("saving was cancelled", "save again", {path.toStdString()}),
                       done);
        });
}

void MainWindow::finishSave(const QString& path, const edit::Document::Saving& saving,
                            const Result<std::uint64_t>& written, const Done& done) {
    saving_ = false;
    bool good = false;
    if (!written) {
        nextClaim_.reset();
        report(tr("Save"), written.refusal());
    } else if (session_->document().endSave(saving, *written)) { // else another is open by now
        good = true;
        if (nextClaim_)
            claim_ = std::move(nextClaim_);
        readOnly_ = false;
        watch_->watch(path, *written);
        preferred_.addRecent(QFileInfo(path).absoluteFilePath());
    }
    refreshState();
    if (done)
        done(good && !session_->document().modified());
    for (const auto& next : std::exchange(afterSaving_, {}))
        next();
    watch_->look();
}

QString MainWindow::networkName() const {
    return QString::fromStdString(session_->network().info().name)
        .toLower()
        .replace(QLatin1Char(' '), QLatin1Char('-'))
        .remove(QLatin1Char('/'));
}

QString MainWindow::proposedName() const {
    const QString name = QFileInfo(QString::fromStdString(session_->document().path())).completeBaseName();
    return name.isEmpty() ? networkName() : name;
}

void MainWindow::exportData() {
    chooseFile(
        {tr("Export data"),
         tr("RFC 8345 JSON (*.json);;GraphML (*.graphml);;CSV: devices, then links (*.csv);;Spreadsheet "
            "workbook (*.xlsx)"),
         QStringLiteral("json"), proposedName() + QStringLiteral(".json"), true},
        askExportPath, [this](const QString& path) { exportTo(path); });
}

void MainWindow::exportPicture() {
    chooseFile({tr("Export picture"), tr("PNG (*.png);;SVG (*.svg);;PDF (*.pdf)"), QStringLiteral("png"),
                proposedName() + QStringLiteral(".png"), true},
               askPicturePath, [this](const QString& path) { writePicture(path); });
}

void MainWindow::writePicture(const QString& path) {
    const auto format = paint::formatFromSuffix(path.toStdString());
    if (!format) {
        tell(error("a picture is written as .png, .svg or .pdf", "choose one of these suffixes",
                   {path.toStdString(), 0, 0, {}}));
        return;
    }
    using Made = Result<underridge::Done>;
    jobs_->run<Made>(
        tr("Writing %1").arg(QFileInfo(path).fileName()),
        [scene = session_->scene(), name = session_->network().info().name, path = path.toStdString(),
         format = *format, theme = &theme_->theme()](const Wanted&) -> Made {
            paint::PictureOptions options;
            options.format = format;
            options.theme = theme;
            options.scale = format == paint::PictureFormat::png ? 2 : 1;
            if (const auto written = paint::writePicture(scene, path, options, name); !written)
                return written.refusal();
            return underridge::Done{};
        },
        [this, path](Made written) {
            tell(written ? advice("picture written", {}, {path.toStdString(), 0, 0, {}}) : written.refusal());
        });
}

void MainWindow::printSheet() {
    commitTyped();
    dialogs_->ask(
        [this] { return new PrintDialog(session_->scene(), session_->network(), settings(), this); },
        [](QDialog&, int) {});
}

void MainWindow::fillRecentMenu() {
    recentMenu_->clear();
    for (const QString& path : preferred_.recentFiles())
        connect(recentMenu_->addAction(asLabel(QFileInfo(path).fileName())), &QAction::triggered, this,
                [this, path] { openFile(path); });
    if (recentMenu_->isEmpty())
        recentMenu_->addAction(tr("No recent files"))->setEnabled(false);
}

} // namespace underridge::app
