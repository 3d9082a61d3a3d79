// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's dealings with other programs: import, export, clipboard, remarks.
#include "app/window/clipboard.h"
#include "app/window/main_window.h"
#include "core/exchange/foreign.h"
#include "core/layout/reading.h"
#include "core/model/references.h"

#include <QClipboard>
#include <QDockWidget>
#include <QDrag>
#include <QFileInfo>
#include <QGuiApplication>

namespace underridge::app {
using namespace model;

void MainWindow::importFile(const QString& path, Done done) {
    commitTyped();
    if (!showsSheet())
        return openFile(path, std::move(done));
    using Read = std::shared_ptr<Result<exchange::Loaded>>;
    jobs_->run<Read>(
        tr("Reading %1").arg(QFileInfo(path).fileName()),
        [world = world_.world, path = path.toStdString(), catalogue = session_->catalogue()](const Wanted&) {
            const auto bytes = world.files.read(path);
            return std::make_shared<Result<exchange::Loaded>>(
                bytes ? layout::readPlaced(*bytes, {path, catalogue})
                      : Result<exchange::Loaded>(bytes.refusal()));
        },
        [this, path, done](Read read) {
            if (*read)
                return offerImport(path, std::make_shared<exchange::Loaded>(*std::move(*read)), done);
            tell(read->refusal());
            if (done)
                done(false);
        },
        [done] {
            if (done)
                done(false);
        });
}

void MainWindow::offerImport(const QString& path, std::shared_ptr<exchange::Loaded> loaded, Done done) {
    dialogs_->show<ImportDialog>(
        [this, path, loaded] {
            return new ImportDialog(*loaded, QFileInfo(path).fileName(), theme_->theme(), this);
        },
        [this, path, loaded, done](ImportDialog& dialog, bool accepted) {
            if (accepted)
                takeImport(path, loaded, dialog.onto(), done);
            else if (done)
                done(false);
        });
}

void MainWindow::takeImport(const QString& path, std::shared_ptr<exchange::Loaded> loaded,
                            edit::ImportOnto onto, const Done& done) {
    using Made = std::shared_ptr<edit::ActResult>;
    const Network base = session_->network();
    jobs_->run<Made>(
        tr("Importing %1").arg(QFileInfo(path).fileName()),
        // The worker has a source of ids of its own, begun from the window's.
        [base, loaded, onto, sheet = session_->sheet(), seed = session_->ids().next()](const Wanted&) {
            IdSource ids(seed);
            auto act = edit::importNetwork(base, loaded->network, onto, sheet, ids);
            if (act)
                act->base = base;
            return std::make_shared<edit::ActResult>(std::move(act));
        },
        [this, path, loaded, onto, done, sheetsBefore = base.sheetsInOrder().size()](Made made) {
            const edit::Refs subjects = *made ? (*made)->subjects : edit::Refs{};
            const bool taken = session_->apply(std::move(*made));
            if (taken && onto == edit::ImportOnto::ownSheets) {
                const auto sheets = session_->network().sheetsInOrder();
                if (sheets.size() > sheetsBefore)
                    session_->showSheet(sheets[sheetsBefore].id);
                session_->select(subjects);
                sheet_->fitAll();
            } else if (taken) {
                sheet_->fitSelection();
            }
            if (taken)
                showRemarks(tr("Imported %1").arg(QFileInfo(path).fileName()), loaded->remarks);
            if (done)
                done(taken);
        },
        [done] {
            if (done)
                done(false);
        });
}

void MainWindow::exportTo(const QString& path, Done done) {
    commitTyped();
    const auto format = exchange::formatFromSuffix(path.toStdString());
    if (!format) {
        tell(error("data is written as .json, .graphml, .csv or .xlsx", "choose one of these suffixes",
                   {path.toStdString()}));
        if (done)
            done(false);
        return;
    }
    using Made = Result<std::vector<Remark>>;
    jobs_->run<Made>(
        tr("Writing %1").arg(QFileInfo(path).fileName()),
        [network = session_->network(), format = *format, path = path.toStdString(),
         &files = world_.world.files](const Wanted& wanted) -> Made {
            auto written = exchange::write(network, format);
            if (!*wanted)
                return written.remarks; // cancelled: the file stays as it was
            if (auto kept = files.writeAtomically(path, written.bytes); !kept)
                return kept.refusal();
            for (Remark& remark : written.remarks)
                remark.where.file = path;
            return written.remarks;
        },
        [this, path, done](Made remarks) {
            tell(remarks ? advice("data written", {}, {path.toStdString()}) : remarks.refusal());
            if (remarks)
                showRemarks(tr("Exported %1").arg(QFileInfo(path).fileName()), *remarks);
            if (done)
                done(static_cast<bool>(remarks));
        },
        [done] {
            if (done)
                done(false);
        });
}

void MainWindow::copySelection() {
    if (auto clip = session_->copied())
        QGuiApplication::clipboard()->setMimeData(new ClipData(*std::move(clip), paint::lightTheme()));
}

void MainWindow::dragSelectionOut() {
    auto clip = session_->copied();
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
    const auto take = [this](const Result<edit::Clip>& clip) {
        if (clip)
            sheet_->paste(*clip);
        else
            tell(advice("the clipboard holds no network: " + clip.refusal().what,
                        "copy devices, or a table with a line of column names"));
    };
    auto bytes = clipBytes(*held);
    constexpr qsizetype little = 64 << 10; // read in some milliseconds: the next key comes after it
    if (bytes.size() <= little)
        return take(clipFrom(bytes, session_->catalogue()));
    using Made = std::shared_ptr<Result<edit::Clip>>;
    jobs_->run<Made>(
        tr("Reading the clipboard"),
        [bytes = std::move(bytes), catalogue = session_->catalogue()](const Wanted&) {
            return std::make_shared<Result<edit::Clip>>(clipFrom(bytes, catalogue));
        },
        [this, take, onto = session_->sheet(), of = session_->network().info().id](Made clip) {
            if (session_->sheet() == onto && session_->network().info().id == of)
                take(*clip); // else the person is elsewhere by now
        });
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
    const Network& network = session_->network();
    ObjectRef about{kindOf(network, remark.where.id), remark.where.id};
    if (about.kind == Kind::unknown && !remark.where.object.empty())
        network.all<Device>().forEach([&](const Device& each) {
            if (about.kind == Kind::unknown &&
                (each.name == remark.where.object || idText(each.id.value) == remark.where.object))
                about = refTo(each.id);
        });
    if (about.kind == Kind::unknown)
        tell(advice("what this remark is about is not on a sheet", {}, remark.where));
    else
        goTo({about});
}

} // namespace underridge::app
