// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/import.h"
#include "core/edit/sheets.h"
#include "core/linking/rules.h"
#include "tests/support/first_office.h"
#include "tests/support/foreign_texts.h"
#include "tests/support/random_edits.h"
#include "tests/support/reading.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using exchange::Format;
using tests::catalogue;
using tests::named;
using tests::RandomEdits;
using tests::read;
using tests::remarkThatSays;
using tests::says;
using tests::twoLayers;

namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

/// What every format can hold: who is there by id and name, and which ports are joined.
std::set<std::string> gist(const Network& network) {
    std::set<std::string> out;
    network.all<Device>().forEach([&](const Device& d) { out.insert(idText(d.id.value) + " " + d.name); });
    network.all<Link>().forEach([&](const Link& link) {
        std::string a = idText(link.a.device.value) + ":" + link.a.port;
        std::string b = idText(link.b.device.value) + ":" + link.b.port;
        if (b < a)
            std::swap(a, b);
        out.insert(a + " - " + b);
    });
    return out;
}

/// No two plates of a sheet at one place.
bool noHeap(const Network& network) {
    std::set<std::tuple<std::uint64_t, int, int>> places;
    bool good = true;
    network.all<Position>().forEach([&](const Position& p) {
        if (network.device({p.object}))
            good &= places.insert({p.sheet.value, p.at.x, p.at.y}).second;
    });
    return good;
}

} // namespace

class ExchangeTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void the_format_is_told_by_content() {
        QVERIFY(exchange::formatOf("{\"underridge\":1}\n") == Format::own);
        QVERIFY(exchange::formatOf(" \n{\"ietf-network:networks\":{}}") == Format::rfc8345);
        QVERIFY(exchange::formatOf("\xEF\xBB\xBF<?xml version='1.0'?><graphml/>") == Format::graphml);
        QVERIFY(exchange::formatOf(std::string_view("\xFF\xFE<\0g\0", 6)) == Format::graphml);
        QVERIFY(exchange::formatOf("name;model\n") == Format::csv);
        QVERIFY(!exchange::formatOf("hello"));
        QVERIFY(!exchange::formatOf(std::string_view("\0\0\0", 3)));
        QVERIFY(exchange::formatFromSuffix("/a/B.GraphML") == Format::graphml);
    }

    void random_networks_keep_devices_and_joined_ports_in_every_format_data() {
        QTest::addColumn<int>("format");
        for (const Format format : {Format::rfc8345, Format::graphml, Format::csv})
            QTest::newRow(exchange::textOf(format).data()) << static_cast<int>(format);
    }
    void random_networks_keep_devices_and_joined_ports_in_every_format() {
        QFETCH(int, format);
        for (int seed = 1; seed <= tests::tries(12); ++seed) {
            RandomEdits edits(static_cast<std::uint64_t>(seed));
            const Network network = edits.grown(60);
            const auto written = exchange::write(network, static_cast<Format>(format));
            const auto back = read(written.bytes);
            QVERIFY2(bool(back), back ? "" : back.refusal().text().c_str());
            QCOMPARE(gist(back->network), gist(network));
            QVERIFY(back->network.indicesAreTrue());
            QVERIFY(noHeap(back->network) || static_cast<Format>(format) != Format::rfc8345);
            // Out and in again: nothing more is lost.
            const auto twice = exchange::write(back->network, static_cast<Format>(format));
            const auto again = read(twice.bytes);
            QVERIFY(bool(again));
            QCOMPARE(gist(again->network), gist(network));
            QCOMPARE(text(exchange::write(again->network, static_cast<Format>(format)).bytes),
                     text(twice.bytes));
        }
    }

    void reading_twice_gives_equal_networks() {
        QVERIFY(read(twoLayers)->network == read(twoLayers)->network);
    }

    // --- RFC 8345 --------------------------------------------------------------

    void layers_of_one_device_become_one_device_on_two_sheets() {
        const auto loaded = read(twoLayers);
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        const Network& n = loaded->network;
        QCOMPARE(n.all<Sheet>().size(), std::size_t{2});
        QCOMPARE(n.all<Device>().size(), std::size_t{3});
        const Device* a = named(n, "acc-a");
        QVERIFY(a);
        for (const Sheet& sheet : n.sheetsInOrder())
            QVERIFY(n.position(sheet.id, a->id.value));
        QCOMPARE(firstAddress(n, a->id).host(), std::string("10.84.99.1"));
        // The layer 3 point rests on port X1 and gives it its address; the length is that
        // of the prefix.
        bool found = false;
        n.all<Interface>().forEachIn(a->id.value, [&](const Interface& i) {
            if (i.port != "X1")
                return;
            found = true;
            QCOMPARE(i.addresses, (std::vector<Address>{"10.84.200.1/24"}));
            QCOMPARE(i.mac, std::string("02:00:00:00:00:01"));
            QCOMPARE(i.tagged.size(), std::size_t{3});
        });
        QVERIFY(found);
        QCOMPARE(n.port({a->id, "X1"})->label, std::string("uplink"));
    }

    void opposite_links_are_one_and_an_unnamed_point_stays_unknown() {
        const auto loaded = read(twoLayers);
        const Network& n = loaded->network;
        QCOMPARE(n.all<Link>().size(), std::size_t{3});
        int unknown = 0;
        n.all<Link>().forEach(
            [&](const Link& link) { unknown += !link.isUpper() && !link.a.known() && !link.b.known(); });
        QCOMPARE(unknown, 1);
        QCOMPARE(n.port({named(n, "acc-a")->id, "X1"})->speed, 10000);
        QVERIFY(loaded->remarks.empty());
        QVERIFY(roleOf(n, *named(n, "b")) == Role::unknown);
        QVERIFY(roleOf(n, *named(n, "lan")) == Role::splitter);
    }

    void what_is_not_understood_survives() {
        const auto loaded = read(twoLayers);
        const auto own = exchange::readOwn(exchange::writeOwn(loaded->network), "own");
        QVERIFY(bool(own));
        const std::string out = exchange::writeRfc8345(own->network).bytes;
        for (const char* kept : {"quay:berth", "quay:colour", "quay:depth", "quay:tide", "\"adjacency\"",
                                 "\"ba\"", "10.84.255.1", "\"metric\": 10", "quay:pseudonode", "\"if-1\"",
                                 "supporting-termination-point", "\"10,20,21\"", "10.84.200.1"})
            QVERIFY2(out.find(kept) != std::string::npos, kept);
        const auto again = read(out);
        QVERIFY(bool(again));
        QCOMPARE(gist(again->network), gist(loaded->network));
        QCOMPARE(text(exchange::writeRfc8345(again->network).bytes), text(out));
    }

    void remarks_name_line_column_and_object() {
        const std::string json = tests::oddTopology;
        const auto loaded = read(json, "odd.json");
        QVERIFY(bool(loaded));
        const Remark* twice = remarkThatSays(loaded->remarks, "there twice");
        QVERIFY(twice);
        QCOMPARE(twice->where.file, std::string("odd.json"));
        QCOMPARE(twice->where.line, 4);
        QCOMPARE(twice->where.column, 4);
        QCOMPARE(twice->where.object, std::string("a"));
        QCOMPARE(remarkThatSays(loaded->remarks, "no node-id")->where.line, 5);
        QCOMPARE(remarkThatSays(loaded->remarks, "\"gone\"")->where.line, 7);
        QVERIFY(says(loaded->remarks, "does not list it"));
        // The dangling link is kept for the way out.
        QVERIFY(exchange::writeRfc8345(loaded->network).bytes.find("\"gone\"") != std::string::npos);
    }

    void hopeless_input_is_refused_with_a_place_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<int>("line");
        QTest::newRow("empty") << QByteArray() << 1;
        QTest::newRow("nothing known") << QByteArray("hello") << 1;
        QTest::newRow("JSON cut off") << QByteArray("{\"ietf-network:networks\":\n{\"network\": [") << 2;
        QTest::newRow("JSON of another kind") << QByteArray("{\"a\": 1}") << 1;
        QTest::newRow("JSON too deep") << QByteArray("{\"a\":\n") + QByteArray(100000, '[') << 2;
        QTest::newRow("networks no list")
            << QByteArray("{\"ietf-network:networks\":\n{\"network\": 4}}") << 2;
        QTest::newRow("XML cut off") << QByteArray("<graphml>\n<graph>") << 2;
        QTest::newRow("XML of another kind") << QByteArray("<svg/>") << 1;
        QByteArray deep = "<graphml><graph>\n";
        for (int i = 0; i < 50000; ++i)
            deep += "<a>";
        for (int i = 0; i < 50000; ++i)
            deep += "</a>";
        QTest::newRow("XML too deep") << deep + "</graph></graphml>" << 2;
        QTest::newRow("unknown encoding")
            << QByteArray("<?xml version='1.0' encoding='x-quay'?><graphml/>") << 1;
        QTest::newRow("invalid UTF-8") << QByteArray("<graphml>\n\xFF</graphml>") << 2;
        QTest::newRow("CSV of something else") << QByteArray("\ncolour,size\nred,4\n") << 2;
    }
    void hopeless_input_is_refused_with_a_place() {
        QFETCH(QByteArray, bytes);
        QFETCH(int, line);
        const auto loaded = read({bytes.data(), static_cast<std::size_t>(bytes.size())}, "bad");
        QVERIFY(!loaded);
        QCOMPARE(loaded.refusal().where.file, std::string("bad"));
        QCOMPARE(loaded.refusal().where.line, line);
        QVERIFY(!loaded.refusal().remedy.empty());
    }

    void lawful_documents_without_a_network_open_empty_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::newRow("networks") << QByteArray("{\"ietf-network:networks\":{}}");
        QTest::newRow("an empty list") << QByteArray("{\"ietf-network:networks\":{\"network\":[]}}");
        QTest::newRow("graphml") << QByteArray("<graphml/>");
        QTest::newRow("graphml with a namespace")
            << QByteArray("<g:graphml xmlns:g='http://graphml.graphdrawing.org/xmlns'/>");
    }
    void lawful_documents_without_a_network_open_empty() {
        QFETCH(QByteArray, bytes);
        const auto loaded = read(bytes.toStdString());
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        QVERIFY(loaded->remarks.empty());
        QVERIFY(loaded->network.all<Device>().empty());
        QCOMPARE(loaded->network.all<Sheet>().size(), std::size_t{1});
    }

    void what_devices_answer_is_read_data() {
        QTest::addColumn<QByteArray>("before");
        QTest::addColumn<QByteArray>("after");
        QTest::addColumn<bool>("state");
        QTest::newRow("plain") << QByteArray("{") << QByteArray("}") << false;
        QTest::newRow("beside other data") << QByteArray("{\"quay:berths\":[1],") << QByteArray("}") << false;
        QTest::newRow("RESTCONF data")
            << QByteArray("{\"ietf-restconf:data\":{\"quay:tide\":[null],") << QByteArray("}}") << false;
        QTest::newRow("instance data")
            << QByteArray(
                   "{\"ietf-yang-instance-data:instance-data-set\":{\"name\":\"fq\",\"content-data\":{")
            << QByteArray("}}}") << false;
        QTest::newRow("operational state") << QByteArray("{") << QByteArray("}") << true;
    }
    void what_devices_answer_is_read() {
        QFETCH(QByteArray, before);
        QFETCH(QByteArray, after);
        QFETCH(bool, state);
        QByteArray inner = R"("ietf-network:networks":{"network":[{"network-id":"n","node":[
            {"node-id":"a","ietf-network-topology:termination-point":[{"tp-id":"1"}]},
            {"node-id":"b","ietf-network-topology:termination-point":[{"tp-id":"2"}]}],
            "ietf-network-topology:link":[{"link-id":"l","source":{"source-node":"a","source-tp":"1"},
            "destination":{"dest-node":"b","dest-tp":"2"}}]}]})";
        if (state)
            inner.replace("ietf-network:", "ietf-network-state:")
                .replace("ietf-network-topology:", "ietf-network-topology-state:");
        const auto loaded = read((before + inner + after).toStdString());
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        QCOMPARE(loaded->network.all<Device>().size(), std::size_t{2});
        QCOMPARE(loaded->network.all<Link>().size(), std::size_t{1});
        QVERIFY(loaded->network.linkAt({named(loaded->network, "b")->id, "2"}));
        // What stood beside comes out again, through the own format too.
        const auto own = exchange::readOwn(exchange::writeOwn(loaded->network), "own");
        QVERIFY(bool(own));
        const std::string out = exchange::writeRfc8345(own->network).bytes;
        for (const char* kept :
             {"quay:berths", "quay:tide", "ietf-restconf:data", "instance-data-set", "\"fq\""})
            if (before.contains(kept))
                QVERIFY2(out.find(kept) != std::string::npos, out.c_str());
        const auto again = read(out);
        QVERIFY2(bool(again), out.c_str());
        QCOMPARE(gist(again->network), gist(loaded->network));
    }

    void numbers_of_any_size_survive_unchanged() {
        const std::string long5000 = std::string(5000, '7');
        for (const std::string& number :
             {std::string("1e400"), std::string("-1E+999"), long5000, "0." + long5000, std::string("1.10"),
              std::string("-0"), std::string("123456789012345678901234567890"), std::string("1e-400")}) {
            const std::string json = "{\"ietf-network:networks\":{\"quay:top\":" + number +
                                     ",\"network\":[{\"network-id\":\"n\",\"quay:net\":[" + number +
                                     "],\"node\":[{\"node-id\":\"a\",\"quay:node\":{\"x\":" + number +
                                     "}}]}]}}";
            const auto loaded = read(json);
            QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
            const auto own = exchange::readOwn(exchange::writeOwn(loaded->network), "own");
            QVERIFY2(bool(own), own ? "" : own.refusal().text().c_str());
            QVERIFY(own->network == loaded->network);
            const std::string out = exchange::writeRfc8345(own->network).bytes;
            std::size_t found = 0;
            for (auto at = out.find(number); at != std::string::npos;
                 at = out.find(number, at + number.size()))
                ++found;
            QCOMPARE(found, std::size_t{3});
        }
        // Where a number means something it must be one that can be held.
        const auto kept =
            read("{\"ietf-network:networks\":{\"network\":[{\"network-id\":\"n\",\"node\":[{\"node-id\":"
                 "\"a\"},{\"node-id\":\"b\"}],\"ietf-network-topology:link\":[{\"link-id\":\"l\",\"source\":"
                 "{\"source-node\":\"a\"},\"destination\":{\"dest-node\":\"b\"},"
                 "\"ietf-l2-topology:l2-link-attributes\":{\"rate\":1e999}}]}]}}");
        QVERIFY(bool(kept));
    }

    void bytes_that_are_no_json_are_refused_or_remarked_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<bool>("refused");
        const QByteArray whole = "{\"ietf-network:networks\":{\"network\":[{\"network-id\":\"n\"}]}}";
        QTest::newRow("NUL after the document") << whole + QByteArray(1, '\0') << true;
        QTest::newRow("text after the document") << whole + "x" << true;
        QTest::newRow("two documents") << whole + whole << true;
        QTest::newRow("comma at the end") << QByteArray(whole).replace("\"n\"}", "\"n\",}") << true;
        QTest::newRow("a literal cut short")
            << QByteArray(whole).replace("\"n\"}", "\"n\",\"x\":tru}") << true;
        QTest::newRow("a leading zero") << QByteArray(whole).replace("\"n\"}", "\"n\",\"x\":01}") << true;
        QTest::newRow("a bare point") << QByteArray(whole).replace("\"n\"}", "\"n\",\"x\":1.}") << true;
        QTest::newRow("an unknown escape")
            << QByteArray(whole).replace("\"n\"}", "\"n\",\"x\":\"\\q\"}") << true;
        QTest::newRow("a line feed in a text")
            << QByteArray(whole).replace("\"n\"}", "\"n\",\"x\":\"a\nb\"}") << true;
        QTest::newRow("Latin-1") << QByteArray(whole).replace("\"n\"}", "\"n\",\"x\":\"\xe9\"}") << false;
        QTest::newRow("a member of another module")
            << QByteArray(whole).replace("\"n\"}", "\"n\",\"quay:node\":[{\"node-id\":\"a\"}]}") << false;
        QTest::newRow("a link of another module")
            << QByteArray(whole).replace("\"n\"}", "\"n\",\"quay:link\":[]}") << false;
    }
    void bytes_that_are_no_json_are_refused_or_remarked() {
        QFETCH(QByteArray, bytes);
        QFETCH(bool, refused);
        const auto loaded = read({bytes.data(), static_cast<std::size_t>(bytes.size())}, "bad");
        QCOMPARE(!loaded, refused);
        if (refused) {
            QCOMPARE(loaded.refusal().where.line, 1);
            QVERIFY(loaded.refusal().where.column > 1);
        } else {
            QCOMPARE(loaded->remarks.size(), std::size_t{1});
            QVERIFY(!loaded->remarks.front().remedy.empty());
            QVERIFY(bool(exchange::readOwn(exchange::writeOwn(loaded->network), "own")));
        }
    }

    void half_a_surrogate_pair_is_no_reason_to_fail() {
        const auto loaded = read("{\"ietf-network:networks\":{\"network\":[{\"network-id\":\"n\",\"node\":"
                                 "[{\"node-id\":\"a\\ud800\"},{\"node-id\":\"\\ud83d\\ude00\"}]}]}}");
        QVERIFY(bool(loaded));
        QVERIFY(named(loaded->network, "a\xEF\xBF\xBD"));
        QVERIFY(named(loaded->network, "\xF0\x9F\x98\x80"));
        QVERIFY(bool(exchange::readOwn(exchange::writeOwn(loaded->network), "own")));
        QVERIFY(!exchange::writeRfc8345(loaded->network).bytes.empty());
    }

    void fair_depths_are_read_and_absurd_ones_refused() {
        const auto json = [](int depth) {
            return "{\"ietf-network:networks\":{\"network\":[{\"network-id\":\"n\",\"quay:deep\":" +
                   std::string(static_cast<std::size_t>(depth), '[') +
                   std::string(static_cast<std::size_t>(depth), ']') + "}]}}";
        };
        const auto graphs = [](int depth) {
            std::string xml = "<graphml>";
            for (int i = 0; i < depth; ++i)
                xml += "<graph><node id='n" + std::to_string(i) + "'>";
            for (int i = 0; i < depth; ++i)
                xml += "</node></graph>";
            return xml + "</graphml>";
        };
        for (const std::string& text : {json(60), json(400), graphs(100), graphs(200)}) {
            const auto loaded = read(text);
            QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
            const auto own = exchange::readOwn(exchange::writeOwn(loaded->network), "own");
            QVERIFY(bool(own));
            QVERIFY(bool(read(exchange::writeRfc8345(own->network).bytes)));
        }
        for (const std::string& text : {json(501), json(100'000), graphs(260), graphs(10'000)}) {
            const auto loaded = read(text);
            QVERIFY(!loaded);
            QVERIFY(QString::fromStdString(loaded.refusal().what).contains("nested more than 500 deep"));
        }
    }

    void layers_mean_the_same_in_any_order() {
        const auto network = [](const char* id, const char* rest) {
            return std::string("{\"network-id\":\"") + id + "\"," + rest + "}";
        };
        const std::string lower = network("lower", R"("node":[
            {"node-id":"a","ietf-network-topology:termination-point":[{"tp-id":"1"}]},
            {"node-id":"b","ietf-network-topology:termination-point":[{"tp-id":"1"},{"tp-id":"2"}]},
            {"node-id":"c","ietf-network-topology:termination-point":[{"tp-id":"1"}]}],
            "ietf-network-topology:link":[
            {"link-id":"ab","source":{"source-node":"a","source-tp":"1"},"destination":{"dest-node":"b","dest-tp":"1"}},
            {"link-id":"bc","source":{"source-node":"b","source-tp":"2"},"destination":{"dest-node":"c","dest-tp":"1"}}])");
        // It does not say as a whole on what it rests; its nodes do.
        const std::string upper = network("upper", R"("node":[
            {"node-id":"A","supporting-node":[{"network-ref":"lower","node-ref":"a"}],
             "ietf-network-topology:termination-point":[{"tp-id":"x","supporting-termination-point":[
             {"network-ref":"lower","node-ref":"a","tp-ref":"1"}]}]},
            {"node-id":"C","supporting-node":[{"network-ref":"lower","node-ref":"c"}]}],
            "ietf-network-topology:link":[{"link-id":"AC","source":{"source-node":"A","source-tp":"x"},
            "destination":{"dest-node":"C"},"supporting-link":[{"network-ref":"lower","link-ref":"ab"},
            {"network-ref":"lower","link-ref":"bc"}]}])");
        const auto document = [](const std::string& first, const std::string& second) {
            return "{\"ietf-network:networks\":{\"network\":[" + first + "," + second + "]}}";
        };
        const auto one = read(document(lower, upper)), other = read(document(upper, lower));
        QVERIFY(one && other);
        for (const auto* loaded : {&one, &other}) {
            const Network& n = (*loaded)->network;
            QCOMPARE(n.all<Device>().size(), std::size_t{3});
            QCOMPARE(n.all<Link>().size(), std::size_t{3});
            QVERIFY((*loaded)->remarks.empty());
            // The path A to C is drawn on its own sheet, where both are, and takes no
            // port from the link below.
            const Sheet* sheet = nullptr;
            const auto sheets = n.sheetsInOrder();
            for (const Sheet& each : sheets)
                if (each.name == "upper")
                    sheet = &each;
            QVERIFY(sheet && n.position(sheet->id, named(n, "a")->id.value));
            int above = 0;
            n.all<Link>().forEach([&](const Link& link) { above += link.onlyOn == sheet->id; });
            QCOMPARE(above, 1);
            const Link* below = n.linkAt({named(n, "a")->id, "1"});
            QVERIFY(below && (below->b.device == named(n, "b")->id || below->a.device == named(n, "b")->id));
            const std::string out = exchange::writeRfc8345(n).bytes;
            for (const char* kept : {"\"AC\"", "\"link-ref\": \"bc\"", "\"source-tp\": \"x\""})
                QVERIFY2(out.find(kept) != std::string::npos, out.c_str());
            QCOMPARE(read(out)->network.all<Link>().size(), std::size_t{3});
        }
    }

    void xml_that_is_not_well_formed_is_refused_with_a_place_data() {
        QTest::addColumn<QByteArray>("inside");
        QTest::newRow("bare ampersand") << QByteArray("<node id='a & b'/>");
        QTest::newRow("bare ampersand in text") << QByteArray("<desc>salt & pepper</desc>");
        QTest::newRow("less-than in an attribute") << QByteArray("<node id='a<b'/>");
        QTest::newRow("attribute twice") << QByteArray("<node id='a' id='b'/>");
        QTest::newRow("control character") << QByteArray("<desc>a\x01"
                                                         "b</desc>");
        QTest::newRow("reference to no character") << QByteArray("<desc>&#xD800;</desc>");
        QTest::newRow("reference to NUL") << QByteArray("<desc>&#0;</desc>");
        QTest::newRow("reference past the last") << QByteArray("<desc>&#x110000;</desc>");
        QTest::newRow("undeclared prefix") << QByteArray("<q:shape/>");
        QTest::newRow("undeclared prefix of an attribute") << QByteArray("<node id='a' q:x='1'/>");
        QTest::newRow("undefined entity") << QByteArray("<desc>&quay;</desc>");
        QTest::newRow("end of CDATA in text") << QByteArray("<desc>a]]>b</desc>");
        QTest::newRow("two hyphens in a comment") << QByteArray("<!-- a -- b -->");
        QTest::newRow("tags crossed") << QByteArray("<node id='a'><desc></node></desc>");
        QTest::newRow("attribute without quotes") << QByteArray("<node id=a/>");
    }
    void xml_that_is_not_well_formed_is_refused_with_a_place() {
        QFETCH(QByteArray, inside);
        const std::string xml = "<graphml>\n<graph>\n" + inside.toStdString() + "</graph>\n</graphml>";
        const auto loaded = read(xml, "bad.graphml");
        QVERIFY(!loaded);
        QCOMPARE(loaded.refusal().where.line, 3);
        QVERIFY(loaded.refusal().where.column > 0 && !loaded.refusal().remedy.empty());
    }

    void xml_with_more_than_one_root_or_text_beside_it_is_refused() {
        for (const char* xml : {"<graphml/>\nquay", "quay\n<graphml/>", "<graphml/>\n<graphml/>",
                                "<graphml><graph/></graphml><!-- ok -->x", "<graphml>\n<graph/>"})
            QVERIFY2(!exchange::readGraphml(xml, {"bad", catalogue()}), xml);
        QVERIFY(bool(read("<?xml version='1.0'?><!-- a --><graphml><graph/></graphml><!-- b --><?pi x?>\n")));
    }

    void graphml_that_says_a_thing_twice_or_elsewhere_is_remarked_data() {
        QTest::addColumn<QByteArray>("inside");
        QTest::addColumn<QByteArray>("words");
        QTest::newRow("edge id twice")
            << QByteArray("<node id='a'/><node id='b'/><edge id='e' source='a' target='b'/>"
                          "<edge id='e' source='b' target='a'/>")
            << QByteArray("id of an edge is there twice");
        QTest::newRow("port twice") << QByteArray("<node id='a'><port name='1'/><port name='1'/></node>")
                                    << QByteArray("port 1 is there twice");
        QTest::newRow("locator") << QByteArray("<node id='a'><locator href='b.graphml'/></node>")
                                 << QByteArray("another file");
        QTest::newRow("graph in a hyperedge")
            << QByteArray("<hyperedge id='h'><graph><node id='x'/></graph></hyperedge>")
            << QByteArray("graph inside");
    }
    void graphml_that_says_a_thing_twice_or_elsewhere_is_remarked() {
        QFETCH(QByteArray, inside);
        QFETCH(QByteArray, words);
        const auto loaded = read("<graphml><graph>" + inside.toStdString() + "</graph></graphml>");
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        QCOMPARE(loaded->remarks.size(), std::size_t{1});
        QVERIFY(says(loaded->remarks, words.constData()));
    }

    void cut_off_anywhere_a_file_is_read_or_refused() {
        RandomEdits edits(3);
        const Network network = edits.grown(10);
        for (const Format format : {Format::rfc8345, Format::graphml, Format::csv}) {
            const std::string whole = exchange::write(network, format).bytes;
            for (std::size_t size = 0; size < whole.size(); size += 7) {
                const auto loaded = read(std::string_view(whole).substr(0, size));
                if (loaded)
                    QVERIFY(loaded->network.indicesAreTrue());
                else
                    QVERIFY(!loaded.refusal().what.empty());
            }
        }
    }

    // --- GraphML ---------------------------------------------------------------

    void graphml_keys_groups_and_ports_are_read_and_written_back() {
        const std::string xml = tests::harbour;
        const auto loaded = read(xml, "harbour.graphml");
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        const Network& n = loaded->network;
        QCOMPARE(n.all<Device>().size(), std::size_t{3});
        QCOMPARE(n.all<Group>().size(), std::size_t{1});
        QCOMPARE(n.all<Link>().size(), std::size_t{1});
        const Device* cafe = named(n, "Café");
        QVERIFY(cafe);
        QCOMPARE(roleOf(n, *cafe), Role::switch_);
        QCOMPARE(cafe->attributes.at("berth"), std::string("3"));
        QCOMPARE(n.group(named(n, "n1")->group)->name, std::string("hall"));
        n.all<Link>().forEach([&](const Link& link) {
            QCOMPARE(link.a.port, std::string("p1-1"));
            QVERIFY(!link.b.known());
            QCOMPARE(link.attributes.at("cost"), std::string("2.5"));
        });
        const Remark* type = remarkThatSays(loaded->remarks, "not of type int");
        QVERIFY(type);
        QCOMPARE(type->where.line, 12);
        QVERIFY(says(loaded->remarks, "ends at a group"));
        QVERIFY(says(loaded->remarks, "\"nowhere\""));
        QVERIFY(noHeap(n));

        const std::string out = exchange::writeGraphml(n).bytes;
        for (const char* kept : {"id=\"k1\"", "<default>3</default>", "attr.type=\"double\"", "urn:quay",
                                 "round", "nowhere", "target=\"hall\"", "Café", "edgedefault=\"directed\""})
            QVERIFY2(out.find(kept) != std::string::npos, kept);
        const auto again = read(out);
        QVERIFY2(bool(again), again ? "" : again.refusal().text().c_str());
        QCOMPARE(gist(again->network), gist(n));
        QCOMPARE(named(again->network, "n2")->attributes.at("berth"), std::string("many"));
    }

    void no_entity_is_expanded_and_nothing_is_fetched_data() {
        QTest::addColumn<char>("last");
        QTest::newRow("a few") << 'd';
        QTest::newRow("more than there are atoms") << 'm';
    }
    void no_entity_is_expanded_and_nothing_is_fetched() {
        QFETCH(char, last);
        std::string bomb = "<?xml version='1.0'?><!DOCTYPE graphml [<!ENTITY a 'ha'><!ENTITY s SYSTEM "
                           "'file:///etc/hostname'>";
        for (char c = 'b'; c <= last; ++c)
            bomb += std::string("<!ENTITY ") + c + " '&" + static_cast<char>(c - 1) + ";&" +
                    static_cast<char>(c - 1) + ";&" + static_cast<char>(c - 1) + ";&" +
                    static_cast<char>(c - 1) + ";'>";
        bomb += "]><graphml><key id='d' for='node' attr.name='name'/><graph id='g'>"
                "<node id='x'><data key='d'>&d;&s;</data></node></graph></graphml>";
        if (last == 'm')
            bomb.replace(bomb.find("&d;&s;"), 6, "&m;&s;");
        const auto loaded = read(bomb);
        if (last == 'm') {
            QVERIFY(!loaded && !loaded.refusal().what.empty());
            return;
        }
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        QVERIFY(named(loaded->network, "&d;&s;"));
        QVERIFY(says(loaded->remarks, "not expanded"));
    }

    void wide_encodings_are_read() {
        const QString xml =
            QStringLiteral("<?xml version=\"1.0\" encoding=\"UTF-16\"?><graphml><graph id=\"g\"><node "
                           "id=\"Čerpadlo\"/></graph></graphml>");
        QByteArray bytes("\xFF\xFE");
        bytes.append(reinterpret_cast<const char*>(xml.utf16()), xml.size() * 2);
        const auto loaded = read({bytes.data(), static_cast<std::size_t>(bytes.size())});
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        QVERIFY(named(loaded->network, "Čerpadlo"));
    }

    void absurd_positions_are_put_down_elsewhere_and_tiny_drawings_are_stretched() {
        std::string xml =
            "<graphml><key id='x' for='node' attr.name='x'/><key id='y' for='node' attr.name='y'/>"
            "<graph id='g'>";
        const char* xs[] = {"0", "0.1", "0.2", "NaN", "1e300", "0.1", "0.1", "left"};
        for (int i = 0; i < 8; ++i)
            xml += "<node id='n" + std::to_string(i) + "'><data key='x'>" + xs[i] +
                   "</data><data key='y'>0.3</data></node>";
        const auto loaded = read(xml + "</graph></graphml>");
        QVERIFY(bool(loaded));
        QVERIFY(says(loaded->remarks, "not a place on a sheet"));
        QVERIFY(noHeap(loaded->network));
        const auto sheet = loaded->network.sheetsInOrder().front().id;
        const auto at = [&](const char* name) {
            return loaded->network.position(sheet, named(loaded->network, name)->id.value)->at;
        };
        QVERIFY(at("n2").x - at("n0").x > 200);
        QCOMPARE(at("n0").y, at("n2").y);
    }

    // --- CSV -------------------------------------------------------------------

    void csv_columns_are_found_by_name_and_separator() {
        const auto loaded =
            read("Name;Model;Group;owner;X;Y\r\nacc-1;Access switch 24;Quay/Hall;harbour;10;20\r\n"
                 "\"till; 1\";till;;;;\r\n\r\nfrom;from port;to;to port;cable;length m\r\n"
                 "acc-1;3;till; 1;;\r\nacc-1;4;\"till; 1\";1;cat6a;12,5\r\nacc-1;5;shed;;;\r\n",
                 "list.csv");
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        const Network& n = loaded->network;
        const Device* access = named(n, "acc-1");
        QVERIFY(access);
        QCOMPARE(access->model, std::string("access-switch-24"));
        QCOMPARE(access->attributes.at("owner"), std::string("harbour"));
        QCOMPARE(n.group(access->group)->name, std::string("Hall"));
        QCOMPARE(n.position(n.sheetsInOrder().front().id, access->id.value)->at, (Point{10, 20}));
        QVERIFY(named(n, "shed"));
        const Link* cabled = n.linkAt({access->id, "4"});
        QVERIFY(cabled);
        QCOMPARE(n.cable(cabled->cable)->type, std::string("cat6a"));
        const Remark* length = remarkThatSays(loaded->remarks, "not a length");
        QVERIFY(length);
        QCOMPARE(length->where.line, 7);
        QCOMPARE(length->where.column, 6);
        QVERIFY(!n.linkAt({access->id, "5"})->b.known());
    }

    void cells_with_line_feeds_keep_the_line_count() {
        const auto loaded = read("name,model,note\na,till,\"two\nlines\"\nb,zeppelin,x\n");
        QVERIFY(bool(loaded));
        QCOMPARE(named(loaded->network, "a")->note.str(), std::string("two\nlines"));
        QCOMPARE(remarkThatSays(loaded->remarks, "zeppelin")->where.line, 4);
    }

    void formulas_are_neutralised_on_the_way_out_and_restored_on_the_way_in() {
        RandomEdits edits(1);
        Network n = edits.start();
        n = edit::placeDevices(n, n.sheetsInOrder().front().id, *catalogue().device("till"),
                               {{"=1+1", {-40, -40}}, {"@sum", {0, 90}}, {"'=quoted", {0, 200}}}, {},
                               edits.ids())
                ->network;
        const auto written = exchange::writeCsv(n);
        QVERIFY(written.bytes.find(",'=1+1,") != std::string::npos);
        QVERIFY(written.bytes.find(",-40,") != std::string::npos); // a number is no formula
        QVERIFY(says(written.remarks, "apostrophe"));
        QCOMPARE(gist(read(written.bytes)->network), gist(n));
    }

    void names_that_are_not_utf8_are_read_as_windows_1252_with_a_remark() {
        const auto loaded = read("name,model\nCaf\xE9,till\n");
        QVERIFY(bool(loaded));
        QVERIFY(named(loaded->network, "Café"));
        QVERIFY(says(loaded->remarks, "Windows-1252"));
    }

    // --- import ----------------------------------------------------------------

    void import_is_one_act_that_keeps_both_networks_whole() {
        RandomEdits edits(7);
        const Network mine = edits.grown(40);
        const auto theirs = read(twoLayers);
        for (const auto onto : {edit::ImportOnto::ownSheets, edit::ImportOnto::presentSheet}) {
            const SheetId present = mine.sheetsInOrder().front().id;
            const auto once = edit::importNetwork(mine, theirs->network, onto, present, edits.ids());
            QVERIFY(bool(once));
            QVERIFY(once->network.indicesAreTrue());
            QCOMPARE(once->network.all<Device>().size(), mine.all<Device>().size() + 3);
            QCOMPARE(once->network.all<Link>().size(), mine.all<Link>().size() + 3);
            QCOMPARE(once->network.all<Sheet>().size(),
                     mine.all<Sheet>().size() + (onto == edit::ImportOnto::ownSheets ? 2 : 1));
            QCOMPARE(once->subjects.size(), std::size_t{3});
            // What a sheet of theirs showed is on the sheet that it became.
            const auto sheets = theirs->network.sheetsInOrder();
            int seen = 0;
            for (std::size_t i = 0; i < sheets.size(); ++i)
                for (const auto& subject : once->subjects) {
                    if (!theirs->network.position(sheets[i].id, subject.id))
                        continue;
                    // What is no upper layer goes onto the present sheet.
                    const bool isOnPresent =
                        onto == edit::ImportOnto::presentSheet && sheets[i].layer != SheetLayer::upper;
                    const SheetId now = isOnPresent ? present : sheets[i].id;
                    QVERIFY(once->network.position(now, subject.id));
                    ++seen;
                }
            QVERIFY(seen > 0);
            // The same file again: new ids where they are taken.
            const auto twice =
                edit::importNetwork(once->network, theirs->network, onto, present, edits.ids());
            QVERIFY(bool(twice));
            QVERIFY(twice->network.indicesAreTrue());
            QCOMPARE(twice->network.all<Device>().size(), mine.all<Device>().size() + 6);
            QCOMPARE(twice->network.all<Vlan>().size(), std::size_t{3}); // equal VLANs are one
            const auto reread = exchange::readOwn(exchange::writeOwn(twice->network), "x");
            QVERIFY(bool(reread));
            QVERIFY(reread->remarks.empty());
        }
        QVERIFY(!edit::importNetwork(mine, emptyNetwork("e", edits.ids()), edit::ImportOnto::ownSheets, {},
                                     edits.ids()));
    }

    void bends_come_along_with_the_plates_of_an_imported_sheet() {
        const Network office = tests::demo("first-office");
        IdSource ids(8);
        const SheetId sheet = office.sheetsInOrder().front().id;
        LinkId link;
        office.all<Link>().forEach([&](const Link& each) { link = each.id; });
        const PortRef end = office.link(link)->a;
        const Point at = office.position(sheet, end.device.value)->at;
        const Network bent = edit::setBends(office, sheet, link, {{at.x + 40, at.y + 64}})->network;
        // Onto a sheet that has something at the same place already.
        const auto act = edit::importNetwork(office, bent, edit::ImportOnto::presentSheet, sheet, ids);
        QVERIFY(bool(act));
        int found = 0;
        act->network.all<Link>().forEach([&](const Link& each) {
            const Position* position = act->network.position(sheet, each.id.value);
            if (!position || position->bends.empty())
                return;
            const Point now = act->network.position(sheet, each.a.device.value)->at;
            QVERIFY(!(now == at)); // put beside what is there
            QCOMPARE(position->bends.front().x - now.x, 40);
            QCOMPARE(position->bends.front().y - now.y, 64);
            ++found;
        });
        QCOMPARE(found, 1);
    }

    void a_cabled_network_taken_in_twice_is_there_twice() {
        RandomEdits edits(9);
        const Network quay = tests::demo("fennick-quay");
        const auto twice = edit::importNetwork(quay, quay, edit::ImportOnto::ownSheets, {}, edits.ids());
        QVERIFY(bool(twice));
        const Network& both = twice->network;
        QVERIFY(both.indicesAreTrue());
        QCOMPARE(both.all<Cable>().size(), 2 * quay.all<Cable>().size());
        QCOMPARE(both.all<Link>().size(), 2 * quay.all<Link>().size());
        QCOMPARE(both.all<Port>().size(), 2 * quay.all<Port>().size());
        std::set<std::uint64_t> mine;
        quay.all<Device>().forEach([&](const Device& device) { mine.insert(device.id.value); });
        const auto isMine = [&](const PortRef& port) { return mine.contains(port.device.value); };
        // No link, cable or LAG joins the one to the other, and each cable lies on the
        // side of its links.
        both.all<Link>().forEach([&](const Link& link) {
            QCOMPARE(isMine(link.a), isMine(link.b));
            if (const Cable* cable = both.cable(link.cable))
                for (const CableEnd& end : cable->ends)
                    QCOMPARE(isMine(end.at), isMine(link.a));
        });
        both.all<Cable>().forEach([&](const Cable& cable) {
            if (cable.ends.size() > 1 && cable.ends[0].at.device && cable.ends[1].at.device)
                QCOMPARE(isMine(cable.ends[0].at), isMine(cable.ends[1].at));
        });
        const auto own = linking::check(quay, catalogue()).size();
        QVERIFY(linking::check(both, catalogue()).size() >= 2 * own); // and what is wrong twice is said twice
    }

    void a_device_listed_twice_in_csv_is_one_and_said() {
        const auto loaded =
            read("name,model,x,y\nacc-1,access-switch-24,0,0\nacc-1,access-switch-48,90,90\n", "twice.csv");
        QVERIFY(bool(loaded));
        QCOMPARE(loaded->network.all<Device>().size(), std::size_t{1});
        const Remark* remark = remarkThatSays(loaded->remarks, "acc-1");
        QVERIFY(remark);
        QCOMPARE(remark->where.line, 3);
    }

    void a_model_that_differs_under_the_same_id_gets_its_own() {
        RandomEdits edits(2);
        Network mine = edits.start();
        mine = edit::placeDevices(mine, mine.sheetsInOrder().front().id, *catalogue().device("till"),
                                  {{"till-1", {0, 0}}}, {}, edits.ids())
                   ->network;
        Network theirs = edits.start();
        DeviceModel other = *catalogue().device("till");
        other.name = "Till with scanner";
        theirs = edit::placeDevices(theirs, theirs.sheetsInOrder().front().id, other, {{"till-2", {0, 0}}},
                                    {}, edits.ids())
                     ->network;
        const auto act = edit::importNetwork(mine, theirs, edit::ImportOnto::ownSheets, {}, edits.ids());
        QVERIFY(bool(act));
        QCOMPARE(modelName(act->network, *named(act->network, "till-1")), std::string("Till"));
        QCOMPARE(modelName(act->network, *named(act->network, "till-2")), std::string("Till with scanner"));
    }

    void a_network_that_is_there_twice_is_passed_over_with_a_remark() {
        const auto loaded = read(R"({"ietf-network:networks":{"network":[
            {"network-id":"n","node":[{"node-id":"a"}]},{"network-id":"n","node":[{"node-id":"b"}]}]}})");
        QVERIFY(loaded);
        QCOMPARE(loaded->network.all<Device>().size(), std::size_t{1});
        QVERIFY(named(loaded->network, "a") && !named(loaded->network, "b"));
        QCOMPARE(loaded->remarks.size(), std::size_t{1});
    }

    void what_has_no_place_is_put_down_in_rows_from_the_best_connected_downwards() {
        const auto loaded = read("from,to\nhub,a\nhub,b\nhub,c\na,far\n");
        QVERIFY(loaded);
        const Network& n = loaded->network;
        const SheetId sheet = n.sheetsInOrder().front().id;
        const auto y = [&](const char* name) { return n.position(sheet, named(n, name)->id.value)->at.y; };
        QVERIFY(y("hub") < y("a"));
        QCOMPARE(y("a"), y("b"));
        QCOMPARE(y("a"), y("c"));
        QVERIFY(y("a") < y("far"));
        QVERIFY(loaded->unplaced.empty());
        // Read without putting down, it is said what has no place.
        const auto bare = exchange::readAny("from,to\nhub,a\n", {"x.csv", catalogue()});
        QCOMPARE(bare->unplaced.size(), std::size_t{1});
        QCOMPARE(bare->unplaced.front().devices.size(), std::size_t{2});
    }
};

UNDERRIDGE_TEST(ExchangeTest)
#include "exchange_test.moc"
