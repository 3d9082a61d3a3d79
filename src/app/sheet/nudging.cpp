// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/nudging.h"

namespace underridge::app {
using namespace model;

void Nudging::step(const edit::Refs& movable, Point by) {
    const edit::MergeKey merge{"move by arrow keys", movable};
    const auto act = [now = session_.network(), look = session_.look(), movable, by] {
        return edit::moveObjects(now, look, movable, by);
    };
    if (movable.size() <= Session::mostAtOnce) {
        session_.apply(act(), merge);
        return;
    }
    if (moving_ == movable && session_.workspace().isUnsettled()) {
        owed_ = owed_ + by;
        return;
    }
    moving_ = movable;
    selected_ = session_.selection();
    owed_ = {};
    session_.applyLater(
        act,
        [this] {
            const edit::Refs moved = std::exchange(moving_, {});
            const Point rest = std::exchange(owed_, {});
            if (rest != Point{} && session_.selection() == selected_)
                QMetaObject::invokeMethod(
                    &surface_, [this, moved, rest] { step(moved, rest); }, Qt::QueuedConnection);
        },
        merge);
}

} // namespace underridge::app
