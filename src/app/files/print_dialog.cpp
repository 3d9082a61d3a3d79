// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/files/print_dialog.h"

#include "app/overlays/overlays.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"

#include <QDate>
#include <QDialogButtonBox>
#include <QFileDialog>
#include <QFileInfo>
#include <QFormLayout>
#include <QLocale>
#include <QPrintDialog>
#include <QPrintPreviewWidget>
#include <QPushButton>

namespace underridge::app {
using namespace model;

struct PrintDialog::Work {
    scene::Scene scene;
    Network network;
    paint::PageSetup setup;
    paint::TitleBlock title;
    paint::LaidOver laid;

    void paintOn(QPrinter& printer) const {
        const auto layout = paint::layOut(scene, setup);
        if (!layout)
            return;
        QPainter painter(&printer);
        const double dots = printer.resolution() / 25.4;
        for (int page = 0; page < layout->count(); ++page) {
            if (page > 0)
                printer.newPage();
            painter.save();
            painter.scale(dots, dots);
            paint::drawPage(painter, scene, network, *layout, page, title, laid);
            painter.restore();
        }
    }

    Result<Done> writeTo(Files& files, const std::string& path, bool svg) const {
        const auto bytes = svg ? paint::pageSvg(scene, network, setup, 0, title, laid)
                               : paint::pagesPdf(scene, network, setup, title, laid);
        if (!bytes)
            return bytes.refusal();
        return files.writeAtomically(path, {bytes->constData(), static_cast<std::size_t>(bytes->size())});
    }
};

PrintDialog::Work PrintDialog::work() const {
    return {scene_, network_, setup(), title(), laid_};
}

PrintDialog::PrintDialog(const Desk& desk, QWidget* parent)
    : QDialog(parent),
      desk_(desk),
      scene_(desk_.session.scene()),
      network_(desk_.session.network()),
      laid_{network_, desk_.session.overlays().shown()},
      printer_(std::make_shared<QPrinter>(QPrinter::HighResolution)),
      paper_(new QComboBox),
      orientation_(new QComboBox),
      byPages_(new QRadioButton(tr("Fit on pages"))),
      byScale_(new QRadioButton(tr("At a scale"))),
      across_(new QSpinBox),
      down_(new QSpinBox),
      scale_(new QSpinBox),
      titleBlock_(new QCheckBox(tr("Title block with legend"))),
      revision_(new QLineEdit),
      summary_(plainLabel()) {
    setObjectName(QStringLiteral("print"));
    setWindowTitle(tr("Print"));
    resize(1100, 720);
    for (const char* name : {"A4", "A3", "A2", "A1", "A0"})
        paper_->addItem(QString::fromLatin1(name));
    orientation_->addItems({tr("Landscape"), tr("Portrait")});
    for (QSpinBox* pages : {across_, down_})
        pages->setRange(1, 14);
    scale_->setRange(5, 400);
    scale_->setSuffix(tr(" %"));
    across_->setAccessibleName(tr("Pages across"));
    down_->setAccessibleName(tr("Pages down"));
    scale_->setAccessibleName(tr("Scale"));

    restore();
    layOut();
    connectChoices();
    refresh();
    findRevision();
}

void PrintDialog::restore() {
    const Settings::Pages last = desk_.settings.pages();
    paper_->setCurrentText(last.paper);
    orientation_->setCurrentIndex(last.portrait);
    (last.byScale ? byScale_ : byPages_)->setChecked(true);
    scale_->setValue(last.scalePercent);
    titleBlock_->setChecked(last.titleBlock);
}

void PrintDialog::layOut() {
    auto* form = new QFormLayout;
    form->addRow(tr("Paper"), paper_);
    form->addRow(tr("Orientation"), orientation_);
    form->addRow(byPages_);
    auto* pages = new QHBoxLayout;
    pages->addWidget(across_);
    pages->addWidget(new QLabel(tr("across by")));
    pages->addWidget(down_);
    pages->addWidget(new QLabel(tr("down")));
    pages->addStretch();
    form->addRow(QString(), pages);
    form->addRow(byScale_);
    form->addRow(QString(), scale_);
    form->addRow(titleBlock_);
    form->addRow(tr("Revision"), revision_);
    form->addRow(summary_);
    auto* left = new QVBoxLayout;
    left->addLayout(form);
    left->addStretch();
    auto* buttons = new QDialogButtonBox(Qt::Vertical);
    auto* print = buttons->addButton(tr("Print…"), QDialogButtonBox::ActionRole);
    auto* write = buttons->addButton(tr("Write PDF or SVG…"), QDialogButtonBox::ActionRole);
    buttons->addButton(tr("Close"), QDialogButtonBox::RejectRole);
    print->setDefault(true);
    left->addWidget(buttons);
    preview_ = new QPrintPreviewWidget(printer_.get());
    preview_->setAccessibleName(tr("Preview of the pages"));
    auto* layout = new QHBoxLayout(this);
    layout->addLayout(left);
    layout->addWidget(preview_, 1);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(print, &QPushButton::clicked, this, &PrintDialog::print);
    connect(write, &QPushButton::clicked, this, &PrintDialog::choosePath);
}

void PrintDialog::choosePath() {
    if (askPath) {
        if (const QString path = askPath(); !path.isEmpty())
            writeTo(path);
        return;
    }
    auto* dialog = new QFileDialog(this, tr("Write pages"), desk_.settings.folder(),
                                   tr("PDF, all pages (*.pdf);;SVG, first page (*.svg)"));
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setDefaultSuffix(QStringLiteral("pdf"));
    dialog->selectFile(desk_.proposedName() + QStringLiteral(".pdf"));
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& path) { writeTo(path); });
    dialog->open();
}

void PrintDialog::connectChoices() {
    connect(preview_, &QPrintPreviewWidget::paintRequested, this,
            [this](QPrinter* printer) { work().paintOn(*printer); });
    for (QComboBox* choice : {paper_, orientation_})
        connect(choice, &QComboBox::currentIndexChanged, this, &PrintDialog::refresh);
    for (QSpinBox* number : {across_, down_, scale_})
        connect(number, &QSpinBox::valueChanged, this, &PrintDialog::refresh);
    connect(byScale_, &QRadioButton::toggled, this, &PrintDialog::refresh);
    connect(titleBlock_, &QCheckBox::toggled, this, &PrintDialog::refresh);
    connect(revision_, &QLineEdit::editingFinished, this, &PrintDialog::refresh);
}

void PrintDialog::findRevision() {
    // The revision is told from the whole network, which takes a while when it is large.
    revision_->setPlaceholderText(tr("being found…"));
    reviser_ = std::jthread([this, network = network_] {
        const QString revision = QString::fromStdString(paint::revisionOf(network));
        QMetaObject::invokeMethod(
            this,
            [this, revision] {
                revision_->setPlaceholderText({});
                if (revision_->text().isEmpty() && !revision_->isModified())
                    revision_->setText(revision);
                refresh();
            },
            Qt::QueuedConnection);
    });
}

paint::PageSetup PrintDialog::setup() const {
    paint::PageSetup setup;
    setup.paper = *paint::paperFromText(paper_->currentText().toStdString());
    setup.landscape = orientation_->currentIndex() == 0;
    setup.across = across_->value();
    setup.down = down_->value();
    if (byScale_->isChecked())
        setup.scalePercent = scale_->value();
    setup.titleBlock = titleBlock_->isChecked();
    return setup;
}

paint::TitleBlock PrintDialog::title() const {
    const Sheet* sheet = network_.sheet(scene_.sheet());
    return {network_.info().name, sheet ? sheet->name : std::string(), said(shownDate(QDate::currentDate())),
            revision_->text().toStdString()};
}

void PrintDialog::refresh() {
    const auto wanted = setup();
    across_->setEnabled(byPages_->isChecked());
    down_->setEnabled(byPages_->isChecked());
    scale_->setEnabled(byScale_->isChecked());
    printer_->setPageSize(QPageSize(wanted.paper));
    printer_->setPageOrientation(wanted.landscape ? QPageLayout::Landscape : QPageLayout::Portrait);
    printer_->setFullPage(true);
    const auto layout = paint::layOut(scene_, wanted);
    if (!layout) {
        summary_->setText(QString::fromStdString(layout.refusal().text()));
        return;
    }
    const QString pages = tr("%Ln page(s)", nullptr, layout->count());
    summary_->setText((layout->count() == 1 ? tr("%1 at %L2 %") : tr("%1 at %L2 %, with marks to join them"))
                          .arg(pages)
                          .arg(layout->scalePercent()));
    preview_->updatePreview();
    if (layout->count() > 1)
        preview_->setAllPagesViewMode();
    else
        preview_->setSinglePageViewMode();
    preview_->fitInView();
    desk_.settings.setPages({paper_->currentText(), orientation_->currentIndex() == 1, byScale_->isChecked(),
                             titleBlock_->isChecked(), scale_->value()});
}

void PrintDialog::print() {
    auto* dialog = new QPrintDialog(printer_.get(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this] {
        desk_.jobs.run<Done>(
            tr("Printing"),
            [work = work(), printer = printer_](const Wanted&) {
                work.paintOn(*printer);
                return Done{};
            },
            [&messages = desk_.messages](Done) { messages.tell(advice(tr("sent to the printer"))); });
        accept();
    });
    dialog->open();
}

void PrintDialog::writeTo(const QString& path, WhenDone done) {
    summary_->setText(tr("Writing %1…").arg(path));
    using Made = Result<Done>;
    desk_.jobs.run<Made>(
        tr("Writing %1").arg(QFileInfo(path).fileName()),
        [work = work(), &files = desk_.files(), path = path.toStdString(),
         svg = path.endsWith(QStringLiteral(".svg"), Qt::CaseInsensitive)](const Wanted&) -> Made {
            return work.writeTo(files, path, svg);
        },
        [dialog = QPointer(this), &messages = desk_.messages, path, done](Made written) {
            if (!dialog) // it was closed meanwhile
                messages.tell(written ? advice(tr("pages written"), {}, {path.toStdString()})
                                      : written.refusal());
            else
                dialog->summary_->setText(written ? tr("Written: %1").arg(path)
                                                  : QString::fromStdString(written.refusal().text()));
            done(static_cast<bool>(written));
        },
        done.orNot());
}

} // namespace underridge::app
