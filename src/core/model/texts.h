// SPDX-License-Identifier: GPL-3.0-or-later
// All texts of a record, by its field list.
#pragma once
#include "core/model/fields.h"

namespace underridge::model {

/// Calls `each(std::string_view)` for every text in a record or a part of one, names of
/// attributes included.
template <class T, class Each>
void forEachText(const T& value, Each&& each) {
    if constexpr (std::is_same_v<T, std::string>) {
        each(std::string_view(value));
    } else if constexpr (std::is_same_v<T, Address>) {
        each(std::string_view(value.text()));
    } else if constexpr (std::is_same_v<T, SharedText>) {
        each(value.view());
    } else if constexpr (std::is_same_v<T, Attributes>) {
        for (const auto& [name, text] : value) {
            each(std::string_view(name));
            each(std::string_view(text));
        }
    } else if constexpr (requires {
                             typename T::value_type;
                             value.begin();
                         }) {
        for (const auto& part : value)
            forEachText(part, each);
    } else if constexpr (HasFields<T>) {
        forEachField<T>([&](const char*, auto member) { forEachText(value.*member, each); });
    }
}

} // namespace underridge::model
