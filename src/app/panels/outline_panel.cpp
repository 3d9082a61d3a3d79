// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/outline_panel.h"

#include "app/carried.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/edit/devices.h"
#include "core/edit/groups.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"

#include <QDropEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
namespace {

constexpr int idRole = Qt::UserRole, kindRole = Qt::UserRole + 1;
/// Rows of one parent that are shown at once, and how deep groups are followed: nobody
/// reads further, and a file may nest them without end.
constexpr std::size_t mostOpen = 500;
constexpr int mostDeep = 100;

} // namespace

ObjectRef OutlineTree::objectOf(const QTreeWidgetItem* item) {
    if (!item)
        return {};
    return {static_cast<Kind>(item->data(0, kindRole).toInt()), item->data(0, idRole).toULongLong()};
}

void OutlineTree::setObject(QTreeWidgetItem* item, ObjectRef object) {
    item->setData(0, kindRole, static_cast<int>(object.kind));
    item->setData(0, idRole, QVariant::fromValue<qulonglong>(object.id));
}

QMimeData* OutlineTree::mimeData(const QList<QTreeWidgetItem*>& items) const {
    QMimeData* carried = QTreeWidget::mimeData(items);
    std::vector<DeviceId> devices;
    for (const QTreeWidgetItem* item : items)
        if (const ObjectRef object = objectOf(item); object.kind == Kind::device)
            devices.push_back({object.id});
    if (carried && !devices.empty())
        carry(*carried, devices); // onto a sheet, or into a rack
    return carried;
}

void OutlineTree::dropEvent(QDropEvent* event) {
    QTreeWidgetItem* onto = itemAt(event->position().toPoint());
    if (onto && objectOf(onto).kind != Kind::group)
        onto = onto->parent();
    std::vector<ObjectRef> objects;
    for (const QTreeWidgetItem* item : selectedItems())
        objects.push_back(objectOf(item));
    event->setDropAction(Qt::IgnoreAction); // the rows follow the network
    event->accept();
    Q_EMIT dropped(objects, onto ? GroupId{objectOf(onto).id} : GroupId{});
}

void OutlineTree::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Delete && state() != EditingState)
        Q_EMIT removeWanted();
    else
        QTreeWidget::keyPressEvent(event);
}

OutlinePanel::OutlinePanel(Session& session, QWidget* parent)
    : QWidget(parent),
      session_(session),
      search_(new QLineEdit(this)),
      order_(new QComboBox(this)),
      tree_(new OutlineTree(this)),
      empty_(new QLabel(this)) {
    search_->setPlaceholderText(tr("Search devices"));
    search_->setClearButtonEnabled(true);
    search_->setAccessibleName(tr("Search the outline"));
    order_->addItems({tr("By group"), tr("By role")});
    order_->setAccessibleName(tr("Order of the outline"));
    tree_->setHeaderHidden(true);
    tree_->setAccessibleName(tr("Outline"));
    tree_->setFrameShape(QFrame::NoFrame);
    tree_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    tree_->setUniformRowHeights(true);
    tree_->setDragDropMode(QAbstractItemView::InternalMove);
    tree_->setEditTriggers(QAbstractItemView::EditKeyPressed);
    empty_->setWordWrap(true);
    empty_->setAlignment(Qt::AlignTop | Qt::AlignHCenter);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(8, 8, 8, 4);
    layout->addWidget(search_);
    layout->addWidget(order_);
    layout->addWidget(tree_, 1);
    layout->addWidget(empty_, 1);
    connect(search_, &QLineEdit::textChanged, this, &OutlinePanel::fill);
    connect(order_, &QComboBox::currentIndexChanged, this, &OutlinePanel::fill);
    connect(&session_.workspace(), &Workspace::networkChanged, this, [this] {
        if (session_.network().all<Device>() == shown_ && session_.network().all<Group>() == groups_)
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
            if (const ObjectRef object = OutlineTree::objectOf(item); object.id)
                picked.push_back(object);
        busy_ = true;
        session_.select(std::move(picked));
        busy_ = false;
    });
    connect(tree_, &QTreeWidget::itemActivated, this, [this](QTreeWidgetItem* item) {
        if (const ObjectRef object = OutlineTree::objectOf(item); object.id)
            Q_EMIT activated(object);
    });
    connect(tree_, &QTreeWidget::itemCollapsed, this, [this](QTreeWidgetItem* item) {
        if (!busy_)
            folded_.insert(OutlineTree::objectOf(item).id);
    });
    connect(tree_, &QTreeWidget::itemExpanded, this,
            [this](QTreeWidgetItem* item) { folded_.erase(OutlineTree::objectOf(item).id); });
    connect(tree_, &QTreeWidget::itemChanged, this, &OutlinePanel::takeName);
    connect(tree_, &OutlineTree::removeWanted, this, &OutlinePanel::removeWanted);
    connect(tree_, &OutlineTree::dropped, this, [this](const std::vector<ObjectRef>& objects, GroupId group) {
        if (byGroup())
            session_.apply(edit::moveInto(session_.network(), objects, group));
    });
    fill();
}

bool OutlinePanel::byGroup() const {
    return order_->currentIndex() == 0;
}

void OutlinePanel::takeName(QTreeWidgetItem* item) {
    const ObjectRef object = OutlineTree::objectOf(item);
    if (busy_ || !object.id || item->text(0) == session_.nameOf(object))
        return;
    if (!session_.apply(edit::rename(session_.network(), {object}, {item->text(0).trimmed().toStdString()})))
        fill(); // as it was
}

void OutlinePanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    if (stale_)
        fill();
}

void OutlinePanel::fill() {
    stale_ = false;
    const Network& network = session_.network();
    shown_ = network.all<Device>();
    groups_ = network.all<Group>();
    busy_ = true;
    tree_->clear();
    rows_.clear();
    const std::string query = search_->text().toStdString();
    byGroup() ? fillByGroup(query) : fillByRole(query);
    const bool any = tree_->topLevelItemCount() > 0;
    tree_->setVisible(any);
    empty_->setVisible(!any);
    empty_->setText(query.empty() ? tr("No devices yet. Press A on the sheet to add some.")
                                  : tr("No device matches “%1”.").arg(search_->text()));
    busy_ = false;
    follow();
}

QTreeWidgetItem* OutlinePanel::addRow(QTreeWidgetItem* parent, ObjectRef object, const QString& words) {
    auto* item = new QTreeWidgetItem(parent, {words});
    OutlineTree::setObject(item, object);
    item->setFlags(item->flags() | Qt::ItemIsEditable);
    rows_[object] = item;
    return item;
}

void OutlinePanel::fillByRole(const std::string& query) {
    std::map<Role, std::vector<const Device*>> byRole;
    session_.network().all<Device>().forEach([&](const Device& device) {
        if (matchesWords(device.name, query))
            byRole[roleOf(session_.network(), device)].push_back(&device);
    });
    for (auto& [role, devices] : byRole) {
        std::sort(devices.begin(), devices.end(),
                  [](const Device* a, const Device* b) { return naturalLess(a->name, b->name); });
        auto* heading = new QTreeWidgetItem(
            tree_, {QStringLiteral("%1 (%2)").arg(shownText(pluralOf(role))).arg(devices.size())});
        heading->setFlags(Qt::ItemIsEnabled);
        for (const Device* device : devices)
            addRow(heading, refTo(device->id), shownText(device->name));
        heading->setExpanded(devices.size() <= mostOpen);
    }
}

void OutlinePanel::fillByGroup(const std::string& query) {
    addGroup(tree_->invisibleRootItem(), {}, query, 0);
}

void OutlinePanel::addGroup(QTreeWidgetItem* parent, GroupId id, const std::string& query, int depth) {
    const Network& network = session_.network();
    std::vector<const Group*> groups;
    std::vector<const Device*> devices;
    network.forEachIn(id, [&](ObjectRef member) {
        if (const Group* group = network.group({member.id}))
            groups.push_back(group);
        else if (const Device* device = network.device({member.id}); matchesWords(device->name, query))
            devices.push_back(device);
    });
    const auto byName = [](const auto* a, const auto* b) { return naturalLess(a->name, b->name); };
    std::sort(groups.begin(), groups.end(), byName);
    std::sort(devices.begin(), devices.end(), byName);
    for (const Group* group : groups) {
        QTreeWidgetItem* row = addRow(parent, refTo(group->id), shownText(group->name));
        QFont font = row->font(0);
        font.setBold(true);
        row->setFont(0, font);
        if (depth < mostDeep)
            addGroup(row, group->id, query, depth + 1);
        if (!query.empty() && row->childCount() == 0 && !matchesWords(group->name, query)) {
            rows_.erase(refTo(group->id));
            delete row; // nothing in it matches
            continue;
        }
        row->setExpanded(!query.empty() || !folded_.contains(group->id.value));
    }
    for (const Device* device : devices)
        addRow(parent, refTo(device->id), shownText(device->name));
}

QTreeWidgetItem* OutlinePanel::rowOf(ObjectRef object) const {
    const auto at = rows_.find(object);
    return at == rows_.end() ? nullptr : at->second;
}

void OutlinePanel::follow() {
    if (busy_ || !isVisible())
        return;
    busy_ = true;
    tree_->clearSelection();
    for (const ObjectRef ref : session_.selection())
        if (QTreeWidgetItem* row = rowOf(ref))
            row->setSelected(true);
    busy_ = false;
}

} // namespace underridge::app
