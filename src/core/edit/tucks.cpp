// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/tucks.h"

#include "core/edit/many.h"
#include "core/scene/layer_network.h"
#include "core/scene/tucking.h"

#include <set>

namespace underridge::edit {
using namespace model;

std::vector<DeviceId> tuckers(const Network& network, SheetId sheet, const std::vector<DeviceId>& devices) {
    std::vector<DeviceId> out;
    const Network drawn = scene::networkOn(network, sheet);
    const std::set<DeviceId> asked(devices.begin(), devices.end());
    network.all<Position>().forEachIn(sheet.value, [&](const Position& position) {
        const DeviceId id{position.object};
        if (position.of == Kind::device && (asked.empty() || asked.contains(id)) &&
            (position.tucks || !scene::tuckableAt(drawn, sheet, id).empty()))
            out.push_back(id);
    });
    return out;
}

ActResult setTucked(const Network& network, SheetId sheet, const std::vector<DeviceId>& devices,
                    bool tucked) {
    if (!network.sheet(sheet))
        return error("the sheet is no longer there", "choose another");
    Act act{tucked ? "Tuck in endpoints" : "Bring out endpoints", network, {}};
    bool any = false;
    const Network drawn = scene::networkOn(network, sheet);
    for (const DeviceId id : devices) {
        const Position* held = network.position(sheet, id.value);
        if (!held || (tucked && scene::tuckableAt(drawn, sheet, id).empty()))
            continue;
        any = true;
        Position position = *held;
        position.tucks = tucked;
        act.network.put(std::move(position));
        act.subjects.push_back(refTo(id));
    }
    if (!any)
        return error("nothing here has endpoints linked to it alone",
                     "select switches with endpoints on this sheet");
    return act;
}

ActResult setSheetClosing(const Network& network, SheetId sheet, bool closing) {
    return changeEach<Sheet>(network, {{sheet.value, 0}},
                             closing ? "Close groups far away" : "Keep groups open far away",
                             [&](Sheet& held) { held.closing = closing; });
}

} // namespace underridge::edit
