// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/address.h"

#include <algorithm>
#include <arpa/inet.h>
#include <charconv>

namespace underridge::model {
namespace {

int bitsOf(int version) {
    return version == 4 ? 32 : 128;
}

} // namespace

Address::Address(std::string text) : text_(std::move(text)) {
    const auto slash = text_.find('/');
    const std::string host = text_.substr(0, slash);
    const int version = inet_pton(AF_INET, host.c_str(), bytes_.data()) == 1    ? 4
                        : inet_pton(AF_INET6, host.c_str(), bytes_.data()) == 1 ? 6
                                                                                : 0;
    if (version == 0 || host.find('\0') != std::string::npos)
        return;
    if (slash != std::string::npos) {
        const char *from = text_.data() + slash + 1, *end = text_.data() + text_.size();
        unsigned length = 0;
        const auto [at, fault] = std::from_chars(from, end, length);
        if (fault != std::errc{} || at != end || end - from > 3 ||
            length > static_cast<unsigned>(bitsOf(version)))
            return;
        length_ = static_cast<std::int16_t>(length);
    }
    version_ = static_cast<std::int8_t>(version);
}

Address Address::network() const {
    if (!valid() || length_ < 0)
        return {};
    std::array<std::uint8_t, 16> bytes = bytes_;
    for (int bit = length_; bit < bitsOf(version_); ++bit)
        bytes[static_cast<std::size_t>(bit / 8)] &= static_cast<std::uint8_t>(~(0x80 >> bit % 8));
    char out[INET6_ADDRSTRLEN];
    inet_ntop(version_ == 4 ? AF_INET : AF_INET6, bytes.data(), out, sizeof out);
    return std::string(out) + "/" + std::to_string(length_);
}

bool Address::contains(const Address& other) const {
    if (!valid() || version_ != other.version_)
        return false;
    const int bits = length_ < 0 ? bitsOf(version_) : length_;
    if (other.length_ >= 0 && other.length_ < bits)
        return false; // the other is the wider
    for (int bit = 0; bit < bits; ++bit)
        if ((bytes_[static_cast<std::size_t>(bit / 8)] ^ other.bytes_[static_cast<std::size_t>(bit / 8)]) &
            (0x80 >> bit % 8))
            return false;
    return true;
}

} // namespace underridge::model
