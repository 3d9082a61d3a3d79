// SPDX-License-Identifier: GPL-3.0-or-later
// What is typed or pasted on the sheet: devices to add, names, notes.
#include "app/session/session.h"
#include "app/sheet/sheet_view.h"
#include "app/sheet/snapping.h"
#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/edit/sheets.h"
#include "core/scene/plates.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;

void SheetView::openAddField(std::optional<PointF> at, std::optional<linking::End> linkFrom) {
    addAt_ = at;
    addFrom_ = std::move(linkFrom);
    const QPoint pointer = mapFromGlobal(QCursor::pos());
    if (!addAt_ && underMouse() && rect().contains(pointer))
        addAt_ = camera_.toSheet(pointer);
    const QPoint where = addAt_ ? camera_.toScreen(*addAt_).toPoint() : rect().center() - QPoint(180, 120);
    addField_->open(where, addFrom_ ? tr("Add, linked to %1").arg(session_.nameOf(refTo(addFrom_->device)))
                                    : tr("Add devices"));
}

PointF SheetView::freePlaceNear(PointF wanted, const Rect& block, PointF step) const {
    constexpr int reach = 12;
    PointF best = wanted;
    double bestDistance = 1e18;
    for (int row = -reach; row <= reach; ++row)
        for (int column = -reach; column <= reach; ++column) {
            const PointF by{column * step.x, row * step.y};
            // Below is better than beside, and beside better than above.
            const double distance = length(by) + (row < 0 ? step.y / 2 : 0) + (column < 0 ? 1 : 0);
            if (distance >= bestDistance)
                continue;
            const Rect there = block.moved(wanted + by).grown(12);
            const auto plates = session_.scene().itemsIn(there).of<scene::Plate>();
            if (std::none_of(plates.begin(), plates.end(),
                             [&](const scene::Plate* p) { return p->frame.intersects(there); })) {
                best = wanted + by;
                bestDistance = distance;
            }
        }
    return best;
}

void SheetView::addTyped(const edit::Addition& addition) {
    setFocus();
    const auto names = edit::seriesNames(addition.pattern, addition.count,
                                         edit::namesLike(session_.network(), addition.pattern));
    if (!names) {
        Q_EMIT session_.workspace().refused(names.refusal());
        return;
    }
    constexpr PointF gap{48, 76}; // room for links and their labels
    const scene::Plate shape = scene::plateFor(*addition.model, names->back(), {0, 0});
    const int columns = std::min(addition.count, 8);
    const double stepX = shape.frame.w + gap.x, stepY = shape.frame.h + gap.y;
    const Rect block{0, 0, columns * stepX - gap.x, ((addition.count - 1) / columns + 1) * stepY - gap.y};
    const PointF wanted = addAt_ ? *addAt_ - PointF{shape.frame.w / 2, shape.frame.h / 2}
                                 : camera_.visible().centre() - PointF{block.w / 2, block.h / 2};
    const PointF corner = freePlaceNear(wanted, block, {stepX, stepY});
    std::vector<edit::Placed> placed;
    for (int i = 0; i < addition.count; ++i)
        placed.push_back({(*names)[static_cast<std::size_t>(i)],
                          onGrid({corner.x + (i % columns) * stepX, corner.y + (i / columns) * stepY})});
    const Network before = session_.network();
    auto act = edit::placeDevices(before, session_.sheet(), *addition.model, placed, {}, session_.ids());
    if (act && addFrom_) { // placed and linked in one step
        std::vector<DeviceId> fresh;
        for (const ObjectRef ref : act->subjects)
            fresh.push_back({ref.id});
        auto linked = edit::linkEachTo(act->network, session_.catalogue(), fresh, addFrom_->device,
                                       session_.ids(), session_.habits());
        if (!addFrom_->port.empty() && fresh.size() == 1) {
            auto pair = linking::bestPair(act->network, session_.catalogue(), *addFrom_, {fresh.front(), {}},
                                          session_.habits());
            linked = pair ? edit::makeLink(act->network, session_.catalogue(), *pair, session_.ids())
                          : edit::ActResult(pair.refusal());
        }
        if (!linked) {
            Q_EMIT session_.workspace().refused(linked.refusal());
            return;
        }
        act->network = std::move(linked->network);
        act->name += ", linked";
    }
    if (session_.apply(std::move(act))) {
        Rect all;
        for (const ObjectRef ref : session_.selection())
            if (const auto* plate = session_.scene().plate({ref.id}))
                all = all.united(plate->frame);
        select_.setFocused(session_.selection().empty() ? ObjectRef{} : session_.selection().front());
        reveal(all);
    }
}

void SheetView::addNoteHere() {
    const QPoint pointer = mapFromGlobal(QCursor::pos());
    noteAt_ = camera_.toSheet(underMouse() && rect().contains(pointer) ? QPointF(pointer)
                                                                       : QRectF(rect()).center());
    noteEdited_ = {};
    noteField_->clear();
    noteField_->setGeometry(QRect(camera_.toScreen(noteAt_).toPoint(), QSize(220, 90)));
    noteField_->show();
    noteField_->setFocus();
}

void SheetView::editNote(NoteId id) {
    const Note* note = session_.network().note(id);
    const scene::NoteCard* shown = session_.scene().note(id);
    if (!note || !shown)
        return;
    noteEdited_ = id;
    noteField_->setPlainText(QString::fromStdString(note->text.str()));
    const QRect frame = onScreen(shown->frame).toRect();
    noteField_->setGeometry(
        QRect(frame.topLeft(), QSize(std::max(220, frame.width()), std::max(90, frame.height()))));
    noteField_->show();
    noteField_->setFocus();
    noteField_->selectAll();
}

void SheetView::closeField(QWidget& field, Then then) {
    if (then == Then::stays)
        return;
    const bool held = field.hasFocus();
    field.hide();
    if (held)
        setFocus();
}

bool SheetView::finishNote(Then then) {
    if (noteField_->isHidden())
        return true;
    const std::string text = noteField_->toPlainText().toStdString();
    const Note* edited = session_.network().note(noteEdited_);
    if (edited ? edited->text.view() == text : trimmed(text).empty()) {
        closeField(*noteField_, then);
        return true;
    }
    auto act =
        edited ? edit::setNoteText(session_.network(), noteEdited_, text)
               : edit::addNote(session_.network(), session_.sheet(), onGrid(noteAt_), text, session_.ids());
    if (!act) {
        Q_EMIT session_.workspace().refused(act.refusal());
        return false;
    }
    noteEdited_ = {act->subjects.front().id}; // what is typed on is this note's
    closeField(*noteField_, then);
    session_.apply(std::move(act));
    return true;
}

bool SheetView::commitTyped() {
    const bool note = finishNote(Then::stays);
    return (nameField_->isHidden() || finishName(Then::stays)) && note;
}

void SheetView::renameInPlace(edit::Refs objects) {
    std::erase_if(objects, [](ObjectRef ref) { return ref.kind != Kind::device && ref.kind != Kind::group; });
    if (objects.empty()) {
        Q_EMIT session_.workspace().refused(advice("nothing that has a name is selected", "select a device"));
        return;
    }
    if (objects.size() > 1) {
        std::vector<DeviceId> devices;
        for (const ObjectRef ref : objects)
            if (ref.kind == Kind::device)
                devices.push_back({ref.id});
        Q_EMIT seriesWanted(devices);
        return;
    }
    naming_ = std::move(objects);
    const scene::Plate* plate = session_.scene().plate({naming_.front().id});
    QRectF at(width() / 2.0 - 100, height() / 2.0, 200, 28);
    if (plate) {
        at = onScreen(
            {plate->frame.x + scene::spineWidth, plate->frame.y, plate->frame.w - scene::spineWidth, 22});
        at.setWidth(std::max(at.width(), 180.0));
        at.setHeight(std::max(at.height(), 26.0));
    }
    nameField_->setText(session_.nameOf(naming_.front()));
    nameField_->setGeometry(at.toRect());
    nameField_->selectAll();
    nameField_->show();
    nameField_->raise();
    nameField_->setFocus();
}

bool SheetView::finishName(Then then) {
    const std::string typed = nameField_->text().trimmed().toStdString();
    const auto names = edit::seriesNames(typed, 1, {});
    auto act = names ? edit::rename(session_.network(), naming_, *names) : edit::ActResult(names.refusal());
    if (!act) {
        Q_EMIT session_.workspace().refused(act.refusal());
        return false;
    }
    closeField(*nameField_, then);
    session_.apply(std::move(act));
    return true;
}

void SheetView::paste(const edit::Clip& clip, std::optional<PointF> at) {
    Rect bounds;
    clip.piece.all<Position>().forEach([&](const Position& p) {
        bounds = bounds.united({static_cast<double>(p.at.x), static_cast<double>(p.at.y), 120, 44});
    });
    const QPoint pointer = mapFromGlobal(QCursor::pos());
    const PointF to = at                                         ? *at
                      : underMouse() && rect().contains(pointer) ? camera_.toSheet(pointer)
                                                                 : camera_.visible().centre();
    const Point by = onGrid(to - bounds.centre());
    session_.apply(edit::pasteClip(session_.network(), session_.sheet(), clip,
                                   by == Point{} ? Point{32, 32} : by, session_.ids()));
}

} // namespace underridge::app
