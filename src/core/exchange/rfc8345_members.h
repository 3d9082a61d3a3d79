// SPDX-License-Identifier: GPL-3.0-or-later
// Members of RFC 8345 documents in the JSON encoding of RFC 7951, and the values they
// hold.
#pragma once
#include "core/exchange/json_view.h"
#include "core/exchange/upper_layers.h"

#include <cstdint>
#include <initializer_list>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace underridge::exchange::rfc8345 {

/// The modules: RFC 8345 sections 6.1 and 6.2, RFC 8944, RFC 8346. Members of their
/// companions for operational state, ietf-network-state and so on (RFC 8345, appendix A),
/// are taken as theirs.
inline constexpr std::string_view nw = "ietf-network";
inline constexpr std::string_view nt = "ietf-network-topology";
inline constexpr std::string_view l2 = "ietf-l2-topology";
inline constexpr std::string_view l3 = "ietf-l3-unicast-topology";

/// Whether a key is a member's: RFC 7951 names it with its module where that differs from
/// its parent's; some writers always do.
bool isMember(std::string_view key, std::string_view module, std::string_view name);
/// Nothing when there is none.
JsonView member(JsonView object, std::string_view module, std::string_view name);
/// A member that is a list; an empty one otherwise.
JsonView listIn(JsonView object, std::string_view module, std::string_view name);
/// A member that is a text; an empty one otherwise.
std::string textIn(JsonView object, std::string_view module, std::string_view name);
/// An object without some of its members.
JsonMembers without(JsonView object, std::string_view module, std::initializer_list<std::string_view> names);
void drop(JsonMembers& object, std::string_view module, std::string_view name);
/// Gives a member that is there another value; one that is not there stays away.
void replaceMember(JsonMembers& object, std::string_view module, std::string_view name, std::string value);

/// uint64 is a text in RFC 7951; a number is taken too.
std::optional<std::uint64_t> wholeIn(JsonView value);
/// "10,20-22" → 10 to 10, 20 to 22; nothing when it is not a list of VLAN ids, 1 to 4094.
std::vector<model::VlanRange> vlansIn(const std::string& text);

/// A node that stands for a shared medium: so flagged, or with a pseudonode id of IS-IS, or
/// one of OSPF.
bool isPseudonode(JsonView node);
/// The area a network is of, by the OSPF module in appendix B of RFC 8346, whatever it is
/// called: being an example it has other names elsewhere. Empty: of none.
std::string ospfAreaOf(JsonView network);
/// Whether a network is of the network layer: RFC 8346.
bool isUnicast(JsonView network);
/// Of "l3-node-attributes".
std::vector<LayerPrefix> prefixesIn(JsonView l3Attributes);

} // namespace underridge::exchange::rfc8345
