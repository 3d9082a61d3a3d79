// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/glyphs.h"

#include <map>
#include <sstream>

namespace underridge::paint {
using model::GroupKind;
using model::Role;
namespace {

/// M x y: move; L x y: line; Z: close; O x y r: circle; A x y r from span: arc, degrees
/// against the clock.
const char* strokes(Role role) {
    switch (role) {
    case Role::router:
        return "M 2 12 L 7 7 L 7 2 M 7 7 L 12 12 M 4.6 4.4 L 7 2 L 9.4 4.4";
    case Role::switch_:
        return "M 3 2 L 3 12 M 11 2 L 11 12 M 3 4.5 L 11 4.5 M 3 9.5 L 11 9.5";
    case Role::hub:
        return "M 2 7 L 12 7 M 4 7 L 4 3 M 7 7 L 7 3 M 10 7 L 10 3 M 7 7 L 7 12";
    case Role::firewall:
        return "M 2 3 L 12 3 L 12 11 L 2 11 Z M 2 7 L 12 7 M 7 3 L 7 7 M 4.5 7 L 4.5 11 M 9.5 7 L 9.5 11";
    case Role::accessPoint:
        return "M 7 12 L 7 7.5 A 7 10 6 35 110 A 7 10 3 30 120";
    case Role::radioBridge:
        return "M 2 3 L 2 11 M 12 3 L 12 11 M 4.5 7 L 5.5 7 M 6.5 7 L 7.5 7 M 8.5 7 L 9.5 7";
    case Role::server:
        return "M 3 2 L 11 2 L 11 12 L 3 12 Z M 5 5 L 9 5 M 5 8 L 9 8";
    case Role::workstation:
        return "M 2 3 L 12 3 L 12 10 L 2 10 Z M 5 12 L 9 12";
    case Role::portable:
        return "M 3.5 3 L 10.5 3 L 10.5 8.5 L 3.5 8.5 Z M 1.5 11 L 12.5 11";
    case Role::phone:
        return "M 3 3 L 11 11 M 3 3 L 3 6 M 11 11 L 8 11";
    case Role::printer:
        return "M 4 5.5 L 4 2 L 10 2 L 10 5.5 M 2 5.5 L 12 5.5 L 12 10 L 2 10 Z M 4.5 12 L 9.5 12";
    case Role::camera:
        return "M 2 5 L 9 5 L 9 10 L 2 10 Z M 9 7 L 12 5 L 12 10 L 9 8";
    case Role::terminal:
        return "M 3 2 L 11 2 L 11 7 L 3 7 Z M 2 12 L 12 12 L 11 9.5 L 3 9.5 Z";
    case Role::controller:
        return "M 2 2 L 12 2 L 12 12 L 2 12 Z M 5 5 L 9 5 L 9 9 L 5 9 Z";
    case Role::sensor:
        return "O 7 7 2 M 7 2 L 7 3.5 M 7 10.5 L 7 12 M 2 7 L 3.5 7 M 10.5 7 L 12 7";
    case Role::serialServer:
        return "M 2 3 L 5 3 L 5 11 L 8 11 L 8 3 L 11 3 L 11 11 L 12.5 11";
    case Role::patchPanel:
        return "M 2 4 L 12 4 L 12 10 L 2 10 Z M 4.5 7 L 4.6 7 M 7 7 L 7.1 7 M 9.5 7 L 9.6 7";
    case Role::outlet:
        return "M 3 3 L 11 3 L 11 11 L 3 11 Z M 7 7 L 7.1 7";
    case Role::splitter:
        return "M 2 7 L 6 7 L 12 3 M 6 7 L 12 7 M 6 7 L 12 11";
    case Role::mediaConverter:
        return "M 2 7 L 5 7 M 9 5.5 L 12 5.5 M 9 8.5 L 12 8.5 M 5 4 L 9 4 L 9 10 L 5 10 Z";
    case Role::power:
        return "M 8 2 L 4 8 L 7 8 L 6 12 L 10 6 L 7 6 Z";
    case Role::provider:
        return "A 7 7 5 150 -300";
    case Role::unknown:
        return "M 2.5 2.5 L 5 2.5 M 9 2.5 L 11.5 2.5 M 2.5 11.5 L 5 11.5 M 9 11.5 L 11.5 11.5 M 7 7 L 7.1 7";
    }
    return "";
}

const char* strokes(GroupKind kind) {
    switch (kind) {
    case GroupKind::site:
        return "M 1 12 L 13 12 M 3 12 L 3 8 L 6 8 L 6 12 M 8 12 L 8 4 L 11 4 L 11 12";
    case GroupKind::building:
        return "M 3 12 L 3 2 L 11 2 L 11 12 Z M 5.5 5 L 5.6 5 M 8.5 5 L 8.6 5 M 5.5 8.5 L 5.6 8.5 M 8.5 8.5 "
               "L 8.6 8.5";
    case GroupKind::floor:
        return "M 4 4 L 13 4 L 10 10 L 1 10 Z";
    case GroupKind::room:
        return "M 7 12 L 2 12 L 2 2 L 12 2 L 12 12 L 11 12 M 7 12 L 10 9";
    case GroupKind::row:
        return "M 1 12 L 13 12 M 2.5 12 L 2.5 4 M 5.5 12 L 5.5 4 M 8.5 12 L 8.5 4 M 11.5 12 L 11.5 4";
    case GroupKind::rack:
        return "M 3 1.5 L 3 12.5 M 11 1.5 L 11 12.5 M 3 4 L 11 4 M 3 7 L 11 7 M 3 10 L 11 10";
    case GroupKind::cabinet:
        return "M 3 1.5 L 11 1.5 L 11 12.5 L 3 12.5 Z M 8.5 6 L 8.5 8";
    case GroupKind::cluster:
        return "O 4 9.5 2 O 10 9.5 2 O 7 4 2";
    }
    return "";
}

QPainterPath drawn(const char* strokes) {
    QPainterPath path;
    std::istringstream in(strokes);
    char verb = 0;
    double x = 0, y = 0;
    while (in >> verb) {
        if (verb == 'Z') {
            path.closeSubpath();
            continue;
        }
        in >> x >> y;
        if (verb == 'M') {
            path.moveTo(x, y);
        } else if (verb == 'L') {
            path.lineTo(x, y);
        } else if (verb == 'O') {
            double r = 0;
            in >> r;
            path.addEllipse(QPointF(x, y), r, r);
        } else if (verb == 'A') {
            double r = 0, from = 0, span = 0;
            in >> r >> from >> span;
            const QRectF box(x - r, y - r, 2 * r, 2 * r);
            path.arcMoveTo(box, from);
            path.arcTo(box, from, span);
        }
    }
    return path;
}

} // namespace

namespace {

template <class Word>
const QPainterPath& madeOnce(Word word) {
    thread_local std::map<Word, QPainterPath> all;
    const auto at = all.find(word);
    return at != all.end() ? at->second : all.emplace(word, drawn(strokes(word))).first->second;
}

} // namespace

const QPainterPath& glyphOf(Role role) {
    return madeOnce(role);
}

const QPainterPath& glyphOf(GroupKind kind) {
    return madeOnce(kind);
}

} // namespace underridge::paint
