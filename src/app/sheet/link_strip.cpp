// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/link_strip.h"

#include <QVBoxLayout>

namespace underridge::app {

LinkStrip::LinkStrip(QWidget* parent)
    : QFrame(parent),
      otherA_(new QToolButton(this)),
      otherB_(new QToolButton(this)),
      nameA_(new QLabel(this)),
      nameB_(new QLabel(this)),
      words_(new QLabel(this)) {
    setObjectName(QStringLiteral("linkStrip"));
    setFrameShape(QFrame::StyledPanel);
    setAutoFillBackground(true);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(12, 7, 12, 7);
    layout->setSpacing(3);
    auto* ends = new QHBoxLayout;
    ends->setSpacing(6);
    for (QLabel* label : {nameA_, nameB_, words_})
        label->setTextFormat(Qt::PlainText);
    QFont bold = font();
    bold.setBold(true);
    nameA_->setFont(bold);
    nameB_->setFont(bold);
    ends->addWidget(nameA_);
    ends->addWidget(otherA_);
    ends->addSpacing(18);
    ends->addWidget(nameB_);
    ends->addWidget(otherB_);
    ends->addStretch();
    layout->addLayout(ends);
    layout->addWidget(words_);
    int end = 0;
    for (QToolButton* button : {otherA_, otherB_}) {
        button->setText(tr("Other port…"));
        button->setAutoRaise(true);
        button->setFocusPolicy(Qt::TabFocus);
        connect(button, &QToolButton::clicked, this, [this, end] { Q_EMIT otherPortWanted(end); });
        ++end;
    }
    hide();
}

void LinkStrip::open(const QString& a, const QString& b, const QString& cable, const QString& reason) {
    nameA_->setText(a);
    nameB_->setText(b);
    otherA_->setAccessibleName(tr("Other port at %1").arg(a));
    otherB_->setAccessibleName(tr("Other port at %1").arg(b));
    words_->setText(QStringLiteral("%1 · %2").arg(cable, reason));
    adjustSize();
    show();
    raise();
}

} // namespace underridge::app
