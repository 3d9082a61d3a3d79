// SPDX-License-Identifier: GPL-3.0-or-later
// The line below: what a gesture asks for and what was refused, what is being worked on,
// counts, zoom, and whether the network is saved.
#pragma once
#include "core/base/remark.h"

#include <QLabel>
#include <QStatusBar>
#include <QTimer>
#include <QToolButton>

namespace underridge::edit {
class Document;
}
namespace underridge::paint {
struct Theme;
}

namespace underridge::app {

class Jobs;

class StatusLine : public QStatusBar {
    Q_OBJECT
public:
    explicit StatusLine(Jobs& jobs, QWidget* parent = nullptr);

    /// What the present gesture asks for. A message stays to be read unless it is
    /// `urgent`: something is under way with the mouse.
    void setHint(const QString& hint, bool urgent);
    /// Shows a message for a few seconds, in the colour of its severity.
    void tell(const Remark& remark, const paint::Theme& theme);
    void showZoom(double zoom);
    void setZoomShown(bool on) { zoom_->setVisible(on); }
    /// Whether it is saved, and how much there is.
    void showState(const edit::Document& document, bool saving);
    QString text() const { return hint_->text(); }

private:
    void showHint();
    void showJob();

    Jobs& jobs_;
    QLabel *hint_, *job_, *counts_, *zoom_, *saved_;
    QToolButton* cancel_;
    QString latestHint_;
    QTimer message_; ///< runs while a message is shown
};

} // namespace underridge::app
