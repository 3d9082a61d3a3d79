// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/register_model.h"

#include "app/find/filter_field.h"
#include "app/session/workspace.h"
#include "app/shown_text.h"
#include "core/analysis/subnet_use.h"

#include <QGuiApplication>
#include <QPainter>
#include <charconv>
#include <numeric>

namespace underridge::app {
using namespace model;
namespace {

double numberIn(const std::string& text) {
    double value = -1;
    std::from_chars(text.data(), text.data() + text.size(), value);
    return value;
}

} // namespace

RegisterModel::RegisterModel(Workspace& workspace, QObject* parent)
    : QAbstractTableModel(parent), workspace_(workspace) {}

void RegisterModel::setRegister(edit::Register which) {
    beginResetModel();
    which_ = which;
    sortColumn_ = -1;
    rows_ = edit::rowsOf(workspace_.network(), which_);
    texts_.clear();
    arrange();
    endResetModel();
}

void RegisterModel::refresh() {
    auto rows = edit::rowsOf(workspace_.network(), which_);
    if (rows == rows_ && filter_.empty() && sortColumn_ < 0) {
        texts_.clear();
        cells_.clear();
        if (!shown_.empty())
            Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
        return;
    }
    beginResetModel();
    rows_ = std::move(rows);
    texts_.clear(); // what a filter looks at may have changed
    arrange();
    endResetModel();
}

void RegisterModel::setFilter(const QString& words) {
    beginResetModel();
    filter_ = lowered(words.toStdString());
    arrange();
    endResetModel();
}

const std::string& RegisterModel::rowText(int row) {
    if (texts_.size() != rows_.size())
        texts_.assign(rows_.size(), {});
    std::string& text = texts_[static_cast<std::size_t>(row)];
    if (text.empty())
        for (std::size_t column = 0; column < edit::columnsOf(which_).size(); ++column)
            text += lowered(edit::cellText(workspace_.network(), which_, rows_[static_cast<std::size_t>(row)],
                                           column, workspace_.lengthUnit())) +
                    '\t';
    return text;
}

bool RegisterModel::matches(const find::Matcher& matcher, const edit::Row& row) const {
    const model::Network& network = workspace_.network();
    switch (which_) {
    case edit::Register::devices: {
        const model::Device* device = network.device({row.object.id});
        return device && matcher.matches(*device);
    }
    case edit::Register::ports:
        return matcher.matches(model::PortRef{{row.object.id}, row.port});
    case edit::Register::links: {
        const model::Link* link = network.link({row.object.id});
        return link && matcher.matches(*link);
    }
    case edit::Register::cables: {
        const model::Cable* cable = network.cable({row.object.id});
        return cable && matcher.matches(*cable);
    }
    case edit::Register::interfaces:
    case edit::Register::routes:
    case edit::Register::filterRules: {
        const model::Device* device = network.device({row.object.id});
        return device && matcher.matches(*device);
    }
    case edit::Register::vlans: {
        const model::Vlan* vlan = network.vlan({row.object.id});
        return vlan && matcher.matches(*vlan);
    }
    case edit::Register::subnets: {
        const auto* subnet = network.find<model::Subnet>({row.object.id, 0});
        const model::Vlan* vlan = subnet ? network.vlan(subnet->vlan) : nullptr;
        return vlan && matcher.matches(*vlan);
    }
    case edit::Register::rings: {
        const auto* ring = network.find<model::Ring>({row.object.id, 0});
        return ring && std::any_of(ring->links.begin(), ring->links.end(), [&](model::LinkId id) {
                   const model::Link* link = network.link(id);
                   return link && matcher.matches(*link);
               });
    }
    case edit::Register::cableRoutes: { // as their floor is found
        const model::CableRoute* route = network.cableRoute({row.object.id});
        const model::Group* floor = route ? network.group(route->floor) : nullptr;
        return floor && matcher.matches(*floor);
    }
    case edit::Register::racks: {
        const model::Group* rack = network.group({row.object.id});
        return rack && matcher.matches(*rack);
    }
    }
    return false;
}

std::vector<int> RegisterModel::kept() {
    wrong_.clear();
    std::vector<int> out;
    const bool language = find::looksLikeFilter(filter_);
    const auto filter = find::Filter::parse(language ? filter_ : std::string());
    if (!filter)
        wrong_ = wrongFilter(filter.refusal());
    std::optional<find::Matcher> matcher;
    if (filter)
        matcher.emplace(workspace_.network(), *filter, workspace_.findings().get());
    for (int row = 0; row < static_cast<int>(rows_.size()); ++row)
        if (!filter || (language ? matches(*matcher, rows_[static_cast<std::size_t>(row)])
                                 : filter_.empty() || matchesWords(rowText(row), filter_)))
            out.push_back(row);
    return out;
}

void RegisterModel::arrange() {
    cells_.clear();
    also_.clear(); // rows are others now
    if (texts_.size() != rows_.size() || filter_.empty())
        texts_.clear();
    shown_ = kept();
    if (sortColumn_ < 0)
        return;
    const auto column = static_cast<std::size_t>(sortColumn_);
    std::vector<std::string> keys(rows_.size());
    for (const int row : shown_)
        keys[static_cast<std::size_t>(row)] =
            edit::cellText(workspace_.network(), which_, rows_[static_cast<std::size_t>(row)], column,
                           workspace_.lengthUnit());
    const bool number = edit::columnsOf(which_)[column].number;
    const auto less = [&](int x, int y) {
        const std::string &a = keys[static_cast<std::size_t>(x)], &b = keys[static_cast<std::size_t>(y)];
        return number ? numberIn(a) < numberIn(b) : naturalLess(a, b);
    };
    std::stable_sort(shown_.begin(), shown_.end(),
                     [&](int x, int y) { return order_ == Qt::AscendingOrder ? less(x, y) : less(y, x); });
}

void RegisterModel::sort(int column, Qt::SortOrder order) {
    beginResetModel();
    sortColumn_ = column;
    order_ = order;
    arrange();
    endResetModel();
}

int RegisterModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(shown_.size());
}

int RegisterModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(edit::columnsOf(which_).size());
}

std::string RegisterModel::text(int row, int column) const {
    return edit::cellText(workspace_.network(), which_, rowAt(row), static_cast<std::size_t>(column),
                          workspace_.lengthUnit());
}

QVariant RegisterModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount())
        return {};
    if (role == Qt::DisplayRole || role == Qt::EditRole || role == Qt::DecorationRole)
        return cell(index, role == Qt::EditRole ? Qt::DisplayRole : role);

    if (role == Qt::TextAlignmentRole &&
        edit::columnsOf(which_)[static_cast<std::size_t>(index.column())].number)
        return QVariant(Qt::AlignRight | Qt::AlignVCenter);
    return {};
}

QVariant RegisterModel::cell(const QModelIndex& index, int role) const {
    const auto made = [&]() -> QVariant {
        if (role == Qt::DisplayRole)
            return QString::fromStdString(text(index.row(), index.column()));
        const auto& column = edit::columnsOf(which_)[static_cast<std::size_t>(index.column())];
        return which_ == edit::Register::subnets && column.key == "used" ? QVariant(useStrip(index))
                                                                         : QVariant();
    };
    if (which_ != edit::Register::subnets)
        return made();
    const auto [at, first] = cells_.try_emplace({index.row(), index.column(), role});
    if (first)
        at->second = made();
    return at->second;
}

QPixmap RegisterModel::useStrip(const QModelIndex& index) const {
    constexpr int parts = 64, height = 10;
    const auto use = analysis::useOf(workspace_.network(), Address(text(index.row(), 0)),
                                     text(index.row(), vrfColumn()), parts);
    QPixmap strip(parts + 2, height);
    const QPalette palette = QGuiApplication::palette();
    strip.fill(palette.color(QPalette::Mid));
    QPainter painter(&strip);
    painter.fillRect(1, 1, parts, height - 2, palette.color(QPalette::Base));
    for (int i = 0; i < static_cast<int>(use.filled.size()); ++i)
        if (const double filled = use.filled[static_cast<std::size_t>(i)]; filled > 0) {
            QColor colour = palette.color(QPalette::Highlight);
            colour.setAlphaF(static_cast<float>(0.35 + 0.65 * filled)); // one address is seen too
            painter.fillRect(1 + i, 1, 1, height - 2, colour);
        }
    return strip;
}

int RegisterModel::vrfColumn() const {
    const auto columns = edit::columnsOf(which_);
    const auto at = std::find_if(columns.begin(), columns.end(),
                                 [](const edit::Column& each) { return each.key == "vrf"; });
    return static_cast<int>(at - columns.begin());
}

QVariant RegisterModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole)
        return {};
    if (orientation == Qt::Vertical)
        return section + 1;
    return shownText(edit::columnsOf(which_)[static_cast<std::size_t>(section)].title);
}

Qt::ItemFlags RegisterModel::flags(const QModelIndex& index) const {
    Qt::ItemFlags flags = QAbstractTableModel::flags(index);
    if (index.isValid() && edit::columnsOf(which_)[static_cast<std::size_t>(index.column())].editable)
        flags |= Qt::ItemIsEditable;
    return flags;
}

bool RegisterModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || !index.isValid())
        return false;
    const std::string typed = value.toString().toStdString();
    std::vector<edit::CellChange> changes;
    if (also_.contains(index)) // one text for all that is selected in this column
        for (const QModelIndex& cell : also_)
            if (cell.column() == index.column())
                changes.push_back({rowAt(cell.row()), static_cast<std::size_t>(cell.column()), typed});
    if (changes.size() < 2 && typed == text(index.row(), index.column()))
        return false;
    if (changes.empty())
        changes.push_back({rowAt(index.row()), static_cast<std::size_t>(index.column()), typed});
    return workspace_.apply(edit::setCells(workspace_.network(), workspace_.catalogue(), which_, changes,
                                           workspace_.lengthUnit(), workspace_.ids()));
}

} // namespace underridge::app
