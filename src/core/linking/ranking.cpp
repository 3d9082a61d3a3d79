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
    return !taken.contains(port.key) && !port.disabled() &&
           !(sparesUplinks && port.like->block == Block::uplink && port.isData()) &&
           !(sparesManagement && port.like->block == Block::management && port.isData());
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
    side.fromHighEnd = habits.fromHighEnd;
    side.sparesUplinks = !habits.hostsTakeUplinks && side.right == Block::access &&
                         hasBlock(network, device, Block::access) &&
                         familyOf(roleOf(network, peer)) == RoleFamily::endpoint;
    for (const PortView& port : side.ports) {
        side.sparesManagement |= port.isData() && port.like->block != Block::management;
        if (port.isShared())
            side.taken.erase(port.key);
    }
    const RoleFamily family = familyOf(roleOf(network, device));
    side.anyBlock = family == RoleFamily::router || family == RoleFamily::firewall;
    side.passive = isPassive(network, device);
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

Rank rankOf(const PortView& a, const PortView& b, const Joint& joint, const Side& sideA, const Side& sideB) {
    const auto misplaced = [](const PortView& port, const Side& side) {
        const Block block = port.like->block;
        if (block == side.right || (side.anyBlock && (block == Block::access || block == Block::uplink)))
            return 0;
        return block == Block::management || block == Block::stack ? 3 : 1;
    };
    // An active optical cable is two transceivers that fit nothing else: fibre is better.
    const auto needed = [](const Joint& each) {
        return each.medium == Medium::activeOptical ? 3 : each.transceivers();
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
    return {joint.console,
            misplaced(a, sideA) + misplaced(b, sideB),
            -joint.speed,
            needed(joint),
            packed(a, sideA) + packed(b, sideB),
            unpowered(a, b) + unpowered(b, a),
            waste(a) + waste(b),
            a.reserved() + b.reserved() + a.disabled() + b.disabled()};
}

bool areAlike(const Side& side, const PortView& x, const PortView& y) {
    const auto settings = [](const PortView& port) {
        return port.record ? std::tuple(port.record->powerOff, port.record->duplex, port.record->fec,
                                        port.record->speed, port.record->givesClock)
                           : std::tuple(false, Duplex::automatic, Fec::automatic, 0, false);
    };
    return !side.passive && x.like->block == y.like->block && *x.like == *y.like &&
           x.transceiver == y.transceiver && x.lanes == y.lanes && settings(x) == settings(y) &&
           x.reserved() == y.reserved() && x.disabled() == y.disabled() &&
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

PairSearch::PairSearch(const Network& network, Fits& fits, const Side& a, const Side& b, LinkId spare)
    : network_(network),
      catalogue_(fits.catalogue()),
      a_(a),
      b_(b),
      spare_(spare),
      ways_(network),
      fits_(fits) {}

Planned PairSearch::planned(const PortView& a, const PortView& b, const Joint& joint) {
    Planned out;
    out.a = {a_.device->id, a.key};
    out.b = {b_.device->id, b.key};
    out.type = catalogue_.cable(joint.cable);
    out.optics[0] = catalogue_.transceiver(joint.transceiverA);
    out.optics[1] = catalogue_.transceiver(joint.transceiverB);
    out.instead = spare_;
    out.lengthMm = lengthMm_;
    if (const Link* link = network_.link(spare_); link && out.lengthMm == 0) // it keeps its length
        if (const Cable* cable = network_.cable(link->cable))
            out.lengthMm = cable->lengthMm;
    if (out.type && out.lengthMm == 0)
        if (const auto mm = lengthFor(network_, ways_, *out.type, out.a, out.b))
            out.lengthMm = *mm;
    return out;
}

Best PairSearch::best(const std::string& wantedA, const std::string& wantedB) {
    struct Try {
        Rank rank;
        const PortView *a, *b;
        const Joint* joint;
    };
    Best best;
    std::vector<Try> tries;
    bool isNear = false; // what comes nearest to fitting is told
    for (const PortView* a : firstsOf(a_, wantedA))
        for (const PortView* b : firstsOf(b_, wantedB)) {
            const Fit& found = fits_.of(*a, *b);
            if (!found && (best.why.empty() || found.isNear > isNear ||
                           (a->isData() && b->isData() && found.isNear == isNear))) {
                best.why = found.why;
                isNear = found.isNear;
            }
            for (const Joint& joint : found.joints)
                if (cables_.empty() ||
                    std::find(cables_.begin(), cables_.end(), joint.cable) != cables_.end())
                    tries.push_back({rankOf(*a, *b, joint, a_, b_), a, b, &joint});
        }
    std::stable_sort(tries.begin(), tries.end(), [](const Try& x, const Try& y) { return x.rank < y.rank; });
    // What one pair of ports cannot have by any cable need not be asked again.
    std::set<std::pair<const PortView*, const PortView*>> hopeless;
    constexpr int most = 400; // a pair is found after a few; this bounds what one search may take
    int asked = 0;
    std::map<std::string_view, std::pair<int, std::string>> objections;
    leastBad_ = {};
    leastBad_.why = best.why;
    if (!tries.empty())
        leastBad_ = {tries.front().a, tries.front().b, *tries.front().joint, tries.front().rank, {}};
    for (const Try& each : tries) {
        if (hopeless.contains({each.a, each.b}))
            continue;
        const auto objection = each.joint->console
                                   ? std::nullopt
                                   : objectionTo(network_, planned(*each.a, *each.b, *each.joint));
        if (!objection)
            return {each.a, each.b, *each.joint, each.rank, {}};
        auto& [times, message] = objections[objection->rule->code];
        if (times++ == 0 || objection->rule->code == "reach") // the last of them reaches farthest
            message = objection->message;
        if (objection->isOfPorts())
            hopeless.insert({each.a, each.b});
        if (++asked == most)
            break;
    }
    if (!objections.empty()) // what most of them fail by
        best.why = std::max_element(objections.begin(), objections.end(), [](const auto& x, const auto& y) {
                       return x.second.first < y.second.first;
                   })->second.second;
    return best;
}

} // namespace underridge::linking
