// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/sheet_view.h"

#include "app/sheet/snapping.h"
#include "app/window/editor.h"
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

SheetView::SheetView(Editor& editor, QWidget* parent)
    : QWidget(parent),
      editor_(editor),
      theme_(&paint::lightTheme()),
      painter_(std::make_unique<paint::SheetPainter>(*theme_)),
      select_(editor, *this),
      link_(editor, *this),
      place_(editor, *this),
      tool_(&select_),
      locator_(new Locator(this)),
      drawer_(new PortDrawer(this)),
      strip_(new LinkStrip(this)),
      addField_(new AddField(editor.catalogue(), this)),
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
    connect(nameField_, &QLineEdit::returnPressed, this, &SheetView::finishName);
    cardTimer_.setSingleShot(true);
    cardTimer_.setInterval(cardRestMs);
    connect(&cardTimer_, &QTimer::timeout, this, &SheetView::showCard);
    connect(&tiles_, &TileCache::tileReady, this, qOverload<>(&QWidget::update));
    connect(locator_, &Locator::lookAt, this, [this](PointF centre) { look(centre, camera_.zoom()); });
    connect(drawer_, &PortDrawer::chosen, this, &SheetView::takeRow);
    connect(drawer_, &PortDrawer::closed, this, [this] { setFocus(); });
    connect(addField_, &AddField::accepted, this, &SheetView::addTyped);
    connect(addField_, &AddField::closed, this, [this] { setFocus(); });
    connect(strip_, &LinkStrip::otherPortWanted, this,
            [this](int end) { openDrawerForLink(stripLink_, end); });
    connect(&editor_, &Editor::sceneChanged, this, [this](const std::vector<Rect>& damage, bool all) {
        tiles_.setScene(editor_.scene(), damage, all);
        locator_->setScene(editor_.scene());
        select_.leave();
        update();
    });
    connect(&editor_, &Editor::selectionChanged, this, [this] {
        if (strip_->isVisible() && !editor_.isSelected(refTo(stripLink_)))
            strip_->hide();
        update();
    });
    connect(&editor_, &Editor::documentReplaced, this, [this] {
        cancelTool();
        for (QWidget* over :
             std::initializer_list<QWidget*>{drawer_, strip_, addField_, card_, nameField_, noteField_})
            over->hide();
        fitAll();
    });
    tiles_.setScene(editor_.scene(), {}, true);
    locator_->setScene(editor_.scene());
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
    editor_.setView(camera_.centre().x, camera_.centre().y, camera_.zoom());
    locator_->setVisibleArea(camera_.visible());
    card_->hide();
    if (strip_->isVisible())
        if (const scene::LinkLine* line = editor_.scene().link(stripLink_))
            if (const auto* a = editor_.scene().plate(line->a), *b = editor_.scene().plate(line->b); a && b)
                placeStrip(onScreen(a->frame), onScreen(b->frame));
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
    camera_.fit(editor_.scene().bounds());
    cameraMoved();
}

void SheetView::fitSelection() {
    Rect all;
    for (const ObjectRef ref : editor_.selection()) {
        if (const auto* plate = editor_.scene().plate({ref.id}))
            all = all.united(plate->frame);
        else if (const auto* line = editor_.scene().link({ref.id}))
            all = all.united(scene::boundsOf(line->path).grown(1));
        else if (const auto* note = editor_.scene().note({ref.id}))
            all = all.united(note->frame);
    }
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

void SheetView::startLink(linking::End from, const Pointer& pointer) {
    strip_->hide();
    link_.begin(std::move(from), pointer);
    use(link_);
}

void SheetView::linkSelection() {
    std::vector<DeviceId> from = editor_.selectedDevices();
    if (from.empty() && select_.focused().kind == Kind::device &&
        editor_.network().device({select_.focused().id}))
        from.push_back({select_.focused().id});
    if (from.empty()) {
        Q_EMIT editor_.refused(advice("no device is selected", "select the one to link from"));
        return;
    }
    strip_->hide();
    link_.choose(std::move(from));
    use(link_);
}

void SheetView::startPlacing(const DeviceModel& model) {
    place_.begin(model);
    use(place_);
}

void SheetView::makeLink(const linking::Proposal& proposal) {
    if (!editor_.apply(edit::makeLink(editor_.network(), editor_.catalogue(), proposal, editor_.ids())))
        return;
    if (!editor_.selection().empty())
        showStrip({editor_.selection().front().id}, proposal.reason);
}

void SheetView::showStrip(LinkId id, const std::string& reason) {
    const Link* link = editor_.network().link(id);
    const scene::LinkLine* line = editor_.scene().link(id);
    if (!link || !line)
        return;
    stripLink_ = id;
    stripStep_ = editor_.document().history().steps();
    const Cable* cable = editor_.network().cable(link->cable);
    const CableType* type = cable ? editor_.network().typeOf(*cable) : nullptr;
    QString words = type ? QString::fromStdString(type->name) : tr("no cable");
    if (const int speed = speedOf(editor_.network(), *link); speed > 0 && !link->console)
        words += QStringLiteral(", ") + QString::fromStdString(speedText(speed));
    words += cable && cable->lengthMm > 0
                 ? QStringLiteral(", %1 m").arg(static_cast<double>(cable->lengthMm) / 1000)
                 : tr(", length not set");
    strip_->open(QString::fromStdString(edit::portText(editor_.network(), link->a)),
                 QString::fromStdString(edit::portText(editor_.network(), link->b)), words,
                 QString::fromStdString(reason));
    placeStrip(onScreen(editor_.scene().plate(line->a)->frame),
               onScreen(editor_.scene().plate(line->b)->frame));
}

void SheetView::placeStrip(const QRectF& a, const QRectF& b) {
    const QRectF both = a.united(b);
    const QSize s = strip_->size();
    QPointF at(both.center().x() - s.width() / 2.0, both.bottom() + 24);
    if (at.y() + s.height() > height() - 4)
        at.setY(both.top() - s.height() - 16);
    strip_->move(std::clamp(qRound(at.x()), 4, std::max(4, width() - s.width() - 4)),
                 std::clamp(qRound(at.y()), 4, std::max(4, height() - s.height() - 4)));
}

void SheetView::openDrawerForNew(const linking::End& from, DeviceId target) {
    showDrawer(from, target, {});
}

void SheetView::openDrawerForLink(LinkId id, int end) {
    const Link* link = editor_.network().link(id);
    if (!link) {
        Q_EMIT editor_.refused(advice("no link is selected", "select the link whose port is to change"));
        return;
    }
    const PortRef& kept = link->end(1 - end);
    showDrawer({kept.device, kept.port}, link->end(end).device, id);
}

void SheetView::showDrawer(const linking::End& from, DeviceId target, LinkId spare) {
    drawerFrom_ = from;
    drawerTarget_ = target;
    drawerLink_ = spare;
    const scene::Plate* here = editor_.scene().plate(target);
    const scene::Plate* there = editor_.scene().plate(from.device);
    if (!here || !there)
        return;
    drawer_->open(editor_.nameOf(refTo(target)),
                  QString::fromStdString(from.port.empty()
                                             ? editor_.network().device(from.device)->name
                                             : edit::portText(editor_.network(), {from.device, from.port})),
                  linking::drawerRows(editor_.network(), editor_.catalogue(), from, target, spare));
    drawer_->placeBeside(onScreen(here->frame), {onScreen(here->frame), onScreen(there->frame)}, rect());
}

void SheetView::takeRow(const linking::DrawerRow& row) {
    setFocus();
    linking::Proposal proposal{
        {drawerFrom_.device, row.other}, {drawerTarget_, row.port}, row.joint, "port as chosen"};
    if (!drawerLink_) {
        makeLink(proposal);
        return;
    }
    const Link* link = editor_.network().link(drawerLink_);
    if (!link)
        return;
    if (link->a.device == drawerTarget_) { // keep the link's own order of ends
        std::swap(proposal.a, proposal.b);
        std::swap(proposal.joint.transceiverA, proposal.joint.transceiverB);
    }
    const bool wasLast = strip_->isVisible() && drawerLink_ == stripLink_ &&
                         stripStep_ == editor_.document().history().steps() &&
                         !editor_.document().history().canRedo();
    if (wasLast) { // part of the same step: the link is made again, with the ports wanted
        editor_.undo();
        makeLink(proposal);
        return;
    }
    if (editor_.apply(edit::changeLink(editor_.network(), editor_.catalogue(), drawerLink_, proposal)))
        showStrip(drawerLink_, proposal.reason);
}

void SheetView::openAddField(std::optional<PointF> at, std::optional<linking::End> linkFrom) {
    addAt_ = at;
    addFrom_ = std::move(linkFrom);
    const QPoint pointer = mapFromGlobal(QCursor::pos());
    if (!addAt_ && underMouse() && rect().contains(pointer))
        addAt_ = camera_.toSheet(pointer);
    const QPoint where = addAt_ ? camera_.toScreen(*addAt_).toPoint() : rect().center() - QPoint(180, 120);
    addField_->open(where, addFrom_ ? tr("Add, linked to %1").arg(editor_.nameOf(refTo(addFrom_->device)))
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
            const auto plates = editor_.scene().itemsIn(there).plates;
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
                                         edit::namesLike(editor_.network(), addition.pattern));
    if (!names) {
        Q_EMIT editor_.refused(names.refusal());
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
    const Network before = editor_.network();
    auto act = edit::placeDevices(before, editor_.sheet(), *addition.model, placed, {}, editor_.ids());
    if (act && addFrom_) { // placed and linked in one step
        std::vector<DeviceId> fresh;
        for (const ObjectRef ref : act->subjects)
            fresh.push_back({ref.id});
        auto linked =
            edit::linkEachTo(act->network, editor_.catalogue(), fresh, addFrom_->device, editor_.ids());
        if (!addFrom_->port.empty() && fresh.size() == 1) {
            auto pair = linking::bestPair(act->network, editor_.catalogue(), *addFrom_, {fresh.front(), {}});
            linked = pair ? edit::makeLink(act->network, editor_.catalogue(), *pair, editor_.ids())
                          : edit::ActResult(pair.refusal());
        }
        if (!linked) {
            Q_EMIT editor_.refused(linked.refusal());
            return;
        }
        act->network = std::move(linked->network);
        act->name += ", linked";
    }
    if (editor_.apply(std::move(act))) {
        Rect all;
        for (const ObjectRef ref : editor_.selection())
            if (const auto* plate = editor_.scene().plate({ref.id}))
                all = all.united(plate->frame);
        select_.setFocused(editor_.selection().empty() ? ObjectRef{} : editor_.selection().front());
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
    const Note* note = editor_.network().note(id);
    const scene::NoteCard* shown = editor_.scene().note(id);
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

void SheetView::finishNote() {
    if (!noteField_->isVisible())
        return;
    noteField_->hide();
    setFocus();
    const std::string text = noteField_->toPlainText().toStdString();
    if (trimmed(text).empty() && !noteEdited_)
        return;
    editor_.apply(noteEdited_ ? edit::setNoteText(editor_.network(), noteEdited_, text)
                              : edit::addNote(editor_.network(), editor_.sheet(), onGrid(noteAt_), text,
                                              editor_.ids()));
}

void SheetView::renameInPlace(edit::Refs objects) {
    std::erase_if(objects, [](ObjectRef ref) { return ref.kind != Kind::device && ref.kind != Kind::group; });
    if (objects.empty()) {
        Q_EMIT editor_.refused(advice("nothing that has a name is selected", "select a device"));
        return;
    }
    naming_ = std::move(objects);
    const scene::Plate* plate = editor_.scene().plate({naming_.front().id});
    QRectF at(width() / 2.0 - 100, height() / 2.0, 200, 28);
    if (plate) {
        at = onScreen(
            {plate->frame.x + scene::spineWidth, plate->frame.y, plate->frame.w - scene::spineWidth, 22});
        at.setWidth(std::max(at.width(), 180.0));
        at.setHeight(std::max(at.height(), 26.0));
    }
    nameField_->setText(editor_.nameOf(naming_.front()));
    nameField_->setPlaceholderText(tr("a name series, such as till-{01..}"));
    nameField_->setToolTip(naming_.size() > 1 ? tr("A name series for %n devices, such as till-{01..}",
                                                   nullptr, static_cast<int>(naming_.size()))
                                              : QString());
    nameField_->setGeometry(at.toRect());
    nameField_->selectAll();
    nameField_->show();
    nameField_->raise();
    nameField_->setFocus();
}

void SheetView::finishName() {
    const std::string typed = nameField_->text().trimmed().toStdString();
    const auto count = static_cast<int>(naming_.size());
    auto names = count == 1 && typed.find('{') == std::string::npos
                     ? Result<std::vector<std::string>>(std::vector<std::string>{typed})
                     : edit::seriesNames(typed, count, {});
    if (!names) {
        Q_EMIT editor_.refused(names.refusal());
        return;
    }
    auto act = edit::rename(editor_.network(), naming_, *names);
    if (!act) {
        Q_EMIT editor_.refused(act.refusal());
        return;
    }
    nameField_->hide();
    setFocus();
    editor_.apply(std::move(act));
}

void SheetView::paste() {
    const edit::Clip& clip = editor_.clip();
    if (clip.empty()) {
        Q_EMIT editor_.refused(advice("there is nothing to paste", "copy some devices first"));
        return;
    }
    Rect bounds;
    clip.piece.all<Position>().forEach([&](const Position& p) {
        bounds = bounds.united({static_cast<double>(p.at.x), static_cast<double>(p.at.y), 120, 44});
    });
    const QPoint pointer = mapFromGlobal(QCursor::pos());
    const PointF to =
        underMouse() && rect().contains(pointer) ? camera_.toSheet(pointer) : camera_.visible().centre();
    const Point by = onGrid(to - bounds.centre());
    editor_.apply(edit::pasteClip(editor_.network(), editor_.sheet(), clip,
                                  by == Point{} ? Point{32, 32} : by, editor_.ids()));
}

QString SheetView::portHint(const PortRef& port) const {
    const QStringList lines = cardLines(editor_.network(), refTo(port.device), port.port);
    return lines.join(QStringLiteral(" · ")) + tr(" · drag or click to link");
}

void SheetView::showCard() {
    if (tool_ != &select_ || !underMouse())
        return;
    const scene::Hit hit = select_.hovered();
    const std::string port = select_.lens() && hit.port >= 0 ? select_.lens()->key(hit.port) : std::string();
    QStringList lines = cardLines(editor_.network(), hit.object, port);
    if (lines.isEmpty())
        return;
    const QString title = lines.takeFirst();
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
