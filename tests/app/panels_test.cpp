// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/sheet/snapping.h"
#include "app/shown_text.h"
#include "core/edit/devices.h"
#include "core/edit/interfaces.h"
#include "core/edit/vlans.h"
#include "core/model/vlans.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QCheckBox>
#include <QComboBox>
#include <set>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

class PanelsTest : public QObject {
    Q_OBJECT

    /// The panel builds its form after the event that changed something, and lays it out
    /// after that.
    static void settle() {
        for (int i = 0; i < 3; ++i)
            QCoreApplication::processEvents();
    }
    static void enter(QWidget* field, const QString& text) {
        auto* line = qobject_cast<QLineEdit*>(field);
        QVERIFY(line);
        line->setFocus();
        line->selectAll();
        QTest::keyClicks(line, text);
        QTest::keyClick(line, Qt::Key_Return);
        settle();
    }
    static void select(WindowHarness& h, edit::Refs refs) {
        h.session().select(std::move(refs));
        settle();
    }

private Q_SLOTS:
    void lengths_are_written_and_read_as_where_the_person_lives() {
        QLocale::setDefault(QLocale(QLocale::German, QLocale::Germany));
        {
            WindowHarness h;
            h.openFirstOffice();
            const Link* link = h.network().linkAt({h.named("wall-1"), "X2"});
            QVERIFY(link && link->cable);
            select(h, {refTo(link->id)});
            auto* field = qobject_cast<QLineEdit*>(h.window->details().field("Length"));
            QVERIFY(field);
            enter(field, "12,75 m");
            QCOMPARE(h.network().cable(link->cable)->lengthMm, std::int64_t{12750});
            field = qobject_cast<QLineEdit*>(h.window->details().field("Length"));
            QCOMPARE(field->text(), QStringLiteral("12,75 m"));
        }
        QLocale::setDefault(QLocale::c());
    }

    void dates_are_written_as_where_the_person_lives_without_the_day_of_the_week() {
        const QDate date(2026, 11, 7);
        for (const auto& [language, written] :
             {std::pair(QLocale::C, QString("7 November 2026")),
              std::pair(QLocale::German, QString("7. November 2026")),
              std::pair(QLocale::Japanese, QString::fromUtf8("2026年11月7日"))}) {
            QLocale::setDefault(QLocale(language));
            QCOMPARE(app::shownDate(date), written);
        }
        QLocale::setDefault(QLocale(QLocale::English, QLocale::UnitedStates));
        QCOMPARE(app::shownDate(date), QString("November 7, 2026"));
        QLocale::setDefault(QLocale::c());
    }

    void the_command_table_is_sound() {
        std::set<QString> keys;
        int index = 0;
        for (const app::Command& command : app::commandTable()) {
            QCOMPARE(static_cast<int>(command.id), index++);
            QVERIFY(*command.text && *command.tip && *command.menu);
            for (const QString& key : QString::fromUtf8(command.keys).split(' ', Qt::SkipEmptyParts)) {
                QVERIFY2(!QKeySequence::fromString(key).isEmpty(), qPrintable(key));
                QVERIFY2(keys.insert(key).second, qPrintable(key));
            }
        }
    }

    void every_command_of_the_table_does_something() {
        WindowHarness h;
        QVERIFY(h.window->commands().missing().empty());
    }

    void menus_hold_every_command_with_a_tooltip() {
        WindowHarness h;
        std::set<QAction*> inMenus;
        for (auto* menu : h.window->menuBar()->findChildren<QMenu*>())
            for (QAction* action : menu->actions())
                inMenus.insert(action);
        for (const app::Command& command : app::commandTable()) {
            QVERIFY2(inMenus.contains(h.window->action(command.id)), command.text);
            QVERIFY(!h.window->action(command.id)->toolTip().isEmpty());
        }
    }

    void the_key_sheet_opens() {
        WindowHarness h;
        h.window->action(CommandId::keys)->trigger();
        QVERIFY(h.window->findChild<QDialog*>("keys")->isVisible());
    }

    void details_of_a_device_are_edited_each_in_one_step() {
        WindowHarness h;
        h.openFirstOffice();
        const DeviceId id = h.named("acc-1");
        select(h, {refTo(id)});
        enter(h.window->details().field("Name"), "acc-9");
        QCOMPARE(QString::fromStdString(h.network().device(id)->name), QStringLiteral("acc-9"));
        enter(h.window->details().field("Address"), "10.84.99.12/24");
        QCOMPARE(QString::fromStdString(firstAddress(h.network(), id).host()), QStringLiteral("10.84.99.12"));
        QTest::mouseClick(h.window->details().field("Outside, not ours"), Qt::LeftButton, {}, {8, 8});
        settle();
        QVERIFY(h.network().device(id)->outside);
        for (int i = 0; i < 3; ++i)
            h.session().undo();
        QCOMPARE(QString::fromStdString(h.network().device(id)->name), QStringLiteral("acc-1"));
        QVERIFY(!h.session().document().modified());
    }

    /// Plate, details and register speak of one address, and typing changes that one.
    void the_address_that_is_shown_is_the_one_that_is_edited() {
        WindowHarness h;
        h.openFirstOffice();
        const DeviceId id = h.named("acc-1");
        select(h, {refTo(id)});
        for (const bool portFirst : {false, true}) { // by id
            edit::Act act{"Set two addresses", h.network(), {refTo(id)}};
            std::vector<Key> held;
            h.network().all<Interface>().forEachIn(
                id.value, [&](const Interface& each) { held.push_back(each.key()); });
            for (const Key key : held)
                act.network.erase<Interface>(key);
            Interface own, ofPort;
            own.device = ofPort.device = id;
            own.id = {portFirst ? 2U : 1U};
            ofPort.id = {portFirst ? 1U : 2U};
            own.type = InterfaceKind::loopback;
            ofPort.type = InterfaceKind::physical;
            ofPort.port = "5";
            own.addresses = {"10.84.99.11/24"};
            ofPort.addresses = {"10.84.5.1/24"};
            act.network.put(own);
            act.network.put(ofPort);
            QVERIFY(h.session().apply(std::move(act)));
            settle();
            QCOMPARE(qobject_cast<QLineEdit*>(h.window->details().field("Address"))->text(),
                     QString("10.84.99.11/24"));
            QCOMPARE(QString::fromStdString(h.plate("acc-1").subline), QString("10.84.99.11"));
            enter(h.window->details().field("Address"), "10.84.99.12/24");
            QCOMPARE(QString::fromStdString(h.plate("acc-1").subline), QString("10.84.99.12"));
            int onPort = 0;
            h.network().all<Interface>().forEachIn(id.value, [&](const Interface& each) {
                onPort += each.port == "5" && each.addresses.front().text() == "10.84.5.1/24";
            });
            QCOMPARE(onPort, 1);
            h.session().undo();
            h.session().undo();
        }
    }

    void what_is_wrong_is_said_beside_the_field() {
        WindowHarness h;
        h.openFirstOffice();
        select(h, {refTo(h.named("acc-1"))});
        const Network before = h.network();
        enter(h.window->details().field("Address"), "10.84.999.1");
        QVERIFY(h.network() == before);
        bool told = false;
        for (auto* label : h.window->details().findChildren<QLabel*>("wrong"))
            told |= label->isVisible() && label->text().contains("10.84.999.1 is not an address");
        QVERIFY(told);
    }

    void what_is_being_typed_is_saved_too() {
        WindowHarness h;
        h.openFirstOffice();
        select(h, {refTo(h.named("acc-1"))});
        h.window->details().field("Note")->setFocus();
        h.type("Key at the gatehouse");
        h.path = h.folder.filePath("n.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->files().isSaving());
        QVERIFY(!h.window->isWindowModified());
        QVERIFY(h.files.read(h.path.toStdString())->find("gatehouse") != std::string::npos);
    }

    void details_of_a_link_change_cable_length_and_label() {
        WindowHarness h;
        h.openFirstOffice();
        const Link* link = h.network().linkAt({h.named("wall-1"), "X2"});
        const LinkId id = link->id;
        const CableId cable = link->cable;
        select(h, {refTo(id)});
        enter(h.window->details().field("Length"), "22,5 m");
        QCOMPARE(h.network().cable(cable)->lengthMm, std::int64_t{22500});
        enter(h.window->details().field("Length"), "far");
        QCOMPARE(h.network().cable(cable)->lengthMm, std::int64_t{22500});
        select(h, {refTo(id)});
        auto* box = qobject_cast<QComboBox*>(h.window->details().field("Cable"));
        QVERIFY(box && box->count() > 1);
        box->setFocus();
        QTest::keyClick(box, Qt::Key_Home);
        QTest::keyClick(box, Qt::Key_Up);
        Q_EMIT box->activated(0); // direct-attach needs least
        settle();
        QCOMPARE(QString::fromStdString(h.network().cable(cable)->type), QStringLiteral("dac-sfpp"));
    }

    void details_of_a_port_and_of_several() {
        WindowHarness h;
        h.openFirstOffice();
        const DeviceId id = h.named("acc-1");
        h.session().selectPort({id, "9"});
        settle();
        QTest::mouseClick(h.window->details().field("Reserved"), Qt::LeftButton, {}, {8, 8});
        settle();
        QVERIFY(h.network().port({id, "9"})->reserved);
        select(h, {refTo(h.named("desk-1")), refTo(h.named("print-1"))});
        enter(h.window->details().field("Names"), "room-{1..}");
        QVERIFY(h.named("room-1") && h.named("room-2"));
    }

    void several_endpoints_are_put_into_a_vlan_at_once() {
        WindowHarness h;
        h.openFennickQuay();
        select(h, {refTo(h.named("cam-hall-1")), refTo(h.named("cam-hall-2"))});
        auto* field = qobject_cast<QLineEdit*>(h.window->details().field("Untagged VLAN"));
        QVERIFY(field);
        QCOMPARE(field->text(), QString("20"));
        enter(field, "30");
        for (const char* name : {"cam-hall-1", "cam-hall-2"}) {
            const auto port = edit::accessPortOf(h.network(), h.named(name));
            const Interface* set = edit::interfaceNamed(h.network(), port->device, port->port);
            QCOMPARE(numberOf(h.network(), set->untagged), 30);
        }
        select(h, {refTo(h.named("cam-hall-1")), refTo(h.named("core-1"))}); // not clear for a switch
        QVERIFY(!h.window->details().field("Untagged VLAN"));
    }

    void the_outline_follows_the_sheet_and_the_sheet_the_outline() {
        WindowHarness h;
        h.openFirstOffice();
        auto* tabs = h.window->findChild<QTabWidget*>();
        tabs->setCurrentIndex(1);
        QTreeWidget& tree = h.window->outline().tree();
        h.session().select({refTo(h.named("phone-1"))});
        QCOMPARE(tree.selectedItems().size(), 1);
        QCOMPARE(tree.selectedItems().front()->text(0), QStringLiteral("phone-1"));
        h.window->outline().orderChoice().setCurrentIndex(1); // by role
        QTreeWidgetItem* other = tree.topLevelItem(0)->child(0);
        tree.scrollToItem(other);
        QTest::mouseClick(tree.viewport(), Qt::LeftButton, {}, tree.visualItemRect(other).center());
        QCOMPARE(h.session().selection().size(), std::size_t{1});
        QCOMPARE(h.session().nameOf(h.session().selection().front()), other->text(0));
    }

    void the_outline_shows_what_hangs_on_what_and_what_is_on_which_sheet() {
        WindowHarness h;
        h.openFirstOffice();
        h.window->findChild<QTabWidget*>()->setCurrentIndex(1);
        auto& outline = h.window->outline();
        const auto under = [&](const char* name) {
            QTreeWidgetItem* row = outline.rowOf(refTo(h.named(name)));
            return row && row->parent() ? row->parent()->text(0) : QString();
        };
        outline.orderChoice().setCurrentIndex(3);
        QCOMPARE(under("edge-1"), QString()); // the router is where it comes from
        QCOMPARE(under("phone-1"), QStringLiteral("acc-1"));
        QCOMPARE(under("desk-1"), QStringLiteral("phone-1"));
        h.network().forEachLinkOf(h.named("desk-1"), [&](const Link& link) {
            h.session().apply(edit::removeObjects(h.network(), {refTo(link.id)}));
        });
        QTRY_COMPARE(under("desk-1"), QString()); // follows links
        h.session().undo();
        outline.orderChoice().setCurrentIndex(2);
        QCOMPARE(under("desk-1"), QString::fromStdString(h.network().sheet(h.session().sheet())->name));
        h.session().select({refTo(h.named("phone-1"))});
        QCOMPARE(outline.tree().selectedItems().size(), 1);
    }

    void much_on_a_sheet_is_counted_without_anybody_waiting() {
        WindowHarness h;
        h.begin();
        const DeviceModel& phone = *h.session().catalogue().device("phone");
        std::vector<edit::Placed> placed;
        for (int i = 0; i < 900; ++i)
            placed.push_back({"phone-" + std::to_string(i), {i % 30 * 200, i / 30 * 100}});
        h.session().apply(
            edit::placeDevices(h.network(), h.session().sheet(), phone, placed, {}, h.session().ids()));
        h.session().select({});
        const auto says = [&](const char* words) {
            for (auto* each : h.window->details().findChildren<QAbstractButton*>())
                if (each->text() == QLatin1String(words) || each->accessibleName().contains(words))
                    return each;
            return static_cast<QAbstractButton*>(nullptr);
        };
        QTRY_VERIFY(says("900"));
        const DeviceId gone = h.named("phone-7");
        h.session().apply(edit::removeObjects(h.network(), {refTo(gone)}));
        h.session().select({});
        QTRY_VERIFY(says("899"));
        says("899")->click();
        QCOMPARE(h.session().selection().size(), std::size_t{899});
    }

    void rows_are_made_when_what_they_lie_in_is_opened() {
        WindowHarness h;
        h.begin();
        Network network = h.network();
        const GroupId hall = h.session().ids().make<GroupId>();
        Group group;
        group.id = hall;
        group.name = "Hall";
        network.put(group);
        const DeviceModel& phone = *h.session().catalogue().device("phone");
        network.put(phone);
        for (int i = 0; i < 3000; ++i) {
            Device device;
            device.id = h.session().ids().make<DeviceId>();
            device.name = "phone-" + std::to_string(i);
            device.model = phone.id;
            device.group = hall;
            network.put(std::move(device));
        }
        h.session().apply(edit::Act{"Many", network, {}});
        h.window->findChild<QTabWidget*>()->setCurrentIndex(1);
        auto& outline = h.window->outline();
        QTreeWidgetItem* row = outline.rowOf(refTo(hall));
        QTRY_VERIFY((row = outline.rowOf(refTo(hall))));
        QCOMPARE(row->childCount(), 0);
        QVERIFY(!row->isExpanded());
        outline.tree().setFocus();
        outline.tree().setCurrentItem(row);
        QTest::keyClick(&outline.tree(), Qt::Key_Right);
        QCOMPARE(row->childCount(), 3000);
        h.session().select({refTo(h.named("phone-77"))});
        QCOMPARE(outline.tree().selectedItems().front()->text(0), QStringLiteral("phone-77"));
    }

    void the_catalogue_is_searched_and_has_an_empty_state() {
        WindowHarness h;
        h.begin();
        auto& panel = h.window->catalogue();
        QTest::keyClicks(&panel.search(), "de-9");
        int models = 0;
        for (int i = 0; i < panel.list().count(); ++i)
            models += panel.list().item(i)->flags().testFlag(Qt::ItemIsEnabled);
        QCOMPARE(models, 2);
        panel.search().setText("zeppelin");
        QVERIFY(!panel.list().isVisible());
    }

    void the_camera_keeps_the_point_under_the_pointer_and_fits() {
        app::Camera camera;
        camera.setViewport({800, 600});
        camera.look({100, 50}, 1);
        const QPointF pixel(700, 80);
        const auto before = camera.toSheet(pixel);
        camera.zoomAt(pixel, 1.7);
        QVERIFY(length(camera.toSheet(pixel) - before) < 1e-6);
        camera.fit({-5000, -300, 10000, 600});
        QVERIFY(camera.visible().contains(scene::Rect{-5000, -300, 10000, 600}));
        camera.zoomAt({0, 0}, 1e-9);
        QCOMPARE(camera.zoom(), app::Camera::minZoom);
        camera.look({0, 0}, 1);
        camera.reveal({5000, 0, 100, 40});
        QVERIFY(camera.visible().contains(scene::Rect{5000, 0, 100, 40}));
    }

    void tiles_show_the_latest_scene_once_they_are_ready() {
        WindowHarness h;
        h.openFirstOffice();
        const auto pictureNow = [&] {
            QImage image = h.sheet().grab().toImage();
            for (int i = 0; i < 200 && !h.sheet().tilesComplete(); ++i) {
                QTest::qWait(5);
                image = h.sheet().grab().toImage();
            }
            return image;
        };
        const QColor spine = h.window->theme().theme().spine(Role::switch_);
        const QPoint on = h.at({h.plate("acc-1").frame.x + 3, h.plate("acc-1").frame.y + 22});
        QCOMPARE(QColor(pictureNow().pixel(on)).name(), spine.name());
        h.session().select({});
        h.session().apply(edit::removeObjects(h.network(), {refTo(h.named("acc-1"))}));
        QVERIFY(QColor(pictureNow().pixel(on)).name() != spine.name());
        QVERIFY(h.sheet().tilesComplete());
    }

    void the_locator_looks_where_it_is_pressed() {
        WindowHarness h;
        h.openFirstOffice();
        h.sheet().look({0, 0}, 3);
        QTest::mouseClick(&h.sheet().locator(), Qt::LeftButton, {}, h.sheet().locator().rect().center());
        QVERIFY(length(h.sheet().camera().centre() - h.session().scene().bounds().centre()) < 16);
    }
};

UNDERRIDGE_TEST(PanelsTest)
#include "panels_test.moc"
