// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/details_form.h"

#include "app/window/editor.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QVBoxLayout>

namespace underridge::app {
namespace {

/// A text area whose editing ends when the focus leaves it.
class LongField : public QPlainTextEdit {
public:
    using QPlainTextEdit::QPlainTextEdit;
    std::function<void()> finished;

protected:
    void focusOutEvent(QFocusEvent* event) override {
        QPlainTextEdit::focusOutEvent(event);
        if (finished)
            finished();
    }
};

} // namespace

DetailsForm::DetailsForm(Editor& editor, const QString& title, const QString& subtitle)
    : editor_(editor), content_(new QWidget) {
    auto* layout = new QVBoxLayout(content_);
    layout->setContentsMargins(14, 12, 14, 12);
    layout->setSpacing(8);
    auto* name = new QLabel(title);
    name->setTextFormat(Qt::PlainText);
    name->setWordWrap(true);
    QFont large = content_->font();
    large.setBold(true);
    large.setPointSizeF(large.pointSizeF() * 1.2);
    name->setFont(large);
    auto* sub = new QLabel(subtitle);
    sub->setTextFormat(Qt::PlainText);
    sub->setWordWrap(true);
    sub->setForegroundRole(QPalette::PlaceholderText);
    layout->addWidget(name);
    layout->addWidget(sub);
    auto* form = new QWidget;
    form_ = new QFormLayout(form);
    form_->setContentsMargins(0, 4, 0, 0);
    form_->setLabelAlignment(Qt::AlignLeft);
    form_->setHorizontalSpacing(10);
    form_->setVerticalSpacing(6);
    form_->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    layout->addWidget(form);
    layout->addStretch(1);
}

void DetailsForm::heading(const QString& words) {
    auto* label = new QLabel(words.toUpper());
    QFont small = content_->font();
    small.setPointSizeF(small.pointSizeF() * 0.85);
    small.setBold(true);
    label->setFont(small);
    label->setForegroundRole(QPalette::PlaceholderText);
    label->setContentsMargins(0, 8, 0, 0);
    form_->addRow(label);
}

void DetailsForm::row(const QString& label, const QString& value) {
    auto* words = new QLabel(value);
    words->setTextFormat(Qt::PlainText);
    words->setWordWrap(true);
    words->setTextInteractionFlags(Qt::TextSelectableByMouse);
    form_->addRow(label, words);
}

void DetailsForm::emptyRow(const QString& words) {
    auto* label = new QLabel(words);
    label->setWordWrap(true);
    form_->addRow(label);
}

void DetailsForm::textRow(const QString& label, const QString& value, const QString& placeholder,
                          Commit commit) {
    auto* box = new QWidget;
    auto* layout = new QVBoxLayout(box);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(2);
    auto* edit = new QLineEdit(value);
    edit->setAccessibleName(label);
    edit->setPlaceholderText(placeholder);
    auto* wrong = new QLabel;
    wrong->setObjectName(QStringLiteral("wrong"));
    wrong->setTextFormat(Qt::PlainText);
    wrong->setWordWrap(true);
    wrong->hide();
    layout->addWidget(edit);
    layout->addWidget(wrong);
    QObject::connect(edit, &QLineEdit::editingFinished, edit,
                     [&editor = editor_, edit, wrong, value, commit = std::move(commit)] {
                         if (edit->text() == value) {
                             wrong->hide();
                             return;
                         }
                         auto act = commit(edit->text().trimmed().toStdString());
                         if (!act) {
                             wrong->setText(QString::fromStdString(act.refusal().text()));
                             wrong->show();
                             return;
                         }
                         wrong->hide();
                         editor.apply(std::move(act));
                     });
    form_->addRow(label, box);
}

void DetailsForm::longRow(const QString& label, const QString& value, Commit commit) {
    auto* edit = new LongField(value);
    edit->setAccessibleName(label);
    edit->setTabChangesFocus(true);
    edit->setFixedHeight(66);
    edit->finished = [&editor = editor_, edit, value, commit = std::move(commit)] {
        if (edit->toPlainText() != value)
            editor.apply(commit(edit->toPlainText().toStdString()));
    };
    form_->addRow(label, edit);
}

void DetailsForm::checkRow(const QString& label, bool value, std::function<edit::ActResult(bool)> commit) {
    auto* box = new QCheckBox(label);
    box->setAccessibleName(label);
    box->setChecked(value);
    QObject::connect(box, &QCheckBox::toggled, box,
                     [&editor = editor_, commit = std::move(commit)](bool on) { editor.apply(commit(on)); });
    form_->addRow(box);
}

void DetailsForm::choiceRow(const QString& label, const QStringList& choices, int current,
                            std::function<edit::ActResult(int)> commit) {
    auto* box = new QComboBox;
    box->setAccessibleName(label);
    box->addItems(choices);
    box->setCurrentIndex(current);
    box->setMinimumContentsLength(8);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    QObject::connect(
        box, &QComboBox::activated, box,
        [&editor = editor_, commit = std::move(commit)](int index) { editor.apply(commit(index)); });
    form_->addRow(label, box);
}

void DetailsForm::linkRow(const QString& label, const QString& words, std::function<void()> act) {
    auto* button = new QPushButton(words);
    button->setFlat(true);
    button->setAccessibleName(label.isEmpty() ? words : QStringLiteral("%1: %2").arg(label, words));
    button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
    button->setToolTip(words);
    QObject::connect(button, &QPushButton::clicked, button, [act = std::move(act)] { act(); });
    form_->addRow(label, button);
}

} // namespace underridge::app
