// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/select_tool.h"

#include "app/session/session.h"
#include "app/sheet/card.h"
#include "app/sheet/fields_in_place.h"
#include "app/sheet/link_flow.h"
#include "app/sheet/snapping.h"
#include "app/sheet/type_to_add.h"
#include "core/edit/groups.h"
#include "core/edit/sheets.h"
#include "core/edit/tucks.h"

#include <QApplication>

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {

constexpr double dragStart = 4, linkReach = 6, bendHandle = 7;
constexpr double gripPixels = 18;

bool addsTo(const Pointer& pointer) {
    return pointer.modifiers & (Qt::ShiftModifier | Qt::ControlModifier);
}

Rect bandOf(const Pointer& a, const Pointer& b) {
    return scene::rectBetween(a.sheet, b.sheet);
}

} // namespace

namespace {

Rect gripAt(PointF at, double zoom) {
    const double side = gripPixels / zoom;
    return {at.x - side / 2, at.y - side * 0.1, side, side * 0.9};
}

} // namespace

Rect SelectTool::gripOf(const scene::Plate& plate, double zoom) {
    return gripAt(plate.grip(), zoom);
}

Rect SelectTool::gripOf(const scene::Tile& tile, double zoom) {
    return gripAt({tile.frame.centre().x, tile.frame.bottom()}, zoom);
}

bool SelectTool::showsGrip(const scene::Tile& tile) const {
    const ObjectRef ref = refTo(tile.id);
    const bool alone = session_.selection().size() == 1 && session_.selected().contains(ref);
    return tile.devices > 0 && (hovered_.object == ref || alone) && takesLinks();
}

template <class Shape>
bool SelectTool::hoversGrip(PointF at, double zoom) {
    const auto near = session_.scene().itemsIn(Rect{at.x, at.y, 0.01, 0.01}.grown(gripPixels / zoom));
    for (const Shape* shape : near.of<Shape>())
        if (showsGrip(*shape) && gripOf(*shape, zoom).contains(at)) {
            hovered_ = {refTo(shape->id), -1};
            gripHovered_ = true;
            return true;
        }
    return false;
}

template <class Shape>
void SelectTool::paintGrips(QPainter& painter, const paint::Theme& theme, double zoom) const {
    for (const Shape* shape : session_.scene().itemsIn(surface().camera().visible()).of<Shape>()) {
        if (!showsGrip(*shape))
            continue;
        const Rect grip = gripOf(*shape, zoom);
        const bool hot = gripHovered_ && hovered_.object == refTo(shape->id);
        painter.setPen(Qt::NoPen);
        painter.setBrush(hot ? theme.accent : theme.accent.lighter(theme.dark ? 90 : 125));
        painter.drawRoundedRect(paint::toQt({grip.x, grip.y, grip.w, grip.h * 0.62}), 4 / zoom, 4 / zoom);
        painter.setPen(QPen(theme.plate, 1.6 / zoom, Qt::SolidLine, Qt::RoundCap));
        const QPointF c(grip.x + grip.w / 2, grip.y + grip.h * 0.31);
        painter.drawLine(c - QPointF(0, 3 / zoom), c + QPointF(0, 3 / zoom));
        painter.drawLine(c - QPointF(3 / zoom, 0), c + QPointF(3 / zoom, 0));
    }
}

bool SelectTool::showsGrip(const scene::Plate& plate) const {
    const ObjectRef ref = refTo(plate.id);
    const bool alone = session_.selection().size() == 1 && session_.selected().contains(ref);
    // Two devices and no link yet: both grips say how to make one.
    const bool invite =
        session_.scene().count<scene::Plate>() == 2 && session_.scene().count<scene::LinkLine>() == 0;
    if (hovered_.object != ref && !(focused_ == ref && surface().hasFocus()) && !alone && !invite)
        return false;
    return !plate.subnet && takesLinks();
}

bool SelectTool::takesLinks() const {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    return !sheet || sheet->takesLinks();
}

/// What is closed far away may still be being worked out: a press waits for it, a look does not.
void SelectTool::hover(const Pointer& pointer, bool waits) {
    const double zoom = surface().camera().zoom();
    const bool detailed = scene::detailFor(zoom) != scene::Detail::far;
    if (lens_) {
        lensPort_ = lens_->portAt(pointer.sheet);
        if (lensPort_ >= 0 && session_.scene().plate(lens_->device())) {
            hovered_ = {refTo(lens_->device()), lensPort_};
            gripHovered_ = false;
            return;
        }
        lens_.reset();
    }
    gripHovered_ = false;
    if (detailed &&
        (hoversGrip<scene::Plate>(pointer.sheet, zoom) || hoversGrip<scene::Tile>(pointer.sheet, zoom)))
        return;
    const auto drawn = waits ? seen() : session_.scene().seenAlready(zoom);
    hovered_ = drawn ? scene::hitAt(*drawn, pointer.sheet, linkReach / zoom) : scene::Hit{};
    const bool railShown =
        scene::detailFor(zoom) == scene::Detail::near || scene::detailFor(zoom) == scene::Detail::close;
    if (railShown && hovered_.object.kind == Kind::device && hovered_.port >= 0) {
        const Device* device = session_.network().device({hovered_.object.id});
        const scene::Plate* plate = session_.scene().plate({hovered_.object.id});
        if (device && plate) {
            lens_.emplace(*plate, portsOf(session_.network(), *device), pointer.sheet, zoom);
            lensPort_ = lens_->portAt(pointer.sheet);
        }
    }
}

void SelectTool::leave() {
    hovered_ = {};
    gripHovered_ = false;
    lens_.reset();
}

std::optional<std::size_t> SelectTool::bendAt(const scene::LinkLine& line, PointF p) const {
    for (std::size_t i = 1; i + 1 < line.path.size(); ++i)
        if (length(line.path[i] - p) <= bendHandle / surface().camera().zoom())
            return i - 1;
    return std::nullopt;
}

void SelectTool::press(const Pointer& pointer) {
    hover(pointer, true);
    start_ = now_ = pointer;
    pressed_ = hovered_;
    if (resizing_.begin(pointer.sheet)) {
        gesture_ = Gesture::resize;
        return;
    }
    if (shaping_.begin(pointer.sheet)) {
        gesture_ = Gesture::shape;
        return;
    }
    gesture_ = Gesture::pressed;
    if (gripHovered_ && hovered_.object.kind == Kind::group) {
        gesture_ = Gesture::none;
        return context_.user.startLinkOut({hovered_.object.id}, pointer);
    }
    if (gripHovered_ || (lens_ && lensPort_ >= 0)) {
        linking::End from{{hovered_.object.id}, gripHovered_ ? std::string() : lens_->key(lensPort_)};
        gesture_ = Gesture::none;
        lens_.reset();
        context_.user.startLink(std::move(from), pointer);
        return;
    }
    if (!pressed_)
        return;
    focused_ = pressed_.object;
    // With Shift or Ctrl a click adds or takes away; what is taken away is so when no
    // drag has come of it.
    wasSelected_ = session_.selected().contains(pressed_.object);
    if (!wasSelected_ && addsTo(pointer))
        session_.selected().toggle(pressed_.object);
    else if (!wasSelected_)
        session_.select({pressed_.object});
}

void SelectTool::move(const Pointer& pointer) {
    now_ = pointer;
    if (gesture_ == Gesture::none) {
        hover(pointer);
        return;
    }
    if (gesture_ == Gesture::resize)
        return resizing_.dragTo(pointer);
    if (gesture_ == Gesture::shape)
        return shaping_.dragTo(pointer);
    const QPointF away = pointer.screen - start_.screen;
    if (gesture_ == Gesture::pressed && std::hypot(away.x(), away.y()) >= dragStart) {
        if (!pressed_ || pressed_.object.kind == Kind::interface) {
            gesture_ = Gesture::band;
        } else if (pressed_.object.kind == Kind::link) {
            const scene::LinkLine* line = session_.scene().link({pressed_.object.id});
            if (!line)
                return;
            bends_.clear();
            for (std::size_t i = 1; i + 1 < line->path.size(); ++i)
                bends_.push_back({static_cast<int>(line->path[i].x), static_cast<int>(line->path[i].y)});
            if (const auto held = bendAt(*line, start_.sheet)) {
                bend_ = *held;
            } else {
                bend_ = 0; // a new bend goes into the segment that was pressed
                double best = 1e9;
                for (std::size_t i = 1; i < line->path.size(); ++i)
                    if (const double d =
                            scene::distanceToSegment(start_.sheet, line->path[i - 1], line->path[i]);
                        d < best) {
                        best = d;
                        bend_ = i - 1;
                    }
                bends_.insert(bends_.begin() + static_cast<std::ptrdiff_t>(bend_), onGrid(start_.sheet));
            }
            gesture_ = Gesture::bend;
        } else {
            gesture_ = Gesture::moving;
            lens_.reset();
            moving_.begin();
        }
    }
    if (gesture_ == Gesture::moving)
        moving_.dragTo(start_, pointer);
    if (gesture_ == Gesture::bend)
        dragBend(pointer);
}

GroupId SelectTool::heldOver() const {
    const GroupId group = isMoving() ? moving_.into() : GroupId{};
    return session_.scene().tile(group) ? group : GroupId{};
}

void SelectTool::openHeld() {
    const GroupId group = heldOver();
    if (!group || opening_)
        return;
    opening_ = true;
    // What is dragged stays selected. That it has ended is told before the scene changes.
    const auto ended = [this] {
        QMetaObject::invokeMethod(
            &surface(), [this] { opening_ = false; }, Qt::QueuedConnection);
    };
    session_.setFolded({group}, false, session_.selection(), ended, [this] { goOn(); });
}

void SelectTool::goOn() {
    if (!isMoving()) // it was let go meanwhile
        return;
    const Rect before = moving_.bounds();
    moving_.begin(); // others made room, and so did what is dragged
    const Rect& after = moving_.bounds();
    start_.sheet = start_.sheet + PointF{after.x - before.x, after.y - before.y};
    moving_.dragTo(start_, now_);
    surface().update();
}

void SelectTool::dragBend(const Pointer& pointer) {
    bends_[bend_] = pointer.modifiers & Qt::ControlModifier
                        ? Point{static_cast<int>(pointer.sheet.x), static_cast<int>(pointer.sheet.y)}
                        : onGrid(pointer.sheet);
}

void SelectTool::release(const Pointer& pointer) {
    const Gesture ended = std::exchange(gesture_, Gesture::none);
    now_ = pointer;
    switch (ended) {
    case Gesture::none:
        break;
    case Gesture::pressed:
        if (addsTo(start_)) {
            if (pressed_ && wasSelected_)
                session_.selected().toggle(pressed_.object);
        } else if (!pressed_) {
            session_.select({});
        } else {
            session_.select({pressed_.object});
            if (pressed_.badge) // what is in it comes out
                session_.apply(
                    edit::setTucked(session_.network(), session_.sheet(), {{pressed_.object.id}}, false));
        }
        break;
    case Gesture::moving:
        if (auto act = moving_.drop(); act && moving_.isLarge()) {
            dropping_ = true;
            session_.applyLater(std::move(act), [this] {
                dropping_ = false;
                moving_.end();
                surface().update();
            });
            break;
        } else if (act) {
            session_.apply(act());
        }
        moving_.end();
        break;
    case Gesture::resize:
        resizing_.dragTo(pointer);
        if (auto act = resizing_.drop())
            session_.apply(*std::move(act));
        resizing_.end();
        break;
    case Gesture::shape:
        if (length(pointer.sheet - start_.sheet) > 0)
            shaping_.dragTo(pointer);
        if (auto act = shaping_.drop())
            session_.apply(*std::move(act));
        shaping_.end();
        break;
    case Gesture::band:
        takeBand(pointer.modifiers & Qt::ControlModifier);
        break;
    case Gesture::bend: {
        const LinkId id{pressed_.object.id};
        const scene::LinkLine* line = session_.scene().link(id);
        // A bend dropped on the straight line between its neighbours is gone.
        const PointF before = bend_ == 0 ? line->path.front() : scene::toF(bends_[bend_ - 1]);
        const PointF after = bend_ + 1 == bends_.size() ? line->path.back() : scene::toF(bends_[bend_ + 1]);
        if (scene::distanceToSegment(scene::toF(bends_[bend_]), before, after) <
            bendHandle / surface().camera().zoom())
            bends_.erase(bends_.begin() + static_cast<std::ptrdiff_t>(bend_));
        session_.apply(edit::setBends(session_.network(), session_.look(), id, bends_));
        break;
    }
    }
    hover(pointer);
}

void SelectTool::takeBand(bool add) {
    const Rect band = bandOf(start_, now_);
    const bool touching = now_.modifiers & Qt::ShiftModifier;
    const auto shown = seen();
    const scene::Items items = shown->itemsIn(band);
    edit::Refs taken = add ? session_.selection() : edit::Refs{};
    const auto take = [&](ObjectRef ref, const Rect& frame) {
        const bool in = touching ? band.intersects(frame) : band.contains(frame);
        if (in && std::find(taken.begin(), taken.end(), ref) == taken.end())
            taken.push_back(ref);
    };
    for (const scene::Plate* plate : items.of<scene::Plate>())
        take(plate->object(), plate->frame);
    for (const scene::NoteCard* note : items.of<scene::NoteCard>())
        take(refTo(note->id), note->frame);
    for (const scene::Tile* tile : items.of<scene::Tile>())
        take(refTo(tile->id), tile->frame);
    for (const scene::RouteLine* route : items.of<scene::RouteLine>())
        if (!touching)
            take(refTo(route->id), scene::boundsOf(route->path));
    if (taken.empty()) // a band over links alone takes links
        for (const scene::LinkLine* line : items.of<scene::LinkLine>())
            if (!line->onDemand)
                take(line->object(), touching ? band : scene::boundsOf(line->path));
    session_.select(std::move(taken));
}

void SelectTool::doubleClick(const Pointer& pointer) {
    gesture_ = Gesture::none;
    hover(pointer, true);
    if (hovered_.object.kind == Kind::note) {
        context_.fields.editNote({hovered_.object.id});
        return;
    }
    if (const scene::Item* item = session_.scene().item(hovered_.object)) {
        const auto* frame = item->as<scene::Frame>();
        if (frame && frame->entered)
            return session_.navigation().leaveGroup(); // on its border
        if (frame || item->as<scene::Tile>())
            return session_.navigation().enter({hovered_.object.id});
        if (item->as<scene::Doorway>())
            session_.navigation().goTo(hovered_.object);
    }
    const scene::Plate* plate = session_.scene().plate({hovered_.object.id});
    if (!plate || hovered_.port >= 0 || gripHovered_)
        return;
    if (pointer.sheet.y < plate->frame.y + 21)
        context_.fields.rename({hovered_.object});
    else
        context_.user.openFaceplate();
}

bool SelectTool::cancel() {
    nudging_.forget();
    if (inGesture()) {
        gesture_ = Gesture::none;
        if (opening_)
            session_.workspace().giveUp(); // the tile it was held over stays folded
        moving_.end();
        resizing_.end();
        shaping_.end();
        return true;
    }
    if (session_.workspace().giveUp() || session_.navigation().giveUp())
        return true;
    gesture_ = Gesture::none;
    if (!session_.selection().empty()) {
        session_.select({});
        return true;
    }
    return false;
}

void SelectTool::focusNext(bool backwards) {
    std::vector<std::pair<PointF, ObjectRef>> order;
    session_.scene().forEachItem([&](const scene::Item& item) {
        if (item.layer != scene::Layer::links)
            order.push_back({{scene::frameOf(item).x, scene::frameOf(item).y}, item.object});
    });
    if (order.empty())
        return;
    std::sort(order.begin(), order.end(), [](const auto& a, const auto& b) {
        return std::tuple(a.first.y, a.first.x) < std::tuple(b.first.y, b.first.x);
    });
    const auto at =
        std::find_if(order.begin(), order.end(), [&](const auto& e) { return e.second == focused_; });
    std::size_t next = 0;
    if (at != order.end())
        next = (static_cast<std::size_t>(at - order.begin()) + (backwards ? order.size() - 1 : 1)) %
               order.size();
    else if (backwards)
        next = order.size() - 1;
    focused_ = order[next].second;
    if (const scene::Item* item = session_.scene().item(focused_))
        surface().reveal(scene::frameOf(*item));
}

void SelectTool::selectNextLink(bool backwards) {
    std::vector<LinkId> links;
    const scene::Scene& scene = session_.scene();
    scene.drawn(session_.network()).forEachLinkOf({focused_.id}, [&](const Link& link) {
        const scene::LinkLine* line = scene.link(link.id);
        if (line && std::find(links.begin(), links.end(), line->id) == links.end())
            links.push_back(line->id);
    });
    if (links.empty())
        return;
    const auto at = std::find_if(links.begin(), links.end(), [&](LinkId id) {
        return session_.selected().contains(scene.link(id)->object());
    });
    std::size_t next = backwards ? links.size() - 1 : 0;
    if (at != links.end())
        next = (static_cast<std::size_t>(at - links.begin()) + (backwards ? links.size() - 1 : 1)) %
               links.size();
    const scene::LinkLine* line = scene.link(links[next]);
    const Rect bounds = scene::boundsOf(line->path);
    session_.select({line->object()});
    surface().reveal(bounds);
}

bool SelectTool::key(QKeyEvent& event) {
    const int step = event.modifiers() & Qt::ControlModifier ? 1 : gridStep;
    Point by;
    switch (event.key()) {
    case Qt::Key_Left:
        by = {-step, 0};
        break;
    case Qt::Key_Right:
        by = {step, 0};
        break;
    case Qt::Key_Up:
        by = {0, -step};
        break;
    case Qt::Key_Down:
        by = {0, step};
        break;
    case Qt::Key_PageDown:
        selectNextLink(false);
        return true;
    case Qt::Key_PageUp:
        selectNextLink(true);
        return true;
    case Qt::Key_Tab:
        focusNext(false);
        return true;
    case Qt::Key_Backtab:
        focusNext(true);
        return true;
    default:
        return false;
    }
    if (event.modifiers() & Qt::AltModifier)
        return false;
    edit::Refs movable;
    for (const ObjectRef ref : session_.selection())
        if (ref.kind != Kind::link && ref.kind != Kind::interface)
            movable.push_back(ref);
    if (movable.empty()) {
        surface().pan(QPointF(-by.x, -by.y) * 5);
        return true;
    }
    nudging_.step(movable, by);
    return true;
}

void SelectTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    const paint::Theme& theme = sheetPainter.theme();
    painter.setRenderHint(QPainter::Antialiasing);
    if (gesture_ == Gesture::moving || dropping_)
        return moving_.paint(painter, sheetPainter, zoom);
    if (gesture_ == Gesture::band) {
        QColor fill = theme.accent;
        fill.setAlphaF(0.10F);
        painter.setPen(QPen(theme.accent, 1 / zoom));
        painter.setBrush(fill);
        painter.drawRect(paint::toQt(bandOf(start_, now_)));
        return;
    }
    if (gesture_ == Gesture::bend) {
        if (const scene::LinkLine* line = session_.scene().link({pressed_.object.id})) {
            QPolygonF path{paint::toQt(line->path.front())};
            for (const Point bend : bends_)
                path << QPointF(bend.x, bend.y);
            path << paint::toQt(line->path.back());
            painter.setPen(QPen(theme.accent, 2 / zoom));
            painter.setBrush(Qt::NoBrush);
            painter.drawPolyline(path);
        }
        return;
    }
    resizing_.paint(painter, sheetPainter, zoom);
    shaping_.paint(painter, sheetPainter, zoom);
    if (scene::detailFor(zoom) == scene::Detail::far)
        return;
    if (!session_.selected().contains(hovered_.object))
        if (const scene::LinkLine* line = session_.scene().link({hovered_.object.id}))
            sheetPainter.hoveredLine(painter, *line, zoom);
    paintGrips<scene::Plate>(painter, theme, zoom);
    paintGrips<scene::Tile>(painter, theme, zoom);
    if (lens_)
        if (const scene::Plate* plate = session_.scene().plate(lens_->device()))
            lens_->paint(painter, sheetPainter, *plate, lensPort_);
}

QString SelectTool::hint() const {
    if (dropping_)
        return tr("Moving; Esc leaves it as it was");
    if (session_.workspace().isUnsettled())
        return tr("Working; Esc leaves it as it was");
    if (session_.navigation().isOpening())
        return tr("Drawing the sheet; Esc stays here");
    switch (gesture_) {
    case Gesture::moving:
        return moving_.hint();
    case Gesture::band:
        return now_.modifiers & Qt::ShiftModifier
                   ? tr("Selects what the band touches")
                   : tr("Selects what lies inside; with Shift, what it touches");
    case Gesture::bend:
        return tr("Release to bend the link; on the straight line to remove the bend");
    case Gesture::shape:
        return shaping_.hint();
    case Gesture::resize:
        return tr("Release to give the zone this size; Esc leaves it as it was");
    case Gesture::none:
    case Gesture::pressed:
        break;
    }
    if (gripHovered_)
        return tr("Drag or click to link %1 over its best free port").arg(session_.nameOf(hovered_.object));
    if (lens_ && lensPort_ >= 0)
        return cardLines(session_.network(), hovered_.object, lens_->key(lensPort_), session_.lengthUnit())
                   .join(QStringLiteral(" · ")) +
               tr(" · drag or click to link");
    const scene::Item* item = session_.scene().item(hovered_.object);
    if (item && item->as<scene::Doorway>())
        return tr("To %1; double-click to go there").arg(session_.nameOf(hovered_.object));
    return hovered_ ? session_.nameOf(hovered_.object) : QString();
}

Qt::CursorShape SelectTool::cursor() const {
    if (gesture_ == Gesture::moving)
        return Qt::ClosedHandCursor;
    if (gripHovered_ || (lens_ && lensPort_ >= 0))
        return Qt::CrossCursor;
    return shaping_.isHandle(now_.sheet) ? Qt::SizeAllCursor : resizing_.cursorAt(now_.sheet);
}

} // namespace underridge::app
