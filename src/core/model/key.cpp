// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/key.h"

#include <array>

namespace underridge::model {
namespace {
constexpr std::string_view alphabet = "0123456789abcdefghjkmnpqrstvwxyz";
constexpr int characters = idBits / 5;
constexpr std::uint8_t none = 0x80; ///< no letter of the alphabet
} // namespace

std::string idText(std::uint64_t id) {
    std::string text(characters, '0');
    for (int i = characters - 1; i >= 0; --i, id >>= 5)
        text[static_cast<std::size_t>(i)] = alphabet[id & 31];
    return text;
}

std::optional<std::uint64_t> idFromText(std::string_view text) {
    if (text.size() != characters)
        return std::nullopt;
    static constexpr std::array<std::uint8_t, 256> values = [] {
        std::array<std::uint8_t, 256> out{};
        out.fill(none);
        for (std::size_t i = 0; i < alphabet.size(); ++i)
            out[static_cast<unsigned char>(alphabet[i])] = static_cast<std::uint8_t>(i);
        return out;
    }();
    std::uint64_t id = 0;
    std::uint8_t strange = 0;
    for (const char c : text) {
        const std::uint8_t value = values[static_cast<unsigned char>(c)];
        strange |= value;
        id = (id << 5) | value;
    }
    if (strange & none || id == 0)
        return std::nullopt;
    return id;
}

std::uint64_t IdSource::next() {
    for (;;)
        if (const std::uint64_t id = engine_() >> (64 - idBits); id != 0)
            return id;
}

std::uint64_t seedFromSystem() {
    std::random_device device;
    return (std::uint64_t{device()} << 32) | device();
}

} // namespace underridge::model
