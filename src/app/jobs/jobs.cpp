// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/jobs/jobs.h"

#include <algorithm>

namespace underridge::app {
namespace {
constexpr int patienceMs = 400; // what is over sooner is not told of
}

Jobs::Jobs(QObject* parent) : QObject(parent) {
    patience_.setInterval(patienceMs);
    patience_.setSingleShot(true);
    connect(&patience_, &QTimer::timeout, this, [this] {
        for (Job& job : jobs_)
            job.shown = true;
        Q_EMIT changed();
    });
}

Jobs::~Jobs() {
    for (Job& job : jobs_)
        *job.wanted = false;
}

Jobs::Job& Jobs::begin(const QString& words, std::function<void()> cancelled) {
    Job& job = jobs_.emplace_back();
    job.id = nextId_++;
    job.words = words;
    job.wanted = std::make_shared<std::atomic<bool>>(true);
    job.cancelled = std::move(cancelled);
    patience_.start();
    return job;
}

bool Jobs::end(int id) {
    const auto isIt = [id](const Job& job) { return job.id == id; };
    if (const auto gone = std::find_if(leaving_.begin(), leaving_.end(), isIt); gone != leaving_.end()) {
        leaving_.erase(gone);
        return false;
    }
    const auto at = std::find_if(jobs_.begin(), jobs_.end(), isIt);
    const bool shown = at->shown;
    jobs_.erase(at); // its thread has nothing left to do but end
    if (shown)
        Q_EMIT changed();
    if (!busy())
        Q_EMIT idle();
    return true;
}

QString Jobs::words() const {
    const auto at = std::find_if(jobs_.rbegin(), jobs_.rend(), [](const Job& job) { return job.shown; });
    return at == jobs_.rend() ? QString() : at->words;
}

void Jobs::cancel() {
    const auto at = std::find_if(jobs_.rbegin(), jobs_.rend(), [](const Job& job) { return job.shown; });
    if (at != jobs_.rend())
        cancel(at->id);
}

void Jobs::cancel(int id) {
    const auto at = std::find_if(jobs_.begin(), jobs_.end(), [id](const Job& job) { return job.id == id; });
    if (at == jobs_.end())
        return;
    *at->wanted = false;
    const auto cancelled = std::move(at->cancelled);
    leaving_.splice(leaving_.end(), jobs_, at);
    Q_EMIT changed();
    if (cancelled)
        cancelled();
}

} // namespace underridge::app
