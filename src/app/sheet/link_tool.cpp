// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/link_tool.h"

#include "app/session/session.h"
#include "app/sheet/fields_in_place.h"
#include "app/sheet/link_flow.h"
#include "app/sheet/type_to_add.h"
#include "core/edit/links.h"
#include "core/linking/within.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/uplinks.h"
#include "core/scene/lines.h"
#include "core/scene/text_width.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {

constexpr double clickReach = 5;

double distanceTo(const Rect& r, PointF p) {
    const double dx = std::max({r.x - p.x, 0.0, p.x - r.right()});
    const double dy = std::max({r.y - p.y, 0.0, p.y - r.bottom()});
    return std::hypot(dx, dy);
}

} // namespace

void LinkTool::begin(linking::End from, const Pointer& pointer) {
    end();
    from_ = {from.device};
    port_ = std::move(from.port);
    byKeys_ = false;
    start_ = now_ = pointer;
}

bool LinkTool::beginOutOf(GroupId group, const Pointer& pointer) {
    const Network& network = session_.network();
    const auto tier = [&](DeviceId id) { return tierOf(roleOf(network, *network.device(id))); };
    DeviceId usual; // what the group hangs on
    for (const DeviceId id : devicesWithin(network, group))
        if (!usual ||
            std::tuple(tier(id), network.degree(id)) > std::tuple(tier(usual), network.degree(usual)))
            usual = id;
    if (!usual)
        return false;
    begin({usual, {}}, pointer);
    outOf_ = group;
    usual_ = usual;
    return true;
}

void LinkTool::choose(std::vector<DeviceId> from) {
    end();
    from_ = std::move(from);
    byKeys_ = true;
}

void LinkTool::end() {
    from_.clear();
    outOf_ = {};
    usual_ = {};
    starts_.clear();
    port_.clear();
    target_ = {};
    typed_.clear();
    answers_.clear();
    through_ = {};
    behind_.clear();
}

const LinkTool::Answer& LinkTool::answerFor(DeviceId device) {
    auto at = answers_.find(device);
    if (at == answers_.end())
        at = answers_
                 .emplace(device, linking::bestPair(session_.network(), session_.catalogue(),
                                                    {from_.front(), port_}, {device, {}}, session_.habits()))
                 .first;
    return at->second;
}

void LinkTool::aimAtPlate(DeviceId device) {
    if (!outOf_)
        return aimAt(device);
    auto at = starts_.find(device);
    if (at == starts_.end()) {
        const auto candidates =
            linking::candidatesIn(session_.network(), session_.catalogue(), {device, {}},
                                  devicesWithin(session_.network(), outOf_), session_.habits(), 1);
        at = starts_.emplace(device, candidates.empty() ? usual_ : candidates.front().device).first;
        auto pair = linking::bestPair(session_.network(), session_.catalogue(), {at->second, {}},
                                      {device, {}}, session_.habits());
        if (pair && !candidates.empty())
            pair->reason = candidates.front().proposal.reason; // it says why that device
        answers_.insert_or_assign(device, std::move(pair));
    }
    from_ = {at->second};
    aimAt(device);
}

void LinkTool::aimThrough(ObjectRef shown) {
    if (outOf_)
        from_ = {usual_};
    auto at = behind_.find(shown);
    if (at == behind_.end()) {
        const auto devices = devicesBehind(session_.network(), shown);
        auto candidates = linking::candidatesIn(session_.network(), session_.catalogue(),
                                                {from_.front(), port_}, devices, session_.habits(), 1);
        DeviceId best = devices.empty() ? DeviceId{} : devices.front(); // it says why not
        if (!candidates.empty()) {
            best = candidates.front().device;
            answers_.insert_or_assign(best, Answer(std::move(candidates.front().proposal)));
        }
        at = behind_.emplace(shown, best).first;
    }
    aimAt(at->second);
    through_ = target_ ? shown : ObjectRef{};
}

std::optional<scene::Anchor> LinkTool::anchorOfTarget() const {
    const scene::Item* item = through_.id ? session_.scene().item(through_) : nullptr;
    if (const auto* doorway = item ? item->as<scene::Doorway>() : nullptr)
        return doorway->anchor();
    return session_.scene().anchorOf(target_);
}

void LinkTool::aimAt(DeviceId device) {
    through_ = {};
    target_ = std::find(from_.begin(), from_.end(), device) == from_.end() ? device : DeviceId{};
    if (target_ && from_.size() == 1)
        answerFor(target_); // the hint tells of it
}

void LinkTool::aim(PointF at) {
    const double reach = snapPixels / surface().camera().zoom();
    const scene::Item* nearest = nullptr;
    double best = reach;
    const auto shown = seen();
    const scene::Items near = shown->itemsIn(Rect{at.x, at.y, 0.01, 0.01}.grown(reach));
    for (const scene::Item* item : near.all())
        if (const double d = distanceTo(scene::frameOf(*item), at);
            item->layer == scene::Layer::plates && d <= best && item->object.kind != Kind::subnet &&
            item->object != refTo(from_.front()) && item->object != refTo(outOf_)) {
            best = d;
            nearest = item;
        }
    if (nearest && !nearest->as<scene::Plate>())
        return aimThrough(nearest->object);
    if (nearest)
        aimAtPlate({nearest->object.id});
    else
        aimAt({});
}

void LinkTool::press(const Pointer& pointer) {
    now_ = pointer;
    aim(pointer.sheet);
}

void LinkTool::move(const Pointer& pointer) {
    now_ = pointer;
    if (byKeys_ && pointer.buttons == Qt::NoButton) {
        const auto shown = seen();
        const scene::Hit hit = scene::hitAt(*shown, pointer.sheet, 0);
        const scene::Item* item = shown->item(hit.object);
        if (hit.object.kind == Kind::subnet)
            aimAt({}); // no cable ends there
        else if (item && item->as<scene::Plate>())
            aimAt({hit.object.id});
        else if (item && item->layer == scene::Layer::plates)
            aimThrough(hit.object);
        return;
    }
    aim(pointer.sheet);
}

void LinkTool::release(const Pointer& pointer) {
    now_ = pointer;
    const QPointF away = pointer.screen - start_.screen;
    if (!byKeys_ && std::hypot(away.x(), away.y()) < clickReach)
        return; // a click: the link stays in hand until the next one
    finish(pointer);
}

void LinkTool::finish(const Pointer& pointer) {
    if (target_) {
        commit();
        return;
    }
    const double far = addPixels / surface().camera().zoom();
    const scene::Items near =
        session_.scene().itemsIn(Rect{pointer.sheet.x, pointer.sheet.y, 0.01, 0.01}.grown(far));
    const bool clear = std::none_of(near.all().begin(), near.all().end(), [&](const scene::Item* item) {
        return item->layer == scene::Layer::plates && distanceTo(scene::frameOf(*item), pointer.sheet) <= far;
    });
    const linking::End from{from_.front(), port_};
    const bool add = clear && !byKeys_;
    context_.user.endTool();
    if (add)
        context_.adding.open(pointer.sheet, from);
}

void LinkTool::commit() {
    const std::vector<DeviceId> from = from_;
    const DeviceId target = target_;
    const std::string port = port_;
    if (from.size() > 1) {
        context_.user.endTool();
        session_.apply(edit::linkEachTo(session_.network(), session_.catalogue(), from, target,
                                        session_.ids(), session_.habits()));
        return;
    }
    const Answer answer = answerFor(target);
    if (!answer) {
        // Where a module or an additional port would give one, the drawer offers it.
        const linking::End end{from.front(), port};
        if (context_.linking.canSupply(end, target)) {
            context_.user.endTool();
            context_.linking.openDrawerForNew(end, target);
            return;
        }
        Q_EMIT session_.workspace().refused(answer.refusal());
        if (byKeys_)
            return;
        context_.user.endTool();
        return;
    }
    context_.user.endTool();
    context_.linking.make(*answer);
}

void LinkTool::openDrawer() {
    if (!target_ || from_.size() != 1)
        return;
    const linking::End from{from_.front(), port_};
    const DeviceId target = target_;
    const ObjectRef through = through_;
    context_.user.endTool();
    if (through.kind == Kind::group)
        context_.linking.openDevicesForNew(from, through);
    else
        context_.linking.openDrawerForNew(from, target);
}

void LinkTool::stepTo(int key) {
    const auto here = target_ ? anchorOfTarget() : session_.scene().anchorOf(from_.front());
    if (!here)
        return;
    const PointF c = here->frame.centre();
    const scene::Item* best = nullptr;
    double bestScore = 1e18;
    session_.scene().forEachItem([&](const scene::Item& item) {
        const bool own =
            std::any_of(from_.begin(), from_.end(), [&](DeviceId id) { return item.object == refTo(id); });
        if (item.layer != scene::Layer::plates || own || item.object == here->shown)
            return;
        const PointF d = scene::frameOf(item).centre() - c;
        const double along = key == Qt::Key_Left    ? -d.x
                             : key == Qt::Key_Right ? d.x
                             : key == Qt::Key_Up    ? -d.y
                                                    : d.y;
        const double across = key == Qt::Key_Left || key == Qt::Key_Right ? d.y : d.x;
        if (along <= 0)
            return;
        if (const double score = along + 2 * std::abs(across); score < bestScore) {
            bestScore = score;
            best = &item;
        }
    });
    if (!best)
        return;
    best->as<scene::Plate>() ? aimAt({best->object.id}) : aimThrough(best->object);
    typed_.clear();
    surface().reveal(scene::frameOf(*best));
}

void LinkTool::matchTyped() {
    const std::string query = lowered(typed_.toStdString());
    const Device* best = nullptr;
    int bestRank = 3;
    session_.network().all<Device>().forEach([&](const Device& device) {
        if (std::find(from_.begin(), from_.end(), device.id) != from_.end() ||
            !session_.scene().anchorOf(device.id))
            return;
        const std::string name = lowered(device.name);
        const int rank = name == query                           ? 0
                         : name.starts_with(query)               ? 1
                         : name.find(query) != std::string::npos ? 2
                                                                 : 3;
        if (rank < bestRank || (rank == bestRank && rank < 3 && naturalLess(device.name, best->name))) {
            best = &device;
            bestRank = rank;
        }
    });
    aimAt(best && !query.empty() ? best->id : DeviceId{});
    if (const auto anchor = session_.scene().anchorOf(target_))
        surface().reveal(anchor->frame);
}

bool LinkTool::key(QKeyEvent& event) {
    switch (event.key()) {
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (target_)
            commit();
        return true;
    case Qt::Key_Down:
        if (!byKeys_ || (target_ && event.modifiers() & Qt::AltModifier)) {
            openDrawer();
            return true;
        }
        [[fallthrough]];
    case Qt::Key_Up:
    case Qt::Key_Left:
    case Qt::Key_Right:
        if (byKeys_)
            stepTo(event.key());
        return true;
    case Qt::Key_Backspace:
        typed_.chop(1);
        matchTyped();
        return true;
    default:
        break;
    }
    if (byKeys_ && !event.text().isEmpty() && event.text().at(0).isPrint()) {
        typed_ += event.text();
        matchTyped();
        return true;
    }
    return false;
}

bool LinkTool::cancel() {
    const bool was = !from_.empty();
    end();
    return was;
}

void LinkTool::paint(QPainter& painter, paint::SheetPainter& sheetPainter, double zoom) {
    if (from_.empty())
        return;
    const paint::Theme& theme = sheetPainter.theme();
    painter.setRenderHint(QPainter::Antialiasing);
    // Devices that cannot take the link dim. Beyond some hundreds in view they are too
    // small to matter.
    const auto inView = session_.scene().itemsIn(surface().camera().visible()).of<scene::Plate>();
    if (from_.size() == 1 && !outOf_ && inView.size() <= 300) {
        QColor veil = theme.sheet;
        veil.setAlphaF(0.62F);
        for (const scene::Plate* plate : inView)
            if (!plate->subnet && plate->id != from_.front() && !answerFor(plate->id))
                painter.fillRect(paint::toQt(plate->frame.grown(1)), veil);
    }
    const auto target = target_ ? anchorOfTarget() : std::nullopt;
    for (const DeviceId device : from_) {
        const auto anchor = session_.scene().anchorOf(device);
        if (!anchor)
            continue;
        const PointF grip{anchor->frame.centre().x, anchor->frame.bottom()};
        sheetPainter.selection(painter, anchor->frame, zoom);
        if (target)
            sheetPainter.linkInHand(painter, scene::leavingFrom(*anchor, -1, target->frame.centre()),
                                    scene::leavingFrom(*target, -1, anchor->frame.centre()), zoom);
        else if (!byKeys_)
            sheetPainter.linkInHand(painter, grip, now_.sheet, zoom);
    }
    if (!target)
        return;
    const Answer& answer = answerFor(target_);
    sheetPainter.selection(painter, target->frame, zoom);
    const bool hidden = through_.id != 0; // then its device is named too
    const std::string words = !answer  ? answer.refusal().what
                              : hidden ? edit::portText(session_.network(), answer->b)
                                       : answer->b.port;
    const double size = 10 / zoom, width = scene::textWidth(words, size, scene::Weight::semiBold) + 10 / zoom;
    const Rect box{target->frame.centre().x - width / 2, target->frame.y - 24 / zoom, width, 17 / zoom};
    painter.setPen(QPen(answer ? theme.accent : theme.error, 1.2 / zoom));
    painter.setBrush(theme.plate);
    painter.drawRoundedRect(paint::toQt(box), 4 / zoom, 4 / zoom);
    sheetPainter.text(painter, {box.x + 5 / zoom, box.y + 12.2 / zoom}, words, size, scene::Weight::semiBold,
                      answer ? theme.ink : theme.error);
}

QString LinkTool::hint() const {
    if (from_.empty())
        return {};
    const QString name = outOf_              ? session_.nameOf(refTo(outOf_))
                         : from_.size() == 1 ? session_.nameOf(refTo(from_.front()))
                                             : tr("%n devices", nullptr, static_cast<int>(from_.size()));
    const auto at = answers_.find(target_);
    if (target_ && at != answers_.end()) {
        if (!at->second)
            return QString::fromStdString(at->second.refusal().text());
        const linking::Proposal& p = *at->second;
        const CableType* cable = session_.catalogue().cable(p.joint.cable);
        QString text = tr("Links %1 to %2: %3, %4")
                           .arg(QString::fromStdString(edit::portText(session_.network(), p.a)),
                                QString::fromStdString(edit::portText(session_.network(), p.b)),
                                QString::fromStdString(cable ? cable->name : p.joint.cable),
                                QString::fromStdString(p.reason));
        return text +
               (byKeys_ ? tr("; Enter to link, Alt+Down for other ports") : tr("; Down for other ports"));
    }
    if (byKeys_)
        return typed_.isEmpty()
                   ? tr("Link %1 to: arrows or type a name, Enter; Esc leaves all as it was").arg(name)
                   : tr("Link %1 to: %2").arg(name, typed_);
    return tr("Link %1 to: a plate, or empty sheet to add a device; Esc leaves all as it was").arg(name);
}

} // namespace underridge::app
