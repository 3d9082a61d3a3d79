// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/sheets.h"
#include "core/scene/lines.h"
#include "core/scene/scene.h"
#include "core/scene/text_width.h"
#include "tests/support/first_office.h"
#include "tests/support/large_network.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <set>

using namespace underridge;
using namespace underridge::model;
using scene::PointF;
using scene::Rect;
using scene::Scene;
using tests::RandomEdits;

class SceneTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void an_updated_scene_is_the_one_built_anew() {
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(10)); ++seed) {
            RandomEdits edits(seed);
            Network network = edits.start();
            const SheetId sheet = network.sheetsInOrder().front().id;
            Scene now = Scene::build(network, sheet);
            for (int i = 0; i < 150; ++i) {
                const auto act = edits.act(network);
                if (!act)
                    continue;
                now = scene::update(now, network, act->network).scene;
                network = act->network;
                if (i % 10 == 0) {
                    QVERIFY(now == Scene::build(network, sheet));
                    QVERIFY(now.gridIsTrue());
                }
            }
        }
    }

    void damage_covers_what_changed() {
        RandomEdits edits(21);
        Network network = edits.grown(120);
        const SheetId sheet = network.sheetsInOrder().front().id;
        const DeviceId device = edits.someDevice(network);
        const Scene before = Scene::build(network, sheet);
        const auto act = edit::moveObjects(network, sheet, {refTo(device)}, {200, 100});
        const auto updated = scene::update(before, network, act->network);
        QVERIFY(!updated.all);
        const auto covered = [&](const Rect& r) {
            return std::any_of(updated.damage.begin(), updated.damage.end(),
                               [&](const Rect& d) { return d.contains(r); });
        };
        QVERIFY(covered(before.plate(device)->frame));
        QVERIFY(covered(updated.scene.plate(device)->frame));
        // What is not near stays out of it: a plate with no link to the device.
        before.forEachPlate([&](const scene::Plate& plate) {
            if (updated.scene.plate(plate.id) == before.plate(plate.id))
                return;
            QVERIFY(covered(plate.frame));
        });
    }

    void an_edit_shares_everything_it_does_not_touch() {
        const Network network = tests::largeNetwork(2000);
        const SheetId sheet = network.sheetsInOrder().front().id;
        const Scene before = Scene::build(network, sheet);
        DeviceId device;
        network.all<Device>().forEach([&](const Device& d) { device = d.id; });
        const auto act = edit::moveObjects(network, sheet, {refTo(device)}, {8, 8});
        const auto updated = scene::update(before, network, act->network);
        int rebuilt = 0;
        before.forEachPlate(
            [&](const scene::Plate& plate) { rebuilt += updated.scene.plate(plate.id) != &plate; });
        QCOMPARE(rebuilt, 1);
        QVERIFY(updated.damage.size() <= 12);
    }

    void a_rectangle_finds_what_meets_it_and_nothing_else() {
        RandomEdits edits(22);
        const Network network = edits.grown(250);
        const Scene scene = Scene::build(network, network.sheetsInOrder().front().id);
        for (int i = 0; i < 200; ++i) {
            const Rect area{edits.below(5000) - 2500.0, edits.below(5000) - 2500.0, edits.below(1500) + 1.0,
                            edits.below(1500) + 1.0};
            const auto items = scene.itemsIn(area);
            const auto plates = items.of<scene::Plate>();
            const auto lines = items.of<scene::LinkLine>();
            scene.forEachPlate([&](const scene::Plate& plate) {
                const bool listed = std::find(plates.begin(), plates.end(), &plate) != plates.end();
                if (plate.frame.intersects(area))
                    QVERIFY(listed);
                if (!plate.frame.grown(4).intersects(area))
                    QVERIFY(!listed);
            });
            scene.forEachLink([&](const scene::LinkLine& line) {
                bool meets = false;
                for (std::size_t k = 1; k < line.path.size(); ++k)
                    meets |= scene::segmentMeets(line.path[k - 1], line.path[k], area);
                if (meets)
                    QVERIFY(std::find(lines.begin(), lines.end(), &line) != lines.end());
            });
        }
    }

    void labels_cover_neither_plates_nor_each_other_and_do_not_depend_on_the_view() {
        const Network network = tests::largeNetwork(300);
        const Scene scene = Scene::build(network, network.sheetsInOrder().front().id);
        const Rect all = scene.bounds();
        const auto labels = scene.labelsIn(all);
        QVERIFY(labels.size() > 200);
        for (std::size_t i = 0; i < labels.size(); ++i) {
            for (std::size_t j = i + 1; j < labels.size(); ++j)
                QVERIFY(!labels[i].area.intersects(labels[j].area));
            for (const scene::Plate* plate : scene.itemsIn(labels[i].area).of<scene::Plate>())
                QVERIFY(!plate->frame.intersects(labels[i].area));
        }
        const Rect part{all.x + 333, all.y + 217, 700, 400};
        for (const scene::Label& label : scene.labelsIn(part))
            QVERIFY(std::find(labels.begin(), labels.end(), label) != labels.end());
    }

    void a_port_label_gives_way_to_plates_and_port_labels_alone() {
        const Network network = tests::demo("fennick-quay");
        const Scene scene = Scene::build(network, network.sheetsInOrder().front().id);
        const auto shown = scene.labelsIn(scene.bounds().grown(200));
        std::vector<scene::Label> ports, middles;
        scene.forEachLink([&](const scene::LinkLine& line) {
            for (const scene::Label& label : line.labels)
                (label.kind == scene::LabelKind::middle ? middles : ports)
                    .push_back(scene.settled(line, label));
        });
        const auto isShown = [&](const scene::Label& label) {
            return std::find(shown.begin(), shown.end(), label) != shown.end();
        };
        const auto onPlate = [&](const scene::Label& label) {
            const auto plates = scene.itemsIn(label.area).of<scene::Plate>();
            return std::any_of(plates.begin(), plates.end(), [&](const scene::Plate* plate) {
                return plate->frame.intersects(label.area);
            });
        };
        const auto touched = [](const scene::Label& label, const std::vector<scene::Label>& others) {
            return std::any_of(others.begin(), others.end(), [&](const scene::Label& other) {
                return &other != &label && other.area.intersects(label.area);
            });
        };
        int hidden = 0, outranked = 0;
        for (const scene::Label& label : ports) {
            hidden += !isShown(label);
            QVERIFY(isShown(label) || onPlate(label) || touched(label, ports));
        }
        for (const scene::Label& label : middles)
            if (touched(label, ports)) {
                ++outranked;
                QVERIFY(!isShown(label));
            }
        QVERIFY(hidden > 0 && outranked > 0); // both happen on this sheet
    }

    void a_label_stands_beside_a_line_that_crosses_its_own_where_there_is_room() {
        // Two lines that cross in the middle of both.
        IdSource ids(4);
        Network network = emptyNetwork("t", ids);
        const SheetId sheet = network.sheetsInOrder().front().id;
        const auto put = [&](Point at) {
            Device device;
            device.id = ids.make<DeviceId>();
            network.put(device);
            Position position;
            position.sheet = sheet;
            position.object = device.id.value;
            position.of = Kind::device;
            position.at = at;
            network.put(position);
            return device.id;
        };
        const auto join = [&](DeviceId a, DeviceId b, std::int64_t lengthMm) {
            Cable cable;
            cable.id = ids.make<CableId>();
            cable.lengthMm = lengthMm;
            cable.ends = {{{a, {}}, {}}, {{b, {}}, {}}};
            Link link;
            link.id = ids.make<LinkId>();
            link.a = {a, {}};
            link.b = {b, {}};
            link.cable = cable.id;
            network.put(cable);
            network.put(link);
            return link.id;
        };
        const DeviceId west = put({-600, 0}), east = put({600, 0}), north = put({0, -500}),
                       south = put({0, 500});
        const LinkId across = join(west, east, 12000);
        const Scene alone = Scene::build(network, sheet);
        const auto middleOf = [&](const Scene& scene, LinkId id) {
            const scene::LinkLine& line = *scene.link(id);
            return scene.settled(line, line.labels.back());
        };
        const Rect before = middleOf(alone, across).area;
        const Network was = network;
        const LinkId down = join(north, south, 0);
        const auto updated = scene::update(alone, was, network);
        const Rect after = middleOf(updated.scene, across).area;
        QVERIFY(!(before == after));
        const auto& crossing = updated.scene.link(down)->path;
        for (std::size_t i = 0; i + 1 < crossing.size(); ++i)
            QVERIFY(!scene::segmentMeets(crossing[i], crossing[i + 1], after));
        // Both places are drawn anew, and it goes back when the other line is gone.
        for (const Rect& place : {before, after})
            QVERIFY(std::any_of(updated.damage.begin(), updated.damage.end(),
                                [&](const Rect& damage) { return damage.intersects(place); }));
        const auto back = scene::update(updated.scene, network, was);
        QVERIFY(middleOf(back.scene, across).area == before);
        QVERIFY(std::any_of(back.damage.begin(), back.damage.end(),
                            [&](const Rect& damage) { return damage.intersects(after); }));
    }

    /// Whatever an edit does, however long the lines it makes: each label that stands
    /// elsewhere afterwards is drawn anew in both places.
    void every_label_that_an_edit_moves_is_drawn_anew() {
        int moved = 0;
        for (std::uint64_t seed = 50; seed < 54; ++seed) {
            RandomEdits edits(seed);
            Network network = edits.grown(200);
            const SheetId sheet = network.sheetsInOrder().front().id;
            network.all<Cable>().forEach([&](Cable cable) { // so that most have labels
                cable.lengthMm = 12000;
                network.put(cable);
            });
            Scene now = Scene::build(network, sheet);
            for (int i = 0; i < 120; ++i) {
                const auto act = edits.act(network);
                if (!act)
                    continue;
                const auto updated = scene::update(now, network, act->network);
                updated.scene.forEachLink([&](const scene::LinkLine& line) {
                    if (updated.all || now.link(line.id) != &line)
                        return; // all of it is drawn anew
                    for (const scene::Label& label : line.labels) {
                        const Rect before = now.settled(line, label).area,
                                   after = updated.scene.settled(line, label).area;
                        if (before == after)
                            continue;
                        ++moved;
                        for (const Rect& place : {before, after})
                            QVERIFY(std::any_of(updated.damage.begin(), updated.damage.end(),
                                                [&](const Rect& damage) { return damage.contains(place); }));
                    }
                });
                now = updated.scene;
                network = act->network;
            }
        }
        QVERIFY2(moved > 5, qPrintable(QString::number(moved)));
    }

    void port_labels_keep_off_the_plate_they_stand_at() {
        for (const char* sample : {"first-office", "fennick-quay"}) {
            const Network network = tests::demo(sample);
            const Scene scene = Scene::build(network, network.sheetsInOrder().front().id);
            int looked = 0, short_ = 0;
            scene.forEachLink([&](const scene::LinkLine& line) {
                if (scene::pathLength(line.path) < 90) { // no room to get away
                    ++short_;
                    return;
                }
                for (const scene::Label& label : line.labels) {
                    if (label.kind == scene::LabelKind::middle)
                        continue;
                    const Rect frame =
                        scene.item(label.kind == scene::LabelKind::portA ? line.a : line.b)->bounds;
                    QVERIFY2(!label.area.intersects(frame.grown(-2)), label.text.c_str());
                    ++looked;
                }
            });
            QVERIFY(looked > short_);
        }
    }

    void pointing_at_a_thing_means_that_thing() {
        RandomEdits edits(23);
        const Network network = edits.grown(120);
        const Scene scene = Scene::build(network, network.sheetsInOrder().front().id);
        scene.forEachPlate([&](const scene::Plate& plate) {
            const auto hit = scene::hitAt(scene, plate.frame.centre(), 4);
            QVERIFY(hit.object.kind == Kind::device || hit.object.kind == Kind::note);
            if (hit.object == refTo(plate.id) && plate.rail.columns > 0) {
                const Rect tick = plate.rail.tick(0);
                const auto onTick = scene::hitAt(scene, tick.centre(), 4);
                if (onTick.object == refTo(plate.id))
                    QCOMPARE(onTick.port, 0);
            }
        });
        scene.forEachLink([&](const scene::LinkLine& line) {
            const PointF middle = scene::alongPath(line.path, scene::pathLength(line.path) / 3).at;
            QVERIFY(scene::hitAt(scene, middle, 4));
        });
        QVERIFY(!scene::hitAt(scene, {900000, 900000}, 4));
    }

    void a_link_is_met_within_the_tolerance_and_not_beyond() {
        const Scene scene =
            Scene::build(tests::demo("first-office"), tests::demo("first-office").sheetsInOrder().front().id);
        int tried = 0;
        scene.forEachLink([&](const scene::LinkLine& line) {
            const PointF a = line.path[line.path.size() - 2], b = line.path.back();
            const double length = std::hypot(b.x - a.x, b.y - a.y);
            const PointF across{(a.y - b.y) / length, (b.x - a.x) / length};
            const PointF middle{(a.x + b.x) / 2, (a.y + b.y) / 2};
            const auto beside = [&](double by) {
                return scene::hitAt(scene, {middle.x + across.x * by, middle.y + across.y * by}, 4);
            };
            if (scene.itemsIn(Rect{middle.x - 20, middle.y - 20, 40, 40}).of<scene::LinkLine>().size() > 1)
                return; // another is near
            ++tried;
            for (const int side : {1, -1}) {
                QCOMPARE(beside(side * 3.9).object, refTo(line.id));
                QVERIFY(!beside(side * 4.1));
            }
        });
        QVERIFY(tried >= 3);
    }

    void of_two_that_overlap_the_one_drawn_last_is_meant() {
        RandomEdits edits(28);
        Network network = edits.start();
        const SheetId sheet = network.sheetsInOrder().front().id;
        for (const Point at : {Point{0, 0}, Point{40, 12}})
            network = edit::placeDevices(network, sheet, *edits.catalogue().device("access-switch-24"),
                                         {{at.x == 0 ? "below" : "above", at}}, {}, edits.ids())
                          ->network;
        for (const Point at : {Point{500, 0}, Point{520, 8}})
            network = edit::addNote(network, sheet, at, "a note of some length", edits.ids())->network;
        const Scene scene = Scene::build(network, sheet);
        const PointF onBoth{60, 20}, onBothNotes{540, 16};
        const auto plates = scene.itemsIn(Rect{onBoth.x, onBoth.y, 1, 1}).of<scene::Plate>();
        QCOMPARE(plates.size(), std::size_t{2});
        QCOMPARE(scene::hitAt(scene, onBoth, 4).object, refTo(plates.back()->id));
        const auto notes = scene.itemsIn(Rect{onBothNotes.x, onBothNotes.y, 1, 1}).of<scene::NoteCard>();
        QCOMPARE(notes.size(), std::size_t{2});
        QCOMPARE(scene::hitAt(scene, onBothNotes, 4).object, refTo(notes.back()->id));
    }

    void links_leave_from_their_ports_and_parallel_ones_keep_apart() {
        RandomEdits edits(24);
        Network network = edits.start();
        const SheetId sheet = network.sheetsInOrder().front().id;
        const auto& model = *edits.catalogue().device("access-switch-24");
        auto act =
            edit::placeDevices(network, sheet, model, {{"a", {0, 0}}, {"b", {0, 300}}}, {}, edits.ids());
        network = act->network;
        const DeviceId a{act->subjects[0].id}, b{act->subjects[1].id};
        for (int i = 0; i < 3; ++i)
            network =
                edit::makeLink(network, edits.catalogue(),
                               *linking::bestPair(network, edits.catalogue(), {a, {}}, {b, {}}), edits.ids())
                    ->network;
        const Scene scene = Scene::build(network, sheet);
        std::vector<double> starts;
        scene.forEachLink([&](const scene::LinkLine& line) {
            QVERIFY(scene.plate(a)->frame.grown(1).contains(line.path.front()));
            starts.push_back(line.path.front().x);
        });
        std::sort(starts.begin(), starts.end());
        QVERIFY(starts[1] - starts[0] >= 8 && starts[2] - starts[1] >= 8);
        int used = 0;
        for (const scene::Tick tick : scene.plate(a)->ticks)
            used += tick == scene::Tick::used;
        QCOMPARE(used, 3);
    }

    void marks_tell_disabled_ports_and_speeds_that_do_not_meet() {
        RandomEdits edits(26);
        Network network = edits.start();
        const SheetId sheet = network.sheetsInOrder().front().id;
        auto act = edit::placeDevices(network, sheet, *edits.catalogue().device("access-switch-24"),
                                      {{"a", {0, 0}}, {"b", {0, 300}}}, {}, edits.ids());
        network = act->network;
        const DeviceId a{act->subjects[0].id}, b{act->subjects[1].id};
        network =
            edit::makeLink(network, edits.catalogue(),
                           *linking::bestPair(network, edits.catalogue(), {a, "1"}, {b, "1"}), edits.ids())
                ->network;
        const auto only = [&](const Network& n) {
            std::optional<scene::LinkLine> line;
            Scene::build(n, sheet).forEachLink([&](const scene::LinkLine& l) { line = l; });
            return *line;
        };
        QVERIFY(!only(network).failsA && !only(network).disabledA);
        network = edit::changePort(network, {a, "1"}, "x", [](Port& p) { p.speed = 100; })->network;
        QVERIFY(!only(network).failsA); // the other end can do 100 Mbit/s too
        network = edit::changePort(network, {b, "1"}, "x", [](Port& p) { p.speed = 1000; })->network;
        QVERIFY(only(network).failsA && only(network).failsB);
        network = edit::changePort(network, {b, "1"}, "x", [](Port& p) { p.disabled = true; })->network;
        QVERIFY(only(network).disabledB && !only(network).disabledA);
    }

    void text_is_measured_and_elided_by_the_table() {
        using scene::Weight;
        QVERIFY(scene::textWidth("iiii", 10, Weight::regular) <
                scene::textWidth("WWWW", 10, Weight::regular));
        QVERIFY(scene::textWidth("acc", 10, Weight::regular) < scene::textWidth("acc", 10, Weight::semiBold));
        QCOMPARE(scene::textWidth("acc", 20, Weight::regular),
                 2 * scene::textWidth("acc", 10, Weight::regular));
        const std::string longName = "a-very-long-name-of-a-switch-é-ü";
        const std::string shorter = scene::elided(longName, 11.5, Weight::semiBold, 80);
        QVERIFY(QString::fromStdString(shorter).endsWith(QChar(0x2026)));
        QVERIFY(scene::textWidth(shorter, 11.5, Weight::semiBold) <= 80);
        QVERIFY(isValidUtf8(scene::elided(longName, 11.5, Weight::semiBold, 175)));
        QCOMPARE(scene::elided("short", 11.5, Weight::semiBold, 80), std::string("short"));
    }

    void hostile_names_make_a_scene_all_the_same() {
        RandomEdits edits(25);
        Network network = edits.start();
        const SheetId sheet = network.sheetsInOrder().front().id;
        for (const std::string& name : {std::string(200, 'W'), std::string("<b>x</b>"), std::string("\t\n"),
                                        std::string("日本語の名前"), std::string("\xf0\x9f\x9a\xa2")}) {
            Device device;
            device.id = edits.ids().make<DeviceId>();
            device.name = name;
            device.model = "no-such-model";
            Position position;
            position.sheet = sheet;
            position.object = device.id.value;
            position.of = Kind::device;
            position.at = {sheetLimit, -sheetLimit};
            network.put(device);
            network.put(position);
        }
        const Scene scene = Scene::build(network, sheet);
        QCOMPARE(scene.count<scene::Plate>(), std::size_t{5});
        scene.forEachPlate([](const scene::Plate& plate) { QVERIFY(plate.frame.w <= 240); });
    }

    void a_hub_costs_no_more_than_its_links_when_built_and_when_changed() {
        if (tests::isSanitized)
            QSKIP("it is about time");
        const auto milliseconds = [](int leaves) {
            IdSource ids(3);
            Network network = emptyNetwork("hub", ids);
            const SheetId sheet = network.sheetsInOrder().front().id;
            const auto put = [&](int x, int y) {
                Device device;
                device.id = ids.make<DeviceId>();
                Position position;
                position.sheet = sheet;
                position.object = device.id.value;
                position.of = Kind::device;
                position.at = {x, y};
                network.put(position);
                network.put(device);
                return device.id;
            };
            const auto join = [&](DeviceId a, DeviceId b) { // ends whose ports are not known
                Link link;
                link.id = ids.make<LinkId>();
                link.a = {a, {}};
                link.b = {b, {}};
                network.put(link);
            };
            const DeviceId hub = put(0, 0), twin = put(900, 0);
            for (int i = 0; i < leaves; ++i)
                join(hub, put(i * 200, 400));
            for (int i = 0; i < leaves; ++i)
                join(hub, twin);
            QElapsedTimer timer;
            timer.start();
            const Scene scene = Scene::build(network, sheet);
            Device renamed = *network.device(hub);
            renamed.name = "centre";
            Network after = network;
            after.put(renamed);
            const auto updated = scene::update(scene, network, after);
            const auto spent = static_cast<double>(timer.nsecsElapsed()) / 1e6;
            const auto wanted = static_cast<std::size_t>(2 * leaves);
            if (updated.scene.count<scene::LinkLine>() != wanted || !updated.scene.gridIsTrue())
                return -1.0;
            return spent;
        };
        milliseconds(200); // warm
        const double one = milliseconds(500), eight = milliseconds(4000);
        QVERIFY(one > 0 && eight > 0);
        // Eight times the links: about eight times the time, not sixty-four.
        QVERIFY2(eight < 30 * one + 50, qPrintable(QString("%1 ms and %2 ms").arg(one).arg(eight)));
    }

    void a_link_of_another_layer_is_drawn_on_its_own_sheet_alone() {
        tests::Workbench b;
        const auto one = b.add("access-switch-24", "one"), two = b.add("access-switch-24", "two", {400, 0});
        const LinkId id = b.link({one, {}}, {two, {}});
        b.take(edit::addSheet(b.network, "Routing", b.ids));
        const SheetId other = b.network.sheetsInOrder().back().id;
        b.take(edit::showOnSheet(b.network, other, {{one, {0, 0}}, {two, {300, 0}}}));
        QCOMPARE(Scene::build(b.network, b.sheet).count<scene::LinkLine>(), std::size_t{1});
        QCOMPARE(Scene::build(b.network, other).count<scene::LinkLine>(), std::size_t{1});
        Link link = *b.network.link(id);
        link.onlyOn = other;
        Network upper = b.network;
        upper.put(link);
        const auto updated = scene::update(Scene::build(b.network, b.sheet), b.network, upper);
        QCOMPARE(updated.scene.count<scene::LinkLine>(), std::size_t{0});
        QCOMPARE(Scene::build(upper, other).count<scene::LinkLine>(), std::size_t{1});
    }

    void labels_of_a_sheet_can_be_switched_off_and_are_never_longer_than_the_limit() {
        tests::Workbench b;
        const auto one = b.add("access-switch-24", "one"), two = b.add("access-switch-24", "two", {900, 0});
        const LinkId id = b.link({one, {}}, {two, {}});
        Cable cable = b.cableOf(id);
        cable.label = std::string(400, 'x');
        b.network.put(cable);
        const Scene scene = Scene::build(b.network, b.sheet);
        const auto& labels = scene.link(id)->labels;
        QCOMPARE(labels.size(), std::size_t{3});
        for (const scene::Label& label : labels)
            QVERIFY(label.area.w <= scene::maxLabelWidth);
        QVERIFY(labels.back().text.ends_with("…"));
        QVERIFY(b.take(edit::setSheetLabels(b.network, b.sheet, false, true)));
        QCOMPARE(Scene::build(b.network, b.sheet).link(id)->labels.size(), std::size_t{1});
        QVERIFY(b.take(edit::setSheetLabels(b.network, b.sheet, false, false)));
        QVERIFY(Scene::build(b.network, b.sheet).link(id)->labels.empty());
    }

    void far_away_the_names_of_what_matters_most_are_shown_and_pieces_agree() {
        const Network network = tests::firstOffice();
        const Scene scene = Scene::build(network, network.sheetsInOrder().front().id);
        for (const double zoom : {0.08, 0.15, 0.3}) {
            const Rect all = scene.bounds().grown(200 / zoom);
            const auto names = scene.namesIn(all, zoom);
            QVERIFY(!names.empty());
            for (std::size_t i = 0; i < names.size(); ++i)
                for (std::size_t j = i + 1; j < names.size(); ++j)
                    QVERIFY2(!names[i].area.intersects(names[j].area),
                             (names[i].text + " and " + names[j].text).c_str());
            // The first of all is named at any zoom: a router or firewall, if there is
            // one.
            const auto isGate = [&](const scene::FarName& name) {
                const auto family = familyOf(scene.plate({name.of.id})->role);
                return family == RoleFamily::router || family == RoleFamily::firewall ||
                       family == RoleFamily::provider;
            };
            QVERIFY(std::any_of(names.begin(), names.end(), isGate));
            std::set<std::string> whole, pieces;
            for (const auto& name : names)
                whole.insert(name.text);
            const double step = 512 / zoom;
            for (double y = all.y; y < all.bottom(); y += step)
                for (double x = all.x; x < all.right(); x += step)
                    for (const auto& name : scene.namesIn({x, y, step, step}, zoom))
                        pieces.insert(name.text);
            QCOMPARE(pieces, whole);
        }
        QVERIFY(scene.namesIn(scene.bounds().grown(9000), 0.3).size() >
                scene.namesIn(scene.bounds().grown(9000), 0.08).size());
    }

    void zones_lie_below_everything_and_are_as_large_as_their_position_says() {
        tests::Workbench b;
        const auto pc = b.add("workstation", "pc", {100, 100});
        b.take(edit::addNote(b.network, b.sheet, {0, 0}, "Restricted", b.ids));
        Note zone;
        b.network.all<Note>().forEach([&](const Note& note) { zone = note; });
        zone.zone = true;
        b.network.put(zone);
        Position position = *b.network.position(b.sheet, zone.id.value);
        position.width = 600;
        position.height = 400;
        b.network.put(position);
        const Scene scene = Scene::build(b.network, b.sheet);
        QCOMPARE(scene.note(zone.id)->frame, (Rect{0, 0, 600, 400}));
        QCOMPARE(scene::hitAt(scene, {110, 110}, 4).object, refTo(pc));      // the plate lies over it
        QCOMPARE(scene::hitAt(scene, {500, 398}, 4).object, refTo(zone.id)); // by its border
        QCOMPARE(scene::hitAt(scene, {60, 10}, 4).object, refTo(zone.id));   // and its title
        QVERIFY(!scene::hitAt(scene, {500, 300}, 4));                        // inside is the sheet
        const auto items = scene.itemsIn({0, 0, 600, 400});
        QCOMPARE(items.all().front()->object, refTo(zone.id)); // drawn first
    }

    void at_middle_zoom_a_name_fills_its_plate_in_one_line_or_two() {
        tests::Workbench b;
        const auto plate = [&](const char* name) {
            const DeviceId id = b.add("camera", name);
            return *Scene::build(b.network, b.sheet).plate(id);
        };
        const auto fits = [](const scene::Plate& shown, const scene::PlateName& name) {
            for (const auto& line : name.lines) {
                const double right =
                    line.baseline.x + scene::textWidth(line.text, name.size, scene::Weight::semiBold);
                if (right > shown.frame.right() || line.baseline.y > shown.frame.bottom() ||
                    line.baseline.y - name.size * 0.8 < shown.frame.y)
                    return false;
            }
            return true;
        };
        const auto small = plate("fw-1"), wide = plate("cam-hall-1"), solid = plate("gatehousecamera");
        for (const double zoom : {0.42, 0.5, 0.69})
            for (const auto& each : {small, wide, solid})
                QVERIFY2(fits(each, scene::nameOn(each, zoom)), each.name.c_str());
        QCOMPARE(scene::nameOn(small, 0.5).lines.size(), std::size_t{1});
        QCOMPARE(scene::nameOn(small, 0.5).size, 22.0); // as large as the screen asks for
        const auto two = scene::nameOn(wide, 0.42);
        QCOMPARE(two.lines.size(), std::size_t{2}); // broken where the name has a mark
        QCOMPARE(two.lines[0].text + two.lines[1].text, wide.name);
        QVERIFY(two.size > 1.4 * scene::nameSize);
        QCOMPARE(scene::nameOn(solid, 0.42).lines.size(), std::size_t{1}); // nowhere to break
    }
};

UNDERRIDGE_TEST(SceneTest)
#include "scene_test.moc"
