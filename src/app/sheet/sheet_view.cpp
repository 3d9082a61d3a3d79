// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_view.h"

#include "app/sheet/sheet_accessible.h"

#include "app/session/session.h"
#include "app/sheet/snapping.h"
#include "app/shown_text.h"
#include "core/edit/plans.h"

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
constexpr int cardRestMs = 450, holdMs = 1000;
}

SheetView::SheetView(Session& session, QWidget* parent)
    // A screen reader may ask for the sheet as soon as it has a child.
    : Surface((installSheetAccessibility(), parent)),
      session_(session),
      live_(session),
      linking_(session, *this),
      fields_(session, *this),
      adding_(session, *this),
      context_{session, *this, linking_, fields_, adding_, *this},
      select_(context_),
      link_(context_),
      place_(context_),
      measure_(context_),
      zone_(context_),
      extent_(context_),
      route_(context_),
      tool_(&select_),
      locator_(new Locator(this)),
      card_(new Card(this)) {
    setObjectName(QStringLiteral("sheet"));
    setAcceptDrops(true);
    setAccessibleName(tr("Sheet"));
    setMinimumSize(320, 240);
    cardTimer_.setSingleShot(true);
    cardTimer_.setInterval(cardRestMs);
    hold_.setSingleShot(true);
    hold_.setInterval(holdMs);
    connect(&morph_, &Morph::valueChanged, this, qOverload<>(&QWidget::update));
    connect(&morph_, &Morph::finished, this, qOverload<>(&QWidget::update));
    connect(&hold_, &QTimer::timeout, this, [this] {
        select_.openHeld();
        afterEvent();
    });
    connect(&edge_, &EdgeScroll::step, this, &SheetView::scrollAtEdge);
    connect(&cardTimer_, &QTimer::timeout, this, &SheetView::showCard);
    connect(locator_, &Locator::lookAt, this, [this](PointF centre) { look(centre, camera().zoom()); });
    connect(this, &Surface::cameraMoved, this, [this] {
        session_.sheets().setView({camera().centre(), camera().zoom()});
        locator_->setVisibleArea(camera().visible());
        card_->hide();
    });
    connect(&adding_, &TypeToAdd::added, this, [this] {
        select_.setFocused(session_.selection().empty() ? ObjectRef{} : session_.selection().front());
        reveal(selectionBounds());
    });
    followSession();
    followNavigation();
    tiles().setScene(session_.scene(), {}, true);
    showInLocator();
}

SheetView::~SheetView() = default;

void SheetView::hideAll() {
    linking_.hideDrawer();
    linking_.hideStrip();
    adding_.field().hide();
    card_->hide();
    fields_.hide();
}

void SheetView::showInLocator() {
    locator_->setSheet(session_.network(), session_.scene(), session_.workspace().findings());
}

/// What the sheet does when the network, the selection or the sheet shown changes.
void SheetView::followSession() {
    connect(&session_.sheets(), &SheetSession::sceneChanged, this,
            [this](const std::vector<Rect>& damage, bool all) {
                // What closes far away says what is in it, wherever that changed.
                const bool afar = camera().zoom() < scene::closingZoom;
                tiles().setScene(session_.scene(), damage, all || afar);
                showInLocator();
                if (tool_ == &link_)
                    cancelTool(); // what was in hand may be gone
                if (select_.inGesture() && !select_.isOpening())
                    select_.cancel();
                select_.leave();
                marked_ = nullptr;
                update();
            });
    connect(&session_.workspace(), &Workspace::findingsChanged, this, [this] {
        showInLocator();
        update();
    });
    connect(&session_.overlays(), &Overlays::changed, this, [this] {
        marked_ = nullptr;
        update();
    });
    connect(&session_.selected(), &Selection::changed, this, [this] {
        update();
        if (session_.selection() != edit::Refs{mark_.object()})
            mark_.clear();
        if (session_.selection().size() == 1)
            tellAccessibly(*this, QAccessible::Selection, session_.selection().front());
    });
    connect(&session_.workspace(), &Workspace::stateChanged, this, &SheetView::afterEvent);
    connect(&session_.workspace(), &Workspace::documentReplaced, this, [this] {
        cancelTool();
        hideAll();
    });
}

void SheetView::followNavigation() {
    connect(&session_.sheets(), &SheetSession::enteredChanged, this, &SheetView::flyAcross);
    connect(&session_.sheets(), &SheetSession::sheetShown, this, [this] {
        if (const auto view = session_.sheets().view())
            look(view->centre, view->zoom);
        else
            fitAll();
    });
    connect(&session_.workspace(), &Workspace::viewWanted, this, [this](const edit::Session& at) {
        // The view stays unless nothing of what was undone would be seen.
        const Rect changed = selectionBounds();
        if (!changed.empty() && !camera().visible().intersects(changed))
            look({at.centreX, at.centreY}, at.zoom);
    });
    connect(&session_.navigation(), &Navigation::leaving, this, [this] {
        fields_.finish();
        if (tool_ == &route_)
            cancelTool(); // its points are of this sheet
        hideAll();        // what could not be taken has been told, and does not go along to another place
    });
    connect(&session_.navigation(), &Navigation::viewWanted, this,
            [this](const View& view) { flyTo(view.centre, view.zoom); });
    connect(&session_.navigation(), &Navigation::arrived, this,
            [this](ObjectRef object) { mark_.show(object, session_.nameOf(object), hasMotion()); });
    connect(&mark_, &FoundMark::changed, this, [this] {
        const scene::Item* item = session_.scene().itemFor(mark_.object());
        locator_->setFound(item ? std::optional(scene::frameOf(*item).centre()) : std::nullopt);
        update();
    });
    connect(&session_.navigation(), &Navigation::revealWanted, this, &SheetView::reveal);
    connect(&session_.navigation(), &Navigation::wholeWanted, this, [this] { fitAll(); });
}

/// From where the group was seen to all that is shown now.
void SheetView::flyAcross(const Rect& before, const Rect& now) {
    if (!before.empty() && !now.empty()) {
        const double scale = std::max(before.w / now.w, before.h / now.h);
        const PointF middle = now.centre() + (camera().centre() - before.centre()) * (1 / scale);
        look(middle, camera().zoom() * scale);
    }
    Camera whole = camera();
    whole.fit(session_.scene().bounds());
    flyTo(whole.centre(), whole.zoom());
}

void SheetView::setTheme(const paint::Theme& theme) {
    live_.setTheme(theme);
    tiles().setTheme(theme);
    locator_->setTheme(theme);
    update();
}

Rect SheetView::selectionBounds() const {
    Rect all;
    for (const ObjectRef ref : session_.selection()) {
        if (const auto* line = session_.scene().link({ref.id}))
            all = all.united(scene::boundsOf(line->path).grown(1));
        else if (const scene::Item* item = session_.scene().itemFor(ref))
            all = all.united(scene::frameOf(*item));
    }
    return all;
}

void SheetView::showMoved(const scene::Scene& before) {
    if (hasMotion() && isVisible())
        morph_.begin(before, session_.scene());
    const scene::Rect all = session_.scene().bounds();
    if (!camera().visible().contains(all) || all.w * camera().zoom() < width() * 0.4) {
        Camera whole = camera();
        whole.fit(all);
        flyTo(whole.centre(), whole.zoom());
    }
}

void SheetView::fitAll() {
    fit(session_.scene().bounds());
}

void SheetView::fitSelection() {
    const Rect all = selectionBounds();
    if (all.empty())
        return fitAll();
    fit(all.grown(60));
}

void SheetView::putOn(const std::vector<DeviceId>& devices, std::optional<PointF> at) {
    if (devices.empty())
        return;
    const PointF middle = at.value_or(camera().visible().centre());
    const Point corner{static_cast<int>(std::lround(middle.x)), static_cast<int>(std::lround(middle.y))};
    // Stored where they are to be shown, however groups are folded.
    auto act = edit::putOnSheet(session_.network(), session_.sheet(), devices, corner);
    if (act && session_.scene().folding()) {
        std::vector<edit::Target> targets;
        for (const DeviceId id : devices)
            if (const Position* position = act->network.position(session_.sheet(), id.value))
                targets.push_back({refTo(id), position->at});
        act = edit::shownAt(*std::move(act), session_.sheet(), targets);
    }
    session_.apply(std::move(act));
}

bool SheetView::refusesLinks() {
    const Sheet* sheet = session_.network().sheet(session_.sheet());
    if (!sheet || sheet->takesLinks())
        return false;
    Q_EMIT session_.workspace().refused(
        advice(tr("%1 draws no cables").arg(shownText(sheet->name)),
               tr("join ports on a sheet of the physical or the data link layer")));
    return true;
}

void SheetView::startLink(linking::End from, const Pointer& pointer) {
    if (refusesLinks())
        return;
    linking_.hideStrip();
    link_.begin(std::move(from), pointer);
    use(link_);
}

void SheetView::startLinkOut(GroupId group, const Pointer& pointer) {
    if (refusesLinks())
        return;
    linking_.hideStrip();
    if (link_.beginOutOf(group, pointer))
        use(link_);
}

void SheetView::dragLink(const PortRef& from, QPoint global, bool begins, bool done) {
    const QPointF local = mapFromGlobal(global);
    const Pointer pointer{camera().toSheet(local), local, {}, Qt::LeftButton, Qt::LeftButton};
    if (begins)
        startLink({from.device, from.port}, pointer);
    else if (tool_ != &link_)
        return; // given up meanwhile
    else if (!done)
        tool_->move(pointer);
    else if (rect().contains(local.toPoint()))
        tool_->release(pointer);
    else
        cancelTool();
    afterEvent();
    update();
}

void SheetView::linkSelection() {
    if (refusesLinks())
        return;
    std::vector<DeviceId> from = session_.selected().devices();
    if (from.empty() && select_.focused().kind == Kind::device &&
        session_.network().device({select_.focused().id}))
        from.push_back({select_.focused().id});
    if (from.empty()) {
        Q_EMIT session_.workspace().refused(
            advice(tr("no device is selected"), tr("select the one to link from")));
        return;
    }
    linking_.hideStrip();
    link_.choose(std::move(from));
    use(link_);
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

void SheetView::startRoute(CableRouteKind type) {
    cancelTool();
    route_.setType(type);
    use(route_);
}

void SheetView::startPlacing(const DeviceModel& model) {
    place_.begin(model);
    use(place_);
}

void SheetView::putInView(const DeviceModel& model) {
    place_.put(model, camera().visible().centre(), true);
}

void SheetView::openSelected() {
    if (session_.selection().size() != 1 || inGesture())
        return;
    const ObjectRef object = session_.selection().front();
    if (object.kind == Kind::note)
        fields_.editNote({object.id});
    else if (object.kind == Kind::link)
        linking_.openDrawerForLink({object.id}, 1);
    else if (object.kind == Kind::group && object.id != session_.scene().entered().value)
        session_.navigation().enter({object.id});
    else if (object.kind == Kind::device)
        Q_EMIT faceplateWanted();
}

void SheetView::paste(const edit::Clip& clip, std::optional<PointF> at) {
    Rect bounds;
    clip.piece.all<Position>().forEach([&](const Position& p) {
        bounds = bounds.united({static_cast<double>(p.at.x), static_cast<double>(p.at.y), 120, 44});
    });
    const Point by = onGrid(at.value_or(pointerOrMiddle()) - bounds.centre());
    session_.applyTo(clip.piece.all<Position>().size(),
                     [now = session_.network(), sheet = session_.sheet(), clip,
                      by = by == Point{} ? Point{32, 32} : by, seed = session_.ids().next()] {
                         IdSource ids(seed);
                         return edit::pasteClip(now, sheet, clip, by, ids);
                     });
}

void SheetView::showCard() {
    if (tool_ != &select_ || !underMouse())
        return;
    const scene::Hit hit = select_.hovered();
    const std::string port = select_.lens() && hit.port >= 0 ? select_.lens()->key(hit.port) : std::string();
    QStringList lines = cardLines(session_.network(), hit.object, port, session_.lengthUnit());
    const scene::Item* item = session_.scene().item(hit.object);
    if (const auto* plate = item ? item->as<scene::Plate>() : nullptr; plate && plate->subnet)
        lines = QStringList{session_.nameOf(hit.object), shownText(plate->subline)};
    else if (hit.object.kind == Kind::interface)
        lines = QStringList{session_.nameOf(hit.object)};
    else if (const auto* zone = item ? item->as<scene::NoteCard>() : nullptr)
        lines = zoneLines(session_.network(), session_.scene(), *zone);
    if (lines.isEmpty())
        return;
    if (const QStringList spread =
            item ? spreadLines(session_.network(), session_.scene(), *item) : QStringList();
        !spread.isEmpty())
        lines = spread;
    else if (hit.badge)
        lines = badgeLines(session_.scene(), {hit.object.id});
    const auto& trouble = session_.workspace().reported()->byGroup;
    if (const auto held = trouble.find({hit.object.id});
        hit.object.kind == Kind::group && held != trouble.end())
        lines << troubleText(held->second);
    const QString title = lines.takeFirst();
    lines << session_.overlays().wordsOn(hit.object);
    card_->open(mapFromGlobal(QCursor::pos()), title, lines);
}

Pointer SheetView::pointerOf(const QMouseEvent& event) const {
    return {camera().toSheet(event.position()), event.position(), event.modifiers(), event.button(),
            event.buttons()};
}

void SheetView::afterEvent() {
    setCursor(isPanning() ? Qt::ClosedHandCursor : tool_->cursor());
    if (const ObjectRef focused = select_.focused(); focused != toldFocus_) {
        toldFocus_ = focused;
        tellAccessibly(*this, QAccessible::Focus, focused);
    }
    if (const QString hint = tool_->hint(); hint != hint_) {
        hint_ = hint;
        Q_EMIT hintChanged(hint_);
    }
    update();
}

} // namespace underridge::app
