// SPDX-License-Identifier: GPL-3.0-or-later
// Overlays that are chosen by a key and say something of the whole network.
#pragma once
#include "paint/overlays/overlay.h"

namespace underridge::paint {

/// How strongly objects are marked.
inline constexpr float strongHalo = 0.34F, weakHalo = 0.14F;

class NetworkOverlay : public Overlay {
public:
    /// Its key, as core/scene/overlay_keys.h writes it.
    QString id() const override { return key_; }
    QString legend() const override { return legend_; }
    void setKey(const QString& key) { key_ = key; }

protected:
    QString key_, legend_;
};

} // namespace underridge::paint
