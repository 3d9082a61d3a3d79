// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/add_field.h"

#include "app/session/typed_fields.h"

#include <QKeyEvent>
#include <QVBoxLayout>

namespace underridge::app {

AddField::AddField(const model::Catalogue& catalogue, QWidget* parent)
    : FloatingBox(QStringLiteral("addField"), parent),
      catalogue_(catalogue),
      purpose_(new QLabel(this)),
      answer_(plainLabel()),
      field_(new QLineEdit(this)),
      matches_(new QListWidget(this)) {
    field_->setPlaceholderText(tr("4 access switch 24 named acc-{1..}"));
    field_->setAccessibleName(tr("Devices to add"));
    matches_->setFocusPolicy(Qt::NoFocus);
    matches_->setFrameShape(QFrame::NoFrame);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(10, 8, 10, 8);
    layout->setSpacing(4);
    for (QWidget* widget : std::initializer_list<QWidget*>{purpose_, field_, matches_, answer_})
        layout->addWidget(widget);
    field_->installEventFilter(this);
    connect(field_, &QLineEdit::textChanged, this, &AddField::refresh);
    connect(field_, &QLineEdit::returnPressed, this, &AddField::accept);
    connect(matches_, &QListWidget::itemClicked, this, [this](QListWidgetItem* item) {
        matches_->setCurrentItem(item);
        accept();
    });
    resize(360, 268);
    hide();
}

void AddField::open(QPoint at, const QString& purpose) {
    purpose_->setText(purpose);
    setAccessibleName(purpose);
    field_->clear();
    refresh();
    const QRect room = parentWidget()->rect();
    move(std::clamp(at.x(), 4, std::max(4, room.width() - width() - 4)),
         std::clamp(at.y(), 4, std::max(4, room.height() - height() - 4)));
    show();
    raise();
    field_->setFocus();
}

void AddField::refresh() {
    matches_->clear();
    for (const model::DeviceModel* model : edit::completions(field_->text().toStdString(), catalogue_)) {
        auto* item = new QListWidgetItem(
            QStringLiteral("%1   %2").arg(QString::fromStdString(model->name),
                                          QString::fromStdString(model::portSummary(*model))),
            matches_);
        item->setData(Qt::UserRole, QString::fromStdString(model->id));
        item->setToolTip(item->text());
    }
    matches_->setCurrentRow(0);
    const auto addition = edit::parseAddition(field_->text().toStdString(), catalogue_);
    if (field_->text().trimmed().isEmpty())
        answer_->setText(tr("Type a count, a model and a name series; Enter adds, Tab completes"));
    else if (!addition)
        answer_->setText(QString::fromStdString(addition.refusal().text()));
    else
        answer_->setText(tr("Enter adds %L1 × %2, named %3")
                             .arg(addition->count)
                             .arg(QString::fromStdString(addition->model->name),
                                  QString::fromStdString(addition->pattern)));
}

void AddField::accept() {
    std::string typed = field_->text().toStdString();
    if (const auto* item = matches_->currentItem())
        if (const auto* model = catalogue_.device(item->data(Qt::UserRole).toString().toStdString()))
            typed = edit::completed(typed, *model);
    const auto addition = edit::parseAddition(typed, catalogue_);
    if (!addition) {
        answer_->setText(QString::fromStdString(addition.refusal().text()));
        return;
    }
    hide();
    Q_EMIT accepted(*addition);
}

bool AddField::eventFilter(QObject* watched, QEvent* event) {
    if (watched == field_ && event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        const int rows = matches_->count();
        switch (key->key()) {
        case Qt::Key_Escape:
            hide();
            Q_EMIT closed();
            return true;
        case Qt::Key_Down:
            matches_->setCurrentRow(std::min(matches_->currentRow() + 1, rows - 1));
            return true;
        case Qt::Key_Up:
            matches_->setCurrentRow(std::max(matches_->currentRow() - 1, 0));
            return true;
        case Qt::Key_Tab:
            if (const auto* item = matches_->currentItem())
                if (const auto* model = catalogue_.device(item->data(Qt::UserRole).toString().toStdString()))
                    field_->setText(
                        QString::fromStdString(edit::completed(field_->text().toStdString(), *model)) +
                        QLatin1Char(' '));
            return true;
        default:
            break;
        }
    }
    if (watched == field_ && event->type() == QEvent::FocusOut && isVisible() &&
        TypedFields::leaves(*static_cast<QFocusEvent*>(event))) {
        hide();
        Q_EMIT closed();
    }
    return FloatingBox::eventFilter(watched, event);
}

} // namespace underridge::app
