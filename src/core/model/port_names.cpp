// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/port_names.h"

#include "core/base/text.h"

#include <algorithm>

namespace underridge::model {
namespace {

bool before(std::string_view a, std::string_view b) {
    return naturalLess(a, b) || (!naturalLess(b, a) && a < b);
}

} // namespace

PortNames::PortNames(std::vector<std::string> names) {
    std::erase_if(names, [](const std::string& name) { return name.empty(); });
    if (!std::is_sorted(names.begin(), names.end(), before))
        std::sort(names.begin(), names.end(), before);
    names.erase(std::unique(names.begin(), names.end()), names.end());
    if (!names.empty())
        held_ = std::make_shared<const std::vector<std::string>>(std::move(names));
}

const std::vector<std::string>& PortNames::all() const {
    static const std::vector<std::string> none;
    return held_ ? *held_ : none;
}

bool PortNames::contains(std::string_view name) const {
    return std::binary_search(all().begin(), all().end(), name, before);
}

} // namespace underridge::model
