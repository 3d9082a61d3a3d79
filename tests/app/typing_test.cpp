// SPDX-License-Identifier: GPL-3.0-or-later
// Fields in place: leaving commits, Esc reverts, saving and closing take what is typed,
// the focus stays; what happens elsewhere meanwhile disturbs nothing.
#include "core/edit/devices.h"
#include "core/edit/sheets.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QScrollBar>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using Answer = app::NetworkFiles::SaveAnswer;
using tests::WindowHarness;

namespace {

void settle() {
    for (int i = 0; i < 3; ++i)
        QCoreApplication::processEvents();
}

/// The first office with a device selected, looked at in the details.
struct Office : WindowHarness {
    Office() {
        openFirstOffice();
        select("acc-1");
    }
    void select(const char* name) {
        session().select({refTo(named(name))});
        settle();
    }
    QLineEdit& line(const char* label) {
        auto* field = qobject_cast<QLineEdit*>(window->details().field(QString::fromUtf8(label)));
        if (!field)
            qFatal("no field %s", label);
        return *field;
    }
    QPlainTextEdit& area(const char* label) {
        auto* field = qobject_cast<QPlainTextEdit*>(window->details().field(QString::fromUtf8(label)));
        if (!field)
            qFatal("no field %s", label);
        return *field;
    }
    const Device& device(const char* name) { return *network().device(named(name)); }
    /// What happens elsewhere: a change of another device, as from a worker or another
    /// panel.
    void changeElsewhere() {
        Network next = network();
        NetworkInfo info = next.info();
        info.note += "x";
        next.put(info);
        session().apply(edit::Act{"Elsewhere", next, {{Kind::unknown, 0}}});
        settle();
    }
    void typeInto(QWidget& field, const QString& text) {
        field.setFocus();
        QTest::keyClicks(&field, text);
    }
    /// The window is no longer the active one, as after Alt+Tab.
    static void goElsewhere(QWidget& field) {
        QFocusEvent event(QEvent::FocusOut, Qt::ActiveWindowFocusReason);
        QApplication::sendEvent(&field, &event);
    }
};

} // namespace

class TypingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void closing_asks_about_what_is_only_typed_and_saving_takes_it_data() {
        QTest::addColumn<QString>("where");
        for (const char* where : {"note", "name", "cell", "details line", "details area", "start-up"})
            QTest::newRow(where) << QString::fromUtf8(where);
    }
    void closing_asks_about_what_is_only_typed_and_saving_takes_it() {
        QFETCH(QString, where);
        Office h;
        h.path = h.folder.filePath("t.underridge");
        h.window->action(CommandId::saveAs)->trigger();
        QTRY_VERIFY(!h.window->files().isSaving());
        QVERIFY(!h.window->isWindowModified());
        if (where == "note") {
            h.sheet().setFocus();
            h.key(Qt::Key_N);
            QVERIFY(h.sheet().fields().noteField().isVisible());
            h.type("quayside");
        } else if (where == "name") {
            h.sheet().setFocus();
            h.key(Qt::Key_F2);
            h.type("quayside");
        } else if (where == "cell") {
            h.window->action(CommandId::showRegisters)->trigger();
            settle();
            auto& table = h.window->registers().table();
            table.setCurrentIndex(h.window->registers().model().index(0, 0));
            QTest::keyClick(&table, Qt::Key_F2);
            h.type("quayside");
        } else if (where == "details line") {
            h.typeInto(h.line("Serial"), "quayside");
        } else if (where == "details area") {
            h.typeInto(h.area("Note"), "quayside");
        } else {
            h.typeInto(h.area("Start-up"), "quayside");
        }
        QWidget* field = QApplication::focusWidget();
        h.answer = Answer::cancel;
        QVERIFY(!h.window->close());
        QVERIFY(h.saveAsked);
        QCOMPARE(QApplication::focusWidget(), field); // the next keys go on where they were
        h.type("7");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->files().isSaving());
        QVERIFY(!h.window->isWindowModified());
        QVERIFY(h.files.read(h.path.toStdString())->find("quayside7") != std::string::npos);
        QCOMPARE(QApplication::focusWidget(), field);
        h.saveAsked = false;
        QVERIFY(h.window->close());
        QVERIFY(!h.saveAsked);
    }

    void what_cannot_be_taken_keeps_the_window_open_and_says_why() {
        Office h;
        h.typeInto(h.line("Address"), "10.84.999.1");
        QVERIFY(!h.window->close());
        QCOMPARE(QApplication::focusWidget(), &h.line("Address"));
        QTest::keyClick(&h.line("Address"), Qt::Key_Escape);
        QVERIFY(!h.line("Address").text().contains("999"));
        QVERIFY(h.window->close());
    }

    void another_window_in_front_costs_nothing_that_is_typed() {
        Office h;
        h.sheet().setFocus();
        h.key(Qt::Key_N);
        h.type("quay");
        Office::goElsewhere(h.sheet().fields().noteField());
        QVERIFY(h.sheet().fields().noteField().isVisible());
        QCOMPARE(h.sheet().fields().noteField().toPlainText(), QStringLiteral("quay"));
        h.key(Qt::Key_Escape);
        h.sheet().setFocus();
        h.key(Qt::Key_F2);
        h.type("quay-1");
        Office::goElsewhere(h.sheet().fields().nameField());
        QVERIFY(h.sheet().fields().nameField().isVisible());
        h.key(Qt::Key_Escape);
        h.sheet().setFocus();
        h.key(Qt::Key_A);
        h.type("4 phone");
        Office::goElsewhere(h.sheet().adding().field().field());
        QVERIFY(h.sheet().adding().field().isVisible());
        QCOMPARE(h.sheet().adding().field().field().text(), QStringLiteral("4 phone"));
    }

    void a_press_of_the_other_button_takes_the_name_that_is_typed() {
        Office h;
        const DeviceId id = h.named("acc-1");
        h.sheet().setFocus();
        h.key(Qt::Key_F2);
        h.type("quay-1");
        QTest::mousePress(&h.sheet(), Qt::RightButton, {}, h.middle("desk-1"));
        QCOMPARE(QString::fromStdString(h.network().device(id)->name), QStringLiteral("quay-1"));
        QVERIFY(h.sheet().fields().nameField().isHidden());
    }

    void going_to_another_field_takes_the_name_and_esc_drops_it() {
        Office h;
        const DeviceId id = h.named("acc-1");
        h.sheet().setFocus();
        h.key(Qt::Key_F2);
        h.type("quay-1");
        h.window->find().setFocus();
        QCOMPARE(QString::fromStdString(h.network().device(id)->name), QStringLiteral("quay-1"));
        h.sheet().setFocus();
        h.key(Qt::Key_F2);
        h.type("quay-2");
        h.key(Qt::Key_Escape);
        QCOMPARE(QString::fromStdString(h.network().device(id)->name), QStringLiteral("quay-1"));
        QCOMPARE(QApplication::focusWidget(), &h.sheet());
    }

    void a_change_elsewhere_leaves_half_typed_details_alone() {
        Office h;
        auto& serial = h.line("Serial");
        h.typeInto(serial, "FQ-1");
        serial.setCursorPosition(2);
        h.changeElsewhere();
        QCOMPARE(&h.line("Serial"), &serial); // the very same field
        QCOMPARE(serial.text(), QStringLiteral("FQ-1"));
        QCOMPARE(serial.cursorPosition(), 2);
        QVERIFY(serial.hasFocus());
        auto& note = h.area("Note");
        note.setFocus(); // the serial number is taken by leaving it
        QCOMPARE(QString::fromStdString(h.device("acc-1").serial), QStringLiteral("FQ-1"));
        QTest::keyClicks(&note, "half a");
        h.changeElsewhere();
        QCOMPARE(&h.area("Note"), &note);
        QCOMPARE(note.toPlainText(), QStringLiteral("half a"));
        QTest::keyClicks(&note, " note");
        h.sheet().setFocus();
        QCOMPARE(QString::fromStdString(h.device("acc-1").note.str()), QStringLiteral("half a note"));
    }

    void a_change_elsewhere_leaves_scrolling_and_open_lists_alone() {
        Office h;
        h.openFennickQuay();
        h.select("core-1");
        QTest::qWait(0);
        auto& bar = *h.window->details().verticalScrollBar();
        QVERIFY(bar.maximum() > 40);
        bar.setValue(40);
        h.changeElsewhere();
        QCOMPARE(bar.value(), 40);
        auto* model = qobject_cast<QComboBox*>(h.window->details().field("Model"));
        QVERIFY(model);
        model->showPopup();
        QVERIFY(model->view()->isVisible());
        h.changeElsewhere();
        QCOMPARE(h.window->details().field("Model"), model);
        QVERIFY(model->view()->isVisible());
        model->hidePopup();
    }

    void details_show_what_was_changed_elsewhere_where_nobody_types() {
        Office h;
        auto& name = h.line("Name");
        h.session().apply(edit::rename(h.network(), {refTo(h.named("acc-1"))}, {"quay-1"}));
        settle();
        QCOMPARE(&h.line("Name"), &name);
        QCOMPARE(name.text(), QStringLiteral("quay-1"));
        h.session().undo();
        settle();
        QCOMPARE(name.text(), QStringLiteral("acc-1"));
    }

    void choosing_another_device_takes_what_was_typed_for_the_first() {
        Office h;
        h.typeInto(h.line("Serial"), "FQ-1");
        h.select("desk-1"); // from the outline, by the find field: the focus need not move
        QCOMPARE(QString::fromStdString(h.device("acc-1").serial), QStringLiteral("FQ-1"));
        QVERIFY(h.device("desk-1").serial.empty());
        QVERIFY(h.line("Serial").text().isEmpty());
    }

    void a_register_cell_that_is_typed_into_stays_open_when_the_network_changes() {
        Office h;
        h.window->action(CommandId::showRegisters)->trigger();
        settle();
        auto& table = h.window->registers().table();
        table.setCurrentIndex(h.window->registers().model().index(0, 0));
        QTest::keyClick(&table, Qt::Key_F2);
        h.type("quay");
        QWidget* cell = QApplication::focusWidget();
        h.changeElsewhere();
        QTest::qWait(300); // past the moment the register rests
        QCOMPARE(QApplication::focusWidget(), cell);
        h.type("side");
        h.key(Qt::Key_Return);
        QTRY_VERIFY(h.named("quayside"));
    }

    void a_note_that_cannot_be_taken_stays_to_be_put_right() {
        Office h;
        h.session().apply(
            edit::addNote(h.network(), h.session().sheet(), {0, 0}, "berth 4", h.session().ids()));
        settle();
        auto& text = h.area("Text");
        text.setFocus();
        text.selectAll();
        QTest::keyClick(&text, Qt::Key_Delete); // a note without a text is none
        QVERIFY(!h.window->close());
        QVERIFY2(h.window->statusText().contains("empty"), qPrintable(h.window->statusText()));
        QTest::keyClicks(&text, "berth 5");
        h.sheet().setFocus();
        bool found = false;
        h.network().all<Note>().forEach([&](const Note& note) { found |= note.text.view() == "berth 5"; });
        QVERIFY(found);
    }
};

UNDERRIDGE_TEST(TypingTest)
#include "typing_test.moc"
