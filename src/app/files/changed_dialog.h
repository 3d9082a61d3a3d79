// SPDX-License-Identifier: GPL-3.0-or-later
// "The file has changed": what differs, and three ways to go on.
#pragma once
#include "core/edit/differences.h"

#include <QDialog>
#include <vector>

namespace underridge::app {

class ChangedDialog : public QDialog {
    Q_OBJECT
public:
    /// `file`: its name, as shown.
    ChangedDialog(const QString& file, std::vector<edit::Difference> differences, QWidget* parent);

    enum class Answer { takeFile, keepMine, saveAs };
    Answer answer() const { return answer_; }
    void choose(Answer answer) {
        answer_ = answer;
        accept();
    }
    const std::vector<edit::Difference>& differences() const { return differences_; }

private:
    std::vector<edit::Difference> differences_;
    Answer answer_ = Answer::keepMine; ///< what Esc means
};

} // namespace underridge::app
