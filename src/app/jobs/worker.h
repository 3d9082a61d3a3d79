// SPDX-License-Identifier: GPL-3.0-or-later
// A thread that works through orders for one object of the window, where only the latest
// matter: what is asked for anew takes the place of what was not begun. Nothing of it is
// told to the person; work that is goes through Jobs.
#pragma once
#include <condition_variable>
#include <functional>
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

} // namespace underridge::app
