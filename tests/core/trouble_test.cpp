// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/rules.h"
#include "core/model/group_tree.h"
#include "core/scene/trouble.h"
#include "tests/support/grouped.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using scene::Scene;
using scene::Trouble;

namespace {

/// A room in a floor with a camera whose link is too long, and one outside that is well.
struct Long : tests::Grouped {
    Long() : Grouped(1) {
        floor = group("Level 1", GroupKind::floor);
        room = group("Shop", GroupKind::room, floor);
        hub = add("access-switch-24", "acc", {0, 0});
        camera = add("camera", "cam", {0, 300});
        other = add("phone", "phone", {400, 300});
        join(camera, room);
        bad = link({hub, {}}, {camera, {}});
        link({hub, {}}, {other, {}});
    }
    void stretch() {
        Cable cable = cableOf(bad);
        cable.lengthMm = 400'000;
        network.put(cable);
    }
    find::Findings findings() const { return find::Findings(linking::check(network, catalogue)); }

    GroupId floor, room;
    DeviceId hub, camera, other;
    LinkId bad;
};

} // namespace

class TroubleTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_network_that_is_well_has_none() {
        const Long b;
        QVERIFY(scene::troubleByGroup(b.network, b.findings()).empty());
        QVERIFY(scene::errorsOn(b.network, Scene::build(b.network, b.sheet), b.findings()).empty());
    }
    void every_group_around_tells_of_it_and_no_other() {
        Long b;
        b.stretch();
        const auto trouble = scene::troubleByGroup(b.network, b.findings());
        QVERIFY(trouble.contains(b.room) && trouble.contains(b.floor));
        QVERIFY(trouble.at(b.room).errors > 0);
        QCOMPARE(trouble.at(b.room), trouble.at(b.floor));
        QCOMPARE(trouble.size(), std::size_t{2});
    }
    void it_is_marked_where_what_stands_for_it_is_drawn() {
        Long b;
        b.stretch();
        QVERIFY(b.take(edit::setFolded(b.network, b.sheet, {b.room}, true)));
        const Scene scene = Scene::build(b.network, b.sheet);
        const auto places = scene::errorsOn(b.network, scene, b.findings());
        QVERIFY(!places.empty());
        for (const scene::PointF place : places)
            QVERIFY(scene.bounds().grown(1).contains(place));
    }
};

UNDERRIDGE_TEST(TroubleTest)
#include "trouble_test.moc"
