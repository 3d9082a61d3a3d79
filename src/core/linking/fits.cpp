// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/fits.h"

#include <mutex>

namespace underridge::linking {
using namespace model;

Fits::Look Fits::lookOf(const PortView& port) {
    return {port.like, port.transceiver, port.lanes, port.record ? port.record->speed : 0, port.learned};
}

const Fit& Fits::of(const PortView& a, const PortView& b) {
    const std::pair key(lookOf(a), lookOf(b));
    {
        const std::shared_lock reading(mutex_);
        if (const auto at = known_.find(key); at != known_.end())
            return at->second;
    }
    Fit found = fit(a, b, catalogue_);
    const std::unique_lock writing(mutex_);
    return known_.emplace(key, std::move(found)).first->second;
}

} // namespace underridge::linking
