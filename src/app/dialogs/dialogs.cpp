// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/dialogs/dialogs.h"

#include <QPushButton>
#include <QWidget>
#include <algorithm>

namespace underridge::app {

QuestionBox::QuestionBox(const Query& query, QWidget* parent)
    : QMessageBox(query.icon, query.title, query.words, NoButton, parent) {
    setTextFormat(Qt::PlainText);
    for (const Query::Choice& choice : query.choices) {
        QPushButton* button = addButton(choice.text, choice.role);
        if (choice.role == RejectRole)
            setEscapeButton(button);
        else if (choice.role == AcceptRole && !defaultButton())
            setDefaultButton(button);
        buttons_.push_back(button);
    }
}

int QuestionBox::chosen() const {
    if (answered_)
        return *answered_;
    const auto at = std::find(buttons_.begin(), buttons_.end(), clickedButton());
    return at == buttons_.end() ? -1 : static_cast<int>(at - buttons_.begin());
}

Dialogs::Dialogs(QWidget* window) : QObject(window), window_(window) {}

void Dialogs::ask(Make make, std::function<void(QDialog&, int)> then) {
    waiting_.push_back({std::move(make), std::move(then)});
    if (!open_)
        next();
}

void Dialogs::choose(const Query& query, std::function<void(int)> then) {
    ask([this, query] { return new QuestionBox(query, window_); },
        [then = std::move(then)](QDialog& dialog, int) { then(static_cast<QuestionBox&>(dialog).chosen()); });
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
            if (auto* question = qobject_cast<QuestionBox*>(dialog))
                question->answered_ = given;
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
