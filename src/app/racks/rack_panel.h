// SPDX-License-Identifier: GPL-3.0-or-later
// Racks as one stands before them: devices are moved from unit to unit, put in from the
// catalogue and the list of what is missing, and refused with the reason where there is no
// room.
#pragma once
#include "core/scene/rack.h"
#include "paint/theme.h"

#include <QComboBox>
#include <QLabel>
#include <QScrollArea>

namespace underridge::app {

class Session;

/// The elevation itself.
class RackView : public QWidget {
    Q_OBJECT
public:
    explicit RackView(Session& session, QWidget* parent = nullptr);

    void setTheme(const paint::Theme& theme);
    void show(model::GroupId rack);
    model::GroupId rack() const { return picture_ ? picture_->rack : model::GroupId{}; }
    const std::optional<scene::RackPicture>& picture() const { return picture_; }
    /// Follows the network.
    void refresh();

Q_SIGNALS:
    void said(const QString& words);
    void goTo(const std::vector<underridge::model::ObjectRef>& subjects);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void move(const model::Mounted& wanted);
    std::optional<model::Mounted> wantedAt(QPointF point) const;
    std::optional<model::Mounted> selected() const;

    Session& session_;
    const paint::Theme* theme_;
    std::optional<scene::RackPicture> picture_;
    std::optional<model::Mounted> held_; ///< being dragged
    int grabbed_ = 0;                    ///< units above its lowest it was taken at
    QPointF at_, pressed_;
};

class RackPanel : public QWidget {
    Q_OBJECT
public:
    explicit RackPanel(Session& session, QWidget* parent = nullptr);

    QComboBox& choice() { return *choice_; }
    RackView& view() { return *view_; }
    QString says() const { return says_->text(); }
    void setTheme(const paint::Theme& theme) { view_->setTheme(theme); }

Q_SIGNALS:
    void goTo(const std::vector<underridge::model::ObjectRef>& subjects);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void say();

    Session& session_;
    std::vector<model::GroupId> racks_;
    QComboBox* choice_;
    QLabel *says_, *hint_;
    QScrollArea* area_;
    RackView* view_;
};

} // namespace underridge::app
