// SPDX-License-Identifier: GPL-3.0-or-later
// Which elements are one: union and find with path halving (Tarjan and van Leeuwen, 1984).
#pragma once
#include <cstddef>
#include <numeric>
#include <vector>

namespace underridge {

/// Elements 0 to count - 1, each by itself to begin with.
class DisjointSets {
public:
    explicit DisjointSets(std::size_t count) : parent_(count) {
        std::iota(parent_.begin(), parent_.end(), 0);
    }
    /// The element that stands for all that are one with this.
    int of(int element) {
        while (parent(element) != element)
            element = parent(element) = parent(parent(element));
        return element;
    }
    void join(int a, int b) { parent(of(a)) = of(b); }
    std::size_t count() const { return parent_.size(); }

private:
    int& parent(int element) { return parent_[static_cast<std::size_t>(element)]; }

    std::vector<int> parent_;
};

} // namespace underridge
