// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/groups/sort_out_dialog.h"

#include "app/shown_text.h"
#include "app/titles.h"
#include "core/model/ports.h"

#include <map>

namespace underridge::app {
using namespace model;
namespace {
/// Attributes that are offered; an import may bring hundreds.
constexpr std::size_t mostAttributes = 12;
enum Column { named, counted, why };
} // namespace

SortOutDialog::SortOutDialog(const Network& network, std::vector<DeviceId> devices, QWidget* parent)
    : PreviewDialog(QStringLiteral("sortOut"), tr("Sort out"), {tr("Name"), tr("Devices"), tr("Because")},
                    tr("Proposals"), tr("Take these"), parent),
      network_(network),
      devices_(std::move(devices)),
      how_(new QComboBox),
      kind_(new QComboBox) {
    how_->setAccessibleName(tr("From what"));
    kind_->setAccessibleName(tr("Kind of group"));
    kind_->addItems(titlesOf<GroupKind>());
    kind_->setCurrentIndex(static_cast<int>(GroupKind::cluster));
    addWays();
    form().addRow(tr("Propose"), how_);
    form().addRow(tr("Groups of kind"), kind_);
    connect(how_, &QComboBox::currentIndexChanged, this, &SortOutDialog::propose);
    connect(&list(), &QTreeWidget::itemChanged, this, &SortOutDialog::count);
    propose();
}

void SortOutDialog::addWays() {
    const auto add = [this](const QString& words, Way way) {
        how_->addItem(words);
        ways_.push_back(std::move(way));
    };
    const auto roles = edit::proposeRoles(network_, devices_);
    if (!roles.empty())
        add(tr("roles, for %Ln device(s) that have none", nullptr, static_cast<int>(roles.size())),
            {true, {}, {}});
    add(tr("groups by the first part of names"), {false, edit::By::prefix, {}});
    add(tr("groups by subnet"), {false, edit::By::subnet, {}});
    add(tr("groups by VLAN"), {false, edit::By::vlan, {}});
    add(tr("groups by role"), {false, edit::By::role, {}});
    add(tr("groups of endpoints by their switch"), {false, edit::By::uplink, {}});
    auto attributes = edit::attributesOf(network_, devices_);
    attributes.resize(std::min(attributes.size(), mostAttributes));
    for (const auto& [name, count] : attributes)
        add(tr("groups by %1").arg(shownText(name)), {false, edit::By::attribute, name});
}

void SortOutDialog::propose() {
    const QSignalBlocker quiet(list());
    clearRows();
    roles_.clear();
    groups_.clear();
    kind_->setEnabled(!way().roles);
    const auto add = [this](const QString& name, std::size_t count, const std::string& because) {
        QTreeWidgetItem* row =
            addRow({name, QLocale().toString(static_cast<qulonglong>(count)), shownText(because)});
        if (row)
            row->setCheckState(named, Qt::Checked);
        return row;
    };
    if (way().roles) {
        std::map<std::pair<Role, std::string>, std::vector<edit::ProposedRole>> together;
        for (edit::ProposedRole& each : edit::proposeRoles(network_, devices_)) {
            const std::pair key(each.role, each.why);
            together[key].push_back(std::move(each));
        }
        for (auto& [key, those] : together) {
            add(shownText(those.size() == 1 ? network_.device(those.front().device)->name + ": " +
                                                  std::string(titleOf(key.first))
                                            : std::string(pluralOf(key.first))),
                those.size(), key.second);
            roles_.push_back(std::move(those));
        }
    } else {
        groups_ = edit::proposeGroups(network_, devices_, way().by, way().attribute);
        for (const edit::ProposedGroup& group : groups_) {
            QTreeWidgetItem* row = add(shownText(group.name), group.members.size(), group.why);
            if (row)
                row->setFlags(row->flags() | Qt::ItemIsEditable);
        }
    }
    fitColumns();
    count();
}

int SortOutDialog::ticked() const {
    int count = 0;
    for (int i = 0; i < list().topLevelItemCount(); ++i)
        count += list().topLevelItem(i)->checkState(named) == Qt::Checked;
    return count;
}

void SortOutDialog::count() {
    std::size_t devices = 0;
    for (int i = 0; i < list().topLevelItemCount(); ++i)
        if (list().topLevelItem(i)->checkState(named) == Qt::Checked) {
            const auto row = static_cast<std::size_t>(i);
            devices += way().roles ? roles_[row].size() : groups_[row].members.size();
        }
    const int n = static_cast<int>(devices);
    if (list().topLevelItemCount() == 0)
        return sumUp(tr("Nothing known of these %Ln device(s) speaks for that.", nullptr,
                        static_cast<int>(devices_.size())),
                     false);
    sumUp(way().roles
              ? tr("%Ln device(s) get a role. Untick what does not fit.", nullptr, n)
              : tr("%1 get a group of their own: %2. Untick what does not fit; a name can be changed.")
                    .arg(tr("%Ln device(s)", nullptr, n), tr("%Ln group(s)", nullptr, ticked())),
          ticked() > 0);
}

edit::ActResult SortOutDialog::taken(const Network& network, IdSource& ids) const {
    std::vector<edit::ProposedRole> roles;
    std::vector<edit::ProposedGroup> groups;
    QTreeWidget& rows = list();
    for (int i = 0; i < rows.topLevelItemCount(); ++i) {
        if (rows.topLevelItem(i)->checkState(named) != Qt::Checked)
            continue;
        const auto row = static_cast<std::size_t>(i);
        if (way().roles) {
            roles.insert(roles.end(), roles_[row].begin(), roles_[row].end());
            continue;
        }
        groups.push_back(groups_[row]);
        groups.back().name = said(rows.topLevelItem(i)->text(named));
        groups.back().kind = static_cast<GroupKind>(kind_->currentIndex());
    }
    return way().roles ? edit::giveRoles(network, roles) : edit::makeGroups(network, groups, {}, ids);
}

} // namespace underridge::app
