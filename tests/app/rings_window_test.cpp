// SPDX-License-Identifier: GPL-3.0-or-later
// Declaring a ring in the window, and hosts whose gateway comes by DHCP.
#include "core/edit/rings.h"
#include "core/edit/sheets.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QCheckBox>
#include <QLineEdit>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

struct Pier : WindowHarness {
    /// Switches, each linked to the next and the last to the first.
    Pier() {
        begin();
        sheet().setFocus();
        key(Qt::Key_A);
        type("4 industrial switch");
        key(Qt::Key_Return);
        network().all<Device>().forEach([&](const Device& device) { switches.push_back(device.id); });
        for (std::size_t i = 0; i < switches.size(); ++i)
            linkUp(switches[i], switches[(i + 1) % switches.size()]);
    }
    void linkUp(DeviceId a, DeviceId b) {
        const auto best = linking::bestPair(network(), session().catalogue(), {a, {}}, {b, {}});
        QVERIFY(bool(best));
        QVERIFY(session().apply(edit::makeLink(network(), session().catalogue(), *best, session().ids())));
    }
    void select(const std::vector<DeviceId>& devices) {
        edit::Refs refs;
        for (const DeviceId id : devices)
            refs.push_back(refTo(id));
        session().select(refs);
    }
    const Ring* ring() {
        const Ring* found = nullptr;
        network().all<Ring>().forEach([&](const Ring& each) { found = &each; });
        return found;
    }
    QCheckBox* check(const QString& label) {
        return qobject_cast<QCheckBox*>(window->details().field(label));
    }

    std::vector<DeviceId> switches;
};

} // namespace

class RingsWindowTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_ring_is_one_command_and_one_undo() {
        Pier h;
        QCOMPARE(h.switches.size(), std::size_t{4});
        h.select({h.switches[0]});
        QVERIFY(!h.window->action(CommandId::declareRing)->isEnabled());
        h.select(h.switches);
        h.window->action(CommandId::declareRing)->trigger();
        QVERIFY(h.ring());
        QCOMPARE(h.ring()->links.size(), std::size_t{4});
        QVERIFY(h.ring()->owner == h.switches[0]);
        QVERIFY(h.ring()->blocked);
        h.sheet().setFocus();
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!h.ring());
    }
    void three_of_four_are_none_and_it_says_so() {
        Pier h;
        h.select({h.switches[0], h.switches[1], h.switches[2]});
        h.window->action(CommandId::declareRing)->trigger();
        QVERIFY(!h.ring());
        QCOMPARE(h.network().all<Ring>().size(), std::size_t{0});
    }
    void its_link_tells_it_and_moves_what_is_blocked() {
        Pier h;
        h.select(h.switches);
        h.window->action(CommandId::declareRing)->trigger();
        LinkId other;
        for (const LinkId id : h.ring()->links)
            if (const Link* link = h.network().link(id);
                link->a.device != h.ring()->owner && link->b.device != h.ring()->owner)
                other = id;
        h.session().select({refTo(other)});
        QTRY_VERIFY(h.check("Blocked while the ring is whole"));
        QVERIFY(!h.check("Blocked while the ring is whole")->isChecked());
        h.check("Blocked while the ring is whole")->click();
        QVERIFY(h.ring()->blocked == other);
        QVERIFY(h.ring()->owner == h.network().link(other)->a.device); // who blocks has the link
        QTRY_VERIFY(h.window->details().field("Ring"));
        h.window->details().field("Ring")->setFocus();
        qobject_cast<QLineEdit*>(h.window->details().field("Ring"))->selectAll();
        h.type("pier");
        h.key(Qt::Key_Return);
        QCOMPARE(h.ring()->name, std::string("pier"));
        h.window->action(CommandId::dissolveRing)->trigger();
        QVERIFY(!h.ring());
        QCOMPARE(h.links(), std::size_t{4});
    }
    void the_spanning_tree_overlay_marks_the_blocked_link() {
        Pier h;
        h.select(h.switches);
        h.window->action(CommandId::declareRing)->trigger();
        h.session().apply(edit::setSheetOverlays(h.network(), h.session().sheet(), {"tree"}));
        const auto words = [&] { return h.session().overlays().wordsOn(refTo(h.ring()->blocked)).join(' '); };
        QTRY_VERIFY2(words().contains("ring 1 blocks this link"), qPrintable(words()));
        QCOMPARE(h.session().overlays().shown().front()->legend(), QString("1 ring; 1 link blocked"));
    }
    void a_host_asks_for_its_address() {
        WindowHarness h;
        h.openFennickQuay();
        const DeviceId till = h.named("till-1");
        h.session().select({refTo(till)});
        const auto box = [&] {
            return qobject_cast<QCheckBox*>(h.window->details().field("Address by DHCP"));
        };
        QTRY_VERIFY(box());
        box()->click();
        bool asks = false;
        h.network().all<Interface>().forEachIn(till.value, [&](const Interface& each) { asks |= each.dhcp; });
        QVERIFY(asks);
        h.sheet().setFocus();
        h.key(Qt::Key_Z, Qt::ControlModifier);
        asks = false;
        h.network().all<Interface>().forEachIn(till.value, [&](const Interface& each) { asks |= each.dhcp; });
        QVERIFY(!asks);
    }
};

UNDERRIDGE_TEST(RingsWindowTest)
#include "rings_window_test.moc"
