// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/script/line.h"

#include "core/model/ports.h"

#include <cmath>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
using exchange::JsonView;

NameIndex::NameIndex(const Network& network) {
    network.all<Device>().forEach([&](const Device& device) { change(device.name, refTo(device.id), true); });
    network.all<Group>().forEach([&](const Group& group) { change(group.name, refTo(group.id), true); });
    network.all<CableRoute>().forEach(
        [&](const CableRoute& route) { change(route.name, refTo(route.id), true); });
}

void NameIndex::change(const std::string& name, ObjectRef object, bool there) {
    Refs& all = byName_[name];
    std::erase(all, object);
    if (there)
        all.push_back(object);
}

void NameIndex::follow(const Network& before, const Network& after) {
    Network::compare(before, after, [&]<class R>(const R* old, const R* fresh) {
        if constexpr (std::is_same_v<R, Device> || std::is_same_v<R, Group> ||
                      std::is_same_v<R, CableRoute>) {
            if (old)
                change(old->name, refTo(old->id), false);
            if (fresh)
                change(fresh->name, refTo(fresh->id), true);
        }
    });
}

const Refs& NameIndex::named(const std::string& name) const {
    static const Refs none;
    const auto at = byName_.find(name);
    return at == byName_.end() ? none : at->second;
}

Remark Line::wrong(std::string_view member, std::string what, std::string remedy) const {
    Remark remark = error(std::move(what), std::move(remedy));
    const JsonView at = object_[member];
    remark.where.column = static_cast<int>((at ? at : object_).offset()) + 1;
    return remark;
}

Result<std::string> Line::text(std::string_view member) const {
    const JsonView at = object_[member];
    if (!at)
        return wrong({}, fmt::format("\"{}\" is missing", member), fmt::format("add \"{}\":\"…\"", member));
    if (!at.isText())
        return wrong(member, fmt::format("\"{}\" is not a text", member), "write it in quotes");
    return at.text();
}

Result<std::string> Line::textOr(std::string_view member, std::string otherwise) const {
    if (!has(member))
        return otherwise;
    return text(member);
}

Result<std::int64_t> Line::whole(std::string_view member, std::int64_t least, std::int64_t most) const {
    const auto number = object_[member].integer();
    if (!object_[member])
        return wrong({}, fmt::format("\"{}\" is missing", member),
                     fmt::format("add \"{}\":{}", member, least));
    if (!number || *number < least || *number > most)
        return wrong(member, fmt::format("\"{}\" is not a whole number from {} to {}", member, least, most),
                     "write such a number");
    return *number;
}

Result<std::int64_t> Line::wholeOr(std::string_view member, std::int64_t otherwise, std::int64_t least,
                                   std::int64_t most) const {
    if (!has(member))
        return otherwise;
    return whole(member, least, most);
}

Result<double> Line::numberOr(std::string_view member, double otherwise) const {
    if (!has(member))
        return otherwise;
    const auto number = object_[member].number();
    if (!number)
        return wrong(member, fmt::format("\"{}\" is not a number", member), "write it as 12.5");
    return *number;
}

Result<std::int64_t> Line::metres(std::string_view member) const {
    constexpr double most = 100'000;
    const auto number = object_[member].number();
    if (!number || std::abs(*number) > most)
        return wrong(member, fmt::format("\"{}\" is not a number of metres up to {}", member, most),
                     "write it as 12.5");
    return static_cast<std::int64_t>(std::llround(*number * 1000));
}

Result<bool> Line::flagOr(std::string_view member, bool otherwise) const {
    if (!has(member))
        return otherwise;
    const auto flag = object_[member].boolean();
    if (!flag)
        return wrong(member, fmt::format("\"{}\" is neither true nor false", member), "write one of these");
    return *flag;
}

Result<Point> Line::point(std::string_view member) const {
    const JsonView at = object_[member];
    const auto x = at["x"].integer(), y = at["y"].integer();
    const auto fits = [](const std::optional<std::int64_t>& v) {
        return v && *v >= -sheetLimit && *v <= sheetLimit;
    };
    if (!fits(x) || !fits(y))
        return wrong(
            member, fmt::format("\"{}\" is not a place on a sheet", member),
            fmt::format("write it as {{\"x\":400,\"y\":120}}, at most {} from the origin", sheetLimit));
    return Point{static_cast<int>(*x), static_cast<int>(*y)};
}

Result<ObjectRef> Line::objectNamed(std::string_view member, const std::string& name) const {
    const Network& network = bench_.network;
    if (const auto id = idFromText(name)) {
        if (network.device({*id}))
            return refTo(DeviceId{*id});
        if (network.group({*id}))
            return refTo(GroupId{*id});
        if (network.cableRoute({*id}))
            return refTo(CableRouteId{*id});
        if (network.note({*id}))
            return refTo(NoteId{*id});
    }
    const Refs& found = bench_.names.named(name);
    if (found.empty())
        return wrong(member, fmt::format("there is no {}", name),
                     "look at list FILE devices, groups, cable-routes");
    if (found.size() > 1)
        return wrong(member, fmt::format("{} objects are called {}", found.size(), name), "write an id");
    return found.front();
}

Result<std::vector<std::string>> Line::texts(std::string_view member) const {
    const JsonView at = object_[member];
    std::vector<std::string> out;
    if (at.isText())
        return std::vector{at.text()};
    bool sound = at.isArray();
    at.forEach([&](JsonView each) {
        sound &= each.isText();
        out.push_back(each.text());
    });
    if (!at)
        return wrong({}, fmt::format("\"{}\" is missing", member), fmt::format("add \"{}\":[…]", member));
    if (!sound)
        return wrong(member, fmt::format("\"{}\" is not a list of names", member),
                     "write it as [\"acc-1\",\"acc-2\"]");
    return out;
}

Result<ObjectRef> Line::object(std::string_view member) const {
    const auto name = text(member);
    return name ? objectNamed(member, *name) : name.refusal();
}

Result<DeviceId> Line::device(std::string_view member) const {
    const auto found = object(member);
    if (!found)
        return found.refusal();
    if (found->kind != Kind::device)
        return wrong(member, "that is not a device", "name a device");
    return DeviceId{found->id};
}

Result<GroupId> Line::group(std::string_view member) const {
    if (object_[member].kind() == JsonView::Kind::null || object_[member].isText(""))
        return GroupId{};
    const auto found = object(member);
    if (!found)
        return found.refusal();
    if (found->kind != Kind::group)
        return wrong(member, "that is not a group", "name a group");
    return GroupId{found->id};
}

Result<GroupId> Line::groupOr(std::string_view member) const {
    if (!has(member))
        return GroupId{};
    return group(member);
}

Result<Refs> Line::objects(std::string_view member) const {
    const auto names = texts(member);
    if (!names)
        return names.refusal();
    Refs out;
    for (const std::string& name : *names) {
        const auto found = objectNamed(member, name);
        if (!found)
            return found.refusal();
        out.push_back(*found);
    }
    return out;
}

Result<Refs> Line::subjects(std::string_view member) const {
    const auto names = texts(member);
    if (!names)
        return names.refusal();
    const Network& network = bench_.network;
    Refs out;
    for (const std::string& name : *names) {
        const auto id = idFromText(name);
        if (id && network.link({*id})) {
            out.push_back(refTo(LinkId{*id}));
        } else if (id && network.cable({*id})) {
            out.push_back(refTo(CableId{*id}));
        } else if (id && network.vlan({*id})) {
            out.push_back(refTo(VlanId{*id}));
        } else if (id && network.find<Statement>({*id, 0})) {
            out.push_back(refTo(StatementId{*id}));
        } else if (id && network.find<Ring>({*id, 0})) {
            out.push_back(refTo(RingId{*id}));
        } else {
            const auto found = objectNamed(member, name);
            if (!found)
                return found.refusal();
            out.push_back(*found);
        }
    }
    return out;
}

Result<std::vector<GroupId>> Line::groups(std::string_view member) const {
    const auto found = objects(member);
    if (!found)
        return found.refusal();
    std::vector<GroupId> out;
    for (const ObjectRef each : *found) {
        if (each.kind != Kind::group)
            return wrong(member, "that is not a group", "name groups");
        out.push_back({each.id});
    }
    return out;
}

Result<SheetId> Line::sheet(std::string_view member) const {
    const auto name = textOr(member, {});
    if (!name)
        return name.refusal();
    const auto sheets = bench_.network.sheetsInOrder();
    for (const Sheet& sheet : sheets)
        if (name->empty() || sheet.name == *name || idText(sheet.id.value) == *name)
            return sheet.id;
    return wrong(member,
                 name->empty() ? "the network has no sheet" : fmt::format("there is no sheet {}", *name),
                 "look at list FILE sheets");
}

Result<PortRef> Line::portOrDevice(std::string_view member) const {
    const auto said = text(member);
    if (!said)
        return said.refusal();
    const auto colon = said->rfind(':');
    const bool whole = colon == std::string::npos || !bench_.names.named(*said).empty();
    const auto found = objectNamed(member, whole ? *said : said->substr(0, colon));
    if (!found)
        return found.refusal();
    if (found->kind != Kind::device)
        return wrong(member, "that is not a device", "name a device, or a port as acc-1:3");
    const PortRef port{{found->id}, whole ? std::string() : said->substr(colon + 1)};
    if (port.known() && !portAt(bench_.network, port))
        return wrong(member, fmt::format("there is no port {}", *said), "look at list FILE ports");
    return port;
}

Result<PortRef> Line::port(std::string_view member) const {
    auto found = portOrDevice(member);
    if (found && !found->known())
        return wrong(member, "no port is named", "write it as acc-1:3");
    return found;
}

} // namespace underridge::edit
