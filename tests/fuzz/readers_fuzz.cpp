// SPDX-License-Identifier: GPL-3.0-or-later
// One fuzz target for all readers; UNDERRIDGE_READER names the one to be tried.
#include "tests/support/hostile_input.h"

#include <cstdlib>

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    static const char* const reader = std::getenv("UNDERRIDGE_READER");
    if (!reader || !underridge::tests::keepsPromise(reader, {reinterpret_cast<const char*>(data), size}))
        std::abort();
    return 0;
}
