// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/best.h"

#include <array>
#include <fmt/format.h>
#include <set>

namespace underridge::linking {
using namespace model;
namespace {

/// How far from the endpoints a device stands, in halves: a phone carries a workstation, so it stands
/// half a step up.
int tierOf(const Network& network, const Device& device) {
    const DeviceModel* model = network.modelOf(device);
    if (!model)
        return 0;
    bool accessInCages = false, hasAccess = false, hasUplink = false;
    for (const PortBlock& block : model->ports.blocks()) {
        if (block.use != PortUse::data)
            continue;
        hasUplink |= block.block == Block::uplink;
        if (block.block == Block::access) {
            hasAccess = true;
            accessInCages |= block.cage != Cage::none;
        }
    }
    switch (familyOf(model->role)) {
    case RoleFamily::endpoint:
        return hasAccess && hasUplink ? 1 : 0;
    case RoleFamily::server:
    case RoleFamily::accessPoint:
        return 0;
    case RoleFamily::switch_:
        return accessInCages ? 4 : 2;
    case RoleFamily::router:
    case RoleFamily::firewall:
        return 6;
    case RoleFamily::provider:
        return 8;
    case RoleFamily::patchPanel:
        return 0;
    }
    return 0;
}

bool hasBlock(const Network& network, const Device& device, Block block) {
    const DeviceModel* model = network.modelOf(device);
    return model &&
           std::any_of(model->ports.blocks().begin(), model->ports.blocks().end(),
                       [&](const PortBlock& b) { return b.block == block && b.use == PortUse::data; });
}

/// A device's ports that a link could take, with what ranking needs of them.
struct Side {
    const Device* device = nullptr;
    Block right = Block::access;
    std::vector<PortView> ports;
    std::set<std::string> taken;
    bool fromHighEnd = false;
    bool sparesUplinks = false; ///< an endpoint gets none of its uplink block
};

std::set<std::string> takenPorts(const Network& network, DeviceId device, LinkId spare) {
    std::set<std::string> taken;
    network.forEachLinkOf(device, [&](const Link& link) {
        if (link.id == spare)
            return;
        for (const PortRef* end : {&link.a, &link.b})
            if (end->device == device && end->known())
                taken.insert(end->port);
    });
    return taken;
}

Side sideOf(const Network& network, const Device& device, const Device& peer, LinkId spare,
            const Habits& habits = {}) {
    Side side{&device, rightBlock(network, device, peer), portsOf(network, device),
              takenPorts(network, device.id, spare)};
    side.fromHighEnd = habits.fromHighEnd;
    side.sparesUplinks = !habits.hostsTakeUplinks && side.right == Block::access &&
                         hasBlock(network, device, Block::access) &&
                         familyOf(roleOf(network, peer)) == RoleFamily::endpoint;
    for (const PortView& port : side.ports)
        if (port.isShared())
            side.taken.erase(port.key);
    // The transceivers of a link being changed are as free as its ports.
    if (const Link* link = network.link(spare))
        for (PortView& port : side.ports)
            if (link->a == PortRef{device.id, port.key} || link->b == PortRef{device.id, port.key})
                port.transceiver = nullptr;
    return side;
}

using Rank = std::array<int, 7>;

Rank rankOf(const PortView& a, const PortView& b, const Joint& joint, const Side& sideA, const Side& sideB) {
    const auto misplaced = [](const PortView& port, const Side& side) {
        const Block block = port.like->block;
        if (block == side.right)
            return 0;
        return block == Block::management || block == Block::stack ? 3 : 1;
    };
    const auto waste = [&](const PortView& port) {
        const auto rates = port.rates();
        return rates.empty() ? 0 : rates.back() - joint.speed;
    };
    const auto unpowered = [](const PortView& load, const PortView& source) {
        const bool wants = load.like->power == PowerSide::load;
        return wants &&
               (source.like->power != PowerSide::source || source.like->powerType < load.like->powerType);
    };
    return {joint.console,
            joint.transceivers(),
            misplaced(a, sideA) + misplaced(b, sideB),
            -joint.speed,
            waste(a) + waste(b),
            unpowered(a, b) + unpowered(b, a),
            a.reserved() + b.reserved() + a.disabled() + b.disabled()};
}

/// Ports alike in everything the ranking regards; only the first free one of each need be tried.
std::vector<const PortView*> firstsOf(const Side& side, const std::string& wanted) {
    std::vector<const PortView*> firsts;
    for (std::size_t i = 0; i < side.ports.size(); ++i) {
        const PortView& port = side.ports[side.fromHighEnd ? side.ports.size() - 1 - i : i];
        if (!wanted.empty() ? port.key != wanted
                            : side.taken.contains(port.key) ||
                                  (side.sparesUplinks && port.like->block == Block::uplink && port.isData()))
            continue;
        const auto alike = [&](const PortView* other) {
            return other->like->block == port.like->block && *other->like == *port.like &&
                   other->transceiver == port.transceiver && other->rates() == port.rates() &&
                   other->reserved() == port.reserved() && other->disabled() == port.disabled();
        };
        if (std::none_of(firsts.begin(), firsts.end(), alike))
            firsts.push_back(&port);
    }
    return firsts;
}

struct Best {
    const PortView* a = nullptr;
    const PortView* b = nullptr;
    Joint joint;
    Rank rank{};
    std::string why; ///< when there is none
};

Best search(const Side& sideA, const Side& sideB, const std::string& wantedA, const std::string& wantedB,
            const Catalogue& catalogue) {
    Best best;
    for (const PortView* a : firstsOf(sideA, wantedA))
        for (const PortView* b : firstsOf(sideB, wantedB)) {
            const Fit found = fit(*a, *b, catalogue);
            if (!found && (best.why.empty() || (a->isData() && b->isData())))
                best.why = found.why;
            for (const Joint& joint : found.joints) {
                const Rank rank = rankOf(*a, *b, joint, sideA, sideB);
                if (!best.a || rank < best.rank)
                    best = {a, b, joint, rank, {}};
            }
        }
    return best;
}

std::string reasonFor(const Best& best, const Side& sideA, const Side& sideB, const End& wanted) {
    if (!wanted.port.empty())
        return "port as chosen";
    if (best.joint.transceivers() > 0)
        return "nothing fits without a transceiver";
    const auto right = [](const PortView& port, const Side& side) { return port.like->block == side.right; };
    // The end whose block says most: the one that is not the only port of its device.
    const bool speakOfA = sideA.ports.size() >= sideB.ports.size();
    const PortView& port = speakOfA ? *best.a : *best.b;
    const Side& side = speakOfA ? sideA : sideB;
    if (best.a->reserved() || best.b->reserved())
        return "only a reserved port is left";
    if (!right(port, side))
        return fmt::format("fits its peer; the {} does not", titleOf(side.right));
    return fmt::format("next free port of the {}", titleOf(port.like->block));
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
    return std::all_of(side.ports.begin(), side.ports.end(),
                       [&](const PortView& port) { return !port.isData() || side.taken.contains(port.key); });
}

/// The first free data port, for a link that will not come up anyway.
std::string anyFree(const Side& side) {
    for (const PortView& port : side.ports)
        if (port.isData() && !side.taken.contains(port.key))
            return port.key;
    return {};
}

} // namespace

Block rightBlock(const Network& network, const Device& device, const Device& peer) {
    // A server goes on its peer's access block, so the port that is like that block is the right one.
    if (familyOf(roleOf(network, device)) == RoleFamily::server)
        return tierOf(network, peer) == 4 && hasBlock(network, device, Block::uplink) ? Block::uplink
                                                                                      : Block::access;
    const int mine = tierOf(network, device), theirs = tierOf(network, peer);
    const bool up = theirs > mine || (theirs == mine && mine > 0);
    return up && hasBlock(network, device, Block::uplink) ? Block::uplink : Block::access;
}

Result<Proposal> bestPair(const Network& network, const Catalogue& catalogue, const End& a, const End& b,
                          const Habits& habits) {
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
    const Best best = search(sideA, sideB, a.port, b.port, catalogue);
    for (const auto& [side, wanted] : {std::pair(&sideA, &a.port), std::pair(&sideB, &b.port)})
        if ((!best.a || (best.joint.console && !forConsole)) && side->sparesUplinks && wanted->empty() &&
            onlyUplinksFree(*side))
            return error(fmt::format("{} has only uplink ports left", side->device->name),
                         "choose one of them, or allow it in the preferences");
    if (!best.a)
        return error(best.why.empty() ? "there is no such port" : best.why, "choose other ports");
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

std::vector<DrawerRow> drawerRows(const Network& network, const Catalogue& catalogue, const End& from,
                                  DeviceId target, LinkId spare) {
    std::vector<DrawerRow> rows;
    const Device* device = network.device(target);
    const Device* other = network.device(from.device);
    if (!device || !other)
        return rows;
    const Side near = sideOf(network, *other, *device, spare);
    const Side far = sideOf(network, *device, *other, spare);
    std::vector<std::pair<Rank, DrawerRow>> ranked;
    for (const PortView& port : far.ports) {
        DrawerRow row{port.key, Standing::taken, false, {}, {}, {}};
        Rank rank{};
        if (far.taken.contains(port.key)) {
            const Link* link = network.linkAt({target, port.key});
            const PortRef& peer = link->a == PortRef{target, port.key} ? link->b : link->a;
            const Device* peerDevice = network.device(peer.device);
            row.text = fmt::format("taken: {} {}", peerDevice ? peerDevice->name : "?", peer.port);
        } else if (const Best best = search(near, far, from.port, port.key, catalogue); best.a) {
            row.joint = best.joint;
            row.other = best.a->key;
            row.standing = best.joint.transceivers() > 0 ? Standing::needsTransceiver : Standing::fits;
            row.text = fmt::format("{} · {}", describe(port), titleOf(port.like->block));
            if (port.reserved())
                row.text += " · reserved";
            if (row.standing == Standing::needsTransceiver)
                row.text += " · needs a transceiver";
            rank = best.rank;
        } else {
            row.standing = Standing::doesNotFit;
            row.text = best.why.empty() ? describe(port) : best.why;
            row.other = !from.port.empty() ? from.port : anyFree(near);
        }
        ranked.emplace_back(rank, std::move(row));
    }
    std::stable_sort(ranked.begin(), ranked.end(), [](const auto& x, const auto& y) {
        return std::tuple(x.second.standing, x.first) < std::tuple(y.second.standing, y.first);
    });
    for (auto& [rank, row] : ranked)
        rows.push_back(std::move(row));
    if (!rows.empty() && rows.front().standing <= Standing::needsTransceiver)
        rows.front().best = true;
    return rows;
}

} // namespace underridge::linking
