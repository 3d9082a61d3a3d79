// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/rfc8345_members.h"

#include <algorithm>
#include <arpa/inet.h>
#include <charconv>
#include <cstdlib>

namespace underridge::exchange::rfc8345 {

const Json nothing;

namespace {

/// Whether `key` is `name` or `module:name`.
bool isMember(std::string_view key, std::string_view module, std::string_view name) {
    if (key.size() == name.size())
        return key == name;
    return key.size() == module.size() + 1 + name.size() && key.ends_with(name) &&
           key[module.size()] == ':' && key.starts_with(module);
}

} // namespace

std::string memberName(const Json& object, const char* module, const char* name) {
    if (object.is_object())
        for (auto at = object.begin(); at != object.end(); ++at)
            if (isMember(at.key(), module, name))
                return at.key();
    return name;
}

const Json& member(const Json& object, const char* module, const char* name) {
    if (object.is_object())
        for (auto at = object.begin(); at != object.end(); ++at)
            if (isMember(at.key(), module, name))
                return *at;
    return nothing;
}

const Json& listIn(const Json& object, const char* module, const char* name) {
    static const Json empty = Json::array();
    const Json& list = member(object, module, name);
    return list.is_array() ? list : empty;
}

Json without(const Json& object, const char* module, std::initializer_list<const char*> names) {
    Json rest = Json::object();
    for (auto at = object.begin(); at != object.end(); ++at)
        if (std::none_of(names.begin(), names.end(),
                         [&](const char* name) { return isMember(at.key(), module, name); }))
            rest[at.key()] = *at;
    return rest;
}

std::string textIn(const Json& object, const char* module, const char* name) {
    const Json& value = member(object, module, name);
    return value.is_string() ? value.get<std::string>() : std::string();
}

void drop(Json& object, const char* module, const char* name) {
    if (object.is_object())
        object.erase(memberName(object, module, name));
}

std::optional<std::uint64_t> wholeIn(const Json& value) {
    if (value.is_number_unsigned())
        return value.get<std::uint64_t>();
    if (!value.is_string())
        return std::nullopt;
    const auto& text = value.get_ref<const std::string&>();
    std::uint64_t number = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), number);
    return code == std::errc() && end == text.data() + text.size() && !text.empty() ? std::optional(number)
                                                                                    : std::nullopt;
}

std::vector<int> vlansIn(const std::string& text) {
    std::vector<int> out;
    std::size_t at = 0;
    while (at < text.size()) {
        int from = 0, to = 0;
        const char* end = text.data() + text.size();
        auto [p, code] = std::from_chars(text.data() + at, end, from);
        if (code != std::errc())
            return {};
        to = from;
        if (p != end && (*p == '-' || *p == '.')) {
            while (p != end && (*p == '-' || *p == '.'))
                ++p;
            const auto range = std::from_chars(p, end, to);
            if (range.ec != std::errc())
                return {};
            p = range.ptr;
        }
        if (from < 1 || to > 4094 || to < from)
            return {};
        for (int vlan = from; vlan <= to; ++vlan)
            out.push_back(vlan);
        if (p != end && *p != ',')
            return {};
        at = static_cast<std::size_t>(p - text.data()) + 1;
    }
    return out;
}

bool contains(const std::string& prefix, const std::string& address, int& length) {
    const auto slash = prefix.find('/');
    if (slash == std::string::npos)
        return false;
    unsigned char net[16], host[16];
    const int family = address.find(':') == std::string::npos ? AF_INET : AF_INET6;
    length = std::atoi(prefix.c_str() + slash + 1);
    if (inet_pton(family, prefix.substr(0, slash).c_str(), net) != 1 ||
        inet_pton(family, address.c_str(), host) != 1 || length < 0 ||
        length > (family == AF_INET ? 32 : 128))
        return false;
    for (int bit = 0; bit < length; ++bit)
        if (((net[bit / 8] ^ host[bit / 8]) >> (7 - bit % 8)) & 1)
            return false;
    return true;
}

} // namespace underridge::exchange::rfc8345
