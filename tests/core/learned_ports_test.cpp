// SPDX-License-Identifier: GPL-3.0-or-later
// Ports that only a source has named: how they come in, are shared, go out again, and give
// way to a model.
#include "core/edit/devices.h"
#include "core/edit/models.h"
#include "core/linking/best.h"
#include "core/model/ports.h"
#include "tests/support/first_office.h"
#include "tests/support/reading.h"
#include "tests/support/registered.h"

#include <fmt/format.h>

using namespace underridge;
using namespace underridge::model;
using exchange::Format;
using tests::catalogue;
using tests::named;
using tests::read;
using tests::says;

namespace {

std::vector<std::string> keysOf(const Network& network, const Device& device) {
    std::vector<std::string> out;
    for (const PortView& port : portsOf(network, device))
        out.push_back(port.key);
    return out;
}

using Points = std::vector<std::string>; ///< termination points as JSON, without braces

std::string node(const std::string& id, const Points& points) {
    std::string out;
    for (const std::string& point : points)
        out += (out.empty() ? "{" : ",{") + point + "}";
    return fmt::format(R"({{"node-id":"{}","ietf-network-topology:termination-point":[{}]}})", id, out);
}

std::string point(const std::string& id) {
    return fmt::format(R"("tp-id":"{}")", id);
}

std::string document(const std::vector<std::string>& nodes, const std::string& links = {}) {
    std::string all;
    for (const std::string& each : nodes)
        all += (all.empty() ? "" : ",") + each;
    return fmt::format(
        R"({{"ietf-network:networks":{{"network":[{{"network-id":"n","node":[{}],"ietf-network-topology:link":[{}]}}]}}}})",
        all, links);
}

std::string link(const std::string& id, const char* a, const char* portA, const char* b, const char* portB) {
    return fmt::format(
        R"({{"link-id":"{}","source":{{"source-node":"{}","source-tp":"{}"}},"destination":{{"dest-node":"{}","dest-tp":"{}"}}}})",
        id, a, portA, b, portB);
}

} // namespace

class LearnedPortsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void nodes_with_the_same_termination_points_share_them() {
        const Points plain{point("ge-0/0/1"), point("ge-0/0/10"), point("ge-0/0/2")};
        const auto loaded =
            read(document({node("a", plain), node("b", plain), node("c", {point("ge-0/0/1")})}));
        QVERIFY(loaded && loaded->remarks.empty());
        const Network& network = loaded->network;
        const Device *a = named(network, "a"), *b = named(network, "b"), *c = named(network, "c");
        QCOMPARE(keysOf(network, *a), (std::vector<std::string>{"ge-0/0/1", "ge-0/0/2", "ge-0/0/10"}));
        QCOMPARE(&a->learned.all(), &b->learned.all());
        QCOMPARE(c->learned.all(), std::vector<std::string>{"ge-0/0/1"});
        QCOMPARE(network.all<Port>().size(), std::size_t{0}); // nothing more is known of any
        QVERIFY(portAt(network, {a->id, "ge-0/0/10"}));
        QVERIFY(!portAt(network, {c->id, "ge-0/0/10"}));
    }

    void a_point_that_says_more_has_a_record_and_the_others_none() {
        const std::string label =
            R"("tp-id":"2","ietf-l2-topology:l2-termination-point-attributes":{"interface-name":"to the roof"})";
        const auto loaded = read(document(
            {node("a", {point("1"), label, point("3")}), node("b", {point("1"), point("2"), point("3")})}));
        QVERIFY(bool(loaded));
        const Network& network = loaded->network;
        const Device *a = named(network, "a"), *b = named(network, "b");
        QVERIFY(a->learned == b->learned);
        QCOMPARE(network.all<Port>().size(), std::size_t{1});
        QCOMPARE(network.port({a->id, "2"})->label, std::string("to the roof"));
        QVERIFY(!network.port({b->id, "2"}));
        // And it comes out as it came in.
        const auto back = read(exchange::write(network, Format::rfc8345).bytes);
        QVERIFY(bool(back));
        const Device* again = named(back->network, "a");
        QVERIFY(again->learned == a->learned);
        QCOMPARE(back->network.port({again->id, "2"})->label, std::string("to the roof"));
    }

    void points_that_cannot_be_are_told_at_each_node_that_has_them() {
        const Points twice{point("1"), point("1"), point("")};
        const auto loaded = read(document({node("a", twice), node("b", twice)}));
        QVERIFY(bool(loaded));
        QCOMPARE(std::count_if(loaded->remarks.begin(), loaded->remarks.end(),
                               [](const Remark& remark) {
                                   return remark.what.find("is there twice") != std::string::npos;
                               }),
                 2);
        QCOMPARE(std::count_if(loaded->remarks.begin(), loaded->remarks.end(),
                               [](const Remark& remark) {
                                   return remark.what.find("no usable tp-id") != std::string::npos;
                               }),
                 2);
        for (const char* name : {"a", "b"})
            QCOMPARE(named(loaded->network, name)->learned.all(), std::vector<std::string>{"1"});
        const std::string longest(200, 'x'), tooLong(201, 'x');
        const auto limits = read(document({node("c", {point(longest), point(tooLong)})}));
        QVERIFY(limits && says(limits->remarks, "no usable tp-id"));
        QCOMPARE(named(limits->network, "c")->learned.all(), std::vector<std::string>{longest});
    }

    void ids_with_a_line_feed_are_not_taken_for_two() {
        // Lists are found again by their ids put together.
        const auto loaded =
            read(document({node("a", {point("x\\ny")}), node("b", {point("x"), point("y")})}));
        QVERIFY(bool(loaded));
        QCOMPARE(named(loaded->network, "b")->learned.all(), (std::vector<std::string>{"x", "y"}));
        QCOMPARE(named(loaded->network, "a")->learned.all(), std::vector<std::string>{"x\ny"});
    }

    void a_point_that_is_another_of_its_node_is_no_port_of_its_own() {
        const auto loaded =
            read(document({node("a", {point("1"), R"("tp-id":"one","supporting-termination-point":[)"
                                                  R"({"network-ref":"n","node-ref":"a","tp-ref":"1"}])"})}));
        QVERIFY(bool(loaded));
        QCOMPARE(named(loaded->network, "a")->learned.all(), std::vector<std::string>{"1"});
    }

    void a_link_may_name_a_point_that_is_not_listed() {
        const auto loaded =
            read(document({node("a", {point("1")}), node("b", {point("1")})}, link("l", "a", "7", "b", "1")));
        QVERIFY(loaded && says(loaded->remarks, "does not list it"));
        const Device *a = named(loaded->network, "a"), *b = named(loaded->network, "b");
        QCOMPARE(a->learned.all(), (std::vector<std::string>{"1", "7"}));
        QCOMPARE(b->learned.all(), std::vector<std::string>{"1"}); // what they shared is as it was
        QVERIFY(loaded->network.linkAt({a->id, "7"}));
    }

    void the_rate_of_a_link_is_that_of_its_learned_ports() {
        const std::string rate = R"("ietf-l2-topology:l2-link-attributes":{"rate":"1000000"},)";
        std::string one = link("l", "a", "1", "b", "1");
        one.insert(1, rate);
        const auto loaded =
            read(document({node("a", {point("1"), point("2")}), node("b", {point("1")})}, one));
        QVERIFY(bool(loaded));
        const Device* a = named(loaded->network, "a");
        QCOMPARE(loaded->network.port({a->id, "1"})->speed, 1000);
        QVERIFY(!loaded->network.port({a->id, "2"}));
        QCOMPARE(portAt(loaded->network, {a->id, "1"})->rates(), std::vector<int>{1000});
        const Link* made = loaded->network.linkAt({a->id, "1"});
        QVERIFY(made && speedOf(loaded->network, *made) == 1000);
    }

    void graphml_and_csv_name_ports_too() {
        const char* graphml =
            "<graphml xmlns='http://graphml.graphdrawing.org/xmlns'><graph edgedefault='undirected'>"
            "<node id='a'><port name='north'/><port name='south'/></node><node id='b'/>"
            "<edge source='a' target='b' sourceport='south' targetport='up 1'/></graph></graphml>";
        const auto xml = read(graphml);
        QVERIFY(bool(xml));
        QCOMPARE(named(xml->network, "a")->learned.all(), (std::vector<std::string>{"north", "south"}));
        QCOMPARE(named(xml->network, "b")->learned.all(), std::vector<std::string>{"up 1"});
        const auto out = exchange::write(xml->network, Format::graphml);
        const auto again = read(out.bytes);
        QVERIFY(bool(again));
        QCOMPARE(named(again->network, "a")->learned.all(), (std::vector<std::string>{"north", "south"}));
        const auto csv = read("from,from port,to,to port\na,wan,b,1\na,lan,b,2\n");
        QVERIFY(bool(csv));
        QCOMPARE(named(csv->network, "a")->learned.all(), (std::vector<std::string>{"lan", "wan"}));
        QCOMPARE(named(csv->network, "b")->learned.all(), (std::vector<std::string>{"1", "2"}));
    }

    void a_model_that_has_the_port_leaves_nothing_to_be_learned() {
        const auto loaded = read("name,model\nsw,access-switch-24\n");
        QVERIFY(bool(loaded));
        const auto links = read("from,from port,to,to port\nsw,1,pc,nic\n");
        QVERIFY(bool(links));
        const DeviceModel& model = *catalogue().device("access-switch-24");
        Network network = links->network;
        const DeviceId sw = named(network, "sw")->id;
        QVERIFY(network.device(sw)->learned.contains("1"));
        // Its model becomes known: the port is the model's from now on.
        auto known = edit::setModel(network, {sw}, model);
        QVERIFY(bool(known));
        QVERIFY(known->network.device(sw)->learned.empty());
        QVERIFY(!portAt(known->network, {sw, "1"})->learned);
        QVERIFY(known->network.linkAt({sw, "1"}));
        // Another has no such port: it stays for what ends in it.
        const auto other = edit::setModel(known->network, {sw}, *catalogue().device("workstation"));
        QVERIFY(bool(other));
        const auto keys = keysOf(other->network, *other->network.device(sw));
        QVERIFY(std::find(keys.begin(), keys.end(), "1") != keys.end());
        QVERIFY(other->network.linkAt({sw, "1"}));
    }

    void of_the_ports_a_source_names_only_those_its_model_lacks_are_learned() {
        const auto loaded = read(
            "<graphml xmlns='http://graphml.graphdrawing.org/xmlns'>"
            "<key id='m' for='node' attr.name='model' attr.type='string'/><graph edgedefault='undirected'>"
            "<node id='sw'><data key='m'>access-switch-24</data>"
            "<port name='1'/><port name='24'/><port name='X1'/><port name='odd'/></node></graph></graphml>");
        QVERIFY(bool(loaded));
        const Device& sw = *named(loaded->network, "sw");
        QCOMPARE(sw.model, std::string("access-switch-24"));
        QCOMPARE(sw.learned.all(), std::vector<std::string>{"odd"});
    }

    void a_port_of_its_own_settings_is_kept_by_a_model_that_lacks_it() {
        Network network = tests::firstOffice();
        DeviceId acc;
        network.all<Device>().forEach([&](const Device& device) {
            if (device.name == "acc-1")
                acc = device.id;
        });
        Port labelled;
        labelled.device = acc;
        labelled.port = "20";
        labelled.label = "kitchen";
        network.put(labelled);
        const auto act = edit::setModel(network, {acc}, *catalogue().device("compact-switch-8"));
        QVERIFY(bool(act));
        QVERIFY(act->network.device(acc)->learned.contains("20"));
        QCOMPARE(act->network.port({acc, "20"})->label, std::string("kitchen"));
        QVERIFY(!act->network.device(acc)->learned.contains("19")); // which nothing depended on
        QVERIFY(act->network.indicesAreTrue());
    }

    void nothing_is_linked_to_a_learned_port_by_guess() {
        const auto loaded = read(document({node("a", {point("1"), point("2")}), node("b", {point("1")})}));
        QVERIFY(bool(loaded));
        const Network& network = loaded->network;
        const DeviceId a = named(network, "a")->id, b = named(network, "b")->id;
        const auto proposal = linking::bestPair(network, catalogue(), {a, {}}, {b, {}}, {});
        QVERIFY(!proposal);
        const auto wanted = linking::bestPair(network, catalogue(), {a, "1"}, {b, {}}, {});
        QVERIFY(!wanted &&
                wanted.refusal().what.find("connector of port 1 is not known") != std::string::npos);
    }
};

UNDERRIDGE_TEST(LearnedPortsTest)
#include "learned_ports_test.moc"
