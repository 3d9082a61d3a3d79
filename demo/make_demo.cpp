// SPDX-License-Identifier: GPL-3.0-or-later
// Writes the sample networks by the program's own editing functions: make-demo FOLDER. The place is invented.
#include "core/base/files.h"
#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/edit/sheets.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/own_format.h"

#include <fmt/format.h>
#include <stdexcept>

namespace {

using namespace underridge;
using namespace underridge::model;

/// Applies acts one after the other; any refusal ends the program.
class Maker {
public:
    Maker(const std::string& name, std::uint64_t seed) : ids_(seed), network_(emptyNetwork(name, ids_)) {
        sheet_ = network_.sheetsInOrder().front().id;
    }

    DeviceId add(const std::string& model, const std::string& name, Point at,
                 const std::string& address = {}) {
        const DeviceModel* known = catalogue_.device(model);
        if (!known)
            throw std::runtime_error("no model " + model);
        const auto made = take(edit::placeDevices(network_, sheet_, *known, {{name, at}}, {}, ids_));
        const DeviceId id{made.front().id};
        if (!address.empty())
            take(edit::setAddress(network_, id, {}, address, ids_));
        return id;
    }

    /// Links two devices over the best ports, or the ones named; over a cable of a type when one is named.
    void link(linking::End a, linking::End b, int metres, const std::string& label,
              const std::string& cable = {}) {
        auto pair = linking::bestPair(network_, catalogue_, a, b);
        if (!pair)
            throw std::runtime_error(pair.refusal().text());
        if (!cable.empty())
            for (const linking::Joint& joint :
                 linking::fit(*portAt(network_, pair->a), *portAt(network_, pair->b), catalogue_).joints)
                if (joint.cable == cable) {
                    pair->joint = joint;
                    break;
                }
        const LinkId id{take(edit::makeLink(network_, catalogue_, *pair, ids_)).front().id};
        take(edit::changeEach<Cable>(network_, {{network_.link(id)->cable.value, 0}}, "Cable", [&](Cable& c) {
            c.lengthMm = std::int64_t{metres} * 1000;
            c.label = label;
        }));
    }

    void note(Point at, const std::string& text) { take(edit::addNote(network_, sheet_, at, text, ids_)); }

    void save(const std::string& path) {
        DiskFiles files;
        if (auto done = files.writeAtomically(path, exchange::writeOwn(network_)); !done)
            throw std::runtime_error(done.refusal().text());
    }

private:
    edit::Refs take(edit::ActResult act) {
        if (!act)
            throw std::runtime_error(act.refusal().text());
        network_ = std::move(act->network);
        return act->subjects;
    }

    IdSource ids_;
    Catalogue catalogue_ = exchange::builtInCatalogue();
    Network network_;
    SheetId sheet_;
};

void firstOffice(const std::string& folder) {
    Maker m("First office", 84);
    const auto edge = m.add("border-router", "edge-1", {328, 40}, "10.84.200.1/24");
    const auto wall = m.add("firewall", "wall-1", {328, 152}, "10.84.200.2/24");
    const auto acc = m.add("access-switch-24", "acc-1", {320, 296}, "10.84.99.11/24");
    const auto files = m.add("server", "files-1", {616, 296}, "10.84.30.10/24");
    const auto air = m.add("access-point", "air-1", {64, 440}, "10.84.99.31/24");
    const auto phone = m.add("phone", "phone-1", {232, 440});
    const auto desk = m.add("workstation", "desk-1", {232, 560}, "10.84.30.21/24");
    const auto print = m.add("printer", "print-1", {528, 440}, "10.84.30.41/24");
    m.link({edge, "X1"}, {wall, "X1"}, 2, "OF-001");
    m.link({wall, "X2"}, {acc, "X1"}, 12, "OF-002", "om4-lc");
    m.link({acc, {}}, {files, {}}, 8, "OF-003");
    m.link({acc, {}}, {air, {}}, 24, "OF-004");
    m.link({acc, {}}, {phone, {}}, 15, "OF-005");
    m.link({phone, {}}, {desk, {}}, 2, "OF-006");
    m.link({acc, {}}, {print, {}}, 18, "OF-007");
    m.note({616, 40}, "Ticket office on the Quay level, before the move to the Concourse.");
    m.save(folder + "/first-office.underridge");
}

} // namespace

int main(int argc, char** argv) {
    if (argc != 2) {
        fmt::print(stderr, "usage: make-demo FOLDER\n");
        return 2;
    }
    try {
        firstOffice(argv[1]);
    } catch (const std::exception& wrong) {
        fmt::print(stderr, "make-demo: {}\n", wrong.what());
        return 1;
    }
    return 0;
}
