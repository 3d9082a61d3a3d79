// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/status_line.h"

#include "app/jobs/jobs.h"
#include "core/edit/document.h"
#include "paint/theme.h"

#include <QFileInfo>
#include <algorithm>

namespace underridge::app {
namespace {
constexpr int messageMs = 6000;
}

StatusLine::StatusLine(Jobs& jobs, QWidget* parent)
    : QStatusBar(parent),
      jobs_(jobs),
      hint_(new QLabel),
      job_(new QLabel),
      counts_(new QLabel),
      zoom_(new QLabel),
      saved_(new QLabel),
      cancel_(new QToolButton) {
    hint_->setTextFormat(Qt::PlainText);
    hint_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    job_->setTextFormat(Qt::PlainText);
    cancel_->setText(tr("Cancel"));
    cancel_->setAutoRaise(true);
    addWidget(hint_, 1);
    for (QWidget* part : std::initializer_list<QWidget*>{job_, cancel_, counts_, zoom_, saved_})
        addPermanentWidget(part);
    setSizeGripEnabled(false);
    setContentsMargins(8, 2, 12, 2);
    message_.setSingleShot(true);
    connect(&message_, &QTimer::timeout, this, &StatusLine::showHint);
    connect(&jobs_, &Jobs::changed, this, &StatusLine::showJob);
    connect(cancel_, &QToolButton::clicked, &jobs_, qOverload<>(&Jobs::cancel));
    showJob();
}

void StatusLine::showJob() {
    job_->setText(jobs_.words());
    job_->setVisible(!job_->text().isEmpty());
    cancel_->setVisible(!job_->text().isEmpty());
    cancel_->setAccessibleName(tr("Cancel: %1").arg(job_->text()));
}

void StatusLine::setHint(const QString& hint, bool urgent) {
    latestHint_ = hint;
    if (message_.isActive() && !urgent)
        return; // a refusal stays to be read
    message_.stop();
    showHint();
}

void StatusLine::showHint() {
    hint_->setPalette({});
    hint_->setToolTip({});
    hint_->setText(latestHint_);
}

void StatusLine::tell(const Remark& remark, const paint::Theme& theme) {
    const QColor colour = remark.severity == Severity::advice    ? theme.advice
                          : remark.severity == Severity::warning ? theme.warning
                                                                 : theme.error;
    QPalette coloured = palette();
    coloured.setColor(QPalette::WindowText, colour);
    hint_->setPalette(coloured);
    const auto sentence = [](const Remark& said) {
        const QString words = QString::fromStdString(said.text());
        return said.where.file.empty() ? words.left(1).toUpper() + words.mid(1)
                                       : words; // a name stays as it is
    };
    Remark brief = remark; // the folder would take the room of what matters
    brief.where.file = QFileInfo(QString::fromStdString(remark.where.file)).fileName().toStdString();
    hint_->setText(sentence(brief));
    hint_->setToolTip(sentence(remark));
    message_.start(messageMs);
}

void StatusLine::showZoom(double zoom) {
    zoom_->setText(QStringLiteral("%1 %").arg(qRound(zoom * 100)));
}

void StatusLine::showState(const edit::Document& document, bool saving) {
    const auto& trouble = document.journalTrouble();
    saved_->setText(saving                    ? tr("saving…")
                    : trouble                 ? tr("journal cannot be written")
                    : document.modified()     ? tr("not saved")
                    : document.path().empty() ? tr("new")
                                              : tr("saved"));
    saved_->setToolTip(QString::fromStdString(trouble ? trouble->text() : document.path()));
    const auto& network = document.network();
    std::size_t links = network.all<model::Link>().size();
    const auto sheets = network.sheetsInOrder();
    if (std::any_of(sheets.begin(), sheets.end(),
                    [](const model::Sheet& sheet) { return sheet.layer == model::SheetLayer::upper; }))
        network.all<model::Link>().forEach([&](const model::Link& link) { links -= link.isUpper(); });
    counts_->setText(
        QStringList{tr("%Ln device(s)", nullptr, static_cast<int>(network.all<model::Device>().size())),
                    tr("%Ln link(s)", nullptr, static_cast<int>(links))}
            .join(QStringLiteral(" · ")));
}

} // namespace underridge::app
