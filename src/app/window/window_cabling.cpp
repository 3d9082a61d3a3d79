// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's dialogs about cabling: many links, labels, lengths, stock, schedules
// and results.
#include "app/cabling/columns_dialog.h"
#include "app/cabling/labels_dialog.h"
#include "app/cabling/lengths_dialog.h"
#include "app/cabling/many_dialog.h"
#include "app/cabling/places_dialog.h"
#include "app/cabling/stock_dialog.h"
#include "app/window/main_window.h"
#include "core/edit/results.h"
#include "paint/label_sheet.h"

#include <QFileInfo>

namespace underridge::app {
using namespace model;

void MainWindow::ask(std::function<QDialog*()> make, std::function<void(QDialog&)> then, Done done) {
    commitTyped();
    dialogs_->ask(std::move(make),
                  [then = std::move(then), done = std::move(done)](QDialog& dialog, int result) {
                      if (result == QDialog::Accepted && then)
                          then(dialog);
                      else if (done)
                          done(false);
                  });
}

std::vector<LinkId> MainWindow::selectedLinks() const {
    std::vector<LinkId> out;
    for (const ObjectRef ref : session_->selection())
        if (session_->network().link({ref.id}))
            out.push_back({ref.id});
    return out;
}

void MainWindow::linkMany() {
    ask([this] { return new ManyDialog(*session_, session_->selected().devices(), this); },
        [this](QDialog& dialog) { session_->apply(static_cast<ManyDialog&>(dialog).plan().act); });
}

void MainWindow::labelCables() {
    ask([this] { return new LabelsDialog(*session_, this); },
        [this](QDialog& shown) {
            auto& dialog = static_cast<LabelsDialog&>(shown);
            auto act =
                edit::labelCables(session_->network(), dialog.labels(), dialog.scheme().text().toStdString());
            if (act)
                act->subjects = session_->selection();
            session_->apply(std::move(act));
        });
}

void MainWindow::setCableLengths() {
    ask([this] { return new LengthsDialog(*session_, this); },
        [this](QDialog& dialog) {
            auto act = static_cast<LengthsDialog&>(dialog).result();
            if (act)
                act->subjects = session_->selection();
            session_->apply(std::move(act));
        });
}

void MainWindow::editPlaces() {
    ask([this] { return new PlacesDialog(*session_, this); });
}

void MainWindow::editStock() {
    ask([this] { return new StockDialog(*session_, this); });
}

void MainWindow::printLabels() {
    chooseFile(
        {tr("Label sheet"), tr("PDF (*.pdf)"), QStringLiteral("pdf"), QStringLiteral("labels.pdf"), true},
        askExportPath, [this](const QString& path) { printLabelsTo(path); });
}

void MainWindow::printLabelsTo(const QString& path, Done done) {
    commitTyped();
    std::vector<CableId> cables = selectedCables(*session_);
    if (cables.empty())
        for (const edit::Row& row : edit::rowsOf(session_->network(), edit::Register::cables))
            cables.push_back({row.object.id});
    using Made = Result<underridge::Done>;
    jobs_->run<Made>(
        tr("Writing %1").arg(QFileInfo(path).fileName()),
        [network = session_->network(), cables = std::move(cables), path = path.toStdString(),
         &files = world_.world.files](const Wanted&) -> Made {
            const auto pdf = paint::labelSheet(network, cables);
            if (!pdf)
                return pdf.refusal();
            return files.writeAtomically(path, {pdf->constData(), static_cast<std::size_t>(pdf->size())});
        },
        [this, path, done](Made written) {
            tell(written ? advice("label sheet written", {}, {path.toStdString()}) : written.refusal());
            if (done)
                done(static_cast<bool>(written));
        });
}

void MainWindow::takeIn(std::shared_ptr<edit::Schedule> schedule, const QString& path, Done done) {
    ask([this, schedule, path] { return new ScheduleDialog(*schedule, QFileInfo(path).fileName(), this); },
        [this, schedule, path, done](QDialog&) {
            std::vector<Remark> remarks = schedule->remarks;
            for (const edit::ScheduleRow& row : schedule->rows)
                if (row.match == edit::Match::wrong)
                    remarks.push_back(warning(row.why, "correct it and merge again",
                                              {path.toStdString(), row.line, 1, row.what}));
            const bool taken = session_->apply(edit::takeSchedule(*schedule));
            if (taken)
                showRemarks(tr("Merged %1").arg(QFileInfo(path).fileName()), remarks);
            if (done)
                done(taken);
        },
        done);
}

void MainWindow::mergeCables(const QString& path, Done done) {
    commitTyped();
    const QString name = QFileInfo(path).fileName();
    using Read = std::shared_ptr<Result<edit::ScheduleTable>>;
    jobs_->run<Read>(
        tr("Reading %1").arg(name),
        [path = path.toStdString(), &files = world_.world.files](const Wanted&) {
            const auto bytes = files.read(path);
            return std::make_shared<Result<edit::ScheduleTable>>(
                bytes ? edit::readSchedule(*bytes, path) : Result<edit::ScheduleTable>(bytes.refusal()));
        },
        [this, path, name, done](Read table) {
            if (!*table) {
                tell(table->refusal());
                if (done)
                    done(false);
                return;
            }
            if ((*table)->isSure())
                return match(path, **table, done);
            ask([this, table, name] { return new ColumnsDialog(**table, name, this); },
                [this, table, path, done](QDialog&) { match(path, **table, done); }, done);
        },
        [done] {
            if (done)
                done(false);
        });
}

void MainWindow::match(const QString& path, const edit::ScheduleTable& table, Done done) {
    using Made = std::shared_ptr<Result<edit::Schedule>>;
    jobs_->run<Made>(
        tr("Matching %1").arg(QFileInfo(path).fileName()),
        [network = session_->network(), catalogue = session_->catalogue(), path = path.toStdString(),
         seed = session_->ids().next(), table](const Wanted&) {
            IdSource ids(seed);
            return std::make_shared<Result<edit::Schedule>>(
                edit::mergeSchedule(network, catalogue, table, path, ids));
        },
        [this, path, done](Made schedule) {
            if (*schedule)
                return takeIn(std::make_shared<edit::Schedule>(*std::move(*schedule)), path, done);
            tell(schedule->refusal());
            if (done)
                done(false);
        },
        [done] {
            if (done)
                done(false);
        });
}

void MainWindow::mergeResults(const QString& path, Done done) {
    commitTyped();
    using Made = std::shared_ptr<Result<edit::Schedule>>;
    jobs_->run<Made>(
        tr("Reading %1").arg(QFileInfo(path).fileName()),
        [network = session_->network(), path = path.toStdString(),
         &files = world_.world.files](const Wanted&) {
            const auto bytes = files.read(path);
            return std::make_shared<Result<edit::Schedule>>(bytes ? edit::mergeResults(network, *bytes, path)
                                                                  : Result<edit::Schedule>(bytes.refusal()));
        },
        [this, path, done](Made results) {
            if (*results)
                return takeIn(std::make_shared<edit::Schedule>(*std::move(*results)), path, done);
            tell(results->refusal());
            if (done)
                done(false);
        },
        [done] {
            if (done)
                done(false);
        });
}

} // namespace underridge::app
