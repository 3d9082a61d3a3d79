// SPDX-License-Identifier: GPL-3.0-or-later
// The register of subnets: those that are recorded, and those interfaces are in all the
// same, which a name or VLAN typed here records. A row of the latter has no object; its
// `port` is the prefix and the VRF.
#include "core/analysis/prefix.h"
#include "core/analysis/subnet_use.h"
#include "core/edit/interfaces.h"
#include "core/edit/registers/table.h"
#include "core/model/vlans.h"

#include <array>
#include <charconv>
#include <fmt/format.h>
#include <optional>

namespace underridge::edit {
using namespace model;
namespace {

enum SubnetColumn : std::size_t { sPrefix, sName, sVlan, sVrf, sUsed, sNext, sGateway, sServers };
constexpr std::array<Column, 8> subnetColumns{{{"prefix", "Subnet", true},
                                               {"name", "Name", true},
                                               {"vlan", "VLAN", true, true},
                                               {"vrf", "VRF"},
                                               {"used", "Used", false, true},
                                               {"next", "Next free"},
                                               {"gateway", "DHCP gateway", true},
                                               {"dhcpServers", "DHCP servers", true}}};

/// What a row stands for, recorded or not; nothing when it is gone.
std::optional<Subnet> subnetOf(const Network& network, const Row& row) {
    if (row.object.id != 0) {
        const auto* held = network.find<Subnet>({row.object.id, 0});
        return held ? std::optional(*held) : std::nullopt;
    }
    const auto blank = row.port.find(' ');
    Subnet subnet;
    subnet.prefix = row.port.substr(0, blank);
    subnet.vrf = blank == std::string::npos ? std::string() : row.port.substr(blank + 1);
    return subnet;
}

std::vector<NamedRow> subnetRows(const Network& network) {
    std::vector<NamedRow> out;
    network.all<Subnet>().forEach([&](const Subnet& subnet) {
        out.push_back(
            {fmt::format("{} {}", subnet.prefix.text(), subnet.vrf), {{Kind::subnet, subnet.id.value}, {}}});
    });
    for (const auto& [vrf, prefix] : analysis::subnetsWithoutRecord(network)) {
        const std::string name = vrf.empty() ? prefix.text() : fmt::format("{} {}", prefix.text(), vrf);
        out.push_back({name, {{Kind::subnet, 0}, name}});
    }
    return out;
}

std::string subnetText(const Network& network, const Row& row, std::size_t column, LengthUnit) {
    const auto subnet = subnetOf(network, row);
    if (!subnet)
        return {};
    switch (column) {
    case sPrefix:
        return subnet->prefix.text();
    case sName:
        return subnet->name;
    case sVlan: {
        const int number = numberOf(network, subnet->vlan);
        return number == 0 ? std::string() : std::to_string(number);
    }
    case sVrf:
        return subnet->vrf;
    case sUsed: {
        const auto use = analysis::useOf(network, subnet->prefix, subnet->vrf, 1);
        constexpr std::uint64_t countable = std::uint64_t{1} << 32;
        return use.size > countable ? std::to_string(use.used) : fmt::format("{} of {}", use.used, use.size);
    }
    case sGateway:
        return subnet->gateway.text();
    case sServers: {
        std::string out;
        for (const DeviceId id : subnet->dhcpServers)
            if (const Device* device = network.device(id))
                out += (out.empty() ? "" : ", ") + device->name;
        return out;
    }
    default: {
        const auto free = freeIn(network, subnet->prefix, 1, {}, subnet->vrf);
        return free.empty() ? std::string() : free.front().host();
    }
    }
}

/// The VLAN a number means without a place: the only one of it, else that of everywhere.
Result<VlanId> vlanNumbered(const Network& network, const std::string& text) {
    if (text.empty())
        return VlanId{};
    int number = 0;
    const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (fault != std::errc{} || end != text.data() + text.size())
        return error(fmt::format("{} is not a VLAN number", text), "write one, or leave it empty");
    std::vector<VlanId> found;
    network.all<Vlan>().forEach([&](const Vlan& vlan) {
        if (vlan.number == number)
            found.push_back(vlan.id);
    });
    if (found.empty())
        return error(fmt::format("there is no VLAN {}", number), "add it first");
    if (found.size() == 1)
        return found.front();
    const VlanId everywhere = vlanFor(network, {}, number);
    if (!everywhere)
        return error(fmt::format("VLAN {} is in {} places", number, found.size()),
                     "say by acts which of them it is");
    return everywhere;
}

/// "srv-1, srv-2".
Result<std::vector<DeviceId>> serversFrom(const Network& network, const std::string& text) {
    std::vector<DeviceId> out;
    std::size_t at = 0;
    while (at < text.size()) {
        const auto end = std::min(text.find(',', at), text.size());
        const std::string name = trimmed(text.substr(at, end - at));
        at = end + 1;
        if (name.empty())
            continue;
        DeviceId found;
        network.all<Device>().forEach([&](const Device& device) {
            if (device.name == name)
                found = device.id;
        });
        if (!found)
            return error(fmt::format("there is no device {}", name), "write names, a comma between them");
        out.push_back(found);
    }
    return out;
}

Result<Done> setSubnet(Network& network, const Catalogue&, const CellChange& change, LengthUnit,
                       IdSource& ids) {
    auto subnet = subnetOf(network, change.row);
    if (!subnet)
        return goneFromRegister();
    const std::string typed = trimmed(change.text);
    switch (change.column) {
    case sPrefix: {
        if (!subnet->id)
            return error("it is what interfaces are in", "change their addresses, or give it a name first");
        const Address prefix(typed);
        if (!prefix.valid() || prefix.prefixLength() < 0)
            return error(fmt::format("{} is no subnet", typed), "write it as 10.84.20.0/24");
        subnet->prefix = prefix.network();
        break;
    }
    case sName:
        subnet->name = typed;
        break;
    case sVlan: {
        const auto vlan = vlanNumbered(network, typed);
        if (!vlan)
            return vlan.refusal();
        subnet->vlan = *vlan;
        break;
    }
    case sGateway: {
        const Address gateway(typed);
        if (!typed.empty() && (!gateway.valid() || !subnet->prefix.contains(gateway)))
            return error(fmt::format("{} is no address of {}", typed, subnet->prefix.text()),
                         "write one that is, or leave it empty");
        subnet->gateway = gateway;
        break;
    }
    case sServers: {
        auto servers = serversFrom(network, typed);
        if (!servers)
            return servers.refusal();
        subnet->dhcpServers = *std::move(servers);
        break;
    }
    default:
        return error("this cannot be typed here");
    }
    if (!subnet->id)
        subnet->id = ids.make<SubnetId>();
    network.put(*std::move(subnet));
    return Done{};
}

Result<Done> addSubnet(Network& network, const Row&, IdSource& ids) {
    network.put(Subnet{ids.make<SubnetId>(), examplePrefix, "new", {}, {}, {}, {}, {}});
    return Done{};
}

Result<Done> removeSubnets(Network& network, const std::vector<Row>& rows) {
    for (const Row& row : rows) {
        if (row.object.id == 0)
            return error(fmt::format("{} is not recorded", row.port),
                         "it is listed while interfaces are in it");
        if (!network.erase<Subnet>({row.object.id, 0}))
            return goneFromRegister();
    }
    return Done{};
}

} // namespace

const RegisterTable& subnetsTable() {
    static constexpr RegisterTable table{"Subnets", subnetColumns, subnetRows,   subnetText,
                                         setSubnet, addSubnet,     removeSubnets};
    return table;
}

} // namespace underridge::edit
