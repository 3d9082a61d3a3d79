// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_view.h"

#include "app/sheet/sheet_accessible.h"

#include "app/session/session.h"
#include "app/sheet/snapping.h"
#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/edit/sheets.h"

#include <QContextMenuEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;
namespace {
constexpr int cardRestMs = 450;
}

SheetView::SheetView(Session& session, QWidget* parent)
    // A screen reader may ask for the sheet as soon as it has a child.
    : QWidget((installSheetAccessibility(), parent)),
      session_(session),
      theme_(&paint::lightTheme()),
      painter_(std::make_unique<paint::SheetPainter>(*theme_)),
      select_(session, *this),
      link_(session, *this),
      place_(session, *this),
      tool_(&select_),
      locator_(new Locator(this)),
      drawer_(new PortDrawer(this)),
      strip_(new LinkStrip(this)),
      addField_(new AddField(session.catalogue(), this)),
      card_(new Card(this)),
      nameField_(new QLineEdit(this)),
      noteField_(new QPlainTextEdit(this)) {
    setObjectName(QStringLiteral("sheet"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAcceptDrops(true);
    setAttribute(Qt::WA_OpaquePaintEvent);
    setAccessibleName(tr("Sheet"));
    setMinimumSize(320, 240);
    nameField_->setAccessibleName(tr("Name"));
    noteField_->setAccessibleName(tr("Note"));
    noteField_->setPlaceholderText(tr("Ctrl+Enter keeps the note, Esc drops it"));
    for (QWidget* field : std::initializer_list<QWidget*>{nameField_, noteField_}) {
        field->hide();
        field->installEventFilter(this);
    }
    connect(nameField_, &QLineEdit::returnPressed, this, [this] { finishName(); });
    cardTimer_.setSingleShot(true);
    cardTimer_.setInterval(cardRestMs);
    connect(&edge_, &EdgeScroll::step, this, &SheetView::scrollAtEdge);
    connect(&cardTimer_, &QTimer::timeout, this, &SheetView::showCard);
    connect(&tiles_, &TileCache::tileReady, this, qOverload<>(&QWidget::update));
    connect(locator_, &Locator::lookAt, this, [this](PointF centre) { look(centre, camera_.zoom()); });
    connect(drawer_, &PortDrawer::chosen, this, &SheetView::takeRow);
    connect(drawer_, &PortDrawer::closed, this, [this] { setFocus(); });
    connect(addField_, &AddField::accepted, this, &SheetView::addTyped);
    connect(addField_, &AddField::closed, this, [this] { setFocus(); });
    connect(strip_, &LinkStrip::otherPortWanted, this,
            [this](int end) { openDrawerForLink(stripLink_, end); });
    followSession();
    tiles_.setScene(session_.scene(), {}, true);
    locator_->setScene(session_.scene());
}

/// What the sheet does when the network, the selection or the sheet shown changes.
void SheetView::followSession() {
    connect(&session_.sheets(), &SheetSession::sceneChanged, this,
            [this](const std::vector<Rect>& damage, bool all) {
                tiles_.setScene(session_.scene(), damage, all);
                locator_->setScene(session_.scene());
                if (tool_ == &link_)
                    cancelTool(); // what was in hand may be gone
                if (select_.inGesture())
                    select_.cancel();
                select_.leave();
                update();
            });
    connect(&session_.overlays(), &Overlays::changed, this, qOverload<>(&QWidget::update));
    connect(&session_.selected(), &Selection::changed, this, [this] {
        if (strip_->isVisible() && !session_.selected().contains(refTo(stripLink_)))
            strip_->hide();
        update();
    });
    connect(&session_.workspace(), &Workspace::documentReplaced, this, [this] {
        cancelTool();
        for (QWidget* over :
             std::initializer_list<QWidget*>{drawer_, strip_, addField_, card_, nameField_, noteField_})
            over->hide();
    });
    connect(&session_.sheets(), &SheetSession::sheetShown, this, [this] {
        if (const auto view = session_.sheets().view())
            look(view->centre, view->zoom);
        else
            fitAll();
    });
    connect(&session_.workspace(), &Workspace::viewWanted, this, [this](const edit::Session& at) {
        // The view stays unless nothing of what was undone would be seen.
        const Rect changed = selectionBounds();
        if (!changed.empty() && !camera_.visible().intersects(changed))
            look({at.centreX, at.centreY}, at.zoom);
    });
    connect(&session_.navigation(), &Navigation::leaving, this, [this] {
        if (nameField_->isVisible())
            finishName();
        finishNote();
        // What could not be taken has been told, and does not go along to another place.
        for (QWidget* over :
             std::initializer_list<QWidget*>{drawer_, strip_, addField_, card_, nameField_, noteField_})
            over->hide();
    });
    connect(&session_.navigation(), &Navigation::viewWanted, this,
            [this](const View& view) { look(view.centre, view.zoom); });
    connect(&session_.navigation(), &Navigation::revealWanted, this, &SheetView::reveal);
}

SheetView::~SheetView() = default;

void SheetView::setTheme(const paint::Theme& theme) {
    theme_ = &theme;
    painter_ = std::make_unique<paint::SheetPainter>(theme);
    tiles_.setTheme(theme);
    locator_->setTheme(theme);
    update();
}

void SheetView::cameraMoved() {
    session_.sheets().setView({camera_.centre(), camera_.zoom()});
    locator_->setVisibleArea(camera_.visible());
    card_->hide();
    if (strip_->isVisible())
        if (const scene::LinkLine* line = session_.scene().link(stripLink_))
            placeStrip(onScreen(session_.scene().item(line->a)->bounds),
                       onScreen(session_.scene().item(line->b)->bounds));
    Q_EMIT zoomChanged(camera_.zoom());
    update();
}

void SheetView::look(PointF centre, double zoom) {
    camera_.look(centre, zoom);
    cameraMoved();
}

void SheetView::pan(QPointF pixels) {
    camera_.panBy(pixels);
    cameraMoved();
}

void SheetView::zoomBy(double factor) {
    const QPoint pointer = mapFromGlobal(QCursor::pos());
    camera_.zoomAt(rect().contains(pointer) && underMouse() ? QPointF(pointer) : QRectF(rect()).center(),
                   factor);
    cameraMoved();
}

void SheetView::fitAll() {
    camera_.fit(session_.scene().bounds());
    cameraMoved();
}

Rect SheetView::selectionBounds() const {
    Rect all;
    for (const ObjectRef ref : session_.selection()) {
        if (const auto* plate = session_.scene().plate({ref.id}))
            all = all.united(plate->frame);
        else if (const auto* line = session_.scene().link({ref.id}))
            all = all.united(scene::boundsOf(line->path).grown(1));
        else if (const auto* note = session_.scene().note({ref.id}))
            all = all.united(note->frame);
    }
    return all;
}

void SheetView::fitSelection() {
    const Rect all = selectionBounds();
    if (all.empty())
        return fitAll();
    camera_.fit(all.grown(60));
    cameraMoved();
}

void SheetView::reveal(const Rect& rect) {
    camera_.reveal(rect);
    cameraMoved();
}

QRectF SheetView::onScreen(const Rect& r) const {
    return {camera_.toScreen({r.x, r.y}), camera_.toScreen({r.right(), r.bottom()})};
}

void SheetView::use(Tool& tool) {
    tool_ = &tool;
    card_->hide();
    cardTimer_.stop();
    setFocus();
    afterEvent();
}

void SheetView::cancelTool() {
    const bool placing = tool_ == &place_;
    if (tool_ != &select_)
        tool_->cancel();
    tool_ = &select_;
    if (placing)
        Q_EMIT placingEnded();
    afterEvent();
}

void SheetView::startPlacing(const DeviceModel& model) {
    place_.begin(model);
    use(place_);
}

void SheetView::putInView(const DeviceModel& model) {
    place_.put(model, camera_.visible().centre(), true);
}

void SheetView::openSelected() {
    if (session_.selection().size() != 1 || inGesture())
        return;
    const ObjectRef object = session_.selection().front();
    if (object.kind == Kind::note)
        editNote({object.id});
    else if (object.kind == Kind::link)
        openDrawerForLink({object.id}, 1);
    else if (object.kind == Kind::device)
        Q_EMIT faceplateWanted();
}

QString SheetView::portHint(const PortRef& port) const {
    const QStringList lines =
        cardLines(session_.network(), refTo(port.device), port.port, session_.lengthUnit());
    return lines.join(QStringLiteral(" · ")) + tr(" · drag or click to link");
}

void SheetView::showCard() {
    if (tool_ != &select_ || !underMouse())
        return;
    const scene::Hit hit = select_.hovered();
    const std::string port = select_.lens() && hit.port >= 0 ? select_.lens()->key(hit.port) : std::string();
    QStringList lines = cardLines(session_.network(), hit.object, port, session_.lengthUnit());
    if (lines.isEmpty())
        return;
    const QString title = lines.takeFirst();
    lines << session_.overlays().wordsOn(hit.object);
    card_->open(mapFromGlobal(QCursor::pos()), title, lines);
}

Pointer SheetView::pointerOf(const QMouseEvent& event) const {
    return {camera_.toSheet(event.position()), event.position(), event.modifiers(), event.button(),
            event.buttons()};
}

void SheetView::afterEvent() {
    setCursor(panning_ || spaceHeld_ ? Qt::ClosedHandCursor : tool_->cursor());
    if (const QString hint = tool_->hint(); hint != hint_) {
        hint_ = hint;
        Q_EMIT hintChanged(hint_);
    }
    update();
}

} // namespace underridge::app
