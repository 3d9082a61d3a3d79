// SPDX-License-Identifier: GPL-3.0-or-later
// Zones: drawn, named, moved, resized.
#include "app/sheet/card.h"
#include "core/edit/groups.h"
#include "core/edit/sheets.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QComboBox>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

struct Marked : WindowHarness {
    Marked() {
        openFirstOffice();
        sheet().look({900, 380}, 1);
        sheet().setFocus();
    }
    NoteId zone() {
        NoteId found;
        network().all<Note>().forEach([&](const Note& note) {
            if (note.zone)
                found = note.id;
        });
        return found;
    }
    scene::Rect frame() {
        const scene::NoteCard* card = session().scene().note(zone());
        return card ? card->frame : scene::Rect{};
    }
    void draw(scene::PointF from, scene::PointF to) {
        key(Qt::Key_Z);
        drag(at(from), at(to));
    }
};

} // namespace

class ZoneTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_zone_is_drawn_and_named_at_once() {
        Marked h;
        h.draw({840, 320}, {1020, 480});
        QVERIFY(h.zone());
        QCOMPARE(h.frame().w, 184.0); // on the grid
        QVERIFY(h.sheet().fields().noteField().isVisible());
        h.type("Cold store");
        h.sheet().setFocus();
        QCOMPARE(h.network().note(h.zone())->text.str(), std::string("Cold store"));
        QVERIFY(!h.sheet().inGesture()); // one at a time
        h.session().undo();
        h.session().undo();
        QVERIFY(!h.zone());
    }
    void its_card_says_what_lies_in_it() {
        Marked h;
        const scene::Rect plate = h.plate("acc-1").frame;
        const Point corner{static_cast<int>(plate.x) - 20, static_cast<int>(plate.y) - 20};
        h.session().apply(edit::addZone(h.network(), h.session().sheet(), corner,
                                        static_cast<int>(plate.w) + 40, static_cast<int>(plate.h) + 40,
                                        "Store", h.session().ids()));
        const auto lines =
            app::zoneLines(h.network(), h.session().scene(), *h.session().scene().note(h.zone()));
        QCOMPARE(lines, QStringList({"Store", "1 device", "1 × switch"}));
    }
    void a_note_dropped_in_a_frame_moves_with_it() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().apply(edit::makeGroup(h.network(), h.session().sheet(), "Shop", GroupKind::room,
                                          {refTo(h.named("acc-1"))}, {}, h.session().ids()));
        const GroupId shop = h.network().device(h.named("acc-1"))->group;
        const auto act =
            edit::addNote(h.network(), h.session().look(), {900, 700}, "Keep clear", h.session().ids());
        h.session().apply(act);
        const NoteId note{act->subjects.front().id};
        h.sheet().look({700, 450}, 0.8);
        const auto frame = [&] { return h.session().scene().frame(shop)->frame; };
        const auto card = [&] { return h.session().scene().note(note)->frame; };
        QVERIFY(!h.network().note(note)->group);
        h.session().select({});
        const scene::PointF into{frame().x + 20, frame().bottom() - 8};
        h.drag(h.at(card().centre()), h.at(into), Qt::ControlModifier);
        QCOMPARE(h.network().note(note)->group, shop);
        h.session().select({refTo(note)});
        QTRY_VERIFY(h.window->details().field("Moves with"));
        auto* with = qobject_cast<QComboBox*>(h.window->details().field("Moves with"));
        QCOMPARE(with->currentText(), QString("Shop"));
        // Folded away and back; then the sheet's again, by the keyboard.
        h.session().apply(edit::setFolded(h.network(), h.session().sheet(), {shop}, true));
        QVERIFY(!h.session().scene().note(note));
        h.session().undo();
        QVERIFY(h.session().scene().note(note));
        h.session().select({refTo(note)});
        QTRY_VERIFY(h.window->details().field("Moves with"));
        with = qobject_cast<QComboBox*>(h.window->details().field("Moves with"));
        with->setFocus();
        h.key(Qt::Key_Home);
        QTRY_VERIFY(!h.network().note(note)->group);
    }
    void a_click_and_escape_mark_nothing() {
        Marked h;
        h.key(Qt::Key_Z);
        h.click(h.at({840, 320}));
        QVERIFY(!h.zone());
        QVERIFY(h.sheet().inGesture());
        h.key(Qt::Key_Escape);
        QVERIFY(!h.sheet().inGesture());
    }
    void inside_it_is_the_sheet_and_its_border_takes_it() {
        Marked h;
        h.session().apply(edit::addZone(h.network(), h.session().sheet(), {840, 320}, 160, 160, "Store",
                                        h.session().ids()));
        h.session().select({});
        h.click(h.at({920, 420}));
        QVERIFY(h.session().selection().empty());
        h.click(h.at({840, 400}));
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.zone())});
        h.drag(h.at({880, 328}), h.at({912, 360})); // by its title
        QCOMPARE(h.frame().x, 872.0);
    }
    void its_handles_resize_it_in_one_step() {
        Marked h;
        h.session().apply(edit::addZone(h.network(), h.session().sheet(), {840, 320}, 160, 160, "Store",
                                        h.session().ids()));
        h.session().select({refTo(h.zone())});
        h.drag(h.at({1000, 480}), h.at({1064, 512}));
        QCOMPARE(h.frame().w, 224.0);
        QCOMPARE(h.frame().h, 192.0);
        h.drag(h.at({840, 416}), h.at({880, 416})); // the left edge
        QCOMPARE(h.frame().x, 880.0);
        QCOMPARE(h.frame().right(), 1064.0);
        h.drag(h.at({1064, 416}), h.at({700, 416})); // never through itself
        QCOMPARE(h.frame().w, 20.0);
        h.session().undo();
        QCOMPARE(h.frame().right(), 1064.0);
        // Escape while it is dragged leaves it.
        h.moveTo(h.at({1064, 512}));
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.at({1064, 512}));
        h.moveTo(h.at({1140, 600}), Qt::LeftButton);
        h.key(Qt::Key_Escape);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, h.at({1140, 600}));
        QCOMPARE(h.frame().right(), 1064.0);
    }
    void what_cannot_be_drawn_is_refused() {
        Marked h;
        h.session().apply(edit::addZone(h.network(), h.session().sheet(), {840, 320}, 160, 160, "Store",
                                        h.session().ids()));
        const edit::Look look(h.session().sheet());
        QVERIFY(!edit::setZoneFrame(h.network(), look, h.zone(), {0, 0}, 10, 100));
        QVERIFY(!edit::setZoneFrame(h.network(), look, h.zone(), {sheetLimit, 0}, 100, 100));
        QVERIFY(!edit::setZoneFrame(h.network(), look, {4711}, {0, 0}, 100, 100));
    }
};

UNDERRIDGE_TEST(ZoneTest)
#include "zone_test.moc"
