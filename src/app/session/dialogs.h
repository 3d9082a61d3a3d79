// SPDX-License-Identifier: GPL-3.0-or-later
// The dialogs of a window, one after another. What comes of one is said to a function, so
// that nothing waits in a loop of its own, and what happens meanwhile (a save that ends,
// a file that changes) happens as ever.
#pragma once
#include <QDialog>
#include <QPointer>
#include <deque>
#include <functional>

namespace underridge::app {

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

    bool isOpen() const { return open_; }
    QDialog* open() const { return open_; }

    /// Answers instead of a person, for tests; nothing: a person does.
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
