// SPDX-License-Identifier: GPL-3.0-or-later
// A value, or the remark that says why there is none. (std::expected is C++23.)
#pragma once
#include "core/base/remark.h"

#include <cassert>
#include <utility>
#include <variant>

namespace underridge {

struct Done {
    bool operator==(const Done&) const = default;
};

template <class T>
class [[nodiscard]] Result {
public:
    Result(T value) : held_(std::in_place_index<0>, std::move(value)) {}
    Result(Remark refusal) : held_(std::in_place_index<1>, std::move(refusal)) {}

    explicit operator bool() const { return held_.index() == 0; }

    /// REQUIRES: *this holds a value.
    T& operator*() & { return std::get<0>(held_); }
    const T& operator*() const& { return std::get<0>(held_); }
    T&& operator*() && { return std::get<0>(std::move(held_)); }
    T* operator->() { return &std::get<0>(held_); }
    const T* operator->() const { return &std::get<0>(held_); }

    /// REQUIRES: *this holds no value.
    const Remark& refusal() const { return std::get<1>(held_); }

private:
    std::variant<T, Remark> held_;
};

} // namespace underridge
