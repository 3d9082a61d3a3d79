// SPDX-License-Identifier: GPL-3.0-or-later
// What is cut off when something fails, and what can be laid over a sheet.
#include "core/analysis/impact.h"
#include "core/edit/sheets.h"
#include "core/scene/overlay_keys.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using analysis::impactOf;
using scene::OverlayKey;
using scene::OverlayKind;

namespace {

/// Three switches in a row, hosts at both ends, a panel before one of them.
struct Row : tests::Forwarded {
    Row() {
        switches(3);
        link("s1:X1", "s2:X1");
        link("s2:X2", "s3:X1");
        acts("{'act':'add','model':'workstation','count':4,'names':'h{1..}'}\n"
             "{'act':'add','model':'patch-panel-24','names':'pp'}");
        link("h1:1", "s1:1");
        link("h2:1", "s1:2");
        link("h3:1", "s3:1");
        link("h4:1", "pp:R1");
        link("pp:1", "s3:2");
    }
    QStringList without(ObjectRef object) const {
        QStringList out;
        for (const DeviceId id : impactOf(network, object).cutOff)
            out << tests::text(network.device(id)->name);
        out.sort();
        return out;
    }
    LinkId at(const std::string& device, const std::string& port) const {
        LinkId found;
        network.all<Link>().forEach([&](const Link& link) {
            for (const PortRef* end : {&link.a, &link.b})
                if (network.device(end->device)->name == device && end->port == port)
                    found = link.id;
        });
        return found;
    }
};

} // namespace

class ImpactTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_has_one_way_is_cut_off() {
        Row n;
        QCOMPARE(n.without(refTo(n.id("s3"))), (QStringList{"h3", "h4"}));
        QCOMPARE(n.without(refTo(n.id("h1"))), QStringList{});
        QCOMPARE(n.without(refTo(n.at("s1", "1"))), QStringList{"h1"});
    }
    void the_largest_part_is_the_rest() {
        Row n; // without the middle: three and three; one more on the right tips it
        n.acts("{'act':'add','model':'workstation','names':'h5'}");
        n.link("h5:1", "s3:3");
        QCOMPARE(n.without(refTo(n.id("s2"))), (QStringList{"h1", "h2", "s1"}));
        QCOMPARE(impactOf(n.network, refTo(n.id("s2"))).joined, std::size_t{7});
    }
    void a_second_way_saves_all() {
        Row n;
        n.link("s1:X2", "s3:X2");
        QVERIFY(n.without(refTo(n.id("s2"))).empty());
        QVERIFY(n.without(refTo(n.at("s2", "X2"))).empty());
    }
    void panels_are_on_the_way() {
        Row n;
        QCOMPARE(n.without(refTo(n.at("pp", "R1"))), QStringList{"h4"});
        QCOMPARE(n.without(refTo(n.at("pp", "1"))), QStringList{"h4"});
        DeviceId panel;
        n.network.all<Device>().forEach([&](const Device& device) {
            if (device.name == "pp")
                panel = device.id;
        });
        QCOMPARE(n.without(refTo(panel)), QStringList{"h4"});
    }
    void what_is_nothing_or_joined_to_nothing_cuts_nobody() {
        Row n;
        QCOMPARE(impactOf(n.network, {Kind::device, 12345}).joined, std::size_t{0});
        n.acts("{'act':'add','model':'workstation','names':'alone'}");
        QVERIFY(n.without(refTo(n.id("alone"))).empty());
    }
    void others_parts_are_not_told() {
        Row n;
        n.acts("{'act':'add','model':'workstation','count':2,'names':'x{1..}'}");
        n.link("x1:1", "x2:1");
        QCOMPARE(n.without(refTo(n.id("s3"))), (QStringList{"h3", "h4"}));
    }

    // --- what is laid over a sheet -------------------------------------------------

    void keys_are_read_as_they_are_written() {
        for (const char* text :
             {"tree", "findings", "areas", "speed", "power", "mains", "age", "vlan:20",
              "subnet:10.84.20.0/24", "where:role:camera vlan:20", "impact:0c8fbcb0hsj0"}) {
            const auto key = OverlayKey::parse(text);
            QVERIFY2(key, text);
            QCOMPARE(tests::text(key->text()), QString(text));
            QVERIFY(*OverlayKey::parse(key->text()) == *key);
        }
        QCOMPARE(OverlayKey::parse("vlan:007")->vlan, 7);
    }
    void what_is_no_key_is_refused_with_what_to_write() {
        for (const char* text : {"", "trees", "tree:1", "vlan:", "vlan:0", "vlan:4095", "vlan:20x", "vlan:-1",
                                 "vlan:99999999999999999999", "subnet:here", "where:", "where:rol:camera",
                                 "where:(a", "impact:", "impact:!", "speed\ntree"}) {
            const auto key = OverlayKey::parse(text);
            QVERIFY2(!key, text);
            QVERIFY(!key.refusal().remedy.empty());
        }
    }
    void a_sheet_keeps_several_in_order() {
        Row n;
        auto act = edit::setSheetOverlays(n.network, n.sheet, {"vlan:20", "tree", "vlan:020"});
        QVERIFY(n.take(act));
        QCOMPARE(scene::overlaysOf(*n.network.sheet(n.sheet)), (std::vector<std::string>{"vlan:20", "tree"}));
        QVERIFY(!edit::setSheetOverlays(n.network, n.sheet, {"tree", "bush"}));
        QVERIFY(n.take(edit::setSheetOverlays(n.network, n.sheet, {})));
        QVERIFY(n.network.sheet(n.sheet)->overlay.empty());
    }
    void what_a_newer_version_laid_stays_beside_what_is_added() {
        Row n;
        Sheet sheet = *n.network.sheet(n.sheet);
        sheet.overlay = "weather:today";
        n.network.put(sheet);
        QVERIFY(n.take(edit::setSheetOverlays(n.network, n.sheet, {"weather:today", "tree"})));
        QCOMPARE(scene::overlaysOf(*n.network.sheet(n.sheet)),
                 (std::vector<std::string>{"weather:today", "tree"}));
        QVERIFY(n.take(edit::setSheetOverlays(n.network, n.sheet, {"tree"})));
        QVERIFY(!edit::setSheetOverlays(n.network, n.sheet, {"tree", "weather:today"}));
    }
    void acts_lay_them() {
        Row n;
        n.acts("{'act':'overlay','overlays':['power','where:role:switch']}");
        QCOMPARE(scene::overlaysOf(*n.network.sheet(n.sheet)).size(), std::size_t{2});
        n.acts("{'act':'overlay','overlays':'tree'}");
        QCOMPARE(tests::text(n.network.sheet(n.sheet)->overlay), QString("tree"));
        n.acts("{'act':'overlay'}");
        QVERIFY(n.network.sheet(n.sheet)->overlay.empty());
    }
    void foreign_texts_of_a_file_are_taken_as_they_are() {
        Sheet sheet;
        sheet.overlay = "\n\ntree\n\nnonsense\n";
        QCOMPARE(scene::overlaysOf(sheet), (std::vector<std::string>{"tree", "nonsense"}));
    }
};

UNDERRIDGE_TEST(ImpactTest)
#include "impact_test.moc"
