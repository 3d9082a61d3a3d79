// SPDX-License-Identifier: GPL-3.0-or-later
// What hangs in the door of a rack and beside a panel.
#include "core/edit/door_sheets.h"
#include "core/edit/power.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using tests::text;

class DoorSheetsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_rack_says_what_is_in_which_unit_and_fed_from_where() {
        tests::Workbench b;
        const GroupId rack = b.group("R1", GroupKind::rack);
        b.shape(rack, [](Group& g) { g.rackUnits = 12; });
        const auto stand = [&](const char* model, const char* name, int unit, Side side = Side::front) {
            const DeviceId id = b.add(model, name);
            b.place(id, {rack, 0, 0, 0, unit, side});
            return id;
        };
        const DeviceId pdu = stand("pdu", "pdu-1", 1, Side::rear);
        const DeviceId core = stand("core-switch-modular", "core-1", 5);
        b.take(edit::feedSupply(b.network, core, "P1", {pdu, {}}, "O2"));
        b.take(edit::feedSupply(b.network, core, "P2", {{}, "B"}, {}));
        const auto sheets = edit::doorSheets(b.network, {refTo(rack), refTo(core)});
        QVERIFY(sheets);
        QCOMPARE(sheets->size(), std::size_t(1)); // a switch has none
        const auto& rows = sheets->front().rows;
        QCOMPARE(rows.size(), std::size_t(2));
        QCOMPARE(rows[0], (std::vector<std::string>{"5–8", "front", "core-1", "Core switch, modular",
                                                    "P1 pdu-1 O2, P2 feed B"}));
        QCOMPARE(rows[1][0], std::string("1"));
        QCOMPARE(rows[1][1], std::string("rear"));
        QCOMPARE(sheets->front().columns.size(), rows[0].size());
        QCOMPARE(std::accumulate(sheets->front().widths.begin(), sheets->front().widths.end(), 0), 100);
    }
    void a_panel_says_port_by_port_where_each_side_goes_in_the_end() {
        tests::Workbench b;
        const DeviceId panel = b.add("patch-panel-24", "pp-1"), sw = b.add("access-switch-24", "acc-1"),
                       outlet = b.add("outlet-2", "out-1"), desk = b.add("workstation", "ws-1");
        b.link({sw, "3"}, {panel, "2"});
        b.link({panel, "R2"}, {outlet, "R1"});
        b.link({outlet, "1"}, {desk, "1"});
        b.port({panel, "2"}, [](Port& p) { p.label = "1-02"; });
        const auto sheets = edit::doorSheets(b.network, {refTo(panel)});
        QCOMPARE(sheets->front().rows.size(), std::size_t(24)); // its front
        const auto& row = sheets->front().rows[1];
        QCOMPARE(row[0], std::string("2"));
        QCOMPARE(row[1], std::string("1-02"));
        QCOMPARE(row[3], std::string("acc-1 3"));
        QCOMPARE(row[5], std::string("ws-1 1")); // through the outlet
        QVERIFY(sheets->front().rows[0][3].empty());
        QCOMPARE(std::accumulate(sheets->front().widths.begin(), sheets->front().widths.end(), 0), 100);
    }
    void nothing_to_write_is_refused() {
        tests::Workbench b;
        QVERIFY(edit::racksAndPanels(b.network).empty());
        QVERIFY(!edit::doorSheets(b.network, {refTo(b.add("phone"))}));
        b.add("patch-panel-24"); // without a link
        QVERIFY(edit::racksAndPanels(b.network).empty());
    }
};

UNDERRIDGE_TEST(DoorSheetsTest)
#include "door_sheets_test.moc"
