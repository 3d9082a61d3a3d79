// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/links.h"

#include "core/linking/chain.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
using linking::Proposal;
namespace {

void fitTransceiver(Network& network, const Catalogue& catalogue, const PortRef& port,
                    const std::string& id) {
    if (id.empty())
        return;
    if (const TransceiverModel* model = catalogue.transceiver(id);
        model && !network.find<TransceiverModel>(model->key()))
        network.put(*model);
    Device device = *network.device(port.device);
    std::erase_if(device.transceivers, [&](const FittedTransceiver& t) { return t.port == port.port; });
    device.transceivers.push_back({port.port, id, {}});
    std::sort(device.transceivers.begin(), device.transceivers.end(),
              [](const auto& a, const auto& b) { return naturalLess(a.port, b.port); });
    network.put(std::move(device));
}

void removeTransceiver(Network& network, const PortRef& port) {
    const Device* held = network.device(port.device);
    if (!held)
        return;
    Device device = *held;
    if (std::erase_if(device.transceivers, [&](const FittedTransceiver& t) { return t.port == port.port; }) >
        0)
        network.put(std::move(device));
}

Result<Done> checkFree(const Network& network, const PortRef& port, LinkId except) {
    const Device* device = network.device(port.device);
    if (!device)
        return error("the device is no longer there", "select again");
    const auto view = portAt(network, port);
    if (const Link* link = network.linkAt(port); link && link->id != except && !(view && view->isShared()))
        return error(fmt::format("port {} of {} is taken", port.port, device->name), "choose a free one");
    if (!view)
        return error(fmt::format("{} has no port {}", device->name, port.port), "choose another");
    return Done{};
}

void putCable(Network& network, const Catalogue& catalogue, Cable cable, Link& link,
              const Proposal& proposal) {
    link.a = proposal.a;
    link.b = proposal.b;
    link.console = proposal.joint.console;
    if (proposal.joint.cable.empty()) { // radio, circuit
        link.medium = proposal.joint.medium;
        link.cable = {};
        if (network.cable(cable.id))
            network.erase<Cable>(cable.key());
        return;
    }
    link.medium = Medium::unknown;
    if (const CableType* type = catalogue.cable(proposal.joint.cable);
        type && !network.find<CableType>(type->key()))
        network.put(*type);
    cable.type = proposal.joint.cable;
    cable.ends = {{proposal.a, {}}, {proposal.b, {}}};
    link.cable = cable.id;
    fitTransceiver(network, catalogue, proposal.a, proposal.joint.transceiverA);
    fitTransceiver(network, catalogue, proposal.b, proposal.joint.transceiverB);
    network.put(std::move(cable));
}

} // namespace

std::string peerText(const Network& network, const PortRef& port) {
    const Link* link = network.linkAt(port);
    if (!link)
        return {};
    const PortRef& next = link->a == port ? link->b : link->a;
    std::string text = portText(network, next);
    const Device* device = network.device(next.device);
    if (!device || !linking::isPassive(network, *device))
        return text;
    const auto far = linking::farEnd(network, port);
    return text + (far ? ", in the end " + portText(network, *far) : ", where the chain ends");
}

std::string linkText(const Network& network, const Link& link) {
    return fmt::format("{} to {}", portText(network, link.a), portText(network, link.b));
}

ActResult makeLink(const Network& network, const Catalogue& catalogue, const Proposal& proposal,
                   IdSource& ids) {
    for (const PortRef* end : {&proposal.a, &proposal.b})
        if (auto isFree = checkFree(network, *end, {}); !isFree)
            return isFree.refusal();
    Act act{fmt::format("Link {} to {}", portText(network, proposal.a), portText(network, proposal.b)),
            network,
            {}};
    Cable cable;
    cable.id = ids.make<CableId>();
    Link link;
    link.id = ids.make<LinkId>();
    putCable(act.network, catalogue, std::move(cable), link, proposal);
    act.subjects.push_back(refTo(link.id));
    act.network.put(std::move(link));
    return act;
}

ActResult changeLink(const Network& network, const Catalogue& catalogue, LinkId id,
                     const Proposal& proposal) {
    const Link* held = network.link(id);
    if (!held)
        return error("the link is no longer there", "select again");
    for (const PortRef* end : {&proposal.a, &proposal.b})
        if (auto isFree = checkFree(network, *end, id); !isFree)
            return isFree.refusal();
    Act act{
        fmt::format("Change link to {} and {}", portText(network, proposal.a), portText(network, proposal.b)),
        network,
        {refTo(id)}};
    Link link = *held;
    for (const PortRef* end : {&held->a, &held->b})
        removeTransceiver(act.network, *end); // the proposal says which are needed now
    Cable cable;
    if (const Cable* old = network.cable(link.cable))
        cable = *old;
    else
        cable.id = CableId{link.id.value ^ 1};
    putCable(act.network, catalogue, std::move(cable), link, proposal);
    act.network.put(std::move(link));
    return act;
}

namespace {

/// Adds one link over the best ports to an act; gives the name that link alone would have.
Result<std::string> addBestLink(Act& act, const Catalogue& catalogue, const linking::End& a,
                                const linking::End& b, IdSource& ids, const linking::Habits& habits) {
    const auto pair = linking::bestPair(act.network, catalogue, a, b, habits);
    if (!pair)
        return pair.refusal();
    auto made = makeLink(act.network, catalogue, *pair, ids);
    if (!made)
        return made.refusal();
    act.network = std::move(made->network);
    act.subjects.push_back(made->subjects.front());
    return std::move(made->name);
}

} // namespace

ActResult linkInRow(const Network& network, const Catalogue& catalogue, const std::vector<DeviceId>& devices,
                    IdSource& ids, const linking::Habits& habits) {
    if (devices.size() < 2)
        return error("one device alone cannot be linked", "select several, in the order wanted");
    Act act{fmt::format("Link {} devices in a row", devices.size()), network, {}};
    for (std::size_t i = 0; i + 1 < devices.size(); ++i)
        if (auto added = addBestLink(act, catalogue, {devices[i], {}}, {devices[i + 1], {}}, ids, habits);
            !added)
            return added.refusal();
    return act;
}

ActResult linkEachTo(const Network& network, const Catalogue& catalogue, const std::vector<DeviceId>& devices,
                     DeviceId target, IdSource& ids, const linking::Habits& habits) {
    const Device* to = network.device(target);
    if (!to || devices.empty())
        return error("the device is no longer there", "select again");
    Act act{{}, network, {}};
    for (const DeviceId device : devices) {
        if (device == target)
            continue;
        auto added = addBestLink(act, catalogue, {device, {}}, {target, {}}, ids, habits);
        if (!added)
            return added.refusal();
        act.name = *std::move(added);
    }
    if (act.subjects.empty())
        return error(fmt::format("{} cannot be linked to itself", to->name), "choose another device");
    if (act.subjects.size() > 1)
        act.name = fmt::format("Link {} devices to {}", act.subjects.size(), to->name);
    return act;
}

ActResult linkPorts(const Network& network, const Catalogue& catalogue,
                    const std::vector<std::pair<PortRef, PortRef>>& pairs, IdSource& ids) {
    if (pairs.empty())
        return error("no ports are chosen", "choose some at both devices");
    Act act{{}, network, {}};
    for (const auto& [a, b] : pairs) {
        auto added = addBestLink(act, catalogue, {a.device, a.port}, {b.device, b.port}, ids, {});
        if (!added)
            return added.refusal();
        act.name = *std::move(added);
    }
    if (pairs.size() > 1)
        act.name = fmt::format("Link {} ports", pairs.size());
    return act;
}

} // namespace underridge::edit
