// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/link_flow.h"

#include "app/shown_text.h"

#include "app/session/session.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/linking/within.h"
#include "core/model/group_tree.h"

namespace underridge::app {
using namespace model;

LinkFlow::LinkFlow(Session& session, Surface& surface)
    : QObject(&surface),
      session_(session),
      surface_(surface),
      drawer_(new PortDrawer(&surface)),
      strip_(new LinkStrip(&surface)) {
    connect(drawer_, &PortDrawer::chosen, this, &LinkFlow::takeRow);
    connect(drawer_, &PortDrawer::closed, &surface, qOverload<>(&QWidget::setFocus));
    connect(strip_, &LinkStrip::otherPortWanted, this, [this](int end) { openDrawerForLink(told_, end); });
    connect(strip_, &LinkStrip::otherDeviceWanted, this, [this](int end) { openDevicesForLink(told_, end); });
    connect(strip_, &LinkStrip::left, &surface, qOverload<>(&QWidget::setFocus));
    connect(&surface, &Surface::cameraMoved, this, [this] {
        if (strip_->isVisible())
            placeStrip();
    });
    connect(&session_.selected(), &Selection::changed, this, [this] {
        if (strip_->isVisible() && !session_.selected().contains(refTo(told_)))
            strip_->hide();
    });
}

void LinkFlow::make(const linking::Proposal& proposal) {
    if (!session_.apply(edit::makeLink(session_.network(), session_.catalogue(), proposal, session_.ids())))
        return;
    if (!session_.selection().empty())
        showStrip({session_.selection().front().id}, proposal.reason);
}

void LinkFlow::showStrip(LinkId id, const std::string& reason) {
    const Link* link = session_.network().link(id);
    if (!link || !session_.scene().link(id))
        return;
    told_ = id;
    toldStep_ = session_.document().history().steps();
    const Cable* cable = session_.network().cable(link->cable);
    const CableType* type = cable ? session_.network().typeOf(*cable) : nullptr;
    QString words = type ? QString::fromStdString(type->name) : tr("no cable");
    if (const int speed = speedOf(session_.network(), *link); speed > 0 && !link->console)
        words += QStringLiteral(", ") + QString::fromStdString(speedText(speed));
    words += cable && cable->lengthMm > 0
                 ? QStringLiteral(", ") + shownLength(cable->lengthMm, session_.lengthUnit())
                 : tr(", length not set");
    strip_->offerDevices(standIn(*link, 0).id != 0, standIn(*link, 1).id != 0);
    strip_->open(QString::fromStdString(edit::portText(session_.network(), link->a)),
                 QString::fromStdString(edit::portText(session_.network(), link->b)), words,
                 QString::fromStdString(reason));
    placeStrip();
    visited_ = false;
}

bool LinkFlow::takeTab() {
    if (!strip_->isVisible() || std::exchange(visited_, true))
        return false;
    strip_->enter();
    return true;
}

void LinkFlow::placeStrip() {
    const scene::LinkLine* line = session_.scene().link(told_);
    if (!line)
        return;
    const scene::Item *a = session_.scene().item(line->a), *b = session_.scene().item(line->b);
    if (!a || !b)
        return;
    const QRectF both = surface_.onScreen(a->bounds).united(surface_.onScreen(b->bounds));
    const QSize s = strip_->size(), room = surface_.size();
    QPointF at(both.center().x() - s.width() / 2.0, both.bottom() + 24);
    if (at.y() + s.height() > room.height() - 4)
        at.setY(both.top() - s.height() - 16);
    strip_->move(std::clamp(qRound(at.x()), 4, std::max(4, room.width() - s.width() - 4)),
                 std::clamp(qRound(at.y()), 4, std::max(4, room.height() - s.height() - 4)));
}

bool LinkFlow::canSupply(const linking::End& from, DeviceId target) const {
    const auto rows = linking::drawerRows(session_.network(), session_.catalogue(), from, target);
    return std::any_of(rows.begin(), rows.end(), [](const linking::DrawerRow& row) {
        return row.standing == linking::Standing::needsSupply;
    });
}

void LinkFlow::openDrawerForNew(const linking::End& from, DeviceId target) {
    showDrawer(from, target, {});
}

void LinkFlow::openDrawerForLink(LinkId id, int end) {
    const Link* link = session_.network().link(id);
    if (!link) {
        Q_EMIT session_.workspace().refused(
            advice(tr("no link is selected"), tr("select the link whose port is to change")));
        return;
    }
    changedEnd_ = end;
    const PortRef& kept = link->end(1 - end);
    showDrawer({kept.device, kept.port}, link->end(end).device, id);
}

std::vector<DeviceId> devicesBehind(const Network& network, ObjectRef shown) {
    if (shown.kind == Kind::group)
        return devicesWithin(network, {shown.id});
    return {DeviceId{shown.id}};
}

ObjectRef LinkFlow::standIn(const Link& link, int end) const {
    const scene::LinkLine* line = session_.scene().link(link.id);
    if (!line)
        return {};
    for (const ObjectRef shown : {line->a, line->b})
        if (shown.kind == Kind::group)
            for (const DeviceId id : devicesBehind(session_.network(), shown))
                if (id == link.end(end).device)
                    return shown;
    return {};
}

void LinkFlow::openDevicesForNew(const linking::End& from, ObjectRef group) {
    showDevices(from, group, {});
}

void LinkFlow::openDevicesForLink(LinkId id, int end) {
    const Link* link = session_.network().link(id);
    const ObjectRef group = link ? standIn(*link, end) : ObjectRef{};
    if (!group.id)
        return;
    changedEnd_ = end;
    const PortRef& kept = link->end(1 - end);
    showDevices({kept.device, kept.port}, group, id);
}

void LinkFlow::showDevices(const linking::End& from, ObjectRef group, LinkId spare) {
    from_ = from;
    changed_ = spare;
    target_ = {};
    const scene::Item* here = session_.scene().item(group);
    const auto there = session_.scene().anchorOf(from.device);
    if (!here)
        return;
    // The link that is to change holds its own ports.
    const Network network = spare ? without(spare) : session_.network();
    std::vector<linking::DrawerRow> rows;
    for (const linking::Candidate& each : linking::candidatesIn(
             network, session_.catalogue(), from, devicesBehind(network, group), session_.habits())) {
        linking::DrawerRow row;
        row.port = network.device(each.device)->name;
        row.text = each.proposal.b.port + " · " +
                   std::string(titleOf(roleOf(network, *network.device(each.device))));
        row.standing = each.proposal.joint.transceivers() > 0 ? linking::Standing::needsTransceiver
                                                              : linking::Standing::fits;
        row.other = each.proposal.a.port;
        row.inside = each.device;
        row.best = rows.empty();
        rows.push_back(std::move(row));
    }
    drawer_->open(session_.nameOf(group), session_.nameOf(refTo(from.device)), std::move(rows));
    const QRectF frame = surface_.onScreen(scene::frameOf(*here));
    drawer_->placeBeside(frame, {frame, there ? surface_.onScreen(there->frame) : frame}, surface_.rect());
}

Network LinkFlow::without(LinkId link) const {
    auto act = edit::removeObjects(session_.network(), {refTo(link)});
    return act ? std::move(act->network) : session_.network();
}

void LinkFlow::takeDevice(DeviceId device) {
    const Network network = changed_ ? without(changed_) : session_.network();
    const auto pair =
        linking::bestPair(network, session_.catalogue(), from_, {device, {}}, session_.habits());
    if (!pair) {
        Q_EMIT session_.workspace().refused(pair.refusal());
        return;
    }
    linking::Proposal proposal = *pair;
    proposal.reason = said(tr("device as chosen"));
    changed_ ? change(std::move(proposal)) : make(proposal);
}

void LinkFlow::showDrawer(const linking::End& from, DeviceId target, LinkId spare) {
    from_ = from;
    target_ = target;
    changed_ = spare;
    const std::optional<QRectF> here = onScreen(target), there = onScreen(from.device);
    if (!here || !there)
        return;
    drawer_->open(session_.nameOf(refTo(target)),
                  QString::fromStdString(from.port.empty()
                                             ? session_.network().device(from.device)->name
                                             : edit::portText(session_.network(), {from.device, from.port})),
                  linking::drawerRows(session_.network(), session_.catalogue(), from, target, spare));
    drawer_->placeBeside(*here, {*here, *there}, surface_.rect());
}

/// What is drawn for a device: its plate, a tile or a doorway.
std::optional<QRectF> LinkFlow::onScreen(DeviceId device) const {
    if (const auto anchor = session_.scene().anchorOf(device))
        return surface_.onScreen(anchor->frame);
    std::optional<QRectF> found;
    session_.scene().forEach<scene::Doorway>([&](const scene::Doorway& doorway) {
        const auto behind = devicesBehind(session_.network(), doorway.beyond);
        if (std::find(behind.begin(), behind.end(), device) != behind.end())
            found = surface_.onScreen(doorway.frame);
    });
    return found;
}

void LinkFlow::takeRow(const linking::DrawerRow& row) {
    surface_.setFocus();
    if (row.inside)
        return takeDevice(row.inside);
    linking::Proposal proposal{
        {from_.device, row.other}, {target_, row.port}, row.joint, said(tr("port as chosen"))};
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
    changed_ ? change(std::move(proposal)) : make(proposal);
}

void LinkFlow::change(linking::Proposal proposal) {
    const Link* link = session_.network().link(changed_);
    if (!link)
        return;
    if (changedEnd_ == 0) { // keep the link's own order of ends
        std::swap(proposal.a, proposal.b);
        std::swap(proposal.joint.transceiverA, proposal.joint.transceiverB);
        std::swap(proposal.supplyA, proposal.supplyB);
    }
    const bool wasLast = strip_->isVisible() && changed_ == told_ &&
                         toldStep_ == session_.document().history().steps() &&
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
    if (session_.apply(
            edit::changeLink(session_.network(), session_.catalogue(), changed_, proposal, session_.ids())))
        showStrip(changed_, proposal.reason);
}

} // namespace underridge::app
