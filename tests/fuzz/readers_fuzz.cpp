// SPDX-License-Identifier: GPL-3.0-or-later
// One fuzz target for each reader, chosen by FUZZ_READER when compiled. Whatever the bytes, the reader gives
// a whole network or a refusal, and what it gives can be written and read again.
#include "core/edit/journal.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "core/exchange/library.h"

#include <cstdlib>

using namespace underridge;

namespace {

const model::Catalogue& catalogue() {
    static const model::Catalogue held = exchange::builtInCatalogue();
    return held;
}

void require(bool good) {
    if (!good)
        std::abort();
}

[[maybe_unused]] void readNetwork(std::string_view bytes, exchange::Format format) {
    const auto loaded = exchange::readAny(bytes, {"fuzz", catalogue()}, format);
    if (!loaded) {
        require(!loaded.refusal().what.empty());
        return;
    }
    require(loaded->network.indicesAreTrue());
    const std::string own = exchange::writeOwn(loaded->network);
    const auto again = exchange::readOwn(own, "again");
    require(static_cast<bool>(again));
    if (format != exchange::Format::own)
        static_cast<void>(exchange::write(loaded->network, format));
}

} // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view bytes(reinterpret_cast<const char*>(data), size);
#if FUZZ_READER == 0
    readNetwork(bytes, exchange::Format::own);
#elif FUZZ_READER == 1
    readNetwork(bytes, exchange::Format::rfc8345);
#elif FUZZ_READER == 2
    readNetwork(bytes, exchange::Format::graphml);
#elif FUZZ_READER == 3
    readNetwork(bytes, exchange::Format::csv);
#elif FUZZ_READER == 4
    static_cast<void>(exchange::readModels(bytes, "fuzz"));
#else
    if (const auto journal = edit::readJournal(bytes))
        static_cast<void>(edit::replay({}, journal->payloads));
#endif
    return 0;
}
