// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/layout/layers.h"

#include <array>
#include <numeric>

namespace underridge::layout {
namespace {

/// Nodes and the dummies where long lines pass a layer.
struct Net {
    std::vector<int> layer;
    std::vector<double> width;
    std::vector<bool> dummy;
    struct To {
        Index node = 0;
        double here = 0, there = 0; ///< where the line ends, from the middles
    };
    std::vector<std::vector<To>> up, down;
    std::vector<std::vector<Index>> layers; ///< in order
    std::vector<std::size_t> place;         ///< in its layer
    std::vector<std::vector<Index>> chain;  ///< of each line: the dummies, from a to b

    std::size_t size() const { return layer.size(); }
    void number(std::size_t which) {
        for (std::size_t i = 0; i < layers[which].size(); ++i)
            place[layers[which][i]] = i;
    }
};

Net netOf(const Layering& in) {
    Net net;
    net.layer = in.layer;
    int last = 0;
    for (const int each : in.layer)
        last = std::max(last, each);
    for (const PointF size : in.sizes)
        net.width.push_back(size.x);
    net.dummy.assign(in.sizes.size(), false);
    net.chain.resize(in.lines.size());
    net.up.resize(in.sizes.size());
    net.down.resize(in.sizes.size());
    for (std::size_t i = 0; i < in.lines.size(); ++i) {
        const Layering::Line& line = in.lines[i];
        const bool downwards = in.layer[line.a] < in.layer[line.b];
        const Index top = downwards ? line.a : line.b, bottom = downwards ? line.b : line.a;
        const auto fromMiddle = [&](Index node, double at) { return at < 0 ? 0 : at - in.sizes[node].x / 2; };
        const double atTop = fromMiddle(top, downwards ? line.atA : line.atB),
                     atBottom = fromMiddle(bottom, downwards ? line.atB : line.atA);
        Index above = top;
        double here = atTop;
        for (int layer = in.layer[top] + 1; layer < in.layer[bottom]; ++layer) {
            const auto dummy = static_cast<Index>(net.size());
            net.layer.push_back(layer);
            net.width.push_back(0);
            net.dummy.push_back(true);
            net.up.push_back({{above, 0, here}});
            net.down.emplace_back();
            net.down[above].push_back({dummy, here, 0});
            net.chain[i].push_back(dummy);
            above = dummy;
            here = 0;
        }
        net.down[above].push_back({bottom, here, atBottom});
        net.up[bottom].push_back({above, atBottom, here});
        if (!downwards)
            std::reverse(net.chain[i].begin(), net.chain[i].end());
    }
    net.layers.resize(static_cast<std::size_t>(last) + 1);
    net.place.resize(net.size());
    return net;
}

/// A first order: depth first from above, so that what hangs together stands together.
void firstOrder(Net& net) {
    std::vector<bool> seen(net.size());
    std::vector<Index> open;
    const auto from = [&](Index root) {
        open.push_back(root);
        while (!open.empty()) {
            const Index node = open.back();
            open.pop_back();
            if (seen[node])
                continue;
            seen[node] = true;
            net.layers[static_cast<std::size_t>(net.layer[node])].push_back(node);
            for (auto to = net.down[node].rbegin(); to != net.down[node].rend(); ++to)
                if (!seen[to->node])
                    open.push_back(to->node);
        }
    };
    for (Index i = 0; i < net.size(); ++i)
        if (net.up[i].empty())
            from(i);
    for (Index i = 0; i < net.size(); ++i)
        if (!seen[i])
            from(i);
    for (std::size_t i = 0; i < net.layers.size(); ++i)
        net.number(i);
}

/// Crossings between a layer and the one below it.
std::size_t crossingsBelow(const Net& net, std::size_t layer, std::vector<std::size_t>& tree,
                           std::vector<std::size_t>& ends) {
    const std::size_t n = net.layers[layer + 1].size();
    tree.assign(n + 1, 0);
    std::size_t sum = 0, seen = 0;
    for (const Index node : net.layers[layer]) {
        ends.clear();
        for (const auto& to : net.down[node])
            ends.push_back(net.place[to.node]);
        for (const std::size_t end : ends) { // how many earlier ones end further right
            std::size_t upTo = 0;
            for (std::size_t i = end + 1; i > 0; i -= i & (~i + 1))
                upTo += tree[i];
            sum += seen - upTo;
        }
        for (const std::size_t end : ends) {
            for (std::size_t i = end + 1; i <= n; i += i & (~i + 1))
                ++tree[i];
            ++seen;
        }
    }
    return sum;
}

std::size_t crossings(const Net& net) {
    std::vector<std::size_t> tree;
    std::vector<std::size_t> ends;
    std::size_t sum = 0;
    for (std::size_t i = 0; i + 1 < net.layers.size(); ++i)
        sum += crossingsBelow(net, i, tree, ends);
    return sum;
}

/// One sweep: each layer by the mean place of its neighbours on one side. `turn`: equal ones
/// change over.
void sweep(Net& net, bool downwards, bool turn) {
    const std::size_t n = net.layers.size();
    std::vector<std::pair<double, std::size_t>> keys;
    for (std::size_t step = 1; step < n; ++step) {
        const std::size_t which = downwards ? step : n - 1 - step;
        auto& layer = net.layers[which];
        keys.assign(layer.size(), {});
        for (std::size_t i = 0; i < layer.size(); ++i) {
            const auto& near = downwards ? net.up[layer[i]] : net.down[layer[i]];
            double sum = 0;
            for (const auto& to : near) {
                const double width = net.width[to.node];
                sum += static_cast<double>(net.place[to.node]) + (width > 0 ? to.there / (width + 1) : 0);
            }
            keys[i] = {near.empty()
                           ? static_cast<double>(i) *
                                 static_cast<double>(net.layers[downwards ? which - 1 : which + 1].size()) /
                                 static_cast<double>(layer.size())
                           : sum / static_cast<double>(near.size()),
                       i};
        }
        std::stable_sort(keys.begin(), keys.end(), [&](const auto& x, const auto& y) {
            return x.first < y.first || (turn && x.first == y.first && x.second > y.second);
        });
        std::vector<Index> sorted;
        sorted.reserve(layer.size());
        for (const auto& [key, i] : keys)
            sorted.push_back(layer[i]);
        layer = std::move(sorted);
        net.number(which);
    }
}

/// Crossings of the lines of two nodes on one side, as they stand and changed over.
std::array<std::size_t, 2> crossingsOfTwo(const std::vector<std::size_t>& u,
                                          const std::vector<std::size_t>& v) {
    std::array<std::size_t, 2> out{};
    for (std::size_t i = 0, j = 0, equal = 0; i < u.size(); ++i) {
        while (j < v.size() && v[j] < u[i])
            ++j;
        equal = j;
        while (equal < v.size() && v[equal] == u[i])
            ++equal;
        out[0] += j;                // of v left of this one of u
        out[1] += v.size() - equal; // right of it
    }
    return out;
}

/// Puts the nodes of each layer in their order, each where another stood.
void inOrder(Net& net) {
    for (std::size_t which = 0; which < net.layers.size(); ++which) {
        auto& layer = net.layers[which];
        std::vector<Index> nodes;
        for (const Index node : layer)
            if (!net.dummy[node])
                nodes.push_back(node);
        std::sort(nodes.begin(), nodes.end());
        auto next = nodes.begin();
        for (Index& node : layer)
            if (!net.dummy[node])
                node = *next++;
        net.number(which);
    }
}

/// Swaps neighbours as long as that helps. `ordered`: not two nodes.
void transpose(Net& net, int rounds, bool ordered) {
    std::vector<std::vector<std::size_t>> up(net.size()), down(net.size());
    for (int round = 0; round < rounds; ++round) {
        bool better = false;
        for (std::size_t which = 0; which < net.layers.size(); ++which) {
            auto& layer = net.layers[which];
            const auto ends = [&](const std::vector<Net::To>& near, std::vector<std::size_t>& out) {
                out.clear();
                for (const auto& to : near)
                    out.push_back(net.place[to.node]);
                std::sort(out.begin(), out.end());
            };
            for (const Index node : layer) {
                ends(net.up[node], up[node]);
                ends(net.down[node], down[node]);
            }
            for (std::size_t i = 0; i + 1 < layer.size(); ++i) {
                const Index u = layer[i], v = layer[i + 1];
                const auto a = crossingsOfTwo(up[u], up[v]), b = crossingsOfTwo(down[u], down[v]);
                if (a[1] + b[1] < a[0] + b[0] && (!ordered || net.dummy[u] || net.dummy[v])) {
                    std::swap(layer[i], layer[i + 1]);
                    better = true;
                }
            }
            net.number(which);
        }
        if (!better)
            return;
    }
}

/// Places by Brandes and Köpf: four times aligned with the median neighbour, from above and
/// below, from the left and right; the mean of the two middle ones.
class Placing {
public:
    Placing(const Net& net, double gap) : net_(net), gap_(gap) {}

    std::vector<double> middles() {
        markConflicts();
        std::array<std::vector<double>, 4> x;
        for (const int which : {0, 1, 2, 3})
            x[static_cast<std::size_t>(which)] = placed((which & 1) != 0, (which & 2) != 0);
        // All as wide as the narrowest, on the side they lean to.
        std::size_t narrowest = 0;
        std::array<double, 4> least{}, most{};
        for (std::size_t k = 0; k < 4; ++k) {
            least[k] = 1e18;
            most[k] = -1e18;
            for (std::size_t i = 0; i < net_.size(); ++i) {
                least[k] = std::min(least[k], x[k][i] - net_.width[i] / 2);
                most[k] = std::max(most[k], x[k][i] + net_.width[i] / 2);
            }
            if (most[k] - least[k] < most[narrowest] - least[narrowest])
                narrowest = k;
        }
        std::vector<double> out(net_.size());
        for (std::size_t k = 0; k < 4; ++k) {
            const double shift = (k & 2) != 0 ? most[narrowest] - most[k] : least[narrowest] - least[k];
            for (double& each : x[k])
                each += shift;
        }
        for (std::size_t i = 0; i < net_.size(); ++i) {
            std::array<double, 4> four{x[0][i], x[1][i], x[2][i], x[3][i]};
            std::sort(four.begin(), four.end());
            out[i] = (four[1] + four[2]) / 2;
        }
        return out;
    }

private:
    /// Lines that cross a long one do not bend it.
    void markConflicts() {
        conflict_.resize(net_.size());
        for (std::size_t l = 0; l + 1 < net_.layers.size(); ++l) {
            const auto &above = net_.layers[l], &below = net_.layers[l + 1];
            std::size_t from = 0, k = 0;
            for (std::size_t i = 0; i < below.size(); ++i) {
                const Index node = below[i];
                const bool inner =
                    net_.dummy[node] && !net_.up[node].empty() && net_.dummy[net_.up[node][0].node];
                if (!inner && i + 1 < below.size())
                    continue;
                const std::size_t to = inner ? net_.place[net_.up[node][0].node] : above.size() - 1;
                for (; k <= i; ++k)
                    for (const auto& up : net_.up[below[k]])
                        if (net_.place[up.node] < from || net_.place[up.node] > to)
                            conflict_[below[k]].push_back(up.node);
                from = to;
            }
        }
    }
    bool conflicts(Index upper, Index lower) const {
        const auto& all = conflict_[lower];
        return std::find(all.begin(), all.end(), upper) != all.end();
    }

    std::vector<double> placed(bool fromBelow, bool fromRight) {
        const std::size_t n = net_.size();
        std::vector<Index> root(n), align(n);
        std::iota(root.begin(), root.end(), Index{0});
        std::iota(align.begin(), align.end(), Index{0});
        const std::size_t count = net_.layers.size();
        std::vector<std::pair<std::size_t, Index>> near;
        for (std::size_t step = 1; step < count; ++step) {
            const std::size_t l = fromBelow ? count - 1 - step : step;
            const auto& layer = net_.layers[l];
            std::ptrdiff_t passed = -1;
            const std::size_t width = net_.layers[fromBelow ? l + 1 : l - 1].size();
            for (std::size_t i = 0; i < layer.size(); ++i) {
                const Index v = layer[fromRight ? layer.size() - 1 - i : i];
                near.clear();
                for (const auto& to : fromBelow ? net_.down[v] : net_.up[v])
                    near.emplace_back(fromRight ? width - 1 - net_.place[to.node] : net_.place[to.node],
                                      to.node);
                if (near.empty())
                    continue;
                std::sort(near.begin(), near.end());
                const std::size_t low = (near.size() - 1) / 2, high = near.size() / 2;
                for (std::size_t m = low; m <= high; ++m) {
                    if (align[v] != v)
                        break;
                    const auto [place, u] = near[m];
                    const bool free = fromBelow ? !conflicts(v, u) : !conflicts(u, v);
                    if (free && static_cast<std::ptrdiff_t>(place) > passed) {
                        align[u] = v;
                        root[v] = root[u];
                        align[v] = root[v];
                        passed = static_cast<std::ptrdiff_t>(place);
                    }
                }
            }
        }
        return compacted(root, fromRight);
    }

    /// Blocks as near to one side as their order lets them: longest ways in the graph of who
    /// stands beside whom.
    std::vector<double> compacted(const std::vector<Index>& root, bool fromRight) {
        const std::size_t n = net_.size();
        std::vector<std::vector<std::pair<Index, double>>> after(n);
        std::vector<int> waits(n, 0);
        for (const auto& layer : net_.layers)
            for (std::size_t i = 0; i + 1 < layer.size(); ++i) {
                const Index u = fromRight ? layer[layer.size() - 1 - i] : layer[i],
                            v = fromRight ? layer[layer.size() - 2 - i] : layer[i + 1];
                const double apart =
                    (net_.width[u] + net_.width[v]) / 2 + (net_.dummy[u] && net_.dummy[v]   ? 10
                                                           : net_.dummy[u] || net_.dummy[v] ? 14
                                                                                            : gap_);
                after[root[u]].emplace_back(root[v], apart);
                ++waits[root[v]];
            }
        std::vector<double> x(n, 0);
        std::vector<Index> ready;
        for (Index i = 0; i < n; ++i)
            if (root[i] == i && waits[i] == 0)
                ready.push_back(i);
        std::vector<Index> order;
        while (!ready.empty()) {
            const Index u = ready.back();
            ready.pop_back();
            order.push_back(u);
            for (const auto& [v, apart] : after[u]) {
                x[v] = std::max(x[v], x[u] + apart);
                if (--waits[v] == 0)
                    ready.push_back(v);
            }
        }
        // What hangs loose on the far side comes as near to its neighbours as they let it.
        std::vector<double> slack(n, 1e18);
        for (std::size_t k = order.size(); k-- > 0;) {
            const Index u = order[k];
            for (const auto& [v, apart] : after[u])
                slack[u] = std::min(slack[u], x[v] - apart - x[u]);
        }
        std::vector<bool> hasBefore(n, false);
        for (const auto& each : after)
            for (const auto& next : each)
                hasBefore[next.first] = true;
        for (std::size_t k = order.size(); k-- > 0;) {
            const Index u = order[k];
            if (!hasBefore[u] && slack[u] < 1e17 && slack[u] > 0)
                x[u] += slack[u];
        }
        std::vector<double> out(n);
        for (std::size_t i = 0; i < n; ++i)
            out[i] = fromRight ? -x[root[i]] : x[root[i]];
        return out;
    }

    const Net& net_;
    double gap_;
    std::vector<std::vector<Index>> conflict_; ///< of each node: upper neighbours
};

} // namespace

Layered inLayers(const Layering& in) {
    Layered out;
    if (in.sizes.empty())
        return out;
    Net net = netOf(in);
    firstOrder(net);
    const auto settle = [&] {
        if (in.ordered)
            inOrder(net);
        transpose(net, in.ordered ? 12 : 3, in.ordered);
    };
    if (in.ordered)
        settle();
    auto best = net.layers;
    std::size_t fewest = crossings(net);
    int idle = 0;
    for (int i = 0; i < in.sweeps && fewest > 0 && idle < 4 && (!in.wanted || *in.wanted); ++i) {
        sweep(net, i % 2 == 0, i % 4 >= 2);
        settle();
        const std::size_t now = crossings(net);
        ++idle;
        if (now < fewest) {
            fewest = now;
            best = net.layers;
            idle = 0;
        }
    }
    net.layers = best;
    for (std::size_t i = 0; i < net.layers.size(); ++i)
        net.number(i);
    out.crossings = fewest;
    const std::vector<double> middle = Placing(net, in.gap).middles();

    // Layers as high as their highest; more room where many lines go far sideways.
    std::vector<double> top(net.layers.size()), high(net.layers.size());
    for (Index i = 0; i < in.sizes.size(); ++i)
        high[static_cast<std::size_t>(in.layer[i])] =
            std::max(high[static_cast<std::size_t>(in.layer[i])], in.sizes[i].y);
    double y = 0;
    for (std::size_t l = 0; l < net.layers.size(); ++l) {
        top[l] = y;
        double far = 0;
        for (const Index node : net.layers[l])
            for (const auto& to : net.down[node])
                far = std::max(far, std::abs(middle[to.node] - middle[node]));
        y += high[l] + std::clamp(far * 0.18, 64.0, 420.0);
        if (l + 1 == net.layers.size())
            out.size.y = top[l] + high[l];
    }
    double least = 1e18, most = -1e18;
    for (std::size_t i = 0; i < net.size(); ++i) {
        least = std::min(least, middle[i] - net.width[i] / 2);
        most = std::max(most, middle[i] + net.width[i] / 2);
    }
    out.size.x = most - least;
    for (Index i = 0; i < in.sizes.size(); ++i) {
        const auto l = static_cast<std::size_t>(in.layer[i]);
        out.at.push_back({middle[i] - in.sizes[i].x / 2 - least, top[l] + (high[l] - in.sizes[i].y) / 2});
    }
    for (std::size_t i = 0; i < in.lines.size(); ++i) {
        std::vector<PointF> bends;
        const bool downwards = in.layer[in.lines[i].a] < in.layer[in.lines[i].b];
        for (const Index dummy : net.chain[i]) {
            const auto l = static_cast<std::size_t>(net.layer[dummy]);
            const PointF over{middle[dummy] - least, top[l]}, under{middle[dummy] - least, top[l] + high[l]};
            bends.push_back(downwards ? over : under);
            bends.push_back(downwards ? under : over);
        }
        out.bends.push_back(std::move(bends));
    }
    return out;
}

std::vector<int> layersFrom(std::size_t count, const std::vector<Layering::Line>& lines,
                            const std::vector<Index>& roots) {
    std::vector<std::vector<Index>> near(count);
    for (const auto& line : lines) {
        near[line.a].push_back(line.b);
        near[line.b].push_back(line.a);
    }
    std::vector<Index> order = roots, rank(count, none);
    for (std::size_t i = 0; i < order.size(); ++i)
        rank[order[i]] = static_cast<Index>(i);
    for (std::size_t i = 0, next = 0; order.size() < count || i < order.size(); ++i) {
        if (i == order.size()) { // another part
            while (rank[next] != none)
                ++next;
            rank[next] = static_cast<Index>(order.size());
            order.push_back(static_cast<Index>(next));
        }
        for (const Index to : near[order[i]])
            if (rank[to] == none) {
                rank[to] = static_cast<Index>(order.size());
                order.push_back(to);
            }
    }
    std::vector<int> layer(count, 0);
    for (const Index node : order)
        for (const Index to : near[node])
            if (rank[to] < rank[node])
                layer[node] = std::max(layer[node], layer[to] + 1);
    return layer;
}

} // namespace underridge::layout
