// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/aligning.h"
#include "core/edit/sheets.h"
#include "core/scene/scene.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using namespace underridge::tests;
using edit::Align;
using edit::Along;

namespace {

/// Four switches here and there.
struct Four : Workbench {
    Four() {
        for (const Point at : {Point{0, 0}, {300, 80}, {700, 20}, {1500, 400}})
            devices.push_back(add("access-switch-24", {}, at));
    }
    std::vector<edit::Shown> shown() const {
        const scene::Scene scene = scene::Scene::build(network, sheet);
        std::vector<edit::Shown> out;
        for (const DeviceId id : devices)
            out.push_back({refTo(id), scene.plate(id)->frame});
        return out;
    }
    scene::Rect frame(std::size_t i) const { return shown()[i].frame; }
    void now(const edit::ActResult& act) {
        if (!take(act))
            qFatal("%s", act.refusal().text().c_str());
    }
    edit::Look look() const { return {sheet}; }

    std::vector<DeviceId> devices;
};

} // namespace

class AligningTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void edges_come_in_line_with_the_outermost() {
        Four f;
        f.now(edit::align(f.network, f.look(), f.shown(), Align::top));
        for (std::size_t i = 0; i < 4; ++i)
            QCOMPARE(f.frame(i).y, 0.0);
        f.now(edit::align(f.network, f.look(), f.shown(), Align::right));
        for (std::size_t i = 0; i < 4; ++i)
            QCOMPARE(f.frame(i).right(), f.frame(3).right());
    }
    void middles_come_to_the_mean() {
        Four f;
        f.now(edit::align(f.network, f.look(), f.shown(), Align::middle));
        for (std::size_t i = 0; i < 4; ++i)
            QVERIFY(std::abs(f.frame(i).centre().y - (125.0 + f.frame(0).h / 2)) <= 1);
    }
    void middles_are_spaced_evenly_whatever_their_widths() {
        Four f;
        f.devices[1] = f.add("phone", {}, {300, 80}); // narrower
        const double first = f.frame(0).centre().x, last = f.frame(3).centre().x;
        f.now(edit::distribute(f.network, f.look(), f.shown(), Along::across, edit::Evenly::middles));
        for (std::size_t i = 0; i < 4; ++i)
            QVERIFY(std::abs(f.frame(i).centre().x - (first + (last - first) * static_cast<double>(i) / 3)) <=
                    1);
        QCOMPARE(f.frame(1).y, 80.0); // only across
    }
    void the_gap_of_the_first_two_is_given_to_all() {
        Four f;
        const double gap = f.frame(1).x - f.frame(0).right();
        f.now(edit::distribute(f.network, f.look(), f.shown(), Along::across, edit::Evenly::asFirst));
        QCOMPARE(f.frame(0).x, 0.0);
        QCOMPARE(f.frame(1).x, 300.0);
        for (std::size_t i = 1; i < 4; ++i)
            QVERIFY(std::abs(f.frame(i).x - f.frame(i - 1).right() - gap) <= 1);
    }
    void frames_become_as_large_as_the_largest() {
        Four f;
        const GroupId small = f.group("small", GroupKind::cluster), large = f.group("large", GroupKind::room);
        for (std::size_t i = 0; i < 4; ++i) {
            Device device = *f.network.device(f.devices[i]);
            device.group = i == 0 ? small : large;
            f.network.put(device);
        }
        const auto frame = [&](GroupId id) {
            return scene::Scene::build(f.network, f.sheet).frame(id)->frame;
        };
        const scene::Rect before = frame(large), corner = frame(small);
        QVERIFY(corner.w < before.w && corner.h < before.h);
        f.now(edit::sameSize(f.network, f.look(), {refTo(small), refTo(large)}));
        QCOMPARE(frame(small).w, frame(large).w);
        QCOMPARE(frame(small).h, frame(large).h);
        QVERIFY(std::abs(frame(large).w - before.w) <= 1);
        QVERIFY(!edit::sameSize(f.network, f.look(), {refTo(small)}));
        QVERIFY(!edit::sameSize(f.network, f.look(), {refTo(f.devices[0]), refTo(f.devices[1])}));
    }
    void several_links_are_straightened_at_once() {
        Four f;
        std::vector<LinkId> links;
        for (std::size_t i = 1; i < 4; ++i) {
            links.push_back(f.link({f.devices[0], {}}, {f.devices[i], {}}));
            f.now(edit::setBends(f.network, f.look(), links.back(), {{100, 900}}));
        }
        links.pop_back();
        f.now(edit::straighten(f.network, f.sheet, links));
        const scene::Scene scene = scene::Scene::build(f.network, f.sheet);
        QCOMPARE(scene.link(links[0])->path.size(), std::size_t{2});
        QCOMPARE(scene.link(links[1])->path.size(), std::size_t{2});
        QCOMPARE(f.network.position(f.sheet, links[0].value), nullptr);
    }
    void gaps_become_equal_and_the_outermost_stay() {
        Four f;
        const double first = f.frame(0).x, last = f.frame(3).x;
        f.now(edit::distribute(f.network, f.look(), f.shown(), Along::across));
        QCOMPARE(f.frame(0).x, first);
        QCOMPARE(f.frame(3).x, last);
        const double gap = f.frame(1).x - f.frame(0).right();
        QVERIFY(std::abs(f.frame(2).x - f.frame(1).right() - gap) <= 1);
        QVERIFY(std::abs(f.frame(3).x - f.frame(2).right() - gap) <= 1);
    }
    void mirrored_twice_is_as_before() {
        Four f;
        const Network before = f.network;
        f.now(edit::mirror(f.network, f.look(), f.shown(), Along::across));
        QVERIFY(f.frame(0).x > f.frame(3).x);
        f.now(edit::mirror(f.network, f.look(), f.shown(), Along::across));
        QVERIFY(f.network == before);
    }
    void a_quarter_puts_the_left_one_on_top() {
        Four f;
        f.now(edit::turnQuarter(f.network, f.look(), f.shown()));
        QVERIFY(f.frame(0).y < f.frame(1).y && f.frame(1).y < f.frame(2).y && f.frame(2).y < f.frame(3).y);
        for (std::size_t i = 0; i < 4; ++i)
            for (std::size_t j = 0; j < i; ++j)
                QVERIFY(!f.frame(i).intersects(f.frame(j)));
    }
    void two_change_over() {
        Four f;
        auto two = f.shown();
        two.resize(2);
        f.now(edit::swapTwo(f.network, f.look(), two));
        QCOMPARE(f.frame(0).centre(), two[1].frame.centre());
        QCOMPARE(f.frame(1).centre(), two[0].frame.centre());
        QVERIFY(!edit::swapTwo(f.network, f.look(), f.shown()));
    }
    void room_is_made_and_closed_up_without_overlaps() {
        Four f;
        f.now(edit::spread(f.network, f.look(), f.shown(), 1.3));
        QVERIFY(f.frame(3).x - f.frame(0).x > 1500 * 1.25);
        for (int i = 0; i < 12; ++i)
            f.now(edit::spread(f.network, f.look(), f.shown(), 0.5));
        for (std::size_t i = 0; i < 4; ++i)
            for (std::size_t j = 0; j < i; ++j)
                QVERIFY(!f.frame(i).intersects(f.frame(j)));
        QVERIFY(f.frame(3).x - f.frame(0).x < 900);
    }
    void too_few_are_refused() {
        Four f;
        auto one = f.shown();
        one.resize(1);
        QVERIFY(!edit::align(f.network, f.look(), one, Align::left));
        QVERIFY(!edit::distribute(f.network, f.look(), one, Along::down));
    }
};

UNDERRIDGE_TEST(AligningTest)
#include "aligning_test.moc"
