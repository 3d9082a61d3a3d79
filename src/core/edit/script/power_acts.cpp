// SPDX-License-Identifier: GPL-3.0-or-later
// The act on mains power: feed.
#include "core/edit/power.h"
#include "core/edit/script/line.h"

namespace underridge::edit {
using namespace model;
namespace {

ActResult feed(const Line& line) {
    const Bench& bench = line.bench();
    if (line.has("members")) {
        const auto members = line.objects("members");
        if (!members)
            return members.refusal();
        std::vector<DeviceId> devices;
        for (const ObjectRef each : *members) {
            if (each.kind != Kind::device)
                return line.wrong("members", "only devices are fed", "name devices");
            devices.push_back({each.id});
        }
        return withCords(feedAll(bench.network, devices), bench.network, bench.catalogue, bench.ids);
    }
    const auto device = line.device("device");
    if (!device)
        return device.refusal();
    Network network = bench.network;
    if (line.has("watts")) {
        const auto watts = line.whole("watts", 0, 100'000);
        if (!watts)
            return watts.refusal();
        auto drawn = setDraw(network, *device, static_cast<int>(*watts));
        if (!drawn || !line.has("supply"))
            return drawn;
        network = std::move(drawn->network);
    }
    const auto supply = line.text("supply");
    const auto mains = line.textOr("mains", {});
    if (!supply || !mains)
        return supply ? mains.refusal() : supply.refusal();
    if (!line.has("from"))
        return feedSupply(network, *device, *supply, {{}, *mains}, {});
    const auto outlet = line.port("from");
    if (!outlet)
        return outlet.refusal();
    auto fed = feedSupply(network, *device, *supply, {outlet->device, {}}, outlet->port);
    if (!fed || !line.has("cord"))
        return withCords(std::move(fed), network, bench.catalogue, bench.ids);
    const auto cord = line.text("cord");
    if (!cord)
        return cord.refusal();
    auto corded = setCord(fed->network, bench.catalogue, *device, *supply, *cord, bench.ids);
    if (corded)
        corded->name = fed->name;
    return corded;
}

} // namespace

std::span<const ActWord> powerActs() {
    static const std::vector<ActWord> acts{
        {"feed", {"device", "supply", "from", "mains", "watts", "cord", "members"}, feed}};
    return acts;
}

} // namespace underridge::edit
