// SPDX-License-Identifier: GPL-3.0-or-later
// Foreign texts read as the program reads them, and what tests ask of the outcome.
#pragma once
#include "core/edit/placed_reading.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"

#include <QString>

namespace underridge::tests {

inline const model::Catalogue& catalogue() {
    static const model::Catalogue held = exchange::builtInCatalogue();
    return held;
}

inline Result<exchange::Loaded> read(std::string_view bytes, const char* file = "given.txt") {
    return edit::readPlaced(bytes, {file, catalogue()});
}

/// The last device of that name; null when there is none.
inline const model::Device* named(const model::Network& network, std::string_view name) {
    const model::Device* found = nullptr;
    network.all<model::Device>().forEach([&](const model::Device& device) {
        if (device.name == name)
            found = &device;
    });
    return found;
}

/// The first remark with these words; null when none has them.
inline const Remark* remarkThatSays(const std::vector<Remark>& remarks, const char* words) {
    for (const Remark& remark : remarks)
        if (remark.what.find(words) != std::string::npos)
            return &remark;
    return nullptr;
}

inline bool says(const std::vector<Remark>& remarks, const char* words) {
    return remarkThatSays(remarks, words) != nullptr;
}

} // namespace underridge::tests
