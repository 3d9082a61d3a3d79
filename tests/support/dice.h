// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers at random, but the same for a seed.
#pragma once
#include <random>

namespace underridge::tests {

class Dice {
public:
    explicit Dice(unsigned seed) : random_(seed) {}
    /// From 0 to n − 1.
    int below(int n) { return static_cast<int>(random_() % static_cast<unsigned>(n)); }
    double between(double from, double to) {
        return from + (to - from) * static_cast<double>(random_()) / static_cast<double>(std::mt19937::max());
    }

private:
    std::mt19937 random_;
};

} // namespace underridge::tests
