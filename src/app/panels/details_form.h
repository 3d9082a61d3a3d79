// SPDX-License-Identifier: GPL-3.0-or-later
// The rows of the details: what is known, and fields whose edit is one act. What is wrong
// is said beside the field.
//
// The rows wanted are described anew after every change, and what is shown is patched: a
// row that is there stays, with what is being typed in it, the list it has open and the
// place it is scrolled to.
#pragma once
#include "core/edit/act.h"

#include <QFormLayout>
#include <QLabel>
#include <QPixmap>
#include <QWidget>
#include <functional>
#include <memory>

namespace underridge::app {

class Workspace;

class DetailsForm {
public:
    using Commit = std::function<edit::ActResult(const std::string&)>;

    explicit DetailsForm(Workspace& workspace);
    ~DetailsForm();

    /// The whole, to be shown; belongs to whoever shows it.
    QWidget* content() { return content_; }

    /// Begins a description. `subject` tells whether it is of the same thing as the last:
    /// only then a field that is being typed into keeps what is typed; else that is
    /// committed first.
    void begin(const QString& subject, const QString& title, const QString& subtitle);
    void heading(const QString& text);
    void row(const QString& label, const QString& value);
    void emptyRow(const QString& words);
    void textRow(const QString& label, const QString& value, const QString& placeholder, Commit commit);
    void longRow(const QString& label, const QString& value, Commit commit);
    void checkRow(const QString& label, bool value, std::function<edit::ActResult(bool)> commit);
    /// The same for what may take longer than a frame: the row shows what has become of it later.
    void switchRow(const QString& label, bool value, std::function<void(bool)> act);
    void choiceRow(const QString& label, const QStringList& choices, int current,
                   std::function<edit::ActResult(int)> commit);
    /// A list to choose from that changes nothing in the network; its first entry stands
    /// for none.
    void menuRow(const QString& name, const QStringList& choices, std::function<void(int)> act);
    void linkRow(const QString& label, const QString& words, std::function<void()> act);
    /// Words with a button below them.
    void actionRow(const QString& label, const QString& words, const QString& action, const QString& name,
                   std::function<void()> act);
    /// Words to click behind a picture.
    void pictureRow(const QPixmap& picture, const QString& name, const QString& words,
                    std::function<void()> act);
    /// Ends the description: what is shown becomes what was described. Returns whether it
    /// looks other than before.
    bool end();

    /// Takes what is typed in any field. False when something cannot be taken.
    bool commitTyped();

private:
    enum class Kind { heading, value, empty, text, longText, check, choice, menu, link, action };
    struct Description {
        Kind kind;
        QString label, value, placeholder, name;
        QStringList choices;
        int current = 0;
        QPixmap picture;
        Commit commit;
        std::function<edit::ActResult(int)> choose;
        std::function<void(int)> act;
    };
    class Row;
    class TextRow;
    class LongRow;
    class ChoiceRow;

    std::unique_ptr<Row> make(const Description& description);
    /// Refuses what the document would refuse, so that it is said beside the field.
    edit::ActResult checked(edit::ActResult act) const;
    void apply(edit::ActResult act);

    Workspace& workspace_;
    QWidget* content_;
    QLabel *title_, *subtitle_;
    QFormLayout* form_;
    QString subject_;
    std::vector<Description> wanted_;
    std::vector<std::unique_ptr<Row>> rows_;
};

} // namespace underridge::app
