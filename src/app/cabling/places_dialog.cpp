// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/cabling/places_dialog.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/edit/devices.h"
#include "core/edit/objects.h"
#include "core/edit/places.h"
#include "core/edit/sheets.h"
#include "core/model/length.h"
#include "core/model/standing.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
namespace {
constexpr int groupRole = Qt::UserRole, riserRole = Qt::UserRole + 1;

GroupId groupOf(const QTreeWidgetItem* item) {
    return item ? GroupId{item->data(0, groupRole).toULongLong()} : GroupId{};
}

int riserOf(const QTreeWidgetItem* item) {
    return item ? item->data(0, riserRole).toInt() : -1;
}

} // namespace

PlacesDialog::PlacesDialog(Session& session, QWidget* parent)
    : QDialog(parent),
      session_(session),
      list_(new QTreeWidget),
      remark_(errorLabel()),
      add_{new QPushButton(tr("Add building")), new QPushButton(tr("Add floor")),
           new QPushButton(tr("Add rack")), new QPushButton(tr("Add riser"))},
      remove_(new QPushButton(tr("Remove"))) {
    setObjectName(QStringLiteral("places"));
    setWindowTitle(tr("Floors, racks and risers"));
    resize(760, 480);
    for (QPushButton* button : {add_[0], add_[1], add_[2], add_[3], remove_})
        button->setAutoDefault(false);
    auto* words = plainLabel(
        tr("Cable lengths follow from these and from the places of the devices, which their details state. "
           "Distances are from the left and top edge of the floor."));
    list_->setAccessibleName(tr("Places"));
    list_->setHeaderLabels({tr("Name"), tr("Kind"), tr("From the left"), tr("From the top"), tr("Height")});
    list_->setUniformRowHeights(true);
    auto* row = new QHBoxLayout;
    for (QPushButton* each : add_) {
        each->setAutoDefault(false);
        row->addWidget(each);
    }
    remove_->setAutoDefault(false);
    row->addWidget(remove_);
    row->addStretch(1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(words);
    layout->addWidget(list_, 1);
    layout->addWidget(remark_);
    layout->addLayout(row);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QTreeWidget::itemChanged, this, &PlacesDialog::typed);
    connect(list_, &QTreeWidget::currentItemChanged, this, &PlacesDialog::refreshButtons);
    connect(add_[0], &QPushButton::clicked, this, [this] { add(GroupKind::building); });
    connect(add_[1], &QPushButton::clicked, this, [this] { add(GroupKind::floor); });
    connect(add_[2], &QPushButton::clicked, this, [this] { add(GroupKind::rack); });
    connect(add_[3], &QPushButton::clicked, this, &PlacesDialog::addRiser);
    connect(remove_, &QPushButton::clicked, this, &PlacesDialog::removeCurrent);
    refill();
}

QTreeWidgetItem* PlacesDialog::rowOf(GroupId group, int riser) const {
    for (QTreeWidgetItemIterator item(list_); *item; ++item)
        if (groupOf(*item) == group && riserOf(*item) == riser)
            return *item;
    return nullptr;
}

QStringList PlacesDialog::textsOf(GroupId id, int riser) const {
    const Group* group = session_.network().group(id);
    const auto length = [&](std::int64_t mm) { return shownLength(mm, session_.lengthUnit()); };
    if (!group || riser >= static_cast<int>(group->risers.size()))
        return {{}, {}, {}, {}, {}};
    if (riser >= 0) {
        const Riser& each = group->risers[static_cast<std::size_t>(riser)];
        return {shownText(each.name), tr("riser"), length(each.xMm), length(each.yMm), {}};
    }
    const bool rack = isRack(group->type), floor = group->type == GroupKind::floor;
    return {shownText(group->name), shownText(titleOf(group->type)), rack ? length(group->xMm) : QString(),
            rack ? length(group->yMm) : QString(), rack || floor ? length(group->heightMm) : QString()};
}

void PlacesDialog::addGroupRows(QTreeWidgetItem* parent, GroupId id) {
    const Network& network = session_.network();
    const Group& group = *network.group(id);
    const bool rack = isRack(group.type), floor = group.type == GroupKind::floor;
    auto* item = new QTreeWidgetItem(parent, textsOf(id, -1));
    item->setData(0, groupRole, QVariant::fromValue<qulonglong>(id.value));
    item->setData(0, riserRole, -1);
    item->setFlags(item->flags() | Qt::ItemIsEditable);
    item->setToolTip(heightColumn, floor  ? tr("Above the ground")
                                   : rack ? tr("Of its foot above the floor")
                                          : QString());
    item->setExpanded(true);
    for (std::size_t i = 0; i < group.risers.size(); ++i) {
        auto* child = new QTreeWidgetItem(item, textsOf(id, static_cast<int>(i)));
        child->setData(0, groupRole, QVariant::fromValue<qulonglong>(id.value));
        child->setData(0, riserRole, static_cast<int>(i));
        child->setFlags(child->flags() | Qt::ItemIsEditable);
    }
    std::vector<std::pair<std::string, GroupId>> inside;
    network.forEachIn(id, [&](ObjectRef ref) {
        if (const Group* member = network.group({ref.id}))
            inside.emplace_back(member->name, member->id);
    });
    std::sort(inside.begin(), inside.end(),
              [](const auto& x, const auto& y) { return naturalLess(x.first, y.first); });
    for (const auto& [name, member] : inside)
        addGroupRows(item, member);
}

void PlacesDialog::refill(GroupId current, int riser) {
    filling_ = true;
    list_->clear();
    std::vector<std::pair<std::string, GroupId>> top;
    session_.network().all<Group>().forEach([&](const Group& group) {
        if (!session_.network().group(group.parent))
            top.emplace_back(group.name, group.id);
    });
    std::sort(top.begin(), top.end(),
              [](const auto& x, const auto& y) { return naturalLess(x.first, y.first); });
    for (const auto& [name, group] : top)
        addGroupRows(list_->invisibleRootItem(), group);
    list_->expandAll();
    for (int column = 0; column < 4; ++column)
        list_->resizeColumnToContents(column);
    list_->setCurrentItem(rowOf(current, riser));
    filling_ = false;
    refreshButtons();
}

GroupId PlacesDialog::chosen(GroupKind kind) const {
    const Network& network = session_.network();
    const Group* group = network.group(groupOf(list_->currentItem()));
    while (group && group->type != kind)
        group = network.group(group->parent);
    return group ? group->id : GroupId{};
}

void PlacesDialog::refreshButtons() {
    add_[1]->setEnabled(static_cast<bool>(chosen(GroupKind::building)));
    add_[2]->setEnabled(static_cast<bool>(chosen(GroupKind::floor)));
    add_[3]->setEnabled(static_cast<bool>(chosen(GroupKind::building)));
    remove_->setEnabled(list_->currentItem() != nullptr);
}

bool PlacesDialog::take(edit::ActResult act) {
    remark_->setText(act ? QString() : shownText(act.refusal().text()));
    if (!act)
        return false;
    act->subjects = session_.selection();
    session_.apply(std::move(act));
    return true;
}

void PlacesDialog::typed(QTreeWidgetItem* item, int column) {
    if (filling_)
        return;
    takeTyped(groupOf(item), riserOf(item), column, item->text(column).trimmed().toStdString());
    filling_ = true; // what is there now, typed or not
    const QStringList texts = textsOf(groupOf(item), riserOf(item));
    for (int each = 0; each < texts.size(); ++each)
        item->setText(each, texts[each]);
    filling_ = false;
}

void PlacesDialog::takeTyped(GroupId id, int index, int column, const std::string& text) {
    const Network& network = session_.network();
    const Group* group = network.group(id);
    if (!group)
        return;
    const auto mm = parseLength(text, session_.lengthUnit());
    if (column > kindColumn && !mm) {
        remark_->setText(tr("%1 is no length; write it as 12.5 m").arg(shownText(text)));
        return;
    }
    if (index >= 0) {
        auto risers = group->risers;
        Riser& riser = risers[static_cast<std::size_t>(index)];
        if (column == nameColumn)
            riser.name = text;
        else if (column == leftColumn)
            riser.xMm = *mm;
        else if (column == topColumn)
            riser.yMm = *mm;
        take(edit::setRisers(network, id, std::move(risers)));
        return;
    }
    if (column == nameColumn) {
        take(edit::rename(network, {refTo(id)}, {text}));
        return;
    }
    const bool says = isRack(group->type) ? column != kindColumn
                                          : group->type == GroupKind::floor && column == heightColumn;
    if (says)
        take(edit::placeGroup(network, id, column == leftColumn ? *mm : group->xMm,
                              column == topColumn ? *mm : group->yMm,
                              column == heightColumn ? *mm : group->heightMm));
}

void PlacesDialog::add(GroupKind kind) {
    GroupId in;
    QString name = tr("Building");
    if (kind == GroupKind::floor) {
        in = chosen(GroupKind::building);
        name = tr("Floor");
    } else if (kind == GroupKind::rack) {
        in = chosen(GroupKind::room);
        if (!in)
            in = chosen(GroupKind::floor);
        name = tr("Rack");
    } else {
        in = chosen(GroupKind::site);
    }
    auto act = edit::addGroup(session_.network(), name.toStdString(), kind, in, session_.ids());
    const GroupId made = act ? GroupId{act->subjects.front().id} : GroupId{};
    if (!take(std::move(act)))
        return;
    refill(made);
    list_->setFocus();
    list_->editItem(rowOf(made), nameColumn);
}

void PlacesDialog::addRiser() {
    const GroupId building = chosen(GroupKind::building);
    const Group* group = session_.network().group(building);
    if (!group)
        return;
    auto risers = group->risers;
    risers.push_back({tr("Riser %1").arg(risers.size() + 1).toStdString(), 0, 0});
    const int index = static_cast<int>(risers.size()) - 1;
    if (take(edit::setRisers(session_.network(), building, std::move(risers))))
        refill(building, index);
}

void PlacesDialog::removeCurrent() {
    const GroupId id = groupOf(list_->currentItem());
    const Group* group = session_.network().group(id);
    if (!group)
        return;
    if (const int index = riserOf(list_->currentItem()); index >= 0) {
        auto risers = group->risers;
        risers.erase(risers.begin() + index);
        take(edit::setRisers(session_.network(), id, std::move(risers)));
    } else {
        take(edit::removeObjects(session_.network(), {{Kind::group, id.value}})); // its members move up
    }
    refill();
}

} // namespace underridge::app
