// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's dialogs about cabling: many links, labels, lengths, stock, schedules and results.
#include "app/cabling/columns_dialog.h"
#include "app/cabling/labels_dialog.h"
#include "app/cabling/lengths_dialog.h"
#include "app/cabling/many_dialog.h"
#include "app/cabling/places_dialog.h"
#include "app/cabling/stock_dialog.h"
#include "app/window/main_window.h"
#include "app/window/worker.h"
#include "core/edit/results.h"
#include "paint/label_sheet.h"

#include <QFileDialog>
#include <QFileInfo>

namespace underridge::app {
using namespace model;

bool MainWindow::ask(QDialog& dialog) {
    return askCabling ? askCabling(dialog) : dialog.exec() == QDialog::Accepted;
}

std::vector<LinkId> MainWindow::selectedLinks() const {
    std::vector<LinkId> out;
    for (const ObjectRef ref : editor_->selection())
        if (editor_->network().link({ref.id}))
            out.push_back({ref.id});
    return out;
}

void MainWindow::linkMany() {
    commitTyped();
    ManyDialog dialog(*editor_, editor_->selectedDevices(), this);
    if (ask(dialog))
        editor_->apply(dialog.plan().act);
}

void MainWindow::labelCables() {
    commitTyped();
    LabelsDialog dialog(*editor_, this);
    if (!ask(dialog))
        return;
    auto act = edit::labelCables(editor_->network(), dialog.labels(), dialog.scheme().text().toStdString());
    if (act)
        act->subjects = editor_->selection();
    editor_->apply(std::move(act));
}

void MainWindow::setCableLengths() {
    commitTyped();
    LengthsDialog dialog(*editor_, this);
    if (!ask(dialog))
        return;
    auto act = dialog.result();
    if (act)
        act->subjects = editor_->selection();
    editor_->apply(std::move(act));
}

void MainWindow::editPlaces() {
    commitTyped();
    PlacesDialog dialog(*editor_, this);
    ask(dialog);
}

void MainWindow::editStock() {
    commitTyped();
    StockDialog dialog(*editor_, this);
    ask(dialog);
}

void MainWindow::printLabels() {
    const QString path = askExportPath ? askExportPath()
                                       : QFileDialog::getSaveFileName(this, tr("Label sheet"),
                                                                      tr("labels.pdf"), tr("PDF (*.pdf)"));
    if (!path.isEmpty())
        printLabelsTo(path);
}

bool MainWindow::printLabelsTo(const QString& path) {
    std::vector<CableId> cables = selectedCables(*editor_);
    if (cables.empty())
        for (const edit::Row& row : edit::rowsOf(editor_->network(), edit::Register::cables))
            cables.push_back({row.object.id});
    const auto pdf = paint::labelSheet(editor_->network(), cables);
    if (!pdf) {
        tell(pdf.refusal());
        return false;
    }
    if (auto kept = world_.world.files.writeAtomically(
            path.toStdString(), {pdf->constData(), static_cast<std::size_t>(pdf->size())});
        !kept) {
        tell(kept.refusal());
        return false;
    }
    tell(advice("label sheet written", {}, {path.toStdString()}));
    return true;
}

bool MainWindow::takeIn(const edit::Schedule& schedule, const QString& path) {
    ScheduleDialog dialog(schedule, QFileInfo(path).fileName(), this);
    if (!(askSchedule ? askSchedule(dialog) : dialog.exec() == QDialog::Accepted))
        return false;
    std::vector<Remark> remarks = schedule.remarks;
    for (const edit::ScheduleRow& row : schedule.rows)
        if (row.match == edit::Match::wrong)
            remarks.push_back(
                warning(row.why, "correct it and merge again", {path.toStdString(), row.line, 1, row.what}));
    if (!editor_->apply(edit::takeSchedule(editor_->network(), schedule)))
        return false;
    showRemarks(tr("Merged %1").arg(QFileInfo(path).fileName()), remarks);
    return true;
}

bool MainWindow::mergeCables(const QString& path) {
    commitTyped();
    const QString name = QFileInfo(path).fileName();
    using Read = Result<edit::ScheduleTable>;
    auto table =
        onWorker<Read>(this, opener_, tr("Reading %1").arg(name),
                       [path = path.toStdString(), &files = world_.world.files](const Wanted&) -> Read {
                           const auto bytes = files.read(path);
                           return bytes ? edit::readSchedule(*bytes, path) : Read(bytes.refusal());
                       });
    if (!table)
        return false; // cancelled
    if (!*table) {
        tell(table->refusal());
        return false;
    }
    if (!(*table)->isSure()) {
        ColumnsDialog dialog(**table, name, this);
        if (!ask(dialog))
            return false;
    }
    using Made = Result<edit::Schedule>;
    // The worker has a source of ids of its own, begun from the window's.
    auto schedule = onWorker<Made>(this, opener_, tr("Matching %1").arg(name),
                                   [network = editor_->network(), catalogue = editor_->catalogue(),
                                    path = path.toStdString(), seed = editor_->ids().next(),
                                    read = **table](const Wanted&) -> Made {
                                       IdSource ids(seed);
                                       return edit::mergeSchedule(network, catalogue, read, path, ids);
                                   });
    if (!schedule)
        return false; // cancelled
    if (!*schedule) {
        tell(schedule->refusal());
        return false;
    }
    return takeIn(**schedule, path);
}

bool MainWindow::mergeResults(const QString& path) {
    commitTyped();
    using Made = Result<edit::Schedule>;
    auto results =
        onWorker<Made>(this, opener_, tr("Reading %1").arg(QFileInfo(path).fileName()),
                       [network = editor_->network(), path = path.toStdString(),
                        &files = world_.world.files](const Wanted&) -> Made {
                           const auto bytes = files.read(path);
                           return bytes ? edit::mergeResults(network, *bytes, path) : Made(bytes.refusal());
                       });
    if (!results)
        return false; // cancelled
    if (!*results) {
        tell(results->refusal());
        return false;
    }
    return takeIn(**results, path);
}

} // namespace underridge::app
