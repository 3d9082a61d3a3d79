// SPDX-License-Identifier: GPL-3.0-or-later
// Answers a window's dialogs instead of a person.
#pragma once
#include "app/dialogs/dialogs.h"

#include <functional>
#include <type_traits>
#include <vector>

namespace underridge::tests {

class DialogAnswers {
public:
    /// Answers dialogs of a kind from now on; the answer given last counts first. An
    /// answer that returns nothing closes the dialog as Cancel does.
    template <class Kind, class Answer>
    void add(Answer given) {
        answers_.push_back([given](QDialog& dialog) mutable -> std::optional<int> {
            auto* asked = qobject_cast<Kind*>(&dialog);
            if (!asked)
                return std::nullopt;
            if constexpr (std::is_void_v<decltype(given(*asked))>) {
                given(*asked);
                return QDialog::Rejected;
            } else {
                return given(*asked) ? QDialog::Accepted : QDialog::Rejected;
            }
        });
    }
    /// Answers questions with a title by the index of a choice; `given` is told the words.
    void addQuestion(const QString& title, std::function<int(const QString& words)> given) {
        answers_.push_back([title, given = std::move(given)](QDialog& dialog) -> std::optional<int> {
            auto* asked = qobject_cast<app::QuestionBox*>(&dialog);
            if (!asked || asked->windowTitle() != title)
                return std::nullopt;
            return given(asked->text());
        });
    }
    /// Nothing: a person is to answer.
    std::optional<int> operator()(QDialog& dialog) {
        for (auto each = answers_.rbegin(); each != answers_.rend(); ++each)
            if (const auto result = (*each)(dialog))
                return result;
        return std::nullopt;
    }

private:
    std::vector<std::function<std::optional<int>(QDialog&)>> answers_;
};

} // namespace underridge::tests
