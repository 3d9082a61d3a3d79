// SPDX-License-Identifier: GPL-3.0-or-later
// Tables of devices and what joins them, compiled once.
#include "core/model/network.h"
#include "core/model/table_impl.h"

namespace underridge::model {

template class Table<Device>;
template class Table<Port>;
template class Table<Interface>;
template class Table<Route>;
template class Table<PanelMap>;
template class Table<Cable>;
template class Table<Link>;

} // namespace underridge::model
