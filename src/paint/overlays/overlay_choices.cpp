// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/overlays/overlay_choices.h"

#include "core/model/ports.h"
#include "core/scene/overlay_keys.h"
#include "paint/overlays/forwarding_overlays.h"
#include "paint/overlays/mains_overlay.h"
#include "paint/overlays/object_overlays.h"
#include "paint/qt_text.h"

#include <QDateTime>
#include <QObject>
#include <QStringList>

namespace underridge::paint {
using namespace model;
using scene::OverlayKey;
using scene::OverlayKind;

std::vector<OverlayChoice> overlayChoices(const Network& network, const ObjectRef& selected) {
    std::vector<OverlayChoice> out;
    const auto add = [&](const OverlayKey& key, const QString& text) {
        out.push_back({shownText(key.text()), text});
    };
    const auto plain = [&](OverlayKind kind, const QString& text) {
        OverlayKey key;
        key.kind = kind;
        add(key, text);
    };
    plain(OverlayKind::tree, QObject::tr("Spanning tree"));
    plain(OverlayKind::findings, QObject::tr("Findings"));
    plain(OverlayKind::areas, QObject::tr("OSPF areas"));
    plain(OverlayKind::speed, QObject::tr("Speeds"));
    plain(OverlayKind::power, QObject::tr("Power over cables"));
    plain(OverlayKind::mains, QObject::tr("Mains power"));
    plain(OverlayKind::age, QObject::tr("When it was last seen"));
    const Device* device = network.device({selected.id});
    const Link* link = network.link({selected.id});
    if (device || link) {
        OverlayKey key;
        key.kind = OverlayKind::impact;
        key.object = selected.id;
        add(key,
            QObject::tr("What hangs on %1")
                .arg(shownText(device ? device->name
                                      : portText(network, link->a) + " – " + portText(network, link->b))));
    }
    std::map<int, QStringList> vlans; // a number may be in several scopes
    network.all<Vlan>().forEach([&](const Vlan& vlan) { vlans[vlan.number] << shownText(vlan.name); });
    for (auto& [number, names] : vlans) {
        names.removeDuplicates();
        OverlayKey key;
        key.kind = OverlayKind::vlan;
        key.vlan = number;
        add(key, QObject::tr("VLAN %1 %2").arg(number).arg(names.join(QStringLiteral(", "))));
    }
    network.all<Subnet>().forEach([&](const Subnet& subnet) {
        OverlayKey key;
        key.kind = OverlayKind::subnet;
        key.subnet = subnet.prefix;
        add(key, QObject::tr("Subnet %1 %2").arg(shownText(subnet.prefix.text()), shownText(subnet.name)));
    });
    return out;
}

namespace {

std::shared_ptr<NetworkOverlay> made(const OverlayKey& key, const analysis::Forwarding& forwarding,
                                     const std::vector<linking::Finding>& findings) {
    const Network& network = forwarding.network();
    switch (key.kind) {
    case OverlayKind::tree:
        return std::make_shared<TreeOverlay>(forwarding);
    case OverlayKind::findings:
        return std::make_shared<FindingsOverlay>(findings);
    case OverlayKind::areas:
        return std::make_shared<AreaOverlay>(forwarding);
    case OverlayKind::speed:
        return std::make_shared<SpeedOverlay>(network);
    case OverlayKind::power:
        return std::make_shared<PowerOverlay>(network);
    case OverlayKind::mains:
        return std::make_shared<MainsOverlay>(network);
    case OverlayKind::age:
        return std::make_shared<AgeOverlay>(network, QDateTime::currentSecsSinceEpoch());
    case OverlayKind::vlan:
        return std::make_shared<VlanOverlay>(forwarding, key.vlan);
    case OverlayKind::subnet:
        return std::make_shared<SubnetOverlay>(forwarding, key.subnet);
    case OverlayKind::filter:
        return std::make_shared<FilterOverlay>(network, *find::Filter::parse(key.filter),
                                               find::Findings(findings));
    case OverlayKind::impact:
        return std::make_shared<ImpactOverlay>(network, ObjectRef{Kind::unknown, key.object});
    }
    return nullptr;
}

} // namespace

std::shared_ptr<const Overlay> overlayOf(const QString& key, const analysis::Forwarding& forwarding,
                                         const std::vector<linking::Finding>& findings) {
    const auto read = OverlayKey::parse(key.toStdString());
    if (!read)
        return nullptr;
    auto overlay = made(*read, forwarding, findings);
    overlay->setKey(key);
    return overlay;
}

} // namespace underridge::paint
