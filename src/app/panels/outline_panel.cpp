// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/outline_panel.h"

#include "app/carried.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/edit/devices.h"
#include "core/edit/groups.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/words.h"

#include <QDrag>
#include <QDropEvent>
#include <QKeyEvent>
#include <QMimeData>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
namespace {

constexpr int idRole = Qt::UserRole, kindRole = Qt::UserRole + 1, madeRole = Qt::UserRole + 2;
/// Rows of one parent that are shown at once, and how deep groups are followed: nobody
/// reads further, and a file may nest them without end.
constexpr std::size_t mostOpen = 500;
constexpr int mostDeep = 100;
/// Of more devices only the top is open at first.
constexpr std::size_t mostOutlineRows = 2'000;

ObjectRef headingOf(Role role) {
    return {Kind::unknown, static_cast<std::uint64_t>(role) + 1};
}

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

/// Whoever takes what is dragged, and however: the rows follow the network, none is taken
/// away here.
void OutlineTree::startDrag(Qt::DropActions supported) {
    QMimeData* carried = mimeData(selectedItems());
    if (!carried)
        return;
    auto* drag = new QDrag(this);
    drag->setMimeData(carried);
    drag->exec(supported, Qt::MoveAction);
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
    order_->addItems({tr("By group"), tr("By role"), tr("By sheet"), tr("By what hangs on what")});
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
        if (!saysSomethingElse())
            return;
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
        const ObjectRef object = OutlineTree::objectOf(item);
        if (object.kind == Kind::sheet)
            session_.showSheet({object.id});
        else if (object.kind != Kind::unknown)
            Q_EMIT activated(object);
    });
    connect(tree_, &QTreeWidget::itemCollapsed, this, [this](QTreeWidgetItem* item) {
        if (!busy_)
            open_[OutlineTree::objectOf(item)] = false;
    });
    connect(tree_, &QTreeWidget::itemExpanded, this, [this](QTreeWidgetItem* item) {
        if (busy_)
            return;
        open_[OutlineTree::objectOf(item)] = true;
        busy_ = true;
        populate(item, 0);
        busy_ = false;
        follow();
    });
    connect(tree_, &QTreeWidget::itemChanged, this, &OutlinePanel::takeName);
    connect(tree_, &OutlineTree::removeWanted, this, &OutlinePanel::removeWanted);
    connect(tree_, &OutlineTree::dropped, this, [this](const std::vector<ObjectRef>& objects, GroupId group) {
        if (order() == Order::groups)
            session_.apply(edit::moveInto(session_.network(), objects, group));
    });
    fill();
}

/// Moves and links change no row, but where rows go by them.
bool OutlinePanel::saysSomethingElse() const {
    const Network& now = session_.network();
    const bool sameNames =
        now.all<Device>() == shown_.all<Device>() && now.all<Group>() == shown_.all<Group>();
    const bool byLinks = order() == Order::uplinks, bySheets = order() == Order::sheets;
    return !sameNames || (byLinks && !(now.all<Link>() == shown_.all<Link>())) ||
           (bySheets &&
            !(now.all<Sheet>() == shown_.all<Sheet>() && now.all<Position>() == shown_.all<Position>()));
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
    shown_ = network;
    busy_ = true;
    tree_->clear();
    rows_.clear();
    wanted_.clear();
    query_ = search_->text().toStdString();
    uplinks_ = order() == Order::uplinks ? uplinksOf(network) : UplinkTree{};
    below_.clear();
    for (const auto& [device, on] : uplinks_.above)
        below_[on.value].push_back({device});
    if (!query_.empty())
        findWanted();
    tree_->invisibleRootItem()->setData(0, madeRole, false);
    populate(tree_->invisibleRootItem(), 0);
    const bool any = tree_->topLevelItemCount() > 0;
    tree_->setVisible(any);
    empty_->setVisible(!any);
    empty_->setText(query_.empty() ? tr("No devices yet. Press A on the sheet to add some.")
                                   : tr("No device matches “%1”.").arg(search_->text()));
    busy_ = false;
    follow();
}

OutlinePanel::Order OutlinePanel::order() const {
    return static_cast<Order>(order_->currentIndex());
}

/// What an object's row lies in; nothing: at the top. Headings are objects too.
ObjectRef OutlinePanel::above(ObjectRef object) const {
    const Network& network = session_.network();
    const Device* device = object.kind == Kind::device ? network.device({object.id}) : nullptr;
    if (const Group* group = object.kind == Kind::group ? network.group({object.id}) : nullptr)
        return network.group(group->parent) ? refTo(group->parent) : ObjectRef{};
    if (!device)
        return {};
    switch (order()) {
    case Order::groups:
        return network.group(device->group) ? refTo(device->group) : ObjectRef{};
    case Order::roles:
        return headingOf(roleOf(network, *device));
    case Order::sheets:
        for (const Sheet& sheet : network.sheetsInOrder())
            if (network.position(sheet.id, object.id))
                return {Kind::sheet, sheet.id.value};
        return {};
    case Order::uplinks:
        const DeviceId on = uplinks_.aboveOf(device->id);
        return on ? refTo(on) : ObjectRef{};
    }
    return {};
}

/// What is searched for, and what it lies in.
void OutlinePanel::findWanted() {
    const Network& network = session_.network();
    const auto want = [&](ObjectRef object) {
        for (int depth = 0; object.id && depth < mostDeep && wanted_.insert(object).second; ++depth)
            object = above(object);
    };
    network.all<Device>().forEach([&](const Device& device) {
        if (!matchesWords(device.name, query_))
            return;
        want(refTo(device.id));
        if (order() == Order::sheets) // on each of them
            for (const Sheet& sheet : network.sheetsInOrder())
                if (network.position(sheet.id, device.id.value))
                    wanted_.insert({Kind::sheet, sheet.id.value});
    });
    if (order() == Order::groups)
        network.all<Group>().forEach([&](const Group& group) {
            if (matchesWords(group.name, query_))
                want(refTo(group.id));
        });
}

/// What lies in a row, headings and groups first, each by name.
std::vector<OutlinePanel::Row> OutlinePanel::within(ObjectRef parent) const {
    const Network& network = session_.network();
    std::vector<Row> headings, devices;
    const auto addDevice = [&](const Device& device) {
        const auto on = below_.find(device.id.value);
        devices.push_back({refTo(device.id), device.name, on != below_.end()});
    };
    const auto addAll = [&](const std::vector<DeviceId>& ids) {
        for (const DeviceId id : ids)
            addDevice(*network.device(id));
    };
    switch (order()) {
    case Order::groups:
        network.forEachIn({parent.id}, [&](ObjectRef member) {
            if (const Group* group = network.group({member.id}))
                headings.push_back({member, group->name, true});
            else if (const Device* device = network.device({member.id}))
                addDevice(*device);
        });
        break;
    case Order::roles:
        if (parent.id) {
            network.all<Device>().forEach([&](const Device& device) {
                if (headingOf(roleOf(network, device)) == parent)
                    addDevice(device);
            });
        } else {
            std::map<Role, int> counts;
            network.all<Device>().forEach([&](const Device& device) {
                if (isWanted(refTo(device.id)))
                    ++counts[roleOf(network, device)];
            });
            for (const auto& [role, count] : counts)
                headings.push_back({headingOf(role),
                                    std::string(pluralOf(role)) + " (" + std::to_string(count) + ")", true});
            return headings; // in the order of roles
        }
        break;
    case Order::sheets:
        if (parent.id) {
            network.all<Position>().forEachIn(parent.id, [&](const Position& position) {
                if (const Device* device = network.device({position.object}))
                    addDevice(*device);
            });
        } else {
            for (const Sheet& sheet : network.sheetsInOrder())
                if (const ObjectRef heading{Kind::sheet, sheet.id.value}; isWanted(heading))
                    headings.push_back({heading, sheet.name, true});
            return headings; // in the order of sheets
        }
        break;
    case Order::uplinks:
        if (!parent.id)
            addAll(uplinks_.roots);
        else if (const auto on = below_.find(parent.id); on != below_.end())
            addAll(on->second);
        break;
    }
    const auto byName = [](const Row& a, const Row& b) { return naturalLess(a.words, b.words); };
    for (auto* rows : {&headings, &devices}) {
        std::erase_if(*rows, [&](const Row& row) { return !isWanted(row.object); });
        std::sort(rows->begin(), rows->end(), byName);
    }
    headings.insert(headings.end(), devices.begin(), devices.end());
    return headings;
}

bool OutlinePanel::isWanted(ObjectRef object) const {
    return query_.empty() || wanted_.contains(object);
}

/// Rows are made when what they lie in is opened first.
void OutlinePanel::populate(QTreeWidgetItem* parent, int depth) {
    if (parent->data(0, madeRole).toBool())
        return;
    parent->setData(0, madeRole, true);
    const auto rows = within(OutlineTree::objectOf(parent));
    const bool large = session_.network().all<Device>().size() > mostOutlineRows;
    for (const Row& row : rows) {
        auto* item = new QTreeWidgetItem(parent, {shownText(row.words)});
        OutlineTree::setObject(item, row.object);
        rows_.try_emplace(row.object, item);
        const bool heading = row.object.kind != Kind::device && row.object.kind != Kind::group;
        item->setFlags(heading ? Qt::ItemIsEnabled : item->flags() | Qt::ItemIsEditable);
        if (row.object.kind == Kind::group) {
            QFont font = item->font(0);
            font.setBold(true);
            item->setFont(0, font);
        }
        if (!row.holds || depth >= mostDeep)
            continue;
        item->setChildIndicatorPolicy(QTreeWidgetItem::ShowIndicator);
        const auto chosen = open_.find(row.object);
        const bool opens = !query_.empty() || (chosen != open_.end() ? chosen->second : !large);
        if (!opens)
            continue;
        populate(item, depth + 1);
        if (chosen != open_.end() || !query_.empty() ||
            static_cast<std::size_t>(item->childCount()) <= mostOpen)
            item->setExpanded(true);
    }
}

QTreeWidgetItem* OutlinePanel::rowOf(ObjectRef object) {
    if (const auto at = rows_.find(object); at != rows_.end())
        return at->second;
    std::vector<ObjectRef> path{object};
    while (path.size() < mostDeep && path.back().id && !rows_.contains(path.back()))
        path.push_back(above(path.back()));
    for (auto at = path.rbegin(); at != path.rend(); ++at) {
        const auto held = rows_.find(*at);
        if (held != rows_.end())
            populate(held->second, 0);
    }
    const auto at = rows_.find(object);
    return at == rows_.end() ? nullptr : at->second;
}

void OutlinePanel::follow() {
    if (busy_ || !isVisible())
        return;
    busy_ = true;
    tree_->clearSelection();
    constexpr std::size_t mostLookedFor = 200; // of more only those whose rows are there
    const bool few = session_.selection().size() <= mostLookedFor;
    for (const ObjectRef ref : session_.selection()) {
        const auto held = rows_.find(ref);
        if (QTreeWidgetItem* row = held != rows_.end() ? held->second : few ? rowOf(ref) : nullptr)
            row->setSelected(true);
    }
    busy_ = false;
}

} // namespace underridge::app
