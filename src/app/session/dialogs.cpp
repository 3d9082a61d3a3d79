// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/session/dialogs.h"

#include <QWidget>

namespace underridge::app {

Dialogs::Dialogs(QWidget* window) : QObject(window), window_(window) {}

void Dialogs::ask(Make make, std::function<void(QDialog&, int)> then) {
    waiting_.push_back({std::move(make), std::move(then)});
    if (!open_)
        next();
}

void Dialogs::next() {
    while (!open_ && !waiting_.empty()) {
        const Waiting first = std::move(waiting_.front());
        waiting_.pop_front();
        QDialog* dialog = first.make();
        if (!dialog)
            continue;
        open_ = dialog;
        if (const auto given = answer ? answer(*dialog) : std::nullopt) {
            open_ = nullptr;
            dialog->hide();
            first.then(*dialog, *given);
            dialog->deleteLater();
            continue;
        }
        connect(dialog, &QDialog::finished, this, [this, dialog, then = first.then](int result) {
            open_ = nullptr;
            then(*dialog, result);
            dialog->deleteLater();
            next();
        });
        dialog->open();
    }
}

} // namespace underridge::app
