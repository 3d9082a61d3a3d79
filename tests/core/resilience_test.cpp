// SPDX-License-Identifier: GPL-3.0-or-later
// Findings of what one failure would take down though its neighbours are doubled.
#include "core/model/power.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;

namespace {

/// A router over s1, over the other switches, each by so many links.
struct Hanging : tests::Forwarded {
    explicit Hanging(std::initializer_list<int> links) {
        switches(static_cast<int>(links.size()) + 1);
        router("r");
        link("r:1", "s1:1");
        int port = 1, name = 2;
        for (const int many : links) {
            for (int i = 1; i <= many; ++i)
                link(fmt::format("s1:{}", ++port), fmt::format("s{}:{}", name, i));
            ++name;
        }
    }
};

/// Two routers with a host each, and a link between them.
struct Between : tests::Forwarded {
    Between() {
        for (const int i : {1, 2}) {
            router(fmt::format("r{}", i));
            acts(fmt::format("{{'act':'add','model':'workstation','names':'h{}'}}", i));
            link(fmt::format("h{}:1", i), fmt::format("r{}:1", i));
            routed(fmt::format("r{}", i), "1", fmt::format("10.84.{}.1/24", i));
            acts(fmt::format("{{'act':'address','at':'h{0}:1','address':'10.84.{0}.7/24'}}\n"
                             "{{'act':'route','device':'h{0}','to':'0.0.0.0/0','via':'10.84.{0}.1'}}",
                             i));
        }
        link("r1:2", "r2:2");
        routed("r1", "2", "10.84.9.1/30");
        routed("r2", "2", "10.84.9.2/30");
    }
};

/// What is told under a rule.
std::vector<std::string> told(tests::Forwarded& n, std::string_view code) {
    std::vector<std::string> out;
    for (const auto& finding : analysis::checkForwarding(n.now()))
        if (finding.rule->code == code)
            out.push_back(finding.message);
    return out;
}

} // namespace

class ResilienceTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void the_one_switch_that_hangs_on_one_link_is_told() {
        Hanging n({2, 2, 2, 1});
        QCOMPARE(told(n, "uplink-single"),
                 std::vector<std::string>{
                     "s5 hangs on s1 by one link, while 3 of 3 other switches there have two or more"});
    }
    void where_all_or_many_hang_on_one_nothing_is_said() {
        Hanging alike({1, 1, 1, 1}), many({2, 2, 1, 1, 1}), few({2, 1});
        for (auto* n : {&alike, &many, &few})
            QVERIFY(told(*n, "uplink-single").empty());
    }
    void a_second_link_puts_it_right_and_a_disabled_one_does_not() {
        Hanging n({2, 2, 2, 1});
        n.link("s1:20", "s5:9");
        QVERIFY(told(n, "uplink-single").empty());
        n.acts("{'act':'interface','device':'s5','port':'9','disabled':true}");
        QCOMPARE(told(n, "uplink-single").size(), std::size_t(1));
    }
    void two_ways_to_different_switches_are_two() {
        Hanging n({2, 2, 2, 1});
        n.acts("{'act':'add','model':'access-switch-24','names':'s9'}");
        n.link("r:2", "s9:1");
        n.link("s9:2", "s5:2");
        QVERIFY(told(n, "uplink-single").empty());
    }
    void a_lag_on_one_chassis_of_a_stack_is_told() {
        Hanging n({1});
        Device stack = *n.network.device(n.id("s1"));
        stack.stack = {{1, stack.model, {}, {}}, {2, stack.model, {}, {}}};
        n.network.put(stack);
        n.forwarding.reset();
        const auto lag = [&](const char* one, const char* two) {
            auto copy = std::make_unique<Hanging>(std::initializer_list<int>{});
            copy->network = n.network;
            copy->acts("{'act':'add','model':'access-switch-24','names':'t'}");
            copy->link(fmt::format("s1:{}", one), "t:11");
            copy->link(fmt::format("s1:{}", two), "t:12");
            copy->acts(fmt::format(
                "{{'act':'interface','device':'s1','name':'lag1','type':'lag','ports':['{}','{}']}}\n"
                "{{'act':'interface','device':'t','name':'lag1','type':'lag','ports':['11','12']}}",
                one, two));
            return told(*copy, "lag-one-unit");
        };
        QCOMPARE(lag("1/11", "1/12"),
                 std::vector<std::string>{"all 2 members of s1 lag1 are on chassis 1, and fail with it"});
        QVERIFY(lag("1/11", "2/11").empty());
    }

    // --- pairs ---------------------------------------------------------------------

    void a_pair_on_one_feed_is_told() {
        tests::Forwarded n;
        n.acts("{'act':'add','model':'border-router','count':2,'names':'r{1..}'}\n"
               "{'act':'add','model':'pdu','names':'pdu'}");
        const auto share = [&](const char* device, int own) {
            n.acts(fmt::format("{{'act':'interface','device':'{}','port':'1','addresses':['10.84.1.{}/24'],"
                               "'vrrp':[{{'group':1,'address':'10.84.1.1','priority':100}}]}}",
                               device, own));
        };
        const auto feedBy = [&](const char* device, PowerFeed by) {
            Device held = *n.network.device(n.id(device));
            by.supply = suppliesOf(n.network, held).empty() ? "supply" : suppliesOf(n.network, held).front();
            held.feeds = {by};
            n.network.put(held);
            n.forwarding.reset();
        };
        share("r1", 2);
        share("r2", 3);
        QVERIFY(told(n, "pair-one-feed").empty()); // nobody has said what feeds them
        feedBy("r1", {{}, {}, {}, "A", {}});
        feedBy("r2", {{}, {}, {}, "A", {}});
        QCOMPARE(told(n, "pair-one-feed").size(), std::size_t(1));
        QVERIFY(QString::fromStdString(told(n, "pair-one-feed").front()).contains("both are dark"));
        feedBy("r2", {{}, {}, {}, "B", {}});
        QVERIFY(told(n, "pair-one-feed").empty());
        const DeviceId pdu = n.id("pdu"); // both over one strip, whatever feeds that
        const auto outlets = outletsOf(n.network, *n.network.device(pdu));
        QVERIFY(outlets.size() > 1);
        feedBy("r1", {{}, pdu, outlets[0], {}, {}});
        feedBy("r2", {{}, pdu, outlets[1], {}, {}});
        QCOMPARE(told(n, "pair-one-feed").size(), std::size_t(1));
    }
    void only_what_stands_in_for_another_is_a_pair() {
        tests::Forwarded n;
        n.switches(2);
        for (const char* name : {"s1", "s2"}) {
            Device held = *n.network.device(n.id(name));
            held.feeds = {{"supply", {}, {}, "A", {}}};
            n.network.put(held);
        }
        n.forwarding.reset();
        QVERIFY(told(n, "pair-one-feed").empty());
        const DeviceId one = n.id("s1"), two = n.id("s2");
        for (const auto& [id, other] : {std::pair(one, two), std::pair(two, one)}) {
            Device held = *n.network.device(id);
            held.pairedWith = other;
            n.network.put(held);
        }
        n.forwarding.reset();
        QCOMPARE(told(n, "pair-one-feed").size(), std::size_t(1));
    }

    // --- what is kept free -----------------------------------------------------------

    void a_reserved_port_wants_a_reason() {
        tests::Forwarded n;
        n.switches(1);
        const DeviceId id = n.id("s1");
        const auto reserve = [&](const char* key, const char* note) {
            n.port({id, key}, [&](Port& port) {
                port.reserved = true;
                port.note = note;
            });
            n.forwarding.reset();
        };
        reserve("3", "for the second till");
        QVERIFY(told(n, "spare-unexplained").empty());
        reserve("10", "");
        reserve("9", "");
        QCOMPARE(told(n, "spare-unexplained"),
                 std::vector<std::string>{"ports 9, 10 of s1 are reserved, and no note says for what"});
        n.link("s1:9", [&] {
            n.acts("{'act':'add','model':'workstation','names':'h'}");
            return "h:1";
        }());
        QCOMPARE(told(n, "spare-unexplained"),
                 std::vector<std::string>{"port 10 of s1 is reserved, and no note says for what"});
    }
    void a_spare_cable_wants_a_reason() {
        tests::Forwarded n;
        n.switches(2);
        n.link("s1:1", "s2:1");
        Cable cable;
        n.network.all<Cable>().forEach([&](const Cable& each) { cable = each; });
        cable.status = CableStatus::spare;
        cable.label = "C-7";
        n.network.put(cable);
        n.forwarding.reset();
        QCOMPARE(told(n, "spare-unexplained"),
                 std::vector<std::string>{"cable C-7 is kept as a spare, and no note says for what"});
        cable.note = "for the third camera";
        n.network.put(cable);
        n.forwarding.reset();
        QVERIFY(told(n, "spare-unexplained").empty());
    }

    // --- whether answers come back -----------------------------------------------------

    void a_missing_return_route_is_told() {
        Between n;
        QVERIFY(told(n, "return-missing").empty());
        n.acts("{'act':'route','device':'r1','to':'10.84.2.0/24','via':'10.84.9.2'}"); // there, not back
        const auto found = told(n, "return-missing");
        QCOMPARE(found.size(), std::size_t(1));
        QVERIFY2(QString::fromStdString(found.front())
                     .startsWith("what h1 sends reaches h2, but answers do not come back"),
                 found.front().c_str());
        n.acts("{'act':'route','device':'r2','to':'10.84.1.0/24','via':'10.84.9.1'}");
        QVERIFY(told(n, "return-missing").empty());
    }
    void answers_over_another_filter_are_told() {
        // Two firewalls between two routers; out by the one, back by the other.
        Between n;
        n.acts("{'act':'add','model':'firewall','count':2,'names':'f{1..}'}");
        for (const int i : {1, 2}) {
            n.link(fmt::format("r1:{}", i + 2), fmt::format("f{}:1", i));
            n.link(fmt::format("r2:{}", i + 2), fmt::format("f{}:2", i));
            n.routed("r1", std::to_string(i + 2), fmt::format("10.84.1{}.1/30", i));
            n.routed("r2", std::to_string(i + 2), fmt::format("10.84.2{}.1/30", i));
            n.acts(fmt::format(
                "{{'act':'interface','device':'f{0}','port':'1','addresses':['10.84.1{0}.2/"
                "30'],'zone':'in'}}\n"
                "{{'act':'interface','device':'f{0}','port':'2','addresses':['10.84.2{0}.2/"
                "30'],'zone':'out'}}\n"
                "{{'act':'route','device':'f{0}','to':'10.84.1.0/24','via':'10.84.1{0}.1'}}\n"
                "{{'act':'route','device':'f{0}','to':'10.84.2.0/24','via':'10.84.2{0}.1'}}\n"
                "{{'act':'forwarding','members':['f{0}'],'filter':{{'rules':[{{'name':'out','fromZone':'in',"
                "'toZone':'out','action':'allow'}}]}}}}",
                i));
        }
        n.acts("{'act':'route','device':'r1','to':'10.84.2.0/24','via':'10.84.11.2'}\n"
               "{'act':'route','device':'r2','to':'10.84.1.0/24','via':'10.84.22.2'}");
        const auto found = told(n, "path-asymmetric");
        QCOMPARE(found.size(), std::size_t(1));
        QVERIFY2(QString::fromStdString(found.front()).contains("f2"), found.front().c_str());
        QVERIFY(told(n, "return-missing").empty());
        Route back; // led back the way it came all is well
        n.network.all<Route>().forEach([&](const Route& each) {
            if (each.via.text() == "10.84.22.2")
                back = each;
        });
        back.via = "10.84.21.2";
        n.network.put(back);
        n.forwarding.reset();
        QVERIFY(told(n, "path-asymmetric").empty());
    }
};

UNDERRIDGE_TEST(ResilienceTest)
#include "resilience_test.moc"
