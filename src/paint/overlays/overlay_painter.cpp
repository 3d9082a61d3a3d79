// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/overlays/overlay_painter.h"

#include "core/scene/lines.h"
#include "core/scene/text_width.h"
#include "core/scene/trouble.h"

#include <QFontInfo>
#include <QGuiApplication>
#include <QObject>
#include <QStringList>
#include <algorithm>
#include <cmath>
#include <map>
#include <optional>
#include <set>
#include <tuple>
#include <utility>

namespace underridge::paint {
using scene::LinkLine;
using scene::Plate;
namespace {

/// The point half way along a line.
scene::PointF middleOf(const std::vector<scene::PointF>& path) {
    double length = 0;
    const auto piece = [&](std::size_t i) {
        return std::hypot(path[i + 1].x - path[i].x, path[i + 1].y - path[i].y);
    };
    for (std::size_t i = 0; i + 1 < path.size(); ++i)
        length += piece(i);
    double left = length / 2;
    for (std::size_t i = 0; i + 1 < path.size(); ++i) {
        if (left <= piece(i) && piece(i) > 0) {
            const double t = left / piece(i);
            return {path[i].x + t * (path[i + 1].x - path[i].x), path[i].y + t * (path[i + 1].y - path[i].y)};
        }
        left -= piece(i);
    }
    return path.front();
}

/// What several badges come to: "2 × break, root".
class Badges {
public:
    void add(const paint::Overlay::Mark& mark) {
        if (!mark.badge.isEmpty())
            ++counts_[{mark.rank, mark.badge}];
    }
    int rank() const { return counts_.empty() ? 0 : counts_.begin()->first.first; }
    QString text() const {
        constexpr int most = 4; // more are told by their number
        QStringList words;
        for (const auto& [badge, count] : counts_)
            words << (count == 1 ? badge.second : QObject::tr("%1 × %2").arg(count).arg(badge.second));
        if (words.size() > most + 1) {
            const auto more = words.size() - most;
            words = words.mid(0, most);
            words << QObject::tr("%1 more").arg(more);
        }
        return words.join(QStringLiteral(", "));
    }

private:
    std::map<std::pair<int, QString>, int> counts_;
};

/// Which line several links are drawn as.
class MergedLines {
public:
    explicit MergedLines(const scene::Scene& scene) : scene_(scene) {}

    std::optional<model::LinkId> lineOf(model::LinkId link) {
        if (!std::exchange(filled_, true))
            for (const LinkLine* line : scene_.itemsIn(scene_.bounds()).of<LinkLine>())
                for (const model::LinkId each : line->merged)
                    lines_[each] = line->id;
        const auto at = lines_.find(link);
        return at == lines_.end() ? std::nullopt : std::optional(at->second);
    }

private:
    const scene::Scene& scene_;
    bool filled_ = false;
    std::map<model::LinkId, model::LinkId> lines_;
};

/// The items an object is seen at: itself, the line of several links, else what stands for
/// its devices, each once.
std::vector<model::ObjectRef> seenAs(const model::Network& network, const scene::Scene& scene,
                                     MergedLines& merged, model::ObjectRef object) {
    if (scene.item(object))
        return {object};
    if (object.kind == model::Kind::link) {
        if (const LinkLine* line = scene.link({object.id})) // a part of a chain, on the data link layer
            return {line->object()};
        if (const auto line = merged.lineOf({object.id}))
            return {refTo(*line)};
    }
    std::vector<model::ObjectRef> out;
    for (const model::DeviceId device : scene::devicesAt(network, object.id))
        if (const auto anchor = scene.anchorOf(device);
            anchor && std::find(out.begin(), out.end(), anchor->shown) == out.end())
            out.push_back(anchor->shown);
    if (object.kind == model::Kind::link && out.size() > 1)
        out.clear(); // it leads from one to the other, and is not drawn
    return out;
}

} // namespace

ShownMarks::ShownMarks(const model::Network& network, const scene::Scene& scene,
                       const OverlayList& overlays) {
    MergedLines merged(scene);
    std::vector<Overlay::Way> ways;
    for (const auto& overlay : overlays) {
        ways.insert(ways.end(), overlay->ways().begin(), overlay->ways().end());
        std::map<model::ObjectRef, std::pair<float, Badges>> gathered;
        for (const auto& [object, mark] : overlay->marks())
            for (const model::ObjectRef seen : seenAs(network, scene, merged, object)) {
                auto& [strength, badges] = gathered[seen];
                const bool inside = object.kind == model::Kind::link && seen.kind != model::Kind::link;
                strength =
                    inside ? strength : std::max(strength, mark.strength); // a link inside lights no tile
                badges.add(mark);
            }
        for (const auto& [object, said] : gathered) {
            const scene::Item* item = scene.item(object);
            if (!item)
                continue;
            ShownMark mark{object,
                           item->bounds,
                           said.first,
                           said.second.text(),
                           said.second.rank(),
                           {item->bounds.x, item->bounds.y}};
            const auto* line = item->as<LinkLine>();
            if (line && !line->path.empty())
                mark.badgeAt = middleOf(line->path);
            else if (object.kind == model::Kind::group) // whose name is at the top
                mark.badgeAt = {item->bounds.centre().x, item->bounds.bottom()};
            if (mark.strength > 0 || !mark.badge.isEmpty())
                marks_.push_back(std::move(mark));
        }
    }
    ways_ = shownWays(scene, ways);
}

namespace {

/// What leads from one item along a side: one trunk, so far out that no other is in its place.
struct Trunk {
    const scene::Rect* from;
    std::vector<const scene::Rect*> to;
    bool left;
    double edge;      ///< of the plates it runs beside
    double low, high; ///< downwards
    int place = 0;    ///< from the plates outwards
};

void setPlaces(std::vector<Trunk>& trunks) {
    constexpr double sameEdge = 60;
    constexpr int places = 6;
    for (std::size_t i = 0; i < trunks.size(); ++i) {
        Trunk& trunk = trunks[i];
        const auto isTaken = [&](const Trunk& other) {
            return other.left == trunk.left && other.place == trunk.place &&
                   std::abs(other.edge - trunk.edge) < sameEdge && other.low < trunk.high &&
                   trunk.low < other.high;
        };
        const auto end = trunks.begin() + static_cast<std::ptrdiff_t>(i);
        while (trunk.place + 1 < places && std::any_of(trunks.begin(), end, isTaken))
            ++trunk.place;
    }
}

} // namespace

std::vector<std::vector<scene::PointF>> shownWays(const scene::Scene& scene,
                                                  const std::vector<Overlay::Way>& ways) {
    std::vector<std::vector<scene::PointF>> out;
    std::map<model::ObjectRef, scene::Anchor> anchors;
    std::map<std::pair<model::ObjectRef, bool>, Trunk> found;
    std::set<std::tuple<model::ObjectRef, model::ObjectRef, bool>> drawn;
    for (const Overlay::Way& way : ways) {
        const auto a = scene.anchorOf(way.from), b = scene.anchorOf(way.to);
        if (!a || !b || a->shown == b->shown || !drawn.insert({a->shown, b->shown, way.left}).second)
            continue;
        const scene::Rect& from = anchors.try_emplace(a->shown, *a).first->second.frame;
        const scene::Rect& to = anchors.try_emplace(b->shown, *b).first->second.frame;
        if (from.x >= to.right() || to.x >= from.right()) {
            out.push_back(
                {scene::leavingFrom(*a, -1, to.centre()), scene::leavingFrom(*b, -1, from.centre())});
            continue;
        }
        const auto outer = [&](const scene::Rect& plate) { return way.left ? plate.x : plate.right(); };
        const double y = from.centre().y;
        Trunk& trunk =
            found.try_emplace({a->shown, way.left}, Trunk{&from, {}, way.left, outer(from), y, y, 0})
                .first->second;
        trunk.to.push_back(&to);
        trunk.edge = way.left ? std::min(trunk.edge, outer(to)) : std::max(trunk.edge, outer(to));
        trunk.low = std::min(trunk.low, to.centre().y);
        trunk.high = std::max(trunk.high, to.centre().y);
    }
    std::vector<Trunk> trunks;
    for (auto& [key, trunk] : found)
        trunks.push_back(std::move(trunk));
    setPlaces(trunks);
    constexpr double first = 11, apart = 3; // clear of the halos
    for (const Trunk& trunk : trunks) {
        const double x = trunk.edge + (trunk.left ? -1 : 1) * (first + apart * trunk.place);
        const auto outer = [&](const scene::Rect& plate) { return trunk.left ? plate.x : plate.right(); };
        for (const scene::Rect* to : trunk.to)
            out.push_back({{outer(*trunk.from), trunk.from->centre().y},
                           {x, trunk.from->centre().y},
                           {x, to->centre().y},
                           {outer(*to), to->centre().y}});
    }
    return out;
}

void ShownMarks::paintWays(QPainter& painter, const Theme& theme, const scene::Rect& seen,
                           double zoom) const {
    constexpr double wide = 2, plug = 3; // in sheet units
    painter.setRenderHint(QPainter::Antialiasing);
    for (const auto& path : ways_) {
        QPolygonF line;
        for (const scene::PointF p : path)
            line << QPointF(p.x, p.y);
        const QRectF box = line.boundingRect();
        if (!scene::Rect{box.x(), box.y(), box.width(), box.height()}.grown(wide).intersects(seen))
            continue;
        QPen pen(theme.accent, std::max(wide, 1.2 / zoom));
        pen.setJoinStyle(Qt::RoundJoin);
        painter.setPen(pen);
        painter.setBrush(Qt::NoBrush);
        painter.drawPolyline(line);
        painter.setBrush(theme.accent); // a plug at what is fed
        painter.drawEllipse(line.back(), plug, plug);
    }
}

void ShownMarks::paintHalos(QPainter& painter, SheetPainter& sheetPainter, const scene::Scene& scene,
                            const scene::Rect& seen, double zoom) const {
    paintWays(painter, sheetPainter.theme(), seen, zoom);
    for (const ShownMark& mark : marks_) {
        if (mark.strength <= 0 || !mark.bounds.intersects(seen))
            continue;
        const scene::Item* item = scene.item(mark.item);
        const auto* line = item ? item->as<LinkLine>() : nullptr;
        if (!line) {
            sheetPainter.selection(painter, mark.bounds, zoom);
            continue;
        }
        sheetPainter.markedLine(painter, *line, zoom, mark.strength);
        for (const model::ObjectRef end : {line->a, line->b})
            if (const Plate* plate = scene.plate({end.id}))
                sheetPainter.plate(painter, *plate, scene::detailFor(zoom), zoom);
    }
}

namespace {

constexpr double badgePx = 12, badgePadding = 4; // on the screen

/// About where its badge is, in pixels of the whole sheet.
QRectF badgeBox(const ShownMark& mark, double zoom) {
    const double w = scene::textWidth(mark.badge.toStdString(), badgePx, scene::Weight::semiBold) +
                     2 * badgePadding,
                 h = badgePx + 2 * badgePadding;
    return {mark.badgeAt.x * zoom - w / 2, mark.badgeAt.y * zoom - h / 2, w, h};
}

/// Boxes by the cells they lie in.
class Boxes {
public:
    /// Whether there was room for it.
    bool put(const QRectF& box) {
        bool free = true;
        forEachCell(box, [&](auto& held) {
            for (const QRectF& other : held)
                free = free && !other.intersects(box);
        });
        if (free)
            forEachCell(box, [&](auto& held) { held.push_back(box); });
        return free;
    }

private:
    template <class Each>
    void forEachCell(const QRectF& box, Each&& each) {
        constexpr double size = 96;
        for (int x = static_cast<int>(std::floor(box.left() / size)); x <= std::floor(box.right() / size);
             ++x)
            for (int y = static_cast<int>(std::floor(box.top() / size)); y <= std::floor(box.bottom() / size);
                 ++y)
                each(cells_[{x, y}]);
    }
    std::map<std::pair<int, int>, std::vector<QRectF>> cells_;
};

} // namespace

const std::vector<std::size_t>& ShownMarks::badgesAt(double zoom) const {
    if (badgeZoom_ == zoom)
        return badges_;
    std::vector<std::size_t> order;
    for (std::size_t i = 0; i < marks_.size(); ++i)
        if (!marks_[i].badge.isEmpty())
            order.push_back(i);
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return marks_[a].rank < marks_[b].rank; });
    Boxes taken;
    std::erase_if(order, [&](std::size_t i) { return !taken.put(badgeBox(marks_[i], zoom)); });
    badges_ = std::move(order);
    badgeZoom_ = zoom;
    return badges_;
}

void ShownMarks::paintBadges(QPainter& painter, const Theme& theme, const scene::Rect& seen,
                             double zoom) const {
    QFont font = painter.font();
    font.setPixelSize(static_cast<int>(badgePx));
    font.setWeight(QFont::DemiBold);
    painter.setRenderHint(QPainter::Antialiasing);
    for (const std::size_t i : badgesAt(zoom)) {
        const ShownMark& mark = marks_[i];
        if (!mark.bounds.intersects(seen))
            continue;
        painter.save();
        painter.translate(mark.badgeAt.x, mark.badgeAt.y);
        painter.scale(1 / zoom, 1 / zoom);
        painter.setFont(font);
        const double w = painter.fontMetrics().horizontalAdvance(mark.badge) + 2 * badgePadding,
                     h = badgePx + 2 * badgePadding;
        const QRectF box(-w / 2, -h / 2, w, h);
        painter.setPen(QPen(theme.accent, 1.5));
        painter.setBrush(theme.plate);
        painter.drawRoundedRect(box, h / 2, h / 2);
        painter.setPen(theme.ink);
        painter.drawText(box, Qt::AlignCenter, mark.badge);
        painter.restore();
    }
}

void paintLegends(QPainter& painter, const Theme& theme, const OverlayList& overlays, QSize surface) {
    constexpr int edge = 12, padding = 8;
    QFont font = QGuiApplication::font();           // whatever was painted before
    font.setPixelSize(QFontInfo(font).pixelSize()); // and however fine the device's dots are
    painter.setFont(font);
    const int height = painter.fontMetrics().height() + 2 * padding;
    int y = surface.height() - edge - height;
    painter.setRenderHint(QPainter::Antialiasing);
    for (const auto& overlay : overlays) {
        const QString words = painter.fontMetrics().elidedText(
            overlay->legend(), Qt::ElideMiddle, std::max(60, surface.width() / 2 - edge - 4 * padding));
        const QRect box(edge, y, painter.fontMetrics().horizontalAdvance(words) + 4 * padding, height);
        painter.setPen(QPen(theme.edge, 1));
        painter.setBrush(theme.plate);
        painter.drawRoundedRect(box, 6, 6);
        QColor halo = theme.accent;
        halo.setAlphaF(0.4F);
        painter.fillRect(QRect(box.left() + padding, box.center().y() - 3, padding + 4, 7), halo);
        painter.setPen(theme.ink);
        painter.drawText(box.adjusted(3 * padding, 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, words);
        y -= height + 4;
    }
}

} // namespace underridge::paint
