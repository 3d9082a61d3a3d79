// SPDX-License-Identifier: GPL-3.0-or-later
// Overlays on sheets whose groups are folded, closed or drawn: where marks are shown.
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"
#include "core/base/files.h"
#include "core/edit/groups.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/own_format.h"
#include "paint/overlays/forwarding_overlays.h"
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
};

UNDERRIDGE_TEST(OverlaysTest)
#include "overlays_test.moc"
