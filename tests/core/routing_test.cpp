// SPDX-License-Identifier: GPL-3.0-or-later
// Routing tables, traces, and what is found wrong with addresses and routes.
#include "core/analysis/filtering.h"
#include "core/base/files.h"
#include "core/edit/interfaces.h"
#include "core/exchange/own_format.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

#include <random>

using namespace underridge;
using namespace underridge::model;
using tests::Forwarded;
using tests::text;

namespace {

/// h1 - r1 - r2 - r3 - h3, and r1 - r4 - r3 beside it.
struct Square : Forwarded {
    explicit Square(const std::string& ospf = "'area':0") {
        for (const char* name : {"r1", "r2", "r3", "r4"})
            router(name);
        join("r1", "1", "r2", "1", 12, ospf);
        join("r2", "2", "r3", "1", 23, ospf);
        join("r1", "2", "r4", "1", 14, ospf);
        join("r4", "2", "r3", "2", 34, ospf);
        host("h1", "r1:3", "10.84.1.10/24", 0, "10.84.1.1");
        host("h3", "r3:3", "10.84.3.10/24", 0, "10.84.3.1");
        routed("r1", "3", "10.84.1.1/24", ospf.empty() ? "" : ospf + ",'passive':true");
        routed("r3", "3", "10.84.3.1/24", ospf.empty() ? "" : ospf + ",'passive':true");
    }
    void join(const char* a, const char* portA, const char* b, const char* portB, int net,
              const std::string& ospf) {
        link(fmt::format("{}:{}", a, portA), fmt::format("{}:{}", b, portB));
        routed(a, portA, fmt::format("10.84.{}.1/30", net), ospf);
        routed(b, portB, fmt::format("10.84.{}.2/30", net), ospf);
    }
};

} // namespace

class RoutingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void ospf_finds_both_ways_of_equal_cost() {
        Square s;
        QCOMPARE(s.route("r1", "10.84.3.0/24"), QString("OSPF 10.84.12.2 10.84.14.2"));
        QCOMPARE(s.way("h1", "h3"), QString("h1 r1 r2 r3 h3"));
        QCOMPARE(s.trace("h1", "h3").hops[1].equal, std::vector<std::string>{"via 10.84.14.2"});
        QVERIFY(s.found().isEmpty());
    }
    void a_cost_that_is_set_chooses() {
        Square s;
        s.routed("r1", "1", "10.84.12.1/30", "'area':0,'cost':50");
        QCOMPARE(s.route("r1", "10.84.3.0/24"), QString("OSPF 10.84.14.2"));
        QCOMPARE(s.route("r2", "10.84.1.0/24"), QString("OSPF 10.84.12.1")); // the other way has its own cost
    }
    void a_link_that_is_down_takes_its_subnet_away_at_both_ends() {
        Square s;
        s.acts("{'act':'interface','device':'r2','port':'1','disabled':true}");
        QCOMPARE(s.route("r1", "10.84.12.0/30"), QString());
        QCOMPARE(s.route("r3", "10.84.12.0/30"), QString());
        QCOMPARE(s.way("h1", "h3"), QString("h1 r1 r4 r3 h3"));
    }
    void between_areas_the_backbone_is_gone_by() {
        Square s;
        // r3 is in area 1 alone; r2 and r4 are border routers.
        for (const auto& [device, port, address] : {std::tuple("r2", "2", "10.84.23.1/30"),
                                                    {"r3", "1", "10.84.23.2/30"},
                                                    {"r4", "2", "10.84.34.1/30"},
                                                    {"r3", "2", "10.84.34.2/30"},
                                                    {"r3", "3", "10.84.3.1/24"}})
            s.routed(device, port, address, "'area':'0.0.0.1'");
        const auto* entry =
            s.now().routing().table(s.station("r1")).at(analysis::prefixOf(Address("10.84.3.0/24")));
        QVERIFY(entry);
        QVERIFY(entry->path == analysis::OspfPath::interArea);
        QCOMPARE(entry->metric, std::int64_t(3));
        QCOMPARE(entry->hops.size(), std::size_t(2));
        QCOMPARE(s.way("h1", "h3"), QString("h1 r1 r2 r3 h3"));
        QCOMPARE(s.way("h3", "h1"), QString("h3 r3 r2 r1 h1"));
    }
    void areas_that_differ_make_no_neighbours() {
        Square s;
        s.routed("r2", "1", "10.84.12.2/30", "'area':7");
        QCOMPARE(s.route("r1", "10.84.3.0/24"), QString("OSPF 10.84.14.2"));
        QCOMPARE(s.found().join(" "), QString("ospf-neighbour"));
    }
    void a_passive_subnet_is_known_all_the_same() {
        Square s;
        QCOMPARE(s.route("r2", "10.84.1.0/24"), QString("OSPF 10.84.12.1"));
        s.routed("r1", "3", "10.84.1.1/24");               // no area
        QVERIFY(!s.route("r2", "10.84.1.0/24").isEmpty()); // the act changes what it says, no more
        s.acts("{'act':'interface','device':'r1','port':'3','ospf':{'area':''}}");
        QCOMPARE(s.route("r2", "10.84.1.0/24"), QString());
    }
    void static_routes_are_told_on_as_external_and_a_default_only_when_asked() {
        Square s;
        s.acts("{'act':'route','device':'r3','to':'10.90.0.0/16','via':'10.84.3.10'}\n"
               "{'act':'route','device':'r3','to':'0.0.0.0/0','via':'10.84.3.10'}\n"
               "{'act':'forwarding','members':['r3'],'ospf':{'redistribute':['static']}}");
        const auto* entry =
            s.now().routing().table(s.station("r1")).at(analysis::prefixOf(Address("10.90.0.0/16")));
        QVERIFY(entry);
        QVERIFY(entry->path == analysis::OspfPath::external);
        QCOMPARE(entry->metric, std::int64_t(20));
        QCOMPARE(s.route("r1", "0.0.0.0/0"), QString());
        s.acts("{'act':'forwarding','members':['r3'],'ospf':{'tellsDefault':true}}");
        QCOMPARE(s.route("r1", "0.0.0.0/0"), QString("OSPF 10.84.12.2 10.84.14.2"));
    }
    void static_routes_recurse_over_what_is_known() {
        Square s;
        s.acts("{'act':'route','device':'r1','to':'10.99.0.0/16','via':'10.84.3.10'}");
        QCOMPARE(s.route("r1", "10.99.0.0/16"), QString("static 10.84.12.2 10.84.14.2"));
    }
    void a_loopback_is_a_host_route() {
        Square s;
        s.acts(
            "{'act':'interface','device':'r3','name':'lo','type':'loopback','addresses':['10.84.255.3/32'],"
            "'ospf':{'area':0}}");
        QCOMPARE(s.route("r1", "10.84.255.3/32"), QString("OSPF 10.84.12.2 10.84.14.2"));
        QCOMPARE(s.way("h1", "10.84.255.3"), QString("h1 r1 r2 r3"));
    }
    void version_six_is_worked_out_as_well() {
        Forwarded t;
        t.router("r1");
        t.router("r2");
        t.link("r1:1", "r2:1");
        for (const char* router : {"1", "2"}) // of 32 bits in version 6 too, so nothing to take it from
            t.acts(fmt::format(
                "{{'act':'forwarding','members':['r{0}'],'ospf':{{'routerId':'10.84.255.{0}'}}}}", router));
        t.routed("r1", "1", "fd84:fe:12::1/64", "'area':0");
        t.routed("r2", "1", "fd84:fe:12::2/64", "'area':0");
        t.routed("r2", "2", "fd84:fe:2::1/64", "'area':0");
        t.host("h2", "r2:2", "fd84:fe:2::10/64");
        QCOMPARE(t.route("r1", "fd84:fe:2::/64"), QString("OSPF fd84:fe:12::2"));
        QCOMPARE(t.way("r1", "h2"), QString("r1 r2 h2"));
    }
    void bgp_takes_the_path_through_the_fewest_systems() {
        Square s(""); // r1 r2 r3 r4 in a ring, a system each
        const auto speak = [&](const char* router, int as, const std::string& neighbours,
                               const char* networks) {
            s.acts(fmt::format("{{'act':'forwarding','members':['{}'],'bgp':{{'as':{},'neighbours':[{}],"
                               "'networks':[{}]}}}}",
                               router, as, neighbours, networks));
        };
        const auto to = [](const char* address, int as) {
            return fmt::format("{{'address':'{}','as':{}}}", address, as);
        };
        speak("r1", 65001, to("10.84.12.2", 65002) + "," + to("10.84.14.2", 65004), "'10.84.1.0/24'");
        speak("r2", 65002, to("10.84.12.1", 65001) + "," + to("10.84.23.2", 65003), "");
        speak("r3", 65003, to("10.84.23.1", 65002) + "," + to("10.84.34.1", 65004),
              "'10.84.3.0/24','10.99.0.0/16'");
        speak("r4", 65004, to("10.84.14.1", 65001) + "," + to("10.84.34.2", 65003), "");
        QVERIFY(s.found().isEmpty());
        QCOMPARE(s.route("r2", "10.84.1.0/24"), QString("BGP 10.84.12.1"));
        QCOMPARE(s.route("r1", "10.99.0.0/16"), QString()); // r3 has no route there itself
        // Of two as long the lower router id decides: r2 has 10.84.23.1, r4 10.84.34.1.
        QCOMPARE(s.route("r3", "10.84.1.0/24"), QString("BGP 10.84.23.1"));
        QCOMPARE(s.way("h1", "h3"), QString("h1 r1 r2 r3 h3"));
        s.acts("{'act':'interface','device':'r2','port':'1','disabled':true}");
        QCOMPARE(s.way("h1", "h3"), QString("h1 r1 r4 r3 h3"));
        QCOMPARE(s.route("r2", "10.84.1.0/24"), QString("BGP 10.84.23.2")); // all the way round
    }
    void bgp_within_a_system_stands_on_ospf_and_comes_after_it() {
        Forwarded t;
        for (const char* name : {"r1", "r2", "r3"})
            t.router(name);
        t.link("r1:1", "r2:1"); // another system
        t.routed("r1", "1", "192.0.2.1/30");
        t.routed("r2", "1", "192.0.2.2/30");
        t.link("r2:2", "r3:1"); // within
        t.routed("r2", "2", "10.84.23.1/30", "'area':0");
        t.routed("r3", "1", "10.84.23.2/30", "'area':0");
        t.routed("r1", "2", "203.0.113.1/24");
        t.host("h1", "r1:2", "203.0.113.9/24", 0, "203.0.113.1");
        t.acts("{'act':'forwarding','members':['r1'],'bgp':{'as':65001,'redistribute':['connected'],'"
               "neighbours':["
               "{'address':'192.0.2.2','as':65002}]}}\n"
               "{'act':'forwarding','members':['r2'],'bgp':{'as':65002,'redistribute':['connected'],'"
               "neighbours':["
               "{'address':'192.0.2.1','as':65001},{'address':'10.84.23.2','as':65002}]}}\n"
               "{'act':'forwarding','members':['r3'],'bgp':{'as':65002,'neighbours':["
               "{'address':'10.84.23.1','as':65002}]}}");
        // The next hop 192.0.2.1 is in no table of r3 but BGP's own, so it cannot be used.
        QCOMPARE(t.route("r3", "203.0.113.0/24"), QString());
        QCOMPARE(t.route("r3", "192.0.2.0/30"), QString("BGP 10.84.23.1"));
        t.routed("r2", "1", "192.0.2.2/30", "'area':0,'passive':true");
        QCOMPARE(t.route("r3", "203.0.113.0/24"), QString("BGP 10.84.23.1"));
        QCOMPARE(t.route("r3", "192.0.2.0/30"),
                 QString("OSPF 10.84.23.1")); // before what the own system says
        QVERIFY(t.found().isEmpty());
        t.acts("{'act':'forwarding','members':['r1'],'bgp':{'as':65009}}");
        QCOMPARE(t.found().join(" "), QString("bgp-neighbour bgp-neighbour"));
        QCOMPARE(t.route("r2", "203.0.113.0/24"), QString());
    }
    void an_answer_needs_a_way_back() {
        Square s("");
        s.acts("{'act':'route','device':'r1','to':'10.84.3.0/24','via':'10.84.12.2'}\n"
               "{'act':'route','device':'r2','to':'10.84.3.0/24','via':'10.84.23.2'}");
        const auto [there, back] = analysis::traceBoth(s.now(), s.probe("h1", "h3"));
        QVERIFY(there.reached()); // one way
        QVERIFY(!back.reached());
        QVERIFY(back.stop == analysis::Stop::noRoute);
        QCOMPARE(text(back.reason), QString("r3 has no route to 10.84.1.10"));
    }
    void routes_that_point_at_each_other_go_round() {
        Square s("");
        s.acts("{'act':'route','device':'r1','to':'10.99.0.0/16','via':'10.84.12.2'}\n"
               "{'act':'route','device':'r2','to':'10.99.0.0/16','via':'10.84.12.1'}");
        QVERIFY(s.trace("h1", "10.99.1.1").stop == analysis::Stop::loop);
        QCOMPARE(s.found().join(" "), QString("route-loop"));
    }
    void a_gateway_outside_is_refused_yet_the_own_subnet_is_reached() {
        Square s;
        s.acts("{'act':'route','device':'h1','to':'0.0.0.0/0','via':'10.84.1.1','remove':true}\n"
               "{'act':'route','device':'h1','to':'0.0.0.0/0','via':'10.84.2.1'}");
        QVERIFY(s.way("h1", "h3").contains("is in none of its subnets"));
        QCOMPARE(s.way("h1", "10.84.1.1"), QString("h1 r1"));
        QCOMPARE(s.found().join(" "), QString("gateway-outside"));
    }
    void a_gateway_that_is_a_host_drops() {
        Forwarded t;
        t.switches(1);
        t.host("h1", "s1:1", "10.84.1.10/24", 0, "10.84.1.11");
        t.host("h2", "s1:2", "10.84.1.11/24");
        const auto trace = t.trace("h1", "10.84.9.9");
        QVERIFY(trace.stop == analysis::Stop::notRouter);
        QVERIFY(t.network.device(trace.stoppedAt)->name == "h2");
        QCOMPARE(t.found().join(" "), QString("gateway-host"));
    }
    void a_mask_too_wide_asks_locally() {
        Square s;
        s.acts("{'act':'address','at':'h1:1','address':'10.84.1.10/16'}");
        const auto trace = s.trace("h1", "h3");
        QVERIFY(trace.stop == analysis::Stop::silent);
        QVERIFY2(text(trace.reason).contains("takes for its own subnet"), trace.reason.c_str());
        QVERIFY(s.found().contains("prefix-length"));
    }
    void who_of_two_holders_is_reached_is_chance() {
        Forwarded t;
        t.switches(1);
        t.host("h1", "s1:1", "10.84.1.10/24");
        t.host("h2", "s1:2", "10.84.1.11/24");
        t.host("h3", "s1:3", "10.84.1.11/24");
        QVERIFY(t.trace("h1", "10.84.1.11").stop == analysis::Stop::chance);
        QCOMPARE(t.found().join(" "), QString("address-twice"));
    }
    void vrrp_is_answered_by_the_highest_priority_that_is_up() {
        Forwarded t;
        t.switches(1);
        for (const int r : {1, 2}) {
            t.router(fmt::format("r{}", r));
            t.link(fmt::format("r{}:1", r), fmt::format("s1:{}", r));
            t.routed(fmt::format("r{}", r), "1", fmt::format("10.84.1.{}/24", r + 1));
            t.acts(fmt::format("{{'act':'interface','device':'r{}','port':'1','vrrp':[{{'group':1,'address':"
                               "'10.84.1.1','priority':{}}}]}}",
                               r, r == 1 ? 110 : 100));
        }
        t.host("h1", "s1:10", "10.84.1.10/24", 0, "10.84.1.1");
        QCOMPARE(t.way("h1", "10.84.1.1"), QString("h1 s1 r1"));
        t.acts("{'act':'interface','device':'r1','port':'1','disabled':true}");
        QCOMPARE(t.way("h1", "10.84.1.1"), QString("h1 s1 r2"));
    }
    void an_svi_is_up_while_a_port_forwards() {
        Forwarded t;
        t.vlans({10});
        t.switches(1);
        t.acts("{'act':'forwarding','members':['s1'],'routing':true}\n"
               "{'act':'interface','device':'s1','name':'vlan10','type':'vlan','untagged':10,"
               "'addresses':['10.84.10.1/24']}");
        QCOMPARE(t.route("s1", "10.84.10.0/24"), QString());
        t.host("h1", "s1:1", "10.84.10.10/24", 10, "10.84.10.1");
        QCOMPARE(t.route("s1", "10.84.10.0/24"), QString("connected here"));
        QCOMPARE(t.way("h1", "s1"), QString("h1 s1"));
    }
    void filters_decide_by_the_first_rule_and_let_answers_through() {
        Square s;
        const auto filter = [&](const char* rules) {
            s.acts(fmt::format("{{'act':'forwarding','members':['r1'],'filter':{{'rules':[{}]}}}}", rules));
        };
        filter("{'from':['10.84.1.0/24'],'protocol':'tcp','ports':[{'first':443,'last':443}]}");
        analysis::Probe probe = s.probe("h1", "h3");
        QVERIFY(analysis::trace(s.now(), probe).stop == analysis::Stop::refused);
        QVERIFY(text(analysis::trace(s.now(), probe).reason).contains("with a protocol and port stated"));
        probe.protocol = Protocol::tcp;
        probe.port = 443;
        const auto [there, back] = analysis::traceBoth(s.now(), probe);
        QVERIFY(there.reached() && back.reached());
        s.acts("{'act':'forwarding','members':['r1'],'filter':{'stateless':true}}");
        QVERIFY(!analysis::traceBoth(s.now(), probe).second.reached());
        QVERIFY(s.trace("h3", "h1").stop == analysis::Stop::refused);
    }
    void source_translation_is_undone_for_the_answer() {
        Square s("");
        s.acts("{'act':'route','device':'r1','to':'0.0.0.0/0','via':'10.84.12.2'}\n"
               "{'act':'forwarding','members':['r1'],'translations':[{'type':'source','from':'10.84.1.0/24',"
               "'out':'1'}]}");
        const auto [there, back] = analysis::traceBoth(s.now(), s.probe("h1", "10.84.12.2"));
        QVERIFY(there.reached() && back.reached());
        QVERIFY(text(there.hops[1].decision).contains("10.84.1.10 becomes 10.84.12.1"));
        QCOMPARE(s.wayText(back), QString("r2 r1 h1"));
    }
    void destination_translation_leads_inside_and_back() {
        Square s;
        s.acts("{'act':'forwarding','members':['r3'],'translations':[{'type':'destination',"
               "'from':'203.0.113.9','to':'10.84.3.10'}]}\n"
               "{'act':'route','device':'r1','to':'203.0.113.9/32','via':'10.84.12.2'}\n"
               "{'act':'route','device':'r2','to':'203.0.113.9/32','via':'10.84.23.2'}");
        const auto [there, back] = analysis::traceBoth(s.now(), s.probe("h1", "203.0.113.9"));
        QCOMPARE(s.wayText(there), QString("h1 r1 r2 r3 h3"));
        QVERIFY(back.reached());
    }
    void vrfs_keep_apart() {
        Square s("");
        s.acts("{'act':'interface','device':'r1','port':'3','vrf':'red'}");
        QVERIFY(s.trace("h1", "10.84.12.2").stop == analysis::Stop::noRoute);
        s.acts("{'act':'interface','device':'r1','port':'1','vrf':'red'}");
        QCOMPARE(s.way("h1", "10.84.12.2"), QString("h1 r1 r2"));
    }
    void what_fails_is_gone_round() {
        Square s;
        const DeviceId r2 = s.network.device({s.now().wiring().station(s.station("r2")).device->id})->id;
        const analysis::Forwarding without(s.network, {refTo(r2)});
        QCOMPARE(s.wayText(analysis::trace(without, s.probe("h1", "h3"))), QString("h1 r1 r4 r3 h3"));
    }
    void the_next_hop_of_every_trace_is_in_the_table_data() {
        QTest::addColumn<int>("seed");
        for (int seed = 1; seed <= 8; ++seed)
            QTest::addRow("seed %d", seed) << seed;
    }
    void the_next_hop_of_every_trace_is_in_the_table() {
        QFETCH(const int, seed);
        std::mt19937 random(static_cast<unsigned>(seed));
        Forwarded t;
        constexpr int count = 7;
        for (int i = 1; i <= count; ++i) {
            t.router(fmt::format("r{}", i));
            t.acts(fmt::format("{{'act':'interface','device':'r{}','name':'lo','type':'loopback',"
                               "'addresses':['10.84.255.{}/32'],'ospf':{{'area':0}}}}",
                               i, i));
        }
        std::vector<int> used(count + 1, 0);
        for (int i = 0; i < count + 4; ++i) {
            const int a = 1 + static_cast<int>(random() % count), b = 1 + static_cast<int>(random() % count);
            auto &x = used[static_cast<std::size_t>(a)], &y = used[static_cast<std::size_t>(b)];
            if (a == b || x > 3 || y > 3)
                continue;
            t.link(fmt::format("r{}:{}", a, ++x), fmt::format("r{}:{}", b, ++y));
            for (const auto& [r, port, host] : {std::tuple(a, x, 1), {b, y, 2}})
                t.routed(fmt::format("r{}", r), std::to_string(port), fmt::format("10.84.{}.{}/30", i, host),
                         fmt::format("'area':0,'cost':{}", 1 + random() % 9));
        }
        const auto& f = t.now();
        for (int a = 1; a <= count; ++a)
            for (int b = 1; b <= count; ++b) {
                const auto trace = t.trace(fmt::format("r{}", a), fmt::format("10.84.255.{}", b));
                const auto* entry = f.routing()
                                        .table(t.station(fmt::format("r{}", a)))
                                        .find(analysis::ipOf(Address(fmt::format("10.84.255.{}", b))));
                QCOMPARE(trace.reached(), entry != nullptr);
                if (!entry || a == b)
                    continue;
                const int next = f.wiring().stationOf(trace.hops[1].device);
                bool through = false;
                for (const auto& held : f.addressing().holders(entry->hops.front().via))
                    through |= f.bridging().interface(held.interface).station == next;
                QVERIFY(through);
                QVERIFY(static_cast<int>(trace.hops.size()) <= count); // the shortest way comes nowhere twice
            }
    }
    void the_next_free_address_passes_over_what_is_taken() {
        Square s;
        const auto next = [&](const char* subnet, const char* after = "") {
            const auto free = edit::freeIn(s.network, subnet, 1, after);
            return free.empty() ? QString() : text(free.front().text());
        };
        QCOMPARE(next("10.84.1.0/24"), QString("10.84.1.2/24"));
        QCOMPARE(next("10.84.12.0/30"), QString());
        QCOMPARE(next("10.84.1.0/24", "10.84.1.9/24"), QString("10.84.1.11/24"));
    }
    void what_another_vrf_has_is_free() {
        Square s;
        s.acts("{'act':'interface','device':'r1','port':'4','addresses':['10.84.1.2/24'],'vrf':'red'}");
        const auto next = [&](const std::string& vrf) {
            return text(edit::freeIn(s.network, "10.84.1.0/24", 1, {}, vrf).front().text());
        };
        QCOMPARE(next(""), QString("10.84.1.2/24"));
        QCOMPARE(next("red"), QString("10.84.1.1/24"));
    }
    void ends_are_named_by_service_and_host_name_too() {
        Forwarded t;
        t.switches(1);
        t.host("Srv-Tickets", "s1:1", "10.84.10.2/24");
        t.host("srv-2", "s1:2", "10.84.10.3/24");
        const auto end = [&](const char* name) {
            const auto found = analysis::traceEnd(t.network, name);
            return found ? text(t.network.device(found->device)->name) : text(found.refusal().what);
        };
        QCOMPARE(end("srv-tickets"), QString("Srv-Tickets"));
        QCOMPARE(end("srv-tickets.fennick.example"), QString("Srv-Tickets"));
        Device two = *t.network.device(t.id("srv-2"));
        two.attributes["hostname"] = "video.fennick.example";
        t.network.put(two);
        QCOMPARE(end("Video.Fennick.Example"), QString("srv-2"));
        QCOMPARE(end("video"), QString("srv-2"));
        Service service;
        service.id = t.ids.make<ServiceId>();
        service.name = "Ticket sales";
        service.providers = {t.id("Srv-Tickets")};
        t.network.put(service);
        QCOMPARE(end("ticket sales"), QString("Srv-Tickets"));
        service.providers.push_back(two.id);
        t.network.put(service);
        QVERIFY2(end("Ticket sales").contains("several devices: Srv-Tickets, srv-2"),
                 qPrintable(end("Ticket sales")));
        QVERIFY(end("nobody").startsWith("there is no device or address nobody"));
        QVERIFY(t.trace("srv-2", "srv-tickets").reached());
    }
    void several_devices_get_the_next_free_addresses_in_order_of_their_names() {
        Forwarded t;
        t.switches(1);
        for (const char* host : {"till-10", "till-2", "till-1"})
            t.host(host, fmt::format("s1:{}", 1 + t.now().wiring().stations().size()), "");
        t.host("srv", "s1:20", "10.84.10.2/29");
        t.acts("{'act':'address','members':['till-10','till-2','till-1'],'nextIn':'10.84.10.0/29'}");
        const auto address = [&](const char* name) {
            return text(firstAddress(t.network, t.id(name)).text());
        };
        QCOMPARE(address("till-1"), QString("10.84.10.1/29"));
        QCOMPARE(address("till-2"), QString("10.84.10.3/29"));
        QCOMPARE(address("till-10"), QString("10.84.10.4/29"));
        QVERIFY(t.trace("till-1", "till-10").reached());
        const std::vector<DeviceId> many(5, t.id("srv"));
        QVERIFY(edit::addressInSeries(t.network, many, "10.84.10.0/29", t.ids)
                    .refusal()
                    .what.find("2 addresses left") != std::string::npos);
        QVERIFY(!edit::addressInSeries(t.network, many, "10.84.10.0", t.ids));
    }
    void edits_that_do_not_matter_are_known() {
        Square s;
        Network moved = s.network;
        Device device = *s.now().wiring().station(0).device;
        device.note = "moved";
        moved.put(device);
        QVERIFY(analysis::forwardsAlike(s.network, moved));
        device.routing = true;
        moved.put(device);
        QVERIFY(!analysis::forwardsAlike(s.network, moved));
    }
    void the_sample_is_clean_and_as_it_was_found_has_these_mistakes() {
        DiskFiles files;
        const auto codes = [&](const char* file) {
            const auto loaded =
                exchange::readOwn(*files.read(std::string(UNDERRIDGE_ROOT "/demo/") + file), file);
            QStringList out;
            for (const auto& finding : analysis::check(loaded->network, exchange::builtInCatalogue()))
                out << text(std::string(finding.rule->code));
            return out.join(" ");
        };
        QCOMPARE(codes("fennick-quay.underridge"), QString());
        QCOMPARE(
            codes("fennick-quay-as-found.underridge"),
            QString("permanent-link label-twice vlan-one-end vlan-native vlan-unused address-twice mac-twice "
                    "prefix-length gateway-outside gateway-missing route-loop ospf-neighbour filter-never"));
    }
    void a_statement_that_is_not_kept_says_who_and_why() {
        Square s;
        s.acts("{'act':'statement','name':'h1 reaches h3','from':'h1','to':'h3'}\n"
               "{'act':'statement','name':'h3 keeps away','from':'h3','to':'h1','never':true}");
        auto found = analysis::checkStatements(s.now());
        QCOMPARE(found.size(), std::size_t(1));
        QCOMPARE(text(found[0].message), QString("\"h3 keeps away\": h3 reaches h1"));
        s.acts("{'act':'statement','name':'h3 keeps away','remove':true}\n"
               "{'act':'interface','device':'r1','port':'3','disabled':true}");
        found = analysis::checkStatements(s.now());
        QCOMPARE(found.size(), std::size_t(1));
        QVERIFY(text(found[0].message).startsWith("\"h1 reaches h3\": h1 does not reach h3"));
    }
};

UNDERRIDGE_TEST(RoutingTest)
#include "routing_test.moc"
