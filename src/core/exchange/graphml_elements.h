// SPDX-License-Identifier: GPL-3.0-or-later
// What GraphML's elements are and hold, over the tree of the XML library.
#pragma once
#include <optional>
#include <pugixml.hpp>
#include <string>
#include <string_view>

namespace underridge::exchange {

/// Which elements belong to GraphML: those whose prefix is bound to its namespace, or of
/// which nothing is said at all.
class Namespaces {
public:
    /// Where only the root says what prefixes mean, each prefix is looked up once.
    Namespaces(const pugi::xml_node& root, std::string_view text);

    /// Whether a node is GraphML's element of that name.
    bool is(const pugi::xml_node& node, std::string_view local) const;

private:
    pugi::xml_node root_;
    bool onlyAtRoot_;
    mutable std::optional<std::pair<std::string, bool>> known_; ///< the prefix asked for last
};

/// A key as it is declared, for values of elements of its domain.
struct KeyDeclaration {
    std::string id, domain, name, lowerName, type, fallback;
    bool hasFallback = false;
    bool decides = false; ///< the model comes before the role, the cable before its length
};

/// Whether a value is of a type of XML Schema that GraphML knows: boolean, int, long,
/// float, double; anything is of any other.
bool agrees(const std::string& value, const std::string& type);

/// All character data of an element, in order.
std::string textOf(const pugi::xml_node& node);
/// What is inside an element, as XML.
std::string rawText(const pugi::xml_node& node);
/// An element as XML.
std::string raw(const pugi::xml_node& node);
bool hasElements(const pugi::xml_node& node);

} // namespace underridge::exchange
