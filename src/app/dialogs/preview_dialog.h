// SPDX-License-Identifier: GPL-3.0-or-later
// What dialogs have in common that show row by row what would be done, before it is done.
#pragma once
#include <QDialog>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QLabel>
#include <QPushButton>
#include <QTreeWidget>

namespace underridge::app {

/// Questions above, a sentence that sums up, rows, and two buttons.
class PreviewDialog : public QDialog {
    Q_OBJECT
public:
    QTreeWidget& list() const { return *list_; }
    QPushButton& act() { return *act_; }
    QString summary() const { return summary_->text(); }

protected:
    PreviewDialog(const QString& name, const QString& title, const QStringList& columns,
                  const QString& rowsName, const QString& action, QWidget* parent);

    QFormLayout& form() { return *form_; }
    QDialogButtonBox& buttons() { return *buttons_; }
    void sumUp(const QString& sentence, bool canAct);
    /// Rows in place of those there; `dim`: nothing happens to it.
    void clearRows() { list_->clear(); }
    QTreeWidgetItem* addRow(const QStringList& cells, bool dim = false);
    /// Columns as wide as their texts, the last as wide as there is room.
    void fitColumns();

    /// More rows than anyone reads are not shown; the sentence counts them all.
    static constexpr int mostRows = 5000;

private:
    QFormLayout* form_;
    QLabel* summary_;
    QTreeWidget* list_;
    QDialogButtonBox* buttons_;
    QPushButton* act_;
};

} // namespace underridge::app
