// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/prefix.h"

#include <arpa/inet.h>

namespace underridge::analysis {

std::string Ip::text() const {
    if (!version)
        return {};
    char out[INET6_ADDRSTRLEN];
    inet_ntop(version == 4 ? AF_INET : AF_INET6, bytes.data(), out, sizeof out);
    return out;
}

bool Prefix::contains(const Ip& ip) const {
    if (ip.version != base.version)
        return false;
    const auto whole = static_cast<std::size_t>(length / 8);
    for (std::size_t i = 0; i < whole; ++i)
        if (ip.bytes[i] != base.bytes[i])
            return false;
    if (length % 8 == 0)
        return true;
    const int mask = 0xff00 >> length % 8 & 0xff;
    return ((ip.bytes[whole] ^ base.bytes[whole]) & mask) == 0;
}

std::string Prefix::text() const {
    return base.text() + "/" + std::to_string(length);
}

Ip ipOf(const model::Address& address) {
    return address.valid() ? Ip{address.version(), address.bytes()} : Ip{};
}

Prefix prefixOf(const Ip& ip, int length) {
    Prefix out{ip, length};
    for (int bit = length; bit < ip.bits(); ++bit)
        out.base.bytes[static_cast<std::size_t>(bit / 8)] &= static_cast<std::uint8_t>(~(0x80 >> bit % 8));
    return out;
}

std::uint32_t numberOf(const Ip& ip) {
    std::uint32_t out = 0;
    for (std::size_t i = 0; i < 4; ++i)
        out = out << 8 | ip.bytes[i];
    return ip.version == 4 ? out : 0;
}

std::uint64_t macFrom(std::string_view text) {
    std::uint64_t value = 0;
    int digits = 0;
    for (const char c : text) {
        const int digit = c >= '0' && c <= '9'   ? c - '0'
                          : c >= 'a' && c <= 'f' ? c - 'a' + 10
                          : c >= 'A' && c <= 'F' ? c - 'A' + 10
                                                 : -1;
        if (digit < 0)
            continue;
        value = value << 4 | static_cast<std::uint64_t>(digit);
        ++digits;
    }
    return digits == 12 ? value : 0;
}

Prefix prefixOf(const model::Address& address) {
    const Ip ip = ipOf(address);
    return prefixOf(ip, address.prefixLength() < 0 ? ip.bits() : address.prefixLength());
}

} // namespace underridge::analysis
