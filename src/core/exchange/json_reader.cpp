// SPDX-License-Identifier: GPL-3.0-or-later
// Taking a JSON text apart: the parser finds the values, here they are noted, checked
// where the parser is lenient, and faults are given a place.
#include "core/base/text.h"
#include "core/exchange/json_view.h"

#include <bit>
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
bool isJsonNumber(std::string_view token) {
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
                          : isJsonNumber(token)               ? Kind::number
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

} // namespace underridge::exchange
