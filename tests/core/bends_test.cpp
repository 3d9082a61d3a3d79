// SPDX-License-Identifier: GPL-3.0-or-later
// Bends of links whose ends are pushed, folded away and brought back.
#include "core/edit/sheets.h"
#include "core/edit/shown_places.h"
#include "core/scene/bends.h"
#include "core/scene/lines.h"
#include "core/scene/scene.h"
#include "tests/support/grouped.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using scene::Between;
using scene::PointF;
using scene::Scene;
using tests::Grouped;

namespace {

bool isNear(PointF a, PointF b, double by = 1e-6) {
    return std::abs(a.x - b.x) <= by && std::abs(a.y - b.y) <= by;
}

/// Two groups of which the left one, unfolded, reaches into the right one and pushes it away, with a
/// link between them.
struct Pushed : tests::Workbench {
    Pushed() {
        left = add("access-switch-24", "left", {0, 0});
        wide = add("access-switch-24", "wide", {700, 0});
        right = add("access-switch-24", "right", {600, 500});
        const GroupId a = group("A", GroupKind::cluster), b = group("B", GroupKind::cluster);
        for (const auto& [device, in] : {std::pair{left, a}, {wide, a}, {right, b}}) {
            Device member = *network.device(device);
            member.group = in;
            network.put(member);
        }
        take(edit::drawGroup(network, sheet, a, {-40, -40}, 1000, 300));
        take(edit::drawGroup(network, sheet, b, {500, 200}, 400, 500));
        take(edit::makeLink(network, catalogue, *best({left, {}}, {right, {}}), ids));
        network.all<Link>().forEach([&](const Link& each) { link = each.id; });
    }
    DeviceId left, wide, right;
    LinkId link;

    std::vector<PointF> path() const { return Scene::build(network, sheet).link(link)->path; }
    scene::Rect plate(DeviceId id) const { return Scene::build(network, sheet).plate(id)->frame; }
};

} // namespace

class BendsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void beside_a_plate_a_place_goes_with_it_and_between_with_the_nearer() {
        const auto between = Between::of({0, 100}, {300, 400}, 10, 110);
        QVERIFY(between);
        QCOMPARE(between->shown(50), 60.0);
        QCOMPARE(between->shown(-500), -490.0);
        QCOMPARE(between->shown(350), 460.0);
        QCOMPARE(between->shown(200), 260.0);
        QCOMPARE(between->nearness(50), 0.0);
        QCOMPARE(between->nearness(250), 0.75);
        for (double at = -50; at < 600; at += 7)
            QVERIFY(std::abs(between->shown(between->place(at)) - at) < 1e-9);
    }
    void which_end_is_called_a_does_not_matter() {
        const auto one = Between::of({0, 100}, {300, 400}, 10, 110),
                   other = Between::of({300, 400}, {0, 100}, 110, 10);
        for (double at = -50; at < 600; at += 7) {
            QCOMPARE(one->shown(at), other->shown(at));
            QVERIFY(std::abs(one->nearness(at) + other->nearness(at) - 1) < 1e-12);
        }
    }
    void without_room_between_or_order_there_is_none() {
        QVERIFY(!Between::of({0, 100}, {50, 150}, 0, 0));
        QVERIFY(!Between::of({0, 100}, {300, 400}, 250, 0)); // they change places
        QVERIFY(!Between::of({0, 100}, {110, 200}, 0, 100)); // ten units would be a hundred and ten
    }
    void a_bend_goes_with_a_group_that_is_pushed() {
        Pushed b;
        const Scene scene = Scene::build(b.network, b.sheet);
        const scene::Rect stood = *scene.folding()->standingPlate(b.right);
        const PointF pushed{b.plate(b.right).x - stood.x, b.plate(b.right).y - stood.y};
        QVERIFY(pushed.x > 20 || pushed.y > 20);
        Position position;
        position.sheet = b.sheet;
        position.object = b.link.value;
        position.of = Kind::link;
        const Point by{static_cast<int>(stood.x) + 30, static_cast<int>(stood.y) - 60};
        position.bends = {by};
        b.network.put(position);
        const PointF shown = b.path().at(1);
        QVERIFY(isNear(shown, PointF{by.x + pushed.x, by.y + pushed.y}, 20));
        QVERIFY(shown.y > by.y + pushed.y / 2); // rather with the one than with the other
    }
    void where_a_bend_is_put_it_is_shown() {
        int told = 0;
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(40)); ++seed) {
            Grouped b(seed);
            b.grow(2, 3, 2, {}, {}, 2400); // near enough to push one another
            b.linkSome(12);
            for (int i = 0; i < 6; ++i)
                b.take(b.act());
            const Scene scene = Scene::build(b.network, b.sheet);
            for (const scene::LinkLine* line : scene.itemsIn(scene.bounds()).of<scene::LinkLine>()) {
                if (line->a.kind != Kind::device || line->b.kind != Kind::device || !line->merged.empty())
                    continue;
                const Point at{b.below(3000) - 500, b.below(2000) - 500};
                const auto act = edit::setBends(b.network, {b.sheet}, line->id, {at});
                if (!act)
                    continue;
                const auto path = Scene::build(act->network, b.sheet).link(line->id)->path;
                QVERIFY2(isNear(path.at(1), scene::toF(at), 2.01),
                         qPrintable(QStringLiteral("seed %1: %2, %3 for %4, %5")
                                        .arg(seed)
                                        .arg(path[1].x)
                                        .arg(path[1].y)
                                        .arg(at.x)
                                        .arg(at.y)));
                ++told;
            }
        }
        QVERIFY2(told > 40, qPrintable(QString::number(told)));
    }
    void upright_stays_upright_where_there_is_room() {
        Pushed b;
        const Scene scene = Scene::build(b.network, b.sheet);
        const scene::Bends bends(*scene.folding(), {}, b.left, b.right);
        const PointF upper = bends.shown({300, 120}), lower = bends.shown({300, 400});
        QCOMPARE(upper.x, lower.x);
        const PointF start = bends.shown({300, 400}), end = bends.shown({450, 400});
        QCOMPARE(start.y, end.y);
    }
    void folding_and_unfolding_leaves_bends_where_they_were() {
        Pushed b;
        b.take(edit::setBends(b.network, {b.sheet}, b.link, {{420, 380}}));
        const auto before = b.path();
        const Network stood = b.network;
        GroupId a;
        b.network.all<Group>().forEach([&](const Group& each) { a = each.name == "A" ? each.id : a; });
        QVERIFY(b.take(edit::setFolded(b.network, b.sheet, {a}, true)));
        QVERIFY(b.take(edit::setFolded(b.network, b.sheet, {a}, false)));
        QVERIFY(b.path() == before);
        QCOMPARE(b.network.position(b.sheet, b.link.value)->bends,
                 stood.position(b.sheet, b.link.value)->bends);
    }
};

UNDERRIDGE_TEST(BendsTest)
#include "bends_test.moc"
