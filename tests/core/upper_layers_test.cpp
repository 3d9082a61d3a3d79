// SPDX-License-Identifier: GPL-3.0-or-later
// Sheets of the data link and the network layer: what is on them follows from the network,
// where it stands is kept.
#include "core/analysis/layers.h"
#include "core/edit/arranging.h"
#include "core/edit/following.h"
#include "core/edit/layer_sheets.h"
#include "core/edit/objects.h"
#include "core/exchange/own_format.h"
#include "core/scene/scene.h"
#include "tests/support/first_office.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

#include <random>

using namespace underridge;
using namespace underridge::model;
using analysis::frameLinksOf;
using analysis::networkLayerOf;
using scene::Scene;

namespace {

struct Layered : tests::Forwarded {
    /// An act as a document does it: what follows from it is done too.
    bool does(edit::ActResult act) {
        if (act)
            edit::followAct(network, act->network);
        return take(act);
    }
    void does(const std::string& lines) {
        const Network before = network;
        acts(lines);
        edit::followAct(before, network);
    }
    SheetId addSheet(SheetLayer layer, const std::string& name = "upper") {
        const auto act = edit::addLayerSheet(network, name, layer, ids);
        if (!act)
            qFatal("%s", act.refusal().text().c_str());
        does(act);
        return {act->subjects.front().id};
    }
    /// "s1 X1 – s2 X1: VLANs 10, 20", sorted.
    QStringList frames() const {
        QStringList out;
        for (const auto& each : frameLinksOf(network))
            out << tests::text(std::min(portText(network, each.a), portText(network, each.b)) + " – " +
                               std::max(portText(network, each.a), portText(network, each.b)) +
                               (each.vlans.empty() ? "" : ": " + each.vlans));
        out.sort();
        return out;
    }
    /// "10.84.1.0/24 r1 r2 +3": a subnet, its routers, and how many hosts; sorted.
    QStringList subnets() const {
        const auto layer = networkLayerOf(network);
        QStringList out;
        for (const auto& node : layer.subnets) {
            QStringList words, routers;
            for (const Address& prefix : node.prefixes)
                words << tests::text(prefix.text());
            for (const auto& each : layer.attachments)
                if (each.subnet == node.id)
                    routers << tests::text(network.device(each.device)->name);
            routers.sort();
            words << routers;
            if (node.hosts > 0)
                words << QStringLiteral("+%1").arg(node.hosts);
            out << words.join(' ');
        }
        out.sort();
        return out;
    }
    DeviceId named(const std::string& name) const {
        DeviceId found;
        network.all<Device>().forEach([&](const Device& device) {
            if (device.name == name)
                found = device.id;
        });
        return found;
    }
    SubnetId subnet(const char* prefix) const {
        for (const auto& node : networkLayerOf(network).subnets)
            for (const Address& each : node.prefixes)
                if (each.text() == prefix)
                    return node.id;
        return {};
    }
    InterfaceId interfaceOf(const std::string& device) const {
        InterfaceId found;
        network.all<Interface>().forEachIn(named(device).value, [&](const Interface& each) {
            if (!each.addresses.empty())
                found = each.id;
        });
        return found;
    }
    std::optional<Point> at(SheetId on, std::uint64_t object) const {
        const Position* position = network.position(on, object);
        return position ? std::optional(position->at) : std::nullopt;
    }
};

/// Two routers, three subnets, a host in one of them.
struct Routers : Layered {
    Routers() {
        router("r1");
        router("r2");
        link("r1:1", "r2:1");
        routed("r1", "1", "10.84.9.0/31", "'area':'0','cost':10");
        routed("r2", "1", "10.84.9.1/31", "'area':'0','cost':10");
        routed("r1", "2", "10.84.1.1/24", "'area':'0','passive':true");
        routed("r2", "2", "10.84.2.1/24");
        acts("{'act':'add','model':'workstation','names':'h1'}");
        acts("{'act':'address','at':'h1:1','address':'10.84.1.7/24'}");
    }
};

} // namespace

class UpperLayersTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // --- who hands frames to whom -------------------------------------------------

    void panels_are_passed() {
        Layered n;
        n.acts("{'act':'add','model':'patch-panel-24','names':'pp'}");
        n.switches(1);
        n.acts("{'act':'add','model':'workstation','names':'h'}");
        n.link("s1:1", "pp:1");
        n.acts("{'act':'link','from':'h:1','to':'pp:R1'}");
        const auto links = frameLinksOf(n.network);
        QCOMPARE(n.frames(), QStringList{"h 1 – s1 1"});
        QCOMPARE(links.front().links.size(), std::size_t{2});
    }
    void a_lag_is_one() {
        Layered n;
        n.switches(2);
        n.link("s1:X1", "s2:X1");
        n.link("s1:X2", "s2:X2");
        QCOMPARE(n.frames().size(), 2);
        std::vector<LinkId> both;
        n.network.all<Link>().forEach([&](const Link& link) { both.push_back(link.id); });
        n.acts("{'act':'lag','from':'s1','to':'s2','name':'lag1'}");
        const auto links = frameLinksOf(n.network);
        QCOMPARE(links.size(), std::size_t{1});
        std::sort(both.begin(), both.end());
        QCOMPARE(links.front().links, both);
        // On its sheet both links are that line, and it says the LAG.
        const SheetId sheet = n.addSheet(SheetLayer::dataLink);
        const Scene scene = Scene::build(n.network, sheet);
        QCOMPARE(scene.count<scene::LinkLine>(), std::size_t{1});
        QVERIFY(scene.link(both[0]) && scene.link(both[0]) == scene.link(both[1]));
        QVERIFY(scene.link(both[0])->inLag);
        QCOMPARE(tests::text(scene.link(both[0])->labels.front().text), QString("lag1"));
    }
    void what_is_down_hands_on_nothing() {
        Layered n;
        n.switches(2);
        n.link("s1:X1", "s2:X1");
        QCOMPARE(n.frames().size(), 1);
        n.port({n.named("s2"), "X1"}, [](Port& port) { port.disabled = true; });
        QVERIFY(n.frames().empty());
    }
    void links_say_the_vlans_both_ends_have() {
        Layered n;
        n.switches(2);
        n.vlans({10, 20, 21, 22, 30, 99});
        n.link("s1:X1", "s2:X1");
        QCOMPARE(n.frames(), QStringList{"s1 X1 – s2 X1"}); // nobody has set any
        n.tag("s1:X1", "10,20-22,30", 99);
        n.tag("s2:X1", "20-22,30", 99);
        QCOMPARE(n.frames(), QStringList{"s1 X1 – s2 X1: VLANs 20–22, 30, 99 untagged"});
        n.tag("s2:X1", "30", 10);
        const auto mismatched = n.frames();
        QVERIFY(mismatched == QStringList{"s1 X1 – s2 X1: VLAN 30, 99 to 10 untagged"} ||
                mismatched == QStringList{"s1 X1 – s2 X1: VLAN 30, 10 to 99 untagged"});
        n.tag("s1:X1", "", 10);
        n.tag("s2:X1", "", 10);
        QCOMPARE(n.frames(), QStringList{"s1 X1 – s2 X1: VLAN 10"});
        n.tag("s2:X1", "20");
        QVERIFY(n.frames().front().contains("10 to none") || n.frames().front().contains("none to 10"));
    }
    void a_host_is_in_the_vlan_of_its_port() {
        Layered n;
        n.switches(1);
        n.vlans({20});
        n.host("h", "s1:1", "10.84.20.5/24", 20);
        QCOMPARE(n.frames(), QStringList{"h 1 – s1 1: VLAN 20"});
    }

    // --- subnets ------------------------------------------------------------------

    void routers_are_joined_by_subnets() {
        const Routers n;
        QCOMPARE(n.subnets(), (QStringList{"10.84.1.0/24 r1 +1", "10.84.2.0/24 r2", "10.84.9.0/31 r1 r2"}));
        const auto layer = networkLayerOf(n.network);
        QCOMPARE(layer.attachments.size(), std::size_t{4});
        std::multiset<std::string> ospf;
        for (const auto& each : layer.attachments)
            ospf.insert(each.ospf);
        QCOMPARE(ospf, (std::multiset<std::string>{"", "", "area 0, cost 10", "area 0, cost 10"}));
    }
    void prefixes_on_one_interface_are_one_subnet() {
        Layered n;
        n.router("r1");
        n.router("r2");
        n.acts("{'act':'interface','device':'r1','port':'1','addresses':['10.84.1.1/24','fd84::1/64']}\n"
               "{'act':'interface','device':'r2','port':'1','addresses':['fd84::2/64']}");
        QCOMPARE(n.subnets(), QStringList{"10.84.1.0/24 fd84::/64 r1 r2"});
    }
    void vrfs_are_apart() {
        Layered n;
        n.router("r1");
        n.acts("{'act':'interface','device':'r1','port':'1','addresses':['10.84.1.1/24'],'vrf':'red'}\n"
               "{'act':'interface','device':'r1','port':'2','addresses':['10.84.1.1/24'],'vrf':'blue'}");
        QCOMPARE(n.subnets(), (QStringList{"10.84.1.0/24 r1", "10.84.1.0/24 r1"}));
    }
    void loopbacks_and_lone_hosts_make_no_subnet() {
        Layered n;
        n.router("r1");
        n.routed("r1", "1", "10.84.255.1/32");
        n.acts("{'act':'add','model':'workstation','count':2,'names':'h{1..}'}");
        n.acts("{'act':'address','at':'h1:1','address':'10.84.7.1/24'}");
        QVERIFY(n.subnets().empty());
        n.acts("{'act':'address','at':'h2:1','address':'10.84.7.2/24'}");
        QCOMPARE(n.subnets(), QStringList{"10.84.7.0/24 +2"});
    }
    void a_host_with_another_mask_is_where_its_address_lies() {
        Routers n;
        n.acts("{'act':'add','model':'workstation','names':'h2'}\n"
               "{'act':'address','at':'h2:1','address':'10.84.1.9/16'}");
        QVERIFY(n.subnets().contains("10.84.1.0/24 r1 +2"));
    }
    void recorded_subnets_keep_their_number_others_are_known_again() {
        Routers n;
        const SubnetId before = n.subnet("10.84.1.0/24");
        QVERIFY(before);
        QVERIFY(before == n.subnet("10.84.1.0/24"));
        const SubnetId recorded = n.ids.make<SubnetId>();
        n.network.put(Subnet{recorded, "10.84.1.0/24", "tills", {}, {}, {}, {}, {}});
        QVERIFY(n.subnet("10.84.1.0/24") == recorded);
    }

    // --- their sheets ---------------------------------------------------------------

    void a_sheet_has_what_is_on_its_layer() {
        Routers n;
        n.acts("{'act':'add','model':'patch-panel-24','names':'pp'}");
        const SheetId links = n.addSheet(SheetLayer::dataLink, "links"),
                      subnets = n.addSheet(SheetLayer::network, "subnets");
        const Scene upper = Scene::build(n.network, subnets), lower = Scene::build(n.network, links);
        QVERIFY(!lower.plate(n.named("pp")) && lower.plate(n.named("r1")) && lower.plate(n.named("h1")));
        QVERIFY(!upper.plate(n.named("h1")) && upper.plate(n.named("r1")));
        QCOMPARE(upper.count<scene::Plate>(), std::size_t{5});
        QCOMPARE(upper.count<scene::LinkLine>(), std::size_t{4});
        const scene::Item* shown = upper.item(refTo(n.subnet("10.84.1.0/24")));
        QVERIFY(shown && shown->as<scene::Plate>()->subnet);
        QCOMPARE(tests::text(shown->as<scene::Plate>()->subline), QString("1 host"));
        const scene::Item* line = upper.item(refTo(n.interfaceOf("r2")));
        QVERIFY(line && line->as<scene::LinkLine>());
        QVERIFY(upper.gridIsTrue() && lower.gridIsTrue());
        // The sheet of cables has none of it.
        const Scene cables = Scene::build(n.network, n.sheet);
        QCOMPARE(cables.count<scene::Plate>(), std::size_t{4});
        QCOMPARE(cables.count<scene::LinkLine>(), std::size_t{1});
    }
    void nothing_overlaps_as_it_is_arranged() {
        Layered n;
        n.network = tests::demo("fennick-quay");
        for (const SheetLayer layer : {SheetLayer::dataLink, SheetLayer::network}) {
            const SheetId sheet = n.addSheet(layer, std::string(textOf(layer)));
            const Scene scene = Scene::build(n.network, sheet);
            std::vector<scene::Rect> frames;
            scene.forEachPlate([&](const scene::Plate& plate) { frames.push_back(plate.frame); });
            QVERIFY(frames.size() > 20);
            for (std::size_t i = 0; i < frames.size(); ++i)
                for (std::size_t j = 0; j < i; ++j)
                    QVERIFY(!frames[i].intersects(frames[j]));
        }
    }
    void a_layer_is_refused_where_it_means_nothing() {
        Layered n;
        QVERIFY(!edit::addLayerSheet(n.network, "x", SheetLayer::physical, n.ids));
        QVERIFY(!edit::addLayerSheet(n.network, " ", SheetLayer::network, n.ids));
        QVERIFY(!edit::addLayerSheet(n.network, "Sheet 1", SheetLayer::network, n.ids) ||
                n.network.sheetsInOrder().front().name != "Sheet 1");
        QVERIFY(edit::addLayerSheet(n.network, "empty", SheetLayer::network, n.ids));
    }
    void what_comes_and_goes_is_followed() {
        Routers n;
        const SheetId sheet = n.addSheet(SheetLayer::network);
        const auto stood = n.at(sheet, n.named("r1").value);
        n.does("{'act':'add','model':'border-router','names':'r3'}");
        QVERIFY(n.at(sheet, n.named("r3").value));
        n.does("{'act':'interface','device':'r3','port':'1','addresses':['10.84.2.2/24']}\n"
               "{'act':'interface','device':'r3','port':'2','addresses':['10.84.3.1/24']}");
        const SubnetId fresh = n.subnet("10.84.3.0/24");
        QVERIFY(n.at(sheet, fresh.value));
        QVERIFY(n.at(sheet, n.named("r1").value) == stood); // nobody else moves
        const Scene scene = Scene::build(n.network, sheet);
        const scene::Plate *router = scene.plate(n.named("r3")), *subnet = scene.plate({fresh.value});
        QVERIFY(router && subnet && !router->frame.intersects(subnet->frame));
        QVERIFY(scene::length(router->frame.centre() - subnet->frame.centre()) < 400); // beside it
        n.does("{'act':'delete','members':['r3']}");
        QVERIFY(!n.at(sheet, fresh.value));
        QVERIFY(!n.subnet("10.84.3.0/24"));
        QCOMPARE(Scene::build(n.network, sheet).count<scene::Plate>(), std::size_t{5});
    }
    void a_subnet_stays_where_it_is_when_it_is_recorded() {
        Routers n;
        const SheetId sheet = n.addSheet(SheetLayer::network);
        const SubnetId before = n.subnet("10.84.1.0/24");
        const auto stood = n.at(sheet, before.value);
        edit::Act act{"record", n.network, {}};
        const SubnetId recorded = n.ids.make<SubnetId>();
        act.network.put(Subnet{recorded, "10.84.1.0/24", "tills", {}, {}, {}, {}, {}});
        QVERIFY(n.does(act));
        QVERIFY(n.at(sheet, recorded.value) == stood);
        QVERIFY(!n.at(sheet, before.value));
    }
    void plates_are_moved_and_lines_go_along() {
        Routers n;
        const SheetId sheet = n.addSheet(SheetLayer::network);
        const Scene before = Scene::build(n.network, sheet);
        const SubnetId subnet = n.subnet("10.84.9.0/31");
        const Network was = n.network;
        QVERIFY(
            n.does(edit::moveObjects(n.network, {sheet}, {refTo(subnet), refTo(n.named("r2"))}, {500, 40})));
        auto now = update(before, was, n.network);
        QVERIFY(now.scene == Scene::build(n.network, sheet));
        QCOMPARE(now.scene.plate({subnet.value})->frame.x, before.plate({subnet.value})->frame.x + 500);
        QVERIFY(now.scene.gridIsTrue());
    }
    void nothing_is_taken_off_by_hand() {
        Routers n;
        const SheetId sheet = n.addSheet(SheetLayer::network);
        QVERIFY(!edit::takeOffSheet(n.network, sheet, {refTo(n.named("r1"))}));
        QVERIFY(edit::takeOffSheet(n.network, n.sheet, {refTo(n.named("r1"))}));
    }
    void they_are_read_as_they_were_written() {
        Routers n;
        const SheetId sheet = n.addSheet(SheetLayer::network);
        const auto read = exchange::readOwn(exchange::writeOwn(n.network), "again");
        QVERIFY(read && read->remarks.empty());
        QVERIFY(read->network == n.network);
        QVERIFY(Scene::build(read->network, sheet) == Scene::build(n.network, sheet));
    }
    void a_scene_followed_is_one_made_anew() {
        Routers n;
        n.switches(3);
        n.vlans({10, 20});
        n.link("s1:X1", "s2:X1");
        n.link("r1:3", "s1:1");
        const std::vector<SheetId> sheets{n.addSheet(SheetLayer::dataLink, "a"),
                                          n.addSheet(SheetLayer::network, "b")};
        std::vector<Scene> scenes, later;
        for (const SheetId sheet : sheets)
            scenes.push_back(Scene::build(n.network, sheet));
        later = scenes;
        int behind = 0;
        std::mt19937 random(7);
        const auto below = [&](int most) { return static_cast<int>(random() % static_cast<unsigned>(most)); };
        for (int i = 0; i < tests::tries(60); ++i) {
            const Network before = n.network;
            switch (below(8)) {
            case 0:
                n.does(fmt::format("{{'act':'vlan','port':'s1:X1','untagged':{},'tagged':''}}",
                                   10 + 10 * below(2)));
                break;
            case 1:
                n.does(fmt::format(
                    "{{'act':'interface','device':'r{}','port':'{}','addresses':['10.84.{}.{}/24']}}",
                    1 + below(2), 2 + below(3), below(6), 1 + below(200)));
                break;
            case 2:
                n.does(
                    fmt::format("{{'act':'rename','member':'{}','name':'s3'}}", idText(n.named("s3").value)));
                break;
            case 3: {
                const SheetId on = sheets[static_cast<std::size_t>(below(2))];
                (void)n.does(
                    edit::moveObjects(n.network, {on}, {refTo(n.named("r1"))}, {below(90), below(90)}));
                break;
            }
            case 4: {
                Device device = *n.network.device(n.named("s2"));
                device.note = std::string("note ") + std::to_string(i);
                edit::Act act{"note", n.network, {}};
                act.network.put(device);
                QVERIFY(n.does(act));
                break;
            }
            case 5:
                n.does(fmt::format("{{'act':'add','model':'access-switch-24','names':'t{}'}}\n"
                                   "{{'act':'link','from':'t{}','to':'s3'}}",
                                   i, i));
                break;
            case 6:
                if (const DeviceId gone = n.named("t" + std::to_string(below(std::max(1, i)))))
                    QVERIFY(n.does(edit::removeObjects(n.network, {refTo(gone)})));
                break;
            default: {
                edit::Act act{"disable", n.network, {}};
                Port port;
                port.device = n.named("s2");
                port.port = "X1";
                port.disabled = below(2) == 0;
                act.network.put(port);
                QVERIFY(n.does(act));
            }
            }
            for (std::size_t s = 0; s < sheets.size(); ++s) {
                scenes[s] = update(scenes[s], before, n.network).scene;
                QVERIFY2(scenes[s] == Scene::build(n.network, sheets[s]), qPrintable(QString::number(i)));
                QVERIFY(scenes[s].gridIsTrue());
                // Where links follow later nothing is drawn meanwhile that is not there.
                later[s] = update(later[s], before, n.network, true).scene;
                behind += later[s].isBehind();
                QVERIFY(later[s].gridIsTrue());
                later[s].forEachPlate(
                    [&](const scene::Plate& plate) { QVERIFY(plate.subnet || n.network.device(plate.id)); });
                later[s].forEachLink([&](const scene::LinkLine& line) {
                    for (const ObjectRef end : {line.a, line.b})
                        QVERIFY(later[s].plate({end.id}));
                    QVERIFY(n.network.link(line.id) || line.object().kind == Kind::interface);
                });
                if (i % 5 == 4) {
                    const auto layer = std::make_shared<const scene::LayerNetwork>(n.network, sheets[s]);
                    later[s] = broughtUp(later[s], layer).scene;
                    QVERIFY(!later[s].isBehind() && later[s].gridIsTrue());
                    QVERIFY2(later[s] == scenes[s], qPrintable(QString::number(i)));
                }
            }
        }
        QVERIFY(behind > tests::tries(20));
    }
    void ways_of_interfaces_that_are_gone_are_kept_no_longer() {
        Routers n;
        const SheetId sheet = n.addSheet(SheetLayer::network);
        const InterfaceId id = n.interfaceOf("r2");
        Position way;
        way.sheet = sheet;
        way.object = id.value;
        way.of = Kind::interface;
        way.bends = {{0, 0}, {40, 40}};
        n.network.put(way);
        n.does("{'act':'rename','member':'r1','name':'r9'}");
        QVERIFY(n.at(sheet, id.value));
        n.does("{'act':'delete','members':['r2']}");
        QVERIFY(!n.at(sheet, id.value));
    }
    void arranging_moves_subnets_and_says_what_they_are() {
        Routers n;
        const SheetId sheet = n.addSheet(SheetLayer::network);
        edit::ArrangeWish wish;
        for (const layout::Style style : {layout::Style::radial, layout::Style::suggest}) {
            wish.style = style;
            QVERIFY(n.does(edit::arrange(n.network, {sheet}, wish)));
            std::map<Kind, int> kinds;
            n.network.all<Position>().forEachIn(sheet.value,
                                                [&](const Position& position) { ++kinds[position.of]; });
            QCOMPARE(kinds[Kind::device], 2);
            QCOMPARE(kinds[Kind::subnet], 3);
            QCOMPARE(kinds[Kind::link], 0); // interfaces have none of their own
        }
    }
};

UNDERRIDGE_TEST(UpperLayersTest)
#include "upper_layers_test.moc"
