// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/outline_panel.h"

#include "app/session/session.h"
#include "core/model/ports.h"

#include <QVBoxLayout>
#include <map>
#include <set>

namespace underridge::app {
using namespace model;

OutlinePanel::OutlinePanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      search_(new QLineEdit(this)),
      tree_(new QTreeWidget(this)),
      empty_(new QLabel(this)) {
    search_->setPlaceholderText(tr("Search devices"));
    search_->setClearButtonEnabled(true);
    search_->setAccessibleName(tr("Search the outline"));
    tree_->setHeaderHidden(true);
    tree_->setAccessibleName(tr("Outline"));
    tree_->setFrameShape(QFrame::NoFrame);
    tree_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    tree_->setUniformRowHeights(true);
    empty_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignTop | Qt::AlignHCenter);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 4);
    layout->addWidget(search_);
    layout->addWidget(tree_, 1);
    layout->addWidget(empty_, 1);
    connect(search_, &QLineEdit::textChanged, this, &OutlinePanel::fill);
    connect(&session_.workspace(), &Workspace::networkChanged, this, [this] {
        if (session_.network().all<Device>() == shown_)
            return; // moves and links change no device
        stale_ = true;
        if (isVisible())
            fill();
    });
    connect(&session_.selected(), &Selection::changed, this, &OutlinePanel::follow);
    connect(tree_, &QTreeWidget::itemSelectionChanged, this, [this] {
        if (busy_)
            return;
        edit::Refs picked;
        for (const QTreeWidgetItem* item : tree_->selectedItems())
            if (const quint64 id = item->data(0, Qt::UserRole).toULongLong())
                picked.push_back(refTo(DeviceId{id}));
        busy_ = true;
        session_.select(std::move(picked));
        busy_ = false;
    });
    connect(tree_, &QTreeWidget::itemActivated, this, [this](QTreeWidgetItem* item) {
        if (const quint64 id = item->data(0, Qt::UserRole).toULongLong())
            Q_EMIT activated(refTo(DeviceId{id}));
    });
    fill();
}

void OutlinePanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (stale_)
        fill();
}

void OutlinePanel::fill() {
    stale_ = false;
    shown_ = session_.network().all<Device>();
    busy_ = true;
    tree_->clear();
    const std::string query = search_->text().toStdString();
    std::map<Role, std::vector<const Device*>> byRole;
    session_.network().all<Device>().forEach([&](const Device& device) {
        if (matchesWords(device.name, query))
            byRole[roleOf(session_.network(), device)].push_back(&device);
    });
    for (auto& [role, devices] : byRole) {
        std::sort(devices.begin(), devices.end(),
                  [](const Device* a, const Device* b) { return naturalLess(a->name, b->name); });
        auto* heading = new QTreeWidgetItem(
            tree_,
            {QStringLiteral("%1 (%2)").arg(QString::fromUtf8(pluralOf(role).data())).arg(devices.size())});
        heading->setFlags(Qt::ItemIsEnabled);
        for (const Device* device : devices) {
            auto* item = new QTreeWidgetItem(heading, {QString::fromStdString(device->name)});
            item->setData(0, Qt::UserRole, QVariant::fromValue<quint64>(device->id.value));
        }
        heading->setExpanded(devices.size() <= 500);
    }
    tree_->setVisible(!byRole.empty());
    empty_->setVisible(byRole.empty());
    empty_->setText(query.empty() ? tr("No devices yet. Press A on the sheet to add some.")
                                  : tr("No device matches “%1”.").arg(search_->text()));
    busy_ = false;
    follow();
}

void OutlinePanel::follow() {
    if (busy_ || !isVisible())
        return;
    busy_ = true;
    std::set<std::uint64_t> selected;
    for (const ObjectRef ref : session_.selection())
        selected.insert(ref.id);
    for (int i = 0; i < tree_->topLevelItemCount(); ++i)
        for (int j = 0; j < tree_->topLevelItem(i)->childCount(); ++j) {
            QTreeWidgetItem* item = tree_->topLevelItem(i)->child(j);
            item->setSelected(selected.contains(item->data(0, Qt::UserRole).toULongLong()));
        }
    busy_ = false;
}

} // namespace underridge::app
