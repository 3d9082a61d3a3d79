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
Group core(const Group& group) {
    Group out;
    out.id = group.id;
    out.name = group.name;
    out.parent = group.parent;
    return out;
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

template <class Record>
constexpr bool matters =
    std::is_same_v<Record, Device> || std::is_same_v<Record, DeviceModel> ||
    std::is_same_v<Record, ModuleModel> || std::is_same_v<Record, TransceiverModel> ||
    std::is_same_v<Record, CableType> || std::is_same_v<Record, Vlan> || std::is_same_v<Record, Port> ||
    std::is_same_v<Record, Interface> || std::is_same_v<Record, Route> || std::is_same_v<Record, Statement> ||
    std::is_same_v<Record, Group> || std::is_same_v<Record, PanelMap> || std::is_same_v<Record, Cable> ||
    std::is_same_v<Record, Link> || std::is_same_v<Record, Ring> || std::is_same_v<Record, Subnet>;

} // namespace

Forwarding::Forwarding(Network network, const Without& without)
    : wiring_(std::move(network), without),
      rings_(wiring_),
      trees_(wiring_, rings_),
      bridging_(wiring_, trees_),
      addressing_(bridging_),
      routing_(wiring_, bridging_, addressing_) {}

bool forwardsAlike(const Network& before, const Network& after) {
    bool alike = true;
    Network::compare(before, after, [&]<class Record>(const Record* old, const Record* now) {
        if constexpr (matters<Record>)
            alike = alike && old && now && core(*old) == core(*now);
    });
    return alike;
}

} // namespace underridge::analysis
