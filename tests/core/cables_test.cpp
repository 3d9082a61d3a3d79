// SPDX-License-Identifier: GPL-3.0-or-later
// Pieces of cable and what is fitted: stock, labels, lengths, results, trunk cables, modules, transceivers.
#include "core/edit/cables.h"
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/edit/results.h"
#include "core/edit/sheets.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "core/exchange/workbook.h"
#include "core/linking/chain.h"
#include "core/linking/route.h"

#include <QtTest>

using namespace underridge;
using namespace underridge::model;
using edit::WithLinks;

namespace {

struct Bench {
    Bench() : ids(1), catalogue(exchange::builtInCatalogue()), network(emptyNetwork("t", ids)) {}
    DeviceId add(const std::string& model, const std::string& name) {
        auto act = edit::placeDevices(network, network.sheetsInOrder().front().id, *catalogue.device(model),
                                      {{name, {0, 0}}}, {}, ids);
        network = act->network;
        return {act->subjects.front().id};
    }
    LinkId link(const linking::End& a, const linking::End& b) {
        const auto pair = linking::bestPair(network, catalogue, a, b);
        if (!pair)
            qFatal("%s", pair.refusal().text().c_str());
        auto act = edit::makeLink(network, catalogue, *pair, ids);
        network = act->network;
        return {act->subjects.front().id};
    }
    const Cable& cableOf(LinkId id) const { return *network.cable(network.link(id)->cable); }
    GroupId group(const char* name, GroupKind kind, GroupId in = {}) {
        auto act = edit::addGroup(network, name, kind, in, ids);
        network = act->network;
        return {act->subjects.front().id};
    }
    void shape(GroupId id, auto how) {
        Group group = *network.group(id);
        how(group);
        network.put(group);
    }
    void place(DeviceId id, Place place) {
        Device device = *network.device(id);
        device.place = place;
        network.put(device);
    }
    bool take(edit::ActResult act) {
        if (act)
            network = act->network;
        return static_cast<bool>(act);
    }

    IdSource ids;
    Catalogue catalogue;
    Network network;
};

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

} // namespace

class CablesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void lengths_follow_from_places() {
        Bench b;
        const GroupId house = b.group("House", GroupKind::building),
                      low = b.group("Low", GroupKind::floor, house),
                      high = b.group("High", GroupKind::floor, house),
                      rack = b.group("R1", GroupKind::rack, low);
        const DeviceId sw = b.add("access-switch-24", "sw"), pc = b.add("workstation", "pc"),
                       server = b.add("server", "server");
        const auto way = [&](DeviceId x, DeviceId y) { return linking::wayBetween(b.network, x, y); };
        QVERIFY(text(way(sw, pc).refusal().what).contains("sw has no place"));
        b.shape(rack, [](Group& g) {
            g.xMm = 10'000;
            g.yMm = 2'000;
        });
        b.place(sw, {rack, 0, 0, 0, 40, Side::front});
        b.place(server, {rack, 0, 0, 0, 20, Side::front});
        b.place(pc, {low, 4'000, 6'000, 500, 0, Side::front});
        // 6 m and 4 m along the floor, and from unit 40 down to 0.5 m.
        QCOMPARE(*way(sw, pc), 6'000 + 4'000 + std::llround(39.5 * 44.45) - 500);
        QCOMPARE(*way(sw, server),
                 2 * linking::rackSideMm + std::llround(39.5 * 44.45) - std::llround(19.5 * 44.45));
        b.place(pc, {high, 4'000, 6'000, 0, 0, Side::front});
        QVERIFY(!way(sw, pc)); // both floors are at the same height
        b.shape(high, [](Group& g) { g.heightMm = 4'000; });
        const std::int64_t up = 4'000 - std::llround(39.5 * 44.45);
        QCOMPARE(*way(sw, pc), 6'000 + 4'000 + up); // straight up
        b.shape(house, [](Group& g) { g.risers = {{"far", 90'000, 0}, {"near", 10'000, 0}}; });
        QCOMPARE(*way(sw, pc), 2'000 + (6'000 + 6'000) + up); // by the nearer riser
        // A new link takes the next length in stock: 10 % and a metre at each end.
        const LinkId link = b.link({sw, "1"}, {pc, "1"});
        const std::int64_t wanted = *way(sw, pc) * 110 / 100 + 2'000;
        QVERIFY(b.cableOf(link).lengthMm >= wanted);
        QCOMPARE(b.cableOf(link).lengthMm, std::int64_t(20'000));
        QVERIFY(!b.cableOf(link).lengthMeasured);
        // Another rule, and what was measured stays.
        const LinkId other = b.link({server, {}}, {sw, {}});
        Cable measured = b.cableOf(other);
        measured.lengthMm = 3'210;
        measured.lengthMeasured = true;
        b.network.put(measured);
        QVERIFY(!edit::setLengthRule(b.network, -1, 10) && !edit::setLengthRule(b.network, 0, 101));
        QVERIFY(b.take(edit::setLengthRule(b.network, 0, 0)));
        const auto lengths = edit::newLengths(b.network, {b.cableOf(link).id, measured.id});
        QVERIFY(!b.take(edit::setLengths(b.network, lengths)));   // the next in stock is the same
        QCOMPARE(b.cableOf(link).lengthMm, std::int64_t(20'000)); // 16.2 m
        QCOMPARE(b.cableOf(other).lengthMm, std::int64_t(3'210));
        QCOMPARE(text(lengths[1].remark), QString("measured; it stays"));
    }

    void labels_by_a_scheme() {
        Bench b;
        const DeviceId sw = b.add("access-switch-24", "sw");
        std::vector<CableId> cables;
        for (const char* name : {"a", "b", "c"})
            cables.push_back(b.cableOf(b.link({sw, {}}, {b.add("workstation", name), {}})).id);
        Cable other = *b.network.cable(cables[2]);
        other.label = "sw-002";
        b.network.put(other);
        const auto labels = edit::newLabels(b.network, {cables[0], cables[1]}, "{from}-{001..}");
        QVERIFY(labels);
        QCOMPARE(text((*labels)[0].after), QString("sw-001"));
        QCOMPARE(text((*labels)[1].after), QString("sw-003")); // 2 is taken
        QVERIFY(b.take(edit::labelCables(b.network, *labels, "{from}-{001..}")));
        QCOMPARE(text(b.network.cable(cables[1])->label), QString("sw-003"));
        QCOMPARE(text(b.network.info().labels), QString("{from}-{001..}")); // kept for the next time
        const auto ends = edit::newLabels(b.network, {cables[0]}, "{to}/{to-port}");
        QCOMPARE(text((*ends)[0].after), QString("a/1"));
        QVERIFY(!edit::newLabels(b.network, cables, "{colour}"));
        QVERIFY(!edit::newLabels(b.network, cables, "{rack}-{n}")); // they are in none
    }

    void own_types_stand_in_for_those_of_the_catalogue() {
        Bench b;
        CableType red = *b.catalogue.cable("cat6a");
        red.jacket = "#B3261E";
        red.lengthsMm = {4'000};
        QVERIFY(b.take(edit::stockCable(b.network, red)));
        const Catalogue stocked = edit::withStock(b.catalogue, b.network);
        QCOMPARE(text(stocked.cable("cat6a")->jacket), QString("#B3261E"));
        QCOMPARE(stocked.cables.size(), b.catalogue.cables.size());
        QCOMPARE(stockLength(red, 2'500), std::int64_t(4'000));
        QCOMPARE(stockLength(red, 9'000), std::int64_t(9'000)); // longer than all: cut
        b.link({b.add("access-switch-24", "sw"), {}}, {b.add("till", "t"), {}});
        QVERIFY(
            b.take(edit::unstockCable(b.network, b.catalogue, "cat6a"))); // in use: as in the catalogue again
        QVERIFY(b.network.find<CableType>({fnv1a("cat6a"), 0})->jacket != red.jacket);
        red.id = "mine";
        red.jacket = "red";
        QVERIFY(!edit::stockCable(b.network, red)); // no colour
        red.jacket = "#B3261E";
        QVERIFY(b.take(edit::stockCable(b.network, red)));
        QCOMPARE(edit::withStock(b.catalogue, b.network).cables.size(), b.catalogue.cables.size() + 1);
        QVERIFY(b.take(edit::unstockCable(b.network, b.catalogue, "mine")));
        QVERIFY(!b.network.find<CableType>({fnv1a("mine"), 0}));
    }

    void strands_of_a_trunk_cable_are_used_and_spare() {
        Bench b;
        const DeviceId p = b.add("fibre-panel-12-os2", "p"), q = b.add("fibre-panel-12-os2", "q");
        const auto rear = [&](DeviceId panel, int n) { return PortRef{panel, "R" + std::to_string(n)}; };
        auto act =
            edit::layTrunk(b.network, b.catalogue, {{rear(p, 1), rear(q, 1)}, {rear(p, 2), rear(q, 2)}},
                           "os2-trunk-24", {}, b.ids);
        QVERIFY(act);
        b.network = act->network;
        const CableId trunk = b.network.linkAt(rear(p, 1))->cable;
        QCOMPARE(b.network.all<Cable>().size(), std::size_t(1));
        QCOMPARE(edit::strandsOf(b.network, *b.network.cable(trunk)).spare.size(), std::size_t(20));
        QCOMPARE(edit::sparesBetween(b.network, p, q, 20), std::vector{trunk});
        QVERIFY(edit::sparesBetween(b.network, p, q, 22).empty());
        QVERIFY(
            !edit::layTrunk(b.network, b.catalogue, {{rear(p, 1), rear(q, 3)}}, {}, trunk, b.ids)); // taken
        QVERIFY(b.take(edit::layTrunk(b.network, b.catalogue, {{rear(p, 3), rear(q, 7)}}, {}, trunk, b.ids)));
        QCOMPARE(b.network.linkAt(rear(p, 3))->positions, (std::vector<int>{5, 6}));
        // Strands 3 and 4 come free; the cable stays even when nothing uses it.
        const auto unlink = [&](int port) {
            return edit::removeObjects(b.network, {refTo(b.network.linkAt(rear(p, port))->id)});
        };
        QVERIFY(b.take(unlink(2)));
        QCOMPARE(edit::strandsOf(b.network, *b.network.cable(trunk)).spare.front(), 3);
        QVERIFY(b.take(unlink(1)) && b.take(unlink(3)));
        QVERIFY(b.network.cable(trunk));
        QVERIFY(!edit::layTrunk(b.network, b.catalogue, {{rear(p, 1), rear(q, 1)}}, "os2-lc", {}, b.ids));
        // A chain runs through with its strands.
        QVERIFY(b.take(edit::layTrunk(b.network, b.catalogue, {{rear(p, 4), rear(q, 5)}}, {}, trunk, b.ids)));
        const DeviceId one = b.add("access-switch-24", "one"), two = b.add("access-switch-24", "two");
        b.link({one, "X1"}, {p, "4"});
        b.link({q, "5"}, {two, "X1"});
        QCOMPARE(*linking::farEnd(b.network, {one, "X1"}), (PortRef{two, "X1"}));
    }

    void modules_come_and_go_with_their_ports() {
        Bench b;
        const DeviceId core = b.add("core-switch-modular", "core"), acc = b.add("access-switch-24", "acc");
        const auto fit = [&](const char* slot, const char* module, WithLinks links = WithLinks::refuse) {
            return edit::fitModule(b.network, b.catalogue, core, slot, module, links);
        };
        QVERIFY(!fit("9", "module-24-rj45"));
        QVERIFY(!fit("1", "module-4-sfp")); // made for another device
        QVERIFY(b.take(fit("1", "module-24-rj45")));
        QVERIFY(portAt(b.network, {core, "1/24"}));
        b.link({core, "1/3"}, {acc, "mgmt"});
        const auto refused = edit::removeModule(b.network, core, "1", WithLinks::refuse);
        QVERIFY(!refused);
        QCOMPARE(text(refused.refusal().what),
                 QString("the module in slot 1 of core cannot be taken out: 1/3 is linked"));
        QVERIFY(!fit("1", "module-12-sfpp"));
        QVERIFY(b.take(fit("1", "module-12-sfpp", WithLinks::unlink))); // replaced
        QCOMPARE(b.network.all<Link>().size(), std::size_t(0));
        QVERIFY(portAt(b.network, {core, "1/12"}) && !portAt(b.network, {core, "1/24"}));
        QVERIFY(b.take(edit::removeModule(b.network, core, "1", WithLinks::refuse)));
        QVERIFY(!portAt(b.network, {core, "1/1"}));
    }

    void transceivers_and_additional_ports() {
        Bench b;
        const DeviceId acc = b.add("access-switch-24", "acc"), pc = b.add("workstation", "pc");
        const PortRef cage{acc, "X1"};
        QVERIFY(!edit::fitTransceiver(b.network, b.catalogue, {acc, "1"}, "sfpp-10gbase-sr"));
        QVERIFY(!edit::fitTransceiver(b.network, b.catalogue, cage, "qsfpp-40gbase-sr4")); // another form
        QVERIFY(!edit::fitTransceiver(b.network, b.catalogue, cage, "sfp-100base-fx"));    // another rate
        QVERIFY(b.take(edit::fitTransceiver(b.network, b.catalogue, cage, "sfpp-10gbase-sr")));
        QVERIFY(!edit::removeTransceiver(b.network, {acc, "X2"}, WithLinks::refuse));
        b.link({acc, "X1"}, {b.add("access-switch-24", "other"), "X1"});
        QVERIFY(!edit::removeTransceiver(b.network, cage, WithLinks::refuse));
        QVERIFY(b.take(edit::removeTransceiver(b.network, cage, WithLinks::unlink)));
        QCOMPARE(b.network.all<Link>().size(), std::size_t(0));
        QVERIFY(b.take(edit::addPort(b.network, b.catalogue, pc, "3")));
        QVERIFY(!edit::addPort(b.network, b.catalogue, pc, "7"));
        QVERIFY(portAt(b.network, {pc, "3"}));
        QVERIFY(!edit::removePort(b.network, {pc, "1"}, WithLinks::refuse)); // part of the model
        QVERIFY(b.take(edit::removePort(b.network, {pc, "3"}, WithLinks::refuse)));
        QVERIFY(!portAt(b.network, {pc, "3"}));
    }

    void what_would_give_a_port_is_offered() {
        Bench b;
        const DeviceId core = b.add("core-switch-modular", "core"), pc = b.add("workstation", "pc");
        QVERIFY(b.take(edit::changeEach<Device>(b.network, {{core.value, 0}}, "x", [](Device&) {})));
        const DeviceId till = b.add("till", "till");
        // The core has no RJ45 for data but its management port: a line module would give some.
        const auto rows = linking::drawerRows(b.network, b.catalogue, {till, {}}, core);
        const auto offer = std::find_if(rows.begin(), rows.end(), [](const auto& row) {
            return row.standing == linking::Standing::needsSupply;
        });
        QVERIFY(offer != rows.end());
        QCOMPARE(text(offer->supply->id), QString("module-24-rj45"));
        QCOMPARE(text(offer->port), QString("1/1"));
        QVERIFY2(text(offer->text).contains("hot-swap") && text(offer->text).contains("3 slots stay free"),
                 offer->text.c_str());
        linking::Proposal proposal{{till, offer->other}, {core, offer->port}, offer->joint, "x"};
        proposal.supplyB = offer->supply;
        QVERIFY(b.take(edit::makeLink(b.network, b.catalogue, proposal, b.ids)));
        QVERIFY(b.network.linkAt({core, "1/1"}));
        // A workstation with its port taken offers another, at the end the link comes from too.
        b.link({pc, "1"}, {core, "1/2"});
        const auto behind = linking::drawerRows(b.network, b.catalogue, {pc, {}}, core);
        QVERIFY(std::any_of(behind.begin(), behind.end(),
                            [](const auto& row) { return row.otherSupply && row.otherSupply->id == "2"; }));
    }

    void results_of_a_tester() {
        Bench b;
        const LinkId link = b.link({b.add("access-switch-24", "sw"), {}}, {b.add("till", "t"), {}});
        Cable cable = b.cableOf(link);
        cable.label = "C-1";
        b.network.put(cable);
        const auto results = edit::mergeResults(b.network,
                                                "Label;Test;Value;Limit;Unit\r\n"
                                                "C-1;NEXT;41,5;35,3;dB\r\n"
                                                "C-1;Length;12,4;;m\r\n"
                                                "C-9;NEXT;41,5;35,3;dB\r\n"
                                                "C-1;next;40;35;dB\r\n"
                                                "C-1;loss;abc;35;dB\r\n"
                                                "C-1;loss;3;;dB\r\n",
                                                "r.csv");
        QVERIFY(results);
        QCOMPARE(results->count(edit::Match::added), 2);
        QCOMPARE(results->count(edit::Match::wrong), 4); // unknown label, twice, no number, no limit
        QVERIFY(b.take(edit::takeSchedule(b.network, *results)));
        QCOMPARE(b.cableOf(link).measured, (std::vector<Measured>{{"NEXT", 41.5, 35.3, "dB"}}));
        QCOMPARE(b.cableOf(link).lengthMm, std::int64_t(12'400));
        QVERIFY(b.cableOf(link).lengthMeasured);
        const auto again =
            edit::mergeResults(b.network, "label,test,value,limit,unit\nC-1,NEXT,41.5,35.3,dB\n", "r");
        QCOMPARE(again->count(edit::Match::same), 1);
        QVERIFY(!edit::mergeResults(b.network, "a,b\n1,2\n", "r"));
    }

    void workbooks_go_out_and_in() {
        Bench b;
        const DeviceId sw = b.add("access-switch-24", "0123"); // a name that looks like a number stays a text
        const LinkId link = b.link({sw, {}}, {b.add("till", "=till"), {}});
        Cable cable = b.cableOf(link);
        cable.label = "C-1";
        cable.lengthMm = 12'500;
        b.network.put(cable);
        const auto written = exchange::writeXlsx(b.network);
        QVERIFY(exchange::isWorkbook(written.bytes));
        const auto read = exchange::readAny(written.bytes, {"x.xlsx", b.catalogue});
        QVERIFY2(read, read ? "" : read.refusal().text().c_str());
        QCOMPARE(read->network.all<Device>().size(), std::size_t(2));
        const Cable* back = nullptr;
        read->network.all<Cable>().forEach([&](const Cable& each) { back = &each; });
        QVERIFY(back && back->lengthMm == 12'500 && back->label == "C-1");
        bool named = false;
        read->network.all<Device>().forEach([&](const Device& device) { named |= device.name == "0123"; });
        QVERIFY(named);
        // The same workbook is a cable schedule: the sheet with "from" is taken.
        const auto schedule = edit::mergeSchedule(b.network, b.catalogue, written.bytes, "x.xlsx", b.ids);
        QVERIFY2(schedule, schedule ? "" : schedule.refusal().text().c_str());
        QCOMPARE(schedule->count(edit::Match::same), 1);
        for (std::size_t cut : {std::size_t(10), written.bytes.size() / 2, written.bytes.size() - 5})
            QVERIFY(!exchange::readAny(written.bytes.substr(0, cut), {"x.xlsx", b.catalogue}));
    }

    void a_trunk_cable_is_in_a_schedule_once_for_each_link() {
        Bench b;
        const DeviceId p = b.add("fibre-panel-12-os2", "p"), q = b.add("fibre-panel-12-os2", "q");
        QVERIFY(
            b.take(edit::layTrunk(b.network, b.catalogue, {{{p, "R1"}, {q, "R1"}}, {{p, "R2"}, {q, "R2"}}},
                                  "os2-trunk-24", {}, b.ids)));
        Cable cable = *b.network.cable(b.network.linkAt({p, "R1"})->cable);
        cable.label = "T-1";
        b.network.put(cable);
        const auto schedule = edit::mergeSchedule(b.network, b.catalogue,
                                                  exchange::writeXlsx(b.network).bytes, "x.xlsx", b.ids);
        QVERIFY(schedule);
        QCOMPARE(schedule->count(edit::Match::same), 2);
        QVERIFY(edit::readSchedule(exchange::writeXlsx(b.network).bytes, "x.xlsx")->isSure());
    }

    void columns_that_are_not_sure_are_asked_for() {
        Bench b;
        b.add("access-switch-24", "sw");
        b.add("till", "t");
        const char* bytes = "Unit,Socket,Goes to,There\nsw,4,t,1\n";
        auto table = edit::readSchedule(bytes, "s.csv");
        QVERIFY(table && !table->isSure());
        QVERIFY(!edit::mergeSchedule(b.network, b.catalogue, *table, "s.csv", b.ids));
        table->fields = {0, 1, 2, 3};
        const auto schedule = edit::mergeSchedule(b.network, b.catalogue, *table, "s.csv", b.ids);
        QVERIFY(schedule);
        QCOMPARE(schedule->count(edit::Match::added), 1);
        QVERIFY(edit::readSchedule("from,from port,to,to port\n", "s")->isSure());
    }
};

QTEST_APPLESS_MAIN(CablesTest)
#include "cables_test.moc"
