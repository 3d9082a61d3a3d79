// SPDX-License-Identifier: GPL-3.0-or-later
// One device's faceplate: its ports and slots as they are on it.
#pragma once
#include "core/model/ports.h"
#include "paint/faceplate.h"

#include <QWidget>

namespace underridge::app {

class Workspace;

/// The MIME type of a part dragged onto a face: "module:ID", "transceiver:ID" or
/// "port:KEY".
inline constexpr const char* partMime = "application/x-underridge-part";

/// One device's face. Ports are chosen with the mouse or the keyboard, a range with
/// Shift.
class FaceView : public QWidget {
    Q_OBJECT
public:
    FaceView(Workspace& workspace, QWidget* parent);

    void setDevice(model::DeviceId device);
    model::DeviceId device() const { return device_; }
    void setTheme(const paint::Theme& theme);
    /// In the order of the device.
    std::vector<model::PortRef> chosen() const;
    void choose(const std::vector<std::string>& keys);
    const scene::Face& face() const { return face_; }
    /// Where a port's socket is, in this widget.
    QPoint middleOf(const std::string& port) const;
    QSize sizeHint() const override;

    /// The slot that is chosen; empty: none.
    std::string chosenSlot() const;
    void chooseSlot(const std::string& key);
    /// Where a slot is, in this widget.
    QPoint middleOfSlot(const std::string& slot) const;

Q_SIGNALS:
    void chosenChanged();
    /// A part is dropped on a port or a slot; the other is empty.
    void dropped(const QString& part, const std::string& port, const std::string& slot);
    /// The menu of what is chosen is wanted.
    void menuWanted(QPoint global);
    /// What is chosen is to be taken out.
    void removeWanted();
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
    void contextMenuEvent(QContextMenuEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dragMoveEvent(QDragMoveEvent* event) override;
    void dragLeaveEvent(QDragLeaveEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    paint::PortLook lookOf(const scene::FacePort& port) const;
    scene::PointF onFace(QPointF point) const;
    void tell(int index);
    void chooseUpTo(int index, Qt::KeyboardModifiers modifiers);
    /// What a part would go into at a point; both -1: nothing.
    struct Target {
        int port = -1, slot = -1;
    };
    Target targetAt(QPointF point, const QString& part) const;

    Workspace& workspace_;
    const paint::Theme* theme_;
    model::DeviceId device_;
    scene::Face face_;
    std::vector<bool> chosen_;
    int current_ = -1, anchor_ = -1, hovered_ = -1, slot_ = -1;
    Target target_; ///< of a drag that is over it
    QPoint pressedAt_;
    bool pressing_ = false, dragging_ = false;
};

} // namespace underridge::app
