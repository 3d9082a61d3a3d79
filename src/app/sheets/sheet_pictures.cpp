// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheets/sheet_pictures.h"

#include "core/scene/scene.h"
#include "paint/picture.h"

namespace underridge::app {
using namespace model;
namespace {
constexpr int finer = 4;
} // namespace

SheetPictures::SheetPictures(QObject* parent)
    : QObject(parent), worker_([this](const Order& order) { draw(order); }) {}

void SheetPictures::make(const Network& network, const paint::Theme& theme, QSize pixels) {
    std::vector<Order> orders;
    ++generation_;
    for (const Sheet& sheet : network.sheetsInOrder())
        orders.insert(orders.begin(), {network, sheet.id, &theme, pixels, generation_});
    worker_.change([&](std::vector<Order>& held) { held = std::move(orders); });
}

void SheetPictures::draw(const Order& order) {
    paint::PictureOptions options;
    options.theme = order.theme;
    options.size = order.pixels * finer; // names as small as they are seen then
    const auto bytes =
        paint::pictureBytes(scene::Scene::build(order.network, order.sheet), options, std::string());
    QImage picture;
    if (bytes && picture.loadFromData(*bytes))
        picture = picture.scaled(order.pixels, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    QMetaObject::invokeMethod(
        this,
        [this, sheet = order.sheet, generation = order.generation, picture] {
            if (generation == generation_ && !picture.isNull())
                Q_EMIT made(sheet, picture);
        },
        Qt::QueuedConnection);
}

} // namespace underridge::app
