// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/ranking.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

std::string reasonFor(const Best& best, const Side& sideA, const Side& sideB, const End& wanted) {
    if (!wanted.port.empty())
        return "port as chosen";
    const auto right = [](const PortView& port, const Side& side) {
        return port.like->block == side.right ||
               (side.anyBlock && (port.like->block == Block::access || port.like->block == Block::uplink));
    };
    // The end whose block says most: the one that is not the only port of its device.
    const bool speakOfA = sideA.ports.size() >= sideB.ports.size();
    const PortView& port = speakOfA ? *best.a : *best.b;
    const Side& side = speakOfA ? sideA : sideB;
    if (best.a->reserved() || best.b->reserved())
        return "only a reserved port is left";
    if (const auto unit = unitOf(port);
        !side.standsBy.empty() && !side.standsBy.contains(unit) && !unit.empty())
        return fmt::format("on {}, apart from the others", unit);
    const char* fitted = best.joint.transceivers() > 0 ? ", with a transceiver" : "";
    if (!right(port, side))
        return fmt::format("fits its peer; the {} does not{}", titleOf(side.right), fitted);
    return fmt::format("next free port of the {}{}", titleOf(port.like->block), fitted);
}

std::string noFreePort(const Side& side) {
    return fmt::format("{} has no free port", side.device->name);
}

bool onlyUplinksFree(const Side& side) {
    return std::none_of(side.ports.begin(), side.ports.end(), [&](const PortView& port) {
        return port.isData() && port.like->block == Block::access && !side.taken.contains(port.key);
    });
}

bool allTaken(const Side& side) {
    return std::all_of(side.ports.begin(), side.ports.end(), [&](const PortView& port) {
        return !port.isData() || side.taken.contains(port.key) ||
               (side.sparesManagement && port.like->block == Block::management);
    });
}

/// The first free data port, for a link that will not come up anyway.
std::string anyFree(const Side& side) {
    for (const PortView& port : side.ports)
        if (port.isData() && !side.taken.contains(port.key))
            return port.key;
    return {};
}

} // namespace

Result<Proposal> bestPair(const Network& network, const Catalogue& catalogue, const End& a, const End& b,
                          const Habits& habits, const Wishes& wishes) {
    Fits fits(catalogue);
    return bestPair(network, fits, a, b, habits, wishes);
}

Result<Proposal> bestPair(const Network& network, Fits& fits, const End& a, const End& b,
                          const Habits& habits, const Wishes& wishes) {
    const Device* deviceA = network.device(a.device);
    const Device* deviceB = network.device(b.device);
    if (!deviceA || !deviceB)
        return error("the device is no longer there");
    if (deviceA == deviceB)
        return error(fmt::format("{} cannot be linked to itself", deviceA->name), "choose another device");
    const Side sideA = sideOf(network, *deviceA, *deviceB, {}, habits);
    const Side sideB = sideOf(network, *deviceB, *deviceA, {}, habits);
    const auto isConsole = [](const Side& side, const std::string& wanted) {
        return std::any_of(side.ports.begin(), side.ports.end(),
                           [&](const PortView& port) { return port.key == wanted && !port.isData(); });
    };
    const bool forConsole = isConsole(sideA, a.port) || isConsole(sideB, b.port);
    for (const auto& [side, wanted] : {std::pair(&sideA, &a.port), std::pair(&sideB, &b.port)}) {
        if (!wanted->empty() && side->taken.contains(*wanted))
            return error(fmt::format("port {} of {} is taken", *wanted, side->device->name),
                         "choose a free one");
        if (wanted->empty() && !forConsole && allTaken(*side))
            return error(noFreePort(*side), "unlink one or fit a module");
    }
    PairSearch search(network, fits, sideA, sideB);
    search.assume(wishes.lengthMm, wishes.cables);
    Best best = search.best(a.port, b.port);
    if (!best.a && (wishes.insists || (!a.port.empty() && !b.port.empty())))
        best = search.leastBad();
    for (const auto& [side, wanted] : {std::pair(&sideA, &a.port), std::pair(&sideB, &b.port)})
        if ((!best.a || (best.joint.console && !forConsole)) && side->sparesUplinks && wanted->empty() &&
            onlyUplinksFree(*side))
            return error(fmt::format("{} has only uplink ports left", side->device->name),
                         "choose one of them, or allow it in the preferences");
    if (!best.a)
        return error(best.why.empty() ? "there is no such port" : best.why,
                     "choose other ports, or link them all the same from the port drawer");
    return Proposal{{a.device, best.a->key},
                    {b.device, best.b->key},
                    best.joint,
                    reasonFor(best, sideA, sideB, a.port.empty() ? b : a)};
}

Result<Proposal> anyPair(const Network& network, const Catalogue& catalogue, const PortRef& a,
                         const PortRef& b) {
    if (a.device == b.device)
        return error("a device cannot be linked to itself", "choose another device");
    const auto portA = portAt(network, a), portB = portAt(network, b);
    if (!portA || !portB)
        return error("the port is no longer there", "choose another");
    Proposal proposal{a, b, {}, "does not fit, as wanted"};
    int best = 0;
    for (const CableType& cable : catalogue.cables) {
        const auto goes = [&](Connector x, Connector y) {
            return (x != Connector::none && x == portA->connector()) +
                   (y != Connector::none && y == portB->connector());
        };
        const int plugs =
            std::max(goes(cable.connectorA, cable.connectorB), goes(cable.connectorB, cable.connectorA));
        if (plugs > best) {
            best = plugs;
            proposal.joint.cable = cable.id;
            proposal.joint.medium = cable.medium;
            proposal.joint.console = cable.console;
        }
    }
    return proposal;
}

Fit fitFor(const Network& network, const Catalogue& catalogue, const Link& link) {
    auto a = portAt(network, link.a), b = portAt(network, link.b);
    if (!a || !b)
        return {{}, "an end is not known"};
    a->transceiver = b->transceiver = nullptr;
    return fit(*a, *b, catalogue);
}

namespace {

using RankedRow = std::pair<Rank, DrawerRow>;

/// The row of a port that the search found a way to.
RankedRow rowOf(const Best& best, const PortView& port) {
    DrawerRow row{port.key, Standing::fits, false, {}, best.joint, best.a->key, {}, {}};
    row.text = fmt::format("{} · {}", describe(port), titleOf(port.like->block));
    if (port.reserved())
        row.text += " · reserved";
    if (port.disabled())
        row.text += " · disabled";
    if (best.joint.transceivers() > 0) {
        row.standing = Standing::needsTransceiver;
        row.text += " · needs a transceiver";
    }
    return {best.rank, std::move(row)};
}

/// What fitting something at one end would give, the best port of each: at the target, or
/// at the end the link comes from.
void offerSupplies(const Network& network, const Catalogue& catalogue, const End& from, DeviceId target,
                   bool atTarget, LinkId spare, std::vector<RankedRow>& out) {
    const DeviceId id = atTarget ? target : from.device;
    const Device& device = *network.device(id);
    for (Supply& supply : suppliesFor(network, catalogue, device)) {
        const auto fitted = withSupply(network, catalogue, id, supply);
        if (!fitted)
            continue;
        const Device &near = *fitted->device(from.device), &far = *fitted->device(target);
        Side sides[2] = {sideOf(*fitted, near, far, spare), sideOf(*fitted, far, near, spare)};
        std::erase_if(sides[atTarget].ports, [&](const PortView& port) {
            return portAt(network, {id, port.key});
        });
        Fits fits(catalogue); // the models of another network
        const Best best = PairSearch(*fitted, fits, sides[0], sides[1], spare).best(from.port, {});
        if (!best.a)
            continue;
        auto [rank, row] = rowOf(best, *best.b);
        row.standing = Standing::needsSupply;
        row.text = (atTarget ? std::string() : device.name + ": ") + supply.text +
                   (best.joint.transceivers() > 0 ? " · needs a transceiver" : "");
        (atTarget ? row.supply : row.otherSupply) = std::move(supply);
        out.emplace_back(rank, std::move(row));
    }
}

} // namespace

std::vector<DrawerRow> drawerRows(const Network& network, const Catalogue& catalogue, const End& from,
                                  DeviceId target, LinkId spare) {
    std::vector<DrawerRow> rows;
    const Device* device = network.device(target);
    const Device* other = network.device(from.device);
    if (!device || !other)
        return rows;
    const Side near = sideOf(network, *other, *device, spare);
    const Side far = sideOf(network, *device, *other, spare);
    Fits fits(catalogue);
    PairSearch search(network, fits, near, far, spare);
    std::vector<RankedRow> ranked;
    bool any = false;
    for (const PortView& port : far.ports) {
        if (far.taken.contains(port.key)) {
            const Link* link = network.linkAt({target, port.key});
            const PortRef& peer = link->a == PortRef{target, port.key} ? link->b : link->a;
            DrawerRow row{port.key, Standing::taken, false, "taken: " + portText(network, peer), {}, {}, {},
                          {}};
            ranked.emplace_back(Rank{}, std::move(row));
        } else if (const Best best = search.best(from.port, port.key); best.a) {
            any |= !best.joint.console;
            ranked.push_back(rowOf(best, port));
        } else {
            DrawerRow row{port.key, Standing::doesNotFit, false, best.why, {}, {}, {}, {}};
            if (row.text.empty())
                row.text = describe(port);
            row.other = !from.port.empty() ? from.port : anyFree(near);
            ranked.emplace_back(Rank{}, std::move(row));
        }
    }
    offerSupplies(network, catalogue, from, target, true, spare, ranked);
    if (!any && from.port.empty())
        offerSupplies(network, catalogue, from, target, false, spare, ranked);
    std::set<std::string> disabled;
    for (const PortView& port : far.ports)
        if (port.disabled())
            disabled.insert(port.key);
    const auto isOff = [&](const DrawerRow& row) { return disabled.contains(row.port); };
    std::stable_sort(ranked.begin(), ranked.end(), [&](const auto& x, const auto& y) {
        return std::tuple(x.second.standing, isOff(x.second), x.first) <
               std::tuple(y.second.standing, isOff(y.second), y.first);
    });
    for (auto& [rank, row] : ranked)
        rows.push_back(std::move(row));
    if (!rows.empty() && rows.front().standing <= Standing::needsSupply && !isOff(rows.front()))
        rows.front().best = true;
    return rows;
}

} // namespace underridge::linking
