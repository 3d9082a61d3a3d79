// SPDX-License-Identifier: GPL-3.0-or-later
// A library of own device models: a JSON array in the form of the catalogue's
// devices.json (docs/catalogue.md).
#pragma once
#include "core/base/result.h"
#include "core/model/catalogue.h"

namespace underridge::exchange {

/// Reads models. Refuses text that is no such array, models with problems and ids that
/// are there twice, with the place or the id.
Result<std::vector<model::DeviceModel>> readModels(std::string_view text, const std::string& file);
std::string writeModels(const std::vector<model::DeviceModel>& models);

/// "Crane controller 2" → "own-crane-controller-2", with a number behind it when that is
/// taken.
std::string ownModelId(const std::string& name, const model::Catalogue& taken);

} // namespace underridge::exchange
