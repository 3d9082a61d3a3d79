// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/differences.h"

#include "core/edit/links.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

std::string deviceName(const Network& network, DeviceId id) {
    const Device* device = network.device(id);
    return device ? device->name : idText(id.value);
}

std::string objectName(const Network& network, std::uint64_t id) {
    if (const Device* device = network.device({id}))
        return device->name;
    if (const Group* group = network.group({id}))
        return group->name;
    if (const Link* link = network.link({id}))
        return linkText(network, *link);
    if (network.note({id}))
        return "a note";
    return idText(id);
}

template <class Record>
std::string nameOf(const Network& network, const Record& record) {
    if constexpr (std::is_same_v<Record, Link>)
        return linkText(network, record);
    else if constexpr (std::is_same_v<Record, Position>) {
        const Sheet* sheet = network.sheet(record.sheet);
        return fmt::format("position of {} on {}", objectName(network, record.object),
                           sheet ? sheet->name : "a sheet");
    } else if constexpr (std::is_same_v<Record, Port>)
        return fmt::format("{} {}", deviceName(network, record.device), record.port);
    else if constexpr (std::is_same_v<Record, Interface>)
        return fmt::format("{} {}", deviceName(network, record.device),
                           record.name.empty() ? record.port : record.name);
    else if constexpr (std::is_same_v<Record, Cable>)
        return record.label.empty() ? record.type : record.label;
    else if constexpr (std::is_same_v<Record, Note>)
        return record.text.str().substr(0, 40);
    else if constexpr (std::is_same_v<Record, Vlan>)
        return fmt::format("{} {}", record.number, record.name);
    else if constexpr (requires { record.name; })
        return record.name;
    else if constexpr (std::is_same_v<Record, PanelMap>)
        return fmt::format("{} {}", deviceName(network, record.device), record.front);
    else
        return {};
}

} // namespace

std::vector<Difference> differences(const Network& before, const Network& after) {
    std::vector<Difference> out;
    Network::compare(before, after, [&]<class Record>(const Record* old, const Record* now) {
        const Change change = !old ? Change::added : !now ? Change::removed : Change::changed;
        out.push_back({change, Record::kind, now ? nameOf(after, *now) : nameOf(before, *old)});
    });
    return out;
}

std::string countsText(const std::vector<Difference>& differences) {
    int count[3] = {};
    for (const Difference& difference : differences)
        ++count[static_cast<int>(difference.change)];
    return fmt::format("{} added, {} removed, {} changed", count[0], count[1], count[2]);
}

} // namespace underridge::edit
