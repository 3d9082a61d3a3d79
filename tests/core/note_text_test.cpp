// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/text.h"
#include "core/scene/note_text.h"
#include "core/scene/scene.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <QElapsedTimer>

using namespace underridge;
using namespace underridge::model;
using scene::NoteText;
using scene::Weight;
using tests::text;

namespace {

QString plain(const scene::NoteLine& line) {
    QStringList out;
    for (const auto& run : line.runs)
        out << (run.weight == Weight::semiBold ? "<" + text(run.text) + ">" : text(run.text));
    return out.join(QLatin1Char('|'));
}
QStringList linesOf(const std::string& words, double width = 400) {
    QStringList out;
    for (const auto& line : scene::setNote(words, width).lines)
        out << plain(line);
    return out;
}

} // namespace

class NoteTextTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void marks_are_drawn_and_the_rest_is_shown_as_typed() {
        QCOMPARE(linesOf("# Tide\n- first\n- **second** one\nsee [plan](http://x.example) *now*"),
                 (QStringList{"<Tide>", "first", "<second>|one", "see [plan](http://x.example) *now*"}));
        const NoteText set = scene::setNote("# Big\n## Less\nplain\n- item", 400);
        QVERIFY(set.lines[0].size > set.lines[1].size && set.lines[1].size > set.lines[2].size);
        QVERIFY(set.lines[2].bullet < 0 && set.lines[3].bullet >= 0);
        QVERIFY(set.lines[3].runs[0].x > set.lines[3].bullet);
    }
    void a_mark_that_marks_nothing_is_shown() {
        QCOMPARE(linesOf("2 ** 3"), (QStringList{"2 ** 3"}));
        QCOMPARE(linesOf("#hash"), (QStringList{"#hash"}));
        QCOMPARE(linesOf("-5 degrees"), (QStringList{"-5 degrees"}));
        QCOMPARE(linesOf("****").size(), 1);
    }
    void lines_keep_within_the_width_and_lose_no_word() {
        std::mt19937 random(3);
        const std::string pieces[] = {"qqq ",       "**strong words** ",
                                      "a",          "\n",
                                      "- ",         "# ",
                                      "\xc3\xa9l ", "averyveryverylongwordthatfitsnowhere ",
                                      "** "};
        for (int round = 0; round < 300; ++round) {
            std::string words;
            for (int i = 0; i < 20; ++i)
                words += pieces[random() % std::size(pieces)];
            const NoteText set = scene::setNote(words, 120);
            QVERIFY(set.width <= 120.001);
            double last = -1;
            for (const auto& line : set.lines) {
                QVERIFY(line.baseline > last && line.baseline <= set.height);
                last = line.baseline;
            }
            QCOMPARE(linesOf(words, 120).join(' ').count("qqq"), text(words).count("qqq"));
        }
    }
    void a_line_is_broken_between_words_and_an_item_stays_indented() {
        const NoteText set = scene::setNote("- one two three four five six", 60);
        QVERIFY(set.lines.size() > 2);
        for (const auto& line : set.lines)
            QVERIFY(line.runs.front().x > 0);
        QVERIFY(set.lines[1].bullet < 0);
    }
    void a_word_too_long_for_any_line_is_broken_and_nothing_of_it_is_lost() {
        const std::string address = "http://wiki.fennick.example/plans/terminal/cellar?floor=-1&rack=R1#top";
        const auto joined = [](const NoteText& set) {
            std::string out;
            for (const auto& line : set.lines)
                for (const auto& run : line.runs)
                    out += run.text;
            return out;
        };
        for (const double width : {40.0, 120.0, 200.0}) {
            const NoteText set = scene::setNote("see " + address + " soon", width);
            QVERIFY(set.lines.size() > 2);
            QVERIFY(set.width <= width + 0.001);
            QVERIFY2(text(joined(set)).contains(text(address)), joined(set).c_str());
            QVERIFY(text(plain(set.lines.back()).toStdString()).endsWith(QStringLiteral("soon")));
        }
        // Between code points, never within one; and an item stays indented.
        const NoteText wide = scene::setNote("- " + std::string("éééééééééééééééééééééééééé"), 60);
        QCOMPARE(joined(wide), std::string("éééééééééééééééééééééééééé"));
        for (const auto& line : wide.lines)
            QVERIFY(line.runs.front().x > 0 && isValidUtf8(line.runs.front().text));
        QVERIFY(!scene::setNote("a", 0.5).lines.empty()); // narrower than any letter
        QElapsedTimer clock;
        clock.start();
        const std::string endless(100'000, 'x');
        QCOMPARE(joined(scene::setNote(endless, 200)), endless);
        QVERIFY(clock.elapsed() < 2000); // not the square of its length
        QCOMPARE(scene::setNote("**" + address + "**", 120).lines[1].runs[0].weight, Weight::semiBold);
    }
    void behind_lies_under_plates_and_links_but_on_frames() {
        tests::Workbench b;
        const auto act = edit::addNote(b.network, b.sheet, {0, 0}, "quiet", b.ids);
        QVERIFY(b.take(act));
        const NoteId note{act->subjects.front().id};
        const auto layer = [&] { return scene::Scene::build(b.network, b.sheet).item(refTo(note))->layer; };
        QCOMPARE(layer(), scene::Layer::notes);
        QVERIFY(b.take(edit::setNoteLook(b.network, note, true, false)));
        QCOMPARE(layer(), scene::Layer::ground);
        QVERIFY(scene::Scene::build(b.network, b.sheet).item(refTo(note))->depth > 100);
    }
};

UNDERRIDGE_TEST(NoteTextTest)
#include "note_text_test.moc"
