// SPDX-License-Identifier: GPL-3.0-or-later
// What is known of the sheet as a whole: what is on it, counted, and the legend. Each line
// selects what it counts; with Shift it is added to what is selected.
#include "app/panels/details_panel.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/titles.h"
#include "app/window/checker.h"
#include "core/edit/sheets.h"
#include "core/model/ports.h"
#include "core/scene/counts.h"
#include "core/scene/lines.h"
#include "paint/sheet_painter.h"

#include <QGuiApplication>
#include <QPainter>
#include <set>

namespace underridge::app {
using namespace model;
namespace {

template <class AnId>
edit::Refs refsTo(const std::vector<AnId>& ids) {
    edit::Refs out;
    for (const AnId id : ids)
        out.push_back(refTo(id));
    return out;
}

} // namespace

void DetailsPanel::legendRow(const SheetCounter::Shared& counts, const std::vector<LinkId>& links) {
    const Link* last = session_.network().link(links.back());
    if (!last)
        return; // gone since it was counted
    const Link& sample = *last;
    const QString words =
        sample.console ? tr("console") : shownText(titleOf(mediumOf(session_.network(), sample)));
    const bool dark = palette().color(QPalette::Window).lightness() < 128;
    const std::pair key(static_cast<int>(scene::formOf(session_.network(), sample)) * 2 + dark,
                        static_cast<int>(mediumOf(session_.network(), sample)));
    const QString counted = QStringLiteral("%1 × %2").arg(links.size()).arg(words);
    const auto act = [this, counts, &links] { selectCounted(refsTo(links)); };
    if (const auto held = legends_.find(key); held != legends_.end())
        return form_->pictureRow(held->second, words, counted, act);
    constexpr QSize size(54, 16);
    const double ratio = devicePixelRatioF();
    QPixmap picture(size * ratio);
    picture.setDevicePixelRatio(ratio);
    picture.fill(Qt::transparent);
    scene::LinkLine line;
    if (const scene::LinkLine* drawn = session_.scene().link(sample.id))
        line = *drawn;
    line.form = scene::formOf(session_.network(), sample);
    line.path = {{2, size.height() / 2.0}, {size.width() - 2.0, size.height() / 2.0}};
    line.planned = line.toRemove = false;
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    paint::SheetPainter(dark ? paint::darkTheme() : paint::lightTheme())
        .line(painter, line, scene::Detail::middle, 1);
    painter.end();
    form_->pictureRow(legends_[key] = picture, words, counted, act);
}

/// What stands for them on this sheet: a device in a folded group is shown by the group.
void DetailsPanel::selectCounted(const edit::Refs& counted) {
    edit::Refs taken;
    if (QGuiApplication::keyboardModifiers() & Qt::ShiftModifier)
        taken = session_.selection();
    std::set<ObjectRef> seen(taken.begin(), taken.end());
    for (ObjectRef each : counted) {
        if (each.kind == Kind::device) {
            const auto anchor = session_.scene().anchorOf({each.id});
            if (!anchor)
                continue;
            each = anchor->shown;
        } else if (!session_.network().link({each.id}) && !session_.scene().item(each)) {
            continue; // gone since it was counted
        }
        if (seen.insert(each).second)
            taken.push_back(each);
    }
    session_.select(std::move(taken));
}

/// What a sheet draws that follows from the network.
void DetailsPanel::upperRows(const Sheet& sheet, const SheetCounter::Shared& counts) {
    const auto number = [](std::size_t n) { return QLocale().toString(static_cast<qulonglong>(n)); };
    const bool subnets = sheet.layer == SheetLayer::network;
    form_->heading(subnets                               ? tr("Network layer")
                   : sheet.layer == SheetLayer::dataLink ? tr("Data link layer")
                                                         : tr("Upper layer"));
    form_->emptyRow(sheet.follows() ? tr("Drawn from what is set, and kept up.")
                                    : tr("As a file brought it; links say what they rest on."));
    if (subnets)
        form_->linkRow(tr("Subnets"), number(counts->subnets.size()),
                       [this, counts] { selectCounted(counts->subnets); });
    form_->linkRow(subnets ? tr("Interfaces in them") : tr("Links"), number(counts->lines.size()),
                   [this, counts] { selectCounted(counts->lines); });
}

void DetailsPanel::showSheet() {
    const Network& network = session_.network();
    begin(shownText(network.info().name), tr("Nothing selected"));
    form_->textRow(tr("Network"), shownText(network.info().name), {}, [this](const std::string& typed) {
        return edit::renameNetwork(session_.network(), typed);
    });
    const Sheet* sheet = network.sheet(session_.sheet());
    const bool upper = sheet && sheet->layer != SheetLayer::physical;
    if (sheet)
        form_->textRow(tr("Sheet"), shownText(sheet->name), {}, [this](const std::string& typed) {
            return edit::renameSheet(session_.network(), session_.sheet(), typed);
        });
    const SheetCounter::Shared shared = counter_.countsOf(network, session_.scene());
    if (!shared) {
        form_->emptyRow(tr("Counting what is on the sheet…"));
        return;
    }
    const scene::Counts& counts = *shared;
    const auto number = [](std::size_t n) { return QLocale().toString(static_cast<qulonglong>(n)); };
    // The lists live as long as the rows that select them.
    const auto line = [&](const QString& words, const QString& count, const auto& ids) {
        form_->linkRow(words, count, [this, shared, &ids] { selectCounted(refsTo(ids)); });
    };
    form_->heading(tr("Devices"));
    if (counts.devices == 0)
        form_->emptyRow(tr("None yet. Press A to add some."));
    for (const auto& [role, devices] : counts.roles)
        line(shownText(pluralOf(role)), number(devices.size()), devices);
    if (counts.devices > 0) {
        line(tr("Endpoints"), number(counts.endpoints.size()), counts.endpoints);
        line(tr("Infrastructure"), number(counts.infrastructure.size()), counts.infrastructure);
    }
    if (!counts.missing.empty())
        form_->linkRow(tr("Not on this sheet"), number(counts.missing.size()),
                       [this] { Q_EMIT missingWanted(); });
    if (network.all<Link>().size() > 0)
        form_->linkRow(tr("Findings"), findingCounts(checker_), [this] { Q_EMIT findingsWanted(); });
    if (upper)
        return upperRows(*sheet, shared);
    form_->heading(tr("Links"));
    if (counts.links == 0)
        form_->emptyRow(tr("None yet. Drag a plate's grip to another plate."));
    for (const auto& [form, links] : counts.media)
        legendRow(shared, links);
    for (const auto& [speed, links] : counts.speeds)
        line(speed > 0 ? shownText(speedText(speed)) : tr("Speed not known"), number(links.size()), links);
    if (!counts.free.empty())
        form_->heading(tr("Free ports"));
    for (const auto& [speed, free] : counts.free)
        line(speed > 0 ? shownText(speedText(speed)) : tr("Speed not known"),
             number(static_cast<std::size_t>(free.ports)), free.at);
    if (!counts.groups.empty())
        form_->heading(tr("Groups"));
    for (const auto& [kind, groups] : counts.groups)
        line(shownText(pluralOf(kind)), number(groups.size()), groups);
}

} // namespace underridge::app
