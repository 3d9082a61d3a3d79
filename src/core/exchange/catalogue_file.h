// SPDX-License-Identifier: GPL-3.0-or-later
// Reading the catalogue. docs/catalogue.md describes the texts.
#pragma once
#include "core/base/result.h"
#include "core/model/catalogue.h"

namespace underridge::exchange {

/// The four texts of a catalogue: JSON arrays of objects.
struct CatalogueTexts {
    std::string_view devices, modules, transceivers, cables;
};

/// Reads and checks. Refuses with the first problem found.
Result<model::Catalogue> readCatalogue(const CatalogueTexts& texts);

/// The texts that ship with the program.
CatalogueTexts builtInTexts();

/// The catalogue that ships with the program. Its texts are tested, so a failure to read
/// them is a fault of the build, and ends the program.
model::Catalogue builtInCatalogue();

} // namespace underridge::exchange
