// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/parts_list.h"

#include "app/panels/face_view.h"
#include "app/session/workspace.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/linking/fit.h"
#include "core/linking/supply.h"

#include <QDrag>
#include <QHeaderView>
#include <QMimeData>
#include <QScrollBar>
#include <set>

namespace underridge::app {
using namespace model;
namespace {
constexpr int partRole = Qt::UserRole, deviceRole = Qt::UserRole + 1;
constexpr int listWidth = 230;

} // namespace

PartsList::PartsList(Workspace& workspace, QWidget* parent) : QTreeWidget(parent), workspace_(workspace) {
    setAccessibleName(tr("Parts"));
    setHeaderLabel(tr("Parts to fit"));
    header()->setToolTip(tr("Drag a part into its slot or cage, or choose the place and press Enter"));
    setUniformRowHeights(true);
    setRootIsDecorated(false);
    setIndentation(10);
    setDragEnabled(true);
    setDragDropMode(QAbstractItemView::DragOnly);
    setFixedWidth(listWidth);
    setTextElideMode(Qt::ElideRight);
    connect(this, &QTreeWidget::itemActivated, this, [this](QTreeWidgetItem* item) {
        if (const QString part = item->data(0, partRole).toString(); !part.isEmpty())
            Q_EMIT wanted({item->data(0, deviceRole).toULongLong()}, part);
    });
}

void PartsList::setDevices(const std::vector<DeviceId>& devices) {
    // Each part fitted changes the network: the one chosen stays, so that the next is one
    // key away.
    const QTreeWidgetItem* held = currentItem();
    const QString current = held ? held->data(0, partRole).toString() : QString();
    const int scrolled = verticalScrollBar()->value();
    clear();
    for (const DeviceId id : devices)
        if (const Device* device = workspace_.network().device(id)) {
            std::vector<Part> parts;
            addModules(*device, parts);
            addTransceivers(*device, parts);
            for (const std::string& key : linking::addable(workspace_.network(), *device))
                parts.push_back({tr("Additional port %1").arg(shownText(key)),
                                 QStringLiteral("port:") + shownText(key),
                                 tr("A port its model can have added")});
            list(*device, parts, current);
        }
    verticalScrollBar()->setValue(scrolled);
    setVisible(topLevelItemCount() > 0);
}

void PartsList::list(const Device& device, const std::vector<Part>& parts, const QString& current) {
    if (parts.empty())
        return;
    auto* heading = new QTreeWidgetItem(this, {shownText(device.name)});
    heading->setFlags(Qt::ItemIsEnabled);
    QFont bold = font();
    bold.setBold(true);
    heading->setFont(0, bold);
    heading->setExpanded(true);
    for (const Part& part : parts) {
        auto* item = new QTreeWidgetItem(heading, {part.name});
        item->setData(0, partRole, part.what);
        item->setData(0, deviceRole, QVariant::fromValue<qulonglong>(device.id.value));
        item->setToolTip(0, QStringLiteral("<p>%1</p>").arg(part.tip.toHtmlEscaped()));
        if (!current.isEmpty() && part.what == current)
            setCurrentItem(item);
    }
}

void PartsList::addModules(const Device& device, std::vector<Part>& parts) const {
    const auto slots = linking::slotsOf(workspace_.network(), device);
    std::set<std::string> named;
    for (const linking::SlotView& slot : slots)
        for (const std::string& fits : slot.slot->fits) {
            const ModuleModel* module = workspace_.catalogue().module(fits);
            if (!module || !named.insert(fits).second)
                continue;
            const auto free = std::count_if(slots.begin(), slots.end(), [&](const auto& s) {
                return !s.fitted &&
                       std::find(s.slot->fits.begin(), s.slot->fits.end(), fits) != s.slot->fits.end();
            });
            parts.push_back(
                {shownText(module->name), QStringLiteral("module:") + shownText(fits),
                 tr("Takes one slot; %1 that take it are free; %2")
                     .arg(free)
                     .arg(slot.slot->hotSwap ? tr("hot-swap") : tr("switch the device off first"))});
        }
}

void PartsList::addTransceivers(const Device& device, std::vector<Part>& parts) const {
    const auto ports = portsOf(workspace_.network(), device);
    for (const TransceiverModel& model : workspace_.catalogue().transceivers)
        if (std::any_of(ports.begin(), ports.end(),
                        [&](const PortView& port) { return linking::fitsCage(*port.like, model); }))
            parts.push_back(
                {shownText(model.name), QStringLiteral("transceiver:") + shownText(model.id),
                 tr("%1, %2; hot-swap").arg(shownText(model.phy), shownText(titleOf(model.connector)))});
}

void PartsList::startDrag(Qt::DropActions) {
    const QTreeWidgetItem* item = currentItem();
    const QString part = item ? item->data(0, partRole).toString() : QString();
    if (part.isEmpty())
        return;
    auto* mime = new QMimeData;
    mime->setData(QLatin1String(partMime), part.toUtf8());
    auto* drag = new QDrag(this);
    drag->setMimeData(mime);
    drag->exec(Qt::CopyAction);
}

} // namespace underridge::app
