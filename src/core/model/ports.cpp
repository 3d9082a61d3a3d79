// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/ports.h"

#include <set>

namespace underridge::model {
namespace {

/// Collects ports, turning those in breakout mode into their children.
class Gathering {
public:
    /// `wanted`: the key of the only port asked for; empty: all.
    Gathering(const Network& network, const Device& device, std::string_view wanted = {})
        : network_(network), device_(device), wanted_(wanted) {}

    void all() {
        if (device_.stack.empty())
            chassis(device_.model, "");
        for (const Chassis& member : device_.stack)
            chassis(member.model, std::to_string(member.number) + "/");
        learned();
    }

    void chassis(std::string_view modelId, const std::string& prefix) {
        const auto* model = network_.find<DeviceModel>({fnv1a(modelId), 0});
        if (!model)
            return;
        layout(model->ports, prefix);
        for (const Slot& slot : model->slots)
            for (const FittedModule& fitted : device_.modules)
                if (fitted.slot == prefix + slot.key)
                    if (const auto* module = network_.find<ModuleModel>({fnv1a(fitted.model), 0}))
                        layout(module->ports, prefix + slot.key + "/");
        for (const PortSpec& spec : model->additional.specs())
            if (std::find(device_.added.begin(), device_.added.end(), prefix + spec.key) !=
                device_.added.end())
                add(prefix + spec.key, spec);
    }

    /// Ports that no model gives.
    void learned() {
        static const PortSpec notKnown;
        if (!wanted_.empty()) {
            if (ports_.empty() && device_.learned.contains(wanted_))
                add(std::string(wanted_), notKnown);
            return;
        }
        std::set<std::string_view> given;
        for (const PortView& port : ports_)
            given.insert(port.key);
        for (const std::string& name : device_.learned.all())
            if (!given.contains(name))
                add(name, notKnown);
    }

    std::vector<PortView> take() { return std::move(ports_); }

private:
    void layout(const PortLayout& layout, const std::string& prefix) {
        if (!wanted_.empty()) {
            // A child of a port in breakout mode is found through its parent.
            if (!wanted_.starts_with(prefix))
                return;
            const std::string_view rest = wanted_.substr(prefix.size());
            if (const PortSpec* spec = layout.find(rest))
                add(std::string(wanted_), *spec);
            else if (const auto slash = rest.rfind('/'); slash != std::string_view::npos)
                if (const PortSpec* parent = layout.find(rest.substr(0, slash)))
                    add(std::string(wanted_.substr(0, prefix.size() + slash)), *parent);
            return;
        }
        for (const PortSpec& spec : layout.specs())
            add(prefix.empty() ? spec.key : prefix + spec.key, spec);
    }

    void add(std::string key, const PortSpec& spec) {
        PortView view{std::move(key), &spec.like, nullptr, nullptr, 1, {}, spec.key.empty()};
        view.record = network_.port({device_.id, view.key});
        for (const FittedTransceiver& fitted : device_.transceivers)
            if (fitted.port == view.key)
                view.transceiver = network_.find<TransceiverModel>({fnv1a(fitted.model), 0});
        if (!view.record || view.record->breakout <= 1) {
            ports_.push_back(std::move(view));
            return;
        }
        for (int lane = 1; lane <= view.record->breakout; ++lane) {
            PortView child = view;
            child.key = view.key + "/" + std::to_string(lane);
            child.parent = view.key;
            child.lanes = view.record->breakout;
            child.record = network_.port({device_.id, child.key});
            ports_.push_back(std::move(child));
        }
    }

    const Network& network_;
    const Device& device_;
    std::string_view wanted_;
    std::vector<PortView> ports_;
};

} // namespace

std::vector<int> PortView::rates() const {
    std::vector<int> out = transceiver ? ratesOf(*transceiver) : like->rates;
    if (transceiver && !like->rates.empty()) // it runs at what the cage can do, too
        std::erase_if(out, [&](int rate) {
            return std::find(like->rates.begin(), like->rates.end(), rate) == like->rates.end();
        });
    for (int& rate : out)
        rate /= lanes;
    if (learned && out.empty() && record && record->speed > 0)
        return {record->speed};
    if (record && record->speed > 0)
        std::erase_if(out, [&](int rate) { return rate != record->speed; });
    return out;
}

Connector PortView::connector() const {
    return transceiver ? transceiver->connector : like->connector;
}

Medium mediumOf(const PortView& port) {
    if (port.transceiver)
        return port.transceiver->medium;
    if (!port.like->media.empty())
        return port.like->media.front();
    switch (port.like->connector) {
    case Connector::rj45:
    case Connector::m12d:
    case Connector::m12x:
    case Connector::idc:
        return Medium::twistedPair;
    case Connector::iec63171:
        return Medium::singlePair;
    case Connector::f:
    case Connector::bnc:
    case Connector::n:
        return Medium::coax;
    case Connector::usbC:
    case Connector::de9:
        return Medium::serial;
    case Connector::lc:
    case Connector::sc:
    case Connector::mpo:
    case Connector::mpo16:
    case Connector::splice:
    case Connector::none:
    case Connector::c13:
    case Connector::c14:
    case Connector::c19:
    case Connector::c20:
        return Medium::unknown;
    }
    return Medium::unknown;
}

int commonRate(const std::vector<int>& a, const std::vector<int>& b, int limit) {
    int best = 0;
    for (const int rate : a)
        if (rate <= limit && std::find(b.begin(), b.end(), rate) != b.end())
            best = std::max(best, rate);
    return best;
}

std::vector<PortView> portsOf(const Network& network, const Device& device) {
    Gathering gathering(network, device);
    gathering.all();
    return gathering.take();
}

std::optional<PortView> portAt(const Network& network, const PortRef& ref) {
    const Device* device = network.device(ref.device);
    if (!device || !ref.known())
        return std::nullopt;
    Gathering gathering(network, *device, ref.port);
    gathering.all();
    for (PortView& port : gathering.take())
        if (port.key == ref.port)
            return std::move(port);
    return std::nullopt;
}

bool isPlain(const Port& port) {
    Port plain;
    plain.device = port.device;
    plain.port = port.port;
    return port == plain;
}

namespace {

/// Whether a device has just the ports of its model.
bool hasPortsOfModelOnly(const Network& network, const Device& device) {
    bool only = network.modelOf(device) && device.modules.empty() && device.stack.empty() &&
                device.added.empty() && device.learned.empty();
    if (only)
        network.all<Port>().forEachIn(device.id.value,
                                      [&](const Port& port) { only = only && port.breakout == 0; });
    return only;
}

} // namespace

PortCount countPorts(const Network& network, const Device& device) {
    PortCount count;
    if (hasPortsOfModelOnly(network, device)) { // most are: counted without laying them out
        for (const PortSpec& spec : network.modelOf(device)->ports.specs())
            count.all += spec.like.use == PortUse::data;
    } else {
        for (const PortView& port : portsOf(network, device))
            count.all += port.isData();
    }
    network.forEachLinkOf(device.id, [&](const Link& link) {
        for (const PortRef* end : {&link.a, &link.b})
            if (end->device == device.id && !link.console && !link.isUpper())
                ++(end->known() ? count.used : count.unknown);
    });
    return count;
}

std::string portText(const Network& network, const PortRef& port) {
    const Device* device = network.device(port.device);
    return (device ? device->name : std::string("?")) + " " + (port.known() ? port.port : "port not known");
}

std::string modelName(const Network& network, const Device& device) {
    const DeviceModel* model = network.modelOf(device);
    return model ? model->name : device.model.empty() ? "model not known" : device.model;
}

Role roleOf(const Network& network, const Device& device) {
    const DeviceModel* model = network.modelOf(device);
    return model ? model->role : Role::unknown;
}

const Interface* addressedInterface(const Network& network, DeviceId device) {
    const Interface* found = nullptr;
    // A loopback's is there whatever port is down.
    const auto rank = [](const Interface& each) {
        return each.type == InterfaceKind::loopback ? 0 : each.port.empty() ? 1 : 2;
    };
    network.all<Interface>().forEachIn(device.value, [&](const Interface& interface) {
        if (!interface.addresses.empty() && (!found || rank(interface) < rank(*found)))
            found = &interface;
    });
    return found;
}

Address firstAddress(const Network& network, DeviceId device) {
    const Interface* interface = addressedInterface(network, device);
    return interface ? interface->addresses.front() : Address();
}

Medium mediumOf(const Network& network, const Link& link) {
    const Cable* cable = network.cable(link.cable);
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    return type ? type->medium : link.medium;
}

const Interface* lagAt(const Network& network, const PortRef& port) {
    const Interface* found = nullptr;
    network.all<Interface>().forEachIn(port.device.value, [&](const Interface& each) {
        if (each.type == InterfaceKind::lag &&
            std::find(each.members.begin(), each.members.end(), port.port) != each.members.end())
            found = &each;
    });
    return found;
}

bool isInLag(const Network& network, const Link& link) {
    return lagAt(network, link.a) && lagAt(network, link.b);
}

int speedOf(const Network& network, const Link& link) {
    const auto a = portAt(network, link.a), b = portAt(network, link.b);
    if (!a || !b)
        return 0;
    const Cable* cable = network.cable(link.cable);
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    return commonRate(a->rates(), b->rates(), type && type->maxRate > 0 ? connectionRate(*type) : INT_MAX);
}

} // namespace underridge::model
