// SPDX-License-Identifier: GPL-3.0-or-later
// Counts what is on a sheet: at once where there is little, else by a thread, so that no edit
// waits for it.
#pragma once
#include "app/jobs/worker.h"
#include "core/scene/counts.h"

#include <QObject>
#include <optional>

namespace underridge::app {

class SheetCounter : public QObject {
    Q_OBJECT
public:
    explicit SheetCounter(QObject* parent = nullptr);

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
    /// What of a scene a count depends on besides the network.
    struct View {
        model::SheetId sheet;
        model::GroupId entered;
        std::optional<scene::Filtered> filtered;

        bool operator==(const View&) const = default;
    };
    static View viewOf(const scene::Scene& scene);
    void count(const Order& order);

    Shared last_;
    model::Network of_; ///< what was asked for last
    View view_;
    Worker<Order> worker_;
};

} // namespace underridge::app
