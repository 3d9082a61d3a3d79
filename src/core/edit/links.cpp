// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/links.h"

#include "core/edit/cables.h"
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/linking/chain.h"
#include "core/linking/route.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
using linking::Proposal;
namespace {

/// The port a transceiver sits in: the parent of one in breakout mode.
PortRef cageOf(const Network& network, const PortRef& port) {
    const auto view = portAt(network, port);
    return {port.device, view && !view->parent.empty() ? view->parent : port.port};
}

void fitTransceiver(Network& network, const Catalogue& catalogue, const PortRef& port,
                    const std::string& id) {
    if (!id.empty())
        putTransceiver(network, catalogue, cageOf(network, port), id);
}

/// Takes the transceiver out, unless other lanes of the same port use it.
void removeTransceiver(Network& network, const PortRef& port, LinkId except) {
    const Device* held = network.device(port.device);
    if (!held)
        return;
    const PortRef cage = cageOf(network, port);
    bool shared = false;
    if (cage.port != port.port)
        network.forEachLinkOf(port.device, [&](const Link& link) {
            for (const PortRef* end : {&link.a, &link.b})
                shared |=
                    link.id != except && end->device == port.device && end->port.starts_with(cage.port + "/");
        });
    Device device = *held;
    if (!shared && std::erase_if(device.transceivers,
                                 [&](const FittedTransceiver& t) { return t.port == cage.port; }) > 0)
        network.put(std::move(device));
}

/// The breakout assembly that other lanes of a port hang on, with an end to spare.
const Cable* assemblyAt(const Network& network, const PortRef& lane, const CableType& type) {
    const PortRef cage = cageOf(network, lane);
    const Cable* found = nullptr;
    network.forEachCableOf(lane.device, [&](const Cable& cable) {
        if (cable.type == type.id && !cable.ends.empty() && cable.ends.front().at == cage &&
            static_cast<int>(cable.ends.size()) <= type.farEnds)
            found = &cable;
    });
    return found;
}

/// The positions of an assembly that a lane has: "X1/3" of four with eight strands has 5
/// and 6.
std::vector<int> positionsOfLane(const PortRef& lane, const CableType& type) {
    const int number = std::atoi(lane.port.substr(lane.port.rfind('/') + 1).c_str());
    const int each = std::max(1, type.positions / type.farEnds);
    std::vector<int> out;
    for (int i = 1; i <= each; ++i)
        out.push_back((number - 1) * each + i);
    return out;
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
    const CableType* type = network.find<CableType>({fnv1a(proposal.joint.cable), 0});
    cable.type = proposal.joint.cable;
    link.positions.clear();
    if (type && type->farEnds > 1) {
        const auto viewA = portAt(network, proposal.a);
        const bool nearA = viewA && !viewA->parent.empty();
        const PortRef &lane = nearA ? proposal.a : proposal.b, &far = nearA ? proposal.b : proposal.a;
        if (const Cable* assembly = assemblyAt(network, lane, *type)) {
            Cable shared = *assembly;
            network.erase<Cable>(cable.key()); // the cord it was on
            cable = std::move(shared);
        } else {
            cable.ends = {{cageOf(network, lane), {}}};
        }
        link.positions = positionsOfLane(lane, *type);
        cable.ends.push_back({far, link.positions});
    } else {
        cable.ends = {{proposal.a, {}}, {proposal.b, {}}};
    }
    link.cable = cable.id;
    fitTransceiver(network, catalogue, proposal.a, proposal.joint.transceiverA);
    fitTransceiver(network, catalogue, proposal.b, proposal.joint.transceiverB);
    if (type && cable.lengthMm == 0)
        if (const auto mm = linking::lengthFor(network, *type, proposal.a, proposal.b))
            cable.lengthMm = *mm;
    network.put(std::move(cable));
}

/// The network with what a proposal needs fitted first.
Result<Network> supplied(const Network& network, const Catalogue& catalogue, const Proposal& proposal) {
    Result<Network> out = network;
    if (proposal.supplyA)
        out = linking::withSupply(*out, catalogue, proposal.a.device, *proposal.supplyA);
    if (out && proposal.supplyB)
        out = linking::withSupply(*out, catalogue, proposal.b.device, *proposal.supplyB);
    return out;
}

/// One end clocks a synchronous line: the one nearer to the middle of the network, which
/// is the first proposed.
void giveClock(Network& network, const Proposal& proposal) {
    if (proposal.joint.medium != Medium::serial || proposal.joint.console || proposal.joint.speed < 2)
        return;
    const auto clocked = [&](const PortRef& ref) {
        const Port* record = network.port(ref);
        return record && record->givesClock;
    };
    if (clocked(proposal.a) || clocked(proposal.b))
        return;
    if (auto act = changePort(network, proposal.a, {}, [](Port& port) { port.givesClock = true; }))
        network = std::move(act->network);
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
    const auto end = [&](const PortRef& at) {
        const Device* device = link.isUpper() && !at.known() ? network.device(at.device) : nullptr;
        return device ? device->name : portText(network, at); // upper layers have no ports
    };
    return fmt::format("{} to {}", end(link.a), end(link.b));
}

ActResult makeLink(const Network& network, const Catalogue& catalogue, const Proposal& proposal,
                   IdSource& ids) {
    auto base = supplied(network, catalogue, proposal);
    if (!base)
        return base.refusal();
    for (const PortRef* end : {&proposal.a, &proposal.b})
        if (auto isFree = checkFree(*base, *end, {}); !isFree)
            return isFree.refusal();
    Act act{fmt::format("Link {} to {}", portText(network, proposal.a), portText(network, proposal.b)),
            *std::move(base),
            {}};
    Cable cable;
    cable.id = ids.make<CableId>();
    Link link;
    link.id = ids.make<LinkId>();
    putCable(act.network, catalogue, std::move(cable), link, proposal);
    giveClock(act.network, proposal);
    act.subjects.push_back(refTo(link.id));
    act.network.put(std::move(link));
    return act;
}

ActResult changeLink(const Network& network, const Catalogue& catalogue, LinkId id, const Proposal& proposal,
                     IdSource& ids) {
    const Link* held = network.link(id);
    if (!held)
        return error("the link is no longer there", "select again");
    auto base = supplied(network, catalogue, proposal);
    if (!base)
        return base.refusal();
    for (const PortRef* end : {&proposal.a, &proposal.b})
        if (auto isFree = checkFree(*base, *end, id); !isFree)
            return isFree.refusal();
    Act act{
        fmt::format("Change link to {} and {}", portText(network, proposal.a), portText(network, proposal.b)),
        *std::move(base),
        {refTo(id)}};
    Link link = *held;
    for (const PortRef* end : {&link.a, &link.b})
        removeTransceiver(act.network, *end, id); // the proposal says which are needed now
    Cable cable;
    const Cable* old = network.cable(link.cable);
    const CableType* oldType = old ? network.typeOf(*old) : nullptr;
    if (old && old->ends.size() <= 2 && !(oldType && (oldType->farEnds > 1 || linking::isTrunk(*oldType)))) {
        cable = *old;
    } else {
        if (old) { // it carries more than this link, and stays
            act.network.erase<Link>(link.key());
            takeOffCable(act.network, link);
        }
        cable.id = ids.make<CableId>();
    }
    putCable(act.network, catalogue, std::move(cable), link, proposal);
    act.network.put(std::move(link));
    return act;
}

namespace {

/// Adds one link over the best ports to an act; gives the name that link alone would
/// have.
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
