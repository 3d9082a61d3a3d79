// SPDX-License-Identifier: GPL-3.0-or-later
// A few pieces of work side by side.
#pragma once
#include "core/base/function_ref.h"

#include <algorithm>
#include <initializer_list>
#include <system_error>
#include <thread>
#include <vector>

namespace underridge {

/// Starts a thread for a piece; where the system gives no thread it is done here.
template <class Piece>
void startOrRun(std::vector<std::jthread>& threads, Piece piece) {
    try {
        threads.emplace_back(piece);
    } catch (const std::system_error&) {
        piece();
    }
}

/// Runs all pieces, the first on this thread and each other on one of its own; returns
/// when all are done. `much`: they take some milliseconds or more; else they are run one after
/// the other, which is done sooner than a thread begins where all cores have work. They must
/// not throw.
inline void inParallel(bool much, std::initializer_list<FunctionRef<void()>> pieces) {
    if (!much) {
        for (const auto& piece : pieces)
            piece();
        return;
    }
    std::vector<std::jthread> threads;
    for (auto piece = pieces.begin() + 1; piece < pieces.end(); ++piece)
        startOrRun(threads, *piece);
    (*pieces.begin())();
}

/// Calls `each` with 0 to `count` − 1, in runs side by side, as many as there are cores
/// and at most eight; a run has no fewer than `atLeast`, so that little work starts no
/// thread. Returns when all are done. `each` must not throw, and must bear being called
/// from several threads.
inline void forEachIndex(std::size_t count, std::size_t atLeast, FunctionRef<void(std::size_t)> each) {
    const std::size_t cores = std::clamp<std::size_t>(std::thread::hardware_concurrency(), 1, 8);
    const std::size_t runs = std::clamp<std::size_t>(count / std::max<std::size_t>(atLeast, 1), 1, cores);
    const auto run = [&](std::size_t which) {
        for (std::size_t i = count * which / runs; i < count * (which + 1) / runs; ++i)
            each(i);
    };
    std::vector<std::jthread> threads;
    for (std::size_t which = 1; which < runs; ++which)
        startOrRun(threads, [&run, which] { run(which); });
    run(0);
}

} // namespace underridge
