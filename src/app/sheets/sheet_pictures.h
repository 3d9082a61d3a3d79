// SPDX-License-Identifier: GPL-3.0-or-later
// Small pictures of sheets, made by a thread.
#pragma once
#include "app/jobs/worker.h"
#include "core/model/network.h"
#include "paint/theme.h"

#include <QImage>
#include <QObject>

namespace underridge::app {

class SheetPictures : public QObject {
    Q_OBJECT
public:
    explicit SheetPictures(QObject* parent = nullptr);

    /// Makes pictures of all sheets of a network, in order; what was asked for before and is
    /// not made yet is forgotten.
    void make(const model::Network& network, const paint::Theme& theme, QSize pixels);

Q_SIGNALS:
    void made(underridge::model::SheetId sheet, const QImage& picture);

private:
    struct Order {
        model::Network network;
        model::SheetId sheet;
        const paint::Theme* theme = nullptr;
        QSize pixels;
        int generation = 0;
    };
    void draw(const Order& order);

    int generation_ = 0; ///< of the window's thread alone
    Worker<Order> worker_;
};

} // namespace underridge::app
