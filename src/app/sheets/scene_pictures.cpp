// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheets/scene_pictures.h"

#include "paint/picture.h"

namespace underridge::app {
namespace {
constexpr int finer = 4;
} // namespace

ScenePictures::ScenePictures(QObject* parent)
    : QObject(parent), worker_([this](const Order& order) { draw(order); }) {}

void ScenePictures::make(std::vector<Wanted> wanted, const paint::Theme& theme, QSize pixels) {
    std::vector<Order> orders;
    ++generation_;
    for (Wanted& each : wanted)
        orders.insert(orders.begin(), {std::move(each), &theme, pixels, generation_});
    worker_.change([&](std::vector<Order>& held) { held = std::move(orders); });
}

void ScenePictures::draw(const Order& order) {
    paint::PictureOptions options;
    options.theme = order.theme;
    options.size = order.pixels * finer; // names as small as they are seen then
    const auto scene = order.wanted.scene();
    if (!scene)
        return;
    const auto bytes = paint::pictureBytes(*scene, options, std::string());
    QImage picture;
    if (bytes && picture.loadFromData(*bytes))
        picture = picture.scaled(order.pixels, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    QMetaObject::invokeMethod(
        this,
        [this, key = order.wanted.key, generation = order.generation, picture] {
            if (generation == generation_ && !picture.isNull())
                Q_EMIT made(key, picture);
        },
        Qt::QueuedConnection);
}

} // namespace underridge::app
