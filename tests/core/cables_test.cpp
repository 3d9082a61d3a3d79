// SPDX-License-Identifier: GPL-3.0-or-later
// Pieces of cable and what is fitted: stock, labels, lengths, results, trunk cables,
// modules, transceivers.
#include "core/edit/cables.h"
#include "core/edit/devices.h"
#include "core/edit/fittings.h"
#include "core/edit/lags.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/edit/places.h"
#include "core/edit/remedies.h"
#include "core/edit/results.h"
#include "core/edit/sheets.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "core/exchange/workbook.h"
#include "core/linking/chain.h"
#include "core/linking/route.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <set>

using namespace underridge;
using namespace underridge::model;
using edit::WithLinks;
using tests::text;
using Bench = tests::Workbench;

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
        const auto way = [&](DeviceId x, DeviceId y) {
            return linking::wayBetween(b.network, {x, {}}, {y, {}});
        };
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

    void a_trunk_cable_has_the_ends_of_its_links_and_no_others() {
        Bench b;
        const DeviceId p = b.add("fibre-panel-12-os2", "p"), q = b.add("fibre-panel-12-os2", "q");
        const auto rear = [&](DeviceId panel, int n) { return PortRef{panel, "R" + std::to_string(n)}; };
        const auto lay = [&](int from, int to, CableId onto) {
            return b.take(edit::layTrunk(b.network, b.catalogue, {{rear(p, from), rear(q, to)}},
                                         onto ? "" : "os2-trunk-24", onto, b.ids));
        };
        const auto unlink = [&](int port) {
            return b.take(edit::removeObjects(b.network, {refTo(b.network.linkAt(rear(p, port))->id)}));
        };
        QVERIFY(lay(1, 1, {}));
        const CableId trunk = b.network.linkAt(rear(p, 1))->cable;
        const auto ends = [&] { return b.network.cable(trunk)->ends; };
        QVERIFY(lay(2, 2, trunk));
        QCOMPARE(ends().size(), std::size_t{4});
        QVERIFY(unlink(1));
        QCOMPARE(ends().size(), std::size_t{2});
        QCOMPARE(ends()[0].at, rear(p, 2));
        QVERIFY(lay(1, 5, trunk)); // laid anew to another port
        QCOMPARE(ends().size(), std::size_t{4});
        QVERIFY(unlink(1) && unlink(2));
        QCOMPARE(ends(), (std::vector<CableEnd>{{{p, {}}, {}}, {{q, {}}, {}}})); // spare, still from p to q
        QCOMPARE(edit::sparesBetween(b.network, p, q, 24), std::vector{trunk});
        QVERIFY(lay(7, 8, trunk));
        QCOMPARE(ends().size(), std::size_t{2});
        QCOMPARE(ends()[1].at, rear(q, 8));
    }

    void putting_one_link_right_leaves_the_trunk_cable_of_the_others_alone() {
        Bench b;
        const DeviceId p = b.add("fibre-panel-12-os2", "p"), q = b.add("fibre-panel-12-os2", "q");
        // A trunk cable with other plugs than the panels take: nothing on it will come up.
        CableType wrong = *b.catalogue.cable("os2-trunk-24");
        wrong.id = "wrong";
        wrong.connectorA = wrong.connectorB = Connector::sc;
        b.network.put(wrong);
        Cable trunk;
        trunk.id = b.ids.make<CableId>();
        trunk.type = wrong.id;
        std::vector<LinkId> links;
        for (const int n : {1, 2}) {
            Link link;
            link.id = b.ids.make<LinkId>();
            link.a = {p, "R" + std::to_string(n)};
            link.b = {q, "R" + std::to_string(n)};
            link.cable = trunk.id;
            link.positions = {2 * n - 1, 2 * n};
            trunk.ends.insert(trunk.ends.end(), {{link.a, link.positions}, {link.b, link.positions}});
            links.push_back(link.id);
            b.network.put(link);
        }
        b.network.put(trunk);
        const auto findings = linking::check(b.network, b.catalogue);
        const auto first = std::find_if(findings.begin(), findings.end(), [&](const auto& finding) {
            return finding.remedy.link == links[0] && finding.remedy.kind == linking::Remedy::Kind::useCable;
        });
        QVERIFY(first != findings.end());
        QVERIFY(b.take(edit::applyRemedy(b.network, b.catalogue, *first, b.ids)));
        QCOMPARE(text(b.network.cable(trunk.id)->type), QStringLiteral("wrong"));
        QCOMPARE(b.network.link(links[1])->cable, trunk.id);
        QVERIFY(b.network.link(links[0])->cable != trunk.id);
        QCOMPARE(b.network.cable(trunk.id)->ends.size(), std::size_t{2}); // the other link's
        QVERIFY(b.cableOf(links[0]).type != "wrong");
    }

    void lanes_of_a_breakout_assembly_change_one_at_a_time() {
        Bench b;
        const DeviceId spine = b.add("fabric-spine-32", "spine"), leaf = b.add("fabric-leaf-48", "leaf");
        QVERIFY(b.take(edit::setBreakout(b.network, {spine, "1"}, 4, WithLinks::refuse)));
        std::vector<LinkId> lanes;
        for (int lane = 1; lane <= 4; ++lane)
            lanes.push_back(b.link({spine, "1/" + std::to_string(lane)}, {leaf, std::to_string(lane)}));
        const CableId assembly = b.network.link(lanes[0])->cable;
        for (const LinkId lane : lanes)
            QCOMPARE(b.network.link(lane)->cable, assembly);
        QCOMPARE(b.network.cable(assembly)->ends.size(), std::size_t{5});
        std::set<int> strands; // each lane has its own, and together they have all
        for (const LinkId lane : lanes)
            for (const int position : b.network.link(lane)->positions)
                QVERIFY(strands.insert(position).second);
        QCOMPARE(static_cast<int>(strands.size()), b.network.typeOf(b.cableOf(lanes[0]))->positions);
        QCOMPARE(*strands.begin(), 1);
        const auto move = [&](LinkId lane, const PortRef& to) {
            const auto pair = b.best({spine, b.network.link(lane)->a.port}, {to.device, to.port});
            auto next = pair ? *pair : linking::Proposal{};
            if (!pair) { // the lane is taken, by this very link: the joint as it would be without it
                const Network without = edit::removeObjects(b.network, {refTo(lane)})->network;
                next = *linking::bestPair(without, b.catalogue, {spine, b.network.link(lane)->a.port},
                                          {to.device, to.port});
            }
            return b.take(edit::changeLink(b.network, b.catalogue, lane, next, b.ids));
        };
        QVERIFY(move(lanes[1], {leaf, "9"}));
        QVERIFY(move(lanes[1], {leaf, "10"})); // and once more
        QVERIFY(move(lanes[3], {leaf, "11"}));
        // The first and third are where they were, on an assembly that ends there.
        for (const int i : {0, 2}) {
            const Link& link = *b.network.link(lanes[static_cast<std::size_t>(i)]);
            QCOMPARE(link.b, (PortRef{leaf, std::to_string(i + 1)}));
            const std::vector<CableEnd>& ends = b.cableOf(link.id).ends;
            QVERIFY(
                std::any_of(ends.begin(), ends.end(), [&](const CableEnd& end) { return end.at == link.b; }));
        }
        QCOMPARE(b.network.link(lanes[1])->b, (PortRef{leaf, "10"}));
        // No piece of cable is there that no link is on.
        std::set<CableId> used;
        b.network.all<Link>().forEach([&](const Link& link) { used.insert(link.cable); });
        QCOMPARE(b.network.all<Cable>().size(), used.size());
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

    void a_workbook_gives_back_its_cells_where_they_were() {
        Bench b;
        const DeviceId one = b.add("access-switch-24", "acc-1"), two = b.add("till", "till-1");
        b.link({one, {}}, {two, {}});
        QVERIFY(b.take(edit::setAddress(b.network, one, {}, "10.84.1.1/24", b.ids)));
        const auto written = exchange::writeXlsx(b.network);
        const auto read = exchange::readXlsx(written.bytes, {"x.xlsx", b.catalogue});
        QVERIFY(read);
        // Cell by cell what the same tables say as plain text.
        const auto plain = exchange::readCsv(exchange::writeCsv(b.network).bytes, {"x.csv", b.catalogue});
        QVERIFY(plain);
        QCOMPARE(exchange::writeCsv(read->network).bytes, exchange::writeCsv(plain->network).bytes);
        const Interface* back = nullptr;
        read->network.all<Interface>().forEach([&](const Interface& each) { back = &each; });
        QVERIFY(back && back->addresses == std::vector<Address>{"10.84.1.1/24"});
    }

    void two_lags_of_a_device_have_names_of_their_own() {
        Bench b;
        const DeviceId one = b.add("access-switch-24", "a"), two = b.add("access-switch-24", "b");
        std::vector<LinkId> links;
        for (int i = 0; i < 4; ++i)
            links.push_back(b.link({one, {}}, {two, {}}));
        QVERIFY(b.take(edit::makeLag(b.network, {links[0], links[1]}, {}, b.ids)));
        QVERIFY(b.take(edit::makeLag(b.network, {links[2], links[3]}, {}, b.ids)));
        std::set<std::string> names;
        b.network.all<Interface>().forEachIn(one.value, [&](const Interface& i) {
            if (i.type == InterfaceKind::lag)
                QVERIFY2(names.insert(i.name).second, i.name.c_str());
        });
        QCOMPARE(names, (std::set<std::string>{"lag1", "lag2"}));
    }

    void what_was_added_is_not_offered_again() {
        Bench b;
        const DeviceId pc = b.add("workstation", "pc");
        const auto offered = linking::addable(b.network, *b.network.device(pc));
        QVERIFY(!offered.empty());
        QVERIFY(b.take(edit::addPort(b.network, b.catalogue, pc, offered.front())));
        const auto left = linking::addable(b.network, *b.network.device(pc));
        QVERIFY(std::find(left.begin(), left.end(), offered.front()) == left.end());
    }

    void a_place_is_one_that_is_there_and_the_group_agrees() {
        Bench b;
        const auto floor = b.group("Quay level", GroupKind::floor),
                   rack = b.group("R1", GroupKind::rack, floor),
                   other = b.group("Upper floor", GroupKind::floor),
                   tills = b.group("Tills", GroupKind::cluster);
        b.shape(rack, [](Group& group) { group.rackUnits = 42; });
        const DeviceId sw = b.add("access-switch-24", "sw");
        const auto put = [&](Place place) { return b.take(edit::setPlace(b.network, {sw}, place)); };
        QVERIFY(put({rack, 0, 0, 0, 42, Side::front}));
        QVERIFY(!put({rack, 0, 0, 0, 43, Side::front}));
        QVERIFY(!put({rack, 0, 0, 0, -1, Side::front}));
        QVERIFY(!put({tills, 0, 0, 0, 0, Side::front}));
        QVERIFY(!put({floor, 200'000'000, 0, 0, 0, Side::front}));
        QCOMPARE(b.network.device(sw)->place.unit, 42);
        Device moved = *b.network.device(sw);
        moved.group = floor;
        b.network.put(moved);
        QVERIFY(put({rack, 0, 0, 0, 7, Side::front})); // further inside: the group stays
        QCOMPARE(b.network.device(sw)->group, floor);
        QVERIFY(put({other, 1000, 0, 0, 0, Side::front}));
        QCOMPARE(b.network.device(sw)->group, other);
    }

    void a_rack_that_goes_leaves_what_stood_in_it_on_its_floor() {
        Bench b;
        const auto floor = b.group("Quay level", GroupKind::floor),
                   rack = b.group("R1", GroupKind::rack, floor), kept = b.group("R2", GroupKind::rack, floor);
        b.shape(rack, [](Group& group) { group.xMm = 5000; });
        const DeviceId sw = b.add("access-switch-24", "stack");
        Device device = *b.network.device(sw);
        device.stack = {{1, "access-switch-24", "", {rack, 0, 0, 0, 3, Side::front}},
                        {2, "access-switch-24", "", {kept, 0, 0, 0, 4, Side::front}}};
        device.place = {kept, 0, 0, 0, 9, Side::front};
        b.network.put(device);
        QVERIFY(b.take(edit::removeObjects(b.network, {refTo(rack)})));
        const Device& now = *b.network.device(sw);
        QCOMPARE(now.stack[0].place.in, floor);
        QCOMPARE(now.stack[0].place.xMm, std::int64_t{5000});
        QCOMPARE(now.stack[1].place.in, kept);
        QCOMPARE(now.place.in, kept);
        QVERIFY(b.network.indicesAreTrue());
    }

    void what_stood_on_a_modules_ports_goes_with_it() {
        Bench b;
        const DeviceId core = b.add("core-switch-modular", "core");
        const Slot& slot = b.network.modelOf(*b.network.device(core))->slots.front();
        QVERIFY(b.take(
            edit::fitModule(b.network, b.catalogue, core, slot.key, slot.fits.front(), WithLinks::refuse)));
        const std::string port = slot.key + "/1";
        QVERIFY(portAt(b.network, {core, port}));
        QVERIFY(b.take(edit::setAddress(b.network, core, port, "10.84.1.1/24", b.ids)));
        InterfaceId below;
        b.network.all<Interface>().forEachIn(core.value, [&](const Interface& i) { below = i.id; });
        Interface sub;
        sub.id = b.ids.make<InterfaceId>();
        sub.device = core;
        sub.type = InterfaceKind::subinterface;
        sub.parent = below;
        sub.name = port + ".20";
        b.network.put(sub);
        Interface lag;
        lag.id = b.ids.make<InterfaceId>();
        lag.device = core;
        lag.type = InterfaceKind::lag;
        lag.members = {"1", port};
        b.network.put(lag);
        QVERIFY(b.take(edit::removeModule(b.network, core, slot.key, WithLinks::refuse)));
        QCOMPARE(b.network.all<Interface>().size(), std::size_t{1});
        QCOMPARE(b.network.find<Interface>(lag.key())->members, std::vector<std::string>{"1"});
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
        // The core has no RJ45 for data but its management port: a line module would give
        // some.
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
        // A workstation with its port taken offers another, at the end the link comes
        // from too.
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
        QVERIFY(b.take(edit::takeSchedule(*results)));
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

UNDERRIDGE_TEST(CablesTest)
#include "cables_test.moc"
