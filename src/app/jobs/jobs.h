// SPDX-License-Identifier: GPL-3.0-or-later
// Work that may take longer than 50 ms: done by a thread on a snapshot, told and
// cancelled in the status line, its result handed to the window's thread in the order
// things end. Nobody waits for it in a loop of its own.
#pragma once
#include <QObject>
#include <QString>
#include <QTimer>
#include <atomic>
#include <functional>
#include <list>
#include <memory>
#include <thread>

namespace underridge::app {

/// Whether the result is still wanted; may be asked by the worker before it does what
/// cannot be undone.
using Wanted = std::shared_ptr<std::atomic<bool>>;

class Jobs : public QObject {
    Q_OBJECT
public:
    explicit Jobs(QObject* parent = nullptr);
    /// Cancels what is under way and waits for the threads to notice.
    ~Jobs() override;

    /// Runs `make` on a thread and then `done` with what it made on this one;
    /// `cancelled`, if any, when the person gave it up instead, whatever the thread still
    /// makes. `words` say what it is: "Opening quay.underridge". Returns what it can be given up by.
    template <class Made>
    int run(const QString& words, std::function<Made(const Wanted&)> make, std::function<void(Made)> done,
            std::function<void()> cancelled = {}) {
        Job& job = begin(words, std::move(cancelled));
        job.thread = std::jthread(
            [this, id = job.id, wanted = job.wanted, make = std::move(make), done = std::move(done)] {
                auto made = std::make_shared<Made>(make(wanted));
                QMetaObject::invokeMethod(
                    this,
                    [this, id, made, done] {
                        if (end(id))
                            done(std::move(*made));
                    },
                    Qt::QueuedConnection);
            });
        return job.id;
    }

    bool busy() const { return !jobs_.empty(); }
    /// What to show: the words of the latest job that has taken a while; empty when there
    /// is none.
    QString words() const;
    /// Gives up what words() tells of.
    void cancel();
    /// Gives up a job, whether it is told of or not; nothing where it has ended.
    void cancel(int id);

Q_SIGNALS:
    void changed();
    /// Nothing is left to do; what the last job made is taken next.
    void idle();

private:
    struct Job {
        int id = 0;
        QString words;
        Wanted wanted;
        std::function<void()> cancelled;
        bool shown = false; ///< it has taken a while
        std::jthread thread;
    };
    Job& begin(const QString& words, std::function<void()> cancelled);
    /// Takes a job off the list. False when it was cancelled.
    bool end(int id);

    std::list<Job> jobs_, leaving_; ///< leaving: cancelled, the thread may still run
    int nextId_ = 1;
    QTimer patience_;
};

} // namespace underridge::app
