// SPDX-License-Identifier: GPL-3.0-or-later
// What lines run through that they should go round.
#pragma once
#include "core/scene/scene.h"

#include <algorithm>

namespace underridge::tests {

/// How many plates and tiles a line runs through that are at neither of its ends.
inline int platesMet(const scene::Scene& scene, const scene::LinkLine& line) {
    int met = 0;
    scene.forEachItem([&](const scene::Item& item) {
        if (item.layer != scene::Layer::plates || item.object == line.a || item.object == line.b)
            return;
        const scene::Rect frame = scene::frameOf(item);
        for (std::size_t i = 0; i + 1 < line.path.size(); ++i)
            if (scene::segmentMeets(line.path[i], line.path[i + 1], frame)) {
                ++met;
                break;
            }
    });
    return met;
}

/// The same of all lines together.
inline int platesMet(const scene::Scene& scene) {
    int met = 0;
    scene.forEachLink([&](const scene::LinkLine& line) { met += platesMet(scene, line); });
    return met;
}

} // namespace underridge::tests
