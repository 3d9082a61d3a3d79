// SPDX-License-Identifier: GPL-3.0-or-later
// Finding one's way: between sheets and back, by the find field, by the menu of what is
// under the pointer, and where one was when a file was left.
#include "app/commands/key_sheet.h"
#include "app/sheet/snapping.h"
#include "app/window/preferences.h"
#include "core/edit/devices.h"
#include "core/edit/sheets.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QCheckBox>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

QStringList textsOf(const QMenu& menu) {
    QStringList out;
    for (const QAction* action : menu.actions())
        if (!action->isSeparator())
            out << action->text().remove(QLatin1Char('&'));
    return out;
}

QStringList linesOf(const QListWidget& list) {
    QStringList out;
    for (int i = 0; i < list.count(); ++i)
        out << list.item(i)->text();
    return out;
}

} // namespace

class GoingAboutTest : public QObject {
    Q_OBJECT
    static SheetId sheetNamed(WindowHarness& h, const char* name) {
        for (const Sheet& sheet : h.network().sheetsInOrder())
            if (sheet.name == name)
                return sheet.id;
        return {};
    }
    static QStringList menuAt(WindowHarness& h) {
        Q_EMIT h.sheet().contextMenu().aboutToShow();
        return textsOf(h.sheet().contextMenu());
    }
private Q_SLOTS:
    void each_sheet_keeps_where_it_was_looked_at() {
        WindowHarness h;
        h.openFennickQuay();
        const SheetId whole = h.session().sheet(), routing = sheetNamed(h, "Routing");
        h.sheet().look({123, 456}, 1.5);
        h.session().showSheet(routing);
        const double fitted = h.sheet().camera().zoom(); // seen for the first time: all of it
        QVERIFY(h.sheet().camera().visible().contains(h.session().scene().bounds()));
        h.sheet().look({10, 20}, 0.9);
        h.session().showSheet(whole);
        QCOMPARE(h.sheet().camera().zoom(), 1.5);
        QCOMPARE(h.sheet().camera().centre(), (scene::PointF{123, 456}));
        h.session().showSheet(routing);
        QCOMPARE(h.sheet().camera().zoom(), 0.9);
        QVERIFY(fitted != 0.9);
    }

    void a_sheet_seen_before_shows_what_was_done_on_another() {
        WindowHarness h;
        h.openFennickQuay();
        const SheetId whole = h.session().sheet(), routing = sheetNamed(h, "Routing");
        h.session().showSheet(routing);
        h.session().showSheet(whole);
        const DeviceId core = h.named("core-1");
        QVERIFY(h.session().apply(edit::rename(h.network(), {refTo(core)}, {"heart-1"})));
        h.session().showSheet(routing);
        QCOMPARE(h.session().scene().plate(core)->name, std::string("heart-1"));
        QVERIFY(h.session().scene() == scene::Scene::build(h.network(), routing));
        h.session().workspace().setLengthUnit(LengthUnit::feet);
        h.session().showSheet(whole);
        QVERIFY(h.session().scene() == scene::Scene::build(h.network(), whole, LengthUnit::feet));
    }

    void back_and_forward_go_where_one_was() {
        WindowHarness h;
        h.openFennickQuay();
        const SheetId whole = h.session().sheet(), routing = sheetNamed(h, "Routing");
        QVERIFY(!h.window->action(CommandId::goBack)->isEnabled());
        h.sheet().look({300, 300}, 2);
        h.session().select({refTo(h.named("acc-1"))});
        h.session().showSheet(routing);
        QVERIFY(h.window->action(CommandId::goBack)->isEnabled());
        h.sheet().setFocus();
        h.key(Qt::Key_Left, Qt::AltModifier);
        QCOMPARE(h.session().sheet(), whole);
        QCOMPARE(h.sheet().camera().zoom(), 2.0);
        QVERIFY(!h.window->action(CommandId::goBack)->isEnabled());
        h.key(Qt::Key_Right, Qt::AltModifier);
        QCOMPARE(h.session().sheet(), routing);
        QVERIFY(!h.window->action(CommandId::goForward)->isEnabled());
        h.key(Qt::Key_Left, Qt::AltModifier);
        h.window->files().create(); // another document: nowhere to go back to
        QVERIFY(!h.window->action(CommandId::goForward)->isEnabled());
    }

    void going_to_something_on_another_sheet_shows_that_sheet() {
        WindowHarness h;
        h.openFennickQuay();
        const SheetId whole = h.session().sheet(), routing = sheetNamed(h, "Routing");
        h.session().showSheet(routing);
        const DeviceId phone = h.named("phone-q1");
        QVERIFY(!h.network().position(routing, phone.value));
        QVERIFY(h.session().navigation().goTo(refTo(phone)));
        QCOMPARE(h.session().sheet(), whole);
        QVERIFY(h.session().selected().contains(refTo(phone)));
        QVERIFY(h.sheet().camera().visible().intersects(h.plate("phone-q1").frame));
        const Link* link = nullptr;
        h.network().forEachLinkOf(phone, [&](const Link& each) { link = &each; });
        QVERIFY(h.session().navigation().goTo(refTo(link->cable))); // shown by the link on it
        QVERIFY(h.session().selected().contains(refTo(link->id)));
        QVERIFY(!h.session().navigation().goTo(ObjectRef{Kind::device, 12345}));
    }

    void the_menu_of_the_pointer_has_what_applies_and_no_more() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().select({});
        const QStringList empty = menuAt(h);
        QVERIFY(empty.contains("Add devices…") && empty.contains("Add note…") && !empty.contains("Delete"));
        h.session().select({refTo(h.named("acc-1"))});
        const QStringList device = menuAt(h);
        QVERIFY(device.contains("Rename…") && device.contains("Link…") && device.contains("Delete"));
        QVERIFY(!device.contains("Straighten") && !device.contains("Link many…") &&
                !device.contains("Add note…"));
        LinkId link;
        h.network().forEachLinkOf(h.named("acc-1"), [&](const Link& each) { link = each.id; });
        h.session().select({refTo(link)});
        const QStringList ofLink = menuAt(h);
        QVERIFY(ofLink.contains("Other port…") && ofLink.contains("Straighten") && ofLink.contains("Delete"));
        QVERIFY(!ofLink.contains("Rename…") && !ofLink.contains("Duplicate") &&
                !ofLink.contains("Make a LAG"));
    }

    void enter_opens_what_is_selected() {
        WindowHarness h;
        h.openFirstOffice();
        h.sheet().setFocus();
        h.session().select({refTo(h.named("acc-1"))});
        h.key(Qt::Key_Return);
        QVERIFY(h.window->faceplates().isVisible());
        LinkId link;
        h.network().forEachLinkOf(h.named("acc-1"), [&](const Link& each) { link = each.id; });
        h.sheet().setFocus();
        h.session().select({refTo(link)});
        h.key(Qt::Key_Return);
        QVERIFY(h.sheet().linking().drawer().isVisible());
        h.key(Qt::Key_Escape);
        NoteId note;
        h.network().all<Note>().forEach([&](const Note& each) { note = each.id; });
        h.sheet().setFocus();
        h.session().select({refTo(note)});
        h.key(Qt::Key_Enter);
        QVERIFY(h.sheet().fields().noteField().isVisible());
    }

    void labels_of_the_sheet_are_switched_and_undone() {
        WindowHarness h;
        h.openFirstOffice();
        LinkId link;
        h.network().forEachLinkOf(h.named("acc-1"), [&](const Link& each) { link = each.id; });
        QVERIFY(h.window->action(CommandId::portLabels)->isChecked());
        const auto labels = h.session().scene().link(link)->labels.size();
        h.window->action(CommandId::portLabels)->trigger();
        QVERIFY(!h.window->action(CommandId::portLabels)->isChecked());
        QCOMPARE(h.session().scene().link(link)->labels.size(), labels - 2);
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(h.window->action(CommandId::portLabels)->isChecked());
        QCOMPARE(h.session().scene().link(link)->labels.size(), labels);
    }

    void find_has_a_section_for_each_kind_and_none_crowds_out_another() {
        WindowHarness h;
        h.openFennickQuay();
        QLineEdit& find = h.window->find();
        find.setFocus();
        h.type("a"); // half of everything
        const QStringList lines = linesOf(h.window->find().results());
        for (const char* section : {"Devices", "Cables", "Commands"})
            QVERIFY2(lines.contains(section), section);
        QVERIFY(lines.filter(QRegularExpression("^[0-9]+ more")).size() >=
                2); // devices and commands at least
        // The heading cannot be chosen: the first device is.
        QCOMPARE(h.window->find().results().currentRow(), 1);
        QVERIFY(!(h.window->find().results().item(0)->flags() & Qt::ItemIsEnabled));
        // "n more" shows them all, and the field stays open.
        const int before = h.window->find().results().count();
        for (int i = 0; i < app::FindField::mostOfSection; ++i)
            h.key(Qt::Key_Down);
        QVERIFY(h.window->find().results().currentItem()->text().contains("more"));
        h.key(Qt::Key_Return);
        QVERIFY(h.window->find().results().isVisible());
        QVERIFY(h.window->find().results().count() > before);
    }

    void find_puts_the_whole_name_before_its_start_before_any_part() {
        WindowHarness h;
        h.openFirstOffice();
        QVERIFY(h.session().apply(edit::rename(h.network(), {refTo(h.named("acc-1"))}, {"old-edge"})));
        h.addPhones(2);
        const auto phones = h.session().selected().devices();
        QVERIFY(h.session().apply(
            edit::rename(h.network(), {refTo(phones[0]), refTo(phones[1])}, {"edge-a", "edge"})));
        h.window->find().setFocus();
        h.type("edge");
        const QStringList lines = linesOf(h.window->find().results()).filter("edge");
        QVERIFY2(lines.size() == 4 && lines[0].startsWith("edge ·") && lines[1].startsWith("edge-1 ·") &&
                     lines[2].startsWith("edge-a ·") && lines[3].startsWith("old-edge ·"),
                 qPrintable(lines.join('|')));
        h.key(Qt::Key_Return);
        QVERIFY(h.session().selected().contains(refTo(phones[1])));
    }

    void the_key_sheet_shows_own_keys_and_finds_in_them() {
        WindowHarness h;
        QSettings settings(h.folder.filePath("settings.ini"), QSettings::IniFormat);
        h.onDialog<app::Preferences>([](app::Preferences& dialog) {
            return dialog.setKey(CommandId::linkInRow, QKeySequence("Ctrl+Alt+R"));
        });
        h.window->action(CommandId::preferences)->trigger();
        h.window->action(CommandId::keys)->trigger();
        auto* sheet = h.window->findChild<app::KeySheet*>();
        QVERIFY(sheet);
        QVERIFY(sheet->sheet().toPlainText().contains("Ctrl+Alt+R"));
        QVERIFY(!sheet->sheet().toPlainText().contains("Shift+L"));
        QTest::keyClicks(&sheet->search(), "link in a row");
        QVERIFY(sheet->sheet().toPlainText().contains("Link in a row"));
        QVERIFY(!sheet->sheet().toPlainText().contains("Add devices"));
        sheet->search().setText("pinch");
        QVERIFY(sheet->sheet().toPlainText().contains("Zoom at the pointer"));
        sheet->search().setText("nothing like that");
        QCOMPARE(sheet->sheet().toPlainText().trimmed(), QString("Nothing found"));
        h.window->action(CommandId::keys)->trigger(); // brings up the one that is open
        QCOMPARE(h.window->findChildren<app::KeySheet*>().size(), 1);
    }

    void preferences_find_a_command_by_name_or_key() {
        WindowHarness h;
        int all = 0, some = 0;
        bool found = false;
        h.onDialog<app::Preferences>([&](app::Preferences& dialog) {
            const auto shown = [&] {
                int rows = 0;
                for (int row = 0; row < dialog.keys().rowCount(); ++row)
                    rows += !dialog.keys().isRowHidden(row);
                return rows;
            };
            all = shown();
            dialog.search().setText("ctrl+shift+b");
            some = shown();
            for (int row = 0; row < dialog.keys().rowCount(); ++row)
                found |= !dialog.keys().isRowHidden(row) && dialog.keys().item(row, 0)->text() == "Label";
            return true;
        });
        h.window->action(CommandId::preferences)->trigger();
        QVERIFY(all > 50);
        QCOMPARE(some, 1);
        QVERIFY(found);
    }

    void the_keyboard_reaches_the_bottom_dock() {
        WindowHarness h;
        h.openFirstOffice();
        h.window->action(CommandId::showRegisters)->trigger();
        h.sheet().setFocus();
        bool reached = false;
        for (int i = 0; i < 5 && !reached; ++i) {
            h.key(Qt::Key_F6);
            reached = h.window->bottomDock().isAncestorOf(QApplication::focusWidget());
        }
        QVERIFY(reached);
        for (int i = 0; i < 3; ++i)
            h.key(Qt::Key_F6);
        QCOMPARE(QApplication::focusWidget(), &h.sheet()); // once around
    }

    void a_file_opens_where_it_was_left() {
        WindowHarness h;
        h.openFennickQuay();
        const QString path = h.folder.filePath("quay.underridge");
        QVERIFY(h.finished([&](auto done) { h.window->files().saveTo(path, done); }));
        h.session().showSheet(sheetNamed(h, "Routing"));
        const SheetId routing = h.session().sheet();
        const auto centre = h.session().scene().bounds().centre();
        h.sheet().look(centre, 1.25);
        h.window->close();
        h.restart();
        QVERIFY(h.open(path));
        QCOMPARE(h.session().sheet(), routing);
        QCOMPARE(h.sheet().camera().zoom(), 1.25);
        QVERIFY(length(h.sheet().camera().centre() - centre) < 0.01);
    }

    void the_last_network_is_opened_again_for_those_who_want_it() {
        WindowHarness h;
        h.openFirstOffice();
        const QString path = h.folder.filePath("office.underridge");
        QVERIFY(h.finished([&](auto done) { h.window->files().saveTo(path, done); }));
        h.window->close();
        h.restart();
        h.window->files().openLast();
        QVERIFY(!h.window->jobs().busy()); // not asked for
        h.onDialog<app::Preferences>([](app::Preferences& dialog) {
            dialog.opensLast().setChecked(true);
            return true;
        });
        h.window->action(CommandId::preferences)->trigger();
        h.window->close(); // closed with nothing open: nothing to open again
        h.restart();
        h.window->files().openLast();
        QVERIFY(!h.window->jobs().busy());
        QVERIFY(h.open(path));
        h.window->close();
        h.restart();
        h.window->files().openLast();
        h.wait();
        QVERIFY(h.window->showsSheet());
        QCOMPARE(QString::fromStdString(h.session().document().path()), path);
    }

    void an_ampersand_in_a_name_is_shown() {
        WindowHarness h;
        h.openFirstOffice();
        QVERIFY(h.session().apply(edit::renameSheet(h.network(), h.session().sheet(), "Tills & gates")));
        const auto buttons = h.window->findChildren<QToolButton*>();
        QVERIFY(std::any_of(buttons.begin(), buttons.end(),
                            [](const QToolButton* button) { return button->text() == "Tills && gates"; }));
    }

    void the_port_shown_stays_while_its_device_does() {
        WindowHarness h;
        h.openFirstOffice();
        const DeviceId acc = h.named("acc-1");
        h.session().selectPort({acc, "1"});
        QVERIFY(h.session().apply(edit::rename(h.network(), {refTo(acc)}, {"acc-one"})));
        QCOMPARE(h.session().selected().port(), (PortRef{acc, "1"}));
        h.session().select({refTo(h.named("phone-1"))});
        QVERIFY(!h.session().selected().port().known());
        h.session().selectPort({acc, "1"});
        const DeviceId phone = h.named("phone-1");
        QVERIFY(h.session().apply(edit::rename(h.network(), {refTo(phone)}, {"phone-one"})));
        QVERIFY(!h.session().selected().port().known()); // the act was about another
        QCOMPARE(h.session().selection(), edit::Refs{refTo(phone)});
    }

    void of_several_edges_within_reach_the_nearest_is_snapped_to() {
        WindowHarness h;
        h.openFirstOffice();
        const scene::Rect frame = h.plate("acc-1").frame;
        // Its left edge is 3 units from that of the plate, its middle 5 - 3 = 2, its right 7.
        const scene::Rect moving{frame.x + 3, frame.bottom() + 40, frame.w - 10, frame.h};
        const auto snapped =
            app::Neighbours(h.session().scene(), moving.grown(60), {}).snap(moving, {0, 0}, 9);
        QCOMPARE(snapped.by.x, 2);
        QVERIFY(!snapped.guides.empty());
    }

    void what_is_being_typed_is_kept_where_it_was_when_one_goes_away() {
        WindowHarness h;
        h.openFennickQuay();
        const SheetId whole = h.session().sheet(), routing = sheetNamed(h, "Routing");
        h.session().showSheet(routing);
        h.session().showSheet(whole);
        h.sheet().setFocus();
        h.key(Qt::Key_N);
        QVERIFY(h.sheet().fields().noteField().isVisible());
        h.type("Moored");
        h.window->action(CommandId::goBack)->trigger();
        QCOMPARE(h.session().sheet(), routing);
        QVERIFY(!h.sheet().fields().noteField().isVisible());
        const Note* note = nullptr;
        h.network().all<Note>().forEach([&](const Note& each) {
            if (each.text.str() == "Moored")
                note = &each;
        });
        QVERIFY(note && note->sheet == whole); // not where one went to
        h.window->action(CommandId::goForward)->trigger();
        h.session().select({refTo(h.named("acc-q1"))});
        h.sheet().setFocus();
        h.key(Qt::Key_F2);
        QVERIFY(h.sheet().fields().nameField().isVisible());
        h.type("acc-quay");
        h.window->action(CommandId::goBack)->trigger();
        QVERIFY(h.named("acc-quay"));
        QVERIFY(!h.sheet().fields().nameField().isVisible());
    }
};

UNDERRIDGE_TEST(GoingAboutTest)
#include "going_about_test.moc"
