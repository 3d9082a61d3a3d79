// SPDX-License-Identifier: GPL-3.0-or-later
// How a packet goes from one device to another: two ends are said, the way is told step by
// step and laid over the sheet, and where it stops what would mend it.
#pragma once
#include "core/analysis/trace.h"

#include <QCheckBox>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTreeWidget>

namespace underridge::app {

class Checker;
class Session;

class TracePanel : public QWidget {
    Q_OBJECT
public:
    TracePanel(Session& session, Checker& checker, QWidget* parent = nullptr);

    /// Traces between the two devices that are selected, in their order; else waits for its
    /// ends to be typed.
    void start();
    QLineEdit& from() { return *from_; }
    QLineEdit& to() { return *to_; }
    QCheckBox& both() { return *both_; }
    QPushButton& putRight() { return *putRight_; }
    QPushButton& keep() { return *keep_; }
    QTreeWidget& steps() { return *steps_; }
    QString says() const { return says_->text(); }
    const analysis::Trace& shown() const { return trace_; }

Q_SIGNALS:
    void goTo(const std::vector<underridge::model::ObjectRef>& subjects);

protected:
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

private:
    void run();
    void show(const analysis::Trace& there, const analysis::Trace& back);
    static QString narrowWords(const analysis::Trace& trace);
    void add(const analysis::Trace& trace, const QString& heading);
    void lay();

    Session& session_;
    Checker& checker_;
    QLineEdit *from_, *to_;
    QComboBox* protocol_;
    QSpinBox* port_;
    QCheckBox* both_;
    QPushButton *swap_, *putRight_, *keep_;
    QLabel* says_;
    QTreeWidget* steps_;
    analysis::Trace trace_; ///< the one that is laid over the sheet
    bool any_ = false;
};

} // namespace underridge::app
