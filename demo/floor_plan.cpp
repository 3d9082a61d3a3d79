// SPDX-License-Identifier: GPL-3.0-or-later
#include "demo/floor_plan.h"

#include <fmt/format.h>

namespace underridge::demo {
namespace {

double units(double metres) {
    return metres * 1000 / floorPlanMm;
}

std::string box(double x, double y, double w, double h, double stroke) {
    return fmt::format("<rect x=\"{:g}\" y=\"{:g}\" width=\"{:g}\" height=\"{:g}\" stroke-width=\"{:g}\"/>\n",
                       units(x), units(y), units(w), units(h), stroke);
}

std::string line(double x1, double y1, double x2, double y2, double stroke, const char* more = "") {
    return fmt::format("<path d=\"M{:g} {:g}L{:g} {:g}\" stroke-width=\"{:g}\"{}/>\n", units(x1), units(y1),
                       units(x2), units(y2), stroke, more);
}

/// A leaf of a door and the quarter it swings through, hinged at a point of a wall below
/// which it opens.
std::string door(double x, double y) {
    constexpr double leaf = 1.1;
    return fmt::format("<path d=\"M{:g} {:g}v{:g}A{:g} {:g} 0 0 0 {:g} {:g}\" stroke-width=\"1.5\"/>\n",
                       units(x), units(y), units(leaf), units(leaf), units(leaf), units(x + leaf), units(y));
}

} // namespace

std::string floorPlanSvg(const FloorPlan& plan) {
    std::string out = fmt::format("<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {0:g} {1:g}\">\n"
                                  "<g fill=\"none\" stroke=\"#000\" stroke-linejoin=\"round\">\n",
                                  units(plan.w), units(plan.h));
    out += box(0.2, 0.2, plan.w - 0.4, plan.h - 0.4, 8);
    for (double x = 3; x + 3 < plan.w; x += 6) { // windows
        out += line(x, 0.1, x + 3, 0.1, 2);
        out += line(x, plan.h - 0.1, x + 3, plan.h - 0.1, 2);
    }
    for (double x = 14; x < plan.w; x += 14) // columns
        for (const double y : {12.0, 24.0})
            if (y + 1 < plan.h)
                out += box(x - 0.25, y - 0.25, 0.5, 0.5, 3);
    for (const Room& room : plan.rooms) {
        out += box(room.x, room.y, room.w, room.h, 4);
        out += door(room.x + room.w / 2, room.y + room.h);
    }
    if (plan.hasStairs()) {
        for (int step = 0; step <= 8; ++step) // beside the riser
            out += line(10 + step * 0.5, 1, 10 + step * 0.5, 5, 1.5);
        out += box(10, 1, 4, 4, 2);
    }
    out += "</g>\n<g fill=\"#000\" fill-opacity=\"0.6\" font-family=\"Inter\" font-size=\"22\">\n";
    for (const Room& room : plan.rooms)
        out += fmt::format("<text x=\"{:g}\" y=\"{:g}\">{}</text>\n", units(room.x + 0.6),
                           units(room.y + 1.6), room.name);
    return out + "</g>\n</svg>\n";
}

} // namespace underridge::demo
