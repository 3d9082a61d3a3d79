// SPDX-License-Identifier: GPL-3.0-or-later
// Devices that come to a drawing are put where there is room by what they are linked to, and
// nothing else moves.
#include "core/edit/arranging.h"
#include "core/edit/fitting_in.h"
#include "core/edit/groups.h"
#include "core/edit/patterns.h"
#include "core/layout/drawn.h"
#include "core/scene/plates.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using scene::Rect;

namespace {

/// Switches on a redundant pair with their endpoints, arranged.
struct Drawn : tests::Workbench {
    explicit Drawn(int endpoints = 3) {
        edit::Pattern pattern;
        pattern.shape = edit::PatternShape::dualHomed;
        pattern.endpoints = endpoints;
        take(edit::addPattern(network, catalogue, sheet, pattern, ids));
        network.all<Device>().forEach([&](const Device& device) { before.push_back(device.id); });
    }
    DeviceId named(const std::string& name) const {
        DeviceId found;
        network.all<Device>().forEach([&](const Device& device) {
            if (device.name == name)
                found = device.id;
        });
        return found;
    }
    /// Far away, linked to a device of the drawing.
    DeviceId come(const char* model, const char* name, const std::vector<std::string>& to) {
        const DeviceId id = add(model, name, {4000, 4000});
        for (const std::string& each : to)
            link({id, {}}, {named(each), {}});
        return id;
    }
    Rect frame(DeviceId id) const { return scene::plateOf(network, sheet, *network.device(id))->frame; }
    bool fit(const std::vector<DeviceId>& devices) { return take(edit::fitIn(network, sheet, devices)); }
    layout::DrawnMeasures measures() const { return layout::measured(scene::Scene::build(network, sheet)); }

    std::vector<DeviceId> before;
};

} // namespace

class FittingInTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void an_endpoint_comes_by_its_switch_and_nothing_else_moves() {
        Drawn d;
        const DeviceId fresh = d.come("phone", "late", {"acc-2"});
        std::map<DeviceId, Point> stood;
        for (const DeviceId id : d.before)
            stood[id] = d.network.position(d.sheet, id.value)->at;
        QVERIFY(d.fit({fresh}));
        for (const auto& [id, at] : stood)
            QCOMPARE(d.network.position(d.sheet, id.value)->at, at);
        const double far = scene::length(d.frame(fresh).centre() - d.frame(d.named("acc-2")).centre());
        QVERIFY2(far < 420, qPrintable(QString::number(far)));
        QVERIFY(d.frame(fresh).y > d.frame(d.named("acc-2")).y); // below what it hangs on
        QCOMPARE(d.measures().overlaps, std::size_t{0});
    }
    void what_is_nearer_to_the_provider_comes_above() {
        Drawn d;
        const DeviceId router = d.come("border-router", "late", {"dist-1", "dist-2"});
        QVERIFY(d.fit({router}));
        QVERIFY(d.frame(router).bottom() < d.frame(d.named("dist-1")).y);
    }
    void many_at_once_have_room_beside_one_another() {
        Drawn d(2);
        std::vector<DeviceId> fresh;
        for (int i = 0; i < 12; ++i)
            fresh.push_back(d.come("phone", ("p" + std::to_string(i)).c_str(), {"acc-1"}));
        QVERIFY(d.fit(fresh));
        QCOMPARE(d.measures().overlaps, std::size_t{0});
        for (const DeviceId id : fresh)
            QVERIFY(d.frame(id).x < 3000);
    }
    void what_hangs_on_what_comes_follows_it() {
        Drawn d;
        const DeviceId sw = d.come("access-switch-24", "late", {"dist-1"});
        const DeviceId phone = d.add("phone", "later", {5000, 5000});
        d.link({phone, {}}, {sw, {}});
        QVERIFY(d.fit({phone, sw})); // whatever the order
        QVERIFY(scene::length(d.frame(phone).centre() - d.frame(sw).centre()) < 420);
        QCOMPARE(d.measures().overlaps, std::size_t{0});
    }
    void what_is_linked_to_nothing_stays() {
        Drawn d;
        const DeviceId loose = d.add("server", "loose", {4000, 4000});
        const Network before = d.network;
        (void)d.fit({loose});
        QVERIFY(d.network == before);
    }
    void what_is_pinned_stays() {
        Drawn d;
        const DeviceId fresh = d.come("phone", "late", {"acc-2"});
        Position pinned = *d.network.position(d.sheet, fresh.value);
        pinned.pinned = true;
        d.network.put(pinned);
        const Network before = d.network;
        (void)d.fit({fresh});
        QVERIFY(d.network == before);
    }
    void nobody_comes_into_a_group_that_is_not_theirs() {
        Drawn d;
        edit::Refs members;
        for (const DeviceId id : d.before)
            members.push_back(refTo(id));
        QVERIFY(d.take(edit::makeGroup(d.network, d.sheet, "Hall", GroupKind::room, members, {}, d.ids)));
        const DeviceId fresh = d.come("phone", "late", {"acc-2"});
        QVERIFY(d.fit({fresh}));
        QCOMPARE(d.measures().groupIntrusions, std::size_t{0});
    }
    void sheets_to_scale_and_strangers_are_refused() {
        Drawn d;
        const DeviceId off = d.add("phone", "off");
        d.network.erase<Position>({d.sheet.value, off.value});
        const auto act = edit::fitIn(d.network, d.sheet, {off});
        QVERIFY(!act && !act.refusal().remedy.empty());
        Sheet plan = *d.network.sheet(d.sheet);
        plan.mmPerUnit = 20;
        d.network.put(plan);
        QVERIFY(!edit::fitIn(d.network, d.sheet, {d.before.front()}));
    }
    void what_a_file_brings_without_places_comes_by_what_it_is_linked_to() {
        Drawn d;
        const DeviceId fresh = d.come("phone", "late", {"acc-3"});
        const DeviceId loose = d.add("server", "loose");
        for (const DeviceId id : {fresh, loose})
            d.network.erase<Position>({d.sheet.value, id.value});
        edit::putDown(d.network, d.sheet, {fresh, loose});
        QVERIFY(scene::length(d.frame(fresh).centre() - d.frame(d.named("acc-3")).centre()) < 420);
        double lowest = 0;
        for (const DeviceId id : d.before)
            lowest = std::max(lowest, d.frame(id).bottom());
        QVERIFY(d.frame(loose).y > lowest);
        QCOMPARE(d.measures().overlaps, std::size_t{0});
    }
};

UNDERRIDGE_TEST(FittingInTest)
#include "fitting_in_test.moc"
