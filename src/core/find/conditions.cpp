// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/find/conditions.h"

#include "core/base/text.h"

namespace underridge::find {
using namespace model;
namespace {

/// Whether a text holds a value; with "*" in it the value is the whole, any number of
/// letters standing for each.
bool textHas(const std::string& low, const std::string& value) {
    if (value.find('*') == std::string::npos)
        return low.find(value) != std::string::npos;
    std::size_t at = 0, from = 0;
    for (bool first = true;; first = false) {
        const auto star = value.find('*', from);
        const std::string part = value.substr(from, star - from);
        if (star == std::string::npos)
            return low.size() >= at + part.size() && low.ends_with(part);
        const auto found = first ? (low.starts_with(part) ? 0 : std::string::npos) : low.find(part, at);
        if (found == std::string::npos)
            return false;
        at = found + part.size();
        from = star + 1;
    }
}

} // namespace

std::string asWord(std::string_view text) {
    std::string out = lowered(text);
    for (char& c : out)
        if (c == ' ' || c == '_')
            c = '-';
    return out;
}

bool textIs(const Condition& condition, std::string_view text) {
    if (text.empty())
        return false;
    const std::string low = lowered(text);
    return std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
        return condition.sign == Sign::equals || condition.sign == Sign::differs ? low == value.text
                                                                                 : textHas(low, value.text);
    });
}

bool numberIs(const Condition& condition, std::int64_t number) {
    return std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
        switch (condition.sign) {
        case Sign::less:
            return number < value.low;
        case Sign::atMost:
            return number <= value.high;
        case Sign::more:
            return number > value.high;
        case Sign::atLeast:
            return number >= value.low;
        default:
            return value.number && number >= value.low && number <= value.high;
        }
    });
}

bool roleIs(const Condition& condition, Role role) {
    return wordIs(condition, role) ||
           std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
               const std::string wanted = asWord(value.text);
               return wanted == asWord(pluralOf(role)) || (wanted == "endpoint" && isEndpoint(role)) ||
                      (wanted == "infrastructure" && !isEndpoint(role));
           });
}

bool mediumIs(const Condition& condition, Medium medium) {
    const bool fibre = medium == Medium::singleMode || medium == Medium::multimode;
    const bool copper = medium == Medium::twistedPair || medium == Medium::singlePair;
    return wordIs(condition, medium) || textIs(condition, titleOf(medium)) ||
           std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
               return (fibre && (value.text == "fibre" || value.text == "fiber")) ||
                      (copper && value.text == "copper");
           });
}

bool addressIs(const Condition& condition, const Address& address) {
    return std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
        const Address wanted(value.text);
        if (!wanted.valid())
            return lowered(address.text()).find(value.text) != std::string::npos;
        return wanted.prefixLength() >= 0 ? wanted.contains(Address(address.host()))
                                          : Address(address.host()).bytes() == wanted.bytes() &&
                                                Address(address.host()).version() == wanted.version();
    });
}

bool vlanIs(const Condition& condition, const Vlan& vlan) {
    return numberIs(condition, vlan.number) ||
           (condition.sign == Sign::has || condition.sign == Sign::equals || condition.sign == Sign::differs
                ? textIs(condition, vlan.name)
                : false);
}

bool rangeIs(const Condition& condition, const VlanRange& range) {
    return std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
        switch (condition.sign) {
        case Sign::less:
            return value.number && range.first < value.low;
        case Sign::atMost:
            return value.number && range.first <= value.high;
        case Sign::more:
            return value.number && range.last > value.high;
        case Sign::atLeast:
            return value.number && range.last >= value.low;
        default:
            return value.number && range.first <= value.high && range.last >= value.low;
        }
    });
}

bool attributeIs(const Condition& condition, const Attributes& attributes) {
    return std::any_of(attributes.begin(), attributes.end(), [&](const auto& attribute) {
        return textIs(condition, attribute.first) || textIs(condition, attribute.second) ||
               textIs(condition, attribute.first + "=" + attribute.second);
    });
}

bool has(const Condition& condition, std::string_view state) {
    return std::any_of(condition.values.begin(), condition.values.end(),
                       [&](const Value& value) { return value.text == state; });
}

} // namespace underridge::find
