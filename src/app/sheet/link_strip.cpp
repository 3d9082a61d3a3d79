// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/link_strip.h"

#include <QAccessible>
#include <QKeyEvent>
#include <QVBoxLayout>

namespace underridge::app {

LinkStrip::LinkStrip(QWidget* parent)
    : FloatingBox(QStringLiteral("linkStrip"), parent),
      otherA_(new TextButton(tr("Other port…"), TextButton::Width::hugs, this)),
      otherB_(new TextButton(tr("Other port…"), TextButton::Width::hugs, this)),
      deviceA_(new TextButton(tr("Other device…"), TextButton::Width::hugs, this)),
      deviceB_(new TextButton(tr("Other device…"), TextButton::Width::hugs, this)),
      nameA_(new QLabel(this)),
      nameB_(new QLabel(this)),
      words_(new QLabel(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 7, 12, 7);
    layout->setSpacing(3);
    auto* ends = new QHBoxLayout;
    ends->setSpacing(6);
    for (QLabel* label : {nameA_, nameB_, words_})
        label->setTextFormat(Qt::PlainText);
    embolden(nameA_);
    embolden(nameB_);
    ends->addWidget(nameA_);
    ends->addWidget(deviceA_);
    ends->addWidget(otherA_);
    ends->addSpacing(18);
    ends->addWidget(nameB_);
    ends->addWidget(deviceB_);
    ends->addWidget(otherB_);
    ends->addStretch();
    layout->addLayout(ends);
    layout->addWidget(words_);
    int end = 0;
    for (TextButton* button : {otherA_, otherB_}) {
        button->setFocusPolicy(Qt::TabFocus);
        button->installEventFilter(this);
        connect(button, &TextButton::clicked, this, [this, end] { Q_EMIT otherPortWanted(end); });
        ++end;
    }
    for (TextButton* button : {deviceA_, deviceB_}) {
        button->setFocusPolicy(Qt::TabFocus);
        button->installEventFilter(this);
        connect(button, &TextButton::clicked, this,
                [this, at = button == deviceA_ ? 0 : 1] { Q_EMIT otherDeviceWanted(at); });
    }
    hide();
}

void LinkStrip::offerDevices(bool a, bool b) {
    deviceA_->setVisible(a);
    deviceB_->setVisible(b);
}

void LinkStrip::open(const QString& a, const QString& b, const QString& cable, const QString& reason) {
    nameA_->setText(a);
    nameB_->setText(b);
    otherA_->setAccessibleName(tr("Other port at %1").arg(a));
    otherB_->setAccessibleName(tr("Other port at %1").arg(b));
    deviceA_->setAccessibleName(tr("Other device than %1").arg(a));
    deviceB_->setAccessibleName(tr("Other device than %1").arg(b));
    words_->setText(QStringLiteral("%1 · %2").arg(cable, reason));
    setAccessibleName(tr("Linked: %1 to %2").arg(a, b));
    setAccessibleDescription(words_->text());
    adjustSize();
    show();
    raise();
    QAccessibleEvent told(this, QAccessible::Alert);
    QAccessible::updateAccessibility(&told);
}

void LinkStrip::enter() {
    (deviceA_->isHidden() ? otherA_ : deviceA_)->setFocus(Qt::TabFocusReason);
}

bool LinkStrip::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() != QEvent::KeyPress)
        return FloatingBox::eventFilter(watched, event);
    const int key = static_cast<QKeyEvent*>(event)->key();
    const bool past = (key == Qt::Key_Tab && watched == otherB_) ||
                      (key == Qt::Key_Backtab && watched == (deviceA_->isHidden() ? otherA_ : deviceA_));
    if (key == Qt::Key_Escape)
        hide();
    if (past || key == Qt::Key_Escape) {
        Q_EMIT left();
        return true;
    }
    return FloatingBox::eventFilter(watched, event);
}

} // namespace underridge::app
