// SPDX-License-Identifier: GPL-3.0-or-later
// A thread that works through orders for one object of the window, where only the latest
// matter: what is asked for anew takes the place of what was not begun. Nothing of it is
// told to the person; work that is goes through Jobs.
#pragma once
#include <QObject>

#include <condition_variable>
#include <functional>
#include <memory>
#include <mutex>
#include <thread>
#include <vector>

namespace underridge::app {

/// The last member of whoever has it: its thread uses the others, and is waited for first.
template <class Order>
class Worker {
public:
    /// `work` is called in the thread.
    explicit Worker(std::function<void(Order)> work)
        : work_(std::move(work)), thread_([this](const std::stop_token& stop) { run(stop); }) {}
    /// Waits for the order in hand; the others are forgotten.
    ~Worker() {
        thread_.request_stop();
        wake_.notify_all();
        thread_.join();
    }
    Worker(const Worker&) = delete;
    Worker& operator=(const Worker&) = delete;

    /// Changes what is still to be done: a list, the next one last.
    template <class Change>
    void change(Change&& change) {
        const std::lock_guard lock(mutex_);
        change(orders_);
        wake_.notify_one();
    }

private:
    void run(const std::stop_token& stop) {
        for (;;) {
            std::unique_lock lock(mutex_);
            if (!wake_.wait(lock, stop, [this] { return !orders_.empty(); }))
                return;
            Order order = std::move(orders_.back());
            orders_.pop_back();
            lock.unlock();
            work_(std::move(order));
        }
    }

    std::function<void(Order)> work_;
    std::mutex mutex_;
    std::condition_variable_any wake_;
    std::vector<Order> orders_;
    std::jthread thread_;
};

/// Answers to what an object of the window asks, made by a thread; only that to the latest is told, in the
/// thread of the object. The last member of whoever has it, as a Worker is.
template <class Order, class Answer>
class Latest {
public:
    /// `make` is called in the thread, which begins with the first order; `tell` in that of `of`.
    Latest(QObject* of, std::function<Answer(const Order&)> make, std::function<void(const Answer&)> tell)
        : of_(of), make_(std::move(make)), tell_(std::move(tell)) {}

    void ask(Order order) {
        forget();
        if (!worker_)
            worker_ = std::make_unique<Worker<Asked>>([this](const Asked& asked) { answer(asked); });
        worker_->change([&](std::vector<Asked>& orders) {
            orders.clear();
            orders.push_back({std::move(order), latest_});
        });
    }
    /// No answer to what was asked is wanted any more.
    void forget() { ++latest_; }

private:
    struct Asked {
        Order order;
        std::uint64_t number;
    };
    void answer(const Asked& asked) {
        QMetaObject::invokeMethod(
            of_,
            [this, answer = make_(asked.order), number = asked.number] {
                if (number == latest_)
                    tell_(answer);
            },
            Qt::QueuedConnection);
    }

    QObject* of_;
    std::function<Answer(const Order&)> make_;
    std::function<void(const Answer&)> tell_;
    std::uint64_t latest_ = 0;
    std::unique_ptr<Worker<Asked>> worker_;
};

} // namespace underridge::app
