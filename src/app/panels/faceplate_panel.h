// SPDX-License-Identifier: GPL-3.0-or-later
// Faceplates of the selection: the ports as they are on the device. Two devices stand face to face, to be
// linked port by port or range by range.
#pragma once
#include "core/model/ports.h"
#include "paint/faceplate.h"

#include <QBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>

namespace underridge::app {

class Editor;

/// One device's face. Ports are chosen with the mouse or the keyboard, a range with Shift.
class FaceView : public QWidget {
    Q_OBJECT
public:
    FaceView(Editor& editor, QWidget* parent);

    void setDevice(model::DeviceId device);
    model::DeviceId device() const { return device_; }
    void setTheme(const paint::Theme& theme);
    /// In the order of the device.
    std::vector<model::PortRef> chosen() const;
    void choose(const std::vector<std::string>& keys);
    const paint::Face& face() const { return face_; }
    /// Where a port's socket is, in this widget.
    QPoint middleOf(const std::string& port) const;
    QSize sizeHint() const override;

Q_SIGNALS:
    void chosenChanged();
    void hinted(const QString& hint);
    /// A port is dragged: at a point of the screen; `done` when it is let go.
    void dragged(const underridge::model::PortRef& port, QPoint global, bool begins, bool done);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void focusInEvent(QFocusEvent* event) override;

private:
    paint::PortLook lookOf(const paint::FacePort& port) const;
    QPointF onFace(QPointF point) const;
    void tell(int index);
    void chooseUpTo(int index, Qt::KeyboardModifiers modifiers);

    Editor& editor_;
    const paint::Theme* theme_;
    model::DeviceId device_;
    paint::Face face_;
    std::vector<bool> chosen_;
    int current_ = -1, anchor_ = -1, hovered_ = -1;
    QPoint pressedAt_;
    bool pressing_ = false, dragging_ = false;
};

class FaceplatePanel : public QWidget {
    Q_OBJECT
public:
    explicit FaceplatePanel(Editor& editor, QWidget* parent = nullptr);

    FaceView& first() { return *faces_[0]; }
    FaceView& second() { return *faces_[1]; }
    bool faceToFace() const { return faces_[1]->device().value != 0; }
    QPushButton& link() { return *link_; }
    QPushButton& unlink() { return *unlink_; }
    void setTheme(const paint::Theme& theme);
    /// Links the chosen ports of both faces, in order; one of the second begins a range as long as the
    /// first's.
    void linkChosen();
    void unlinkChosen();

Q_SIGNALS:
    void dragged(const underridge::model::PortRef& port, QPoint global, bool begins, bool done);
    void hinted(const QString& hint);

protected:
    void showEvent(QShowEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void refresh();
    void refreshButtons();
    /// Beside each other where there is room, else one above the other.
    void arrange();
    std::vector<std::pair<model::PortRef, model::PortRef>> pairs() const;

    Editor& editor_;
    FaceView* faces_[2];
    QLabel *titles_[2], *empty_;
    QScrollArea* area_;
    QBoxLayout* both_;
    QPushButton *link_, *unlink_;
};

} // namespace underridge::app
