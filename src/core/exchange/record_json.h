// SPDX-License-Identifier: GPL-3.0-or-later
// Records to and from JSON by the field lists of core/model/fields.h. A field that has
// its default value is not written; a field that is not known is kept in `extra` and
// written back.
#pragma once
#include "core/exchange/json_view.h"
#include "core/model/fields.h"

#include <nlohmann/json.hpp>

namespace underridge::exchange {

using Json = nlohmann::ordered_json;

/// One line of the own format, without the line feed: {"kind":"device","id":…}.
template <class Record>
std::string lineOf(const Record& record);

/// How deep values of the own format may be nested: deeper than those of any format it
/// keeps members of.
inline constexpr int maxOwnDepth = 1000;

/// Files and journals before version 2 said of a port itself that it was learned: whether
/// this one does, which it then no longer says.
bool takeLearned(model::Port& port);

/// Adds the record of one line to the others; `reader` as in its own contract. `where`
/// names file and line; places of single fields are worked out from `line`. Refuses wrong
/// types and bad ids. An object of an unknown kind is kept as it is.
Result<Done> addLine(model::Records& records, JsonReader& reader, std::string_view line, const Where& where);

/// Puts an array of catalogue entries (device models, …) into `out`.
template <class Entry>
Result<Done> readEntries(std::string_view text, const std::string& file, std::vector<Entry>& out);

/// Reads one value as the same fields of records are read: for scripts, which use the same
/// words. Refuses wrong types, and leaves the value half read then.
template <class T>
Result<Done> readValue(JsonView json, T& value, const char* name);

/// {"remove":"device","hi":…,"lo":…}: how the journal says that a record is gone.
std::string removalLine(model::Kind kind, model::Key key);

/// Applies one journal line: a record that replaces what was there, or a removal.
Result<Done> applyLine(model::Network& network, std::string_view line);

} // namespace underridge::exchange
