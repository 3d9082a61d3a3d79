// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/moving.h"

#include "app/session/session.h"
#include "app/sheet/surface.h"
#include "core/edit/groups.h"
#include "core/edit/sheets.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {

constexpr double snapReach = 6;
/// More moved plates than this are drawn as outlines while they are dragged.
constexpr std::size_t maxLivePlates = 250;

} // namespace

void Moving::begin() {
    end();
    for (const ObjectRef ref : session_.selection()) {
        const scene::Item* item = session_.scene().item(ref);
        if (!item || item->as<scene::LinkLine>() || item->as<scene::Doorway>())
            continue;
        const auto* frame = item->as<scene::Frame>();
        if (frame && frame->entered)
            continue;
        moved_.push_back(ref);
        bounds_ = bounds_.united(scene::frameOf(*item));
    }
    scene_ = session_.scene();
    const auto take = [&](DeviceId id, bool shown) {
        ids_.insert(id.value);
        if (const scene::Plate* plate = shown ? scene_.plate(id) : nullptr)
            plates_.push_back(plate);
    };
    for (const ObjectRef ref : moved_) {
        ids_.insert(ref.id);
        if (ref.kind == Kind::device)
            take({ref.id}, true);
        if (ref.kind != Kind::group)
            continue;
        for (const GroupId group : groupsWithin(session_.network(), {ref.id}))
            ids_.insert(group.value);
        for (const DeviceId id : devicesWithin(session_.network(), {ref.id}))
            take(id, scene_.frame({ref.id}));
    }
}

void Moving::end() {
    moved_.clear();
    ids_.clear();
    plates_.clear();
    neighbours_.reset();
    scene_ = {};
    guides_.clear();
    bounds_ = {};
    by_ = {};
    into_ = {};
}

void Moving::dragTo(const Pointer& from, const Pointer& pointer) {
    PointF by = pointer.sheet - from.sheet;
    const bool oneAxis = pointer.modifiers & Qt::ShiftModifier;
    if (oneAxis)
        (std::abs(by.x) >= std::abs(by.y) ? by.y : by.x) = 0;
    guides_.clear();
    into_ = scene::groupAt(*session_.scene().seenAt(surface_.camera().zoom()), pointer.sheet, moved_);
    if (pointer.modifiers & Qt::ControlModifier) {
        by_ = {static_cast<int>(std::lround(by.x)), static_cast<int>(std::lround(by.y))};
        return;
    }
    const double zoom = surface_.camera().zoom();
    if (const Rect seen = surface_.camera().visible(); !neighbours_ || !(seen == neighboursIn_)) {
        neighbours_.emplace(*scene_.seenAt(zoom), seen, ids_);
        neighboursIn_ = seen;
    }
    const auto snapped = neighbours_->snap(bounds_, by, snapReach / zoom);
    by_ = snapped.by;
    guides_ = snapped.guides;
    if (oneAxis)
        (std::abs(by.x) >= std::abs(by.y) ? by_.y : by_.x) = 0;
}

bool Moving::changesGroup() const {
    if (!session_.scene().folding())
        return false;
    const Network& network = session_.network();
    return std::any_of(moved_.begin(), moved_.end(), [&](ObjectRef ref) {
        const Device* device = network.device({ref.id});
        const Group* group = network.group({ref.id});
        return (device && device->group != into_) || (group && group->parent != into_);
    });
}

std::function<edit::ActResult()> Moving::drop() const {
    edit::Refs members;
    for (const ObjectRef ref : moved_)
        if (ref.kind == Kind::device || ref.kind == Kind::group)
            members.push_back(ref);
    const Network& now = session_.network();
    if (changesGroup() && !members.empty())
        return [now, look = session_.look(), members, into = into_, by = by_] {
            return edit::moveIntoAt(now, look, members, into, by);
        };
    if (by_ == Point{})
        return nullptr;
    const bool takesNotes =
        members.empty() && session_.scene().folding() && (!into_ || session_.scene().frame(into_));
    return [now, look = session_.look(), moved = moved_, into = into_, by = by_, takesNotes] {
        auto act = edit::moveObjects(now, look, moved, by);
        for (const ObjectRef ref : moved) { // notes dropped in a frame are that group's
            const Note* note = act && takesNotes ? act->network.note({ref.id}) : nullptr;
            if (!note || note->group == into)
                continue;
            if (auto kept = edit::setNoteGroup(act->network, look, note->id, into))
                act->network = std::move(kept->network);
        }
        return act;
    };
}

bool Moving::isLarge() const {
    return ids_.size() > Session::mostAtOnce;
}

QString Moving::hint() const {
    const QString keys = tr("Ctrl: no snapping, Shift: one axis, Esc: leave as it was");
    if (!changesGroup())
        return tr("Release to move; %1").arg(keys);
    if (const Group* group = session_.network().group(into_))
        return tr("Release to move into %1; %2").arg(QString::fromStdString(group->name), keys);
    return tr("Release to move out of the group; %1").arg(keys);
}

void Moving::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const {
    const paint::Theme& theme = sheetPainter.theme();
    paintTarget(painter, theme, zoom);
    if (moved_.size() > maxLivePlates) {
        painter.setPen(QPen(theme.accent, 1 / zoom));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(paint::toQt(bounds_.moved(scene::toF(by_))));
        return;
    }
    QColor veil = theme.sheet;
    veil.setAlphaF(0.65F);
    for (const ObjectRef ref : moved_)
        if (const scene::Item* item = scene_.item(ref))
            painter.fillRect(paint::toQt(scene::frameOf(*item).grown(1)), veil);
    scene_.folding() ? paintGhosts(painter, sheetPainter, zoom) : paintMoved(painter, sheetPainter, zoom);
    painter.setPen(QPen(theme.accent, 1 / zoom));
    for (const auto& [from, to] : guides_)
        painter.drawLine(paint::toQt(from), paint::toQt(to));
}

/// The frame or tile it would come into says so.
void Moving::paintTarget(QPainter& painter, const paint::Theme& theme, double zoom) const {
    const scene::Item* item = into_ && changesGroup() ? scene_.item(refTo(into_)) : nullptr;
    if (!item)
        return;
    QColor fill = theme.accent;
    fill.setAlphaF(0.10F);
    painter.setPen(QPen(theme.accent, 2.5 / zoom));
    painter.setBrush(fill);
    painter.drawRoundedRect(paint::toQt(scene::frameOf(*item)), 6, 6);
}

/// As they will be drawn: where no group makes room for others.
void Moving::paintMoved(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const {
    const auto detail = scene::detailFor(zoom);
    const auto preview = edit::moveObjects(session_.network(), session_.sheet(), moved_, by_);
    if (!preview)
        return;
    const auto shown = scene::update(session_.scene(), session_.network(), preview->network);
    std::set<LinkId> links;
    for (const ObjectRef ref : moved_)
        if (ref.kind == Kind::device)
            session_.network().forEachLinkOf({ref.id}, [&](const Link& link) { links.insert(link.id); });
    for (const LinkId id : links)
        if (const scene::LinkLine* line = shown.scene.link(id))
            sheetPainter.line(painter, *line, detail, zoom);
    for (const ObjectRef ref : moved_) {
        if (const scene::Plate* plate = shown.scene.plate({ref.id})) {
            sheetPainter.plate(painter, *plate, detail);
            sheetPainter.selection(painter, plate->frame, zoom);
        } else if (const scene::NoteCard* note = shown.scene.note({ref.id})) {
            sheetPainter.note(painter, *note, detail);
        } else if (const scene::RouteLine* route = shown.scene.route({ref.id})) {
            sheetPainter.route(painter, *route, detail);
        }
    }
}

/// What moves, drawn where it is dragged to; what others make of it is seen on release.
void Moving::paintGhosts(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) const {
    const auto detail = scene::detailFor(zoom);
    const PointF by = scene::toF(by_);
    painter.save();
    painter.translate(paint::toQt(by));
    for (const ObjectRef ref : moved_) {
        const scene::Item* item = scene_.item(ref);
        if (const auto* tile = item ? item->as<scene::Tile>() : nullptr)
            sheetPainter.tile(painter, *tile, detail, zoom);
        else if (const auto* frame = item ? item->as<scene::Frame>() : nullptr)
            sheetPainter.frame(painter, *frame, detail);
        else if (const auto* note = item ? item->as<scene::NoteCard>() : nullptr)
            sheetPainter.note(painter, *note, detail);
        else if (const auto* route = item ? item->as<scene::RouteLine>() : nullptr)
            sheetPainter.route(painter, *route, detail);
    }
    const bool many = plates_.size() > maxLivePlates;
    for (const ObjectRef ref : moved_) // of very many as they are seen there now
        if (const scene::Item* item = many ? scene_.item(ref) : nullptr; item && item->as<scene::Frame>())
            surface_.paintMoved(painter, scene::frameOf(*item), by);
    for (const ObjectRef ref : moved_)
        if (const scene::Item* item = scene_.item(ref))
            sheetPainter.selection(painter, scene::frameOf(*item), zoom);
    painter.restore();
    if (many)
        return;
    std::set<const scene::LinkLine*> lines;
    for (const scene::Plate* plate : plates_)
        scene_.drawn(session_.network()).forEachLinkOf(plate->id, [&](const Link& link) {
            if (const scene::LinkLine* line = scene_.link(link.id))
                lines.insert(line);
        });
    for (const scene::LinkLine* line : lines) {
        scene::LinkLine moved = *line;
        const bool a = ids_.contains(line->a.id), b = ids_.contains(line->b.id);
        for (std::size_t i = 0; i < moved.path.size(); ++i)
            if ((a && b) || (a && i == 0) || (b && i + 1 == moved.path.size()))
                moved.path[i] = moved.path[i] + by;
        sheetPainter.line(painter, moved, detail, zoom);
    }
    for (const scene::Plate* plate : plates_)
        sheetPainter.plate(painter, plate->movedTo(plate->frame.moved(by)), detail, zoom);
}

} // namespace underridge::app
