// SPDX-License-Identifier: GPL-3.0-or-later
// What every reader promises for any bytes whatever: a whole network or a refusal with
// words, and what it gives can be written and read again. Used by the fuzz target and by
// the replay of the kept corpus.
#pragma once
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"
#include "core/analysis/topologies.h"
#include "core/analysis/trace.h"
#include "core/edit/devices.h"
#include "core/edit/journal.h"
#include "core/edit/links.h"
#include "core/edit/results.h"
#include "core/edit/script/script.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "core/exchange/library.h"
#include "core/exchange/picture_file.h"
#include "core/find/matching.h"
#include "core/find/search.h"

#include <array>

namespace underridge::tests {

/// What follows from a network is worked out without harm, whatever is in it.
inline bool canBeWorkedOut(const model::Network& network) {
    constexpr std::size_t most = 200; // of more the fuzzer would try too few
    if (network.all<model::Device>().size() > most || network.all<model::Interface>().size() > most)
        return true;
    const analysis::Forwarding forwarding(network);
    for (const auto& finding : analysis::checkForwarding(forwarding))
        if (!finding.rule || finding.message.empty())
            return false;
    model::DeviceId first, last;
    network.all<model::Device>().forEach([&](const model::Device& device) {
        first = first ? first : device.id;
        last = device.id;
    });
    if (!first)
        return true;
    const auto [there, back] = analysis::traceBoth(forwarding, {{first, {}, {}}, {last, {}, {}}, {}, 0});
    return there.reached() || !there.reason.empty();
}

/// The readers by the folder their corpus is in.
inline constexpr std::array<std::string_view, 12> readers{"own",     "rfc8345", "graphml", "csv",
                                                          "xlsx",    "models",  "journal", "schedule",
                                                          "results", "filter",  "picture", "acts"};

/// Two devices and a labelled cable between them.
inline const model::Network& smallNetwork(const model::Catalogue& catalogue) {
    static const model::Network network = [&] {
        model::IdSource ids(1);
        model::Network made = model::emptyNetwork("t", ids);
        const auto placed =
            edit::placeDevices(made, made.sheetsInOrder().front().id, *catalogue.device("access-switch-24"),
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
    return network;
}

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
        const model::Network& network = smallNetwork(catalogue);
        model::IdSource ids(2);
        const auto merged = reader == "results"
                                ? edit::mergeResults(network, bytes, "hostile")
                                : edit::mergeSchedule(network, catalogue, bytes, "hostile", ids);
        return merged ? merged->network.indicesAreTrue() : !merged.refusal().what.empty();
    }
    if (reader == "filter") {
        const model::Network& network = smallNetwork(catalogue);
        static_cast<void>(find::completions(network, bytes, bytes.size()));
        static_cast<void>(find::completions(network, bytes, bytes.size() / 2));
        static_cast<void>(find::looksLikeFilter(bytes));
        const auto filter = find::Filter::parse(bytes);
        if (!filter)
            return !filter.refusal().what.empty() && !filter.refusal().remedy.empty();
        const find::Matcher matcher(network, *filter);
        bool good = matcher.devices().size() <= network.all<model::Device>().size();
        network.all<model::Link>().forEach(
            [&](const model::Link& link) { good &= !matcher.matches(link) || matcher.matches(link); });
        static_cast<void>(find::TextIndex(network).search(bytes));
        return good && find::Filter::parse(filter->text());
    }
    if (reader == "picture") {
        const auto picture = exchange::readPicture(std::string(bytes), "hostile");
        return picture ? picture->width > 0 && picture->height > 0 : !picture.refusal().what.empty();
    }
    if (reader == "acts") {
        model::IdSource ids(3);
        const auto script = edit::applyActs(smallNetwork(catalogue), catalogue, bytes, "hostile", ids);
        return script ? script->network.indicesAreTrue() && canBeWorkedOut(script->network)
                      : script.refusal().where.line > 0;
    }
    const auto format = reader == "own"       ? exchange::Format::own
                        : reader == "rfc8345" ? exchange::Format::rfc8345
                        : reader == "graphml" ? exchange::Format::graphml
                        : reader == "xlsx"    ? exchange::Format::xlsx
                                              : exchange::Format::csv;
    const auto loaded = exchange::readAny(bytes, {"hostile", catalogue}, format);
    if (!loaded)
        return !loaded.refusal().what.empty();
    if (!loaded->network.indicesAreTrue() || !canBeWorkedOut(loaded->network))
        return false;
    if (format != exchange::Format::own && format != exchange::Format::xlsx) // workbooks are written slowly
        static_cast<void>(analysis::written(loaded->network, format));
    return static_cast<bool>(exchange::readOwn(exchange::writeOwn(loaded->network), "again"));
}

} // namespace underridge::tests
