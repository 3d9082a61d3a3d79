// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/interchange.h"

#include "app/cabling/cable_scope.h"
#include "app/files/columns_dialog.h"
#include "app/files/import_dialog.h"
#include "app/files/print_dialog.h"
#include "app/files/schedule_dialog.h"
#include "app/shown_text.h"
#include "core/analysis/report.h"
#include "core/analysis/topologies.h"
#include "core/edit/placed_reading.h"
#include "core/edit/registers.h"
#include "core/edit/results.h"
#include "paint/door_sheets.h"
#include "paint/findings_report.h"
#include "paint/label_sheet.h"
#include "paint/picture.h"

#include <QDate>
#include <QFileInfo>

namespace underridge::app {
using namespace model;
namespace {

QString nameOf(const QString& path) {
    return QFileInfo(path).fileName();
}

} // namespace

Interchange::Interchange(const Desk& desk, const DesktopTheme& theme, QObject* parent)
    : QObject(parent), desk_(desk), theme_(theme) {}

template <class Made>
void Interchange::work(const QString& words, std::function<Result<Made>(const Wanted&)> make,
                       std::function<void(std::shared_ptr<Made>)> then, const WhenDone& done) {
    using Kept = std::shared_ptr<Result<Made>>;
    desk_.jobs.run<Kept>(
        words,
        [make = std::move(make)](const Wanted& wanted) {
            return std::make_shared<Result<Made>>(make(wanted));
        },
        [this, then = std::move(then), done](Kept kept) {
            if (*kept)
                return then(std::shared_ptr<Made>(kept, &**kept));
            desk_.messages.tell(kept->refusal());
            done(false);
        },
        done.orNot());
}

template <class Made>
void Interchange::readFile(const QString& path, Reader<Made> read,
                           std::function<void(std::shared_ptr<Made>)> then, const WhenDone& done) {
    work<Made>(
        tr("Reading %1").arg(nameOf(path)),
        [&files = desk_.files(), path = path.toStdString(), read = std::move(read)](const Wanted&) {
            const auto bytes = files.read(path);
            return bytes ? read(*bytes) : Result<Made>(bytes.refusal());
        },
        std::move(then), done);
}

void Interchange::importFile(const QString& path, WhenDone done) {
    desk_.typed.commitAll();
    readFile<exchange::Loaded>(
        path,
        [path = path.toStdString(), catalogue = desk_.session.catalogue()](const std::string& bytes) {
            return edit::readPlaced(bytes, {path, catalogue});
        },
        [this, path, done](std::shared_ptr<exchange::Loaded> loaded) { offer(path, loaded, done); }, done);
}

void Interchange::offer(const QString& path, std::shared_ptr<exchange::Loaded> loaded, const WhenDone& done) {
    desk_.dialogs.show<ImportDialog>(
        [this, path, loaded] {
            return new ImportDialog(*loaded, nameOf(path), theme_.theme(), desk_.window);
        },
        [this, path, loaded, done](ImportDialog& dialog, bool accepted) {
            accepted ? take(path, loaded, dialog.onto(), done) : done(false);
        });
}

void Interchange::take(const QString& path, std::shared_ptr<exchange::Loaded> loaded, edit::ImportOnto onto,
                       const WhenDone& done) {
    const Network base = desk_.session.network();
    work<Session::Ahead>(
        tr("Importing %1").arg(nameOf(path)),
        // The worker has a source of ids of its own, begun from the window's.
        [base, loaded, onto, ahead = desk_.session.ahead(), sheet = desk_.session.sheet(),
         seed = desk_.session.ids().next()](const Wanted&) {
            IdSource ids(seed);
            return ahead(edit::importNetwork(base, loaded->network, onto, sheet, ids));
        },
        [this, path, loaded, onto, done,
         sheetsBefore = base.sheetsInOrder().size()](std::shared_ptr<Session::Ahead> act) {
            const edit::Refs subjects = act->step.act.subjects;
            const bool taken = desk_.session.take(std::move(*act));
            if (taken && onto == edit::ImportOnto::ownSheets) {
                const auto sheets = desk_.session.network().sheetsInOrder();
                if (sheets.size() > sheetsBefore)
                    desk_.session.showSheet(sheets[sheetsBefore].id);
                desk_.session.select(subjects);
            }
            if (taken) {
                Q_EMIT imported(onto);
                desk_.messages.list(tr("Imported %1").arg(nameOf(path)), loaded->remarks);
            }
            done(taken);
        },
        done);
}

void Interchange::exportTo(const QString& path, WhenDone done) {
    desk_.typed.commitAll();
    const auto format = exchange::formatFromSuffix(path.toStdString());
    if (!format) {
        desk_.messages.tell(error(tr("data is written as .json, .graphml, .csv or .xlsx"),
                                  tr("choose one of these suffixes"), {path.toStdString()}));
        return done(false);
    }
    work<std::vector<Remark>>(
        tr("Writing %1").arg(nameOf(path)),
        [network = desk_.session.network(), format = *format, path = path.toStdString(),
         &files = desk_.files()](const Wanted& wanted) -> Result<std::vector<Remark>> {
            auto written = analysis::written(network, format);
            if (!*wanted)
                return written.remarks; // cancelled: the file stays as it was
            if (auto kept = files.writeAtomically(path, written.bytes); !kept)
                return kept.refusal();
            for (Remark& remark : written.remarks)
                remark.where.file = path;
            return written.remarks;
        },
        [this, path, done](std::shared_ptr<std::vector<Remark>> remarks) {
            desk_.messages.tell(advice(tr("data written"), {}, {path.toStdString()}));
            desk_.messages.list(tr("Exported %1").arg(nameOf(path)), *remarks);
            done(true);
        },
        done);
}

void Interchange::writePicture(const QString& path, WhenDone done) {
    const auto format = paint::formatFromSuffix(path.toStdString());
    if (!format) {
        desk_.messages.tell(error(tr("a picture is written as .png, .svg or .pdf"),
                                  tr("choose one of these suffixes"), {path.toStdString()}));
        return done(false);
    }
    work<Done>(
        tr("Writing %1").arg(nameOf(path)),
        [scene = desk_.session.scene(),
         laid = paint::LaidOver{desk_.session.network(), desk_.session.overlays().shown()},
         path = path.toStdString(), format = *format,
         theme = &theme_.theme()](const Wanted&) -> Result<Done> {
            paint::PictureOptions options;
            options.format = format;
            options.theme = theme;
            options.scale = format == paint::PictureFormat::png ? 2 : 1;
            options.laidOver = laid;
            if (const auto written = paint::writePicture(scene, path, options, laid.network.info().name);
                !written)
                return written.refusal();
            return Done{};
        },
        [this, path, done](std::shared_ptr<Done>) {
            desk_.messages.tell(advice(tr("picture written"), {}, {path.toStdString()}));
            done(true);
        },
        done);
}

void Interchange::writeLabels(const QString& path, WhenDone done) {
    desk_.typed.commitAll();
    std::vector<CableId> cables = selectedCables(desk_.session);
    if (cables.empty())
        for (const edit::Row& row : edit::rowsOf(desk_.session.network(), edit::Register::cables))
            cables.push_back({row.object.id});
    work<Done>(
        tr("Writing %1").arg(nameOf(path)),
        [network = desk_.session.network(), cables = std::move(cables), path = path.toStdString(),
         &files = desk_.files()](const Wanted&) -> Result<Done> {
            const auto pdf = paint::labelSheet(network, cables);
            if (!pdf)
                return pdf.refusal();
            return files.writeAtomically(path, {pdf->constData(), static_cast<std::size_t>(pdf->size())});
        },
        [this, path, done](std::shared_ptr<Done>) {
            desk_.messages.tell(advice(tr("label sheet written"), {}, {path.toStdString()}));
            done(true);
        },
        done);
}

void Interchange::writeDoorSheets(const QString& path, WhenDone done) {
    desk_.typed.commitAll();
    const Network& network = desk_.session.network();
    edit::Refs objects = desk_.session.selection();
    if (!edit::doorSheets(network, objects))
        objects = edit::racksAndPanels(network); // none of what is selected has one
    work<Done>(
        tr("Writing %1").arg(nameOf(path)),
        [network, objects = std::move(objects), path = path.toStdString(),
         &files = desk_.files()](const Wanted&) -> Result<Done> {
            const auto sheets = edit::doorSheets(network, objects);
            if (!sheets)
                return sheets.refusal();
            const QByteArray pdf = paint::doorSheetsPdf(network, *sheets, network.info().name);
            return files.writeAtomically(path, {pdf.constData(), static_cast<std::size_t>(pdf.size())});
        },
        [this, path, done](std::shared_ptr<Done>) {
            desk_.messages.tell(advice(tr("door sheets written"), {}, {path.toStdString()}));
            done(true);
        },
        done);
}

void Interchange::mergeCables(const QString& path, WhenDone done) {
    desk_.typed.commitAll();
    readFile<edit::ScheduleTable>(
        path,
        [path = path.toStdString()](const std::string& bytes) { return edit::readSchedule(bytes, path); },
        [this, path, done](std::shared_ptr<edit::ScheduleTable> table) {
            table->isSure() ? match(path, *table, done) : askColumns(path, table, done);
        },
        done);
}

void Interchange::askColumns(const QString& path, std::shared_ptr<edit::ScheduleTable> table,
                             const WhenDone& done) {
    desk_.dialogs.show<ColumnsDialog>(
        [this, path, table] { return new ColumnsDialog(*table, nameOf(path), desk_.window); },
        [this, path, table, done](ColumnsDialog&, bool accepted) {
            accepted ? match(path, *table, done) : done(false);
        });
}

void Interchange::match(const QString& path, const edit::ScheduleTable& table, const WhenDone& done) {
    work<edit::Schedule>(
        tr("Matching %1").arg(nameOf(path)),
        [network = desk_.session.network(), catalogue = desk_.session.catalogue(), path = path.toStdString(),
         seed = desk_.session.ids().next(), table](const Wanted&) {
            IdSource ids(seed);
            return edit::mergeSchedule(network, catalogue, table, path, ids);
        },
        [this, path, done](std::shared_ptr<edit::Schedule> schedule) { offer(path, schedule, done); }, done);
}

void Interchange::mergeResults(const QString& path, WhenDone done) {
    desk_.typed.commitAll();
    readFile<edit::Schedule>(
        path,
        [network = desk_.session.network(), path = path.toStdString()](const std::string& bytes) {
            return edit::mergeResults(network, bytes, path);
        },
        [this, path, done](std::shared_ptr<edit::Schedule> results) { offer(path, results, done); }, done);
}

void Interchange::offer(const QString& path, std::shared_ptr<edit::Schedule> schedule, const WhenDone& done) {
    desk_.dialogs.show<ScheduleDialog>(
        [this, path, schedule] { return new ScheduleDialog(*schedule, nameOf(path), desk_.window); },
        [this, path, schedule, done](ScheduleDialog&, bool accepted) {
            if (!accepted)
                return done(false);
            std::vector<Remark> remarks = schedule->remarks;
            for (const edit::ScheduleRow& row : schedule->rows)
                if (row.match == edit::Match::wrong)
                    remarks.push_back(warning(shownText(row.why), tr("correct it and merge again"),
                                              {path.toStdString(), row.line, 1, row.what}));
            const bool taken = desk_.session.apply(edit::takeSchedule(*schedule));
            if (taken)
                desk_.messages.list(tr("Merged %1").arg(nameOf(path)), remarks);
            done(taken);
        });
}

void Interchange::chooseExport() {
    desk_.fileDialogs.choose(
        {tr("Export data"),
         tr("RFC 8345 JSON (*.json);;GraphML (*.graphml);;CSV: devices, then links (*.csv);;Spreadsheet "
            "workbook (*.xlsx)"),
         QStringLiteral("json"), desk_.proposedName() + QStringLiteral(".json"), true},
        [this](const QString& path) { exportTo(path); });
}

void Interchange::choosePicture() {
    desk_.fileDialogs.choose({tr("Export picture"), tr("PNG (*.png);;SVG (*.svg);;PDF (*.pdf)"),
                              QStringLiteral("png"), desk_.proposedName() + QStringLiteral(".png"), true},
                             [this](const QString& path) { writePicture(path); });
}

void Interchange::chooseLabels() {
    desk_.fileDialogs.choose(
        {tr("Label sheet"), tr("PDF (*.pdf)"), QStringLiteral("pdf"), QStringLiteral("labels.pdf"), true},
        [this](const QString& path) { writeLabels(path); });
}

void Interchange::chooseDoorSheets() {
    desk_.fileDialogs.choose({tr("Door sheets"), tr("PDF (*.pdf)"), QStringLiteral("pdf"),
                              QStringLiteral("door-sheets.pdf"), true},
                             [this](const QString& path) { writeDoorSheets(path); });
}

void Interchange::writeFindings(const QString& path, analysis::Sifted findings, WhenDone done) {
    const std::string date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    work<Done>(
        tr("Writing %1").arg(nameOf(path)),
        [network = desk_.session.network(), findings = std::move(findings), path = path.toStdString(), date,
         &files = desk_.files()](const Wanted&) -> Result<Done> {
            if (path.ends_with(".csv"))
                return files.writeAtomically(path, analysis::findingsCsv(network, findings));
            if (path.ends_with(".json"))
                return files.writeAtomically(path, analysis::findingsJson(network, findings).dump(2) + "\n");
            return files.writeAtomically(path, paint::findingsPdf(network, findings, date).toStdString());
        },
        [this, path, done](std::shared_ptr<Done>) {
            desk_.messages.tell(advice(tr("findings written"), {}, {path.toStdString()}));
            done(true);
        },
        done);
}

void Interchange::chooseFindings(const analysis::Sifted& findings) {
    desk_.fileDialogs.choose({tr("Findings"), tr("PDF (*.pdf);;CSV (*.csv);;JSON (*.json)"),
                              QStringLiteral("pdf"), QStringLiteral("findings.pdf"), true},
                             [this, findings](const QString& path) { writeFindings(path, findings); });
}

void Interchange::print() {
    desk_.typed.commitAll();
    desk_.dialogs.show<PrintDialog>([this] { return new PrintDialog(desk_, desk_.window); },
                                    [](PrintDialog&, bool) {});
}

} // namespace underridge::app
