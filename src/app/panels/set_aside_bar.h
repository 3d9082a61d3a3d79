// SPDX-License-Identifier: GPL-3.0-or-later
// Asks why findings are set aside, and how long, in a line of their panel.
#pragma once
#include "core/edit/setting_aside.h"

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

namespace underridge::app {

class SetAsideBar : public QWidget {
    Q_OBJECT
public:
    explicit SetAsideBar(QWidget* parent = nullptr);
    QLineEdit& reason() { return *reason_; }
    QLineEdit& until() { return *until_; }
    QPushButton& done() { return *done_; }

    /// `findings` as they are now: what is found meanwhile changes nothing of them.
    void open(std::vector<linking::Finding> findings);
    const std::vector<linking::Finding>& findings() const { return findings_; }
    /// What was typed, with today's date.
    edit::Aside typed() const;
    /// Stays open with what is wrong.
    void refuse(const Remark& why);
    void close();

Q_SIGNALS:
    void wanted();

protected:
    void keyPressEvent(QKeyEvent* event) override;

private:
    std::vector<linking::Finding> findings_;
    QLabel *about_, *wrong_;
    QLineEdit *reason_, *until_;
    QPushButton* done_;
};

} // namespace underridge::app
