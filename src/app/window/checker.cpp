// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/checker.h"

#include "app/panels/remarks_panel.h"
#include "app/session/workspace.h"

#include "core/base/parallel.h"

#include <QDate>
#include <QElapsedTimer>

namespace underridge::app {
namespace {
constexpr int restMs = 150; ///< several edits in a row are checked once
constexpr int quickMs = 15; ///< what is done in so little time waits for no other edit
} // namespace

Checker::Checker(Workspace& workspace, QObject* parent) : QObject(parent), workspace_(workspace) {
    rest_.setSingleShot(true);
    rest_.setInterval(restMs);
    const auto later = [this] {
        current_ = false;
        rest_.start();
    };
    connect(&workspace_, &Workspace::networkChanged, this, later);
    connect(&workspace_, &Workspace::documentReplaced, this, later);
    connect(&workspace_, &Workspace::catalogueChanged, this, [this, later] {
        anew_ = true; // remedies may be others
        later();
    });
    connect(&rest_, &QTimer::timeout, this, &Checker::start);
    later();
}

void Checker::start() {
    if (worker_.joinable()) { // one at a time; what it finds is out of date already
        again_ = true;
        return;
    }
    worker_ = std::jthread([this, network = workspace_.network(), catalogue = workspace_.catalogue(),
                            held = forwarding_, sifted = sifted_, reported = reported_,
                            anew = std::exchange(anew_, false),
                            today = QDate::currentDate().toString(Qt::ISODate).toStdString()]() mutable {
        QElapsedTimer clock;
        clock.start();
        if (anew)
            check_ = {};
        std::vector<linking::Finding> found;
        constexpr std::size_t many = 50;
        inParallel(network.all<model::Device>().size() >= many,
                   {[&] {
                        check_.update(network, catalogue);
                        found = check_.findings();
                    },
                    [&] {
                        held = analysis::Forwarding::after(held, network);
                        ofForwarding_.update(held, network);
                    }});
        const auto& more = ofForwarding_.findings();
        found.insert(found.end(), more.begin(), more.end());
        if (auto now = analysis::sift(network, std::move(found), today); !(now == *sifted))
            sifted = std::make_shared<const analysis::Sifted>(std::move(now));
        scene::Reported now{find::Findings(sifted->open), {}};
        now.byGroup = scene::troubleByGroup(network, now.byObject);
        if (!(now == *reported))
            reported = std::make_shared<const scene::Reported>(std::move(now));
        QMetaObject::invokeMethod(
            this,
            [this, sifted, reported, held = std::move(held), took = clock.elapsed()] {
                worker_.join();
                worker_ = {};
                rest_.setInterval(took < quickMs ? 0 : restMs);
                if (std::exchange(again_, false)) {
                    start();
                    return;
                }
                current_ = !rest_.isActive();
                sifted_ = sifted;
                reported_ = reported;
                auto old = std::exchange(forwarding_, held);
                Q_EMIT changed();
                if (old != forwarding_)
                    releaser_ = std::jthread([last = std::move(old)]() mutable { last.reset(); });
            },
            Qt::QueuedConnection);
    });
}

int Checker::count(Severity severity) const {
    return static_cast<int>(
        std::count_if(findings().begin(), findings().end(),
                      [&](const linking::Finding& f) { return f.rule->severity == severity; }));
}

QString findingCounts(const Checker& checker) {
    const int counts[3] = {checker.count(Severity::error), checker.count(Severity::warning),
                           checker.count(Severity::advice)};
    return counts[0] + counts[1] + counts[2] == 0 ? Checker::tr("none")
                                                  : severityCounts(counts[0], counts[1], counts[2]);
}

} // namespace underridge::app
