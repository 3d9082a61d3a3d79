// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/overlays/overlays.h"

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

} // namespace underridge::app
