// SPDX-License-Identifier: GPL-3.0-or-later
// Overlays on sheets whose groups are folded, closed or drawn: where marks are shown.
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"
#include "core/base/files.h"
#include "core/edit/groups.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/own_format.h"
#include "core/model/ports.h"
#include "paint/overlays/mains_overlay.h"
#include "paint/overlays/object_overlays.h"
#include "paint/overlays/overlay_choices.h"
#include "paint/overlays/overlay_painter.h"
#include "paint/picture.h"
#include "tests/support/registered.h"

#include <QImage>

using namespace underridge;
using namespace underridge::model;
using paint::ShownMark;
using paint::ShownMarks;
using scene::Scene;

namespace {

struct AsFound {
    AsFound() : forwarding(network), findings(analysis::check(network, exchange::builtInCatalogue())) {}

    static Network read() {
        DiskFiles files;
        return exchange::readOwn(*files.read(UNDERRIDGE_ROOT "/demo/fennick-quay-as-found.underridge"),
                                 "demo")
            ->network;
    }
    SheetId sheet(const std::string& name) const {
        for (const Sheet& each : network.sheetsInOrder())
            if (each.name == name)
                return each.id;
        return {};
    }
    GroupId group(const std::string& name) const {
        GroupId found;
        network.all<Group>().forEach([&](const Group& each) {
            if (each.name == name)
                found = each.id;
        });
        return found;
    }
    paint::OverlayList laid(std::initializer_list<const char*> keys) const {
        paint::OverlayList out;
        for (const char* key : keys)
            out.push_back(paint::overlayOf(QString::fromLatin1(key), forwarding, findings));
        return out;
    }
    static const ShownMark* at(const ShownMarks& marks, ObjectRef item) {
        for (const ShownMark& mark : marks.all())
            if (mark.item == item)
                return &mark;
        return nullptr;
    }

    Network network = read();
    analysis::Forwarding forwarding;
    std::vector<linking::Finding> findings;
};

/// Something with a mark of each kind.
class OneMark : public paint::Overlay {
public:
    OneMark(std::initializer_list<std::pair<ObjectRef, QString>> badges) {
        for (const auto& [object, badge] : badges)
            marks_[object] = {0.3F, badge, badge, 0};
    }
    QString id() const override { return QStringLiteral("one"); }
    QString legend() const override { return QStringLiteral("One"); }
};

} // namespace

class OverlaysTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_a_folded_group_hides_is_marked_at_its_tile() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.sheet("Site overview"));
        const ShownMarks marks(n.network, scene, n.laid({"findings"}));
        const ShownMark* floor = n.at(marks, refTo(n.group("Control floor")));
        QVERIFY(floor);
        QVERIFY2(floor->badge.startsWith("4 × error"), qPrintable(floor->badge)); // the worst first
        QVERIFY(floor->strength > 0);
        for (const ShownMark& mark : marks.all())
            QVERIFY(scene.item(mark.item));
    }
    void every_mark_of_a_drawn_device_is_its_own() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.network.sheetsInOrder().front().id);
        const auto overlays = n.laid({"vlan:20"});
        const ShownMarks marks(n.network, scene, overlays);
        for (const auto& [object, mark] : overlays.front()->marks())
            if (object.kind == Kind::device && scene.item(object)) {
                const ShownMark* shown = n.at(marks, object);
                QVERIFY(shown && shown->strength == mark.strength);
            }
    }
    void links_drawn_as_one_line_are_marked_on_it() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.sheet("Site overview"));
        const auto lines = scene.itemsIn(scene.bounds()).of<scene::LinkLine>();
        const auto merged = std::find_if(lines.begin(), lines.end(),
                                         [](const auto* line) { return line->merged.size() > 1; });
        QVERIFY(merged != lines.end());
        const auto overlay = std::make_shared<OneMark>(std::initializer_list<std::pair<ObjectRef, QString>>{
            {refTo((*merged)->merged.front()), "a"}, {refTo((*merged)->merged.back()), "a"}});
        const ShownMarks marks(n.network, scene, {overlay});
        QCOMPARE(marks.all().size(), std::size_t(1));
        QCOMPARE(marks.all().front().item, refTo((*merged)->id));
        QCOMPARE(marks.all().front().badge, QString("2 × a"));
    }
    void many_badges_are_told_by_their_number() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.sheet("Site overview"));
        class Many : public paint::Overlay {
        public:
            explicit Many(const Network& network) {
                int i = 0;
                network.all<Device>().forEach([&](const Device& device) {
                    marks_[refTo(device.id)] = {0, {}, QString::number(i), i};
                    ++i;
                });
            }
            QString id() const override { return QStringLiteral("many"); }
            QString legend() const override { return {}; }
        };
        const ShownMarks marks(n.network, scene, {std::make_shared<Many>(n.network)});
        const ShownMark* floor = n.at(marks, refTo(n.group("Control floor")));
        QVERIFY(floor && floor->badge.endsWith("more"));
        QCOMPARE(floor->badge.count(QLatin1Char(',')), 4);
        QCOMPARE(floor->strength, 0.0F);
    }
    void what_is_on_no_sheet_is_marked_nowhere() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.sheet("Gatehouse"));
        const auto overlay = std::make_shared<OneMark>(std::initializer_list<std::pair<ObjectRef, QString>>{
            {ObjectRef{Kind::device, 12345}, "gone"}, {ObjectRef{Kind::link, 54321}, "gone"}});
        QVERIFY(ShownMarks(n.network, scene, {overlay}).all().empty());
    }
    void keys_name_overlays_and_choices_have_them() {
        AsFound n;
        const auto choices = paint::overlayChoices(n.network);
        QVERIFY(choices.size() > 8);
        for (const auto& choice : choices) {
            const auto overlay = paint::overlayOf(choice.key, n.forwarding, n.findings);
            QVERIFY2(overlay, qPrintable(choice.key));
            QVERIFY2(!overlay->legend().isEmpty() && !overlay->legend().contains(QLatin1Char('%')),
                     qPrintable(overlay->legend()));
        }
        for (const char* key : {"", "vlan:", "vlan:0", "vlan:4095", "vlan:x", "subnet:x", "subnet:", "trees"})
            QVERIFY2(!paint::overlayOf(QString::fromLatin1(key), n.forwarding, n.findings), key);
    }
    void a_picture_has_them_and_their_legend() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.sheet("Site overview"));
        paint::PictureOptions options;
        options.size = QSize(800, 500);
        const auto plain = QImage::fromData(*paint::pictureBytes(scene, options, "t"));
        options.laidOver = {n.network, n.laid({"findings"})};
        const auto laid = QImage::fromData(*paint::pictureBytes(scene, options, "t"));
        QVERIFY(plain != laid);
        const QRect corner(12, 455, 60, 30); // where the legend is
        QVERIFY(plain.copy(corner) != laid.copy(corner));
        options.format = paint::PictureFormat::pdf;
        QVERIFY(paint::pictureBytes(scene, options, "t")->startsWith("%PDF"));
    }

    // --- what each says -------------------------------------------------------------

    void speeds_are_the_stronger_the_faster() {
        AsFound n;
        const auto overlays = n.laid({"speed"});
        std::map<int, float> strengths;
        for (const auto& [object, mark] : overlays.front()->marks())
            strengths[-mark.rank] = mark.strength;
        QVERIFY(strengths.size() >= 3);
        float before = 0;
        for (const auto& [speed, strength] : strengths) {
            QVERIFY(strength > before);
            before = strength;
        }
        QVERIFY2(overlays.front()->legend().contains("1 Gbit/s"), qPrintable(overlays.front()->legend()));
    }
    void power_says_what_is_given_of_what() {
        AsFound n;
        const auto overlays = n.laid({"power"});
        int sources = 0, loads = 0;
        for (const auto& [object, mark] : overlays.front()->marks())
            ++(mark.badge.isEmpty() ? loads : sources);
        QVERIFY(sources > 3 && loads > 10);
        QVERIFY(overlays.front()->legend().contains("W from"));
    }
    void mains_power_says_what_each_hangs_on() {
        AsFound n;
        const auto overlays = n.laid({"mains"});
        const paint::Overlay& mains = *overlays.front();
        QStringList loads;
        int cords = 0;
        n.network.all<Device>().forEach([&](const Device& device) {
            for (const PowerFeed& feed : device.feeds)
                cords += feed.from ? 1 : 0;
            const auto mark = mains.marks().find(refTo(device.id));
            if (!outletsOf(n.network, device).empty())
                loads << mark->second.badge;
            else if (!device.feeds.empty())
                QVERIFY2(mark->second.words.startsWith("fed from "), qPrintable(mark->second.words));
        });
        QCOMPARE(mains.ways().size(), std::size_t(cords));
        QVERIFY(cords > 5 && loads.size() > 2);
        for (const QString& badge : loads)
            QVERIFY2(badge.endsWith(" W"), qPrintable(badge));
        const Network bare;
        const paint::MainsOverlay nothing(bare);
        QVERIFY(nothing.marks().empty() && nothing.legend().contains("no feed"));
    }
    void two_supplies_on_one_source_are_told() {
        Network network = AsFound::read();
        DeviceId twice;
        network.all<Device>().forEach([&](const Device& device) {
            if (device.feeds.size() == 2)
                twice = device.id;
        });
        const auto badgeOf = [&] { return paint::MainsOverlay(network).marks().at(refTo(twice)).badge; };
        Device device = *network.device(twice);
        for (PowerFeed& feed : device.feeds)
            feed = PowerFeed{feed.supply, {}, {}, "A", {}};
        device.feeds[1].mains = "B";
        network.put(device);
        QCOMPARE(badgeOf(), QString());
        device.feeds[1].mains = "A";
        network.put(device);
        QCOMPARE(badgeOf(), QString("one source"));
        device.feeds.clear();
        network.put(device);
        QCOMPARE(badgeOf(), QString("not fed"));
    }
    void cords_run_at_the_side_of_a_rack_and_do_not_lie_on_one_another() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.sheet("Racks"));
        const auto ways = paint::shownWays(scene, n.laid({"mains"}).front()->ways());
        QVERIFY(ways.size() > 5);
        std::vector<std::vector<scene::PointF>> upright;
        for (const auto& path : ways) {
            if (path.size() != 4)
                continue;
            QCOMPARE(path[1].x, path[2].x);
            scene.forEachPlate([&](const scene::Plate& plate) {
                QVERIFY2(path[1].x < plate.frame.x || path[1].x > plate.frame.right() ||
                             std::max(path[1].y, path[2].y) < plate.frame.y ||
                             std::min(path[1].y, path[2].y) > plate.frame.bottom(),
                         plate.name.c_str()); // it goes through none
            });
            const auto [low, high] = std::minmax(path[1].y, path[2].y);
            for (const auto& other : upright) // from one source they are one trunk
                QVERIFY(other[0] == path[0] || other[1].x != path[1].x ||
                        std::max(other[1].y, other[2].y) <= low || std::min(other[1].y, other[2].y) >= high);
            upright.push_back(path);
        }
        QVERIFY(upright.size() > 3);
    }
    void cords_are_in_pictures() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.sheet("Racks"));
        const auto mains = n.laid({"mains"});
        const scene::Rect seen = scene.bounds().grown(20);
        QImage image(int(seen.w), int(seen.h), QImage::Format_RGB32);
        image.fill(Qt::white);
        QPainter painter(&image);
        painter.translate(-seen.x, -seen.y);
        paint::SheetPainter sheet(paint::lightTheme());
        ShownMarks(n.network, scene, mains).paintHalos(painter, sheet, scene, seen, 1);
        for (const auto& path : paint::shownWays(scene, mains.front()->ways())) {
            const scene::PointF middle =
                (path[path.size() / 2] + path[path.size() / 2 - 1]) * 0.5 - scene::PointF{seen.x, seen.y};
            QVERIFY(image.pixelColor(int(middle.x), int(middle.y)) != QColor(Qt::white));
        }
    }
    void age_counts_days_since_it_was_seen() {
        AsFound n;
        Network network = n.network;
        std::vector<Device> devices;
        network.all<Device>().forEach([&](const Device& device) { devices.push_back(device); });
        const std::int64_t now = 1'700'000'000, day = 86'400;
        for (std::size_t i = 0; i < 3; ++i) {
            devices[i].provenance.lastSeen = now - static_cast<std::int64_t>(i) * 40 * day;
            network.put(devices[i]);
        }
        const paint::AgeOverlay overlay(network, now);
        QCOMPARE(overlay.marks().size(), std::size_t{3});
        QCOMPARE(overlay.marks().at(refTo(devices[0].id)).badge, QString());
        QCOMPARE(overlay.marks().at(refTo(devices[1].id)).badge, QString("40 d"));
        QVERIFY(overlay.legend().contains("2 of it"));
        QVERIFY(n.laid({"age"}).front()->legend().contains("no source"));
    }
    void filters_mark_what_they_find() {
        AsFound n;
        const auto overlays = n.laid({"where:role:camera"});
        int devices = 0;
        for (const auto& [object, mark] : overlays.front()->marks())
            if (const Device* device = n.network.device({object.id})) {
                QCOMPARE(roleOf(n.network, *device), Role::camera);
                ++devices;
            }
        QCOMPARE(devices, 12);
        const auto failing = n.laid({"where:finding:error"});
        QVERIFY(!failing.front()->marks().empty());
    }
    void what_hangs_on_a_switch_is_marked() {
        AsFound n;
        DeviceId access;
        n.network.all<Device>().forEach([&](const Device& device) {
            if (device.name == "acc-q2")
                access = device.id;
        });
        const std::string key = "impact:" + idText(access.value);
        const auto overlay = n.laid({key.c_str()}).front();
        QVERIFY(overlay->marks().size() > 3);
        QVERIFY2(overlay->legend().startsWith("Without acc-q2: "), qPrintable(overlay->legend()));
        const auto gone = n.laid({"impact:0c8fbcb0hsj0"}).front();
        QVERIFY(gone->marks().empty() && !gone->legend().isEmpty());
    }
    void every_choice_can_be_made() {
        AsFound n;
        const auto choices = paint::overlayChoices(n.network);
        QVERIFY(choices.size() > 20);
        for (const paint::OverlayChoice& each : choices) {
            const auto overlay = paint::overlayOf(each.key, n.forwarding, n.findings);
            QVERIFY2(overlay, qPrintable(each.key));
            QCOMPARE(overlay->id(), each.key);
            QVERIFY(!overlay->legend().isEmpty() && !each.text.isEmpty());
        }
        QVERIFY(!paint::overlayOf(QStringLiteral("bush"), n.forwarding, n.findings));
    }
    void badges_do_not_lie_over_one_another() {
        AsFound n;
        const Scene scene = Scene::build(n.network, n.network.sheetsInOrder().front().id);
        const ShownMarks marks(n.network, scene, n.laid({"speed"}));
        std::size_t before = 0;
        for (const double zoom : {0.1, 0.3, 0.8, 2.0}) {
            const auto shown = marks.badgesAt(zoom);
            QVERIFY(shown.size() >= before); // the nearer the more
            before = shown.size();
            QVERIFY(marks.badgesAt(zoom) == shown);
        }
        QVERIFY(before > marks.badgesAt(0.1).size());
        const auto far = marks.badgesAt(0.1);
        QVERIFY(std::any_of(far.begin(), far.end(), [&](std::size_t i) { // the fastest first
            return marks.all()[i].badge.startsWith("100 Gbit/s");
        }));
    }
};

UNDERRIDGE_TEST(OverlaysTest)
#include "overlays_test.moc"
