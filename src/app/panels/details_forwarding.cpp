// SPDX-License-Identifier: GPL-3.0-or-later
// Details of what a device and a port do with frames and packets.
#include "app/panels/details_panel.h"
#include "app/session/session.h"
#include "app/titles.h"
#include "app/window/checker.h"
#include "core/analysis/forwarding.h"
#include "core/edit/carrying.h"
#include "core/edit/interfaces.h"
#include "core/edit/vlans.h"
#include "core/model/ports.h"

namespace underridge::app {
using namespace model;
namespace {

constexpr int mostInterfaces = 12; ///< as rows; the register has them all

bool isRouter(Role role) {
    return role == Role::router || role == Role::firewall || role == Role::provider;
}

QString addressesText(const Interface& interface) {
    QStringList out;
    for (const Address& address : interface.addresses)
        out << shownText(address.text());
    return out.join(QStringLiteral(", "));
}

} // namespace

void DetailsPanel::addressesRow(const QString& label, const Interface& interface) {
    form_->textRow(label, addressesText(interface), QStringLiteral("10.84.1.1/24"),
                   [this, key = interface.key()](const std::string& typed) -> edit::ActResult {
                       const Interface* held = session_.network().find<Interface>(key);
                       if (!held)
                           return error(tr("the interface is no longer there"), tr("select again"));
                       Interface set = *held;
                       set.addresses = edit::addressesFrom(typed);
                       return edit::putInterface(session_.network(), std::move(set), session_.ids());
                   });
}

void DetailsPanel::forwardingRows(const Device& device) {
    const Network& network = session_.network();
    const DeviceId id = device.id;
    const Role role = roleOf(network, device);
    std::vector<Interface> addressed;
    int others = 0;
    network.all<Interface>().forEachIn(id.value, [&](const Interface& each) {
        if (each.addresses.empty() && each.type != InterfaceKind::vlan)
            ++others;
        else
            addressed.push_back(each);
    });
    if (addressed.empty() && others == 0 && role != Role::switch_ && !isRouter(role))
        return;
    form_->heading(tr("Interfaces"));
    int shown = 0;
    for (const Interface& each : addressed) {
        if (++shown > mostInterfaces)
            break;
        const QString name = shownText(!each.name.empty()   ? each.name
                                       : !each.port.empty() ? each.port
                                                            : std::string(titleOf(each.type)));
        addressesRow(tr("On %1").arg(name), each);
    }
    const int left = others + static_cast<int>(addressed.size()) - std::min(shown, mostInterfaces);
    if (left > 0)
        form_->linkRow(tr("More"), tr("%Ln in the register", nullptr, left),
                       [this, name = shownText(device.name)] { Q_EMIT interfacesWanted(name); });
    if (!isRouter(role) && !device.routing) {
        const Route* gateway = edit::gatewayOf(network, id);
        const bool asks =
            std::any_of(addressed.begin(), addressed.end(), [](const Interface& each) { return each.dhcp; });
        form_->textRow(tr("Gateway"), gateway ? shownText(gateway->via.text()) : QString(),
                       asks ? tr("as DHCP tells it") : QStringLiteral("10.84.10.1"),
                       [this, id](const std::string& typed) {
                           return edit::setGateway(session_.network(), id, typed, session_.ids());
                       });
        if (!addressed.empty())
            form_->checkRow(tr("Address by DHCP"), asks,
                            [this, id](bool on) { return edit::setByDhcp(session_.network(), id, on); });
    }
    if (role == Role::switch_) {
        form_->checkRow(tr("Routes"), device.routing, [this, id](bool on) {
            return edit::changeEach<Device>(session_.network(), {{id.value, 0}},
                                            said(on ? tr("Let it route") : tr("Let it switch only")),
                                            [&](Device& d) { d.routing = on; });
        });
        form_->choiceRow(tr("Spanning tree"), titlesOf<TreeMode>(),
                         static_cast<int>(device.spanningTree->mode), [this, id](int index) {
                             return edit::changeEach<Device>(session_.network(), {{id.value, 0}},
                                                             said(tr("Set spanning tree")), [&](Device& d) {
                                                                 SpanningTree tree = *d.spanningTree;
                                                                 tree.mode = static_cast<TreeMode>(index);
                                                                 d.spanningTree = std::move(tree);
                                                             });
                         });
        form_->textRow(tr("Priority"), QString::number(device.spanningTree->priority),
                       QStringLiteral("32768"), [this, id](const std::string& typed) -> edit::ActResult {
                           bool sound = false;
                           const int priority = QString::fromStdString(typed).toInt(&sound);
                           if (!sound || priority < 0 || priority > 65'535)
                               return error(tr("%1 is no priority").arg(shownText(typed)),
                                            tr("write 0 to 65535, usually a multiple of 4096"));
                           return edit::changeEach<Device>(session_.network(), {{id.value, 0}},
                                                           said(tr("Set tree priority")), [&](Device& d) {
                                                               SpanningTree tree = *d.spanningTree;
                                                               tree.priority = priority;
                                                               d.spanningTree = std::move(tree);
                                                           });
                       });
    }
    carryRows(device);
}

/// A VLAN brought here: chosen, then shown with the ports it would be set on, then done.
void DetailsPanel::carryRows(const Device& device) {
    const Network& network = session_.network();
    const Role role = roleOf(network, device);
    if (isRouter(role) || network.all<Vlan>().empty())
        return;
    std::vector<int> numbers;
    network.all<Vlan>().forEach([&](const Vlan& vlan) { numbers.push_back(vlan.number); });
    std::sort(numbers.begin(), numbers.end());
    numbers.erase(std::unique(numbers.begin(), numbers.end()), numbers.end());
    QStringList choices{tr("Bring a VLAN here…")};
    for (const int number : numbers)
        choices << tr("VLAN %1").arg(number);
    form_->menuRow(tr("Bring a VLAN here"), choices, [this, id = device.id, numbers](int chosen) {
        carries_ = chosen > 0 ? std::pair(id, numbers[static_cast<std::size_t>(chosen - 1)])
                              : std::pair(DeviceId(), 0);
        refresh();
    });
    if (carries_.first != device.id || carries_.second == 0)
        return;
    IdSource trial = session_.ids(); // what is only shown takes no ids
    const auto forwarding = checker_.forwarding();
    if (!forwarding || !checker_.isCurrent())
        return form_->emptyRow(tr("being worked out"));
    const auto carried = edit::carryVlan(*forwarding, device.id, carries_.second, trial);
    if (!carried) {
        form_->emptyRow(shownText(carried.refusal().text()));
        return;
    }
    form_->actionRow(
        tr("VLAN %1 on").arg(carries_.second), shownText(carried->portsText(network)), tr("Carry it"),
        tr("Carry it"), [this, id = device.id, vlan = carries_.second] {
            carries_ = {};
            auto done = edit::carryVlan(analysis::Forwarding(session_.network()), id, vlan, session_.ids());
            session_.apply(done ? edit::ActResult(std::move(done->act)) : edit::ActResult(done.refusal()));
        });
}

void DetailsPanel::vlanRows(const PortRef& ref) {
    const Network& network = session_.network();
    const Device* device = network.device(ref.device);
    const Role role = device ? roleOf(network, *device) : Role::unknown;
    if (role != Role::switch_ && role != Role::accessPoint && role != Role::router)
        return;
    const Interface* held = lagAt(network, ref);
    if (!held)
        held = edit::interfaceNamed(network, ref.device, ref.port);
    const auto number = [&](VlanId id) {
        const Vlan* vlan = network.vlan(id);
        return vlan ? QString::number(vlan->number) : QString();
    };
    QStringList tagged;
    if (held) {
        for (const VlanId id : held->tagged)
            tagged << number(id);
        for (const VlanRange range : held->taggedRanges)
            tagged << QStringLiteral("%1-%2").arg(range.first).arg(range.last);
    }
    const QString untagged = held ? number(held->untagged) : QString(), list = tagged.join(QLatin1Char(','));
    form_->textRow(tr("Untagged VLAN"), untagged, tr("none: untagged frames are dropped"),
                   [this, ref, list](const std::string& typed) -> edit::ActResult {
                       bool sound = true;
                       const int vlan = typed.empty() ? 0 : QString::fromStdString(typed).toInt(&sound);
                       if (!sound)
                           return error(tr("%1 is no VLAN number").arg(shownText(typed)),
                                        tr("write one from 1 to 4094"));
                       return edit::setPortVlans(session_.network(), ref, vlan, said(list), session_.ids());
                   });
    form_->textRow(tr("Tagged VLANs"), list, QStringLiteral("20,30,100-110"),
                   [this, ref, untagged](const std::string& typed) {
                       return edit::setPortVlans(session_.network(), ref, untagged.toInt(), typed,
                                                 session_.ids());
                   });
}

} // namespace underridge::app
