// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/panels/registers_panel.h"

#include "app/dialogs/dialogs.h"
#include "app/find/filter_field.h"
#include "app/session/session.h"
#include "app/shown_text.h"
#include "core/exchange/table_text.h"

#include <QClipboard>
#include <QDialogButtonBox>
#include <QGuiApplication>
#include <QHeaderView>
#include <QItemSelectionModel>
#include <QKeyEvent>
#include <QMenu>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>
#include <set>

namespace underridge::app {
using namespace model;
namespace {

constexpr int restMs = 120; ///< several edits in a row refresh the table once
constexpr std::size_t mostPreviewed = 2000;
constexpr int mostSelected = 5000; ///< rows selected along with the sheet

QString hiddenKey(edit::Register which) {
    return QStringLiteral("registers/hidden-") + shownText(edit::titleOf(which)).toLower();
}

/// "till-03" → till-03, till-04 …; a text without a number at its end is repeated.
std::vector<std::string> seriesFrom(const std::string& first, std::size_t count) {
    std::size_t digits = first.size();
    while (digits > 0 && first[digits - 1] >= '0' && first[digits - 1] <= '9')
        --digits;
    const std::string fixed = first.substr(0, digits), number = first.substr(digits);
    std::vector<std::string> out;
    if (number.empty() || number.size() > 9)
        return std::vector<std::string>(count, first);
    for (std::size_t i = 0; i < count; ++i) {
        std::string next = std::to_string(std::stoul(number) + i);
        next.insert(0, number.size() > next.size() ? number.size() - next.size() : 0, '0');
        out.push_back(fixed + next);
    }
    return out;
}

} // namespace

CellsPreview::CellsPreview(const std::vector<edit::CellPreview>& previews, edit::Register which,
                           const std::vector<QString>& rowNames, QWidget* parent)
    : PreviewDialog(QStringLiteral("cellsPreview"),
                    tr("Change %1").arg(shownText(edit::titleOf(which)).toLower()),
                    {tr("Row"), tr("Column"), tr("Now"), tr("Will be"), tr("Remark")}, tr("Changes"),
                    tr("Change"), parent) {
    for (std::size_t i = 0; i < previews.size(); ++i) {
        const edit::CellPreview& preview = previews[i];
        changes_ += preview.changes();
        wrong_ += !preview.wrong.empty();
        const QString remark = !preview.wrong.empty() ? shownText(preview.wrong)
                               : preview.changes()    ? QString()
                                                      : tr("the same");
        addRow({rowNames[i], shownText(edit::columnsOf(which)[preview.change.column].title),
                shownText(preview.before), shownText(preview.change.text), remark},
               !preview.changes());
    }
    fitColumns();
    QStringList counts{tr("%Ln cell(s) to change", nullptr, changes_)};
    if (wrong_ > 0)
        counts << tr("%Ln wrong and left out", nullptr, wrong_);
    sumUp(counts.join(QStringLiteral(", ")), changes_ > 0);
}

RegistersPanel::RegistersPanel(Session& session, QSettings& settings, Dialogs& dialogs, QWidget* parent)
    : QWidget(parent),
      session_(session),
      settings_(settings),
      dialogs_(dialogs),
      model_(new RegisterModel(session_.workspace(), this)),
      choice_(new QComboBox),
      filter_(new FilterField([&session]() -> const model::Network& { return session.network(); })),
      columns_(new QToolButton),
      fill_(new QToolButton),
      add_(new QToolButton),
      remove_(new QToolButton),
      counts_(new QLabel),
      table_(new QTableView) {
    setObjectName(QStringLiteral("registers"));
    for (int i = 0; i < edit::registerCount; ++i)
        choice_->addItem(shownText(edit::titleOf(static_cast<edit::Register>(i))));
    choice_->setAccessibleName(tr("Register"));
    filter_->setAccessibleName(tr("Filter"));
    filter_->setPlaceholderText(tr("Filter rows: words, or role:camera…"));
    columns_->setText(tr("Columns"));
    columns_->setPopupMode(QToolButton::InstantPopup);
    columns_->setMenu(new QMenu(columns_));
    fill_->setText(tr("Fill series"));
    fill_->setToolTip(tr("Go on from the first selected cell: till-03, till-04 …"));
    add_->setText(tr("Add row"));
    add_->setToolTip(tr("Add a row like the selected one, or to the device selected on the sheet"));
    remove_->setText(tr("Remove rows"));
    remove_->setToolTip(tr("Take the selected rows away (Delete)"));
    setUpTable();
    auto* top = new QHBoxLayout;
    top->addWidget(choice_);
    top->addWidget(filter_, 1);
    top->addWidget(counts_);
    top->addWidget(columns_);
    top->addWidget(fill_);
    top->addWidget(add_);
    top->addWidget(remove_);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(6, 4, 6, 6);
    layout->addLayout(top);
    layout->addWidget(table_, 1);
    connectAll();
}

void RegistersPanel::setUpTable() {
    table_->setAccessibleName(tr("Register"));
    table_->setModel(model_);
    table_->setSortingEnabled(false);
    table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
    table_->setEditTriggers(QAbstractItemView::EditKeyPressed | QAbstractItemView::AnyKeyPressed |
                            QAbstractItemView::DoubleClicked);
    table_->setWordWrap(false);
    table_->verticalHeader()->setDefaultSectionSize(std::max(26, fontMetrics().height() + 8));
    table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    table_->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->horizontalHeader()->setSectionsMovable(true);
    table_->horizontalHeader()->setSortIndicatorShown(true);
    table_->horizontalHeader()->setSortIndicator(-1, Qt::AscendingOrder);
    table_->horizontalHeader()->setSectionsClickable(true);
    table_->installEventFilter(this);
}

void RegistersPanel::connectAll() {
    connect(choice_, &QComboBox::currentIndexChanged, this,
            [this](int index) { show(static_cast<edit::Register>(index)); });
    connect(filter_, &QLineEdit::textChanged, this, [this](const QString& words) {
        model_->setFilter(words);
        refreshCounts();
        selectInTable();
    });
    connect(table_->horizontalHeader(), &QHeaderView::sortIndicatorChanged, this,
            [this](int column, Qt::SortOrder order) {
                model_->sort(column, order);
                selectInTable();
            });
    connect(columns_->menu(), &QMenu::aboutToShow, this, &RegistersPanel::fillColumnsMenu);
    connect(fill_, &QToolButton::clicked, this, &RegistersPanel::fillSeries);
    connect(add_, &QToolButton::clicked, this, &RegistersPanel::addRow);
    connect(remove_, &QToolButton::clicked, this, &RegistersPanel::removeRows);
    connect(table_, &QTableView::doubleClicked, this, [this](const QModelIndex& index) {
        if (!(model_->flags(index) & Qt::ItemIsEditable))
            Q_EMIT goTo({model_->rowAt(index.row()).object});
    });
    connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this,
            &RegistersPanel::selectInNetwork);
    later_.setSingleShot(true);
    later_.setInterval(restMs);
    connect(&later_, &QTimer::timeout, this, &RegistersPanel::refresh);
    for (const auto signal : {&Workspace::networkChanged, &Workspace::documentReplaced})
        connect(&session_.workspace(), signal, this, [this] {
            if (isVisible())
                later_.start();
        });
    connect(&session_.selected(), &Selection::changed, this, &RegistersPanel::selectInTable);
}

void RegistersPanel::show(edit::Register which) {
    if (choice_->currentIndex() != static_cast<int>(which)) {
        choice_->setCurrentIndex(static_cast<int>(which)); // comes back here
        return;
    }
    model_->setRegister(which);
    add_->setVisible(edit::takesRows(which));
    remove_->setVisible(edit::losesRows(which));
    const QStringList hidden = settings_.value(hiddenKey(which)).toStringList();
    const bool chosen = settings_.contains(hiddenKey(which));
    const auto columns = edit::columnsOf(which);
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const int column = static_cast<int>(i);
        table_->setColumnHidden(column,
                                chosen ? hidden.contains(shownText(columns[i].key)) : !columns[i].shown);
        const bool strip = which == edit::Register::subnets && columns[i].key == "used";
        table_->setColumnWidth(column, strip ? 180 : column == 0 ? 150 : 110);
    }
    table_->horizontalHeader()->setStretchLastSection(true);
    refreshCounts();
    selectInTable();
}

void RegistersPanel::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    show(static_cast<edit::Register>(choice_->currentIndex()));
}

QWidget* RegistersPanel::openCell() const {
    for (QWidget* field : table_->viewport()->findChildren<QWidget*>(Qt::FindDirectChildrenOnly))
        if (field->isVisible() && field->hasFocus())
            return field;
    return nullptr;
}

bool RegistersPanel::commitTyped() {
    if (QWidget* field = openCell())
        Q_EMIT table_->itemDelegate()->commitData(field);
    return true;
}

void RegistersPanel::refresh() {
    if (openCell()) { // it would be closed, and what is typed lost
        later_.start();
        return;
    }
    const int top = table_->rowAt(0);
    const QModelIndex current = table_->currentIndex();
    selecting_ = true;
    model_->refresh();
    if (current.isValid())
        table_->selectionModel()->setCurrentIndex(model_->index(current.row(), current.column()),
                                                  QItemSelectionModel::NoUpdate);
    selecting_ = false;
    if (top > 0)
        table_->scrollTo(model_->index(top, 0), QAbstractItemView::PositionAtTop);
    refreshCounts();
    selectInTable();
}

void RegistersPanel::refreshCounts() {
    counts_->setText(model_->wrong().isEmpty() ? tr("%1 of %2").arg(model_->rowCount()).arg(model_->allRows())
                                               : model_->wrong());
}

void RegistersPanel::fillColumnsMenu() {
    columns_->menu()->clear();
    const auto columns = edit::columnsOf(model_->which());
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const int column = static_cast<int>(i);
        QAction* action = columns_->menu()->addAction(shownText(columns[i].title));
        action->setCheckable(true);
        action->setChecked(!table_->isColumnHidden(column));
        connect(action, &QAction::toggled, this, [this, column](bool on) {
            table_->setColumnHidden(column, !on);
            QStringList hidden;
            const auto all = edit::columnsOf(model_->which());
            for (std::size_t k = 0; k < all.size(); ++k)
                if (table_->isColumnHidden(static_cast<int>(k)))
                    hidden << shownText(all[k].key);
            settings_.setValue(hiddenKey(model_->which()), hidden);
        });
    }
}

void RegistersPanel::selectInNetwork() {
    model_->setAlsoEdited(table_->selectionModel()->selectedIndexes());
    if (selecting_ || !isVisible())
        return;
    std::set<int> rows;
    for (const QModelIndex& index : table_->selectionModel()->selectedIndexes())
        rows.insert(index.row());
    edit::Refs objects;
    std::set<ObjectRef> seen;
    for (const int row : rows) {
        ObjectRef object = model_->rowAt(row).object;
        if (const Cable* cable = session_.network().cable({object.id}); cable && !cable->ends.empty())
            if (const Link* link = session_.network().linkAt(cable->ends.front().at))
                object = refTo(link->id);
        if (object.id != 0 && seen.insert(object).second)
            objects.push_back(object);
    }
    selecting_ = true;
    if (model_->which() == edit::Register::ports && rows.size() == 1)
        session_.selectPort({{model_->rowAt(*rows.begin()).object.id}, model_->rowAt(*rows.begin()).port});
    else
        session_.select(std::move(objects));
    selecting_ = false;
}

void RegistersPanel::selectInTable() {
    if (selecting_ || !isVisible())
        return;
    std::set<std::uint64_t> wanted;
    for (const ObjectRef& ref : session_.selection()) {
        wanted.insert(ref.id);
        if (const Link* link = session_.network().link({ref.id}))
            wanted.insert(link->cable.value);
    }
    QItemSelection selection;
    int first = -1, count = 0;
    for (int row = 0; row < model_->rowCount() && !wanted.empty(); ++row) {
        const edit::Row& each = model_->rowAt(row);
        const bool port = model_->which() != edit::Register::ports ||
                          session_.selected().port().port.empty() ||
                          each.port == session_.selected().port().port;
        if (!wanted.contains(each.object.id) || !port)
            continue;
        first = first < 0 ? row : first;
        selection.select(model_->index(row, 0), model_->index(row, model_->columnCount() - 1));
        if (++count >= mostSelected)
            break;
    }
    selecting_ = true;
    table_->selectionModel()->select(selection, QItemSelectionModel::ClearAndSelect);
    selecting_ = false;
    if (first >= 0)
        table_->scrollTo(model_->index(first, 0));
}

bool RegistersPanel::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::ShortcutOverride || event->type() == QEvent::KeyPress) {
        auto* key = static_cast<QKeyEvent*>(event);
        const bool copies = key->matches(QKeySequence::Copy), pastes = key->matches(QKeySequence::Paste);
        const bool removes = key->key() == Qt::Key_Delete && key->modifiers() == Qt::NoModifier &&
                             edit::losesRows(model_->which());
        if ((copies || pastes || removes) && event->type() == QEvent::ShortcutOverride) {
            event->accept(); // the table's, not the sheet's
            return true;
        }
        if (copies) {
            copy();
            return true;
        }
        if (removes) { // else the sheet would delete the devices these rows are of
            removeRows();
            return true;
        }
        if (pastes) {
            paste(QGuiApplication::clipboard()->text());
            return true;
        }
        if (key->key() == Qt::Key_Return && table_->hasFocus() && table_->currentIndex().isValid() &&
            event->type() == QEvent::KeyPress) {
            if (model_->flags(table_->currentIndex()) & Qt::ItemIsEditable)
                table_->edit(table_->currentIndex());
            else
                Q_EMIT goTo({model_->rowAt(table_->currentIndex().row()).object});
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void RegistersPanel::addRow() {
    commitTyped();
    edit::Row like;
    if (const QModelIndex current = table_->currentIndex(); current.isValid())
        like = model_->rowAt(current.row());
    else if (session_.selection().size() == 1)
        like.object = session_.selection().front();
    session_.apply(edit::addRow(session_.network(), model_->which(), like, session_.ids()));
}

void RegistersPanel::removeRows() {
    std::set<int> rows;
    for (const QModelIndex& index : table_->selectionModel()->selectedIndexes())
        rows.insert(index.row());
    std::vector<edit::Row> gone;
    for (const int row : rows)
        gone.push_back(model_->rowAt(row));
    session_.apply(edit::removeRows(session_.network(), model_->which(), gone));
}

void RegistersPanel::copy() {
    std::map<int, std::map<int, std::string>> cells;
    for (const QModelIndex& index : table_->selectionModel()->selectedIndexes())
        if (!table_->isColumnHidden(index.column()))
            cells[index.row()][index.column()] = model_->text(index.row(), index.column());
    std::string out;
    for (const auto& [row, columns] : cells) {
        for (const auto& [column, text] : columns)
            out += (column == columns.begin()->first ? "" : "\t") + exchange::quoted(text);
        out += '\n';
    }
    if (!out.empty())
        QGuiApplication::clipboard()->setText(QString::fromStdString(out));
}

void RegistersPanel::paste(const QString& text) {
    const auto rows = exchange::readRows(text.toStdString(), '\t');
    auto cells = table_->selectionModel()->selectedIndexes();
    if (rows.empty() || (cells.isEmpty() && !table_->currentIndex().isValid())) {
        Q_EMIT session_.workspace().refused(
            advice(tr("there is nothing to paste, or no cell to paste it into"),
                   tr("copy cells of a spreadsheet, then select the first cell here")));
        return;
    }
    std::vector<edit::CellChange> changes;
    if (rows.size() == 1 && rows.front().cells.size() == 1 && cells.size() > 1) {
        for (const QModelIndex& cell : cells) // one text for all
            if (model_->flags(cell) & Qt::ItemIsEditable)
                changes.push_back({model_->rowAt(cell.row()), static_cast<std::size_t>(cell.column()),
                                   trimmed(rows.front().cells.front())});
    } else {
        QModelIndex start = table_->currentIndex();
        for (const QModelIndex& cell : cells)
            if (cell.row() < start.row() || (cell.row() == start.row() && cell.column() < start.column()))
                start = cell;
        std::vector<int> columns; // as they are seen, from the first cell on
        auto* header = table_->horizontalHeader();
        for (int visual = header->visualIndex(start.column()); visual < header->count(); ++visual)
            if (const int column = header->logicalIndex(visual); !table_->isColumnHidden(column))
                columns.push_back(column);
        for (std::size_t r = 0; r < rows.size() && start.row() + static_cast<int>(r) < model_->rowCount();
             ++r)
            for (std::size_t c = 0; c < rows[r].cells.size() && c < columns.size(); ++c)
                changes.push_back({model_->rowAt(start.row() + static_cast<int>(r)),
                                   static_cast<std::size_t>(columns[c]), trimmed(rows[r].cells[c])});
    }
    offer(changes);
}

void RegistersPanel::fillSeries() {
    auto cells = table_->selectionModel()->selectedIndexes();
    cells.removeIf([&](const QModelIndex& cell) { return cell.column() != table_->currentIndex().column(); });
    std::sort(cells.begin(), cells.end());
    if (cells.size() < 2 || !(model_->flags(cells.front()) & Qt::ItemIsEditable)) {
        Q_EMIT session_.workspace().refused(
            advice(tr("a series needs several cells of one column that can be typed into"),
                   tr("select them, the first one filled")));
        return;
    }
    const auto texts = seriesFrom(model_->text(cells.front().row(), cells.front().column()),
                                  static_cast<std::size_t>(cells.size()));
    std::vector<edit::CellChange> changes;
    for (qsizetype i = 1; i < cells.size(); ++i)
        changes.push_back({model_->rowAt(cells[i].row()), static_cast<std::size_t>(cells[i].column()),
                           texts[static_cast<std::size_t>(i)]});
    offer(changes);
}

void RegistersPanel::offer(const std::vector<edit::CellChange>& changes) {
    const auto previews = edit::previewCells(session_.network(), session_.catalogue(), model_->which(),
                                             changes, session_.lengthUnit(), session_.ids());
    std::vector<QString> names;
    std::vector<edit::CellChange> good;
    for (const auto& preview : previews) {
        names.push_back(
            QString::fromStdString(edit::cellText(session_.network(), model_->which(), preview.change.row, 0,
                                                  session_.lengthUnit()) +
                                   (preview.change.row.port.empty() ? "" : " " + preview.change.row.port)));
        if (preview.changes())
            good.push_back(preview.change);
    }
    const edit::Register which = model_->which();
    dialogs_.show<CellsPreview>(
        [this, previews, which, names] { return new CellsPreview(previews, which, names, this); },
        [this, which, good](CellsPreview&, bool accepted) {
            if (accepted && !good.empty())
                session_.apply(edit::setCells(session_.network(), session_.catalogue(), which, good,
                                              session_.lengthUnit(), session_.ids()));
        });
}

} // namespace underridge::app
