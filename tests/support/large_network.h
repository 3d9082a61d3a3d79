// SPDX-License-Identifier: GPL-3.0-or-later
// A network of any size, the same at every call: rows of switches with endpoints below,
// one and a half links a device. What benches and scale tests measure on.
#pragma once
#include "core/edit/links.h"
#include "core/exchange/catalogue_file.h"

#include <map>

namespace underridge::tests {

inline model::Network largeNetwork(int devices) {
    using namespace model;
    IdSource ids(4711);
    Network network = emptyNetwork("Large", ids);
    const SheetId sheet = network.sheetsInOrder().front().id;
    const Catalogue catalogue = exchange::builtInCatalogue();
    const DeviceModel& access = *catalogue.device("access-switch-24");
    network.put(access);
    network.put(*catalogue.cable("cat6a"));
    network.put(*catalogue.cable("dac-sfpp"));
    std::vector<DeviceId> made;
    const int columns = std::max(1, static_cast<int>(std::sqrt(devices * 0.6)));
    for (int i = 0; i < devices; ++i) {
        Device device;
        device.id = ids.make<DeviceId>();
        device.name = "acc-" + std::to_string(i + 1);
        device.model = access.id;
        Position position;
        position.sheet = sheet;
        position.object = device.id.value;
        position.of = model::Kind::device;
        position.at = {(i % columns) * 200, (i / columns) * 120};
        made.push_back(device.id);
        network.put(std::move(device));
        network.put(std::move(position));
    }
    const auto join = [&](int a, const std::string& portA, int b, const std::string& portB, const char* type,
                          std::int64_t lengthMm) {
        Cable cable;
        cable.id = ids.make<CableId>();
        cable.type = type;
        cable.lengthMm = lengthMm;
        const PortRef endA{made[static_cast<std::size_t>(a)], portA},
            endB{made[static_cast<std::size_t>(b)], portB};
        cable.ends = {{endA, {}}, {endB, {}}};
        Link link;
        link.id = ids.make<LinkId>();
        link.a = endA;
        link.b = endB;
        link.cable = cable.id;
        network.put(std::move(cable));
        network.put(std::move(link));
    };
    for (int i = 0; i + 1 < devices; ++i) {
        if ((i + 1) % columns != 0)
            join(i, "1", i + 1, "2", "cat6a", 12'000);
        if (i % 2 == 0 && i + columns < devices)
            join(i, "X1", i + columns, "X2", "dac-sfpp", 5'000);
    }
    return network;
}

/// The same in groups six deep, the innermost of 25 devices each, with room for their
/// frames.
inline model::Network largeGrouped(int devices) {
    using namespace model;
    Network network = largeNetwork(devices);
    const SheetId sheet = network.sheetsInOrder().front().id;
    IdSource ids(815);
    constexpr int side = 5, levels = 6;
    std::map<std::tuple<int, int, int>, GroupId> made;
    const auto groupAt = [&](auto&& self, int level, int x, int y) -> GroupId {
        if (level == levels)
            return {};
        GroupId& id = made[{level, x, y}];
        if (!id) {
            Group group;
            group.id = id = ids.make<GroupId>();
            group.name = "g-" + std::to_string(made.size());
            group.type = static_cast<GroupKind>(level);
            group.parent = self(self, level + 1, x / 2, y / 2);
            network.put(std::move(group));
            return made[{level, x, y}];
        }
        return id;
    };
    std::vector<Position> positions;
    network.all<Position>().forEachIn(sheet.value, [&](const Position& each) { positions.push_back(each); });
    for (Position& position : positions) {
        const int column = position.at.x / 200, row = position.at.y / 120;
        Device device = *network.device({position.object});
        device.group = groupAt(groupAt, 0, column / side, row / side);
        position.at = {position.at.x + column / side * 280, position.at.y + row / side * 400};
        network.put(std::move(device));
        network.put(std::move(position));
    }
    return network;
}

} // namespace underridge::tests
