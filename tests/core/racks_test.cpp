// SPDX-License-Identifier: GPL-3.0-or-later
// Racks by unit: what stands where, what is in the way, where there is room.
#include "core/edit/places.h"
#include "core/model/racks.h"
#include "core/scene/rack.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using tests::text;
using tests::Workbench;

namespace {

struct Room : Workbench {
    GroupId room = group("Comms", GroupKind::room), rack = group("R1", GroupKind::rack, room);

    Room() {
        shape(rack, [](Group& g) { g.rackUnits = 12; });
    }
    /// Mounts; why not, where it is refused.
    QString mount(DeviceId device, int unit, Side side = Side::front) {
        const auto act = edit::mountInRack(network, device, rack, unit, side);
        if (!take(act))
            return text(act.refusal().text());
        return {};
    }
    int unitOf(DeviceId device) const { return network.device(device)->place.unit; }
};

} // namespace

class RacksTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_device_takes_the_units_of_its_model() {
        Room r;
        const DeviceId core = r.add("core-switch-modular", "core-1"),
                       access = r.add("access-switch-24", "acc-1");
        QCOMPARE(r.mount(core, 3), QString());
        QCOMPARE(r.mount(access, 7), QString());
        const auto mounted = mountedIn(r.network, r.rack);
        QCOMPARE(mounted.size(), std::size_t{2});
        QCOMPARE(mounted[0].top(), 6);
        QCOMPARE(mounted[1].unit, 7);
        const RackUse use = useOf(r.network, *r.network.group(r.rack));
        QCOMPARE(use.used, 5);
        QCOMPARE(use.free(), 7);
        QCOMPARE(use.largestGap, 5); // 8 to 12
    }
    void two_of_half_width_stand_side_by_side() {
        Room r;
        const DeviceId one = r.add("router-half-width", "one"), two = r.add("router-half-width", "two"),
                       whole = r.add("access-switch-24", "whole");
        const auto mount = [&](DeviceId device, int unit, Half half, Side side = Side::front) {
            return r.take(edit::mountInRack(r.network, device, r.rack, unit, side, half));
        };
        QVERIFY(mount(one, 4, Half::left));
        QVERIFY(!mount(two, 4, Half::left));
        QVERIFY(mount(two, 4, Half::right));
        QVERIFY(!mount(whole, 4, Half::left));
        QCOMPARE(useOf(r.network, *r.network.group(r.rack)).used, 1);
        // Seen from behind, left is to the right.
        const auto picture = scene::rackPicture(r.network, r.rack);
        for (const scene::RackSlot& slot : picture->slots) {
            const bool isLeft = slot.mounted.half == Half::left;
            const scene::Rect& all = slot.behind ? picture->rear : picture->front;
            QCOMPARE(slot.area.w, all.w / 2);
            QCOMPARE(slot.area.x < all.centre().x - 1, isLeft != slot.behind);
            QCOMPARE(picture->halfAt(slot.area.centre()), slot.mounted.half);
            QVERIFY(!slot.clash);
        }
    }
    void what_stands_back_to_back_must_go_into_the_depth() {
        Room r;
        const DeviceId server = r.add("server", "srv"), access = r.add("access-switch-24", "acc");
        QCOMPARE(r.mount(server, 3), QString());
        QCOMPARE(r.mount(access, 3, Side::rear), QString()); // how deep the rack is nobody has said
        QVERIFY(r.take(edit::setRackDepth(r.network, r.rack, 900)));
        QCOMPARE(r.mount(access, 8, Side::rear), QString());
        const QString why = r.mount(access, 3, Side::rear);
        QVERIFY2(why.contains("acc (320 mm deep) and srv behind it (720 mm) do not go into 900 mm"),
                 qPrintable(why));
        QVERIFY2(why.contains("is free"), qPrintable(why));
        QVERIFY(r.take(edit::setRackDepth(r.network, r.rack, 1'100)));
        QCOMPARE(r.mount(access, 3, Side::rear), QString());
        QVERIFY(!edit::setRackDepth(r.network, r.rack, 5'000));
        // Made less deep, both are there all the same, and drawn as what does not go together.
        QVERIFY(r.take(edit::setRackDepth(r.network, r.rack, 800)));
        const auto picture = scene::rackPicture(r.network, r.rack);
        for (const scene::RackSlot& slot : picture->slots)
            QVERIFY(slot.clash);
    }
    void what_is_in_the_way_is_named_with_where_there_is_room() {
        Room r;
        const DeviceId core = r.add("core-switch-modular", "core-1"),
                       access = r.add("access-switch-24", "acc-1");
        r.mount(core, 3);
        const QString why = r.mount(access, 5);
        QVERIFY2(why.contains("units 3 to 6 are taken by core-1") && why.contains("unit 7 is free"),
                 qPrintable(why));
        QCOMPARE(r.unitOf(access), 0);
        QVERIFY(r.mount(core, 10).contains("unit 9 is free")); // four from there would not fit
        QVERIFY(!r.mount(core, 0).isEmpty());
        QCOMPARE(r.mount(core, 4), QString());               // it is not in its own way
        QCOMPARE(r.mount(access, 5, Side::rear), QString()); // nor is what stands in front
    }
    void a_full_rack_says_so() {
        Room r;
        for (int unit = 1; unit <= 12; unit += 4)
            QCOMPARE(r.mount(r.add("core-switch-modular"), unit), QString());
        QVERIFY(r.mount(r.add("access-switch-24"), 6).contains("R1 has no room for it"));
        QVERIFY(!nearestRoom(r.network, r.rack, {{1}, 6, 1, Side::front}));
    }
    void mounting_brings_a_device_into_the_rack_and_nowhere_else() {
        Room r;
        const DeviceId device = r.add("access-switch-24");
        r.mount(device, 2);
        QCOMPARE(r.network.device(device)->place.in, r.rack);
        QCOMPARE(r.network.device(device)->group, r.rack);
        const GroupId cluster = r.group("Core pair", GroupKind::cluster);
        Device copy = *r.network.device(device);
        copy.group = cluster;
        r.network.put(copy);
        r.mount(device, 3);
        QCOMPARE(r.network.device(device)->group, cluster); // that is no matter of place
    }
    void a_new_one_is_mounted_from_the_catalogue() {
        Room r;
        auto act =
            edit::newInRack(r.network, *r.catalogue.device("server"), "srv-1", r.rack, 4, Side::front, r.ids);
        QVERIFY(r.take(act));
        QCOMPARE(mountedIn(r.network, r.rack).front().unit, 4);
        QVERIFY(!edit::newInRack(r.network, *r.catalogue.device("server"), "srv-2", r.rack, 4, Side::front,
                                 r.ids));
        const auto phone =
            edit::newInRack(r.network, *r.catalogue.device("phone"), "p", r.rack, 8, Side::front, r.ids);
        QVERIFY(!phone && phone.refusal().text().find("does not go in a rack") != std::string::npos);
    }
    void units_are_not_taken_from_under_what_is_mounted() {
        Room r;
        r.mount(r.add("access-switch-24", "acc-1"), 9);
        QVERIFY(!edit::setRackUnits(r.network, r.rack, 8));
        QVERIFY(!edit::setRackUnits(r.network, r.rack, 101));
        QVERIFY(r.take(edit::setRackUnits(r.network, r.rack, 9)));
        QVERIFY(!edit::mountInRack(r.network, r.add("server"), r.room, 1, Side::front)); // no rack
    }
    void the_elevation_says_what_is_where_from_the_foot() {
        Room r;
        const DeviceId core = r.add("core-switch-modular", "core-1");
        r.mount(core, 1);
        r.place(r.add("server"), {r.rack, 0, 0, 0, 0, Side::front});
        const auto picture = scene::rackPicture(r.network, r.rack);
        QVERIFY(picture);
        QCOMPARE(picture->loose.size(), std::size_t{1});
        QCOMPARE(picture->slots.size(), std::size_t{2}); // its front, and its back from behind
        const scene::PointF foot{picture->front.x + 5, picture->front.bottom() - 2},
            head{picture->front.x + 5, picture->front.y + 2};
        QCOMPARE(picture->unitAt(foot), 1);
        QCOMPARE(picture->unitAt(head), 12);
        QCOMPARE(picture->unitAt({0, -5}), 0);
        QCOMPARE(picture->slotAt(foot)->mounted.device, core);
        QVERIFY(!picture->slotAt(foot)->behind);
        QVERIFY(!picture->slotAt(head));
        QVERIFY(picture->slotAt({picture->rear.x + 5, foot.y})->behind);
        QCOMPARE(picture->sideAt({picture->rear.x + 5, foot.y}), std::optional(Side::rear));
        for (int unit = 1; unit <= 12; ++unit)
            QCOMPARE(picture->unitAt(picture->areaOf({{}, unit}, Side::front).centre()), unit);
    }
    void what_stands_where_something_else_does_is_shown_as_such() {
        Room r;
        for (const char* name : {"a", "b"})
            r.place(r.add("access-switch-24", name), {r.rack, 0, 0, 0, 5, Side::front}); // as a file may say
        const auto picture = scene::rackPicture(r.network, r.rack);
        for (const scene::RackSlot& slot : picture->slots)
            QVERIFY(slot.clash);
        QVERIFY(!scene::rackPicture(r.network, r.room));
        QCOMPARE(racksOf(r.network), std::vector{r.rack});
    }
};

UNDERRIDGE_TEST(RacksTest)
#include "racks_test.moc"
