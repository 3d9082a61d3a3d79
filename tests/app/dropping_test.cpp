// SPDX-License-Identifier: GPL-3.0-or-later
// A group of hundreds of devices is dragged and dropped: a thread works out what comes of it, and whatever
// is done meanwhile comes after it.
#include "core/edit/devices.h"
#include "core/edit/groups.h"
#include "core/edit/sheets.h"
#include "core/exchange/own_format.h"
#include "core/model/group_tree.h"
#include "tests/support/large_network.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QFile>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// The window with a group of some 400 devices on its screen.
class Large : public WindowHarness {
public:
    Large() {
        begin();
        session().setDocument(
            edit::Document::fresh(session().workspace().world(), tests::largeGrouped(1000)));
        network().all<Group>().forEach([&](const Group& each) {
            if (devicesWithin(network(), each.id).size() == 400 && !group)
                group = each.id;
        });
        device = devicesWithin(network(), group).front();
        first = network();
        look();
    }

    void look() {
        const scene::Rect frame = session().scene().frame(group)->frame;
        sheet().look({frame.x + 300, frame.y + 200}, 0.5);
    }
    /// Where the frame can be taken hold of.
    QPoint hold() {
        const scene::Rect frame = session().scene().frame(group)->frame;
        for (double along = 20; along < frame.w; along += 20)
            for (const double down : {2.0, 8.0, 14.0})
                if (const scene::PointF at{frame.x + along, frame.y + down};
                    scene::hitAt(session().scene(), at, 6).object == refTo(group))
                    return sheet().camera().toScreen(at).toPoint();
        return {};
    }
    /// Drags the group by so many sheet units and lets it go; nothing has come of it yet.
    void drop(int by = 80) {
        const QPoint from = hold();
        drag(from, from + QPoint(by / 2, 0), Qt::ControlModifier);
        QVERIFY(session().workspace().isUnsettled());
        QVERIFY(network() == first);
    }
    void arrive() { QTRY_VERIFY_WITH_TIMEOUT(!session().workspace().isUnsettled(), 30'000); }
    /// How far a device of it was moved.
    int moved() {
        const SheetId on = session().sheet();
        return network().position(on, device.value)->at.x - first.position(on, device.value)->at.x;
    }
    bool sceneIsTrue() {
        return session().scene() == scene::Scene::build(network(), session().sheet(), LengthUnit::metres,
                                                        session().scene().entered());
    }

    GroupId group;
    DeviceId device;
    Network first;
};

/// A device and, beside its group, a folded one, in a network so large that a thread unfolds it.
class BesideTile : public WindowHarness {
public:
    BesideTile() {
        begin();
        session().setDocument(
            edit::Document::fresh(session().workspace().world(), tests::largeGrouped(10'000)));
        network().all<Device>().forEach([&](const Device& each) { device = device ? device : each.id; });
        const GroupId own = network().device(device)->group;
        network().all<Group>().forEach([&](const Group& each) {
            if (!tile && each.id != own && each.parent == network().group(own)->parent)
                tile = each.id;
        });
        session().apply(edit::setFolded(network(), session().sheet(), {tile}, true));
        session().select({});
        const scene::Rect both =
            session().scene().plate(device)->frame.united(session().scene().tile(tile)->frame);
        sheet().look(both.centre(), 0.5);
        wait();
    }
    QPoint over() { return at(session().scene().tile(tile)->frame.centre()); }
    /// Holds the device over the tile until that is being unfolded, and does this meanwhile.
    void hold(const std::function<void()>& meanwhile) {
        const QPoint from = at(session().scene().plate(device)->frame.centre());
        moveTo(from);
        QTest::mousePress(&sheet(), Qt::LeftButton, {}, from);
        moveTo((from + over()) / 2, Qt::LeftButton);
        moveTo(over(), Qt::LeftButton);
        app::Workspace& workspace = session().workspace();
        bool begun = false, done = false;
        QObject here; // the connection ends with this
        QObject::connect(&workspace, &app::Workspace::stateChanged, &here, [&] {
            if (workspace.isUnsettled() && !std::exchange(begun, true))
                QMetaObject::invokeMethod(
                    &here,
                    [&] {
                        meanwhile();
                        done = true;
                    },
                    Qt::QueuedConnection);
        });
        QTRY_VERIFY_WITH_TIMEOUT(done, 30'000);
        arrive();
    }
    bool isUnfolded() { return session().scene().frame(tile); }
    void arrive() { QTRY_VERIFY_WITH_TIMEOUT(!session().workspace().isUnsettled(), 30'000); }
    void letGo(QPoint there) {
        QTest::mouseRelease(&sheet(), Qt::LeftButton, {}, there);
        arrive();
    }
    bool isInTile() { return network().device(device)->group == tile; }

    DeviceId device;
    GroupId tile;
};

} // namespace

class DroppingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_was_dropped_arrives_as_one_step() {
        Large h;
        h.drop();
        h.arrive();
        QCOMPARE(h.moved(), 80);
        QVERIFY(h.sceneIsTrue());
        QVERIFY(h.session().scene().gridIsTrue());
        QCOMPARE(h.session().selection(), edit::Refs{refTo(h.group)});
        for (int times = 0; times < 2; ++times) {
            h.key(Qt::Key_Z, Qt::ControlModifier);
            QVERIFY(h.network() == h.first);
            QVERIFY(h.sceneIsTrue());
            h.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
            QCOMPARE(h.moved(), 80);
            QVERIFY(h.sceneIsTrue());
        }
    }

    void steps_back_over_edits_and_other_sheets_show_what_is_there() {
        Large h;
        h.drop();
        h.arrive();
        h.session().apply(edit::rename(h.network(), {refTo(h.device)}, {"renamed"}));
        QVERIFY(h.sceneIsTrue());
        h.session().undo();
        QVERIFY(h.sceneIsTrue());
        h.session().navigation().enter(h.group);
        h.session().undo();
        QVERIFY(h.network() == h.first);
        QVERIFY(h.sceneIsTrue());
        h.session().navigation().enter({});
        QVERIFY(h.sceneIsTrue());
        h.session().redo();
        QCOMPARE(h.moved(), 80);
        QVERIFY(h.sceneIsTrue());
    }

    void it_is_seen_where_it_was_dropped_until_it_arrives() {
        Large h;
        const scene::Rect frame = h.session().scene().frame(h.group)->frame;
        const auto pixel = [&](double x) { // on the left border, below the title
            const QPoint at = h.sheet().camera().toScreen({x, frame.y + 300}).toPoint();
            const QImage shown = h.sheet().grab(QRect(at - QPoint(6, 0), QSize(13, 1))).toImage();
            const QColor accent = h.window->theme().theme().accent;
            for (int i = 0; i < shown.width(); ++i)
                if (shown.pixelColor(i, 0) == accent)
                    return true;
            return false;
        };
        h.drop(400);
        QVERIFY(pixel(frame.x + 400));
        h.arrive();
        QVERIFY(!h.session().scene().frame(h.group)->frame.empty());
    }

    void escape_right_after_the_drop_leaves_all_as_it_was() {
        Large h;
        h.drop();
        h.key(Qt::Key_Escape);
        QVERIFY(!h.session().workspace().isUnsettled());
        QTest::qWait(50);
        QVERIFY(h.network() == h.first);
        QVERIFY(!h.window->action(CommandId::undo)->isEnabled());
        h.drop(); // and another comes to its end
        h.arrive();
        QCOMPARE(h.moved(), 80);
    }

    void undo_right_after_the_drop_undoes_it() {
        Large h;
        h.drop();
        QVERIFY(h.window->action(CommandId::undo)->isEnabled());
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == h.first);
        h.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QCOMPARE(h.moved(), 80);
        QVERIFY(h.sceneIsTrue());
    }

    void many_that_are_deleted_go_a_moment_later() {
        Large h;
        const auto devices = devicesWithin(h.network(), h.group);
        edit::Refs all;
        for (const DeviceId id : devices)
            all.push_back(refTo(id));
        h.session().select(all);
        h.window->action(CommandId::remove)->trigger();
        QVERIFY(h.session().workspace().isUnsettled());
        QVERIFY(h.network() == h.first);
        h.arrive();
        QVERIFY(devicesWithin(h.network(), h.group).empty());
        QVERIFY(h.session().selection().empty());
        QVERIFY(h.sceneIsTrue());
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == h.first);
        QVERIFY(h.sceneIsTrue());
        h.session().select(all);
        h.window->action(CommandId::remove)->trigger();
        QVERIFY(h.session().workspace().isUnsettled());
        h.key(Qt::Key_Escape);
        QVERIFY(!h.session().workspace().isUnsettled());
        QVERIFY(h.network() == h.first);
    }

    void arrow_keys_move_many_by_all_their_steps_in_one() {
        Large h;
        edit::Refs all;
        for (const DeviceId id : devicesWithin(h.network(), h.group))
            all.push_back(refTo(id));
        edit::Refs with = all; // a link among them cannot be moved
        h.network().all<Link>().forEach([&](const Link& link) {
            if (with.size() == all.size())
                with.push_back(refTo(link.id));
        });
        h.session().select(with);
        h.key(Qt::Key_Right);
        QVERIFY(h.session().workspace().isUnsettled());
        h.key(Qt::Key_Right);
        h.key(Qt::Key_Right);
        const auto step = [&] { return h.moved(); };
        QTRY_COMPARE_WITH_TIMEOUT(step(), 3 * 8, 30'000);
        h.arrive();
        QVERIFY(h.sceneIsTrue());
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == h.first);
    }

    void many_that_are_pasted_come_a_moment_later_and_selected() {
        Large h;
        edit::Refs all;
        for (const DeviceId id : devicesWithin(h.network(), h.group))
            all.push_back(refTo(id));
        const Network now = h.network();
        h.session().select(all);
        h.key(Qt::Key_C, Qt::ControlModifier);
        h.key(Qt::Key_V, Qt::ControlModifier); // read by a job, and then made
        QTRY_VERIFY_WITH_TIMEOUT(!(h.network() == now), 30'000);
        h.arrive();
        QCOMPARE(h.network().all<Device>().size(), now.all<Device>().size() + all.size());
        QVERIFY(h.session().selection().size() >= all.size());
        QVERIFY(h.sceneIsTrue());
    }

    void undo_of_what_was_refused_undoes_nothing_else() {
        Large h;
        h.session().apply(edit::rename(h.network(), {refTo(h.device)}, {"renamed"}));
        const Network named = h.network();
        h.session().applyLater([]() -> edit::ActResult { return error("it cannot be", "leave it"); }, {});
        h.session().undo();
        QVERIFY(h.network() == named);
        h.session().undo();
        QVERIFY(h.network() == h.first);
    }

    void a_save_right_after_the_drop_saves_it() {
        Large h;
        h.path = h.folder.filePath("dropped.underridge");
        h.drop();
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.wait();
        QCOMPARE(h.moved(), 80);
        const auto written = h.files.read(h.path.toStdString());
        QVERIFY(static_cast<bool>(written));
        const auto read = exchange::readOwn(*written, "dropped");
        QVERIFY(static_cast<bool>(read));
        QVERIFY(read->network == h.network());
        QVERIFY(!h.window->isWindowModified());
    }

    void who_closes_the_window_right_after_the_drop_is_asked() {
        Large h;
        h.path = h.folder.filePath("closed.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.wait();
        h.drop();
        h.answer = app::NetworkFiles::SaveAnswer::cancel;
        h.window->close();
        QTRY_VERIFY_WITH_TIMEOUT(h.saveAsked, 30'000);
        QCOMPARE(h.moved(), 80);
    }

    void an_edit_made_meanwhile_comes_after_it() {
        Large h;
        h.drop();
        h.session().apply(edit::rename(h.network(), {refTo(h.device)}, {"renamed"}));
        QCOMPARE(h.moved(), 80);
        QCOMPARE(h.network().device(h.device)->name, std::string("renamed"));
        QVERIFY(h.sceneIsTrue());
        h.session().undo();
        QCOMPARE(h.moved(), 80);
        QVERIFY(h.network().device(h.device)->name != "renamed");
        h.session().undo();
        QVERIFY(h.network() == h.first);
    }

    void another_move_of_the_same_meanwhile_is_refused_and_the_drop_stays() {
        Large h;
        h.drop();
        h.session().apply(edit::moveObjects(h.network(), h.session().sheet(), {refTo(h.device)}, {16, 0}));
        QCOMPARE(h.moved(), 80);
        QVERIFY2(h.window->statusText().contains("meanwhile", Qt::CaseInsensitive),
                 qPrintable(h.window->statusText()));
    }

    void it_can_be_taken_hold_of_at_once_where_it_will_be() {
        Large h;
        h.drop();
        const QPoint old = h.hold();
        h.moveTo(old + QPoint(40, 0));
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, old + QPoint(40, 0));
        QCOMPARE(h.moved(), 80); // waited for
        h.moveTo(old + QPoint(60, 0), Qt::LeftButton, Qt::ControlModifier);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, Qt::ControlModifier, old + QPoint(60, 0));
        h.arrive();
        QCOMPARE(h.moved(), 120);
    }

    void a_group_looked_into_meanwhile_is_seen_as_it_will_be() {
        Large h;
        h.drop();
        h.session().navigation().enter(h.group);
        QCOMPARE(h.moved(), 80);
        QVERIFY(h.sceneIsTrue());
        h.session().navigation().enter({});
        QVERIFY(h.sceneIsTrue());
    }

    void another_document_meanwhile_has_nothing_of_it() {
        Large h;
        h.drop();
        h.session().setDocument(edit::Document::fresh(h.session().workspace().world(), h.first));
        QTest::qWait(50);
        QVERIFY(h.network() == h.first);
    }

    void a_tile_held_over_is_unfolded_by_a_thread_while_the_drag_goes_on() {
        BesideTile h;
        bool stillFolded = false;
        h.hold([&] { stillFolded = h.session().scene().tile(h.tile); });
        QVERIFY(stillFolded);
        QTRY_VERIFY_WITH_TIMEOUT(h.isUnfolded(), 30'000);
        QVERIFY(h.sheet().inGesture());
        const QPoint into = h.at(h.session().scene().frame(h.tile)->frame.centre());
        h.moveTo(into, Qt::LeftButton);
        h.letGo(into);
        QVERIFY(h.isInTile());
        QVERIFY(!h.sheet().inGesture());
    }
    void what_is_let_go_while_a_tile_is_being_unfolded_is_in_it() {
        BesideTile h;
        h.hold([&] { QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, h.over()); });
        QVERIFY(h.isInTile());
        QVERIFY(!h.sheet().inGesture());
    }
    void a_drag_given_up_while_a_tile_is_being_unfolded_stays_so() {
        BesideTile h;
        h.hold([&] { h.key(Qt::Key_Escape); });
        QVERIFY(!h.sheet().inGesture());
        h.letGo(h.over());
        QVERIFY(!h.isInTile());
        QVERIFY(!h.isUnfolded());
    }

    void folding_twice_in_a_row_is_folding_and_unfolding() {
        if (tests::isSanitized)
            QSKIP("the journal of a network so large takes minutes there");
        BesideTile h;
        h.session().select({refTo(h.tile)});
        for (int times = 0; times < 2; ++times) { // unfolds, and folds again before that has come
            h.window->action(CommandId::foldOrUnfold)->trigger();
            QVERIFY(h.session().workspace().isUnsettled());
        }
        h.arrive();
        QTRY_VERIFY_WITH_TIMEOUT(h.session().scene().tile(h.tile), 30'000);
        QVERIFY(!h.isUnfolded());
        h.session().undo();
        QVERIFY(h.isUnfolded());
    }

    void what_is_refused_is_told() {
        Large h;
        bool ended = false;
        h.session().applyLater([]() -> edit::ActResult { return error("it cannot be", "leave it"); },
                               [&] { ended = true; });
        h.arrive();
        QVERIFY(ended);
        QVERIFY(h.network() == h.first);
        QVERIFY2(h.window->statusText().contains("It cannot be", Qt::CaseInsensitive),
                 qPrintable(h.window->statusText()));
    }

    void the_whole_sheet_is_right_after_edits_in_a_group_looked_into() {
        Large h;
        h.session().navigation().enter(h.group);
        QVERIFY(h.sceneIsTrue());
        h.session().apply(edit::moveObjects(h.network(), h.session().look(), {refTo(h.device)}, {-40, 24}));
        h.session().apply(edit::rename(h.network(), {refTo(h.device)}, {"renamed"}));
        QVERIFY(h.sceneIsTrue());
        h.session().navigation().enter({});
        QVERIFY(h.sceneIsTrue());
        QVERIFY(h.session().scene().gridIsTrue());
    }
};

UNDERRIDGE_TEST(DroppingTest)
#include "dropping_test.moc"
