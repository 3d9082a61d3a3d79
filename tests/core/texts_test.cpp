// SPDX-License-Identifier: GPL-3.0-or-later
// Texts as people and files write them: code points, words, names in order and in series, VLAN lists, MAC
// addresses, tables, and bytes of other encodings.
#include "core/base/text.h"
#include "core/edit/names.h"
#include "core/edit/vlans.h"
#include "core/exchange/decoding.h"
#include "core/exchange/table_text.h"
#include "core/find/filter.h"
#include "core/model/vlans.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <QStringConverter>
#include <random>
#include <set>

using namespace underridge;
using namespace underridge::model;
using tests::text;

namespace {

std::vector<char32_t> codePoints(std::string_view from) {
    std::vector<char32_t> out;
    forEachCodePoint(from, [&](char32_t each, std::size_t) { out.push_back(each); });
    return out;
}

using Texts = std::vector<std::string>;
using Ranges = std::vector<VlanRange>;

/// Text in an encoding Qt knows.
std::string encoded(const QString& what, QStringConverter::Encoding as) {
    QStringEncoder encoder(as, QStringConverter::Flag::WriteBom);
    return QByteArray(encoder(what)).toStdString();
}

} // namespace

class TextsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // --- code points and words -----------------------------------------------------------

    void every_code_point_has_its_place_and_a_wrong_byte_is_one() {
        QCOMPARE(codePoints("aé€𝄞"), (std::vector<char32_t>{'a', 0xE9, 0x20AC, 0x1D11E}));
        std::vector<std::size_t> places;
        forEachCodePoint("aé€b", [&](char32_t, std::size_t at) { places.push_back(at); });
        QCOMPARE(places, (std::vector<std::size_t>{0, 1, 3, 6}));
        QVERIFY(codePoints("").empty());
        for (const std::string& wrong : {std::string("\xFF"), std::string("\xC3"), std::string("\xE2\x82"),
                                         std::string("\xC0\x80"), std::string("\xED\xA0\x80")}) {
            QVERIFY(!isValidUtf8(wrong));
            const auto all = codePoints("x" + wrong + "y");
            QVERIFY(all.size() >= 3 && all.front() == 'x' && all.back() == 'y');
            for (std::size_t i = 1; i + 1 < all.size(); ++i)
                QCOMPARE(all[i], char32_t{0xFFFD});
        }
        QVERIFY(isValidUtf8("aé€𝄞") && isValidUtf8(""));
    }
    void whatever_the_bytes_they_are_gone_through_to_the_end() {
        std::mt19937 random(3);
        for (int i = 0; i < 300; ++i) {
            std::string bytes;
            for (int k = 0; k < 20; ++k)
                bytes += static_cast<char>(random() % 256);
            std::size_t last = 0, count = 0;
            forEachCodePoint(bytes, [&](char32_t, std::size_t at) {
                QVERIFY(count == 0 || at > last);
                QVERIFY(at < bytes.size());
                last = at;
                ++count;
            });
            QVERIFY(count > 0 && count <= bytes.size());
            QCOMPARE(isValidUtf8(bytes), QByteArray::fromStdString(bytes).isValidUtf8());
        }
    }
    void words_are_what_blanks_leave() {
        QCOMPARE(splitWords("  core  switch\tone "), (Texts{"core", "switch", "one"}));
        QVERIFY(splitWords(" \t ").empty() && splitWords("").empty());
        QCOMPARE(trimmed(" \r\n a b \t"), std::string("a b"));
        QVERIFY(trimmed(" \n ").empty());
        QCOMPARE(lowered("ACC-1 Äé"), std::string("acc-1 Äé")); // letters of ASCII alone
        QVERIFY(matchesWords("Access switch 24", "24 acc") && matchesWords("anything", " "));
        QVERIFY(!matchesWords("Access switch 24", "24 core"));
    }
    void texts_put_together_tell_what_they_were_put_together_from() {
        const auto together = [](const Texts& all) {
            std::string out;
            for (const std::string& each : all)
                appendCounted(out, each);
            return out;
        };
        QVERIFY(together({"a", "bc"}) != together({"ab", "c"}));
        QVERIFY(together({"", "a"}) != together({"a", ""}));
        QVERIFY(together({"1:a"}) != together({"a", ""}));
        QCOMPARE(together({"a", "bc"}), together({"a", "bc"}));
    }
    void names_are_ordered_as_people_do() {
        const Texts sorted{"", "7", "acc", "acc-1", "acc-2", "acc-02", "acc-10", "acc-10b", "Acc-11", "core"};
        for (std::size_t i = 0; i < sorted.size(); ++i)
            for (std::size_t j = 0; j < sorted.size(); ++j) {
                if (sorted[i] == "acc-02" || sorted[j] == "acc-02")
                    continue; // equal in value to acc-2: told apart by its letters, below
                QCOMPARE(naturalLess(sorted[i], sorted[j]), i < j);
            }
        QVERIFY(naturalLess("acc-02", "acc-2") != naturalLess("acc-2", "acc-02"));
        QVERIFY(naturalLess("acc-02", "acc-3") && naturalLess("acc-1", "acc-02"));
        QVERIFY(naturalLess("x99999999999999999999", "x100000000000000000000")); // longer than any number
    }
    void the_order_of_names_is_one_whatever_they_are() {
        std::mt19937 random(5);
        Texts all;
        for (int i = 0; i < 60; ++i) {
            std::string name;
            for (unsigned k = random() % 6; k > 0; --k)
                name += "aA0129-"[random() % 7];
            all.push_back(name);
        }
        for (const std::string& a : all)
            for (const std::string& b : all) {
                QVERIFY(!(naturalLess(a, b) && naturalLess(b, a)));
                QVERIFY(a == b || naturalLess(a, b) || naturalLess(b, a));
                for (const std::string& c : all)
                    QVERIFY(!(naturalLess(a, b) && naturalLess(b, c)) || naturalLess(a, c));
            }
    }

    // --- series of names ------------------------------------------------------------------

    void a_series_goes_on_where_names_are_taken() {
        const auto names = edit::seriesNames("acc-{08..}", 3, {"acc-09", "acc-9"});
        QVERIFY(bool(names));
        QCOMPARE(*names, (Texts{"acc-08", "acc-10", "acc-11"}));
        QCOMPARE(*edit::seriesNames("core", 1, {"core"}), Texts{"core-1"});
        QCOMPARE(*edit::seriesNames("{0..}", 2, {}), (Texts{"0", "1"}));
    }
    void a_series_does_not_run_out_of_numbers() {
        QVERIFY(!edit::seriesNames("a-{2147483647..}", 2, {}));
        QVERIFY(!edit::seriesNames("a-{0000000001..}", 2, {})); // ten digits
        const auto large = edit::seriesNames("a-{999999999..}", 2, {});
        QVERIFY(bool(large));
        QCOMPARE(*large, (Texts{"a-999999999", "a-1000000000"}));
        const auto refused = edit::seriesNames("a-{x..}", 2, {});
        QVERIFY(!refused);
        QVERIFY(text(refused.refusal().text()).contains(QStringLiteral("till-{01..}")));
    }
    void roles_have_names_of_their_own_to_begin_with() {
        std::set<std::string> patterns;
        for (const auto& word : wordsOf(Role{})) {
            const std::string pattern = edit::defaultPattern(word.value);
            const auto names = edit::seriesNames(pattern, 2, {});
            QVERIFY(bool(names));
            QCOMPARE(names->front(), std::string(word.text) + "-1");
            patterns.insert(pattern);
        }
        QCOMPARE(patterns.size(), wordsOf(Role{}).size());
    }
    void names_like_a_pattern_begin_as_it_does() {
        tests::Workbench b;
        for (const char* name : {"acc-1", "acc-7", "access", "core-1"})
            b.add("access-switch-24", name);
        auto like = edit::namesLike(b.network, "acc-{1..}");
        std::sort(like.begin(), like.end());
        QCOMPARE(like, (Texts{"acc-1", "acc-7"}));
        QCOMPARE(edit::namesLike(b.network, "acc").size(), std::size_t{3});
        QVERIFY(edit::namesLike(b.network, "x-{1..}").empty());
    }
    void what_is_typed_to_add_devices_is_completed_and_understood() {
        const Catalogue catalogue = exchange::builtInCatalogue();
        const std::string typed = "4 acc 24 named acc-{01..}";
        const auto models = edit::completions(typed, catalogue);
        QVERIFY(!models.empty());
        const std::string whole = edit::completed(typed, *models.front());
        QVERIFY(whole.starts_with("4 ") && whole.ends_with(" named acc-{01..}"));
        const auto addition = edit::parseAddition(whole, catalogue);
        QVERIFY(bool(addition));
        QCOMPARE(addition->count, 4);
        QCOMPARE(addition->model->id, models.front()->id);
        QCOMPARE(addition->pattern, std::string("acc-{01..}"));
        // Whatever is offered is understood once it is taken.
        for (const DeviceModel* model : edit::completions("", catalogue)) {
            const auto taken = edit::parseAddition(edit::completed("2", *model), catalogue);
            QVERIFY2(taken && taken->model->id == model->id, model->id.c_str());
        }
    }

    // --- VLANs ----------------------------------------------------------------------------

    void vlan_lists_are_numbers_and_ranges() {
        const auto ranges = edit::rangesFrom(" 20, 30 ,100-110,");
        QVERIFY(bool(ranges));
        QVERIFY(*ranges == (Ranges{{20, 20}, {30, 30}, {100, 110}}));
        QVERIFY(edit::rangesFrom("")->empty() && edit::rangesFrom("  ")->empty());
        QVERIFY(*edit::rangesFrom("1-4094") == (Ranges{{1, 4094}}));
        for (const char* wrong : {"0", "4095", "-3", "20-", "-", "30-20", "a", "20;30", "20,,30", "1.5",
                                  "99999999999999999999"}) {
            const auto refused = edit::rangesFrom(wrong);
            QVERIFY2(!refused, wrong);
            QVERIFY(!refused.refusal().what.empty());
        }
    }
    void what_an_interface_tags_is_written_as_it_is_read() {
        tests::Workbench b;
        const DeviceId id = b.add("access-switch-24");
        for (const int number : {20, 30})
            QVERIFY(b.take(edit::addVlan(b.network, number, "", {}, b.ids)));
        const auto list = edit::vlansFrom(b.network, id, "20,30,100-110");
        QVERIFY(bool(list));
        Interface interface;
        interface.tagged = list->vlans;
        interface.taggedRanges = list->ranges;
        QCOMPARE(taggedText(b.network, interface), std::string("20,30,100-110"));
        QVERIFY(!edit::vlansFrom(b.network, id, "40")); // nobody has it
        QCOMPARE(numberOf(b.network, list->vlans.front()), 20);
        QCOMPARE(numberOf(b.network, {}), 0);
        QVERIFY(!edit::addVlan(b.network, 20, "", {}, b.ids));
        for (const int wrong : {0, -1, 4095})
            QVERIFY(!edit::addVlan(b.network, wrong, "", {}, b.ids));
    }

    // --- filters being typed ----------------------------------------------------------------

    void a_mac_address_is_the_same_in_any_notation() {
        for (const char* each : {"00:1B:2c:3d:4e:5f", "00-1b-2c-3d-4e-5f", "001b.2c3d.4e5f", "001b2c3d4e5f"})
            QCOMPARE(find::macDigits(each), std::string("001b2c3d4e5f"));
        QCOMPARE(find::macDigits("00:1b"), std::string("001b"));
        for (const char* none : {"00:1g", "00:1b:2c:3d:4e:5f:60", "", "hello"})
            QVERIFY2(find::macDigits(none).empty(), none);
    }
    void fields_are_offered_as_they_are_typed() {
        const auto offered = find::fieldCompletions("role:camera na", 14);
        QVERIFY(!offered.empty());
        QCOMPARE(offered.front().text, std::string("name:"));
        QCOMPARE(offered.front().from, std::size_t{12});
        QVERIFY(find::fieldCompletions("zzz", 3).empty());
        QVERIFY(find::fieldCompletions("", 0).size() <= 12);
        const auto beyond = find::fieldCompletions("na", 99); // a cursor behind the end is at it
        QCOMPARE(beyond.front().text, std::string("name:"));
        for (const auto& each : find::fieldCompletions("", 0))
            QVERIFY2(find::looksLikeFilter(each.text + "1"), each.text.c_str());
    }
    void the_value_being_typed_is_told_from_what_is_before_it() {
        const auto value = find::typedValue("name:a role:cam", 15);
        QVERIFY(value.has_value());
        QCOMPARE(value->text, std::string("cam"));
        QCOMPARE(value->from, std::size_t{12});
        const auto second = find::typedValue("role:camera,sw", 14);
        QVERIFY(second && second->text == "sw" && second->from == 12);
        QVERIFY(!find::typedValue("plain", 5) && !find::typedValue("", 0));
    }
    void a_value_is_quoted_where_it_would_end_sooner() {
        QCOMPARE(find::quoted("acc-1"), std::string("acc-1"));
        QCOMPARE(find::quoted("Control floor"), std::string("\"Control floor\""));
        QCOMPARE(find::quoted("a,b"), std::string("\"a,b\""));
        QCOMPARE(find::quoted(""), std::string("\"\""));
        for (const char* value : {"acc-1", "Control floor", "a,b", "(x)"}) {
            const auto filter = find::Filter::parse("name:" + find::quoted(value));
            QVERIFY2(bool(filter), value);
        }
    }

    // --- tables and encodings ------------------------------------------------------------------

    void a_table_is_separated_by_what_its_first_line_has_most_of() {
        QCOMPARE(exchange::separatorOf("a;b;c\n1,5;2,5;3,5"), ';');
        QCOMPARE(exchange::separatorOf("\n\n a\tb,c\td\n"), '\t');
        QCOMPARE(exchange::separatorOf("alone"), ',');
        QCOMPARE(exchange::separatorOf(""), ',');
        QCOMPARE(exchange::separatorOf("\r\n"), ',');
    }
    void cells_come_back_as_they_were_written() {
        const Texts cells{"plain",      "a,b", "say \"so\"", " blank ",
                          "two\nlines", "",    "semi;colon", "tab\there"};
        std::string row;
        for (const std::string& cell : cells)
            row += (row.empty() ? "" : ",") + exchange::quoted(cell);
        const auto rows = exchange::readRows(row + "\nnext,row\n", ',');
        QCOMPARE(rows.size(), std::size_t{2});
        QCOMPARE(rows[0].cells, cells);
        QCOMPARE(rows[1].cells, (Texts{"next", "row"}));
        QCOMPARE(rows[0].line, 1);
        QCOMPARE(rows[1].line, 3); // after the line end in quotes
    }
    void text_of_any_width_is_told_by_its_mark() {
        const QString what = QStringLiteral("name,ä€\nacc-1,é");
        for (const auto as : {QStringConverter::Utf8, QStringConverter::Utf16LE, QStringConverter::Utf16BE,
                              QStringConverter::Utf32LE, QStringConverter::Utf32BE}) {
            std::vector<Remark> remarks;
            const auto back = exchange::decodeText(encoded(what, as), "a.csv", remarks);
            QVERIFY(bool(back));
            QCOMPARE(text(*back), what);
            QVERIFY(remarks.empty());
        }
    }
    void text_that_is_not_utf8_is_read_with_a_remark() {
        std::vector<Remark> remarks;
        const auto back = exchange::decodeText("caf\xE9,\x80", "a.csv", remarks);
        QVERIFY(bool(back));
        QCOMPARE(text(*back), QStringLiteral("café,€"));
        QCOMPARE(remarks.size(), std::size_t{1});
        QCOMPARE(remarks.front().where.file, std::string("a.csv"));
    }
    void xml_is_read_as_it_says_and_refused_where_it_lies() {
        const auto as = [](const char* name) {
            return std::string("<?xml version='1.0' encoding='") + name + "'?>\n<a>\xE9</a>";
        };
        QVERIFY(text(*exchange::decodeXml(as("ISO-8859-1"), "a")).contains(QStringLiteral("é")));
        QVERIFY(text(*exchange::decodeXml(as("windows-1251"), "a")).contains(QStringLiteral("й")));
        const auto wrong = exchange::decodeXml(as("UTF-8"), "a.graphml");
        QVERIFY(!wrong);
        QCOMPARE(wrong.refusal().where.line, 2);
        const auto unknown = exchange::decodeXml(as("x-none"), "a.graphml");
        QVERIFY(!unknown && unknown.refusal().what.find("X-NONE") != std::string::npos);
        for (const auto wide : {QStringConverter::Utf16LE, QStringConverter::Utf16BE}) {
            std::string bytes = encoded(QStringLiteral("<a>é</a>"), wide);
            QCOMPARE(text(*exchange::decodeXml(bytes, "a")), QStringLiteral("<a>é</a>"));
            bytes.erase(0, 2); // without its mark
            QCOMPARE(text(*exchange::decodeXml(bytes, "a")), QStringLiteral("<a>é</a>"));
            bytes.pop_back(); // half a character
            QVERIFY(!exchange::decodeXml(bytes, "a"));
        }
    }
    void a_place_in_a_text_is_line_and_column() {
        const exchange::Lines lines("ab\ncd\n\nx");
        const auto at = [&](std::size_t offset) {
            const Where where = lines.at("f", offset);
            return std::pair(where.line, where.column);
        };
        QCOMPARE(at(0), std::pair(1, 1));
        QCOMPARE(at(1), std::pair(1, 2));
        QCOMPARE(at(3), std::pair(2, 1));
        QCOMPARE(at(6), std::pair(3, 1));
        QCOMPARE(at(7), std::pair(4, 1));
    }
    void past_a_thousand_remarks_they_are_counted() {
        std::vector<Remark> out;
        {
            exchange::Remarks remarks(out);
            for (int i = 0; i < 1500; ++i)
                remarks.add(warning("odd " + std::to_string(i)));
        }
        QCOMPARE(out.size(), exchange::maxRemarks + 1);
        QVERIFY(out.back().text().find("500") != std::string::npos);
    }
};

UNDERRIDGE_TEST(TextsTest)
#include "texts_test.moc"
