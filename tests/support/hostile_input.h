// SPDX-License-Identifier: GPL-3.0-or-later
// What every reader promises for any bytes whatever: a whole network or a refusal with
// words, and what it gives can be written and read again. Used by the fuzz target and by
// the replay of the kept corpus.
#pragma once
#include "core/edit/devices.h"
#include "core/edit/journal.h"
#include "core/edit/links.h"
#include "core/edit/results.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "core/exchange/library.h"

#include <array>

namespace underridge::tests {

/// The readers by the folder their corpus is in.
inline constexpr std::array<std::string_view, 9> readers{"own",    "rfc8345", "graphml",  "csv",    "xlsx",
                                                         "models", "journal", "schedule", "results"};

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
    if (reader == "schedule" ||
        reader == "results") { // against a network of two devices and a labelled cable
        static const model::Network network = [] {
            model::IdSource ids(1);
            model::Network made = model::emptyNetwork("t", ids);
            const auto placed = edit::placeDevices(made, made.sheetsInOrder().front().id,
                                                   *catalogue.device("access-switch-24"),
                                                   {{"acc-1", {0, 0}}, {"acc-2", {0, 200}}}, {}, ids);
            const auto pair = linking::bestPair(placed->network, catalogue, {{placed->subjects[0].id}, "1"},
                                                {{placed->subjects[1].id}, "1"});
            made = edit::makeLink(placed->network, catalogue, *pair, ids)->network;
            made.all<model::Cable>().forEach([&](const model::Cable& held) {
                model::Cable cable = held;
                cable.label = "C-1";
                made.put(cable);
            });
            return made;
        }();
        model::IdSource ids(2);
        const auto merged = reader == "results"
                                ? edit::mergeResults(network, bytes, "hostile")
                                : edit::mergeSchedule(network, catalogue, bytes, "hostile", ids);
        return merged ? merged->network.indicesAreTrue() : !merged.refusal().what.empty();
    }
    const auto format = reader == "own"       ? exchange::Format::own
                        : reader == "rfc8345" ? exchange::Format::rfc8345
                        : reader == "graphml" ? exchange::Format::graphml
                        : reader == "xlsx"    ? exchange::Format::xlsx
                                              : exchange::Format::csv;
    const auto loaded = exchange::readAny(bytes, {"hostile", catalogue}, format);
    if (!loaded)
        return !loaded.refusal().what.empty();
    if (!loaded->network.indicesAreTrue())
        return false;
    if (format != exchange::Format::own && format != exchange::Format::xlsx) // workbooks are written slowly
        static_cast<void>(exchange::write(loaded->network, format));
    return static_cast<bool>(exchange::readOwn(exchange::writeOwn(loaded->network), "again"));
}

} // namespace underridge::tests
