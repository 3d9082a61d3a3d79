// SPDX-License-Identifier: GPL-3.0-or-later
// The trace panel, overlays, findings and registers of switching and routing, in the window.
#include "app/panels/findings_panel.h"
#include "app/panels/registers_panel.h"
#include "app/window/checker.h"
#include "core/edit/patterns.h"
#include "core/edit/registers.h"
#include "core/edit/vlans.h"
#include "paint/overlays/forwarding_overlays.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

struct Traced : WindowHarness {
    Traced() {
        openFennickQuay();
        sheet().setFocus();
        QVERIFY(QTest::qWaitFor([&] { return window->checker().isCurrent(); }, 20000));
    }
    app::TracePanel& panel() { return window->trace(); }
    void select(std::initializer_list<const char*> names) {
        edit::Refs refs;
        for (const char* name : names)
            refs.push_back(refTo(named(name)));
        session().select(refs);
        sheet().setFocus();
    }
    bool worked() {
        return QTest::qWaitFor([&] { return !panel().shown().hops.empty(); });
    }
    QStringList devices() {
        QStringList out;
        for (int i = 0; i < panel().steps().topLevelItemCount(); ++i)
            out << panel().steps().topLevelItem(i)->text(1);
        return out;
    }
    const paint::Overlay* overlay(const QString& id) {
        for (const auto& each : session().overlays().shown())
            if (each->id() == id)
                return each.get();
        return nullptr;
    }
    /// Chooses an overlay by the beginning of its row.
    void choose(const QString& row) {
        QComboBox& choice = window->overlayBar().choice();
        choice.setCurrentIndex(choice.findText(row, Qt::MatchStartsWith));
    }
};

} // namespace

class TracingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void two_devices_and_one_key_trace_a_packet() {
        Traced t;
        t.select({"ws-office-1", "srv-tickets"});
        t.key(Qt::Key_T);
        QVERIFY(t.worked());
        QCOMPARE(t.panel().says(), QString("Reached, and answered."));
        QCOMPARE(t.devices().mid(0, 6),
                 QStringList({"ws-office-1", "acc-o2", "dist-ctrl", "core-1", "core-2", "srv-tickets"}));
        QVERIFY(t.devices().contains("The answer"));
        const auto* laid = t.overlay(paint::TraceOverlay::name());
        QVERIFY(laid);
        QCOMPARE(laid->marks().at(refTo(t.named("core-1"))).badge, QString("4"));
        QVERIFY(t.session().overlays().wordsOn(refTo(t.named("core-1"))).join(' ').contains("10.84.10.0/24"));
        t.window->action(CommandId::bottomDock)->trigger();
        QVERIFY(!t.overlay(paint::TraceOverlay::name())); // goes with its panel
    }
    void ends_can_be_typed_and_what_is_wrong_is_said() {
        Traced t;
        t.session().select({});
        t.sheet().setFocus();
        t.key(Qt::Key_T);
        QVERIFY(t.panel().from().hasFocus());
        QTest::keyClicks(&t.panel().from(), "till-shop-1");
        QTest::keyClicks(&t.panel().to(), "10.84.60.31");
        QTest::keyClick(&t.panel().to(), Qt::Key_Return);
        QVERIFY(t.worked());
        QVERIFY2(t.panel().says().startsWith("Stops: rule 1 (visitors keep out) of core-1 refuses it"),
                 qPrintable(t.panel().says()));
        t.panel().to().setText("nobody");
        QTest::keyClick(&t.panel().to(), Qt::Key_Return);
        QVERIFY2(t.panel().says().contains("There is no device or address nobody"),
                 qPrintable(t.panel().says()));
        QVERIFY(!t.overlay(paint::TraceOverlay::name()));
    }
    void where_large_packets_do_not_fit_is_said() {
        Traced t;
        t.select({"cam-ramp-1", "srv-tickets"});
        t.key(Qt::Key_T);
        QVERIFY(t.worked());
        edit::Act narrow{"Narrow", t.network(), {}, {}};
        std::vector<Interface> changed;
        t.network().all<Interface>().forEach([&](const Interface& each) {
            if (each.type == InterfaceKind::vlan && !each.addresses.empty() &&
                Address("10.84.10.0/24").contains(each.addresses.front()))
                changed.push_back(each);
        });
        for (Interface& each : changed) {
            each.mtu = 1400;
            narrow.network.put(each);
        }
        t.session().apply(narrow);
        QTRY_VERIFY2(t.panel().says().contains("Packets of more than 1400 octets do not fit"),
                     qPrintable(t.panel().says()));
    }
    void put_right_does_the_remedy_and_the_trace_follows() {
        Traced t;
        t.select({"ws-office-1", "srv-directory"});
        t.key(Qt::Key_T);
        QVERIFY(t.worked());
        const auto cut = edit::setPortVlans(t.network(), {t.named("acc-o2"), "X1"}, 0, "10,20,40,50,60,70,99",
                                            t.session().workspace().ids());
        QVERIFY(cut);
        t.session().apply(*cut);
        QTRY_VERIFY2(t.panel().says().contains("VLAN 30 is not on acc-o2 X1"), qPrintable(t.panel().says()));
        QTRY_VERIFY(t.panel().putRight().isEnabled());
        QTest::mouseClick(&t.panel().putRight(), Qt::LeftButton);
        QTRY_COMPARE(t.panel().says(), QString("Reached, and answered."));
        t.key(Qt::Key_Z, Qt::ControlModifier);
        QTRY_VERIFY(t.panel().says().startsWith("Stops"));
    }
    void a_trace_that_is_kept_becomes_a_finding_when_it_breaks() {
        Traced t;
        t.select({"ws-office-1", "srv-directory"});
        t.key(Qt::Key_T);
        QVERIFY(t.worked());
        QTest::mouseClick(&t.panel().keep(), Qt::LeftButton);
        QCOMPARE(t.network().all<Statement>().size(), std::size_t(9));
        auto device = *t.network().device(t.named("srv-directory"));
        edit::Act act{"Break", t.network(), {}};
        act.network.erase<Link>(t.network().linkAt({device.id, "X1"})->key());
        t.session().apply(act);
        t.window->action(CommandId::showFindings)->trigger();
        auto& list = t.window->findChild<app::FindingsPanel*>()->list();
        QTRY_VERIFY(!list.findItems("\"ws-office-1 reaches srv-directory\"", Qt::MatchStartsWith).isEmpty());
    }
    void of_a_large_network_a_thread_makes_them_and_the_last_choice_counts() {
        WindowHarness h;
        h.begin();
        edit::Pattern tree;
        tree.shape = edit::PatternShape::tree;
        tree.fan = 12;
        tree.depth = 3;
        QVERIFY(h.session().apply(edit::addPattern(h.network(), h.session().catalogue(), h.session().sheet(),
                                                   tree, h.session().ids())));
        QTRY_VERIFY_WITH_TIMEOUT(h.window->checker().isCurrent(), 30'000);
        h.sheet().setFocus();
        h.key(Qt::Key_O);
        app::OverlayBar& bar = h.window->overlayBar();
        QTRY_VERIFY(bar.isVisible());
        bar.choice().setCurrentIndex(bar.choice().findData("speed"));
        bar.choice().setCurrentIndex(bar.choice().findData("power"));
        const auto shown = [&] {
            QStringList out;
            for (const auto& each : h.session().overlays().shown())
                out << each->id();
            return out;
        };
        QTRY_COMPARE(shown(), QStringList("power"));
        QVERIFY(!bar.says().isEmpty());
        bar.choice().setCurrentIndex(bar.choice().findData("tree"));
        bar.close(); // while it is being made
        QVERIFY(shown().isEmpty());
        QTest::qWait(200);
        QVERIFY(shown().isEmpty());
    }
    void overlays_are_chosen_above_the_sheet() {
        Traced t;
        t.key(Qt::Key_O);
        QVERIFY(t.window->overlayBar().isVisible());
        QTRY_VERIFY(t.overlay("tree"));
        t.choose("Spanning tree");
        QVERIFY2(t.window->overlayBar().says().contains("root core-1"),
                 qPrintable(t.window->overlayBar().says()));
        const auto& marks = t.overlay("tree")->marks();
        QCOMPARE(marks.at(refTo(t.named("core-1"))).badge, QString("root"));
        int blocked = 0;
        for (const auto& [object, mark] : marks)
            blocked += mark.badge == "blocked";
        QVERIFY(blocked >= 5);
        t.choose("VLAN 20");
        QCOMPARE(t.window->overlayBar().says(), QString("VLAN 20: 2 parts, no break"));
        t.choose("OSPF");
        QVERIFY(t.window->overlayBar().says().startsWith("OSPF: 7 routers"));
        t.choose("Subnet 10.84.10.0/24");
        QVERIFY(t.overlay("subnet:10.84.10.0/24")->marks().contains(refTo(t.named("till-1"))));
        QTest::keyClick(&t.window->overlayBar().choice(), Qt::Key_Escape);
        QVERIFY(!t.window->overlayBar().isVisible());
        QVERIFY(!t.overlay("subnet:10.84.10.0/24"));
        QVERIFY(t.sheet().hasFocus());
    }
    void several_are_on_at_once_and_each_is_taken_off_by_itself() {
        Traced t;
        t.key(Qt::Key_O);
        QTRY_VERIFY(t.overlay("tree"));
        QTest::mouseClick(&t.window->overlayBar().another(), Qt::LeftButton);
        t.choose("VLAN 20");
        QVERIFY(t.overlay("tree") && t.overlay("vlan:20"));
        QCOMPARE(t.window->overlayBar().others().size(), std::size_t{1});
        QTest::mouseClick(t.window->overlayBar().others().front(), Qt::LeftButton);
        QVERIFY(!t.overlay("tree") && t.overlay("vlan:20"));
        QVERIFY(t.window->overlayBar().others().empty());
        QCOMPARE(t.window->overlayBar().choice().currentText().left(7), QString("VLAN 20"));
    }
    void each_sheet_has_its_own_and_they_are_undone() {
        Traced t;
        const SheetId first = t.session().sheet();
        t.key(Qt::Key_O);
        t.choose("Speeds");
        QTRY_VERIFY(t.overlay("speed"));
        for (const Sheet& sheet : t.network().sheetsInOrder())
            if (sheet.name == "Video only")
                t.session().showSheet(sheet.id);
        QVERIFY(!t.overlay("speed"));
        QVERIFY(!t.window->overlayBar().isVisible());
        t.session().showSheet(first);
        QVERIFY(t.overlay("speed") && t.window->overlayBar().isVisible());
        t.sheet().setFocus();
        t.key(Qt::Key_Z, Qt::ControlModifier); // what was looked through is one step
        QVERIFY(!t.overlay("speed") && !t.overlay("tree"));
        t.key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(t.overlay("speed"));
    }
    void a_filter_of_ones_own_is_typed_into_the_bar() {
        Traced t;
        t.key(Qt::Key_O);
        QTRY_VERIFY(t.overlay("tree"));
        t.choose("What a filter finds");
        auto& field = t.window->overlayBar().filter();
        QVERIFY(field.isVisible() && field.hasFocus());
        QTest::keyClicks(&field, "rol:camera");
        QTest::keyClick(&field, Qt::Key_Return);
        QVERIFY(t.overlay("tree")); // as it was, until it can be read
        QVERIFY(!t.window->overlayBar().says().isEmpty());
        field.clear();
        QTest::keyClicks(&field, "role:camera");
        QTest::keyClick(&field, Qt::Key_Return);
        QTRY_VERIFY(t.overlay("where:role:camera"));
        QVERIFY(t.overlay("where:role:camera")->marks().contains(refTo(t.named("cam-hall-1"))));
        QCOMPARE(field.text(), QString("role:camera"));
    }
    void what_hangs_on_the_selection_is_offered() {
        Traced t;
        t.session().select({refTo(t.named("acc-q2"))});
        t.key(Qt::Key_O);
        t.choose("What hangs on acc-q2");
        QTRY_VERIFY2(t.window->overlayBar().says().startsWith("Without acc-q2"),
                     qPrintable(t.window->overlayBar().says()));
        t.session().select({}); // it stays, and its name with it
        QVERIFY(t.window->overlayBar().says().startsWith("Without acc-q2"));
    }
    void a_break_of_a_vlan_is_marked_while_its_overlay_is_on() {
        Traced t;
        t.key(Qt::Key_O);
        QTRY_VERIFY(t.overlay("tree"));
        t.choose("VLAN 20");
        const auto cut = edit::setPortVlans(t.network(), {t.named("acc-q1"), "X1"}, 0, "10,30,40,50,60,70,99",
                                            t.session().workspace().ids());
        t.session().apply(*cut);
        QTRY_COMPARE(t.window->overlayBar().says(), QString("VLAN 20: 3 parts, 1 break"));
        const LinkId link = t.network().linkAt({t.named("acc-q1"), "X1"})->id;
        const auto& mark = t.overlay("vlan:20")->marks().at(refTo(link));
        QCOMPARE(mark.badge, QString("break"));
        QCOMPARE(mark.words, QString("VLAN 20 is not on acc-q1 X1"));
    }
    void a_gateway_and_addresses_are_typed_in_the_details() {
        Traced t;
        t.select({"till-1"});
        QTRY_VERIFY(t.window->details().field("Gateway"));
        auto* gateway = qobject_cast<QLineEdit*>(t.window->details().field("Gateway"));
        QCOMPARE(gateway->text(), QString("10.84.10.1"));
        gateway->setFocus();
        gateway->selectAll();
        t.type("10.84.31.1");
        t.key(Qt::Key_Return);
        QTRY_VERIFY(!t.window->checker().findings().empty());
        QCOMPARE(t.window->checker().findings().front().rule->code, std::string_view("gateway-outside"));
        t.sheet().setFocus();
        t.key(Qt::Key_Z, Qt::ControlModifier);
        QTRY_VERIFY(t.window->checker().findings().empty());
        t.select({"core-1"});
        QTRY_VERIFY(t.window->details().field("On vlan10"));
        QVERIFY(!t.window->details().field("Gateway")); // it routes
    }
    void several_are_addressed_by_typing_a_subnet() {
        Traced t;
        t.select({"till-1", "till-2", "till-3"});
        QTRY_VERIFY(t.window->details().field("Addresses"));
        auto* field = qobject_cast<QLineEdit*>(t.window->details().field("Addresses"));
        field->setFocus();
        t.type("10.84.77.0/24");
        t.key(Qt::Key_Return);
        QCOMPARE(firstAddress(t.network(), t.named("till-3")).text(), std::string("10.84.77.3/24"));
        QCOMPARE(t.session().selection().size(), std::size_t(3));
    }
    void a_vlan_is_brought_to_a_switch_after_its_ports_were_shown() {
        Traced t;
        const auto cut = edit::setPortVlans(t.network(), {t.named("acc-q1"), "X1"}, 0, "10,30,40,50,60,70,99",
                                            t.session().workspace().ids());
        t.session().apply(*cut);
        t.select({"acc-q1"});
        QTRY_VERIFY(t.window->details().field("Bring a VLAN here"));
        auto* menu = qobject_cast<QComboBox*>(t.window->details().field("Bring a VLAN here"));
        QVERIFY(menu);
        menu->setCurrentIndex(menu->findText("VLAN 20"));
        Q_EMIT menu->activated(menu->currentIndex());
        QWidget* carry = nullptr;
        QTRY_VERIFY(carry = t.window->details().field("Carry it"));
        QTest::mouseClick(carry, Qt::LeftButton);
        QTRY_VERIFY(t.window->checker().isCurrent() && t.window->checker().findings().empty());
    }
    void interfaces_vlans_and_routes_have_registers() {
        Traced t;
        auto& registers = t.window->registers();
        t.window->action(CommandId::showRegisters)->trigger();
        registers.show(edit::Register::interfaces);
        auto* model = registers.table().model();
        QVERIFY(model->rowCount() > 250);
        registers.show(edit::Register::vlans);
        QCOMPARE(registers.table().model()->rowCount(), 15);
        registers.show(edit::Register::subnets);
        auto* subnets = registers.table().model();
        QVERIFY(subnets->rowCount() > 10);
        QVERIFY(!subnets->index(0, 4).data(Qt::DecorationRole).value<QPixmap>().isNull()); // where it is used
        QVERIFY(!subnets->index(0, 1).data(Qt::DecorationRole).isValid());
        registers.show(edit::Register::filterRules);
        QVERIFY(registers.table().model()->rowCount() > 5);
        registers.show(edit::Register::routes);
        QVERIFY(registers.table().model()->rowCount() > 90);
        // A wrong gateway typed there is refused, another taken, and undone.
        auto* routes = registers.table().model();
        const QModelIndex via = routes->index(0, 2);
        const QString before = via.data().toString();
        QVERIFY(!routes->setData(via, "10.84"));
        QVERIFY(routes->setData(via, "10.84.30.9"));
        QCOMPARE(via.data().toString(), QString("10.84.30.9"));
        t.key(Qt::Key_Z, Qt::ControlModifier);
        QCOMPARE(routes->index(0, 2).data().toString(), before);
        // Delete takes routes away, not the devices they are of.
        const std::size_t devices = t.WindowHarness::devices();
        const int count = routes->rowCount();
        registers.table().setFocus();
        registers.table().selectRow(3);
        QTest::keyClick(&registers.table(), Qt::Key_Delete);
        QCOMPARE(t.WindowHarness::devices(), devices);
        QTRY_COMPARE(routes->rowCount(), count - 1);
        QTest::mouseClick(&registers.adding(), Qt::LeftButton);
        QTRY_COMPARE(routes->rowCount(), count);
        registers.show(edit::Register::devices);
        QVERIFY(!registers.adding().isVisible() && !registers.removing().isVisible());
    }
};

UNDERRIDGE_TEST(TracingTest)
#include "tracing_test.moc"
