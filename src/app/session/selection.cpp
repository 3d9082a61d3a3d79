// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/selection.h"

#include "core/model/references.h"

namespace underridge::app {
using namespace model;

std::vector<DeviceId> Selection::devices() const {
    std::vector<DeviceId> out;
    for (const ObjectRef object : objects_)
        if (object.kind == Kind::device)
            out.push_back({object.id});
    return out;
}

bool Selection::contains(ObjectRef object) const {
    return std::find(objects_.begin(), objects_.end(), object) != objects_.end();
}

void Selection::select(edit::Refs objects) {
    if (objects == objects_ && port_ == PortRef{})
        return;
    objects_ = std::move(objects);
    port_ = {};
    Q_EMIT changed();
}

void Selection::toggle(ObjectRef object) {
    edit::Refs next = objects_;
    if (std::erase(next, object) == 0)
        next.push_back(object);
    select(std::move(next));
}

void Selection::selectPort(const PortRef& port) {
    objects_ = {refTo(port.device)};
    port_ = port;
    Q_EMIT changed();
}

void Selection::follow(const Network& network, edit::Refs objects) {
    objects_ = std::move(objects);
    std::erase_if(objects_, [&](ObjectRef object) { return !isThere(network, object); });
    if (objects_ != edit::Refs{refTo(port_.device)})
        port_ = {};
}

} // namespace underridge::app
