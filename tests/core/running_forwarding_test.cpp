// SPDX-License-Identifier: GPL-3.0-or-later
// Switching and routing edit by edit: what is taken over from before must be what follows from
// the network by itself.
#include "core/analysis/running_findings.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/model/vlans.h"
#include "tests/support/first_office.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"
#include "tests/support/routed_campus.h"
#include "tests/support/workbench.h"

#include <QTest>
#include <random>

using namespace underridge;
using namespace underridge::model;
using analysis::Forwarding;
using tests::text;

namespace {

QStringList told(const std::vector<linking::Finding>& findings) {
    QStringList out;
    for (const auto& finding : findings) {
        out << text(std::string(finding.rule->code) + ": " + finding.message + " — " + finding.remedy.words);
        for (const std::string& act : finding.remedy.acts)
            out.back() += " " + text(act);
        for (const ObjectRef& subject : finding.subjects)
            out.back() += QString(" %1").arg(subject.id);
    }
    return out;
}

/// Changes VLANs of ports, and at times something else.
class Changing {
public:
    Changing(const Network& network, unsigned seed) : random_(seed) {
        network.all<Interface>().forEach([&](const Interface& each) {
            if (saysVlans(each) && each.addresses.empty() && each.type != InterfaceKind::vlan &&
                each.type != InterfaceKind::subinterface)
                ports_.push_back(each.key());
            else if (!each.addresses.empty())
                addressed_.push_back(each.key());
        });
        network.all<Vlan>().forEach([&](const Vlan& vlan) { vlans_.push_back(vlan.id); });
        network.all<Device>().forEach([&](const Device& device) { devices_.push_back(device.id); });
        network.all<Group>().forEach([&](const Group& group) { groups_.push_back(group.id); });
    }
    int below(std::size_t n) { return static_cast<int>(random_() % n); }
    template <class Of>
    const Of& any(const std::vector<Of>& of) {
        return of[static_cast<std::size_t>(below(of.size()))];
    }

    void vlans(Network& network) {
        const Interface* held = network.find<Interface>(any(ports_));
        if (!held)
            return;
        Interface port = *held;
        const VlanId vlan = any(vlans_);
        switch (below(6)) {
        case 0:
        case 1:
            port.untagged = vlan;
            break;
        case 2:
            if (const auto at = std::find(port.tagged.begin(), port.tagged.end(), vlan);
                at != port.tagged.end())
                port.tagged.erase(at);
            else
                port.tagged.push_back(vlan);
            break;
        case 3:
            port.voice = port.voice ? VlanId{} : vlan;
            break;
        case 4:
            port.taggedRanges =
                port.taggedRanges.empty() ? std::vector<VlanRange>{{2, 4000}} : std::vector<VlanRange>{};
            break;
        case 5:
            port.frames = port.frames == Frames::all ? Frames::tagged : Frames::all;
            break;
        }
        if (below(8) == 0) // as if nobody had ever set it; it comes again when all is undone
            network.erase<Interface>(port.key());
        else
            network.put(std::move(port));
    }
    /// What a bridge or a port says of its tree.
    void trees(Network& network) {
        if (below(2) == 0) {
            Device device = *network.device(any(devices_));
            SpanningTree tree = *device.spanningTree;
            switch (below(4)) {
            case 0:
                tree.mode = any(std::vector{TreeMode::automatic, TreeMode::off, TreeMode::stp, TreeMode::rstp,
                                            TreeMode::mstp});
                break;
            case 1:
                tree.instances = tree.instances.empty()
                                     ? std::vector<TreeInstance>{{1 + below(2), {{2, 100}}, 4096 * below(16)}}
                                     : std::vector<TreeInstance>{};
                break;
            case 2:
                tree.region = tree.region.empty() ? "harbour" : "";
                break;
            default:
                tree.priority = 4096 * below(16);
            }
            device.spanningTree = std::move(tree);
            network.put(std::move(device));
            return;
        }
        const Interface* held = network.find<Interface>(any(ports_));
        if (!held)
            return;
        Interface port = *held;
        PortTree tree = *port.spanningTree;
        switch (below(4)) {
        case 0:
            tree.rootGuard = !tree.rootGuard;
            break;
        case 1:
            tree.bpduGuard = !tree.bpduGuard;
            break;
        case 2:
            tree.priority = 16 * below(16);
            break;
        default:
            tree.cost = tree.cost ? 0 : 1 + below(200'000);
        }
        port.spanningTree = std::move(tree);
        network.put(std::move(port));
    }
    void other(Network& network) {
        Device device = *network.device(any(devices_));
        switch (below(6)) {
        case 0:
            device.note = "seen";
            break;
        case 1:
            device.group = groups_.empty() ? GroupId{} : any(groups_);
            break;
        case 2:
            device.spanningTree = [&] {
                SpanningTree tree = *device.spanningTree;
                tree.priority = 4096 * below(16);
                return tree;
            }();
            break;
        case 3: {
            Interface interface = *network.find<Interface>(any(addressed_));
            interface.disabled = !interface.disabled;
            network.put(std::move(interface));
            return;
        }
        case 5: {
            std::vector<Route> routes;
            network.all<Route>().forEach([&](const Route& route) { routes.push_back(route); });
            Route route = any(routes);
            if (below(2) == 0) {
                network.erase<Route>(route.key());
            } else {
                route.via = any(routes).via;
                network.put(std::move(route));
            }
            return;
        }
        case 4:
            if (const Statement* held = someStatement(network)) {
                Statement statement = *held;
                statement.never = !statement.never;
                network.put(std::move(statement));
            }
            return;
        }
        network.put(std::move(device));
    }

private:
    static const Statement* someStatement(const Network& network) {
        const Statement* found = nullptr;
        network.all<Statement>().forEach([&](const Statement& each) { found = &each; });
        return found;
    }

    std::mt19937 random_;
    std::vector<Key> ports_, addressed_;
    std::vector<VlanId> vlans_;
    std::vector<DeviceId> devices_;
    std::vector<GroupId> groups_;
};

QString domainsOf(const analysis::Bridging& bridging) {
    QString out;
    for (int d = 0; d < bridging.domainCount(); ++d) {
        const analysis::Domain& domain = bridging.domain(d);
        out += QString("%1/%2/%3:").arg(domain.station).arg(domain.vlan).arg(domain.tags);
        for (const analysis::Crossing& crossing : bridging.from(d))
            out += QString(" %1,%2,%3").arg(crossing.to).arg(crossing.out).arg(crossing.in);
        out += "\n";
    }
    return out;
}

void compare(const Forwarding& held, const Forwarding& anew, Changing& random) {
    QCOMPARE(domainsOf(held.bridging()), domainsOf(anew.bridging()));
    const int interfaces = anew.bridging().interfaceCount();
    QCOMPARE(held.bridging().interfaceCount(), interfaces);
    for (int i = 0; i < interfaces; ++i) {
        QCOMPARE(held.bridging().interface(i).up, anew.bridging().interface(i).up);
        QCOMPARE(held.bridging().islandOf(i), anew.bridging().islandOf(i));
        const int other = random.below(static_cast<std::size_t>(interfaces));
        QCOMPARE(held.bridging().carries(i, other), anew.bridging().carries(i, other));
    }
    for (int port = 0; port < static_cast<int>(anew.wiring().ports().size()); ++port)
        for (const int vlan : {1, 20, 30})
            QCOMPARE(held.trees().forwards(port, vlan), anew.trees().forwards(port, vlan));
    QCOMPARE(held.trees().trees().size(), anew.trees().trees().size());
    for (int s = 0; s < static_cast<int>(anew.wiring().stations().size()); ++s)
        for (const std::string& vrf : anew.routing().vrfsOf(s))
            QVERIFY2(held.routing().table(s, vrf).entries() == anew.routing().table(s, vrf).entries(),
                     anew.wiring().nameOf(s).c_str());
    QCOMPARE(tests::stormsOf(held).size(), tests::stormsOf(anew).size());
}

} // namespace

class RunningForwardingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void edit_by_edit_it_is_what_follows_from_the_network_data() {
        QTest::addColumn<QString>("which");
        QTest::addColumn<int>("seed");
        for (const char* which : {"fennick-quay", "fennick-quay-as-found", "campus"})
            for (int seed = 1; seed <= tests::tries(3); ++seed)
                QTest::addRow("%s %d", which, seed) << which << seed;
    }
    void edit_by_edit_it_is_what_follows_from_the_network() {
        QFETCH(QString, which);
        QFETCH(int, seed);
        Network network = which == "campus" ? tests::routedCampus(420) : tests::demo(which.toStdString());
        Changing random(network, static_cast<unsigned>(seed));
        std::vector<Network> past{network};
        auto held = Forwarding::after({}, network);
        analysis::RunningFindings found;
        found.update(held, network);
        int keptWiring = 0, keptRoutes = 0;
        for (int i = 0; i < tests::tries(60); ++i) {
            const auto before = held;
            if (random.below(10) == 0)
                network = random.any(past);
            else if (random.below(6) == 0)
                random.other(network);
            else if (random.below(3) == 0)
                random.trees(network);
            else
                random.vlans(network);
            past.push_back(network);
            held = Forwarding::after(held, network);
            found.update(held, network);
            const Forwarding anew(network);
            compare(*held, anew, random);
            if (QTest::currentTestFailed())
                return;
            QCOMPARE(told(found.findings()), told(analysis::checkForwarding(anew)));
            keptWiring += held != before && held->hasWiringOf(*before);
            keptRoutes += held != before && held->hasRoutesOf(*before);
        }
        QVERIFY(keptWiring > tests::tries(60) / 3);
        QVERIFY(keptRoutes > 0);
    }

    void what_is_of_no_concern_is_not_worked_out_again() {
        const Network network = tests::routedCampus(400);
        const auto held = Forwarding::after({}, network);
        Network changed = network;
        Device device = *network.device(held->wiring().station(0).device->id);
        device.note = "seen";
        changed.put(device);
        QCOMPARE(Forwarding::after(held, changed), held);
        device.routing = !device.routing;
        changed.put(device);
        const auto anew = Forwarding::after(held, changed);
        QVERIFY(anew != held && !anew->hasWiringOf(*held));
    }

    void a_tree_that_blocks_the_same_leaves_everything_as_it_is() {
        const Network network = tests::routedCampus(400);
        const auto held = Forwarding::after({}, network);
        const auto with = [&](auto change) {
            Network changed = network;
            const analysis::Tree& tree = held->trees().trees().front();
            Device root = *network.device(held->wiring().station(tree.root).device->id);
            SpanningTree said = *root.spanningTree;
            change(said);
            root.spanningTree = std::move(said);
            changed.put(std::move(root));
            return Forwarding::after(held, changed);
        };
        const auto better = with([](SpanningTree& tree) { tree.priority = 0; });
        QVERIFY(better != held && better->hasWiringOf(*held) && !better->hasTreesOf(*held));
        QVERIFY(better->bridging().all() == held->bridging().all());
        const auto none = with([](SpanningTree& tree) { tree.mode = TreeMode::off; });
        QVERIFY(none->hasWiringOf(*held));
        QVERIFY(none->bridging().all() != held->bridging().all());
        QVERIFY(none->wiring().treeOf(held->trees().trees().front().root) == TreeMode::off);
    }

    void other_stretches_of_layer_2_stay_the_same() {
        const Network network = tests::routedCampus(800);
        const auto held = Forwarding::after({}, network);
        Network changed = network;
        network.all<Interface>().forEach([&](const Interface& each) {
            if (changed == network && each.untagged && each.type == InterfaceKind::physical) {
                Interface other = each;
                other.frames = Frames::tagged;
                changed.put(std::move(other));
            }
        });
        const auto after = Forwarding::after(held, changed);
        int differ = 0;
        for (std::size_t i = 0; i < held->bridging().all().size(); ++i)
            differ += held->bridging().all()[i] != after->bridging().all()[i];
        QCOMPARE(differ, 1);
        QVERIFY(held->bridging().all().size() > 8);
        QVERIFY(after->hasRoutesOf(*held)); // one host is cut off, no router
    }

    void everything_is_in_one_reach_and_hears_nothing_beyond_it_data() {
        QTest::addColumn<QString>("which");
        for (const char* which : {"fennick-quay", "fennick-quay-as-found", "first-office", "campus"})
            QTest::newRow(which) << which;
    }
    void everything_is_in_one_reach_and_hears_nothing_beyond_it() {
        QFETCH(QString, which);
        const Network network =
            which == "campus" ? tests::routedCampus(420) : tests::demo(which.toStdString());
        const Forwarding f(network);
        const analysis::Reaches& reaches = f.bridging().reaches();
        std::vector<int> interfaces, stations, hosts = reaches.travellers;
        for (std::size_t r = 0; r < reaches.all.size(); ++r) {
            const auto& extent = reaches.all[r];
            interfaces.insert(interfaces.end(), extent.interfaces.begin(), extent.interfaces.end());
            stations.insert(stations.end(), extent.stations.begin(), extent.stations.end());
            hosts.insert(hosts.end(), extent.residents.begin(), extent.residents.end());
            for (const int resident : extent.residents)
                for (const int i : f.bridging().interfacesOf(resident))
                    QCOMPARE(reaches.ofInterface[analysis::at(i)], static_cast<int>(r));
            for (std::size_t d = 0; d < f.bridging().all()[r]->domains().size(); ++d)
                for (const auto& crossing : f.bridging().all()[r]->from(static_cast<int>(d)))
                    for (const int port : {crossing.out, crossing.in})
                        QCOMPARE(reaches.ofStation[analysis::at(f.wiring().port(port).station)],
                                 static_cast<int>(r));
        }
        const auto isEachOnce = [](std::vector<int> of, std::size_t count) {
            std::sort(of.begin(), of.end());
            return of.size() == count && std::adjacent_find(of.begin(), of.end()) == of.end();
        };
        QVERIFY(isEachOnce(interfaces, reaches.standing.size()));
        QVERIFY(isEachOnce(hosts, f.wiring().stations().size()));
        const auto bridging = std::count_if(f.wiring().stations().begin(), f.wiring().stations().end(),
                                            [](const analysis::Station& station) { return station.bridges; });
        QVERIFY(isEachOnce(stations, static_cast<std::size_t>(bridging)));
        // Ports stand in one order, whatever was set or joined first.
        for (const analysis::Station& station : f.wiring().stations())
            QVERIFY(std::is_sorted(station.ports.begin(), station.ports.end()));
    }

    void a_port_set_for_the_first_time_counts_as_if_it_had_always_been() {
        // One switch with VLANs on some ports; a host at a port nobody has set.
        Network network = tests::routedCampus(60);
        Interface access;
        network.all<Interface>().forEach([&](const Interface& each) {
            const Link* link = each.untagged && each.type == InterfaceKind::physical
                                   ? network.linkAt({each.device, each.port})
                                   : nullptr;
            if (link && access.port.empty())
                access = each;
        });
        QVERIFY(!access.port.empty());
        Network bare = network;
        bare.erase<Interface>(access.key());
        auto held = Forwarding::after({}, bare);
        const auto first = held;
        QVERIFY(!analysis::checkForwarding(*held).empty()); // its host is cut off
        held = Forwarding::after(held, network);
        QVERIFY(held->hasWiringOf(*first));
        QCOMPARE(told(analysis::checkForwarding(*held)), QStringList());
        held = Forwarding::after(held, bare);
        QVERIFY(held->hasWiringOf(*first));
        QCOMPARE(told(analysis::checkForwarding(*held)), told(analysis::checkForwarding(*first)));
        Interface again = access; // by another hand, as another record
        again.id = InterfaceId{access.id.value ^ 1};
        bare.put(again);
        held = Forwarding::after(held, bare);
        QCOMPARE(told(analysis::checkForwarding(*held)), QStringList());
        QVERIFY(held->hasWiringOf(*first));
        bare.put(access); // a second on one port: which counts is for all of it to say
        held = Forwarding::after(held, bare);
        QVERIFY(!held->hasWiringOf(*first));
        QCOMPARE(told(analysis::checkForwarding(*held)), told(analysis::checkForwarding(Forwarding(bare))));
    }

    void findings_follow_what_forwarding_does_not_depend_on() {
        Network network = tests::demo("fennick-quay");
        auto held = Forwarding::after({}, network);
        analysis::RunningFindings found;
        found.update(held, network);
        QCOMPARE(told(found.findings()), QStringList());
        // A port that is kept free, first without a word why.
        Port port;
        network.all<Device>().forEach([&](const Device& device) {
            if (port.port.empty() && roleOf(network, device) == Role::switch_)
                for (const PortView& view : portsOf(network, device))
                    if (port.port.empty() && !network.linkAt({device.id, view.key})) {
                        port.device = device.id;
                        port.port = view.key;
                    }
        });
        QVERIFY(!port.port.empty());
        port.reserved = true;
        network.put(port);
        held = Forwarding::after(held, network);
        found.update(held, network);
        QCOMPARE(found.findings().size(), std::size_t(1));
        QCOMPARE(text(std::string(found.findings()[0].rule->code)), QString("spare-unexplained"));
        port.note = "for the second ticket office";
        network.put(port);
        held = Forwarding::after(held, network);
        found.update(held, network);
        QCOMPARE(told(found.findings()), QStringList());
        // A statement about a group, whose members become others.
        Statement statement;
        statement.id = StatementId{77};
        statement.name = "nobody on it reaches anybody";
        statement.never = true;
        GroupId group;
        network.all<Device>().forEach([&](const Device& device) {
            if (!group && device.group && isEndpoint(roleOf(network, device)))
                group = device.group;
        });
        statement.from.group = statement.to.group = group;
        network.put(statement);
        held = Forwarding::after(held, network);
        found.update(held, network);
        QCOMPARE(told(found.findings()), told(analysis::checkForwarding(Forwarding(network))));
        std::vector<DeviceId> members = devicesWithin(network, group);
        for (const DeviceId id : members) {
            Device device = *network.device(id);
            device.group = {};
            network.put(std::move(device));
        }
        held = Forwarding::after(held, network);
        found.update(held, network);
        QCOMPARE(found.findings().size(), std::size_t(1));
        QCOMPARE(text(std::string(found.findings()[0].rule->code)), QString("statement-empty"));
    }
};

UNDERRIDGE_TEST(RunningForwardingTest)
#include "running_forwarding_test.moc"
