// SPDX-License-Identifier: GPL-3.0-or-later
// Findings that are set aside, by whom it may be taken back, and what is told of them.
#include "core/analysis/check.h"
#include "core/analysis/finding_places.h"
#include "core/analysis/report.h"
#include "core/edit/groups.h"
#include "core/edit/objects.h"
#include "core/edit/setting_aside.h"
#include "core/exchange/own_format.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using tests::Forwarded;

namespace {

/// Two hosts with one address: address-twice about both.
struct Twice : Forwarded {
    Twice() {
        acts("{'act':'add','model':'access-switch-24','names':'sw'}");
        host("h1", "sw:1", "10.84.10.5/24");
        host("h2", "sw:2", "10.84.10.5/24");
        host("h3", "sw:3", "10.84.10.7/24");
    }
    analysis::Sifted sifted(std::string_view today = "2026-11-29") const {
        auto found = analysis::check(network, catalogue);
        std::erase_if(found, [](const auto& each) { return each.rule->code != "address-twice"; });
        return analysis::sift(network, std::move(found), today);
    }
    Remark setAside(const edit::Aside& aside) {
        const auto act = edit::setAside(network, sifted().open, aside, ids);
        if (!act)
            return act.refusal();
        network = act->network;
        return {};
    }
    /// Does one act of the language; what it refuses, else nothing.
    std::string act(const std::string& line) {
        auto done = edit::applyActs(network, catalogue, line, "acts", ids);
        if (!done)
            return done.refusal().what;
        network = done->network;
        return {};
    }
};

} // namespace

class SetAsideTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_finding_set_aside_counts_no_more_until_another_object_joins() {
        Twice n;
        QCOMPARE(n.sifted().open.size(), std::size_t(1));
        QCOMPARE(n.setAside({"a cluster's shared address", "2026-11-29", ""}).what, std::string());
        QCOMPARE(n.sifted().open.size(), std::size_t(0));
        QCOMPARE(n.sifted().aside.size(), std::size_t(1));
        QVERIFY(n.sifted().idle.empty());
        n.acts("{'act':'address','at':'h3:1','address':'10.84.10.5/24'}");
        QCOMPARE(n.sifted().open.size(), std::size_t(1));
        QCOMPARE(n.sifted().idle.size(), std::size_t(1));
    }
    void its_last_day_is_the_last() {
        Twice n;
        QCOMPARE(n.setAside({"while the hall moves", "2026-11-29", "2026-12-31"}).what, std::string());
        QVERIFY(n.sifted("2026-12-31").open.empty());
        QCOMPARE(n.sifted("2027-01-01").open.size(), std::size_t(1));
        QCOMPARE(n.sifted("2027-01-01").idle.size(), std::size_t(1));
        QVERIFY(n.sifted("").open.empty());
    }
    void setting_aside_again_replaces_the_reason() {
        Twice n;
        const auto found = n.sifted().open;
        for (const char* reason : {"first", "second"}) {
            const auto act = edit::setAside(n.network, found, {reason, "2026-11-29", ""}, n.ids);
            QVERIFY(act);
            n.network = act->network;
        }
        QCOMPARE(n.network.all<SetAside>().size(), std::size_t(1));
        QCOMPARE(n.network.find<SetAside>({n.sifted().aside.front().by.value, 0})->reason,
                 std::string("second"));
    }
    void reasons_and_days_are_asked_for() {
        Twice n;
        QCOMPARE(n.setAside({"  ", "2026-11-29", ""}).what, std::string("there is no reason"));
        QCOMPARE(n.setAside({"x", "2026-11-29", "soon"}).what, std::string("soon is no day"));
        QCOMPARE(n.setAside({"x", "2026-11-29", "2026-11-28"}).what, std::string("2026-11-28 is over"));
        QVERIFY(!edit::setAside(n.network, std::span<const linking::Finding>(), {"x", "", ""}, n.ids));
        for (const char* day : {"2026-02-30", "2026-13-01", "26-01-01", "2026/01/01", "2026-1-011", ""})
            QVERIFY2(!edit::isDay(day), day);
        for (const char* day : {"2024-02-29", "2026-12-31"})
            QVERIFY2(edit::isDay(day), day);
    }
    void it_counts_again_when_taken_back() {
        Twice n;
        n.setAside({"x", "2026-11-29", ""});
        const std::vector<SetAsideId> records{n.sifted().aside.front().by};
        const auto act = edit::countAgain(n.network, records);
        QVERIFY(act);
        n.network = act->network;
        QCOMPARE(n.sifted().open.size(), std::size_t(1));
        QVERIFY(!edit::countAgain(n.network, records)); // it is gone
    }
    void acts_set_aside_and_count_again() {
        Twice n;
        QCOMPARE(n.act(R"({"act":"set-aside","rule":"address-twice","of":["h1","h2"],"reason":"shared"})"),
                 std::string());
        QVERIFY(n.sifted().open.empty());
        QCOMPARE(n.act(R"({"act":"set-aside","rule":"address-twice","of":["h2","h1"],"remove":true})"),
                 std::string());
        QCOMPARE(n.sifted().open.size(), std::size_t(1));
        QCOMPARE(n.act(R"({"act":"set-aside","rule":"address-twice","of":["h1"],"remove":true})"),
                 std::string("nothing of that rule is set aside of them"));
        QCOMPARE(n.act(R"({"act":"set-aside","rule":"no-such","of":["h1"],"reason":"x"})"),
                 std::string("no-such is no rule"));
        QCOMPARE(n.act(R"({"act":"set-aside","rule":"storm","of":["h1"]})"),
                 std::string("there is no reason"));
        QCOMPARE(n.act(R"({"act":"set-aside","rule":"storm","of":["h9"],"reason":"x"})"),
                 std::string("there is no h9"));
    }
    void links_and_cables_are_named_by_their_ids() {
        Twice n;
        std::string id;
        n.network.all<Link>().forEach([&](const Link& link) { id = idText(link.id.value); });
        QCOMPARE(n.act(R"({"act":"set-aside","rule":"category","of":")" + id + R"(","reason":"x"})"),
                 std::string());
        n.network.all<SetAside>().forEach(
            [&](const SetAside& each) { QVERIFY(each.subjects.front().kind == Kind::link); });
    }
    void what_is_deleted_takes_it_along_and_files_keep_it() {
        Twice n;
        n.setAside({"x, with \"quotes\"", "2026-11-29", "2027-01-31"});
        const auto read = exchange::readOwn(exchange::writeOwn(n.network), "again");
        QVERIFY(read && read->remarks.empty());
        QCOMPARE(read->network.all<SetAside>().size(), std::size_t(1));
        QVERIFY(read->network == n.network);
        const auto act = edit::removeObjects(n.network, {refTo(n.id("h2"))});
        QVERIFY(act);
        QVERIFY(act->network.all<SetAside>().empty());
        const auto other = edit::removeObjects(n.network, {refTo(n.id("h3"))});
        QCOMPARE(other->network.all<SetAside>().size(), std::size_t(1));
    }
    void reports_tell_both_kinds_apart() {
        Twice n;
        auto json = analysis::findingsJson(n.network, n.sifted());
        QCOMPARE(json["findings"].size(), std::size_t(1));
        QCOMPARE(json["setAside"].size(), std::size_t(0));
        n.setAside({"shared", "2026-11-29", "2027-01-31"});
        json = analysis::findingsJson(n.network, n.sifted());
        QCOMPARE(json["findings"].size(), std::size_t(0));
        QCOMPARE(json["setAside"][0]["reason"], "shared");
        QCOMPARE(json["setAside"][0]["until"], "2027-01-31");
        QCOMPARE(json["setAside"][0]["subjects"].size(), std::size_t(2));
        const std::string csv = analysis::findingsCsv(n.network, n.sifted());
        QVERIFY(csv.starts_with("severity,code,finding,remedy,where,source,set aside\r\n"));
        QVERIFY(csv.ends_with(",shared\r\n"));
    }
    void a_finding_is_in_the_groups_of_what_it_is_about() {
        Twice n;
        const GroupId room = n.group("store", GroupKind::room);
        QVERIFY(n.take(edit::moveInto(n.network, {refTo(n.id("h1"))}, room)));
        const auto found = n.sifted().open;
        QCOMPARE(found.size(), std::size_t(1));
        QVERIFY(analysis::placesOf(n.network, found.front()) == std::set<GroupId>{room});
        linking::Finding none;
        none.subjects = {refTo(n.id("h3"))};
        QVERIFY(analysis::placesOf(n.network, none).empty());
        none.subjects = {refTo(room)};
        QCOMPARE(analysis::placesOf(n.network, none).size(), std::size_t(1));
    }
};

UNDERRIDGE_TEST(SetAsideTest)
#include "set_aside_test.moc"
