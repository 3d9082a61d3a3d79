// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/overlays/forwarding_overlays.h"

#include "core/analysis/forwarding.h"
#include "core/analysis/ospf.h"
#include "paint/qt_text.h"

#include <QObject>
#include <QStringList>
#include <utility>

namespace underridge::paint {
using namespace model;
using analysis::Forwarding;
using analysis::LogicalPort;
namespace {

constexpr float faint = 0.0F;

/// Calls `each(port, peer)` once for each pair of ports that meet.
template <class Each>
void forEachMeeting(const Forwarding& forwarding, Each&& each) {
    const auto& ports = forwarding.wiring().ports();
    for (int i = 0; i < static_cast<int>(ports.size()); ++i)
        if (const int peer = ports[static_cast<std::size_t>(i)].peer; peer > i)
            each(i, peer);
}

/// All links two ports are joined by, panels between them passed.
template <class Each>
void forEachLink(const Forwarding& forwarding, int port, Each&& each) {
    for (const LinkId id : forwarding.wiring().port(port).links) {
        const Link* link = forwarding.network().link(id);
        const bool atA =
            link->a.device == forwarding.wiring().station(forwarding.wiring().port(port).station).device->id;
        for (const auto& stretch : linking::outward(forwarding.network(), atA ? link->a : link->b))
            each(stretch.link);
    }
}

} // namespace

TraceOverlay::TraceOverlay(const Network& network, const analysis::Trace& trace) {
    int step = 0;
    for (const analysis::TraceHop& hop : trace.hops) {
        Mark& mark = marks_[refTo(hop.device)];
        mark.strength = strongHalo;
        mark.rank = mark.badge.isEmpty() ? step : mark.rank;
        mark.badge += (mark.badge.isEmpty() ? QString() : QStringLiteral(", ")) + QString::number(++step);
        mark.words = QObject::tr("step %1: %2").arg(mark.badge, shownText(hop.decision));
        for (const InterfaceId id : {hop.enters, hop.leaves})
            if (id)
                marks_[refTo(id)] = {strongHalo, QObject::tr("on the way, at step %1").arg(step), {}};
        for (const LinkId id : hop.links) {
            const Link* link = network.link(id);
            if (!link)
                continue;
            for (const auto& stretch :
                 linking::outward(network, link->a.device == hop.device ? link->a : link->b))
                marks_[refTo(stretch.link)] = {
                    strongHalo, QObject::tr("on the way, after step %1").arg(step), {}};
        }
    }
    if (!trace.reached() && network.device(trace.stoppedAt)) {
        Mark& mark = marks_[refTo(trace.stoppedAt)];
        mark.badge += (mark.badge.isEmpty() ? QString() : QStringLiteral(" ")) + QObject::tr("stops");
        mark.words = QObject::tr("it stops here: %1").arg(shownText(trace.reason));
    }
    const auto name = [&](const analysis::TraceHop& hop) {
        const Device* device = network.device(hop.device); // it may be gone since
        return device ? shownText(device->name) : QString();
    };
    if (!trace.hops.empty())
        legend_ = trace.reached() ? QObject::tr("Trace: %1 to %2, reached")
                                        .arg(name(trace.hops.front()), name(trace.hops.back()))
                                  : QObject::tr("Trace from %1: stops").arg(name(trace.hops.front()));
}

TreeOverlay::TreeOverlay(const Forwarding& forwarding) {
    int blocked = 0;
    QStringList roots;
    std::set<const analysis::RingState*> rings;
    std::map<int, std::vector<const analysis::TreePort*>> byPort;
    for (const analysis::Tree& tree : forwarding.trees().trees()) {
        for (const analysis::TreePort& port : tree.ports)
            byPort[port.port].push_back(&port);
        if (tree.root < 0 || tree.bridges.size() < 2)
            continue;
        Mark& mark = marks_[refTo(forwarding.wiring().station(tree.root).device->id)];
        mark.strength = strongHalo;
        mark.badge = QObject::tr("root");
        mark.words = tree.instance == 0 ? QObject::tr("root of the spanning tree")
                                        : QObject::tr("root of instance %1").arg(tree.instance);
        roots << shownText(forwarding.wiring().nameOf(tree.root));
    }
    forEachMeeting(forwarding, [&](int a, int b) {
        const LogicalPort &x = forwarding.wiring().port(a), &y = forwarding.wiring().port(b);
        if (!x.bridged || !y.bridged || !x.up)
            return;
        if (const analysis::RingState* ring = forwarding.rings().at(a)) {
            const auto hop = std::minmax(a, b);
            const auto isBlocked = [&] {
                const auto& [p, q] = ring->hops[analysis::at(ring->blockedHop)];
                return std::minmax(p, q) == hop;
            };
            const QString name = shownText(ring->record->name);
            const bool closed = ring->blocks() && isBlocked();
            rings.insert(ring);
            blocked += closed;
            QString badge = closed ? QObject::tr("blocked") : QString();
            forEachLink(forwarding, a, [&](LinkId id) {
                marks_[refTo(id)] =
                    closed ? Mark{faint, QObject::tr("%1 blocks this link while it is whole").arg(name),
                                  std::exchange(badge, {})}
                           : Mark{strongHalo,
                                  ring->whole ? QObject::tr("in %1, which is whole").arg(name)
                                              : QObject::tr("in %1, which is open").arg(name),
                                  {}};
            });
            return;
        }
        QStringList words;
        int closed = -1; // the port that does not forward, if there is one
        for (const int port : {a, b})
            for (const analysis::TreePort* each : byPort[port]) {
                if (each->forwards)
                    continue;
                closed = port;
                words << QObject::tr("%1 %2 is %3, %4")
                             .arg(shownText(
                                      forwarding.wiring().nameOf(forwarding.wiring().port(port).station)),
                                  shownText(forwarding.wiring().port(port).name),
                                  shownText(std::string(textOf(each->role))),
                                  shownText(std::string(each->state(forwarding.wiring()))));
            }
        blocked += closed >= 0;
        QString badge = QObject::tr("blocked"); // once, at the end that blocks
        forEachLink(forwarding, closed < 0 ? a : closed, [&](LinkId id) {
            marks_[refTo(id)] = closed < 0
                                    ? Mark{strongHalo, QObject::tr("the tree goes by this link"), {}}
                                    : Mark{faint, words.join(QStringLiteral("; ")), std::exchange(badge, {})};
        });
    });
    roots.removeDuplicates();
    legend_ = roots.isEmpty() ? QObject::tr("Spanning tree: no switches that run one are joined")
                              : QObject::tr("Spanning tree: root %1; %Ln link(s) blocked", nullptr, blocked)
                                    .arg(roots.join(QStringLiteral(", ")));
    const int count = static_cast<int>(rings.size());
    if (count > 0 && roots.isEmpty())
        legend_ = QObject::tr("%Ln ring(s)", nullptr, count) +
                  QObject::tr("; %Ln link(s) blocked", nullptr, blocked);
    else if (count > 0)
        legend_ += QObject::tr("; %Ln ring(s)", nullptr, count);
}

VlanOverlay::VlanOverlay(const Forwarding& forwarding, int vlan) {
    std::size_t islands = 0;
    int breaks = 0;
    const auto& wiring = forwarding.wiring();
    const int stations = static_cast<int>(wiring.stations().size());
    for (const auto& island : forwarding.bridging().islands()) {
        if (std::find(island.vlans.begin(), island.vlans.end(), vlan) == island.vlans.end())
            continue;
        ++islands;
        for (const int d : island.domains) {
            const auto& domain = forwarding.bridging().domain(d);
            if (domain.station < stations && (domain.tags || domain.vlan == vlan))
                marks_[refTo(wiring.station(domain.station).device->id)] = {
                    strongHalo, QObject::tr("VLAN %1 is here").arg(vlan), {}};
        }
        for (const int i : island.interfaces) {
            const int station = forwarding.bridging().interface(i).station;
            marks_[refTo(wiring.station(station).device->id)] = {
                strongHalo, QObject::tr("in VLAN %1").arg(vlan), {}};
        }
    }
    forEachMeeting(forwarding, [&](int a, int b) {
        const LogicalPort &x = wiring.port(a), &y = wiring.port(b);
        const auto isSwitch = [&](const LogicalPort& port) {
            return port.bridged && wiring.station(port.station).vlanAware;
        };
        const auto carries = [&](int port) {
            return isSwitch(wiring.port(port)) && membershipOf(wiring, port).carries(vlan);
        };
        const bool atX = carries(a), atY = carries(b);
        if (!atX && !atY)
            return;
        const bool broken = isSwitch(x) && isSwitch(y) && atX != atY;
        breaks += broken;
        const QString lacks = shownText(wiring.nameOf((atX ? y : x).station) + " " + (atX ? y : x).name);
        QString badge = QObject::tr("break"); // once, at the end that lacks it
        forEachLink(forwarding, atX ? b : a, [&](LinkId id) {
            marks_[refTo(id)] = broken ? Mark{faint, QObject::tr("VLAN %1 is not on %2").arg(vlan).arg(lacks),
                                              std::exchange(badge, {})}
                                       : Mark{strongHalo, QObject::tr("carries VLAN %1").arg(vlan), {}};
        });
    });
    legend_ = QObject::tr("VLAN %1: %2, %3")
                  .arg(vlan)
                  .arg(islands == 1 ? QObject::tr("one part")
                                    : QObject::tr("%Ln parts", nullptr, static_cast<int>(islands)),
                       breaks == 0 ? QObject::tr("no break") : QObject::tr("%Ln break(s)", nullptr, breaks));
}

SubnetOverlay::SubnetOverlay(const Forwarding& forwarding, const Address& subnet) {
    const analysis::Prefix prefix = analysis::prefixOf(subnet);
    std::set<DeviceId> on;
    forwarding.addressing().forEach([&](const analysis::Ip& ip, std::span<const analysis::Held> holders) {
        if (!prefix.contains(ip))
            return;
        for (const auto& held : holders) {
            const auto& interface = forwarding.bridging().interface(held.interface);
            const Device& device = *forwarding.wiring().station(interface.station).device;
            on.insert(device.id);
            marks_[refTo(device.id)] = {
                strongHalo, QObject::tr("%1 on %2").arg(shownText(ip.text()), shownText(interface.name)), {}};
        }
    });
    legend_ =
        QObject::tr("%1: %Ln device(s)", nullptr, static_cast<int>(on.size())).arg(shownText(prefix.text()));
}

AreaOverlay::AreaOverlay(const Forwarding& forwarding) {
    std::map<DeviceId, std::set<std::uint32_t>> areas;
    const auto& ospf = forwarding.routing().ospf();
    for (const auto& router : ospf.routers()) {
        const DeviceId id = forwarding.wiring().station(router.station).device->id;
        areas[id].insert(router.areas.begin(), router.areas.end());
    }
    std::set<std::uint32_t> all;
    for (const auto& [id, numbers] : areas) {
        QStringList words;
        for (const std::uint32_t number : numbers) {
            words << QString::number(number);
            all.insert(number);
        }
        marks_[refTo(id)] = {strongHalo, QObject::tr("OSPF area %1").arg(words.join(QStringLiteral(", "))),
                             words.join(QStringLiteral(", "))};
    }
    for (const auto& port : ospf.ports())
        if (!port.neighbours.empty())
            if (const int logical = forwarding.bridging().interface(port.interface).port; logical >= 0)
                forEachLink(forwarding, logical, [&](LinkId id) {
                    marks_[refTo(id)] = {
                        strongHalo, QObject::tr("neighbours in OSPF area %1").arg(port.area), {}};
                });
    legend_ = areas.empty() ? QObject::tr("No router speaks OSPF")
                            : QObject::tr("OSPF: %Ln router(s)", nullptr, static_cast<int>(areas.size())) +
                                  QObject::tr(", %Ln area(s)", nullptr, static_cast<int>(all.size()));
}

FindingsOverlay::FindingsOverlay(const std::vector<linking::Finding>& findings) {
    std::map<ObjectRef, const linking::Finding*> worst;
    for (const linking::Finding& finding : findings)
        for (const ObjectRef object : finding.subjects) {
            const linking::Finding*& held = worst[object];
            if (!held || finding.rule->severity < held->rule->severity)
                held = &finding;
        }
    for (const auto& [object, finding] : worst)
        marks_[object] = {strongHalo, shownText(finding->message),
                          finding->rule->severity == Severity::error     ? QObject::tr("error")
                          : finding->rule->severity == Severity::warning ? QObject::tr("warning")
                                                                         : QObject::tr("advice"),
                          static_cast<int>(finding->rule->severity)};
    legend_ = findings.empty() ? QObject::tr("No findings")
                               : QObject::tr("Findings: %Ln, on the objects marked", nullptr,
                                             static_cast<int>(findings.size()));
}

} // namespace underridge::paint
