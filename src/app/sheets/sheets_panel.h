// SPDX-License-Identifier: GPL-3.0-or-later
// The sheets of the network as a list with pictures: shown by a click, put in order by
// dragging, renamed in place; devices are dropped on a sheet to be drawn there too.
#pragma once
#include "app/sheets/scene_pictures.h"

#include <QListWidget>
#include <QPushButton>
#include <QTimer>

namespace underridge::app {

class Session;

/// A list whose rows are put in order, and which takes devices.
class SheetList : public QListWidget {
    Q_OBJECT
public:
    using QListWidget::QListWidget;
    static model::SheetId sheetOf(const QListWidgetItem* item);
    bool isEditing() const { return state() == EditingState; }

Q_SIGNALS:
    void devicesDropped(const QMimeData* data, underridge::model::SheetId sheet);
    /// A row was dropped so that it comes to stand there.
    void moved(underridge::model::SheetId sheet, int row);
    void removeWanted(underridge::model::SheetId sheet);

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
};

class SheetsPanel : public QWidget {
    Q_OBJECT
public:
    explicit SheetsPanel(Session& session, QWidget* parent = nullptr);

    void setTheme(const paint::Theme& theme);
    SheetList& list() { return *list_; }
    QPushButton& newSheet() { return *new_; }
    /// Devices dragged on the sheet were let go over a row: they are put on that sheet.
    /// Whether there is such a row.
    bool drop(QPoint global, const std::vector<model::DeviceId>& devices);

Q_SIGNALS:
    void newWanted();
    void removeWanted(underridge::model::SheetId sheet);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void later();
    void takeName(QListWidgetItem* item);
    void putOn(model::SheetId sheet, const std::vector<model::DeviceId>& devices);
    void move(model::SheetId sheet, int row);

    Session& session_;
    SheetList* list_;
    QPushButton* new_;
    const paint::Theme* theme_;
    ScenePictures pictures_;
    QTimer rest_; ///< pictures are made when nothing has changed for a while
    bool stale_ = true, busy_ = false;
};

} // namespace underridge::app
