// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/sheet_counter.h"

namespace underridge::app {
using namespace model;
namespace {
/// So many are counted at once: within a few milliseconds.
constexpr std::size_t mostAtOnce = 300;
} // namespace

SheetCounter::SheetCounter(QObject* parent)
    : QObject(parent), worker_([this](const Order& order) { count(order); }) {}

SheetCounter::View SheetCounter::viewOf(const scene::Scene& scene) {
    return {scene.sheet(), scene.entered(), scene.filtered()};
}

SheetCounter::Shared SheetCounter::countsOf(const Network& network, const scene::Scene& scene) {
    if (network.all<Device>().size() <= mostAtOnce)
        return std::make_shared<const scene::Counts>(scene::countsOf(network, scene));
    const View view = viewOf(scene);
    if (view_ == view && of_ == network)
        return last_;
    if (view_.sheet != view.sheet || view_.entered != view.entered)
        last_ = nullptr;
    of_ = network;
    view_ = view;
    worker_.change([&](std::vector<Order>& held) { held = {{network, scene}}; });
    return last_;
}

void SheetCounter::count(const Order& order) {
    auto counts = std::make_shared<const scene::Counts>(scene::countsOf(order.network, order.scene));
    QMetaObject::invokeMethod(
        this,
        [this, counts = std::move(counts), view = viewOf(order.scene)] {
            if (view.sheet != view_.sheet || view.entered != view_.entered)
                return; // of something else than is shown now
            last_ = counts;
            Q_EMIT counted();
        },
        Qt::QueuedConnection);
}

} // namespace underridge::app
