// SPDX-License-Identifier: GPL-3.0-or-later
// Addresses and prefixes as numbers, for tables with many of them.
#pragma once
#include "core/model/address.h"

#include <array>
#include <compare>

namespace underridge::analysis {

struct Ip {
    int version = 0; ///< 4 or 6; 0: none
    std::array<std::uint8_t, 16> bytes{};

    auto operator<=>(const Ip&) const = default;
    explicit operator bool() const { return version != 0; }
    int bits() const { return version == 4 ? 32 : 128; }
    /// 10.84.1.1, in RFC 5952 writing.
    std::string text() const;
};

struct Prefix {
    Ip base; ///< bits beyond the length are 0
    int length = 0;

    auto operator<=>(const Prefix&) const = default;
    bool contains(const Ip& ip) const;
    /// 10.84.1.0/24.
    std::string text() const;
};

/// Of an address, its length left aside; none when it is not valid.
Ip ipOf(const model::Address& address);
/// The prefix an address is in; one without a length is a prefix of itself alone.
Prefix prefixOf(const model::Address& address);
Prefix prefixOf(const Ip& ip, int length);

/// The 32 bits of one of version 4; 0 of others.
std::uint32_t numberOf(const Ip& ip);

/// The 48 bits of a MAC address, however its figures are parted; 0: it is none.
std::uint64_t macFrom(std::string_view text);

} // namespace underridge::analysis
