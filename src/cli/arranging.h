// SPDX-License-Identifier: GPL-3.0-or-later
// What `underridge arrange` does and prints.
#pragma once
#include "cli/listing.h"
#include "core/edit/arranging.h"
#include "core/edit/patterns.h"

namespace CLI {
class App;
}

namespace underridge::cli {

struct Arranging {
    std::string file, output, sheet, enter, style = "suggest", flow = "down", anchor;
    double spacing = 1;
    std::uint64_t seed = 1;
    bool keepOrder = false;
    std::string by = "name";
};

struct ArrangedFile {
    model::Network network;
    Json report; ///< measures of the sheet as it is drawn, and the time it took
};

/// Arranges a sheet of a network. Refuses names that are not there or not the only ones.
Result<ArrangedFile> arrangedAs(const model::Network& network, const Arranging& wanted);

struct AddingPattern {
    std::string file, output, shape, sheet, into, at, medium, endpointMedium;
    edit::Pattern pattern;
};
/// Adds a pattern. Refuses as edit::addPattern() does, and names that are not there.
Result<ArrangedFile> withPattern(const model::Network& network, const model::Catalogue& catalogue,
                                 const AddingPattern& wanted);

/// The options of the two subcommands.
void addOptions(CLI::App& app, Arranging& wanted);
void addOptions(CLI::App& app, AddingPattern& wanted);

/// The report as lines of text.
std::string arrangedText(const Json& report);

} // namespace underridge::cli
