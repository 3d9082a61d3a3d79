// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/find/filter.h"

#include "core/base/text.h"
#include "core/model/address.h"
#include "core/model/length.h"
#include "core/model/words.h"

#include <algorithm>
#include <charconv>
#include <fmt/format.h>
#include <optional>

namespace underridge::find {
using namespace model;
namespace {

constexpr std::size_t mostBytes = 10'000;
constexpr int mostDepth = 50;

constexpr std::array<FieldWord, 30> fieldWords{{
    {Field::name, "name", "its name", Takes::text},
    {Field::role, "role", "what it is: camera, switch, endpoint", Takes::text},
    {Field::in, "in", "the group it is in, at any depth", Takes::text},
    {Field::model, "model", "its model", Takes::text},
    {Field::address, "address", "an address, or a prefix one lies in", Takes::text},
    {Field::mac, "mac", "a MAC address or part of one, in any notation", Takes::text},
    {Field::vlan, "vlan", "a VLAN it is in, by number or name", Takes::text},
    {Field::subnet, "subnet", "a subnet it has an address in", Takes::text},
    {Field::finding, "finding", "what the checks report: error, warning, a rule, any", Takes::text},
    {Field::medium, "medium", "what its links run over: fibre, copper, radio", Takes::text},
    {Field::cable, "cable", "the type of a cable", Takes::text},
    {Field::label, "label", "the label of a port or cable", Takes::text},
    {Field::port, "port", "a port by its key", Takes::text},
    {Field::serial, "serial", "a serial number", Takes::text},
    {Field::note, "note", "a note to it", Takes::text},
    {Field::sheet, "sheet", "a sheet it is drawn on", Takes::text},
    {Field::service, "service", "a service that rests on it or uses it", Takes::text},
    {Field::kind, "kind", "the kind of a group: floor, rack", Takes::text},
    {Field::from, "from", "where it is known from: drawn, imported", Takes::text},
    {Field::attribute, "attribute", "an attribute of its own, by name or value", Takes::text},
    {Field::is, "is", "a state: linked, outside, disabled", Takes::text},
    {Field::freePorts, "free-ports", "how many ports are free", Takes::number},
    {Field::usedPorts, "used-ports", "how many ports are taken", Takes::number},
    {Field::ports, "ports", "how many ports it has", Takes::number},
    {Field::links, "links", "how many links end at it", Takes::number},
    {Field::devices, "devices", "how many devices are in a group", Takes::number},
    {Field::speed, "speed", "the speed of a link: 1G, 100M", Takes::number},
    {Field::length, "length", "the length of a cable: 90m, 300ft", Takes::number},
    {Field::level, "level", "the level of a floor", Takes::number},
    {Field::units, "units", "how many rack units it takes", Takes::number},
}};

constexpr std::array<StateWord, 14> stateWords{{
    {"endpoint", "ends traffic"},
    {"infrastructure", "carries traffic"},
    {"linked", "a link ends at it"},
    {"unlinked", "no link ends at it"},
    {"outside", "not ours to manage"},
    {"disabled", "a port or interface is disabled"},
    {"placed", "has a place on a floor or in a rack"},
    {"unplaced", "has none"},
    {"grouped", "is in a group"},
    {"ungrouped", "is in none"},
    {"stack", "a stack of several chassis"},
    {"planned", "its cable is planned"},
    {"free", "a port that nothing ends in"},
    {"unknown-port", "a link end whose port is not known"},
}};

const FieldWord* fieldNamed(std::string_view text) {
    const std::string low = lowered(text);
    const auto at = std::find_if(fieldWords.begin(), fieldWords.end(),
                                 [&](const FieldWord& word) { return word.text == low; });
    return at == fieldWords.end() ? nullptr : &*at;
}

bool isFieldLetter(char c) {
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '-';
}
bool isSpace(char c) {
    return c == ' ' || c == '\t' || c == '\n' || c == '\r';
}

struct SignWord {
    std::string_view text;
    Sign sign;
};
// Longer ones first.
constexpr std::array<SignWord, 7> signWords{{{"!=", Sign::differs},
                                             {"<=", Sign::atMost},
                                             {">=", Sign::atLeast},
                                             {":", Sign::has},
                                             {"=", Sign::equals},
                                             {"<", Sign::less},
                                             {">", Sign::more}}};

const SignWord* signAt(std::string_view text) {
    for (const SignWord& word : signWords)
        if (text.starts_with(word.text))
            return &word;
    return nullptr;
}

/// Where the token that begins at `at` ends: at a space or parenthesis outside quotes.
std::size_t endOfToken(std::string_view text, std::size_t at) {
    bool inQuotes = false;
    for (; at < text.size(); ++at) {
        if (text[at] == '"')
            inQuotes = !inQuotes;
        else if (!inQuotes && (isSpace(text[at]) || text[at] == '(' || text[at] == ')'))
            break;
    }
    return at;
}

/// A token as a field and a sign; nothing for a word alone, an address or a MAC address.
struct Head {
    std::string_view field;
    const SignWord* sign;
};
std::optional<Head> headOf(std::string_view token) {
    const auto letters = std::find_if_not(token.begin(), token.end(), isFieldLetter);
    const auto length = static_cast<std::size_t>(letters - token.begin());
    const SignWord* sign = length == 0 ? nullptr : signAt(token.substr(length));
    if (!sign)
        return std::nullopt;
    if (!fieldNamed(token.substr(0, length)) &&
        (Address(std::string(token)).valid() || macDigits(token).size() >= 6))
        return std::nullopt;
    return Head{token.substr(0, length), sign};
}

std::optional<std::int64_t> wholeNumber(std::string_view text) {
    std::int64_t number = 0;
    const auto [end, fault] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (fault != std::errc() || end != text.data() + text.size() || text.empty())
        return std::nullopt;
    return number;
}

/// "1G", "2.5G", "100M" and plain numbers in Mbit/s.
std::optional<std::int64_t> speedFrom(std::string_view text) {
    std::int64_t factor = 10; // tenths, so that 2.5G is one
    if (text.ends_with('g') || text.ends_with('m')) {
        factor = text.ends_with('g') ? 10'000 : 10;
        text.remove_suffix(1);
    }
    const auto dot = text.find('.');
    const auto whole = wholeNumber(text.substr(0, dot));
    const auto tenth =
        dot == std::string_view::npos ? std::optional<std::int64_t>(0) : wholeNumber(text.substr(dot + 1));
    if (!whole || !tenth || *whole < 0 || *whole > 10'000'000 || *tenth < 0 || *tenth > 9)
        return std::nullopt;
    return (*whole * 10 + *tenth) * factor / 100;
}

std::optional<std::int64_t> numberFor(Field field, std::string_view text) {
    if (field == Field::speed)
        return speedFrom(text);
    if (field == Field::length)
        return text.empty() ? std::nullopt : parseLength(text, LengthUnit::metres);
    return wholeNumber(text);
}

/// A value as a number or range, where it is one.
void readNumber(Field field, Value& value) {
    if (const auto one = numberFor(field, value.text)) {
        value.number = true;
        value.low = value.high = *one;
        return;
    }
    const auto dash = value.text.find('-', 1);
    if (dash == std::string::npos)
        return;
    const auto low = numberFor(field, value.text.substr(0, dash));
    const auto high = numberFor(field, value.text.substr(dash + 1));
    if (low && high && *low <= *high) {
        value.number = true;
        value.low = *low;
        value.high = *high;
    }
}

class Parser {
public:
    explicit Parser(std::string_view text) : text_(text) {}

    Result<Term> whole() {
        auto term = any(0);
        if (term && at_ < text_.size())
            return refuse(at_, "nothing is open that ) could close", "take it out");
        return term;
    }

private:
    Remark refuse(std::size_t at, std::string what, std::string remedy) const {
        int column = 1;
        forEachCodePoint(text_.substr(0, at), [&](char32_t, std::size_t) { ++column; });
        Where where;
        where.file = "filter";
        where.line = 1;
        where.column = column;
        return error(std::move(what), std::move(remedy), where);
    }

    void skipSpace() {
        while (at_ < text_.size() && isSpace(text_[at_]))
            ++at_;
    }
    /// Whether a word stands here by itself.
    bool wordHere(std::string_view word) const {
        return lowered(text_.substr(at_, word.size())) == word && endOfToken(text_, at_) == at_ + word.size();
    }

    Result<Term> any(int depth) {
        Term term{Term::Joins::any, {}, {}};
        for (;;) {
            auto one = all(depth);
            if (!one)
                return one;
            term.terms.push_back(std::move(*one));
            if (at_ >= text_.size() || !wordHere("or"))
                break;
            if (term.terms.back().terms.empty())
                return refuse(at_, "nothing stands before or", "write a condition on both sides of it");
            at_ += 2;
            skipSpace();
            if (at_ >= text_.size() || text_[at_] == ')')
                return refuse(at_, "nothing stands after or", "write a condition on both sides of it");
        }
        return term.terms.size() == 1 ? std::move(term.terms.front()) : std::move(term);
    }

    Result<Term> all(int depth) {
        Term term{Term::Joins::all, {}, {}};
        for (skipSpace(); at_ < text_.size() && text_[at_] != ')' && !wordHere("or"); skipSpace()) {
            auto one = part(depth);
            if (!one)
                return one;
            term.terms.push_back(std::move(*one));
        }
        return term;
    }

    Result<Term> part(int depth) {
        if (depth > mostDepth)
            return refuse(at_, fmt::format("parentheses lie more than {} in one another", mostDepth),
                          "write it more simply");
        const bool dash = text_[at_] == '-' && at_ + 1 < text_.size() && !isSpace(text_[at_ + 1]);
        if (dash || wordHere("not")) {
            const std::size_t began = at_;
            at_ += dash ? 1 : 3;
            skipSpace();
            if (at_ >= text_.size() || text_[at_] == ')')
                return refuse(began, "nothing follows that should not hold", "write a condition after it");
            auto one = part(depth + 1);
            if (!one)
                return one;
            Term term{Term::Joins::none, {}, {}};
            term.terms.push_back(std::move(*one));
            return term;
        }
        if (text_[at_] != '(')
            return condition();
        const std::size_t opened = at_++;
        auto inner = any(depth + 1);
        if (!inner)
            return inner;
        if (at_ >= text_.size())
            return refuse(opened, "the parenthesis is not closed", "write ) where it ends");
        ++at_;
        return inner;
    }

    Result<Term> condition() {
        const std::size_t began = at_, end = endOfToken(text_, at_);
        const std::string_view token = text_.substr(began, end - began);
        at_ = end;
        if (std::count(token.begin(), token.end(), '"') % 2 != 0)
            return refuse(began + token.rfind('"'), "the quotes are not closed", "write \" where they end");
        Term term{Term::Joins::condition, {}, {}};
        Condition& condition = term.condition;
        const auto head = headOf(token);
        if (!head) {
            condition.values = valuesOf(token, false);
            return term;
        }
        const FieldWord* field = fieldNamed(head->field);
        if (!field)
            return refuse(began, fmt::format("there is no field {}", head->field), remedyFor(head->field));
        condition.field = field->field;
        condition.sign = head->sign->sign;
        const std::size_t valueAt = began + head->field.size() + head->sign->text.size();
        condition.values = valuesOf(text_.substr(valueAt, end - valueAt), true);
        if (condition.values.empty())
            return refuse(valueAt, fmt::format("{}{} has no value", head->field, head->sign->text),
                          "write one directly behind it");
        for (Value& value : condition.values)
            if (auto wrong = check(*field, condition.sign, value); !wrong.what.empty())
                return refuse(valueAt, wrong.what, wrong.remedy);
        return term;
    }

    /// Apart at commas, quotes taken off, in lower case.
    static std::vector<Value> valuesOf(std::string_view text, bool several) {
        std::vector<Value> values(1);
        bool inQuotes = false;
        for (const char c : text) {
            if (c == '"')
                inQuotes = !inQuotes;
            else if (c == ',' && !inQuotes && several)
                values.emplace_back();
            else
                values.back().text += c;
        }
        for (Value& value : values)
            value.text = lowered(value.text);
        std::erase_if(values, [](const Value& value) { return value.text.empty(); });
        return values;
    }

    static std::string remedyFor(std::string_view unknown) {
        for (const FieldWord& word : fieldWords)
            if (word.text.starts_with(lowered(unknown).substr(0, 3)))
                return fmt::format("perhaps {} is meant; or write it in quotes", word.text);
        std::string all;
        for (const FieldWord& word : fieldWords)
            all += (all.empty() ? "" : ", ") + std::string(word.text);
        return "the fields are " + all;
    }

    /// What is wrong with a value; numbers are read on the way.
    static Remark check(const FieldWord& field, Sign sign, Value& value) {
        const bool ordered = sign != Sign::has && sign != Sign::equals && sign != Sign::differs;
        readNumber(field.field, value);
        if (field.takes == Takes::number && !value.number)
            return error(fmt::format("{} is no number for {}", value.text, field.text), numberRemedy(field));
        if (ordered && field.field != Field::vlan && field.takes != Takes::number)
            return error(fmt::format("{} has no order", field.text), fmt::format("write {}:", field.text));
        if (ordered && !value.number)
            return error(fmt::format("{} is no number", value.text), numberRemedy(field));
        if (field.field == Field::is &&
            std::none_of(stateWords.begin(), stateWords.end(),
                         [&](const StateWord& word) { return word.text == value.text; })) {
            std::string all;
            for (const StateWord& word : stateWords)
                all += (all.empty() ? "" : ", ") + std::string(word.text);
            return error(fmt::format("{} is no state", value.text), "the states are " + all);
        }
        return {};
    }

    static std::string numberRemedy(const FieldWord& field) {
        return field.field == Field::speed    ? "write 100M, 1G or 10G"
               : field.field == Field::length ? "write 90m or 300ft"
                                              : "write a whole number, or two with - between them";
    }

    std::string_view text_;
    std::size_t at_ = 0;
};

bool asksFor(const Term& term, Field field) {
    return (term.joins == Term::Joins::condition && term.condition.field == field) ||
           std::any_of(term.terms.begin(), term.terms.end(),
                       [&](const Term& inner) { return asksFor(inner, field); });
}

/// Where the token at the cursor begins.
std::size_t tokenBefore(std::string_view text, std::size_t cursor) {
    std::size_t began = 0;
    for (std::size_t at = 0; at < cursor;) {
        if (isSpace(text[at]) || text[at] == '(' || text[at] == ')') {
            began = ++at;
            continue;
        }
        began = at;
        at = std::min(endOfToken(text, at), cursor);
    }
    if (began < cursor && text[began] == '-')
        ++began;
    return began;
}

} // namespace

std::span<const FieldWord> fields() {
    return fieldWords;
}
std::span<const StateWord> states() {
    return stateWords;
}

Result<Filter> Filter::parse(std::string_view text) {
    if (text.size() > mostBytes)
        return error(fmt::format("the filter is longer than {} bytes", mostBytes), "write it more simply");
    Filter filter;
    filter.text_ = text;
    auto term = Parser(text).whole();
    if (!term)
        return term.refusal();
    filter.term_ = std::move(*term);
    return filter;
}

bool Filter::asks(Field field) const {
    return asksFor(term_, field);
}

bool looksLikeFilter(std::string_view text) {
    for (std::size_t at = 0; at < text.size();) {
        if (isSpace(text[at]) || text[at] == '(' || text[at] == ')' || text[at] == '-') {
            ++at;
            continue;
        }
        const std::size_t end = endOfToken(text, at);
        if (const auto head = headOf(text.substr(at, end - at)); head && fieldNamed(head->field))
            return true;
        at = end;
    }
    return false;
}

std::vector<Completion> fieldCompletions(std::string_view text, std::size_t cursor) {
    std::vector<Completion> out;
    cursor = std::min(cursor, text.size());
    const std::size_t from = tokenBefore(text, cursor);
    const std::string begun = lowered(text.substr(from, cursor - from));
    for (const FieldWord& word : fieldWords)
        if (word.text.starts_with(begun) && out.size() < 12)
            out.push_back({from, std::string(word.text) + (word.takes == Takes::number ? ">" : ":"),
                           std::string(word.means)});
    return out;
}

std::optional<TypedValue> typedValue(std::string_view text, std::size_t cursor) {
    cursor = std::min(cursor, text.size());
    const std::size_t from = tokenBefore(text, cursor);
    const std::string_view token = text.substr(from, cursor - from);
    const auto head = headOf(token);
    const FieldWord* field = head ? fieldNamed(head->field) : nullptr;
    if (!field)
        return std::nullopt;
    std::size_t value = head->field.size() + head->sign->text.size();
    if (const auto comma = token.rfind(','); comma != std::string_view::npos && comma >= value)
        value = comma + 1;
    std::string typed(token.substr(value));
    std::erase(typed, '"');
    return TypedValue{field->field, from + value, typed};
}

std::string quoted(std::string_view value) {
    std::string plain(value);
    std::erase(plain, '"');
    return plain.find_first_of(" \t,()") == std::string::npos && !plain.empty() ? plain : '"' + plain + '"';
}

std::string macDigits(std::string_view text) {
    std::string digits;
    for (const char c : lowered(text)) {
        if ((c >= '0' && c <= '9') || (c >= 'a' && c <= 'f'))
            digits += c;
        else if (c != ':' && c != '-' && c != '.')
            return {};
    }
    return digits.size() <= 12 ? digits : std::string();
}

} // namespace underridge::find
