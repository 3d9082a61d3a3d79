// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/plans/plan_dialog.h"

#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "paint/plan_pictures.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>

namespace underridge::app {
namespace {
constexpr QSize pictureSize(148, 104);
}

PlanDialog::PlanDialog(PlanLibrary& library, FileDialogs& files, const model::Group& group, QWidget* parent)
    : QDialog(parent),
      library_(library),
      group_(group),
      list_(new QListWidget),
      width_(new QDoubleSpinBox),
      ink_(new QCheckBox(tr("Drawn in ink: takes the colour of the theme"))),
      forNew_(new QCheckBox(tr("New networks begin with a floor on this plan"))),
      dim_(new QSpinBox),
      says_(plainLabel()),
      fromFile_(new QPushButton(tr("Add a file…"))),
      remove_(new QPushButton(tr("Remove from library"))),
      act_(new QPushButton(asLabel(tr("Put it under %1").arg(shownText(group.name))))) {
    setObjectName(QStringLiteral("plan"));
    setWindowTitle(tr("Plan of %1").arg(shownText(group.name)));
    resize(760, 560);
    list_->setViewMode(QListView::IconMode);
    list_->setIconSize(pictureSize);
    list_->setGridSize(pictureSize + QSize(24, 36));
    list_->setResizeMode(QListView::Adjust);
    list_->setMovement(QListView::Static);
    list_->setAccessibleName(tr("Plans"));
    width_->setRange(0.5, 1'000'000);
    width_->setDecimals(2);
    width_->setSuffix(tr(" m"));
    width_->setAccessibleName(tr("Width of the picture"));
    dim_->setRange(0, 90);
    dim_->setSingleStep(10);
    dim_->setSuffix(tr(" %"));
    dim_->setValue(group.planDim);
    ink_->setChecked(group.planInk || !group.plan);
    auto* form = new QFormLayout;
    form->addRow(tr("From its left to its right edge"), width_);
    form->addRow(tr("Faded by"), dim_);
    form->addRow(ink_);
    form->addRow(forNew_);
    auto* top = plainLabel(tr("The picture comes under what is drawn of %1. Its scale can be set later by "
                              "measuring a distance that is known.")
                               .arg(shownText(group.name)));
    auto* files_row = new QHBoxLayout;
    files_row->addWidget(fromFile_);
    files_row->addWidget(remove_);
    files_row->addStretch();
    auto* buttons = new QDialogButtonBox;
    buttons->addButton(act_, QDialogButtonBox::AcceptRole);
    buttons->addButton(tr("Cancel"), QDialogButtonBox::RejectRole);
    fromFile_->setAutoDefault(false);
    remove_->setAutoDefault(false);
    act_->setDefault(true);
    auto* column = new QVBoxLayout(this);
    column->addWidget(top);
    column->addWidget(list_, 1);
    column->addLayout(files_row);
    column->addLayout(form);
    column->addWidget(says_);
    column->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(list_, &QListWidget::currentRowChanged, this, &PlanDialog::follow);
    connect(fromFile_, &QPushButton::clicked, this, [this, &files] {
        FileQuestion question;
        question.title = tr("Add a plan");
        question.filter = tr("Pictures (*.svg *.png *.jpg *.jpeg)");
        files.choose(question, [this](const QString& path) { addFile(path); });
    });
    connect(remove_, &QPushButton::clicked, this, [this] {
        const int row = list_->currentRow();
        if (row < 0)
            return;
        if (auto gone = library_.remove(plans_[static_cast<std::size_t>(row)]); !gone)
            says_->setText(shownText(gone.refusal().text()));
        else
            fill({});
    });
    fill({});
}

void PlanDialog::fill(const QString& chosen) {
    plans_ = library_.all();
    const QSignalBlocker quiet(list_);
    list_->clear();
    int row = 0;
    for (const LibraryPlan& plan : plans_) {
        auto* item = new QListWidgetItem(plan.name, list_);
        if (const auto picture = library_.read(plan)) {
            QImage ground(pictureSize, QImage::Format_ARGB32_Premultiplied);
            ground.fill(Qt::white); // ink is dark
            const QImage small =
                paint::smallPicture(QByteArray::fromStdString(picture->bytes), pictureSize - QSize(8, 8));
            QPainter painter(&ground);
            painter.drawImage((ground.width() - small.width()) / 2, (ground.height() - small.height()) / 2,
                              small);
            painter.end();
            item->setIcon(QIcon(QPixmap::fromImage(ground)));
        }
        if (plan.path == chosen)
            row = list_->count() - 1;
    }
    list_->setCurrentRow(row);
    follow();
}

void PlanDialog::follow() {
    const int row = list_->currentRow();
    picture_.reset();
    says_->clear();
    if (row >= 0 && row < static_cast<int>(plans_.size())) {
        const LibraryPlan& plan = plans_[static_cast<std::size_t>(row)];
        auto read = library_.read(plan);
        if (read) {
            width_->setValue(PlanLibrary::usualScale(plan, *read) * read->width / 1000);
            ink_->setChecked(plan.shipped || read->media == "image/svg+xml");
            picture_ = *std::move(read);
            says_->setText(tr("%1 × %2 pixels").arg(picture_->width).arg(picture_->height));
        } else {
            says_->setText(shownText(read.refusal().text()));
        }
        remove_->setEnabled(!plan.shipped);
        const auto first = library_.first();
        forNew_->setChecked(first && first->path == plan.path);
    }
    act_->setEnabled(picture_.has_value());
}

void PlanDialog::addFile(const QString& path) {
    if (path.isEmpty())
        return;
    const auto added = library_.add(path);
    if (!added)
        return says_->setText(shownText(added.refusal().text()));
    fill(added->path);
}

void PlanDialog::keepFirst() {
    const int row = list_->currentRow();
    if (row < 0 || row >= static_cast<int>(plans_.size()))
        return;
    const LibraryPlan& plan = plans_[static_cast<std::size_t>(row)];
    const auto first = library_.first();
    const bool was = first && first->path == plan.path;
    if (was != forNew_->isChecked())
        static_cast<void>(library_.setFirst(was ? std::nullopt : std::optional(plan)));
}

double PlanDialog::mmPerPixel() const {
    return picture_ ? width_->value() * 1000 / picture_->width : 1;
}

edit::PlanLook PlanDialog::look() const {
    return {group_.planXMm, group_.planYMm, group_.planTurn, dim_->value(), ink_->isChecked()};
}

} // namespace underridge::app
