// SPDX-License-Identifier: GPL-3.0-or-later
// Small pictures of sheets, made by a thread.
#pragma once
#include "core/model/network.h"
#include "paint/theme.h"

#include <QImage>
#include <QObject>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace underridge::app {

class SheetPictures : public QObject {
    Q_OBJECT
public:
    explicit SheetPictures(QObject* parent = nullptr);
    /// Waits for the picture in hand.
    ~SheetPictures() override;

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
    void work(const std::stop_token& stop);

    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::vector<Order> orders_; ///< the next one last
    int generation_ = 0;        ///< of this thread alone
    std::jthread worker_;       ///< last: it uses the rest
};

} // namespace underridge::app
