// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/theme.h"

#include <cmath>

namespace underridge::paint {
using model::RoleFamily;

QColor Theme::spine(model::Role role) const {
    switch (model::familyOf(role)) {
    case RoleFamily::router:
        return QColor(0x2F, 0x6D, 0xB5);
    case RoleFamily::switch_:
        return QColor(0x1F, 0x8A, 0x70);
    case RoleFamily::firewall:
        return QColor(0x8C, 0x5A, 0x2B);
    case RoleFamily::accessPoint:
        return QColor(0x2A, 0x7C, 0x9E);
    case RoleFamily::server:
        return QColor(0xA6, 0x52, 0x8A);
    case RoleFamily::endpoint:
        return QColor(0x6F, 0x75, 0x7E);
    case RoleFamily::patchPanel:
        return QColor(0x7C, 0x66, 0x29);
    case RoleFamily::provider:
        return dark ? QColor(0x67, 0x6E, 0x79) : QColor(0x4A, 0x4F, 0x58);
    }
    return ink;
}

const Theme& lightTheme() {
    static const Theme theme{false,     "#F6F3EC", "#DED7C9", "#FFFFFF", "#C6BEAF", "#262B33", "#5F6570",
                             "#7A4FA3", "#B3261E", "#955800", "#3D6B8E", "#FBFAF6", "#EFEAE0", "#858B94"};
    return theme;
}

const Theme& darkTheme() {
    static const Theme theme{true,      "#1B1F24", "#2B3138", "#262C33", "#434B55", "#E8E4DA", "#A0A6AE",
                             "#B793E0", "#F2867E", "#E8B04A", "#8FB9DA", "#20252B", "#2E353D", "#7F8792"};
    return theme;
}

double contrast(const QColor& a, const QColor& b) {
    const auto luminance = [](const QColor& c) {
        const auto linear = [](double v) {
            return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
        };
        return 0.2126 * linear(c.redF()) + 0.7152 * linear(c.greenF()) + 0.0722 * linear(c.blueF());
    };
    const double x = luminance(a), y = luminance(b);
    return (std::max(x, y) + 0.05) / (std::min(x, y) + 0.05);
}

} // namespace underridge::paint
