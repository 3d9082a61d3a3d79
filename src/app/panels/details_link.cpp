// SPDX-License-Identifier: GPL-3.0-or-later
// Details of a link and its cable.
#include "app/panels/details_panel.h"
#include "app/panels/loss_bar.h"
#include "app/session/session.h"
#include "app/sheet/card.h"
#include "app/titles.h"
#include "core/edit/cables.h"
#include "core/edit/lags.h"
#include "core/edit/links.h"
#include "core/edit/rings.h"
#include "core/linking/chain.h"

#include <QPainter>
#include <fmt/format.h>

namespace underridge::app {
using namespace model;

void DetailsPanel::chainRow(const PortRef& port) {
    const Network& network = session_.network();
    const linking::Chain chain = linking::chainThrough(network, port);
    if (const auto budget = linking::lightBudgetOf(linking::channelOf(network, chain));
        budget && budget->limit.lossDb > 0) {
        constexpr int wide = 54, high = 16;
        QPixmap bar(QSize(wide, high) * devicePixelRatioF());
        bar.setDevicePixelRatio(devicePixelRatioF());
        bar.fill(Qt::transparent);
        QPainter painter(&bar);
        const bool dark = palette().color(QPalette::Window).lightness() < 128;
        paintLoss(painter, {0, 0, wide, high}, *budget, dark ? paint::darkTheme() : paint::lightTheme());
        painter.end();
        form_->pictureRow(
            bar, tr("Loss"),
            tr("%L1 of %L2 dB").arg(budget->lossDb, 0, 'f', 1).arg(budget->limit.lossDb, 0, 'f', 1),
            [this] { Q_EMIT chainWanted(); });
        form_->row(tr("Lost in"), shownText(partsOf(*budget)));
    }
    if (chain.stretches.size() < 2)
        return;
    form_->linkRow(tr("Chain"),
                   tr("%1 to %2, %3")
                       .arg(shownText(edit::portText(network, chain.a)),
                            shownText(edit::portText(network, chain.b)),
                            tr("%Ln cable(s)", nullptr, static_cast<int>(chain.stretches.size()))),
                   [this] { Q_EMIT chainWanted(); });
}

edit::ActResult DetailsPanel::changeCable(LinkId link, CableId cable, std::string name,
                                          std::function<void(Cable&)> how) const {
    auto result = edit::changeEach<Cable>(session_.network(), {{cable.value, 0}}, std::move(name), how);
    if (result)
        result->subjects = {refTo(link)};
    return result;
}

/// What the two ports could be joined by, and what they are.
void DetailsPanel::cableChoice(const Link& link, const Cable& cable) {
    const Network& network = session_.network();
    const linking::Fit fits = linking::fitFor(network, session_.catalogue(), link);
    const auto fitted = [&](const PortRef& ref) {
        const auto port = portAt(network, ref);
        return port && port->transceiver ? port->transceiver->id : std::string();
    };
    QStringList names;
    int current = -1;
    for (const linking::Joint& joint : fits.joints) {
        const CableType* choice = session_.catalogue().cable(joint.cable);
        QString words = choice ? shownText(choice->name) : shownText(joint.cable);
        if (!joint.console)
            words += QStringLiteral(", ") + shownText(speedText(joint.speed));
        if (joint.transceivers() > 0)
            words += QStringLiteral(", ") + tr("with %Ln transceiver(s)", nullptr, joint.transceivers());
        if (joint.cable == cable.type && joint.transceiverA == fitted(link.a) &&
            joint.transceiverB == fitted(link.b))
            current = static_cast<int>(names.size());
        names << words;
    }
    if (current < 0) {
        const CableType* type = network.typeOf(cable);
        form_->row(tr("Cable"), type ? shownText(type->name) : shownText(cable.type));
        return;
    }
    form_->choiceRow(tr("Cable"), names, current,
                     [this, id = link.id, joints = fits.joints](int index) -> edit::ActResult {
                         const Link* now = session_.network().link(id);
                         if (!now)
                             return error(tr("the link is no longer there"), tr("select again"));
                         return edit::changeLink(
                             session_.network(), session_.catalogue(), id,
                             {now->a, now->b, joints[static_cast<std::size_t>(index)], {}}, session_.ids());
                     });
}

void DetailsPanel::cableRows(const Link& link, const Cable& cable) {
    const auto change = [this, id = link.id, cableId = cable.id](std::string name, auto how) {
        return changeCable(id, cableId, std::move(name), how);
    };
    cableChoice(link, cable);
    form_->textRow(tr("Length"),
                   cable.lengthMm > 0 ? shownLength(cable.lengthMm, session_.lengthUnit()) : QString(),
                   tr("not set, such as %1").arg(sampleLength()),
                   [this, change](const std::string& typed) -> edit::ActResult {
                       const auto length = parseLength(typed, session_.lengthUnit());
                       if (!length)
                           return error(tr("%1 is not a length").arg(shownText(typed)),
                                        tr("write it as %1").arg(sampleLength()));
                       return change(said(tr("Set length")), [&](Cable& c) { c.lengthMm = *length; });
                   });
    form_->textRow(tr("Label"), shownText(cable.label), {}, [change](const std::string& typed) {
        return change(said(tr("Set cable label")), [&](Cable& c) { c.label = typed; });
    });
    cableLooks(link, cable);
    const edit::Strands strands = edit::strandsOf(session_.network(), cable);
    if (strands.all > 1 && !link.positions.empty())
        form_->row(tr("Strands"), tr("%1 of %L2, %L3 spare")
                                      .arg(shownText(fmt::format("{}", fmt::join(link.positions, ", "))))
                                      .arg(strands.all)
                                      .arg(strands.spare.size()));
    for (const Measured& each : cable.measured)
        form_->row(shownText(each.what),
                   tr("%L1 %3, limit %L2 %3").arg(each.value).arg(each.limit).arg(shownText(each.unit)));
}

void DetailsPanel::cableLooks(const Link& link, const Cable& cable) {
    const auto change = [this, id = link.id, cableId = cable.id](std::string name, auto how) {
        return changeCable(id, cableId, std::move(name), how);
    };
    form_->choiceRow(tr("Status"), titlesOf<CableStatus>(), static_cast<int>(cable.status),
                     [change](int index) {
                         return change(said(tr("Set cable status")),
                                       [&](Cable& c) { c.status = static_cast<CableStatus>(index); });
                     });
    const CableType* type = session_.network().typeOf(cable);
    form_->textRow(
        tr("Jacket"), shownText(cable.jacket), type ? shownText(type->jacket) : QString(),
        [change](const std::string& typed) -> edit::ActResult {
            const bool hex = typed.size() == 7 && typed[0] == '#' &&
                             typed.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
            if (!typed.empty() && !hex)
                return error(tr("%1 is not a colour").arg(shownText(typed)), tr("write it as #19A7A0"));
            return change(said(tr("Set jacket colour")), [&](Cable& c) { c.jacket = typed; });
        });
}

/// Of a layer above the cables, as a file brought it.
void DetailsPanel::showUpperLink(const Link& link) {
    const Network& network = session_.network();
    begin(shownText(edit::linkText(network, link)), tr("link of an upper layer"));
    for (const int end : {0, 1})
        if (const Device* device = network.device(link.end(end).device))
            form_->linkRow(end == 0 ? tr("End A") : tr("End B"), shownText(device->name),
                           [this, at = device->id] { session_.navigation().goTo(refTo(at)); });
    linkRows(tr("Rests on"), link.over);
    findingRows(refTo(link.id));
    noteRow(link);
    form_->row(tr("From"), provenanceText(link.provenance));
}

void DetailsPanel::linkRows(const QString& label, const std::vector<LinkId>& links) {
    constexpr std::size_t most = 12;
    for (std::size_t i = 0; i < links.size() && i < most; ++i)
        if (const Link* link = session_.network().link(links[i]))
            form_->linkRow(i == 0 ? label : QString(), shownText(edit::linkText(session_.network(), *link)),
                           [this, at = link->id] { session_.navigation().goTo(refTo(at)); });
    if (links.size() > most)
        form_->row({}, tr("and %Ln more", nullptr, static_cast<int>(links.size() - most)));
}

void DetailsPanel::noteRow(const Link& link) {
    form_->textRow(tr("Note"), shownText(link.note), {}, [this, id = link.id](const std::string& typed) {
        return edit::changeEach<Link>(session_.network(), {{id.value, 0}}, said(tr("Set note of link")),
                                      [&](Link& l) { l.note = typed; });
    });
}

void DetailsPanel::showLink(const Link& link) {
    if (link.isUpper())
        return showUpperLink(link);
    const Network& network = session_.network();
    const LinkId id = link.id;
    const Cable* cable = network.cable(link.cable);
    begin(shownText(edit::linkText(network, link)),
          link.console ? tr("console") : shownText(titleOf(mediumOf(network, link))));
    for (const int end : {0, 1}) {
        const PortRef& port = link.end(end);
        form_->actionRow(end == 0 ? tr("End A") : tr("End B"), shownText(edit::portText(network, port)),
                         tr("Other port…"), tr("Other port at end %1").arg(end + 1),
                         [this, id, end] { Q_EMIT otherPortWanted(id, end); });
    }
    chainRow(link.a.known() ? link.a : link.b);
    findingRows(refTo(id));
    if (!link.console)
        form_->row(tr("Speed"), speedOf(network, link) > 0 ? shownText(speedText(speedOf(network, link)))
                                                           : tr("not known"));
    if (isInLag(network, link))
        form_->textRow(tr("LAG"), shownText(lagAt(network, link.a)->name), {},
                       [this, port = link.a](const std::string& typed) {
                           return edit::renameLag(session_.network(), port, typed);
                       });
    ringRows(id);
    if (cable)
        cableRows(link, *cable);
    std::vector<LinkId> above; // a file brought
    network.all<Link>().forEach([&](const Link& each) {
        if (std::find(each.over.begin(), each.over.end(), id) != each.over.end())
            above.push_back(each.id);
    });
    linkRows(tr("Carries"), above);
    noteRow(link);
    form_->row(tr("From"), provenanceText(link.provenance));
}

void DetailsPanel::ringRows(LinkId id) {
    for (const RingId each : edit::ringsOf(session_.network(), {id})) {
        const auto change = [this, each](auto set) -> edit::ActResult {
            const Ring* held = session_.network().find<Ring>({each.value, 0});
            if (!held)
                return error(tr("the ring is no longer there"), tr("select again"));
            Ring ring = *held;
            set(ring);
            return edit::declareRing(session_.network(), std::move(ring), session_.ids());
        };
        const Ring& ring = *session_.network().find<Ring>({each.value, 0});
        form_->textRow(tr("Ring"), shownText(ring.name), {}, [change](const std::string& typed) {
            return change([&](Ring& r) { r.name = typed; });
        });
        form_->choiceRow(tr("Ring protocol"), titlesOf<RingProtocol>(), static_cast<int>(ring.protocol),
                         [change](int index) {
                             return change([&](Ring& r) { r.protocol = static_cast<RingProtocol>(index); });
                         });
        if (ring.protocol == RingProtocol::hsr)
            continue;
        form_->checkRow(tr("Blocked while the ring is whole"), ring.blocked == id,
                        [this, change, id](bool on) {
                            return change([&](Ring& r) {
                                r.blocked = {};
                                if (on)
                                    r = edit::blockedAt(session_.network(), std::move(r), id);
                            });
                        });
    }
}

} // namespace underridge::app
