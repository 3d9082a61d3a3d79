// SPDX-License-Identifier: GPL-3.0-or-later
// The sample "First office" as core tests take it.
#pragma once
#include "core/base/files.h"
#include "core/exchange/own_format.h"

namespace underridge::tests {

inline model::Network firstOffice() {
    DiskFiles files;
    const std::string path = UNDERRIDGE_ROOT "/demo/first-office.underridge";
    return exchange::readOwn(*files.read(path), path)->network;
}

} // namespace underridge::tests
