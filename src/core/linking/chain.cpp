// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/chain.h"

#include "core/linking/channel.h"
#include "core/linking/fit.h"
#include "core/model/ports.h"

namespace underridge::linking {
using namespace model;
namespace {

const CableType* typeOf(const Network& network, const Link& link) {
    const Cable* cable = network.cable(link.cable);
    return cable ? network.typeOf(*cable) : nullptr;
}

/// How many positions of a link's port are followed one by one: strands of a fibre;
/// copper goes as one.
int positionsOf(const Network& network, const Link& link) {
    const CableType* type = typeOf(network, link);
    if (!type || !isFibre(type->medium))
        return 1;
    return link.positions.empty() ? std::max(1, type->positions) : static_cast<int>(link.positions.size());
}

/// The positions of the far port, for those of the near one.
std::vector<int> carried(const Network& network, const Link& link, const std::vector<int>& positions) {
    const CableType* type = typeOf(network, link);
    if (!type || !isFibre(type->medium))
        return positions;
    std::vector<int> out;
    for (const int position : positions) {
        if (link.positions.empty()) {
            out.push_back(across(*type, position));
            continue;
        }
        const auto index = static_cast<std::size_t>(position - 1);
        const int inCable = index < link.positions.size() ? link.positions[index] : position;
        const auto far = std::find(link.positions.begin(), link.positions.end(), across(*type, inCable));
        out.push_back(far == link.positions.end() ? position
                                                  : static_cast<int>(far - link.positions.begin()) + 1);
    }
    return out;
}

/// The block at the other side of a panel, or of a midspan.
std::optional<Block> otherSide(const PortBlock& port, bool midspan) {
    switch (port.block) {
    case Block::front:
        return Block::rear;
    case Block::rear:
        return Block::front;
    case Block::access:
        return midspan ? std::optional(Block::uplink) : std::nullopt;
    case Block::uplink:
        return midspan ? std::optional(Block::access) : std::nullopt;
    default:
        return std::nullopt;
    }
}

/// Where a walk over cables and panels came to.
struct Walk {
    std::vector<Stretch> stretches;
    PortRef at;
    ChainEnd end = ChainEnd::open;
    bool joins = false;
};

struct PanelStep {
    PortRef port;
    std::vector<int> positions;
    bool split = false;
};

/// Through a panel with all positions at once; nothing when they lead nowhere.
std::optional<PanelStep> throughAll(const Network& network, const Device& panel, const std::string& port,
                                    const std::vector<int>& positions) {
    std::optional<PanelStep> step;
    for (const int position : positions) {
        const auto next = through(network, panel, {port, position});
        if (!next)
            continue;
        if (!step)
            step = PanelStep{{panel.id, next->port}, {}, false};
        step->split |= step->port.port != next->port;
        step->positions.push_back(next->position);
    }
    return step;
}

/// Leaves `port` by its cable and goes on until there is an end. `closes`: a port where a
/// planned link would lead back to the start.
Walk walkFrom(const Network& network, PortRef port, std::vector<int> positions, std::set<LinkId> walked,
              const PortRef& closes = {}) {
    Walk walk;
    walk.at = port;
    while (true) {
        if (closes.known() && port == closes) {
            walk.end = ChainEnd::loop;
            return walk;
        }
        const Link* link = network.linkAt(port);
        if (!link)
            return walk; // ChainEnd::open
        if (!walked.insert(link->id).second) {
            walk.end = ChainEnd::loop;
            return walk;
        }
        const PortRef& far = link->a == port ? link->b : link->a;
        std::vector<int> arrived = carried(network, *link, positions);
        walk.stretches.push_back({link->id, port, far, positions, arrived});
        walk.at = far;
        const Device* device = network.device(far.device);
        if (!far.known() || !device) {
            walk.end = ChainEnd::unknown;
            return walk;
        }
        if (!isPassive(network, *device)) {
            walk.end = ChainEnd::device;
            return walk;
        }
        const auto next = throughAll(network, *device, far.port, arrived);
        const bool splitter = roleOf(network, *device) == Role::splitter;
        if (!next) {
            walk.end = splitter ? ChainEnd::split : ChainEnd::open;
            return walk;
        }
        walk.joins |= splitter;
        if (next->split) {
            walk.end = ChainEnd::split;
            return walk;
        }
        port = next->port;
        positions = next->positions;
    }
}

std::vector<int> firstPositions(int count) {
    std::vector<int> out;
    for (int i = 1; i <= count; ++i)
        out.push_back(i);
    return out;
}

Stretch turned(const Stretch& stretch) {
    return {stretch.link, stretch.to, stretch.from, stretch.arrives, stretch.leaves};
}

} // namespace

bool isPassive(const Network& network, const Device& device) {
    const Role role = roleOf(network, device);
    const DeviceModel* model = network.modelOf(device);
    return role == Role::patchPanel || role == Role::outlet || role == Role::splitter ||
           (model && model->midspan);
}

int across(const CableType& type, int position) {
    const auto inPairs = [](int p) { return p % 2 == 1 ? p + 1 : p - 1; };
    switch (type.pinout) {
    case Pinout::straight:
    case Pinout::rolled:
        return position;
    case Pinout::crossed:
    case Pinout::pairs:
        return type.positions < 2 ? position : inPairs(position);
    case Pinout::reversed:
        return type.positions + 1 - position;
    }
    return position;
}

std::optional<PanelPosition> through(const Network& network, const Device& panel, const PanelPosition& at) {
    if (const auto* map =
            network.find<PanelMap>({panel.id.value, fnv1a(at.port + "\n" + std::to_string(at.position))}))
        return map->rear.empty() ? std::nullopt : std::optional(PanelPosition{map->rear, map->rearPosition});
    std::optional<PanelPosition> back;
    bool mapped = false; // something else of this rear port is, so the rest leads nowhere
    network.all<PanelMap>().forEachIn(panel.id.value, [&](const PanelMap& map) {
        mapped |= map.rear == at.port;
        if (map.rear == at.port && map.rearPosition == at.position)
            back = PanelPosition{map.front, map.frontPosition};
    });
    if (mapped)
        return back;
    const DeviceModel* model = network.modelOf(panel);
    if (!model)
        return std::nullopt;
    const PortSpec* here = model->ports.find(at.port);
    const auto other = here ? otherSide(here->like, model->midspan) : std::nullopt;
    if (!other)
        return std::nullopt;
    if (model->role == Role::splitter) { // all behind it come to its front; from there many ways lead
        const auto& specs = model->ports.specs();
        const auto front = std::find_if(specs.begin(), specs.end(),
                                        [](const PortSpec& spec) { return spec.like.block == Block::front; });
        return *other == Block::front && front != specs.end()
                   ? std::optional(PanelPosition{front->key, at.position})
                   : std::nullopt;
    }
    // Positions are counted over all ports of a side, and go on at the same count on the
    // other.
    // A flipped array begins with its last pair (TIA-568.3, method B).
    const auto flip = [](const PortSpec& spec, int position) {
        const int pair = (position - 1) / 2, pairs = strandsOf(spec.like.connector) / 2;
        return spec.like.flipped ? 2 * (pairs - 1 - pair) + (position - 1) % 2 + 1 : position;
    };
    int place = flip(*here, at.position) - 1;
    for (const PortSpec& spec : model->ports.specs()) {
        if (&spec == here)
            break;
        place += spec.like.block == here->like.block ? strandsOf(spec.like.connector) : 0;
    }
    for (const PortSpec& spec : model->ports.specs()) {
        if (spec.like.block != *other)
            continue;
        const int strands = strandsOf(spec.like.connector);
        if (place < strands)
            return PanelPosition{spec.key, flip(spec, place + 1)};
        place -= strands;
    }
    return std::nullopt;
}

int positionsOf(const CableType& type) {
    return isFibre(type.medium) ? std::max(1, type.positions / type.farEnds) : 1;
}

Chain chainOfLink(const Network& network, const Link& link) {
    Chain chain;
    const auto positions = firstPositions(positionsOf(network, link));
    chain.stretches.push_back({link.id, link.a, link.b, positions, carried(network, link, positions)});
    chain.a = link.a;
    chain.b = link.b;
    const auto endAt = [&](const PortRef& port) {
        const Device* device = network.device(port.device);
        return !device || !port.known()      ? ChainEnd::unknown
               : isPassive(network, *device) ? ChainEnd::open
                                             : ChainEnd::device;
    };
    chain.endA = endAt(link.a);
    chain.endB = endAt(link.b);
    return chain;
}

Chain turned(const Chain& chain) {
    Chain out;
    for (auto stretch = chain.stretches.rbegin(); stretch != chain.stretches.rend(); ++stretch)
        out.stretches.push_back(turned(*stretch));
    out.a = chain.b;
    out.b = chain.a;
    out.endA = chain.endB;
    out.endB = chain.endA;
    return out;
}

Chain plannedChain(const Network& network, const Planned& planned) {
    Chain chain;
    const auto positions = firstPositions(planned.type ? positionsOf(*planned.type) : 1);
    std::vector<int> arrives = positions;
    if (planned.type && isFibre(planned.type->medium))
        for (int& position : arrives)
            position = across(*planned.type, position);
    // Both ends go on behind their panels; the one at A is turned round.
    const auto behind = [&](const PortRef& port, const std::vector<int>& at, const PortRef& other) {
        Walk walk;
        walk.at = port;
        const Device* device = network.device(port.device);
        if (!device || !port.known())
            walk.end = ChainEnd::unknown;
        else if (!isPassive(network, *device))
            walk.end = ChainEnd::device;
        else if (const auto step = throughAll(network, *device, port.port, at))
            walk = step->split ? Walk{{}, port, ChainEnd::split, false}
                               : walkFrom(network, step->port, step->positions, {planned.instead}, other);
        return walk;
    };
    Walk back = behind(planned.a, positions, planned.b), forth = behind(planned.b, arrives, planned.a);
    for (auto stretch = back.stretches.rbegin(); stretch != back.stretches.rend(); ++stretch)
        chain.stretches.push_back(turned(*stretch));
    chain.stretches.push_back({planned.instead, planned.a, planned.b, positions, arrives});
    chain.stretches.insert(chain.stretches.end(), forth.stretches.begin(), forth.stretches.end());
    chain.a = back.stretches.empty() ? planned.a : back.at;
    chain.endA = back.end;
    chain.b = forth.stretches.empty() ? planned.b : forth.at;
    chain.endB = forth.end;
    return chain;
}

Chain chainThrough(const Network& network, const PortRef& port) {
    Chain chain;
    const Device* device = network.device(port.device);
    if (!device || !port.known())
        return chain;
    const Link* own = network.linkAt(port);
    const auto positions = firstPositions(own ? positionsOf(network, *own) : 1);
    Walk forth = walkFrom(network, port, positions, {});
    chain.stretches = std::move(forth.stretches);
    chain.a = port;
    chain.endA = ChainEnd::device;
    chain.b = forth.at;
    chain.endB = forth.end;
    chain.joins = forth.joins;
    if (!isPassive(network, *device))
        return chain;
    // The port is in the middle: the other side of its panel is walked too, and turned
    // round.
    chain.endA = ChainEnd::open;
    if (chain.endB == ChainEnd::loop) {
        chain.endA = ChainEnd::loop;
        return chain;
    }
    const auto behind = throughAll(network, *device, port.port, positions);
    if (!behind)
        return chain;
    if (behind->split) {
        chain.endA = ChainEnd::split;
        return chain;
    }
    std::set<LinkId> walked;
    for (const Stretch& stretch : chain.stretches)
        walked.insert(stretch.link);
    Walk back = walkFrom(network, behind->port, behind->positions, walked);
    chain.endA = back.end;
    if (back.stretches.empty())
        return chain;
    chain.a = back.at;
    // Positions are followed from end A onwards, so that one walk tells what meets what.
    std::vector<Stretch> whole;
    for (auto stretch = back.stretches.rbegin(); stretch != back.stretches.rend(); ++stretch)
        whole.push_back(turned(*stretch));
    whole.insert(whole.end(), chain.stretches.begin(), chain.stretches.end());
    chain.stretches = std::move(whole);
    if (forth.stretches.empty() && !own) {
        chain.b = port; // nothing on this side: the chain ends at this very port
        chain.endB = ChainEnd::open;
    }
    return chain;
}

std::vector<Stretch> outward(const Network& network, const PortRef& port) {
    const Link* link = network.linkAt(port);
    if (!link)
        return {};
    return walkFrom(network, port, firstPositions(positionsOf(network, *link)), {}).stretches;
}

std::set<LinkId> wiredWith(const Network& network, LinkId first) {
    std::set<LinkId> links;
    std::vector<LinkId> open{first};
    while (!open.empty()) {
        const LinkId id = open.back();
        open.pop_back();
        const Link* link = network.link(id);
        if (!link || !links.insert(id).second)
            continue;
        for (const PortRef* end : {&link->a, &link->b}) {
            const Device* device = network.device(end->device);
            if (!device || !end->known() || !isPassive(network, *device))
                continue;
            const auto port = portAt(network, *end);
            if (roleOf(network, *device) == Role::splitter)
                network.forEachLinkOf(device->id, [&](const Link& each) { open.push_back(each.id); });
            std::string last;
            for (int position = 1; position <= (port ? strandsOf(port->connector()) : 1); ++position)
                if (const auto next = through(network, *device, {end->port, position});
                    next && next->port != last) {
                    last = next->port;
                    if (const Link* on = network.linkAt({device->id, next->port}))
                        open.push_back(on->id);
                }
        }
    }
    return links;
}

std::optional<PortRef> farEnd(const Network& network, const PortRef& port) {
    const Device* device = network.device(port.device);
    const Link* link = network.linkAt(port);
    if (!device || !link)
        return std::nullopt;
    const Walk walk = walkFrom(network, port, firstPositions(positionsOf(network, *link)), {});
    return walk.end == ChainEnd::device ? std::optional(walk.at) : std::nullopt;
}

std::string_view textOf(ChainEnd end) {
    switch (end) {
    case ChainEnd::device:
        return "device";
    case ChainEnd::open:
        return "open";
    case ChainEnd::unknown:
        return "port-not-known";
    case ChainEnd::loop:
        return "loop";
    case ChainEnd::split:
        return "split";
    }
    return {};
}

} // namespace underridge::linking
