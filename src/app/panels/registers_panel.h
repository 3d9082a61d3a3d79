// SPDX-License-Identifier: GPL-3.0-or-later
// The registers: tables of devices, ports, links and cables that can be sorted, filtered,
// typed into and pasted into; what is selected here is selected on the sheet, and the
// other way round.
#pragma once
#include "app/dialogs/preview_dialog.h"
#include "app/panels/register_model.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QTableView>
#include <QTimer>
#include <QToolButton>
#include <QTreeWidget>

class QSettings;

namespace underridge::app {

class Session;

/// What a paste or a series would change, row by row; what is wrong is left out.
class CellsPreview : public PreviewDialog {
    Q_OBJECT
public:
    CellsPreview(const std::vector<edit::CellPreview>& previews, edit::Register which,
                 const std::vector<QString>& rowNames, QWidget* parent);
    int changes() const { return changes_; }
    int wrong() const { return wrong_; }

private:
    int changes_ = 0, wrong_ = 0;
};

class Dialogs;

class RegistersPanel : public QWidget {
    Q_OBJECT
public:
    RegistersPanel(Session& session, QSettings& settings, Dialogs& dialogs, QWidget* parent = nullptr);

    QTableView& table() { return *table_; }
    QLineEdit& filter() { return *filter_; }
    QComboBox& choice() { return *choice_; }
    RegisterModel& model() { return *model_; }
    QToolButton& adding() { return *add_; }
    QToolButton& removing() { return *remove_; }
    QString counts() const { return counts_->text(); }

    void show(edit::Register which);
    void copy();
    void paste(const QString& text);
    /// Goes on from the first selected cell: till-03, till-04 …
    void fillSeries();
    /// Adds a row like the current one, or to the device that is selected.
    void addRow();
    /// Takes the selected rows away, where what they stand for has no place on the sheet.
    void removeRows();

    /// Takes what is typed in a cell, which stays open.
    bool commitTyped();

Q_SIGNALS:
    /// An object was chosen by a double click or Enter on a cell that is not typed into.
    void goTo(const std::vector<underridge::model::ObjectRef>& subjects);

protected:
    void showEvent(QShowEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void setUpTable();
    void connectAll();
    void refresh();
    void refreshCounts();
    /// The field of the cell that is typed into, if one is.
    QWidget* openCell() const;
    void fillColumnsMenu();
    void selectInNetwork();
    void selectInTable();
    void offer(const std::vector<edit::CellChange>& changes);

    Session& session_;
    QSettings& settings_;
    Dialogs& dialogs_;
    RegisterModel* model_;
    QComboBox* choice_;
    QLineEdit* filter_;
    QToolButton *columns_, *fill_, *add_, *remove_;
    QLabel* counts_;
    QTableView* table_;
    QTimer later_;
    bool selecting_ = false;
};

} // namespace underridge::app
