// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/sheet_counter.h"

namespace underridge::app {
using namespace model;
namespace {
/// So many are counted at once: within a few milliseconds.
constexpr std::size_t mostAtOnce = 300;
} // namespace

SheetCounter::SheetCounter(QObject* parent)
    : QObject(parent), worker_([this](const std::stop_token& stop) { work(stop); }) {}

SheetCounter::~SheetCounter() {
    worker_.request_stop();
    wake_.notify_all();
    worker_.join(); // before anything it uses goes
}

SheetCounter::Shared SheetCounter::countsOf(const Network& network, const scene::Scene& scene) {
    if (network.all<Device>().size() <= mostAtOnce)
        return std::make_shared<const scene::Counts>(scene::countsOf(network, scene));
    const bool sameView = sheet_ == scene.sheet() && entered_ == scene.entered();
    if (sameView && of_ == network)
        return last_;
    if (!sameView)
        last_ = nullptr;
    of_ = network;
    sheet_ = scene.sheet();
    entered_ = scene.entered();
    const std::lock_guard lock(mutex_);
    next_ = Order{network, scene};
    ++asked_;
    wake_.notify_one();
    return last_;
}

void SheetCounter::work(const std::stop_token& stop) {
    for (;;) {
        Order order;
        int number = 0;
        {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [this] { return next_.has_value(); }))
                return;
            order = *std::exchange(next_, std::nullopt);
            number = asked_;
        }
        auto counts = std::make_shared<const scene::Counts>(scene::countsOf(order.network, order.scene));
        QMetaObject::invokeMethod(
            this,
            [this, counts = std::move(counts), number, sheet = order.scene.sheet(),
             entered = order.scene.entered()] {
                if (sheet != sheet_ || entered != entered_ || number < taken_)
                    return; // of something else than is shown now
                taken_ = number;
                last_ = counts;
                Q_EMIT counted();
            },
            Qt::QueuedConnection);
    }
}

} // namespace underridge::app
