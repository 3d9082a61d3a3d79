// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/forwarding.h"

namespace underridge::analysis {
using namespace model;
namespace {

/// A device without what does not matter here: its note, place, feeds and the like.
Device core(Device device) {
    device.group = {};
    device.place = {};
    device.feeds.clear();
    device.watts = 0;
    device.serial.clear();
    device.note = {};
    device.startUp = {};
    device.attributes.clear();
    device.provenance = {};
    device.extra = {};
    return device;
}
Cable core(Cable cable) {
    cable.jacket.clear();
    cable.label.clear();
    cable.note.clear();
    cable.lengthMm = 0;
    cable.lengthMeasured = false;
    cable.measured.clear();
    cable.status = CableStatus::installed;
    cable.extra = {};
    return cable;
}
Link core(Link link) {
    link.note.clear();
    link.provenance = {};
    link.extra = {};
    return link;
}
Port core(Port port) {
    port.label.clear();
    port.note.clear();
    port.attributes.clear();
    port.extra = {};
    return port;
}
template <class Record>
Record core(Record record) {
    return record;
}
Device withoutTree(Device device) {
    device.spanningTree = {};
    return device;
}

template <class Record>
constexpr bool matters =
    std::is_same_v<Record, Device> || std::is_same_v<Record, DeviceModel> ||
    std::is_same_v<Record, ModuleModel> || std::is_same_v<Record, TransceiverModel> ||
    std::is_same_v<Record, CableType> || std::is_same_v<Record, Vlan> || std::is_same_v<Record, Port> ||
    std::is_same_v<Record, Interface> || std::is_same_v<Record, Route> || std::is_same_v<Record, PanelMap> ||
    std::is_same_v<Record, Cable> || std::is_same_v<Record, Link> || std::is_same_v<Record, Ring> ||
    std::is_same_v<Record, Subnet>;

} // namespace

/// What differs where what joins whom is the same.
struct Forwarding::Difference {
    std::vector<Key> interfaces; ///< whose VLANs differ, or their part in trees
    std::vector<DeviceId> trees; ///< whose trees differ
    bool ofTrees = false;        ///< of interfaces, too
    bool routes = false;         ///< static routes, or what DHCP servers tell
};

std::optional<Forwarding::Difference> Forwarding::differenceTo(const Network& after) const {
    Difference out;
    bool only = true;
    Network::compare(network(), after, [&]<class Record>(const Record* old, const Record* now) {
        if constexpr (std::is_same_v<Record, Interface>) {
            only = only && wiring_.bearsOther(old, now, after);
            out.ofTrees |= !((old ? old->spanningTree : Shared<PortTree>()) ==
                             (now ? now->spanningTree : Shared<PortTree>()));
            if (only)
                out.interfaces.push_back((old ? old : now)->key());
        } else if constexpr (std::is_same_v<Record, Device>) {
            only = only && old && now && withoutTree(core(*old)) == withoutTree(core(*now));
            if (only && !(old->spanningTree == now->spanningTree)) {
                out.trees.push_back(now->id);
                out.ofTrees = true;
            }
        } else if constexpr (std::is_same_v<Record, Route> || std::is_same_v<Record, Subnet>) {
            out.routes = true;
        } else if constexpr (matters<Record>) {
            only = only && old && now && core(*old) == core(*now);
        }
    });
    return only ? std::optional(std::move(out)) : std::nullopt;
}

/// Which ports of before let other frames through now.
std::vector<int> Forwarding::portsOf(const Forwarding& before, const Difference& difference) const {
    std::vector<int> out;
    if (difference.ofTrees)
        out = trees().otherThan(before.trees());
    for (const Key& key : difference.interfaces) {
        const Interface* held = network().find<Interface>(key);
        const int port = wiring_.portOf(held ? *held : *before.network().find<Interface>(key));
        if (port >= 0)
            out.push_back(port);
    }
    return out;
}

Forwarding::Forwarding(Network network, const Without& without)
    : wiring_(std::move(network), without),
      trunk_(std::make_shared<const Trunk>(wiring_)),
      bridging_(wiring_, trunk_->trees),
      addressing_(bridging_),
      routing_(std::make_unique<const Routing>(wiring_, bridging_, addressing_)) {}

Forwarding::Forwarding(const std::shared_ptr<const Forwarding>& before, Network network,
                       const Difference& difference)
    : wiring_(before->wiring_, std::move(network), difference.interfaces, difference.trees),
      trunk_(difference.ofTrees ? std::make_shared<const Trunk>(wiring_, before->trunk_.get())
                                : before->trunk_),
      bridging_(before->bridging_, wiring_, trunk_->trees, portsOf(*before, difference)),
      addressing_(before->addressing_, bridging_) {
    if (!difference.routes &&
        routesAlike(wiring_, before->bridging_, before->addressing_, bridging_, addressing_)) {
        // Of those all alike the first is kept, none of those between.
        routed_ = before->routed_ ? before->routed_ : before;
        routing_ = std::make_unique<const Routing>(routed_->routing(), wiring_, bridging_, addressing_);
    } else {
        routing_ = std::make_unique<const Routing>(wiring_, bridging_, addressing_);
    }
}

std::shared_ptr<const Forwarding> Forwarding::after(const std::shared_ptr<const Forwarding>& before,
                                                    Network network) {
    if (before && forwardsAlike(before->network(), network))
        return before;
    constexpr std::size_t mostChanged = 400; // they are looked up again each time
    if (before)
        if (const auto difference = before->differenceTo(network);
            difference && difference->interfaces.size() + before->wiring_.changed() <= mostChanged)
            return std::shared_ptr<const Forwarding>(new Forwarding(before, std::move(network), *difference));
    return std::make_shared<const Forwarding>(std::move(network));
}

bool forwardsAlike(const Network& before, const Network& after) {
    bool alike = true;
    Network::compare(before, after, [&]<class Record>(const Record* old, const Record* now) {
        if constexpr (matters<Record>)
            alike = alike && old && now && core(*old) == core(*now);
    });
    return alike;
}

} // namespace underridge::analysis
