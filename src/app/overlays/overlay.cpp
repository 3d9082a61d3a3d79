// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/overlays/overlay.h"

#include "app/shown_text.h"
#include "core/model/ports.h"

#include <QStringList>

namespace underridge::app {
using namespace model;

void Overlays::put(std::shared_ptr<const Overlay> overlay) {
    std::erase_if(shown_, [&](const auto& held) { return held->id() == overlay->id(); });
    shown_.push_back(std::move(overlay));
    Q_EMIT changed();
}

void Overlays::remove(const QString& id) {
    if (std::erase_if(shown_, [&](const auto& held) { return held->id() == id; }) > 0)
        Q_EMIT changed();
}

QStringList Overlays::wordsOn(ObjectRef object) const {
    QStringList out;
    for (const auto& overlay : shown_)
        if (const auto at = overlay->marks().find(object); at != overlay->marks().end())
            out << at->second.words;
    return out;
}

ChainOverlay::ChainOverlay(const Network& network, const linking::Chain& chain) {
    const QString ends =
        QObject::tr("%1 to %2")
            .arg(shownText(portText(network, chain.a)), shownText(portText(network, chain.b)));
    legend_ = QObject::tr("Chain: %1").arg(ends);
    for (const linking::Stretch& stretch : chain.stretches)
        marks_[refTo(stretch.link)] = {0.26F, QObject::tr("on the chain %1").arg(ends), {}};
}

} // namespace underridge::app
