// SPDX-License-Identifier: GPL-3.0-or-later
// Declared rings: what they block, what happens when a link fails, and what is wrong with
// one that does not go round.
#include "core/analysis/rings.h"
#include "core/edit/objects.h"
#include "core/edit/registers.h"
#include "core/edit/rings.h"
#include "core/exchange/own_format.h"
#include "tests/support/first_office.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;

namespace {

/// Switches in a ring, 23 of each to 24 of the next, with a host at each.
struct Quay : tests::Forwarded {
    explicit Quay(int many = 4, const std::string& more = "") {
        vlans({10, 20});
        switches(many, "'mode':'off'");
        std::string members;
        for (int i = 1; i <= many; ++i) {
            trunk(fmt::format("s{}:23", i), fmt::format("s{}:24", i % many + 1), "10,20");
            host(fmt::format("h{}", i), fmt::format("s{}:1", i), fmt::format("10.84.10.{}/24", i), 10);
            members += fmt::format("{}'s{}'", i == 1 ? "" : ",", i);
        }
        if (more != "none")
            acts(fmt::format("{{'act':'ring','name':'quay','members':[{}]{}}}", members, more));
    }
    const Ring& ring() const {
        const Ring* found = nullptr;
        network.all<Ring>().forEach([&](const Ring& each) { found = &each; });
        return *found;
    }
    QString blocked() const {
        const Link* link = network.link(ring().blocked);
        return link ? tests::text(std::min(portText(network, link->a), portText(network, link->b))) : "none";
    }
    /// "s1 s2 s3": what switches a frame from one to the other.
    QString way(const std::string& from, const std::string& to) {
        QStringList names;
        for (const auto& hop : trace(from, to).hops)
            if (hop.layer == 2)
                names << tests::text(network.device(hop.device)->name);
        return names.join(' ');
    }
    void fail(const std::string& port) {
        acts(fmt::format("{{'act':'interface','device':'{}','port':'{}','disabled':true}}",
                         port.substr(0, port.find(':')), port.substr(port.find(':') + 1)));
    }
};

} // namespace

class RingsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void without_a_ring_it_storms_with_one_it_does_not() {
        QVERIFY(Quay(4, "none").found().contains("storm"));
        Quay q;
        QCOMPARE(q.found(), QStringList());
        QCOMPARE(q.blocked(), QString("s1 24")); // its owner's last link, of those in the order named
        QCOMPARE(tests::text(q.network.device(q.ring().owner)->name), QString("s1"));
        QVERIFY(q.now().rings().all().front().whole);
        // No port of it is in a tree.
        QVERIFY(q.role("s1", "23").isEmpty());
    }

    void frames_go_round_the_blocked_link_until_another_fails() {
        Quay q(4, ",'owner':'s1','blocked':'s1:24'"); // s4 – s1
        QCOMPARE(q.blocked(), QString("s1 24"));
        QCOMPARE(q.way("h1", "h4"), QString("s1 s2 s3 s4"));
        q.fail("s2:23");
        QCOMPARE(q.way("h1", "h4"), QString("s1 s4"));
        QCOMPARE(q.way("h2", "h3"), QString("s2 s1 s4 s3"));
        QCOMPARE(q.said("ring-open"), QStringList("quay has no second way: s2 23 is down"));
        // The same when a device is gone.
        Quay whole(4, ",'owner':'s1','blocked':'s1:24'");
        const analysis::Forwarding without(whole.network, {refTo(whole.id("s2"))});
        QVERIFY(!without.rings().all().front().whole);
        QVERIFY(!without.rings().all().front().blocks());
    }

    void a_vlan_that_is_not_on_the_other_way_is_told_as_such() {
        Quay q(3, ",'owner':'s1','blocked':'s1:24'"); // s3 – s1
        q.tag("s1:23", "20");
        q.tag("s2:24", "20");
        const auto trace = q.trace("h1", "h3");
        QCOMPARE(tests::text(trace.reason),
                 QString("VLAN 10 is not on s1 23, on the way to h3 1 (10.84.10.3)"));
    }
    void of_some_vlans_only_those_are_blocked() {
        Quay q(3, ",'owner':'s1','blocked':'s1:24','vlans':[{'first':20,'last':20}]");
        const auto& rings = q.now().rings();
        const int port = q.now().wiring().portAt({q.id("s1"), "24"});
        QVERIFY(rings.blocks(port, 20));
        QVERIFY(!rings.blocks(port, 10));
        QVERIFY(q.found().contains("storm")); // of VLAN 10, which nothing keeps
    }

    void seamless_redundancy_blocks_nothing_and_does_not_storm() {
        Quay q(4, ",'protocol':'hsr'");
        QCOMPARE(q.blocked(), QString("none"));
        QCOMPARE(q.found(), QStringList());
        QCOMPARE(q.way("h1", "h4"), QString("s1 s4")); // the first copy is the one that counts
    }

    void a_controller_in_a_ring_passes_on_what_goes_round() {
        Quay q(2, "none");
        q.acts("{'act':'add','model':'media-converter','names':'x'}");
        q.network = Quay(2, "none").network;
        // Two switches joined twice are a ring as well.
        q.acts("{'act':'ring','name':'pair','members':['s1','s2']}");
        QCOMPARE(q.ring().links.size(), std::size_t{2});
        QCOMPARE(q.found(), QStringList());
    }

    void what_is_no_ring_is_refused_data() {
        QTest::addColumn<QString>("members");
        QTest::addColumn<QString>("why");
        QTest::newRow("a row") << "'s1','s2','s3'"
                               << "s1 is joined to 1 of the others, not to two";
        QTest::newRow("one") << "'s1'"
                             << "a ring has two devices or more, and two ways between them";
        QTest::newRow("two, joined once") << "'s1','s2'"
                                          << "a ring has two devices or more, and two ways between them";
        QTest::newRow("a host") << "'s1','s2','s3','s4','h1'"
                                << "s1 is joined to 3 of the others, not to two";
    }
    void what_is_no_ring_is_refused() {
        QFETCH(QString, members);
        QFETCH(QString, why);
        Quay q(4, "none");
        QString line =
            QStringLiteral("{'act':'ring','name':'r','members':[%1]}").arg(members).replace('\'', '"');
        const auto script = edit::applyActs(q.network, q.catalogue, line.toStdString(), "acts", q.ids);
        QVERIFY(!script);
        QVERIFY2(tests::text(script.refusal().text()).contains(why), script.refusal().text().c_str());
    }

    void panels_between_are_passed() {
        tests::Forwarded f;
        f.switches(3, "'mode':'off'");
        f.acts("{'act':'add','model':'patch-panel-24','names':'pp'}");
        f.link("s1:23", "s2:24");
        f.link("s2:23", "s3:24");
        f.link("s3:23", "pp:1");
        f.acts("{'act':'link','from':'pp:R1','to':'s1:24','cable':'cat6a-idc-rj45'}\n"
               "{'act':'ring','name':'quay','members':['s1','s2','s3']}");
        QCOMPARE(f.found(), QStringList());
        const auto& ring = f.now().rings().all().front();
        QVERIFY(ring.whole);
        QCOMPARE(ring.record->links.size(), std::size_t{4});
        QCOMPARE(edit::devicesOf(f.network, ring.record->links).size(), std::size_t{3});
        // Without a cable of it the others are the second way.
        const analysis::Forwarding without(f.network, {refTo(f.network.linkAt({f.id("s3"), "23"})->id)});
        QVERIFY(!without.rings().all().front().blocks());
        // Of links alone, the panel's too, no panel blocks.
        Ring anew;
        anew.links = {ring.record->links.rbegin(), ring.record->links.rend()};
        QVERIFY(f.take(edit::declareRing(f.network, anew, f.ids)));
        f.network.all<Ring>().forEach([&](const Ring& each) {
            QVERIFY(f.network.device(each.owner)->name.front() == 's');
            QVERIFY(each.blocked);
        });
    }
    void who_blocks_has_the_blocked_link() {
        Quay q;
        Ring ring = q.ring();
        ring.owner = q.id("s3");
        QVERIFY(!edit::declareRing(q.network, ring, q.ids)); // s1 23 does not end there
        ring.blocked = {};
        QVERIFY(q.take(edit::declareRing(q.network, ring, q.ids)));
        QCOMPARE(q.blocked(), QString("s3 23"));
        ring.name = "";
        ring.id = {};
        QVERIFY(q.take(edit::declareRing(q.network, ring, q.ids)));
        QCOMPARE(q.network.all<Ring>().size(), std::size_t{2});
        ring.name = "quay";
        QVERIFY(!edit::declareRing(q.network, ring, q.ids)); // the name is taken
    }

    void what_is_deleted_leaves_the_ring_and_is_told() {
        Quay q;
        QVERIFY(q.take(edit::removeObjects(q.network, {refTo(q.ring().blocked)})));
        q.forwarding.reset();
        QCOMPARE(q.ring().links.size(), std::size_t{3});
        QVERIFY(!q.ring().blocked);
        QCOMPARE(q.said("ring-open"), QStringList("quay has no second way: its links do not go round once"));
        QCOMPARE(q.said("ring-blocked"), QStringList("quay: no link of it is said to be blocked"));
        QVERIFY(q.take(edit::removeObjects(q.network, {refTo(q.ring().owner)})));
        QVERIFY(!q.ring().owner);
        QVERIFY(q.take(edit::dissolveRings(q.network, {q.ring().id})));
        QCOMPARE(q.network.all<Ring>().size(), std::size_t{0});
    }

    void it_is_kept_in_the_file_and_in_its_register() {
        Quay q(4, ",'protocol':'mrp','vlans':[{'first':10,'last':20}]");
        const auto back = exchange::readOwn(exchange::writeOwn(q.network), "own");
        QVERIFY(bool(back));
        QVERIFY(back->network == q.network);
        const auto rows = edit::rowsOf(q.network, edit::Register::rings);
        QCOMPARE(rows.size(), std::size_t{1});
        QStringList cells;
        for (std::size_t c = 0; c < edit::columnsOf(edit::Register::rings).size(); ++c)
            cells << tests::text(
                edit::cellText(q.network, edit::Register::rings, rows.front(), c, LengthUnit::metres));
        QCOMPARE(cells, (QStringList{"quay", "MRP (IEC 62439-2)", "s1, s2, s3, s4", "s1", "s4 23 – s1 24",
                                     "10-20"}));
        const auto type = [&](std::size_t column, const char* text) {
            Network next = q.network;
            const auto set = edit::setCell(next, q.catalogue, edit::Register::rings,
                                           {rows.front(), column, text}, LengthUnit::metres, q.ids);
            if (set)
                q.network = next;
            return bool(set);
        };
        QVERIFY(type(4, "s3 24"));
        QCOMPARE(q.blocked(), QString("s2 23"));
        QCOMPARE(tests::text(q.network.device(q.ring().owner)->name), QString("s2"));
        QVERIFY(type(1, "hsr"));
        QCOMPARE(q.blocked(), QString("none"));
        QVERIFY(type(5, ""));
        QVERIFY(!type(5, "10-5000"));
        QVERIFY(!type(3, "h1"));
        QVERIFY(!type(0, " "));
    }
};

UNDERRIDGE_TEST(RingsTest)
#include "rings_test.moc"
