// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/catalogue_file.h"

#include "core/exchange/record_json.h"

#include <stdexcept>

namespace underridge::model::catalogue_text {
extern const std::string_view devices, modules, transceivers, cables;
}

namespace underridge::exchange {
using namespace model;

Result<Catalogue> readCatalogue(const CatalogueTexts& texts) {
    Catalogue catalogue;
    if (auto read = readEntries(texts.devices, "devices.json", catalogue.devices); !read)
        return read.refusal();
    if (auto read = readEntries(texts.modules, "modules.json", catalogue.modules); !read)
        return read.refusal();
    if (auto read = readEntries(texts.transceivers, "transceivers.json", catalogue.transceivers); !read)
        return read.refusal();
    if (auto read = readEntries(texts.cables, "cables.json", catalogue.cables); !read)
        return read.refusal();
    if (auto problems = problemsOf(catalogue); !problems.empty())
        return problems.front();
    return catalogue;
}

CatalogueTexts builtInTexts() {
    using namespace catalogue_text;
    return {devices, modules, transceivers, cables};
}

Catalogue builtInCatalogue() {
    auto read = readCatalogue(builtInTexts());
    if (!read)
        throw std::logic_error(read.refusal().text());
    return *std::move(read);
}

} // namespace underridge::exchange
