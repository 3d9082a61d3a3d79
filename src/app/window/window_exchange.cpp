// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's dealings with other programs: import, export, clipboard, remarks.
#include "app/window/clipboard.h"
#include "app/window/main_window.h"
#include "app/window/worker.h"
#include "core/exchange/foreign.h"

#include <QClipboard>
#include <QDockWidget>
#include <QDrag>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>

namespace underridge::app {
using namespace model;

bool MainWindow::importFile(const QString& path) {
    commitTyped();
    if (!showsSheet())
        return openFile(path);
    auto loaded = loadOnWorker(path);
    if (!loaded)
        return false; // cancelled
    if (!*loaded) {
        tell(loaded->refusal());
        return false;
    }
    ImportDialog dialog(**loaded, QFileInfo(path).fileName(), theme_->theme(), this);
    const bool wanted = askImport ? askImport(dialog) : dialog.exec() == QDialog::Accepted;
    if (!wanted)
        return false;
    const auto onto = dialog.onto();
    auto act =
        edit::importNetwork(editor_->network(), (*loaded)->network, onto, editor_->sheet(), editor_->ids());
    const bool refused = !act;
    const edit::Refs subjects = act ? act->subjects : edit::Refs{};
    const auto sheetsBefore = editor_->network().sheetsInOrder().size();
    editor_->apply(std::move(act));
    if (refused)
        return false;
    if (onto == edit::ImportOnto::ownSheets) {
        const auto sheets = editor_->network().sheetsInOrder();
        if (sheets.size() > sheetsBefore)
            editor_->showSheet(sheets[sheetsBefore].id);
        editor_->select(subjects);
        sheet_->fitAll();
    } else {
        sheet_->fitSelection();
    }
    showRemarks(tr("Imported %1").arg(QFileInfo(path).fileName()), (*loaded)->remarks);
    return true;
}

QString MainWindow::askExport() {
    if (askExportPath)
        return askExportPath();
    return QFileDialog::getSaveFileName(this, tr("Export data"), {},
                                        tr("RFC 8345 JSON (*.json);;GraphML (*.graphml);;CSV: devices, then "
                                           "links (*.csv);;Spreadsheet workbook (*.xlsx)"));
}

bool MainWindow::exportTo(const QString& path) {
    commitTyped();
    const auto format = exchange::formatFromSuffix(path.toStdString());
    if (!format) {
        tell(error("data is written as .json, .graphml, .csv or .xlsx", "choose one of these suffixes",
                   {path.toStdString()}));
        return false;
    }
    using Made = Result<std::vector<Remark>>;
    auto remarks = onWorker<Made>(this, opener_, tr("Writing %1").arg(QFileInfo(path).fileName()),
                                  [network = editor_->network(), format = *format, path = path.toStdString(),
                                   &files = world_.world.files](const Wanted& wanted) -> Made {
                                      auto written = exchange::write(network, format);
                                      if (!*wanted)
                                          return written.remarks; // cancelled: the file stays as it was
                                      if (auto kept = files.writeAtomically(path, written.bytes); !kept)
                                          return kept.refusal();
                                      for (Remark& remark : written.remarks)
                                          remark.where.file = path;
                                      return written.remarks;
                                  });
    if (!remarks)
        return false; // cancelled
    if (!*remarks) {
        tell(remarks->refusal());
        return false;
    }
    tell(advice("data written", {}, {path.toStdString()}));
    showRemarks(tr("Exported %1").arg(QFileInfo(path).fileName()), **remarks);
    return true;
}

void MainWindow::copySelection() {
    if (auto clip = editor_->copied())
        QGuiApplication::clipboard()->setMimeData(new ClipData(*std::move(clip), paint::lightTheme()));
}

void MainWindow::dragSelectionOut() {
    auto clip = editor_->copied();
    if (!clip)
        return;
    if (!dragFolder_)
        dragFolder_ = std::make_unique<QTemporaryDir>();
    const QString path =
        dragFolder_->isValid() ? dragFolder_->filePath(QStringLiteral("selection.svg")) : QString();
    auto* drag = new QDrag(sheet_);
    drag->setMimeData(new ClipData(*std::move(clip), paint::lightTheme(), path));
    drag->exec(Qt::CopyAction);
}

void MainWindow::lookAtClipboard() {
    const QMimeData* held = QGuiApplication::clipboard()->mimeData();
    clipboardHolds_ = held && mayHoldClip(*held);
    refreshEnabled();
}

void MainWindow::pasteClipboard() {
    const QMimeData* held = QGuiApplication::clipboard()->mimeData();
    if (!held)
        return;
    using Made = Result<edit::Clip>;
    auto clip = onWorker<Made>(this, opener_, tr("Reading the clipboard"),
                               [bytes = clipBytes(*held), catalogue = editor_->catalogue()](
                                   const Wanted&) -> Made { return clipFrom(bytes, catalogue); });
    if (!clip)
        return; // cancelled
    if (!*clip) {
        tell(advice("the clipboard holds no network: " + clip->refusal().what,
                    "copy devices, or a table with a line of column names"));
        return;
    }
    sheet_->paste(**clip);
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
    const Network& network = editor_->network();
    quint64 device = network.device({remark.where.id}) ? remark.where.id : 0;
    const quint64 link = network.link({remark.where.id}) ? remark.where.id : 0;
    if (device == 0 && link == 0 && !remark.where.object.empty())
        network.all<Device>().forEach([&](const Device& each) {
            if (device == 0 &&
                (each.name == remark.where.object || idText(each.id.value) == remark.where.object))
                device = each.id.value;
        });
    if (device == 0 && link == 0) {
        tell(advice("what this remark is about is not on a sheet", {}, remark.where));
        return;
    }
    goTo(device != 0 ? device : link, device == 0);
}

} // namespace underridge::app
