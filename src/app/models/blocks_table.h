// SPDX-License-Identifier: GPL-3.0-or-later
// The port blocks of a model as rows: keys, block, form, rates, power, side.
#pragma once
#include "core/model/catalogue.h"

#include <QTableWidget>

namespace underridge::app {

class BlocksTable : public QTableWidget {
    Q_OBJECT
public:
    explicit BlocksTable(QWidget* parent = nullptr);

    void show(const std::vector<model::PortBlock>& blocks);
    /// What the rows say; what they do not show is as it was shown.
    std::vector<model::PortBlock> blocks() const;
    void add(const model::PortBlock& block);
    /// Takes the chosen row away, else the last one.
    void removeOne();

Q_SIGNALS:
    /// By the person or by add() and removeOne(), not by show().
    void edited();

private:
    void tell();
    void setRow(int row, const model::PortBlock& block);
    model::PortBlock blockAt(int row) const;

    bool filling_ = false;
};

} // namespace underridge::app
