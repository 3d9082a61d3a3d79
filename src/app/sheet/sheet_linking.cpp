// SPDX-License-Identifier: GPL-3.0-or-later
// Linking on the sheet: what the strip and the port drawer do.
#include "app/session/session.h"
#include "app/sheet/sheet_view.h"
#include "core/edit/links.h"

namespace underridge::app {
using namespace model;
using scene::PointF;
using scene::Rect;

void SheetView::startLink(linking::End from, const Pointer& pointer) {
    strip_->hide();
    link_.begin(std::move(from), pointer);
    use(link_);
}

void SheetView::dragLink(const PortRef& from, QPoint global, bool begins, bool done) {
    const QPointF local = mapFromGlobal(global);
    const Pointer pointer{camera_.toSheet(local), local, {}, Qt::LeftButton, Qt::LeftButton};
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
    std::vector<DeviceId> from = session_.selected().devices();
    if (from.empty() && select_.focused().kind == Kind::device &&
        session_.network().device({select_.focused().id}))
        from.push_back({select_.focused().id});
    if (from.empty()) {
        Q_EMIT session_.workspace().refused(advice("no device is selected", "select the one to link from"));
        return;
    }
    strip_->hide();
    link_.choose(std::move(from));
    use(link_);
}

void SheetView::makeLink(const linking::Proposal& proposal) {
    if (!session_.apply(edit::makeLink(session_.network(), session_.catalogue(), proposal, session_.ids())))
        return;
    if (!session_.selection().empty())
        showStrip({session_.selection().front().id}, proposal.reason);
}

void SheetView::showStrip(LinkId id, const std::string& reason) {
    const Link* link = session_.network().link(id);
    const scene::LinkLine* line = session_.scene().link(id);
    if (!link || !line)
        return;
    stripLink_ = id;
    stripStep_ = session_.document().history().steps();
    const Cable* cable = session_.network().cable(link->cable);
    const CableType* type = cable ? session_.network().typeOf(*cable) : nullptr;
    QString words = type ? QString::fromStdString(type->name) : tr("no cable");
    if (const int speed = speedOf(session_.network(), *link); speed > 0 && !link->console)
        words += QStringLiteral(", ") + QString::fromStdString(speedText(speed));
    words += cable && cable->lengthMm > 0
                 ? QStringLiteral(", ") +
                       QString::fromStdString(lengthText(cable->lengthMm, session_.lengthUnit()))
                 : tr(", length not set");
    strip_->open(QString::fromStdString(edit::portText(session_.network(), link->a)),
                 QString::fromStdString(edit::portText(session_.network(), link->b)), words,
                 QString::fromStdString(reason));
    placeStrip(onScreen(session_.scene().item(line->a)->bounds),
               onScreen(session_.scene().item(line->b)->bounds));
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

bool SheetView::canSupply(const linking::End& from, DeviceId target) const {
    const auto rows = linking::drawerRows(session_.network(), session_.catalogue(), from, target);
    return std::any_of(rows.begin(), rows.end(), [](const linking::DrawerRow& row) {
        return row.standing == linking::Standing::needsSupply;
    });
}

void SheetView::openDrawerForNew(const linking::End& from, DeviceId target) {
    showDrawer(from, target, {});
}

void SheetView::openDrawerForLink(LinkId id, int end) {
    const Link* link = session_.network().link(id);
    if (!link) {
        Q_EMIT session_.workspace().refused(
            advice("no link is selected", "select the link whose port is to change"));
        return;
    }
    const PortRef& kept = link->end(1 - end);
    showDrawer({kept.device, kept.port}, link->end(end).device, id);
}

void SheetView::showDrawer(const linking::End& from, DeviceId target, LinkId spare) {
    drawerFrom_ = from;
    drawerTarget_ = target;
    drawerLink_ = spare;
    const scene::Plate* here = session_.scene().plate(target);
    const scene::Plate* there = session_.scene().plate(from.device);
    if (!here || !there)
        return;
    drawer_->open(session_.nameOf(refTo(target)),
                  QString::fromStdString(from.port.empty()
                                             ? session_.network().device(from.device)->name
                                             : edit::portText(session_.network(), {from.device, from.port})),
                  linking::drawerRows(session_.network(), session_.catalogue(), from, target, spare));
    drawer_->placeBeside(onScreen(here->frame), {onScreen(here->frame), onScreen(there->frame)}, rect());
}

void SheetView::takeRow(const linking::DrawerRow& row) {
    setFocus();
    linking::Proposal proposal{
        {drawerFrom_.device, row.other}, {drawerTarget_, row.port}, row.joint, "port as chosen"};
    proposal.supplyA = row.otherSupply;
    proposal.supplyB = row.supply;
    for (const auto& supply : {row.otherSupply, row.supply})
        if (supply)
            proposal.reason = "with " + supply->text;
    if (row.standing == linking::Standing::doesNotFit) {
        auto forced = linking::anyPair(session_.network(), session_.catalogue(), proposal.a, proposal.b);
        if (!forced) {
            Q_EMIT session_.workspace().refused(forced.refusal());
            return;
        }
        proposal = *std::move(forced);
    }
    if (!drawerLink_) {
        makeLink(proposal);
        return;
    }
    const Link* link = session_.network().link(drawerLink_);
    if (!link)
        return;
    if (link->a.device == drawerTarget_) { // keep the link's own order of ends
        std::swap(proposal.a, proposal.b);
        std::swap(proposal.joint.transceiverA, proposal.joint.transceiverB);
        std::swap(proposal.supplyA, proposal.supplyB);
    }
    const bool wasLast = strip_->isVisible() && drawerLink_ == stripLink_ &&
                         stripStep_ == session_.document().history().steps() &&
                         !session_.document().history().canRedo();
    if (wasLast) { // part of the same step: the link is made again, with the ports wanted
        auto again = edit::makeLink(session_.document().history().beforeLast(), session_.catalogue(),
                                    proposal, session_.ids());
        if (again) {
            session_.undo();
            if (session_.apply(std::move(again)) && !session_.selection().empty())
                showStrip({session_.selection().front().id}, proposal.reason);
            return;
        }
        // What the first link fitted is needed by this one: then it is a step of its own.
    }
    if (session_.apply(edit::changeLink(session_.network(), session_.catalogue(), drawerLink_, proposal,
                                        session_.ids())))
        showStrip(drawerLink_, proposal.reason);
}

} // namespace underridge::app
