// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/patterns.h"
#include "core/layout/drawn.h"
#include "core/linking/rules.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using namespace underridge::tests;
using edit::Pattern;
using edit::PatternShape;

namespace {

struct Made : Workbench {
    explicit Made(const Pattern& pattern) {
        auto act = edit::addPattern(network, catalogue, sheet, pattern, ids);
        if (!act)
            qFatal("%s", act.refusal().text().c_str());
        network = std::move(act->network);
    }
    std::size_t devices() const { return network.all<Device>().size(); }
    std::size_t links() const { return network.all<Link>().size(); }
    layout::DrawnMeasures measures() const { return layout::measured(scene::Scene::build(network, sheet)); }
    std::set<std::string> names() const {
        std::set<std::string> out;
        network.all<Device>().forEach([&](const Device& device) { out.insert(device.name); });
        return out;
    }
};

} // namespace

class PatternsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void every_shape_is_what_it_is_counted_as_and_lies_well() {
        for (const PatternShape shape : edit::allPatternShapes) {
            Pattern pattern;
            pattern.shape = shape;
            pattern.endpoints = 2;
            const Made made(pattern);
            const edit::PatternCount count = edit::countOf(pattern);
            const std::string which(textOf(shape));
            QVERIFY2(made.devices() == static_cast<std::size_t>(count.devices), which.c_str());
            QVERIFY2(made.links() == static_cast<std::size_t>(count.links), which.c_str());
            const auto m = made.measures();
            QVERIFY2(m.overlaps == 0 && m.groupIntrusions == 0, which.c_str());
            if (shape != PatternShape::mesh)
                QVERIFY2(m.linksThroughDevices == 0, which.c_str());
            if (shape != PatternShape::mesh && shape != PatternShape::fabric)
                QVERIFY2(m.crossings == 0, which.c_str());
            QCOMPARE(made.names().size(), made.devices()); // no name twice
            QCOMPARE(edit::patternShapeFromText(which), std::optional(shape));
        }
    }
    void links_are_of_the_medium_that_is_said() {
        Pattern pattern;
        pattern.shape = PatternShape::dualHomed;
        pattern.endpoints = 2;
        pattern.medium = Medium::singleMode;
        pattern.endpointMedium = Medium::twistedPair;
        const Made made(pattern);
        int fibre = 0, copper = 0;
        made.network.all<Link>().forEach([&](const Link& link) {
            const bool ends = isEndpoint(roleOf(made.network, *made.network.device(link.a.device))) ||
                              isEndpoint(roleOf(made.network, *made.network.device(link.b.device)));
            const Medium is = mediumOf(made.network, link);
            fibre += !ends && is == Medium::singleMode;
            copper += ends && is == Medium::twistedPair;
        });
        QCOMPARE(fibre, 1 + 2 * pattern.access);
        QCOMPARE(copper, pattern.endpoints * pattern.access);
        pattern.endpointMedium = Medium::coax; // no endpoint has that
        Workbench b;
        QVERIFY(!edit::addPattern(b.network, b.catalogue, b.sheet, pattern, b.ids));
    }
    void drawn_out_it_is_as_large_as_its_place() {
        Workbench b;
        for (const PatternShape shape : {PatternShape::star, PatternShape::ring, PatternShape::dualHomed,
                                         PatternShape::tree, PatternShape::chain}) {
            Pattern pattern;
            pattern.shape = shape;
            pattern.count = 6;
            for (const scene::Rect& area :
                 {scene::Rect{100, 200, 1500, 1200}, scene::Rect{-2000, 0, 2600, 2200}}) {
                const Made made(edit::fittedInto(b.catalogue, pattern, area));
                scene::Rect whole;
                scene::Scene::build(made.network, made.sheet).forEachPlate([&](const scene::Plate& plate) {
                    whole = whole.united(plate.frame);
                });
                const std::string which(textOf(shape));
                QVERIFY2(area.grown(2).contains(whole), which.c_str());
                QVERIFY2(whole.w > area.w * 0.4 || whole.h > area.h * 0.4, which.c_str());
                QVERIFY(scene::length(whole.centre() - area.centre()) < 4);
            }
        }
    }
    void what_is_laid_down_has_no_link_that_will_not_come_up() {
        for (const PatternShape shape : edit::allPatternShapes) {
            Pattern pattern;
            pattern.shape = shape;
            pattern.endpoints = 1;
            const Made made(pattern);
            for (const auto& finding : linking::check(made.network, made.catalogue))
                QVERIFY2(finding.rule->severity != Severity::error, finding.message.c_str());
        }
    }
    void names_and_models_are_as_said() {
        Pattern pattern;
        pattern.shape = PatternShape::star;
        pattern.count = 10;
        pattern.upper = {"access-switch-48", "acc-north"};
        pattern.lower = {"phone", "ph-{01..}"};
        const Made made(pattern);
        const auto names = made.names();
        QVERIFY(names.contains("acc-north") && names.contains("ph-01") && names.contains("ph-10"));
        QCOMPARE(made.links(), std::size_t{10});
    }
    void the_centre_is_where_it_was_wanted() {
        Pattern pattern;
        pattern.shape = PatternShape::ring;
        pattern.centre = Point{2000, -500};
        pattern.radius = 600;
        const Made made(pattern);
        const scene::Rect all = scene::Scene::build(made.network, made.sheet).bounds();
        QVERIFY(std::abs(all.centre().x - 2000) <= 2 && std::abs(all.centre().y + 500) <= 2);
        QVERIFY(all.w > 1100 && all.w < 1500);
    }
    void it_comes_below_what_is_there() {
        Workbench bench;
        bench.add("access-switch-24", "there", {0, 0});
        auto act = edit::addPattern(bench.network, bench.catalogue, bench.sheet, {}, bench.ids);
        QVERIFY(act);
        act->network.all<Position>().forEachIn(bench.sheet.value, [&](const Position& position) {
            const Device* device = act->network.device({position.object});
            QVERIFY(!device || device->name == "there" || position.at.y > 44);
        });
        QCOMPARE(layout::measured(scene::Scene::build(act->network, bench.sheet)).overlaps, std::size_t{0});
    }
    void too_few_ports_are_told_with_what_fits() {
        Workbench bench;
        Pattern pattern;
        pattern.shape = PatternShape::star;
        pattern.count = 40;
        pattern.upper.model = "compact-switch-8";
        const auto act = edit::addPattern(bench.network, bench.catalogue, bench.sheet, pattern, bench.ids);
        QVERIFY(!act);
        const std::string remedy = act.refusal().remedy;
        const int fits = std::stoi(remedy);
        QVERIFY2(fits >= 8 && fits < 40, remedy.c_str());
        pattern.count = fits;
        QVERIFY(edit::addPattern(bench.network, bench.catalogue, bench.sheet, pattern, bench.ids));
        pattern.count = fits + 1;
        QVERIFY(!edit::addPattern(bench.network, bench.catalogue, bench.sheet, pattern, bench.ids));
    }
    void figures_out_of_range_are_refused() {
        Workbench bench;
        const auto refused = [&](auto change) {
            Pattern pattern;
            change(pattern);
            return !edit::addPattern(bench.network, bench.catalogue, bench.sheet, pattern, bench.ids);
        };
        QVERIFY(refused([](Pattern& p) { p.count = 0; }));
        QVERIFY(refused([](Pattern& p) {
            p.shape = PatternShape::tree;
            p.depth = 8;
            p.fan = 64;
        }));
        QVERIFY(refused([](Pattern& p) {
            p.shape = PatternShape::mesh;
            p.count = 900;
        }));
        QVERIFY(refused([](Pattern& p) { p.lower.model = "toaster"; }));
        QVERIFY(refused([](Pattern& p) { p.lower.names = "a{1..}b{1..}"; }));
        QVERIFY(refused([](Pattern& p) { p.spacing = std::nan(""); }));
    }
    void a_campus_comes_in_buildings() {
        Pattern pattern;
        pattern.shape = PatternShape::campus;
        pattern.sites = 3;
        pattern.endpoints = 2;
        const Made made(pattern);
        QCOMPARE(made.network.all<Group>().size(), std::size_t{3});
        const scene::Scene scene = scene::Scene::build(made.network, made.sheet);
        int frames = 0;
        scene.forEach<scene::Frame>([&](const scene::Frame&) { ++frames; });
        QCOMPARE(frames, 3);
    }
};

UNDERRIDGE_TEST(PatternsTest)
#include "patterns_test.moc"
