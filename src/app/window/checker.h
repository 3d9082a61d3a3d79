// SPDX-License-Identifier: GPL-3.0-or-later
// Keeps the findings of the network that is edited up to date, on a worker: at once where
// that takes little, else a moment after the last change.
#pragma once
#include "core/analysis/running_findings.h"
#include "core/analysis/set_aside.h"
#include "core/linking/running_check.h"
#include "core/scene/trouble.h"

#include <QObject>
#include <QTimer>
#include <memory>
#include <thread>

namespace underridge::app {

class Workspace;

class Checker : public QObject {
    Q_OBJECT
public:
    explicit Checker(Workspace& workspace, QObject* parent = nullptr);

    /// Those that count.
    const std::vector<linking::Finding>& findings() const { return sifted_->open; }
    /// Those that count, and those that were set aside.
    const analysis::Sifted& sifted() const { return *sifted_; }
    /// The same for who needs them longer than until they are others; as long as they are not, it is
    /// the same one.
    std::shared_ptr<const analysis::Sifted> sharedSifted() const { return sifted_; }
    /// Those that count, by object and by group; the same as long as nothing else is found.
    const std::shared_ptr<const scene::Reported>& reported() const { return reported_; }
    /// What follows from switching and routing, of the network the findings are of; null
    /// until it was worked out for the first time.
    std::shared_ptr<const analysis::Forwarding> forwarding() const { return forwarding_; }
    /// Whether the findings are those of the network as it is now.
    bool isCurrent() const { return current_; }
    /// How many of a severity.
    int count(Severity severity) const;

Q_SIGNALS:
    void changed();

private:
    void start();

    Workspace& workspace_;
    QTimer rest_;
    std::shared_ptr<const analysis::Sifted> sifted_ = std::make_shared<analysis::Sifted>();
    std::shared_ptr<const scene::Reported> reported_ = std::make_shared<scene::Reported>();
    std::shared_ptr<const analysis::Forwarding> forwarding_;
    bool current_ = false, again_ = false, anew_ = false;
    linking::RunningCheck check_;            ///< the worker's while it runs
    analysis::RunningFindings ofForwarding_; ///< so too
    std::jthread worker_;
    std::jthread releaser_; ///< lets go of what was worked out before, which takes its time
};

/// "2 errors, 1 warning"; "none" when there are none.
QString findingCounts(const Checker& checker);

} // namespace underridge::app
