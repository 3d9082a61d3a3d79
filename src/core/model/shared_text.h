// SPDX-License-Identifier: GPL-3.0-or-later
// A text that many values share: copying it copies a pointer. For texts that are long (a
// start-up configuration) or mostly absent (fields of a file that this version does not
// know).
#pragma once
#include <memory>
#include <string>
#include <string_view>

namespace underridge::model {

class SharedText {
public:
    SharedText() = default;
    SharedText(std::string text)
        : text_(text.empty() ? nullptr : std::make_shared<const std::string>(std::move(text))) {}
    SharedText(const char* text) : SharedText(std::string(text)) {}

    std::string_view view() const { return text_ ? std::string_view(*text_) : std::string_view(); }
    std::string str() const { return std::string(view()); }
    bool empty() const { return !text_; }
    bool operator==(const SharedText& other) const { return text_ == other.text_ || view() == other.view(); }

private:
    std::shared_ptr<const std::string> text_;
};

} // namespace underridge::model
