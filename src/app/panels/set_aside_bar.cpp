// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/set_aside_bar.h"

#include "app/shown_text.h"
#include "app/style/pieces.h"

#include <QHBoxLayout>
#include <QKeyEvent>

namespace underridge::app {

SetAsideBar::SetAsideBar(QWidget* parent)
    : QWidget(parent),
      about_(plainLabel()),
      wrong_(errorLabel()),
      reason_(new QLineEdit),
      until_(new QLineEdit),
      done_(new QPushButton(tr("Set aside"))) {
    setObjectName(QStringLiteral("setAside"));
    about_->setWordWrap(false);
    reason_->setPlaceholderText(tr("Why it is left as it is"));
    reason_->setAccessibleName(tr("Reason"));
    reason_->setMaxLength(500);
    until_->setPlaceholderText(tr("until, such as %1").arg(QStringLiteral("2027-01-31")));
    until_->setToolTip(tr("The last day it is set aside; empty: no end"));
    until_->setAccessibleName(tr("Until"));
    auto* cancel = new QPushButton(tr("Cancel"));
    auto* line = new QHBoxLayout;
    line->addWidget(about_);
    line->addWidget(reason_, 3);
    line->addWidget(until_, 1);
    line->addWidget(done_);
    line->addWidget(cancel);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addLayout(line);
    layout->addWidget(wrong_);
    connect(cancel, &QPushButton::clicked, this, &SetAsideBar::close);
    connect(done_, &QPushButton::clicked, this, &SetAsideBar::wanted);
    for (QLineEdit* field : {reason_, until_}) {
        connect(field, &QLineEdit::returnPressed, this, &SetAsideBar::wanted);
        connect(field, &QLineEdit::textEdited, wrong_, &QLabel::hide);
    }
    hide();
}

void SetAsideBar::open(std::vector<linking::Finding> findings) {
    findings_ = std::move(findings);
    if (findings_.empty())
        return;
    about_->setText(findings_.size() == 1 ? shownText(findings_.front().rule->title)
                                          : tr("%1 findings").arg(findings_.size()));
    reason_->clear();
    until_->clear();
    wrong_->hide();
    show();
    reason_->setFocus();
}

edit::Aside SetAsideBar::typed() const {
    return {said(reason_->text()), said(QDate::currentDate().toString(Qt::ISODate)),
            said(until_->text().trimmed())};
}

void SetAsideBar::refuse(const Remark& why) {
    wrong_->setText(shownText(why.text()));
    wrong_->show();
}

void SetAsideBar::close() {
    findings_.clear();
    hide();
}

void SetAsideBar::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape)
        close();
    else
        QWidget::keyPressEvent(event);
}

} // namespace underridge::app
