// SPDX-License-Identifier: GPL-3.0-or-later
// VLANs, spanning trees, islands and storms.
#include "core/edit/carrying.h"
#include "core/edit/interfaces.h"
#include "core/edit/vlans.h"
#include "core/model/vlans.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

#include <random>

using namespace underridge;
using namespace underridge::model;
using tests::Forwarded;

namespace {

/// Three switches in a triangle: s1 the root by its address.
struct Triangle : Forwarded {
    explicit Triangle(const std::string& tree = "'mode':'rstp'") {
        vlans({10, 20});
        switches(3, tree);
        trunk("s1:1", "s2:1", "10,20");
        trunk("s2:2", "s3:2", "10,20");
        trunk("s3:3", "s1:3", "10,20");
    }
};

} // namespace

class BridgingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_triangle_blocks_at_the_bridge_with_the_higher_address() {
        Triangle t;
        QCOMPARE(t.role("s1", "1"), QString("designated forwarding"));
        QCOMPARE(t.role("s2", "1"), QString("root forwarding"));
        QCOMPARE(t.role("s3", "3"), QString("root forwarding"));
        QCOMPARE(t.role("s2", "2"), QString("designated forwarding"));
        QCOMPARE(t.role("s3", "2"), QString("alternate discarding"));
    }
    void stp_calls_it_blocking() {
        Triangle t("'mode':'stp'");
        QCOMPARE(t.role("s3", "2"), QString("alternate blocking"));
    }
    void priority_comes_before_the_address() {
        Triangle t;
        t.acts("{'act':'forwarding','members':['s3'],'spanningTree':{'priority':4096}}");
        QCOMPARE(t.role("s3", "2"), QString("designated forwarding"));
        QCOMPARE(t.role("s1", "3"), QString("root forwarding"));
        QCOMPARE(t.role("s2", "1"), QString("alternate discarding"));
    }
    void a_cost_that_is_set_turns_the_root_port() {
        Triangle t;
        t.acts("{'act':'interface','device':'s3','port':'3','spanningTree':{'cost':50000}}");
        QCOMPARE(t.role("s3", "2"), QString("root forwarding")); // 40,000 over s2
        QCOMPARE(t.role("s3", "3"), QString("alternate discarding"));
    }
    void of_two_cables_the_lower_port_number_of_the_designated_bridge_decides() {
        Forwarded t;
        t.switches(2);
        t.link("s1:9", "s2:1");
        t.link("s1:2", "s2:2");
        QCOMPARE(t.role("s2", "2"), QString("root forwarding"));
        QCOMPARE(t.role("s2", "1"), QString("alternate discarding"));
        t.acts("{'act':'interface','device':'s1','port':'9','spanningTree':{'priority':16}}");
        QCOMPARE(t.role("s2", "1"), QString("root forwarding"));
    }
    void two_ports_of_one_bridge_on_a_hub_are_designated_and_backup() {
        Forwarded t;
        t.switches(1);
        t.acts("{'act':'add','model':'hub-8','names':'hub'}");
        t.link("s1:1", "hub:1");
        t.link("s1:2", "hub:2");
        QCOMPARE(t.role("s1", "1"), QString("designated forwarding"));
        QCOMPARE(t.role("s1", "2"), QString("backup discarding"));
    }
    void a_switch_without_a_tree_passes_its_frames_on() {
        Triangle t;
        t.acts("{'act':'forwarding','members':['s2'],'spanningTree':{'mode':'off'}}");
        // s1 is heard over s2 as on one cable, from its lower port.
        QCOMPARE(t.role("s3", "2"), QString("root forwarding"));
        QCOMPARE(t.role("s3", "3"), QString("alternate discarding"));
    }
    void a_port_that_is_down_is_disabled_at_both_ends() {
        Triangle t;
        t.acts("{'act':'interface','device':'s1','port':'3','disabled':true}");
        QCOMPARE(t.role("s3", "3"), QString("disabled discarding"));
        QCOMPARE(t.role("s3", "2"), QString("root forwarding"));
    }
    void a_bpdu_guard_takes_its_port_down() {
        Triangle t;
        t.acts("{'act':'interface','device':'s1','port':'1','spanningTree':{'bpduGuard':true}}");
        QCOMPARE(t.role("s1", "1"), QString("disabled discarding"));
        QVERIFY(t.found().contains("tree-guard"));
    }
    void a_root_guard_keeps_a_better_bridge_from_becoming_root() {
        Triangle t;
        for (const char* port : {"1", "2"})
            t.acts(fmt::format(
                "{{'act':'interface','device':'s2','port':'{}','spanningTree':{{'rootGuard':true}}}}", port));
        QCOMPARE(t.role("s2", "1"), QString("alternate discarding"));
    }
    void instances_of_one_region_block_in_different_places() {
        const std::string tree =
            "'mode':'mstp','region':'quay','instances':[{'number':1,'vlans':[{'first':10,"
            "'last':10}]},{'number':2,'vlans':[{'first':20,'last':20}]}]";
        Triangle t(tree);
        std::string second = tree;
        second.replace(second.rfind("]}]"), 3, "],'priority':4096}]");
        t.acts("{'act':'forwarding','members':['s3'],'spanningTree':{" + second + "}}");
        QCOMPARE(t.role("s3", "2", 10), QString("alternate discarding"));
        QCOMPARE(t.role("s3", "2", 20), QString("designated forwarding"));
        QCOMPARE(t.role("s2", "1", 20), QString("alternate discarding")); // s3 is the root there
        QCOMPARE(t.role("s2", "1", 10), QString("root forwarding"));
    }
    void another_revision_is_another_region() {
        const std::string tree = "'mode':'mstp','instances':[{'number':1,'vlans':[{'first':10,'last':20}]}]";
        Triangle t(tree);
        t.acts("{'act':'forwarding','members':['s3'],'spanningTree':{'revision':7}}");
        QCOMPARE(t.role("s3", "3", 10), QString("master forwarding")); // the border of its region
        QCOMPARE(t.role("s3", "2", 10), QString("alternate discarding"));
    }
    void trees_span_what_is_joined_and_have_no_loop_data() {
        QTest::addColumn<int>("seed");
        for (int seed = 1; seed <= 12; ++seed)
            QTest::addRow("seed %d", seed) << seed;
    }
    void trees_span_what_is_joined_and_have_no_loop() {
        QFETCH(const int, seed);
        std::mt19937 random(static_cast<unsigned>(seed));
        Forwarded t;
        constexpr int count = 9;
        t.vlans({10});
        t.switches(count);
        std::vector<int> used(count + 1, 0);
        for (int i = 0; i < 2 * count; ++i) {
            const int a = 1 + static_cast<int>(random() % count), b = 1 + static_cast<int>(random() % count);
            if (a == b)
                continue;
            t.trunk(fmt::format("s{}:{}", a, ++used[static_cast<std::size_t>(a)]),
                    fmt::format("s{}:{}", b, ++used[static_cast<std::size_t>(b)]), "10");
        }
        const auto& f = t.now();
        QVERIFY(tests::stormsOf(f).empty());
        // Those joined by any cables are one island of the VLAN all the same.
        std::vector<int> part(count + 1);
        std::iota(part.begin(), part.end(), 0);
        const std::function<int(int)> root = [&](int x) {
            return part[static_cast<std::size_t>(x)] == x ? x : root(part[static_cast<std::size_t>(x)]);
        };
        for (const auto& port : f.wiring().ports())
            part[static_cast<std::size_t>(root(port.station))] = root(f.wiring().port(port.peer).station);
        std::set<int> roots;
        for (int s = 0; s < count; ++s)
            if (!f.wiring().station(s).ports.empty())
                roots.insert(root(s));
        std::size_t islands = 0;
        for (const auto& island : f.bridging().islands())
            islands += !island.vlans.empty();
        QCOMPARE(islands, roots.size());
    }
    void without_a_tree_a_triangle_storms() {
        Triangle t("'mode':'off'");
        const auto storms = tests::stormsOf(t.now());
        QCOMPARE(storms.size(), std::size_t(2)); // one in each VLAN
        QCOMPARE(storms[0].stations.size(), std::size_t(3));
        QVERIFY(t.found().contains("storm"));
    }
    void a_vlan_that_is_missing_on_the_tree_is_cut_though_a_blocked_link_has_it() {
        Triangle t;
        t.host("h1", "s1:10", "10.84.20.1/24", 20);
        t.host("h2", "s3:10", "10.84.20.2/24", 20);
        QCOMPARE(t.way("h1", "h2"), QString("h1 s1 s3 h2"));
        t.tag("s3:3", "10");
        QVERIFY(t.way("h1", "h2").contains("VLAN 20 is not on s3 3"));
        QVERIFY(t.found().contains("vlan-one-end"));
        QVERIFY(t.found().contains("vlan-island"));
    }
    void the_remedy_of_a_missing_vlan_mends_it() {
        Triangle t;
        t.host("h1", "s1:10", "10.84.20.1/24", 20);
        t.host("h2", "s3:10", "10.84.20.2/24", 20);
        t.tag("s3:3", "10");
        const auto trace = t.trace("h1", "h2");
        QCOMPARE(trace.acts.size(), std::size_t(1));
        t.acts(trace.acts.front());
        QVERIFY(t.trace("h1", "h2").reached());
        QVERIFY(t.found().isEmpty());
    }
    void a_vlan_is_carried_to_a_device_over_the_links_the_tree_leaves_open() {
        Triangle t;
        t.vlans({30});
        t.router("r1");
        t.link("r1:1", "s1:20");
        t.access("s1:20", 30);
        t.routed("r1", "1", "10.84.30.1/24");
        t.host("h1", "s3:10", "10.84.30.10/24");
        const auto plan = edit::carryVlan(t.now(), t.id("h1"), 30, t.ids);
        QVERIFY(plan);
        QVERIFY(plan->untagged);
        QCOMPARE(tests::text(plan->portsText(t.network)), QString("s3 10, s3 3, s1 3"));
        QVERIFY(!t.trace("h1", "r1").reached());
        t.acts("{'act':'carry','device':'h1','vlan':30}");
        QCOMPARE(t.way("h1", "r1"), QString("h1 s3 s1 r1"));
        const auto again = edit::carryVlan(t.now(), t.id("h1"), 30, t.ids);
        QVERIFY(!again && again.refusal().what.find("reaches h1 already") != std::string::npos);
        QVERIFY(edit::carryVlan(t.now(), t.id("h1"), 77, t.ids).refusal().what.find("nowhere yet") !=
                std::string::npos);
        QVERIFY(edit::carryVlan(t.now(), t.id("r1"), 30, t.ids).refusal().what.find("already") !=
                std::string::npos);
    }
    void untagged_frames_without_a_pvid_are_dropped() {
        Triangle t;
        t.host("h1", "s1:10", "10.84.20.1/24");
        t.host("h2", "s1:11", "10.84.20.2/24");
        QVERIFY(t.way("h1", "h2").contains("takes no untagged frames"));
    }
    void a_switch_nobody_set_a_vlan_on_is_one_lan() {
        Forwarded t;
        t.switches(1);
        t.host("h1", "s1:1", "10.84.20.1/24");
        t.host("h2", "s1:2", "10.84.20.2/24");
        QCOMPARE(t.way("h1", "h2"), QString("h1 s1 h2"));
    }
    void a_native_mismatch_joins_two_vlans() {
        Forwarded t;
        t.vlans({10, 20});
        t.switches(2);
        t.link("s1:1", "s2:1");
        t.access("s1:1", 10);
        t.access("s2:1", 20);
        t.host("h1", "s1:10", "10.84.9.1/24", 10);
        t.host("h2", "s2:10", "10.84.9.2/24", 20);
        QCOMPARE(t.way("h1", "h2"), QString("h1 s1 s2 h2"));
        QCOMPARE(t.found().filter("vlan-").join(" "), QString("vlan-native"));
    }
    void what_goes_one_way_only_is_no_meeting() {
        Forwarded t;
        t.vlans({10, 20});
        t.switches(1);
        // s1:1 sends VLAN 10 untagged too, but takes untagged frames into VLAN 20.
        t.host("h1", "s1:1", "10.84.9.1/24", 20);
        t.acts("{'act':'interface','device':'s1','port':'1','untaggedToo':10}");
        t.host("h2", "s1:2", "10.84.9.2/24", 10);
        QVERIFY(t.carries("h2", "h1"));
        QVERIFY(!t.carries("h1", "h2"));
        QVERIFY(t.way("h2", "h1").contains("its answer does not come back"));
    }
    void frames_tagged_with_the_pvid_are_taken_and_a_subinterface_hears_its_tag() {
        Forwarded t;
        t.vlans({10});
        t.switches(1);
        t.host("h1", "s1:1", "10.84.10.1/24", 10);
        t.router("r1");
        t.link("r1:1", "s1:2");
        t.access("s1:2", 10); // leaves untagged, is taken in with a tag
        t.acts(
            "{'act':'interface','device':'r1','name':'1.10','type':'subinterface','parent':'1','tagged':10,"
            "'addresses':['10.84.10.254/24']}");
        QVERIFY(t.carries("r1", "h1"));
        QVERIFY(!t.carries("h1", "r1"));
        t.tag("s1:2", "10");
        QCOMPARE(t.way("h1", "r1"), QString("h1 s1 r1"));
    }
    void a_hub_sends_no_frame_back_where_it_came_from() {
        Forwarded t;
        t.vlans({10, 20});
        t.switches(1);
        t.acts("{'act':'add','model':'hub-8','names':'hub'}");
        t.link("s1:1", "hub:1");
        t.access("s1:1", 20);
        t.acts("{'act':'interface','device':'s1','port':'1','untaggedToo':10}");
        t.host("h10", "s1:10", "10.84.9.1/24", 10);
        t.host("h20", "s1:20", "10.84.9.2/24", 20);
        QVERIFY(!t.carries("h10", "h20")); // not from VLAN 10 over the hub into VLAN 20
        t.host("h3", "hub:3", "10.84.9.3/24");
        QVERIFY(t.carries("h10", "h3"));
        QVERIFY(t.carries("h3", "h20"));
        QVERIFY(!t.carries("h10", "h20"));
    }
    void a_lag_is_one_link_and_does_not_loop() {
        Forwarded t;
        t.vlans({10});
        t.switches(2, "'mode':'off'");
        t.link("s1:1", "s2:1");
        t.link("s1:2", "s2:2");
        QCOMPARE(tests::stormsOf(t.now()).size(), std::size_t(1));
        t.acts("{'act':'lag','from':'s1','to':'s2','name':'both'}");
        QVERIFY(tests::stormsOf(t.now()).empty());
        t.host("h1", "s1:10", "10.84.10.1/24");
        t.host("h2", "s2:10", "10.84.10.2/24");
        const auto trace = t.trace("h1", "h2");
        QVERIFY(trace.reached());
        QCOMPARE(trace.hops[1].out, std::string("both"));
        QCOMPARE(trace.hops[1].links.size(), std::size_t(2));
    }
    void a_lag_goes_on_with_the_vlans_of_its_ports() {
        Forwarded t;
        t.vlans({10});
        t.switches(2);
        t.trunk("s1:1", "s2:1", "10");
        t.trunk("s1:2", "s2:2", "10");
        t.host("h1", "s1:10", "10.84.10.1/24", 10);
        t.host("h2", "s2:10", "10.84.10.2/24", 10);
        QVERIFY(t.trace("h1", "h2").reached());
        t.acts("{'act':'lag','from':'s1','to':'s2'}");
        QVERIFY(t.trace("h1", "h2").reached());
        t.acts("{'act':'lag','from':'s1','to':'s2','dissolve':true}");
        QVERIFY(t.trace("h1", "h2").reached());
    }
    void a_lag_into_a_pair_is_one_link_too() {
        Forwarded t;
        t.switches(3, "'mode':'off'");
        t.acts("{'act':'pair','from':'s1','to':'s2'}");
        t.link("s1:24", "s2:24");
        t.link("s3:1", "s1:1");
        t.link("s3:2", "s2:2");
        t.acts("{'act':'interface','device':'s3','name':'up','type':'lag','ports':['1','2']}\n"
               "{'act':'interface','device':'s1','name':'down','type':'lag','ports':['1']}\n"
               "{'act':'interface','device':'s2','name':'down','type':'lag','ports':['2']}");
        QVERIFY(tests::stormsOf(t.now()).empty());
        t.host("h1", "s3:10", "10.84.10.1/24");
        t.host("h2", "s2:10", "10.84.10.2/24");
        QVERIFY(t.trace("h1", "h2").reached());
        QVERIFY(t.trace("h2", "h1").reached());
    }
    void panels_are_passed() {
        Forwarded t;
        t.switches(2);
        t.acts("{'act':'add','model':'patch-panel-24','names':'panel'}");
        t.link("s1:1", "panel:1");
        t.acts("{'act':'link','from':'panel:R1','to':'s2:1','cable':'cat6a-idc-rj45'}");
        QCOMPARE(t.role("s2", "1"), QString("root forwarding"));
    }
    void a_phone_passes_on_what_is_behind_it() {
        Forwarded t;
        t.switches(1);
        t.acts("{'act':'add','model':'phone','names':'p'}");
        t.link("s1:1", "p:2");
        t.host("h1", "p:1", "10.84.9.1/24");
        t.host("h2", "s1:2", "10.84.9.2/24");
        QCOMPARE(t.way("h1", "h2"), QString("h1 p s1 h2"));
    }
    void endpoints_are_put_into_a_vlan_at_the_ports_they_hang_on() {
        Forwarded n;
        n.switches(2);
        n.vlans({20, 30});
        n.acts("{'act':'add','model':'workstation','count':3,'names':'h{1..}'}\n"
               "{'act':'add','model':'patch-panel-24','names':'pp'}");
        n.link("h1:1", "s1:1");
        n.link("h2:1", "pp:R1");
        n.link("pp:1", "s2:4");
        n.tag("s2:4", "30");
        const DeviceId one = n.id("h1"), two = n.id("h2"), lone = n.id("h3");
        QVERIFY(n.take(edit::setAccessVlan(n.network, {one, two}, 20, n.ids)));
        const auto* near = edit::interfaceNamed(n.network, n.id("s1"), "1");
        const auto* far = edit::interfaceNamed(n.network, n.id("s2"), "4");
        QCOMPARE(numberOf(n.network, near->untagged), 20);
        QCOMPARE(numberOf(n.network, far->untagged), 20);
        QCOMPARE(far->tagged.size(), std::size_t{1}); // what is tagged stays
        QVERIFY(!edit::setAccessVlan(n.network, {one, lone}, 20, n.ids));
        QVERIFY(!edit::setAccessVlan(n.network, {one}, 40, n.ids)); // no such VLAN
        QVERIFY(!edit::setAccessVlan(n.network, {}, 20, n.ids));
        QVERIFY(n.take(edit::setAccessVlan(n.network, {one}, 0, n.ids)));
        QVERIFY(!edit::interfaceNamed(n.network, n.id("s1"), "1")->untagged);
        QVERIFY(!edit::accessPortOf(n.network, n.id("s1")));
        n.acts("{'act':'add','model':'server','names':'srv'}");
        n.link("srv:1", "s1:6");
        QVERIFY(edit::accessPortOf(n.network, n.id("srv")));
        n.link("srv:2", "s2:6"); // on two ports it is not clear which
        QVERIFY(!edit::accessPortOf(n.network, n.id("srv")));
    }
};

UNDERRIDGE_TEST(BridgingTest)
#include "bridging_test.moc"
