// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/carried.h"

#include <QMimeData>

namespace underridge::app {
using namespace model;
namespace {
/// Ids, one a line.
const QString mimeType = QStringLiteral("application/x-underridge-devices");
} // namespace

QMimeData* carrying(const std::vector<DeviceId>& devices) {
    auto* data = new QMimeData;
    carry(*data, devices);
    return data;
}

void carry(QMimeData& data, const std::vector<DeviceId>& devices) {
    QByteArray ids;
    for (const DeviceId id : devices)
        ids += QByteArray::number(static_cast<qulonglong>(id.value)) + '\n';
    data.setData(mimeType, ids);
}

bool carriesDevices(const QMimeData& data) {
    return data.hasFormat(mimeType);
}

std::vector<DeviceId> carriedDevices(const QMimeData& data, const Network& network) {
    std::vector<DeviceId> out;
    const QByteArray ids = data.data(mimeType);
    for (const QByteArray& id : ids.split('\n'))
        if (const DeviceId device{id.toULongLong()}; network.device(device))
            out.push_back(device);
    return out;
}

} // namespace underridge::app
