// SPDX-License-Identifier: GPL-3.0-or-later
// Writes the sample networks: make-demo FOLDER. The place is invented.
#include "demo/maker.h"

#include <fmt/format.h>

int main(int argc, char** argv) {
    if (argc != 2) {
        fmt::print(stderr, "usage: make-demo FOLDER\n");
        return 2;
    }
    try {
        underridge::demo::makeFirstOffice(argv[1]);
        underridge::demo::makeFennickQuay(argv[1]);
    } catch (const std::exception& wrong) {
        fmt::print(stderr, "make-demo: {}\n", wrong.what());
        return 1;
    }
    return 0;
}
