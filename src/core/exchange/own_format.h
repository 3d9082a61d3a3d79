// SPDX-License-Identifier: GPL-3.0-or-later
// The own file format: JSON Lines, one object a line in a stable order, documented in
// docs/format.md.
#pragma once
#include "core/base/result.h"
#include "core/model/network.h"

#include <functional>
#include <string>
#include <string_view>

namespace underridge::exchange {

inline constexpr int formatVersion = 2;
/// No act may make a longer line; the reader takes any, as a file with one should not be
/// lost for it.
inline constexpr std::size_t maxLineBytes = 16 << 20;

/// Devices that a source shows on a sheet without saying where.
struct Unplaced {
    model::SheetId sheet;
    std::vector<model::DeviceId> devices;
};

struct Loaded {
    model::Network network;
    std::vector<Remark> remarks;
    std::vector<Unplaced> unplaced; ///< for edit::readPlaced to put down
};

/// The whole file as text. The same network gives the same bytes.
std::string writeOwn(const model::Network& network);

/// A whole network with remarks on what was odd, or a refusal with a place. Dangling
/// references are remarked and left out; nothing else is lost.
Result<Loaded> readOwn(std::string_view bytes, const std::string& file);

/// Whether bytes look like the own format.
bool isOwn(std::string_view bytes);

} // namespace underridge::exchange
