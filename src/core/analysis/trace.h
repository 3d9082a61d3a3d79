// SPDX-License-Identifier: GPL-3.0-or-later
// The way of a packet, hop by hop, as real equipment would take it: by the route that
// decides, over the switches between, through filters and translation, until it is taken
// in or stops.
#pragma once
#include "core/analysis/prefix.h"
#include "core/base/result.h"
#include "core/model/network.h"

#include <set>

namespace underridge::analysis {

class Forwarding;

struct TraceEnd {
    model::DeviceId device;
    std::string port; ///< the interface of this port; empty: as the device chooses
    Ip address;       ///< none: the device's first
};

struct Probe {
    TraceEnd from, to;
    model::Protocol protocol = model::Protocol::any;
    int port = 0; ///< of the destination; 0: any
};

/// What one device does with it.
struct TraceHop {
    model::DeviceId device;
    model::InterfaceId enters,
        leaves;          ///< of what looks at the packet, not of what switches it; none: as in and out
    std::string in, out; ///< ports, a LAG by its name; empty: it begins or ends here
    int layer = 3;
    int vlan = 0; ///< the frame is in as it leaves, or was in as it came; 0: none
    std::string decision;
    int mtu = 0; ///< of where the packet leaves, in octets of IP; 0: it is switched, or ends here
    std::vector<std::string> equal;   ///< other ways that cost the same, as "via 10.0.0.2"
    std::vector<model::LinkId> links; ///< the physical way to the next hop
};

enum class Stop {
    none,      ///< it is reached
    noAddress, ///< an end has no address of the version
    noRoute,
    discarded, ///< by a route that drops
    silent,    ///< nobody answers for the next hop
    notRouter, ///< handed to a host, which drops what is not for it
    refused,   ///< by a filter
    loop,      ///< it comes round again
    chance     ///< two hold the address
};
/// "no-route", … for output.
std::string_view textOf(Stop stop);

struct Trace {
    std::vector<TraceHop> hops;
    Stop stop = Stop::none;
    model::DeviceId stoppedAt;
    std::string reason;            ///< a sentence without a full stop; empty when reached
    std::string remedy;            ///< what would mend it, as the start of a sentence; may be empty
    std::vector<std::string> acts; ///< lines of a script that do so; may be empty
    Ip source, target;
    /// The least MTU of the way as far as it goes (RFC 1191); 0: it leaves nowhere.
    int mtu() const;
    bool reached() const { return stop == Stop::none; }
};

/// What a filter let through, so that answers pass too, and which addresses were put in
/// the place of others.
struct Conversation {
    std::set<model::DeviceId> passed;
    std::vector<std::tuple<model::DeviceId, Ip, Ip>> translated; ///< at, before, after
};

/// One way. A question fills the conversation; an `answer` goes by what it left there.
Trace trace(const Forwarding& forwarding, const Probe& probe, Conversation& conversation,
            bool answer = false);
Trace trace(const Forwarding& forwarding, const Probe& probe);
/// The question, and the answer to it when that is reached.
std::pair<Trace, Trace> traceBoth(const Forwarding& forwarding, const Probe& probe);

/// "acc-1", "acc-1:3", "10.84.10.22", "Ticket sales": names and ids of devices, addresses that
/// one has, host names, and services, which stand for the one device that gives them.
Result<TraceEnd> traceEnd(const model::Network& network, const std::string& text);

} // namespace underridge::analysis
