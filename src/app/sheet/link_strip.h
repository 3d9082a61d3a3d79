// SPDX-License-Identifier: GPL-3.0-or-later
// What was just linked: both ports, cable, length and the reason, with the way to other
// ports at either end.
#pragma once
#include "app/style/pieces.h"

#include <QLabel>

namespace underridge::app {

class LinkStrip : public FloatingBox {
    Q_OBJECT
public:
    explicit LinkStrip(QWidget* parent);

    void open(const QString& a, const QString& b, const QString& cable, const QString& reason);
    /// Which ends lie in a folded group or beyond a doorway, where another device can be
    /// meant; before open().
    void offerDevices(bool a, bool b);
    TextButton& otherPort(int end) { return end == 0 ? *otherA_ : *otherB_; }
    TextButton& otherDevice(int end) { return end == 0 ? *deviceA_ : *deviceB_; }
    QString text() const { return words_->text(); }
    /// Gives its first button the keyboard. Tab past the last, Shift+Tab past the first
    /// and Esc leave it.
    void enter();

Q_SIGNALS:
    /// 0 or 1: which end.
    void otherPortWanted(int end);
    void otherDeviceWanted(int end);
    /// The keyboard has left it.
    void left();

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    TextButton *otherA_, *otherB_, *deviceA_, *deviceB_;
    QLabel *nameA_, *nameB_, *words_;
};

} // namespace underridge::app
