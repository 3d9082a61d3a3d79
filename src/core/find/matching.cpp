// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/find/matching.h"

#include "core/base/parallel.h"
#include "core/base/text.h"
#include "core/find/conditions.h"
#include "core/linking/chain.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"

#include <algorithm>

namespace underridge::find {
using namespace model;
namespace {

const std::set<const linking::Rule*> noRules;
const Findings noFindings;

/// At an end a device has; upper layers have no ports.
bool hasUnknownPort(const Link& link, DeviceId device) {
    return !link.isUpper() &&
           ((link.a.device == device && !link.a.known()) || (link.b.device == device && !link.b.known()));
}

} // namespace

Findings::Findings(const std::vector<linking::Finding>& all) {
    for (const linking::Finding& finding : all)
        for (const ObjectRef subject : finding.subjects)
            byObject_[subject.id].insert(finding.rule);
}

const std::set<const linking::Rule*>& Findings::of(ObjectRef object) const {
    const auto at = byObject_.find(object.id);
    return at == byObject_.end() ? noRules : at->second;
}

Matcher::Matcher(const Network& network, const Filter& filter, const Findings* findings)
    : network_(network), filter_(filter), findings_(findings ? *findings : noFindings) {
    network.all<Subnet>().forEach([&](const Subnet& subnet) { subnets_.push_back(&subnet); });
    network.all<Service>().forEach([&](const Service& service) { services_.push_back(&service); });
    if (filter.asks(Field::sheet))
        sheets_ = network.sheetsInOrder();
    findGroupsFor(filter.term());
}

std::vector<DeviceId> Matcher::devices() const {
    std::vector<const Device*> all;
    all.reserve(network_.all<Device>().size());
    network_.all<Device>().forEach([&](const Device& device) { all.push_back(&device); });
    std::vector<char> found(all.size());
    forEachIndex(all.size(), 4'000, [&](std::size_t i) { found[i] = matches(*all[i]); });
    std::vector<DeviceId> out;
    for (std::size_t i = 0; i < all.size(); ++i)
        if (found[i])
            out.push_back(all[i]->id);
    return out;
}

bool Matcher::holds(const Term& term, const Subject& subject) const {
    const auto inner = [&](const Term& one) { return holds(one, subject); };
    switch (term.joins) {
    case Term::Joins::all:
        return std::all_of(term.terms.begin(), term.terms.end(), inner);
    case Term::Joins::any:
        return std::any_of(term.terms.begin(), term.terms.end(), inner);
    case Term::Joins::none:
        return std::none_of(term.terms.begin(), term.terms.end(), inner);
    case Term::Joins::condition:
        return holds(term.condition, subject);
    }
    return false;
}

bool Matcher::holds(const Condition& condition, const Subject& subject) const {
    return positive(condition, subject) != (condition.sign == Sign::differs);
}

bool Matcher::positive(const Condition& condition, const Subject& subject) const {
    return std::visit([&](const auto* record) { return asked(condition, *record); }, subject);
}

bool Matcher::asked(const Condition& condition, const Vlan& vlan) const {
    const bool named = condition.field == Field::name || condition.field == Field::word;
    return (named && textIs(condition, vlan.name)) ||
           (condition.field == Field::vlan && vlanIs(condition, vlan)) ||
           (condition.field == Field::in && isIn(condition, vlan.scope));
}

bool Matcher::asked(const Condition& condition, const Subnet& subnet) const {
    const bool named = condition.field == Field::name || condition.field == Field::word;
    return (named && (textIs(condition, subnet.name) || textIs(condition, subnet.prefix.text()))) ||
           (condition.field == Field::subnet &&
            (textIs(condition, subnet.name) || addressIs(condition, subnet.prefix))) ||
           (condition.field == Field::address && addressIs(condition, subnet.prefix)) ||
           (condition.field == Field::vlan && isVlan(condition, subnet.vlan));
}

bool Matcher::asked(const Condition& condition, const Sheet& sheet) const {
    const bool named = condition.field == Field::name || condition.field == Field::word;
    return (named || condition.field == Field::sheet) && textIs(condition, sheet.name);
}

bool Matcher::isVlan(const Condition& condition, VlanId id) const {
    const Vlan* vlan = network_.vlan(id);
    return vlan && vlanIs(condition, *vlan);
}

bool Matcher::ofState(const std::string& state, const Device& device) const {
    if (state == "endpoint" || state == "infrastructure")
        return isEndpoint(roleOf(network_, device)) == (state == "endpoint");
    if (state == "linked" || state == "unlinked")
        return (network_.degree(device.id) > 0) == (state == "linked");
    if (state == "outside")
        return device.outside;
    if (state == "placed" || state == "unplaced")
        return static_cast<bool>(device.place.in) == (state == "placed");
    if (state == "grouped" || state == "ungrouped")
        return static_cast<bool>(device.group) == (state == "grouped");
    if (state == "stack")
        return device.stack.size() > 1;
    if (state == "free") {
        const PortCount ports = countPorts(network_, device);
        return ports.used < ports.all;
    }
    bool found = false;
    if (state == "disabled")
        network_.all<Port>().forEachIn(device.id.value, [&](const Port& port) { found |= port.disabled; });
    else if (state == "planned")
        network_.forEachCableOf(device.id,
                                [&](const Cable& cable) { found |= cable.status == CableStatus::planned; });
    else if (state == "unknown-port")
        network_.forEachLinkOf(device.id,
                               [&](const Link& link) { found |= hasUnknownPort(link, device.id); });
    return found;
}

bool Matcher::ofInterface(const Condition& condition, const Interface& interface) const {
    const auto anyAddress = [&](auto&& test) {
        return std::any_of(interface.addresses.begin(), interface.addresses.end(), test);
    };
    switch (condition.field) {
    case Field::address:
        return anyAddress([&](const Address& address) { return addressIs(condition, address); });
    case Field::mac: {
        const std::string own = macDigits(interface.mac);
        return !own.empty() &&
               std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
                   const std::string wanted = macDigits(value.text);
                   return !wanted.empty() && own.find(wanted) != std::string::npos;
               });
    }
    case Field::vlan: {
        const auto isIt = [&](VlanId id) { return isVlan(condition, id); };
        return isIt(interface.untagged) ||
               std::any_of(interface.tagged.begin(), interface.tagged.end(), isIt) ||
               std::any_of(interface.taggedRanges.begin(), interface.taggedRanges.end(),
                           [&](const VlanRange& range) { return rangeIs(condition, range); });
    }
    case Field::subnet:
        return anyAddress([&](const Address& address) {
            if (addressIs(condition, address))
                return true;
            return std::any_of(subnets_.begin(), subnets_.end(), [&](const Subnet* subnet) {
                return textIs(condition, subnet->name) && subnet->prefix.contains(Address(address.host()));
            });
        });
    case Field::is:
        return has(condition, "disabled") && interface.disabled;
    default:
        return false;
    }
}

bool Matcher::asked(const Condition& condition, const Device& device) const {
    const auto anyInterface = [&] {
        bool found = false;
        network_.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
            found = found || ofInterface(condition, interface);
        });
        return found;
    };
    const auto anyLink = [&] {
        bool found = false;
        network_.forEachLinkOf(device.id, [&](const Link& link) { found = found || asked(condition, link); });
        return found;
    };
    const auto anyPort = [&] {
        bool found = false;
        network_.all<Port>().forEachIn(device.id.value, [&](const Port& port) {
            found = found || textIs(condition, condition.field == Field::label ? port.label : port.note);
        });
        return found;
    };
    switch (condition.field) {
    case Field::word: {
        if (textIs(condition, device.name) || textIs(condition, modelName(network_, device)))
            return true;
        bool found = false;
        network_.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
            for (const Address& address : interface.addresses)
                found = found || textIs(condition, address.text());
        });
        return found;
    }
    case Field::name:
        return textIs(condition, device.name);
    case Field::role:
        return roleIs(condition, roleOf(network_, device));
    case Field::model:
        return textIs(condition, device.model) || textIs(condition, modelName(network_, device));
    case Field::in:
        return isIn(condition, device.group);
    case Field::vlan:
        return anyInterface() || isInVlan(condition, device);
    case Field::address:
    case Field::mac:
    case Field::subnet:
        return anyInterface();
    case Field::serial:
        return textIs(condition, device.serial) ||
               std::any_of(device.modules.begin(), device.modules.end(),
                           [&](const FittedModule& one) { return textIs(condition, one.serial); }) ||
               std::any_of(device.transceivers.begin(), device.transceivers.end(),
                           [&](const FittedTransceiver& one) { return textIs(condition, one.serial); }) ||
               std::any_of(device.stack.begin(), device.stack.end(),
                           [&](const Chassis& one) { return textIs(condition, one.serial); });
    case Field::label:
        return anyPort() || anyLink();
    case Field::note:
        return textIs(condition, device.note.view()) || anyPort();
    case Field::port:
        return std::ranges::any_of(portsOf(network_, device),
                                   [&](const PortView& port) { return textIs(condition, port.key); });
    case Field::cable:
    case Field::medium:
    case Field::speed:
    case Field::length:
        return anyLink();
    case Field::finding:
        return hasFinding(condition, refTo(device.id));
    case Field::sheet:
        return std::any_of(sheets_.begin(), sheets_.end(), [&](const Sheet& sheet) {
            return textIs(condition, sheet.name) && network_.position(sheet.id, device.id.value);
        });
    case Field::service:
        return std::any_of(services_.begin(), services_.end(), [&](const Service* service) {
            const auto with = [&](const std::vector<DeviceId>& devices) {
                return std::find(devices.begin(), devices.end(), device.id) != devices.end();
            };
            return textIs(condition, service->name) && (with(service->users) || with(service->providers));
        });
    case Field::from:
        return wordIs(condition, device.provenance.origin) || textIs(condition, device.provenance.source);
    case Field::attribute:
        return attributeIs(condition, device.attributes);
    case Field::is:
        return std::any_of(condition.values.begin(), condition.values.end(),
                           [&](const Value& value) { return ofState(value.text, device); }) ||
               (has(condition, "disabled") && anyInterface());
    case Field::ports:
        return numberIs(condition, countPorts(network_, device).all);
    case Field::usedPorts:
        return numberIs(condition, countPorts(network_, device).used);
    case Field::freePorts: {
        const PortCount ports = countPorts(network_, device);
        return numberIs(condition, ports.all - ports.used);
    }
    case Field::links: {
        int count = 0;
        network_.forEachLinkOf(device.id, [&](const Link&) { ++count; });
        return numberIs(condition, count);
    }
    case Field::units: {
        const DeviceModel* model = network_.modelOf(device);
        return model && numberIs(condition, model->rackUnits);
    }
    case Field::kind:
    case Field::level: {
        const auto around = upwards(network_, device.group);
        return std::any_of(around.begin(), around.end(), [&](GroupId id) {
            const Group* group = network_.group(id);
            return group && (condition.field == Field::kind
                                 ? wordIs(condition, group->type)
                                 : group->type == GroupKind::floor && numberIs(condition, group->level));
        });
    }
    case Field::devices:
        return false;
    }
    return false;
}

/// What has no VLANs of its own is in the one of the port it is plugged into, and in that
/// of the subnet it has an address in.
bool Matcher::isInVlan(const Condition& condition, const Device& device) const {
    const auto isIt = [&](VlanId id) { return isVlan(condition, id); };
    bool found = false;
    network_.all<Interface>().forEachIn(device.id.value, [&](const Interface& interface) {
        for (const Address& address : interface.addresses)
            for (const Subnet* subnet : subnets_)
                found = found || (isIt(subnet->vlan) && subnet->prefix.contains(Address(address.host())));
    });
    if (found || !isEndpoint(roleOf(network_, device)))
        return found;
    network_.forEachLinkOf(device.id, [&](const Link& link) {
        const auto far = linking::farEnd(network_, link.a.device == device.id ? link.a : link.b);
        if (!found && far)
            network_.all<Interface>().forEachIn(far->device.value, [&](const Interface& interface) {
                found = found || (interface.port == far->port && isIt(interface.untagged));
            });
    });
    return found;
}

bool Matcher::isIn(const Condition& condition, GroupId group) const {
    const auto at = inside_.find(&condition);
    return at != inside_.end() && at->second.contains(group.value);
}

void Matcher::findGroupsFor(const Term& term) {
    for (const Term& inner : term.terms)
        findGroupsFor(inner);
    if (term.joins != Term::Joins::condition || term.condition.field != Field::in)
        return;
    auto& inside = inside_[&term.condition];
    network_.all<Group>().forEach([&](const Group& group) {
        if (inside.contains(group.id.value) || !textIs(term.condition, group.name))
            return;
        inside.insert(group.id.value);
        for (const GroupId inner : groupsWithin(network_, group.id))
            inside.insert(inner.value);
    });
}

bool Matcher::hasFinding(const Condition& condition, ObjectRef object) const {
    const auto& rules = findings_.of(object);
    return std::any_of(condition.values.begin(), condition.values.end(), [&](const Value& value) {
        if (value.text == "none")
            return rules.empty();
        return std::any_of(rules.begin(), rules.end(), [&](const linking::Rule* rule) {
            static constexpr std::string_view severities[] = {"error", "warning", "advice"};
            return value.text == "any" || value.text == severities[static_cast<int>(rule->severity)] ||
                   lowered(rule->code) == value.text;
        });
    });
}

bool Matcher::anyIn(const Condition& condition, GroupId group) const {
    const auto within = devicesWithin(network_, group);
    return std::any_of(within.begin(), within.end(),
                       [&](DeviceId id) { return asked(condition, *network_.device(id)); });
}

bool Matcher::asked(const Condition& condition, const Group& group) const {
    switch (condition.field) {
    case Field::word:
    case Field::name:
        return textIs(condition, group.name);
    case Field::in:
        return isIn(condition, group.parent);
    case Field::kind:
        return wordIs(condition, group.type);
    case Field::level:
        return group.type == GroupKind::floor && numberIs(condition, group.level);
    case Field::note:
        return textIs(condition, group.note);
    case Field::from:
        return wordIs(condition, group.provenance.origin);
    case Field::attribute:
        return attributeIs(condition, group.attributes);
    case Field::devices:
        return numberIs(condition, static_cast<std::int64_t>(devicesWithin(network_, group.id).size()));
    default:
        return anyIn(condition, group.id);
    }
}

bool Matcher::asked(const Condition& condition, const Cable& cable) const {
    switch (condition.field) {
    case Field::cable: {
        const CableType* type = network_.typeOf(cable);
        return textIs(condition, cable.type) ||
               (type && (textIs(condition, type->name) || textIs(condition, type->grade)));
    }
    case Field::word:
        if (textIs(condition, cable.label))
            return true;
        break;
    case Field::label:
        return textIs(condition, cable.label);
    case Field::length:
        return cable.lengthMm > 0 && numberIs(condition, cable.lengthMm);
    case Field::medium: {
        const CableType* type = network_.typeOf(cable);
        return type && mediumIs(condition, type->medium);
    }
    case Field::note:
        return textIs(condition, cable.note);
    case Field::finding:
        return hasFinding(condition, {Kind::cable, cable.id.value});
    case Field::is:
        if (has(condition, "planned") && cable.status == CableStatus::planned)
            return true;
        break;
    default:
        break;
    }
    return std::any_of(cable.ends.begin(), cable.ends.end(), [&](const CableEnd& end) {
        const Device* device = network_.device(end.at.device);
        return device &&
               (condition.field == Field::port ? textIs(condition, end.at.port) : asked(condition, *device));
    });
}

bool Matcher::asked(const Condition& condition, const Link& link) const {
    const Cable* cable = network_.cable(link.cable);
    switch (condition.field) {
    case Field::medium:
        return mediumIs(condition, mediumOf(network_, link));
    case Field::speed:
        return numberIs(condition, speedOf(network_, link));
    case Field::cable:
    case Field::length:
        return cable && asked(condition, *cable);
    case Field::label:
        if (cable && textIs(condition, cable->label))
            return true;
        for (const PortRef* end : {&link.a, &link.b})
            if (const Port* port = network_.port(*end); port && textIs(condition, port->label))
                return true;
        return false;
    case Field::note:
        return textIs(condition, link.note) || (cable && textIs(condition, cable->note));
    case Field::from:
        return wordIs(condition, link.provenance.origin) || textIs(condition, link.provenance.source);
    case Field::attribute:
        return attributeIs(condition, link.attributes);
    case Field::finding:
        return hasFinding(condition, refTo(link.id)) ||
               (cable && hasFinding(condition, {Kind::cable, cable->id.value}));
    case Field::vlan:
        return asked(condition, link.a) || asked(condition, link.b);
    case Field::port:
        return textIs(condition, link.a.port) || textIs(condition, link.b.port);
    case Field::is:
        if (has(condition, "planned") || has(condition, "unknown-port") || has(condition, "disabled")) {
            const auto disabled = [&](const PortRef& end) {
                const Port* port = network_.port(end);
                return port && port->disabled;
            };
            return (has(condition, "planned") && cable && cable->status == CableStatus::planned) ||
                   (has(condition, "unknown-port") &&
                    (hasUnknownPort(link, link.a.device) || hasUnknownPort(link, link.b.device))) ||
                   (has(condition, "disabled") && (disabled(link.a) || disabled(link.b)));
        }
        break;
    case Field::word:
        if (cable && textIs(condition, cable->label))
            return true;
        break;
    default:
        break;
    }
    for (const PortRef* end : {&link.a, &link.b})
        if (const Device* device = network_.device(end->device); device && asked(condition, *device))
            return true;
    return false;
}

bool Matcher::asked(const Condition& condition, const PortRef& port) const {
    const Device* device = network_.device(port.device);
    if (!device)
        return false;
    const Port* record = network_.port(port);
    const Link* link = network_.linkAt(port);
    switch (condition.field) {
    case Field::port:
        return textIs(condition, port.port);
    case Field::word:
        if (record && textIs(condition, record->label))
            return true;
        break;
    case Field::label:
        return (record && textIs(condition, record->label)) || (link && asked(condition, *link));
    case Field::note:
        return record && textIs(condition, record->note);
    case Field::cable:
    case Field::medium:
    case Field::length:
        return link && asked(condition, *link);
    case Field::speed: {
        const auto view = portAt(network_, port);
        const auto rates = view ? view->rates() : std::vector<int>();
        return !rates.empty() && numberIs(condition, rates.back());
    }
    case Field::address:
    case Field::mac:
    case Field::vlan:
    case Field::subnet: {
        bool found = false;
        network_.all<Interface>().forEachIn(port.device.value, [&](const Interface& interface) {
            const bool here = interface.port == port.port ||
                              std::find(interface.members.begin(), interface.members.end(), port.port) !=
                                  interface.members.end();
            found = found || (here && ofInterface(condition, interface));
        });
        return found;
    }
    case Field::is:
        return (has(condition, "free") && !link) || (has(condition, "linked") && link) ||
               (has(condition, "unlinked") && !link) ||
               (has(condition, "disabled") && record && record->disabled) || [&] {
                   for (const Value& value : condition.values)
                       if (value.text != "free" && value.text != "linked" && value.text != "unlinked" &&
                           value.text != "disabled" && ofState(value.text, *device))
                           return true;
                   return false;
               }();
    case Field::finding:
        if (link)
            return hasFinding(condition, refTo(link->id));
        return has(condition, "none");
    case Field::attribute:
        return record && attributeIs(condition, record->attributes);
    default:
        break;
    }
    return asked(condition, *device);
}

} // namespace underridge::find
