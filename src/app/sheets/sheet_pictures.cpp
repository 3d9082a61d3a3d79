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
    : QObject(parent), worker_([this](const std::stop_token& stop) { work(stop); }) {}

SheetPictures::~SheetPictures() {
    worker_.request_stop();
    wake_.notify_all();
    worker_.join(); // before anything it uses goes
}

void SheetPictures::make(const Network& network, const paint::Theme& theme, QSize pixels) {
    std::vector<Order> orders;
    ++generation_;
    for (const Sheet& sheet : network.sheetsInOrder())
        orders.insert(orders.begin(), {network, sheet.id, &theme, pixels, generation_});
    const std::lock_guard lock(mutex_);
    orders_ = std::move(orders);
    wake_.notify_one();
}

void SheetPictures::work(const std::stop_token& stop) {
    for (;;) {
        Order order;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [this] { return !orders_.empty(); }))
                return;
            order = std::move(orders_.back());
            orders_.pop_back();
        }
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
}

} // namespace underridge::app
