// SPDX-License-Identifier: GPL-3.0-or-later
// Models to choose from: search first, then by role. Drag one onto the sheet, or choose
// it and click.
#pragma once
#include "core/model/catalogue.h"
#include "paint/theme.h"

#include <QHash>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPixmap>
#include <QWidget>

namespace underridge::app {

class CataloguePanel : public QWidget {
    Q_OBJECT
public:
    explicit CataloguePanel(const model::Catalogue& catalogue, QWidget* parent = nullptr);

    /// Also fills the list for the first time.
    void setTheme(const paint::Theme& theme);
    /// The catalogue has changed.
    void refill() { fill(); }
    QLineEdit& search() { return *search_; }
    QListWidget& list() { return *list_; }
    void clearChoice();

Q_SIGNALS:
    /// To be put down by clicking.
    void chosen(const underridge::model::DeviceModel& model);

private:
    void fill();
    QPixmap picture(const QString& id);

    const model::Catalogue& catalogue_;
    const paint::Theme* theme_ = &paint::lightTheme();
    QLineEdit* search_;
    QListWidget* list_;
    QLabel* none_;
    QHash<QString, QPixmap> pictures_; ///< by model id
};

/// A small drawing of a model's plate.
QPixmap smallPlate(const model::DeviceModel& model, const paint::Theme& theme, double pixelRatio);

} // namespace underridge::app
