// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's files: new, open, save, recovery, pictures, recent files.
#include "app/window/main_window.h"
#include "app/window/worker.h"
#include "paint/picture.h"

#include <QApplication>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QSettings>
#include <QTextBrowser>
#include <QVBoxLayout>

namespace underridge::app {
namespace {

const QString recentKey = QStringLiteral("files/recent");
constexpr int mostRecent = 8;
const QString ownSuffix = QStringLiteral(".underridge");

} // namespace

void MainWindow::showStart() {
    const auto recoverable = edit::Document::recoverable(world_.world);
    start_->fill(recentFiles(), recoverable);
    stack_->setCurrentWidget(start_);
    start_->setFocus();
    refreshEnabled();
}

void MainWindow::showSheet() {
    stack_->setCurrentWidget(sheet_);
    sheet_->setFocus();
    refreshState();
}

void MainWindow::newNetwork() {
    if (!mayLeave())
        return;
    editor_->setDocument(
        edit::Document::fresh(world_.world, model::emptyNetwork("New network", editor_->ids())));
    showSheet();
    sheet_->fitAll();
}

std::unique_ptr<MainWindow::Opening> MainWindow::readOnWorker(const QString& path) {
    return onWorker<Opening>(
        this, opener_, tr("Opening %1").arg(QFileInfo(path).fileName()),
        [world = world_.world, path = path.toStdString(), catalogue = editor_->catalogue(),
         unit = editor_->lengthUnit()](const Wanted&) {
            const auto read = [&]() -> Opening {
                const auto bytes = world.files.read(path);
                if (!bytes)
                    return {bytes.refusal(), {}};
                if (exchange::isOwn(*bytes))
                    return {edit::Document::open(world, path), {}};
                auto loaded = exchange::readAny(*bytes, {path, catalogue});
                if (!loaded)
                    return {loaded.refusal(), {}};
                return {edit::Document::Opened{edit::Document::fresh(world, std::move(loaded->network)),
                                               std::move(loaded->remarks)},
                        {},
                        true};
            };
            Opening opening = read();
            if (opening.document) {
                const auto& network = opening.document->document.network();
                const auto sheets = network.sheetsInOrder();
                opening.scene =
                    scene::Scene::build(network, sheets.empty() ? model::SheetId{} : sheets.front().id, unit);
            }
            return opening;
        });
}

std::unique_ptr<Result<exchange::Loaded>> MainWindow::loadOnWorker(const QString& path) {
    using Made = Result<exchange::Loaded>;
    return onWorker<Made>(this, opener_, tr("Reading %1").arg(QFileInfo(path).fileName()),
                          [world = world_.world, path = path.toStdString(),
                           catalogue = editor_->catalogue()](const Wanted&) -> Made {
                              const auto bytes = world.files.read(path);
                              if (!bytes)
                                  return bytes.refusal();
                              return exchange::readAny(*bytes, {path, catalogue});
                          });
}

bool MainWindow::openFile(const QString& path) {
    if (!mayLeave())
        return false;
    // Work on this very file that was cut off comes first.
    for (const edit::Recoverable& from : edit::Document::recoverable(world_.world))
        if (QString::fromStdString(from.header.path) == path) {
            const auto answer =
                askRecover ? askRecover(from)
                           : QMessageBox::question(this, tr("Recover"),
                                                   tr("The last work on %1 was not saved. Recover it?")
                                                       .arg(QFileInfo(path).fileName())) == QMessageBox::Yes;
            if (answer)
                return recover(from);
        }
    auto opened = readOnWorker(path);
    if (!opened)
        return false;                 // cancelled
    auto shared = SharedAnswer::copy; // what is foreign has no file of its own
    std::optional<edit::Document> copy;
    if (opened->document && !opened->foreign) {
        const auto answer = claim(path);
        if (!answer)
            return false;
        shared = *answer;
        if (shared == SharedAnswer::copy) {
            model::Network network = opened->document->document.network();
            model::NetworkInfo info = network.info();
            info.id = editor_->ids().make<model::NetworkId>();
            network.put(std::move(info));
            copy.emplace(edit::Document::fresh(world_.world, std::move(network)));
        } else if (shared == SharedAnswer::own && claim_ && QString::fromStdString(claim_->path()) == path) {
            nextClaim_ = std::move(claim_);
        }
    }
    if (!opened->document) {
        tell(opened->document.refusal());
        if (!showsSheet() && isVisible() && !askSave)
            QMessageBox::warning(this, tr("Open"), QString::fromStdString(opened->document.refusal().text()));
        return false;
    }
    const std::vector<Remark> remarks = std::move(opened->document->remarks);
    editor_->setDocument(copy ? *std::move(copy) : std::move(opened->document->document),
                         std::move(opened->scene));
    readOnly_ = shared == SharedAnswer::readOnly;
    showSheet();
    sheet_->fitAll();
    addRecent(path);
    refreshState();
    if (const auto sheets = editor_->network().all<model::Sheet>().size(); opened->foreign && sheets > 1)
        tell(advice(tr("%1 sheets; the others are in the list at the upper left").arg(sheets).toStdString()));
    showRemarks(tr("Opened %1").arg(QFileInfo(path).fileName()), remarks);
    return true;
}

void MainWindow::openSample(const QString& name) {
    if (!mayLeave())
        return;
    auto opened = edit::Document::open(
        world_.world, QStringLiteral("%1/%2%3").arg(world_.demoFolder, name, ownSuffix).toStdString());
    if (!opened) {
        tell(opened.refusal());
        return;
    }
    model::Network network = opened->document.network();
    model::NetworkInfo info = network.info();
    info.id = editor_->ids().make<model::NetworkId>();
    network.put(std::move(info));
    editor_->setDocument(edit::Document::fresh(world_.world, std::move(network)));
    showSheet();
    sheet_->fitAll();
}

bool MainWindow::recover(const edit::Recoverable& from) {
    auto recovered = edit::Document::recover(world_.world, from);
    if (!recovered) {
        tell(recovered.refusal());
        return false;
    }
    editor_->setDocument(std::move(recovered->document));
    showSheet();
    sheet_->fitAll();
    showRemarks(tr("Recovered"), recovered->remarks);
    return true;
}

bool MainWindow::mayLeave() {
    if (!commitTyped())
        return false;
    waitForSaving();
    if (!editor_->document().modified())
        return true;
    SaveAnswer answer = SaveAnswer::cancel;
    if (askSave) {
        answer = askSave();
    } else {
        const QString name = QString::fromStdString(editor_->network().info().name);
        QMessageBox box(QMessageBox::Question, tr("Save changes?"),
                        tr("“%1” has changes that are not saved.").arg(name), {}, this);
        QPushButton* keep = box.addButton(tr("Save"), QMessageBox::AcceptRole);
        QPushButton* drop = box.addButton(tr("Discard changes"), QMessageBox::DestructiveRole);
        box.addButton(tr("Cancel"), QMessageBox::RejectRole);
        box.setDefaultButton(keep);
        box.exec();
        answer = box.clickedButton() == keep   ? SaveAnswer::save
                 : box.clickedButton() == drop ? SaveAnswer::discard
                                               : SaveAnswer::cancel;
    }
    switch (answer) {
    case SaveAnswer::save: {
        const QString path = pathToSave(readOnly_);
        return !path.isEmpty() && saveTo(path);
    }
    case SaveAnswer::discard:
        return true;
    case SaveAnswer::cancel:
        return false;
    }
    return false;
}

QString MainWindow::pathToSave(bool ask) {
    commitTyped();
    QString path = QString::fromStdString(editor_->document().path());
    if (ask || path.isEmpty())
        path = askPathOr(true);
    if (!path.isEmpty() && QFileInfo(path).suffix().isEmpty())
        path += ownSuffix;
    return path;
}

void MainWindow::waitForSaving() {
    while (isSaving())
        QCoreApplication::processEvents(QEventLoop::ExcludeUserInputEvents | QEventLoop::WaitForMoreEvents);
}

bool MainWindow::saveTo(const QString& path) {
    waitForSaving();
    saveInBackground(path);
    waitForSaving();
    return !editor_->document().modified();
}

void MainWindow::saveInBackground(const QString& path) {
    if (isSaving())
        return; // the one under way ends in a moment
    saved_->setText(tr("saving…"));
    auto saving = std::make_shared<edit::Document::Saving>(editor_->document().beginSave(path.toStdString()));
    saver_ = std::jthread([this, path, saving, &files = world_.world.files] {
        auto written = std::make_shared<Result<std::uint64_t>>(edit::Document::write(files, *saving));
        QMetaObject::invokeMethod(
            this,
            [this, path, saving, written] {
                saver_.join();
                saver_ = {};
                if (!*written) {
                    tell(written->refusal());
                    if (!askSave)
                        QMessageBox::warning(this, tr("Save"),
                                             QString::fromStdString(written->refusal().text()));
                } else if (editor_->document().endSave(*saving, **written)) {
                    if (!claim_ || QString::fromStdString(claim_->path()) != path) {
                        claim_.reset();
                        static_cast<void>(claim(path));
                        claim_ = std::move(nextClaim_);
                        readOnly_ = false;
                    }
                    watch_->watch(path, **written);
                    addRecent(path);
                }
                refreshState();
            },
            Qt::QueuedConnection);
    });
}

QString MainWindow::askPathOr(bool saving) {
    if (askPath)
        return askPath(saving);
    const QString own = tr("Underridge networks (*.underridge)");
    const QString filter = saving
                               ? own
                               : tr("Networks (*.underridge *.json *.graphml *.xml *.csv *.tsv *.xlsx)") +
                                     QStringLiteral(";;") + own + QStringLiteral(";;") + tr("All files (*)");
    const QString folder = QFileInfo(QString::fromStdString(editor_->document().path())).absolutePath();
    if (!saving)
        return QFileDialog::getOpenFileName(this, tr("Open"), folder, filter);
    const QString name = QString::fromStdString(editor_->network().info().name)
                             .toLower()
                             .replace(QLatin1Char(' '), QLatin1Char('-'));
    return QFileDialog::getSaveFileName(this, tr("Save as"), folder + QLatin1Char('/') + name + ownSuffix,
                                        filter);
}

void MainWindow::exportPicture() {
    QString path = askPicturePath ? askPicturePath()
                                  : QFileDialog::getSaveFileName(this, tr("Export picture"), {},
                                                                 tr("PNG (*.png);;SVG (*.svg);;PDF (*.pdf)"));
    if (path.isEmpty())
        return;
    if (QFileInfo(path).suffix().isEmpty())
        path += QStringLiteral(".png");
    const auto format = paint::formatFromSuffix(path.toStdString());
    if (!format) {
        tell(error("a picture is written as .png, .svg or .pdf", "choose one of these suffixes",
                   {path.toStdString(), 0, 0, {}}));
        return;
    }
    paint::PictureOptions options;
    options.format = *format;
    options.theme = &theme_->theme();
    options.scale = *format == paint::PictureFormat::png ? 2 : 1;
    const auto written =
        paint::writePicture(editor_->scene(), path.toStdString(), options, editor_->network().info().name);
    if (!written)
        tell(written.refusal());
    else
        tell(advice("picture written", {}, {path.toStdString(), 0, 0, {}}));
}

void MainWindow::printSheet() {
    commitTyped();
    PrintDialog dialog(editor_->scene(), editor_->network(), settings(), this);
    askPrint ? askPrint(dialog) : static_cast<void>(dialog.exec());
}

QStringList MainWindow::recentFiles() const {
    QStringList files = settings_->value(recentKey).toStringList();
    files.removeIf([](const QString& path) { return !QFileInfo::exists(path); });
    return files;
}

void MainWindow::addRecent(const QString& path) {
    QStringList files = recentFiles();
    const QString absolute = QFileInfo(path).absoluteFilePath();
    files.removeAll(absolute);
    files.prepend(absolute);
    settings().setValue(recentKey, files.mid(0, mostRecent));
}

void MainWindow::fillRecentMenu() {
    recentMenu_->clear();
    for (const QString& path : recentFiles())
        connect(recentMenu_->addAction(QFileInfo(path).fileName()), &QAction::triggered, this,
                [this, path] { openFile(path); });
    if (recentMenu_->isEmpty())
        recentMenu_->addAction(tr("No recent files"))->setEnabled(false);
}

QString keySheetHtml() {
    QString html = QStringLiteral("<h3>Keys</h3><table cellpadding='3'>");
    const char* menu = "";
    for (const Command& command : commandTable()) {
        if (QByteArray(menu) != command.menu) {
            menu = command.menu;
            html += QStringLiteral("<tr><td colspan='3'><b>%1</b></td></tr>")
                        .arg(QString::fromUtf8(menu).remove(QLatin1Char('&')));
        }
        html += QStringLiteral("<tr><td>%1</td><td>%2</td><td>%3</td></tr>")
                    .arg(keysText(command).toHtmlEscaped(), plainText(command).toHtmlEscaped(),
                         QString::fromUtf8(command.tip).toHtmlEscaped());
    }
    html += QStringLiteral("</table><h3>On the sheet</h3><table cellpadding='3'>");
    const std::pair<const char*, const char*> gestures[] = {
        {"Drag the grip or a port",
         "Link; release on empty sheet adds a device, already linked; Down opens the port drawer"},
        {"Click the grip or a port, then a plate", "The same without dragging"},
        {"Drag a plate", "Move; Ctrl: no snapping, Shift: one axis"},
        {"Drag a link", "Bend it"},
        {"Drag the empty sheet",
         "Select what lies inside; with Shift, what it touches; with Ctrl, in addition"},
        {"Middle button, or Space and drag", "Pan"},
        {"Wheel", "Zoom at the pointer"},
        {"Double-click a name or note", "Rename, edit"},
        {"Double-click a plate below its name", "Show its faceplate"},
        {"Tab, Shift+Tab", "Go to the next or previous device or note"},
        {"Page Down, Page Up", "Select the next or previous link of the device the keyboard is at"},
        {"Space", "Select what the keyboard is at; with Shift, in addition"},
        {"Arrow keys", "Move the selection; with Ctrl, finely; with nothing selected, pan"},
        {"Esc", "Leave all as it was"},
    };
    for (const auto& [gesture, effect] : gestures)
        html += QStringLiteral("<tr><td>%1</td><td>%2</td></tr>")
                    .arg(QString::fromUtf8(gesture), QString::fromUtf8(effect));
    return html + QStringLiteral("</table>");
}

void MainWindow::showKeys() {
    auto* dialog = new QDialog(this);
    dialog->setObjectName(QStringLiteral("keys"));
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setWindowTitle(tr("Keys and gestures"));
    auto* layout = new QVBoxLayout(dialog);
    auto* browser = new QTextBrowser;
    browser->setHtml(keySheetHtml());
    layout->addWidget(browser);
    dialog->resize(760, 620);
    dialog->open();
}

void MainWindow::showAbout() {
    QMessageBox::about(this, tr("About Underridge"),
                       tr("Underridge %1\n\nNetwork topology diagrams that know what they draw.\n\nFree "
                          "software under the GNU General Public License, version 3 or later.")
                           .arg(QStringLiteral(UNDERRIDGE_VERSION)));
}

} // namespace underridge::app
