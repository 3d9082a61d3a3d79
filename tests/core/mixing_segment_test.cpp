// SPDX-License-Identifier: GPL-3.0-or-later
// Mixing segments: one pair many share (IEEE 802.3 clause 147).
#include "core/edit/objects.h"
#include "core/linking/mixing_segment.h"
#include "core/linking/running_check.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <random>

using namespace underridge;
using namespace underridge::model;
using tests::text;

namespace {

/// Taps in a row, a sensor at each.
struct Row : tests::Workbench {
    explicit Row(int many, double apartM = 2) {
        for (int i = 0; i < many; ++i) {
            const std::string number = std::to_string(i + 1);
            taps.push_back(add("mixing-segment-tap", "tap-" + number));
            sensors.push_back(add("sensor-multidrop", "sensor-" + number));
            join({taps.back(), "1"}, {sensors.back(), "1"}, 0.05);
            if (i > 0)
                trunk.push_back(join({taps[taps.size() - 2], "L2"}, {taps.back(), "L1"}, apartM));
        }
    }
    LinkId join(const PortRef& a, const PortRef& b, double metres) {
        const LinkId made = link({a.device, a.port}, {b.device, b.port});
        length(made, metres);
        return made;
    }
    void length(LinkId link, double metres) {
        Cable cable = cableOf(link);
        cable.lengthMm = std::llround(metres * 1000);
        network.put(cable);
    }
    QStringList found() const {
        QStringList out;
        for (const auto& finding : linking::check(network, catalogue))
            out << text(std::string(finding.rule->code) + ": " + finding.message);
        return out;
    }

    std::vector<DeviceId> taps, sensors;
    std::vector<LinkId> trunk;
};

} // namespace

class MixingSegmentTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void eight_nodes_on_25_m_are_in_order() {
        Row row(8, 3.5);
        QCOMPARE(row.found(), QStringList());
        QCOMPARE(linking::mixingSegmentOf(row.network, row.taps[3]).size(), std::size_t(8));
        QVERIFY(linking::mixingSegmentOf(row.network, row.sensors[0]).empty());
    }
    void a_ninth_node_is_one_too_many() {
        Row row(9, 1);
        QCOMPARE(
            row.found(),
            QStringList("mixing-segment: tap-1: 9 nodes share one segment, 10BASE-T1S multidrop may have 8"));
    }
    void the_length_is_that_of_the_whole_trunk() {
        Row row(4, 9); // no cable is longer than 25 m
        QCOMPARE(row.found().size(), 1);
        QVERIFY2(row.found().front().contains("it is 27.1 m, 10BASE-T1S multidrop reaches 25 m"),
                 qPrintable(row.found().front()));
        row.length(row.trunk.front(), 0);
        QCOMPARE(row.found(), QStringList()); // 18 m are known, no more
        row.length(row.trunk.back(), 17);
        QVERIFY(row.found().front().contains("at least 26.1 m"));
    }
    void a_stub_is_short_and_a_ring_is_none() {
        Row row(3);
        row.length(row.network.linkAt({row.sensors[1], "1"})->id, 0.4);
        QCOMPARE(row.found(),
                 QStringList("mixing-segment: tap-1: sensor-2 stands 0.4 m off the trunk, 10BASE-T1S "
                             "multidrop allows 0.1 m"));
        row.length(row.network.linkAt({row.sensors[1], "1"})->id, 0.1);
        row.join({row.taps.back(), "L2"}, {row.taps.front(), "L1"}, 2);
        QVERIFY(row.found().join(' ').contains("tap-1: the cables come round to where they began"));
    }
    /// To forwarding it is one wire: who is on it hears everybody.
    void its_nodes_hear_each_other() {
        tests::Forwarded t;
        t.acts("{'act':'add','model':'mixing-segment-tap','count':3,'names':'tap-{1..}'}\n"
               "{'act':'add','model':'sensor-multidrop','count':3,'names':'sensor-{1..}'}\n"
               "{'act':'add','model':'field-switch-multidrop','names':'gateway'}\n"
               "{'act':'add','model':'workstation','names':'pc'}");
        for (int i = 1; i <= 3; ++i) {
            t.link(fmt::format("sensor-{}:1", i), fmt::format("tap-{}:1", i));
            t.acts(fmt::format("{{'act':'address','at':'sensor-{0}:1','address':'10.84.60.1{0}/24'}}", i));
        }
        t.link("tap-1:L2", "tap-2:L1");
        t.link("tap-2:L2", "tap-3:L1");
        t.link("tap-3:L2", "gateway:1");
        t.link("gateway:3", "pc:1");
        t.acts("{'act':'address','at':'pc:1','address':'10.84.60.20/24'}");
        QVERIFY(t.carries("sensor-1", "sensor-3"));
        QVERIFY(t.carries("sensor-3", "sensor-1"));
        QVERIFY(t.carries("sensor-2", "pc"));
        QCOMPARE(t.way("sensor-1", "pc"), QString("sensor-1 tap-1 tap-2 tap-3 gateway pc"));
    }
    void findings_kept_up_edit_by_edit_are_those_of_looking_anew() {
        std::mt19937 engine(5);
        const auto below = [&](std::size_t n) { return engine() % n; };
        int seen = 0;
        Row row(9, 2);
        linking::RunningCheck running;
        for (int step = 0; step < 120; ++step) {
            switch (below(4)) {
            case 0: {
                std::vector<LinkId> links;
                row.network.all<Link>().forEach([&](const Link& link) { links.push_back(link.id); });
                if (!links.empty())
                    row.take(edit::removeObjects(row.network, {refTo(links[below(links.size())])}));
                break;
            }
            case 1: {
                const PortRef a{row.taps[below(9)], below(2) ? "L1" : "L2"}, b{row.taps[below(9)], "L1"};
                if (!(a.device == b.device) && !row.network.linkAt(a) && !row.network.linkAt(b))
                    row.join(a, b, 1 + static_cast<double>(below(12)));
                break;
            }
            case 2: {
                const std::size_t at = below(9);
                if (!row.network.linkAt({row.sensors[at], "1"}) && !row.network.linkAt({row.taps[at], "1"}))
                    row.join({row.taps[at], "1"}, {row.sensors[at], "1"}, 0.05);
                break;
            }
            default:
                row.network.all<Link>().forEach([&](const Link& link) {
                    if (below(6) == 0)
                        row.length(link.id, static_cast<double>(below(20)) / 2);
                });
            }
            running.update(row.network, row.catalogue);
            QCOMPARE(running.findings(), linking::check(row.network, row.catalogue));
            for (const auto& finding : running.findings())
                seen += finding.rule->code == "mixing-segment";
        }
        QVERIFY(seen > 50);
    }
};

UNDERRIDGE_TEST(MixingSegmentTest)
#include "mixing_segment_test.moc"
