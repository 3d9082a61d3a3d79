// SPDX-License-Identifier: GPL-3.0-or-later
// One register as rows and columns of texts, sorted and filtered.
#pragma once
#include "core/edit/registers.h"
#include "core/find/matching.h"

#include <QAbstractTableModel>
#include <QPixmap>

namespace underridge::app {

class Workspace;

class RegisterModel : public QAbstractTableModel {
    Q_OBJECT
public:
    explicit RegisterModel(Workspace& workspace, QObject* parent = nullptr);

    edit::Register which() const { return which_; }
    void setRegister(edit::Register which);
    /// Keeps the rows in which every word occurs in some column, or what a filter finds.
    /// Nothing is left out by a filter that cannot be read.
    void setFilter(const QString& words);
    /// What is wrong with the filter; empty: nothing.
    const QString& wrong() const { return wrong_; }
    /// Takes over the network as it is now.
    void refresh();
    std::size_t allRows() const { return rows_.size(); }

    const edit::Row& rowAt(int row) const {
        return rows_[static_cast<std::size_t>(shown_[static_cast<std::size_t>(row)])];
    }
    /// The cells an edit of `index` goes to besides itself: the selection, set by the
    /// panel.
    void setAlsoEdited(QModelIndexList cells) { also_ = std::move(cells); }
    std::string text(int row, int column) const;

    int rowCount(const QModelIndex& parent = {}) const override;
    int columnCount(const QModelIndex& parent = {}) const override;
    QVariant data(const QModelIndex& index, int role) const override;
    QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;
    void sort(int column, Qt::SortOrder order) override;

private:
    void arrange();
    /// Where in its subnet addresses are used, from the first to the last.
    QPixmap useStrip(const QModelIndex& index) const;
    int vrfColumn() const;
    /// Which rows the filter leaves.
    std::vector<int> kept();
    bool matches(const find::Matcher& matcher, const edit::Row& row) const;
    /// All texts of a row in small letters, made when first asked for.
    const std::string& rowText(int row);
    /// Of subnets, where a cell costs a look at every interface, each is made once.
    QVariant cell(const QModelIndex& index, int role) const;

    Workspace& workspace_;
    edit::Register which_ = edit::Register::devices;
    std::vector<edit::Row> rows_;
    std::vector<int> shown_; ///< indices of rows_
    std::vector<std::string> texts_;
    mutable std::map<std::tuple<int, int, int>, QVariant> cells_; ///< row, column, role: as they are shown
    std::string filter_;                                          ///< in small letters
    QString wrong_;
    int sortColumn_ = -1; ///< none: the order of names
    Qt::SortOrder order_ = Qt::AscendingOrder;
    QModelIndexList also_;
};

} // namespace underridge::app
