// SPDX-License-Identifier: GPL-3.0-or-later
// Eight devices for a first look.
#include "demo/maker.h"

namespace underridge::demo {

void makeFirstOffice(const std::string& folder) {
    Maker m("First office", 84);
    const auto edge = m.add("border-router", "edge-1", {328, 40}, "10.84.200.1/24");
    const auto wall = m.add("firewall", "wall-1", {328, 152}, "10.84.200.2/24");
    const auto acc = m.add("access-switch-24", "acc-1", {320, 296}, "10.84.99.11/24");
    const auto files = m.add("server", "files-1", {616, 296}, "10.84.30.10/24");
    const auto air = m.add("access-point", "air-1", {64, 440}, "10.84.99.31/24");
    const auto phone = m.add("phone", "phone-1", {232, 440});
    const auto desk = m.add("workstation", "desk-1", {232, 560}, "10.84.30.21/24");
    const auto print = m.add("printer", "print-1", {528, 440}, "10.84.30.41/24");
    m.link({edge, "X1"}, {wall, "X1"}, {2, "OF-001", {}});
    m.link({wall, "X2"}, {acc, "X1"}, {12, "OF-002", "om4-lc"});
    m.link({acc, {}}, {files, {}}, {8, "OF-003", {}});
    m.link({acc, {}}, {air, {}}, {24, "OF-004", {}});
    m.link({acc, {}}, {phone, {}}, {15, "OF-005", {}});
    m.link({phone, {}}, {desk, {}}, {2, "OF-006", {}});
    m.link({acc, {}}, {print, {}}, {18, "OF-007", {}});
    m.note({616, 40}, "Ticket office on the Quay level, before the move to the Concourse.");
    m.save(folder + "/first-office.underridge");
}

} // namespace underridge::demo
