// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/json_view.h"

#include <charconv>
#include <nlohmann/json.hpp>

namespace underridge::exchange {

JsonView::Kind JsonView::kind() const {
    return held_ ? node().kind : Kind::nothing;
}

std::string_view JsonView::raw() const {
    return held_ ? held_->text.substr(node().start, node().end - node().start) : std::string_view();
}

std::string JsonView::compact() const {
    if (raw().find_first_of(" \n\r\t") == std::string_view::npos)
        return std::string(raw());
    std::string out;
    out.reserve(raw().size());
    bool quoted = false, escaped = false;
    for (const char c : raw()) {
        if (!quoted && (c == ' ' || c == '\n' || c == '\r' || c == '\t'))
            continue;
        out += c;
        if (escaped)
            escaped = false;
        else if (c == '\\')
            escaped = quoted;
        else if (c == '"')
            quoted = !quoted;
    }
    return out;
}

std::size_t JsonView::offset() const {
    return held_ ? node().start : 0;
}

std::size_t JsonView::size() const {
    return isObject() || isArray() ? node().count : 0;
}

namespace {

void appendUtf8(std::string& out, char32_t c) {
    if (c < 0x80) {
        out += static_cast<char>(c);
    } else if (c < 0x800) {
        out += static_cast<char>(0xC0 | (c >> 6));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else if (c < 0x10000) {
        out += static_cast<char>(0xE0 | (c >> 12));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    } else {
        out += static_cast<char>(0xF0 | (c >> 18));
        out += static_cast<char>(0x80 | ((c >> 12) & 0x3F));
        out += static_cast<char>(0x80 | ((c >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (c & 0x3F));
    }
}

char32_t hex4(std::string_view text, std::size_t at) {
    unsigned value = 0;
    std::from_chars(text.data() + at, text.data() + std::min(at + 4, text.size()), value, 16);
    return value;
}

/// What is between the quotes, escapes resolved. Half of a surrogate pair alone stands
/// for no character: U+FFFD.
std::string unescaped(std::string_view inside) {
    std::string out;
    out.reserve(inside.size());
    for (std::size_t i = 0; i < inside.size(); ++i) {
        if (inside[i] != '\\') {
            out += inside[i];
            continue;
        }
        const char c = inside[++i];
        if (c == 'u') {
            char32_t code = hex4(inside, i + 1);
            i += 4;
            if (code >= 0xD800 && code < 0xDC00 && inside.substr(i + 1, 2) == "\\u") {
                const char32_t low = hex4(inside, i + 3);
                if (low >= 0xDC00 && low < 0xE000) {
                    code = 0x10000 + ((code - 0xD800) << 10) + (low - 0xDC00);
                    i += 6;
                }
            }
            appendUtf8(out, code >= 0xD800 && code < 0xE000 ? char32_t{0xFFFD} : code);
        } else {
            constexpr std::string_view from = "bfnrt", to = "\b\f\n\r\t";
            const auto at = from.find(c);
            out += at == std::string_view::npos ? c : to[at];
        }
    }
    return out;
}

template <class Number>
std::optional<Number> parsed(std::string_view token) {
    Number value{};
    const auto [end, code] = std::from_chars(token.data(), token.data() + token.size(), value);
    return code == std::errc() && end == token.data() + token.size() ? std::optional(value) : std::nullopt;
}

} // namespace

std::string JsonView::text() const {
    std::string scratch;
    const std::string_view found = text(scratch);
    return scratch.empty() ? std::string(found) : scratch;
}

std::string_view JsonView::text(std::string& scratch) const {
    return isText() ? textAt(at_, scratch) : std::string_view();
}

bool JsonView::isText(std::string_view other) const {
    std::string scratch;
    return isText() && textAt(at_, scratch) == other;
}

std::optional<bool> JsonView::boolean() const {
    return kind() == Kind::boolean ? std::optional(raw() == "true") : std::nullopt;
}

std::optional<std::uint64_t> JsonView::whole() const {
    return kind() == Kind::number ? parsed<std::uint64_t>(raw()) : std::nullopt;
}

std::optional<std::int64_t> JsonView::integer() const {
    return kind() == Kind::number ? parsed<std::int64_t>(raw()) : std::nullopt;
}

std::optional<double> JsonView::number() const {
    return kind() == Kind::number ? parsed<double>(raw()) : std::nullopt;
}

std::string_view JsonView::textAt(std::uint32_t at, std::string& scratch) const {
    const Node& text = held_->nodes[at];
    const std::string_view inside = held_->text.substr(text.start + 1, text.end - text.start - 2);
    if (text.count == 0)
        return inside;
    scratch = unescaped(inside);
    return scratch;
}

JsonView JsonView::operator[](std::string_view name) const {
    JsonView found;
    forEachMember([&](std::string_view member, JsonView value) {
        if (member == name)
            found = value;
    });
    return found;
}

JsonView JsonView::at(std::size_t index) const {
    JsonView found;
    if (isArray() && index < size()) {
        std::uint32_t at = first();
        for (; index > 0; --index)
            at = after(at);
        found = {held_, at};
    }
    return found;
}

std::string jsonText(std::string_view text) {
    const bool plain = std::all_of(text.begin(), text.end(), [](char c) {
        return c >= ' ' && c != '"' && c != '\\' && c != 0x7F; // ASCII that stands for itself
    });
    if (plain) {
        std::string out;
        out.reserve(text.size() + 2);
        return ((out += '"') += text) += '"';
    }
    return nlohmann::json(text).dump(-1, ' ', false, nlohmann::json::error_handler_t::replace);
}

JsonMembers::JsonMembers(JsonView object) {
    members_.reserve(object.size());
    object.forEachMember([&](std::string_view name, JsonView value) { set(name, value.compact()); });
}

std::size_t JsonMembers::indexOf(std::string_view name) const {
    if (!index_.empty()) {
        const auto at = index_.find(std::string(name));
        return at == index_.end() ? members_.size() : at->second;
    }
    const auto at = std::find_if(members_.begin(), members_.end(),
                                 [&](const auto& member) { return member.first == name; });
    return static_cast<std::size_t>(at - members_.begin());
}

void JsonMembers::set(std::string_view name, std::string value) {
    constexpr std::size_t few = 4, many = 32;
    if (const std::size_t at = indexOf(name); at < members_.size()) {
        members_[at].second = std::move(value);
        return;
    }
    if (members_.empty())
        members_.reserve(few);
    members_.emplace_back(name, std::move(value));
    if (!index_.empty())
        index_.emplace(name, members_.size() - 1);
    else if (members_.size() == many)
        for (std::size_t i = 0; i < many; ++i)
            index_.emplace(members_[i].first, i);
}

const std::string* JsonMembers::find(std::string_view name) const {
    const std::size_t at = indexOf(name);
    return at < members_.size() ? &members_[at].second : nullptr;
}

void JsonMembers::erase(std::string_view name) {
    const std::size_t at = indexOf(name);
    if (at == members_.size())
        return;
    members_.erase(members_.begin() + static_cast<std::ptrdiff_t>(at));
    index_.clear();
    const auto rest = std::move(members_);
    members_.clear();
    for (const auto& [held, value] : rest)
        set(held, value);
}

std::string JsonMembers::text() const {
    std::string out = "{";
    for (const auto& [name, value] : members_) {
        if (out.size() > 1)
            out += ',';
        out += jsonText(name);
        out += ':';
        out += value;
    }
    return out += '}';
}

} // namespace underridge::exchange
