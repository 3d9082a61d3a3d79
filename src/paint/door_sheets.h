// SPDX-License-Identifier: GPL-3.0-or-later
// Door sheets on paper: of each rack its elevation and a table, of each panel a table.
#pragma once
#include "core/edit/door_sheets.h"

#include <QByteArray>

namespace underridge::paint {

/// A PDF on A4. A table that is longer than its page goes on on the next one, with its
/// heads. `name` stands at the foot of each page.
QByteArray doorSheetsPdf(const model::Network& network, const std::vector<edit::DoorSheet>& sheets,
                         const std::string& name);

} // namespace underridge::paint
