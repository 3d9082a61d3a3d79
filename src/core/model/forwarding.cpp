// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/forwarding.h"

#include <charconv>

namespace underridge::model {

std::optional<std::uint32_t> OspfArea::number() const {
    if (text_.find('.') != std::string::npos) {
        const Address dotted(text_);
        if (dotted.version() != 4 || dotted.prefixLength() >= 0)
            return std::nullopt;
        std::uint32_t number = 0;
        for (std::size_t i = 0; i < 4; ++i)
            number = number << 8 | dotted.bytes()[i];
        return number;
    }
    std::uint32_t number = 0;
    const char* end = text_.data() + text_.size();
    const auto [at, fault] = std::from_chars(text_.data(), end, number);
    if (text_.empty() || fault != std::errc{} || at != end)
        return std::nullopt;
    return number;
}

} // namespace underridge::model
