// SPDX-License-Identifier: GPL-3.0-or-later
// What a reader of RFC 8345 kept with the objects it made, for the writer.
#pragma once
#include "core/exchange/exact_json.h"
#include "core/model/network.h"

#include <functional>

namespace underridge::exchange::rfc8345 {

// Members as they are written; they are read under any name isMember() takes for theirs.
inline constexpr const char* pointList = "ietf-network-topology:termination-point";
inline constexpr const char* linkList = "ietf-network-topology:link";
inline constexpr const char* l2Node = "ietf-l2-topology:l2-node-attributes";
inline constexpr const char* l2Point = "ietf-l2-topology:l2-termination-point-attributes";
inline constexpr const char* l2Link = "ietf-l2-topology:l2-link-attributes";
inline constexpr const char* l3Node = "ietf-l3-unicast-topology:l3-node-attributes";
inline constexpr const char* l3Point = "ietf-l3-unicast-topology:l3-termination-point-attributes";
inline constexpr const char* l3Link = "ietf-l3-unicast-topology:l3-link-attributes";
inline constexpr const char* l3Type = "ietf-l3-unicast-topology:l3-unicast-topology";

/// Under the field `rfc8345`; null where it is none of an imported document.
ExactJson kept(const SharedText& extra);
/// A member that is a text; an empty one otherwise.
std::string stringIn(const ExactJson& json, const char* name);
/// What was not understood.
ExactJson restIn(const ExactJson& entry);
/// The entry of a list for one network.
ExactJson entryFor(const ExactJson& entries, const std::string& network);
/// Values that were kept come after what the model says, and do not replace it.
void addKept(ExactJson& to, const ExactJson& rest);

/// An object by the network of the document it is in, and its id there.
struct Named {
    std::string network, id;
};

/// What the objects of the lowest layer go by in a document.
struct Naming {
    std::function<Named(model::DeviceId)> node;
    std::function<std::string(const model::PortRef&)> point; ///< in the network of its node
    std::function<Named(model::LinkId, bool back)> link;     ///< back: from its end b to its end a
};

} // namespace underridge::exchange::rfc8345
