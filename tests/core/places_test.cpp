// SPDX-License-Identifier: GPL-3.0-or-later
// What lies in what: the tree of groups against its definition, room in racks against every unit tried, and
// the words and widths both are written with.
#include "core/model/group_tree.h"
#include "core/model/racks.h"
#include "core/model/standing.h"
#include "core/model/words.h"
#include "core/scene/text_width.h"
#include "tests/support/grouped.h"
#include "tests/support/registered.h"

#include <random>
#include <set>

using namespace underridge;
using namespace underridge::model;
using scene::Weight;
using tests::text;

namespace {

/// Groups in groups at random, with devices in some of them.
struct Tree : tests::Grouped {
    explicit Tree(unsigned seed) : Grouped(seed) {
        for (int i = 0; i < 14; ++i) {
            const GroupId in = groups.empty() || below(4) == 0 ? GroupId{} : any(groups);
            groups.push_back(group(("g" + std::to_string(i)).c_str(), GroupKind::cluster, in));
        }
        for (int i = 0; i < 20; ++i) {
            const DeviceId id = add("phone");
            if (below(5) > 0)
                join(id, any(groups));
            devices.push_back(id);
        }
    }
    GroupId parent(GroupId id) const { return network.group(id)->parent; }
};

/// Something of a height that stands on a unit.
Mounted mounted(std::uint64_t id, int unit, int height, Side side = Side::front) {
    Mounted out;
    out.device = {id};
    out.unit = unit;
    out.height = height;
    out.side = side;
    return out;
}

template <class E>
QString wrongWithWords() {
    std::set<std::string_view> texts;
    int at = 0;
    for (const auto& word : wordsOf(E{})) {
        if (static_cast<int>(word.value) != at++)
            return QStringLiteral("out of order");
        if (word.text.empty() || word.title.empty() || !texts.insert(word.text).second)
            return QStringLiteral("empty, or twice: ") + text(std::string(word.text));
        if (word.text.find_first_of(" \t\",") != std::string_view::npos)
            return QStringLiteral("not one word: ") + text(std::string(word.text));
        if (fromText<E>(word.text) != word.value || textOf(word.value) != word.text)
            return QStringLiteral("does not come back: ") + text(std::string(word.text));
    }
    if (fromText<E>("no such word") || fromText<E>(""))
        return QStringLiteral("something for nothing");
    return at > 1 ? QString() : QStringLiteral("fewer than two");
}

} // namespace

class PlacesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // --- groups -----------------------------------------------------------------------------

    void upwards_is_parent_after_parent() {
        for (unsigned seed = 1; seed <= 8; ++seed) {
            const Tree tree(seed);
            for (const GroupId group : tree.groups) {
                const auto up = upwards(tree.network, group);
                QCOMPARE(up.front(), group);
                for (std::size_t i = 0; i < up.size(); ++i)
                    QCOMPARE(tree.parent(up[i]), i + 1 < up.size() ? up[i + 1] : GroupId{});
                for (const GroupId other : tree.groups)
                    QCOMPARE(isWithin(tree.network, group, other),
                             std::find(up.begin(), up.end(), other) != up.end());
            }
            QVERIFY(upwards(tree.network, {}).empty());
        }
    }
    void what_lies_within_is_whatever_has_the_group_above_it() {
        for (unsigned seed = 1; seed <= 8; ++seed) {
            const Tree tree(seed);
            for (const GroupId group : tree.groups) {
                const auto groups = groupsWithin(tree.network, group);
                std::set<GroupId> seen{group};
                for (const GroupId each : groups) { // outer ones first, each once
                    QVERIFY(seen.contains(tree.parent(each)));
                    QVERIFY(seen.insert(each).second);
                }
                std::vector<DeviceId> devices;
                for (const DeviceId id : tree.devices)
                    if (isWithin(tree.network, tree.network.device(id)->group, group))
                        devices.push_back(id);
                std::sort(devices.begin(), devices.end());
                QVERIFY(devicesWithin(tree.network, group) == devices);
                for (const GroupId other : tree.groups)
                    QCOMPARE(seen.contains(other), isWithin(tree.network, other, group));
            }
            QCOMPARE(devicesWithin(tree.network, {}).size(), tree.devices.size());
            QCOMPARE(groupsWithin(tree.network, {}).size(), tree.groups.size());
        }
    }
    void the_common_group_is_the_innermost_that_both_are_in() {
        const Tree tree(3);
        for (const GroupId a : tree.groups)
            for (const GroupId b : tree.groups) {
                const GroupId common = commonGroup(tree.network, a, b);
                QCOMPARE(commonGroup(tree.network, b, a), common);
                for (const GroupId each : tree.groups)
                    if (isWithin(tree.network, a, each) && isWithin(tree.network, b, each))
                        QVERIFY(isWithin(tree.network, common, each));
                if (common)
                    QVERIFY(isWithin(tree.network, a, common) && isWithin(tree.network, b, common));
            }
        QCOMPARE(commonGroup(tree.network, tree.groups.front(), {}), GroupId{});
    }
    void a_path_names_the_groups_from_outside() {
        tests::Workbench b;
        const GroupId site = b.group("Fennick Quay", GroupKind::site),
                      house = b.group("Terminal building", GroupKind::building, site),
                      floor = b.group("Concourse", GroupKind::floor, house);
        QCOMPARE(pathText(b.network, floor), std::string("Fennick Quay/Terminal building/Concourse"));
        QCOMPARE(pathText(b.network, site), std::string("Fennick Quay"));
        QVERIFY(pathText(b.network, {}).empty());
        QCOMPARE(groupAbove(b.network, b.network.group(floor), GroupKind::site), b.network.group(site));
        QCOMPARE(groupAbove(b.network, b.network.group(floor), GroupKind::floor), b.network.group(floor));
        QVERIFY(!groupAbove(b.network, b.network.group(floor), GroupKind::rack));
    }
    void parents_in_a_circle_come_to_an_end() {
        tests::Workbench b;
        const GroupId one = b.group("one", GroupKind::cluster), two = b.group("two", GroupKind::cluster, one);
        b.shape(one, [&](Group& group) { group.parent = two; });
        QVERIFY(upwards(b.network, one).size() <= 2);
        QCOMPARE(groupsWithin(b.network, one).size(), std::size_t{1});
        QVERIFY(!pathText(b.network, two).empty());
    }

    // --- racks ------------------------------------------------------------------------------

    void what_shares_no_unit_is_not_in_the_way_and_what_does_is() {
        for (int a = 1; a <= 6; ++a)
            for (int b = 1; b <= 6; ++b)
                for (int high = 1; high <= 3; ++high) {
                    const Mounted one = mounted(1, a, high), two = mounted(2, b, 2);
                    const bool share = a <= b + 1 && b <= a + high - 1;
                    QCOMPARE(collide(one, two, 600), share);
                    QCOMPARE(collide(two, one, 600), share);
                }
        QVERIFY(!collide(mounted(1, 0, 1), mounted(2, 1, 2), 600)); // nobody said where
    }
    void back_to_back_there_is_room_where_both_are_not_too_deep() {
        Mounted front = mounted(1, 4, 1), rear = mounted(2, 4, 1, Side::rear);
        front.depthMm = 300;
        rear.depthMm = 250;
        QVERIFY(!collide(front, rear, 600));
        QVERIFY(!collide(front, rear, 550)); // just
        QVERIFY(collide(front, rear, 549));
        QVERIFY(!collide(front, rear, 0)); // not known
        rear.depthMm = 0;
        QVERIFY(!collide(front, rear, 300));
    }
    void halves_stand_beside_one_another() {
        Mounted left = mounted(1, 4, 1), right = mounted(2, 4, 1);
        left.halfWide = right.halfWide = true;
        QVERIFY(collide(left, right, 600)); // both left
        right.half = Half::right;
        QVERIFY(!collide(left, right, 600));
        right.halfWide = false; // whole, it reaches over both
        QVERIFY(collide(left, right, 600));
    }
    void the_nearest_room_is_the_nearest_of_all_units_that_are_free() {
        std::mt19937 random(9);
        for (int round = 0; round < 30; ++round) {
            tests::Workbench b;
            const GroupId rack = b.group("R1", GroupKind::rack);
            b.shape(rack, [&](Group& group) { group.rackUnits = 12; });
            for (int i = 0; i < 5; ++i) {
                const int unit = 1 + static_cast<int>(random() % 12);
                const DeviceId id = b.add("access-switch-24");
                if (!inTheWay(b.network, rack, mounted(id.value, unit, 1)))
                    b.place(id, {rack, 0, 0, 0, unit, Side::front, Half::left});
            }
            const RackUse use = useOf(b.network, *b.network.group(rack));
            QCOMPARE(use.used, static_cast<int>(mountedIn(b.network, rack).size()));
            QCOMPARE(use.free(), 12 - use.used);
            for (int high = 1; high <= 4; ++high)
                for (int wanted = 1; wanted <= 12; ++wanted) {
                    const Mounted what = mounted(999, wanted, high);
                    const auto found = nearestRoom(b.network, rack, what);
                    QCOMPARE(found.has_value(), use.largestGap >= high);
                    for (int unit = 1; unit + high - 1 <= 12; ++unit)
                        if (!inTheWay(b.network, rack, mounted(999, unit, high)))
                            QVERIFY(found && std::abs(*found - wanted) <= std::abs(unit - wanted));
                    if (found)
                        QVERIFY(*found >= 1 && *found + high - 1 <= 12 &&
                                !inTheWay(b.network, rack, mounted(999, *found, high)));
                }
        }
    }

    // --- words and widths ---------------------------------------------------------------------

    void every_word_comes_back_and_none_is_there_twice() {
        QCOMPARE(wrongWithWords<Kind>(), QString());
        QCOMPARE(wrongWithWords<Role>(), QString());
        QCOMPARE(wrongWithWords<Medium>(), QString());
        QCOMPARE(wrongWithWords<Connector>(), QString());
        QCOMPARE(wrongWithWords<Cage>(), QString());
        QCOMPARE(wrongWithWords<GroupKind>(), QString());
        QCOMPARE(wrongWithWords<CableStatus>(), QString());
        QCOMPARE(wrongWithWords<InterfaceKind>(), QString());
        QCOMPARE(wrongWithWords<RingProtocol>(), QString());
        QCOMPARE(wrongWithWords<OspfNetwork>(), QString());
        QCOMPARE(wrongWithWords<Protocol>(), QString());
        QCOMPARE(wrongWithWords<RouteOrigin>(), QString());
        QCOMPARE(wrongWithWords<SheetLayer>(), QString());
        QCOMPARE(wrongWithWords<LineStyle>(), QString());
        for (const auto& role : wordsOf(Role{}))
            QVERIFY(!pluralOf(role.value).empty() && pluralOf(role.value) != role.title);
        for (const auto& kind : wordsOf(GroupKind{}))
            QVERIFY(!pluralOf(kind.value).empty());
    }
    void text_is_cut_to_its_room_and_only_where_it_has_to_be() {
        const std::string name = "Distribution switch in the cellar, ÄÖÜ €";
        const double whole = scene::textWidth(name, 12, Weight::regular);
        QCOMPARE(scene::elided(name, 12, Weight::regular, whole), name);
        for (double room = whole - 1; room > 0; room -= 7) {
            const std::string cut = scene::elided(name, 12, Weight::regular, room);
            QVERIFY(cut.ends_with("…"));
            QVERIFY(name.starts_with(cut.substr(0, cut.size() - std::string("…").size())));
            QVERIFY(cut == "…" || scene::textWidth(cut, 12, Weight::regular) <= room);
        }
        QVERIFY(scene::textWidth("switch", 12, Weight::semiBold) >
                scene::textWidth("switch", 12, Weight::regular));
        QCOMPARE(scene::textWidth("switch", 24, Weight::regular),
                 2 * scene::textWidth("switch", 12, Weight::regular));
        QCOMPARE(scene::textWidth("", 12, Weight::regular), 0.0);
    }
};

UNDERRIDGE_TEST(PlacesTest)
#include "places_test.moc"
