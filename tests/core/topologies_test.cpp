// SPDX-License-Identifier: GPL-3.0-or-later
// What RFC 8345 holds of a drawn network beside its links: LAGs, the network layer of RFC
// 8346, OSPF areas. Written, and read again.
#include "core/analysis/topologies.h"
#include "core/exchange/own_format.h"
#include "tests/support/first_office.h"
#include "tests/support/forwarded.h"
#include "tests/support/reading.h"
#include "tests/support/registered.h"

#include <nlohmann/json.hpp>

using namespace underridge;
using namespace underridge::model;
using exchange::Format;
using Json = nlohmann::json;

namespace {

struct Written : tests::Forwarded {
    Json json() { return Json::parse(analysis::written(network, Format::rfc8345).bytes); }
    /// The one whose id ends so.
    Json net(const std::string& suffix) {
        const Json whole = json();
        for (const Json& each : whole["ietf-network:networks"]["network"])
            if (each["network-id"].get<std::string>().ends_with(suffix))
                return each;
        return {};
    }
    Network back() {
        auto read = exchange::readRfc8345(analysis::written(network, Format::rfc8345).bytes,
                                          {"back.json", catalogue});
        if (!read)
            qFatal("%s", read.refusal().text().c_str());
        for (const Remark& remark : read->remarks)
            qWarning("%s", remark.text().c_str());
        return std::move(read->network);
    }
};

std::string nameOf(const Json& node) {
    return node["ietf-l3-unicast-topology:l3-node-attributes"]["name"];
}

/// "r1:1 > r2:1 10", sorted: by names, with the metric where there is one.
QStringList linksOf(const Json& net) {
    std::map<std::string, std::string> names;
    for (const Json& node : net["node"])
        names[node["node-id"]] = nameOf(node);
    QStringList out;
    const auto end = [&](const Json& json, const char* node, const char* point) {
        std::string text = names[json[node]];
        if (json.contains(point))
            text += ":" + json[point].get<std::string>();
        return text;
    };
    for (const Json& link : net["ietf-network-topology:link"]) {
        std::string text = end(link["source"], "source-node", "source-tp") + " > " +
                           end(link["destination"], "dest-node", "dest-tp");
        const char* attributes = "ietf-l3-unicast-topology:l3-link-attributes";
        if (link.contains(attributes))
            text += " " + link[attributes]["metric1"].get<std::string>();
        out << tests::text(text);
    }
    out.sort();
    return out;
}

const Interface* interfaceAt(const Network& network, const std::string& device, const std::string& port) {
    const Interface* found = nullptr;
    network.all<Interface>().forEach([&](const Interface& each) {
        if (network.device(each.device)->name == device && (each.port == port || each.name == port))
            found = &each;
    });
    return found;
}

/// Two routers over a switch and a direct link, a host behind the switch.
struct Site : Written {
    Site() {
        vlans({10});
        switches(1);
        twoAreas();
    }
};

} // namespace

class TopologiesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void the_network_layer_joins_what_hears_each_other_with_a_router() {
        Site s;
        const Json net = s.net("-l3");
        QCOMPARE(linksOf(net), (QStringList{"h1:1 > r1:2", "h1:1 > r2:2", "r1:1 > r2:1", "r1:2 > h1:1",
                                            "r1:2 > r2:2", "r2:1 > r1:1", "r2:2 > h1:1", "r2:2 > r1:2"}));
        QVERIFY(net["network-types"].contains("ietf-l3-unicast-topology:l3-unicast-topology"));
        for (const Json& node : net["node"]) {
            const Json& said = node["ietf-l3-unicast-topology:l3-node-attributes"];
            if (nameOf(node) == "r1") {
                QCOMPARE(said["router-id"], Json::array({"10.84.255.1"}));
                QCOMPARE(said["prefix"].size(), std::size_t{2});
            }
            QCOMPARE(node["supporting-node"].size(), std::size_t{1});
            QCOMPARE(node["supporting-node"][0]["node-ref"], node["node-id"]);
        }
        // What passes the switch rests on both its links, in their direction.
        for (const Json& link : net["ietf-network-topology:link"])
            if (linksOf(net).contains("r1:1 > r2:1") && link["source"]["source-tp"] == "1" &&
                link["destination"]["dest-tp"] == "2")
                QCOMPARE(link["supporting-link"].size(), std::size_t{2});
        // Where a port is down, nobody is met there.
        s.acts("{'act':'interface','device':'r2','port':'2','disabled':true}");
        QCOMPARE(linksOf(s.net("-l3")),
                 (QStringList{"h1:1 > r1:2", "r1:1 > r2:1", "r1:2 > h1:1", "r2:1 > r1:1"}));
    }

    void an_area_has_its_routers_costs_and_shared_networks() {
        Site s;
        const Json backbone = s.net("-ospf-0.0.0.0"), seven = s.net("-ospf-0.0.0.7");
        QCOMPARE(linksOf(backbone), (QStringList{"r1:1 > r2:1 10", "r2:1 > r1:1 15"}));
        QCOMPARE(linksOf(seven), (QStringList{"10.84.1.0/24 > r1:2 0", "10.84.1.0/24 > r2:2 0",
                                              "r1:2 > 10.84.1.0/24 20", "r2:2 > 10.84.1.0/24 30"}));
        QCOMPARE(seven["ietf-l3-unicast-topology:l3-topology-attributes"]
                      ["example-ospf-topology:ospf-topology-attributes"]["area-id"],
                 Json("0.0.0.7"));
        for (const Json& node : seven["node"]) {
            const Json& part = node["ietf-l3-unicast-topology:l3-node-attributes"]
                                   ["example-ospf-topology:ospf-node-attributes"];
            QVERIFY(part.contains(nameOf(node).front() == 'r' ? "abr" : "pseudonode"));
        }
    }

    void it_comes_back() {
        Site s;
        const Network back = s.back();
        QCOMPARE(back.all<Link>().size(), s.network.all<Link>().size() + 7); // of the layers
        const Interface* port = interfaceAt(back, "r1", "2");
        QVERIFY(port);
        QCOMPARE(port->addresses, (std::vector<Address>{"10.84.1.1/24"}));
        QCOMPARE(port->ospf->area.number(), std::optional<std::uint32_t>(7));
        QCOMPARE(port->ospf->cost, 20);
        back.all<Device>().forEach([&](const Device& device) {
            if (device.name == "r1")
                QCOMPARE(device.ospf->routerId, std::string("10.84.255.1"));
            if (device.name == "10.84.1.0/24")
                QVERIFY(roleOf(back, device) == Role::splitter);
        });
        // Out and in again nothing changes any more.
        const auto once = analysis::written(back, Format::rfc8345).bytes;
        const auto again = exchange::readRfc8345(once, {"again.json", s.catalogue});
        QVERIFY(bool(again));
        QCOMPARE(tests::text(analysis::written(again->network, Format::rfc8345).bytes), tests::text(once));
        QCOMPARE(linksOf(Json::parse(once)["ietf-network:networks"]["network"][1]), linksOf(s.net("-l3")));
    }

    void a_lag_is_a_point_of_points() {
        Written w;
        w.vlans({10, 20});
        w.switches(2);
        w.link("s1:1", "s2:1");
        w.link("s1:2", "s2:2");
        w.acts("{'act':'lag','from':'s1','to':'s2','name':'up'}");
        w.acts("{'act':'interface','device':'s1','name':'up','type':'lag','tagged':'10,100-400'}");
        bool found = false;
        const Json whole = w.json();
        for (const Json& node : whole["ietf-network:networks"]["network"][0]["node"])
            for (const Json& point : node["ietf-network-topology:termination-point"]) {
                const Json said = point.value("ietf-l2-topology:l2-termination-point-attributes", Json());
                if (!said.is_object() || !said.contains("lag") || !said.contains("outer-tag"))
                    continue;
                found = true;
                QCOMPARE(said["member-link-tp"], Json::array({"1", "2"}));
                QCOMPARE(said["outer-tag"], Json("10,100-400"));
            }
        QVERIFY(found);
        const Network back = w.back();
        const Interface* lag = interfaceAt(back, "s1", "up");
        QVERIFY(lag);
        QCOMPARE(lag->members, (std::vector<std::string>{"1", "2"}));
        QCOMPARE(lag->tagged.size(), std::size_t{1});
        QCOMPARE(lag->taggedRanges, (std::vector<VlanRange>{{100, 400}}));
        QVERIFY(exchange::writeRfc8345(back).bytes.find("member-link-tp") != std::string::npos);
    }

    void the_demo_comes_back_with_what_its_interfaces_say() {
        Written w;
        w.network = tests::demo("fennick-quay");
        const Network back = w.back();
        std::map<std::pair<std::string, std::string>, std::vector<Address>> said, kept;
        const auto gather = [](const Network& network, auto& into) {
            network.all<Interface>().forEach([&](const Interface& each) {
                if (!each.port.empty() && !each.addresses.empty())
                    into[{network.device(each.device)->name, each.port}] = each.addresses;
            });
        };
        gather(w.network, said);
        gather(back, kept);
        QVERIFY(said.size() > 20);
        for (const auto& [at, addresses] : said)
            QVERIFY2(kept[at] == addresses, (at.first + " " + at.second).c_str());
        int areas = 0;
        back.all<Sheet>().forEach([&](const Sheet& sheet) { areas += sheet.name.starts_with("OSPF"); });
        QVERIFY(areas > 0);
    }
};

UNDERRIDGE_TEST(TopologiesTest)
#include "topologies_test.moc"
