// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/chains.h"

#include "core/layout/places.h"

#include <cmath>
#include <numbers>
#include <random>

namespace underridge::layout {

Branches branchesOf(const Springs& in) {
    const auto n = static_cast<Index>(in.sizes.size());
    const auto near = linesAt(in);
    Branches out;
    out.springs = in;
    out.springs.sizes.clear();
    out.springs.lines.clear();
    std::vector<Index> place(n, none);
    for (Index v = 0; v < n; ++v)
        if (near[v].size() != 2) {
            place[v] = static_cast<Index>(out.nodes.size());
            out.nodes.push_back(v);
            out.springs.sizes.push_back(in.sizes[v]);
        }
    std::vector<bool> passed(in.lines.size());
    for (const Index from : out.nodes)
        for (const LineTo& first : near[from]) {
            if (passed[first.line])
                continue;
            Chain chain{from, first.node, {}};
            LineTo at = first;
            for (passed[at.line] = true; place[at.node] == none; passed[at.line] = true) {
                chain.nodes.push_back(at.node);
                const auto& both = near[at.node];
                at = both[0].line == at.line ? both[1] : both[0];
            }
            chain.b = at.node;
            if (chain.a != chain.b)
                out.springs.lines.emplace_back(place[chain.a], place[chain.b]);
            if (!chain.nodes.empty())
                out.chains.push_back(std::move(chain));
        }
    return out;
}

void putChains(const Springs& in, const Branches& branches, std::vector<PointF>& at) {
    for (const Chain& chain : branches.chains)
        for (std::size_t k = 0; k < chain.nodes.size(); ++k)
            at[chain.nodes[k]] =
                at[chain.a] + (at[chain.b] - at[chain.a]) *
                                  (static_cast<double>(k + 1) / static_cast<double>(chain.nodes.size() + 1));
    std::vector<bool> stands(at.size());
    for (const Index node : branches.nodes)
        stands[node] = true;
    Footprints taken(at, in.sizes, in.gap, stands);
    std::mt19937_64 random(in.seed + 19);
    const auto unit = [&] { return unitOf(random); };
    constexpr int tries = 200;
    constexpr double farther = 4; // with each try
    bool all = true;
    for (const Chain& chain : branches.chains)
        for (std::size_t k = 0; k < chain.nodes.size(); ++k) {
            const Index v = chain.nodes[k];
            const PointF along = (at[chain.b] - at[chain.a]) * (1 / static_cast<double>(chain.nodes.size()));
            for (int i = 0; i < tries && !stands[v]; ++i) {
                const double turn = unit() * 2 * std::numbers::pi,
                             far = farther * i * (1 + i / 50.0) * unit();
                const PointF p = at[chain.a] + along * (static_cast<double>(k) + unit()) +
                                 PointF{std::cos(turn) * far, std::sin(turn) * far};
                if (!taken.isFree(v, p))
                    continue;
                at[v] = p;
                taken.put(v, p);
                stands[v] = true;
            }
            all = all && stands[v];
            stands[v] = true;
        }
    if (!all)
        separate(in, at);
}

} // namespace underridge::layout
