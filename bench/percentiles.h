// SPDX-License-Identifier: GPL-3.0-or-later
// Times single acts and reports their percentiles as counters, in milliseconds.
#pragma once
#include <algorithm>
#include <benchmark/benchmark.h>
#include <chrono>
#include <vector>

namespace underridge::bench {

class Percentiles {
public:
    /// Times one act and adds it to the state's measured time.
    template <class Act>
    void time(benchmark::State& state, Act&& act) {
        const auto start = std::chrono::steady_clock::now();
        act();
        const std::chrono::duration<double> took = std::chrono::steady_clock::now() - start;
        state.SetIterationTime(took.count());
        add(took.count() * 1000);
    }
    void add(double ms) { ms_.push_back(ms); }

    double at(double share) {
        if (ms_.empty())
            return 0;
        std::sort(ms_.begin(), ms_.end());
        return ms_[std::min(ms_.size() - 1,
                            static_cast<std::size_t>(share * static_cast<double>(ms_.size())))];
    }

    void report(benchmark::State& state) {
        state.counters["p50_ms"] = at(0.50);
        state.counters["p95_ms"] = at(0.95);
        state.counters["p99_ms"] = at(0.99);
    }

private:
    std::vector<double> ms_;
};

} // namespace underridge::bench
