// SPDX-License-Identifier: GPL-3.0-or-later
// The overlays that are on.
#pragma once
#include "paint/overlays/overlay.h"

#include <QObject>

namespace underridge::app {
using paint::Overlay;

/// In the order they were put on.
class Overlays : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    /// Puts one on, in place of one with the same id.
    void put(std::shared_ptr<const Overlay> overlay);
    void remove(const QString& id);
    const paint::OverlayList& shown() const { return shown_; }
    /// What all that are shown say of an object.
    QStringList wordsOn(model::ObjectRef object) const;

Q_SIGNALS:
    void changed();

private:
    paint::OverlayList shown_;
};

} // namespace underridge::app
