// SPDX-License-Identifier: GPL-3.0-or-later
// The modules, transceivers and additional ports that go into the devices whose
// faceplates are shown: to be dragged onto a face, or put in by a double click.
#pragma once
#include "core/model/network.h"

#include <QTreeWidget>

namespace underridge::app {

class Workspace;

class PartsList : public QTreeWidget {
    Q_OBJECT
public:
    explicit PartsList(Workspace& workspace, QWidget* parent);
    /// Shows what goes into these; hides itself when nothing does.
    void setDevices(const std::vector<model::DeviceId>& devices);

Q_SIGNALS:
    /// A part is to be put into a device: "module:ID", "transceiver:ID" or "port:KEY".
    void wanted(underridge::model::DeviceId device, const QString& part);

protected:
    void startDrag(Qt::DropActions actions) override;

private:
    struct Part {
        QString name;
        QString what; ///< as wanted() says it
        QString tip;
    };
    void addModules(const model::Device& device, std::vector<Part>& parts) const;
    void addTransceivers(const model::Device& device, std::vector<Part>& parts) const;
    void list(const model::Device& device, const std::vector<Part>& parts, const QString& current);

    Workspace& workspace_;
};

} // namespace underridge::app
