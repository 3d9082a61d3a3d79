// SPDX-License-Identifier: GPL-3.0-or-later
// Nothing is proposed that would be found at fault: over made-up networks of devices,
// fittings, places and chains, whatever asks for a link.
#include "core/edit/fittings.h"
#include "core/edit/many.h"
#include "core/edit/remedies.h"
#include "core/linking/rules.h"
#include "core/linking/within.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <random>

using namespace underridge;
using namespace underridge::model;
using tests::text;

namespace {

using Messages = std::multiset<std::string>;

/// A building of one floor with devices here and there, panels wired to outlets, and
/// settings somebody made.
struct Town : tests::Workbench {
    explicit Town(unsigned seed) : random(seed) {
        const GroupId building = group("Depot", GroupKind::building);
        floor = group("Ground", GroupKind::floor, building);
        constexpr std::array sizes{30'000, 120'000, 900'000};
        size = sizes[random() % sizes.size()];
        for (int i = 0; i < 16; ++i)
            addOne();
        for (int i = 0; i < 4; ++i)
            wire();
    }

    int upTo(int most) { return static_cast<int>(random() % static_cast<unsigned>(most)); }
    void placeAnywhere(DeviceId id) { place(id, {floor, upTo(size), upTo(size), 0, 0, Side::front}); }

    void addOne() {
        const DeviceModel& model = catalogue.devices[random() % catalogue.devices.size()];
        if (model.ports.specs().empty())
            return;
        const DeviceId id = add(model.id);
        devices.push_back(id);
        if (upTo(10) > 0)
            placeAnywhere(id);
        for (const PortView& view : portsOf(network, *network.device(id))) {
            if (upTo(4) == 0 && view.like->cage != Cage::none) {
                const TransceiverModel& optics =
                    catalogue.transceivers[random() % catalogue.transceivers.size()];
                take(edit::fitTransceiver(network, catalogue, {id, view.key}, optics.id));
            }
            if (upTo(12) > 0)
                continue;
            port({id, view.key}, [&](Port& record) {
                switch (upTo(5)) {
                case 0:
                    record.speed =
                        view.like->rates.empty() ? 0 : view.like->rates[random() % view.like->rates.size()];
                    break;
                case 1:
                    record.duplex = upTo(2) == 0 ? Duplex::half : Duplex::full;
                    break;
                case 2:
                    record.fec = static_cast<Fec>(upTo(4));
                    break;
                case 3:
                    record.powerOff = true;
                    break;
                default:
                    record.disabled = true;
                }
            });
        }
    }

    /// A panel and an outlet with fixed cable between, or two fibre panels.
    void wire() {
        const bool copper = upTo(2) == 0;
        const DeviceId panel = add(copper ? "patch-panel-24" : "fibre-panel-12-os2"),
                       far = add(copper ? "outlet-2" : "fibre-panel-12-os2");
        for (const DeviceId id : {panel, far}) {
            placeAnywhere(id);
            devices.push_back(id);
        }
        if (auto pair = best({panel, "R1"}, {far, "R1"}))
            take(edit::makeLink(network, catalogue, *pair, ids));
    }

    Messages messages() const {
        Messages out;
        for (const auto& finding : linking::check(network, catalogue))
            if (finding.rule->code != "chain-open") // the rest of it is not made yet
                out.insert(finding.message);
        return out;
    }

    std::mt19937 random;
    GroupId floor;
    int size = 0;
    std::vector<DeviceId> devices;
};

/// What is found now and was not before.
std::string newOf(const Messages& before, const Messages& after) {
    std::string out;
    for (const std::string& message : after)
        if (!before.contains(message))
            out += message + "\n";
    return out;
}

} // namespace

class ProposalsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void the_best_pair_leaves_nothing_to_be_found() {
        int made = 0;
        for (unsigned seed = 1; seed <= static_cast<unsigned>(tests::tries(12)); ++seed) {
            Town town(seed);
            Messages before = town.messages();
            for (int i = 0; i < 40; ++i) {
                const DeviceId a = town.devices[town.random() % town.devices.size()],
                               b = town.devices[town.random() % town.devices.size()];
                const auto pair = town.best({a, {}}, {b, {}});
                if (!pair)
                    continue;
                QVERIFY(town.take(edit::makeLink(town.network, town.catalogue, *pair, town.ids)));
                Messages after = town.messages();
                const std::string fresh = newOf(before, after);
                QVERIFY2(fresh.empty(),
                         qPrintable(QString("seed %1, %2 to %3 by %4 %5 %6:\n%7")
                                        .arg(seed)
                                        .arg(text(portText(town.network, pair->a)),
                                             text(portText(town.network, pair->b)), text(pair->joint.cable),
                                             text(pair->joint.transceiverA), text(pair->joint.transceiverB),
                                             text(fresh))));
                before = std::move(after);
                ++made;
            }
        }
        QVERIFY2(made > tests::tries(80), qPrintable(QString::number(made)));
    }

    void the_drawers_best_leaves_nothing_to_be_found() {
        int made = 0;
        for (unsigned seed = 31; seed <= 40; ++seed) {
            Town town(seed);
            Messages before = town.messages();
            for (int i = 0; i < 20; ++i) {
                const DeviceId a = town.devices[town.random() % town.devices.size()],
                               b = town.devices[town.random() % town.devices.size()];
                if (a == b)
                    continue;
                const auto rows = linking::drawerRows(town.network, town.catalogue, {a, {}}, b);
                if (rows.empty() || !rows.front().best || rows.front().other.empty())
                    continue;
                const auto& row = rows.front();
                linking::Proposal proposal{{a, row.other}, {b, row.port}, row.joint, {}};
                proposal.supplyA = row.otherSupply;
                proposal.supplyB = row.supply;
                QVERIFY(town.take(edit::makeLink(town.network, town.catalogue, proposal, town.ids)));
                Messages after = town.messages();
                const std::string fresh = newOf(before, after);
                QVERIFY2(fresh.empty(),
                         qPrintable(QString("seed %1: %2 by %3\n%4")
                                        .arg(seed)
                                        .arg(text(row.text), text(row.joint.cable), text(fresh))));
                before = std::move(after);
                ++made;
            }
        }
        QVERIFY2(made > 40, qPrintable(QString::number(made)));
    }

    void assignments_leave_nothing_to_be_found() {
        int made = 0;
        for (unsigned seed = 61; seed <= 60 + static_cast<unsigned>(tests::tries(20)); ++seed) {
            Town town(seed);
            std::vector<DeviceId> devices, targets;
            for (const char* model :
                 {"access-switch-24", "distribution-switch-24", "midspan-8", "access-switch-48"})
                if (town.upTo(2) == 0) {
                    targets.push_back(town.add(model));
                    town.placeAnywhere(targets.back());
                }
            for (int i = 0; i < 40; ++i) {
                constexpr std::array models{"access-point", "camera",           "phone",
                                            "workstation",  "compact-switch-8", "server",
                                            "printer",      "sensor",           "access-switch-24"};
                devices.push_back(town.add(models[town.random() % models.size()]));
                if (town.upTo(8) > 0)
                    town.placeAnywhere(devices.back());
            }
            if (targets.empty())
                continue;
            const Messages before = town.messages();
            const auto many =
                edit::linkMany(town.network, town.catalogue, devices, targets, town.sheet, {}, {}, town.ids);
            town.network = many.act.network;
            made += many.linked();
            const std::string fresh = newOf(before, town.messages());
            QVERIFY2(fresh.empty(), qPrintable(QString("seed %1:\n%2").arg(seed).arg(text(fresh))));
        }
        QVERIFY2(made > tests::tries(100), qPrintable(QString::number(made)));
    }

    /// Whatever the budgets are, how far all stand apart and what is taken already.
    void assigning_comes_to_an_end_within_every_budget() {
        for (unsigned seed = 101; seed <= 100 + static_cast<unsigned>(tests::tries(30)); ++seed) {
            Town town(seed);
            std::vector<DeviceId> devices, targets;
            for (int i = 0; i < 2 + town.upTo(4); ++i) {
                DeviceModel model = *town.catalogue.device("access-switch-24");
                model.id = "budget-" + std::to_string(i);
                model.powerBudgetW = town.upTo(400);
                town.catalogue.devices.push_back(model);
                targets.push_back(town.add(model.id));
                if (town.upTo(3) > 0)
                    town.placeAnywhere(targets.back());
                for (int taken = town.upTo(22); taken > 0; --taken) {
                    const DeviceId host = town.add(town.upTo(2) == 0 ? "camera" : "till");
                    if (const auto pair = town.best({targets.back(), {}}, {host, {}}))
                        town.take(edit::makeLink(town.network, town.catalogue, *pair, town.ids));
                }
            }
            for (int i = 0; i < 60; ++i) {
                constexpr std::array models{"access-point", "camera", "phone", "till", "sensor"};
                devices.push_back(town.add(models[town.random() % models.size()]));
                if (town.upTo(6) > 0)
                    town.placeAnywhere(devices.back());
            }
            const Messages before = town.messages();
            const auto many =
                edit::linkMany(town.network, town.catalogue, devices, targets, town.sheet, {}, {}, town.ids);
            town.network = many.act.network;
            const std::string fresh = newOf(before, town.messages());
            QVERIFY2(fresh.empty(), qPrintable(QString("seed %1:\n%2").arg(seed).arg(text(fresh))));
            std::set<PortRef> used;
            for (const auto& row : many.rows) {
                QVERIFY(row.proposal || !row.why.empty());
                if (row.proposal)
                    QVERIFY(used.insert(row.proposal->b).second);
            }
        }
    }

    void distance_is_part_of_the_question() {
        tests::Workbench bench;
        const GroupId building = bench.group("B", GroupKind::building),
                      floor = bench.group("F", GroupKind::floor, building);
        const auto at = [&](const char* model, std::int64_t x) {
            const DeviceId id = bench.add(model);
            bench.place(id, {floor, x, 0, 0, 0, Side::front});
            return id;
        };
        const DeviceId dist = at("distribution-switch-24", 0);
        const auto joint = [&](const char* model, std::int64_t x) {
            const auto pair = bench.best({at(model, x), {}}, {dist, {}});
            return pair ? text(pair->a.port + " " + pair->joint.cable + " " + pair->joint.transceiverA)
                        : text(pair.refusal().what);
        };
        QCOMPARE(joint("access-switch-24", 2'000), QString("X1 dac-sfpp "));
        QCOMPARE(joint("access-switch-24", 25'000), QString("X1 om4-lc sfpp-10gbase-sr"));
        QCOMPARE(joint("access-switch-24", 200'000), QString("X1 om4-lc sfpp-10gbase-sr"));
        QCOMPARE(joint("access-switch-24", 1'000'000), QString("X1 os2-lc sfpp-10gbase-lr"));
        const DeviceId leaf = at("fabric-leaf-48", 0), spine = at("fabric-spine-32", 15'000);
        const auto pair = bench.best({leaf, {}}, {spine, {}});
        QVERIFY(pair);
        QCOMPARE(text(pair->a.port + " " + pair->b.port), QString("Q1 1"));
        QCOMPARE(pair->joint.speed, 100'000);
    }

    void management_ports_are_for_devices_that_have_no_others() {
        tests::Workbench bench;
        const DeviceId a = bench.add("access-switch-24"), b = bench.add("access-switch-24");
        for (int i = 0; i < 60; ++i) {
            const auto pair = bench.best({a, {}}, {b, {}});
            if (!pair)
                break;
            QVERIFY(pair->a.port != "mgmt" && pair->b.port != "mgmt");
            bench.take(edit::makeLink(bench.network, bench.catalogue, *pair, bench.ids));
        }
        const auto ups = bench.best({bench.add("ups"), {}}, {bench.add("access-switch-24"), {}});
        QVERIFY(ups);
        QCOMPARE(text(ups->a.port), QString("1"));
    }
};

UNDERRIDGE_TEST(ProposalsTest)
#include "proposals_test.moc"
