// SPDX-License-Identifier: GPL-3.0-or-later
// What a rule says, with its figures and sources: docs/linking.md, opened at its
// paragraph.
#pragma once
#include "core/linking/rules.h"

#include <QTextBrowser>

namespace underridge::app {

class RulePage : public QTextBrowser {
    Q_OBJECT
public:
    /// A window of its own, which stays open beside the one it was opened from.
    explicit RulePage(QWidget* parent);
    void open(const linking::Rule& rule);
    /// The heading that is at the top: for tests and screen readers.
    QString shownRule() const { return shown_; }

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    QString shown_;
};

} // namespace underridge::app
