// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/racks/rack_panel.h"

#include "app/carried.h"
#include "app/session/session.h"
#include "app/sheet/sheet_view.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/edit/names.h"
#include "core/edit/places.h"
#include "core/model/group_tree.h"
#include "paint/rack_drawing.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QTimer>

namespace underridge::app {
using namespace model;
namespace {
constexpr int dragPixels = 4;

scene::PointF toPoint(QPointF p) {
    return {p.x(), p.y()};
}
} // namespace

RackView::RackView(Session& session, QWidget* parent)
    : QWidget(parent), session_(session), theme_(&paint::lightTheme()) {
    setObjectName(QStringLiteral("rack"));
    setAccessibleName(tr("Rack"));
    setFocusPolicy(Qt::StrongFocus);
    setAcceptDrops(true);
    setMouseTracking(true);
}

void RackView::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    update();
}

void RackView::show(GroupId rack) {
    picture_ = scene::rackPicture(session_.network(), rack);
    held_.reset();
    const scene::Rect all = picture_ ? picture_->bounds() : scene::Rect{0, 0, 200, 60};
    setFixedSize(static_cast<int>(all.w), static_cast<int>(all.h));
    update();
}

void RackView::refresh() {
    const auto held = held_;
    show(rack());
    if (held && session_.network().device(held->device))
        held_ = held;
}

void RackView::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme_->sheet);
    if (!picture_)
        return;
    paint::paintRack(painter, session_.network(), *picture_, *theme_, session_.selected().devices());
    if (!held_)
        return;
    if (const auto wanted = wantedAt(at_)) {
        const bool free = !inTheWay(session_.network(), picture_->rack, *wanted) &&
                          wanted->top() <= picture_->units && wanted->unit >= 1;
        painter.setPen(QPen(free ? theme_->accent : theme_->error, 2, free ? Qt::SolidLine : Qt::DashLine));
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(paint::toQt(picture_->areaOf(*wanted, wanted->side)));
    }
}

std::optional<Mounted> RackView::wantedAt(QPointF point) const {
    const int unit = picture_ ? picture_->unitAt(toPoint(point)) : 0;
    const auto side = picture_ ? picture_->sideAt(toPoint(point)) : std::nullopt;
    if (!held_ || unit == 0 || !side)
        return std::nullopt;
    Mounted wanted = *held_;
    wanted.unit = std::max(1, unit - grabbed_);
    wanted.side = *side;
    wanted.half = wanted.halfWide ? picture_->halfAt(toPoint(point)) : wanted.half;
    return wanted;
}

void RackView::move(const Mounted& wanted) {
    if (picture_)
        session_.apply(edit::mountInRack(session_.network(), wanted.device, picture_->rack, wanted.unit,
                                         wanted.side, wanted.half));
}

void RackView::mousePressEvent(QMouseEvent* event) {
    pressed_ = at_ = event->position();
    const scene::RackSlot* slot = picture_ ? picture_->slotAt(toPoint(at_)) : nullptr;
    if (event->button() != Qt::LeftButton)
        return;
    session_.select(slot ? edit::Refs{refTo(slot->mounted.device)} : edit::Refs{});
    held_.reset();
    if (slot) {
        held_ = slot->mounted;
        grabbed_ = picture_->unitAt(toPoint(at_)) - slot->mounted.unit;
    }
}

void RackView::mouseMoveEvent(QMouseEvent* event) {
    at_ = event->position();
    if (held_ && (at_ - pressed_).manhattanLength() >= dragPixels) {
        if (const auto wanted = wantedAt(at_)) {
            const auto there = inTheWay(session_.network(), picture_->rack, *wanted);
            Q_EMIT said(there ? tr("%1 is in the way").arg(session_.nameOf(refTo(there->device)))
                              : tr("Unit %1, %2").arg(wanted->unit).arg(shownText(titleOf(wanted->side))));
        }
        update();
    }
}

void RackView::mouseReleaseEvent(QMouseEvent* event) {
    at_ = event->position();
    const auto wanted = wantedAt(at_);
    const bool dragged = (at_ - pressed_).manhattanLength() >= dragPixels;
    const auto held = std::exchange(held_, std::nullopt);
    if (held && dragged && wanted && !(*wanted == *held))
        move(*wanted);
    update();
}

void RackView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (const scene::RackSlot* slot = picture_ ? picture_->slotAt(toPoint(event->position())) : nullptr)
        Q_EMIT goTo({refTo(slot->mounted.device)});
}

std::optional<Mounted> RackView::selected() const {
    const auto devices = session_.selected().devices();
    if (picture_ && devices.size() == 1)
        for (const scene::RackSlot& slot : picture_->slots)
            if (slot.mounted.device == devices.front())
                return slot.mounted;
    return std::nullopt;
}

/// Up and down move what is selected by a unit; with nothing selected they go from device
/// to device.
void RackView::keyPressEvent(QKeyEvent* event) {
    const int by = event->key() == Qt::Key_Up ? 1 : event->key() == Qt::Key_Down ? -1 : 0;
    if (event->key() == Qt::Key_Escape && held_) {
        held_.reset();
        return update();
    }
    if (event->key() == Qt::Key_Tab || event->key() == Qt::Key_Backtab || !picture_ ||
        picture_->slots.empty())
        return QWidget::keyPressEvent(event);
    auto now = selected();
    if (by != 0 && now && event->modifiers().testFlag(Qt::AltModifier)) {
        now->unit += by;
        return move(*now);
    }
    const int aside = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (aside != 0 && now && now->halfWide && event->modifiers().testFlag(Qt::AltModifier)) {
        now->half = (aside > 0) == (now->side == Side::front) ? Half::right : Half::left;
        return move(*now);
    }
    if (by == 0)
        return QWidget::keyPressEvent(event);
    std::vector<Mounted> all;
    for (const scene::RackSlot& slot : picture_->slots)
        if (!slot.behind)
            all.push_back(slot.mounted);
    std::stable_sort(all.begin(), all.end(),
                     [](const Mounted& a, const Mounted& b) { return a.unit < b.unit; });
    const auto at = now ? std::find(all.begin(), all.end(), *now) : all.end();
    const auto next = at == all.end() ? (by > 0 ? all.begin() : all.end() - 1)
                      : by > 0        ? (at + 1 == all.end() ? at : at + 1)
                                      : (at == all.begin() ? at : at - 1);
    session_.select({refTo(next->device)});
}

void RackView::dragEnterEvent(QDragEnterEvent* event) {
    if (picture_ && (event->mimeData()->hasFormat(QString::fromLatin1(modelMimeType)) ||
                     carriesDevices(*event->mimeData())))
        event->acceptProposedAction();
}

void RackView::dropEvent(QDropEvent* event) {
    const int unit = picture_ ? picture_->unitAt(toPoint(event->position())) : 0;
    const auto side = picture_ ? picture_->sideAt(toPoint(event->position())) : std::nullopt;
    if (unit == 0 || !side)
        return;
    event->acceptProposedAction();
    if (const auto devices = carriedDevices(*event->mimeData(), session_.network()); !devices.empty())
        return move(mountedAs(session_.network(), *session_.network().device(devices.front()), unit, *side,
                              picture_->halfAt(toPoint(event->position()))));
    const QByteArray id = event->mimeData()->data(QString::fromLatin1(modelMimeType));
    const DeviceModel* model = session_.catalogue().device(id.toStdString());
    if (!model)
        return;
    const std::string pattern = edit::defaultPattern(model->role);
    const auto names = edit::seriesNames(pattern, 1, edit::namesLike(session_.network(), pattern));
    session_.apply(edit::newInRack(session_.network(), *model, names ? names->front() : model->name,
                                   picture_->rack, unit, *side, session_.ids(),
                                   picture_->halfAt(toPoint(event->position()))));
}

RackPanel::RackPanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      choice_(new QComboBox),
      says_(plainLabel()),
      hint_(plainLabel()),
      area_(new QScrollArea),
      view_(new RackView(session)) {
    choice_->setAccessibleName(tr("Which rack"));
    says_->setWordWrap(false);
    hint_->setWordWrap(false);
    area_->setWidget(view_);
    area_->setFrameShape(QFrame::NoFrame);
    area_->setAlignment(Qt::AlignHCenter | Qt::AlignTop);
    auto* top = new QHBoxLayout;
    top->addWidget(choice_);
    top->addWidget(says_, 1);
    top->addWidget(hint_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 8, 8, 8);
    column->addLayout(top);
    column->addWidget(area_, 1);
    connect(choice_, &QComboBox::currentIndexChanged, this, [this](int index) {
        if (index >= 0 && index < static_cast<int>(racks_.size()))
            view_->show(racks_[static_cast<std::size_t>(index)]);
        say();
    });
    connect(view_, &RackView::said, hint_, &QLabel::setText);
    connect(view_, &RackView::goTo, this, &RackPanel::goTo);
    connect(&session_.workspace(), &Workspace::networkChanged, this, [this] {
        if (isVisible())
            refresh();
    });
    connect(&session_.selected(), &Selection::changed, view_, qOverload<>(&QWidget::update));
}

void RackPanel::showEvent(QShowEvent* event) {
    refresh();
    // The rack that is selected, or has what is selected in it.
    for (const ObjectRef ref : session_.selection()) {
        const Device* device = session_.network().device({ref.id});
        const GroupId rack = device ? device->place.in : GroupId{ref.id};
        const auto at = std::find(racks_.begin(), racks_.end(), rack);
        if (at != racks_.end())
            choice_->setCurrentIndex(static_cast<int>(at - racks_.begin()));
        if (const auto& picture = view_->picture(); picture && device)
            for (const scene::RackSlot& slot : picture->slots)
                if (slot.mounted.device == device->id && !slot.behind) // what is selected is seen
                    QTimer::singleShot(0, this, [this, middle = slot.area.centre()] {
                        area_->ensureVisible(static_cast<int>(middle.x), static_cast<int>(middle.y), 50, 120);
                    });
    }
    QWidget::showEvent(event);
}

void RackPanel::refresh() {
    const Network& network = session_.network();
    const GroupId present = view_->rack();
    auto now = racksOf(network);
    QStringList titles;
    for (const GroupId id : now) {
        const Group* rack = network.group(id);
        const QString in = shownText(pathText(network, rack->parent));
        titles << (in.isEmpty() ? shownText(rack->name) : tr("%1 in %2").arg(shownText(rack->name), in));
    }
    {
        const QSignalBlocker quiet(choice_);
        racks_ = std::move(now);
        choice_->clear();
        choice_->addItems(titles);
        const auto at = std::find(racks_.begin(), racks_.end(), present);
        choice_->setCurrentIndex(at == racks_.end() ? (racks_.empty() ? -1 : 0)
                                                    : static_cast<int>(at - racks_.begin()));
    }
    view_->show(racks_.empty() ? GroupId{} : racks_[static_cast<std::size_t>(choice_->currentIndex())]);
    choice_->setVisible(!racks_.empty());
    say();
}

void RackPanel::say() {
    const Group* rack = session_.network().group(view_->rack());
    if (!rack || !view_->picture())
        return says_->setText(tr("No rack yet. Give a group the kind rack, and units in its details."));
    const RackUse use = useOf(session_.network(), *rack);
    QString words = tr("%1 of %Ln unit(s) free, %2 in one piece", nullptr, use.units)
                        .arg(QLocale().toString(use.free()), QLocale().toString(use.largestGap));
    if (use.watts > 0)
        words = tr("%1; draws up to %L2 W").arg(words).arg(use.watts);
    if (use.kg > 0)
        words = tr("%1; weighs %L2 kg").arg(words).arg(qRound(use.kg));
    if (const auto loose = view_->picture()->loose.size(); loose > 0)
        words = tr("%1; %2 without a unit").arg(words, tr("%Ln device(s)", nullptr, static_cast<int>(loose)));
    says_->setText(words);
}

} // namespace underridge::app
