// SPDX-License-Identifier: GPL-3.0-or-later
// Counts what is on a sheet: at once where there is little, else by a thread, so that no edit
// waits for it.
#pragma once
#include "core/scene/counts.h"

#include <QObject>
#include <condition_variable>
#include <mutex>
#include <thread>

namespace underridge::app {

class SheetCounter : public QObject {
    Q_OBJECT
public:
    explicit SheetCounter(QObject* parent = nullptr);
    /// Waits for the count in hand.
    ~SheetCounter() override;

    using Shared = std::shared_ptr<const scene::Counts>;
    /// What is on the sheet, or as it was counted last while it is counted anew; null while
    /// there is nothing yet. `counted` tells when it is known better.
    Shared countsOf(const model::Network& network, const scene::Scene& scene);

Q_SIGNALS:
    void counted();

private:
    struct Order {
        model::Network network;
        scene::Scene scene;
    };
    void work(const std::stop_token& stop);

    Shared last_;
    model::Network of_; ///< what was asked for last
    model::SheetId sheet_;
    model::GroupId entered_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::optional<Order> next_;
    int asked_ = 0, taken_ = 0; ///< under the mutex; which order is the latest
    std::jthread worker_;       ///< last: it uses the rest
};

} // namespace underridge::app
