// SPDX-License-Identifier: GPL-3.0-or-later
// What is known of a tray or conduit: its size, and what runs in it.
#include "app/panels/details_panel.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/titles.h"
#include "core/edit/cable_routes.h"
#include "core/edit/links.h"
#include "core/linking/route_loads.h"

#include <charconv>
#include <set>

namespace underridge::app {
using namespace model;
namespace {

/// "200", "200 mm", "20 cm", "0.2 m" in millimetres; nothing else.
std::optional<std::int64_t> parseSize(const std::string& typed) {
    std::int64_t mm = 0;
    const auto [end, fault] = std::from_chars(typed.data(), typed.data() + typed.size(), mm);
    if (fault == std::errc{} && end == typed.data() + typed.size())
        return mm;
    return parseLength(typed, LengthUnit::metres);
}

QString sizeText(std::int64_t mm) {
    return DetailsPanel::tr("%L1 mm").arg(mm);
}

} // namespace

void DetailsPanel::showRoute(const CableRoute& route) {
    const Network& network = session_.network();
    const bool tray = route.type == CableRouteKind::tray;
    begin(shownText(route.name),
          tr("%1 on %2").arg(shownText(titleOf(route.type)), shownText(network.group(route.floor)->name)));
    const auto change = [this, id = route.id](auto how) -> edit::ActResult {
        const CableRoute* held = session_.network().cableRoute(id);
        if (!held)
            return error(tr("the cable route is no longer there"), tr("select again"));
        CableRoute changed = *held;
        how(changed);
        return edit::changeCableRoute(session_.network(), std::move(changed));
    };
    const auto sizeRow = [&](const QString& label, std::int64_t value, const QString& sample, auto set) {
        form_->textRow(
            label, sizeText(value), sample, [change, set](const std::string& typed) -> edit::ActResult {
                const auto mm = parseSize(typed);
                if (!mm)
                    return error(tr("%1 is no size").arg(shownText(typed)), tr("write it as 200 mm"));
                return change([&](CableRoute& r) { set(r, *mm); });
            });
    };
    form_->textRow(tr("Name"), shownText(route.name), {}, [change](const std::string& typed) {
        return change([&](CableRoute& r) { r.name = typed; });
    });
    form_->choiceRow(tr("Kind"), titlesOf<CableRouteKind>(), static_cast<int>(route.type),
                     [change](int kind) {
                         return change([&](CableRoute& r) { r.type = static_cast<CableRouteKind>(kind); });
                     });
    sizeRow(tray ? tr("Width inside") : tr("Inner diameter"), route.widthMm,
            tray ? tr("200 mm") : tr("25 mm"), [](CableRoute& r, std::int64_t mm) {
                r.widthMm = static_cast<int>(std::min<std::int64_t>(mm, INT_MAX));
            });
    if (tray)
        sizeRow(tr("Depth inside"), route.depthMm, tr("60 mm"), [](CableRoute& r, std::int64_t mm) {
            r.depthMm = static_cast<int>(std::min<std::int64_t>(mm, INT_MAX));
        });
    sizeRow(tr("Above the floor"), route.heightMm, tr("2,700 mm"),
            [](CableRoute& r, std::int64_t mm) { r.heightMm = mm; });
    form_->textRow(
        tr("Filled at most"), route.limitPercent > 0 ? tr("%1 %").arg(route.limitPercent) : QString(),
        tr("as is usual: %1 %").arg(linking::limitOf(route, 3)),
        [change](const std::string& typed) -> edit::ActResult {
            QString words = shownText(typed).remove(QLatin1Char('%')).trimmed();
            bool good = true;
            const int percent = words.isEmpty() ? 0 : words.toInt(&good);
            if (!good)
                return error(tr("%1 is no number of per cent").arg(shownText(typed)), tr("write 40 %"));
            return change([&](CableRoute& r) { r.limitPercent = percent; });
        });
    form_->textRow(tr("Note"), shownText(route.note), {}, [change](const std::string& typed) {
        return change([&](CableRoute& r) { r.note = typed; });
    });
    loadRows(route);
    findingRows(refTo(route.id));
}

void DetailsPanel::loadRows(const CableRoute& route) {
    constexpr std::size_t mostShown = 12;
    const Network& network = session_.network();
    const auto loads = linking::loadsOn(network, route.floor);
    const auto held = std::find_if(loads.begin(), loads.end(),
                                   [&](const linking::RouteLoad& load) { return load.route == route.id; });
    if (held == loads.end())
        return;
    form_->heading(tr("In it"));
    if (held->cables.empty()) {
        form_->emptyRow(tr("Nothing. Cables run in it whose ends have places near it."));
        return;
    }
    form_->row(tr("Filled"), tr("%1 %, at most %2 %").arg(held->percent).arg(held->limit));
    form_->row(tr("Where fullest"), tr("%Ln cable(s), %1 from its beginning", nullptr, held->there)
                                        .arg(shownLength(held->atMm, session_.lengthUnit())));
    std::vector<LinkId> links;
    for (const CableId id : held->cables) {
        const Cable* cable = network.cable(id);
        const Link* link = cable && !cable->ends.empty() ? network.linkAt(cable->ends.front().at) : nullptr;
        if (link)
            links.push_back(link->id);
    }
    const auto words = [&](LinkId id) {
        const Link& link = *network.link(id);
        const std::string& label = network.cable(link.cable)->label;
        return label.empty() ? edit::linkText(network, link) : label;
    };
    std::sort(links.begin(), links.end(),
              [&](LinkId a, LinkId b) { return naturalLess(words(a), words(b)); });
    for (std::size_t i = 0; i < std::min(mostShown, links.size()); ++i)
        form_->linkRow({}, shownText(words(links[i])),
                       [this, id = links[i]] { session_.navigation().goTo(refTo(id)); });
    if (links.size() > mostShown)
        form_->row({}, tr("and %Ln more", nullptr, static_cast<int>(links.size() - mostShown)));
    form_->linkRow({}, tr("Select what runs in it"), [this, links] {
        edit::Refs lines;
        for (const LinkId id : links)
            lines.push_back(refTo(id));
        selectCounted(lines);
    });
}

} // namespace underridge::app
