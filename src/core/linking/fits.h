// SPDX-License-Identifier: GPL-3.0-or-later
// What fits what, found out once for ports that are alike: a network has many ports and
// few kinds of them.
#pragma once
#include "core/linking/fit.h"

#include <map>
#include <shared_mutex>

namespace underridge::linking {

/// Lives no longer than the network value the ports are of, and the catalogue; may be asked
/// from several threads.
class Fits {
public:
    explicit Fits(const model::Catalogue& catalogue) : catalogue_(catalogue) {}

    /// As fit(a, b). The answer stays where it is.
    const Fit& of(const model::PortView& a, const model::PortView& b);
    const model::Catalogue& catalogue() const { return catalogue_; }

private:
    /// All that fit() regards of a port.
    struct Look {
        const model::PortBlock* like;
        const model::TransceiverModel* transceiver;
        int lanes, speed;
        bool learned;

        auto operator<=>(const Look&) const = default;
    };
    static Look lookOf(const model::PortView& port);

    const model::Catalogue& catalogue_;
    std::map<std::pair<Look, Look>, Fit> known_;
    std::shared_mutex mutex_;
};

} // namespace underridge::linking
