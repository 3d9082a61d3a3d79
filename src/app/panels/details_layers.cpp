// SPDX-License-Identifier: GPL-3.0-or-later
// What is known of what only sheets of upper layers draw: subnets, and interfaces in them.
#include "app/panels/details_panel.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/analysis/layers.h"
#include "core/analysis/subnet_use.h"

#include <algorithm>

namespace underridge::app {
using namespace model;
namespace {

constexpr int mostRows = 24; ///< of what is in a subnet; the register of interfaces has them all

QString addressIn(const Interface& interface, const std::vector<Address>& prefixes) {
    for (const Address& address : interface.addresses)
        for (const Address& prefix : prefixes)
            if (prefix.contains(address))
                return shownText(address.host());
    return {};
}

} // namespace

void DetailsPanel::showSubnet(SubnetId id) {
    const Network& network = session_.network();
    const analysis::NetworkLayer layer = analysis::networkLayerOf(network);
    const auto node = std::find_if(layer.subnets.begin(), layer.subnets.end(),
                                   [&](const analysis::SubnetNode& each) { return each.id == id; });
    if (node == layer.subnets.end())
        return showSheet();
    const Address& prefix = node->prefixes.front();
    begin(shownText(prefix.text()), tr("Subnet"));
    const Subnet* recorded = network.find<Subnet>({id.value, 0});
    form_->textRow(
        tr("Name"), shownText(node->name), tr("what it is for"),
        [this, id, prefix, vrf = node->vrf](const std::string& typed) -> edit::ActResult {
            const Subnet* held = session_.network().find<Subnet>({id.value, 0});
            edit::Act act{said(tr("Name subnet %1").arg(shownText(prefix.text()))), session_.network(), {}};
            Subnet subnet =
                held ? *held : Subnet{session_.ids().make<SubnetId>(), prefix, {}, {}, vrf, {}, {}, {}};
            subnet.name = typed;
            act.subjects = {refTo(subnet.id)};
            act.network.put(std::move(subnet));
            return act;
        });
    if (!recorded)
        form_->row(tr("Recorded"), tr("no: interfaces are in it"));
    for (std::size_t i = 1; i < node->prefixes.size(); ++i)
        form_->row(tr("Also"), shownText(node->prefixes[i].text()));
    QStringList vlans;
    for (const int vlan : node->vlans)
        vlans << QString::number(vlan);
    if (!vlans.empty())
        form_->row(tr("VLAN"), vlans.join(QStringLiteral(", ")));
    if (!node->vrf.empty())
        form_->row(tr("VRF"), shownText(node->vrf));
    const auto use = analysis::useOf(network, prefix, node->vrf, 1);
    form_->row(tr("Used"), tr("%L1 of %L2").arg(use.used).arg(use.size));
    form_->heading(tr("In it"));
    int rows = 0, more = 0;
    network.all<Interface>().forEach([&](const Interface& interface) {
        const QString address = interface.vrf == node->vrf ? addressIn(interface, node->prefixes) : QString();
        const Device* device = address.isEmpty() ? nullptr : network.device(interface.device);
        if (!device)
            return;
        if (++rows > mostRows)
            ++more;
        else
            form_->linkRow(shownText(device->name), address,
                           [this, of = device->id] { session_.select({refTo(of)}); });
    });
    if (more > 0)
        form_->emptyRow(tr("and %Ln more", nullptr, more));
    if (rows == 0)
        form_->emptyRow(tr("Nothing yet."));
}

void DetailsPanel::showAttachment(InterfaceId id) {
    const Network& network = session_.network();
    const Link* line = session_.scene().drawn(network).link({id.value});
    const Interface* interface = line ? network.find<Interface>({line->a.device.value, id.value}) : nullptr;
    const Device* device = interface ? network.device(interface->device) : nullptr;
    if (!device)
        return showSheet();
    const std::string& name = interface->name.empty() ? interface->port : interface->name;
    begin(shownText(name.empty() ? std::string(titleOf(interface->type)) : name),
          tr("Interface of %1").arg(shownText(device->name)));
    addressesRow(tr("Addresses"), *interface);

    for (const Vrrp& vrrp : interface->vrrp)
        form_->row(tr("VRRP %1").arg(vrrp.group),
                   tr("%1, priority %2").arg(shownText(vrrp.address.host())).arg(vrrp.priority));
    if (const OspfInterface& ospf = *interface->ospf; !ospf.area.empty())
        form_->row(tr("OSPF"), tr("area %1%2%3")
                                   .arg(shownText(ospf.area.text()),
                                        ospf.cost > 0 ? tr(", cost %1").arg(ospf.cost) : QString(),
                                        ospf.passive ? tr(", passive") : QString()));
    form_->linkRow(tr("Device"), shownText(device->name),
                   [this, of = device->id] { session_.select({refTo(of)}); });
}

} // namespace underridge::app
