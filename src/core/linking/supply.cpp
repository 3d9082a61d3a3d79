// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/supply.h"

#include <fmt/format.h>
#include <set>

namespace underridge::linking {
using namespace model;
namespace {

struct Body {
    const DeviceModel* model = nullptr;
    std::string prefix; ///< of its keys
};

std::vector<Body> bodiesOf(const Network& network, const Device& device) {
    if (device.stack.empty())
        return {{network.modelOf(device), {}}};
    std::vector<Body> out;
    for (const Chassis& member : device.stack)
        out.push_back(
            {network.find<DeviceModel>({fnv1a(member.model), 0}), std::to_string(member.number) + "/"});
    return out;
}

std::string moduleText(const ModuleModel& module, const SlotView& slot, int stayFree) {
    return fmt::format("{} in slot {}, {}; {}", module.name, slot.key,
                       slot.slot->hotSwap ? "hot-swap" : "to be switched off first",
                       stayFree == 0   ? std::string("no slot stays free")
                       : stayFree == 1 ? std::string("1 slot stays free")
                                       : fmt::format("{} slots stay free", stayFree));
}

} // namespace

std::vector<SlotView> slotsOf(const Network& network, const Device& device) {
    std::vector<SlotView> out;
    for (const Body& body : bodiesOf(network, device)) {
        if (!body.model)
            continue;
        for (const Slot& slot : body.model->slots) {
            SlotView view{body.prefix + slot.key, &slot, nullptr};
            for (const FittedModule& fitted : device.modules)
                if (fitted.slot == view.key)
                    view.fitted = &fitted;
            out.push_back(std::move(view));
        }
    }
    return out;
}

std::vector<std::string> addable(const Network& network, const Device& device) {
    std::vector<std::string> out;
    for (const Body& body : bodiesOf(network, device)) {
        if (!body.model)
            continue;
        std::vector<std::string> left;
        int added = 0;
        for (const PortSpec& spec : body.model->additional.specs()) {
            const std::string key = body.prefix + spec.key;
            if (std::find(device.added.begin(), device.added.end(), key) != device.added.end())
                ++added;
            else
                left.push_back(key);
        }
        if (added < body.model->additionalMax)
            out.insert(out.end(), left.begin(), left.end());
    }
    return out;
}

std::vector<Supply> suppliesFor(const Network& network, const Catalogue& catalogue, const Device& device) {
    std::vector<Supply> out;
    const auto slots = slotsOf(network, device);
    const auto free = static_cast<int>(
        std::count_if(slots.begin(), slots.end(), [](const SlotView& slot) { return !slot.fitted; }));
    std::set<std::string> offered;
    for (const SlotView& slot : slots) {
        if (slot.fitted)
            continue;
        for (const std::string& id : slot.slot->fits)
            if (const ModuleModel* module = catalogue.module(id); module && offered.insert(id).second)
                out.push_back({slot.key, id, moduleText(*module, slot, free - 1)});
    }
    if (const auto keys = addable(network, device); !keys.empty())
        out.push_back({{}, keys.front(), fmt::format("additional port {}", keys.front())});
    return out;
}

Result<Network> withSupply(const Network& network, const Catalogue& catalogue, DeviceId id,
                           const Supply& supply) {
    const Device* held = network.device(id);
    if (!held)
        return error("the device is no longer there", "select again");
    Network out = network;
    Device device = *held;
    if (supply.slot.empty()) {
        const auto keys = addable(network, device);
        if (std::find(keys.begin(), keys.end(), supply.id) == keys.end())
            return error(fmt::format("{} cannot have port {} added", device.name, supply.id),
                         "choose another port");
        device.added.push_back(supply.id);
        std::sort(device.added.begin(), device.added.end(), naturalLess);
        out.put(std::move(device));
        return out;
    }
    const auto slots = slotsOf(network, device);
    const auto slot = std::find_if(slots.begin(), slots.end(),
                                   [&](const SlotView& view) { return view.key == supply.slot; });
    if (slot == slots.end())
        return error(fmt::format("{} has no slot {}", device.name, supply.slot), "choose another");
    if (slot->fitted)
        return error(fmt::format("slot {} of {} holds a module", supply.slot, device.name),
                     "take it out first");
    const ModuleModel* module = catalogue.module(supply.id);
    if (!module)
        module = network.find<ModuleModel>({fnv1a(supply.id), 0});
    if (!module)
        return error(fmt::format("there is no module {}", supply.id), "choose another");
    const auto& fits = slot->slot->fits;
    if (std::find(fits.begin(), fits.end(), supply.id) == fits.end())
        return error(fmt::format("{} does not go into slot {} of {}", module->name, supply.slot, device.name),
                     "choose another slot");
    if (!out.find<ModuleModel>(module->key()))
        out.put(*module);
    device.modules.push_back({supply.slot, supply.id, {}});
    std::sort(device.modules.begin(), device.modules.end(),
              [](const FittedModule& a, const FittedModule& b) { return naturalLess(a.slot, b.slot); });
    out.put(std::move(device));
    return out;
}

} // namespace underridge::linking
