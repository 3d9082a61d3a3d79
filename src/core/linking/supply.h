// SPDX-License-Identifier: GPL-3.0-or-later
// What would give a device another port: a module in a free slot, or a port its model can
// have added.
#pragma once
#include "core/base/result.h"
#include "core/model/ports.h"

namespace underridge::linking {

struct Supply {
    std::string slot; ///< with the number of its chassis in a stack: "2/A"; empty: an additional port
    std::string id;   ///< of the module; of an additional port, its key
    std::string text; ///< "12 × SFP+ line module in slot 3, hot-swap; 1 slot stays free"

    bool operator==(const Supply&) const = default;
};

/// A place of a device for a module.
struct SlotView {
    std::string key; ///< as in FittedModule::slot
    const model::Slot* slot = nullptr;
    const model::FittedModule* fitted = nullptr;
};
/// The slots of all its chassis, in order. Pointers live as long as the network value.
std::vector<SlotView> slotsOf(const model::Network& network, const model::Device& device);

/// Keys of ports its model can still have added, in order; none when it has as many as it
/// can.
std::vector<std::string> addable(const model::Network& network, const model::Device& device);

/// Everything that can be fitted: each module in the first free slot that takes it, and
/// the next additional port of each block.
std::vector<Supply> suppliesFor(const model::Network& network, const model::Catalogue& catalogue,
                                const model::Device& device);

/// The network with it fitted, and with a copy of the module's model. Refuses a slot that
/// is gone or holds a module, a module that does not go into it, and a port that cannot
/// be added.
Result<model::Network> withSupply(const model::Network& network, const model::Catalogue& catalogue,
                                  model::DeviceId device, const Supply& supply);

} // namespace underridge::linking
