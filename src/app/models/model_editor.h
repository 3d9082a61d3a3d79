// SPDX-License-Identifier: GPL-3.0-or-later
// The library of own device models: made, copied and changed here, with plate and
// faceplate drawn as one types.
#pragma once
#include "app/models/blocks_table.h"
#include "core/model/catalogue.h"
#include "paint/theme.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSpinBox>
#include <functional>

class QFormLayout;

namespace underridge::app {

class ModelEditor : public QDialog {
    Q_OBJECT
public:
    /// `catalogue`: the models that ship with the program, to be copied; `own`: the
    /// library.
    ModelEditor(model::Catalogue catalogue, std::vector<model::DeviceModel> own, const paint::Theme& theme,
                QWidget* parent);

    const std::vector<model::DeviceModel>& own() const { return own_; }
    QListWidget& list() { return *list_; }
    QLineEdit& name() { return *name_; }
    QComboBox& role() { return *role_; }
    BlocksTable& blocks() { return *blocks_; }
    QString problems() const { return problems_->text(); }
    QSpinBox& draws() { return *draws_; }
    QDoubleSpinBox& weight() { return *weight_; }
    QPushButton& saveButton() { return *save_; }

    void addNew();
    void addCopy(const std::string& id);
    void addBlock();
    bool importFrom(const QString& path);
    bool exportTo(const QString& path) const;

    /// Answers a question instead of a person, for tests.
    std::function<bool(const QString& question)> answer;

Q_SIGNALS:
    /// The library is to be kept as it is now.
    void saved();

protected:
    void reject() override;

private:
    QLayout* listPart();
    QFormLayout* fieldsPart();
    void buildForm(QFormLayout* form);
    void fillList(int current);
    void showModel(int row);
    model::DeviceModel edited() const;
    void refresh();
    void keep();
    void goTo(int row);
    /// Keeps what was changed in the model shown. False when it cannot be kept as it is.
    bool keepChanges();
    void removeModel(const std::string& id);
    void ask(const QString& question, const QString& action, std::function<void()> then);
    void chooseFile(const QString& title, QFileDialog::AcceptMode mode,
                    std::function<void(const QString&)> then);
    void drawPicture(const model::DeviceModel& model);

    const model::Catalogue catalogue_;
    std::vector<model::DeviceModel> own_;
    const paint::Theme& theme_;
    int current_ = -1;
    bool filling_ = false, dirty_ = false;
    QListWidget* list_;
    QWidget* form_;
    QLineEdit* name_;
    QComboBox* role_;
    QSpinBox *units_, *depth_, *budget_, *draws_, *carries_;
    QCheckBox* half_;
    QDoubleSpinBox* weight_;
    BlocksTable* blocks_;
    QLabel *summary_, *problems_, *picture_;
    QPushButton *save_, *remove_;
};

} // namespace underridge::app
