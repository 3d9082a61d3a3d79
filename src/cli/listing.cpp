// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/listing.h"

#include "cli/forwarding.h"
#include "core/analysis/check.h"
#include "core/edit/links.h"
#include "core/find/matching.h"
#include "core/linking/chain.h"
#include "core/linking/route_loads.h"
#include "core/linking/rules.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/power.h"
#include "core/model/racks.h"
#include "core/scene/plates.h"
#include "core/scene/scene.h"

#include <cmath>

#include <fmt/format.h>
#include <map>
#include <numeric>
#include <set>
#include <unordered_map>

namespace underridge::cli {
using namespace model;
namespace {

/// How many parts the links leave the devices in.
int components(const Network& network) {
    std::unordered_map<std::uint64_t, std::uint64_t> parent;
    const std::function<std::uint64_t(std::uint64_t)> root = [&](std::uint64_t x) {
        while (parent[x] != x)
            x = parent[x] = parent[parent[x]];
        return x;
    };
    network.all<Device>().forEach([&](const Device& d) { parent[d.id.value] = d.id.value; });
    network.all<Link>().forEach(
        [&](const Link& l) { parent[root(l.a.device.value)] = root(l.b.device.value); });
    int count = 0;
    for (const auto& [id, up] : parent)
        count += id == up;
    return count;
}

Json summary(const Network& network) {
    Json byRole = Json::object(), byMedium = Json::object();
    int endpoints = 0;
    network.all<Device>().forEach([&](const Device& device) {
        const Role role = roleOf(network, device);
        endpoints += isEndpoint(role);
        Json& count = byRole[std::string(textOf(role))];
        count = count.is_null() ? 1 : count.get<int>() + 1;
    });
    network.all<Link>().forEach([&](const Link& link) {
        Json& count = byMedium[std::string(textOf(mediumOf(network, link)))];
        count = count.is_null() ? 1 : count.get<int>() + 1;
    });
    const auto devices = static_cast<int>(network.all<Device>().size());
    return {{"devices", devices},
            {"links", network.all<Link>().size()},
            {"groups", network.all<Group>().size()},
            {"sheets", network.all<Sheet>().size()},
            {"endpoints", endpoints},
            {"infrastructure", devices - endpoints},
            {"byRole", byRole},
            {"byMedium", byMedium},
            {"components", components(network)}};
}

Json rectangle(const scene::Rect& r) {
    const auto whole = [](double v) { return static_cast<int>(std::lround(v)); };
    return {{"x", whole(r.x)}, {"y", whole(r.y)}, {"w", whole(r.w)}, {"h", whole(r.h)}};
}

/// Where a device is seen on a sheet, and as what: itself, the folded group that stands for
/// it, or the device it is tucked into.
void addShown(Json& row, const Network& network, const scene::Scene& scene, const Device& device) {
    const auto anchor = scene.anchorOf(device.id);
    if (!anchor) {
        row["shown"] = nullptr;
        row["shownAs"] = nullptr;
        return;
    }
    const bool folded = anchor->shown.kind == Kind::group;
    row["shown"] = rectangle(anchor->frame);
    row["shownAs"] = {{"kind", folded ? "group" : "device"},
                      {"name", folded ? network.group({anchor->shown.id})->name
                                      : network.device({anchor->shown.id})->name}};
}

Json devices(const Network& network, SheetId sheet, const find::Matcher& where) {
    Json rows = Json::array();
    const scene::Scene scene = scene::Scene::build(network, sheet);
    network.all<Device>().forEach([&](const Device& device) {
        if (!where.matches(device))
            return;
        Json addresses = Json::array();
        network.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
            for (const Address& address : interface.addresses)
                addresses.push_back(address.text());
        });
        const PortCount ports = countPorts(network, device);
        Json row{{"id", idText(device.id.value)},
                 {"name", device.name},
                 {"role", std::string(textOf(roleOf(network, device)))},
                 {"model", device.model},
                 {"group", pathText(network, device.group)}};
        if (const auto plate = scene::plateOf(network, sheet, device)) {
            row["x"] = static_cast<int>(plate->frame.x);
            row["y"] = static_cast<int>(plate->frame.y);
            row["w"] = static_cast<int>(plate->frame.w);
            row["h"] = static_cast<int>(plate->frame.h);
        }
        addShown(row, network, scene, device);
        row["addresses"] = addresses;
        row["ports"] = ports.all;
        row["portsUsed"] = ports.used;
        rows.push_back(std::move(row));
    });
    return rows;
}

Json end(const Network& network, const PortRef& port) {
    const Device* device = network.device(port.device);
    return {{"device", device ? device->name : ""}, {"port", port.port}};
}

Json links(const Network& network, SheetId sheet, const find::Matcher& where) {
    Json rows = Json::array();
    const scene::Scene scene = scene::Scene::build(network, sheet);
    network.all<Link>().forEach([&](const Link& link) {
        if (!where.matches(link))
            return;
        const Cable* cable = network.cable(link.cable);
        Json path = nullptr; // as it is drawn
        if (const scene::LinkLine* line = scene.link(link.id)) {
            path = Json::array();
            for (const scene::PointF p : line->path)
                path.push_back({std::round(p.x * 10) / 10, std::round(p.y * 10) / 10});
        }
        Json over = Json::array();
        for (const LinkId below : link.over)
            if (const Link* held = network.link(below))
                over.push_back(edit::linkText(network, *held));
        const Sheet* upper = network.sheet(link.onlyOn);
        rows.push_back({{"id", idText(link.id.value)},
                        {"a", end(network, link.a)},
                        {"b", end(network, link.b)},
                        {"medium", std::string(textOf(mediumOf(network, link)))},
                        {"cable", cable ? cable->type : ""},
                        {"lengthM", cable ? static_cast<double>(cable->lengthMm) / 1000 : 0.0},
                        {"speedMbps", speedOf(network, link)},
                        {"provenance", std::string(textOf(link.provenance.origin))},
                        {"layer", upper ? Json(upper->name) : Json(nullptr)}, // a file brought
                        {"over", std::move(over)},
                        {"path", path}});
    });
    return rows;
}

Json ports(const Network& network, const find::Matcher& where) {
    Json rows = Json::array();
    network.all<Device>().forEach([&](const Device& device) {
        for (const PortView& port : portsOf(network, device)) {
            if (!where.matches(PortRef{device.id, port.key}))
                continue;
            const Link* link = network.linkAt({device.id, port.key});
            Json peer = nullptr;
            if (link)
                peer = end(network, link->a == PortRef{device.id, port.key} ? link->b : link->a);
            // Past panels and midspans, where there are any.
            const auto far = link ? linking::farEnd(network, {device.id, port.key}) : std::nullopt;
            const auto rates = port.rates();
            rows.push_back({{"device", device.name},
                            {"port", port.key},
                            {"block", std::string(textOf(port.like->block))},
                            {"connector", std::string(textOf(port.connector()))},
                            {"cage", std::string(textOf(port.like->cage))},
                            {"speedMbps", rates.empty() ? 0 : rates.back()},
                            {"disabled", port.disabled()},
                            {"reserved", port.reserved()},
                            {"peer", peer},
                            {"farEnd", far ? end(network, *far) : Json(nullptr)}});
        }
    });
    return rows;
}

Json groups(const Network& network, SheetId sheet, const find::Matcher& where) {
    Json rows = Json::array();
    const scene::Scene scene = scene::Scene::build(network, sheet);
    network.all<Group>().forEach([&](const Group& group) {
        if (!where.matches(group))
            return;
        const scene::ShownGroup* shown = scene.folding() ? scene.folding()->group(group.id) : nullptr;
        const Position* position = network.position(sheet, group.id.value);
        const Group* parent = network.group(group.parent);
        rows.push_back({{"id", idText(group.id.value)},
                        {"name", group.name},
                        {"kind", std::string(textOf(group.type))},
                        {"path", pathText(network, group.id)},
                        {"parent", parent ? Json(parent->name) : Json(nullptr)},
                        {"level", group.level},
                        {"devices", devicesWithin(network, group.id).size()},
                        {"folded", position && position->folded},
                        {"shown", shown ? rectangle(shown->frame) : Json(nullptr)}});
    });
    return rows;
}

Json sheets(const Network& network, const find::Matcher& where) {
    Json rows = Json::array();
    for (const Sheet& sheet : network.sheetsInOrder()) {
        if (!where.matches(sheet))
            continue;
        rows.push_back({{"id", idText(sheet.id.value)},
                        {"name", sheet.name},
                        {"layer", std::string(textOf(sheet.layer))},
                        {"groups", sheet.groups},
                        {"racks", sheet.racks},
                        {"group", pathText(network, sheet.shows)},
                        {"filter", sheet.filter},
                        {"filterHides", sheet.filterHides},
                        {"mmPerUnit", sheet.mmPerUnit}});
    }
    return rows;
}

Json racks(const Network& network, const find::Matcher& where) {
    Json rows = Json::array();
    for (const GroupId id : racksOf(network)) {
        const Group& rack = *network.group(id);
        if (!where.matches(rack))
            continue;
        Json mounted = Json::array();
        for (const Mounted& each : mountedIn(network, id)) {
            mounted.push_back({{"device", network.device(each.device)->name},
                               {"unit", each.unit},
                               {"height", each.height},
                               {"side", std::string(textOf(each.side))}});
            if (each.halfWide)
                mounted.back()["half"] = std::string(textOf(each.half));
        }
        const RackUse use = useOf(network, rack);
        rows.push_back({{"id", idText(id.value)},
                        {"name", rack.name},
                        {"path", pathText(network, id)},
                        {"units", use.units},
                        {"depthMm", rack.depthMm},
                        {"used", use.used},
                        {"free", use.free()},
                        {"largestGap", use.largestGap},
                        {"watts", use.watts},
                        {"kg", std::round(use.kg * 10) / 10},
                        {"mounted", mounted}});
    }
    return rows;
}

Json cableRoutes(const Network& network) {
    Json rows = Json::array();
    std::set<GroupId> floors;
    network.all<CableRoute>().forEach([&](const CableRoute& route) { floors.insert(route.floor); });
    for (const GroupId floor : floors)
        for (const linking::RouteLoad& load : linking::loadsOn(network, floor)) {
            const CableRoute& route = *network.cableRoute(load.route);
            Json points = Json::array();
            for (const FloorPoint& point : route.points)
                points.push_back({{"xMm", point.xMm}, {"yMm", point.yMm}});
            rows.push_back({{"id", idText(route.id.value)},
                            {"name", route.name},
                            {"type", std::string(textOf(route.type))},
                            {"floor", pathText(network, floor)},
                            {"points", points},
                            {"widthMm", route.widthMm},
                            {"depthMm", route.type == CableRouteKind::tray ? route.depthMm : 0},
                            {"cables", load.cables.size()},
                            {"percent", load.percent},
                            {"limit", load.limit},
                            {"fullestAtMm", load.atMm}});
        }
    return rows;
}

Json power(const Network& network) {
    Json rows = Json::array();
    const PowerTree tree(network);
    const auto names = [&](const std::vector<DeviceId>& devices) {
        Json out = Json::array();
        for (const DeviceId id : devices)
            out.push_back(network.device(id)->name);
        return out;
    };
    for (const PowerSource& source : tree.sources()) {
        const PowerLoad load = tree.loadOf(source);
        rows.push_back({{"name", tree.nameOf(source)},
                        {"device", source.device ? Json(idText(source.device.value)) : Json(nullptr)},
                        {"watts", std::llround(load.watts)},
                        {"worstWatts", std::llround(load.worstWatts)},
                        {"ratingWatts", load.ratingWatts},
                        {"darkWithout", names(tree.darkWithout(source))},
                        {"weakerWithout", names(tree.weakerWithout(source))}});
    }
    return rows;
}

Json vlans(const Network& network, const find::Matcher& where) {
    Json rows = Json::array();
    network.all<Vlan>().forEach([&](const Vlan& vlan) {
        if (!where.matches(vlan))
            return;
        rows.push_back({{"id", idText(vlan.id.value)},
                        {"number", vlan.number},
                        {"name", vlan.name},
                        {"scope", pathText(network, vlan.scope)}});
    });
    return rows;
}

Json subnets(const Network& network, const find::Matcher& where) {
    Json rows = Json::array();
    network.all<Subnet>().forEach([&](const Subnet& subnet) {
        if (!where.matches(subnet))
            return;
        const Vlan* vlan = network.vlan(subnet.vlan);
        rows.push_back({{"id", idText(subnet.id.value)},
                        {"prefix", subnet.prefix.text()},
                        {"name", subnet.name},
                        {"vlan", vlan ? vlan->number : 0}});
    });
    return rows;
}

Json cables(const Network& network, const find::Matcher& where) {
    Json rows = Json::array();
    network.all<Cable>().forEach([&](const Cable& cable) {
        if (!where.matches(cable))
            return;
        Json ends = Json::array();
        for (const CableEnd& each : cable.ends)
            ends.push_back(end(network, each.at));
        rows.push_back({{"id", idText(cable.id.value)},
                        {"type", cable.type},
                        {"label", cable.label},
                        {"lengthM", static_cast<double>(cable.lengthMm) / 1000},
                        {"status", std::string(textOf(cable.status))},
                        {"ends", ends}});
    });
    return rows;
}

std::string cellText(const Json& value) {
    if (value.is_string())
        return value.get<std::string>();
    if (value.is_object() && value.contains("unit"))
        return value["device"].get<std::string>() + "@" + value["unit"].dump();
    if (value.is_object() && value.contains("via"))
        return (value["via"].is_null() ? "on" : value["via"].get<std::string>()) + "@" +
               value["interface"].get<std::string>();
    if (value.is_object() && value.contains("device") &&
        (value.contains("port") || value.contains("interface")))
        return value["device"].get<std::string>() + ":" +
               value[value.contains("port") ? "port" : "interface"].get<std::string>();
    if (value.is_array()) {
        std::string out;
        for (const Json& item : value)
            out += (out.empty() ? "" : " ") + cellText(item);
        return out;
    }
    return value.is_null() ? "" : value.dump();
}

} // namespace

const std::vector<std::string>& listable() {
    static const std::vector<std::string> all{"summary",       "devices", "ports",      "links",   "groups",
                                              "sheets",        "racks",   "vlans",      "subnets", "cables",
                                              "cable-routes",  "power",   "interfaces", "routes",  "islands",
                                              "spanning-tree", "rings"};
    return all;
}

Json appliedJson(const edit::Script& script) {
    Json made = Json::array();
    for (const edit::Applied& line : script.lines) {
        Json ids = Json::array(), names = Json::array();
        for (const ObjectRef object : line.objects) {
            const Device* device = script.network.device({object.id});
            const Group* group = script.network.group({object.id});
            ids.push_back(idText(object.id));
            names.push_back(device ? Json(device->name) : group ? Json(group->name) : Json(nullptr));
        }
        made.push_back({{"line", line.line}, {"act", line.act}, {"ids", ids}, {"names", names}});
    }
    return {{"made", made}};
}

std::string appliedText(const edit::Script& script) {
    return fmt::format("{} act{} done\n", script.lines.size(), script.lines.size() == 1 ? "" : "s");
}

Result<GroupId> groupNamed(const Network& network, const std::string& name) {
    std::vector<GroupId> found;
    network.all<Group>().forEach([&](const Group& group) {
        if (group.name == name || idText(group.id.value) == name)
            found.push_back(group.id);
    });
    if (found.empty())
        return error(fmt::format("there is no group {}", name), "see underridge list FILE groups");
    if (found.size() > 1)
        return error(fmt::format("{} groups are named {}", found.size(), name), "write its id");
    return found.front();
}

Result<SheetId> sheetNamed(const Network& network, const std::string& name) {
    const auto sheets = network.sheetsInOrder();
    for (const Sheet& sheet : sheets)
        if (name.empty() || sheet.name == name)
            return sheet.id;
    if (name.empty())
        return SheetId{};
    return error(fmt::format("there is no sheet {}", name), "see underridge list FILE sheets");
}

Result<Json> listing(const Network& network, const Catalogue& catalogue, const Listed& wanted) {
    const auto sheet = sheetNamed(network, wanted.sheet);
    if (!sheet)
        return sheet.refusal();
    const auto filter = find::Filter::parse(wanted.where);
    if (!filter)
        return filter.refusal();
    const std::string& what = wanted.what;
    if (what == "summary")
        return filter->empty() ? Result<Json>(summary(network))
                               : error("a summary is of the whole network", "list devices --where");
    find::Findings findings;
    if (filter->asks(find::Field::finding))
        findings = find::Findings(analysis::sift(network, analysis::check(network, catalogue), today()).open);
    const find::Matcher where(network, *filter, &findings);
    if (what == "devices")
        return devices(network, *sheet, where);
    if (what == "ports")
        return ports(network, where);
    if (what == "links")
        return links(network, *sheet, where);
    if (what == "groups")
        return groups(network, *sheet, where);
    if (what == "sheets")
        return sheets(network, where);
    if (what == "racks")
        return racks(network, where);
    if (what == "vlans")
        return vlans(network, where);
    if (what == "subnets")
        return subnets(network, where);
    if (what == "cable-routes" || what == "power") {
        if (!filter->empty())
            return error(fmt::format("{} is not filtered", what), "leave --where out");
        return what == "power" ? power(network) : cableRoutes(network);
    }
    if (isOfForwarding(what))
        return forwardingListing(network, what, where);
    if (what == "cables")
        return cables(network, where);
    return error(fmt::format("{} cannot be listed", what), "see underridge list --help");
}

std::string asText(const Json& listed) {
    std::string out;
    if (listed.contains("instances"))
        return spanningTreeText(listed);
    if (listed.is_object()) {
        for (const auto& [name, value] : listed.items())
            out += fmt::format("{}\t{}\n", name, value.is_object() ? value.dump() : cellText(value));
        return out;
    }
    for (const Json& row : listed) {
        std::string line;
        for (const auto& [name, value] : row.items())
            if (name != "id")
                line += (line.empty() ? "" : "\t") + cellText(value);
        out += line + "\n";
    }
    return out;
}

Json remarksJson(const std::vector<Remark>& remarks) {
    Json rows = Json::array();
    const char* severities[] = {"error", "warning", "advice"};
    for (const Remark& remark : remarks)
        rows.push_back({{"severity", severities[static_cast<int>(remark.severity)]},
                        {"message", remark.what},
                        {"remedy", remark.remedy},
                        {"file", remark.where.file},
                        {"line", remark.where.line},
                        {"column", remark.where.column},
                        {"object", remark.where.object}});
    return rows;
}

} // namespace underridge::cli
