// SPDX-License-Identifier: GPL-3.0-or-later
// Layers above the links that a file of RFC 8345 brought: they rest on the devices and links
// below, take no port of theirs, and are written back with what was edited since.
#include "core/analysis/layers.h"
#include "core/analysis/topologies.h"
#include "core/edit/import.h"
#include "core/edit/models.h"
#include "core/edit/objects.h"
#include "core/edit/sheets.h"
#include "core/linking/rules.h"
#include "core/scene/scene.h"
#include "tests/support/forwarded.h"
#include "tests/support/reading.h"
#include "tests/support/registered.h"

#include <nlohmann/json.hpp>

using namespace underridge;
using namespace underridge::model;
using exchange::Format;
using Json = nlohmann::json;

namespace {

constexpr const char* nodeAttributes = "ietf-l3-unicast-topology:l3-node-attributes";
constexpr const char* linkAttributes = "ietf-l3-unicast-topology:l3-link-attributes";
constexpr const char* links = "ietf-network-topology:link";
constexpr const char* points = "ietf-network-topology:termination-point";

std::string nameOf(const Json& node) {
    return node.value(nodeAttributes, Json::object()).value("name", std::string());
}

/// Two routers joined directly (area 0) and over a switch (area 7), where a host hangs, too; and
/// a switch that routes between two VLANs.
struct Site : tests::Forwarded {
    Site() {
        vlans({10, 20});
        switches(2);
        twoAreas();
        acts("{'act':'interface','device':'r1','name':'lo0','type':'loopback','addresses':['10.84.255.1/"
             "32']}\n"
             "{'act':'forwarding','members':['s2'],'routing':true}\n"
             "{'act':'interface','device':'s2','name':'vlan10','type':'vlan','untagged':10,"
             "'addresses':['10.84.10.1/24']}\n"
             "{'act':'interface','device':'s2','name':'vlan20','type':'vlan','untagged':20,"
             "'addresses':['10.84.20.1/24']}");
    }
    std::string bytes() { return analysis::written(network, Format::rfc8345).bytes; }
    /// As somebody has it who was given the file.
    void comeBack() {
        auto read = edit::readPlaced(bytes(), {"back.json", catalogue});
        if (!read)
            qFatal("%s", read.refusal().text().c_str());
        network = std::move(read->network);
        forwarding.reset();
    }
    Json net(const std::string& suffix) {
        const Json whole = Json::parse(bytes());
        for (const Json& each : whole["ietf-network:networks"]["network"])
            if (each["network-id"].get<std::string>().ends_with(suffix))
                return each;
        return {};
    }
    const Device& device(const std::string& name) {
        const Device* found = nullptr;
        network.all<Device>().forEach([&](const Device& each) { found = each.name == name ? &each : found; });
        if (!found)
            qFatal("no device %s", name.c_str());
        return *found;
    }
    const Sheet& sheet(const std::string& name) {
        static Sheet held;
        network.all<Sheet>().forEach([&](const Sheet& each) { held = each.name == name ? each : held; });
        return held;
    }
    const Interface* interface(const std::string& of, const std::string& name) {
        const Interface* found = nullptr;
        network.all<Interface>().forEachIn(device(of).id.value, [&](const Interface& each) {
            found = each.name == name || each.port == name ? &each : found;
        });
        return found;
    }
    std::vector<Link> upperLinks(const std::string& on) {
        std::vector<Link> out;
        network.all<Link>().forEach([&](const Link& link) {
            if (link.onlyOn == sheet(on).id)
                out.push_back(link);
        });
        return out;
    }
    /// What the file did not say.
    void isSwitch(const std::string& name) {
        const auto act = edit::setModel(network, {device(name).id}, *catalogue.device("access-switch-24"));
        if (!act)
            qFatal("%s", act.refusal().text().c_str());
        network = act->network;
        forwarding.reset();
    }
    /// "r1:2 > 10.84.1.0/24 20", by names.
    QStringList said(const Json& net) {
        std::map<std::string, std::string> names;
        for (const Json& node : net["node"])
            names[node["node-id"]] =
                node.value(nodeAttributes, Json::object()).value("name", node["node-id"].get<std::string>());
        network.all<Device>().forEach(
            [&](const Device& each) { names.try_emplace(idText(each.id.value), each.name); });
        QStringList out;
        for (const Json& link : net.value(links, Json::array())) {
            const auto end = [&](const char* which, const char* node, const char* point) {
                const Json& json = link[which];
                return names[json[node]] + (json.contains(point) ? ":" + json[point].get<std::string>() : "");
            };
            std::string text = end("source", "source-node", "source-tp") + " > " +
                               end("destination", "dest-node", "dest-tp");
            const Json attributes = link.value(linkAttributes, Json::object());
            if (attributes.contains("metric1"))
                text += " " + attributes["metric1"].get<std::string>();
            out << tests::text(text);
        }
        out.sort();
        return out;
    }
};

} // namespace

class UpperEditsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void links_above_take_no_port_and_rest_on_those_below() {
        Site s;
        s.comeBack();
        const auto above = s.upperLinks("Network layer");
        QVERIFY(!above.empty());
        bool twoHops = false;
        for (const Link& link : above) {
            QVERIFY(!link.a.known() && !link.b.known());
            if (link.over.size() == 2) { // r1, the switch, r2 or the host
                twoHops = true;
                const Link &first = *s.network.link(link.over[0]), &last = *s.network.link(link.over[1]);
                QVERIFY(first.a.device == link.a.device || first.b.device == link.a.device);
                QVERIFY(last.a.device == link.b.device || last.b.device == link.b.device);
            }
        }
        QVERIFY(twoHops);
        QCOMPARE(s.sheet("Network layer").layer, SheetLayer::upper);
        const auto drawn = scene::Scene::build(s.network, s.sheet("Network layer").id);
        QCOMPARE(drawn.count<scene::LinkLine>(), above.size());
        QCOMPARE(
            scene::Scene::build(s.network, s.network.sheetsInOrder().front().id).count<scene::LinkLine>(),
            s.network.all<Link>().size() - above.size() - s.upperLinks("OSPF area 0").size() -
                s.upperLinks("OSPF area 7").size());
        // They are no cables: nothing is found of them, and no frame goes over them.
        for (const auto& finding : linking::check(s.network, s.catalogue))
            QVERIFY2(finding.rule->code != std::string_view("port-unknown"), finding.message.c_str());
        QCOMPARE(s.way("r1", "10.84.9.1"), QString("r1 r2"));
        s.network.all<Device>().forEach(
            [&](const Device& device) { QCOMPARE(countPorts(s.network, device).unknown, 0); });
    }

    void what_stands_on_no_port_is_an_interface() {
        Site s;
        s.comeBack();
        const Interface* vlan = s.interface("s2", "vlan10");
        QVERIFY(vlan && vlan->port.empty());
        QCOMPARE(vlan->type, InterfaceKind::vlan);
        QCOMPARE(s.network.vlan(vlan->untagged)->number, 10);
        QCOMPARE(vlan->addresses, (std::vector<Address>{"10.84.10.1/24"}));
        QVERIFY(!portAt(s.network, {s.device("s2").id, "vlan10"}));
        const Interface* loopback = s.interface("r1", "lo0");
        QVERIFY(loopback);
        QCOMPARE(loopback->type, InterfaceKind::loopback);
        QCOMPARE(loopback->addresses, (std::vector<Address>{"10.84.255.1/32"}));
    }

    void the_layer_sheet_can_be_drawn_of_it() {
        Site s;
        const auto subnets = [&] {
            QStringList out;
            for (const auto& node : analysis::networkLayerOf(s.network).subnets)
                out << tests::text(node.prefixes.front().text());
            out.sort();
            return out;
        };
        const QStringList drawn = subnets();
        s.comeBack();
        QCOMPARE(subnets(), drawn);
        QCOMPARE(s.route("r1", "10.84.20.0/24"), QString());
        QCOMPARE(s.route("r2", "10.84.255.1/32"), QString());
        QVERIFY(!s.route("r1", "10.84.9.0/31").isEmpty());
    }

    void nothing_edited_nothing_changes() {
        Site s;
        s.comeBack();
        const std::string once = s.bytes();
        s.comeBack();
        QCOMPARE(tests::text(s.bytes()), tests::text(once));
        QCOMPARE(Json::parse(once)["ietf-network:networks"]["network"].size(), std::size_t{4});
    }

    void what_a_file_says_twice_and_otherwise_stays_as_it_came() {
        Site s;
        Json whole = Json::parse(s.bytes());
        for (Json& net : whole["ietf-network:networks"]["network"])
            if (net["network-id"].get<std::string>().ends_with("-ospf-0.0.0.7"))
                for (Json& node : net["node"])
                    if (nameOf(node) == "r1") {
                        node[nodeAttributes]["router-id"] = {"10.84.255.9", "10.84.255.10"};
                        node[nodeAttributes]["prefix"].push_back(
                            {{"prefix", "10.84.77.0/24"}, {"metric", 4'000'000'000}});
                    }
        auto read = edit::readPlaced(whole.dump(), {"twice.json", s.catalogue});
        QVERIFY(bool(read));
        s.network = std::move(read->network);
        const auto routerId = [&](const std::string& suffix) {
            const Json net = s.net(suffix);
            for (const Json& node : net["node"])
                if (nameOf(node) == "r1")
                    return node[nodeAttributes]["router-id"].dump();
            return std::string();
        };
        QCOMPARE(routerId("-ospf-0.0.0.7"), std::string(R"(["10.84.255.9","10.84.255.10"])"));
        QCOMPARE(routerId("-ospf-0.0.0.0"), std::string(R"(["10.84.255.1"])"));
        const Json seven = s.net("-ospf-0.0.0.7");
        QVERIFY(seven.dump().find("4000000000") != std::string::npos);
        // What is set now is said by both.
        s.acts("{'act':'forwarding','members':['r1'],'ospf':{'routerId':'10.84.255.3'}}");
        QCOMPARE(routerId("-ospf-0.0.0.7"), std::string(R"(["10.84.255.3"])"));
        QCOMPARE(routerId("-ospf-0.0.0.0"), std::string(R"(["10.84.255.3"])"));
    }

    void an_area_of_both_versions_is_two_networks() {
        Site s;
        for (const char* router : {"r1", "r2"})
            s.acts(fmt::format("{{'act':'interface','device':'{0}','port':'1','addresses':['10.84.9.{1}/31',"
                               "'2001:db8:9::{1}/64']}}",
                               router, router[1] == '1' ? 0 : 1));
        s.comeBack();
        const std::string once = s.bytes();
        QCOMPARE(s.said(s.net("-ospf-0.0.0.0")).size(), 2);
        QCOMPARE(s.said(s.net("-ospfv3-0.0.0.0")).size(), 2);
        s.comeBack();
        QCOMPARE(tests::text(s.bytes()), tests::text(once));
        // What comes into the area comes into each by its addresses.
        s.acts("{'act':'interface','device':'r2','port':'2','addresses':['10.84.1.2/24','2001:db8:1::2/64'],"
               "'ospf':{'area':'0','cost':30}}");
        const auto prefixes = [&](const std::string& suffix) {
            QStringList out;
            const Json net = s.net(suffix);
            for (const Json& node : net["node"])
                for (const Json& prefix :
                     node.value(nodeAttributes, Json::object()).value("prefix", Json::array()))
                    out << tests::text(prefix["prefix"].get<std::string>());
            out.removeDuplicates();
            out.sort();
            return out;
        };
        QCOMPARE(prefixes("-ospf-0.0.0.0"), (QStringList{"10.84.1.0/24", "10.84.9.0/31"}));
        QCOMPARE(prefixes("-ospfv3-0.0.0.0"), (QStringList{"2001:db8:1::/64", "2001:db8:9::/64"}));
    }

    void a_cost_and_a_router_id_are_written_back() {
        Site s;
        s.comeBack();
        s.acts("{'act':'interface','device':'r1','port':'2','ospf':{'area':'0.0.0.7','cost':25}}\n"
               "{'act':'forwarding','members':['r2'],'ospf':{'routerId':'10.84.255.2'}}");
        const Json seven = s.net("-ospf-0.0.0.7");
        QCOMPARE(s.said(seven), (QStringList{"10.84.1.0/24 > r1:2 0", "10.84.1.0/24 > r2:2 0",
                                             "r1:2 > 10.84.1.0/24 25", "r2:2 > 10.84.1.0/24 30"}));
        for (const Json& node : seven["node"]) {
            const Json attributes = node.value(nodeAttributes, Json::object());
            if (nameOf(node) == "r2")
                QCOMPARE(attributes["router-id"], Json::array({"10.84.255.2"}));
            if (nameOf(node) == "r1") {
                QCOMPARE(attributes["router-id"], Json::array({"10.84.255.1"}));
                QCOMPARE(attributes["prefix"][0]["metric"], Json(25));
            }
        }
        // As the speed says: then no metric is known.
        s.acts("{'act':'interface','device':'r1','port':'2','ospf':{'area':'0.0.0.7','cost':0}}");
        QVERIFY(s.said(s.net("-ospf-0.0.0.7")).contains("r1:2 > 10.84.1.0/24"));
    }

    void what_leaves_an_area_leaves_its_network() {
        Site s;
        s.comeBack();
        s.acts("{'act':'interface','device':'r2','port':'2','ospf':{'area':'0'}}");
        const Json seven = s.net("-ospf-0.0.0.7");
        QCOMPARE(s.said(seven), (QStringList{"10.84.1.0/24 > r1:2 0", "r1:2 > 10.84.1.0/24 20"}));
        QCOMPARE(seven["node"].size(), std::size_t{2});
        // In the other it is known now, with its subnet and nobody to meet there.
        bool found = false;
        const Json backbone = s.net("-ospf-0.0.0.0");
        for (const Json& node : backbone["node"])
            if (nameOf(node) == "r2") {
                found = true;
                QCOMPARE(node[points].size(), std::size_t{2});
                QCOMPARE(node[nodeAttributes]["prefix"].size(), std::size_t{2});
            }
        QVERIFY(found);
    }

    void what_enters_an_area_joins_the_segment_that_is_there() {
        Site s;
        s.comeBack();
        s.isSwitch("s1");
        s.acts("{'act':'add','model':'border-router','names':'r3'}");
        s.link("r3:1", "s1:9");
        s.routed("r3", "1", "10.84.1.3/24", "'area':'0.0.0.7','cost':40");
        const Json seven = s.net("-ospf-0.0.0.7");
        QVERIFY2(s.said(seven).contains("r3:1 > 10.84.1.0/24 40"), qPrintable(s.said(seven).join('|')));
        QCOMPARE(s.said(seven).size(), 6);
        QCOMPARE(seven["node"].size(), std::size_t{4}); // one segment still
        QVERIFY(s.said(s.net("-l3")).contains("r3:1 > r1:2"));
        // And so it comes back.
        s.comeBack();
        QCOMPARE(s.interface("r3", "1")->ospf->cost, 40);
        QCOMPARE(s.said(s.net("-ospf-0.0.0.7")).size(), 6);
    }

    void a_new_area_has_a_network_of_its_own() {
        Site s;
        s.comeBack();
        s.acts("{'act':'interface','device':'r1','port':'1','ospf':{'area':'0.0.0.3','network':'point-to-"
               "point'}}\n"
               "{'act':'interface','device':'r2','port':'1','ospf':{'area':'0.0.0.3','network':'point-to-"
               "point'}}");
        const Json three = s.net("-ospf-0.0.0.3");
        QCOMPARE(s.said(three).size(), 2);
        const Json whole = Json::parse(s.bytes())["ietf-network:networks"]["network"];
        QCOMPARE(three["supporting-network"][0]["network-ref"], whole[0]["network-id"]);
        for (const Json& node : three["node"])
            QVERIFY(std::any_of(whole[0]["node"].begin(), whole[0]["node"].end(), [&](const Json& below) {
                return below["node-id"] == node["supporting-node"][0]["node-ref"];
            }));
        QVERIFY(s.net("-ospf-0.0.0.0").value(links, Json::array()).empty());
    }

    void addresses_given_to_what_had_links_alone_are_told_above() {
        Site s;
        Network bare = s.network; // its links alone
        s.network.all<Interface>().forEach([&](const Interface& each) { bare.erase<Interface>(each.key()); });
        s.network = std::move(bare);
        s.comeBack();
        QCOMPARE(Json::parse(s.bytes())["ietf-network:networks"]["network"].size(), std::size_t{1});
        s.acts("{'act':'forwarding','members':['r1','r2'],'routing':true}");
        s.routed("r1", "1", "10.84.9.0/31");
        s.routed("r2", "1", "10.84.9.1/31");
        QCOMPARE(s.said(s.net("-l3")), (QStringList{"r1:1 > r2:1", "r2:1 > r1:1"}));
    }

    void what_is_drawn_between_two_networks_is_written_where_it_begins() {
        Site s;
        Json both = Json::array();
        for (const char* id : {"east", "west"}) {
            Json net;
            net["network-id"] = id;
            for (const char* node : {"a", "b"})
                net["node"].push_back({{"node-id", node}});
            both.push_back(std::move(net));
        }
        Json document;
        document["ietf-network:networks"]["network"] = both;
        auto read = exchange::readRfc8345(document.dump(), {"two.json", s.catalogue});
        QVERIFY(bool(read));
        s.network = std::move(read->network);
        QCOMPARE(s.network.all<Device>().size(), std::size_t{4});
        std::vector<DeviceId> firsts; // one of each network
        s.network.all<Device>().forEach([&](const Device& each) {
            if (each.name == "a")
                firsts.push_back(each.id);
        });
        QCOMPARE(firsts.size(), std::size_t{2});
        Link link;
        link.id = s.ids.make<LinkId>();
        link.a = {firsts[0], {}};
        link.b = {firsts[1], {}};
        s.network.put(link);
        const Json east = s.net("east"), west = s.net("west");
        const Json& begins = east.contains(links) ? east : west;
        QCOMPARE(begins[links].size(), std::size_t{2});
        QCOMPARE(begins["node"].size(), std::size_t{3});
        QCOMPARE((&begins == &east ? west : east)["node"].size(), std::size_t{2});
        s.comeBack(); // one device there, seen on two sheets
        QCOMPARE(s.network.all<Device>().size(), std::size_t{4});
        QCOMPARE(s.network.all<Link>().size(), std::size_t{1});
    }

    void onto_the_present_sheet_comes_what_is_below_and_beside_it_the_layers() {
        Site s;
        s.comeBack();
        const std::size_t above = s.upperLinks("Network layer").size();
        Network open;
        Sheet mine;
        mine.id = s.ids.make<SheetId>();
        mine.name = "Mine";
        open.put(mine);
        const auto act = edit::importNetwork(open, s.network, edit::ImportOnto::presentSheet, mine.id, s.ids);
        QVERIFY(bool(act));
        s.network = act->network;
        QCOMPARE(s.network.all<Sheet>().size(), std::size_t{4}); // three layers
        QCOMPARE(s.upperLinks("Network layer").size(), above);
        for (const Link& link : s.upperLinks("Network layer"))
            for (const LinkId below : link.over)
                QVERIFY(s.network.link(below) && !s.network.link(below)->isUpper());
        QCOMPARE(scene::Scene::build(s.network, mine.id).count<scene::Plate>(), std::size_t{5});
    }

    void a_link_that_goes_takes_its_support_along() {
        Site s;
        s.comeBack();
        const Link upper = s.upperLinks("Network layer").front();
        QVERIFY(!upper.over.empty());
        const auto act = edit::removeObjects(s.network, {refTo(upper.over.front())});
        QVERIFY(bool(act));
        const Link* left = act->network.link(upper.id);
        QVERIFY(left);
        QCOMPARE(left->over.size(), upper.over.size() - 1);
        // With its sheet go the links only it draws; those below stay.
        const std::size_t above = s.upperLinks("Network layer").size(), all = s.network.all<Link>().size();
        const auto gone = edit::removeSheet(s.network, s.sheet("Network layer").id);
        QVERIFY(bool(gone));
        QCOMPARE(gone->network.all<Link>().size(), all - above);
    }
};

UNDERRIDGE_TEST(UpperEditsTest)
#include "upper_edits_test.moc"
