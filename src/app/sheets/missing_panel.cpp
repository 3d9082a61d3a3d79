// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheets/missing_panel.h"

#include "app/carried.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/model/ports.h"
#include "core/scene/counts.h"

#include <QDrag>
#include <QHBoxLayout>
#include <QMimeData>
#include <QTimer>

namespace underridge::app {
using namespace model;
namespace {

/// More are counted, not listed.
constexpr std::size_t mostListed = 5'000;
constexpr int idRole = Qt::UserRole;

/// Its drag carries devices.
class DeviceList : public QListWidget {
public:
    using QListWidget::QListWidget;

protected:
    void startDrag(Qt::DropActions) override {
        std::vector<DeviceId> devices;
        for (const QListWidgetItem* item : selectedItems())
            devices.push_back({item->data(idRole).toULongLong()});
        if (devices.empty())
            return;
        auto* drag = new QDrag(this);
        drag->setMimeData(carrying(devices));
        drag->exec(Qt::CopyAction);
    }
};

} // namespace

MissingPanel::MissingPanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      says_(plainLabel()),
      list_(new DeviceList),
      some_(new QPushButton(tr("Put on this sheet"))),
      all_(new QPushButton(tr("Put all"))) {
    setObjectName(QStringLiteral("missing"));
    list_->setAccessibleName(tr("Not on this sheet"));
    list_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    list_->setDragEnabled(true);
    list_->setFlow(QListView::LeftToRight);
    list_->setWrapping(true);
    list_->setResizeMode(QListView::Adjust);
    list_->setUniformItemSizes(false);
    list_->setSpacing(2);
    says_->setWordWrap(false);
    auto* top = new QHBoxLayout;
    top->addWidget(says_, 1);
    top->addWidget(some_);
    top->addWidget(all_);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(8, 8, 8, 8);
    column->addLayout(top);
    column->addWidget(list_, 1);
    connect(some_, &QPushButton::clicked, this, [this] { Q_EMIT putWanted(chosen()); });
    connect(all_, &QPushButton::clicked, this, [this] {
        if (waiting_)
            refresh(); // all there are by now
        Q_EMIT putWanted(devices_);
    });
    connect(list_, &QListWidget::itemActivated, this, [this] { Q_EMIT putWanted(chosen()); });
    connect(list_, &QListWidget::itemSelectionChanged, this,
            [this] { some_->setEnabled(!list_->selectedItems().isEmpty()); });
    connect(&session_.sheets(), &SheetSession::sceneChanged, this, &MissingPanel::later);
    connect(&session_.workspace(), &Workspace::networkChanged, this, &MissingPanel::later);
    waiting_ = true; // as soon as it is shown
}

std::vector<DeviceId> MissingPanel::chosen() const {
    std::vector<DeviceId> out;
    for (const QListWidgetItem* item : list_->selectedItems())
        out.push_back({item->data(idRole).toULongLong()});
    return out;
}

/// Several changes in a row are looked at once, and only while it can be seen.
void MissingPanel::later() {
    if (!std::exchange(waiting_, true))
        QTimer::singleShot(0, this, [this] {
            if (isVisible())
                refresh();
        });
}

void MissingPanel::showEvent(QShowEvent* event) {
    if (waiting_)
        refresh();
    QWidget::showEvent(event);
}

void MissingPanel::refresh() {
    waiting_ = false;
    const Network& network = session_.network();
    auto now = scene::missingOn(network, session_.scene());
    std::stable_sort(now.begin(), now.end(), [&](DeviceId a, DeviceId b) {
        return naturalLess(network.device(a)->name, network.device(b)->name);
    });
    devices_ = std::move(now);
    list_->clear();
    for (std::size_t i = 0; i < devices_.size() && i < mostListed; ++i) {
        const Device& device = *network.device(devices_[i]);
        auto* item =
            new QListWidgetItem(QStringLiteral("%1 · %2").arg(shownText(device.name),
                                                              shownText(titleOf(roleOf(network, device)))),
                                list_);
        item->setData(idRole, QVariant::fromValue<qulonglong>(device.id.value));
    }
    says_->setText(devices_.empty() ? tr("Everything that belongs on this sheet is on it.")
                                    : tr("%Ln device(s) of the network wait here. Drag them onto the sheet.",
                                         nullptr, count()));
    some_->setEnabled(false);
    all_->setEnabled(!devices_.empty());
    Q_EMIT countChanged(count());
}

} // namespace underridge::app
