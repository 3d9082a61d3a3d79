// SPDX-License-Identifier: GPL-3.0-or-later
// Random but repeatable acts on a network: what property tests feed on.
#pragma once
#include "core/edit/devices.h"
#include "core/edit/import.h"
#include "core/edit/links.h"
#include "core/edit/names.h"
#include "core/edit/objects.h"
#include "core/edit/sheets.h"
#include "core/exchange/catalogue_file.h"

namespace underridge::tests {

inline model::Group groupOf(model::GroupId id, const char* name, model::GroupKind type,
                            model::GroupId parent) {
    model::Group group;
    group.id = id;
    group.name = name;
    group.type = type;
    group.parent = parent;
    return group;
}

class RandomEdits {
public:
    explicit RandomEdits(std::uint64_t seed)
        : ids_(seed), random_(seed * 31 + 7), catalogue_(exchange::builtInCatalogue()) {}

    model::Network start() { return model::emptyNetwork("Trial", ids_); }
    model::IdSource& ids() { return ids_; }
    const model::Catalogue& catalogue() const { return catalogue_; }
    int below(int n) { return static_cast<int>(random_() % static_cast<std::uint64_t>(n)); }

    /// Some act; it may refuse, as acts of people do.
    edit::ActResult act(const model::Network& network) {
        const model::SheetId sheet = network.sheetsInOrder().front().id;
        switch (below(14)) {
        case 0:
        case 1:
        case 2: {
            const auto& model =
                catalogue_
                    .devices[static_cast<std::size_t>(below(static_cast<int>(catalogue_.devices.size())))];
            std::vector<edit::Placed> placed;
            for (int i = below(4); i >= 0; --i)
                placed.push_back(
                    {"d-" + std::to_string(below(1000)), {below(4000) - 2000, below(4000) - 2000}});
            return edit::placeDevices(network, sheet, model, placed, {}, ids_);
        }
        case 3:
        case 4:
        case 5: {
            const auto pair =
                linking::bestPair(network, catalogue_, {someDevice(network), {}}, {someDevice(network), {}});
            if (!pair)
                return pair.refusal();
            return edit::makeLink(network, catalogue_, *pair, ids_);
        }
        case 6:
            return edit::moveObjects(network, sheet, someRefs(network), {below(600) - 300, below(600) - 300});
        case 7:
            return edit::rename(network, {model::refTo(someDevice(network))},
                                {"renamed-" + std::to_string(below(100))});
        case 8:
            return edit::removeObjects(network, someRefs(network));
        case 9:
            return edit::duplicateObjects(network, sheet, someRefs(network), {40, 80}, ids_);
        case 10:
            return edit::addNote(network, sheet, {below(500), below(500)}, "note " + std::to_string(below(9)),
                                 ids_);
        case 11:
            return edit::setAddress(network, someDevice(network), {},
                                    "10.84.1." + std::to_string(below(255)) + "/24", ids_);
        case 12:
            return edit::changePort(network, {someDevice(network), "1"}, "Port", [&](model::Port& p) {
                p.disabled = below(2) == 0;
                p.label = below(2) == 0 ? "uplink" : "";
            });
        default: {
            const model::LinkId link = someLink(network);
            if (below(2) == 0)
                return edit::setBends(network, sheet, link, {{below(500), below(500)}});
            const model::Link* held = network.link(link);
            if (!held || !held->cable)
                return error("no link");
            return edit::changeEach<model::Cable>(network, {{held->cable.value, 0}}, "Cable",
                                                  [&](model::Cable& c) { c.lengthMm = below(90) * 1000; });
        }
        }
    }

    /// Some act that reaches for the edge of the sheet, or takes much in at once.
    edit::ActResult far(const model::Network& network) {
        const model::SheetId sheet = network.sheetsInOrder().front().id;
        const auto anywhere = [&] {
            return model::Point{below(4 * model::sheetLimit) - 2 * model::sheetLimit,
                                below(4 * model::sheetLimit) - 2 * model::sheetLimit};
        };
        switch (below(6)) {
        case 0:
            return edit::pasteClip(network, sheet, edit::copyObjects(network, sheet, someRefs(network)),
                                   anywhere(), ids_);
        case 1:
            return edit::moveObjects(network, sheet, someRefs(network), anywhere());
        case 2:
            return edit::importNetwork(
                network, RandomEdits(random_()).grown(30),
                below(2) == 0 ? edit::ImportOnto::presentSheet : edit::ImportOnto::ownSheets, sheet, ids_);
        default:
            return act(network);
        }
    }

    /// The network after some successful acts.
    model::Network grown(int acts) {
        model::Network network = start();
        for (int i = 0; i < acts; ++i)
            if (auto next = act(network))
                network = std::move(next->network);
        return network;
    }

    model::DeviceId someDevice(const model::Network& network) {
        std::vector<model::DeviceId> all;
        network.all<model::Device>().forEach([&](const model::Device& d) { all.push_back(d.id); });
        return all.empty() ? model::DeviceId{}
                           : all[static_cast<std::size_t>(below(static_cast<int>(all.size())))];
    }

    model::LinkId someLink(const model::Network& network) {
        std::vector<model::LinkId> all;
        network.all<model::Link>().forEach([&](const model::Link& l) { all.push_back(l.id); });
        return all.empty() ? model::LinkId{}
                           : all[static_cast<std::size_t>(below(static_cast<int>(all.size())))];
    }

    edit::Refs someRefs(const model::Network& network) {
        edit::Refs refs;
        for (int i = below(3); i >= 0; --i)
            if (const auto device = someDevice(network);
                device && std::find(refs.begin(), refs.end(), model::refTo(device)) == refs.end())
                refs.push_back(model::refTo(device));
        if (const auto link = someLink(network); link && below(3) == 0)
            refs.push_back(model::refTo(link));
        return refs;
    }

private:
    model::IdSource ids_;
    std::mt19937_64 random_;
    model::Catalogue catalogue_;
};

} // namespace underridge::tests
