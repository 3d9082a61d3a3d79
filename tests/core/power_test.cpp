// SPDX-License-Identifier: GPL-3.0-or-later
// Mains power: feeds, load by source, what goes dark without what.
#include "core/edit/objects.h"
#include "core/edit/power.h"
#include "core/linking/rules.h"
#include "core/linking/running_check.h"
#include "core/model/racks.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <random>

using namespace underridge;
using namespace underridge::model;
using tests::text;

namespace {

/// A rack with two PDUs, a UPS before the first, and what is to be fed.
struct Comms : tests::Workbench {
    Comms() {
        rack = group("R1", GroupKind::rack,
                     group("Ground", GroupKind::floor, group("House", GroupKind::building)));
        shape(rack, [](Group& g) { g.rackUnits = 42; });
        ups = stand("ups", "ups-1", 1);
        pduA = stand("pdu", "pdu-a", 4);
        pduB = stand("pdu", "pdu-b", 5);
        core = stand("core-switch-modular", "core-1", 10);
        server = stand("server", "srv", 20);
        feed(ups, "P1", {{}, "A"});
        feed(pduA, "P1", {ups, {}}, "O1");
        feed(pduB, "P1", {{}, "B"});
    }
    DeviceId stand(const char* model, const char* name, int unit) {
        const DeviceId id = add(model, name);
        place(id, {rack, 0, 0, 0, unit, Side::front});
        return id;
    }
    QString feed(DeviceId device, const char* supply, const PowerSource& source, const char* outlet = "") {
        const auto act = edit::feedSupply(network, device, supply, source, outlet);
        take(act);
        return act ? QString() : text(act.refusal().what);
    }
    QStringList found() {
        QStringList out;
        for (const auto& finding : linking::check(network, catalogue))
            if (finding.rule->code.starts_with("feed-"))
                out << text(std::string(finding.rule->code) + ": " + finding.message);
        return out;
    }
    QStringList names(const std::vector<DeviceId>& devices) {
        QStringList out;
        for (const DeviceId id : devices)
            out << text(network.device(id)->name);
        out.sort();
        return out;
    }

    GroupId rack;
    DeviceId ups, pduA, pduB, core, server;
};

} // namespace

class PowerTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void supplies_are_the_inlets_or_one_of_what_is_in_a_rack() {
        Comms c;
        const auto supplies = [&](DeviceId id) { return suppliesOf(c.network, *c.network.device(id)); };
        QCOMPARE(supplies(c.core), (std::vector<std::string>{"P1", "P2"}));
        QCOMPARE(supplies(c.server), (std::vector<std::string>{"supply"}));
        QVERIFY(supplies(c.add("patch-panel-24")).empty());
        QVERIFY(supplies(c.add("phone")).empty());
        QCOMPARE(outletsOf(c.network, *c.network.device(c.pduA)).size(), std::size_t(8));
    }
    void all_supplies_are_fed_apart_in_one_step() {
        Comms c;
        const auto act = edit::feedAll(c.network, {c.core, c.server, c.pduA});
        QCOMPARE(text(act->name), QString("Feed 3 supplies"));
        c.take(act);
        const auto& feeds = c.network.device(c.core)->feeds;
        QCOMPARE(feeds.size(), std::size_t(2));
        QCOMPARE((std::set<DeviceId>{feeds[0].from, feeds[1].from}), (std::set<DeviceId>{c.pduA, c.pduB}));
        const PowerTree tree(c.network);
        QVERIFY(tree.needs(c.core).empty());
        QVERIFY(c.found().isEmpty());
        QVERIFY(!edit::feedAll(c.network, {c.core, c.server})); // all are
    }
    void many_are_fed_at_once_each_outlet_once() {
        Comms c;
        std::vector<DeviceId> devices;
        for (int i = 0; i < 12; ++i)
            devices.push_back(c.stand("server", ("s" + std::to_string(i)).c_str(), 21 + i));
        const auto act = edit::feedAll(c.network, devices);
        c.take(act);
        std::set<std::pair<DeviceId, std::string>> outlets;
        std::map<DeviceId, int> on;
        for (const DeviceId id : devices)
            for (const PowerFeed& feed : c.network.device(id)->feeds) {
                QVERIFY(outlets.insert({feed.from, feed.outlet}).second);
                ++on[feed.from];
            }
        QCOMPARE(outlets.size(), std::size_t(12));
        QVERIFY(std::abs(on[c.pduA] - on[c.pduB]) <= 4); // the less loaded one is taken
        for (const auto& finding : linking::check(c.network, c.catalogue))
            QVERIFY(finding.rule->code != "feed-outlet");
    }
    void both_supplies_on_one_source_are_found_however_far_up_it_is() {
        Comms c;
        QCOMPARE(c.feed(c.core, "P1", {c.pduA, {}}, "O1"), QString());
        QCOMPARE(c.feed(c.core, "P2", {c.ups, {}}, "O2"), QString());
        QCOMPARE(c.found(), QStringList("feed-single: core-1: without ups-1 all its supplies are dead"));
        QCOMPARE(c.feed(c.core, "P2", {c.pduB, {}}, "O1"), QString());
        QVERIFY(c.found().isEmpty());
    }
    void a_cord_is_laid_with_the_feed_and_goes_with_it() {
        Comms c;
        c.take(edit::withCords(edit::feedSupply(c.network, c.server, "supply", {c.pduA, {}}, "O4"), c.network,
                               c.catalogue, c.ids));
        const auto cordOf = [&](DeviceId id) {
            return c.network.cable(c.network.device(id)->feeds.front().cable);
        };
        const Cable* cord = cordOf(c.server);
        QVERIFY(cord);
        QCOMPARE(text(c.network.typeOf(*cord)->name), QString("C14 to C13 mains cord, 10 A"));
        QCOMPARE(cord->ends.front().at, (PortRef{c.pduA, "O4"}));
        QCOMPARE(cord->ends.back().at, (PortRef{c.server, {}})); // no port of its model
        QVERIFY(cord->lengthMm >= 500); // by the units they stand in, as long as it can be had
        const CableId first = cord->id;
        // The same outlet once more keeps it, another takes a new one, none takes it away.
        c.feed(c.server, "supply", {c.pduA, {}}, "O4");
        QCOMPARE(cordOf(c.server)->id, first);
        c.feed(c.server, "supply", {c.pduA, {}}, "O5");
        QVERIFY(!cordOf(c.server));
        QVERIFY(!c.network.cable(first));
        c.take(edit::withCords(edit::feedSupply(c.network, c.server, "supply", {c.pduB, {}}, "O1"), c.network,
                               c.catalogue, c.ids));
        QCOMPARE(c.network.all<Cable>().size(), std::size_t(1));
        c.take(edit::removeObjects(c.network, {refTo(c.pduB)}));
        QVERIFY(c.network.all<Cable>().empty());
        QVERIFY(c.network.device(c.server)->feeds.empty());
        // All at once each gets its own; one that was taken away stays away.
        c.take(edit::feedSupply(c.network, c.core, "P1", {}, {}));
        const DeviceId big = c.stand("pdu", "pdu-c", 7);
        c.feed(big, "P1", {{}, "B"});
        c.take(edit::withCords(edit::feedAll(c.network, {c.core}), c.network, c.catalogue, c.ids));
        const auto& feeds = c.network.device(c.core)->feeds;
        QCOMPARE(feeds.size(), std::size_t(2));
        QVERIFY(feeds[0].cable && feeds[1].cable && feeds[0].cable != feeds[1].cable);
        c.take(edit::setCord(c.network, c.catalogue, c.core, "P1", {}, c.ids));
        const PowerFeed two = c.network.device(c.core)->feeds[1];
        c.take(edit::withCords(edit::feedSupply(c.network, c.core, "P2", {two.from, {}}, two.outlet),
                               c.network, c.catalogue, c.ids));
        QVERIFY(!c.network.device(c.core)->feeds[0].cable);
        QVERIFY(c.network.device(c.core)->feeds[1].cable);
        c.take(edit::removeObjects(c.network, {refTo(c.core), refTo(big)}));
        // A mains feed has no cord of ours.
        const auto fed = edit::withCords(edit::feedSupply(c.network, c.server, "supply", {{}, "B"}, {}),
                                         c.network, c.catalogue, c.ids);
        QVERIFY(fed->network.all<Cable>().empty());
        QVERIFY(!edit::setCord(fed->network, c.catalogue, c.server, "supply", "mains-c14-c13", c.ids));
    }
    void a_cord_has_the_plugs_of_both_and_carries_what_hangs_on_it() {
        Comms c;
        const DeviceId big = c.stand("pdu-16a", "pdu-16", 7);
        QCOMPARE(suppliesOf(c.network, *c.network.device(big)),
                 std::vector<std::string>{"P1"});                                      // a C20 inlet
        QCOMPARE(outletsOf(c.network, *c.network.device(big)).size(), std::size_t(8)); // C13 and C19
        c.take(edit::withCords(edit::feedSupply(c.network, c.server, "supply", {big, {}}, "O7"), c.network,
                               c.catalogue, c.ids));
        QCOMPARE(c.network.cable(c.network.device(c.server)->feeds.front().cable)->type,
                 std::string("mains-c20-c13"));
        QVERIFY(c.found().isEmpty());
        c.take(edit::setCord(c.network, c.catalogue, c.server, "supply", "mains-c20-c19", c.ids));
        QVERIFY(c.found().isEmpty()); // its inlet is not known, so it is not told of
        c.feed(c.core, "P1", {big, {}}, "O8");
        c.take(edit::setCord(c.network, c.catalogue, c.core, "P1", "mains-c14-c13", c.ids));
        QCOMPARE(c.found(),
                 QStringList("feed-cord: core-1 P1 at pdu-16 O8: C14 to C13 mains cord, 10 A does not go "
                             "into both"));
        c.take(edit::setCord(c.network, c.catalogue, c.core, "P1", "mains-c20-c13", c.ids));
        QVERIFY(c.found().isEmpty());
        c.take(edit::setDraw(c.network, c.core, 2'400));
        QCOMPARE(c.found(),
                 QStringList("feed-cord: core-1 P1: 2400 W may go over C20 to C13 mains cord, 10 A, which "
                             "carries 2300 W at 230 V"));
        c.take(edit::setCord(c.network, c.catalogue, c.core, "P1", {}, c.ids));
        QVERIFY(c.found().isEmpty());
        QVERIFY(!edit::setCord(c.network, c.catalogue, c.core, "P1", "cat6a", c.ids));
        QVERIFY(!edit::setCord(c.network, c.catalogue, c.core, "P2", "mains-c14-c13", c.ids));
    }
    void what_goes_dark_and_what_becomes_weaker() {
        Comms c;
        c.take(edit::feedAll(c.network, {c.core}));
        c.feed(c.server, "supply", {c.pduA, {}}, "O8");
        const PowerTree tree(c.network);
        QCOMPARE(c.names(tree.darkWithout({{}, "A"})), QStringList({"pdu-a", "srv", "ups-1"}));
        QCOMPARE(c.names(tree.weakerWithout({{}, "A"})), QStringList({"core-1"}));
        QCOMPARE(c.names(tree.darkWithout({{}, "B"})), QStringList({"pdu-b"}));
    }
    void load_is_shared_and_counted_whole_when_others_fail() {
        Comms c;
        c.take(edit::setDraw(c.network, c.core, 1'000));
        c.take(edit::setDraw(c.network, c.server, 300));
        c.take(edit::feedAll(c.network, {c.core}));
        c.feed(c.server, "supply", {c.pduA, {}}, "O8");
        const PowerTree tree(c.network);
        QCOMPARE(tree.loadOf({c.pduA, {}}).watts, 800.0);
        QCOMPARE(tree.loadOf({c.pduA, {}}).worstWatts, 1'300.0);
        QCOMPARE(tree.loadOf({c.ups, {}}).watts, 800.0); // it passes on what hangs on the PDU
        QCOMPARE(tree.loadOf({{}, "B"}).watts, 500.0);
        QVERIFY(c.found().isEmpty());
        c.take(edit::setDraw(c.network, c.core, 2'100));
        QCOMPARE(c.found(),
                 QStringList("feed-overload: pdu-a: 2400 W hang on it when other feeds fail, it can "
                             "carry 2300 W"));
        c.take(edit::setDraw(c.network, c.server, 2'000));
        QVERIFY(c.found().join(' ').contains("pdu-a: 3050 W hang on it, it can carry 2300 W"));
        QVERIFY(c.found().join(' ').contains("ups-1: 3050 W"));
        QCOMPARE(useOf(c.network, *c.network.group(c.rack)).watts, 4'100);
        QVERIFY(useOf(c.network, *c.network.group(c.rack)).kg > 60);
    }
    void what_cannot_be_is_refused() {
        Comms c;
        QVERIFY(c.feed(c.core, "P3", {{}, "A"}).contains("no supply P3"));
        QVERIFY(c.feed(c.core, "P1", {c.pduA, {}}, "O9").contains("no outlet O9"));
        QVERIFY(c.feed(c.ups, "P1", {c.pduA, {}}, "O2").contains("feed itself"));
        QVERIFY(c.feed(c.core, "P1", {c.pduA, {}}, "O3").isEmpty());
        QVERIFY(c.feed(c.core, "P1", {c.pduA, {}}, "O3").isEmpty()); // as it is
        QVERIFY(c.feed(c.server, "supply", {c.pduA, {}}, "O3").contains("feeds another supply"));
        QVERIFY(!edit::setDraw(c.network, c.core, -1));
        QVERIFY(!edit::setDraw(c.network, c.core, 200'000));
        QVERIFY(c.feed(c.core, "P1", {}).isEmpty());
        QVERIFY(c.network.device(c.core)->feeds.empty());
    }
    void files_that_say_what_cannot_be_are_found_out() {
        Comms c;
        Device ups = *c.network.device(c.ups);
        ups.feeds = {{"P1", c.pduA, "O5", {}, {}}};
        c.network.put(ups);
        QVERIFY(c.found().join(' ').contains("feed-circle"));
        Device server = *c.network.device(c.server);
        server.feeds = {{"supply", c.ups, "O1", {}, {}}}; // where the PDU hangs
        c.network.put(server);
        QVERIFY(c.found().join(' ').contains("ups-1 O1 feeds"));
        server.feeds = {{"supply", c.ups, "O77", {}, {}}};
        c.network.put(server);
        QVERIFY(c.found().join(' ').contains("which is not there"));
    }
    void a_source_that_is_deleted_feeds_nobody_and_a_copy_is_not_fed() {
        Comms c;
        c.take(edit::feedAll(c.network, {c.core}));
        const auto copy = edit::duplicateObjects(c.network, c.sheet, {refTo(c.core)}, {40, 40}, c.ids);
        QVERIFY(copy->network.device({copy->subjects.front().id})->feeds.empty());
        const auto act = edit::removeObjects(c.network, {refTo(c.pduA)});
        QCOMPARE(act->network.device(c.core)->feeds.size(), std::size_t(1));
        QCOMPARE(act->network.device(c.core)->feeds.front().from, c.pduB);
    }
    void findings_kept_up_edit_by_edit_are_those_of_looking_anew() {
        Comms c;
        std::mt19937 engine(11);
        const auto below = [&](std::size_t n) { return engine() % n; };
        std::vector<DeviceId> sources{c.ups, c.pduA, c.pduB}, loads{c.core, c.server};
        linking::RunningCheck running;
        int seen = 0;
        std::vector<CableId> cords;
        for (const CableType& type : c.catalogue.cables)
            if (type.medium == Medium::mains || type.id == "cat6a") {
                Cable cord;
                cord.id = c.ids.make<CableId>();
                cord.type = type.id;
                c.network.put(type);
                c.network.put(cord);
                cords.push_back(cord.id);
            }
        for (int step = 0; step < 150; ++step) {
            if (below(5) == 0) { // of another type now
                Cable cord = *c.network.cable(cords[below(cords.size())]);
                cord.type = below(2) ? "mains-c14-c13" : "mains-c20-c19";
                c.network.put(cord);
            }
            Device device = *c.network.device(below(3) ? loads[below(loads.size())] : sources[below(3)]);
            switch (below(4)) {
            case 0:
                device.watts = static_cast<int>(below(2'500));
                break;
            case 1:
                device.feeds.clear();
                break;
            default: {
                const auto supplies = suppliesOf(c.network, device);
                PowerFeed feed{supplies[below(supplies.size())], {}, {}, "A", {}};
                if (below(4))
                    feed = {feed.supply, sources[below(3)], "O" + std::to_string(1 + below(9)), {}, {}};
                if (feed.from && below(2) && !cords.empty())
                    feed.cable = cords[below(cords.size())];
                std::erase_if(device.feeds, [&](const PowerFeed& f) { return f.supply == feed.supply; });
                device.feeds.push_back(feed);
            }
            }
            c.network.put(device);
            if (step % 20 == 19) {
                loads.push_back(c.stand("core-switch-modular", "more", 30));
                c.take(edit::feedAll(c.network, {loads.back()}));
            }
            running.update(c.network, c.catalogue);
            QCOMPARE(running.findings(), linking::check(c.network, c.catalogue));
            for (const auto& finding : running.findings())
                seen += finding.rule->code.starts_with("feed-");
            // What goes dark is what has no live feed once the source is gone, by trying it.
            const PowerTree tree(c.network);
            for (const PowerSource& source : tree.sources()) {
                std::set<DeviceId> open;
                const std::function<bool(DeviceId)> lives = [&](DeviceId id) {
                    const Device& d = *c.network.device(id);
                    if (source.device == id)
                        return false;
                    if (d.feeds.empty())
                        return true; // not said
                    if (!open.insert(id).second)
                        return false;
                    const bool live = std::any_of(d.feeds.begin(), d.feeds.end(), [&](const PowerFeed& feed) {
                        return feed.from ? feed.from != id && lives(feed.from) : feed.mains != source.mains;
                    });
                    open.erase(id);
                    return live;
                };
                const auto losses = tree.losses(); // in one pass what is told of each
                const auto loss = losses.find(source);
                QCOMPARE(loss == losses.end() ? std::vector<DeviceId>() : loss->second.dark,
                         tree.darkWithout(source));
                QCOMPARE(loss == losses.end() ? std::vector<DeviceId>() : loss->second.weaker,
                         tree.weakerWithout(source));
                bool circle = false;
                c.network.all<Device>().forEach([&](const Device& d) { circle |= tree.circles(d.id); });
                if (circle)
                    continue;
                for (const DeviceId id : loads)
                    if (!c.network.device(id)->feeds.empty()) {
                        const auto dark = tree.darkWithout(source);
                        QCOMPARE(std::find(dark.begin(), dark.end(), id) != dark.end(), !lives(id));
                    }
            }
        }
        QVERIFY(seen > 50);
    }
};

UNDERRIDGE_TEST(PowerTest)
#include "power_test.moc"
