// SPDX-License-Identifier: GPL-3.0-or-later
// Goes on scrolling while something is dragged near the edge of the sheet or beyond it,
// the faster the nearer.
#pragma once
#include <QObject>
#include <QPointF>
#include <QSize>
#include <QTimer>

namespace underridge::app {

class EdgeScroll : public QObject {
    Q_OBJECT
public:
    explicit EdgeScroll(QObject* parent = nullptr);
    /// The pointer is here while something is dragged over a sheet of this size, in
    /// pixels.
    void follow(QPointF at, QSize sheet);
    /// The drag has ended.
    void stop() { timer_.stop(); }

    /// Pixels a step, for a pointer at this place: none where it is far from the edges.
    static QPointF speedAt(QPointF at, QSize sheet);

Q_SIGNALS:
    /// Every 16 ms: the view is to go this many pixels to the right and down.
    void step(QPointF by);

private:
    QTimer timer_;
    QPointF by_;
};

} // namespace underridge::app
