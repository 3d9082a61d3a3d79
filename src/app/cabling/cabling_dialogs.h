// SPDX-License-Identifier: GPL-3.0-or-later
// The dialogs about cabling, and what comes of them.
#pragma once
#include "app/desk.h"

namespace underridge::app {

class CablingDialogs {
public:
    explicit CablingDialogs(const Desk& desk) : desk_(desk) {}

    /// Links the selected devices many to many.
    void linkMany();
    void labelCables();
    void setLengths();
    void editPlaces();
    void editStock();

private:
    template <class Kind>
    void ask(std::function<void(Kind&)> accepted = {});
    /// An act about the selection, which stays selected.
    void apply(edit::ActResult act);

    Desk desk_;
};

} // namespace underridge::app
