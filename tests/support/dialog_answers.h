// SPDX-License-Identifier: GPL-3.0-or-later
// Answers a window's dialogs instead of a person.
#pragma once
#include "app/dialogs/dialogs.h"

#include <functional>
#include <list>
#include <type_traits>

namespace underridge::tests {

class DialogAnswers {
public:
    /// Answers dialogs of a kind from now on; the answer given last counts first. An
    /// answer that returns nothing closes the dialog as Cancel does.
    template <class Kind, class Answer>
    void add(Answer given) {
        answers_.push_back({QString::fromLatin1(Kind::staticMetaObject.className()),
                            [given](QDialog& dialog) mutable -> std::optional<int> {
                                auto* asked = qobject_cast<Kind*>(&dialog);
                                if (!asked)
                                    return std::nullopt;
                                if constexpr (std::is_void_v<decltype(given(*asked))>) {
                                    given(*asked);
                                    return QDialog::Rejected;
                                } else {
                                    return given(*asked) ? QDialog::Accepted : QDialog::Rejected;
                                }
                            }});
    }
    /// Answers questions with a title by the index of a choice; `given` is told the words.
    void addQuestion(const QString& title, std::function<int(const QString& words)> given) {
        answers_.push_back({title, [title, given = std::move(given)](QDialog& dialog) -> std::optional<int> {
                                auto* asked = qobject_cast<app::QuestionBox*>(&dialog);
                                if (!asked || asked->windowTitle() != title)
                                    return std::nullopt;
                                return given(asked->text());
                            }});
    }
    /// Nothing: a person is to answer.
    std::optional<int> operator()(QDialog& dialog) {
        for (auto each = answers_.rbegin(); each != answers_.rend(); ++each)
            if (const auto result = each->answer(dialog)) {
                each->given = true;
                return result;
            }
        return std::nullopt;
    }
    /// What was never asked: what is checked in such an answer was not checked.
    QStringList neverAsked() const {
        QStringList names;
        for (const Answer& each : answers_)
            if (!each.given)
                names << each.name;
        return names;
    }

private:
    struct Answer {
        QString name;
        std::function<std::optional<int>(QDialog&)> answer;
        bool given = false;
    };
    std::list<Answer> answers_; // one may be added while another is given
};

} // namespace underridge::tests
