// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/placed_reading.h"

#include "core/edit/arranging.h"

namespace underridge::edit {

Result<exchange::Loaded> readPlaced(std::string_view bytes, const exchange::Source& source,
                                    std::optional<exchange::Format> as) {
    auto loaded = exchange::readAny(bytes, source, as);
    if (loaded)
        for (const exchange::Unplaced& part : std::exchange(loaded->unplaced, {}))
            putDown(loaded->network, part.sheet, part.devices);
    return loaded;
}

} // namespace underridge::edit
