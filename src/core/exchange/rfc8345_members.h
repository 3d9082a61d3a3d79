// SPDX-License-Identifier: GPL-3.0-or-later
// Members of RFC 8345 documents in the JSON encoding of RFC 7951, and the values they hold.
#pragma once
#include <cstdint>
#include <initializer_list>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace underridge::exchange::rfc8345 {

using Json = nlohmann::json;

/// The modules: RFC 8345 sections 6.1 and 6.2, RFC 8944, RFC 8346.
inline constexpr const char* nw = "ietf-network";
inline constexpr const char* nt = "ietf-network-topology";
inline constexpr const char* l2 = "ietf-l2-topology";
inline constexpr const char* l3 = "ietf-l3-unicast-topology";
/// What member() gives when there is none.
extern const Json nothing;

/// The key of a member: RFC 7951 names a member with its module where that differs from its parent's; some
/// writers always do. `name` itself when there is none.
std::string memberName(const Json& object, const char* module, const char* name);
const Json& member(const Json& object, const char* module, const char* name);
/// A member that is a list; an empty one otherwise.
const Json& listIn(const Json& object, const char* module, const char* name);
/// A member that is a text; an empty one otherwise.
std::string textIn(const Json& object, const char* module, const char* name);
/// An object without some of its members, copying only what stays.
Json without(const Json& object, const char* module, std::initializer_list<const char*> names);
void drop(Json& object, const char* module, const char* name);

/// uint64 is a text in RFC 7951; a number is taken too.
std::optional<std::uint64_t> wholeIn(const Json& value);
/// "10,20-22" → 10, 20, 21, 22; nothing when it is not a list of VLAN ids, 1 to 4094.
std::vector<int> vlansIn(const std::string& text);
/// Whether a prefix such as 10.84.1.0/24 contains an address; its length goes to `length`.
bool contains(const std::string& prefix, const std::string& address, int& length);

} // namespace underridge::exchange::rfc8345
