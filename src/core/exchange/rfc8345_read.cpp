// SPDX-License-Identifier: GPL-3.0-or-later
// RFC 8345 in, in the JSON encoding of RFC 7951.
//
// A network of the document becomes a sheet. A node that rests on exactly one node of another network here,
// and alone, is the same device seen at another layer. A link that rests on other links is a path over them:
// it is kept, but not drawn. What is not understood is kept with its object under "rfc8345".
#include "core/edit/devices.h"
#include "core/exchange/foreign.h"
#include "core/exchange/json_places.h"
#include "core/exchange/rfc8345_members.h"

#include <fmt/format.h>

namespace underridge::exchange {
using namespace model;
using namespace rfc8345;
namespace {

class Reader {
public:
    Reader(const Source& source, std::string_view text)
        : source_(source),
          text_(text),
          builder_(source, source.file.substr(source.file.find_last_of('/') + 1)) {}

    Result<Loaded> read(const Json& document) {
        if (auto found = findNetworks(document); !found)
            return found.refusal();
        order();
        for (const std::size_t i : order_)
            nodes(networks_[i]);
        for (const std::size_t i : order_)
            links(networks_[i]);
        if (networks_.size() == 1)
            builder_.info().name = networks_.front().id;
        for (Net& net : networks_)
            keep(net);
        auto loaded = builder_.finish();
        placeRemarks(loaded.remarks);
        return loaded;
    }

private:
    struct Net {
        std::string id;
        std::string pointer;
        Json json;
        SheetId sheet;
        Json keptLinks = Json::array(), keptNodes = Json::array();
    };
    using Named = std::pair<std::string, std::string>; ///< network and node, or link

    /// Remarks carry the pointer as their place until all places are looked up together.
    void remark(Severity severity, std::string what, std::string remedy, const std::string& pointer,
                std::string object = {}) {
        Where where{pointer, -1, 0, std::move(object)};
        builder_.remarks().add({severity, std::move(what), std::move(remedy), std::move(where)});
    }

    void placeRemarks(std::vector<Remark>& remarks) const {
        std::vector<std::string> pointers;
        for (const Remark& remark : remarks)
            if (remark.where.line == -1)
                pointers.push_back(remark.where.file);
        const auto places = placesOf(text_, source_.file, pointers);
        for (Remark& remark : remarks) {
            if (remark.where.line != -1)
                continue;
            const auto at = places.find(remark.where.file);
            const Where old = remark.where;
            remark.where = at == places.end() ? Where{source_.file} : at->second;
            remark.where.object = old.object;
            remark.where.id = old.id;
        }
    }

    Result<Done> findNetworks(const Json& document) {
        const Where start{source_.file, 1, 1};
        if (!document.is_object())
            return error("the document is not a JSON object", "choose another file", start);
        const char* container =
            document.contains("ietf-network:networks") ? "ietf-network:networks" : "networks";
        std::string pointer;
        const Json* list = &nothing;
        if (document.contains(container)) {
            pointer = std::string("/") + container + "/" + memberName(document.at(container), nw, "network");
            list = &member(document.at(container), nw, "network");
        } else if (document.contains("ietf-network:network")) {
            pointer = "/ietf-network:network";
            list = &document.at("ietf-network:network");
        } else {
            return error("the document holds no networks of RFC 8345",
                         "it should begin with {\"ietf-network:networks\": …", start);
        }
        if (!list->is_array()) {
            const auto places = placesOf(text_, source_.file, {pointer});
            return error("\"network\" is not a list", "correct it or restore the file",
                         places.contains(pointer) ? places.at(pointer) : start);
        }
        std::set<std::string> seen;
        for (std::size_t i = 0; i < list->size(); ++i) {
            Net net{textIn((*list)[i], nw, "network-id"), fmt::format("{}/{}", pointer, i), (*list)[i], {}};
            if (net.id.empty())
                remark(Severity::warning, "a network has no network-id; it was passed over", "give it one",
                       net.pointer);
            else if (!seen.insert(net.id).second)
                remark(Severity::warning, "the network is there twice; the second was passed over",
                       "give each network its own id", net.pointer, net.id);
            else
                networks_.push_back(std::move(net));
        }
        for (Net& net : networks_)
            net.sheet = builder_.addSheet(titleOf(net));
        return Done{};
    }

    static std::string titleOf(const Net& net) {
        for (const auto& [module, container] :
             {std::pair(l2, "l2-topology-attributes"), std::pair(l3, "l3-topology-attributes")})
            if (const std::string name = textIn(member(net.json, module, container), module, "name");
                !name.empty())
                return name;
        return net.id;
    }

    /// Networks that others rest on come first.
    void order() {
        std::map<std::string, std::size_t> index;
        for (std::size_t i = 0; i < networks_.size(); ++i)
            index[networks_[i].id] = i;
        std::vector<int> state(networks_.size(), 0); // 1: being visited, 2: done
        for (std::size_t root = 0; root < networks_.size(); ++root) {
            std::vector<std::size_t> path{root};
            while (!path.empty()) {
                const std::size_t i = path.back();
                if (state[i] == 2) {
                    path.pop_back();
                    continue;
                }
                bool waits = false;
                if (state[i] == 0) {
                    state[i] = 1;
                    for (const Json& support : listIn(networks_[i].json, nw, "supporting-network")) {
                        const auto at = index.find(textIn(support, nw, "network-ref"));
                        if (at == index.end() || state[at->second] == 2)
                            continue;
                        if (state[at->second] == 1) {
                            remark(Severity::warning, "the networks rest on each other in a circle",
                                   "remove one supporting-network", networks_[i].pointer, networks_[i].id);
                            continue;
                        }
                        path.push_back(at->second);
                        waits = true;
                    }
                }
                if (!waits) {
                    state[i] = 2;
                    order_.push_back(i);
                    path.pop_back();
                }
            }
        }
    }

    static Json& entriesIn(SharedText& extra, Json& holder) {
        const std::string old = extraMember(extra, "rfc8345");
        holder = old.empty() ? Json::array() : Json::parse(old);
        return holder;
    }

    template <class Record>
    static void addEntry(Record& record, Json entry) {
        Json entries;
        entriesIn(record.extra, entries).push_back(std::move(entry));
        record.extra = withExtraMember(record.extra, "rfc8345", entries.dump());
    }

    void nodes(Net& net) {
        const std::string name = memberName(net.json, nw, "node");
        const auto at = net.json.find(name);
        if (at == net.json.end())
            return;
        if (!at->is_array()) {
            remark(Severity::warning, "\"node\" is not a list; it was passed over", "correct it",
                   net.pointer + "/" + name, net.id);
            return;
        }
        // How many nodes of this network rest on each node below: only one that stands alone is the same
        // device.
        std::map<Named, int> resting;
        for (const Json& node : *at)
            for (const Json& support : listIn(node, nw, "supporting-node"))
                ++resting[{textIn(support, nw, "network-ref"), textIn(support, nw, "node-ref")}];
        for (std::size_t i = 0; i < at->size(); ++i)
            node(net, (*at)[i], fmt::format("{}/{}/{}", net.pointer, name, i), resting);
        net.json.erase(name);
    }

    void node(Net& net, const Json& json, const std::string& pointer, const std::map<Named, int>& resting) {
        const std::string id = textIn(json, nw, "node-id");
        if (id.empty()) {
            remark(Severity::warning, "a node has no node-id; it was passed over", "give it one", pointer);
            net.keptNodes.push_back(json);
            return;
        }
        if (devices_.contains({net.id, id})) {
            remark(Severity::warning, "the node is there twice; the second was passed over",
                   "give each node its own id", pointer, id);
            return;
        }
        DeviceId device;
        const Json& supports = listIn(json, nw, "supporting-node");
        for (const Json& support : supports) {
            const Named below{textIn(support, nw, "network-ref"), textIn(support, nw, "node-ref")};
            const auto at = devices_.find(below);
            if (at == devices_.end() && known(below.first))
                remark(Severity::warning,
                       fmt::format("it rests on the node \"{}\" of \"{}\", which is not there", below.second,
                                   below.first),
                       "the reference is kept", pointer, id);
            if (at != devices_.end() && supports.size() == 1 && resting.at(below) == 1)
                device = at->second;
        }
        const bool merged = static_cast<bool>(device);
        const Json& l2Attributes = member(json, l2, "l2-node-attributes");
        const Json& l3Attributes = member(json, l3, "l3-node-attributes");
        std::string name = textIn(l2Attributes, l2, "name");
        if (name.empty())
            name = textIn(l3Attributes, l3, "name");
        if (!merged) {
            device = builder_.addDevice(net.id == networks_.front().id ? id : net.id + "\n" + id,
                                        name.empty() ? id : name);
            if (isPseudo(json))
                builder_.setModel(device, "shared-segment");
        }
        devices_[{net.id, id}] = device;
        builder_.knowAs(id, device.value);
        builder_.show(net.sheet, device);

        Json rest = without(json, nt, {"node-id", "ietf-network:node-id", "termination-point"});
        if (!merged || name == builder_.device(device).name)
            for (const auto& [module, container] :
                 {std::pair(l2, "l2-node-attributes"), std::pair(l3, "l3-node-attributes")})
                if (const std::string key = memberName(rest, module, container); rest.contains(key))
                    if (textIn(rest[key], module, "name") == builder_.device(device).name)
                        drop(rest[key], module, "name");
        for (const Json& address : listIn(l2Attributes, l2, "management-address"))
            if (address.is_string() && edit::isAddress(address.get<std::string>()))
                builder_.addAddress(device, {}, address.get<std::string>());
        if (const std::string mac = textIn(l2Attributes, l2, "management-mac"); !mac.empty())
            builder_.interfaceOn(device, {}).mac = mac.substr(0, 40);
        std::vector<std::string> prefixes;
        for (const Json& prefix : listIn(l3Attributes, l3, "prefix"))
            if (const std::string text = textIn(prefix, l3, "prefix"); !text.empty())
                prefixes.push_back(text);
        points(net, json, device, pointer, id, prefixes);
        addEntry(builder_.device(device), {{"network", net.id}, {"node", id}, {"rest", std::move(rest)}});
    }

    bool known(const std::string& network) const {
        return std::any_of(networks_.begin(), networks_.end(),
                           [&](const Net& net) { return net.id == network; });
    }

    /// A node that stands for a shared medium: so flagged, or with a pseudonode id of IS-IS.
    static bool isPseudo(const Json& json) {
        const auto flagged = [](const Json& flags) {
            if (!flags.is_array())
                return false;
            return std::any_of(flags.begin(), flags.end(), [](const Json& flag) {
                return flag.is_string() &&
                       lowered(flag.get<std::string>()).find("pseudonode") != std::string::npos;
            });
        };
        if (flagged(member(member(json, l2, "l2-node-attributes"), l2, "flags")) ||
            flagged(member(member(json, l3, "l3-node-attributes"), l3, "flag")))
            return true;
        const Json& attributes = member(json, l3, "l3-node-attributes");
        if (!attributes.is_object())
            return false;
        for (const auto& [name, value] : attributes.items()) {
            const Json& iso = member(value, "ietf-network-isis-topology", "iso");
            const std::string id = textIn(iso, "ietf-network-isis-topology", "iso-pseudonode-id");
            if (!id.empty() && id.find_first_not_of('0') != std::string::npos)
                return true;
        }
        return false;
    }

    void points(Net& net, const Json& node, DeviceId device, const std::string& nodePointer,
                const std::string& nodeId, const std::vector<std::string>& prefixes) {
        const std::string name = memberName(node, nt, "termination-point");
        const Json& list = member(node, nt, "termination-point");
        if (!list.is_array())
            return;
        std::set<std::string> seen;
        for (std::size_t i = 0; i < list.size(); ++i) {
            const Json& json = list[i];
            const std::string pointer = fmt::format("{}/{}/{}", nodePointer, name, i);
            const std::string id = textIn(json, nt, "tp-id");
            if (id.empty() || id.size() > 200) {
                remark(Severity::warning, "a termination point has no usable tp-id; it was passed over",
                       "give it one of at most 200 bytes", pointer, nodeId);
                continue;
            }
            if (!seen.insert(id).second) {
                remark(Severity::warning,
                       fmt::format("the termination point {} is there twice; the second was passed over", id),
                       "give each its own id", pointer, nodeId);
                continue;
            }
            point(net, json, device, nodeId, id, prefixes);
        }
    }

    static std::string pointKey(const std::string& network, const std::string& node,
                                const std::string& point) {
        return network + '\n' + node + '\n' + point;
    }

    void point(Net& net, const Json& json, DeviceId device, const std::string& nodeId, const std::string& id,
               const std::vector<std::string>& prefixes) {
        // At another layer of the same device, a point that rests on one port is that port.
        std::string key = id;
        const Json& supports = listIn(json, nt, "supporting-termination-point");
        if (supports.size() == 1) {
            const auto below = points_.find(pointKey(textIn(supports[0], nt, "network-ref"),
                                                     textIn(supports[0], nt, "node-ref"),
                                                     textIn(supports[0], nt, "tp-ref")));
            if (below != points_.end() && below->second.device == device)
                key = below->second.port;
        }
        const PortRef ref = builder_.port(device, key);
        points_.emplace(pointKey(net.id, nodeId, id), ref);
        Json rest = without(json, nt, {"tp-id"});
        const std::string l2Key = memberName(rest, l2, "l2-termination-point-attributes");
        if (rest.contains(l2Key) && rest[l2Key].is_object()) {
            Json& attributes = rest[l2Key];
            if (const std::string name = textIn(attributes, l2, "interface-name"); !name.empty()) {
                builder_.portRecord(ref).label = name;
                drop(attributes, l2, "interface-name");
            }
            if (const std::string mac = textIn(attributes, l2, "mac-address"); !mac.empty()) {
                builder_.interfaceOn(device, key).mac = mac.substr(0, 40);
                drop(attributes, l2, "mac-address");
            }
            const Json& tag = member(attributes, l2, "outer-tag");
            const std::string tags = tag.is_string()            ? tag.get<std::string>()
                                     : tag.is_number_unsigned() ? std::to_string(tag.get<std::uint64_t>())
                                                                : std::string();
            if (const auto vlans = vlansIn(tags); !vlans.empty()) {
                for (const int vlan : vlans)
                    builder_.interfaceOn(device, key).tagged.push_back(builder_.vlan(vlan));
                drop(attributes, l2, "outer-tag");
            }
        }
        const std::string l3Key = memberName(rest, l3, "l3-termination-point-attributes");
        if (rest.contains(l3Key) && rest[l3Key].is_object()) {
            bool all = true;
            for (const Json& address : listIn(rest[l3Key], l3, "ip-address")) {
                std::string text = address.is_string() ? address.get<std::string>() : std::string();
                if (!edit::isAddress(text)) {
                    all = false;
                    continue;
                }
                for (const std::string& prefix : prefixes)
                    if (int length = 0; text.find('/') == std::string::npos && contains(prefix, text, length))
                        text += "/" + std::to_string(length);
                builder_.addAddress(device, key, text);
            }
            if (all)
                drop(rest[l3Key], l3, "ip-address");
        }
        const bool plain =
            std::all_of(rest.begin(), rest.end(), [](const Json& each) { return each.empty(); });
        if (plain && key == id && networks_.size() == 1)
            return; // nothing to keep, and no other layer to tell it from
        addEntry(builder_.portRecord(ref), {{"network", net.id}, {"tp", id}, {"rest", std::move(rest)}});
    }

    // --- links -------------------------------------------------------------------------------------------

    struct Direction {
        Json json;
        std::string id, pointer;
        PortRef source, destination;
        bool paired = false;
    };

    void links(Net& net) {
        const std::string name = memberName(net.json, nt, "link");
        const auto at = net.json.find(name);
        if (at == net.json.end())
            return;
        if (!at->is_array()) {
            remark(Severity::warning, "\"link\" is not a list; it was passed over", "correct it",
                   net.pointer + "/" + name, net.id);
            return;
        }
        std::vector<Direction> directions;
        std::set<std::string> seen;
        for (std::size_t i = 0; i < at->size(); ++i)
            direction(net, (*at)[i], fmt::format("{}/{}/{}", net.pointer, name, i), seen, directions);
        net.json.erase(name);
        // RFC 8345 links go one way; what goes both ways is two of them.
        std::map<std::pair<PortRef, PortRef>, std::vector<std::size_t>> waiting;
        for (std::size_t i = 0; i < directions.size(); ++i) {
            auto& back = waiting[{directions[i].destination, directions[i].source}];
            const bool loop = directions[i].destination == directions[i].source;
            if (!back.empty() && !loop) {
                const std::size_t first = back.front();
                back.erase(back.begin());
                directions[first].paired = directions[i].paired = true;
                join(net, directions[first], &directions[i]);
            } else {
                waiting[{directions[i].source, directions[i].destination}].push_back(i);
            }
        }
        for (const Direction& direction : directions)
            if (!direction.paired)
                join(net, direction, nullptr);
    }

    void direction(Net& net, const Json& json, const std::string& pointer, std::set<std::string>& seen,
                   std::vector<Direction>& out) {
        Direction direction{json, textIn(json, nt, "link-id"), pointer, {}, {}};
        if (direction.id.empty()) {
            remark(Severity::warning, "a link has no link-id; it is kept, not drawn", "give it one", pointer);
            net.keptLinks.push_back(json);
            return;
        }
        if (!seen.insert(direction.id).second) {
            remark(Severity::warning, "the link is there twice; the second was passed over",
                   "give each link its own id", pointer, direction.id);
            return;
        }
        const Json& source = member(json, nt, "source");
        const Json& destination = member(json, nt, "destination");
        const auto from = end(net, source, "source-node", "source-tp", pointer, direction.id);
        const auto to = end(net, destination, "dest-node", "dest-tp", pointer, direction.id);
        if (!from || !to) {
            net.keptLinks.push_back(json);
            return;
        }
        direction.source = *from;
        direction.destination = *to;
        if (!listIn(json, nt, "supporting-link").empty()) {
            if (const auto same = linkBelow(json); same) {
                addEntry(builder_.links().at(same->value),
                         {{"network", net.id}, {"link", direction.id}, {"rest", restOf(json)}});
                linkIds_[{net.id, direction.id}] = *same;
                return;
            }
            remark(Severity::advice, "the link rests on other links; it is kept, not drawn",
                   "see the sheet of the network it rests on", pointer, direction.id);
            net.keptLinks.push_back(json);
            return;
        }
        out.push_back(std::move(direction));
    }

    /// The drawn link that all supporting links are, when it is one and the same.
    std::optional<LinkId> linkBelow(const Json& json) const {
        std::optional<LinkId> same;
        for (const Json& support : listIn(json, nt, "supporting-link")) {
            const auto at =
                linkIds_.find({textIn(support, nt, "network-ref"), textIn(support, nt, "link-ref")});
            if (at == linkIds_.end() || (same && *same != at->second))
                return std::nullopt;
            same = at->second;
        }
        return same;
    }

    std::optional<PortRef> end(const Net& net, const Json& json, const char* nodeName, const char* pointName,
                               const std::string& pointer, const std::string& link) {
        const std::string node = textIn(json, nt, nodeName), point = textIn(json, nt, pointName);
        const auto at = devices_.find({net.id, node});
        if (at == devices_.end()) {
            remark(Severity::warning,
                   node.empty()
                       ? fmt::format("the link has no {}; it is kept, not drawn", nodeName)
                       : fmt::format("the link names the node \"{}\", which is not there; it is kept, "
                                     "not drawn",
                                     node),
                   "correct the ends where it came from", pointer, link);
            return std::nullopt;
        }
        if (point.empty())
            return PortRef{at->second, {}};
        if (const auto known = points_.find(pointKey(net.id, node, point)); known != points_.end())
            return known->second;
        remark(Severity::warning,
               fmt::format("the link names the termination point \"{}\" of {}, which does not list it", point,
                           node),
               "the port is taken as named", pointer, link);
        return builder_.port(at->second, point);
    }

    static Json restOf(const Json& json) { return without(json, nt, {"link-id", "source", "destination"}); }

    void join(const Net& net, const Direction& forth, const Direction* back) {
        Link& link = builder_.addLink(net.id == networks_.front().id ? forth.id : net.id + "\n" + forth.id,
                                      forth.source, forth.destination);
        Json entry{{"network", net.id}, {"link", forth.id}, {"rest", restOf(forth.json)}};
        linkIds_[{net.id, forth.id}] = link.id;
        builder_.knowAs(forth.id, link.id.value);
        if (back) {
            entry["back"] = {{"link", back->id}, {"rest", restOf(back->json)}};
            linkIds_[{net.id, back->id}] = link.id;
        }
        const Json& attributes = member(forth.json, l2, "l2-link-attributes");
        // RFC 8944: rate in kbit/s.
        if (const auto rate = wholeIn(member(attributes, l2, "rate")); rate && *rate >= 1000 && *rate < 1e10)
            for (const PortRef* end : {&link.a, &link.b})
                if (end->known() && builder_.portRecord(*end).learned)
                    builder_.portRecord(*end).speed = static_cast<int>(*rate / 1000);
        addEntry(link, std::move(entry));
    }

    void keep(Net& net) {
        Json rest = net.json;
        drop(rest, nw, "network-id");
        Json entry{{"network", net.id}, {"rest", std::move(rest)}};
        if (!net.keptLinks.empty())
            entry["links"] = std::move(net.keptLinks);
        if (!net.keptNodes.empty())
            entry["nodes"] = std::move(net.keptNodes);
        for (Sheet& sheet : builder_.sheets())
            if (sheet.id == net.sheet)
                sheet.extra = withExtraMember(sheet.extra, "rfc8345", entry.dump());
    }

    const Source& source_;
    std::string_view text_;
    Builder builder_;
    std::vector<Net> networks_;
    std::vector<std::size_t> order_;
    std::map<Named, DeviceId> devices_;
    std::unordered_map<std::string, PortRef> points_; ///< by pointKey()
    std::map<Named, LinkId> linkIds_;
};

} // namespace

Result<Loaded> readRfc8345(std::string_view bytes, const Source& source) {
    std::vector<Remark> remarks;
    auto text = decodeText(bytes, source.file, remarks);
    if (!text)
        return text.refusal();
    const auto document = parseJson(*text, source.file);
    if (!document)
        return document.refusal();
    return Reader(source, *text).read(*document);
}

} // namespace underridge::exchange
