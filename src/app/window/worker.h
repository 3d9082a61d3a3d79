// SPDX-License-Identifier: GPL-3.0-or-later
// Long work on a thread of its own while the window waits for it, painting and able to cancel.
#pragma once
#include <QEventLoop>
#include <QProgressDialog>
#include <QTimer>
#include <atomic>
#include <functional>
#include <memory>
#include <thread>

namespace underridge::app {

/// Whether the result is still wanted; may be asked from the worker before it does what cannot be undone.
using Wanted = std::shared_ptr<std::atomic<bool>>;

/// Runs `make` on `worker` and gives what it made; nothing when the user cancelled, and whatever the worker
/// still makes is dropped. Keys and clicks wait meanwhile; after half a second `words` are shown with Cancel.
/// `worker` must not outlive `window`.
template <class Made>
std::unique_ptr<Made> onWorker(QWidget* window, std::jthread& worker, const QString& words,
                               std::function<Made(const Wanted&)> make) {
    std::unique_ptr<Made> result;
    QEventLoop loop;
    bool done = false;
    auto wanted = std::make_shared<std::atomic<bool>>(true);
    worker = std::jthread([window, &loop, &result, &done, wanted, make = std::move(make)] {
        auto made = std::make_shared<Made>(make(wanted));
        QMetaObject::invokeMethod(
            window,
            [made, wanted, &loop, &result, &done] {
                if (!*wanted)
                    return;
                result = std::make_unique<Made>(std::move(*made));
                done = true;
                loop.quit();
            },
            Qt::QueuedConnection);
    });
    QTimer patience;
    patience.setSingleShot(true);
    QObject::connect(&patience, &QTimer::timeout, &loop, &QEventLoop::quit);
    patience.start(500);
    loop.exec(QEventLoop::ExcludeUserInputEvents);
    if (!done) {
        QProgressDialog progress(words, QProgressDialog::tr("Cancel"), 0, 0, window);
        progress.setWindowModality(Qt::WindowModal);
        QObject::connect(&progress, &QProgressDialog::canceled, &loop, &QEventLoop::quit);
        progress.show(); // a dialog without steps shows itself only when told
        loop.exec();
    }
    *wanted = false;
    return result;
}

} // namespace underridge::app
