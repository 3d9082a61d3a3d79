// SPDX-License-Identifier: GPL-3.0-or-later
// GraphML in. Whether the text is well-formed is asked beside (xml_check.h); the XML
// library that gives the tree expands no entities of a document's own and fetches
// nothing.
#include "core/base/parallel.h"
#include "core/exchange/foreign.h"
#include "core/exchange/graphml_elements.h"
#include "core/exchange/xml_check.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <unordered_set>

namespace underridge::exchange {
using namespace model;
namespace {

using Json = nlohmann::json;

class GraphmlReader {
public:
    GraphmlReader(const Source& source, const std::string& text, const pugi::xml_document& document)
        : source_(source),
          builder_(source, source.file.substr(source.file.find_last_of('/') + 1)),
          lines_(text),
          root_(document.document_element()),
          namespaces_(root_, text) {}

    Result<Loaded> read() {
        const pugi::xml_node& root = root_;
        if (!is(root, "graphml"))
            return error(fmt::format("the document is not GraphML: it begins with {}",
                                     std::string(root.name()).substr(0, 60)),
                         "choose another file", at(root));
        for (const pugi::xml_node& child : root.children())
            if (is(child, "key"))
                declare(child);
        Json rest = Json::object();
        Json foreign = Json::array();
        for (const pugi::xml_node& child : root.children()) {
            if (is(child, "graph"))
                graph(child);
            else if (is(child, "desc"))
                builder_.info().note = trimmed(textOf(child));
            else if (child.type() == pugi::node_element && !is(child, "key"))
                foreign.push_back(raw(child));
        }
        rest["keys"] = std::move(declarations_);
        for (const pugi::xml_attribute& attribute : root.attributes())
            if (std::string_view(attribute.name()).starts_with("xmlns:"))
                rest["namespaces"][attribute.name()] = attribute.value();
        if (!foreign.empty())
            rest["elements"] = std::move(foreign);
        builder_.info().extra =
            withExtraMember({}, "graphml", rest.dump(-1, ' ', false, Json::error_handler_t::replace));
        makeEdges();
        return builder_.finish();
    }

private:
    bool is(const pugi::xml_node& node, std::string_view local) const { return namespaces_.is(node, local); }

    Where at(const pugi::xml_node& node, std::string object = {}) const {
        Where where = lines_.at(source_.file,
                                static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, node.offset_debug())));
        where.object = std::move(object);
        return where;
    }

    void declare(const pugi::xml_node& node) {
        KeyDeclaration key{node.attribute("id").value(),
                           node.attribute("for") ? node.attribute("for").value() : "all",
                           node.attribute("attr.name").value(),
                           {},
                           node.attribute("attr.type").value(),
                           {}};
        for (const pugi::xml_node& child : node.children())
            if (is(child, "default")) {
                key.fallback = textOf(child);
                key.hasFallback = true;
            }
        if (key.id.empty()) {
            builder_.remarks().add(warning("a key has no id; it was passed over", "give it one", at(node)));
            return;
        }
        if (key.name.empty())
            key.name = key.id;
        key.lowerName = lowered(key.name);
        key.decides = key.lowerName == "model" || key.lowerName == "cable";
        const auto [held, fresh] = keys_.emplace(key.id, key);
        if (!fresh) {
            builder_.remarks().add(warning("the key is there twice; the second was passed over",
                                           "give each key its own id", at(node, key.id)));
            return;
        }
        if (key.hasFallback)
            withFallback_.push_back(&held->second);
        Json json{{"id", key.id}, {"for", key.domain}, {"name", key.name}};
        if (!key.type.empty())
            json["type"] = key.type;
        if (key.hasFallback)
            json["default"] = key.fallback;
        declarations_.push_back(std::move(json));
    }

    /// Values of an element by key id, with the defaults of keys for its kind; foreign
    /// content as it is.
    struct Value {
        const KeyDeclaration* key;
        std::string text;
        pugi::xml_node at;
    };
    struct Data {
        std::vector<Value> values;
        JsonMembers foreign;
    };

    Data dataOf(const pugi::xml_node& node, std::string_view kind, const std::string& object) {
        Data data;
        data.values.reserve(keys_.size());
        std::vector<const KeyDeclaration*> given;
        for (const pugi::xml_node& child : node.children()) {
            if (!is(child, "data"))
                continue;
            const std::string_view id = child.attribute("key").value();
            const auto key = keys_.find(id);
            if (key == keys_.end()) {
                builder_.remarks().add(
                    warning(fmt::format("the key \"{}\" is not declared", id.substr(0, 60)),
                            "its value is kept under that name", at(child, object)));
                data.foreign.setText(id, rawText(child));
                continue;
            }
            if (!withFallback_.empty())
                given.push_back(&key->second);
            if (hasElements(child)) {
                data.foreign.setText(id, rawText(child));
                continue;
            }
            std::string value = textOf(child);
            if (!agrees(value, key->second.type))
                builder_.remarks().add(
                    warning(fmt::format("\"{}\" is not of type {}", value.substr(0, 60), key->second.type),
                            "it is kept as it is", at(child, object)));
            data.values.push_back({&key->second, std::move(value), child});
        }
        for (const KeyDeclaration* key : withFallback_)
            if ((key->domain == kind || key->domain == "all") &&
                std::find(given.begin(), given.end(), key) == given.end())
                data.values.push_back({key, key->fallback, node});
        const auto decides = [](const Value& value) { return value.key->decides; };
        if (!std::is_partitioned(data.values.begin(), data.values.end(), decides))
            std::stable_partition(data.values.begin(), data.values.end(), decides);
        return data;
    }

    void graph(const pugi::xml_node& node) {
        const std::string id = node.attribute("id").value();
        const auto data = dataOf(node, "graph", id);
        std::string name = id;
        for (const Value& value : data.values)
            if (value.key->lowerName == "name" || value.key->lowerName == "label")
                name = value.text;
        sheet_ =
            builder_.addSheet(name.empty() ? fmt::format("Sheet {}", builder_.sheets().size() + 1) : name);
        if (builder_.sheets().size() == 1 && !name.empty())
            builder_.info().name = name;
        scope_ =
            builder_.sheets().size() == 1 ? std::string() : std::to_string(builder_.sheets().size()) + "\n";
        JsonMembers rest = restOf(id, data);
        rest.setText("edgedefault", node.attribute("edgedefault").value());
        JsonMembers values;
        for (const Value& value : data.values)
            values.setText(value.key->id, value.text);
        if (!values.empty())
            rest.set("values", values.text());
        builder_.sheets().back().extra = kept(rest);
        contents(node, {}, std::string_view(node.attribute("edgedefault").value()) == "directed");
    }

    /// What the writer wants back of an element.
    static JsonMembers restOf(std::string_view id, const Data& data) {
        JsonMembers rest;
        rest.setText("id", id);
        if (!data.foreign.empty())
            rest.set("data", data.foreign.text());
        return rest;
    }
    static SharedText kept(const JsonMembers& rest) { return withExtraMember({}, "graphml", rest.text()); }

    void contents(const pugi::xml_node& graph, GroupId group, bool directed) {
        for (const pugi::xml_node& child : graph.children()) {
            if (is(child, "node"))
                vertex(child, group);
            else if (is(child, "edge"))
                edges_.push_back({child, scope_, directed});
            else if (is(child, "hyperedge"))
                hyperedge(child, group);
            else if (is(child, "locator"))
                elsewhere(child);
        }
    }

    void elsewhere(const pugi::xml_node& locator) {
        builder_.remarks().add(warning("what is inside lies in another file, which is not fetched",
                                       "open that file as well",
                                       at(locator, std::string(locator.parent().attribute("id").value()))));
    }

    void vertex(const pugi::xml_node& node, GroupId group) {
        const std::string id = node.attribute("id").value();
        if (id.empty()) {
            builder_.remarks().add(warning("a node has no id; it was passed over", "give it one", at(node)));
            return;
        }
        if (!seen_.insert(scope_ + id).second) {
            builder_.remarks().add(warning("the node is there twice; the second was passed over",
                                           "give each node its own id", at(node, id)));
            return;
        }
        const Data data = dataOf(node, "node", id);
        pugi::xml_node inner;
        for (const pugi::xml_node& child : node.children())
            if (is(child, "graph")) {
                inner = child;
                break;
            }
        if (inner)
            container(node, inner, id, data, group);
        else
            device(node, id, data, group);
    }

    void container(const pugi::xml_node& node, const pugi::xml_node& inner, const std::string& id,
                   const Data& data, GroupId parent) {
        const GroupId group = builder_.addGroup(scope_ + id, id, parent);
        groups_.emplace(scope_ + id, group);
        Group& record = builder_.groups().at(group.value);
        for (const auto& [key, text, at] : data.values) {
            const std::string& name = key->lowerName;
            if (name == "name" || name == "label")
                record.name = text.empty() ? record.name : text;
            else if (const auto kind = fromText<GroupKind>(text); kind && name == "group kind")
                record.type = *kind;
            else if (name == "note" || name == "description")
                record.note = text;
            else if (name == "level" && agrees(text, "int"))
                record.level = std::atoi(text.c_str());
            else
                record.attributes[key->name] = text;
        }
        JsonMembers rest = restOf(id, data);
        rest.setText("graph", inner.attribute("id").value());
        record.extra = kept(rest);
        if (hasPorts(node))
            builder_.remarks().add(
                warning("the node has both ports and a graph inside; its ports were left out",
                        "a group has no ports of its own", at(node, id)));
        if (++depth_ < maxXmlDepth) // what is deeper is refused, but maybe not yet
            contents(inner, group, std::string_view(inner.attribute("edgedefault").value()) == "directed");
        --depth_;
    }

    bool hasPorts(const pugi::xml_node& node) const {
        for (const pugi::xml_node& child : node.children())
            if (is(child, "port"))
                return true;
        return false;
    }

    void device(const pugi::xml_node& node, const std::string& id, const Data& data, GroupId group) {
        const DeviceId device = builder_.addDevice(scope_ + id, id);
        devices_.emplace(scope_ + id, device);
        builder_.knowAs(id, device.value);
        builder_.show(sheet_, device);
        builder_.device(device).group = group;
        std::optional<double> x, y;
        for (const Value& value : data.values) {
            const std::string& name = value.key->lowerName;
            if (name == "x" || name == "y") {
                double number = NAN;
                const std::string plain = trimmed(value.text);
                std::from_chars(plain.data(), plain.data() + plain.size(), number);
                (name == "x" ? x : y) = number;
            } else {
                builder_.setDeviceField(device, value.key->name, value.text,
                                        [&] { return at(value.at, id); });
            }
        }
        if (x && y)
            builder_.setPosition(sheet_, device, *x, *y, at(node, id));
        JsonMembers rest = restOf(id, data), ports;
        std::set<std::string> names;
        for (const pugi::xml_node& child : node.children())
            if (is(child, "port"))
                port(child, device, id, ports, names, 0);
            else if (is(child, "locator"))
                elsewhere(child);
        if (!ports.empty())
            rest.set("ports", ports.text());
        builder_.device(device).extra = kept(rest);
    }

    void port(const pugi::xml_node& node, DeviceId device, const std::string& object, JsonMembers& rest,
              std::set<std::string>& names, int depth) {
        const std::string name = node.attribute("name").value();
        if (name.empty()) {
            builder_.remarks().add(
                warning("a port has no name; it was passed over", "give it one", at(node, object)));
            return;
        }
        if (!names.insert(name).second)
            builder_.remarks().add(warning(fmt::format("the port {} is there twice; the two are one", name),
                                           "give each its own name", at(node, object)));
        const PortRef ref = builder_.port(device, name);
        const Data data = dataOf(node, "port", object);
        for (const Value& value : data.values)
            if (ref.known())
                builder_.portRecord(ref).attributes[value.key->name] = value.text;
        if (!data.foreign.empty())
            rest.set(name, data.foreign.text());
        for (const pugi::xml_node& child : node.children())
            if (is(child, "port") && depth < 8)
                port(child, device, object, rest, names, depth + 1);
    }

    /// A line shared by several: a passive device with a port for each of them.
    void hyperedge(const pugi::xml_node& node, GroupId group) {
        const std::string id = node.attribute("id").value();
        const std::string identity = id.empty() ? fmt::format("hyperedge {}", node.offset_debug()) : id;
        const DeviceId device = builder_.addDevice(scope_ + "\thyperedge\n" + identity, identity);
        builder_.setModel(device, "shared-segment");
        builder_.show(sheet_, device);
        builder_.device(device).group = group;
        builder_.device(device).extra = withExtraMember(
            {}, "graphml", Json{{"hyperedge", id}}.dump(-1, ' ', false, Json::error_handler_t::replace));
        const Data data = dataOf(node, "hyperedge", identity);
        for (const Value& value : data.values)
            builder_.setDeviceField(device, value.key->name, value.text,
                                    [&] { return at(value.at, identity); });
        for (const pugi::xml_node& child : node.children())
            if (is(child, "endpoint"))
                endpoints_.push_back({child, scope_, device});
            else if (is(child, "graph"))
                builder_.remarks().add(warning("a hyperedge has a graph inside, which is not drawn",
                                               "put its nodes beside it", at(child, identity)));
    }

    struct End {
        DeviceId device;
        bool group = false;
    };
    End endAt(const std::string& scope, const std::string& id) const {
        if (const auto at = devices_.find(scope + id); at != devices_.end())
            return {at->second, false};
        return {{}, groups_.contains(scope + id)};
    }

    void makeEdges() {
        for (const auto& [node, scope, directed] : edges_)
            edge(node, scope, directed);
        for (const auto& [node, scope, segment] : endpoints_) {
            const std::string id = node.attribute("node").value();
            const End end = endAt(scope, id);
            if (!end.device) {
                builder_.remarks().add(
                    warning(fmt::format("an end names the node \"{}\", which is not there", id.substr(0, 60)),
                            "it was left out", at(node, id)));
                continue;
            }
            builder_.addLink(fmt::format("endpoint {}\n{}", idText(segment.value), node.offset_debug()),
                             {segment, {}}, builder_.port(end.device, node.attribute("port").value()));
        }
    }

    void edge(const pugi::xml_node& node, const std::string& scope, bool directed) {
        const std::string id = node.attribute("id").value();
        const std::string source = node.attribute("source").value(),
                          target = node.attribute("target").value();
        const std::string object = id.empty() ? source + " to " + target : id;
        if (!id.empty() && !seenEdges_.insert(scope + id).second)
            builder_.remarks().add(warning("the id of an edge is there twice; both are drawn",
                                           "give each edge its own id", at(node, object)));
        const End a = endAt(scope, source), b = endAt(scope, target);
        if (!a.device || !b.device) {
            const bool group = a.group || b.group;
            const std::string& missing = a.device || a.group ? target : source;
            builder_.remarks().add(warning(
                group
                    ? std::string("the link ends at a group, which has no ports; it is kept, not drawn")
                    : fmt::format("the link names the node \"{}\", which is not there; it is kept, not drawn",
                                  missing.substr(0, 60)),
                "correct the ends where it came from", at(node, object)));
            keepEdge(node, scope);
            return;
        }
        const std::string sourcePort = node.attribute("sourceport").value();
        const std::string targetPort = node.attribute("targetport").value();
        Link& link = builder_.addLink(
            id.empty() ? fmt::format("{}edge\n{}\n{}\n{}\n{}", scope, source, sourcePort, target, targetPort)
                       : scope + id,
            builder_.port(a.device, sourcePort), builder_.port(b.device, targetPort));
        builder_.knowAs(object, link.id.value);
        const Data data = dataOf(node, "edge", object);
        for (const Value& value : data.values)
            builder_.setLinkField(link, value.key->name, value.text, [&] { return at(value.at, object); });
        JsonMembers rest = restOf(id, data);
        const pugi::xml_attribute own = node.attribute("directed");
        if (own ? own.as_bool() : directed)
            rest.set("directed", "true");
        link.extra = kept(rest);
    }

    void keepEdge(const pugi::xml_node& node, const std::string& scope) {
        const std::size_t sheet = scope.empty() ? 0 : static_cast<std::size_t>(std::atoi(scope.c_str())) - 1;
        Sheet& record = builder_.sheets().at(sheet);
        Json rest = Json::parse(extraMember(record.extra, "graphml"));
        rest["edges"].push_back(raw(node));
        record.extra = withExtraMember(record.extra, "graphml",
                                       rest.dump(-1, ' ', false, Json::error_handler_t::replace));
    }

    struct Edge {
        pugi::xml_node node;
        std::string scope;
        bool directed;
    };
    struct Endpoint {
        pugi::xml_node node;
        std::string scope;
        DeviceId segment;
    };

    const Source& source_;
    Builder builder_;
    Lines lines_;
    pugi::xml_node root_;
    Namespaces namespaces_;
    SheetId sheet_;
    int depth_ = 0; ///< of graphs inside nodes
    std::string scope_;
    std::map<std::string, KeyDeclaration, std::less<>> keys_;
    std::vector<const KeyDeclaration*> withFallback_; ///< in their order
    Json declarations_ = Json::array();
    std::unordered_map<std::string, DeviceId> devices_;
    std::unordered_map<std::string, GroupId> groups_;
    std::unordered_set<std::string> seen_, seenEdges_;
    std::vector<Edge> edges_;
    std::vector<Endpoint> endpoints_;
};

Result<Loaded> readTree(const std::string& text, const Source& source) {
    pugi::xml_document document;
    const pugi::xml_parse_result parsed = document.load_buffer(
        text.data(), text.size(), pugi::parse_default & ~pugi::parse_doctype, pugi::encoding_utf8);
    if (!parsed)
        return error(fmt::format("the document cannot be read: {}", lowered(parsed.description())),
                     "correct it or restore the file",
                     Lines(text).at(source.file,
                                    static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, parsed.offset))));
    return GraphmlReader(source, text, document).read();
}

} // namespace

Result<Loaded> readGraphml(std::string_view bytes, const Source& source) {
    auto text = decodeXml(bytes, source.file);
    if (!text)
        return text.refusal();
    // The strict reader says whether the text is XML at all; meanwhile it is read as if.
    std::optional<Remark> fault;
    std::optional<Result<Loaded>> loaded;
    constexpr std::size_t large = 100'000; // octets
    inParallel(text->size() >= large, {[&] { loaded.emplace(readTree(*text, source)); },
                                       [&] { fault = xmlFault(*text, source.file); }});
    if (fault)
        return *std::move(fault);
    if (*loaded)
        if (const auto entity = text->find("<!ENTITY"); entity != std::string::npos)
            (*loaded)->remarks.push_back(advice("the document declares entities; they are not expanded",
                                                "names that use them show the reference",
                                                Lines(*text).at(source.file, entity)));
    return *std::move(loaded);
}

} // namespace underridge::exchange
