// SPDX-License-Identifier: GPL-3.0-or-later
// The line above the sheet that says which overlay is on, and chooses another.
#pragma once

#include <QComboBox>
#include <QLabel>
#include <QToolButton>

namespace underridge::app {

class Checker;
class Session;

class OverlayBar : public QWidget {
    Q_OBJECT
public:
    OverlayBar(Session& session, Checker& checker, QWidget* parent = nullptr);

    /// Ready to choose from.
    void open();
    bool isWanted() const { return open_; }
    QComboBox& choice() { return *choice_; }
    QString says() const { return says_->text(); }
    /// Takes the overlay off and goes away.
    void close();

Q_SIGNALS:
    void wantedChanged();
    /// The sheet gets the keyboard back.
    void left();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void fill();
    void apply();

    Session& session_;
    Checker& checker_;
    QComboBox* choice_;
    QLabel* says_;
    QToolButton* off_;
    bool open_ = false;
};

} // namespace underridge::app
