// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/statements.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

const Statement* named(const Network& network, const std::string& name) {
    const Statement* found = nullptr;
    network.all<Statement>().forEach([&](const Statement& each) {
        if (each.name == name)
            found = &each;
    });
    return found;
}

} // namespace

Party partyOf(const Network& network, const std::string& text) {
    Party party;
    const auto id = idFromText(text);
    network.all<Device>().forEach([&](const Device& device) {
        if (device.name == text || (id && device.id.value == *id))
            party.device = device.id;
    });
    if (party.device)
        return party;
    network.all<Group>().forEach([&](const Group& group) {
        if (group.name == text || (id && group.id.value == *id))
            party.group = group.id;
    });
    if (party.group)
        return party;
    if (const Address address(text); address.valid())
        party.address = address;
    else
        party.filter = text;
    return party;
}

ActResult keepStatement(const Network& network, Statement statement, IdSource& ids) {
    if (trimmed(statement.name).empty())
        return error("a statement needs a name", "say one");
    if (statement.from == Party{} || statement.to == Party{})
        return error("a statement has two sides", "name a device, a group, an address or a filter for each");
    if (const Statement* held = named(network, statement.name))
        statement.id = held->id;
    else if (!statement.id)
        statement.id = ids.make<StatementId>();
    Act act{fmt::format("Keep: {}", statement.name), network, {}, {}};
    act.network.put(std::move(statement));
    return act;
}

ActResult removeStatement(const Network& network, const std::string& name) {
    const Statement* held = named(network, name);
    if (!held)
        return error(fmt::format("there is no statement {}", name), "name one that is there");
    Act act{fmt::format("Remove: {}", name), network, {}, {}};
    act.network.erase<Statement>(held->key());
    return act;
}

} // namespace underridge::edit
