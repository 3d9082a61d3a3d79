// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/model_editor.h"

#include "app/dialogs/dialogs.h"
#include "app/style/pieces.h"
#include "app/titles.h"
#include "core/exchange/library.h"
#include "core/scene/plates.h"
#include "paint/faceplate.h"
#include "paint/sheet_painter.h"

#include <QDialogButtonBox>
#include <QFile>
#include <QFileDialog>
#include <QFormLayout>
#include <QMenu>
#include <QSaveFile>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>

namespace underridge::app {
using namespace model;
ModelEditor::ModelEditor(Catalogue catalogue, std::vector<DeviceModel> own, const paint::Theme& theme,
                         QWidget* parent)
    : QDialog(parent),
      catalogue_(std::move(catalogue)),
      own_(std::move(own)),
      theme_(theme),
      list_(new QListWidget),
      form_(new QWidget),
      name_(new QLineEdit),
      role_(new QComboBox),
      units_(new QSpinBox),
      depth_(new QSpinBox),
      budget_(new QSpinBox),
      draws_(new QSpinBox),
      carries_(new QSpinBox),
      half_(new QCheckBox(tr("Half as wide as a rack"))),
      weight_(new QDoubleSpinBox),
      blocks_(new BlocksTable),
      summary_(plainLabel()),
      problems_(errorLabel()),
      picture_(new QLabel),
      save_(new QPushButton(tr("Save model"))),
      remove_(new QPushButton(tr("Delete"))) {
    setObjectName(QStringLiteral("models"));
    setWindowTitle(tr("Own models"));
    resize(1040, 640);
    auto* layout = new QHBoxLayout(this);
    layout->addLayout(listPart(), 1);
    buildForm(fieldsPart());
    layout->addWidget(form_, 4);
    fillList(own_.empty() ? -1 : 0);
}

/// The own models, and what can be done with them as a whole.
QLayout* ModelEditor::listPart() {
    auto* left = new QVBoxLayout;
    list_->setAccessibleName(tr("Own models"));
    left->addWidget(list_, 1);
    auto* fresh = new QPushButton(tr("New model"));
    auto* copy = new QPushButton(tr("Copy of…"));
    auto* models = new QMenu(copy);
    connect(models, &QMenu::aboutToShow, this, [this, models] {
        models->clear();
        std::map<Role, QMenu*> menus;
        for (const DeviceModel& model : catalogue_.devices) {
            QMenu*& menu = menus[model.role];
            if (!menu)
                menu = models->addMenu(QString::fromUtf8(pluralOf(model.role).data()));
            connect(menu->addAction(QString::fromStdString(model.name)), &QAction::triggered, this,
                    [this, id = model.id] { addCopy(id); });
        }
    });
    copy->setMenu(models);
    auto* bring = new QPushButton(tr("Import…"));
    auto* take = new QPushButton(tr("Export…"));
    for (QPushButton* button : {fresh, copy, remove_, bring, take}) {
        left->addWidget(button);
        button->setAutoDefault(false);
    }
    connect(list_, &QListWidget::currentRowChanged, this, &ModelEditor::goTo);
    connect(fresh, &QPushButton::clicked, this, &ModelEditor::addNew);
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (current_ < 0)
            return;
        const DeviceModel& model = own_[static_cast<std::size_t>(current_)];
        ask(tr("Delete the model “%1” from the library? Networks that use it keep their copy.")
                .arg(QString::fromStdString(model.name)),
            tr("Delete"), [this, id = model.id] { removeModel(id); });
    });
    connect(bring, &QPushButton::clicked, this, [this] {
        chooseFile(tr("Import models"), QFileDialog::AcceptOpen,
                   [this](const QString& path) { importFrom(path); });
    });
    connect(take, &QPushButton::clicked, this, [this] {
        chooseFile(tr("Export models"), QFileDialog::AcceptSave,
                   [this](const QString& path) { exportTo(path); });
    });
    return left;
}

QFormLayout* ModelEditor::fieldsPart() {
    auto* form = new QFormLayout;
    name_->setPlaceholderText(tr("Crane controller"));
    role_->addItems(titlesOf<Role>());
    units_->setRange(0, 50);
    units_->setSpecialValueText(tr("not in a rack"));
    depth_->setRange(0, 2'000);
    depth_->setSingleStep(10);
    depth_->setSuffix(tr(" mm"));
    depth_->setSpecialValueText(tr("not known"));
    connect(depth_, &QSpinBox::valueChanged, this, &ModelEditor::refresh);
    connect(half_, &QCheckBox::toggled, this, &ModelEditor::refresh);
    budget_->setRange(0, 20000);
    budget_->setSuffix(tr(" W"));
    for (QSpinBox* watts : {draws_, carries_}) {
        watts->setRange(0, 100'000);
        watts->setSingleStep(10);
        watts->setSuffix(tr(" W"));
        watts->setSpecialValueText(tr("not known"));
        connect(watts, &QSpinBox::valueChanged, this, &ModelEditor::refresh);
    }
    draws_->setAccessibleName(tr("Draws at most"));
    carries_->setAccessibleName(tr("Can carry for others"));
    weight_->setRange(0, 2'000);
    weight_->setDecimals(2);
    weight_->setSuffix(tr(" kg"));
    weight_->setSpecialValueText(tr("not known"));
    weight_->setAccessibleName(tr("Weighs"));
    connect(weight_, &QDoubleSpinBox::valueChanged, this, &ModelEditor::refresh);
    form->addRow(tr("Name"), name_);
    form->addRow(tr("Role"), role_);
    form->addRow(tr("Rack units"), units_);
    form->addRow(tr("Behind the rails"), depth_);
    form->addRow(QString(), half_);
    form->addRow(tr("Power for its ports"), budget_);
    form->addRow(tr("Draws at most"), draws_);
    form->addRow(tr("Can carry for others"), carries_);
    form->addRow(tr("Weighs"), weight_);
    connect(name_, &QLineEdit::textEdited, this, &ModelEditor::refresh);
    connect(role_, &QComboBox::currentIndexChanged, this, &ModelEditor::refresh);
    connect(units_, &QSpinBox::valueChanged, this, &ModelEditor::refresh);
    connect(budget_, &QSpinBox::valueChanged, this, &ModelEditor::refresh);
    connect(blocks_, &BlocksTable::edited, this, &ModelEditor::refresh);
    return form;
}

/// One model: its fields, its port blocks and how it will look.
void ModelEditor::buildForm(QFormLayout* form) {
    auto* addRow = new QPushButton(tr("Add port block"));
    auto* dropRow = new QPushButton(tr("Remove port block"));
    auto* rows = new QHBoxLayout;
    rows->addWidget(addRow);
    rows->addWidget(dropRow);
    rows->addStretch();
    auto* scroll = new QScrollArea;
    scroll->setWidget(picture_);
    scroll->setWidgetResizable(true);
    scroll->setMinimumHeight(190);
    picture_->setAlignment(Qt::AlignCenter);
    picture_->setAccessibleName(tr("Plate and faceplate"));
    auto* right = new QVBoxLayout(form_);
    right->setContentsMargins(0, 0, 0, 0);
    right->addLayout(form);
    right->addWidget(blocks_, 1);
    right->addLayout(rows);
    right->addWidget(scroll, 1);
    right->addWidget(summary_);
    right->addWidget(problems_);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch();
    buttons->addWidget(save_);
    auto* shut = new QPushButton(tr("Close"));
    buttons->addWidget(shut);
    right->addLayout(buttons);
    for (QPushButton* button : {addRow, dropRow, shut})
        button->setAutoDefault(false); // Enter in a field keeps the model, and does nothing else
    save_->setDefault(true);
    connect(addRow, &QPushButton::clicked, this, &ModelEditor::addBlock);
    connect(dropRow, &QPushButton::clicked, blocks_, &BlocksTable::removeOne);
    connect(save_, &QPushButton::clicked, this, &ModelEditor::keep);
    connect(shut, &QPushButton::clicked, this, &ModelEditor::reject);
}

void ModelEditor::fillList(int current) {
    filling_ = true;
    list_->clear();
    for (const DeviceModel& model : own_)
        list_->addItem(QString::fromStdString(model.name));
    list_->setCurrentRow(current);
    filling_ = false;
    showModel(current);
}

/// Leaving a model keeps what was changed in it; what cannot be kept is to be put right
/// first.
void ModelEditor::goTo(int row) {
    if (filling_ || row == current_)
        return;
    if (!keepChanges()) {
        filling_ = true;
        list_->setCurrentRow(current_);
        filling_ = false;
        return;
    }
    showModel(row);
}

bool ModelEditor::keepChanges() {
    if (!dirty_ || current_ < 0)
        return true;
    if (!save_->isEnabled())
        return false; // what is wrong stands below
    own_[static_cast<std::size_t>(current_)] = edited();
    list_->item(current_)->setText(name_->text().trimmed());
    dirty_ = false;
    Q_EMIT saved();
    return true;
}

void ModelEditor::removeModel(const std::string& id) {
    const auto at =
        std::find_if(own_.begin(), own_.end(), [&](const DeviceModel& each) { return each.id == id; });
    if (at == own_.end())
        return;
    const auto row = static_cast<int>(at - own_.begin());
    own_.erase(at);
    dirty_ = false;
    fillList(std::min(row, static_cast<int>(own_.size()) - 1));
    Q_EMIT saved();
}

void ModelEditor::ask(const QString& question, const QString& action, std::function<void()> then) {
    if (answer) {
        if (answer(question))
            then();
        return;
    }
    auto* box =
        new QuestionBox({windowTitle(),
                         question,
                         {{action, QMessageBox::DestructiveRole}, {tr("Cancel"), QMessageBox::RejectRole}}},
                        this);
    box->setAttribute(Qt::WA_DeleteOnClose);
    connect(box, &QDialog::finished, this, [box, then = std::move(then)] {
        if (box->chosen() == 0)
            then();
    });
    box->open();
}

void ModelEditor::chooseFile(const QString& title, QFileDialog::AcceptMode mode,
                             std::function<void(const QString&)> then) {
    auto* dialog = new QFileDialog(this, title, {}, tr("Models (*.json)"));
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->setAcceptMode(mode);
    dialog->setFileMode(mode == QFileDialog::AcceptOpen ? QFileDialog::ExistingFile : QFileDialog::AnyFile);
    dialog->setDefaultSuffix(QStringLiteral("json"));
    if (mode == QFileDialog::AcceptSave)
        dialog->selectFile(QStringLiteral("models.json"));
    connect(dialog, &QFileDialog::fileSelected, this, std::move(then));
    dialog->open();
}

void ModelEditor::showModel(int row) {
    if (filling_)
        return;
    filling_ = true;
    current_ = row;
    dirty_ = false;
    const bool any = row >= 0 && row < static_cast<int>(own_.size());
    for (QWidget* field : std::initializer_list<QWidget*>{name_, role_, units_, depth_, half_, budget_,
                                                          draws_, carries_, weight_, blocks_, save_, remove_})
        field->setEnabled(any);
    blocks_->show({});
    if (any) {
        const DeviceModel& model = own_[static_cast<std::size_t>(row)];
        name_->setText(QString::fromStdString(model.name));
        role_->setCurrentIndex(static_cast<int>(model.role));
        units_->setValue(model.rackUnits);
        depth_->setValue(model.depthMm);
        half_->setChecked(model.halfWidth);
        budget_->setValue(model.powerBudgetW);
        draws_->setValue(model.watts);
        carries_->setValue(model.ratingWatts);
        weight_->setValue(model.weightKg);
        blocks_->show(model.ports.blocks());
    }
    filling_ = false;
    refresh();
    dirty_ = false;
    if (!any)
        summary_->setText(
            tr("No own models yet. Make a new one, or a copy of one that ships with the program."));
}

DeviceModel ModelEditor::edited() const {
    DeviceModel model = own_[static_cast<std::size_t>(current_)]; // slots and further fields stay
    model.name = name_->text().trimmed().toStdString();
    model.role = static_cast<Role>(role_->currentIndex());
    model.rackUnits = units_->value();
    model.depthMm = depth_->value();
    model.halfWidth = half_->isChecked();
    model.powerBudgetW = budget_->value();
    model.watts = draws_->value();
    model.ratingWatts = carries_->value();
    model.weightKg = weight_->value();
    model.ports = PortLayout(blocks_->blocks());
    return model;
}

void ModelEditor::refresh() {
    if (filling_)
        return;
    dirty_ = true;
    if (current_ < 0) {
        picture_->clear();
        problems_->clear();
        return;
    }
    const DeviceModel model = edited();
    const auto wrong = problemsOf(model);
    problems_->setText(wrong.empty() ? QString() : QString::fromStdString(wrong.front().text()));
    problems_->setVisible(!wrong.empty());
    save_->setEnabled(wrong.empty());
    summary_->setText(QString::fromStdString(portSummary(model)));
    drawPicture(model);
}

/// Plate and faceplate, one above the other.
void ModelEditor::drawPicture(const DeviceModel& model) {
    const auto plate = scene::plateFor(model, model.name.empty() ? "device-1" : model.name, {0, 0});
    const QSizeF face = paint::faceplateSize(model);
    constexpr double space = 16;
    const QSizeF size(std::max(face.width(), plate.frame.w) + 2 * space,
                      plate.frame.h + face.height() + 3 * space);
    const double ratio = devicePixelRatioF();
    QImage image((size * ratio).toSize(), QImage::Format_ARGB32_Premultiplied);
    image.setDevicePixelRatio(ratio);
    image.fill(theme_.sheet);
    QPainter painter(&image);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.translate(space, space);
    paint::SheetPainter(theme_).plate(painter, plate, scene::Detail::near);
    painter.translate(0, plate.frame.h + space);
    paint::paintFaceplate(painter, model, theme_);
    painter.end();
    picture_->setPixmap(QPixmap::fromImage(image));
}

void ModelEditor::keep() {
    if (current_ < 0)
        return;
    own_[static_cast<std::size_t>(current_)] = edited();
    dirty_ = false;
    const int row = current_;
    fillList(row);
    Q_EMIT saved();
}

void ModelEditor::reject() {
    if (!dirty_ || current_ < 0)
        return QDialog::reject();
    if (save_->isEnabled() && keepChanges())
        return QDialog::reject();
    ask(tr("This model cannot be kept as it is. Drop its changes?"), tr("Drop changes"), [this] {
        dirty_ = false;
        QDialog::reject();
    });
}

void ModelEditor::addNew() {
    if (!keepChanges())
        return;
    DeviceModel model;
    model.name = tr("New model").toStdString();
    Catalogue taken = catalogue_;
    taken.devices.insert(taken.devices.end(), own_.begin(), own_.end());
    model.id = exchange::ownModelId(model.name, taken);
    PortBlock block;
    block.keys = "1-4";
    block.connector = Connector::rj45;
    block.rates = {10, 100, 1000};
    model.ports = PortLayout({block});
    own_.push_back(std::move(model));
    fillList(static_cast<int>(own_.size()) - 1);
    dirty_ = true;
    name_->setFocus();
    name_->selectAll();
}

void ModelEditor::addCopy(const std::string& id) {
    if (!keepChanges())
        return;
    const DeviceModel* source = catalogue_.device(id);
    if (!source)
        return;
    DeviceModel model = *source;
    model.name += ", own";
    Catalogue taken = catalogue_;
    taken.devices.insert(taken.devices.end(), own_.begin(), own_.end());
    model.id = exchange::ownModelId(model.name, taken);
    own_.push_back(std::move(model));
    fillList(static_cast<int>(own_.size()) - 1);
    dirty_ = true;
    name_->setFocus();
    name_->selectAll();
}

void ModelEditor::addBlock() {
    if (current_ < 0)
        return;
    PortBlock block;
    const DeviceModel model = edited();
    for (int n = 1; block.keys.empty() || model.ports.find(block.keys); ++n)
        block.keys = "X" + std::to_string(n); // one that is free
    block.block = model::Block::uplink;
    block.cage = Cage::sfp;
    block.rates = {1000};
    blocks_->add(block);
}

bool ModelEditor::importFrom(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) {
        problems_->setText(tr("%1: cannot read: %2; choose another file").arg(path, file.errorString()));
        problems_->show();
        return false;
    }
    const QByteArray bytes = file.readAll();
    auto models =
        exchange::readModels({bytes.data(), static_cast<std::size_t>(bytes.size())}, path.toStdString());
    if (!models) {
        problems_->setText(QString::fromStdString(models.refusal().text()));
        problems_->show();
        return false;
    }
    for (DeviceModel& model : *models) {
        const auto at = std::find_if(own_.begin(), own_.end(),
                                     [&](const DeviceModel& each) { return each.id == model.id; });
        if (at != own_.end()) {
            *at = std::move(model); // the same model, as it is now
            continue;
        }
        if (catalogue_.device(model.id))
            model.id = exchange::ownModelId(model.name, catalogue_);
        own_.push_back(std::move(model));
    }
    dirty_ = false;
    fillList(static_cast<int>(own_.size()) - 1);
    Q_EMIT saved();
    return true;
}

bool ModelEditor::exportTo(const QString& path) const {
    QSaveFile file(path);
    const QByteArray bytes = QByteArray::fromStdString(exchange::writeModels(own_));
    const bool written =
        file.open(QIODevice::WriteOnly) && file.write(bytes) == bytes.size() && file.commit();
    problems_->setText(
        written ? QString() : tr("%1: cannot write: %2; choose another place").arg(path, file.errorString()));
    problems_->setVisible(!written);
    return written;
}

} // namespace underridge::app
