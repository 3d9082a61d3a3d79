// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/scene/layer_network.h"

#include "core/analysis/forwarding.h"
#include "core/analysis/layers.h"

namespace underridge::scene {
using namespace model;
namespace {

/// A record whose id follows from that of another.
template <class Id>
Id beside(std::uint64_t id) {
    constexpr std::uint64_t most = (std::uint64_t{1} << idBits) - 1;
    return {((id * 0x9e3779b97f4a7c15ULL) & most) | 1};
}

/// Positions of what is there in the place of something else.
Position standIn(Position position) {
    if (position.of == Kind::subnet)
        position.of = Kind::device;
    else if (position.of == Kind::interface)
        position.of = Kind::link;
    return position;
}

/// What links on the sheet say in the middle is the label of a cable.
void label(Network& network, Link& link, const std::string& text) {
    const Cable* held = network.cable(link.cable);
    Cable cable = held ? *held : Cable{};
    cable.id = beside<CableId>(link.id.value);
    cable.label = text;
    cable.lengthMm = 0;
    cable.ends.clear();
    link.cable = cable.id;
    network.put(std::move(cable));
}

} // namespace

LayerNetwork::LayerNetwork(const Network& network, SheetId id)
    : network_(network), drawn_(network), sheet_(id) {
    const Sheet* sheet = network.sheet(id);
    if (!sheet)
        return;
    std::vector<Position> fresh;
    network.all<Position>().forEachIn(id.value, [&](const Position& position) {
        if (Position stands = standIn(position); stands.of != position.of)
            fresh.push_back(std::move(stands));
    });
    for (Position& position : fresh)
        drawn_.put(std::move(position));
    if (sheet->layer == SheetLayer::dataLink)
        drawFrameLinks();
    else if (sheet->layer == SheetLayer::network)
        drawSubnets();
}

void LayerNetwork::drawFrameLinks() {
    std::map<LinkId, LinkId> merged;
    for (const analysis::FrameLink& each : analysis::frameLinksOf(network_)) {
        Link link = *network_.link(each.id);
        link.onlyOn = sheet_;
        link.a = each.a;
        link.b = each.b;
        label(drawn_, link, each.vlans);
        drawn_.put(std::move(link));
        for (const LinkId other : each.links)
            if (other != each.id)
                merged[other] = each.id;
    }
    if (!merged.empty())
        merged_ = std::make_shared<const std::map<LinkId, LinkId>>(std::move(merged));
}

void LayerNetwork::drawSubnets() {
    const analysis::NetworkLayer layer = analysis::networkLayerOf(network_);
    for (const analysis::SubnetNode& node : layer.subnets) {
        Device device;
        device.id = {node.id.value};
        device.name = node.prefixes.front().text();
        device.note = node.text();
        drawn_.put(std::move(device));
        if (drawn_.find<Subnet>({node.id.value, 0}))
            continue;
        Subnet subnet;
        subnet.id = node.id;
        subnet.prefix = node.prefixes.front();
        subnet.vrf = node.vrf;
        drawn_.put(std::move(subnet));
    }
    for (const analysis::Attachment& each : layer.attachments) {
        Link link;
        link.id = {each.interface.value};
        link.a = {each.device, each.at};
        link.b = {{each.subnet.value}, {}};
        link.onlyOn = sheet_;
        if (!each.ospf.empty())
            label(drawn_, link, each.ospf);
        drawn_.put(std::move(link));
    }
}

/// With the lines that lead to it.
void LayerNetwork::dropDevice(DeviceId device) {
    std::vector<Key> lines;
    drawn_.forEachLinkOf(device, [&](const Link& link) {
        if (link.onlyOn == sheet_)
            lines.push_back(link.key());
    });
    for (const Key key : lines)
        drawn_.erase<Link>(key);
    drawn_.erase<Device>({device.value, 0});
}

template <class Record>
void LayerNetwork::follow(const Record* before, const Record* now, Key key) {
    if (behind_ && !now) { // what is gone is not drawn any more
        if constexpr (std::is_same_v<Record, Device>)
            return dropDevice(before->id);
        if constexpr (std::is_same_v<Record, Subnet>)
            dropDevice({before->id.value});
        if constexpr (std::is_same_v<Record, Link> || std::is_same_v<Record, Interface>)
            if (const Link* drawn = drawn_.link({before->id.value}); drawn && drawn->onlyOn == sheet_)
                drawn_.erase<Link>(drawn->key());
    }
    if constexpr (std::is_same_v<Record, Position>) {
        if (now)
            drawn_.put(now->sheet == sheet_ ? standIn(*now) : *now);
        else
            drawn_.erase<Position>(key);
    } else if constexpr (!std::is_same_v<Record, Link>) { // those alike in what matters stay
        if (now)
            drawn_.put(*now);
        else
            drawn_.erase<Record>(key);
    }
}

LayerNetwork LayerNetwork::after(const Network& network, bool later) const {
    const Sheet *was = network_.sheet(sheet_), *is = network.sheet(sheet_);
    if (!was || !is || was->layer != is->layer)
        return {network, sheet_};
    const bool alike = !behind_ && analysis::forwardsAlike(network_, network) &&
                       network_.all<Subnet>() == network.all<Subnet>();
    if (!alike && !later)
        return {network, sheet_};
    LayerNetwork out = *this;
    out.behind_ = !alike;
    Network::compare(network_, network, [&]<class Record>(const Record* before, const Record* now) {
        out.follow(before, now, (before ? before : now)->key());
    });
    out.network_ = network;
    return out;
}

Network networkOn(const Network& network, SheetId sheet) {
    const Sheet* held = network.sheet(sheet);
    return !held || !held->follows() ? network : LayerNetwork(network, sheet).drawn();
}

} // namespace underridge::scene
