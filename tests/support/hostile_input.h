// SPDX-License-Identifier: GPL-3.0-or-later
// What every reader promises for any bytes whatever: a whole network or a refusal with words, and what it
// gives can be written and read again. Used by the fuzz target and by the replay of the kept corpus.
#pragma once
#include "core/edit/journal.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "core/exchange/library.h"

#include <array>

namespace underridge::tests {

/// The readers by the folder their corpus is in.
inline constexpr std::array<std::string_view, 6> readers{"own", "rfc8345", "graphml",
                                                         "csv", "models",  "journal"};

inline bool keepsPromise(std::string_view reader, std::string_view bytes) {
    static const model::Catalogue catalogue = exchange::builtInCatalogue();
    if (reader == "models") {
        const auto models = exchange::readModels(bytes, "hostile");
        return models || !models.refusal().what.empty();
    }
    if (reader == "journal") {
        const auto journal = edit::readJournal(bytes);
        if (!journal)
            return !journal.refusal().what.empty();
        const auto network = edit::replay({}, journal->payloads);
        return !network || network->indicesAreTrue();
    }
    const auto format = reader == "own"       ? exchange::Format::own
                        : reader == "rfc8345" ? exchange::Format::rfc8345
                        : reader == "graphml" ? exchange::Format::graphml
                                              : exchange::Format::csv;
    const auto loaded = exchange::readAny(bytes, {"hostile", catalogue}, format);
    if (!loaded)
        return !loaded.refusal().what.empty();
    if (!loaded->network.indicesAreTrue())
        return false;
    if (format != exchange::Format::own)
        static_cast<void>(exchange::write(loaded->network, format));
    return static_cast<bool>(exchange::readOwn(exchange::writeOwn(loaded->network), "again"));
}

} // namespace underridge::tests
