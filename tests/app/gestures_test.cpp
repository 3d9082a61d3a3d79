// SPDX-License-Identifier: GPL-3.0-or-later
// Moving about, pointing, and the smaller gestures of the sheet.
#include "app/sheet/snapping.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QMimeData>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using scene::Rect;
using tests::WindowHarness;

class GesturesTest : public QObject {
    Q_OBJECT

    static void wheel(WindowHarness& h, QPointF at, int notches) {
        QWheelEvent event(at, h.sheet().mapToGlobal(at), {}, {0, notches * 120}, Qt::NoButton, {},
                          Qt::NoScrollPhase, false);
        QApplication::sendEvent(&h.sheet(), &event);
    }

private Q_SLOTS:
    void dragging_at_the_edge_goes_on_and_the_plate_lands_out_of_the_first_view() {
        WindowHarness h;
        h.openFirstOffice();
        const DeviceId printer = h.named("print-1");
        const Rect seen = h.sheet().camera().visible();
        const QPoint from = h.middle("print-1"), edge(h.sheet().width() - 4, from.y());
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, from);
        h.moveTo(from + QPoint(20, 0), Qt::LeftButton);
        h.moveTo(edge, Qt::LeftButton);
        QTRY_VERIFY(h.sheet().camera().visible().x > seen.right()); // held still, it goes on
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, edge);
        const Rect after = h.sheet().camera().visible();
        QVERIFY(h.session().scene().plate(printer)->frame.x > seen.right());
        QTest::qWait(60);
        QCOMPARE(h.sheet().camera().visible(), after); // and ends with the drag
        QCOMPARE(h.session().document().history().steps(), std::size_t{1});
    }

    void escape_at_the_edge_ends_scrolling_and_leaves_the_plate() {
        WindowHarness h;
        h.openFirstOffice();
        const Network before = h.network();
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.middle("print-1"));
        h.moveTo({4, 300}, Qt::LeftButton);
        const double x = h.sheet().camera().centre().x;
        QTRY_VERIFY(h.sheet().camera().centre().x < x);
        h.key(Qt::Key_Escape);
        const double ended = h.sheet().camera().centre().x;
        QTest::qWait(60);
        QCOMPARE(h.sheet().camera().centre().x, ended);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, {4, 300});
        QVERIFY(h.network() == before);
    }

    void the_nearer_to_the_edge_the_faster() {
        const QSize sheet(800, 600);
        const auto at = [&](double x, double y) { return app::EdgeScroll::speedAt({x, y}, sheet); };
        QVERIFY(at(400, 300).isNull());
        QVERIFY(at(30, 300).isNull() && at(400, 570).isNull());
        QVERIFY(at(20, 300).x() < 0 && at(4, 300).x() < at(20, 300).x());
        QVERIFY(at(790, 300).x() > 0 && at(400, 590).y() > 0 && at(400, 5).y() < 0);
        QCOMPARE(at(-500, 300), at(0, 300));
    }

    void ctrl_click_adds_and_takes_away_and_a_drag_with_it_moves_all() {
        WindowHarness h;
        h.openFirstOffice();
        const ObjectRef printer = refTo(h.named("print-1")), phone = refTo(h.named("phone-1"));
        h.click(h.middle("print-1"));
        h.click(h.middle("phone-1"), Qt::ControlModifier);
        QVERIFY(h.session().selected().contains(printer) && h.session().selected().contains(phone));
        h.drag(h.middle("phone-1"), h.middle("phone-1") + QPoint(40, 24), Qt::ControlModifier);
        QVERIFY(h.session().selected().contains(printer) && h.session().selected().contains(phone));
        QCOMPARE(h.session().document().history().steps(), std::size_t{1});
        h.click(h.middle("print-1"), Qt::ControlModifier);
        QVERIFY(!h.session().selected().contains(printer) && h.session().selected().contains(phone));
        h.click({8, 8}, Qt::ControlModifier); // on nothing: nothing is lost
        QVERIFY(h.session().selected().contains(phone));
    }

    void a_touchpad_pans_and_a_wheel_zooms() {
        WindowHarness h;
        h.openFirstOffice();
        const QPointingDevice pad(QStringLiteral("pad"), 7, QInputDevice::DeviceType::TouchPad,
                                  QPointingDevice::PointerType::Finger, QInputDevice::Capability::Scroll, 1,
                                  0);
        const auto roll = [&](const QPointingDevice* device, Qt::KeyboardModifiers with) {
            QWheelEvent event({400, 300}, h.sheet().mapToGlobal(QPointF(400, 300)), {30, 40}, {60, 80},
                              Qt::NoButton, with, Qt::ScrollUpdate, false, Qt::MouseEventNotSynthesized,
                              device);
            QApplication::sendEvent(&h.sheet(), &event);
        };
        const auto before = h.sheet().camera();
        roll(&pad, {});
        QCOMPARE(h.sheet().camera().zoom(), before.zoom());
        QVERIFY(std::abs(before.centre().x - h.sheet().camera().centre().x - 30 / before.zoom()) < 1e-6);
        QVERIFY(std::abs(before.centre().y - h.sheet().camera().centre().y - 40 / before.zoom()) < 1e-6);
        roll(&pad, Qt::ControlModifier);
        QVERIFY(h.sheet().camera().zoom() > before.zoom());
        const double zoom = h.sheet().camera().zoom();
        roll(QPointingDevice::primaryPointingDevice(), {});
        QVERIFY(h.sheet().camera().zoom() > zoom);
    }

    void the_wheel_zooms_at_the_pointer() {
        WindowHarness h;
        h.openFirstOffice();
        const QPointF at = h.middle("print-1");
        const auto before = h.sheet().camera().toSheet(at);
        wheel(h, at, 3);
        QVERIFY(h.sheet().camera().zoom() > 1.2);
        QVERIFY(length(h.sheet().camera().toSheet(at) - before) < 1e-6);
        wheel(h, at, -3);
        h.key(Qt::Key_0, Qt::ControlModifier);
        QCOMPARE(h.sheet().camera().zoom(), 1.0);
    }

    void the_middle_button_and_held_space_pan() {
        WindowHarness h;
        h.openFirstOffice();
        const auto start = h.sheet().camera().centre();
        QTest::mousePress(&h.sheet(), Qt::MiddleButton, {}, {300, 300});
        h.moveTo({340, 280}, Qt::MiddleButton);
        QTest::mouseRelease(&h.sheet(), Qt::MiddleButton, {}, {340, 280});
        const auto moved = h.sheet().camera().centre();
        QVERIFY(std::abs((start.x - moved.x) * h.sheet().camera().zoom() - 40) < 0.01);
        h.click(h.middle("acc-1"));
        const edit::Refs selected = h.session().selection();
        h.sheet().setFocus();
        QTest::keyPress(&h.sheet(), Qt::Key_Space);
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.middle("print-1"));
        h.moveTo(h.middle("print-1") + QPoint(30, 30), Qt::LeftButton);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, h.middle("print-1"));
        QTest::keyRelease(&h.sheet(), Qt::Key_Space);
        QVERIFY(length(h.sheet().camera().centre() - moved) > 20);
        QCOMPARE(h.session().selection(), selected); // it was no click, and no tap either
        QVERIFY(!h.session().document().modified());
    }

    void looking_around_never_makes_the_network_modified() {
        WindowHarness h;
        h.openFirstOffice();
        wheel(h, {200, 200}, 2);
        h.window->action(CommandId::fit)->trigger();
        h.click(h.middle("acc-1"));
        h.key(Qt::Key_F);
        h.window->action(CommandId::zoomIn)->trigger();
        QVERIFY(!h.window->isWindowModified());
    }

    void shift_click_adds_to_the_selection_and_takes_from_it() {
        WindowHarness h;
        h.openFirstOffice();
        h.click(h.middle("acc-1"));
        h.click(h.middle("print-1"), Qt::ShiftModifier);
        QCOMPARE(h.session().selected().devices().size(), std::size_t{2});
        h.click(h.middle("acc-1"), Qt::ShiftModifier);
        QCOMPARE(h.session().selected().devices(), std::vector<DeviceId>{h.named("print-1")});
        h.key(Qt::Key_Escape);
        QVERIFY(h.session().selection().empty());
    }

    void both_grips_invite_to_the_first_link() {
        WindowHarness h;
        h.begin();
        h.choose("Phone");
        h.click({200, 150});
        h.click({200, 350});
        h.key(Qt::Key_Escape);
        h.session().select({});
        h.moveTo({600, 500});
        // No plate is pointed at or selected, yet a press on either grip starts a link.
        for (const char* name : {"phone-1", "phone-2"}) {
            QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.grip(name));
            QVERIFY2(h.sheet().isLinking(), name);
            h.key(Qt::Key_Escape);
            QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, h.grip(name));
        }
    }

    void a_console_link_is_made_from_its_port() {
        WindowHarness h;
        h.openFirstOffice();
        const auto& plate = h.plate("acc-1");
        const int con = static_cast<int>(plate.ticks.size()) - 1;
        h.sheet().look(plate.frame.centre() + scene::PointF{0, 80}, 1);
        h.moveTo(h.at(plate.rail.tick(con).centre()));
        const QPoint cell = h.at(h.sheet().selectTool().lens()->cell(con).centre());
        h.drag(cell, h.middle("desk-1"));
        const Link* link = h.network().linkAt({h.named("desk-1"), "usb"});
        QVERIFY(link && link->console);
        QVERIFY(h.session().scene().link(link->id)->form == scene::LinkForm::console);
    }

    void a_moved_plate_aligns_with_the_nearer_of_two() {
        IdSource ids(3);
        Network network = emptyNetwork("t", ids);
        const SheetId sheet = network.sheetsInOrder().front().id;
        std::vector<DeviceId> all;
        for (const Point at : {Point{0, 0}, Point{6, 400}, Point{300, 800}}) {
            Device device;
            device.id = ids.make<DeviceId>();
            network.put(device);
            Position position;
            position.sheet = sheet;
            position.object = device.id.value;
            position.of = Kind::device;
            position.at = at;
            network.put(position);
            all.push_back(device.id);
        }
        const auto scene = scene::Scene::build(network, sheet);
        const Rect moving = scene.plate(all[2])->frame, everywhere{-1000, -1000, 3000, 3000};
        const auto to = [&](double x) {
            return app::Neighbours(scene, everywhere, {all[2].value})
                       .snap(moving, {x - moving.x, 0}, 8)
                       .by.x +
                   300;
        };
        QCOMPARE(to(2), 0); // 2 from one, 4 from the other
        QCOMPARE(to(4), 6);
        QCOMPARE(to(-8), 0);
        QCOMPARE(to(-9), -8); // neither is near enough: the grid
    }

    void the_target_snaps_within_twelve_pixels_and_shows_the_port() {
        WindowHarness h;
        h.openFirstOffice();
        const auto frame = h.plate("files-1").frame;
        h.moveTo(h.middle("edge-1"));
        const QPoint from = h.grip("edge-1");
        h.moveTo(from);
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, from);
        h.moveTo(h.at({frame.x, frame.centre().y}) - QPoint(10, 0), Qt::LeftButton);
        QCOMPARE(h.sheet().linkTool().target().value, h.named("files-1").value);
        QVERIFY2(h.window->statusText().contains("files-1 "), qPrintable(h.window->statusText()));
        h.moveTo(h.at({frame.x, frame.centre().y}) - QPoint(20, 0), Qt::LeftButton);
        QVERIFY(!h.sheet().linkTool().target());
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {},
                            h.at({frame.x, frame.centre().y}) - QPoint(20, 0));
        QVERIFY(!h.sheet().adding().field().isVisible()); // too near to a plate to mean "add one here"
        QVERIFY(!h.session().document().modified());
    }

    void the_next_link_can_start_where_the_last_one_ended() {
        WindowHarness h;
        h.begin();
        h.choose("Border router");
        h.click({400, 100});
        h.choose("Firewall");
        h.click({400, 250});
        h.choose("Access switch 24");
        h.click({400, 400});
        h.key(Qt::Key_Escape);
        h.linkTo("router-1", h.middle("firewall-1"));
        h.drag(h.grip("firewall-1"), h.middle("switch-1")); // the pointer is on the plate already
        QCOMPARE(h.links(), std::size_t{2});
    }

    void undo_in_the_middle_of_a_gesture_ends_it() {
        WindowHarness h;
        h.begin();
        h.choose("Phone");
        h.click({200, 150});
        h.click({200, 350});
        h.key(Qt::Key_Escape);
        h.linkTo("phone-1", h.middle("phone-2"));
        const LinkId id{h.session().selection().front().id};
        const auto path = h.session().scene().link(id)->path;
        const QPoint on = h.at(scene::alongPath(path, scene::pathLength(path) / 2).at);
        h.moveTo(on);
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, on);
        h.moveTo(on + QPoint(40, 0), Qt::LeftButton); // bending
        h.key(Qt::Key_Z, Qt::ControlModifier);        // and the link is gone
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, on + QPoint(40, 0));
        QCOMPARE(h.links(), std::size_t{0});
        h.moveTo(h.middle("phone-2"));
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.middle("phone-2"));
        h.moveTo(h.middle("phone-2") + QPoint(30, 30), Qt::LeftButton);
        h.key(Qt::Key_Z, Qt::ControlModifier); // phone-2 is gone
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, {300, 400});
        QCOMPARE(h.devices(), std::size_t{1});
    }

    void a_link_made_while_a_port_is_shown_is_what_is_selected_then() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().selectPort({h.named("acc-1"), "9"});
        h.linkTo("edge-1", h.middle("files-1"));
        QVERIFY(h.session().selection().front().kind == Kind::link);
        QVERIFY(h.sheet().linking().strip().isVisible());
    }

    void arrows_choose_the_target_of_a_link() {
        WindowHarness h;
        h.openFirstOffice();
        h.click(h.middle("edge-1"));
        h.key(Qt::Key_L);
        h.key(Qt::Key_Down);
        QCOMPARE(h.sheet().linkTool().target().value, h.named("wall-1").value);
        h.key(Qt::Key_Down);
        QCOMPARE(h.sheet().linkTool().target().value, h.named("acc-1").value);
        h.key(Qt::Key_Return);
        QVERIFY(h.network().linkAt({h.named("edge-1"), "X2"}));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        h.key(Qt::Key_L);
        h.type("zzz");
        QVERIFY(!h.sheet().linkTool().target());
        h.key(Qt::Key_Escape);
        QVERIFY(!h.session().document().modified());
    }

    void several_are_linked_to_one() {
        WindowHarness h;
        h.begin();
        h.key(Qt::Key_A);
        h.type("access switch named acc");
        h.key(Qt::Key_Return);
        h.key(Qt::Key_A);
        h.type("3 printer");
        h.key(Qt::Key_Return);
        h.key(Qt::Key_L);
        h.type("acc");
        h.key(Qt::Key_Return);
        QCOMPARE(h.links(), std::size_t{3});
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(h.links(), std::size_t{0});
    }

    void tab_walks_in_reading_order_and_space_selects() {
        WindowHarness h;
        h.openFirstOffice();
        h.sheet().setFocus();
        std::vector<std::string> walk;
        for (int i = 0; i < 9; ++i) {
            h.key(Qt::Key_Tab);
            const ObjectRef at = h.sheet().selectTool().focused();
            walk.push_back(at.kind == Kind::note ? "note" : h.network().device({at.id})->name);
        }
        QVERIFY(std::find(walk.begin(), walk.end(), "note") != walk.end());
        QCOMPARE(walk.front(), std::string("edge-1"));
        QCOMPARE(walk.back(), std::string("desk-1"));
        h.key(Qt::Key_Backtab);
        h.key(Qt::Key_Space);
        QCOMPARE(h.session().selected().devices().size(), std::size_t{1});
        QVERIFY(h.sheet().camera().visible().contains(
            h.session().scene().plate(h.session().selected().devices().front())->frame));
    }

    void links_and_their_details_are_reached_by_keyboard() {
        WindowHarness h;
        h.openFirstOffice();
        h.sheet().setFocus();
        while (h.sheet().selectTool().focused() != refTo(h.named("wall-1")))
            h.key(Qt::Key_Tab);
        h.key(Qt::Key_PageDown);
        QVERIFY(h.session().selection().front().kind == Kind::link);
        const ObjectRef first = h.session().selection().front();
        h.key(Qt::Key_PageDown);
        QVERIFY(h.session().selection().front() != first);
        h.key(Qt::Key_PageUp);
        QCOMPARE(h.session().selection().front(), first);
        for (int i = 0; i < 3; ++i)
            QCoreApplication::processEvents();
        h.key(Qt::Key_F6);
        QVERIFY(h.window->details().isAncestorOf(QApplication::focusWidget()));
        h.key(Qt::Key_F6);
        QVERIFY(h.window->catalogue().search().hasFocus());
        h.key(Qt::Key_F6);
        QVERIFY(h.window->find().hasFocus());
        h.key(Qt::Key_F6);
        QVERIFY(h.sheet().hasFocus());
    }

    void a_model_dropped_from_the_catalogue_is_put_down_where_it_falls() {
        WindowHarness h;
        h.begin();
        QMimeData data;
        data.setData(QString::fromLatin1(app::modelMimeType), "firewall");
        QDragEnterEvent enter({300, 200}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&h.sheet(), &enter);
        QVERIFY(enter.isAccepted());
        QDragMoveEvent move({320, 220}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&h.sheet(), &move);
        QDropEvent drop(QPointF(320, 220), Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&h.sheet(), &drop);
        QCOMPARE(h.devices(), std::size_t{1});
        QVERIFY(h.plate("firewall-1").frame.grown(8).contains(h.sheet().camera().toSheet({320, 220})));
        QMimeData other;
        other.setText("not a model");
        QDragEnterEvent foreign({300, 200}, Qt::CopyAction, &other, Qt::LeftButton, {});
        QApplication::sendEvent(&h.sheet(), &foreign);
        QVERIFY(!foreign.isAccepted());
    }

    void cards_tell_the_essentials() {
        WindowHarness h;
        h.openFirstOffice();
        const auto device =
            app::cardLines(h.network(), refTo(h.named("acc-1")), {}, LengthUnit::metres).join('\n');
        for (const char* part : {"acc-1", "Access switch 24", "10.84.99.11", "5 of 29 ports used"})
            QVERIFY2(device.contains(part), qPrintable(device));
        const Link* link = h.network().linkAt({h.named("wall-1"), "X2"});
        const auto words = app::cardLines(h.network(), refTo(link->id), {}, LengthUnit::metres).join('\n');
        for (const char* part :
             {"wall-1 X2 to acc-1 X1", "multimode", "10 Gbit/s", "12 m", "OF-002", "drawn"})
            QVERIFY2(words.contains(part), qPrintable(words));
        const auto port =
            app::cardLines(h.network(), refTo(h.named("acc-1")), "1", LengthUnit::metres).join('\n');
        QVERIFY2(port.contains("To files-1 1"), qPrintable(port));
        QVERIFY(app::cardLines(h.network(), refTo(h.named("acc-1")), "9", LengthUnit::metres)
                    .join('\n')
                    .contains("Free"));
    }

    void undo_shows_what_it_changed_when_that_is_out_of_sight() {
        WindowHarness h;
        h.openFirstOffice();
        h.click(h.middle("print-1"));
        h.key(Qt::Key_Right);
        h.sheet().look({9000, 9000}, 1);
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.sheet().camera().visible().intersects(h.plate("print-1").frame));
    }

    void a_right_press_selects_what_it_is_on_and_offers_what_can_be_done() {
        WindowHarness h;
        h.openFirstOffice();
        QTest::mousePress(&h.sheet(), Qt::RightButton, {}, h.middle("phone-1"));
        QCOMPARE(h.session().selected().devices(), std::vector<DeviceId>{h.named("phone-1")});
        QContextMenuEvent asked(QContextMenuEvent::Mouse, h.middle("phone-1"),
                                h.sheet().mapToGlobal(h.middle("phone-1")));
        QApplication::sendEvent(&h.sheet(), &asked);
        QVERIFY(h.sheet().contextMenu().isVisible());
        QVERIFY(h.sheet().contextMenu().actions().contains(h.window->action(CommandId::rename)));
        QVERIFY(!h.sheet().contextMenu().actions().contains(h.window->action(CommandId::otherPort)));
        h.sheet().contextMenu().close();
        QVERIFY(h.window->action(CommandId::rename)->isEnabled());
        QVERIFY(!h.window->action(CommandId::otherPort)->isEnabled());
    }

    void another_sheet_shows_its_own_positions() {
        WindowHarness h;
        h.openFirstOffice();
        Network network = h.network();
        const SheetId other{77};
        Sheet sheet;
        sheet.id = other;
        sheet.name = "Other";
        sheet.order = 1;
        network.put(sheet);
        Position position;
        position.sheet = other;
        position.object = h.named("acc-1").value;
        position.of = Kind::device;
        network.put(position);
        h.session().setDocument(edit::Document::fresh(h.session().workspace().world(), network));
        QCOMPARE(h.session().scene().count<scene::Plate>(), std::size_t{8});
        h.session().showSheet(other);
        QCOMPARE(h.session().scene().count<scene::Plate>(), std::size_t{1});
        QCOMPARE(h.session().scene().count<scene::LinkLine>(), std::size_t{0});
        h.key(Qt::Key_Z, Qt::ControlModifier); // nothing to undo: looking is no edit
        QVERIFY(!h.session().document().modified());
    }

    void the_other_button_lets_go_of_a_link_in_hand() {
        WindowHarness h;
        h.openFirstOffice();
        const auto before = h.network();
        h.moveTo(h.middle("acc-1"));
        QTest::mouseClick(&h.sheet(), Qt::LeftButton, {}, h.grip("acc-1")); // it stays in hand
        QVERIFY(h.sheet().isLinking());
        h.moveTo(h.middle("edge-1"));
        QTest::mousePress(&h.sheet(), Qt::RightButton, {}, h.middle("edge-1"));
        QTest::mouseRelease(&h.sheet(), Qt::RightButton, {}, h.middle("edge-1"));
        QVERIFY(!h.sheet().isLinking());
        QVERIFY(h.network() == before);
    }

    void a_model_that_is_being_put_down_outlives_a_new_catalogue() {
        WindowHarness h;
        h.begin();
        DeviceModel own = *h.session().catalogue().device("phone");
        own.id = "own-crane";
        own.name = "Crane";
        h.session().workspace().setLibrary({own});
        h.sheet().startPlacing(*h.session().catalogue().device("own-crane"));
        h.click({300, 300});
        QCOMPARE(h.devices(), std::size_t{1});
        own.name = "Crane, larger";
        h.session().workspace().setLibrary({own, own}); // made anew, elsewhere in memory
        h.click({500, 300});
        QCOMPARE(h.devices(), std::size_t{2});
        h.session().undo();
        h.click({500, 400});
        QCOMPARE(h.devices(), std::size_t{2});
        h.session().workspace().setLibrary({}); // it is gone: nothing more is put down
        h.click({700, 300});
        QCOMPARE(h.devices(), std::size_t{2});
        QVERIFY(!h.sheet().inGesture());
    }
};

UNDERRIDGE_TEST(GesturesTest)
#include "gestures_test.moc"
