// SPDX-License-Identifier: GPL-3.0-or-later
// Findings somebody has looked at and set aside, told from those that count.
#pragma once
#include "core/linking/rules.h"

namespace underridge::analysis {

struct Sifted {
    struct Aside {
        linking::Finding finding;
        model::SetAsideId by;

        bool operator==(const Aside&) const = default;
    };
    std::vector<linking::Finding> open;
    std::vector<Aside> aside;
    std::vector<model::SetAsideId> idle; ///< of nothing that is found now

    bool operator==(const Sifted&) const = default;
};

/// A finding is set aside by a record of its rule that is about the same objects: when
/// another joins them it counts again. `today` as ISO 8601 (2026-11-29): records whose last
/// day is over set nothing aside, and are idle; empty: none is over. Order is kept.
Sifted sift(const model::Network& network, std::vector<linking::Finding> findings, std::string_view today);

} // namespace underridge::analysis
