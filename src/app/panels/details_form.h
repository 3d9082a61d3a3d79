// SPDX-License-Identifier: GPL-3.0-or-later
// The rows of the details: what is known, and fields whose edit is one act. What is wrong is said beside the
// field.
#pragma once
#include "core/edit/act.h"

#include <QFormLayout>
#include <QWidget>
#include <functional>

namespace underridge::app {

class Editor;

class DetailsForm {
public:
    using Commit = std::function<edit::ActResult(const std::string&)>;

    DetailsForm(Editor& editor, const QString& title, const QString& subtitle);

    /// The whole, to be shown; belongs to whoever shows it.
    QWidget* content() { return content_; }
    QFormLayout& form() { return *form_; }

    void heading(const QString& text);
    void row(const QString& label, const QString& value);
    void emptyRow(const QString& words);
    void textRow(const QString& label, const QString& value, const QString& placeholder, Commit commit);
    void longRow(const QString& label, const QString& value, Commit commit);
    void checkRow(const QString& label, bool value, std::function<edit::ActResult(bool)> commit);
    void choiceRow(const QString& label, const QStringList& choices, int current,
                   std::function<edit::ActResult(int)> commit);
    void linkRow(const QString& label, const QString& words, std::function<void()> act);

private:
    Editor& editor_;
    QWidget* content_;
    QFormLayout* form_ = nullptr;
};

} // namespace underridge::app
