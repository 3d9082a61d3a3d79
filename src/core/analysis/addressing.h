// SPDX-License-Identifier: GPL-3.0-or-later
// Who has which address, and who answers for it.
#pragma once
#include "core/analysis/bridging.h"
#include "core/analysis/prefix.h"

#include <map>
#include <span>

namespace underridge::analysis {

/// One address of an interface.
struct Held {
    int interface = -1; ///< index in Bridging
    Prefix subnet;
    bool shared = false; ///< a VRRP address, held while it is the best of its group

    bool operator==(const Held&) const = default;
};

class Addressing {
public:
    explicit Addressing(const Bridging& bridging);
    /// After frames have come to go other ways: the addresses are the same.
    Addressing(const Addressing& before, const Bridging& bridging);

    /// Interfaces that have an address, up or not; shared ones only where they stand for it.
    std::span<const Held> holders(const Ip& ip) const;
    /// Those that answer an interface asking for an address (ARP, RFC 826; neighbour
    /// discovery, RFC 4861): both directions carry. Several: it is chance which.
    std::vector<int> answering(int asking, const Ip& ip) const;
    /// Whether the same stand for the addresses VRRP is about.
    bool sharesAlike(const Addressing& other) const { return shared_ == other.shared_; }
    /// Calls `each(ip, std::span<const Held>)` for every address, in no order.
    template <class Each>
    void forEach(Each&& each) const {
        const auto& ips = stated_->ips;
        for (std::size_t i = 0, end = 0; i < ips.size(); i = end) {
            while (end < ips.size() && ips[end] == ips[i])
                ++end;
            if (!shared_.contains(ips[i]))
                each(ips[i], std::span(stated_->held).subspan(i, end - i));
        }
        for (const auto& [ip, held] : shared_)
            each(ip, std::span<const Held>(held));
    }

private:
    struct Backing {
        int interface;
        const model::Vrrp* vrrp;
    };
    struct Stated {
        explicit Stated(const Bridging& bridging);
        std::vector<Ip> ips;    ///< ascending
        std::vector<Held> held; ///< of each of `ips`, those of one in the order of interfaces
        std::map<std::pair<int, Ip>, std::vector<Backing>> groups; ///< VRRP: by number and address
    };
    void decideShared();

    const Bridging& bridging_;
    std::shared_ptr<const Stated> stated_;
    std::map<Ip, std::vector<Held>> shared_; ///< all holders of addresses that VRRP is about
};

/// The router id of a station: what is said, else the highest address of version 4 of its
/// loopbacks, else of all its interfaces; 0: it has none.
std::uint32_t routerIdOf(const Bridging& bridging, int station, const std::string& said);

} // namespace underridge::analysis
