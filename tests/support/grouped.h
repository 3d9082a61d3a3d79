// SPDX-License-Identifier: GPL-3.0-or-later
// Networks in groups, made at random but repeatably, and acts on them.
#pragma once
#include "core/edit/groups.h"
#include "tests/support/workbench.h"

#include <random>

namespace underridge::tests {

/// A bench with a tree of groups: devices in rows, some links, frames side by side.
struct Grouped : Workbench {
    explicit Grouped(std::uint64_t seed) : random(seed) {}

    int below(int n) { return static_cast<int>(random() % static_cast<std::uint64_t>(n)); }
    template <class T>
    T any(const std::vector<T>& from) {
        return from[static_cast<std::size_t>(below(static_cast<int>(from.size())))];
    }

    /// `down` levels of `wide` groups each, every one with `each` devices.
    void grow(int down, int wide, int each, model::GroupId in = {}, model::Point at = {}, int span = 8000) {
        for (int i = 0; i < each; ++i) {
            const model::DeviceId id = add("access-switch-24", {}, {at.x + 200 * i, at.y});
            devices.push_back(id);
            if (in)
                join(id, in);
        }
        for (int i = 0; down > 0 && i < wide; ++i) {
            const auto inner = group(("g" + std::to_string(groups.size())).c_str(),
                                     static_cast<model::GroupKind>(below(8)), in);
            groups.push_back(inner);
            grow(down - 1, wide, each, inner, {at.x + i * span / wide, at.y + 200}, span / wide);
        }
    }
    void linkSome(int n) {
        for (int i = 0; i < n; ++i)
            if (const auto pair = best({any(devices), {}}, {any(devices), {}}))
                take(edit::makeLink(network, catalogue, *pair, ids));
    }
    void join(model::DeviceId id, model::GroupId in) {
        model::Device device = *network.device(id);
        device.group = in;
        network.put(device);
    }
    model::ObjectRef anything() { return below(2) ? model::refTo(any(devices)) : model::refTo(any(groups)); }
    bool isThere(model::ObjectRef ref) const { return network.device({ref.id}) || network.group({ref.id}); }

    /// Some act on groups; it may refuse.
    edit::ActResult act() {
        std::erase_if(groups, [&](model::GroupId id) { return !network.group(id); });
        if (groups.empty())
            return error("none left");
        switch (below(11)) {
        case 0:
        case 1:
            return edit::setFolded(network, sheet, {any(groups)}, below(2) == 0);
        case 2:
        case 3:
            return edit::moveObjects(network, sheet, {anything()}, {below(900) - 450, below(900) - 450});
        case 4:
            return edit::moveInto(network, {anything()}, below(4) ? any(groups) : model::GroupId{});
        case 5: {
            auto made = edit::makeGroup(network, sheet, "made", model::GroupKind::cluster,
                                        {anything(), anything()}, {}, ids);
            if (made)
                groups.push_back({made->subjects.front().id});
            return made;
        }
        case 6:
            return bend();
        default:
            return below(4)
                       ? edit::drawGroup(network, sheet, any(groups),
                                         {below(3000) - 1500, below(3000) - 1500}, below(2000), below(1000))
                       : edit::ungroup(network, sheet, {any(groups)});
        }
    }

    /// A bend or two in some link; it may refuse.
    edit::ActResult bend() {
        std::vector<model::LinkId> links;
        network.all<model::Link>().forEach([&](const model::Link& each) { links.push_back(each.id); });
        if (links.empty())
            return error("none there");
        std::vector<model::Point> bends;
        for (int i = 0; i <= below(2); ++i)
            bends.push_back({below(8000), below(1200) - 300});
        return edit::setBends(network, {sheet}, any(links), std::move(bends));
    }

    std::vector<model::DeviceId> devices;
    std::vector<model::GroupId> groups;
    std::mt19937_64 random;
};

} // namespace underridge::tests
