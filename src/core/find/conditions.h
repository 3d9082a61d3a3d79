// SPDX-License-Identifier: GPL-3.0-or-later
// What a condition says of one value of a record: used by the matcher alone.
#pragma once
#include "core/find/filter.h"
#include "core/model/address.h"
#include "core/model/device.h"
#include "core/model/grouping.h"
#include "core/model/words.h"

#include <algorithm>

namespace underridge::find {

/// In lower case, "access point" and "access_point" as "access-point".
std::string asWord(std::string_view text);
/// Whether a text holds one of the values, or with `=` is one; "*" stands for any letters.
bool textIs(const Condition& condition, std::string_view text);
bool numberIs(const Condition& condition, std::int64_t number);
/// By word, title, plural, or as endpoint or infrastructure.
bool roleIs(const Condition& condition, model::Role role);
/// By word or title, or as fibre or copper.
bool mediumIs(const Condition& condition, model::Medium medium);
/// As far as it is typed, or by prefix.
bool addressIs(const Condition& condition, const model::Address& address);
/// By number or name.
bool vlanIs(const Condition& condition, const model::Vlan& vlan);
/// Whether any number of a range would do.
bool rangeIs(const Condition& condition, const model::VlanRange& range);
/// By name, value, or "name=value".
bool attributeIs(const Condition& condition, const model::Attributes& attributes);
/// Whether a state is among the values.
bool has(const Condition& condition, std::string_view state);

template <class E>
bool wordIs(const Condition& condition, E word) {
    const std::string text = asWord(model::textOf(word)), title = asWord(model::titleOf(word));
    return std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
        const std::string wanted = asWord(value.text);
        return wanted == text || wanted == title;
    });
}

} // namespace underridge::find
