// SPDX-License-Identifier: GPL-3.0-or-later
// What a person does with sheets by command: new ones, taking things off, removing one.
#pragma once
#include "app/desk.h"

#include <QCoreApplication>

namespace underridge::app {

class SheetActs {
    Q_DECLARE_TR_FUNCTIONS(SheetActs)
public:
    explicit SheetActs(const Desk& desk) : desk_(desk) {}

    /// What a new sheet draws at first.
    enum class With { nothing, all, group, selection, racks, dataLink, network };
    /// Adds a sheet and shows it.
    void add(With what);
    /// Takes what is selected off the sheet; it stays in the network.
    void takeOff();
    /// Asks first: what is drawn on it alone goes, the network stays.
    void remove(model::SheetId sheet);

    bool canTakeOff() const;
    bool canRemove() const;

private:
    edit::ActResult made(With what, const std::string& name) const;

    Desk desk_;
};

} // namespace underridge::app
