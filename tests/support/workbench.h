// SPDX-License-Identifier: GPL-3.0-or-later
// A network being built up step by step: what tests of the trade's rules stand on.
#pragma once
#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/edit/sheets.h"
#include "core/exchange/catalogue_file.h"

#include <QString>

namespace underridge::tests {

inline QString text(const std::string& s) {
    return QString::fromStdString(s);
}

struct Workbench {
    Workbench() : ids(1), catalogue(exchange::builtInCatalogue()), network(model::emptyNetwork("t", ids)) {
        sheet = network.sheetsInOrder().front().id;
    }

    model::DeviceId add(const std::string& model, const std::string& name = {}, model::Point at = {}) {
        const auto* known = catalogue.device(model);
        if (!known)
            qFatal("no model %s", model.c_str());
        auto act = edit::placeDevices(network, sheet, *known,
                                      {{name.empty() ? model + std::to_string(++count) : name, at}}, {}, ids);
        take(act);
        return {act->subjects.front().id};
    }
    Result<linking::Proposal> best(const linking::End& a, const linking::End& b) const {
        return linking::bestPair(network, catalogue, a, b);
    }
    model::LinkId link(const linking::End& a, const linking::End& b) {
        const auto pair = best(a, b);
        if (!pair)
            qFatal("%s", pair.refusal().text().c_str());
        auto act = edit::makeLink(network, catalogue, *pair, ids);
        take(act);
        return {act->subjects.front().id};
    }
    const model::Cable& cableOf(model::LinkId id) const { return *network.cable(network.link(id)->cable); }
    model::GroupId group(const char* name, model::GroupKind kind, model::GroupId in = {}) {
        auto act = edit::addGroup(network, name, kind, in, ids);
        take(act);
        return {act->subjects.front().id};
    }
    void shape(model::GroupId id, auto how) {
        model::Group group = *network.group(id);
        how(group);
        network.put(group);
    }
    void place(model::DeviceId id, model::Place place) {
        model::Device device = *network.device(id);
        device.place = place;
        network.put(device);
    }
    void port(const model::PortRef& ref, auto change) { take(edit::changePort(network, ref, "x", change)); }
    /// Whether an act was not refused; its network is the present one then.
    bool take(const edit::ActResult& act) {
        if (act)
            network = act->network;
        return static_cast<bool>(act);
    }

    model::IdSource ids;
    model::Catalogue catalogue;
    model::Network network;
    model::SheetId sheet;
    int count = 0;
};

} // namespace underridge::tests
