// SPDX-License-Identifier: GPL-3.0-or-later
// Moving what is selected by arrow keys. Many objects are moved by a thread; steps asked for
// meanwhile are one more when it is done, so that a key that is held never holds up the window.
#pragma once
#include "app/session/session.h"

#include <QWidget>

namespace underridge::app {

class Nudging {
public:
    Nudging(Session& session, QWidget& surface) : session_(session), surface_(surface) {}

    void step(const edit::Refs& movable, model::Point by);
    /// Steps that are still to come are not wanted any more.
    void forget() { owed_ = {}; }

private:
    Session& session_;
    QWidget& surface_;
    edit::Refs moving_;   ///< by a thread; none: nothing is
    edit::Refs selected_; ///< when that began
    model::Point owed_;   ///< by which it is to move further then
};

} // namespace underridge::app
