// SPDX-License-Identifier: GPL-3.0-or-later
// What `underridge trace` prints, and `list` of spanning trees, routes, interfaces and
// islands.
#pragma once
#include "cli/listing.h"
#include "core/analysis/trace.h"
#include "core/find/matching.h"

namespace CLI {
class App;
}

namespace underridge::cli {

struct Tracing {
    std::string file, from, to, protocol;
    int port = 0;
    bool both = false;
    std::vector<std::string> without; ///< devices, groups, and ports whose link has failed
};
void addOptions(CLI::App& app, Tracing& wanted);

/// {from, to, source, target, reached, hops, stoppedAt, reason, remedy}, and with --both
/// the same again under "back". Refuses names that are not there.
Result<Json> traced(const model::Network& network, const Tracing& wanted);
std::string tracedText(const Json& traced);
/// Whether it got there, and back where that was asked.
bool isReached(const Json& traced);

/// Whether listing() is by this file.
bool isOfForwarding(const std::string& what);
Json forwardingListing(const model::Network& network, const std::string& what, const find::Matcher& where);
std::string spanningTreeText(const Json& listed);

} // namespace underridge::cli
