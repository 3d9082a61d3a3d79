// SPDX-License-Identifier: GPL-3.0-or-later
// Tables of groups, of what is drawn, and the indices, compiled once.
#include "core/model/network.h"
#include "core/model/table_impl.h"

namespace underridge::model {

template class Table<Group>;
template class Table<Vlan>;
template class Table<Subnet>;
template class Table<Service>;
template class Table<Sheet>;
template class Table<Position>;
template class Table<Note>;
template class Table<CableRoute>;
template class Table<Statement>;
template class Table<Ring>;
template class Table<SetAside>;
template class Table<Asset>;
template class Table<UnknownRecord>;
template class Table<Belongs>;

} // namespace underridge::model
