// SPDX-License-Identifier: GPL-3.0-or-later
// What is known of a group.
#include "app/panels/details_panel.h"
#include "app/session/session.h"
#include "app/sheet/card.h"
#include "app/shown_text.h"
#include "app/titles.h"
#include "core/edit/devices.h"
#include "core/edit/groups.h"
#include "core/edit/places.h"
#include "core/edit/plans.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"

#include <charconv>
#include <cmath>
#include <map>
#include <set>

namespace underridge::app {
using namespace model;

void DetailsPanel::showGroup(const Group& group) {
    const Network& network = session_.network();
    const GroupId id = group.id;
    QString subtitle = shownText(titleOf(group.type));
    if (network.group(group.parent))
        subtitle = tr("%1 in %2").arg(subtitle, shownText(pathText(network, group.parent)));
    begin(shownText(group.name), subtitle);
    form_->textRow(tr("Name"), shownText(group.name), {}, [this, id](const std::string& typed) {
        return edit::rename(session_.network(), {refTo(id)}, {typed});
    });
    form_->choiceRow(tr("Kind"), titlesOf<GroupKind>(), static_cast<int>(group.type), [this, id](int kind) {
        return edit::setGroupKind(session_.network(), id, static_cast<GroupKind>(kind));
    });
    if (group.type == GroupKind::floor)
        form_->textRow(
            tr("Level"), QString::number(group.level), tr("0 is the ground"),
            [this, id](const std::string& typed) -> edit::ActResult {
                int level = 0;
                const auto [end, fault] = std::from_chars(typed.data(), typed.data() + typed.size(), level);
                if (fault != std::errc{} || end != typed.data() + typed.size())
                    return error(tr("%1 is not a level").arg(shownText(typed)), tr("write a whole number"));
                return edit::setGroupLevel(session_.network(), id, level);
            });
    if (isRack(group.type))
        form_->textRow(tr("Units"), QString::number(group.rackUnits), tr("42 is usual"),
                       [this, id](const std::string& typed) -> edit::ActResult {
                           bool good = false;
                           const int units = shownText(typed).toInt(&good);
                           if (!good)
                               return error(tr("%1 is not a number of units").arg(shownText(typed)),
                                            tr("write 42"));
                           return edit::setRackUnits(session_.network(), id, units);
                       });
    if (isRack(group.type))
        form_->textRow(
            tr("Depth"), group.depthMm > 0 ? shownLength(group.depthMm, session_.lengthUnit()) : QString(),
            tr("such as 0.8 m"), [this, id](const std::string& typed) -> edit::ActResult {
                const auto depth = trimmed(typed).empty() ? std::optional<std::int64_t>(0)
                                                          : parseLength(typed, session_.lengthUnit());
                if (!depth)
                    return error(tr("%1 is not a length").arg(shownText(typed)),
                                 tr("write it as %1").arg(sampleLength()));
                return edit::setRackDepth(session_.network(), id,
                                          static_cast<int>(std::clamp<std::int64_t>(*depth, -1, 100'000)));
            });
    if (session_.scene().folding() && id != session_.scene().entered())
        form_->switchRow(tr("Folded on this sheet"), session_.scene().tile(id) != nullptr,
                         [this, id](bool on) { session_.setFolded({id}, on); });
    form_->textRow(tr("Note"), shownText(group.note), {}, [this, id](const std::string& typed) {
        return edit::changeEach<Group>(session_.network(), {{id.value, 0}}, said(tr("Set note of group")),
                                       [&](Group& g) { g.note = typed; });
    });
    groupContents(group);
    planRows(group);
}

void DetailsPanel::planRows(const Group& group) {
    const GroupId id = group.id;
    form_->heading(tr("Plan"));
    const auto size = edit::planSize(session_.network(), group);
    if (!size) {
        form_->actionRow({}, tr("No picture lies under it."), tr("Choose a plan…"),
                         QStringLiteral("choosePlan"), [this, id] { Q_EMIT planWanted(id); });
        return;
    }
    const auto wide = static_cast<std::int64_t>(std::llround(size->width * group.planMmPerPixel));
    form_->textRow(
        tr("Width"), shownLength(wide, session_.lengthUnit()), sampleLength(),
        [this, id, pixels = size->width](const std::string& typed) -> edit::ActResult {
            constexpr double pixelsPerInch = 96; // CSS, which SVG follows
            if (const QString text = shownText(typed).trimmed(); text.startsWith(QLatin1String("1:")))
                return edit::scalePlan(session_.network(), id,
                                       edit::mmPerPixelAt(text.mid(2).toDouble(), pixelsPerInch), false);
            const auto mm = parseLength(typed, session_.lengthUnit());
            if (!mm || *mm < 1)
                return error(tr("%1 is neither a width nor a map scale").arg(shownText(typed)),
                             tr("write it as 84 m, or 1:100"));
            return edit::scalePlan(session_.network(), id, static_cast<double>(*mm) / pixels, false);
        });
    const edit::PlanLook look{group.planXMm, group.planYMm, group.planTurn, group.planDim, group.planInk};
    const auto number = [this, id, look](const QString& label, const QString& value, const QString& sample,
                                         auto set) {
        form_->textRow(
            label, value, sample, [this, id, look, set](const std::string& typed) -> edit::ActResult {
                bool good = false;
                const double typedNumber =
                    shownText(typed).replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&good);
                if (!good)
                    return error(tr("%1 is not a number").arg(shownText(typed)), tr("write a number"));
                edit::PlanLook wanted = look;
                set(wanted, typedNumber);
                return edit::placePlan(session_.network(), id, wanted);
            });
    };
    number(tr("Turned by"), QLocale().toString(group.planTurn), tr("degrees clockwise"),
           [](edit::PlanLook& wanted, double degrees) { wanted.turn = degrees; });
    number(tr("Faded by"), QLocale().toString(group.planDim), tr("per cent, up to 90"),
           [](edit::PlanLook& wanted, double percent) { wanted.dim = static_cast<int>(percent); });
    form_->checkRow(tr("Drawn in ink"), group.planInk, [this, id, look](bool on) {
        edit::PlanLook wanted = look;
        wanted.ink = on;
        return edit::placePlan(session_.network(), id, wanted);
    });
    form_->linkRow({}, tr("Show on its plan"), [this, id] { Q_EMIT planSheetWanted(id); });
    form_->linkRow({}, tr("Choose another plan…"), [this, id] { Q_EMIT planWanted(id); });
    form_->linkRow({}, tr("Take the plan away"), [this, id] { Q_EMIT planGoes(id); });
}

void DetailsPanel::groupContents(const Group& group) {
    const Network& network = session_.network();
    const auto& trouble = session_.workspace().reported()->byGroup;
    if (const auto held = trouble.find(group.id); held != trouble.end())
        form_->linkRow(tr("Findings"), troubleText(held->second), [this] { Q_EMIT findingsWanted(); });
    const auto devices = devicesWithin(network, group.id);
    const std::set<DeviceId> inside(devices.begin(), devices.end());
    std::map<Role, int> roles;
    std::set<LinkId> within, outwards;
    for (const DeviceId id : devices) {
        ++roles[roleOf(network, *network.device(id))];
        network.forEachLinkOf(id, [&](const Link& link) {
            const bool both = inside.contains(link.a.device) && inside.contains(link.b.device);
            (both ? within : outwards).insert(link.id);
        });
    }
    form_->heading(tr("Within"));
    if (devices.empty())
        form_->emptyRow(tr("Nothing yet. Drag devices onto it."));
    if (const auto groups = groupsWithin(network, group.id); !groups.empty())
        form_->row(tr("Groups"), QLocale().toString(static_cast<int>(groups.size())));
    for (const auto& [role, count] : roles)
        form_->row(shownText(pluralOf(role)), QLocale().toString(count));
    if (!devices.empty()) {
        form_->row(tr("Links inside"), QLocale().toString(static_cast<int>(within.size())));
        form_->row(tr("Links outwards"), QLocale().toString(static_cast<int>(outwards.size())));
    }
    findingRows(refTo(group.id));
}

} // namespace underridge::app
