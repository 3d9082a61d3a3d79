// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/face_view.h"

#include "app/session/workspace.h"
#include "app/sheet/card.h"
#include "app/shown_text.h"
#include "core/edit/fittings.h"
#include "core/linking/rules.h"

#include <QApplication>
#include <QDragEnterEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>

namespace underridge::app {
using namespace model;
using paint::PortState;
namespace {

constexpr double scale = 1.25;

/// "slot 2 of core-a: 12 × SFP+ line module · hot-swap".
QString slotWords(const Workspace& workspace, DeviceId id, const std::string& key) {
    const Network& network = workspace.network();
    const Device* device = network.device(id);
    if (!device)
        return {};
    for (const linking::SlotView& slot : linking::slotsOf(network, *device)) {
        if (slot.key != key)
            continue;
        const auto* module =
            slot.fitted ? network.find<ModuleModel>({fnv1a(slot.fitted->model), 0}) : nullptr;
        const QString holds = module        ? shownText(module->name)
                              : slot.fitted ? shownText(slot.fitted->model)
                                            : FaceView::tr("empty");
        QStringList words{
            FaceView::tr("Slot %1 of %2: %3").arg(shownText(key), shownText(device->name), holds),
            slot.slot->hotSwap ? FaceView::tr("hot-swap")
                               : FaceView::tr("switch the device off before changing it")};
        if (slot.fitted && !slot.fitted->serial.empty())
            words << shownText(slot.fitted->serial);
        return words.join(QStringLiteral(" · "));
    }
    return {};
}

} // namespace

FaceView::FaceView(Workspace& workspace, QWidget* parent)
    : QWidget(parent), workspace_(workspace), theme_(&paint::lightTheme()) {
    setMouseTracking(true);
    setAcceptDrops(true);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void FaceView::setDevice(DeviceId id) {
    const bool other = id != device_;
    device_ = id;
    const Device* device = workspace_.network().device(id);
    face_ = device ? scene::faceOf(workspace_.network(), *device) : scene::Face{};
    if (slot_ >= static_cast<int>(face_.slots.size()))
        slot_ = -1;
    if (other || chosen_.size() != face_.ports.size()) {
        chosen_.assign(face_.ports.size(), false);
        current_ = anchor_ = hovered_ = slot_ = -1;
        Q_EMIT hinted({}); // what was said was of the other
    }
    setVisible(device != nullptr);
    setAccessibleName(device ? tr("Faceplate of %1").arg(shownText(device->name)) : tr("Faceplate"));
    setFixedSize(sizeHint());
    update();
}

void FaceView::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    update();
}

QSize FaceView::sizeHint() const {
    return (QSizeF(face_.width, face_.height) * scale).toSize() + QSize(6, 6);
}

scene::PointF FaceView::onFace(QPointF point) const {
    return {(point.x() - 3) / scale, (point.y() - 3) / scale};
}

QPoint FaceView::middleOf(const std::string& port) const {
    for (const scene::FacePort& each : face_.ports)
        if (each.key == port)
            return (QPointF(each.area.centre().x, each.area.centre().y) * scale + QPointF(3, 3)).toPoint();
    return {};
}

std::vector<PortRef> FaceView::chosen() const {
    std::vector<PortRef> out;
    for (std::size_t i = 0; i < chosen_.size(); ++i)
        if (chosen_[i])
            out.push_back({device_, face_.ports[i].key});
    return out;
}

void FaceView::choose(const std::vector<std::string>& keys) {
    for (std::size_t i = 0; i < chosen_.size(); ++i)
        chosen_[i] = std::find(keys.begin(), keys.end(), face_.ports[i].key) != keys.end();
    update();
    Q_EMIT chosenChanged();
}

std::string FaceView::chosenSlot() const {
    return slot_ < 0 ? std::string() : face_.slots[static_cast<std::size_t>(slot_)].key;
}

void FaceView::chooseSlot(const std::string& key) {
    slot_ = -1;
    for (std::size_t i = 0; i < face_.slots.size(); ++i)
        if (face_.slots[i].key == key)
            slot_ = static_cast<int>(i);
    chosen_.assign(chosen_.size(), false);
    if (slot_ >= 0) {
        const QString words = slotWords(workspace_, device_, key);
        Q_EMIT hinted(words);
        setAccessibleDescription(words);
    }
    update();
    Q_EMIT chosenChanged();
}

QPoint FaceView::middleOfSlot(const std::string& slot) const {
    for (const scene::FaceSlot& each : face_.slots)
        if (each.key == slot)
            return (QPointF(each.area.centre().x, each.area.y + 6) * scale + QPointF(3, 3)).toPoint();
    return {};
}

FaceView::Target FaceView::targetAt(QPointF point, const QString& part) const {
    const auto colon = part.indexOf(QLatin1Char(':'));
    const std::string kind = part.left(colon).toStdString(), id = part.mid(colon + 1).toStdString();
    if (kind == "module") {
        const int slot = face_.slotAt(onFace(point));
        const Device* device = workspace_.network().device(device_);
        if (slot < 0 || !device)
            return {};
        for (const linking::SlotView& view : linking::slotsOf(workspace_.network(), *device))
            if (view.key == face_.slots[static_cast<std::size_t>(slot)].key)
                return std::find(view.slot->fits.begin(), view.slot->fits.end(), id) == view.slot->fits.end()
                           ? Target{}
                           : Target{-1, slot};
        return {};
    }
    if (kind == "transceiver") {
        const int port = face_.at(onFace(point));
        const TransceiverModel* model = workspace_.catalogue().transceiver(id);
        if (port < 0 || !model ||
            edit::misfit(workspace_.network(), {device_, face_.ports[static_cast<std::size_t>(port)].key},
                         *model))
            return {};
        return {port, -1};
    }
    return {};
}

void FaceView::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasFormat(QLatin1String(partMime)))
        event->acceptProposedAction();
}

void FaceView::dragMoveEvent(QDragMoveEvent* event) {
    target_ =
        targetAt(event->position(), QString::fromUtf8(event->mimeData()->data(QLatin1String(partMime))));
    event->setAccepted(target_.port >= 0 || target_.slot >= 0);
    update();
}

void FaceView::dragLeaveEvent(QDragLeaveEvent*) {
    target_ = {};
    update();
}

void FaceView::dropEvent(QDropEvent* event) {
    const QString part = QString::fromUtf8(event->mimeData()->data(QLatin1String(partMime)));
    const Target target = targetAt(event->position(), part);
    target_ = {};
    update();
    if (target.port < 0 && target.slot < 0)
        return;
    event->acceptProposedAction();
    Q_EMIT dropped(part,
                   target.port < 0 ? std::string() : face_.ports[static_cast<std::size_t>(target.port)].key,
                   target.slot < 0 ? std::string() : face_.slots[static_cast<std::size_t>(target.slot)].key);
}

void FaceView::contextMenuEvent(QContextMenuEvent* event) {
    if (event->reason() == QContextMenuEvent::Mouse) {
        const scene::PointF at = onFace(event->pos());
        if (const int port = face_.at(at); port >= 0) {
            if (!chosen_[static_cast<std::size_t>(port)])
                chooseUpTo(port, Qt::NoModifier);
        } else if (const int slot = face_.slotAt(at); slot >= 0) {
            chooseSlot(face_.slots[static_cast<std::size_t>(slot)].key);
        } else {
            return;
        }
    }
    Q_EMIT menuWanted(event->globalPos());
}

paint::PortLook FaceView::lookOf(const scene::FacePort& port) const {
    const Network& network = workspace_.network();
    const PortRef ref{device_, port.key};
    const auto index = static_cast<std::size_t>(&port - face_.ports.data());
    paint::PortLook look;
    look.chosen = chosen_[index];
    look.hovered = static_cast<int>(index) == hovered_ || static_cast<int>(index) == target_.port ||
                   (hasFocus() && static_cast<int>(index) == current_);
    const Port* record = network.port(ref);
    look.givesPower = port.like.power == PowerSide::source && !(record && record->powerOff);
    if (const Link* link = network.linkAt(ref)) {
        const auto fails = linking::failsOf(network, *link);
        look.state = (link->a == ref ? fails.a : fails.b) ? PortState::fails : PortState::used;
    } else if (record && record->disabled) {
        look.state = PortState::disabled;
    } else if (record && record->reserved) {
        look.state = PortState::reserved;
    }
    return look;
}

void FaceView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.translate(3, 3);
    painter.scale(scale, scale);
    paint::paintFace(
        painter, face_, *theme_, [this](const scene::FacePort& port) { return lookOf(port); },
        target_.slot >= 0 ? target_.slot : slot_);
}

void FaceView::tell(int index) {
    if (index < 0) {
        Q_EMIT hinted({});
        return;
    }
    const QStringList lines =
        cardLines(workspace_.network(), refTo(device_), face_.ports[static_cast<std::size_t>(index)].key,
                  workspace_.lengthUnit());
    setAccessibleDescription(lines.join(QStringLiteral(", ")));
    setToolTip(QStringLiteral("<p>%1</p>")
                   .arg(lines.join(QLatin1Char('\n'))
                            .toHtmlEscaped()
                            .replace(QLatin1Char('\n'), QStringLiteral("<br>"))));
    Q_EMIT hinted(lines.join(QStringLiteral(" · ")));
}

void FaceView::chooseUpTo(int index, Qt::KeyboardModifiers modifiers) {
    if (modifiers & Qt::ShiftModifier && anchor_ >= 0) {
        for (int i = 0; i < static_cast<int>(chosen_.size()); ++i)
            chosen_[static_cast<std::size_t>(i)] =
                i >= std::min(anchor_, index) && i <= std::max(anchor_, index);
    } else if (modifiers & Qt::ControlModifier) {
        chosen_[static_cast<std::size_t>(index)] = !chosen_[static_cast<std::size_t>(index)];
        anchor_ = index;
    } else {
        chosen_.assign(chosen_.size(), false);
        chosen_[static_cast<std::size_t>(index)] = true;
        anchor_ = index;
    }
    current_ = index;
    slot_ = -1;
    tell(index);
    update();
    Q_EMIT chosenChanged();
}

void FaceView::mousePressEvent(QMouseEvent* event) {
    const int index = face_.at(onFace(event->position()));
    if (event->button() != Qt::LeftButton)
        return;
    if (index < 0) {
        if (const int slot = face_.slotAt(onFace(event->position())); slot >= 0)
            chooseSlot(face_.slots[static_cast<std::size_t>(slot)].key);
        return;
    }
    pressing_ = true;
    pressedAt_ = event->pos();
    chooseUpTo(index, event->modifiers());
}

void FaceView::mouseMoveEvent(QMouseEvent* event) {
    const PortRef port{device_,
                       current_ >= 0 ? face_.ports[static_cast<std::size_t>(current_)].key : std::string()};
    if (pressing_ && !dragging_ && port.known() &&
        (event->pos() - pressedAt_).manhattanLength() >= QApplication::startDragDistance()) {
        dragging_ = true;
        Q_EMIT dragged(port, mapToGlobal(pressedAt_), true, false);
    }
    if (dragging_) {
        Q_EMIT dragged(port, event->globalPosition().toPoint(), false, false);
        return;
    }
    const int index = face_.at(onFace(event->position()));
    if (std::exchange(hovered_, index) != index) {
        tell(index);
        update();
    }
}

void FaceView::mouseReleaseEvent(QMouseEvent* event) {
    if (!std::exchange(pressing_, false) || current_ < 0)
        return;
    const PortRef port{device_, face_.ports[static_cast<std::size_t>(current_)].key};
    if (std::exchange(dragging_, false))
        Q_EMIT dragged(port, event->globalPosition().toPoint(), false, true);
}

void FaceView::leaveEvent(QEvent*) {
    hovered_ = -1;
    update();
}

void FaceView::focusInEvent(QFocusEvent* event) {
    QWidget::focusInEvent(event);
    if (current_ < 0 && !face_.ports.empty())
        current_ = 0;
    tell(current_);
    update();
}

void FaceView::keyPressEvent(QKeyEvent* event) {
    const int count = static_cast<int>(face_.ports.size());
    const auto go = [&](int step) {
        const int index = std::clamp(current_ + step, 0, count - 1);
        if (event->modifiers() & Qt::ShiftModifier) {
            chooseUpTo(index, event->modifiers());
            return;
        }
        current_ = index;
        tell(index);
        update();
    };
    if (count == 0) {
        QWidget::keyPressEvent(event);
        return;
    }
    switch (event->key()) {
    case Qt::Key_Left:
        return go(-1);
    case Qt::Key_Right:
        return go(1);
    case Qt::Key_Home:
        return go(-count);
    case Qt::Key_End:
        return go(count);
    case Qt::Key_Space:
        return chooseUpTo(current_, event->modifiers());
    case Qt::Key_Up:
    case Qt::Key_Down: {
        const int slots = static_cast<int>(face_.slots.size());
        const int to = std::clamp(slot_ + (event->key() == Qt::Key_Down ? 1 : -1), -1, slots - 1);
        return chooseSlot(to < 0 ? std::string() : face_.slots[static_cast<std::size_t>(to)].key);
    }
    case Qt::Key_Delete:
        Q_EMIT removeWanted();
        return;
    case Qt::Key_Menu:
        Q_EMIT menuWanted(mapToGlobal(slot_ >= 0 ? middleOfSlot(chosenSlot())
                                      : current_ >= 0
                                          ? middleOf(face_.ports[static_cast<std::size_t>(current_)].key)
                                          : rect().center()));
        return;
    default:
        QWidget::keyPressEvent(event);
    }
}

} // namespace underridge::app
