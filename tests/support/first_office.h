// SPDX-License-Identifier: GPL-3.0-or-later
// The samples as core tests take them.
#pragma once
#include "core/base/files.h"
#include "core/exchange/own_format.h"

namespace underridge::tests {

/// "first-office" or "fennick-quay".
inline model::Network demo(const std::string& name) {
    DiskFiles files;
    const std::string path = UNDERRIDGE_ROOT "/demo/" + name + ".underridge";
    return exchange::readOwn(*files.read(path), path)->network;
}

inline model::Network firstOffice() {
    return demo("first-office");
}

} // namespace underridge::tests
