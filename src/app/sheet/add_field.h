// SPDX-License-Identifier: GPL-3.0-or-later
// Type-to-add: "4 access switch 24 named acc-{1..}", with completion.
#pragma once
#include "app/style/pieces.h"
#include "core/edit/names.h"

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

namespace underridge::app {

class AddField : public FloatingBox {
    Q_OBJECT
public:
    AddField(const model::Catalogue& catalogue, QWidget* parent);

    void open(QPoint at, const QString& purpose);
    QLineEdit& field() { return *field_; }

Q_SIGNALS:
    void accepted(const underridge::edit::Addition& addition);
    void closed();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh();
    void accept();

    const model::Catalogue& catalogue_;
    QLabel *purpose_, *answer_;
    QLineEdit* field_;
    QListWidget* matches_;
};

} // namespace underridge::app
