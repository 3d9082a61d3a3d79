// SPDX-License-Identifier: GPL-3.0-or-later
// What is seen from far away: groups closed by the zoom, endpoints tucked in.
#include "core/edit/objects.h"
#include "core/edit/tucks.h"
#include "core/model/group_tree.h"
#include "core/scene/scene.h"
#include "core/scene/tucking.h"
#include "tests/support/grouped.h"
#include "tests/support/registered.h"

#include <set>

using namespace underridge;
using namespace underridge::model;
using scene::Scene;
using tests::Grouped;
using tests::text;

namespace {

/// A campus: sites with buildings with floors, each floor with devices in a row.
struct Campus : Grouped {
    explicit Campus(std::uint64_t seed = 1) : Grouped(seed) {
        grow(3, 3, 4, {}, {}, 40000);
        for (int i = 0; i < 4; ++i) // what the sheet itself holds would lie over the first site
            take(
                edit::moveObjects(network, sheet, {refTo(devices[static_cast<std::size_t>(i)])}, {0, -9000}));
        linkSome(60);
    }
    Scene whole() const { return Scene::build(network, sheet); }
};

/// How many devices are to be seen: plates, and what tiles and badges count.
int seenDevices(const Scene& scene) {
    int seen = 0;
    scene.forEachPlate([&](const scene::Plate& plate) {
        ++seen;
        for (const auto& [role, count] : plate.tucked)
            seen += count;
    });
    scene.forEach<scene::Tile>([&](const scene::Tile& tile) { seen += tile.devices; });
    return seen;
}

std::set<LinkId> linksOf(const Scene& scene) {
    std::set<LinkId> out;
    scene.forEachLink([&](const scene::LinkLine& line) {
        out.insert(line.id);
        out.insert(line.merged.begin(), line.merged.end());
    });
    return out;
}

/// A switch with phones on it and a camera, beside another switch.
struct Tucked : tests::Workbench {
    Tucked() {
        hub = add("access-switch-24", "acc-1", {0, 0});
        other = add("access-switch-24", "acc-2", {600, 0});
        link({hub, {}}, {other, {}});
        for (int i = 0; i < 3; ++i) {
            phones.push_back(add("phone", "phone", {200 * i, 300}));
            link({hub, {}}, {phones.back(), {}});
        }
        camera = add("camera", "cam", {700, 300});
        link({hub, {}}, {camera, {}});
    }
    edit::ActResult tuck(bool in = true) { return edit::setTucked(network, sheet, {hub, other}, in); }
    Scene scene() const { return Scene::build(network, sheet); }

    DeviceId hub, other, camera;
    std::vector<DeviceId> phones;
};

} // namespace

class ClosingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void near_by_nothing_closes_and_far_away_one_tile_is_left() {
        const Campus campus;
        const Scene whole = campus.whole();
        QCOMPARE(whole.seenAt(0.5).get(), &whole);
        QCOMPARE(whole.seenAt(scene::closingZoom).get(), &whole);
        const auto far = whole.seenAt(0.0005);
        QCOMPARE(far->count<scene::Tile>(), std::size_t{3}); // the sites
        QCOMPARE(far->count<scene::Frame>(), std::size_t{0});
        QCOMPARE(far->count<scene::Plate>(), std::size_t{4}); // in no group
    }
    void whoever_does_not_wait_sees_it_once_somebody_else_has() {
        const Campus campus;
        const Scene whole = campus.whole();
        QCOMPARE(whole.seenAlready(0.5).get(), &whole);
        QVERIFY(!whole.seenAlready(0.0005));
        const auto far = whole.seenAt(0.0005);
        QCOMPARE(whole.seenAlready(0.0005).get(), far.get());
        QVERIFY(!whole.seenAlready(0.05));
    }
    void the_further_away_the_fewer_are_open_and_nobody_is_lost() {
        for (int seed = 1; seed <= tests::tries(3); ++seed) {
            const Campus campus(static_cast<std::uint64_t>(seed));
            const Scene whole = campus.whole();
            const int all = seenDevices(whole);
            std::size_t open = whole.count<scene::Frame>();
            bool fewer = false;
            for (double zoom = 0.25; zoom > 0.0004; zoom /= 1.3) {
                const auto seen = whole.seenAt(zoom);
                QVERIFY(seen->gridIsTrue());
                QVERIFY(seen->count<scene::Frame>() <= open);
                fewer |= seen->count<scene::Frame>() < open && seen->count<scene::Frame>() > 0;
                open = seen->count<scene::Frame>();
                QCOMPARE(seenDevices(*seen), all);
            }
            QVERIFY(fewer); // not all at once
        }
    }
    void nothing_moves_and_links_end_at_what_is_seen() {
        const Campus campus;
        const Scene whole = campus.whole();
        for (const double zoom : {0.15, 0.05, 0.02, 0.008}) {
            const auto seen = whole.seenAt(zoom);
            seen->forEach<scene::Tile>([&](const scene::Tile& tile) {
                QVERIFY(tile.closed);
                QCOMPARE(tile.frame.x, whole.frame(tile.id)->frame.x);
                QCOMPARE(tile.frame.w, whole.frame(tile.id)->frame.w);
                QCOMPARE(tile.devices, static_cast<int>(devicesWithin(campus.network, tile.id).size()));
            });
            const auto links = linksOf(*seen);
            campus.network.all<Link>().forEach([&](const Link& link) {
                const auto tileOver = [&](DeviceId id) {
                    for (const GroupId group : upwards(campus.network, campus.network.device(id)->group))
                        if (seen->tile(group))
                            return refTo(group);
                    return refTo(id);
                };
                const ObjectRef a = tileOver(link.a.device), b = tileOver(link.b.device);
                QCOMPARE(links.contains(link.id), a != b);
            });
            seen->forEachLink([&](const scene::LinkLine& line) {
                for (const ObjectRef end : {line.a, line.b})
                    QVERIFY(seen->item(end));
            });
        }
    }
    void what_is_hit_is_what_is_seen_and_has_a_name() {
        const Campus campus;
        const Scene whole = campus.whole();
        for (const double zoom : {0.1, 0.03, 0.01}) {
            const auto seen = whole.seenAt(zoom);
            const auto names = seen->namesIn(seen->bounds().grown(200 / zoom), zoom);
            int named = 0, readable = 0;
            seen->forEach<scene::Tile>([&](const scene::Tile& tile) {
                QCOMPARE(scene::hitAt(*seen, tile.frame.centre(), 1 / zoom).object, refTo(tile.id));
                const auto name = std::find_if(names.begin(), names.end(),
                                               [&](const auto& each) { return each.of == refTo(tile.id); });
                readable += tile.frame.w * zoom > 60 && tile.frame.h * zoom > 20;
                if (name == names.end())
                    return;
                named += tile.frame.w * zoom > 60 && tile.frame.h * zoom > 20;
                QVERIFY(!name->inside || tile.frame.contains(name->area));
            });
            QCOMPARE(named, readable);
        }
    }
    void an_entered_group_stays_open_and_a_sheet_may_keep_all_open() {
        Campus campus;
        const GroupId site = campus.groups.front();
        const Scene inside = Scene::build(campus.network, campus.sheet, LengthUnit::metres, site);
        QVERIFY(inside.seenAt(0.001)->frame(site));
        const auto sheet = edit::newSheet(campus.network, "Site", campus.sheet, site, true, campus.ids);
        QVERIFY(Scene::build(sheet->network, {sheet->subjects.front().id}).seenAt(0.001)->frame(site));
        QVERIFY(campus.take(edit::setSheetClosing(campus.network, campus.sheet, false)));
        const Scene whole = campus.whole();
        QCOMPARE(whole.seenAt(0.001).get(), &whole);
    }
    void after_an_edit_it_is_the_picture_of_what_is_there_now() {
        Campus campus;
        Scene followed = campus.whole();
        for (int i = 0; i < tests::tries(20); ++i) {
            static_cast<void>(followed.seenAt(0.03)); // kept from before
            const Network before = campus.network;
            campus.take(campus.act());
            followed = scene::update(followed, before, campus.network).scene;
            QVERIFY(*followed.seenAt(0.03) == *campus.whole().seenAt(0.03));
        }
    }

    // --- tucked in -------------------------------------------------------------

    void endpoints_become_a_badge_and_come_out_where_they_were() {
        Tucked b;
        const Scene before = b.scene();
        QVERIFY(b.take(b.tuck()));
        const Scene in = b.scene();
        QCOMPARE(in.count<scene::Plate>(), std::size_t{2});
        QCOMPARE(in.count<scene::LinkLine>(), std::size_t{1}); // between the switches
        QCOMPARE(in.plate(b.hub)->tucked,
                 (std::vector<std::pair<Role, int>>{{Role::phone, 3}, {Role::camera, 1}}));
        QCOMPARE(in.plate(b.hub)->frame.x, before.plate(b.hub)->frame.x);
        QCOMPARE(in.tuckedInto(b.camera), b.hub);
        QCOMPARE(in.anchorOf(b.camera)->shown, refTo(b.hub));
        const scene::Rect badge = in.plate(b.hub)->badge();
        QVERIFY(scene::hitAt(in, badge.centre(), 1).badge);
        QVERIFY(!scene::hitAt(in, in.plate(b.hub)->frame.centre(), 1).badge);
        QVERIFY(b.take(b.tuck(false)));
        QVERIFY(b.scene() == before);
    }
    void who_is_linked_to_more_than_one_stays_out() {
        Tucked b;
        b.link({b.phones[0], {}}, {b.other, {}});
        QVERIFY(b.take(b.tuck()));
        QVERIFY(b.scene().plate(b.phones[0]));
        QCOMPARE(b.scene().plate(b.hub)->tucked.front(), std::pair(Role::phone, 2));
    }
    void what_hangs_on_an_endpoint_goes_in_with_it() {
        Tucked b;
        const DeviceId desk = b.add("phone", "desk", {0, 500});
        b.link({b.phones[0], {}}, {desk, {}});
        QVERIFY(b.take(b.tuck()));
        QCOMPARE(b.scene().tuckedInto(desk), b.hub);
        QCOMPARE(b.scene().tuckedInto(b.phones[0]), b.hub);
        b.link({desk, {}}, {b.other, {}}); // now both are on two switches
        QVERIFY(b.scene().plate(desk) && b.scene().plate(b.phones[0]));
    }
    void without_endpoints_of_its_own_nothing_is_tucked() {
        Tucked b;
        const auto act = edit::setTucked(b.network, b.sheet, {b.other}, true);
        QVERIFY(!act);
        QVERIFY(text(act.refusal().text()).contains("endpoints"));
    }
    void inside_a_folded_group_it_is_seen_by_its_own_plate_or_tile() {
        Tucked b;
        const GroupId rack = b.group("Rack", GroupKind::rack);
        for (const DeviceId id : {b.hub, b.other}) {
            Device device = *b.network.device(id);
            device.group = rack;
            b.network.put(device);
        }
        QVERIFY(b.take(b.tuck()));
        QCOMPARE(b.scene().count<scene::Plate>(), std::size_t{2});
        QVERIFY(b.take(edit::setFolded(b.network, b.sheet, {rack}, true)));
        const Scene folded = b.scene();
        QVERIFY(folded.plate(b.camera)); // there is no badge to be in
        b.network.forEachLinkOf(b.camera, [&](const Link& link) { QVERIFY(folded.link(link.id)); });
        QCOMPARE(seenDevices(folded), 6);
    }
    void whatever_is_done_the_followed_picture_is_the_one_built_anew() {
        for (int seed = 1; seed <= tests::tries(6); ++seed) {
            Grouped bench(static_cast<std::uint64_t>(seed));
            bench.grow(2, 2, 1);
            std::vector<DeviceId> endpoints;
            for (int i = 0; i < 20; ++i) {
                endpoints.push_back(bench.add(i % 2 ? "camera" : "phone", {}, {300 * i, 4000}));
                if (bench.below(2))
                    bench.join(endpoints.back(), bench.any(bench.groups));
                if (const auto pair = bench.best({bench.any(bench.devices), {}}, {endpoints.back(), {}}))
                    bench.take(edit::makeLink(bench.network, bench.catalogue, *pair, bench.ids));
            }
            Scene followed = Scene::build(bench.network, bench.sheet);
            int tucked = 0;
            for (int i = 0; i < 60; ++i) {
                const Network before = bench.network;
                switch (bench.below(5)) {
                case 0:
                case 1:
                    bench.take(edit::setTucked(bench.network, bench.sheet, {bench.any(bench.devices)},
                                               bench.below(3) > 0));
                    break;
                case 2: {
                    const DeviceId end = bench.any(endpoints);
                    const DeviceId to = bench.any(bench.below(3) ? bench.devices : endpoints);
                    if (const auto pair = bench.best({to, {}}, {end, {}}))
                        bench.take(edit::makeLink(bench.network, bench.catalogue, *pair, bench.ids));
                    break;
                }
                case 3: {
                    std::vector<LinkId> links;
                    bench.network.forEachLinkOf(bench.any(endpoints),
                                                [&](const Link& link) { links.push_back(link.id); });
                    if (!links.empty())
                        bench.take(edit::removeObjects(bench.network, {refTo(links.front())}));
                    break;
                }
                default:
                    bench.take(bench.act());
                }
                followed = scene::update(followed, before, bench.network).scene;
                const Scene scene = Scene::build(bench.network, bench.sheet);
                QVERIFY2(followed == scene, qPrintable(QStringLiteral("seed %1, act %2").arg(seed).arg(i)));
                QVERIFY(followed.gridIsTrue());
                for (const DeviceId id : endpoints) {
                    QCOMPARE(followed.tuckedInto(id), scene.tuckedInto(id));
                    tucked += scene.tuckedInto(id) ? 1 : 0;
                }
                QCOMPARE(seenDevices(scene), static_cast<int>(bench.network.all<Device>().size()));
            }
            QVERIFY(tucked > 0);
        }
    }
};

UNDERRIDGE_TEST(ClosingTest)
#include "closing_test.moc"
