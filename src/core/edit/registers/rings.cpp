// SPDX-License-Identifier: GPL-3.0-or-later
// The register of declared rings.
#include "core/edit/rings.h"
#include "core/edit/registers/table.h"
#include "core/edit/vlans.h"
#include "core/model/ports.h"

#include <array>
#include <fmt/format.h>
#include <optional>

namespace underridge::edit {
using namespace model;
namespace {

enum RingColumn : std::size_t { rName, rProtocol, rDevices, rOwner, rBlocked, rVlans };
constexpr std::array<Column, 6> ringColumns{{{"name", "Ring", true},
                                             {"protocol", "Protocol", true},
                                             {"devices", "Devices"},
                                             {"owner", "Blocks", true},
                                             {"blocked", "Blocked link", true},
                                             {"vlans", "VLANs", true}}};

std::string ringDeviceName(const Network& network, DeviceId id) {
    const Device* device = network.device(id);
    return device ? device->name : std::string();
}

std::vector<NamedRow> ringRows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Ring>().forEach([&](const Ring& ring) { out.push_back({ring.name, {refTo(ring.id), {}}}); });
    return out;
}

/// "s1 24 – s2 23".
std::string endsText(const Network& network, const Link& link) {
    return fmt::format("{} – {}", portText(network, link.a), portText(network, link.b));
}

std::string ringText(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const Ring* ring = network.find<Ring>({row.object.id, 0});
    if (!ring)
        return {};
    switch (column) {
    case rName:
        return ring->name;
    case rProtocol:
        return std::string(titleOf(ring->protocol));
    case rDevices: {
        std::string out;
        for (const DeviceId device : devicesOf(network, ring->links))
            out += (out.empty() ? "" : ", ") + ringDeviceName(network, device);
        return out;
    }
    case rOwner:
        return ringDeviceName(network, ring->owner);
    case rBlocked: {
        const Link* link = network.link(ring->blocked);
        return link ? endsText(network, *link) : std::string();
    }
    default: {
        std::string out;
        for (const VlanRange range : ring->vlans)
            out += (out.empty() ? "" : ",") + (range.first == range.last
                                                   ? fmt::format("{}", range.first)
                                                   : fmt::format("{}-{}", range.first, range.last));
        return out;
    }
    }
}

Result<RingProtocol> protocolFrom(const std::string& text) {
    for (const Word<RingProtocol>& word : wordsOf(RingProtocol{}))
        if (lowered(text) == word.text || text == word.title)
            return word.value;
    return error(fmt::format("{} is no protocol of rings", text), "write erps, mrp or hsr");
}

Result<DeviceId> ownerFrom(const Network& network, const Ring& ring, const std::string& text) {
    for (const DeviceId device : devicesOf(network, ring.links))
        if (ringDeviceName(network, device) == text)
            return device;
    return error(fmt::format("{} is no device of the ring", text), "name one of them");
}

/// By one of its ports, or by both as they are shown.
Result<LinkId> blockedFrom(const Network& network, const Ring& ring, const std::string& text) {
    for (const LinkId id : ring.links)
        if (const Link* link = network.link(id))
            for (const std::string& name :
                 {endsText(network, *link), portText(network, link->a), portText(network, link->b)})
                if (name == text)
                    return id;
    return error(fmt::format("no link of the ring is at {}", text), "write a port of one, with its device");
}

Result<Done> setRing(Network& network, const Catalogue&, const CellChange& change, LengthUnit,
                     IdSource& ids) {
    const Ring* held = network.find<Ring>({change.row.object.id, 0});
    if (!held)
        return goneFromRegister();
    Ring set = *held;
    const std::string typed = trimmed(change.text);
    const auto keep = [](auto read, auto& into) -> std::optional<Remark> {
        if (!read)
            return read.refusal();
        into = *std::move(read);
        return std::nullopt;
    };
    std::optional<Remark> wrong;
    switch (change.column) {
    case rName:
        if (typed.empty())
            return error("the name is empty", "type one");
        set.name = typed;
        break;
    case rProtocol:
        wrong = keep(protocolFrom(typed), set.protocol);
        break;
    case rOwner:
        wrong = keep(ownerFrom(network, set, typed), set.owner);
        if (set.owner != held->owner)
            set.blocked = {}; // one of the new owner's
        break;
    case rBlocked:
        wrong = keep(blockedFrom(network, set, typed), set.blocked);
        set = blockedAt(network, std::move(set), set.blocked);
        break;
    case rVlans:
        wrong = keep(rangesFrom(typed), set.vlans);
        break;
    default:
        return error("this cannot be typed here");
    }
    return wrong ? Result<Done>(*wrong) : take(network, declareRing(network, std::move(set), ids));
}

Result<Done> removeRings(Network& network, const std::vector<Row>& rows) {
    std::vector<RingId> ids;
    for (const Row& row : rows)
        ids.push_back({row.object.id});
    return take(network, dissolveRings(network, ids));
}

} // namespace

const RegisterTable& ringsTable() {
    static constexpr RegisterTable table{"Rings", ringColumns, ringRows,   ringText,
                                         setRing, nullptr,     removeRings};
    return table;
}

} // namespace underridge::edit
