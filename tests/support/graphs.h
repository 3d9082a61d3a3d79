// SPDX-License-Identifier: GPL-3.0-or-later
// Graphs of the shapes networks have, for what arranges them: the kept set of
// docs/drawings.md, and the makers of its families.
#pragma once
#include "core/layout/graph.h"

#include <fmt/format.h>
#include <random>
#include <set>
#include <string>

namespace underridge::tests {

using layout::Graph;
using layout::Index;

class GraphMaker {
public:
    Index node(int tier = -1) {
        graph_.nodes.push_back({104, 44, tier});
        return static_cast<Index>(graph_.nodes.size() - 1);
    }
    std::vector<Index> nodes(int count, int tier = -1) {
        std::vector<Index> out;
        for (int i = 0; i < count; ++i)
            out.push_back(node(tier));
        return out;
    }
    void link(Index a, Index b, int links = 1) {
        if (a != b && have_.insert(std::minmax(a, b)).second)
            graph_.edges.push_back({a, b, -1, -1, links});
    }
    void ring(const std::vector<Index>& all) {
        for (std::size_t i = 0; i < all.size(); ++i)
            link(all[i], all[(i + 1) % all.size()]);
    }
    void chain(const std::vector<Index>& all) {
        for (std::size_t i = 0; i + 1 < all.size(); ++i)
            link(all[i], all[i + 1]);
    }
    Graph made() { return std::move(graph_); }

private:
    Graph graph_;
    std::set<std::pair<Index, Index>> have_;
};

/// Core pair, a distribution pair in each building, access switches on both, endpoints.
inline Graph campusGraph(int buildings, int access, int endpoints, bool tiers = false) {
    GraphMaker g;
    const auto tier = [&](int t) { return tiers ? t : -1; };
    const auto core = g.nodes(2, tier(5));
    g.link(core[0], core[1]);
    for (int b = 0; b < buildings; ++b) {
        const auto pair = g.nodes(2, tier(4));
        g.link(pair[0], pair[1]);
        for (const Index c : core)
            for (const Index d : pair)
                g.link(c, d);
        for (int a = 0; a < access; ++a) {
            const Index here = g.node(tier(4));
            g.link(here, pair[0]);
            g.link(here, pair[1]);
            for (int i = 0; i < endpoints; ++i)
                g.link(here, g.node(tier(0)));
        }
    }
    return g.made();
}

/// Every spine joined to every leaf; endpoints at the leaves until there are so many devices.
inline Graph fabricGraph(int spines, int leaves, int devices) {
    GraphMaker g;
    const auto upper = g.nodes(spines), lower = g.nodes(leaves);
    for (const Index s : upper)
        for (const Index l : lower)
            g.link(s, l);
    for (int i = spines + leaves; i < devices; ++i)
        g.link(g.node(), lower[static_cast<std::size_t>(i) % lower.size()]);
    return g.made();
}

/// A folded Clos of switches with k ports: k pods, k²/4 cores.
inline Graph closGraph(int k, int endpoints) {
    GraphMaker g;
    const int half = k / 2;
    const auto cores = g.nodes(half * half);
    for (int pod = 0; pod < k; ++pod) {
        const auto upper = g.nodes(half), lower = g.nodes(half);
        for (int i = 0; i < half; ++i)
            for (int j = 0; j < half; ++j) {
                g.link(upper[static_cast<std::size_t>(i)], lower[static_cast<std::size_t>(j)]);
                g.link(upper[static_cast<std::size_t>(i)], cores[static_cast<std::size_t>(i * half + j)]);
            }
        for (const Index l : lower)
            for (int i = 0; i < endpoints; ++i)
                g.link(g.node(), l);
    }
    return g.made();
}

/// A ring with a ring on each of its devices.
inline Graph ringsGraph(int around, int each) {
    GraphMaker g;
    const auto main = g.nodes(around);
    g.ring(main);
    for (const Index at : main) {
        auto loop = g.nodes(each);
        loop.push_back(at);
        g.ring(loop);
    }
    return g.made();
}

/// A ring with rings that lean on it, between two neighbours each.
inline Graph leaningRingsGraph(int rings, int each) {
    GraphMaker g;
    const auto main = g.nodes(2 * rings);
    g.ring(main);
    for (int i = 0; i < rings; ++i) {
        std::vector<Index> way{main[static_cast<std::size_t>(2 * i)]};
        for (int k = 0; k < each; ++k)
            way.push_back(g.node());
        way.push_back(main[static_cast<std::size_t>(2 * i + 1)]);
        g.chain(way);
    }
    return g.made();
}

inline Graph treeGraph(int fan, int depth) {
    GraphMaker g;
    std::vector<Index> level{g.node()};
    for (int i = 0; i < depth; ++i) {
        std::vector<Index> next;
        for (const Index at : level)
            for (int k = 0; k < fan; ++k) {
                next.push_back(g.node());
                g.link(at, next.back());
            }
        level = std::move(next);
    }
    return g.made();
}

/// Devices that join the better connected ones, one and two links each by turns (Barabási and
/// Albert 1999).
inline Graph scaleFreeGraph(int devices, std::uint64_t seed = 1) {
    GraphMaker g;
    std::mt19937_64 random(seed);
    std::vector<Index> ends;
    for (int i = 0; i < devices; ++i) {
        const Index here = g.node();
        if (i == 0)
            continue;
        std::set<Index> to;
        const auto want = static_cast<std::size_t>(std::min(1 + i % 2, i));
        while (to.size() < want)
            to.insert(ends.empty() ? 0 : ends[random() % ends.size()]);
        for (const Index other : to) {
            g.link(here, other);
            ends.push_back(here);
            ends.push_back(other);
        }
    }
    return g.made();
}

/// Devices by number, and what is joined.
inline Graph typedGraph(int devices, std::initializer_list<std::pair<Index, Index>> links) {
    GraphMaker g;
    g.nodes(devices);
    for (const auto& [a, b] : links)
        g.link(a, b);
    return g.made();
}

/// The 14 sites and 21 lines of a national research backbone of 1991.
inline Graph backboneOf14() {
    return typedGraph(14, {{0, 1},  {0, 2},  {0, 7},  {1, 2},   {1, 3},   {2, 5},   {3, 4},
                           {3, 10}, {4, 5},  {4, 6},  {5, 9},   {5, 13},  {6, 7},   {7, 8},
                           {8, 9},  {8, 11}, {8, 12}, {10, 11}, {10, 12}, {11, 13}, {12, 13}});
}
/// The 11 sites and 14 lines of one of 2004.
inline Graph backboneOf11() {
    return typedGraph(11, {{0, 1},
                           {0, 2},
                           {1, 2},
                           {1, 3},
                           {2, 4},
                           {3, 4},
                           {3, 5},
                           {4, 6},
                           {5, 6},
                           {5, 7},
                           {6, 8},
                           {7, 9},
                           {8, 10},
                           {9, 10}});
}

struct KeptGraph {
    std::string name;
    Graph graph;
};

inline std::vector<KeptGraph> keptGraphs() {
    std::vector<KeptGraph> out;
    out.push_back({"empty", {}});
    out.push_back({"one device", treeGraph(1, 0)});
    out.push_back({"star of 24", treeGraph(24, 1)});
    out.push_back({"star of 600", treeGraph(600, 1)});
    out.push_back({"chain of 40", treeGraph(1, 39)});
    out.push_back({"tree of 57", treeGraph(7, 2)});
    out.push_back({"tree of 1,111", treeGraph(10, 3)});
    out.push_back({"binary tree of 255", treeGraph(2, 7)});
    out.push_back({"campus of 54", campusGraph(2, 4, 5)});
    out.push_back({"campus of 202", campusGraph(4, 8, 5)});
    out.push_back({"campus of 890", campusGraph(12, 12, 5)});
    out.push_back({"campus of 202, roles known", campusGraph(4, 8, 5, true)});
    out.push_back({"fabric of 4 and 11", fabricGraph(4, 11, 50)});
    out.push_back({"fabric of 4 and 21", fabricGraph(4, 21, 200)});
    out.push_back({"fabric of 8 and 47", fabricGraph(8, 47, 1000)});
    out.push_back({"folded Clos of 36", closGraph(4, 2)});
    out.push_back({"folded Clos of 208", closGraph(8, 4)});
    out.push_back({"folded Clos of 931", closGraph(14, 7)});
    {
        GraphMaker g;
        g.ring(g.nodes(12));
        out.push_back({"ring of 12", g.made()});
    }
    {
        GraphMaker g; // industrial: a ring of switches, spurs of some devices each
        const auto main = g.nodes(9);
        g.ring(main);
        for (std::size_t i = 0; i < main.size(); ++i)
            for (std::size_t k = 0; k < i % 4; ++k) {
                const Index spur = g.node();
                g.link(main[i], spur);
                if (k == 1)
                    g.link(spur, g.node());
            }
        out.push_back({"ring with spurs", g.made()});
    }
    out.push_back({"rings on a ring, 49", ringsGraph(7, 6)});
    out.push_back({"rings on a ring, 196", ringsGraph(14, 13)});
    out.push_back({"rings on a ring, 992", ringsGraph(31, 31)});
    out.push_back({"rings leaning on a ring, 48", leaningRingsGraph(6, 6)});
    out.push_back({"backbone of 11", backboneOf11()});
    out.push_back({"backbone of 14", backboneOf14()});
    {
        GraphMaker g;
        const auto all = g.nodes(8);
        for (const Index a : all)
            for (const Index b : all)
                g.link(a, b);
        out.push_back({"full mesh of 8", g.made()});
    }
    {
        GraphMaker g;
        constexpr int side = 8;
        const auto all = g.nodes(side * side);
        for (Index i = 0; i < all.size(); ++i) {
            if (i % side + 1 < side)
                g.link(i, i + 1);
            if (i + side < all.size())
                g.link(i, i + side);
        }
        out.push_back({"grid of 8 by 8", g.made()});
    }
    out.push_back({"scale-free, 50", scaleFreeGraph(50)});
    out.push_back({"scale-free, 200", scaleFreeGraph(200)});
    out.push_back({"scale-free, 1,000", scaleFreeGraph(1000)});
    {
        GraphMaker g; // parts of all kinds, and devices without links
        g.ring(g.nodes(5));
        g.chain(g.nodes(4));
        const Index hub = g.node();
        for (int i = 0; i < 7; ++i)
            g.link(hub, g.node());
        g.nodes(9);
        out.push_back({"in parts", g.made()});
    }
    {
        GraphMaker g; // several links between two
        const auto all = g.nodes(5);
        g.link(all[0], all[1], 8);
        g.link(all[0], all[2], 2);
        g.link(all[1], all[2], 2);
        g.link(all[2], all[3], 3);
        g.link(all[3], all[4], 1);
        out.push_back({"several links between two", g.made()});
    }
    return out;
}

} // namespace underridge::tests
