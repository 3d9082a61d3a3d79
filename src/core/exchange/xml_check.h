// SPDX-License-Identifier: GPL-3.0-or-later
// Whether a text is well-formed XML 1.0 with namespaces, by a parser that is strict about
// it. The library that gives the tree takes much that the standard says to refuse.
#pragma once
#include "core/exchange/decoding.h"

#include <optional>

namespace underridge::exchange {

/// The refusal, with line and column, for what is not well-formed or is nested deeper
/// than maxXmlDepth. `text` is UTF-8 whatever its declaration says. Nothing outside the
/// text is looked at; entities cannot grow without end.
std::optional<Remark> xmlFault(const std::string& text, const std::string& file);

} // namespace underridge::exchange
