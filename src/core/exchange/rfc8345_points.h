// SPDX-License-Identifier: GPL-3.0-or-later
// The termination points of RFC 8345 as they are read: ports, LAGs of them (RFC 8944), and what
// interfaces stand on them (RFC 8346).
#pragma once
#include "core/exchange/building.h"
#include "core/exchange/rfc8345_nets.h"

#include <set>
#include <unordered_set>

namespace underridge::exchange::rfc8345 {

class Points {
public:
    Points(Builder& builder, const Nets& nets) : builder_(builder), nets_(nets) {}

    /// Whether a point is a LAG of others, and no link ends there: then it is an interface, no
    /// port. It is taken as one.
    bool takeLag(const Net& net, JsonView json, Node& node, const std::string& nodeId);
    /// A point that is a port, `id` its own, with what its members say of it. `prefixes`: of its
    /// node.
    void take(const Net& net, JsonView json, Node& node, const std::string& nodeId, const std::string& id,
              const std::vector<LayerPrefix>& prefixes);
    /// A point that links name and its node does not list.
    void takeUnlisted(const Net& net, const model::PortRef& ref);
    /// Of the interface at a point of a network of OSPF; a cost of 0 says nothing.
    void setOspf(const Net& net, const std::string& node, const std::string& point, const model::PortRef& ref,
                 std::int64_t cost);

    /// What is kept of each for the writer.
    const std::map<model::PortRef, Entries>& ofPorts() const { return portEntries_; }
    /// With what OSPF was said to be, so that the writer sees what was edited.
    std::map<model::Interface*, Entries> ofInterfaces() const;

private:
    bool isEnd(const Net& net, const std::string& node, const std::string& point);
    void takeTags(model::Interface& interface, JsonView attributes, JsonMembers& left);
    std::string keyOf(JsonView json, const Node& node, const std::string& id) const;
    model::Interface* standing(const Net& net, JsonView json, const Node& node, const std::string& nodeId,
                               const std::string& id, const std::vector<LayerPrefix>& prefixes);
    model::Interface* byName(JsonView json, const Node& node, const std::string& id,
                             const std::vector<LayerPrefix>& prefixes);
    void l2Point(JsonView json, const model::PortRef& ref, JsonMembers& rest);
    using InterfaceThere = FunctionRef<model::Interface&()>; ///< made for what is said of it only
    void l3Point(JsonView json, InterfaceThere interface, const std::vector<LayerPrefix>& prefixes,
                 JsonMembers& rest, const std::string& area);
    void setOspf(model::Interface& interface, const std::string& area, std::int64_t cost);

    Builder& builder_;
    const Nets& nets_;
    std::map<model::PortRef, Entries> portEntries_;
    std::map<model::Interface*, Entries> interfaceEntries_;
    std::set<model::Interface*> ospf_; ///< that networks of OSPF are about
    std::unordered_map<std::string, model::Interface*>
        interfaces_;                                              ///< on no port, by network, node and point
    std::map<std::string, std::unordered_set<std::string>> ends_; ///< of links, by network
};

} // namespace underridge::exchange::rfc8345
