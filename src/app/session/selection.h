// SPDX-License-Identifier: GPL-3.0-or-later
// What the person has selected, in the order it was, and the port whose details are
// shown.
#pragma once
#include "core/edit/act.h"

#include <QObject>

namespace underridge::app {

class Selection : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;

    const edit::Refs& objects() const { return objects_; }
    std::vector<model::DeviceId> devices() const;
    bool contains(model::ObjectRef object) const;
    bool empty() const { return objects_.empty(); }
    /// Known when a port of the one selected device is chosen.
    const model::PortRef& port() const { return port_; }

    void select(edit::Refs objects);
    void toggle(model::ObjectRef object);
    void selectPort(const model::PortRef& port);

    /// After an edit: these, without what is gone. The port stays while its device does.
    /// Tells nobody.
    void follow(const model::Network& network, edit::Refs objects);
    void tell() { Q_EMIT changed(); }

Q_SIGNALS:
    void changed();

private:
    edit::Refs objects_;
    model::PortRef port_;
};

} // namespace underridge::app
