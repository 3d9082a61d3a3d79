// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/reading.h"

#include "core/layout/put_down.h"

namespace underridge::layout {

Result<exchange::Loaded> readPlaced(std::string_view bytes, const exchange::Source& source,
                                    std::optional<exchange::Format> as) {
    auto loaded = exchange::readAny(bytes, source, as);
    if (loaded)
        for (const exchange::Unplaced& part : std::exchange(loaded->unplaced, {}))
            putDown(loaded->network, part.sheet, part.devices);
    return loaded;
}

} // namespace underridge::layout
