// SPDX-License-Identifier: GPL-3.0-or-later
// Racks in the real window.
#include "app/carried.h"
#include "app/racks/rack_panel.h"
#include "core/model/racks.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QComboBox>
#include <QMimeData>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

struct Racks : WindowHarness {
    Racks() {
        openFennickQuay();
        window->action(CommandId::rack)->trigger();
    }
    app::RackView& view() { return window->racks().view(); }
    int unitOf(const char* name) { return network().device(named(name))->place.unit; }
    QPoint at(int unit, Side side = Side::front) {
        const scene::PointF p = view().picture()->areaOf({{}, unit}, side).centre();
        return QPointF(p.x, p.y).toPoint();
    }
    void carry(QPoint from, QPoint to) {
        QTest::mousePress(&view(), Qt::LeftButton, {}, from);
        for (const QPoint p : {(from + to) / 2, to}) {
            QMouseEvent move(QEvent::MouseMove, p, view().mapToGlobal(p), Qt::NoButton, Qt::LeftButton, {});
            QApplication::sendEvent(&view(), &move);
        }
        QTest::mouseRelease(&view(), Qt::LeftButton, {}, to);
    }
    void drop(const QMimeData& data, QPoint at) {
        QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&view(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent dropped(at, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&view(), &dropped);
    }
};

} // namespace

class RackWindowTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void racks_are_listed_with_their_room() {
        Racks h;
        QCOMPARE(h.window->racks().choice().count(), 2);
        QVERIFY(h.window->racks().choice().itemText(0).startsWith("R1 in Fennick Quay/"));
        QVERIFY2(h.window->racks().says().contains(QRegularExpression("^[0-9]+ of 42 units free")),
                 qPrintable(h.window->racks().says()));
    }
    void a_device_is_moved_by_hand_and_back_by_undo() {
        Racks h;
        const int before = h.unitOf("core-1");
        h.carry(h.at(before), h.at(10));
        QCOMPARE(h.unitOf("core-1"), 10);
        QVERIFY(h.session().selected().contains(refTo(h.named("core-1"))));
        h.session().undo();
        QCOMPARE(h.unitOf("core-1"), before);
    }
    void a_unit_that_is_taken_is_refused_with_the_reason() {
        Racks h;
        const int before = h.unitOf("rtr-1");
        h.carry(h.at(before), h.at(h.unitOf("core-1")));
        QCOMPARE(h.unitOf("rtr-1"), before);
        QTRY_VERIFY2(h.window->statusText().contains("are taken by core-1"),
                     qPrintable(h.window->statusText()));
    }
    void escape_gives_a_move_up() {
        Racks h;
        const int before = h.unitOf("rtr-1");
        const QPoint from = h.at(before), to = h.at(12);
        QTest::mousePress(&h.view(), Qt::LeftButton, {}, from);
        QMouseEvent move(QEvent::MouseMove, to, h.view().mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
        QApplication::sendEvent(&h.view(), &move);
        QTest::keyClick(&h.view(), Qt::Key_Escape);
        QTest::mouseRelease(&h.view(), Qt::LeftButton, {}, to);
        QCOMPARE(h.unitOf("rtr-1"), before);
    }
    void the_keyboard_goes_from_device_to_device_and_moves_them() {
        Racks h;
        h.session().select({});
        h.view().setFocus();
        h.key(Qt::Key_Down); // the uppermost
        QCOMPARE(h.session().selected().devices().size(), std::size_t{1});
        h.session().select({refTo(h.named("srv-tickets"))});
        const int before = h.unitOf("srv-tickets");
        h.key(Qt::Key_Down, Qt::AltModifier);
        QCOMPARE(h.unitOf("srv-tickets"), before - 1);
    }
    void models_and_waiting_devices_are_dropped_into_a_unit() {
        Racks h;
        const auto devices = h.devices();
        QMimeData model, waiting;
        model.setData(QString::fromLatin1(app::modelMimeType), "server");
        app::carry(waiting, {h.named("acc-c1")});
        h.drop(model, h.at(12));
        QCOMPARE(h.devices(), devices + 1);
        QCOMPARE(h.network().device(h.session().selected().devices().front())->place.unit, 12);
        h.drop(waiting, h.at(14, Side::rear));
        QCOMPARE(h.unitOf("acc-c1"), 14);
        QCOMPARE(h.network().device(h.named("acc-c1"))->place.side, Side::rear);
    }
    void half_as_wide_two_share_a_unit() {
        Racks h;
        QMimeData model;
        model.setData(QString::fromLatin1(app::modelMimeType), "router-half-width");
        const QPoint middle = h.at(12);
        h.drop(model, middle - QPoint(80, 0));
        const DeviceId left = h.session().selected().devices().front();
        h.drop(model, middle + QPoint(80, 0));
        const DeviceId right = h.session().selected().devices().front();
        const auto place = [&](DeviceId id) { return h.network().device(id)->place; };
        QCOMPARE(place(left).unit, 12);
        QCOMPARE(place(right).unit, 12);
        QCOMPARE(place(left).half, Half::left);
        QCOMPARE(place(right).half, Half::right);
        // By hand to the unit above, on the other side of it; by keyboard back to the right.
        h.carry(middle + QPoint(80, 0), h.at(13) - QPoint(80, 0));
        QCOMPARE(place(right).unit, 13);
        QCOMPARE(place(right).half, Half::left);
        h.view().setFocus();
        h.key(Qt::Key_Right, Qt::AltModifier);
        QCOMPARE(place(right).half, Half::right);
        QTRY_VERIFY(h.window->details().field("Takes"));
    }
    void supplies_are_fed_in_the_details_and_all_at_once() {
        Racks h;
        const DeviceId core = h.named("core-1");
        h.session().select({refTo(core)});
        QTRY_VERIFY(h.window->details().field("Supply P1"));
        auto* box = qobject_cast<QComboBox*>(h.window->details().field("Supply P1"));
        QVERIFY(box->currentText().startsWith("pdu-"));
        box->setFocus();
        h.key(Qt::Key_Home); // not said
        QTRY_COMPARE(h.network().device(core)->feeds.size(), std::size_t(1));
        h.window->action(CommandId::feedPower)->trigger();
        QTRY_COMPARE(h.network().device(core)->feeds.size(), std::size_t(2));
        QVERIFY(h.session().selected().contains(refTo(core)));
        h.session().undo();
        QCOMPARE(h.network().device(core)->feeds.size(), std::size_t(1));
        // The cord goes with the feed, and may be another.
        QTRY_VERIFY(h.window->details().field("Cord P2"));
        auto* cord = qobject_cast<QComboBox*>(h.window->details().field("Cord P2"));
        QVERIFY2(cord->currentText().startsWith("C14 to C13 mains cord, 10 A, "),
                 qPrintable(cord->currentText()));
        cord->setFocus();
        h.key(Qt::Key_Home); // not said
        QTRY_VERIFY(!h.network().device(core)->feeds.front().cable);
        h.session().undo();
        // What it draws is typed with its unit.
        QTRY_VERIFY(h.window->details().field("Draws at most"));
        auto* draw = qobject_cast<QLineEdit*>(h.window->details().field("Draws at most"));
        draw->setFocus();
        draw->selectAll();
        h.type("0.8 kW");
        h.key(Qt::Key_Return);
        QCOMPARE(h.network().device(core)->watts, 800);
    }
    void what_feeds_others_says_what_goes_dark_without_it() {
        Racks h;
        h.session().select({refTo(h.named("ups-1"))});
        const QString dark = "Dark without it: 5 devices";
        QTRY_VERIFY(h.window->details().field(dark));
        QTest::mouseClick(h.window->details().field(dark), Qt::LeftButton);
        QVERIFY(h.session().selected().contains(refTo(h.named("pdu-r1"))));
        QVERIFY(h.session().selected().contains(refTo(h.named("rtr-1"))));
        QVERIFY(!h.session().selected().contains(refTo(h.named("core-1")))); // it has another supply
        QVERIFY(h.window->racks().says().contains("draws up to"));
        QVERIFY(h.window->racks().says().contains(" kg"));
    }
    void without_racks_it_says_how_to_come_by_one() {
        WindowHarness h;
        h.openFirstOffice();
        h.window->action(CommandId::rack)->trigger();
        QVERIFY(h.window->racks().says().contains("No rack yet"));
        QVERIFY(!h.window->racks().grab().isNull());
    }
};

UNDERRIDGE_TEST(RackWindowTest)
#include "rack_window_test.moc"
