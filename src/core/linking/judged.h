// SPDX-License-Identifier: GPL-3.0-or-later
// What the parts of judging share: a channel between two ends that are known, and words
// for it.
#pragma once
#include "core/linking/judging.h"

#include <fmt/format.h>

namespace underridge::linking {

class Judged {
public:
    /// `speed`: it comes up at, Mbit/s; 0: nothing is known.
    Judged(const model::Network& network, const Channel& channel, Say say, int speed = 0)
        : network_(network),
          channel_(channel),
          a_(channel.port(0)),
          b_(channel.port(1)),
          say_(say),
          speed_(speed) {}

protected:
    const ChannelEnd& end(int which) const { return channel_.ends[static_cast<std::size_t>(which)]; }
    const model::PortRef& ref(int which) const { return end(which).at; }
    std::string at(int which) const { return portText(network_, ref(which)); }
    std::string both() const { return fmt::format("{} to {}", at(0), at(1)); }
    const model::CableType* firstType() const {
        return channel_.parts.empty() ? nullptr : channel_.parts.front().type;
    }
    /// Whether somebody set its speed.
    bool isSet(int which) const {
        const model::Port* record = channel_.port(which).record;
        return record && record->speed > 0;
    }

    const model::Network& network_;
    const Channel& channel_;
    const model::PortView &a_, &b_;
    Say say_;
    int speed_;
};

inline std::string metres(std::int64_t mm) {
    constexpr std::int64_t far = 10'000'000; // is told in kilometres
    return mm >= far ? fmt::format("{:g} km", static_cast<double>(mm) / 1e6)
                     : fmt::format("{:g} m", static_cast<double>(mm) / 1000);
}
/// Cable and transceivers in one piece: direct-attach, active optical.
inline bool isAssembly(const model::CableType& type) {
    return type.medium == model::Medium::directAttach || type.medium == model::Medium::activeOptical;
}
inline bool isEmptyCage(const model::PortView& port) {
    return port.like->cage != model::Cage::none && !port.transceiver;
}
inline Remedy words(std::string text) {
    return {Remedy::Kind::none, std::move(text), {}, {}, {}, {}};
}
inline Remedy atPort(Remedy::Kind kind, std::string text, const model::PortRef& port) {
    return {kind, std::move(text), {}, port, {}, {}};
}

/// Duplex, clock, error correction.
void judgeSettings(const model::Network& network, const Channel& channel, int speed, Say say);
/// Cables that are not fibre: their lengths and how they are wired.
void judgeWires(const model::Network& network, const Channel& channel, int speed, Say say);

} // namespace underridge::linking
