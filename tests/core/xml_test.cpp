// SPDX-License-Identifier: GPL-3.0-or-later
// XML that is not XML is refused at its place, however deep or long; what is, is read
// whatever its encoding.
#include "core/exchange/xml_check.h"
#include "tests/support/reading.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using tests::named;
using tests::read;

namespace {

std::string graphml(const std::string& inside) {
    return "<?xml version=\"1.0\"?>\n<graphml xmlns=\"http://graphml.graphdrawing.org/xmlns\">\n" + inside +
           "\n</graphml>\n";
}

std::string repeated(const std::string& what, int times) {
    std::string out;
    for (int i = 0; i < times; ++i)
        out += what;
    return out;
}

/// Nodes inside graphs inside nodes.
std::string nested(int levels) {
    std::string inside;
    for (int i = 0; i < levels; ++i)
        inside += "<graph edgedefault=\"undirected\"><node id=\"n" + std::to_string(i) + "\">";
    return graphml(inside + repeated("</node></graph>", levels));
}

} // namespace

class XmlTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_is_not_well_formed_is_refused_data() {
        QTest::addColumn<QByteArray>("inside");
        QTest::addColumn<int>("line");
        QTest::newRow("bare ampersand") << QByteArray("<graph>\n<desc>a & b</desc></graph>") << 4;
        QTest::newRow("less than in an attribute") << QByteArray("<graph id=\"a<b\"/>") << 3;
        QTest::newRow("attribute twice") << QByteArray("<graph id=\"a\" id=\"b\"/>") << 3;
        QTest::newRow("attribute without quotes") << QByteArray("<graph id=a/>") << 3;
        QTest::newRow("not closed") << QByteArray("<graph>") << 4;
        QTest::newRow("closed crosswise") << QByteArray("<graph><node></graph></node>") << 3;
        QTest::newRow("undeclared prefix") << QByteArray("<q:graph/>") << 3;
        QTest::newRow("undefined entity") << QByteArray("<desc>&quay;</desc>") << 3;
        QTest::newRow("impossible character") << QByteArray("<desc>&#x1;</desc>") << 3;
        QTest::newRow("control character") << QByteArray("<desc>\x01</desc>") << 3;
        QTest::newRow("brackets in text") << QByteArray("<desc>]]></desc>") << 3;
        QTest::newRow("dashes in a comment") << QByteArray("<!-- a -- b -->") << 3;
    }
    void what_is_not_well_formed_is_refused() {
        QFETCH(QByteArray, inside);
        QFETCH(int, line);
        const auto loaded = read(graphml(inside.toStdString()), "a.graphml");
        QVERIFY(!loaded);
        QVERIFY2(QString::fromStdString(loaded.refusal().what).contains("not well-formed"),
                 loaded.refusal().what.c_str());
        QCOMPARE(loaded.refusal().where.line, line);
        QCOMPARE(loaded.refusal().where.file, std::string("a.graphml"));
    }

    void nothing_may_stand_outside_the_root() {
        QVERIFY(!read(graphml("<graph/>") + "more"));
        QVERIFY(!read(graphml("<graph/>") + "<graphml/>"));
        QVERIFY(read(graphml("<graph/>") + "<!-- the end -->\n"));
    }

    /// The tree is read while the text is still being checked: what is refused in the end
    /// must not have been followed too far by then.
    void nodes_in_nodes_are_followed_to_a_bound_and_refused_beyond() {
        const auto fair = read(nested(100));
        QVERIFY2(bool(fair), fair ? "" : fair.refusal().text().c_str());
        std::size_t groups = 0;
        fair->network.all<Group>().forEach([&](const Group&) { ++groups; });
        QCOMPARE(groups, std::size_t{99}); // the innermost is a device
        for (const int levels : {300, 100'000}) {
            const auto deep = read(nested(levels));
            QVERIFY(!deep);
            QVERIFY(QString::fromStdString(deep.refusal().what).contains("nested more than 500 deep"));
        }
    }

    void ports_in_ports_are_followed_to_a_bound() {
        const auto loaded =
            read(graphml("<graph edgedefault=\"undirected\"><node id=\"a\">" +
                         repeated("<port name=\"p\">", 200) + repeated("</port>", 200) + "</node></graph>"));
        QVERIFY(bool(loaded));
        QVERIFY(named(loaded->network, "a"));
    }

    void a_key_that_is_declared_twice_counts_once_and_is_told() {
        const auto loaded = read(graphml(
            "<key id=\"d\" for=\"node\" attr.name=\"berth\" attr.type=\"string\"/>"
            "<key id=\"d\" for=\"node\" attr.name=\"crane\" attr.type=\"string\"/>"
            "<graph edgedefault=\"undirected\"><node id=\"a\"><data key=\"d\">3</data></node></graph>"));
        QVERIFY(bool(loaded));
        const Remark* told = tests::remarkThatSays(loaded->remarks, "the key is there twice");
        QVERIFY(told);
        QCOMPARE(told->where.object, std::string("d"));
        QCOMPARE(named(loaded->network, "a")->attributes.at("berth"), std::string("3"));
        const std::string written = exchange::write(loaded->network, exchange::Format::graphml).bytes;
        const auto first = written.find("id=\"d\"");
        QVERIFY(first != std::string::npos && written.find("id=\"d\"", first + 1) == std::string::npos);
    }

    void an_entity_that_grows_without_end_is_refused() {
        std::string text = "<?xml version=\"1.0\"?><!DOCTYPE g [<!ENTITY a \"aaaaaaaaaaaaaaaaaaaa\">";
        for (char level = 'b'; level < 'k'; ++level)
            text += std::string("<!ENTITY ") + level + " \"" +
                    repeated(std::string("&") + static_cast<char>(level - 1) + ";", 20) + "\">";
        text += "]><graphml><graph><desc>&j;</desc></graph></graphml>";
        const auto fault = exchange::xmlFault(text, "a.graphml");
        QVERIFY(fault);
        QVERIFY(!read(text));
    }

    void the_encoding_that_is_declared_or_marked_is_read_data() {
        QTest::addColumn<QByteArray>("bytes");
        const QByteArray text =
            "<graphml><graph edgedefault=\"undirected\"><node id=\"kaj \xE9\"/></graph></graphml>";
        QTest::newRow("Latin 1") << "<?xml version=\"1.0\" encoding=\"ISO-8859-1\"?>" + text;
        QTest::newRow("UTF-8") << "<?xml version=\"1.0\" encoding=\"utf-8\"?>" +
                                      QString::fromLatin1(text).toUtf8();
        QTest::newRow("UTF-8, not declared") << QString::fromLatin1(text).toUtf8();
        QTest::newRow("UTF-8 with a mark") << "\xEF\xBB\xBF" + QString::fromLatin1(text).toUtf8();
        for (const bool swapped : {false, true}) {
            QByteArray wide = swapped ? QByteArray("\xFE\xFF", 2) : QByteArray("\xFF\xFE", 2);
            for (const char16_t c : QString::fromLatin1(text).toStdU16String()) {
                const char low = static_cast<char>(c & 0xFF), high = static_cast<char>(c >> 8);
                wide += swapped ? high : low;
                wide += swapped ? low : high;
            }
            QTest::newRow(swapped ? "UTF-16, big end first" : "UTF-16") << wide;
        }
    }
    void the_encoding_that_is_declared_or_marked_is_read() {
        QFETCH(QByteArray, bytes);
        const auto loaded = read(std::string_view(bytes.constData(), static_cast<std::size_t>(bytes.size())));
        QVERIFY2(bool(loaded), loaded ? "" : loaded.refusal().text().c_str());
        QVERIFY(named(loaded->network, "kaj \xC3\xA9"));
    }

    void bytes_that_the_encoding_cannot_hold_are_refused_with_their_line() {
        const auto loaded =
            read("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<graphml>\n<graph id=\"\xE9\"/></graphml>");
        QVERIFY(!loaded);
        QCOMPARE(loaded.refusal().where.line, 3);
        const auto cut = read(std::string("\xFF\xFE<\0g", 5));
        QVERIFY(!cut); // half of a character of two bytes
    }
};

UNDERRIDGE_TEST(XmlTest)
#include "xml_test.moc"
