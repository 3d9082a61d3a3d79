// SPDX-License-Identifier: GPL-3.0-or-later
// Devices of the network carried by a drag from one part of the window to another.
#pragma once
#include "core/model/network.h"

class QMimeData;

namespace underridge::app {

/// The data of such a drag; belongs to the caller.
QMimeData* carrying(const std::vector<model::DeviceId>& devices);
/// Adds them to what a drag carries already.
void carry(QMimeData& data, const std::vector<model::DeviceId>& devices);
bool carriesDevices(const QMimeData& data);
/// Those of them that are in the network still.
std::vector<model::DeviceId> carriedDevices(const QMimeData& data, const model::Network& network);

} // namespace underridge::app
