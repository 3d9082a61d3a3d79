// SPDX-License-Identifier: GPL-3.0-or-later
// Small pictures of sheets, as they are or would be, made by a thread.
#pragma once
#include "app/jobs/worker.h"
#include "core/scene/scene.h"
#include "paint/theme.h"

#include <QImage>
#include <QObject>

namespace underridge::app {

class ScenePictures : public QObject {
    Q_OBJECT
public:
    explicit ScenePictures(QObject* parent = nullptr);

    struct Wanted {
        quint64 key = 0; ///< what the caller knows it by
        /// What is drawn; called in the thread. None: no picture.
        std::function<std::optional<scene::Scene>()> scene;
    };
    /// Makes pictures, in order; what was asked for before and is not made yet is forgotten.
    void make(std::vector<Wanted> wanted, const paint::Theme& theme, QSize pixels);

Q_SIGNALS:
    void made(quint64 key, const QImage& picture);

private:
    struct Order {
        Wanted wanted;
        const paint::Theme* theme = nullptr;
        QSize pixels;
        int generation = 0;
    };
    void draw(const Order& order);

    int generation_ = 0; ///< of the window's thread alone
    Worker<Order> worker_;
};

} // namespace underridge::app
