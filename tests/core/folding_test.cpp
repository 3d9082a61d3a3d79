// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/arranging.h"
#include "core/edit/shown_places.h"
#include "core/model/group_tree.h"
#include "core/model/standing.h"
#include "core/scene/bends.h"
#include "core/scene/scene.h"
#include "tests/support/grouped.h"
#include "tests/support/plates_met.h"
#include "tests/support/registered.h"

#include <map>
#include <set>

using namespace underridge;
using namespace underridge::model;
using scene::Cuts;
using scene::PointF;
using scene::Rect;
using scene::Scene;
using tests::Grouped;
using tests::platesMet;
using tests::text;

namespace {

struct Seen {
    ObjectRef object;
    Rect frame;
    GroupId in;
    bool group = false;
};

std::vector<Seen> seenIn(const Scene& scene, const Network& network) {
    std::vector<Seen> out;
    scene.forEachPlate([&](const scene::Plate& plate) {
        out.push_back({refTo(plate.id), plate.frame, network.device(plate.id)->group, false});
    });
    scene.forEach<scene::Frame>([&](const scene::Frame& frame) {
        out.push_back({refTo(frame.id), frame.frame, network.group(frame.id)->parent, true});
    });
    scene.forEach<scene::Tile>([&](const scene::Tile& tile) {
        out.push_back({refTo(tile.id), tile.frame, network.group(tile.id)->parent, true});
    });
    return out;
}

/// What a sheet with groups owes whoever looks at it; empty when all is well.
QString wrongWith(const Scene& scene, const Network& network) {
    const auto seen = seenIn(scene, network);
    std::map<GroupId, Rect> frames;
    scene.forEach<scene::Frame>([&](const scene::Frame& frame) { frames[frame.id] = frame.frame; });
    for (const Seen& each : seen) {
        if (each.in && !frames.contains(each.in))
            return QStringLiteral("a member of a group that is not shown unfolded is shown");
        if (each.in && !frames[each.in].contains(each.frame))
            return QStringLiteral("a member is outside its frame");
        for (const Seen& other : seen)
            if (each.in == other.in && each.object != other.object && each.group &&
                each.frame.intersects(other.frame))
                return QStringLiteral("siblings overlap");
        for (const auto& [id, frame] : frames)
            if (!each.group && frame.intersects(each.frame) && !isWithin(network, each.in, id))
                return QStringLiteral("somebody inside does not belong");
    }
    const auto* folding = scene.folding();
    QString missing;
    network.all<Link>().forEach([&](const Link& link) {
        const bool within = folding && folding->standsFor(link.a.device) == folding->standsFor(link.b.device);
        if (!within && !scene.link(link.id))
            missing = QStringLiteral("a link is gone");
    });
    return missing;
}

/// Which items two scenes have otherwise.
QString differenceOf(const Scene& a, const Scene& b) {
    QString out;
    const auto tell = [&](const char* where, const Scene& here, const Scene& there) {
        here.forEachItem([&](const scene::Item& item) {
            const scene::Item* other = there.item(item.object);
            if (!other || !(*other == item))
                out += QStringLiteral("%1: kind %2 %3; ")
                           .arg(where)
                           .arg(static_cast<int>(item.object.kind))
                           .arg(item.object.id);
        });
    };
    tell("followed", a, b);
    tell("built", b, a);
    return out;
}

/// Two plates with a link, and below them a wide group that stands between and can be folded.
struct Between : Grouped {
    explicit Between(Point rightAt) : Grouped(3) {
        left = add("access-switch-24", "left", {0, 0});
        right = add("access-switch-24", "right", rightAt);
        wide = group("wide", GroupKind::cluster);
        for (const int x : {600, 2200})
            join(add("access-switch-24", {}, {x, 4000}), wide);
        link = Workbench::link({left, {}}, {right, {}});
    }
    Scene scene() const { return Scene::build(network, sheet); }
    std::vector<PointF> path() const { return scene().link(link)->path; }
    bool fold(bool folded) { return take(edit::setFolded(network, sheet, {wide}, folded)); }
    /// One more plate in the way, which comes with its middle there.
    void putAt(PointF middle) {
        between = add("access-switch-24", "between");
        const PointF now = scene().plate(between)->frame.centre();
        take(edit::moveObjects(network, {sheet}, {refTo(between)}, scene::rounded(middle - now)));
    }
    DeviceId left, right, between;
    GroupId wide;
    LinkId link;
};

/// Three groups of ten and nine devices outside, each group a tree, and links across; arranged.
struct Arranged : Grouped {
    explicit Arranged(std::uint64_t seed) : Grouped(seed) {
        for (int i = 0; i < 39; ++i) {
            if (i % 10 == 0 && i < 30)
                groups.push_back(group(("g" + std::to_string(i / 10)).c_str(), GroupKind::cluster));
            devices.push_back(add("access-switch-24"));
            if (i < 30)
                join(devices.back(), groups.back());
            if (const int inGroup = i < 30 ? i % 10 : i - 30; inGroup > 0)
                link({devices.back(), {}}, {devices[static_cast<std::size_t>(i - 1 - below(inGroup))], {}});
        }
        linkSome(16);
        take(edit::arrange(network, {sheet}, {}));
    }
};

} // namespace

class FoldingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void names_of_folded_groups_cover_none_and_pieces_agree() {
        int elsewhere = 0;
        for (std::uint64_t seed = 1; seed <= 3; ++seed) {
            Grouped bench(seed);
            bench.grow(3, 3, 2);
            for (std::size_t i = 0; i < bench.groups.size(); i += 2)
                bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[i]}, true));
            const Scene scene = Scene::build(bench.network, bench.sheet);
            for (const double zoom : {0.05, 0.12, 0.3}) {
                const Rect all = scene.bounds().grown(400 / zoom);
                const auto names = scene.namesIn(all, zoom);
                std::set<std::pair<ObjectRef, std::string>> whole, pieces;
                for (std::size_t i = 0; i < names.size(); ++i) {
                    whole.emplace(names[i].of, names[i].text);
                    for (std::size_t j = i + 1; j < names.size(); ++j)
                        QVERIFY2(!names[i].area.intersects(names[j].area),
                                 (names[i].text + " and " + names[j].text).c_str());
                    const scene::Tile* tile = scene.tile({names[i].of.id});
                    elsewhere += tile && names[i].area.y < tile->frame.bottom();
                }
                const double step = 300 / zoom;
                for (double y = all.y; y < all.bottom(); y += step)
                    for (double x = all.x; x < all.right(); x += step)
                        for (const auto& name : scene.namesIn({x, y, step, step}, zoom))
                            pieces.emplace(name.of, name.text);
                QCOMPARE(pieces, whole);
            }
        }
        QVERIFY(elsewhere > 0); // where there was no room below
    }

    void what_only_folded_groups_stand_in_is_cut_down_to_their_tiles() {
        const Cuts cuts = Cuts::of({{0, 100, 100}, {200, 1000, 300}, {1100, 1200, 100}});
        QCOMPARE(cuts.shown(50), 50.0);
        QCOMPARE(cuts.shown(200), 200.0);
        QCOMPARE(cuts.shown(400), 400.0);
        QCOMPARE(cuts.shown(900), 500.0); // cut out
        QCOMPARE(cuts.shown(1100), 600.0);
        QCOMPARE(cuts.place(600), 1100.0);
        QCOMPARE(cuts.place(450), 450.0);
        QCOMPARE(cuts.place(500), 1000.0); // after what is cut out
    }
    void what_stands_in_the_same_columns_keeps_them() {
        const Cuts cuts = Cuts::of({{0, 1000, 200}, {500, 600, 100}});
        QCOMPARE(cuts.shown(500), 200.0);
        QCOMPARE(cuts.shown(600), 300.0);
        QCOMPARE(cuts.shown(1000), 300.0);
    }
    void every_shown_place_has_a_place_that_is_shown_there() {
        std::mt19937 random(5);
        const auto below = [&](int n) { return static_cast<int>(random() % static_cast<unsigned>(n)); };
        for (int round = 0; round < tests::tries(200); ++round) {
            std::vector<Cuts::Span> spans;
            for (int i = 0; i < 12; ++i) {
                const double from = below(3000), length = 20 + below(800);
                spans.push_back({from, from + length, below(2) ? length : length * 0.25});
            }
            const Cuts cuts = Cuts::of(spans);
            double last = cuts.shown(-10);
            for (int at = 0; at < 4000; at += 7) {
                const double shown = cuts.shown(at);
                QVERIFY(shown >= last); // nothing changes order
                QVERIFY(shown - last <= 10);
                last = shown;
                QCOMPARE(cuts.shown(cuts.place(at)), static_cast<double>(at));
            }
            for (const auto& span : spans)
                QVERIFY(cuts.shown(span.to) - cuts.shown(span.from) >= span.needs);
        }
    }
    void a_sheet_without_groups_is_as_it_was() {
        Grouped bench(1);
        bench.grow(0, 0, 4);
        QVERIFY(!Scene::build(bench.network, bench.sheet).folding());
        bench.group("empty, on no sheet", GroupKind::site);
        QVERIFY(!Scene::build(bench.network, bench.sheet).folding());
    }
    void a_frame_is_round_its_members_and_a_tile_stands_for_them() {
        Grouped bench(1);
        bench.grow(1, 2, 2);
        const GroupId first = bench.groups[0];
        Scene scene = Scene::build(bench.network, bench.sheet);
        const scene::Frame* frame = scene.frame(first);
        QVERIFY(frame);
        for (const DeviceId id : devicesWithin(bench.network, first))
            QVERIFY(frame->frame.contains(scene.plate(id)->frame));
        QCOMPARE(text(frame->title), text(bench.network.group(first)->name));
        QVERIFY(bench.take(edit::setFolded(bench.network, bench.sheet, {first}, true)));
        scene = Scene::build(bench.network, bench.sheet);
        const scene::Tile* tile = scene.tile(first);
        QVERIFY(tile && !scene.frame(first));
        QCOMPARE(tile->devices, 2);
        QCOMPARE(tile->roles, (std::vector<std::pair<Role, int>>{{Role::switch_, 2}}));
        for (const DeviceId id : devicesWithin(bench.network, first)) {
            QVERIFY(!scene.plate(id));
            QCOMPARE(scene.anchorOf(id)->shown, refTo(first));
        }
    }
    void folding_closes_up_and_unfolding_gives_the_same_picture() {
        Grouped bench(2);
        bench.grow(1, 3, 3);
        const Scene before = Scene::build(bench.network, bench.sheet);
        const double last = before.frame(bench.groups[2])->frame.x;
        bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[0]}, true));
        const Scene folded = Scene::build(bench.network, bench.sheet);
        QVERIFY(folded.bounds().h < before.bounds().h + 1);
        // The devices of the sheet itself stand over the first frame's columns; without
        // them they close up.
        for (int i = 0; i < 3; ++i)
            bench.take(edit::moveObjects(bench.network, bench.sheet, {refTo(bench.devices[i])}, {0, -9000}));
        bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[1]}, true));
        QVERIFY(Scene::build(bench.network, bench.sheet).frame(bench.groups[2])->frame.x < last);
        bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[0], bench.groups[1]}, false));
        QCOMPARE(Scene::build(bench.network, bench.sheet).frame(bench.groups[2])->frame.x, last);
    }
    void links_to_a_tile_are_one_line_that_counts_and_names() {
        Grouped bench(3);
        bench.grow(1, 1, 2);
        const DeviceId outside = bench.devices[0], a = bench.devices[2], b = bench.devices[3];
        const LinkId one = bench.link({outside, {}}, {a, {}});
        bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[0]}, true));
        Scene scene = Scene::build(bench.network, bench.sheet);
        QCOMPARE(scene.link(one)->b, refTo(bench.groups[0]));
        const auto& labels = scene.link(one)->labels;
        QVERIFY(std::any_of(labels.begin(), labels.end(), [&](const scene::Label& label) {
            return label.text.find(bench.network.device(a)->name) == 0; // which device, which port
        }));
        const LinkId two = bench.link({outside, {}}, {b, {}}), inside = bench.link({a, {}}, {b, {}});
        scene = Scene::build(bench.network, bench.sheet);
        QCOMPARE(scene.count<scene::LinkLine>(), 1U);
        QCOMPARE(scene.link(one), scene.link(two));
        QCOMPARE(scene.link(one)->merged, (std::vector<LinkId>{std::min(one, two), std::max(one, two)}));
        QCOMPARE(text(scene.link(one)->labels.front().text), QStringLiteral("×2"));
        QVERIFY(!scene.link(inside));
    }
    void a_line_to_a_tile_goes_round_what_stands_between() {
        Grouped bench(3);
        bench.grow(1, 1, 2);
        const DeviceId outside = bench.devices[0], between = bench.devices[1];
        const LinkId link = bench.link({outside, {}}, {bench.devices[2], {}});
        bench.link({outside, {}}, {bench.devices[3], {}});
        const auto move = [&](ObjectRef what, Point by) {
            return bench.take(edit::moveObjects(bench.network, bench.sheet, {what}, by));
        };
        QVERIFY(move(refTo(bench.groups[0]), {0, 800}));
        QVERIFY(bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[0]}, true)));
        Scene scene = Scene::build(bench.network, bench.sheet);
        QCOMPARE(scene.link(link)->path.size(), std::size_t{2});
        const auto goesRound = [&] {
            const Network before = bench.network;
            const PointF from = scene.link(link)->path.front(), to = scene.link(link)->path.back(),
                         middle = (from + to) * 0.5, now = scene.plate(between)->frame.centre();
            if (!move(refTo(between), scene::rounded(middle - now)))
                return QStringLiteral("it does not move");
            scene = scene::update(scene, before, bench.network).scene;
            if (platesMet(scene, *scene.link(link)) > 0)
                return QStringLiteral("it goes through");
            return differenceOf(scene, Scene::build(bench.network, bench.sheet));
        };
        QCOMPARE(goesRound(), QString());
        QVERIFY(scene.link(link)->path.size() > 2);
        const Network before = bench.network;
        QVERIFY(move(refTo(between), {900, 0}));
        scene = scene::update(scene, before, bench.network).scene;
        QCOMPARE(scene.link(link)->path.size(), std::size_t{2});
        QCOMPARE(differenceOf(scene, Scene::build(bench.network, bench.sheet)), QString());
    }
    void a_line_to_a_tile_goes_round_the_frames_of_others() {
        Grouped bench(3);
        bench.grow(0, 0, 1);
        const DeviceId outside = bench.devices[0];
        const auto lone = [&](const char* name, Point at) {
            const GroupId made = bench.group(name, GroupKind::cluster);
            bench.join(bench.add("access-switch-24", name, at), made);
            return made;
        };
        const GroupId far = lone("far", {1200, 1200}), between = lone("between", {2400, 600});
        QVERIFY(bench.take(edit::drawGroup(bench.network, bench.sheet, between, {600, 500}, 2100, 200)));
        const LinkId link = bench.link({outside, {}}, {devicesWithin(bench.network, far).front(), {}});
        QVERIFY(bench.take(edit::setFolded(bench.network, bench.sheet, {far}, true)));
        Scene scene = Scene::build(bench.network, bench.sheet);
        const auto crosses = [&] {
            const auto& path = scene.link(link)->path;
            bool met = false;
            for (std::size_t i = 0; i + 1 < path.size(); ++i)
                met |= scene::segmentMeets(path[i], path[i + 1], scene.frame(between)->frame);
            return met;
        };
        QVERIFY(scene.link(link)->alongAxes && !crosses());
        const Network before = bench.network;
        QVERIFY(bench.take(edit::drawGroup(bench.network, bench.sheet, between, {2300, 500}, 400, 200)));
        scene = scene::update(scene, before, bench.network).scene;
        QCOMPARE(scene.link(link)->path.size(), std::size_t{2}); // there is room for it now
        QVERIFY(!scene.link(link)->alongAxes);
        QCOMPARE(differenceOf(scene, Scene::build(bench.network, bench.sheet)), QString());
    }
    void a_bend_put_on_a_plate_by_hand_stays_there_folded_or_not() {
        Between b({3000, 2400});
        QVERIFY(b.fold(true));
        const auto straight = b.path();
        const PointF on = straight.front() + (straight.back() - straight.front()) * 0.15;
        b.putAt(on);
        QVERIFY(b.path().size() > 2); // led round it
        const Point put = scene::rounded(on + PointF{40, 4});
        QVERIFY(b.take(edit::setBends(b.network, {b.sheet}, b.link, {put})));
        const auto bent = b.path();
        QCOMPARE(bent.size(), std::size_t{3});
        QVERIFY(scene::length(bent[1] - scene::toF(put)) < 2);
        QVERIFY(platesMet(b.scene(), *b.scene().link(b.link)) > 0); // who put it there meant it
        QVERIFY(b.fold(false));
        QCOMPARE(b.path().size(), std::size_t{3});
        QVERIFY(b.fold(true));
        QVERIFY(b.path() == bent);
    }
    void however_groups_are_folded_few_lines_run_through_what_is_not_theirs() {
        int folded = 0, entered = 0, metFolded = 0, metEntered = 0;
        for (std::uint64_t seed = 1; seed <= 8; ++seed) {
            const Arranged net(seed);
            const auto count = [](const Scene& scene, int& lines, int& met) {
                scene.forEachLink([&](const scene::LinkLine& line) {
                    ++lines;
                    met += platesMet(scene, line) > 0;
                });
            };
            for (unsigned which = 1; which < 8; ++which) {
                std::vector<GroupId> some;
                for (std::size_t i = 0; i < 3; ++i)
                    if (which >> i & 1)
                        some.push_back(net.groups[i]);
                const auto act = edit::setFolded(net.network, net.sheet, some, true);
                QVERIFY(bool(act));
                count(Scene::build(act->network, net.sheet), folded, metFolded);
            }
            for (const GroupId group : net.groups)
                count(Scene::build(net.network, net.sheet, LengthUnit::metres, group), entered, metEntered);
        }
        const QString seen =
            QStringLiteral("%1 of %2, %3 of %4").arg(metFolded).arg(folded).arg(metEntered).arg(entered);
        QVERIFY2(folded > 1500 && metFolded * 100 < folded, qPrintable(seen)); // 5 % until they went round
        QVERIFY2(entered > 300 && metEntered * 16 < entered, qPrintable(seen));
    }
    void a_line_to_a_doorway_goes_round_what_stands_between_and_by_no_bends_outside() {
        Grouped bench(3);
        bench.grow(1, 1, 3);
        const DeviceId outside = bench.devices[0], inside = bench.devices[3], between = bench.devices[4];
        const LinkId link = bench.link({inside, {}}, {outside, {}});
        const auto entered = [&] {
            return Scene::build(bench.network, bench.sheet, LengthUnit::metres, bench.groups[0]);
        };
        QVERIFY(
            bench.take(edit::setBends(bench.network, {bench.sheet}, link, {{-4000, -4000}, {-4000, -3000}})));
        QVERIFY(bench.take(edit::moveObjects(bench.network, bench.sheet, {refTo(between)}, {900, 900})));
        Scene scene = entered();
        const auto path = scene.link(link)->path;
        QCOMPARE(path.size(), std::size_t{2});
        const PointF middle = (path.front() + path.back()) * 0.5, now = scene.plate(between)->frame.centre();
        // Room is left for it: nothing of the frame moves.
        QVERIFY(bench.take(
            edit::drawGroup(bench.network, bench.sheet, bench.groups[0], {-600, -600}, 3000, 3000)));
        QVERIFY(bench.take(
            edit::moveObjects(bench.network, bench.sheet, {refTo(between)}, scene::rounded(middle - now))));
        scene = entered();
        const auto& line = *scene.link(link);
        QVERIFY(scene::boundsOf(line.path).intersects(scene.frame(bench.groups[0])->frame));
        QCOMPARE(platesMet(scene, line), 0);
    }
    void a_way_that_folding_squeezes_onto_a_plate_is_led_another_way_while_it_is_folded() {
        Between b({3000, 0});
        QVERIFY(b.take(edit::setBends(b.network, {b.sheet}, b.link, {{2000, -1200}, {2100, -1200}})));
        QVERIFY(b.fold(true));
        const Scene folded = b.scene();
        const PointF squeezed = scene::Bends(*folded.folding(), {}, b.left, b.right).shown({2000, -1200});
        b.putAt((b.path().front() + squeezed) * 0.5);
        QVERIFY(b.fold(false));
        const auto way = b.path();
        QCOMPARE(way.size(), std::size_t{4});
        QCOMPARE(platesMet(b.scene()), 0);
        const Scene unfolded = b.scene();
        const Network before = b.network;
        QVERIFY(b.fold(true));
        QVERIFY(b.path().size() != 4 || b.path()[1] != squeezed);
        QCOMPARE(platesMet(b.scene()), 0);
        QCOMPARE(differenceOf(scene::update(unfolded, before, b.network).scene, b.scene()), QString());
        QVERIFY(b.fold(false));
        QVERIFY(b.path() == way);
    }
    void a_straight_line_that_folding_pulls_over_a_plate_is_led_round_it() {
        Between b({3000, 2400});
        QVERIFY(b.fold(true));
        const auto straight = b.path();
        b.putAt(straight.front() + (straight.back() - straight.front()) * 0.15);
        QVERIFY(b.fold(false));
        QCOMPARE(b.path().size(), std::size_t{2});
        QCOMPARE(platesMet(b.scene()), 0);
        QVERIFY(b.fold(true));
        QVERIFY(b.path().size() > 2);
        QCOMPARE(platesMet(b.scene()), 0);
        const Network before = b.network; // away with what is between: straight again
        const Scene round = b.scene();
        QVERIFY(b.take(edit::moveObjects(b.network, {b.sheet}, {refTo(b.between)}, {0, 5000})));
        QVERIFY(b.path() == straight);
        QCOMPARE(differenceOf(scene::update(round, before, b.network).scene, b.scene()), QString());
    }
    void an_entered_group_shows_only_itself_with_doorways() {
        Grouped bench(4);
        bench.grow(2, 2, 2);
        const GroupId outer = bench.groups[0], other = bench.groups[3];
        const DeviceId inner = devicesWithin(bench.network, outer).front();
        const DeviceId beyond = devicesWithin(bench.network, other).front();
        const LinkId to = bench.link({inner, {}}, {beyond, {}});
        const LinkId alone = bench.link({inner, {}}, {bench.devices[0], {}});
        const Scene scene = Scene::build(bench.network, bench.sheet, LengthUnit::metres, outer);
        QCOMPARE(scene.count<scene::Plate>(), devicesWithin(bench.network, outer).size());
        QVERIFY(scene.frame(outer) && scene.frame(outer)->entered && !scene.frame(other));
        QCOMPARE(scene.count<scene::Doorway>(), 2U);
        scene.forEach<scene::Doorway>([&](const scene::Doorway& door) {
            scene.forEachPlate(
                [&](const scene::Plate& plate) { QVERIFY(!plate.frame.intersects(door.frame)); });
        });
        const auto doorway = [&](ObjectRef ref) { return scene.item(ref)->as<scene::Doorway>(); };
        QCOMPARE(text(doorway(refTo(other))->name), text(bench.network.group(other)->name));
        QVERIFY(doorway(refTo(bench.devices[0])));
        QVERIFY(scene.link(to)->a == refTo(other) || scene.link(to)->b == refTo(other));
        QVERIFY(scene.link(alone));
    }
    void whatever_is_done_everybody_belongs_where_he_is_shown() {
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(12)); ++seed) {
            Grouped bench(seed);
            bench.grow(3, 2, 2);
            bench.linkSome(12);
            const std::size_t devices = bench.network.all<Device>().size(),
                              links = bench.network.all<Link>().size();
            Scene followed = Scene::build(bench.network, bench.sheet);
            for (int i = 0; i < 60; ++i) {
                const Network before = bench.network;
                bench.take(bench.act());
                followed = scene::update(followed, before, bench.network).scene;
                QCOMPARE(bench.network.all<Device>().size(), devices);
                QCOMPARE(bench.network.all<Link>().size(), links);
                const Scene scene = Scene::build(bench.network, bench.sheet);
                QVERIFY(scene.gridIsTrue() && followed.gridIsTrue());
                QVERIFY2(followed == scene, qPrintable(differenceOf(followed, scene)));
                bench.network.all<Link>().forEach([&](const Link& link) {
                    QCOMPARE(followed.link(link.id) != nullptr, scene.link(link.id) != nullptr);
                });
                if (const QString wrong = wrongWith(scene, bench.network); !wrong.isEmpty())
                    QFAIL(qPrintable(QStringLiteral("seed %1, act %2: %3").arg(seed).arg(i).arg(wrong)));
            }
        }
    }
    void what_is_updated_is_what_is_worked_out_anew() {
        for (std::uint64_t seed = 21; seed <= 26; ++seed) {
            Grouped bench(seed);
            bench.grow(3, 2, 2);
            Scene scene = Scene::build(bench.network, bench.sheet);
            for (int i = 0; i < 40; ++i) {
                const Network before = bench.network;
                bench.take(bench.act());
                scene = scene::update(scene, before, bench.network).scene;
                if (!scene.folding())
                    break;
                const auto anew = scene::Folding::of(bench.network, bench.sheet, {}, *scene.standing());
                QVERIFY(scene.folding()->groups() == anew.groups());
                QVERIFY(scene.folding()->devices() == anew.devices());
                QVERIFY(scene.folding()->leadsAs(anew));
                for (const GroupId id : bench.groups)
                    QCOMPARE(scene.folding()->standing(id), anew.standing(id));
            }
        }
    }
    void what_is_looked_into_is_the_same_from_the_whole_scene_and_from_nothing() {
        for (std::uint64_t seed = 31; seed < 31 + static_cast<std::uint64_t>(tests::tries(5)); ++seed) {
            Grouped bench(seed);
            bench.grow(3, 2, 2);
            bench.linkSome(12);
            for (int i = 0; i < 15; ++i) {
                bench.take(bench.act());
                const Scene whole = Scene::build(bench.network, bench.sheet);
                for (const GroupId id : bench.groups) {
                    const auto into = [&](const Scene* known) {
                        return Scene::build(bench.network, bench.sheet, LengthUnit::metres, id, nullptr,
                                            known);
                    };
                    const Scene anew = into(nullptr), taken = into(&whole);
                    QVERIFY2(anew == taken, qPrintable(differenceOf(taken, anew)));
                    QVERIFY(taken.gridIsTrue());
                    QVERIFY(taken.bounds() == anew.bounds());
                }
            }
        }
    }
    void the_extent_follows_edits() {
        Grouped bench(8);
        bench.grow(2, 2, 2);
        const Scene scene = Scene::build(bench.network, bench.sheet);
        const Rect before = scene.bounds();
        const auto act =
            edit::moveObjects(bench.network, bench.sheet, {refTo(bench.devices.front())}, {-9000, -7000});
        const Scene after = scene::update(scene, bench.network, act->network).scene;
        QVERIFY(after.bounds() == Scene::build(act->network, bench.sheet).bounds());
        QVERIFY(!(after.bounds() == before));
        QVERIFY(scene.bounds() == before);
    }
    void where_nothing_was_done_nothing_is_drawn_anew() {
        Grouped bench(9);
        bench.grow(2, 2, 2);
        const Scene scene = Scene::build(bench.network, bench.sheet);
        const auto same = scene::update(scene, bench.network, bench.network);
        QVERIFY(!same.all && same.damage.empty());
        QVERIFY(same.scene.sharedFolding() == scene.sharedFolding());
    }
    void in_an_entered_group_who_leaves_it_is_shown_no_longer() {
        Grouped bench(7);
        bench.grow(2, 2, 2);
        const GroupId outer = bench.groups[0], inner = bench.groups[1], other = bench.groups[3];
        const auto standing = Scene::build(bench.network, bench.sheet).standing();
        const auto before = scene::Folding::of(bench.network, bench.sheet, outer, *standing);
        Network moved = bench.network;
        Group group = *moved.group(inner);
        group.parent = other; // beyond what is entered
        moved.put(group);
        const auto after = before.updated(moved, {}, {inner}),
                   anew = scene::Folding::of(moved, bench.sheet, outer, *standing);
        QVERIFY(after.groups() == anew.groups());
        QVERIFY(after.devices() == anew.devices());
        QVERIFY(!after.group(inner));
    }
    void a_fold_touches_no_more_than_it_changes() {
        Grouped bench(5);
        bench.grow(3, 2, 2, {}, {}, 16000);
        bench.linkSome(10);
        const Scene before = Scene::build(bench.network, bench.sheet);
        const GroupId last = bench.groups.back(); // nothing stands right of it or below
        const auto act = edit::setFolded(bench.network, bench.sheet, {last}, true);
        const auto updated = scene::update(before, bench.network, act->network);
        QVERIFY(!updated.all && !updated.damage.empty());
        const GroupId first = bench.groups.front();
        QVERIFY(before.item(refTo(first)) == updated.scene.item(refTo(first))); // the very same
    }
    void a_sheet_of_one_group_shows_who_is_in_it() {
        Grouped bench(5);
        bench.grow(1, 2, 2);
        const GroupId group = bench.groups[0];
        for (const bool drawn : {true, false}) {
            const auto act = edit::newSheet(bench.network, drawn ? "Frames" : "Plain", bench.sheet, group,
                                            drawn, bench.ids);
            const SheetId sheet{act->subjects.front().id};
            Network network = act->network;
            Scene scene = Scene::build(network, sheet);
            QCOMPARE(scene.count<scene::Plate>(), std::size_t{2});
            QCOMPARE(scene.frame(group) != nullptr, drawn);
            const auto out = edit::moveInto(network, {refTo(bench.devices[2])}, {});
            scene = scene::update(scene, network, out->network).scene;
            QCOMPARE(scene.count<scene::Plate>(), std::size_t{1});
        }
    }
    void the_order_of_folds_does_not_matter() {
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(8)); ++seed) {
            Grouped one(seed), other(seed);
            for (Grouped* bench : {&one, &other})
                bench->grow(3, 2, 2);
            std::vector<GroupId> some(one.groups.begin(), one.groups.begin() + 7);
            for (const GroupId id : some)
                one.take(edit::setFolded(one.network, one.sheet, {id}, true));
            for (const GroupId id : other.groups)
                other.take(edit::setFolded(other.network, other.sheet, {id}, true));
            for (const GroupId id : other.groups)
                if (std::find(some.begin(), some.end(), id) == some.end())
                    other.take(edit::setFolded(other.network, other.sheet, {id}, false));
            QVERIFY(Scene::build(one.network, one.sheet) == Scene::build(other.network, other.sheet));
        }
    }
    void everybody_keeps_his_order() {
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(10)); ++seed) {
            Grouped bench(seed);
            bench.grow(3, 3, 2, {}, {}, 24000);
            const auto places = [&] {
                std::map<ObjectRef, std::pair<Rect, GroupId>> out;
                for (const Seen& each : seenIn(Scene::build(bench.network, bench.sheet), bench.network))
                    out[each.object] = {each.frame, each.in};
                return out;
            };
            const auto before = places();
            for (int i = 0; i < 5; ++i)
                bench.take(edit::setFolded(bench.network, bench.sheet, {bench.any(bench.groups)}, true));
            const auto after = places();
            for (const auto& [a, placeA] : after)
                for (const auto& [b, placeB] : after) {
                    if (placeA.second != placeB.second)
                        continue;
                    if (before.at(a).first.right() <= before.at(b).first.x)
                        QVERIFY(placeA.first.right() <= placeB.first.x);
                    if (before.at(a).first.bottom() <= before.at(b).first.y)
                        QVERIFY(placeA.first.bottom() <= placeB.first.y);
                }
        }
    }
    void what_is_dragged_stays_where_it_was_put() {
        int stayed = 0, all = 0;
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(60)); ++seed) {
            Grouped bench(seed);
            bench.grow(3, 2, 2, {}, {}, 16000);
            for (int i = 0; i < 4; ++i)
                bench.take(edit::setFolded(bench.network, bench.sheet, {bench.any(bench.groups)}, true));
            const auto seen = seenIn(Scene::build(bench.network, bench.sheet), bench.network);
            for (int i = 0; i < 10; ++i) {
                const Seen& each = seen[static_cast<std::size_t>(bench.below(static_cast<int>(seen.size())))];
                const Point by{bench.below(1200) - 600, bench.below(1200) - 600};
                const Rect wanted = each.frame.moved(scene::toF(by));
                // Where nobody stands in the way, and it stays in the frame it is in.
                const auto around = std::find_if(seen.begin(), seen.end(), [&](const Seen& other) {
                    return other.object == refTo(each.in);
                });
                const bool inside = around == seen.end() || Rect{around->frame.x + 16, around->frame.y + 40,
                                                                 around->frame.w - 32, around->frame.h - 56}
                                                                .contains(wanted);
                const bool free = inside && std::none_of(seen.begin(), seen.end(), [&](const Seen& other) {
                                      return other.object != each.object && other.in == each.in &&
                                             other.frame.grown(1).intersects(wanted);
                                  });
                if (!free)
                    continue;
                const auto act = edit::moveObjects(bench.network, bench.sheet, {each.object}, by);
                if (!act)
                    continue;
                const auto now = edit::shownCorner(act->network, bench.sheet,
                                                   edit::foldingOf(act->network, bench.sheet), each.object);
                ++all;
                stayed += scene::toF(*now) == PointF{wanted.x, wanted.y};
                // And in every other state it is no worse.
                Network other = act->network;
                for (const GroupId id : bench.groups)
                    other = edit::setFolded(other, bench.sheet, {id}, bench.below(2) == 0)->network;
                QCOMPARE(wrongWith(Scene::build(other, bench.sheet), other), QString());
            }
        }
        QVERIFY(all > 40);
        QCOMPARE(stayed, all);
    }
    void ungrouped_members_stay_where_they_were_shown() {
        Grouped bench(6);
        bench.grow(2, 2, 3);
        bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[2]}, true));
        const GroupId gone = bench.groups[0];
        const Scene before = Scene::build(bench.network, bench.sheet);
        QVERIFY(bench.take(edit::ungroup(bench.network, bench.sheet, {gone})));
        const Scene after = Scene::build(bench.network, bench.sheet);
        QVERIFY(!bench.network.group(gone));
        for (const DeviceId id : devicesWithin(bench.network, {}))
            if (const scene::Plate* plate = before.plate(id); plate && !bench.network.device(id)->group)
                QCOMPARE(after.plate(id)->frame, plate->frame);
        QCOMPARE(after.tile(bench.groups[2])->frame, before.tile(bench.groups[2])->frame);
    }
    void what_is_moved_into_a_group_stands_in_its_frame_and_keeps_its_links() {
        Grouped bench(7);
        bench.grow(1, 2, 2);
        const DeviceId device = bench.devices[0];
        const LinkId link = bench.link({device, {}}, {bench.devices[2], {}});
        QVERIFY(bench.take(edit::moveInto(bench.network, {refTo(device)}, bench.groups[1])));
        const Scene scene = Scene::build(bench.network, bench.sheet);
        QVERIFY(scene.frame(bench.groups[1])->frame.contains(scene.plate(device)->frame));
        QVERIFY(scene.link(link));
        QVERIFY(!edit::moveInto(bench.network, {refTo(bench.groups[1])}, bench.groups[1]));
    }
    void a_place_that_does_not_hold_in_the_new_group_is_forgotten() {
        Grouped bench(8);
        const GroupId lower = bench.group("Quay level", GroupKind::floor),
                      upper = bench.group("Concourse", GroupKind::floor);
        const GroupId rack = bench.group("R1", GroupKind::rack, upper),
                      video = bench.group("Video", GroupKind::cluster);
        const DeviceId device = bench.add("access-switch-24", "acc-1");
        bench.join(device, rack);
        bench.place(device, {rack, 0, 0, 0, 12, {}});
        QVERIFY(bench.take(edit::moveInto(bench.network, {refTo(device)}, upper)));
        QCOMPARE(bench.network.device(device)->place.in, rack); // it is on that floor
        QVERIFY(bench.take(edit::moveInto(bench.network, {refTo(device)}, video)));
        QCOMPARE(bench.network.device(device)->place.in, rack);
        QVERIFY(bench.take(edit::moveInto(bench.network, {refTo(device)}, lower)));
        QCOMPARE(bench.network.device(device)->place.in, GroupId{});
    }
    void a_point_on_a_tab_or_border_means_the_group_and_one_inside_does_not() {
        Grouped bench(9);
        bench.grow(2, 2, 2);
        const Scene scene = Scene::build(bench.network, bench.sheet);
        const Rect frame = scene.frame(bench.groups[0])->frame;
        const auto at = [&](double x, double y) { return scene::hitAt(scene, {x, y}, 2).object; };
        QCOMPARE(at(frame.x + 20, frame.y + 10), refTo(bench.groups[0]));
        QCOMPARE(at(frame.x + 1, frame.bottom() - 30), refTo(bench.groups[0]));
        QCOMPARE(at(frame.right() - 12, frame.y + 60), ObjectRef{});
        const Rect inner = scene.frame(bench.groups[1])->frame;
        QCOMPARE(at(inner.x + 20, inner.y + 10), refTo(bench.groups[1]));
        bench.take(edit::setFolded(bench.network, bench.sheet, {bench.groups[0]}, true));
        const Scene folded = Scene::build(bench.network, bench.sheet);
        const Rect tile = folded.tile(bench.groups[0])->frame;
        QCOMPARE(scene::hitAt(folded, tile.centre(), 2).object, refTo(bench.groups[0]));
    }
};

UNDERRIDGE_TEST(FoldingTest)
#include "folding_test.moc"
