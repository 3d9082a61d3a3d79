// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/graphml_elements.h"

#include "core/base/text.h"

#include <charconv>
#include <cstdint>
#include <sstream>

namespace underridge::exchange {
namespace {

constexpr std::string_view graphmlNamespace = "http://graphml.graphdrawing.org/xmlns";

std::size_t startOf(const pugi::xml_node& root) {
    return static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, root.offset_debug()));
}

bool isBound(const pugi::xml_node& node, std::string_view prefix) {
    const std::string attribute = prefix.empty() ? "xmlns" : "xmlns:" + std::string(prefix);
    for (pugi::xml_node at = node; at; at = at.parent())
        if (const auto bound = at.attribute(attribute.c_str()))
            return std::string_view(bound.value()).starts_with(graphmlNamespace);
    return prefix.empty();
}

} // namespace

Namespaces::Namespaces(const pugi::xml_node& root, std::string_view text)
    : root_(root), onlyAtRoot_(text.find("xmlns", text.find('>', startOf(root))) == std::string_view::npos) {}

bool Namespaces::is(const pugi::xml_node& node, std::string_view local) const {
    if (node.type() != pugi::node_element)
        return false;
    const std::string_view name = node.name();
    const auto colon = name.find(':');
    const auto prefix = colon == std::string_view::npos ? std::string_view() : name.substr(0, colon);
    if (name.substr(colon == std::string_view::npos ? 0 : colon + 1) != local)
        return false;
    if (!onlyAtRoot_)
        return isBound(node, prefix);
    if (!known_ || known_->first != prefix)
        known_.emplace(std::string(prefix), isBound(root_, prefix));
    return known_->second;
}

bool agrees(const std::string& value, const std::string& type) {
    if (type.empty() || type == "string")
        return true;
    const std::string plain = trimmed(value);
    const auto whole = [&](auto number) {
        const char* start = plain.data() + (plain.starts_with('+') ? 1 : 0);
        const auto [end, code] = std::from_chars(start, plain.data() + plain.size(), number);
        return code == std::errc() && end == plain.data() + plain.size();
    };
    if (type == "boolean")
        return plain == "true" || plain == "false" || plain == "1" || plain == "0";
    if (type == "int")
        return whole(std::int32_t{});
    if (type == "long")
        return whole(std::int64_t{});
    if (type == "float" || type == "double")
        return plain == "NaN" || plain == "INF" || plain == "-INF" || whole(double{});
    return true;
}

std::string textOf(const pugi::xml_node& node) {
    const pugi::xml_node first = node.first_child();
    if (first.type() == pugi::node_pcdata && !first.next_sibling())
        return first.value(); // nearly always
    std::string out;
    for (const pugi::xml_node& child : node.children())
        if (child.type() == pugi::node_pcdata || child.type() == pugi::node_cdata)
            out += child.value();
    return out;
}

std::string rawText(const pugi::xml_node& node) {
    std::ostringstream out;
    for (const pugi::xml_node& child : node.children())
        child.print(out, "", pugi::format_raw);
    return out.str();
}

std::string raw(const pugi::xml_node& node) {
    std::ostringstream out;
    node.print(out, "", pugi::format_raw);
    return out.str();
}

bool hasElements(const pugi::xml_node& node) {
    for (const pugi::xml_node& child : node.children())
        if (child.type() == pugi::node_element)
            return true;
    return false;
}

} // namespace underridge::exchange
