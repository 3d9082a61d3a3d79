// SPDX-License-Identifier: GPL-3.0-or-later
// What can be laid over a network, and making it.
#pragma once
#include "core/analysis/forwarding.h"
#include "core/linking/rules.h"
#include "paint/overlays/overlay.h"

namespace underridge::paint {

/// By its key (core/scene/overlay_keys.h), and as a choice says it.
struct OverlayChoice {
    QString key;
    QString text;
};
/// All that need nothing typed. `selected`: of a device or link among them what hangs on it.
std::vector<OverlayChoice> overlayChoices(const model::Network& network,
                                          const model::ObjectRef& selected = {});

/// The overlay of a key; null when it is none. VLANs and subnets need not be in the network.
std::shared_ptr<const Overlay> overlayOf(const QString& key, const analysis::Forwarding& forwarding,
                                         const std::vector<linking::Finding>& findings);

} // namespace underridge::paint
