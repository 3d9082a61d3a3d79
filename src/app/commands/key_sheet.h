// SPDX-License-Identifier: GPL-3.0-or-later
// Every key and gesture on one sheet, as F1 shows it: made from the command table with
// the person's own keys.
#pragma once
#include <QDialog>
#include <QLineEdit>
#include <QTextBrowser>

class QSettings;

namespace underridge::app {

/// `words`: only lines that say them; empty: all.
QString keySheetHtml(const QSettings& settings, const QString& words = {});

class KeySheet : public QDialog {
    Q_OBJECT
public:
    KeySheet(const QSettings& settings, QWidget* parent);

    QLineEdit& search() { return *search_; }
    QTextBrowser& sheet() { return *sheet_; }

private:
    QLineEdit* search_;
    QTextBrowser* sheet_;
};

/// Opens it beside the window, or brings it up when it is open.
void showKeySheet(const QSettings& settings, QWidget* window);

} // namespace underridge::app
