// SPDX-License-Identifier: GPL-3.0-or-later
// Printing with a preview that is drawn by what prints.
#pragma once
#include "app/desk.h"
#include "core/model/network.h"
#include "core/scene/scene.h"
#include "paint/pages.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPrinter>
#include <QRadioButton>
#include <QSpinBox>
#include <thread>

class QPrintPreviewWidget;

namespace underridge::app {

class PrintDialog : public QDialog {
    Q_OBJECT
public:
    /// Of the sheet shown, as it is now.
    PrintDialog(const Desk& desk, QWidget* parent);

    QComboBox& paper() { return *paper_; }
    QRadioButton& byScale() { return *byScale_; }
    QRadioButton& byPages() { return *byPages_; }
    QSpinBox& scale() { return *scale_; }
    QSpinBox& across() { return *across_; }
    QSpinBox& down() { return *down_; }
    QLineEdit& revision() { return *revision_; }
    QString summary() const { return summary_->text(); }
    paint::PageSetup setup() const;
    /// Writes all pages as a PDF file, or the first as SVG, by suffix; what came of it is
    /// said in the dialog.
    void writeTo(const QString& path, WhenDone done = {});

    std::function<QString()> askPath; ///< a file name from a dialog unless a test says

private:
    void restore();
    void layOut();
    void connectChoices();
    /// Told from the whole network, which takes a while when it is large: by a worker.
    void findRevision();
    void refresh();
    void choosePath();
    void print();
    paint::TitleBlock title() const;
    /// What is printed, as it is chosen now: to be painted on any thread.
    struct Work;
    Work work() const;

    Desk desk_;
    scene::Scene scene_;
    model::Network network_;
    paint::LaidOver laid_; ///< as the window shows them
    std::shared_ptr<QPrinter> printer_;
    QPrintPreviewWidget* preview_;
    QComboBox *paper_, *orientation_;
    QRadioButton *byPages_, *byScale_;
    QSpinBox *across_, *down_, *scale_;
    QCheckBox* titleBlock_;
    QLineEdit* revision_;
    QLabel* summary_;
    std::jthread reviser_;
};

} // namespace underridge::app
