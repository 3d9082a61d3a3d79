// SPDX-License-Identifier: GPL-3.0-or-later
// What follows from switching and routing, laid over a sheet: a trace, a spanning tree, a
// VLAN with where it breaks, findings.
#pragma once
#include "core/analysis/trace.h"
#include "core/linking/rules.h"
#include "paint/overlays/network_overlay.h"

namespace underridge::paint {

/// The way of a packet, numbered, with where it stops.
class TraceOverlay : public Overlay {
public:
    TraceOverlay(const model::Network& network, const analysis::Trace& trace);
    static QString name() { return QStringLiteral("trace"); }
    QString id() const override { return name(); }
    QString legend() const override { return legend_; }

private:
    QString legend_;
};

/// Links the trees leave open, those they block, and roots.
class TreeOverlay : public NetworkOverlay {
public:
    explicit TreeOverlay(const analysis::Forwarding& forwarding);
};

/// Where a VLAN is, by number; links on which one end only has it.
class VlanOverlay : public NetworkOverlay {
public:
    VlanOverlay(const analysis::Forwarding& forwarding, int vlan);
};

/// Who is on a subnet.
class SubnetOverlay : public NetworkOverlay {
public:
    SubnetOverlay(const analysis::Forwarding& forwarding, const model::Address& subnet);
};

/// The areas of OSPF.
class AreaOverlay : public NetworkOverlay {
public:
    explicit AreaOverlay(const analysis::Forwarding& forwarding);
};

/// The worst finding of each object.
class FindingsOverlay : public NetworkOverlay {
public:
    explicit FindingsOverlay(const std::vector<linking::Finding>& findings);
};

} // namespace underridge::paint
