// SPDX-License-Identifier: GPL-3.0-or-later
#include "paint/overlays/overlay.h"

#include "core/model/ports.h"
#include "paint/qt_text.h"

#include <QObject>

namespace underridge::paint {
using namespace model;

ChainOverlay::ChainOverlay(const Network& network, const linking::Chain& chain) {
    const QString ends =
        QObject::tr("%1 to %2")
            .arg(shownText(portText(network, chain.a)), shownText(portText(network, chain.b)));
    legend_ = QObject::tr("Chain: %1").arg(ends);
    for (const linking::Stretch& stretch : chain.stretches)
        marks_[refTo(stretch.link)] = {0.26F, QObject::tr("on the chain %1").arg(ends), {}};
}

} // namespace underridge::paint
