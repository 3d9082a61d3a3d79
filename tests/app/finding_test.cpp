// SPDX-License-Identifier: GPL-3.0-or-later
// Finding and filtering in the real window.
#include "app/carried.h"
#include "app/find/filter_bar.h"
#include "app/find/find_field.h"
#include "app/sheets/missing_panel.h"
#include "core/edit/groups.h"
#include "core/edit/sheets.h"
#include "core/scene/scene.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QMimeData>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

struct Quay : WindowHarness {
    Quay() {
        openFennickQuay();
        sheet().setFocus();
    }
    app::FindField& field() { return window->find(); }
    QStringList lines() {
        QStringList out;
        for (int i = 0; i < field().results().count(); ++i)
            out << field().results().item(i)->text();
        return out;
    }
    void look(const QString& text) {
        key(Qt::Key_F, Qt::ControlModifier);
        field().clear();
        type(text);
    }
    Role role(DeviceId id) { return roleOf(network(), *network().device(id)); }
    int faint() {
        int count = 0;
        session().scene().forEachItem([&](const scene::Item& item) { count += item.faint; });
        return count;
    }
    const Sheet& shown() { return *network().sheet(session().sheet()); }
};

} // namespace

class FindingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // ---- find ----

    void a_model_stands_for_its_devices() {
        Quay h;
        h.look("access switch 24");
        const QStringList lines = h.lines();
        const auto line = std::find_if(lines.begin(), lines.end(), [](const QString& each) {
            return each.startsWith("Access switch 24 · ") && each.contains("device");
        });
        QVERIFY2(line != lines.end(), qPrintable(lines.join('|')));
        h.field().results().setCurrentRow(static_cast<int>(line - lines.begin()));
        h.key(Qt::Key_Return);
        QCOMPARE(h.field().text(), QStringLiteral("model:\"Access switch 24\""));
        int all = 0;
        h.network().all<Device>().forEach(
            [&](const Device& device) { all += h.network().modelOf(device)->name == "Access switch 24"; });
        h.key(Qt::Key_Return, Qt::ControlModifier);
        QCOMPARE(static_cast<int>(h.session().selected().devices().size()), all);
        QVERIFY(all > 1);
    }

    void a_completion_is_taken_and_the_field_goes_on() {
        Quay h;
        h.look("role:cam");
        QVERIFY2(h.lines().contains("camera"), qPrintable(h.lines().join('|')));
        h.key(Qt::Key_Return);
        QCOMPARE(h.field().text(), "role:camera");
        QVERIFY(h.field().results().isVisible());
        QVERIFY(h.lines().contains("Devices"));
        h.key(Qt::Key_Return); // the first camera
        QCOMPARE(h.session().selected().devices().size(), std::size_t{1});
        QCOMPARE(h.role(h.session().selected().devices().front()), Role::camera);
        QVERIFY(h.field().text().isEmpty());
    }
    void ctrl_enter_selects_all_that_is_found() {
        Quay h;
        h.look("role:camera in:concourse");
        h.key(Qt::Key_Return, Qt::ControlModifier);
        const auto devices = h.session().selected().devices();
        QVERIFY(devices.size() >= 3);
        for (const DeviceId id : devices)
            QCOMPARE(h.role(id), Role::camera);
        QVERIFY(!h.field().results().isVisible());
    }
    void what_is_wrong_is_said_where_it_is() {
        Quay h;
        h.look("role:camera free-ports>many");
        QVERIFY2(!h.lines().filter("At 24: many is no number").isEmpty(), qPrintable(h.lines().join('|')));
        h.key(Qt::Key_Return);
        QVERIFY(h.field().hasFocus()); // nothing to go to
    }
    void a_role_by_its_name_is_offered_as_a_filter() {
        Quay h;
        h.look("camera");
        QVERIFY2(!h.lines().filter("role:camera").isEmpty(), qPrintable(h.lines().join('|')));
    }
    void the_last_finds_come_again() {
        Quay h;
        h.look("till-4");
        h.key(Qt::Key_Return);
        h.look("acc-c1");
        h.key(Qt::Key_Return);
        h.sheet().setFocus();
        h.key(Qt::Key_F, Qt::ControlModifier);
        QCOMPARE(h.lines(), (QStringList{"Found last", "acc-c1", "till-4"}));
        h.key(Qt::Key_Down);
        h.key(Qt::Key_Return);
        QCOMPARE(h.field().text(), "till-4");
        h.key(Qt::Key_Return);
        QVERIFY(h.session().selected().contains(refTo(h.named("till-4"))));
    }
    void a_subnet_leads_to_the_devices_in_it() {
        Quay h;
        h.look("10.84.20.0/24");
        const QStringList found = h.lines();
        QVERIFY2(found.contains("Addresses") && found.contains("VLANs and subnets"),
                 qPrintable(found.join('|')));
    }
    void what_was_gone_to_is_marked_until_something_else_is_selected() {
        Quay h;
        h.look("cam-quay-1");
        h.key(Qt::Key_Return);
        QCOMPARE(h.sheet().mark().object(), refTo(h.named("cam-quay-1")));
        QVERIFY(!h.sheet().mark().isDrawingIn()); // no motion here
        h.session().select({refTo(h.named("acc-c1"))});
        QCOMPARE(h.sheet().mark().object().kind, Kind::unknown);
    }
    void with_motion_the_mark_draws_in_and_the_view_flies() {
        Quay h;
        h.sheet().setMotion(true);
        h.look("cam-quay-1");
        h.key(Qt::Key_Return);
        QVERIFY(h.sheet().mark().isDrawingIn());
        QTRY_VERIFY_WITH_TIMEOUT(!h.sheet().mark().isDrawingIn(), 3000);
        QCOMPARE(h.sheet().mark().object(), refTo(h.named("cam-quay-1")));
    }

    // ---- flights ----

    void a_flight_keeps_what_is_the_same_in_both_views_where_it_is() {
        app::Camera from, to;
        from.setViewport({800, 600});
        to.setViewport({800, 600});
        from.look({0, 0}, 0.2);
        to.look({1000, 500}, 1);
        QCOMPARE(app::Flight::between(from, to, 0).centre().x, 0.0);
        QCOMPARE(app::Flight::between(from, to, 1).centre().x, 1000.0);
        QCOMPARE(app::Flight::between(from, to, 1).zoom(), 1.0);
        // The sheet point seen at the same pixel by both stays there all the way.
        const double k = (1 / 0.2) / (1 / 0.2 - 1.0);
        const scene::PointF fixed{1000 * k, 500 * k};
        const QPointF at = from.toScreen(fixed);
        for (const double part : {0.2, 0.5, 0.9}) {
            const QPointF now = app::Flight::between(from, to, part).toScreen(fixed);
            QVERIFY2(QLineF(at, now).length() < 0.01, qPrintable(QString::number(QLineF(at, now).length())));
        }
        double last = 0.2;
        for (int i = 1; i <= 10; ++i) {
            const double zoom = app::Flight::between(from, to, i / 10.0).zoom();
            QVERIFY(zoom > last);
            last = zoom;
        }
    }
    void entering_begins_where_the_group_was_and_any_gesture_ends_the_flight() {
        WindowHarness h;
        h.openFirstOffice();
        auto act =
            edit::makeGroup(h.network(), h.session().sheet(), "Office", GroupKind::room,
                            {refTo(h.named("desk-1")), refTo(h.named("phone-1"))}, {}, h.session().ids());
        const GroupId group{act->subjects.front().id};
        h.session().apply(std::move(act));
        h.sheet().fitAll();
        h.sheet().setMotion(true);
        const auto place = [&] {
            return h.sheet().onScreen(scene::frameOf(*h.session().scene().item(refTo(group))));
        };
        const QRectF before = place();
        h.session().navigation().enter(group);
        QVERIFY(h.sheet().isFlying());
        QVERIFY2(QLineF(place().center(), before.center()).length() < 2, "it begins where it was");
        QTRY_VERIFY_WITH_TIMEOUT(!h.sheet().isFlying(), 3000);
        QVERIFY(place().width() > before.width());
        h.session().navigation().leaveGroup();
        QVERIFY(h.sheet().isFlying());
        h.sheet().zoomBy(1.1);
        QVERIFY(!h.sheet().isFlying());
    }

    // ---- the filter of a sheet ----

    void a_sheet_is_filtered_says_so_and_is_shown_whole_again() {
        Quay h;
        app::FilterBar& bar = h.window->filter();
        QVERIFY(!bar.isVisible());
        h.key(Qt::Key_F, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(bar.isVisible() && bar.field().hasFocus());
        h.type("role:camera");
        QVERIFY2(bar.says().contains(QRegularExpression("^[0-9]+ of [0-9]+ devices$")),
                 qPrintable(bar.says()));
        QCOMPARE(h.faint(), 0); // typing alone changes nothing
        h.key(Qt::Key_Return);
        QCOMPARE(h.shown().filter, std::string("role:camera"));
        QVERIFY(h.faint() > 20);
        QVERIFY(h.session().scene().plate(h.named("acc-c1"))); // faint, but there
        QVERIFY(bar.isVisible());
        // Hidden instead.
        bar.how().setCurrentIndex(1);
        Q_EMIT bar.how().activated(1);
        QVERIFY(!h.session().scene().plate(h.named("acc-c1")));
        QVERIFY(h.session().scene().plate(h.named("cam-quay-1")));
        QVERIFY2(bar.says().contains("hidden"), qPrintable(bar.says()));
        // What becomes one is found.
        const auto before = h.session().scene().count<scene::Plate>();
        h.session().apply(edit::rename(h.network(), {refTo(h.named("cam-quay-1"))}, {"cam-x"}));
        QCOMPARE(h.session().scene().count<scene::Plate>(), before);
        QTest::mouseClick(&bar.off(), Qt::LeftButton);
        QVERIFY(!bar.isVisible());
        QVERIFY(h.shown().filter.empty());
        QCOMPARE(h.faint(), 0);
        QVERIFY(h.session().scene().plate(h.named("acc-c1")));
        h.window->action(CommandId::undo)->trigger();
        QVERIFY(bar.isVisible());
        QCOMPARE(bar.field().text(), "role:camera");
    }
    void a_filter_that_cannot_be_read_stays_in_its_field() {
        Quay h;
        app::FilterBar& bar = h.window->filter();
        h.key(Qt::Key_F, Qt::ControlModifier | Qt::ShiftModifier);
        h.type("role:camera (");
        h.key(Qt::Key_Return);
        QVERIFY(h.shown().filter.empty());
        QVERIFY(bar.field().hasFocus());
        QVERIFY2(bar.says().contains("not closed"), qPrintable(bar.says()));
        h.key(Qt::Key_Escape);
        QVERIFY(!bar.isVisible());
        QVERIFY(h.sheet().hasFocus());
    }
    void saving_takes_a_filter_that_is_typed() {
        Quay h;
        h.path = h.folder.filePath("q.underridge");
        h.key(Qt::Key_F, Qt::ControlModifier | Qt::ShiftModifier);
        h.type("role:switch");
        h.window->action(CommandId::save)->trigger();
        h.wait();
        QCOMPARE(h.shown().filter, std::string("role:switch"));
    }
    void what_is_typed_in_the_filter_outlives_other_changes_and_is_taken_on_leaving() {
        Quay h;
        app::FilterBar& bar = h.window->filter();
        const SheetId first = h.session().sheet();
        h.session().apply(edit::setSheetFilter(h.network(), first, "role:switch", false));
        bar.field().setFocus();
        bar.field().selectAll();
        h.type("role:camera");
        h.session().apply(edit::rename(h.network(), {refTo(h.named("cam-quay-1"))}, {"cam-x"})); // meanwhile
        QCOMPARE(bar.field().text(), "role:camera");
        for (const Sheet& sheet : h.network().sheetsInOrder())
            if (sheet.name == "Routing")
                h.session().showSheet(sheet.id);
        QCOMPARE(h.network().sheet(first)->filter, std::string("role:camera"));
        QVERIFY(h.shown().filter.empty());
    }
    void fields_and_values_are_completed_in_the_filter() {
        Quay h;
        h.key(Qt::Key_F, Qt::ControlModifier | Qt::ShiftModifier);
        h.type("role:ca");
        QVERIFY2(h.window->filter().field().offered().contains("role:camera"),
                 qPrintable(h.window->filter().field().offered().join('|')));
        h.type("mera");
        QVERIFY(h.window->filter().field().offered().isEmpty()); // it stands there
    }
    void each_sheet_has_its_own_filter() {
        Quay h;
        const SheetId first = h.session().sheet();
        h.session().apply(edit::setSheetFilter(h.network(), first, "role:switch", false));
        QVERIFY(h.window->filter().isVisible());
        SheetId other;
        for (const Sheet& sheet : h.network().sheetsInOrder())
            if (sheet.id != first && sheet.filter.empty())
                other = sheet.id;
        h.session().showSheet(other);
        QVERIFY(!h.window->filter().isVisible());
        h.session().showSheet(first);
        QVERIFY(h.window->filter().isVisible());
        QCOMPARE(h.window->filter().field().text(), "role:switch");
    }
    void a_filter_by_findings_follows_the_checks() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().apply(edit::setSheetFilter(h.network(), h.session().sheet(), "finding:any", true));
        QTRY_VERIFY(h.window->checker().isCurrent());
        const auto quiet = h.session().scene().count<scene::Plate>();
        const DeviceId device = h.named("desk-1");
        PortRef port;
        h.network().forEachLinkOf(
            device, [&](const Link& link) { port = link.a.device == device ? link.a : link.b; });
        h.session().apply(edit::changePort(h.network(), port, "Disable", [](Port& p) { p.disabled = true; }));
        QTRY_VERIFY(h.session().scene().count<scene::Plate>() > quiet);
    }
    // ---- what is not on the sheet ----

    void what_is_not_on_a_sheet_waits_counted_and_is_put_there() {
        Quay h;
        for (const Sheet& sheet : h.network().sheetsInOrder())
            if (sheet.name == "Routing")
                h.session().showSheet(sheet.id);
        const auto before = h.session().scene().count<scene::Plate>();
        h.window->action(CommandId::showMissing)->trigger();
        auto& panel = h.window->missing();
        QVERIFY(panel.isVisible());
        QCOMPARE(static_cast<std::size_t>(panel.count()), h.devices() - before);
        const auto found = panel.list().findItems("acc-c1 ·", Qt::MatchStartsWith);
        QCOMPARE(found.size(), 1);
        found.front()->setSelected(true);
        panel.list().setFocus();
        panel.list().setCurrentItem(found.front());
        h.key(Qt::Key_Return);
        QCOMPARE(h.session().scene().count<scene::Plate>(), before + 1);
        QVERIFY(h.session().scene().plate(h.named("acc-c1")));
        QVERIFY(h.session().selected().contains(refTo(h.named("acc-c1"))));
        QTRY_COMPARE(static_cast<std::size_t>(panel.count()), h.devices() - before - 1);
        h.session().undo();
        QCOMPARE(h.session().scene().count<scene::Plate>(), before);
        QTest::mouseClick(&panel.putAll(), Qt::LeftButton);
        QTRY_COMPARE(panel.count(), 0);
        QCOMPARE(h.session().scene().count<scene::Plate>(), h.devices());
    }
    void dragged_from_the_strip_it_is_drawn_where_it_is_dropped() {
        Quay h;
        for (const Sheet& sheet : h.network().sheetsInOrder())
            if (sheet.name == "Routing")
                h.session().showSheet(sheet.id);
        QMimeData data;
        app::carry(data, {h.named("acc-c1"), {17}});
        const QPoint at(200, 150);
        QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&h.sheet(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent drop(at, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(&h.sheet(), &drop);
        const scene::Plate* plate = h.session().scene().plate(h.named("acc-c1"));
        QVERIFY(plate);
        QVERIFY(QLineF(h.at({plate->frame.x, plate->frame.y}), at).length() < 3);
    }
    void registers_take_the_same_language() {
        Quay h;
        h.window->registers().show(edit::Register::devices);
        auto& panel = h.window->registers();
        panel.filter().setText("role:camera in:concourse");
        QVERIFY(panel.model().rowCount() >= 3);
        QVERIFY(panel.model().rowCount() < 20);
        panel.filter().setText("role:nothing:");
        QCOMPARE(panel.model().rowCount(), 0);
        panel.filter().setText("free-ports>x");
        QVERIFY2(panel.counts().contains("no number"), qPrintable(panel.counts()));
        QCOMPARE(static_cast<std::size_t>(panel.model().rowCount()), panel.model().allRows());
        panel.filter().setText("quay cam"); // words as ever
        QVERIFY(panel.model().rowCount() >= 1);
        panel.show(edit::Register::links);
        panel.filter().setText("medium:fibre length>100m");
        QVERIFY(panel.model().rowCount() > 0);
        panel.show(edit::Register::ports);
        panel.filter().setText("is:free name:acc-c1");
        QVERIFY(panel.model().rowCount() > 0);
    }
};

UNDERRIDGE_TEST(FindingTest)
#include "finding_test.moc"
