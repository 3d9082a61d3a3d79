// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/blocks_table.h"

#include "app/titles.h"

#include <QComboBox>
#include <QHeaderView>

namespace underridge::app {
using namespace model;
namespace {

enum Column { keysColumn, blockColumn, formColumn, ratesColumn, powerColumn, sideColumn, howMany };

/// What a port looks like: a connector, a cage, radio or circuit.
struct Form {
    QString title;
    Connector connector = Connector::none;
    Cage cage = Cage::none;
    std::optional<Medium> medium;
    PortUse use = PortUse::data;
};

const std::vector<Form>& forms() {
    static const std::vector<Form> all = [] {
        std::vector<Form> list;
        for (const auto& word : wordsOf(Connector{}))
            if (word.value != Connector::none && !isMains(word.value))
                list.push_back(
                    {QString::fromUtf8(word.title.data()), word.value, Cage::none, {}, PortUse::data});
        for (const auto& word : wordsOf(Cage{}))
            if (word.value != Cage::none)
                list.push_back(
                    {QString::fromUtf8(word.title.data()), Connector::none, word.value, {}, PortUse::data});
        list.push_back({BlocksTable::tr("LC single-mode"), Connector::lc, Cage::none, Medium::singleMode,
                        PortUse::data});
        list.push_back(
            {BlocksTable::tr("LC multimode"), Connector::lc, Cage::none, Medium::multimode, PortUse::data});
        list.push_back({BlocksTable::tr("IEC 63171 single pair"), Connector::iec63171, Cage::none,
                        Medium::singlePair, PortUse::data});
        list.push_back(
            {BlocksTable::tr("RJ45 serial"), Connector::rj45, Cage::none, Medium::serial, PortUse::data});
        list.push_back({BlocksTable::tr("radio"), Connector::none, Cage::none, Medium::radio, PortUse::data});
        list.push_back(
            {BlocksTable::tr("circuit"), Connector::none, Cage::none, Medium::circuit, PortUse::data});
        list.push_back({BlocksTable::tr("RJ45 console"), Connector::rj45, Cage::none, {}, PortUse::console});
        list.push_back({BlocksTable::tr("USB-C console"), Connector::usbC, Cage::none, {}, PortUse::console});
        list.push_back({BlocksTable::tr("C14 inlet"), Connector::c14, Cage::none, {}, PortUse::power});
        list.push_back({BlocksTable::tr("C13 outlet"), Connector::c13, Cage::none, {}, PortUse::power});
        list.push_back({BlocksTable::tr("C20 inlet"), Connector::c20, Cage::none, {}, PortUse::power});
        list.push_back({BlocksTable::tr("C19 outlet"), Connector::c19, Cage::none, {}, PortUse::power});
        return list;
    }();
    return all;
}

int formOf(const PortBlock& block) {
    const std::optional<Medium> medium =
        block.media.empty() ? std::nullopt : std::optional(block.media.front());
    for (std::size_t i = 0; i < forms().size(); ++i) {
        const Form& form = forms()[i];
        if (form.connector == block.connector && form.cage == block.cage && form.medium == medium &&
            form.use == block.use)
            return static_cast<int>(i);
    }
    for (std::size_t i = 0; i < forms().size(); ++i)
        if (forms()[i].connector == block.connector && forms()[i].cage == block.cage)
            return static_cast<int>(i);
    return 0;
}

QString ratesText(const std::vector<int>& rates) {
    QStringList words;
    for (const int rate : rates)
        words << QString::fromStdString(rateText(rate));
    return words.join(QStringLiteral(", "));
}

/// "10M, 1G 2.5G" → 10, 1000, 2500; what is no rate is left out.
std::vector<int> ratesFrom(const QString& typed) {
    std::vector<int> rates;
    for (QString word : QString(typed)
                            .replace(QLatin1Char(','), QLatin1Char(' '))
                            .split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
        double factor = 1;
        if (word.endsWith(QLatin1Char('G'), Qt::CaseInsensitive))
            factor = 1000;
        if (word.endsWith(QLatin1Char('G'), Qt::CaseInsensitive) ||
            word.endsWith(QLatin1Char('M'), Qt::CaseInsensitive))
            word.chop(1);
        bool ok = false;
        const double value = word.toDouble(&ok) * factor;
        if (ok && value >= 1 && value <= 1e7)
            rates.push_back(static_cast<int>(std::lround(value)));
    }
    std::sort(rates.begin(), rates.end());
    rates.erase(std::unique(rates.begin(), rates.end()), rates.end());
    return rates;
}

const QStringList& powerChoices() {
    static const QStringList list{BlocksTable::tr("no power"),         BlocksTable::tr("gives Type 1"),
                                  BlocksTable::tr("gives Type 2"),     BlocksTable::tr("gives Type 3"),
                                  BlocksTable::tr("gives Type 4"),     BlocksTable::tr("takes Type 1"),
                                  BlocksTable::tr("takes Type 2"),     BlocksTable::tr("takes Type 3"),
                                  BlocksTable::tr("takes Type 4"),     BlocksTable::tr("gives passive"),
                                  BlocksTable::tr("takes passive"),    BlocksTable::tr("gives over a pair"),
                                  BlocksTable::tr("takes over a pair")};
    return list;
}

constexpr int passiveChoice = 9, pairChoice = 11; ///< of giving; taking comes next

int powerChoiceOf(const PortBlock& block) {
    if (block.power == PowerSide::none)
        return 0;
    const bool takes = block.power == PowerSide::load;
    if (block.passivePower)
        return passiveChoice + takes;
    if (block.powerType == 0)
        return pairChoice + takes;
    return std::clamp(block.powerType, 1, 4) + (takes ? 4 : 0);
}

void setPower(PortBlock& block, int choice) {
    const PowerSide before = block.power;
    const bool typed = choice > 0 && choice < passiveChoice;
    const bool takes = typed ? choice > 4 : (choice - passiveChoice) % 2 == 1;
    block.power = choice == 0 ? PowerSide::none : takes ? PowerSide::load : PowerSide::source;
    block.powerType = typed ? (choice - 1) % 4 + 1 : 0;
    block.passivePower = choice == passiveChoice || choice == passiveChoice + 1;
    if (block.power != before)
        block.powerClass = choice >= pairChoice ? 12 : -1;
}

} // namespace

BlocksTable::BlocksTable(QWidget* parent) : QTableWidget(0, howMany, parent) {
    setAccessibleName(tr("Port blocks"));
    setHorizontalHeaderLabels({tr("Ports"), tr("Block"), tr("Form"), tr("Rates"), tr("Power"), tr("Side")});
    horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    verticalHeader()->hide();
    connect(this, &QTableWidget::cellChanged, this, &BlocksTable::tell);
}

void BlocksTable::tell() {
    if (!filling_)
        Q_EMIT edited();
}

void BlocksTable::show(const std::vector<PortBlock>& blocks) {
    filling_ = true;
    setRowCount(static_cast<int>(blocks.size()));
    for (int row = 0; row < rowCount(); ++row)
        setRow(row, blocks[static_cast<std::size_t>(row)]);
    filling_ = false;
}

std::vector<PortBlock> BlocksTable::blocks() const {
    std::vector<PortBlock> out;
    for (int row = 0; row < rowCount(); ++row)
        out.push_back(blockAt(row));
    return out;
}

void BlocksTable::add(const PortBlock& block) {
    filling_ = true;
    insertRow(rowCount());
    setRow(rowCount() - 1, block);
    filling_ = false;
    tell();
}

void BlocksTable::removeOne() {
    removeRow(currentRow() < 0 ? rowCount() - 1 : currentRow());
    tell();
}

void BlocksTable::setRow(int row, const PortBlock& block) {
    const auto choice = [&](Column column, const QStringList& titles, int index) {
        auto* box = new QComboBox;
        box->addItems(titles);
        box->setCurrentIndex(index);
        box->setAccessibleName(horizontalHeaderItem(column)->text());
        connect(box, &QComboBox::currentIndexChanged, this, &BlocksTable::tell);
        setCellWidget(row, column, box);
    };
    QStringList formTitles;
    for (const Form& form : forms())
        formTitles << form.title;
    setItem(row, keysColumn, new QTableWidgetItem(QString::fromStdString(block.keys)));
    item(row, keysColumn)->setData(Qt::UserRole, QVariant::fromValue(block));
    setItem(row, ratesColumn, new QTableWidgetItem(ratesText(block.rates)));
    choice(blockColumn, titlesOf<model::Block>(), static_cast<int>(block.block));
    choice(formColumn, formTitles, formOf(block));
    choice(powerColumn, powerChoices(), powerChoiceOf(block));
    choice(sideColumn, titlesOf<Side>(), static_cast<int>(block.side));
}

PortBlock BlocksTable::blockAt(int row) const {
    const auto chosen = [&](Column column) {
        const auto* box = qobject_cast<QComboBox*>(cellWidget(row, column));
        return box ? box->currentIndex() : 0;
    };
    const auto typed = [&](Column column) {
        const auto* cell = item(row, column);
        return cell ? cell->text().trimmed() : QString();
    };
    // What the table does not show stays as it was.
    const auto* first = item(row, keysColumn);
    const auto held = first ? first->data(Qt::UserRole).value<PortBlock>() : PortBlock{};
    PortBlock block = held;
    block.keys = typed(keysColumn).toStdString();
    block.block = static_cast<model::Block>(chosen(blockColumn));
    const Form& form = forms()[static_cast<std::size_t>(chosen(formColumn))];
    if (chosen(formColumn) != formOf(held)) {
        block.connector = form.connector;
        block.cage = form.cage;
        block.use = form.use;
        block.media = form.medium ? std::vector<Medium>{*form.medium} : std::vector<Medium>{};
    }
    block.rates = ratesFrom(typed(ratesColumn));
    setPower(block, chosen(powerColumn));
    block.side = static_cast<Side>(chosen(sideColumn));
    return block;
}

} // namespace underridge::app
