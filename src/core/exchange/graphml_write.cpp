// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/foreign.h"
#include "core/model/ports.h"

#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <pugixml.hpp>
#include <sstream>

namespace underridge::exchange {
using namespace model;
namespace {

using Json = nlohmann::json;
using Values = std::vector<std::pair<std::string, std::string>>;

Json restOf(const SharedText& extra) {
    const std::string text = extraMember(extra, "graphml");
    Json json = text.empty() ? Json::object() : Json::parse(text, nullptr, false);
    return json.is_object() ? json : Json::object();
}

std::string stringIn(const Json& json, const char* name) {
    const auto at = json.find(name);
    return at != json.end() && at->is_string() ? at->get<std::string>() : std::string();
}

/// XML 1.0 has no way to write most control characters.
std::string xmlText(const std::string& text) {
    std::string out = text;
    for (char& c : out)
        if (static_cast<unsigned char>(c) < 0x20 && c != '\t' && c != '\n' && c != '\r')
            c = ' ';
    return out;
}

class Writer {
public:
    explicit Writer(const Network& network) : network_(network) {}

    std::string write() {
        auto declaration = document_.append_child(pugi::node_declaration);
        declaration.append_attribute("version") = "1.0";
        declaration.append_attribute("encoding") = "UTF-8";
        root_ = document_.append_child("graphml");
        root_.append_attribute("xmlns") = "http://graphml.graphdrawing.org/xmlns";
        const Json rest = restOf(network_.info().extra);
        if (const auto bound = rest.find("namespaces"); bound != rest.end() && bound->is_object())
            for (const auto& [prefix, uri] : bound->items())
                if (uri.is_string())
                    root_.append_attribute(prefix.c_str()) = uri.get<std::string>().c_str();
        readKeys(rest);
        if (!network_.info().note.empty())
            root_.append_child("desc").text().set(xmlText(network_.info().note).c_str());
        graphs();
        if (const auto elements = rest.find("elements"); elements != rest.end() && elements->is_array())
            for (const Json& element : *elements)
                if (element.is_string())
                    appendRaw(root_, element.get<std::string>());
        writeKeys();
        std::ostringstream out;
        document_.save(out, " ", pugi::format_indent, pugi::encoding_utf8);
        return out.str();
    }

private:
    struct Declared {
        std::string id, domain, name, type, fallback;
        bool hasFallback = false;
    };

    void readKeys(const Json& rest) {
        const auto keys = rest.find("keys");
        if (keys == rest.end() || !keys->is_array())
            return;
        for (const Json& key : *keys) {
            Declared declared{stringIn(key, "id"),   stringIn(key, "for"),     stringIn(key, "name"),
                              stringIn(key, "type"), stringIn(key, "default"), key.contains("default")};
            if (declared.id.empty() || !keyIds_.insert(declared.id).second)
                continue;
            keys_.push_back(std::move(declared));
        }
    }

    /// The key that says `name` of a kind of element; a new one when none is declared.
    std::size_t keyFor(const char* domain, const std::string& name) {
        const auto [at, fresh] = keyIndex_.try_emplace({domain, name}, keys_.size());
        if (!fresh)
            return at->second;
        for (std::size_t i = 0; i < keys_.size(); ++i)
            if (keys_[i].name == name && (keys_[i].domain == domain || keys_[i].domain == "all"))
                return at->second = i;
        Declared declared;
        declared.domain = domain;
        declared.name = name;
        const bool whole = (name == "x" || name == "y" || name == "level");
        declared.type = whole                  ? "int"
                        : name == "length m"   ? "double"
                        : name == "speed Mbps" ? "long"
                                               : "string";
        for (int n = 0; declared.id.empty() || !keyIds_.insert(declared.id).second; ++n)
            declared.id = fmt::format("{}{}", domain[0], n);
        at->second = keys_.size();
        keys_.push_back(std::move(declared));
        return at->second;
    }

    void writeKeys() {
        const pugi::xml_node first = root_.first_child();
        for (const Declared& key : keys_) {
            pugi::xml_node node = root_.insert_child_before("key", first);
            node.append_attribute("id") = key.id.c_str();
            node.append_attribute("for") = key.domain.c_str();
            node.append_attribute("attr.name") = key.name.c_str();
            if (!key.type.empty())
                node.append_attribute("attr.type") = key.type.c_str();
            if (key.hasFallback)
                node.append_child("default").text().set(key.fallback.c_str());
        }
    }

    static void appendRaw(pugi::xml_node& to, const std::string& xml) {
        to.append_buffer(xml.data(), xml.size(), pugi::parse_default | pugi::parse_fragment,
                         pugi::encoding_utf8);
    }

    void data(pugi::xml_node& node, const char* domain, const Values& values, const Json& rest) {
        for (const auto& [name, value] : values) {
            const Declared& key = keys_[keyFor(domain, name)];
            if (key.hasFallback && key.fallback == value)
                continue;
            pugi::xml_node child = node.append_child("data");
            child.append_attribute("key") = key.id.c_str();
            child.text().set(xmlText(value).c_str());
        }
        const auto foreign = rest.find("data");
        if (foreign == rest.end() || !foreign->is_object())
            return;
        for (const auto& [id, xml] : foreign->items())
            if (xml.is_string()) {
                pugi::xml_node child = node.append_child("data");
                child.append_attribute("key") = id.c_str();
                appendRaw(child, xml.get<std::string>());
            }
    }

    /// The id an object had in its source, if no other has it; else its own.
    std::string idFor(const std::string& original, std::uint64_t id, std::set<std::string>& taken) {
        std::string text = original.empty() ? idText(id) : original;
        if (!taken.insert(text).second) {
            text = idText(id);
            taken.insert(text);
        }
        return text;
    }

    void graphs() {
        std::vector<Sheet> sheets = network_.sheetsInOrder();
        std::vector<Sheet> graphs;
        for (const Sheet& sheet : sheets)
            if (!extraMember(sheet.extra, "graphml").empty())
                graphs.push_back(sheet);
        if (graphs.empty() && !sheets.empty())
            graphs.push_back(sheets.front());
        if (graphs.empty())
            return;
        // Each device stands in the first graph that shows it, else in the first one.
        network_.all<Device>().forEach([&](const Device& device) {
            std::size_t in = 0;
            for (std::size_t i = 0; i < graphs.size(); ++i)
                if (network_.position(graphs[i].id, device.id.value)) {
                    in = i;
                    break;
                }
            graphOf_[device.id.value] = in;
        });
        network_.all<Group>().forEach([&](const Group& group) {
            groupIds_[group.id.value] = idFor(stringIn(restOf(group.extra), "id"), group.id.value, nodeIds_);
        });
        network_.all<Device>().forEach([&](const Device& device) {
            if (!isHyperedge(device))
                deviceIds_[device.id.value] =
                    idFor(stringIn(restOf(device.extra), "id"), device.id.value, nodeIds_);
        });
        for (std::size_t i = 0; i < graphs.size(); ++i)
            graph(graphs[i], i);
    }

    bool isHyperedge(const Device& device) const { return restOf(device.extra).contains("hyperedge"); }

    void graph(const Sheet& sheet, std::size_t index) {
        const Json rest = restOf(sheet.extra);
        pugi::xml_node node = root_.append_child("graph");
        const std::string id = stringIn(rest, "id"), standard = stringIn(rest, "edgedefault");
        node.append_attribute("id") = (id.empty() ? idText(sheet.id.value) : id).c_str();
        directed_ = standard == "directed";
        node.append_attribute("edgedefault") = directed_ ? "directed" : "undirected";
        Values values;
        const auto kept = rest.find("values");
        std::set<std::string> given;
        if (kept != rest.end() && kept->is_object())
            for (const auto& [key, value] : kept->items())
                if (value.is_string()) {
                    const auto declared = std::find_if(keys_.begin(), keys_.end(),
                                                       [&](const Declared& k) { return k.id == key; });
                    if (declared == keys_.end())
                        continue;
                    const std::string name = declared->name;
                    const bool title = lowered(name) == "name" || lowered(name) == "label";
                    values.emplace_back(name, title ? sheet.name : value.get<std::string>());
                    given.insert(lowered(name));
                }
        if (!given.contains("name") && !given.contains("label") &&
            sheet.name != (id.empty() ? std::string() : id))
            values.emplace_back("name", index == 0 && id.empty() ? network_.info().name : sheet.name);
        data(node, "graph", values, rest);
        members(node, {}, sheet.id, index, 0);
        edges(node, index);
        if (const auto edges = rest.find("edges"); edges != rest.end() && edges->is_array())
            for (const Json& edge : *edges)
                if (edge.is_string())
                    appendRaw(node, edge.get<std::string>());
    }

    /// Whether a group has anything of this graph in it; empty groups stand in the first
    /// graph.
    bool belongs(GroupId group, std::size_t index, int depth) const {
        bool any = false, found = false;
        network_.forEachIn(group, [&](ObjectRef member) {
            any = true;
            if (const auto at = graphOf_.find(member.id); at != graphOf_.end())
                found |= at->second == index;
            else if (member.kind == Kind::group && depth < maxXmlDepth / 2)
                found |= belongs({member.id}, index, depth + 1);
        });
        return found || (!any && index == 0);
    }

    void members(pugi::xml_node graph, GroupId group, SheetId sheet, std::size_t index, int depth) {
        std::vector<ObjectRef> inside;
        network_.forEachIn(group, [&](ObjectRef member) { inside.push_back(member); });
        for (const ObjectRef member : inside) {
            if (const Device* device = network_.device({member.id})) {
                if (graphOf_.at(member.id) == index)
                    vertex(graph, *device, sheet);
            } else if (const Group* each = network_.group({member.id});
                       each && belongs(each->id, index, depth) && depth < maxXmlDepth / 2 - 4) {
                container(graph, *each, sheet, index, depth);
            }
        }
    }

    void container(pugi::xml_node graph, const Group& group, SheetId sheet, std::size_t index, int depth) {
        const Json rest = restOf(group.extra);
        pugi::xml_node node = graph.append_child("node");
        const std::string id = groupIds_.at(group.id.value);
        node.append_attribute("id") = id.c_str();
        Values values;
        if (group.name != id)
            values.emplace_back("name", group.name);
        if (group.type != GroupKind::cluster)
            values.emplace_back("group kind", model::textOf(group.type));
        if (group.level != 0)
            values.emplace_back("level", std::to_string(group.level));
        if (!group.note.empty())
            values.emplace_back("note", group.note);
        for (const auto& [name, value] : group.attributes)
            values.emplace_back(name, value);
        data(node, "node", values, rest);
        pugi::xml_node inner = node.append_child("graph");
        const std::string innerId = stringIn(rest, "graph");
        inner.append_attribute("id") = (innerId.empty() ? id + ":" : innerId).c_str();
        inner.append_attribute("edgedefault") = directed_ ? "directed" : "undirected";
        members(inner, group.id, sheet, index, depth + 1);
    }

    void vertex(pugi::xml_node graph, const Device& device, SheetId sheet) {
        const Json rest = restOf(device.extra);
        if (rest.contains("hyperedge")) {
            hyperedge(graph, device, stringIn(rest, "hyperedge"));
            return;
        }
        pugi::xml_node node = graph.append_child("node");
        const std::string id = deviceIds_.at(device.id.value);
        node.append_attribute("id") = id.c_str();
        Values values = deviceFields(network_, device);
        std::erase_if(values, [&](const auto& v) { return v.first == "name" && v.second == id; });
        // A source that called the name its label gets a label back.
        for (auto& [name, value] : values)
            if (name == "name" && hasKey("node", "label") && !hasKey("node", "name"))
                name = "label";
        if (const Position* at = network_.position(sheet, device.id.value)) {
            values.emplace_back("x", std::to_string(at->at.x));
            values.emplace_back("y", std::to_string(at->at.y));
        }
        data(node, "node", values, rest);
        const auto foreign = rest.find("ports");
        for (const std::string& key : portsOf(device)) {
            pugi::xml_node port = node.append_child("port");
            port.append_attribute("name") = xmlText(key).c_str();
            Values attributes;
            if (const Port* record = network_.port({device.id, key}))
                attributes.assign(record->attributes.begin(), record->attributes.end());
            Json kept = Json::object();
            if (foreign != rest.end() && foreign->is_object() && foreign->contains(key))
                kept["data"] = foreign->at(key);
            data(port, "port", attributes, kept);
        }
    }

    bool hasKey(const char* domain, const std::string& name) const {
        return std::any_of(keys_.begin(), keys_.end(), [&](const Declared& key) {
            return key.name == name && (key.domain == domain || key.domain == "all");
        });
    }

    /// Those that links end in, and those that only a record tells of.
    std::vector<std::string> portsOf(const Device& device) const {
        std::set<std::string> keys(device.learned.all().begin(), device.learned.all().end());
        network_.forEachLinkOf(device.id, [&](const Link& link) {
            for (const PortRef* end : {&link.a, &link.b})
                if (end->device == device.id && end->known())
                    keys.insert(end->port);
        });
        network_.all<Port>().forEachIn(device.id.value, [&](const Port& port) {
            if (!port.attributes.empty())
                keys.insert(port.port);
        });
        return {keys.begin(), keys.end()};
    }

    void hyperedge(pugi::xml_node graph, const Device& device, const std::string& id) {
        pugi::xml_node node = graph.append_child("hyperedge");
        if (!id.empty())
            node.append_attribute("id") = id.c_str();
        network_.forEachLinkOf(device.id, [&](const Link& link) {
            const PortRef& other = link.a.device == device.id ? link.b : link.a;
            const auto at = deviceIds_.find(other.device.value);
            if (at == deviceIds_.end())
                return;
            pugi::xml_node endpoint = node.append_child("endpoint");
            endpoint.append_attribute("node") = at->second.c_str();
            if (other.known())
                endpoint.append_attribute("port") = xmlText(other.port).c_str();
        });
    }

    void edges(pugi::xml_node graph, std::size_t index) {
        network_.all<Link>().forEach([&](const Link& link) {
            const auto a = deviceIds_.find(link.a.device.value), b = deviceIds_.find(link.b.device.value);
            if (a == deviceIds_.end() || b == deviceIds_.end() || graphOf_.at(link.a.device.value) != index)
                return;
            const Json rest = restOf(link.extra);
            pugi::xml_node node = graph.append_child("edge");
            const bool foreign = !rest.empty();
            const std::string original = stringIn(rest, "id");
            if (!foreign || !original.empty())
                node.append_attribute("id") = idFor(original, link.id.value, edgeIds_).c_str();
            node.append_attribute("source") = a->second.c_str();
            node.append_attribute("target") = b->second.c_str();
            if (link.a.known())
                node.append_attribute("sourceport") = xmlText(link.a.port).c_str();
            if (link.b.known())
                node.append_attribute("targetport") = xmlText(link.b.port).c_str();
            const bool directed = rest.contains("directed");
            if (directed != directed_)
                node.append_attribute("directed") = directed ? "true" : "false";
            data(node, "edge", linkFields(network_, link), rest);
        });
    }

    const Network& network_;
    pugi::xml_document document_;
    pugi::xml_node root_;
    std::vector<Declared> keys_;
    std::set<std::string> keyIds_;
    std::map<std::pair<std::string, std::string>, std::size_t> keyIndex_;
    std::unordered_map<std::uint64_t, std::size_t> graphOf_;
    std::unordered_map<std::uint64_t, std::string> deviceIds_, groupIds_;
    std::set<std::string> nodeIds_, edgeIds_;
    bool directed_ = false;
};

} // namespace

Written writeGraphml(const Network& network) {
    Written written{Writer(network).write(), {}};
    listLosses(network, {.models = true, .positions = true, .groups = true, .cables = true}, "GraphML",
               written.remarks);
    if (const auto vlans = network.all<Vlan>().size(); vlans > 0)
        written.remarks.push_back(lossRemark(vlans, "VLAN", "VLANs", "GraphML"));
    return written;
}

} // namespace underridge::exchange
