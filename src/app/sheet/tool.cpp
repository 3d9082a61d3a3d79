// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/tool.h"

#include "app/session/session.h"
#include "app/sheet/surface.h"

namespace underridge::app {

std::shared_ptr<const scene::Scene> Tool::seen() const {
    return session_.scene().seenAt(surface().camera().zoom());
}

} // namespace underridge::app
