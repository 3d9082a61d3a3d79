// SPDX-License-Identifier: GPL-3.0-or-later
// Internet addresses and prefixes, taken apart once.
#pragma once
#include <array>
#include <cstdint>
#include <string>
#include <string_view>

namespace underridge::model {

/// An IPv4 or IPv6 address with or without a prefix length: 10.84.1.1/24, fd84:fe::1/64
/// (dotted decimal, RFC 4291 section 2.2). It keeps its writing, so that a file gives
/// back what was in it; what is no address is kept too and says so.
class Address {
public:
    Address() = default;
    Address(std::string text);                                     // NOLINT: a text is an address as written
    Address(const char* text) : Address(std::string(text)) {}      // NOLINT
    Address(std::string_view text) : Address(std::string(text)) {} // NOLINT

    const std::string& text() const { return text_; }
    bool empty() const { return text_.empty(); }
    bool valid() const { return version_ != 0; }
    /// 4 or 6; 0: the text is no address.
    int version() const { return version_; }
    /// The bits of the prefix; -1: none is given.
    int prefixLength() const { return length_; }
    /// In network order; four are used by version 4, the others are 0.
    const std::array<std::uint8_t, 16>& bytes() const { return bytes_; }

    /// The address without its length, as written: 10.84.1.1.
    std::string host() const { return text_.substr(0, text_.find('/')); }
    /// The prefix it is in, in RFC 5952 writing: 10.84.1.7/24 → 10.84.1.0/24. Not valid
    /// when it has no length.
    Address network() const;
    /// Whether another address lies in this prefix (an address without a length is a
    /// prefix of itself alone).
    bool contains(const Address& other) const;

    bool operator==(const Address& other) const { return text_ == other.text_; }

private:
    std::string text_;
    std::array<std::uint8_t, 16> bytes_{};
    std::int8_t version_ = 0;
    std::int16_t length_ = -1;
};

} // namespace underridge::model
