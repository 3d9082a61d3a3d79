// SPDX-License-Identifier: GPL-3.0-or-later
// The networks of an RFC 8345 document while they are read: what is known of their nodes,
// termination points and links, and which network rests on which.
#pragma once
#include "core/base/function_ref.h"
#include "core/exchange/rfc8345_members.h"
#include "core/model/device.h"

#include <map>
#include <unordered_map>

namespace underridge::exchange::rfc8345 {

inline constexpr std::size_t maxPoint = 200; // bytes of a tp-id

/// The entries of an object by network, as the writer wants them back: the inside of a JSON array.
using Entries = std::string;
void addEntry(Entries& entries, const JsonMembers& entry);
/// What is not understood, as it came.
void addRaw(Entries& entries, JsonView json);

/// One name for an object of a network.
std::string named(std::string_view network, std::string_view object);

struct TextHash {
    using is_transparent = void;
    std::size_t operator()(std::string_view text) const { return fnv1a(text); }
};
template <class Value>
using ByText = std::unordered_map<std::string, Value, TextHash, std::equal_to<>>;

/// Ids of termination points; nodes whose ids are the same share them.
struct PointList {
    model::PortNames names;
    bool usable = true; ///< each is a name a port may have, and there once
};

/// The lists of a document, each made once.
class PointLists {
public:
    /// Of a "termination-point" list.
    const PointList& of(JsonView list);

private:
    std::unordered_map<std::string, PointList> lists_; ///< by the ids, one after another
};

struct Net;

struct Node {
    model::DeviceId device;
    model::PortNames points;
    std::map<std::string, std::string> renamed = {}; ///< points that are another port of the device, or none
    const Node* below = nullptr;                     ///< that it is another view of
    const Net* in = nullptr;

    /// Whether what joins the device is said by a network below.
    bool isJoinedBelow() const;

    /// The port a termination point is, unknown of an interface that is on none; nothing when
    /// the node does not list it.
    std::optional<model::PortRef> portOf(const std::string& point) const;
};

struct Net {
    std::string id;
    JsonView json;
    std::string area = {}; ///< of OSPF; empty: it is no network of OSPF
    bool unicast = false;  ///< of the network layer (RFC 8346)
    int version = 0;       ///< of the first prefix in it; 0: there is none
    model::SheetId sheet = {};
    std::string keptLinks = {}, keptNodes = {}; ///< insides of arrays
    ByText<Node> nodes = {};
    ByText<model::LinkId> links = {}; ///< kept while other networks may rest on them
};

struct Nets {
    std::vector<Net> all;

    /// Whether there is no other layer to tell an object from.
    bool isOne() const { return all.size() == 1; }
    const Net* net(std::string_view id) const;
    const Node* node(std::string_view net, std::string_view id) const;
    std::optional<model::LinkId> link(std::string_view net, std::string_view id) const;

    /// Indices, so that networks others rest on come first, wherever they stand in the
    /// document. `circle` is told of each that rests on itself in the end.
    std::vector<std::size_t> inOrder(FunctionRef<void(const Net&)> circle) const;

private:
    std::vector<std::size_t> below(const Net& net, const ByText<std::size_t>& index) const;
};

} // namespace underridge::exchange::rfc8345
