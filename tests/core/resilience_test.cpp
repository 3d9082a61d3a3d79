// SPDX-License-Identifier: GPL-3.0-or-later
// Findings of what one failure would take down though its neighbours are doubled.
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
};

UNDERRIDGE_TEST(ResilienceTest)
#include "resilience_test.moc"
