// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/running_check.h"

#include "core/base/parallel.h"
#include "core/linking/mixing_segment.h"
#include "core/model/standing.h"

namespace underridge::linking {
using namespace model;

/// The objects a change can have touched.
struct RunningCheck::Touched {
    std::set<LinkId> links;
    std::set<DeviceId> devices;
    std::set<CableId> cables;
    std::set<GroupId> groups;   ///< that changed, or whose cable routes did
    bool feeds = false;         ///< what feeds what may be another
    std::set<InterfaceId> gone; ///< LAGs that are no longer there
};

namespace {

template <class Record>
bool usesModel(const Device& device, const Record& model) {
    const auto isIt = [&](const auto& fitted) { return fitted.model == model.id; };
    if constexpr (std::is_same_v<Record, DeviceModel>)
        return device.model == model.id || std::any_of(device.stack.begin(), device.stack.end(), isIt);
    else if constexpr (std::is_same_v<Record, ModuleModel>)
        return std::any_of(device.modules.begin(), device.modules.end(), isIt);
    else
        return std::any_of(device.transceivers.begin(), device.transceivers.end(), isIt);
}

template <class Record>
constexpr bool isModelOfDevices =
    std::is_same_v<Record, DeviceModel> || std::is_same_v<Record, ModuleModel> ||
    std::is_same_v<Record, TransceiverModel>;

} // namespace

RunningCheck::Touched RunningCheck::touchedBy(const Network& network) const {
    Touched touched;
    if (last_.all<Device>().size() == 0) { // all is new
        network.all<Link>().forEach([&](const Link& link) { touched.links.insert(link.id); });
        network.all<Device>().forEach([&](const Device& device) { touched.devices.insert(device.id); });
        network.all<Cable>().forEach([&](const Cable& cable) { touched.cables.insert(cable.id); });
        network.all<Group>().forEach([&](const Group& group) { touched.groups.insert(group.id); });
        touched.feeds = true;
        return touched;
    }
    const auto device = [&](DeviceId id) { touched.devices.insert(id); };
    Network::compare(last_, network, [&]<class Record>(const Record* before, const Record* after) {
        const Record& one = after ? *after : *before;
        if constexpr (std::is_same_v<Record, Link>) {
            touched.links.insert(one.id);
            for (const Record* each : {before, after}) // its strands may be free, or used twice
                if (each && each->cable)
                    touched.cables.insert(each->cable);
        } else if constexpr (std::is_same_v<Record, Cable>) {
            touched.cables.insert(one.id);
            for (const Record* each : {before, after}) // a mains cord, if it has a type
                if (const CableType* type = each ? (each == after ? network : last_).typeOf(*each) : nullptr)
                    touched.feeds |= type->medium == Medium::mains;
        } else if constexpr (std::is_same_v<Record, Group>) {
            touched.groups.insert(one.id);
        } else if constexpr (std::is_same_v<Record, CableRoute>) {
            touched.groups.insert(one.floor);
            if (before)
                touched.groups.insert(before->floor);
        } else if constexpr (std::is_same_v<Record, Device>) {
            device(one.id);
            touched.feeds |= (before && !before->feeds.empty()) || (after && !after->feeds.empty()) ||
                             fedFrom_.contains(one.id);
        } else if constexpr (std::is_same_v<Record, Port> || std::is_same_v<Record, PanelMap>) {
            device(one.device);
        } else if constexpr (std::is_same_v<Record, Interface>) {
            device(one.device);
            if (before && (!after || after->type != InterfaceKind::lag))
                touched.gone.insert(before->id);
        } else if constexpr (isModelOfDevices<Record>) {
            touched.feeds |= std::is_same_v<Record, DeviceModel>;
            network.all<Device>().forEach([&](const Device& each) {
                if (usesModel(each, one))
                    device(each.id);
            });
        } else if constexpr (std::is_same_v<Record, CableType>) {
            touched.feeds |= one.medium == Medium::mains || (before && before->medium == Medium::mains);
            network.all<Cable>().forEach([&](const Cable& cable) {
                if (cable.type == one.id)
                    touched.cables.insert(cable.id);
            });
            for (const auto& [owner, found] : found_) // another type may be a remedy for them
                if (owner.check == Owner::Check::link)
                    touched.links.insert({owner.id});
                else if (owner.check == Owner::Check::chain)
                    device({owner.id});
        }
    });
    spread(touched, network);
    return touched;
}

/// Adds what shares a cable, a device or a chain with what is touched, as it was and as it
/// is.
void RunningCheck::spread(Touched& touched, const Network& network) const {
    const Network* const both[] = {&last_, &network};
    for (const Network* in : both) {
        for (const CableId id : touched.cables)
            if (const Cable* cable = in->cable(id))
                for (const CableEnd& end : cable->ends)
                    in->forEachLinkOf(end.at.device, [&](const Link& link) {
                        if (link.cable == id)
                            touched.links.insert(link.id);
                    });
        for (const DeviceId id : touched.devices)
            in->forEachLinkOf(id, [&](const Link& link) { touched.links.insert(link.id); });
    }
    std::set<LinkId> wired;
    for (const Network* in : both) {
        std::set<LinkId> followed;
        for (const LinkId id : touched.links)
            if (in->link(id) && !followed.contains(id))
                followed.merge(wiredWith(*in, id));
        wired.merge(followed);
    }
    touched.links.merge(wired);
    for (const Network* in : both)
        for (const LinkId id : touched.links)
            if (const Link* link = in->link(id))
                touched.devices.insert({link->a.device, link->b.device});
    std::set<DeviceId> pieces;
    for (const Network* in : both)
        for (const DeviceId id : touched.devices)
            if (const Device* device = in->device(id);
                device && !pieces.contains(id) && isOfMixingSegment(*in, *device))
                pieces.merge(mixingSegmentOf(*in, id));
    touched.devices.merge(pieces);
}

void RunningCheck::put(Owner owner, std::vector<Finding> found) {
    if (found.empty())
        found_.erase(owner);
    else
        found_[owner] = std::move(found);
}

void RunningCheck::relabel(const Cable* before, const Cable* after, std::set<std::string>& labels) {
    if (before && !before->label.empty()) {
        labels.insert(before->label);
        if (const auto at = byLabel_.find(before->label); at != byLabel_.end()) {
            at->second.erase(before->id);
            if (at->second.empty())
                byLabel_.erase(at);
        }
    }
    if (after && !after->label.empty()) {
        labels.insert(after->label);
        byLabel_[after->label].insert(after->id);
    }
}

void RunningCheck::update(const Network& network, const Catalogue& catalogue) {
    using Check = Owner::Check;
    const Touched touched = touchedBy(network);
    Fits fits(catalogue);
    for (const Network* in : {static_cast<const Network*>(&last_), &network})
        for (const LinkId id : touched.links)
            if (const Link* link = in->link(id))
                for (const PortRef* end : {&link->a, &link->b})
                    found_.erase({Check::chain, end->device.value, fnv1a(end->port)});
    for (const InterfaceId id : touched.gone)
        found_.erase({Check::lag, id.value});
    const std::vector<LinkId> links(touched.links.begin(), touched.links.end());
    const std::vector<DeviceId> devices(touched.devices.begin(), touched.devices.end());
    constexpr std::size_t atLeast = 1000; // are worth a thread
    std::vector<Told> told(links.size() + devices.size());
    forEachIndex(told.size(), atLeast, [&](std::size_t i) {
        told[i] =
            i < links.size() ? ofLink(network, fits, links[i]) : ofDevice(network, devices[i - links.size()]);
    });
    for (Told& each : told)
        for (auto& [owner, found] : each)
            put(owner, std::move(found));
    updateCables(network, touched.cables);
    updateRoutes(network, touched);
    updateFeeds(network, touched);
    last_ = network;
}

RunningCheck::Told RunningCheck::ofLink(const Network& network, Fits& fits, LinkId id) {
    using Check = Owner::Check;
    const Link* link = network.link(id);
    Told told{{{Check::link, id.value}, {}}, {{Check::loop, id.value}, {}}};
    if (!link)
        return told;
    told.front().second = checkLink(network, fits, *link);
    const auto isActive = [&](const PortRef& end) {
        const Device* device = network.device(end.device);
        return device && end.known() && !isPassive(network, *device);
    };
    // Each chain once: from the lesser of its ends, or from the only one that is a device.
    if (isActive(link->a) && isActive(link->b)) {
        const bool isTurned = link->b < link->a;
        const PortRef& least = isTurned ? link->b : link->a;
        const Chain chain = chainOfLink(network, *link);
        told.emplace_back(Owner{Check::chain, least.device.value, fnv1a(least.port)},
                          checkChannel(network, fits, isTurned ? turned(chain) : chain));
        return told;
    }
    bool endsAtDevice = false;
    for (const PortRef* end : {&link->a, &link->b}) {
        if (!isActive(*end))
            continue;
        endsAtDevice = true;
        const Chain chain = chainThrough(network, *end);
        if (!chain.whole() || chain.joins || chain.a < chain.b)
            told.emplace_back(Owner{Check::chain, end->device.value, fnv1a(end->port)},
                              checkChannel(network, fits, chain));
    }
    if (endsAtDevice)
        return told;
    // A loop that touches no device is told once, at the first of its links.
    const Chain chain = chainThrough(network, link->a);
    if (chain.endB != ChainEnd::loop || chain.endA == ChainEnd::device)
        return told;
    if (std::all_of(chain.stretches.begin(), chain.stretches.end(),
                    [&](const Stretch& stretch) { return id <= stretch.link; }))
        told[1].second = checkChannel(network, fits, chain);
    return told;
}

RunningCheck::Told RunningCheck::ofDevice(const Network& network, DeviceId id) {
    using Check = Owner::Check;
    const Device* device = network.device(id);
    Told told;
    told.emplace_back(Owner{Check::taken, id.value},
                      device ? checkTaken(network, *device) : std::vector<Finding>());
    told.emplace_back(Owner{Check::power, id.value},
                      device ? checkPower(network, *device) : std::vector<Finding>());
    told.emplace_back(Owner{Check::segment, id.value},
                      device ? checkMixingSegment(network, *device) : std::vector<Finding>());
    network.all<Interface>().forEachIn(id.value, [&](const Interface& interface) {
        told.emplace_back(Owner{Check::lag, interface.id.value}, checkLag(network, interface));
    });
    return told;
}

void RunningCheck::updateCables(const Network& network, const std::set<CableId>& cables) {
    using Check = Owner::Check;
    std::set<std::string> labels;
    for (const CableId id : cables) {
        const Cable* cable = network.cable(id);
        put({Check::cable, id.value}, cable ? checkCable(network, *cable) : std::vector<Finding>());
        relabel(last_.cable(id), cable, labels);
    }
    for (const std::string& label : labels) {
        const auto at = byLabel_.find(label);
        const bool twice = at != byLabel_.end() && at->second.size() > 1;
        put({Check::label, fnv1a(label)},
            twice ? std::vector{labelTwice(label, {at->second.begin(), at->second.end()})}
                  : std::vector<Finding>());
    }
}

/// Loads run through the whole: all of it is looked at again when something fed, or what it
/// is fed from, changed.
void RunningCheck::updateFeeds(const Network& network, const Touched& touched) {
    if (!touched.feeds)
        return;
    std::erase_if(found_, [](const auto& each) { return each.first.check == Owner::Check::feeds; });
    for (auto& [device, found] : checkFeeds(network))
        put({Owner::Check::feeds, device.value}, std::move(found));
    fedFrom_.clear();
    network.all<Device>().forEach([&](const Device& device) {
        for (const PowerFeed& feed : device.feeds)
            fedFrom_.insert(feed.from);
    });
}

/// Floors with routes whose cables, or the places of whose ends, may be others.
void RunningCheck::updateRoutes(const Network& network, const Touched& touched) {
    const Network* const both[] = {&last_, &network};
    std::set<GroupId> drawn;
    for (const Network* in : both)
        in->all<CableRoute>().forEach([&](const CableRoute& route) { drawn.insert(route.floor); });
    if (drawn.empty())
        return;
    std::set<GroupId> floors;
    const auto takeFloorOf = [&](const Network& in, GroupId place) {
        if (const Group* floor = groupAbove(in, in.group(place), GroupKind::floor))
            floors.insert(floor->id);
    };
    const auto takeEnds = [&](const Network& in, const Cable& cable) {
        for (const CableEnd& end : cable.ends)
            takeFloorOf(in, placeOf(in, end.at).in);
    };
    for (const Network* in : both) {
        for (const CableId id : touched.cables)
            if (const Cable* cable = in->cable(id))
                takeEnds(*in, *cable);
        for (const DeviceId id : touched.devices)
            in->forEachCableOf(id, [&](const Cable& cable) { takeEnds(*in, cable); });
    }
    // Of a group that changed it is not followed how far it reaches: there are few.
    for (const GroupId floor : drawn)
        if (floors.contains(floor) || !touched.groups.empty())
            put({Owner::Check::routes, floor.value}, checkRoutes(network, floor));
}

std::vector<Finding> RunningCheck::findings() const {
    std::vector<const Finding*> sorted;
    for (const auto& [owner, found] : found_)
        for (const Finding& finding : found)
            sorted.push_back(&finding);
    std::stable_sort(sorted.begin(), sorted.end(), [](const Finding* x, const Finding* y) {
        return x->rule != y->rule ? x->rule < y->rule : naturalLess(x->message, y->message);
    });
    std::vector<Finding> out;
    out.reserve(sorted.size());
    for (const Finding* finding : sorted)
        out.push_back(*finding);
    return out;
}

std::vector<Finding> check(const Network& network, const Catalogue& catalogue) {
    RunningCheck all;
    all.update(network, catalogue);
    return all.findings();
}

} // namespace underridge::linking
