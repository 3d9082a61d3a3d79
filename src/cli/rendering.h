// SPDX-License-Identifier: GPL-3.0-or-later
// What `render` draws: a sheet as a picture, or on paper.
#pragma once
#include "cli/listing.h"

#include <functional>
#include <optional>

namespace CLI {
class App;
}

namespace underridge::cli {

struct Rendering {
    std::string file, output, sheet, enter, size, theme = "light", detail, paper, pages = "1x1";
    std::vector<std::string> fold, unfold;
    std::vector<std::string> overlays; ///< by their keys: "vlan:20"
    std::optional<double> scale;       ///< pixels a sheet unit; on paper 1 is 96 units an inch
    bool landscape = false;
};
void addOptions(CLI::App& app, Rendering& wanted);

struct Drawn {
    std::string bytes; ///< of the file, by its suffix
    Json report;       ///< {width, height} in pixels; of paper {pages, widthMm, heightMm, scalePercent}
};

/// Draws it. `prepareDrawing` is called once, before anything with fonts. Refuses names
/// that are not there, suffixes, sizes and overlays that are none.
Result<Drawn> rendered(const model::Network& network, const model::Catalogue& catalogue,
                       const Rendering& wanted, const std::function<void()>& prepareDrawing);

} // namespace underridge::cli
