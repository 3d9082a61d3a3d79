// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/window/preferences.h"

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
namespace {

const QString lettersKey = QStringLiteral("keys/singleLetters");
const QString unitsKey = QStringLiteral("window/units");
const QString portEndKey = QStringLiteral("linking/portEnd");
const QString uplinksKey = QStringLiteral("linking/endpointsTakeUplinks");
const QString scaleKey = QStringLiteral("window/textScale");

bool isSingleLetter(const QKeySequence& key) {
    if (key.count() != 1)
        return false;
    const auto combination = key[0];
    return !(combination.keyboardModifiers() & ~Qt::KeyboardModifiers(Qt::ShiftModifier)) &&
           combination.key() >= Qt::Key_A && combination.key() <= Qt::Key_Z;
}

QList<QKeySequence> standardKeys(const Command& command) {
    QList<QKeySequence> keys;
    for (const QString& key : QString::fromUtf8(command.keys).split(QLatin1Char(' '), Qt::SkipEmptyParts))
        keys << QKeySequence::fromString(key, QKeySequence::PortableText);
    return keys;
}

} // namespace

QString settingName(const Command& command) {
    QString name = plainText(command).toLower();
    for (QChar& c : name)
        if (!c.isLetterOrNumber())
            c = QLatin1Char('-');
    return name;
}

QList<QKeySequence> keysOf(const Command& command, const QSettings& settings) {
    const QString name = QStringLiteral("keys/") + settingName(command);
    QList<QKeySequence> keys = standardKeys(command);
    if (settings.contains(name)) {
        const QString own = settings.value(name).toString();
        keys.clear();
        if (!own.isEmpty())
            keys << QKeySequence::fromString(own, QKeySequence::PortableText);
    }
    if (!settings.value(lettersKey, true).toBool())
        keys.removeIf(isSingleLetter);
    return keys;
}

linking::Habits habits(const QSettings& settings) {
    return {settings.value(portEndKey).toString() == QStringLiteral("high"),
            settings.value(uplinksKey, false).toBool()};
}

int textScale(const QSettings& settings) {
    return std::clamp(settings.value(scaleKey, 100).toInt(), 80, 250);
}

model::LengthUnit lengthUnit(const QSettings& settings) {
    const bool imperial = QLocale().measurementSystem() == QLocale::ImperialUSSystem;
    const QString standard = imperial ? QStringLiteral("feet") : QStringLiteral("metres");
    return settings.value(unitsKey, standard).toString() == QStringLiteral("feet")
               ? model::LengthUnit::feet
               : model::LengthUnit::metres;
}

Preferences::Preferences(QSettings& settings, DesktopTheme& theme, QWidget* parent)
    : QDialog(parent),
      settings_(settings),
      theme_(new QComboBox),
      scale_(new QSpinBox),
      units_(new QComboBox),
      portEnd_(new QComboBox),
      uplinks_(new QCheckBox(tr("Endpoints may take uplink ports when no other is free"))),
      letters_(new QCheckBox(tr("Single letters are commands while the sheet has the focus"))),
      keys_(new QTableWidget),
      wrong_(new QLabel) {
    setObjectName(QStringLiteral("preferences"));
    setWindowTitle(tr("Preferences"));
    resize(620, 560);
    theme_->addItems({tr("As the desktop"), tr("Light"), tr("Dark")});
    theme_->setCurrentIndex(static_cast<int>(theme.choice()));
    scale_->setRange(80, 250);
    scale_->setSingleStep(10);
    scale_->setSuffix(tr(" %"));
    scale_->setValue(textScale(settings));
    auto* looks = new QWidget;
    auto* form = new QFormLayout(looks);
    form->addRow(tr("Theme"), theme_);
    form->addRow(tr("Text size of panels and menus"), scale_);
    units_->addItems({tr("Metres"), tr("Feet")});
    units_->setCurrentIndex(static_cast<int>(lengthUnit(settings)));
    form->addRow(tr("Lengths in"), units_);

    portEnd_->addItems({tr("Low end first"), tr("High end first")});
    portEnd_->setCurrentIndex(habits(settings).fromHighEnd ? 1 : 0);
    uplinks_->setChecked(habits(settings).hostsTakeUplinks);
    auto* linkingPage = new QWidget;
    auto* habitsForm = new QFormLayout(linkingPage);
    habitsForm->addRow(tr("Free ports"), portEnd_);
    habitsForm->addRow(uplinks_);

    letters_->setChecked(settings.value(lettersKey, true).toBool());
    keys_->setColumnCount(2);
    keys_->setHorizontalHeaderLabels({tr("Command"), tr("Key")});
    keys_->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    keys_->verticalHeader()->hide();
    keys_->setAccessibleName(tr("Keys"));
    wrong_->setObjectName(QStringLiteral("wrong"));
    wrong_->setTextFormat(Qt::PlainText);
    wrong_->setWordWrap(true);
    auto* reset = new QPushButton(tr("Standard keys"));
    auto* keysPage = new QWidget;
    auto* column = new QVBoxLayout(keysPage);
    column->addWidget(letters_);
    column->addWidget(keys_, 1);
    column->addWidget(wrong_);
    column->addWidget(reset, 0, Qt::AlignLeft);

    auto* tabs = new QTabWidget;
    tabs->addTab(looks, tr("Looks"));
    tabs->addTab(linkingPage, tr("Linking"));
    tabs->addTab(keysPage, tr("Keys"));
    auto* buttons = new QDialogButtonBox;
    buttons->addButton(tr("Close"), QDialogButtonBox::RejectRole);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(tabs);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    connect(theme_, &QComboBox::currentIndexChanged, this,
            [&theme](int index) { theme.choose(static_cast<ThemeChoice>(index)); });
    connect(scale_, &QSpinBox::valueChanged, this, [this](int percent) {
        settings_.setValue(scaleKey, percent);
        Q_EMIT changed();
    });
    connect(units_, &QComboBox::currentIndexChanged, this, [this](int index) {
        settings_.setValue(unitsKey, index == 1 ? QStringLiteral("feet") : QStringLiteral("metres"));
        Q_EMIT changed();
    });
    connect(portEnd_, &QComboBox::currentIndexChanged, this, [this](int index) {
        settings_.setValue(portEndKey, index == 1 ? QStringLiteral("high") : QStringLiteral("low"));
        Q_EMIT changed();
    });
    connect(uplinks_, &QCheckBox::toggled, this, [this](bool on) {
        settings_.setValue(uplinksKey, on);
        Q_EMIT changed();
    });
    connect(letters_, &QCheckBox::toggled, this, [this](bool on) {
        settings_.setValue(lettersKey, on);
        Q_EMIT changed();
    });
    connect(reset, &QPushButton::clicked, this, &Preferences::resetKeys);
    fillKeys();
}

void Preferences::fillKeys() {
    keys_->setRowCount(static_cast<int>(commandTable().size()));
    int row = 0;
    for (const Command& command : commandTable()) {
        auto* name = new QTableWidgetItem(plainText(command));
        name->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
        name->setToolTip(tr(command.tip));
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
    settings_.setValue(QStringLiteral("keys/") + settingName(command),
                       key.toString(QKeySequence::PortableText));
    Q_EMIT changed();
    return true;
}

void Preferences::resetKeys() {
    for (const Command& command : commandTable())
        settings_.remove(QStringLiteral("keys/") + settingName(command));
    wrong_->clear();
    fillKeys();
    Q_EMIT changed();
}

} // namespace underridge::app
