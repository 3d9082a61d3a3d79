// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_kept.h"

#include "core/exchange/building.h"

namespace underridge::exchange::rfc8345 {

using Json = ExactJson;

Json kept(const SharedText& extra) {
    return extra.empty() ? Json() : exactJson(extraMember(extra, "rfc8345"));
}

std::string stringIn(const Json& json, const char* name) {
    if (!json.is_object())
        return {};
    const auto at = json.find(name);
    return at != json.end() && at->is_string() ? at->get<std::string>() : std::string();
}

Json restIn(const Json& entry) {
    return entry.is_object() && entry.contains("rest") && entry["rest"].is_object() ? entry["rest"]
                                                                                    : Json::object();
}

Json entryFor(const Json& entries, const std::string& network) {
    if (entries.is_array())
        for (const Json& entry : entries)
            if (stringIn(entry, "network") == network)
                return entry;
    return {};
}

void addKept(Json& to, const Json& rest) {
    for (const auto& [name, value] : rest.items()) {
        if (!to.contains(name))
            to[name] = value;
        else if (to[name].is_object() && value.is_object())
            addKept(to[name], value);
    }
}

} // namespace underridge::exchange::rfc8345
