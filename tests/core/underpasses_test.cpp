// SPDX-License-Identifier: GPL-3.0-or-later
// Where lines of different media cross, one is left out for a little.
#include "core/scene/scene.h"
#include "core/scene/underpasses.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using scene::LinkForm;
using scene::LinkLine;
using scene::PointF;

namespace {

struct Lines {
    std::vector<LinkLine> all;

    /// Between two devices of its own.
    LinkLine& add(LinkForm form, std::vector<PointF> path) {
        const std::uint64_t id = all.size() + 1;
        LinkLine line;
        line.id = {id};
        line.a = {Kind::device, 1000 + 2 * id};
        line.b = {Kind::device, 1001 + 2 * id};
        line.form = form;
        line.path = std::move(path);
        all.push_back(std::move(line));
        return all.back();
    }
    std::unordered_map<std::uint64_t, scene::Pieces> under(bool backwards = false) const {
        std::vector<const LinkLine*> given;
        for (const LinkLine& line : all)
            given.push_back(&line);
        if (backwards)
            std::reverse(given.begin(), given.end());
        return scene::passingUnder(given);
    }
};

double lengthOf(const scene::Pieces& pieces) {
    double sum = 0;
    for (const auto& piece : pieces)
        sum += scene::pathLength(piece);
    return sum;
}

} // namespace

class UnderpassesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void of_two_media_one_passes_under_the_other() {
        Lines lines;
        lines.add(LinkForm::duplexFibre, {{0, 100}, {200, 100}});
        lines.add(LinkForm::twistedPair, {{100, 0}, {100, 200}});
        const auto under = lines.under();
        QCOMPARE(under.size(), std::size_t{1});
        const scene::Pieces& pieces = under.at(1); // fibre, whose form comes later
        QCOMPARE(pieces.size(), std::size_t{2});
        QVERIFY(std::abs(pieces[0].back().x - (100 - scene::underpassHalf)) < 1e-6);
        QVERIFY(std::abs(pieces[1].front().x - (100 + scene::underpassHalf)) < 1e-6);
        QCOMPARE(pieces[0].front(), (PointF{0, 100}));
        QCOMPARE(pieces[1].back(), (PointF{200, 100}));
        QVERIFY(lines.under(true) == under); // whatever is drawn first
    }
    void one_medium_crosses_itself_without_a_gap() {
        Lines lines;
        lines.add(LinkForm::twistedPair, {{0, 100}, {200, 100}});
        lines.add(LinkForm::twistedPair, {{100, 0}, {100, 200}});
        QVERIFY(lines.under().empty());
    }
    void lines_of_one_device_meet_there_and_do_not_cross() {
        Lines lines;
        lines.add(LinkForm::duplexFibre, {{0, 100}, {200, 100}});
        const ObjectRef shared = lines.all.front().b;
        lines.add(LinkForm::twistedPair, {{100, 0}, {100, 200}}).a = shared;
        QVERIFY(lines.under().empty());
    }
    void nothing_is_left_out_at_the_ends() {
        Lines lines;
        lines.add(LinkForm::duplexFibre, {{0, 100}, {200, 100}});
        lines.add(LinkForm::twistedPair, {{8, 0}, {8, 200}});
        QVERIFY(lines.under().empty());
    }
    void a_gap_at_a_bend_goes_round_it() {
        Lines lines;
        lines.add(LinkForm::duplexFibre, {{0, 0}, {100, 0}, {100, 100}});
        lines.add(LinkForm::twistedPair, {{97, -50}, {97, 50}});
        const auto under = lines.under();
        QCOMPARE(under.size(), std::size_t{1});
        const scene::Pieces& pieces = under.at(1);
        QCOMPARE(pieces.size(), std::size_t{2});
        QCOMPARE(pieces[1].size(), std::size_t{2}); // begins after the bend
        QCOMPARE(pieces[1].front().x, 100.0);
        QVERIFY(pieces[1].front().y > 0);
    }
    void close_crossings_are_one_gap() {
        Lines lines;
        lines.add(LinkForm::duplexFibre, {{0, 100}, {200, 100}});
        for (const double x : {90.0, 95.0, 101.0})
            lines.add(LinkForm::twistedPair, {{x, 0}, {x, 200}});
        const auto under = lines.under();
        QCOMPARE(under.at(1).size(), std::size_t{2});
    }
    void a_flat_crossing_has_a_longer_gap() {
        Lines steep, flat;
        for (Lines* each : {&steep, &flat})
            each->add(LinkForm::duplexFibre, {{0, 100}, {400, 100}});
        steep.add(LinkForm::twistedPair, {{200, 0}, {200, 200}});
        flat.add(LinkForm::twistedPair, {{0, 0}, {400, 200}});
        QVERIFY(lengthOf(flat.under().at(1)) < lengthOf(steep.under().at(1)) - 1);
    }
    void pieces_lie_on_their_line_and_miss_what_they_pass_under() {
        std::uint64_t state = 7;
        const auto below = [&](unsigned n) { // any sequence will do
            state = state * 6364136223846793005ULL + 1442695040888963407ULL;
            return static_cast<unsigned>(state >> 33) % n;
        };
        const auto coordinate = [&] { return static_cast<double>(below(600)); };
        for (int round = 0; round < 60; ++round) {
            Lines lines;
            for (int i = 0; i < 12; ++i) {
                std::vector<PointF> path;
                for (unsigned points = 2 + below(3); path.size() < points;)
                    path.push_back({coordinate(), coordinate()});
                lines.add(below(2) ? LinkForm::twistedPair : LinkForm::coax, std::move(path));
            }
            for (const auto& [id, pieces] : lines.under()) {
                const LinkLine& line = lines.all[id - 1];
                QVERIFY(lengthOf(pieces) < scene::pathLength(line.path));
                for (const auto& piece : pieces)
                    for (const PointF p : piece) {
                        double off = 1e9;
                        for (std::size_t i = 1; i < line.path.size(); ++i)
                            off = std::min(off, scene::distanceToSegment(p, line.path[i - 1], line.path[i]));
                        QVERIFY(off < 1e-6);
                    }
            }
        }
    }
};

UNDERRIDGE_TEST(UnderpassesTest)
#include "underpasses_test.moc"
