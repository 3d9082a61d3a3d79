// SPDX-License-Identifier: GPL-3.0-or-later
// Tables of models, and the network itself, compiled once.
#include "core/model/network.h"
#include "core/model/table_impl.h"

namespace underridge::model {

template class Table<DeviceModel>;
template class Table<ModuleModel>;
template class Table<TransceiverModel>;
template class Table<CableType>;
template class Table<NetworkInfo>;

} // namespace underridge::model
