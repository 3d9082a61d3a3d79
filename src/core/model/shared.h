// SPDX-License-Identifier: GPL-3.0-or-later
// Settings that few objects have: copying them copies a pointer, not having them costs one.
#pragma once
#include <memory>

namespace underridge::model {

/// A value that many records share; one that was never set reads as a default one.
template <class Value>
class Shared {
public:
    Shared() = default;
    Shared(Value value)
        : value_(value == Value{} ? nullptr : std::make_shared<const Value>(std::move(value))) {}

    const Value& operator*() const {
        static const Value standard{};
        return value_ ? *value_ : standard;
    }
    const Value* operator->() const { return &**this; }
    /// Whether anything differs from the default.
    explicit operator bool() const { return value_ != nullptr; }
    bool operator==(const Shared& other) const { return value_ == other.value_ || **this == *other; }

private:
    std::shared_ptr<const Value> value_;
};

} // namespace underridge::model
