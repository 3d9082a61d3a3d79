// SPDX-License-Identifier: GPL-3.0-or-later
// Sheets of racks: plates stand at their units, and a unit follows a plate that is moved.
#include "core/edit/places.h"
#include "core/edit/rack_sheets.h"
#include "core/edit/shown_places.h"
#include "core/model/racks.h"
#include "core/scene/rack.h"
#include "core/scene/scene.h"
#include "tests/support/grouped.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using scene::Scene;
using scene::SheetRack;
using tests::text;
using tests::Workbench;

namespace {

/// Two racks of twelve units, and a sheet of them.
struct Comms : Workbench {
    Comms() {
        room = group("Comms", GroupKind::room);
        one = group("R1", GroupKind::rack, room);
        two = group("R2", GroupKind::rack, room);
        for (const GroupId rack : {one, two})
            shape(rack, [](Group& g) { g.rackUnits = 12; });
        core = mounted("core-switch-modular", "core-1", one, 3);
        acc = mounted("access-switch-24", "acc-1", one, 9);
        panel = mounted("patch-panel-24", "pp-1", two, 12, Side::rear);
        const auto act = edit::sheetOfRacks(network, {}, "Racks", ids);
        take(act);
        racks = {act->subjects.front().id};
    }
    DeviceId mounted(const char* model, const char* name, GroupId rack, int unit, Side side = Side::front) {
        const DeviceId id = add(model, name);
        take(edit::mountInRack(network, id, rack, unit, side));
        return id;
    }
    /// Does an act as a document does.
    bool does(edit::ActResult act) {
        if (act)
            edit::followRacks(network, act->network);
        return take(act);
    }
    scene::Rect plate(DeviceId id) const { return Scene::build(network, racks).plate(id)->frame; }
    const Place& placeOf(DeviceId id) const { return network.device(id)->place; }
    SheetRack rack(GroupId id) const {
        const Position* position = network.position(racks, id.value);
        return {scene::toF(position->at), network.group(id)->rackUnits};
    }
    /// Moves a plate so that its middle comes to the middle of a unit.
    bool drag(DeviceId id, GroupId to, int unit, Side side = Side::front) {
        const scene::Rect all = rack(to).side(side), now = plate(id);
        const double y = all.bottom() - (unit - 0.5) * SheetRack::pitch;
        return does(
            edit::moveObjects(network, racks, {refTo(id)},
                              {static_cast<int>(all.x - now.x), static_cast<int>(y - now.centre().y)}));
    }
    /// Everybody stands at the unit he is mounted in; empty when so.
    QString wrong() const {
        for (const GroupId id : {one, two})
            for (const Mounted& each : mountedIn(network, id)) {
                const Position* held = network.position(racks, each.device.value);
                if (!held || each.unit < 1)
                    continue;
                const scene::Rect frame = plate(each.device), units = rack(id).side(each.side);
                if (rack(id).unitAt(frame.centre(), each.height) != each.unit)
                    return text(network.device(each.device)->name) + " stands beside its unit";
                if (!units.grown(1).contains(frame))
                    return text(network.device(each.device)->name) + " is not in its rack";
            }
        return {};
    }

    GroupId room, one, two;
    DeviceId core, acc, panel;
    SheetId racks;
};

} // namespace

class RackSheetsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_is_mounted_stands_at_its_unit() {
        const Comms c;
        QCOMPARE(c.wrong(), QString());
        const Scene scene = Scene::build(c.network, c.racks);
        QCOMPARE(scene.frame(c.one)->units, 12);
        QVERIFY(!scene.frame(c.one)->frame.intersects(scene.frame(c.two)->frame));
        QVERIFY(c.plate(c.acc).bottom() <= c.plate(c.core).y); // unit 9 is above unit 6
        QVERIFY(c.plate(c.panel).x >= c.rack(c.two).side(Side::rear).x);
        QVERIFY(scene.frame(c.one)->frame == c.rack(c.one).frame());
    }
    void a_plate_that_is_moved_is_mounted_there() {
        Comms c;
        QVERIFY(c.drag(c.acc, c.one, 11));
        QCOMPARE(c.placeOf(c.acc).unit, 11);
        QVERIFY(c.drag(c.acc, c.one, 2, Side::rear));
        QCOMPARE(c.placeOf(c.acc).unit, 2);
        QCOMPARE(c.placeOf(c.acc).side, Side::rear);
        QCOMPARE(c.wrong(), QString());
    }
    void where_something_stands_already_the_nearest_room_is_taken() {
        Comms c;
        QVERIFY(c.drag(c.acc, c.one, 4)); // core-1 has 3 to 6
        QCOMPARE(c.placeOf(c.acc).unit, 2);
        QVERIFY(c.drag(c.acc, c.one, 400));
        QCOMPARE(c.placeOf(c.acc).unit, 12);
        QCOMPARE(c.wrong(), QString());
    }
    void two_of_half_width_are_drawn_side_by_side_and_change_sides() {
        Comms c;
        const DeviceId left = c.mounted("router-half-width", "left", c.one, 1),
                       right = c.mounted("router-half-width", "right", c.one, 2);
        QVERIFY(c.does(edit::mountInRack(c.network, right, c.one, 1, Side::front, Half::right)));
        const auto sheet = edit::sheetOfRacks(c.network, {c.one}, "One", c.ids);
        QVERIFY(c.does(sheet));
        c.racks = {sheet->subjects.front().id};
        QCOMPARE(c.placeOf(left).unit, 1);
        QCOMPARE(c.placeOf(left).half, Half::left);
        QCOMPARE(c.placeOf(right).half, Half::right);
        QCOMPARE(c.plate(left).y, c.plate(right).y);
        QCOMPARE(c.plate(left).right(), c.plate(right).x);
        // The right one a unit up and to the left, and back again.
        const int half = static_cast<int>(SheetRack::width / 2), unit = static_cast<int>(SheetRack::pitch);
        QVERIFY(c.does(edit::moveObjects(c.network, c.racks, {refTo(right)}, {-half, -unit})));
        QCOMPARE(c.placeOf(right).unit, 2);
        QCOMPARE(c.placeOf(right).half, Half::left);
        QVERIFY(c.does(edit::moveObjects(c.network, c.racks, {refTo(right)}, {half, unit})));
        QCOMPARE(c.placeOf(right).unit, 1);
        QCOMPARE(c.placeOf(right).half, Half::right);
        QCOMPARE(c.plate(left).right(), c.plate(right).x);
    }
    void a_unit_that_is_typed_moves_the_plate() {
        Comms c;
        const double before = c.plate(c.acc).y;
        QVERIFY(c.does(edit::mountInRack(c.network, c.acc, c.one, 1, Side::front)));
        QVERIFY(c.plate(c.acc).y > before);
        QCOMPARE(c.wrong(), QString());
        QVERIFY(c.does(edit::mountInRack(c.network, c.acc, c.two, 1, Side::front)));
        QCOMPARE(c.wrong(), QString()); // in the other rack
        QVERIFY(c.plate(c.acc).x > c.rack(c.two).at.x);
    }
    void a_rack_that_is_moved_takes_its_plates_along_and_keeps_units() {
        Comms c;
        QVERIFY(c.does(edit::moveObjects(c.network, c.racks, {refTo(c.one)}, {-300, 77})));
        QCOMPARE(c.placeOf(c.core).unit, 3);
        QCOMPARE(c.placeOf(c.acc).unit, 9);
        QCOMPARE(c.wrong(), QString());
    }
    void into_another_rack_it_is_mounted_in_that_one() {
        Comms c;
        const scene::Rect now = c.plate(c.acc), to = c.rack(c.two).side(Side::front);
        auto act =
            edit::moveIntoAt(c.network, c.racks, {refTo(c.acc)}, c.two, {static_cast<int>(to.x - now.x), 0});
        QVERIFY(c.does(std::move(act)));
        QCOMPARE(c.placeOf(c.acc).in, c.two);
        QCOMPARE(c.placeOf(c.acc).unit, 9);
        QCOMPARE(c.wrong(), QString());
    }
    void more_units_move_everybody() {
        Comms c;
        QVERIFY(c.does(edit::setRackUnits(c.network, c.one, 20)));
        QCOMPARE(c.placeOf(c.core).unit, 3);
        QCOMPARE(c.wrong(), QString());
    }
    void whatever_is_moved_nobody_stands_on_another() {
        std::mt19937 random(11);
        const auto below = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
        Comms c;
        for (int i = 0; i < 6; ++i)
            c.mounted("access-switch-24", ("sw-" + std::to_string(i)).c_str(), c.two, i + 1);
        for (const Mounted& each : mountedIn(c.network, c.two))
            if (!c.network.position(c.racks, each.device.value))
                c.does(edit::showOnSheet(c.network, c.racks, {{each.device, {0, 0}}}));
        QCOMPARE(c.wrong(), QString());
        std::vector<DeviceId> all;
        c.network.all<Device>().forEach([&](const Device& device) { all.push_back(device.id); });
        for (int i = 0; i < 120; ++i) {
            const DeviceId id = all[static_cast<std::size_t>(below(static_cast<int>(all.size())))];
            c.does(edit::moveObjects(c.network, c.racks, {refTo(id)}, {below(1400) - 700, below(900) - 450}));
            QCOMPARE(c.wrong(), QString());
            for (const GroupId rack : {c.one, c.two})
                for (const Mounted& each : mountedIn(c.network, rack))
                    QVERIFY(!inTheWay(c.network, rack, each) && each.top() <= 12);
        }
    }
    void without_units_there_is_no_such_sheet() {
        Workbench b;
        const GroupId room = b.group("Comms", GroupKind::room);
        const auto act = edit::sheetOfRacks(b.network, {room}, "Racks", b.ids);
        QVERIFY(!act);
        QVERIFY(text(act.refusal().text()).contains("units"));
    }
};

UNDERRIDGE_TEST(RackSheetsTest)
#include "rack_sheets_test.moc"
