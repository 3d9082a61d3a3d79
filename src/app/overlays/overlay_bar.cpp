// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/overlays/overlay_bar.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "app/window/checker.h"
#include "core/analysis/forwarding.h"
#include "paint/overlays/forwarding_overlays.h"

#include <QHBoxLayout>
#include <QKeyEvent>

namespace underridge::app {

OverlayBar::OverlayBar(Session& session, Checker& checker, QWidget* parent)
    : QWidget(parent),
      session_(session),
      checker_(checker),
      choice_(new QComboBox),
      says_(plainLabel()),
      off_(new QToolButton) {
    auto* name = plainLabel(tr("Overlay"));
    name->setWordWrap(false);
    choice_->setAccessibleName(tr("Overlay"));
    choice_->setMinimumContentsLength(28);
    choice_->installEventFilter(this);
    says_->setWordWrap(false);
    off_->setText(tr("Off"));
    off_->setToolTip(tr("Take the overlay off"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(8, 0, 8, 0);
    row->setSpacing(8);
    row->addWidget(name);
    row->addWidget(choice_);
    row->addWidget(says_, 1);
    row->addWidget(off_);
    connect(choice_, &QComboBox::currentIndexChanged, this, [this] {
        if (open_)
            apply();
    });
    connect(off_, &QToolButton::clicked, this, &OverlayBar::close);
    connect(&checker_, &Checker::changed, this, [this] {
        if (!open_)
            return;
        fill();
        apply();
    });
}

void OverlayBar::open() {
    open_ = true;
    fill();
    apply();
    Q_EMIT wantedChanged();
    choice_->setFocus();
}

void OverlayBar::close() {
    open_ = false;
    session_.overlays().remove(paint::NetworkOverlay::name());
    Q_EMIT wantedChanged();
    Q_EMIT left();
}

bool OverlayBar::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Escape) {
        close();
        return true;
    }
    return QWidget::eventFilter(watched, event);
}

void OverlayBar::fill() {
    const QSignalBlocker quiet(choice_);
    const QString held = choice_->currentData().toString();
    choice_->clear();
    for (const paint::OverlayChoice& each : paint::overlayChoices(session_.network()))
        choice_->addItem(each.text, each.key);
    if (const int at = choice_->findData(held); at >= 0)
        choice_->setCurrentIndex(at);
}

void OverlayBar::apply() {
    const auto forwarding = checker_.forwarding();
    if (!forwarding) {
        says_->setText(tr("being worked out"));
        return;
    }
    auto overlay = paint::overlayOf(choice_->currentData().toString(), *forwarding, checker_.findings());
    if (!overlay)
        return;
    says_->setText(overlay->legend());
    session_.overlays().put(std::move(overlay));
}

} // namespace underridge::app
