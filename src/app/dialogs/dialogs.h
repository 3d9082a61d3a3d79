// SPDX-License-Identifier: GPL-3.0-or-later
// The dialogs of a window, one after another. What comes of one is said to a function, so
// that nothing waits in a loop of its own, and what happens meanwhile (a save that ends,
// a file that changes) happens as ever.
#pragma once
#include <QDialog>
#include <QMessageBox>
#include <QPointer>
#include <deque>
#include <functional>
#include <optional>
#include <vector>

namespace underridge::app {

/// A question with answers that say what they do.
struct Query {
    QString title, words;
    struct Choice {
        QString text;
        QMessageBox::ButtonRole role = QMessageBox::AcceptRole;
    };
    std::vector<Choice> choices; ///< the one with RejectRole, if any, is what Esc means
    QMessageBox::Icon icon = QMessageBox::Question;
};

/// A question as it is asked.
class QuestionBox : public QMessageBox {
    Q_OBJECT
public:
    QuestionBox(const Query& query, QWidget* parent);

    /// Which of the choices was taken; -1: none.
    int chosen() const;

private:
    friend class Dialogs;
    std::vector<QAbstractButton*> buttons_;
    std::optional<int> answered_; ///< not by a person
};

class Dialogs : public QObject {
    Q_OBJECT
public:
    explicit Dialogs(QWidget* window);

    using Make = std::function<QDialog*()>;
    /// Makes a dialog and shows it as soon as no other is open; nothing happens if
    /// nothing is made, since by then it may not be needed. `then` is told the dialog and
    /// its result; afterwards it is deleted.
    void ask(Make make, std::function<void(QDialog&, int)> then);
    /// The same for a dialog of a kind.
    template <class Kind>
    void show(std::function<Kind*()> make, std::function<void(Kind&, bool accepted)> then) {
        ask(std::move(make), [then = std::move(then)](QDialog& dialog, int result) {
            then(static_cast<Kind&>(dialog), result == QDialog::Accepted);
        });
    }
    /// Asks a question; `then` is told the index of the choice, -1 when it was escaped.
    void choose(const Query& query, std::function<void(int)> then);

    bool isOpen() const { return open_; }
    QDialog* open() const { return open_; }

    /// Answers instead of a person, for tests: the result of a dialog, the index of a
    /// choice; nothing: a person does.
    std::function<std::optional<int>(QDialog&)> answer;

private:
    void next();

    struct Waiting {
        Make make;
        std::function<void(QDialog&, int)> then;
    };
    QWidget* window_;
    std::deque<Waiting> waiting_;
    QPointer<QDialog> open_;
};

} // namespace underridge::app
