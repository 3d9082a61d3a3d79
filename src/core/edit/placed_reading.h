// SPDX-License-Identifier: GPL-3.0-or-later
// Networks from files as they are shown: read, and whatever has no position put down.
#pragma once
#include "core/exchange/foreign.h"

namespace underridge::edit {

/// What exchange::readAny reads, with a position for every device it shows.
Result<exchange::Loaded> readPlaced(std::string_view bytes, const exchange::Source& source,
                                    std::optional<exchange::Format> as = std::nullopt);

} // namespace underridge::edit
