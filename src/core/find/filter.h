// SPDX-License-Identifier: GPL-3.0-or-later
// The one small language of conditions, for find, registers, sheets and the command line:
//
//     role:camera vlan:20 free-ports>4 -in:"Control floor" (medium:fibre or length>90m)
//
// Conditions side by side must all hold; `or` stands between alternatives, `not` or `-`
// before what must not hold, parentheses around what belongs together. A condition is a
// field, a sign and a value, or a word alone. Described for people in docs/finding.md.
#pragma once
#include "core/base/result.h"

#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace underridge::find {

enum class Field {
    word, ///< a word alone: a name, model or address
    name,
    role,
    model,
    in,
    address,
    mac,
    serial,
    vlan,
    subnet,
    label,
    port,
    note,
    cable,
    medium,
    finding,
    sheet,
    service,
    kind,
    from,
    attribute,
    is,
    ports,
    usedPorts,
    freePorts,
    links,
    devices,
    speed,
    length,
    level,
    units
};

enum class Takes { text, number };

/// What can be asked for.
struct FieldWord {
    Field field;
    std::string_view text;  ///< as written
    std::string_view means; ///< what it asks, as the end of a sentence
    Takes takes = Takes::text;
};
/// All fields, in the order they are offered.
std::span<const FieldWord> fields();

/// What `is:` can be followed by.
struct StateWord {
    std::string_view text;
    std::string_view means;
};
std::span<const StateWord> states();

enum class Sign { has, equals, differs, less, atMost, more, atLeast };

/// One value of a condition: as written in lower case, and as a number where it is one, or
/// as a range of numbers ("10-20").
struct Value {
    std::string text;
    bool number = false;
    std::int64_t low = 0, high = 0;
};

struct Condition {
    Field field = Field::word;
    Sign sign = Sign::has;
    std::vector<Value> values; ///< any of them
};

/// A filter taken apart: a tree.
struct Term {
    enum class Joins { all, any, none, condition } joins = Joins::all;
    std::vector<Term> terms; ///< of `none` one
    Condition condition;
};

class Filter {
public:
    /// Matches everything.
    Filter() = default;
    /// Refuses unknown fields and values, signs without a value, and parentheses or quotes
    /// that do not close, with the column; and more than 10,000 bytes or 50 parentheses in
    /// one another.
    static Result<Filter> parse(std::string_view text);

    const std::string& text() const { return text_; }
    const Term& term() const { return term_; }
    bool empty() const { return term_.joins == Term::Joins::all && term_.terms.empty(); }
    /// Whether a field is asked for anywhere.
    bool asks(Field field) const;

private:
    std::string text_;
    Term term_;
};

/// Whether a text is meant as a filter rather than as words to look for: a field and a
/// sign stand in it.
bool looksLikeFilter(std::string_view text);

/// One way to go on with a filter being typed.
struct Completion {
    std::size_t from = 0; ///< what is replaced begins here, in bytes; it ends at the cursor
    std::string text;     ///< what stands there then
    std::string means;
};
/// Fields that begin as the word at the cursor, at most 12.
std::vector<Completion> fieldCompletions(std::string_view text, std::size_t cursor);

/// The value being typed at the cursor, if one is: of which field, and from where.
struct TypedValue {
    Field field = Field::word;
    std::size_t from = 0;
    std::string text; ///< without quotes
};
std::optional<TypedValue> typedValue(std::string_view text, std::size_t cursor);

/// A value as it has to be written: in quotes where it has spaces, commas, parentheses.
std::string quoted(std::string_view value);

/// Hexadecimal digits of a MAC address or part of one in any notation (00:1b:…, 00-1b-…,
/// 001b.2c…); empty when it is none.
std::string macDigits(std::string_view text);

} // namespace underridge::find
