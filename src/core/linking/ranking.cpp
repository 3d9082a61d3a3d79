// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/ranking.h"

#include "core/linking/route.h"

namespace underridge::linking {
using namespace model;

int tierOf(const Network& network, const Device& device) {
    const DeviceModel* model = network.modelOf(device);
    if (!model)
        return 0;
    bool accessInCages = false, hasAccess = false, hasUplink = false;
    const auto regard = [&](const PortLayout& ports) {
        for (const PortBlock& block : ports.blocks()) {
            if (block.use != PortUse::data)
                continue;
            hasUplink |= block.block == Block::uplink;
            if (block.block == Block::access) {
                hasAccess = true;
                accessInCages |= block.cage != Cage::none;
            }
        }
    };
    regard(model->ports);
    for (const FittedModule& fitted : device.modules)
        if (const auto* module = network.find<ModuleModel>({fnv1a(fitted.model), 0}))
            regard(module->ports);
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

bool Side::isFree(const PortView& port) const {
    return !taken.contains(port.key) &&
           !(sparesUplinks && port.like->block == Block::uplink && port.isData());
}

std::string unitOf(const PortView& port) {
    const std::string& key = port.parent.empty() ? port.key : port.parent;
    const auto slash = key.rfind('/');
    return slash == std::string::npos ? std::string() : key.substr(0, slash);
}

Block rightBlock(const Network& network, const Device& device, const Device& peer) {
    // A server goes on its peer's access block, so the port that is like that block is
    // the right one.
    if (familyOf(roleOf(network, device)) == RoleFamily::server)
        return tierOf(network, peer) == 4 && hasBlock(network, device, Block::uplink) ? Block::uplink
                                                                                      : Block::access;
    const int mine = tierOf(network, device), theirs = tierOf(network, peer);
    const bool up = theirs > mine || (theirs == mine && mine > 0);
    return up && hasBlock(network, device, Block::uplink) ? Block::uplink : Block::access;
}

namespace {

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

} // namespace

Side sideOf(const Network& network, const Device& device, const Device& peer, LinkId spare,
            const Habits& habits) {
    Side side{&device, rightBlock(network, device, peer), portsOf(network, device),
              takenPorts(network, device.id, spare)};
    if (const auto way = wayBetween(network, {device.id, {}}, {peer.id, {}}))
        side.wayMm = *way;
    side.fromHighEnd = habits.fromHighEnd;
    side.sparesUplinks = !habits.hostsTakeUplinks && side.right == Block::access &&
                         hasBlock(network, device, Block::access) &&
                         familyOf(roleOf(network, peer)) == RoleFamily::endpoint;
    for (const PortView& port : side.ports)
        if (port.isShared())
            side.taken.erase(port.key);
    const int mine = tierOf(network, device), theirs = tierOf(network, peer);
    network.forEachLinkOf(device.id, [&](const Link& link) {
        const bool isA = link.a.device == device.id;
        const PortRef &here = isA ? link.a : link.b, &there = isA ? link.b : link.a;
        const Device* other = network.device(there.device);
        if (link.id == spare || link.console || !other || !here.known())
            return;
        const bool sameUplink = theirs > mine && tierOf(network, *other) == theirs;
        if (there.device == peer.id || sameUplink)
            if (const auto port = portAt(network, here))
                ++side.standsBy[unitOf(*port)];
    });
    // The transceivers of a link being changed are as free as its ports.
    if (const Link* link = network.link(spare))
        for (PortView& port : side.ports)
            if (link->a == PortRef{device.id, port.key} || link->b == PortRef{device.id, port.key})
                port.transceiver = nullptr;
    return side;
}

Rank rankOf(const PortView& a, const PortView& b, const Joint& joint, const Side& sideA, const Side& sideB,
            const Catalogue& catalogue) {
    const CableType* cable = catalogue.cable(joint.cable);
    const bool tooShort = cable && cable->maxLengthMm > 0 && cable->maxLengthMm < sideA.wayMm;
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
    const auto packed = [](const PortView& port, const Side& side) {
        const auto at = side.standsBy.find(unitOf(port));
        return at == side.standsBy.end() ? 0 : at->second;
    };
    const auto unpowered = [](const PortView& load, const PortView& source) {
        const bool wants = load.like->power == PowerSide::load;
        return wants &&
               (source.like->power != PowerSide::source || source.like->powerType < load.like->powerType ||
                source.like->passivePower != load.like->passivePower);
    };
    return {joint.console + 2 * tooShort,
            joint.transceivers(),
            misplaced(a, sideA) + misplaced(b, sideB),
            -joint.speed,
            packed(a, sideA) + packed(b, sideB),
            unpowered(a, b) + unpowered(b, a),
            waste(a) + waste(b),
            a.reserved() + b.reserved() + a.disabled() + b.disabled()};
}

bool areAlike(const Side& side, const PortView& x, const PortView& y) {
    return x.like->block == y.like->block && *x.like == *y.like && x.transceiver == y.transceiver &&
           x.rates() == y.rates() && x.reserved() == y.reserved() && x.disabled() == y.disabled() &&
           (side.standsBy.empty() || unitOf(x) == unitOf(y));
}

std::vector<const PortView*> firstsOf(const Side& side, const std::string& wanted) {
    std::vector<const PortView*> firsts;
    for (std::size_t i = 0; i < side.ports.size(); ++i) {
        const PortView& port = side.ports[side.fromHighEnd ? side.ports.size() - 1 - i : i];
        if (!wanted.empty() ? port.key != wanted : !side.isFree(port))
            continue;
        const auto alike = [&](const PortView* other) { return areAlike(side, *other, port); };
        if (std::none_of(firsts.begin(), firsts.end(), alike))
            firsts.push_back(&port);
    }
    return firsts;
}

Best search(const Side& sideA, const Side& sideB, const std::string& wantedA, const std::string& wantedB,
            const Catalogue& catalogue) {
    Best best;
    for (const PortView* a : firstsOf(sideA, wantedA))
        for (const PortView* b : firstsOf(sideB, wantedB)) {
            const Fit found = fit(*a, *b, catalogue);
            if (!found && (best.why.empty() || (a->isData() && b->isData())))
                best.why = found.why;
            for (const Joint& joint : found.joints) {
                const Rank rank = rankOf(*a, *b, joint, sideA, sideB, catalogue);
                if (!best.a || rank < best.rank)
                    best = {a, b, joint, rank, {}};
            }
        }
    return best;
}

} // namespace underridge::linking
