// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/sheet_painter.h"

#include "core/scene/lines.h"
#include "core/scene/text_width.h"
#include "paint/glyphs.h"
#include "paint/pens.h"
#include "paint/plan_pictures.h"

namespace underridge::paint {
using scene::Detail;
using scene::LinkForm;
using scene::LinkLine;
using scene::Plate;
using scene::PointF;
using scene::Rect;
using scene::Weight;
namespace {

/// Fonts are set this much larger and drawn that much smaller, because font sizes are
/// whole pixels.
constexpr double fontScale = 4;
constexpr double dotPitch = 16;
constexpr double minContrast = 3;
/// How much is left of what the filter of a sheet leaves out.
constexpr double faintness = 0.22;

QFont sheetFont(QFont::Weight weight) {
    QFont font(QString::fromLatin1(scene::sheetFont));
    font.setWeight(weight);
    font.setHintingPreference(QFont::PreferNoHinting);
    font.setKerning(false);
    font.setStyleStrategy(QFont::PreferAntialias);
    return font;
}

/// The colour mixed with the ink until it stands out from the sheet.
QColor lightened(const QColor& colour, const Theme& theme) {
    QColor out = colour;
    for (int i = 0; i < 10 && contrast(out, theme.sheet) < minContrast; ++i)
        out = QColor((out.red() * 4 + theme.ink.red()) / 5, (out.green() * 4 + theme.ink.green()) / 5,
                     (out.blue() * 4 + theme.ink.blue()) / 5);
    return out;
}

constexpr double cornerRadius = 7; ///< of lines along the axes

/// The path moved sideways by `offset`, joined at the middle of each bend.
std::vector<PointF> sideways(const std::vector<PointF>& path, double offset) {
    if (offset == 0)
        return path;
    std::vector<PointF> out;
    for (std::size_t i = 0; i < path.size(); ++i) {
        PointF normal{};
        const auto add = [&](PointF from, PointF to) {
            const PointF d = to - from;
            if (const double l = length(d); l > 0)
                normal = normal + PointF{-d.y / l, d.x / l};
        };
        if (i > 0)
            add(path[i - 1], path[i]);
        if (i + 1 < path.size())
            add(path[i], path[i + 1]);
        // At a bend further out, so that both pieces stay as far aside.
        const double l = length(normal), further = i > 0 && i + 1 < path.size() ? 2 / std::max(l, 1.2) : 1;
        out.push_back(l > 0 ? path[i] + normal * (offset * further / l) : path[i]);
    }
    return out;
}

/// What is drawn without anything being selected.
scene::Items drawnOf(scene::Items items) {
    const auto isLine = [](const scene::Item* item) { return item->as<LinkLine>() != nullptr; };
    const auto first = std::find_if(items.all().begin(), items.all().end(), isLine);
    if (first == items.all().end() || !(*first)->as<LinkLine>()->onDemand) // all of a sheet are alike
        return items;
    std::vector<const scene::Item*> drawn;
    for (const scene::Item* item : items.all())
        if (!isLine(item))
            drawn.push_back(item);
    return scene::Items(std::move(drawn));
}

} // namespace

QRectF toQt(const Rect& r) {
    return {r.x, r.y, r.w, r.h};
}
QPointF toQt(PointF p) {
    return {p.x, p.y};
}
Rect fromQt(const QRectF& r) {
    return {r.x(), r.y(), r.width(), r.height()};
}
PointF fromQt(QPointF p) {
    return {p.x(), p.y()};
}

SheetPainter::SheetPainter(const Theme& theme)
    : theme_(theme), regular_(sheetFont(QFont::Normal)), semiBold_(sheetFont(QFont::DemiBold)) {}

void SheetPainter::paint(QPainter& painter, const scene::Scene& scene, const Rect& area, double zoom) {
    paint(painter, scene, area, zoom, scene::detailFor(zoom));
}

void SheetPainter::paint(QPainter& painter, const scene::Scene& whole, const Rect& area, double zoom,
                         Detail detail) {
    const auto seen = whole.seenAt(detail == Detail::far ? zoom : 1);
    const scene::Scene& scene = *seen;
    background(painter, area, zoom);
    const scene::Items items = drawnOf(scene.itemsIn(area));
    for (const scene::PlanPicture* plan : items.of<scene::PlanPicture>())
        drawPlan(painter, *plan, area, theme_);
    std::vector<scene::Bundle> bundles;
    const auto draw = [&](const scene::Items& some) {
        if (detail == Detail::far)
            bundles = far(painter, some, zoom);
        else
            each(painter, some.all(), detail, zoom);
    };
    if (!scene.filtered()) {
        draw(items);
    } else { // what the filter leaves out lies below what it finds
        std::vector<const scene::Item*> faint, lit;
        for (const scene::Item* item : items.all())
            (item->faint ? faint : lit).push_back(item);
        const double opacity = painter.opacity();
        painter.setOpacity(opacity * faintness);
        draw(scene::Items(std::move(faint)));
        painter.setOpacity(opacity);
        draw(scene::Items(std::move(lit)));
    }
    if (detail == Detail::far)
        return farNames(painter, scene, bundles, area, zoom);
    for (const scene::RouteLine* each : items.of<scene::RouteLine>())
        routeLabel(painter, *each);
    if (detail != Detail::middle)
        for (const scene::Label& each : scene.labelsIn(area))
            label(painter, each);
    else
        for (const LinkLine* each : items.of<LinkLine>())
            mergedCount(painter, scene, *each, zoom);
}

void SheetPainter::each(QPainter& painter, const std::vector<const scene::Item*>& items, Detail detail,
                        double zoom) {
    painter.setRenderHint(QPainter::Antialiasing);
    if (detail == Detail::near || detail == Detail::close) {
        std::vector<const LinkLine*> lines;
        for (const scene::Item* item : items)
            if (const LinkLine* line = item->as<LinkLine>())
                lines.push_back(line);
        underpasses_ = scene::passingUnder(lines);
    }
    for (const scene::Item* item : items)
        std::visit(
            [&]<class Shape>(const Shape& shape) {
                if constexpr (std::is_same_v<Shape, LinkLine>)
                    line(painter, shape, detail, zoom);
                else if constexpr (std::is_same_v<Shape, Plate>)
                    plate(painter, shape, detail, zoom);
                else if constexpr (std::is_same_v<Shape, scene::Frame>)
                    frame(painter, shape, detail, zoom);
                else if constexpr (std::is_same_v<Shape, scene::Tile>)
                    tile(painter, shape, detail, zoom);
                else if constexpr (std::is_same_v<Shape, scene::Doorway>)
                    doorway(painter, shape, detail);
                else if constexpr (std::is_same_v<Shape, scene::NoteCard>)
                    note(painter, shape, detail);
                else if constexpr (std::is_same_v<Shape, scene::RouteLine>)
                    route(painter, shape, detail);
                // A plan lies below everything: it is drawn already.
            },
            item->shape);
    underpasses_.clear();
}

void SheetPainter::background(QPainter& painter, const Rect& area, double zoom) {
    painter.fillRect(toQt(area), theme_.sheet);
    if (zoom < 0.45)
        return;
    const double first = std::floor(area.x / dotPitch) * dotPitch,
                 top = std::floor(area.y / dotPitch) * dotPitch;
    const double size = 1.4 / std::max(1.0, zoom);
    for (double y = top; y <= area.bottom(); y += dotPitch)
        for (double x = first; x <= area.right(); x += dotPitch)
            painter.fillRect(QRectF(x - size / 2, y - size / 2, size, size), theme_.dots);
}

void SheetPainter::plate(QPainter& painter, const Plate& item, Detail detail, double zoom) {
    if (detail == Detail::far) {
        painter.fillRect(toQt(item.frame), item.subnet ? theme_.socket : theme_.spine(item.role));
        return;
    }
    if (item.subnet)
        return subnet(painter, item, detail, zoom);
    const QRectF frame = toQt(item.frame);
    QPen edge(theme_.edge, 1);
    if (item.outside)
        edge.setStyle(Qt::DotLine);
    painter.setPen(edge);
    painter.setBrush(theme_.plate);
    painter.drawRoundedRect(frame, 6, 6);
    QPainterPath spine;
    spine.moveTo(frame.left() + scene::spineWidth, frame.top());
    spine.lineTo(frame.left() + 6, frame.top());
    spine.quadTo(frame.topLeft(), QPointF(frame.left(), frame.top() + 6));
    spine.lineTo(frame.left(), frame.bottom() - 6);
    spine.quadTo(frame.bottomLeft(), QPointF(frame.left() + 6, frame.bottom()));
    spine.lineTo(frame.left() + scene::spineWidth, frame.bottom());
    spine.closeSubpath();
    painter.fillPath(spine, theme_.spine(item.role));

    glyph(painter, glyphOf(item.role),
          {frame.left() + (scene::spineWidth - glyphBox) / 2, frame.center().y() - glyphBox / 2},
          theme_.glyph());

    badge(painter, item);
    plateText(painter, item, detail, zoom);
    rail(painter, item);
}

void SheetPainter::plateText(QPainter& painter, const Plate& item, Detail detail, double zoom) {
    if (detail == Detail::middle) {
        const scene::PlateName name = scene::nameOn(item, zoom);
        for (const auto& line : name.lines)
            text(painter, toQt(line.baseline), line.text, name.size, Weight::semiBold, theme_.ink);
        return;
    }
    const QRectF frame = toQt(item.frame);
    const double left = frame.left() + scene::spineWidth + 6;
    const double top = item.subline.empty() ? frame.center().y() + scene::nameSize * 0.36 : frame.top() + 16;
    text(painter, {left, top}, item.name, scene::nameSize, Weight::semiBold, theme_.ink);
    text(painter, {left, frame.top() + 29}, item.subline, scene::sublineSize, Weight::regular, theme_.muted);
}

/// Round at its ends, as no device is, with a line that others join.
void SheetPainter::subnet(QPainter& painter, const Plate& item, Detail detail, double zoom) {
    const QRectF frame = toQt(item.frame);
    painter.setPen(QPen(theme_.muted, 1.4));
    painter.setBrush(theme_.frame);
    painter.drawRoundedRect(frame, frame.height() / 2, frame.height() / 2);
    const QPointF middle(frame.left() + scene::spineWidth / 2 + 3, frame.center().y());
    painter.drawLine(middle - QPointF(6, 0), middle + QPointF(6, 0));
    for (const double x : {-4.0, 0.0, 4.0})
        painter.drawLine(middle + QPointF(x, 0), middle + QPointF(x, x == 0 ? -4.5 : 4.5));
    plateText(painter, item, detail, zoom);
}

/// How many endpoints are tucked in, role by role or all together.
void SheetPainter::badge(QPainter& painter, const Plate& item) {
    const QRectF area = toQt(item.badge());
    if (area.isEmpty())
        return;
    painter.setPen(QPen(theme_.socket, 1));
    painter.setBrush(theme_.frame);
    painter.drawRoundedRect(area, 4, 4);
    double x = area.left() + 5;
    const auto add = [&](model::Role role, int number) {
        const std::string words = std::to_string(number);
        glyph(painter, glyphOf(role), {x, area.center().y() - scene::badgeGlyph / 2}, theme_.muted,
              scene::badgeGlyph / glyphBox);
        x += scene::badgeGlyph + 2;
        text(painter, {x, area.center().y() + scene::sublineSize * 0.36}, words, scene::sublineSize,
             Weight::semiBold, theme_.ink);
        x += scene::textWidth(words, scene::sublineSize, Weight::semiBold) + 5;
    };
    const std::size_t roles = item.rolesOnBadge();
    int all = 0;
    for (std::size_t i = 0; i < item.tucked.size(); ++i) {
        all += item.tucked[i].second;
        if (i < roles)
            add(item.tucked[i].first, item.tucked[i].second);
    }
    if (roles == 0)
        add(item.tucked.front().first, all);
}

void SheetPainter::rail(QPainter& painter, const Plate& item) {
    painter.setBrush(Qt::NoBrush);
    for (int i = 0; i < static_cast<int>(item.ticks.size()); ++i) {
        const QRectF tick = toQt(item.rail.tick(i));
        switch (item.ticks[static_cast<std::size_t>(i)]) {
        case scene::Tick::used:
            painter.fillRect(tick, theme_.ink);
            break;
        case scene::Tick::free:
            painter.setPen(QPen(theme_.socket, 0.7));
            painter.drawRect(tick.adjusted(0.35, 0.35, -0.35, -0.35));
            break;
        case scene::Tick::reserved:
            painter.setPen(QPen(theme_.socket, 0.7));
            painter.drawRect(tick.adjusted(0.35, 0.35, -0.35, -0.35));
            painter.fillRect(QRectF(tick.left(), tick.center().y() - 0.5, tick.width(), 1), theme_.muted);
            break;
        case scene::Tick::disabled:
            painter.setPen(QPen(theme_.muted, 0.8));
            painter.drawLine(tick.topLeft(), tick.bottomRight());
            painter.drawLine(tick.bottomLeft(), tick.topRight());
            break;
        }
    }
}

void SheetPainter::strands(QPainter& painter, const LinkLine& item, double offset, const QPen& pen) {
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    if (const auto under = underpasses_.find(item.id.value); under != underpasses_.end())
        for (const std::vector<PointF>& piece : under->second)
            strand(painter, piece, offset, item.alongAxes);
    else
        strand(painter, item.path, offset, item.alongAxes);
}

void SheetPainter::strand(QPainter& painter, const std::vector<PointF>& path, double offset, bool rounds) {
    if (rounds && path.size() > 2)
        painter.drawPath(roundedPath(sideways(path, offset), cornerRadius));
    else
        painter.drawPolyline(polygon(sideways(path, offset)));
}

void SheetPainter::crossTicks(QPainter& painter, const std::vector<PointF>& path, const QColor& colour) {
    painter.setPen(flat(colour, 1.2));
    const double whole = scene::pathLength(path);
    for (double at = 9; at < whole; at += 12) {
        const scene::Along here = scene::alongPath(path, at);
        const PointF across{-here.direction.y * 3.5, here.direction.x * 3.5};
        painter.drawLine(toQt(here.at - across), toQt(here.at + across));
    }
}

/// The strokes of one link: its jacket, in a casing where it would not stand out.
struct SheetPainter::Stroke {
    SheetPainter& self;
    QPainter& painter;
    const LinkLine& item;
    QColor jacket;
    bool faint = false;
    double weight = 1; ///< planned links are drawn thinner
    double least = 0;  ///< thin lines stay visible when the sheet is small

    QColor outer() const { return faint ? jacket.darker(220) : jacket; }
    double width(double wanted) const { return std::max(wanted * weight, least); }

    void solid(double offset, double wanted) const {
        const double w = width(wanted);
        self.strands(painter, item, offset, flat(outer(), faint ? w + 1.2 : w));
        if (faint)
            self.strands(painter, item, offset, flat(jacket, w));
    }
    void dashed(double offset, double wanted, const QList<qreal>& dashes) const {
        const double w = width(wanted);
        QPen pen = flat(outer(), faint ? w + 1.2 : w);
        pen.setDashPattern(dashes);
        self.strands(painter, item, offset, pen);
    }
    void dotted(double wanted) const {
        QPen pen(outer(), width(wanted));
        pen.setCapStyle(Qt::RoundCap);
        pen.setDashPattern({0.01, 2.4});
        self.strands(painter, item, 0, pen);
    }
    void plain(const QColor& colour, double w) const { self.strands(painter, item, 0, flat(colour, w)); }
};

void SheetPainter::line(QPainter& painter, const LinkLine& item, Detail detail, double zoom) {
    QColor jacket = QColor::fromRgb(item.jacket);
    // A light jacket on the light sheet gets a casing. A dark one on the dark sheet is
    // lightened instead: a dark core in a light casing would read as two strands.
    if (theme_.dark)
        jacket = lightened(jacket, theme_);
    const Stroke stroke{*this,
                        painter,
                        item,
                        jacket,
                        contrast(jacket, theme_.sheet) < minContrast,
                        item.planned ? 0.5 : 1,
                        detail == Detail::middle ? 1.0 / zoom : 0};
    switch (item.form) {
    case LinkForm::unknown:
        stroke.plain(theme_.muted, stroke.width(1.0));
        break;
    case LinkForm::frames:
        stroke.plain(theme_.ink, stroke.width(item.inLag ? 3.0 : 1.3));
        break;
    case LinkForm::attachment:
        stroke.plain(theme_.ink, stroke.width(1.2));
        break;
    case LinkForm::twistedPair:
        stroke.solid(0, 1.7);
        break;
    case LinkForm::singlePair:
        stroke.solid(0, 0.9);
        break;
    case LinkForm::duplexFibre:
    case LinkForm::parallelFibre:
        stroke.solid(1.9, 1.4);
        stroke.solid(-1.9, 1.4);
        break;
    case LinkForm::thick:
        stroke.solid(0, 3.4);
        break;
    case LinkForm::coax:
        stroke.solid(0, 4.2);
        stroke.plain(theme_.sheet, 1.3);
        break;
    case LinkForm::serial:
        stroke.solid(0, 1.4);
        crossTicks(painter, item.path, stroke.outer());
        break;
    case LinkForm::console:
        stroke.dotted(2.2);
        break;
    case LinkForm::radio:
        stroke.dashed(0, 1.8, {7, 5});
        break;
    case LinkForm::circuit:
        stroke.dashed(2.2, 1.2, {16, 4});
        stroke.dashed(-2.2, 1.2, {16, 4});
        break;
    }
    if (item.inLag && item.form != LinkForm::frames)
        tie(painter, item);
    if (detail == Detail::near || detail == Detail::close)
        marks(painter, item);
}

void SheetPainter::tie(QPainter& painter, const LinkLine& item) {
    // Members lie side by side, so that their pieces of the band meet.
    const double whole = scene::pathLength(item.path), half = scene::parallelGap / 2 + 1.5;
    painter.setPen(QPen(theme_.ink, 1.6));
    for (const double part : {0.3, 0.7}) {
        const scene::Along here = scene::alongPath(item.path, whole * part);
        const PointF across{-here.direction.y * half, here.direction.x * half};
        for (const double by : {-2.0, 2.0}) {
            const PointF at = here.at + here.direction * by;
            painter.drawLine(toQt(at - across), toQt(at + across));
        }
    }
}

void SheetPainter::marks(QPainter& painter, const LinkLine& item) {
    const double whole = scene::pathLength(item.path);
    const auto atEnd = [&](bool first, double distance) {
        return scene::alongPath(item.path, first ? distance : std::max(0.0, whole - distance));
    };
    for (const bool first : {true, false}) {
        const bool open = first ? item.openA : item.openB;
        const bool disabled = first ? item.disabledA : item.disabledB;
        const bool fails = first ? item.failsA : item.failsB;
        if (open) {
            painter.setPen(QPen(theme_.muted, 1.4));
            painter.setBrush(theme_.sheet);
            painter.drawEllipse(toQt(atEnd(first, 4).at), 3.4, 3.4);
        }
        if (disabled) {
            painter.setPen(QPen(theme_.ink, 1.4));
            painter.setBrush(theme_.sheet);
            const QPointF c = toQt(atEnd(first, 7).at);
            painter.drawRect(QRectF(c.x() - 4, c.y() - 4, 8, 8));
        }
        if (fails) {
            const scene::Along here = atEnd(first, 8);
            const PointF across{-here.direction.y * 6, here.direction.x * 6}, ahead = here.direction * 5;
            painter.setPen(QPen(theme_.error, 1.8));
            painter.setBrush(theme_.sheet);
            painter.drawPolygon(
                QPolygonF{toQt(here.at - ahead + across), toQt(here.at), toQt(here.at + ahead + across)});
        }
        if (item.toRemove) {
            const QPointF c = toQt(atEnd(first, 10).at);
            painter.setPen(QPen(theme_.ink, 1.4));
            painter.drawLine(c + QPointF(-3, -3), c + QPointF(3, 3));
            painter.drawLine(c + QPointF(-3, 3), c + QPointF(3, -3));
        }
        if (item.form == LinkForm::parallelFibre) {
            const QPointF c = toQt(atEnd(first, 9).at);
            text(painter, c + QPointF(4, -3), std::to_string(item.fibres), 8, Weight::semiBold, theme_.muted);
        }
    }
}

void SheetPainter::label(QPainter& painter, const scene::Label& item) {
    QColor ground = theme_.sheet;
    ground.setAlphaF(0.92F);
    painter.setPen(Qt::NoPen);
    painter.setBrush(ground);
    painter.drawRoundedRect(toQt(item.area), 3, 3);
    text(painter, {item.area.x + 3, item.area.y + 9.8}, item.text, scene::labelSize, Weight::regular,
         theme_.ink);
}

void SheetPainter::note(QPainter& painter, const scene::NoteCard& item, Detail detail) {
    painter.setPen(item.zone ? QPen(theme_.edge, 1, Qt::DashLine) : QPen(theme_.edge, 1));
    item.outline ? painter.setBrush(Qt::NoBrush) : painter.setBrush(theme_.frame);
    painter.drawRect(toQt(item.frame));
    if (detail == Detail::far)
        return;
    const QPointF corner(item.frame.x + 8, item.frame.y + 5);
    for (const scene::NoteLine& line : item.lines) {
        if (line.bullet >= 0) {
            painter.setPen(Qt::NoPen);
            painter.setBrush(theme_.ink);
            painter.drawEllipse(corner + QPointF(line.bullet, line.baseline - line.size * 0.32), 1.8, 1.8);
        }
        for (const scene::NoteRun& run : line.runs)
            text(painter, corner + QPointF(run.x, line.baseline), run.text, line.size, run.weight,
                 theme_.ink);
    }
}

void SheetPainter::linkInHand(QPainter& painter, PointF from, PointF to, double zoom) {
    painter.setRenderHint(QPainter::Antialiasing);
    QPen pen(theme_.accent, 2 / zoom);
    pen.setCapStyle(Qt::RoundCap);
    painter.setPen(pen);
    painter.drawLine(toQt(from), toQt(to));
    painter.setPen(Qt::NoPen);
    painter.setBrush(theme_.accent);
    painter.drawEllipse(toQt(to), 5 / zoom, 5 / zoom);
}

void SheetPainter::selection(QPainter& painter, const Rect& frame, double zoom) {
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(QPen(theme_.accent, 2 / zoom));
    painter.setBrush(Qt::NoBrush);
    const double by = 4 / std::max(zoom, 0.5);
    painter.drawRoundedRect(toQt(frame.grown(by)), 8, 8);
}

void SheetPainter::selectedLine(QPainter& painter, const LinkLine& item, double zoom) {
    haloed(painter, item, zoom, 0.42F);
}

void SheetPainter::markedLine(QPainter& painter, const LinkLine& item, double zoom, float strength) {
    haloed(painter, item, zoom, strength);
}

void SheetPainter::hoveredLine(QPainter& painter, const LinkLine& item, double zoom) {
    haloed(painter, item, zoom, 0.18F);
}

void SheetPainter::haloed(QPainter& painter, const LinkLine& item, double zoom, float strength) {
    painter.setRenderHint(QPainter::Antialiasing);
    const Detail detail = scene::detailFor(zoom);
    QColor halo = theme_.accent;
    halo.setAlphaF(detail == Detail::far ? 1.0F : strength);
    QPen pen(halo, (detail == Detail::far ? 3 : 11) / zoom);
    pen.setCapStyle(Qt::RoundCap);
    pen.setJoinStyle(Qt::RoundJoin);
    painter.setPen(pen);
    painter.setBrush(Qt::NoBrush);
    if (item.alongAxes && item.path.size() > 2 && detail != Detail::far)
        painter.drawPath(roundedPath(item.path, cornerRadius));
    else
        painter.drawPolyline(polygon(item.path));
    if (detail != Detail::far)
        line(painter, item, detail, zoom); // its form stays to be seen
}

void SheetPainter::text(QPainter& painter, QPointF baseline, const std::string& words, double size,
                        Weight weight, const QColor& colour) {
    QFont& font = weight == Weight::regular ? regular_ : semiBold_;
    const int pixels = std::max(1, static_cast<int>(std::lround(size * fontScale)));
    if (font.pixelSize() != pixels)
        font.setPixelSize(pixels);
    painter.save();
    painter.setFont(font);
    painter.setPen(colour);
    painter.translate(baseline);
    painter.scale(size / pixels, size / pixels);
    const QString characters = QString::fromUtf8(words.data(), static_cast<qsizetype>(words.size()));
    if (outlineText_) {
        QPainterPath outline;
        outline.addText(QPointF(0, 0), font, characters);
        painter.fillPath(outline, colour);
    } else {
        painter.drawText(QPointF(0, 0), characters);
    }
    painter.restore();
}

} // namespace underridge::paint
