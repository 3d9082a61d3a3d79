// SPDX-License-Identifier: GPL-3.0-or-later
// What was just linked: both ports, cable, length and the reason, with the way to other
// ports at either end.
#pragma once
#include <QFrame>
#include <QLabel>
#include <QToolButton>

namespace underridge::app {

class LinkStrip : public QFrame {
    Q_OBJECT
public:
    explicit LinkStrip(QWidget* parent);

    void open(const QString& a, const QString& b, const QString& cable, const QString& reason);
    QToolButton& otherPort(int end) { return end == 0 ? *otherA_ : *otherB_; }
    QString text() const { return words_->text(); }

Q_SIGNALS:
    /// 0 or 1: which end.
    void otherPortWanted(int end);

private:
    QToolButton *otherA_, *otherB_;
    QLabel *nameA_, *nameB_, *words_;
};

} // namespace underridge::app
