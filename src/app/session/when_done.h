// SPDX-License-Identifier: GPL-3.0-or-later
// Who is told how a thing ended that takes its time.
#pragma once
#include <functional>
#include <type_traits>

namespace underridge::app {

/// Called with whether it was done. May be called when nobody wants to know.
class WhenDone {
public:
    WhenDone() = default;
    template <class Told>
    requires std::is_invocable_v<Told&, bool> WhenDone(Told told)
        : told_(std::move(told)) {} // any function will do

    void operator()(bool good) const {
        if (told_)
            told_(good);
    }
    /// For what was given up.
    std::function<void()> orNot() const {
        return [told = *this] { told(false); };
    }

private:
    std::function<void(bool)> told_;
};

} // namespace underridge::app
