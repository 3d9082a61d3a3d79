// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/key.h"

namespace underridge::model {
namespace {
constexpr std::string_view alphabet = "0123456789abcdefghjkmnpqrstvwxyz";
constexpr int characters = idBits / 5;
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
    std::uint64_t id = 0;
    for (const char c : text) {
        const auto at = alphabet.find(c);
        if (at == std::string_view::npos)
            return std::nullopt;
        id = (id << 5) | at;
    }
    if (id == 0)
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
