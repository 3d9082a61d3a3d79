// SPDX-License-Identifier: GPL-3.0-or-later
// JSON texts taken apart: what RFC 8259 allows is read and kept as it was written, all
// else is refused where it begins.
#include "core/exchange/exact_json.h"
#include "core/exchange/json_view.h"
#include "tests/support/registered.h"

#include <random>

using namespace underridge;
using namespace underridge::exchange;
using Kind = JsonView::Kind;

namespace {

JsonText parsed(std::string text) {
    auto out = JsonText::parse(std::move(text), "quay.json");
    if (!out)
        qFatal("%s", out.refusal().text().c_str());
    return *std::move(out);
}

} // namespace

class JsonTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void every_kind_of_value_is_told_apart() {
        const JsonText text = parsed(" {\"a\":null, \"b\":true, \"c\":false, \"d\":-12.5e3, \"e\":\"x\", "
                                     "\"f\":[1,[2]], \"g\":{\"h\":{}}} ");
        const JsonView root = text.root();
        QCOMPARE(root.kind(), Kind::object);
        QCOMPARE(root.size(), std::size_t{7});
        QCOMPARE(root["a"].kind(), Kind::null);
        QCOMPARE(root["b"].boolean(), std::optional(true));
        QCOMPARE(root["c"].boolean(), std::optional(false));
        QCOMPARE(root["d"].number(), std::optional(-12500.0));
        QCOMPARE(root["e"].text(), std::string("x"));
        QCOMPARE(root["f"].size(), std::size_t{2});
        QCOMPARE(root["f"].at(1).at(0).whole(), std::optional<std::uint64_t>(2));
        QVERIFY(root["g"]["h"].isObject() && root["g"]["h"].empty());
        QVERIFY(!root["missing"] && !root["e"]["x"] && !root["f"].at(2));
    }

    void a_value_knows_its_place_and_its_own_writing() {
        const std::string whole = "{\n \"dock\" : [ 1.50 , \"a\\u0062\" ]\n}";
        const JsonText text = parsed(whole);
        const JsonView dock = text.root()["dock"];
        QCOMPARE(dock.offset(), whole.find('['));
        QCOMPARE(std::string(dock.raw()), std::string("[ 1.50 , \"a\\u0062\" ]"));
        QCOMPARE(dock.compact(), std::string("[1.50,\"a\\u0062\"]"));
        QCOMPARE(dock.at(1).text(), std::string("ab"));
        QCOMPARE(std::string(dock.at(1).raw()), std::string("\"a\\u0062\""));
        QCOMPARE(dock.at(1).size(), std::size_t{0}); // a text has no elements
    }

    void of_members_with_one_name_the_last_counts() {
        const JsonText text = parsed("{\"n\":1,\"n\":2,\"\\u006e\":3}");
        QCOMPARE(text.root().size(), std::size_t{3});
        QCOMPARE(text.root()["n"].whole(), std::optional<std::uint64_t>(3));
    }

    void members_come_in_their_order_with_their_names_resolved() {
        const JsonText text = parsed("{\"b\":1,\"a\\\"\\\\\":2,\"\\ud83d\\udea2\":3}");
        QStringList names;
        text.root().forEachMember([&](std::string_view name, JsonView value) {
            names << QString::fromUtf8(name.data(), static_cast<qsizetype>(name.size())) + "=" +
                         QString::number(*value.whole());
        });
        QCOMPARE(names, (QStringList{"b=1", "a\"\\=2", QString::fromUtf8("\xF0\x9F\x9A\xA2=3")}));
    }

    void escapes_mean_what_the_standard_says_data() {
        QTest::addColumn<QByteArray>("written");
        QTest::addColumn<QByteArray>("meant");
        QTest::newRow("none") << QByteArray("plain") << QByteArray("plain");
        QTest::newRow("all short ones")
            << QByteArray("\\\"\\\\\\/\\b\\f\\n\\r\\t") << QByteArray("\"\\/\b\f\n\r\t");
        QTest::newRow("one byte") << QByteArray("\\u0041") << QByteArray("A");
        QTest::newRow("two bytes") << QByteArray("\\u00E9") << QByteArray("\xC3\xA9");
        QTest::newRow("three bytes") << QByteArray("\\u20ac") << QByteArray("\xE2\x82\xAC");
        QTest::newRow("a pair") << QByteArray("\\uD83D\\uDEA2") << QByteArray("\xF0\x9F\x9A\xA2");
        QTest::newRow("half a pair") << QByteArray("\\uD83Dx") << QByteArray("\xEF\xBF\xBDx");
        QTest::newRow("the other half") << QByteArray("\\uDEA2") << QByteArray("\xEF\xBF\xBD");
        QTest::newRow("two first halves")
            << QByteArray("\\uD83D\\uD83D") << QByteArray("\xEF\xBF\xBD\xEF\xBF\xBD");
    }
    void escapes_mean_what_the_standard_says() {
        QFETCH(QByteArray, written);
        QFETCH(QByteArray, meant);
        const JsonText text = parsed("[\"" + written.toStdString() + "\"]");
        QCOMPARE(text.root().at(0).text(), meant.toStdString());
        QVERIFY(text.root().at(0).isText(meant.toStdString()));
        QVERIFY(!text.root().at(0).isText(meant.toStdString() + "x"));
        std::string scratch;
        QCOMPARE(std::string(text.root().at(0).text(scratch)), meant.toStdString());
    }

    /// Quotes and backslashes are looked for several bytes at a time.
    void a_text_ends_at_its_quote_wherever_that_lies() {
        for (std::size_t before = 0; before < 20; ++before)
            for (std::size_t after = 0; after < 20; ++after) {
                const std::string front(before, 'a'), back(after, 'b');
                const JsonText text = parsed("[\"" + front + "\\\"" + back + "\",\"" + back + "\"]");
                QCOMPARE(text.root().at(0).text(), front + "\"" + back);
                QCOMPARE(text.root().at(1).text(), back);
            }
    }

    void numbers_are_kept_digit_by_digit_data() {
        QTest::addColumn<QByteArray>("number");
        QTest::addColumn<bool>("isWhole");
        QTest::addColumn<bool>("isInteger");
        for (const char* whole : {"0", "7", "18446744073709551615"})
            QTest::newRow(whole) << QByteArray(whole) << true << (QByteArray(whole).size() < 19);
        for (const char* integer : {"-1", "-9223372036854775808"})
            QTest::newRow(integer) << QByteArray(integer) << false << true;
        for (const char* other : {"1.0", "1e3", "-0.5", "1e400", "18446744073709551616", "1E+2", "1e-400"})
            QTest::newRow(other) << QByteArray(other) << false << false;
        QTest::newRow("5,000 digits") << QByteArray(5000, '9') << false << false;
    }
    void numbers_are_kept_digit_by_digit() {
        QFETCH(QByteArray, number);
        QFETCH(bool, isWhole);
        QFETCH(bool, isInteger);
        const JsonText text = parsed("{\"n\":" + number.toStdString() + "}");
        QCOMPARE(text.root()["n"].kind(), Kind::number);
        QCOMPARE(text.root()["n"].compact(), number.toStdString());
        QCOMPARE(text.root()["n"].whole().has_value(), isWhole);
        QCOMPARE(text.root()["n"].integer().has_value(), isInteger);
        QCOMPARE(exactText(exactJson("[" + number.toStdString() + "]")),
                 "[\n " + number.toStdString() + "\n]");
    }

    void what_is_not_json_is_refused_where_it_begins_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<int>("offset");
        QTest::newRow("nothing") << QByteArray("") << 0;
        QTest::newRow("blanks") << QByteArray("  \n ") << -1;
        QTest::newRow("a word") << QByteArray("[nul]") << -1;
        QTest::newRow("capital word") << QByteArray("[True]") << 1;
        QTest::newRow("comma at the end") << QByteArray("[1,]") << 3;
        QTest::newRow("comma at the start") << QByteArray("[,1]") << 1;
        QTest::newRow("no comma") << QByteArray("[1 2]") << 3;
        QTest::newRow("no colon") << QByteArray("{\"a\" 1}") << 5;
        QTest::newRow("a name without quotes") << QByteArray("{a:1}") << 1;
        QTest::newRow("not closed") << QByteArray("{\"a\":[1}") << 7;
        QTest::newRow("closed twice") << QByteArray("[1]]") << 3;
        QTest::newRow("two roots") << QByteArray("{} {}") << 3;
        QTest::newRow("zero first") << QByteArray("[01]") << -1;
        QTest::newRow("a bare minus") << QByteArray("[-]") << -1;
        QTest::newRow("no fraction") << QByteArray("[1.]") << -1;
        QTest::newRow("no exponent") << QByteArray("[1e]") << -1;
        QTest::newRow("plus") << QByteArray("[+1]") << 1;
        QTest::newRow("hexadecimal") << QByteArray("[0x1]") << -1;
        QTest::newRow("not a number") << QByteArray("[NaN]") << -1;
        QTest::newRow("unknown escape") << QByteArray("[\"\\x41\"]") << -1;
        QTest::newRow("short escape") << QByteArray("[\"\\u12\"]") << -1;
        QTest::newRow("escape not hexadecimal") << QByteArray("[\"\\u12g4\"]") << -1;
        QTest::newRow("a text that is not closed") << QByteArray("[\"abc]") << -1;
        QTest::newRow("a line break in a text") << QByteArray("[\"a\nb\"]") << 3;
        QTest::newRow("not UTF-8") << QByteArray("[\"a\xFF\"]") << 3;
        QTest::newRow("a surrogate in UTF-8") << QByteArray("[\"\xED\xA0\x80\"]") << -1;
        QTest::newRow("a NUL after it") << QByteArray("[1]\0", 4) << 3;
        QTest::newRow("single quotes") << QByteArray("['a']") << 1;
        QTest::newRow("a remark") << QByteArray("[1] // one") << 4;
    }
    void what_is_not_json_is_refused_where_it_begins() {
        QFETCH(QByteArray, text);
        QFETCH(int, offset);
        std::string padded;
        padded.reserve(text.toStdString().size() + JsonReader::padding);
        padded = text.toStdString();
        JsonReader reader;
        const auto fault = reader.read(padded);
        QVERIFY(fault);
        QVERIFY(fault->offset <= padded.size());
        QVERIFY(!fault->what.empty());
        if (offset >= 0)
            QCOMPARE(static_cast<int>(fault->offset), offset);
        const auto kept = JsonText::parse(text.toStdString(), "quay.json");
        QVERIFY(!kept);
        QCOMPARE(kept.refusal().where.file, std::string("quay.json"));
        QVERIFY(kept.refusal().where.line >= 1);
    }

    void depth_is_bounded_and_the_bound_itself_is_fair() {
        const auto nested = [](int depth) {
            return std::string(static_cast<std::size_t>(depth), '[') +
                   std::string(static_cast<std::size_t>(depth), ']');
        };
        QVERIFY(JsonText::parse(nested(maxJsonDepth), "a"));
        const auto deeper = JsonText::parse(nested(maxJsonDepth + 1), "a");
        QVERIFY(!deeper);
        QVERIFY(QString::fromStdString(deeper.refusal().what).contains("nested more than 500 deep"));
        QVERIFY(!JsonText::parse(nested(20), "a", 19));
        QVERIFY(JsonText::parse(nested(20), "a", 20));
        QVERIFY(!JsonText::parse(nested(300'000), "a"));
    }

    void a_reader_takes_one_text_after_another_also_after_a_fault() {
        JsonReader reader;
        const auto read = [&](std::string text) {
            text.reserve(text.size() + JsonReader::padding);
            const bool good = !reader.read(text);
            return good ? reader.root().compact() : std::string("fault");
        };
        QCOMPARE(read("{\"a\": 1}"), std::string("{\"a\":1}"));
        QCOMPARE(read("{\"a\": "), std::string("fault"));
        QCOMPARE(read("[ ]"), std::string("[]"));
        QCOMPARE(read("\"alone\""), std::string("\"alone\""));
        QCOMPARE(read("12"), std::string("12"));
    }

    void members_can_be_set_found_and_taken_away_few_or_many() {
        for (const int count : {3, 100}) {
            JsonMembers members;
            for (int i = 0; i < count; ++i)
                members.set("n" + std::to_string(i), std::to_string(i));
            members.set("n1", "\"again\"");
            members.setText("text", "a \"word\"");
            QVERIFY(members.find("n2") && *members.find("n2") == "2");
            QVERIFY(!members.find("n"));
            members.erase("n0");
            members.erase("not there");
            QVERIFY(!members.find("n0"));
            const JsonText text = parsed(members.text());
            QCOMPARE(text.root().size(), static_cast<std::size_t>(count));
            QCOMPARE(text.root()["n1"].text(), std::string("again"));
            QCOMPARE(text.root()["text"].text(), std::string("a \"word\""));
            QCOMPARE(members.members().front().first, std::string("n1")); // in their order
            QCOMPARE(JsonMembers(text.root()).text(), members.text());
        }
        QVERIFY(JsonMembers().empty());
        QCOMPARE(JsonMembers().text(), std::string("{}"));
    }

    /// Any value written by one library is taken apart and put together the same by ours.
    void random_documents_come_back_as_they_were() {
        std::mt19937 random(20);
        const std::function<nlohmann::json(int)> make = [&](int depth) -> nlohmann::json {
            const auto some = [&](unsigned n) { return random() % n; };
            switch (depth > 4 ? some(5) : some(7)) {
            case 0:
                return nullptr;
            case 1:
                return some(2) == 0;
            case 2:
                return static_cast<std::int64_t>(random()) - 2'000'000'000;
            case 3:
                return std::ldexp(static_cast<double>(random()), static_cast<int>(some(40)) - 20);
            case 4: {
                std::string text;
                for (unsigned n = some(30); n > 0; --n)
                    text += std::array{
                        "a", "\"", "\\", "\n", "\xC3\xA9", "\xF0\x9F\x9A\xA2", "/", "\x01"}[some(8)];
                return text;
            }
            case 5: {
                auto list = nlohmann::json::array();
                for (unsigned n = some(6); n > 0; --n)
                    list.push_back(make(depth + 1));
                return list;
            }
            default: {
                auto object = nlohmann::json::object();
                for (unsigned n = some(6); n > 0; --n)
                    object["k" + std::to_string(some(20))] = make(depth + 1);
                return object;
            }
            }
        };
        for (int i = 0; i < 400; ++i) {
            const nlohmann::json value = make(0);
            for (const int indent : {-1, 2}) {
                const JsonText text = parsed(value.dump(indent));
                QCOMPARE(text.root().compact(), value.dump());
                QCOMPARE(nlohmann::json::parse(text.root().compact()), value);
            }
        }
    }
};

UNDERRIDGE_TEST(JsonTest)
#include "json_test.moc"
