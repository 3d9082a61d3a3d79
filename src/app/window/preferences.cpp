// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/preferences.h"

#include "app/commands/keys.h"
#include "app/session/settings.h"
#include "app/style/pieces.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHeaderView>
#include <QKeySequenceEdit>
#include <QLocale>
#include <QPushButton>
#include <QSettings>
#include <QSpinBox>
#include <QTabWidget>
#include <QVBoxLayout>

namespace underridge::app {
Preferences::Preferences(QSettings& settings, DesktopTheme& theme, QWidget* parent)
    : QDialog(parent),
      settings_(settings),
      theme_(new QComboBox),
      scale_(new QSpinBox),
      units_(new QComboBox),
      portEnd_(new QComboBox),
      uplinks_(new QCheckBox(tr("Endpoints may take uplink ports when no other is free"))),
      motion_(new QCheckBox(tr("The view flies to where one goes"))),
      opensLast_(new QCheckBox(tr("At the start, open the network that was open last"))),
      search_(new QLineEdit),
      letters_(new QCheckBox(tr("Single letters are commands while the sheet has the focus"))),
      keys_(new QTableWidget),
      wrong_(errorLabel()) {
    setObjectName(QStringLiteral("preferences"));
    setWindowTitle(tr("Preferences"));
    resize(620, 560);
    auto* tabs = new QTabWidget;
    tabs->addTab(looksPage(theme), tr("Looks"));
    tabs->addTab(linkingPage(), tr("Linking"));
    tabs->addTab(keysPage(), tr("Keys"));
    auto* buttons = new QDialogButtonBox;
    buttons->addButton(tr("Close"), QDialogButtonBox::RejectRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(tabs);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connectChoices(theme);
    fillKeys();
}

QWidget* Preferences::looksPage(const DesktopTheme& theme) {
    theme_->addItems({tr("As the desktop"), tr("Light"), tr("Dark")});
    theme_->setCurrentIndex(static_cast<int>(theme.choice()));
    scale_->setRange(80, 250);
    scale_->setSingleStep(10);
    scale_->setSuffix(tr(" %"));
    scale_->setValue(Settings(settings_).textScale());
    auto* looks = new QWidget;
    auto* form = new QFormLayout(looks);
    form->addRow(tr("Theme"), theme_);
    form->addRow(tr("Text size of panels and menus"), scale_);
    units_->addItems({tr("Metres"), tr("Feet")});
    units_->setCurrentIndex(static_cast<int>(Settings(settings_).lengthUnit()));
    form->addRow(tr("Lengths in"), units_);
    motion_->setChecked(Settings(settings_).motion());
    form->addRow(motion_);
    opensLast_->setChecked(Settings(settings_).opensLast());
    form->addRow(opensLast_);
    return looks;
}

QWidget* Preferences::linkingPage() {
    portEnd_->addItems({tr("Low end first"), tr("High end first")});
    portEnd_->setCurrentIndex(Settings(settings_).habits().fromHighEnd ? 1 : 0);
    uplinks_->setChecked(Settings(settings_).habits().hostsTakeUplinks);
    auto* page = new QWidget;
    auto* habitsForm = new QFormLayout(page);
    habitsForm->addRow(tr("Free ports"), portEnd_);
    habitsForm->addRow(uplinks_);
    return page;
}

QWidget* Preferences::keysPage() {
    letters_->setChecked(settings_.value(lettersSetting, true).toBool());
    keys_->setColumnCount(2);
    keys_->setHorizontalHeaderLabels({tr("Command"), tr("Key")});
    keys_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    keys_->verticalHeader()->hide();
    keys_->setAccessibleName(tr("Keys"));
    auto* reset = new QPushButton(tr("Standard keys"));
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    search_->setPlaceholderText(tr("Search commands and keys"));
    search_->setClearButtonEnabled(true);
    search_->setAccessibleName(tr("Search commands and keys"));
    column->addWidget(letters_);
    column->addWidget(search_);
    column->addWidget(keys_, 1);
    column->addWidget(wrong_);
    column->addWidget(reset, 0, Qt::AlignLeft);
    connect(reset, &QPushButton::clicked, this, &Preferences::resetKeys);
    return page;
}

/// Each is kept as it is chosen.
void Preferences::connectChoices(DesktopTheme& theme) {
    connect(theme_, &QComboBox::currentIndexChanged, this,
            [&theme](int index) { theme.choose(static_cast<ThemeChoice>(index)); });
    connect(scale_, &QSpinBox::valueChanged, this, [this](int percent) {
        Settings(settings_).setTextScale(percent);
        Q_EMIT changed();
    });
    connect(units_, &QComboBox::currentIndexChanged, this, [this](int index) {
        Settings(settings_).setLengthUnit(index == 1 ? model::LengthUnit::feet : model::LengthUnit::metres);
        Q_EMIT changed();
    });
    const auto takeHabits = [this] {
        Settings(settings_).setHabits({portEnd_->currentIndex() == 1, uplinks_->isChecked()});
        Q_EMIT changed();
    };
    connect(portEnd_, &QComboBox::currentIndexChanged, this, takeHabits);
    connect(uplinks_, &QCheckBox::toggled, this, takeHabits);
    connect(motion_, &QCheckBox::toggled, this, [this](bool on) {
        Settings(settings_).setMotion(on);
        Q_EMIT changed();
    });
    connect(opensLast_, &QCheckBox::toggled, this, [this](bool on) { Settings(settings_).setOpensLast(on); });
    connect(search_, &QLineEdit::textChanged, this, &Preferences::showMatching);
    connect(letters_, &QCheckBox::toggled, this, [this](bool on) {
        settings_.setValue(lettersSetting, on);
        Q_EMIT changed();
    });
}

void Preferences::fillKeys() {
    keys_->setRowCount(static_cast<int>(commandTable().size()));
    int row = 0;
    for (const Command& command : commandTable()) {
        auto* name = new QTableWidgetItem(plainText(command));
        name->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        name->setToolTip(tipOf(command));
        keys_->setItem(row, 0, name);
        const auto held = keysOf(command, settings_);
        auto* field = new QKeySequenceEdit(held.isEmpty() ? QKeySequence() : held.front());
        field->setAccessibleName(tr("Key for %1").arg(plainText(command)));
        connect(field, &QKeySequenceEdit::editingFinished, this, [this, field, id = command.id] {
            const QKeySequence typed =
                field->keySequence().count() > 0 ? QKeySequence(field->keySequence()[0]) : QKeySequence();
            if (!setKey(id, typed)) {
                const auto back = keysOf(commandOf(id), settings_);
                field->setKeySequence(back.isEmpty() ? QKeySequence() : back.front());
            }
        });
        keys_->setCellWidget(row++, 1, field);
    }
}

/// Hides the commands that neither name nor key nor effect matches.
void Preferences::showMatching(const QString& words) {
    int row = 0;
    for (const Command& command : commandTable()) {
        const QString all = plainText(command) + QLatin1Char(' ') + tipOf(command) + QLatin1Char(' ') +
                            keysText(keysOf(command, settings_));
        keys_->setRowHidden(row++, !all.contains(words.trimmed(), Qt::CaseInsensitive));
    }
}

bool Preferences::setKey(CommandId id, const QKeySequence& key) {
    const Command& command = commandOf(id);
    const auto held = keysOf(command, settings_);
    if (key.isEmpty() ? held.isEmpty() : held.contains(key))
        return true; // as it is
    for (const Command& other : commandTable())
        if (other.id != id && !key.isEmpty() && keysOf(other, settings_).contains(key)) {
            wrong_->setText(tr("%1 is the key for %2; choose another, or take it away there first")
                                .arg(key.toString(QKeySequence::NativeText), plainText(other)));
            return false;
        }
    wrong_->clear();
    settings_.setValue(keySetting(command), key.toString(QKeySequence::PortableText));
    Q_EMIT changed();
    return true;
}

void Preferences::resetKeys() {
    for (const Command& command : commandTable())
        settings_.remove(keySetting(command));
    wrong_->clear();
    fillKeys();
    Q_EMIT changed();
}

} // namespace underridge::app
