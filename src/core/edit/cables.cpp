// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/cables.h"

#include "core/edit/fields.h"
#include "core/edit/links.h"
#include "core/edit/names.h"
#include "core/linking/route.h"
#include "core/model/length.h"

#include <fmt/format.h>
#include <map>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

/// The links that use a cable, each once.
std::vector<const Link*> linksOn(const Network& network, const Cable& cable) {
    std::map<LinkId, const Link*> found;
    std::set<DeviceId> devices;
    for (const CableEnd& end : cable.ends)
        if (devices.insert(end.at.device).second)
            network.forEachLinkOf(end.at.device, [&](const Link& link) {
                if (link.cable == cable.id)
                    found[link.id] = &link;
            });
    std::vector<const Link*> out;
    for (const auto& [id, link] : found)
        out.push_back(link);
    return out;
}

bool joinsSame(const CableEnd& a, const CableEnd& b, const Link& link) {
    return (a.at == link.a && b.at == link.b) || (a.at == link.b && b.at == link.a);
}

/// Ends of a trunk cable lie in pairs. Those of a link go with it; the last pair stays,
/// so that the cable still leads from the one device to the other, at no port.
void freeEnds(Cable& cable, const Link& link) {
    std::vector<CableEnd> left;
    for (std::size_t i = 0; i + 1 < cable.ends.size(); i += 2)
        if (!joinsSame(cable.ends[i], cable.ends[i + 1], link))
            left.insert(left.end(), {cable.ends[i], cable.ends[i + 1]});
    if (left.empty())
        left = {{{link.a.device, {}}, {}}, {{link.b.device, {}}, {}}};
    cable.ends = std::move(left);
}

} // namespace

Strands strandsOf(const Network& network, const Cable& cable) {
    const CableType* type = network.typeOf(cable);
    Strands strands{type ? type->positions : 1, {}};
    std::set<int> used;
    for (const Link* link : linksOn(network, cable)) {
        if (link->positions.empty())
            return strands; // all of them
        used.insert(link->positions.begin(), link->positions.end());
    }
    for (int i = 1; i <= strands.all; ++i)
        if (!used.contains(i))
            strands.spare.push_back(i);
    return strands;
}

void takeOffCable(Network& network, const Link& link) {
    const Cable* held = network.cable(link.cable);
    if (!held)
        return;
    Cable cable = *held;
    const CableType* type = network.typeOf(cable);
    const auto others = linksOn(network, cable);
    const bool alone =
        std::all_of(others.begin(), others.end(), [&](const Link* other) { return other->id == link.id; });
    if (type && linking::isTrunk(*type)) {
        freeEnds(cable, link);
        network.put(std::move(cable));
        return;
    }
    if (alone) {
        network.erase<Cable>(cable.key());
        return;
    }
    std::erase_if(cable.ends, [&](const CableEnd& end) { return end.at == link.a || end.at == link.b; });
    network.put(std::move(cable));
}

std::vector<CableId> sparesBetween(const Network& network, DeviceId a, DeviceId b, int strands) {
    std::vector<CableId> out;
    network.forEachCableOf(a, [&](const Cable& cable) {
        const CableType* type = network.typeOf(cable);
        const bool there = std::any_of(cable.ends.begin(), cable.ends.end(),
                                       [&](const CableEnd& end) { return end.at.device == b; });
        if (there && type && linking::isTrunk(*type) &&
            static_cast<int>(strandsOf(network, cable).spare.size()) >= strands)
            out.push_back(cable.id);
    });
    return out;
}

ActResult layTrunk(const Network& network, const Catalogue& catalogue,
                   const std::vector<std::pair<PortRef, PortRef>>& pairs, const std::string& typeId,
                   CableId onto, IdSource& ids) {
    if (pairs.empty())
        return error("no ports are chosen", "choose some at both panels");
    const Cable* held = network.cable(onto);
    const CableType* type = held ? network.typeOf(*held) : catalogue.cable(typeId);
    if (!type || !linking::isTrunk(*type))
        return error("that is no trunk cable", "choose a type with more strands than a port takes");
    Act act{{}, network, {}};
    if (!network.find<CableType>(type->key()))
        act.network.put(*type);
    Cable cable;
    if (held)
        cable = *held;
    else {
        cable.id = ids.make<CableId>();
        cable.type = type->id;
        if (const auto mm = linking::lengthFor(network, *type, pairs.front().first, pairs.front().second))
            cable.lengthMm = *mm;
    }
    std::erase_if(cable.ends, [](const CableEnd& end) { return !end.at.known(); });
    std::vector<int> spare;
    if (held)
        spare = strandsOf(network, cable).spare;
    else
        for (int i = 1; i <= type->positions; ++i)
            spare.push_back(i);
    std::size_t next = 0;
    for (const auto& [a, b] : pairs) {
        for (const PortRef* end : {&a, &b}) {
            const auto port = portAt(network, *end);
            if (!port)
                return error(fmt::format("there is no port {}", portText(network, *end)), "choose others");
            if (act.network.linkAt(*end))
                return error(fmt::format("{} is taken", portText(network, *end)), "choose free ports");
            if (port->connector() != (end == &a ? type->connectorA : type->connectorB) &&
                port->connector() != (end == &a ? type->connectorB : type->connectorA))
                return error(fmt::format("{} does not go into {}", type->name, portText(network, *end)),
                             "choose another cable, or other ports");
        }
        const auto strands =
            static_cast<std::size_t>(std::max(1, linking::strandsOf(portAt(network, a)->connector())));
        if (next + strands > spare.size())
            return error(fmt::format("{} has {} strands{}; {} are asked for", type->name, type->positions,
                                     held ? fmt::format(", {} of them spare", spare.size()) : std::string(),
                                     strands * pairs.size()),
                         "choose fewer ports, or lay another cable");
        Link link;
        link.id = ids.make<LinkId>();
        link.a = a;
        link.b = b;
        link.cable = cable.id;
        link.positions.assign(spare.begin() + static_cast<std::ptrdiff_t>(next),
                              spare.begin() + static_cast<std::ptrdiff_t>(next + strands));
        next += strands;
        cable.ends.push_back({a, link.positions});
        cable.ends.push_back({b, link.positions});
        act.subjects.push_back(refTo(link.id));
        act.network.put(std::move(link));
    }
    act.network.put(std::move(cable));
    const auto name = [&](const PortRef& port) { return network.device(port.device)->name; };
    act.name = fmt::format("{} {} to {}", held ? "Use spare strands from" : "Lay a trunk cable from",
                           name(pairs.front().first), name(pairs.front().second));
    return act;
}

Result<std::vector<CableChange>> newLabels(const Network& network, const std::vector<CableId>& cables,
                                           const std::string& scheme) {
    if (cables.empty())
        return error("no cable is selected", "select links, or choose all cables");
    std::map<std::string, std::vector<std::size_t>> series;
    std::vector<CableChange> out;
    for (const CableId id : cables) {
        const Cable* cable = network.cable(id);
        if (!cable)
            continue;
        const auto text = filledFields(
            trimmed(scheme), [&](const std::string& field) { return cableField(network, *cable, field); });
        if (!text)
            return text.refusal();
        series[*text].push_back(out.size());
        out.push_back({id, cable->label, {}, {}});
    }
    std::set<CableId> among(cables.begin(), cables.end());
    std::vector<std::string> taken;
    network.all<Cable>().forEach([&](const Cable& cable) {
        if (!cable.label.empty() && !among.contains(cable.id))
            taken.push_back(cable.label);
    });
    for (const auto& [text, members] : series) {
        const auto names = seriesNames(text, static_cast<int>(members.size()), taken);
        if (!names)
            return names.refusal();
        for (std::size_t i = 0; i < members.size(); ++i)
            out[members[i]].after = (*names)[i];
        taken.insert(taken.end(), names->begin(), names->end());
    }
    return out;
}

ActResult labelCables(const Network& network, const std::vector<CableChange>& labels,
                      const std::string& scheme) {
    Act act{labels.size() == 1 ? std::string("Label 1 cable") : fmt::format("Label {} cables", labels.size()),
            network,
            {}};
    for (const CableChange& change : labels) {
        const Cable* held = network.cable(change.cable);
        if (!held)
            return error("a cable is no longer there", "look at the labels again");
        Cable cable = *held;
        cable.label = change.after;
        act.network.put(std::move(cable));
    }
    NetworkInfo info = network.info();
    info.labels = trimmed(scheme);
    act.network.put(std::move(info));
    return act;
}

std::vector<CableChange> newLengths(const Network& network, const std::vector<CableId>& cables) {
    std::vector<CableChange> out;
    linking::CableWays ways(network);
    for (const CableId id : cables) {
        const Cable* cable = network.cable(id);
        const CableType* type = cable ? network.typeOf(*cable) : nullptr;
        if (!cable)
            continue;
        CableChange change{
            id, cable->lengthMm > 0 ? lengthText(cable->lengthMm, LengthUnit::metres) : "", {}, {}};
        change.after = change.before;
        if (cable->lengthMeasured)
            change.remark = "measured; it stays";
        else if (!type || cable->ends.size() < 2)
            change.remark = "its type or an end is not known";
        else if (const auto mm =
                     linking::lengthFor(network, ways, *type, cable->ends.front().at, cable->ends.back().at);
                 !mm)
            change.remark = mm.refusal().what;
        else {
            change.after = lengthText(*mm, LengthUnit::metres);
            if (type->maxLengthMm > 0 && *mm > type->maxLengthMm)
                change.remark = "longer than its type reaches";
            else if (!type->lengthsMm.empty() &&
                     ways.between(cable->ends.front().at, cable->ends.back().at)->mm > type->lengthsMm.back())
                change.remark = "longer than its type can be had in";
        }
        out.push_back(std::move(change));
    }
    return out;
}

ActResult setLengths(const Network& network, const std::vector<CableChange>& lengths) {
    Act act{{}, network, {}};
    int changed = 0;
    for (const CableChange& change : lengths) {
        const Cable* held = network.cable(change.cable);
        if (!held || change.before == change.after)
            continue;
        Cable cable = *held;
        cable.lengthMm = parseLength(change.after, LengthUnit::metres).value_or(cable.lengthMm);
        cable.lengthMeasured = false;
        act.network.put(std::move(cable));
        ++changed;
    }
    if (changed == 0)
        return advice("no length changes", "give both ends a place first");
    act.name = changed == 1 ? std::string("Length of 1 cable") : fmt::format("Lengths of {} cables", changed);
    return act;
}

ActResult setLengthRule(const Network& network, std::int64_t slackMm, int marginPercent) {
    if (slackMm < 0 || slackMm > 100'000)
        return error("the slack is not from 0 to 100 m", "enter another");
    if (marginPercent < 0 || marginPercent > 100)
        return error("the margin is not from 0 to 100 %", "enter another");
    Act act{"Rule for lengths", network, {}};
    NetworkInfo info = network.info();
    info.slackMm = slackMm;
    info.marginPercent = marginPercent;
    act.network.put(std::move(info));
    return act;
}

ActResult stockCable(const Network& network, const CableType& type) {
    for (const Remark& problem : problemsOf(type))
        if (problem.severity == Severity::error)
            return problem;
    Act act{fmt::format("Cable stock: {}", type.name), network, {}};
    act.network.put(type);
    return act;
}

ActResult unstockCable(const Network& network, const Catalogue& catalogue, const std::string& id) {
    const auto* held = network.find<CableType>({fnv1a(id), 0});
    if (!held)
        return error("the type is not in the stock of this network", "choose another");
    bool used = false;
    network.all<Cable>().forEach([&](const Cable& cable) { used |= cable.type == id; });
    const CableType* original = catalogue.cable(id);
    if (used && !original)
        return error(fmt::format("cables of {} are in use", held->name), "give them another type first");
    Act act{fmt::format("Cable stock without {}", held->name), network, {}};
    if (used)
        act.network.put(*original);
    else
        act.network.erase<CableType>({fnv1a(id), 0});
    return act;
}

Catalogue withStock(const Catalogue& catalogue, const Network& network) {
    Catalogue out = catalogue;
    network.all<CableType>().forEach([&](const CableType& own) {
        const auto at = std::find_if(out.cables.begin(), out.cables.end(),
                                     [&](const CableType& type) { return type.id == own.id; });
        if (at != out.cables.end())
            *at = own;
        else
            out.cables.push_back(own);
    });
    return out;
}

} // namespace underridge::edit
