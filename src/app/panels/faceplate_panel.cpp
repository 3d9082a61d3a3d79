// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/faceplate_panel.h"

#include "app/sheet/card.h"
#include "app/window/editor.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/linking/rules.h"

#include <QApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
using paint::PortState;
namespace {

constexpr double scale = 1.25;

QString text(std::string_view s) {
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

} // namespace

FaceView::FaceView(Editor& editor, QWidget* parent)
    : QWidget(parent), editor_(editor), theme_(&paint::lightTheme()) {
    setMouseTracking(true);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

void FaceView::setDevice(DeviceId id) {
    const bool other = id != device_;
    device_ = id;
    const Device* device = editor_.network().device(id);
    face_ = device ? paint::faceOf(editor_.network(), *device) : paint::Face{};
    if (other || chosen_.size() != face_.ports.size()) {
        chosen_.assign(face_.ports.size(), false);
        current_ = anchor_ = hovered_ = -1;
    }
    setVisible(device != nullptr);
    setAccessibleName(device ? tr("Faceplate of %1").arg(text(device->name)) : tr("Faceplate"));
    setFixedSize(sizeHint());
    update();
}

void FaceView::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    update();
}

QSize FaceView::sizeHint() const {
    return (face_.size * scale).toSize() + QSize(6, 6);
}

QPointF FaceView::onFace(QPointF point) const {
    return (point - QPointF(3, 3)) / scale;
}

QPoint FaceView::middleOf(const std::string& port) const {
    for (const paint::FacePort& each : face_.ports)
        if (each.key == port)
            return (each.area.center() * scale + QPointF(3, 3)).toPoint();
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

paint::PortLook FaceView::lookOf(const paint::FacePort& port) const {
    const Network& network = editor_.network();
    const PortRef ref{device_, port.key};
    const auto index = static_cast<std::size_t>(&port - face_.ports.data());
    paint::PortLook look;
    look.chosen = chosen_[index];
    look.hovered = static_cast<int>(index) == hovered_ || (hasFocus() && static_cast<int>(index) == current_);
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
    paint::paintFace(painter, face_, *theme_, [this](const paint::FacePort& port) { return lookOf(port); });
}

void FaceView::tell(int index) {
    if (index < 0) {
        Q_EMIT hinted({});
        return;
    }
    const QStringList lines =
        cardLines(editor_.network(), refTo(device_), face_.ports[static_cast<std::size_t>(index)].key,
                  editor_.lengthUnit());
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
    tell(index);
    update();
    Q_EMIT chosenChanged();
}

void FaceView::mousePressEvent(QMouseEvent* event) {
    const int index = face_.at(onFace(event->position()));
    if (event->button() != Qt::LeftButton || index < 0)
        return;
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
    default:
        QWidget::keyPressEvent(event);
    }
}

FaceplatePanel::FaceplatePanel(Editor& editor, QWidget* parent)
    : QWidget(parent),
      editor_(editor),
      empty_(new QLabel(
          tr("Select a device to see its ports as they are on it; select two to see them face to face."))),
      area_(new QScrollArea),
      link_(new QPushButton(tr("Link"))),
      unlink_(new QPushButton(tr("Unlink"))) {
    setObjectName(QStringLiteral("faceplates"));
    link_->setToolTip(tr("Link the chosen ports of both devices in order; a range goes onto a range"));
    unlink_->setToolTip(tr("Take away the links of the chosen ports"));
    empty_->setTextFormat(Qt::PlainText);
    empty_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignCenter);
    auto* content = new QWidget;
    both_ = new QBoxLayout(QBoxLayout::LeftToRight, content);
    both_->setContentsMargins(0, 0, 0, 0);
    both_->setSpacing(14);
    for (int i = 0; i < 2; ++i) {
        titles_[i] = new QLabel;
        titles_[i]->setTextFormat(Qt::PlainText);
        faces_[i] = new FaceView(editor, content);
        auto* column = new QVBoxLayout;
        column->setSpacing(2);
        column->addWidget(titles_[i]);
        column->addWidget(faces_[i]);
        column->addStretch(1);
        both_->addLayout(column);
        connect(faces_[i], &FaceView::chosenChanged, this, &FaceplatePanel::refreshButtons);
        connect(faces_[i], &FaceView::hinted, this, &FaceplatePanel::hinted);
        connect(faces_[i], &FaceView::dragged, this,
                [this, i](const PortRef& port, QPoint global, bool begins, bool done) {
                    // Let go over a port of the other face: these two are linked.
                    FaceView* other = faces_[1 - i];
                    const QPoint local = other->mapFromGlobal(global);
                    if (done && other->isVisible() && other->rect().contains(local)) {
                        Q_EMIT dragged(port, {-1, -1}, false, true); // the sheet lets it go
                        for (const paint::FacePort& each : other->face().ports)
                            if ((other->middleOf(each.key) - local).manhattanLength() < 24) {
                                editor_.apply(edit::linkPorts(editor_.network(), editor_.catalogue(),
                                                              {{port, {other->device(), each.key}}},
                                                              editor_.ids()));
                                return;
                            }
                        return;
                    }
                    Q_EMIT dragged(port, global, begins, done);
                });
    }
    both_->addStretch(1);
    area_->setWidget(content);
    area_->setWidgetResizable(true);
    area_->setFrameShape(QFrame::NoFrame);
    area_->setAccessibleName(tr("Faceplates"));
    auto* buttons = new QVBoxLayout;
    buttons->addWidget(link_);
    buttons->addWidget(unlink_);
    buttons->addStretch(1);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    layout->addWidget(empty_, 1);
    layout->addWidget(area_, 1);
    layout->addLayout(buttons);
    connect(link_, &QPushButton::clicked, this, &FaceplatePanel::linkChosen);
    connect(unlink_, &QPushButton::clicked, this, &FaceplatePanel::unlinkChosen);
    for (const auto signal : {&Editor::selectionChanged, &Editor::networkChanged, &Editor::documentReplaced})
        connect(&editor_, signal, this, [this] {
            if (isVisible())
                refresh();
        });
    refresh();
}

void FaceplatePanel::setTheme(const paint::Theme& theme) {
    for (FaceView* face : faces_)
        face->setTheme(theme);
}

void FaceplatePanel::arrange() {
    int wanted = both_->spacing();
    for (const FaceView* face : faces_)
        wanted += face->isHidden() ? 0 : face->width();
    // The area itself is laid out later than this is asked.
    const int room = width() - link_->sizeHint().width() - 50;
    both_->setDirection(wanted <= room ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
}

void FaceplatePanel::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    arrange();
}

void FaceplatePanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
}

void FaceplatePanel::refresh() {
    const Network& network = editor_.network();
    std::vector<DeviceId> wanted = editor_.selectedDevices();
    if (wanted.size() > 2)
        wanted.resize(2);
    // A link selected here is one of the two devices shown: they stay.
    const auto shown = [this](DeviceId id) { return id == faces_[0]->device() || id == faces_[1]->device(); };
    const auto ofShown = [&] {
        const Link* link =
            editor_.selection().empty() ? nullptr : network.link({editor_.selection().front().id});
        return link && (shown(link->a.device) || shown(link->b.device));
    };
    const bool stay = wanted.size() < 2 && network.device(faces_[0]->device()) &&
                      (wanted.empty() ? ofShown() : faceToFace() && shown(wanted.front()));
    if (stay)
        wanted = {faces_[0]->device(), faces_[1]->device()};
    wanted.resize(2);
    for (int i = 0; i < 2; ++i) {
        faces_[i]->setDevice(wanted[static_cast<std::size_t>(i)]);
        const Device* device = network.device(faces_[i]->device());
        titles_[i]->setVisible(device != nullptr);
        if (device)
            titles_[i]->setText(
                QStringLiteral("%1 · %2").arg(text(device->name), kindText(network, *device)));
    }
    const bool any = network.device(faces_[0]->device());
    empty_->setVisible(!any);
    area_->setVisible(any);
    arrange();
    refreshButtons();
}

std::vector<std::pair<PortRef, PortRef>> FaceplatePanel::pairs() const {
    const auto a = faces_[0]->chosen();
    auto b = faces_[1]->chosen();
    if (a.empty() || b.empty())
        return {};
    if (b.size() == 1 && a.size() > 1) { // a range begins there
        const auto& ports = faces_[1]->face().ports;
        auto at = std::find_if(ports.begin(), ports.end(),
                               [&](const paint::FacePort& port) { return port.key == b.front().port; });
        for (++at; at != ports.end() && b.size() < a.size(); ++at)
            b.push_back({faces_[1]->device(), at->key});
    }
    if (a.size() != b.size())
        return {};
    std::vector<std::pair<PortRef, PortRef>> out;
    for (std::size_t i = 0; i < a.size(); ++i)
        out.emplace_back(a[i], b[i]);
    return out;
}

void FaceplatePanel::refreshButtons() {
    link_->setVisible(faceToFace());
    unlink_->setVisible(editor_.network().device(faces_[0]->device()) != nullptr);
    link_->setEnabled(!pairs().empty());
    bool used = false;
    for (const FaceView* face : faces_)
        for (const PortRef& port : face->chosen())
            used |= editor_.network().linkAt(port) != nullptr;
    unlink_->setEnabled(used);
}

void FaceplatePanel::linkChosen() {
    editor_.apply(edit::linkPorts(editor_.network(), editor_.catalogue(), pairs(), editor_.ids()));
}

void FaceplatePanel::unlinkChosen() {
    edit::Refs links;
    for (const FaceView* face : faces_)
        for (const PortRef& port : face->chosen())
            if (const Link* link = editor_.network().linkAt(port))
                if (const ObjectRef ref = refTo(link->id);
                    std::find(links.begin(), links.end(), ref) == links.end())
                    links.push_back(ref);
    editor_.apply(edit::removeObjects(editor_.network(), links));
}

} // namespace underridge::app
