// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/model/uplinks.h"
#include "tests/support/grouped.h"
#include "tests/support/registered.h"

#include <set>

using namespace underridge;
using namespace underridge::model;

class UplinksTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void everybody_hangs_on_the_nearest_towards_the_router() {
        tests::Workbench b;
        const DeviceId router = b.add("border-router", "r"), core = b.add("access-switch-48", "core"),
                       acc = b.add("access-switch-24", "acc"), phone = b.add("phone", "p"),
                       alone = b.add("camera", "c");
        b.link({router, {}}, {core, {}});
        b.link({core, {}}, {acc, {}});
        b.link({acc, {}}, {phone, {}});
        const UplinkTree tree = uplinksOf(b.network);
        QCOMPARE(tree.roots, (std::vector<DeviceId>{router, alone}));
        QCOMPARE(tree.aboveOf(phone), acc);
        QCOMPARE(tree.aboveOf(acc), core);
        QCOMPARE(tree.aboveOf(core), router);
    }
    void of_two_equally_near_the_better_connected_is_taken() {
        tests::Workbench b;
        const DeviceId router = b.add("border-router", "r"), one = b.add("access-switch-24", "s-1"),
                       two = b.add("access-switch-24", "s-2"), both = b.add("access-switch-24", "s-3"),
                       phone = b.add("phone", "p");
        b.link({router, {}}, {one, {}});
        b.link({router, {}}, {two, {}});
        b.link({one, {}}, {both, {}});
        b.link({two, {}}, {both, {}});
        b.link({two, {}}, {phone, {}});
        QCOMPARE(uplinksOf(b.network).aboveOf(both), two);
    }
    void whatever_is_linked_it_is_a_forest_along_links() {
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(8)); ++seed) {
            tests::Grouped bench(seed);
            bench.grow(2, 2, 3);
            for (int i = 0; i < 10; ++i)
                bench.devices.push_back(bench.add(i % 3 ? "phone" : "border-router"));
            bench.linkSome(30);
            const UplinkTree tree = uplinksOf(bench.network);
            QCOMPARE(tree.roots.size() + tree.above.size(), bench.network.all<Device>().size());
            for (const DeviceId id : bench.devices) {
                std::set<DeviceId> passed;
                for (DeviceId at = id; at; at = tree.aboveOf(at)) {
                    QVERIFY(passed.insert(at).second); // nobody hangs on himself
                    const DeviceId on = tree.aboveOf(at);
                    bool linked = !on;
                    bench.network.forEachLinkOf(
                        at, [&](const Link& link) { linked |= link.a.device == on || link.b.device == on; });
                    QVERIFY(linked);
                }
            }
        }
    }
};

UNDERRIDGE_TEST(UplinksTest)
#include "uplinks_test.moc"
