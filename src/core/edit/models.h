// SPDX-License-Identifier: GPL-3.0-or-later
// Which model a device is, the modules in its slots, and taking over changed models from
// the library.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// Makes devices pieces of a model, of which the network gets a copy. Ports that links
/// end in or that carry settings stay, as learned ones, where the new model has none of
/// that name; those it has are its own again.
ActResult setModel(const model::Network& network, const std::vector<model::DeviceId>& devices,
                   const model::DeviceModel& model);

/// A model that the network uses and the library has changed since.
struct Outdated {
    model::DeviceModel held; ///< as the network has it
    model::DeviceModel now;  ///< as the library has it
    std::vector<model::DeviceId> usedBy;
    std::vector<std::string> changes; ///< "ports 25-48 are new": what an update does, one clause each
    std::vector<model::PortRef> lost; ///< ports in use that the changed model no longer has
};

/// Device models of the network that differ from those of the same id in the library, in
/// order of name.
std::vector<Outdated> outdatedModels(const model::Network& network, const model::Catalogue& library);

/// Takes over the library's models with these ids. Ports in use that are lost stay as
/// learned ones.
ActResult updateModels(const model::Network& network, const model::Catalogue& library,
                       const std::vector<std::string>& ids);

} // namespace underridge::edit
