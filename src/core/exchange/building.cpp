// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/building.h"

#include "core/exchange/record_json.h"
#include "core/model/ports.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
namespace {

constexpr std::size_t maxKey = 200, maxName = 200;
constexpr std::uint64_t idMask = (std::uint64_t{1} << idBits) - 1;

std::optional<double> number(const std::string& text) {
    double value = 0;
    const std::string plain = trimmed(text);
    const auto [end, code] = std::from_chars(plain.data(), plain.data() + plain.size(), value);
    if (code != std::errc() || end != plain.data() + plain.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

std::string sameName(std::string_view text) {
    std::string out;
    for (const char c : lowered(text))
        if (c != ' ' && c != '_' && c != '-')
            out += c;
    return out;
}

std::string cut(const std::string& text, std::size_t most) {
    if (text.size() <= most)
        return text;
    std::size_t end = most;
    while (end > 0 && (static_cast<unsigned char>(text[end]) & 0xC0) == 0x80)
        --end;
    return text.substr(0, end);
}

template <class Entry>
const Entry* byIdOrName(const std::vector<Entry>& entries, const std::string& text) {
    const auto byId =
        std::find_if(entries.begin(), entries.end(), [&](const Entry& e) { return e.id == text; });
    if (byId != entries.end())
        return &*byId;
    const std::string wanted = lowered(text);
    const auto byName = std::find_if(entries.begin(), entries.end(),
                                     [&](const Entry& e) { return lowered(e.name) == wanted; });
    return byName == entries.end() ? nullptr : &*byName;
}

/// Takes an entry of the catalogue into the network, once.
template <class Entry>
void use(Network& network, const Entry& entry) {
    if (!network.find<Entry>(entry.key()))
        network.put(entry);
}

} // namespace

std::uint64_t Ids::idFor(std::string_view scope, std::string_view text) {
    std::uint64_t id = 0;
    if (const auto own = idFromText(text))
        id = *own;
    else
        id = fnv1a(std::string(scope) + '\n' + std::string(text)) & idMask;
    while (id == 0 || !taken_.insert(id).second)
        id = (id * 6364136223846793005ULL + 1442695040888963407ULL) & idMask;
    return id;
}

Builder::Builder(const Source& source, std::string_view networkName) : source_(source), remarks_(kept_) {
    info_.id = {ids_.idFor("network", source.file + std::string(networkName))};
    info_.name = cut(std::string(networkName), maxName);
}

SheetId Builder::addSheet(const std::string& name) {
    Sheet sheet;
    sheet.id = {ids_.idFor("sheet", name + std::to_string(sheets_.size()))};
    sheet.name = name.empty() ? "Sheet" : cut(name, maxName);
    sheet.order = static_cast<int>(sheets_.size());
    sheets_.push_back(sheet);
    return sheet.id;
}

DeviceId Builder::addDevice(std::string_view identity, const std::string& name) {
    Device device;
    device.id = {ids_.idFor("device", identity)};
    device.name = trimmed(name).empty() ? cut(std::string(identity), maxName) : cut(name, maxName);
    device.provenance.origin = Origin::imported;
    device.provenance.source = source_.file.substr(source_.file.find_last_of('/') + 1);
    const DeviceId id = device.id;
    draftOf_[id.value] = drafts_.size();
    drafts_.push_back({std::move(device), {}});
    return id;
}

void Builder::show(SheetId sheet, DeviceId device) {
    if (shownAt_.emplace(std::pair(sheet.value, device.value), shown_.size()).second)
        shown_.push_back({sheet, device, std::nullopt});
}

void Builder::setPosition(SheetId sheet, DeviceId device, double x, double y, const Where& where) {
    show(sheet, device);
    if (!std::isfinite(x) || !std::isfinite(y) || std::abs(x) > 1e9 || std::abs(y) > 1e9) {
        remarks_.add(warning("the position is not a place on a sheet", "it is put down elsewhere", where));
        return;
    }
    shown_[shownAt_.at({sheet.value, device.value})].at = {x, y};
}

namespace {

bool gives(const DeviceModel* model, const std::string& key) {
    return model && (model->ports.find(key) || model->additional.find(key));
}

} // namespace

const DeviceModel* Builder::modelOf(const Device& device) const {
    return device.model.empty() ? nullptr : network_.find<DeviceModel>({fnv1a(device.model), 0});
}

PortRef Builder::port(DeviceId id, const std::string& key) {
    if (key.empty() || key.size() > maxKey)
        return {id, {}};
    draft(id).named.push_back(key);
    return {id, key};
}

void Builder::addPorts(DeviceId id, const PortNames& names) {
    Draft& at = draft(id);
    if (at.device.learned.empty())
        at.device.learned = names;
    else if (!(at.device.learned == names)) // else another layer names the same ones
        at.named.insert(at.named.end(), names.all().begin(), names.all().end());
}

bool Builder::isLearned(const PortRef& port) {
    return port.known() && !gives(modelOf(device(port.device)), port.port);
}

/// Ports that the model gives after all are not learned.
void Builder::settlePorts(Draft& draft) {
    PortNames& learned = draft.device.learned;
    const DeviceModel* model = modelOf(draft.device);
    const auto given = [&](const std::string& name) { return gives(model, name); };
    const bool lacksNone = !model || std::none_of(learned.all().begin(), learned.all().end(), given);
    if (draft.named.empty() && lacksNone)
        return;
    std::vector<std::string> names = learned.all();
    names.insert(names.end(), draft.named.begin(), draft.named.end());
    std::erase_if(names, given);
    learned = PortNames(std::move(names));
}

Port& Builder::portRecord(const PortRef& ref) {
    Port& port = ports_[ref];
    port.device = ref.device;
    port.port = ref.port;
    return port;
}

GroupId Builder::addGroup(std::string_view identity, const std::string& name, GroupId parent) {
    Group group;
    group.id = {ids_.idFor("group", identity)};
    group.name = trimmed(name).empty() ? cut(std::string(identity), maxName) : cut(name, maxName);
    group.parent = parent;
    group.provenance.origin = Origin::imported;
    const GroupId id = group.id;
    groups_[id.value] = std::move(group);
    return id;
}

GroupId Builder::group(const std::vector<std::string>& path) {
    GroupId at;
    std::string whole;
    for (const std::string& name : path) {
        whole += name + '\n';
        auto [found, fresh] = groupNames_.try_emplace({at.value, name}, 0);
        if (fresh)
            found->second = addGroup(whole, name, at).value;
        at = {found->second};
    }
    return at;
}

Link& Builder::addLink(std::string_view identity, const PortRef& a, const PortRef& b) {
    Link link;
    link.id = {ids_.idFor("link", identity)};
    link.a = a;
    link.b = b;
    link.provenance.origin = Origin::imported;
    link.provenance.source = source_.file.substr(source_.file.find_last_of('/') + 1);
    const auto id = link.id.value;
    return links_[id] = std::move(link);
}

bool Builder::setCable(Link& link, const std::string& typeName) {
    const CableType* type = byIdOrName(source_.catalogue.cables, typeName);
    if (!type)
        return false;
    use(network_, *type);
    Cable cable;
    if (const auto old = cables_.find(link.cable.value); old != cables_.end())
        cable = old->second;
    else
        cable.id = {ids_.idFor("cable", idText(link.id.value) + "cable")};
    cable.type = type->id;
    cable.ends = {{link.a, {}}, {link.b, {}}};
    link.cable = cable.id;
    cables_[cable.id.value] = std::move(cable);
    return true;
}

Cable* Builder::cableOf(const Link& link) {
    const auto at = cables_.find(link.cable.value);
    return at == cables_.end() ? nullptr : &at->second;
}

void Builder::setRole(DeviceId id, Role role) {
    const DeviceModel model = modelForRole(role);
    device(id).model = model.id;
    use(network_, model);
}

bool Builder::setModel(DeviceId id, const std::string& idOrName) {
    const DeviceModel* model = byIdOrName(source_.catalogue.devices, idOrName);
    if (!model)
        return false;
    use(network_, *model);
    device(id).model = model->id;
    return true;
}

Interface& Builder::interfaceOn(DeviceId id, const std::string& port) {
    auto [at, fresh] = interfaces_.try_emplace({id.value, port});
    Interface& interface = at->second;
    if (fresh) {
        interface.id = {ids_.idFor("interface", idText(id.value) + "/" + port)};
        interface.device = id;
        interface.port = port;
        interface.type = port.empty() ? InterfaceKind::loopback : InterfaceKind::physical;
    }
    return interface;
}

Interface& Builder::interfaceNamed(DeviceId id, InterfaceKind type, const std::string& name) {
    const std::string key = fmt::format("{}/{}", textOf(type), name);
    auto [at, fresh] = interfaces_.try_emplace({id.value, key});
    Interface& interface = at->second;
    if (fresh) {
        interface.id = {ids_.idFor("interface", idText(id.value) + "/" + key)};
        interface.device = id;
        interface.name = name;
        interface.type = type;
    }
    return interface;
}

void Builder::addAddress(DeviceId id, const std::string& port, const std::string& address) {
    addAddress(interfaceOn(id, port), address);
}

void Builder::addAddress(Interface& interface, const std::string& address) {
    auto& addresses = interface.addresses;
    if (std::find(addresses.begin(), addresses.end(), Address(address)) == addresses.end())
        addresses.push_back(address);
}

VlanId Builder::vlan(int number) {
    auto [at, fresh] = vlans_.try_emplace(number);
    if (fresh) {
        at->second.id = {ids_.idFor("vlan", std::to_string(number))};
        at->second.number = number;
        at->second.name = fmt::format("VLAN {}", number);
    }
    return at->second.id;
}

bool Builder::setDeviceField(DeviceId id, const std::string& name, const std::string& value, WhereIs where) {
    Device& device = this->device(id);
    const std::string field = sameName(name);
    const auto keep = [&] {
        device.attributes[name] = value;
        return false;
    };
    if (field == "name" || field == "label") {
        if (!trimmed(value).empty())
            device.name = cut(value, maxName);
    } else if (field == "model") {
        if (setModel(id, value))
            return true;
        remarks_.add(advice(fmt::format("the model \"{}\" is not in the catalogue", cut(value, 60)),
                            "it is kept as an attribute; choose a model in the details", where()));
        return keep();
    } else if (field == "role") {
        if (!device.model.empty())
            return true; // the model says it
        std::string word = lowered(trimmed(value));
        std::replace(word.begin(), word.end(), ' ', '-');
        if (const auto role = fromText<Role>(word); role && *role != Role::unknown) {
            setRole(id, *role);
            return true;
        }
        if (word != "unknown")
            return keep();
    } else if (field == "address" || field == "addresses") {
        for (const std::string& address : splitWords(value)) {
            if (!Address(address).valid()) {
                remarks_.add(warning(fmt::format("{} is not an address", cut(address, 60)),
                                     "it is kept as an attribute", where()));
                return keep();
            }
            addAddress(id, {}, address);
        }
    } else if (field == "serial") {
        device.serial = cut(value, maxName);
    } else if (field == "note" || field == "description") {
        device.note = SharedText(value);
    } else if (field == "outside") {
        device.outside = value == "true" || value == "yes" || value == "1";
    } else {
        device.attributes[name] = value;
    }
    return true;
}

/// What a column says of a link's cable: whether it could be taken; nothing when it is
/// about something else.
std::optional<bool> Builder::setCableField(Cable& cable, const std::string& field, const std::string& value,
                                           WhereIs where) {
    if (field == "lengthm" || field == "length") {
        const auto metres = number(value);
        if (!metres || *metres < 0 || *metres > 1e8) {
            remarks_.add(warning(fmt::format("{} is not a length in metres", cut(value, 60)),
                                 "it is kept as an attribute", where()));
            return false;
        }
        cable.lengthMm = std::llround(*metres * 1000);
        return true;
    }
    if (field == "label") {
        cable.label = cut(value, maxName);
        return true;
    }
    if (field == "status") {
        const auto status = fromText<CableStatus>(lowered(trimmed(value)));
        cable.status = status.value_or(cable.status);
        return status.has_value();
    }
    if (field == "colour" && value.size() == 7 && value[0] == '#' &&
        value.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos) {
        cable.jacket = value;
        return true;
    }
    return std::nullopt;
}

bool Builder::setLinkField(Link& link, const std::string& name, const std::string& value, WhereIs where) {
    const std::string field = sameName(name);
    const auto keep = [&] {
        link.attributes[name] = value;
        return false;
    };
    if (field == "medium") {
        std::string word = lowered(trimmed(value));
        std::replace(word.begin(), word.end(), ' ', '-');
        if (const auto medium = fromText<Medium>(word)) {
            link.medium = *medium;
            return true;
        }
        remarks_.add(advice(fmt::format("\"{}\" is not a medium", cut(value, 60)),
                            "it is kept as an attribute", where()));
        return keep();
    }
    if (field == "cable") {
        if (setCable(link, value))
            return true;
        remarks_.add(advice(fmt::format("the cable type \"{}\" is not in the catalogue", cut(value, 60)),
                            "it is kept as an attribute", where()));
        return keep();
    }
    Cable* cable = cableOf(link);
    if (const auto taken = cable ? setCableField(*cable, field, value, where) : std::nullopt)
        return *taken || keep();
    if (!cable && (field == "lengthm" || field == "length"))
        return keep();
    if (field == "note" || field == "description") {
        link.note = value;
        return true;
    }
    if (field == "speedmbps") {
        const auto speed = number(value);
        if (!speed || *speed < 1 || *speed > 10'000'000)
            return keep();
        // Where model and cable are known the speed follows from them.
        for (const PortRef* end : {&link.a, &link.b})
            if (isLearned(*end))
                portRecord(*end).speed = static_cast<int>(*speed);
        return link.cable ? true : link.a.known() && link.b.known() ? true : keep();
    }
    link.attributes[name] = value;
    return true;
}

/// Positions of another program may be in any unit, and on one heap. Those of a sheet are
/// stretched until plates have room on the average; what still lies on the same spot is
/// put down anew.
void Builder::spread(std::vector<Position>& positions) {
    for (const Sheet& sheet : sheets_) {
        std::vector<Shown*> drawn;
        for (Shown& shown : shown_)
            if (shown.sheet == sheet.id && shown.at)
                drawn.push_back(&shown);
        if (drawn.empty())
            continue;
        double left = 1e18, right = -1e18, top = 1e18, bottom = -1e18;
        for (const Shown* each : drawn) {
            left = std::min(left, each->at->first);
            right = std::max(right, each->at->first);
            top = std::min(top, each->at->second);
            bottom = std::max(bottom, each->at->second);
        }
        const double width = right - left, height = bottom - top, longest = std::max(width, height);
        // A plate and its surroundings want about this much room.
        constexpr double cellWidth = 150, cellHeight = 90;
        const double wanted = std::sqrt(static_cast<double>(drawn.size()) * cellWidth * cellHeight);
        double scale = 1;
        if (drawn.size() > 1 && longest > 0 && longest < wanted * 0.5)
            scale = wanted / longest;
        // A drawing far larger than a sheet is one in other units.
        if (longest * scale > 1.6 * sheetLimit)
            scale = 1.6 * sheetLimit / longest;
        const bool shifted = scale != 1 || std::abs(left) > sheetLimit * 0.9 ||
                             std::abs(right) > sheetLimit * 0.9 || std::abs(top) > sheetLimit * 0.9 ||
                             std::abs(bottom) > sheetLimit * 0.9;
        const double offsetX = shifted ? left + width / 2 : 0, offsetY = shifted ? top + height / 2 : 0;
        std::set<std::pair<int, int>> spots;
        for (Shown* each : drawn) {
            const int x = static_cast<int>(std::lround((each->at->first - offsetX) * scale));
            const int y = static_cast<int>(std::lround((each->at->second - offsetY) * scale));
            if (!spots.insert({x, y}).second) {
                each->at.reset();
                continue;
            }
            Position position;
            position.sheet = each->sheet;
            position.object = each->device.value;
            position.of = Kind::device;
            position.at = {x, y};
            positions.push_back(std::move(position));
        }
    }
}

Loaded Builder::finish() {
    if (sheets_.empty())
        addSheet("Sheet 1");
    Records records;
    const auto add = [&]<class Record>(Record record) { records.all<Record>().push_back(std::move(record)); };
    network_.forEachTable([&](const auto& table) { table.forEach(add); }); // the models used
    add(info_);
    for (Sheet& sheet : sheets_)
        add(sheet);
    for (auto& [id, group] : groups_)
        add(std::move(group));
    for (auto& [number, vlan] : vlans_)
        add(std::move(vlan));
    for (auto& [ref, port] : ports_)
        if (!isPlain(port))
            add(std::move(port));
    for (Draft& draft : drafts_) {
        settlePorts(draft);
        add(std::move(draft.device));
    }
    for (auto& [key, interface] : interfaces_)
        add(std::move(interface));
    for (auto& [id, link] : links_) {
        if (link.cable)
            link.medium = Medium::unknown; // the cable tells it
        add(std::move(link));
    }
    for (auto& [id, cable] : cables_)
        add(std::move(cable));
    spread(records.all<Position>());
    network_ = Network::of(std::move(records));
    leadRemarks();
    return {std::move(network_), std::move(kept_), unplaced()};
}

/// What has no position, sheet by sheet.
std::vector<Unplaced> Builder::unplaced() const {
    std::vector<Unplaced> out;
    for (const Sheet& sheet : sheets_) {
        std::vector<DeviceId> without;
        for (const Shown& shown : shown_)
            if (shown.sheet == sheet.id && !shown.at)
                without.push_back(shown.device);
        if (!without.empty())
            out.push_back({sheet.id, std::move(without)});
    }
    return out;
}

/// Remarks lead to the objects they name.
void Builder::leadRemarks() {
    if (std::all_of(kept_.begin(), kept_.end(),
                    [](const Remark& remark) { return remark.where.object.empty(); }))
        return;
    std::unordered_map<std::string_view, std::uint64_t> byName;
    for (const auto& [name, id] : objects_)
        byName.emplace(name, id); // the first of several
    for (Remark& remark : kept_)
        if (const auto at = byName.find(remark.where.object); at != byName.end())
            remark.where.id = at->second;
}

std::string extraMember(const SharedText& extra, std::string_view name) {
    if (extra.empty())
        return {};
    const auto json = JsonText::parse(extra.str(), {}, maxOwnDepth);
    return json ? std::string(json->root()[name].raw()) : std::string();
}

SharedText withExtraMember(const SharedText& extra, std::string_view name, std::string_view json) {
    if (extra.empty())
        return {fmt::format("{{{}:{}}}", jsonText(name), json)};
    const auto held = JsonText::parse(extra.str(), {}, maxOwnDepth);
    JsonMembers members = held ? JsonMembers(held->root()) : JsonMembers();
    members.set(name, std::string(json));
    return {members.text()};
}

Remark lossRemark(std::size_t count, std::string_view one, std::string_view many, std::string_view target) {
    return advice(fmt::format("{} {} left out: {} cannot hold {}", count, count == 1 ? one : many, target,
                              count == 1 ? "it" : "them"),
                  "keep the Underridge file as well");
}

void listLosses(const Network& network, const Holds& holds, std::string_view target,
                std::vector<Remark>& remarks) {
    const auto lost = [&](std::size_t count, std::string_view one, std::string_view many) {
        if (count > 0)
            remarks.push_back(lossRemark(count, one, many, target));
    };
    std::size_t models = 0, fitted = 0, bends = 0, positions = 0, places = 0;
    std::size_t startUps = 0, stacks = 0;
    network.all<Device>().forEach([&](const Device& device) {
        models += network.modelOf(device) != nullptr;
        fitted += device.modules.size() + device.transceivers.size();
        places += static_cast<bool>(device.place.in);
        startUps += !device.startUp.empty();
        stacks += !device.stack.empty();
    });
    const auto sheets = network.sheetsInOrder();
    network.all<Position>().forEach([&](const Position& position) {
        bends += !position.bends.empty();
        const bool first = !sheets.empty() && position.sheet == sheets.front().id;
        positions += network.device({position.object}) && !(first && holds.positions);
    });
    if (!holds.models)
        lost(models, "device model", "device models");
    lost(fitted, "module or transceiver", "modules and transceivers");
    lost(stacks, "stack", "stacks");
    lost(places, "place on a floor or in a rack", "places on floors and in racks");
    lost(startUps, "start-up configuration", "start-up configurations");
    if (!holds.groups)
        lost(network.all<Group>().size(), "group", "groups");
    if (!holds.cables)
        lost(network.all<Cable>().size(), "cable with type, length and label",
             "cables with type, length and label");
    lost(positions, "position", "positions");
    lost(bends, "bend", "bends");
    lost(network.all<Note>().size(), "note", "notes");
    lost(network.all<Subnet>().size(), "subnet", "subnets");
    lost(network.all<Service>().size(), "service", "services");
    lost(network.all<Route>().size(), "static route", "static routes");
    lost(network.all<Statement>().size(), "statement", "statements");
    lost(network.all<Ring>().size(), "declared ring", "declared rings");
    lost(network.all<SetAside>().size(), "finding set aside", "findings set aside");
    std::size_t forwarding = 0;
    network.all<Device>().forEach([&](const Device& device) {
        forwarding +=
            device.spanningTree || device.ospf || device.bgp || device.filter || !device.translations.empty();
    });
    lost(forwarding, "setting of trees, routing or filters", "settings of trees, routing or filters");
    lost(network.all<PanelMap>().size(), "panel map", "panel maps");
    lost(network.all<CableRoute>().size(), "cable route", "cable routes");
    lost(network.all<Asset>().size(), "part of a picture", "parts of pictures");
    lost(network.all<UnknownRecord>().size(), "object of an unknown kind", "objects of an unknown kind");
}

Names::Names(const Network& network) {
    network.all<Device>().forEach([&](const Device& device) { ++count_[device.name]; });
}

std::string Names::of(const Device& device) const {
    const auto at = count_.find(device.name);
    return at != count_.end() && at->second == 1 && !idFromText(device.name) ? device.name
                                                                             : idText(device.id.value);
}

std::string groupPath(const Network& network, GroupId id) {
    std::string path;
    for (int depth = 0; id && depth < 64; ++depth) {
        const Group* group = network.group(id);
        if (!group)
            break;
        path = path.empty() ? group->name : group->name + "/" + path;
        id = group->parent;
    }
    return path;
}

std::vector<std::pair<std::string, std::string>> deviceFields(const Network& network, const Device& device) {
    std::vector<std::pair<std::string, std::string>> out;
    const auto add = [&](const char* name, std::string value) {
        if (!value.empty())
            out.emplace_back(name, std::move(value));
    };
    add("name", device.name);
    const DeviceModel* model = network.modelOf(device);
    const bool real = model && !model->id.ends_with("-not-known");
    add("role", model ? std::string(textOf(model->role)) : std::string());
    add("model", real ? model->id : std::string());
    std::string addresses;
    network.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
        for (const Address& address : interface.addresses)
            addresses += (addresses.empty() ? "" : " ") + address.text();
    });
    add("addresses", addresses);
    add("serial", device.serial);
    add("note", device.note.str());
    add("outside", device.outside ? "true" : "");
    for (const auto& [name, value] : device.attributes)
        if (!name.empty())
            out.emplace_back(name, value);
    return out;
}

std::vector<std::pair<std::string, std::string>> linkFields(const Network& network, const Link& link) {
    std::vector<std::pair<std::string, std::string>> out;
    const auto add = [&](const char* name, std::string value) {
        if (!value.empty())
            out.emplace_back(name, std::move(value));
    };
    const Medium medium = mediumOf(network, link);
    add("medium", medium == Medium::unknown ? std::string() : std::string(textOf(medium)));
    if (const Cable* cable = network.cable(link.cable)) {
        add("cable", cable->type);
        add("length m",
            cable->lengthMm > 0 ? fmt::format("{}", static_cast<double>(cable->lengthMm) / 1000) : "");
        add("label", cable->label);
        if (cable->status != CableStatus::installed)
            add("status", std::string(textOf(cable->status)));
        add("colour", cable->jacket);
    }
    if (const int speed = speedOf(network, link); speed > 0)
        add("speed Mbps", std::to_string(speed));
    add("note", link.note);
    for (const auto& [name, value] : link.attributes)
        if (!name.empty())
            out.emplace_back(name, value);
    return out;
}

} // namespace underridge::exchange
