// SPDX-License-Identifier: GPL-3.0-or-later
// Many devices to few: as many as can be, at the least cost in all; members and redundant
// links apart.
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/edit/lags.h"
#include "core/edit/many.h"
#include "core/linking/rules.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <random>
#include <set>

using namespace underridge;
using namespace underridge::model;

namespace {

struct Bench : tests::Workbench {
    DeviceId add(const std::string& model, Point at = {}) { return Workbench::add(model, {}, at); }
    linking::Assignment assign(const std::vector<DeviceId>& devices,
                               const std::vector<DeviceId>& targets) const {
        return linking::assign(network, catalogue, devices, targets, sheet);
    }
    edit::ManyLinks many(const std::vector<DeviceId>& devices, const std::vector<DeviceId>& targets,
                         edit::ManyOptions options = {}) {
        return edit::linkMany(network, catalogue, devices, targets, sheet, options, {}, ids);
    }
};

/// The least sum of distances, found by trying everything.
std::int64_t leastDistance(const std::vector<std::vector<std::int64_t>>& distance, std::vector<int> free,
                           std::size_t next = 0) {
    if (next == distance.size())
        return 0;
    std::int64_t best = INT64_MAX / 2;
    for (std::size_t t = 0; t < free.size(); ++t)
        if (free[t] > 0) {
            --free[t];
            best = std::min(best, distance[next][t] + leastDistance(distance, free, next + 1));
            ++free[t];
        }
    return best;
}

} // namespace

class AssignTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void small_cases_are_as_good_as_can_be() {
        std::mt19937 random(5);
        for (int round = 0; round < 20; ++round) {
            Bench bench;
            std::vector<DeviceId> targets, devices;
            std::vector<Point> targetAt, deviceAt;
            const auto somewhere = [&] {
                return Point{static_cast<int>(random() % 2000), static_cast<int>(random() % 2000)};
            };
            std::vector<int> free;
            for (int t = 0; t < 3; ++t) {
                targetAt.push_back(somewhere());
                targets.push_back(bench.add("hub-8", targetAt.back())); // seven ports below, one above
                const int taken = 4 + static_cast<int>(random() % 2);
                for (int i = 0; i < taken; ++i) {
                    const auto plan = bench.many({bench.add("printer")}, {targets.back()});
                    QCOMPARE(plan.linked(), 1);
                    bench.network = plan.act.network;
                }
                free.push_back(7 - taken);
            }
            for (int i = 0; i < 6; ++i) {
                deviceAt.push_back(somewhere());
                devices.push_back(bench.add("printer", deviceAt.back()));
            }
            std::vector<std::vector<std::int64_t>> distance;
            for (const Point d : deviceAt) {
                auto& row = distance.emplace_back();
                for (const Point t : targetAt)
                    row.push_back(std::abs(d.x - t.x) + std::abs(d.y - t.y));
            }
            const auto found = bench.assign(devices, targets);
            QCOMPARE(found.linked(), 6);
            QCOMPARE(found.cost.distance, leastDistance(distance, free));
        }
    }

    void each_gets_a_port_of_its_own_and_who_gets_none_is_told() {
        Bench bench;
        const auto target = bench.add("compact-switch-8");
        std::vector<DeviceId> devices;
        for (int i = 0; i < 10; ++i)
            devices.push_back(bench.add("till"));
        const auto found = bench.assign(devices, {target});
        QCOMPARE(found.linked(), 8); // the uplink block is spared
        std::set<std::string> ports;
        for (const auto& row : found.rows)
            if (row.proposal)
                QVERIFY(ports.insert(row.proposal->b.port).second);
        QCOMPARE(QString::fromStdString(found.rows[8].why), QString("all ports that fit are taken"));
        QCOMPARE(QString::fromStdString(found.rows[0].proposal->b.port), QString("1")); // from the low end
    }

    void a_power_budget_is_kept() {
        Bench bench;
        const auto near = bench.add("compact-switch-8", {0, 0}),
                   far = bench.add("compact-switch-8", {3000, 0});
        std::vector<DeviceId> cameras;
        for (int i = 0; i < 8; ++i)
            cameras.push_back(bench.add("camera-outdoor", {100, 0})); // class 4: 30 W; 120 W are there
        for (DeviceId& camera : cameras) {                            // a plug the switch has
            Device device = *bench.network.device(camera);
            device.model = "access-point";
            bench.network.put(device);
        }
        bench.network.put(*bench.catalogue.device("access-point"));
        const auto found = bench.assign(cameras, {near, far});
        QCOMPARE(found.linked(), 8);
        QCOMPARE(std::count_if(found.rows.begin(), found.rows.end(),
                               [&](const auto& row) { return row.proposal->b.device == near; }),
                 std::ptrdiff_t(4));
        const auto plan = bench.many(cameras, {near, far});
        for (const auto& finding : linking::check(plan.act.network, bench.catalogue))
            QVERIFY(finding.rule->code != "power-budget");
        const auto alone = bench.assign(cameras, {near});
        QCOMPARE(alone.linked(), 4);
        QCOMPARE(QString::fromStdString(alone.rows.back().why.empty() ? alone.rows.front().why
                                                                      : alone.rows.back().why),
                 QString("the power budgets are used up"));
    }

    void power_given_already_counts() {
        Bench bench;
        const auto target = bench.add("compact-switch-8"); // 120 W
        for (int i = 0; i < 3; ++i)
            bench.link({target, {}}, {bench.add("access-point"), {}}); // class 4: 30 W each
        const std::vector<DeviceId> more{bench.add("access-point"), bench.add("access-point")};
        QCOMPARE(bench.assign(more, {target}).linked(), 1);
        bench.link({target, {}}, {more[0], {}});
        QCOMPARE(bench.assign({more[1]}, {target}).linked(), 0);
    }

    void members_and_redundant_uplinks_are_spread() {
        Bench bench;
        const auto core = bench.add("core-switch-modular");
        for (const char* slot : {"1", "2"})
            bench.network = edit::fitModule(bench.network, bench.catalogue, core, slot, "module-12-sfpp",
                                            edit::WithLinks::refuse)
                                ->network;
        const auto access = bench.add("access-switch-24");
        const auto plan = bench.many({access}, {core}, {false, 2, true});
        QCOMPARE(plan.linked(), 2);
        std::set<std::string> modules;
        for (const auto& row : plan.rows)
            modules.insert(row.proposal->b.port.substr(0, 1));
        QCOMPARE(modules.size(), std::size_t(2)); // never packed onto one module
        QVERIFY(QString::fromStdString(plan.rows[1].proposal->reason).contains("apart from the others"));
        const Interface* lag = lagAt(plan.act.network, plan.rows[0].proposal->a);
        QVERIFY(lag && lag->members.size() == 2 && lag->name == "lag1");
        QVERIFY(lagAt(plan.act.network, plan.rows[0].proposal->b));
        // A stack: its uplinks to two devices leave by two members.
        Device stack = *bench.network.device(bench.add("access-switch-24"));
        stack.stack = {{1, "access-switch-24", {}, {}}, {2, "access-switch-24", {}, {}}};
        bench.network.put(stack);
        const auto other = bench.add("distribution-switch-24"), third = bench.add("distribution-switch-24");
        const auto both = bench.many({stack.id}, {other, third}, {true, 1, false});
        QCOMPARE(both.linked(), 2);
        QVERIFY(both.rows[0].proposal->a.port[0] != both.rows[1].proposal->a.port[0]);
    }

    void members_must_go_together() {
        Bench bench;
        const auto a = bench.add("access-switch-24"), b = bench.add("access-switch-24"),
                   c = bench.add("access-switch-24");
        auto plan = bench.many({a}, {b}, {false, 2, false});
        bench.network = plan.act.network;
        std::vector<LinkId> two;
        for (const ObjectRef ref : plan.act.subjects)
            two.push_back({ref.id});
        plan = bench.many({a}, {c}, {false, 1, false});
        bench.network = plan.act.network;
        const LinkId elsewhere{plan.act.subjects.front().id};
        QVERIFY(!edit::makeLag(bench.network, {two[0]}, {}, bench.ids));
        QVERIFY(!edit::makeLag(bench.network, {two[0], elsewhere}, {}, bench.ids));
        const auto made = edit::makeLag(bench.network, two, "to-b", bench.ids);
        QVERIFY(made);
        QVERIFY(!edit::makeLag(made->network, two, {}, bench.ids)); // members of one already
        const PortRef member = bench.network.link(two[0])->a;
        QCOMPARE(QString::fromStdString(lagAt(made->network, member)->name), QString("to-b"));
        const auto renamed = edit::renameLag(made->network, member, "uplink");
        QCOMPARE(QString::fromStdString(lagAt(renamed->network, member)->name), QString("uplink"));
        const auto apart = edit::dissolveLag(renamed->network, {two[1]});
        QVERIFY(apart && !lagAt(apart->network, member));
        QVERIFY(apart->network == bench.network);
    }

    void the_highest_of_a_selection_are_what_is_linked_to() {
        Bench bench;
        const auto till = bench.add("till"), access = bench.add("access-switch-24"),
                   core = bench.add("distribution-switch-24");
        QCOMPARE(linking::targetsAmong(bench.network, {till, access}), std::vector{access});
        QCOMPARE(linking::targetsAmong(bench.network, {access, core}), std::vector{core});
        QVERIFY(linking::targetsAmong(bench.network, {till}).empty());
    }

    void a_switch_over_its_power_budget_already_is_left_alone() {
        Bench bench;
        const DeviceId target = bench.add("access-switch-24");
        DeviceModel weak = *bench.network.modelOf(*bench.network.device(target));
        bench.link({target, {}}, {bench.add("camera"), {}});
        weak.powerBudgetW = 1; // what it gives today is too much already
        bench.network.put(weak);
        const DeviceId plain = bench.add("workstation"), hungry = bench.add("camera");
        const auto assigned = bench.assign({plain, hungry}, {target});
        QVERIFY(assigned.rows[0].proposal);
        QVERIFY(!assigned.rows[1].proposal);
        QCOMPARE(QString::fromStdString(assigned.rows[1].why),
                 QStringLiteral("the power budgets are used up"));
    }
};

UNDERRIDGE_TEST(AssignTest)
#include "assign_test.moc"
