// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/json_view.h"

#include "core/base/text.h"

#include <bit>
#include <charconv>
#include <cstring>
#include <fmt/format.h>
#include <nlohmann/json.hpp>
#include <simdjson.h>

namespace underridge::exchange {
namespace ondemand = simdjson::ondemand;

namespace {

bool isBlank(char c) {
    return c == ' ' || c == '\t' || c == '\r' || c == '\n';
}

std::string_view trimmedToken(std::string_view token) {
    while (!token.empty() && isBlank(token.back()))
        token.remove_suffix(1);
    return token;
}

std::size_t digitsAt(std::string_view token, std::size_t at) {
    std::size_t n = 0;
    while (at + n < token.size() && token[at + n] >= '0' && token[at + n] <= '9')
        ++n;
    return n;
}

/// RFC 8259, section 6. The parser would refuse numbers that no double holds; they are
/// numbers all the same.
bool isNumber(std::string_view token) {
    std::size_t at = token.starts_with('-') ? 1 : 0;
    const std::size_t whole = digitsAt(token, at);
    if (whole == 0 || (whole > 1 && token[at] == '0'))
        return false;
    at += whole;
    if (at < token.size() && token[at] == '.') {
        const std::size_t fraction = digitsAt(token, ++at);
        if (fraction == 0)
            return false;
        at += fraction;
    }
    if (at < token.size() && (token[at] == 'e' || token[at] == 'E')) {
        ++at;
        if (at < token.size() && (token[at] == '+' || token[at] == '-'))
            ++at;
        const std::size_t exponent = digitsAt(token, at);
        if (exponent == 0)
            return false;
        at += exponent;
    }
    return at == token.size();
}

/// The first of the two from an index on, or an index past the text. Eight bytes at a
/// time: a byte of `word ^ eight` is zero where it is the one looked for, and only then
/// borrows from its high bit (H. S. Warren, Hacker's Delight, 2nd ed., 6-1), the lowest
/// for certain. REQUIRES: eight bytes past the text may be read.
std::size_t quoteOrBackslash(std::string_view text, std::size_t from) {
    if constexpr (std::endian::native != std::endian::little)
        return std::min(text.find_first_of("\"\\", from), text.size());
    constexpr std::uint64_t ones = 0x0101010101010101, highs = 0x8080808080808080;
    const auto zeros = [](std::uint64_t word) { return (word - ones) & ~word & highs; };
    for (std::size_t at = from; at < text.size(); at += sizeof(std::uint64_t)) {
        std::uint64_t word = 0;
        std::memcpy(&word, text.data() + at, sizeof word);
        if (const std::uint64_t found = zeros(word ^ (ones * '"')) | zeros(word ^ (ones * '\\')))
            return at + static_cast<std::size_t>(std::countr_zero(found)) / 8;
    }
    return text.size();
}

} // namespace

struct JsonReader::Parser {
    ondemand::parser parser;
};

/// Follows the parser through a text and notes every value.
class JsonFollower {
public:
    JsonFollower(JsonView::Held& held, int mostDepth) : held_(held), mostDepth_(mostDepth) {}

    std::optional<JsonFault> run(ondemand::parser& parser) {
        held_.nodes.clear();
        ondemand::document document;
        if (parser
                .iterate(held_.text.data(), held_.text.size(), held_.text.size() + simdjson::SIMDJSON_PADDING)
                .get(document))
            refuse(firstBadByte());
        else
            readRoot(document);
        if (fault_ && !tooDeep_)
            fault_->offset = placeOfFault().value_or(fault_->offset > 0 ? fault_->offset : firstBadByte());
        return std::move(fault_);
    }

private:
    using Kind = JsonView::Kind;

    /// The parser tells early that something is wrong, not where: another one that goes
    /// byte by byte does.
    std::optional<std::size_t> placeOfFault() const {
        struct Place : nlohmann::detail::json_sax_acceptor<nlohmann::json> {
            std::size_t after = 0;
            bool parse_error(std::size_t position, const std::string&, const nlohmann::detail::exception&) {
                after = position;
                return false;
            }
        } place;
        if (nlohmann::json::sax_parse(held_.text.begin(), held_.text.end(), &place))
            return std::nullopt;
        return place.after > 0 ? place.after - 1 : 0;
    }

    bool refuse(std::size_t offset, std::string what = "the text is not JSON from here on") {
        if (!fault_)
            fault_ = JsonFault{std::min(offset, held_.text.size()), std::move(what)};
        return false;
    }
    /// What the parser does not even begin with: bytes that are not UTF-8, control
    /// characters in a text.
    std::size_t firstBadByte() const {
        std::size_t bad = held_.text.size();
        forEachCodePoint(held_.text, [&](char32_t c, std::size_t offset) {
            if (bad == held_.text.size() &&
                ((c == 0xFFFD && held_.text.substr(offset, 3) != "\xEF\xBF\xBD") ||
                 (c < 0x20 && c != '\t' && c != '\r' && c != '\n')))
                bad = offset;
        });
        return bad == held_.text.size() ? 0 : bad;
    }
    std::size_t offsetOf(const char* at) const { return static_cast<std::size_t>(at - held_.text.data()); }

    std::size_t add(Kind kind, std::size_t start) {
        JsonView::Node node;
        node.start = static_cast<std::uint32_t>(start);
        node.kind = kind;
        held_.nodes.push_back(node);
        return held_.nodes.size() - 1;
    }
    void close(std::size_t at, std::size_t end, std::size_t count) {
        JsonView::Node& node = held_.nodes[at];
        node.end = static_cast<std::uint32_t>(end);
        node.after = static_cast<std::uint32_t>(held_.nodes.size());
        node.count = static_cast<std::uint32_t>(count) & ((1U << 29) - 1);
        last_ = end;
    }

    bool readRoot(ondemand::document& document) {
        ondemand::json_type type;
        if (document.type().get(type))
            return refuse(last_);
        bool good = false;
        if (type == ondemand::json_type::object) {
            ondemand::object object;
            good = !document.get_object().get(object) && readObject(object, start(), 1);
        } else if (type == ondemand::json_type::array) {
            ondemand::array array;
            good = !document.get_array().get(array) && readArray(array, start(), 1);
        } else {
            std::string_view token;
            good = !document.raw_json_token().get(token) && readScalar(token);
        }
        if (!good)
            return refuse(last_);
        // Nothing may follow.
        const std::size_t rest = pastBlanks(last_);
        return rest == held_.text.size() || refuse(rest);
    }

    /// Where the next value begins, after what has been read: behind blanks, commas and
    /// colons.
    std::size_t start() const {
        std::size_t at = last_;
        while (at < held_.text.size() &&
               (isBlank(held_.text[at]) || held_.text[at] == ',' || held_.text[at] == ':'))
            ++at;
        return at;
    }
    std::size_t pastBlanks(std::size_t at) const {
        while (at < held_.text.size() && isBlank(held_.text[at]))
            ++at;
        return at;
    }

    bool readValue(ondemand::value value, int depth) {
        ondemand::json_type type;
        const std::size_t at = start();
        if (value.type().get(type))
            return refuse(at);
        if (type == ondemand::json_type::object || type == ondemand::json_type::array) {
            if (depth > mostDepth_) {
                tooDeep_ = true;
                return refuse(at, fmt::format("values are nested more than {} deep", mostDepth_));
            }
            if (type == ondemand::json_type::object) {
                ondemand::object object;
                return value.get_object().get(object) ? refuse(at) : readObject(object, at, depth);
            }
            ondemand::array array;
            return value.get_array().get(array) ? refuse(at) : readArray(array, at, depth);
        }
        return readScalar(value.raw_json_token());
    }

    bool readScalar(std::string_view token) {
        const std::size_t at = offsetOf(token.data());
        if (token.starts_with('"'))
            return readText(at);
        token = trimmedToken(token);
        const Kind kind = token == "true" || token == "false" ? Kind::boolean
                          : token == "null"                   ? Kind::null
                          : isNumber(token)                   ? Kind::number
                                                              : Kind::nothing;
        if (kind == Kind::nothing)
            return refuse(at);
        close(add(kind, at), at + token.size(), 0);
        return true;
    }

    /// A text from its quote on, with escapes that mean something (RFC 8259, section 7).
    /// Its bytes and control characters the parser has looked at.
    bool readText(std::size_t quote) {
        const std::string_view text = held_.text;
        bool escaped = false;
        std::size_t i = quote + 1;
        for (;; ++i) {
            i = quoteOrBackslash(text, i);
            if (i >= text.size() || text[i] == '"')
                break;
            escaped = true;
            const char next = i + 1 < text.size() ? text[++i] : '\0';
            if (next == 'u') {
                for (int digit = 0; digit < 4; ++digit)
                    if (++i >= text.size() || !std::isxdigit(static_cast<unsigned char>(text[i])))
                        return refuse(quote);
            } else if (next == '\0' || std::string_view("\"\\/bfnrt").find(next) == std::string_view::npos) {
                return refuse(quote);
            }
        }
        if (i >= text.size())
            return refuse(quote);
        close(add(Kind::text, quote), i + 1, escaped);
        return true;
    }

    bool readObject(ondemand::object object, std::size_t at, int depth) {
        const std::size_t node = add(Kind::object, at);
        last_ = at + 1;
        std::size_t count = 0;
        for (auto member : object) {
            ondemand::field field;
            if (std::move(member).get(field))
                return refuse(last_);
            if (!readText(offsetOf(field.key().raw()) - 1))
                return false;
            if (!readValue(field.value(), depth + 1))
                return false;
            ++count;
        }
        return finish(node, '}', count);
    }

    bool readArray(ondemand::array array, std::size_t at, int depth) {
        const std::size_t node = add(Kind::array, at);
        last_ = at + 1;
        std::size_t count = 0;
        for (auto element : array) {
            ondemand::value value;
            if (std::move(element).get(value))
                return refuse(last_);
            if (!readValue(value, depth + 1))
                return false;
            ++count;
        }
        return finish(node, ']', count);
    }

    bool finish(std::size_t node, char bracket, std::size_t count) {
        const std::size_t end = pastBlanks(last_);
        if (end == held_.text.size() || held_.text[end] != bracket)
            return refuse(last_);
        close(node, end + 1, count);
        return true;
    }

    JsonView::Held& held_;
    int mostDepth_;
    std::size_t last_ = 0; ///< end of what has been read
    bool tooDeep_ = false;
    std::optional<JsonFault> fault_;
};

JsonReader::JsonReader(int mostDepth)
    : mostDepth_(mostDepth), parser_(std::make_unique<Parser>()), held_(std::make_unique<JsonView::Held>()) {
    static_assert(padding >= simdjson::SIMDJSON_PADDING);
}

JsonReader::~JsonReader() = default;

std::optional<JsonFault> JsonReader::read(std::string_view text) {
    held_->text = text;
    if (text.size() > UINT32_MAX - padding)
        return JsonFault{0, "the text is larger than 4 GB"};
    return JsonFollower(*held_, mostDepth_).run(parser_->parser);
}

JsonView JsonReader::root() const {
    return {held_.get(), 0};
}

Result<JsonText> JsonText::parse(std::string text, const std::string& file, int mostDepth) {
    text.reserve(text.size() + JsonReader::padding);
    JsonText out;
    auto kept = std::make_shared<std::string>(std::move(text));
    JsonReader reader(mostDepth);
    if (const auto fault = reader.read(*kept))
        return error(fault->what, "correct it or restore the file", Lines(*kept).at(file, fault->offset));
    out.text_ = std::move(kept);
    out.held_ = std::move(reader.held_);
    return out;
}

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
