// SPDX-License-Identifier: GPL-3.0-or-later
// The port drawer: a device's ports beside its plate while linking, those that fit first.
#pragma once
#include "app/style/pieces.h"
#include "core/linking/best.h"

#include <QLabel>
#include <QTreeWidget>

namespace underridge::app {

class PortDrawer : public FloatingBox {
    Q_OBJECT
public:
    explicit PortDrawer(QWidget* parent);

    /// Shows rows for a device. `from` says where the link comes from.
    void open(const QString& device, const QString& from, std::vector<linking::DrawerRow> rows);
    /// Puts itself into `view` so that it covers none of `plates`.
    void placeBeside(const QRectF& plate, const std::vector<QRectF>& plates, const QRect& view);
    QTreeWidget& list() { return *list_; }

Q_SIGNALS:
    void chosen(const underridge::linking::DrawerRow& row);
    void closed();

protected:
    void keyPressEvent(QKeyEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void choose(int row);

    QLabel* title_;
    QTreeWidget* list_;
    std::vector<linking::DrawerRow> rows_;
};

} // namespace underridge::app
