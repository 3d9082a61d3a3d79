// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/cabling/stock_dialog.h"

#include "app/session/session.h"
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/edit/cables.h"
#include "core/model/length.h"

#include <QDialogButtonBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QVBoxLayout>
#include <fmt/format.h>
#include <set>

namespace underridge::app {
using namespace model;
namespace {
constexpr int idRole = Qt::UserRole;

QString lengthsText(const CableType& type, LengthUnit unit) {
    QStringList out;
    for (const std::int64_t mm : type.lengthsMm)
        out << shownLength(mm, unit);
    return out.join(QStringLiteral("; "));
}

QString plugsText(const CableType& type) {
    if (type.cage != Cage::none)
        return shownText(titleOf(type.cage));
    QString text = shownText(titleOf(type.connectorA));
    if (type.connectorB != type.connectorA || type.farEnds > 1)
        text += StockDialog::tr(" to %1%2")
                    .arg(type.farEnds > 1 ? QStringLiteral("%1 × ").arg(type.farEnds) : QString(),
                         shownText(titleOf(type.connectorB)));
    return text;
}

} // namespace

StockDialog::StockDialog(Session& session, QWidget* parent)
    : QDialog(parent),
      session_(session),
      list_(new QTreeWidget),
      search_(new QLineEdit),
      name_(new QLineEdit),
      grade_(new QLineEdit),
      lengths_(new QLineEdit),
      longest_(new QLineEdit),
      jacket_(new QLineEdit),
      about_(plainLabel()),
      remark_(errorLabel()),
      approved_(new QCheckBox(tr("Approved: may be chosen for a new link"))),
      own_(new QPushButton(tr("Own type like this"))),
      reset_(new QPushButton(tr("As in the catalogue"))) {
    setObjectName(QStringLiteral("stock"));
    setWindowTitle(tr("Cable stock"));
    resize(940, 660);
    for (QPushButton* button : {own_, reset_})
        button->setAutoDefault(false); // Enter in a field is not for them
    search_->setPlaceholderText(tr("Search cable types"));
    search_->setClearButtonEnabled(true);
    list_->setAccessibleName(tr("Cable types"));
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setHeaderLabels({tr("Type"), tr("Plugs"), tr("Class"), tr("Approved"), tr("Lengths")});
    lengths_->setPlaceholderText(tr("cut to length; or such as 1 m; 2 m; 5 m"));
    lengths_->setToolTip(tr("The lengths it can be had in, separated by semicolons; none: cut to length"));
    longest_->setToolTip(tr("What is longer is told as a finding"));
    jacket_->setToolTip(tr("A colour as #19A7A0"));
    layOut();
    connectFields();
    connectActs();
    refill();
}

void StockDialog::layOut() {
    auto* form = new QFormLayout;
    form->addRow(tr("Name"), name_);
    form->addRow(tr("Class"), grade_);
    form->addRow(tr("Lengths"), lengths_);
    form->addRow(tr("Longest"), longest_);
    form->addRow(tr("Jacket"), jacket_);
    form->addRow(QString(), approved_);
    form->addRow(QString(), about_);
    auto* row = new QHBoxLayout;
    row->addWidget(own_);
    row->addWidget(reset_);
    row->addStretch(1);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close);
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(search_);
    layout->addWidget(list_, 1);
    layout->addLayout(form);
    layout->addWidget(remark_);
    layout->addLayout(row);
    layout->addWidget(buttons);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

void StockDialog::connectFields() {
    connect(search_, &QLineEdit::textChanged, this, &StockDialog::refill);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this] {
        if (!filling_)
            showChosen();
    });
    connect(name_, &QLineEdit::editingFinished, this, [this] {
        change([this](CableType& type) { type.name = name_->text().trimmed().toStdString(); });
    });
    connect(grade_, &QLineEdit::editingFinished, this, [this] {
        change([this](CableType& type) { type.grade = grade_->text().trimmed().toStdString(); });
    });
    connect(jacket_, &QLineEdit::editingFinished, this, [this] {
        change([this](CableType& type) { type.jacket = jacket_->text().trimmed().toStdString(); });
    });
    connect(longest_, &QLineEdit::editingFinished, this, [this] {
        const CableType* held = chosen();
        // What is shown is rounded to its unit: left as it is, it says nothing.
        if (!held || longest_->text() == shownLength(held->maxLengthMm, session_.lengthUnit()))
            return;
        const auto mm = parseLength(longest_->text().toStdString(), session_.lengthUnit());
        if (!mm) {
            remark_->setText(tr("%1 is no length; write it as 100 m").arg(longest_->text()));
            return;
        }
        change([mm](CableType& type) { type.maxLengthMm = *mm; });
    });
    connect(lengths_, &QLineEdit::editingFinished, this, [this] {
        const CableType* held = chosen();
        if (!held || lengths_->text() == lengthsText(*held, session_.lengthUnit()))
            return;
        bool good = true;
        auto lengths = lengthsTyped(good);
        if (good)
            change([&](CableType& type) { type.lengthsMm = std::move(lengths); });
    });
}

void StockDialog::connectActs() {
    connect(approved_, &QCheckBox::clicked, this,
            [this](bool on) { change([on](CableType& type) { type.approved = on; }); });
    connect(own_, &QPushButton::clicked, this, &StockDialog::makeOwn);
    connect(reset_, &QPushButton::clicked, this, [this] {
        const CableType* type = chosen();
        if (!type)
            return;
        auto act = edit::unstockCable(session_.network(), session_.workspace().plainCatalogue(), type->id);
        remark_->setText(act ? QString() : shownText(act.refusal().text()));
        if (act)
            session_.apply(std::move(act));
        refill();
    });
}

const CableType* StockDialog::chosen() const {
    const QTreeWidgetItem* item = list_->currentItem();
    return item ? session_.catalogue().cable(item->data(0, idRole).toString().toStdString()) : nullptr;
}

void StockDialog::choose(const std::string& id) {
    for (int i = 0; i < list_->topLevelItemCount(); ++i)
        if (list_->topLevelItem(i)->data(0, idRole).toString().toStdString() == id)
            list_->setCurrentItem(list_->topLevelItem(i));
}

std::vector<std::int64_t> StockDialog::lengthsTyped(bool& good) const {
    std::set<std::int64_t> out;
    for (const QString& part : lengths_->text().split(QLatin1Char(';'), Qt::SkipEmptyParts)) {
        const auto mm = parseLength(part.trimmed().toStdString(), session_.lengthUnit());
        if (!mm || *mm == 0) {
            remark_->setText(tr("%1 is no length; write them as 1 m; 2 m; 5 m").arg(part.trimmed()));
            good = false;
            return {};
        }
        out.insert(*mm);
    }
    return {out.begin(), out.end()};
}

void StockDialog::refill() {
    const CableType* held = chosen();
    const std::string id = held ? held->id : std::string();
    filling_ = true;
    list_->clear();
    for (const CableType& type : session_.catalogue().cables) {
        const QStringList cells{shownText(type.name), plugsText(type), shownText(type.grade),
                                type.approved ? tr("yes") : tr("no"),
                                type.lengthsMm.empty() ? tr("cut to length")
                                                       : lengthsText(type, session_.lengthUnit())};
        if (!cells.join(QLatin1Char(' ')).contains(search_->text(), Qt::CaseInsensitive))
            continue;
        auto* item = new QTreeWidgetItem(list_, cells);
        item->setData(0, idRole, shownText(type.id));
        if (!session_.workspace().plainCatalogue().cable(type.id)) {
            QFont own = font();
            own.setItalic(true);
            item->setFont(0, own);
            item->setToolTip(0, tr("A type of this network's own"));
        }
    }
    for (int column = 0; column < 4; ++column)
        list_->resizeColumnToContents(column);
    list_->setCurrentItem(list_->topLevelItem(0));
    filling_ = false;
    if (!id.empty())
        choose(id);
    showChosen();
}

void StockDialog::showChosen() {
    const CableType* type = chosen();
    for (QWidget* each :
         {static_cast<QWidget*>(name_), static_cast<QWidget*>(grade_), static_cast<QWidget*>(lengths_),
          static_cast<QWidget*>(longest_), static_cast<QWidget*>(jacket_), static_cast<QWidget*>(approved_),
          static_cast<QWidget*>(own_), static_cast<QWidget*>(reset_)})
        each->setEnabled(type != nullptr);
    if (!type) {
        about_->clear();
        return;
    }
    name_->setText(shownText(type->name));
    grade_->setText(shownText(type->grade));
    lengths_->setText(lengthsText(*type, session_.lengthUnit()));
    longest_->setText(shownLength(type->maxLengthMm, session_.lengthUnit()));
    jacket_->setText(shownText(type->jacket));
    approved_->setChecked(type->approved);
    const CableType* original = session_.workspace().plainCatalogue().cable(type->id);
    reset_->setText(original ? tr("As in the catalogue") : tr("Remove this type"));
    reset_->setEnabled(!original || !(*original == *type));
    int pieces = 0;
    std::int64_t metres = 0;
    session_.network().all<Cable>().forEach([&](const Cable& cable) {
        if (cable.type == type->id) {
            ++pieces;
            metres += cable.lengthMm;
        }
    });
    about_->setText(tr("%1, %2, up to %3. In use: %4, in all %5.")
                        .arg(shownText(titleOf(type->medium)),
                             tr("%Ln position(s)", nullptr, type->positions),
                             shownText(speedText(type->maxRate)), tr("%Ln cable(s)", nullptr, pieces),
                             shownLength(metres, session_.lengthUnit())));
}

void StockDialog::change(const std::function<void(CableType&)>& how) {
    const CableType* held = chosen();
    if (!held)
        return;
    CableType type = *held;
    how(type);
    remark_->clear();
    if (type == *held)
        return;
    auto act = edit::stockCable(session_.network(), type);
    if (!act) {
        remark_->setText(shownText(act.refusal().text()));
        showChosen();
        return;
    }
    act->subjects = session_.selection();
    session_.apply(std::move(act));
    refill();
}

void StockDialog::makeOwn() {
    const CableType* held = chosen();
    if (!held)
        return;
    CableType type = *held;
    for (int i = 2;; ++i)
        if (type.id = fmt::format("{}-own-{}", held->id, i); !session_.catalogue().cable(type.id))
            break;
    type.name = tr("%1, own").arg(shownText(held->name)).toStdString();
    session_.apply(edit::stockCable(session_.network(), type));
    search_->clear();
    refill();
    choose(type.id);
    name_->setFocus();
    name_->selectAll();
}

} // namespace underridge::app
