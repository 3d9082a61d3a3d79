// SPDX-License-Identifier: GPL-3.0-or-later
// Notes and zones that are a group's: they go where it goes, and are hidden as it is folded.
#include "core/edit/arranging.h"
#include "core/edit/groups.h"
#include "core/edit/objects.h"
#include "core/scene/scene.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;

namespace {

/// A group of two switches, and one outside of it to the right.
struct House : tests::Workbench {
    House() {
        one = add("access-switch-24", "one", {0, 0});
        two = add("access-switch-24", "two", {300, 300});
        other = add("access-switch-24", "other", {900, 0});
        const auto act =
            edit::makeGroup(network, sheet, "Hall", GroupKind::room, {refTo(one), refTo(two)}, {}, ids);
        if (!take(act))
            qFatal("%s", act.refusal().text().c_str());
        hall = network.device(one)->group;
    }
    scene::Scene scene() const { return scene::Scene::build(network, sheet); }
    NoteId note(Point at) {
        const auto act = edit::addNote(network, sheet, at, "Keep clear", ids);
        take(act);
        return {act->subjects.front().id};
    }
    std::optional<scene::PointF> shown(NoteId id) const {
        const auto now = scene();
        const auto* item = now.item(refTo(id));
        if (!item)
            return std::nullopt;
        const scene::Rect frame = item->as<scene::NoteCard>()->frame;
        return scene::PointF{frame.x, frame.y};
    }
    void move(ObjectRef what, Point by) { take(edit::moveObjects(network, sheet, {what}, by)); }
    void fold(bool on) { take(edit::setFolded(network, sheet, {hall}, on)); }

    DeviceId one, two, other;
    GroupId hall;
};

} // namespace

class GroupNotesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_note_put_into_a_frame_is_that_groups() {
        House h;
        QCOMPARE(h.network.note(h.note({40, 200}))->group, h.hall);
        QCOMPARE(h.network.note(h.note({1'500, 900}))->group, GroupId{});
        h.fold(true);
        const scene::Rect tile = h.scene().tile(h.hall)->frame;
        const Point on{static_cast<int>(tile.x) + 5, static_cast<int>(tile.y) + 5};
        QCOMPARE(h.network.note(h.note(on))->group, GroupId{}); // of a tile nothing is seen inside
    }
    void it_moves_with_the_group_and_is_hidden_as_that_is_folded() {
        House h;
        const NoteId mine = h.note({40, 200}), sheets = h.note({40, 900});
        h.move(refTo(h.hall), {120, 60});
        QCOMPARE(h.network.position(h.sheet, mine.value)->at, (Point{160, 260}));
        QCOMPARE(h.network.position(h.sheet, sheets.value)->at, (Point{40, 900}));
        const auto before = h.shown(mine);
        h.fold(true);
        QVERIFY(!h.shown(mine));
        QVERIFY(h.shown(sheets));
        h.move(refTo(h.hall), {-30, 10}); // as a tile
        h.fold(false);
        QCOMPARE(h.shown(mine)->x, before->x - 30);
        QCOMPARE(h.shown(mine)->y, before->y + 10);
    }
    void it_may_be_kept_with_another_and_stays_where_it_is_shown() {
        House h;
        const NoteId id = h.note({1'200, 500});
        const auto before = h.shown(id);
        QVERIFY(h.take(edit::setNoteGroup(h.network, h.sheet, id, h.hall)));
        QCOMPARE(h.shown(id)->x, before->x);
        h.fold(true);
        QVERIFY(!h.shown(id));
        QVERIFY(h.take(edit::setNoteGroup(h.network, h.sheet, id, {})));
        QVERIFY(h.shown(id));
        QVERIFY(!edit::setNoteGroup(h.network, h.sheet, id, GroupId{77}));
        QVERIFY(!edit::setNoteGroup(h.network, h.sheet, NoteId{77}, h.hall));
    }
    void ungrouping_leaves_it_to_whoever_is_around() {
        House h;
        const NoteId id = h.note({40, 200});
        const auto before = h.shown(id);
        QVERIFY(h.take(edit::removeObjects(h.network, {refTo(h.hall)})));
        QCOMPARE(h.network.note(id)->group, GroupId{});
        QCOMPARE(h.shown(id)->x, before->x);
    }
    void a_zone_of_a_group_is_as_large_as_it_is_made() {
        House h;
        const auto act =
            edit::makeGroup(h.network, h.sheet, "Store", GroupKind::room, {refTo(h.other)}, {}, h.ids);
        QVERIFY(h.take(act));
        const GroupId store = h.network.device(h.other)->group;
        const auto added = edit::addZone(h.network, h.sheet, {30, 180}, 120, 80, "Cold", h.ids);
        QVERIFY(h.take(added));
        const NoteId zone{added->subjects.front().id};
        QCOMPARE(h.network.note(zone)->group, h.hall);
        QVERIFY(h.take(edit::setFolded(h.network, h.sheet, {store}, true))); // something is cut out now
        const scene::PointF at = *h.shown(zone);
        QVERIFY(h.take(edit::setZoneFrame(h.network, h.sheet, zone,
                                          {static_cast<int>(at.x) + 10, static_cast<int>(at.y)}, 200, 90)));
        const auto now = h.scene();
        const scene::Rect frame = now.item(refTo(zone))->as<scene::NoteCard>()->frame;
        QCOMPARE(frame.w, 200.0);
        QCOMPARE(frame.h, 90.0);
        QCOMPARE(frame.x, at.x + 10);
    }
    void arranging_takes_it_along_with_its_group() {
        House h;
        h.move(refTo(h.hall), {2'000, 700});
        const NoteId mine = h.note({2'040, 900}), sheets = h.note({40, 1'900});
        const auto frame = [&] { return h.scene().frame(h.hall)->frame; };
        const scene::Rect before = frame();
        const scene::PointF was = *h.shown(mine);
        edit::ArrangeWish wish;
        wish.style = layout::Style::row;
        QVERIFY(h.take(edit::arrange(h.network, h.sheet, wish)));
        QVERIFY(frame().x != before.x || frame().y != before.y);
        const scene::PointF now = *h.shown(mine);
        QVERIFY(std::abs((now.x - frame().x) - (was.x - before.x)) <= 1);
        QCOMPARE(h.network.position(h.sheet, sheets.value)->at, (Point{40, 1'900}));
    }
    void arranging_one_of_its_group_leaves_it() {
        House h;
        const NoteId mine = h.note({40, 200});
        const auto before = h.network.position(h.sheet, mine.value)->at;
        const DeviceId third = h.add("access-switch-24", "third", {320, 320}); // lies on two
        QVERIFY(h.take(edit::putInto(h.network, {refTo(third)}, h.hall)));
        edit::ArrangeWish wish;
        wish.style = layout::Style::row;
        wish.only = {h.two, third};
        const Network was = h.network;
        QVERIFY(h.take(edit::arrange(h.network, h.sheet, wish)));
        QVERIFY(h.network.position(h.sheet, h.two.value)->at != was.position(h.sheet, h.two.value)->at ||
                h.network.position(h.sheet, third.value)->at != was.position(h.sheet, third.value)->at);
        QCOMPARE(h.network.position(h.sheet, mine.value)->at, before); // the corner is the first one's
    }
    void it_goes_with_the_group_and_all_that_is_in_it() {
        House h;
        const NoteId mine = h.note({40, 200}), sheets = h.note({40, 900});
        QVERIFY(h.take(edit::removeWithMembers(h.network, {refTo(h.hall)})));
        QVERIFY(!h.network.note(mine));
        QVERIFY(h.network.note(sheets));
    }
    /// An edit of the group brings its notes along in the scene that is followed, too.
    void a_scene_that_is_followed_shows_it_as_one_made_anew() {
        House h;
        const NoteId id = h.note({40, 200});
        scene::Scene followed = h.scene();
        Network before = h.network;
        const auto follow = [&] {
            followed = scene::update(followed, before, h.network).scene;
            before = h.network;
            const scene::Scene anew = h.scene();
            const auto *one = followed.item(refTo(id)), *two = anew.item(refTo(id));
            return (one == nullptr) == (two == nullptr) &&
                   (!one || one->as<scene::NoteCard>()->frame == two->as<scene::NoteCard>()->frame);
        };
        h.move(refTo(h.two), {200, 100});
        QVERIFY(follow());
        h.fold(true);
        QVERIFY(follow());
        h.move(refTo(h.other), {-400, 0});
        QVERIFY(follow());
        h.fold(false);
        QVERIFY(follow());
        h.move(refTo(h.hall), {77, 13});
        QVERIFY(follow());
    }
};

UNDERRIDGE_TEST(GroupNotesTest)
#include "group_notes_test.moc"
