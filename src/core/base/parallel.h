// SPDX-License-Identifier: GPL-3.0-or-later
// A few pieces of work side by side.
#pragma once
#include "core/base/function_ref.h"

#include <initializer_list>
#include <thread>
#include <vector>

namespace underridge {

/// Runs all pieces, the first on this thread and each other on one of its own; returns when all are done. For
/// pieces of some milliseconds and more. They must not throw.
inline void inParallel(std::initializer_list<FunctionRef<void()>> pieces) {
    std::vector<std::jthread> threads;
    for (auto piece = pieces.begin() + 1; piece < pieces.end(); ++piece)
        threads.emplace_back([piece] { (*piece)(); });
    (*pieces.begin())();
}

} // namespace underridge
