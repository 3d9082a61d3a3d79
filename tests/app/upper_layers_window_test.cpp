// SPDX-License-Identifier: GPL-3.0-or-later
// Sheets of the data link and the network layer in the window.
#include "app/shown_text.h"
#include "app/style/pieces.h"
#include "core/analysis/layers.h"
#include "core/edit/interfaces.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/edit/patterns.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QLabel>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// The sample of the ferry terminal on a fresh sheet of its network layer.
struct Upper : WindowHarness {
    explicit Upper(CommandId which = CommandId::sheetOfNetwork) {
        openFennickQuay();
        physical = session().sheet();
        window->action(which)->trigger();
        wait();
        upper = session().sheet();
        sheet().fitAll();
        sheet().setFocus();
    }
    SubnetId subnet(const char* prefix) {
        for (const auto& node : analysis::networkLayerOf(network()).subnets)
            if (node.prefixes.front().text() == prefix)
                return node.id;
        return {};
    }
    const scene::Plate* plateOf(SubnetId id) { return session().scene().plate({id.value}); }
    /// Near enough to point at, and where it is then.
    QPoint goTo(SubnetId id) {
        sheet().look(plateOf(id)->frame.centre(), 1);
        wait();
        return at(plateOf(id)->frame.centre());
    }
    QString title() { return window->details().findChild<QLabel*>(QStringLiteral("title"))->text(); }
    QString detailsText() {
        QStringList out;
        for (const QLabel* label : window->details().findChildren<QLabel*>())
            if (label->isVisible())
                out << label->text();
        return out.join('|');
    }

    SheetId physical, upper;
};

} // namespace

class UpperLayersWindowTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void of_a_large_network_links_follow_a_moment_later() {
        WindowHarness h;
        h.begin();
        edit::Pattern tree;
        tree.shape = edit::PatternShape::tree;
        tree.fan = 12;
        tree.depth = 3;
        QVERIFY(h.session().apply(edit::addPattern(h.network(), h.session().catalogue(), h.session().sheet(),
                                                   tree, h.session().ids())));
        const SheetId physical = h.session().sheet();
        h.window->action(CommandId::sheetOfDataLink)->trigger();
        QTRY_VERIFY_WITH_TIMEOUT(h.session().sheet() != physical, 20'000);
        const auto count = [&] { return h.session().scene().count<scene::LinkLine>(); };
        QTRY_VERIFY(!h.session().scene().isBehind());
        const std::size_t before = count();
        QCOMPARE(before, std::size_t{1884});
        LinkId last;
        h.network().all<Link>().forEach([&](const Link& link) { last = link.id; });
        h.session().apply(edit::removeObjects(h.network(), {refTo(last)}));
        QVERIFY(h.session().scene().isBehind());
        QCOMPARE(count(), before - 1); // what is gone is gone at once
        const SheetId upper = h.session().sheet();
        h.session().showSheet(h.network().sheetsInOrder().front().id); // nobody waits for it
        h.session().showSheet(upper);
        QTRY_VERIFY_WITH_TIMEOUT(!h.session().scene().isBehind(), 20'000);
        QCOMPARE(count(), before - 1);
        h.window->action(CommandId::undo)->trigger();
        QTRY_VERIFY_WITH_TIMEOUT(!h.session().scene().isBehind(), 20'000);
        QCOMPARE(count(), before);
    }
    void the_network_layer_is_one_command_and_one_undo() {
        Upper h;
        QVERIFY(h.upper != h.physical);
        QCOMPARE(h.network().sheet(h.upper)->layer, SheetLayer::network);
        QVERIFY(h.session().scene().plate(h.named("core-1")));
        QVERIFY(!h.session().scene().plate(h.named("till-1")));
        QVERIFY(h.plateOf(h.subnet("10.84.10.0/24")));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!h.network().sheet(h.upper));
        QVERIFY(h.session().sheet() == h.physical);
    }
    void a_subnet_is_selected_with_the_mouse_and_told_in_details() {
        Upper h;
        const SubnetId id = h.subnet("10.84.10.0/24");
        h.click(h.goTo(id));
        QVERIFY((h.session().selection() == edit::Refs{refTo(id)}));
        QTRY_VERIFY2(h.detailsText().contains("10.84.10.0/24"), qPrintable(h.detailsText()));
        QVERIFY(h.detailsText().contains("254"));
        QCOMPARE(h.session().nameOf(refTo(id)), QString("10.84.10.0/24"));
    }
    void its_line_is_an_interface() {
        Upper h;
        const scene::LinkLine* line = nullptr;
        h.session().scene().forEachLink([&](const scene::LinkLine& each) {
            if (!line && each.path.size() == 2)
                line = &each;
        });
        QVERIFY(line);
        const InterfaceId id{line->id.value};
        const scene::PointF middle = (line->path.front() + line->path.back()) * 0.5;
        h.sheet().look(middle, 1);
        h.click(h.at(middle));
        QVERIFY((h.session().selection() == edit::Refs{refTo(id)}));
        QVERIFY(!h.session().nameOf(refTo(id)).isEmpty());
        QTRY_VERIFY(h.window->details().field("Addresses"));
        // Dragging it bends nothing and moves nothing.
        const Network before = h.network();
        h.drag(h.at(middle), h.at(middle) + QPoint(60, 40));
        QVERIFY(h.network() == before);
    }
    void a_subnet_is_dragged_and_undone() {
        Upper h;
        const SubnetId id = h.subnet("10.84.10.0/24");
        const QPoint from = h.goTo(id);
        const Point stood = h.network().position(h.upper, id.value)->at;
        h.drag(from, from + QPoint(80, 48), Qt::ControlModifier);
        const Point now = h.network().position(h.upper, id.value)->at;
        QCOMPARE(now.x - stood.x, 80);
        QCOMPARE(now.y - stood.y, 48);
        QCOMPARE(h.network().position(h.upper, id.value)->of, Kind::subnet);
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network().position(h.upper, id.value)->at == stood);
    }
    void it_is_moved_by_keys_and_named_in_place_of_its_number() {
        Upper h;
        const SubnetId id = h.subnet("10.84.200.0/31"); // recorded by nobody
        h.click(h.goTo(id));
        const Point stood = h.network().position(h.upper, id.value)->at;
        h.sheet().setFocus();
        h.key(Qt::Key_Right);
        const Point moved = h.network().position(h.upper, id.value)->at;
        QVERIFY(moved.x > stood.x);
        QTRY_VERIFY(h.window->details().field("Name"));
        h.window->details().field("Name")->setFocus();
        h.type("edge to core");
        h.key(Qt::Key_Return);
        const SubnetId recorded = h.subnet("10.84.200.0/31");
        QVERIFY(recorded != id && h.network().find<Subnet>({recorded.value, 0}));
        QVERIFY(h.network().position(h.upper, recorded.value)->at == moved); // it stays
        QVERIFY((h.session().selection() == edit::Refs{refTo(recorded)}));
    }
    void an_edit_elsewhere_is_seen_at_once() {
        Upper h;
        h.session().showSheet(h.physical);
        Interface interface;
        interface.id = h.session().ids().make<InterfaceId>();
        interface.device = h.named("rtr-1");
        interface.type = InterfaceKind::loopback;
        interface.name = "lo7";
        interface.addresses = {Address("10.84.77.1/24")};
        QVERIFY(h.session().apply(edit::putInterface(h.network(), interface, h.session().ids())));
        h.session().showSheet(h.upper);
        QVERIFY(h.plateOf(h.subnet("10.84.77.0/24")));
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(!h.subnet("10.84.77.0/24"));
        h.session().showSheet(h.upper); // it was done on the other
        QVERIFY(h.session().scene() == scene::Scene::build(h.network(), h.upper));
    }
    void nothing_is_taken_off_and_nothing_waits() {
        Upper h;
        h.key(Qt::Key_A, Qt::ControlModifier);
        QVERIFY(h.session().selection().size() > 20);
        QVERIFY(!h.window->action(CommandId::takeOff)->isEnabled());
        h.session().select({});
        QTRY_VERIFY(h.detailsText().contains("Network layer", Qt::CaseInsensitive));
        QVERIFY(!h.detailsText().contains("Not on this sheet", Qt::CaseInsensitive));
    }
    void deleting_subnets_is_refused_and_loses_nothing() {
        Upper h;
        h.click(h.goTo(h.subnet("10.84.10.0/24")));
        const Network before = h.network();
        h.sheet().setFocus();
        h.key(Qt::Key_Delete);
        QVERIFY(h.network() == before);
    }
    void grips_are_only_where_cables_are() {
        Upper h;
        const auto* plate = h.session().scene().plate(h.named("core-1"));
        h.sheet().look(plate->frame.centre(), 1);
        const std::size_t links = h.links();
        h.drag(h.grip("core-1"), h.grip("core-1") + QPoint(200, 120));
        QCOMPARE(h.links(), links);
    }
    void where_no_cables_are_drawn_no_link_is_taken_in_hand() {
        Upper h;
        const DeviceId core = h.named("core-1");
        h.session().select({refTo(core)});
        h.sheet().setFocus();
        const Network before = h.network();
        h.window->action(CommandId::link)->trigger();
        QVERIFY(!h.sheet().isLinking());
        QVERIFY2(h.window->statusText().contains("draws no cables"), qPrintable(h.window->statusText()));
        h.sheet().dragLink({core, "1"}, h.sheet().mapToGlobal(QPoint(300, 300)), true, false);
        QVERIFY(!h.sheet().isLinking());
        h.session().select({refTo(core), refTo(h.named("core-2"))});
        h.window->action(CommandId::linkInRow)->trigger();
        QVERIFY(h.network() == before);
    }
    void on_the_data_link_layer_links_are_made_as_ever() {
        Upper h(CommandId::sheetOfDataLink);
        h.session().select({refTo(h.named("core-1"))});
        h.sheet().setFocus();
        h.window->action(CommandId::link)->trigger();
        QVERIFY(h.sheet().isLinking());
        h.key(Qt::Key_Escape);
        QVERIFY(!h.sheet().isLinking());
    }
    void groups_are_not_drawn_round_routers() {
        Upper h;
        const Network before = h.network();
        QVERIFY(!h.window->action(CommandId::showGroups)->isChecked());
        h.window->action(CommandId::showGroups)->trigger();
        QVERIFY(h.network() == before);
        // Whatever a file says.
        edit::Act act{"as in a file", before, {}};
        Sheet sheet = *before.sheet(h.upper);
        sheet.groups = true;
        act.network.put(sheet);
        QVERIFY(h.session().apply(act));
        QCOMPARE(h.session().scene().count<scene::Frame>(), std::size_t{0});
        const SubnetId id = h.subnet("10.84.20.0/24");
        const QPoint from = h.goTo(id);
        h.drag(from, from + QPoint(64, 32), Qt::ControlModifier);
        QVERIFY(h.session().scene() == scene::Scene::build(h.network(), h.upper));
    }
    void what_a_subnet_is_stands_on_its_card() {
        Upper h;
        const SubnetId id = h.subnet("10.84.10.0/24");
        const QPoint there = h.goTo(id);
        h.moveTo(there);
        QCOMPARE(h.sheet().selectTool().hovered().object, refTo(id));
        QVERIFY(h.sheet().selectTool().hint().contains("10.84.10.0/24"));
    }
    void aligning_and_turning_take_subnets_along() {
        Upper h;
        h.key(Qt::Key_A, Qt::ControlModifier);
        const Network before = h.network();
        for (const CommandId id : {CommandId::mirrorAcross, CommandId::makeRoom, CommandId::closeUp}) {
            if (!h.window->action(id)->isEnabled())
                continue;
            h.window->action(id)->trigger();
            h.wait();
            std::size_t subnets = 0;
            h.network().all<Position>().forEachIn(
                h.upper.value, [&](const Position& position) { subnets += position.of == Kind::subnet; });
            QCOMPARE(subnets, std::size_t{24});
            QVERIFY(h.session().scene() == scene::Scene::build(h.network(), h.upper));
        }
        h.window->action(CommandId::arrange)->trigger();
        h.wait();
        QVERIFY(!(h.network() == Network()));
    }
    void the_data_link_layer_takes_links_and_tucks_endpoints_in() {
        Upper h(CommandId::sheetOfDataLink);
        QCOMPARE(h.network().sheet(h.upper)->layer, SheetLayer::dataLink);
        QVERIFY(!h.session().scene().plate(h.named("pp-c1"))); // panels are passed
        QVERIFY(h.session().scene().tuckedInto(h.named("till-1")));
        // A LAG is one line, selected by a click on it as the link it stands for.
        const scene::LinkLine* lag = nullptr;
        h.session().scene().forEachLink([&](const scene::LinkLine& each) {
            if (each.inLag)
                lag = &each;
        });
        QVERIFY(lag);
        const scene::PointF middle = scene::alongPath(lag->path, scene::pathLength(lag->path) * 0.4).at;
        h.sheet().look(middle, 1);
        h.click(h.at(middle));
        QCOMPARE(h.session().selection().size(), std::size_t{1});
        QVERIFY(h.network().link({h.session().selection().front().id}));
    }
    void a_layer_a_file_brings_rests_on_what_is_below() {
        WindowHarness h;
        h.openFennickQuay();
        const QString file = h.folder.filePath(QStringLiteral("port.json"));
        QVERIFY(h.exportTo(file));
        QVERIFY(h.open(file));
        const Sheet* layer = nullptr;
        for (const Sheet& sheet : h.network().sheetsInOrder())
            if (sheet.name == "Network layer")
                layer = h.network().sheet(sheet.id);
        QVERIFY(layer);
        const SheetId id = layer->id;
        Link upper;
        h.network().all<Link>().forEach([&](const Link& link) {
            if (link.onlyOn == id && link.over.size() > upper.over.size())
                upper = link;
        });
        QVERIFY(upper.over.size() > 1);
        QVERIFY(h.session().navigation().goTo(refTo(upper.id)));
        QCOMPARE(h.session().sheet(), id);
        // From it to a link below, on its own sheet, and up again.
        const Link below = *h.network().link(upper.over.front());
        const auto follow = [&](const Link& link) {
            const QString words = app::shownText(edit::linkText(h.network(), link));
            const auto row = [&] {
                for (auto* each : h.window->details().findChildren<app::TextButton*>())
                    if (each->text() == words && each->isVisible())
                        return each;
                return static_cast<app::TextButton*>(nullptr);
            };
            QTRY_VERIFY(row());
            QTest::mouseClick(row(), Qt::LeftButton);
            QCOMPARE(h.session().selection(), edit::Refs{refTo(link.id)});
        };
        if (const QByteArray shot = qgetenv("SHOT"); !shot.isEmpty()) {
            h.wait();
            QTest::qWait(800);
            h.window->grab().save(QString::fromUtf8(shot));
        }
        follow(below);
        QVERIFY(h.session().sheet() != id);
        follow(upper);
        QCOMPARE(h.session().sheet(), id);
        // Its sheet is not removed without a word of what goes with it.
        const std::size_t all = h.links();
        std::size_t above = 0;
        h.network().all<Link>().forEach([&](const Link& link) { above += link.onlyOn == id; });
        h.onQuestion(QStringLiteral("Remove sheet"), [above](const QString& words) {
            return words.contains(QStringLiteral("%1 links of its layer go too.").arg(above)) ? 0 : 1;
        });
        h.window->action(CommandId::removeSheet)->trigger();
        QTRY_COMPARE(h.links(), all - above);
        h.window->action(CommandId::undo)->trigger();
        QCOMPARE(h.links(), all);
    }
    void the_sheet_is_walked_by_keyboard() {
        Upper h;
        h.key(Qt::Key_Tab);
        const ObjectRef first = h.sheet().selectTool().focused();
        QVERIFY(first.kind != Kind::unknown);
        h.key(Qt::Key_Space);
        QVERIFY(h.session().selected().contains(first));
        h.key(Qt::Key_PageDown);
        QCOMPARE(h.session().selection().size(), std::size_t{1});
        QCOMPARE(h.session().selection().front().kind, Kind::interface);
    }
};

UNDERRIDGE_TEST(UpperLayersWindowTest)
#include "upper_layers_window_test.moc"
