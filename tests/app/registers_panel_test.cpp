// SPDX-License-Identifier: GPL-3.0-or-later
// The registers in the window: found, sorted, typed into, pasted into, tied to the sheet.
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QClipboard>
#include <QHeaderView>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using edit::Register;
using tests::WindowHarness;

namespace {

struct Open : WindowHarness {
    Open() {
        openFirstOffice();
        sheet().setFocus();
        key(Qt::Key_F7);
    }
    app::RegistersPanel& panel() { return window->registers(); }
    QTableView& table() { return panel().table(); }
    QModelIndex cell(const QString& rowName, const char* key, const QString& second = {}) {
        auto& model = panel().model();
        const auto columns = edit::columnsOf(model.which());
        int column = 0;
        while (columns[static_cast<std::size_t>(column)].key != key)
            ++column;
        for (int row = 0; row < model.rowCount(); ++row)
            if (model.index(row, 0).data().toString() == rowName &&
                (second.isEmpty() || model.index(row, 1).data().toString() == second))
                return model.index(row, column);
        return {};
    }
    void clickCell(const QModelIndex& index, Qt::KeyboardModifiers modifiers = {}) {
        table().scrollTo(index);
        QTest::mouseClick(table().viewport(), Qt::LeftButton, modifiers, table().visualRect(index).center());
    }
    void typeOver(const QModelIndex& index, const QString& text) {
        table().setFocus();
        table().edit(index);
        auto* editor = qobject_cast<QLineEdit*>(QApplication::focusWidget());
        QVERIFY(editor && table().viewport()->isAncestorOf(editor));
        editor->selectAll();
        QTest::keyClicks(editor, text);
        QTest::keyClick(editor, Qt::Key_Return);
        QCoreApplication::processEvents(); // the delegate commits in the next round
    }
    /// Types into a cell as a person does: select, type over, Enter.
    void typeInto(const QModelIndex& index, const QString& text) {
        clickCell(index);
        typeOver(index, text);
    }
};

} // namespace

class RegistersPanelTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void every_register_shows_its_rows_and_what_is_typed_filters_them() {
        Open h;
        QVERIFY(h.panel().isVisible());
        QCOMPARE(h.panel().counts(), QString("8 of 8"));
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::cables));
        QCOMPARE(h.panel().model().rowCount(), 7);
        h.panel().filter().setFocus();
        h.type("om4");
        QCOMPARE(h.panel().counts(), QString("1 of 7"));
        h.panel().filter().clear();
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::ports));
        QVERIFY(h.panel().model().rowCount() > 60);
        h.panel().filter().setFocus();
        h.type("acc-1 sfp+");
        QCOMPARE(h.panel().model().rowCount(), 5); // its four, and the one at the other end of one
    }

    void a_click_on_a_title_sorts_and_lengths_sort_by_value() {
        Open h;
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::cables));
        const QModelIndex length = h.cell("OF-002", "length");
        auto* header = h.table().horizontalHeader();
        QTest::mouseClick(header->viewport(), Qt::LeftButton, {},
                          {header->sectionViewportPosition(length.column()) + 20, header->height() / 2});
        double last = -1;
        for (int row = 0; row < h.panel().model().rowCount(); ++row) {
            const QString text = h.panel().model().index(row, length.column()).data().toString();
            const double metres = text.section(QLatin1Char(' '), 0, 0).toDouble();
            QVERIFY2(metres >= last, qPrintable(text));
            last = metres;
        }
    }

    void typing_into_a_cell_is_one_step_and_nonsense_is_told() {
        Open h;
        h.typeInto(h.cell("acc-1", "serial"), "FQ-4711");
        QCOMPARE(h.network().device(h.named("acc-1"))->serial, std::string("FQ-4711"));
        QCOMPARE(h.window->action(CommandId::undo)->text(), QString("&Undo “Set serial of acc-1”"));
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::cables));
        const Network before = h.network();
        h.typeInto(h.cell("OF-002", "length"), "about so long");
        QVERIFY(h.network() == before);
        QVERIFY2(h.window->statusText().contains("is not a length"), qPrintable(h.window->statusText()));
    }

    void typing_into_one_of_several_selected_cells_sets_them_all() {
        Open h;
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::cables));
        h.clickCell(h.cell("OF-002", "status"));
        h.clickCell(h.cell("OF-004", "status"), Qt::ShiftModifier);
        const QModelIndex cell = h.cell("OF-004", "status");
        h.typeOver(cell, "planned");
        int planned = 0;
        h.network().all<Cable>().forEach(
            [&](const Cable& c) { planned += c.status == CableStatus::planned; });
        QCOMPARE(planned, 3);
        h.window->action(CommandId::undo)->trigger();
        h.network().all<Cable>().forEach([&](const Cable& c) { QVERIFY(c.status != CableStatus::planned); });
    }

    void a_paste_is_shown_first_and_leaves_out_what_is_wrong() {
        Open h;
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::cables));
        QGuiApplication::clipboard()->setText("11 m\nrather long\n13 m\n");
        h.clickCell(h.cell("OF-002", "length"));
        int shown = 0;
        h.onDialog<app::CellsPreview>([&](app::CellsPreview& dialog) {
            shown = dialog.list().topLevelItemCount();
            return dialog.changes() == 2 && dialog.wrong() == 1;
        });
        QTest::keyClick(&h.table(), Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(shown, 3);
        QTRY_COMPARE(h.cell("OF-002", "length").data().toString(), QString("11 m"));
        QCOMPARE(h.cell("OF-004", "length").data().toString(), QString("13 m"));
        h.window->action(CommandId::undo)->trigger(); // both in one step
        QTRY_COMPARE(h.cell("OF-002", "length").data().toString(), QString("12 m"));
        h.clickCell(h.cell("OF-002", "label"));
        QTest::keyClick(&h.table(), Qt::Key_C, Qt::ControlModifier);
        QCOMPARE(QGuiApplication::clipboard()->text(), QString("OF-002\n"));
    }

    void a_series_goes_on_from_the_first_cell() {
        Open h;
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::cables));
        h.onDialog<app::CellsPreview>([](app::CellsPreview&) { return true; });
        const QModelIndex first = h.cell("OF-005", "label");
        const int rows[] = {first.row(), first.row() + 1, first.row() + 2};
        std::vector<edit::Row> objects;
        for (const int row : rows)
            objects.push_back(h.panel().model().rowAt(row));
        h.clickCell(first);
        h.clickCell(first.siblingAtRow(rows[2]), Qt::ShiftModifier);
        h.table().selectionModel()->setCurrentIndex(first, QItemSelectionModel::NoUpdate);
        h.panel().fillSeries();
        QCOMPARE(h.network().cable({objects[2].object.id})->label, std::string("OF-007"));
        h.typeInto(first, "K-098");
        QTRY_VERIFY(h.cell("K-098", "label").isValid());
    }

    void the_selection_is_one_with_that_of_the_sheet() {
        Open h;
        h.clickCell(h.cell("phone-1", "name"));
        QVERIFY(h.session().selected().contains(refTo(h.named("phone-1"))));
        h.session().select({refTo(h.named("desk-1"))});
        QCOMPARE(h.table().selectionModel()->selectedRows().size(), 1);
        QCOMPARE(h.table().selectionModel()->selectedRows().front().data().toString(), QString("desk-1"));
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::ports));
        h.clickCell(h.cell("acc-1", "port", "X1"));
        QCOMPARE(h.session().selected().port().port, std::string("X1"));
        h.panel().choice().setCurrentIndex(static_cast<int>(Register::cables));
        h.clickCell(h.cell("OF-002", "label"));
        QCOMPARE(h.session().selection().front().kind, Kind::link);
    }

    void columns_are_chosen_and_kept() {
        Open h;
        const int note = h.cell("acc-1", "note").column();
        auto* columns = h.panel().findChild<QToolButton*>();
        Q_EMIT columns->menu()->aboutToShow();
        columns->menu()->actions()[note]->trigger();
        QVERIFY(h.table().isColumnHidden(note));
        h.window->close();
        h.restart();
        h.openFirstOffice();
        h.window->action(CommandId::showRegisters)->trigger();
        QVERIFY(h.table().isColumnHidden(note));
    }
};

UNDERRIDGE_TEST(RegistersPanelTest)
#include "registers_panel_test.moc"
