// SPDX-License-Identifier: GPL-3.0-or-later
// What is known of the selection, editable in place; each edit is one step, what is wrong is said beside the
// field. With nothing selected it shows the sheet.
#pragma once
#include "core/edit/act.h"
#include "core/model/ports.h"

#include <QFormLayout>
#include <QLabel>
#include <QScrollArea>
#include <functional>

namespace underridge::app {

class Editor;

class DetailsPanel : public QScrollArea {
    Q_OBJECT
public:
    explicit DetailsPanel(Editor& editor, QWidget* parent = nullptr);

    /// The editable field of a name ("Name", "Length"), for tests and the keyboard.
    QWidget* field(const QString& label) const;
    void refresh();

Q_SIGNALS:
    void otherPortWanted(quint64 link, int end);

private:
    using Commit = std::function<edit::ActResult(const std::string&)>;

    void begin(const QString& title, const QString& subtitle);
    void heading(const QString& text);
    void row(const QString& label, const QString& value);
    void emptyRow(const QString& words);
    void textRow(const QString& label, const QString& value, const QString& placeholder, Commit commit);
    void longRow(const QString& label, const QString& value, Commit commit);
    void checkRow(const QString& label, bool value, std::function<edit::ActResult(bool)> commit);
    void choiceRow(const QString& label, const QStringList& choices, int current,
                   std::function<edit::ActResult(int)> commit);
    void linkRow(const QString& label, const QString& words, std::function<void()> act);

    void showDevice(const model::Device& device);
    void showPort(const model::PortRef& port);
    void showLink(const model::Link& link);
    void showNote(const model::Note& note);
    void showSeveral();
    void showSheet();
    /// One line of the legend: the form of a link, drawn, and how many there are.
    void legendRow(const model::Link& sample, int count);
    void portLists(const model::Device& device);

    Editor& editor_;
    QFormLayout* form_ = nullptr;
    bool refreshing_ = false;
};

} // namespace underridge::app
