// SPDX-License-Identifier: GPL-3.0-or-later
// What can be laid over a sheet, as files, acts and command lines write it.
#pragma once
#include "core/base/result.h"
#include "core/model/network.h"

namespace underridge::scene {

enum class OverlayKind { tree, findings, areas, speed, power, mains, age, vlan, subnet, filter, impact };

/// "tree", "vlan:20", "subnet:10.84.10.0/24", "where:role:camera", "impact:" and an id.
struct OverlayKey {
    OverlayKind kind = OverlayKind::tree;
    int vlan = 0;
    model::Address subnet;
    std::string filter;       ///< in the language of find
    std::uint64_t object = 0; ///< a device or link that is thought away

    bool operator==(const OverlayKey&) const = default;
    std::string text() const;
    /// Refuses what is none, and a filter that cannot be read.
    static Result<OverlayKey> parse(std::string_view text);
};

/// The keys a sheet keeps, in the order they were put on.
std::vector<std::string> overlaysOf(const model::Sheet& sheet);
/// As the sheet keeps them.
std::string overlayText(const std::vector<std::string>& keys);

} // namespace underridge::scene
