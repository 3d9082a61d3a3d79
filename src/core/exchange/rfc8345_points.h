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
    void take(const Net& net, JsonView json, Node& node, const std::string& id,
              const std::vector<LayerPrefix>& prefixes);
    /// Of the interface on a port; a cost of 0 says nothing.
    void setOspf(const model::PortRef& ref, const std::string& area, std::int64_t cost);

    /// What is kept of each for the writer.
    const std::map<model::PortRef, Entries>& ofPorts() const { return portEntries_; }
    const std::map<model::Interface*, Entries>& ofLags() const { return lagEntries_; }

private:
    bool isEnd(const Net& net, const std::string& node, const std::string& point);
    void takeTags(model::Interface& interface, JsonView attributes, JsonMembers& left);
    std::string keyOf(JsonView json, const Node& node, const std::string& id) const;
    void l2Point(JsonView json, const model::PortRef& ref, JsonMembers& rest);
    void l3Point(JsonView json, const model::PortRef& ref, const std::vector<LayerPrefix>& prefixes,
                 JsonMembers& rest, const std::string& area);

    Builder& builder_;
    const Nets& nets_;
    std::map<model::PortRef, Entries> portEntries_;
    std::map<model::Interface*, Entries> lagEntries_;
    std::map<std::string, std::unordered_set<std::string>> ends_; ///< of links, by network
};

} // namespace underridge::exchange::rfc8345
