// SPDX-License-Identifier: GPL-3.0-or-later
// Findings kept up to date edit by edit are those of looking at everything.
#include "core/edit/fittings.h"
#include "core/edit/lags.h"
#include "core/edit/objects.h"
#include "core/linking/running_check.h"
#include "tests/support/first_office.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;

namespace {

/// Acts that the findings are about: ports of panels joined at random, labels, settings,
/// LAGs, fittings.
edit::ActResult cablingAct(tests::RandomEdits& random, const Network& network) {
    const auto anyPort = [&] {
        const Device* device = network.device(random.someDevice(network));
        const auto ports = device ? portsOf(network, *device) : std::vector<PortView>();
        return ports.empty()
                   ? PortRef{}
                   : PortRef{
                         device->id,
                         ports[static_cast<std::size_t>(random.below(static_cast<int>(ports.size())))].key};
    };
    switch (random.below(7)) {
    case 0:
    case 1:
    case 2: {
        const PortRef a = anyPort(), b = anyPort(); // in this order, whatever the compiler
        const auto pair = linking::anyPair(network, random.catalogue(), a, b);
        if (!pair)
            return pair.refusal();
        return edit::makeLink(network, random.catalogue(), *pair, random.ids());
    }
    case 3: {
        const Link* link = network.link(random.someLink(network));
        if (!link || !link->cable)
            return error("no cable");
        return edit::changeEach<Cable>(network, {{link->cable.value, 0}}, "Label", [&](Cable& cable) {
            cable.label = "K-" + std::to_string(random.below(4));
            cable.measured = {{"NEXT", 30.0 + random.below(10), 35, "dB"}};
        });
    }
    case 4: {
        std::vector<LinkId> links;
        if (const Link* first = network.link(random.someLink(network)))
            network.forEachLinkOf(first->a.device, [&](const Link& link) {
                if (link.b.device == first->b.device)
                    links.push_back(link.id);
            });
        return random.below(3) == 0 ? edit::dissolveLag(network, links)
                                    : edit::makeLag(network, links, {}, random.ids());
    }
    case 5:
        return edit::changePort(network, anyPort(), "Port", [&](Port& port) {
            port.duplex = random.below(2) == 0 ? Duplex::full : Duplex::automatic;
            port.powerOff = random.below(3) == 0;
        });
    default: {
        CableType type = random.catalogue().cables.front();
        type.approved = random.below(2) == 0;
        Network next = network;
        next.put(type);
        return edit::Act{"Type", std::move(next), {}};
    }
    }
}

QStringList told(const std::vector<linking::Finding>& findings) {
    QStringList out;
    for (const auto& finding : findings)
        out << QString::fromStdString(std::string(finding.rule->code) + " " + finding.message);
    out.sort(); // equal ones may come in either order
    return out;
}

} // namespace

class RunningCheckTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void edit_by_edit_it_says_what_a_full_check_says_data() {
        QTest::addColumn<int>("seed");
        for (int seed = 1; seed <= 5; ++seed)
            QTest::addRow("%d", seed) << seed;
    }
    void edit_by_edit_it_says_what_a_full_check_says() {
        QFETCH(int, seed);
        tests::RandomEdits random(static_cast<std::uint64_t>(seed));
        linking::RunningCheck running;
        Network network = random.start();
        std::vector<Network> past{network};
        std::size_t most = 0;
        for (int i = 0; i < tests::tries(160); ++i) {
            if (random.below(12) == 0) { // undo, by many steps at once
                network = past[static_cast<std::size_t>(random.below(static_cast<int>(past.size())))];
            } else {
                auto act = random.below(2) == 0 ? random.act(network) : cablingAct(random, network);
                if (!act)
                    continue;
                network = std::move(act->network);
            }
            past.push_back(network);
            running.update(network, random.catalogue());
            const auto expected = told(linking::check(network, random.catalogue()));
            most = std::max(most, static_cast<std::size_t>(expected.size()));
            QCOMPARE(told(running.findings()), expected);
        }
        if (!tests::isSanitized) // so few edits as are tried then may well bring no finding
            QVERIFY(most > 0);
    }

    void any_cable_of_a_patched_chain_may_be_pulled() {
        const Network whole = tests::demo("fennick-quay");
        const Catalogue catalogue = exchange::builtInCatalogue();
        linking::RunningCheck running;
        running.update(whole, catalogue);
        const QStringList asItWas = told(running.findings());
        std::vector<LinkId> links;
        whole.all<Link>().forEach([&](const Link& link) { links.push_back(link.id); });
        QVERIFY(links.size() > 150);
        for (std::size_t i = 0; i < links.size(); i += tests::isSanitized ? 4 : 1) {
            const LinkId id = links[i];
            const auto act = edit::removeObjects(whole, {refTo(id)});
            QVERIFY(bool(act));
            running.update(act->network, catalogue);
            QCOMPARE(told(running.findings()), told(linking::check(act->network, catalogue)));
            running.update(whole, catalogue); // undone
            QCOMPARE(told(running.findings()), asItWas);
        }
    }
};

UNDERRIDGE_TEST(RunningCheckTest)
#include "running_check_test.moc"
