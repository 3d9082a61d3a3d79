// SPDX-License-Identifier: GPL-3.0-or-later
// What a file says that cannot be so, put right: references to what is not there, groups
// in a circle, positions off the sheet. One remark each.
#pragma once
#include "core/base/remark.h"
#include "core/model/network.h"

#include <vector>

namespace underridge::exchange {

/// Takes out what cannot stand without what it refers to (a link without its device), and
/// clears what can (a device without its group). Nothing else is lost.
void mend(model::Network& network, const std::string& file, std::vector<Remark>& remarks);

} // namespace underridge::exchange
