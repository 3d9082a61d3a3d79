// SPDX-License-Identifier: GPL-3.0-or-later
// Plans in the real window: choosing one, drawing on it, measuring.
#include "app/plans/plan_dialog.h"
#include "app/plans/scale_dialog.h"
#include "core/edit/groups.h"
#include "paint/plan_pictures.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// The first office with its desks on a floor.
struct Upstairs : WindowHarness {
    Upstairs() {
        openFirstOffice();
        auto act = edit::makeGroup(network(), session().sheet(), "Upstairs", GroupKind::floor,
                                   {refTo(named("desk-1")), refTo(named("phone-1"))}, {}, session().ids());
        floor = {act->subjects.front().id};
        session().apply(std::move(act));
        session().select({refTo(floor)});
    }
    void choosePlan(const QString& name) {
        onDialog<app::PlanDialog>([name](app::PlanDialog& dialog) {
            const auto found = dialog.list().findItems(name, Qt::MatchExactly);
            if (found.isEmpty())
                return false;
            dialog.list().setCurrentItem(found.front());
            return dialog.act().isEnabled();
        });
        window->action(CommandId::plan)->trigger();
        wait();
    }
    const Group& group() { return *network().group(floor); }
    const Sheet& shown() { return *network().sheet(session().sheet()); }

    GroupId floor;
};

} // namespace

class PlanWindowTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_plan_from_the_library_comes_under_a_floor_and_its_sheet_is_shown() {
        Upstairs h;
        h.choosePlan("Office floor");
        QVERIFY(h.group().plan);
        QCOMPARE(h.group().planMmPerPixel, 50.0);
        QVERIFY(h.group().planInk);
        QCOMPARE(h.shown().shows, h.floor);
        QVERIFY(h.shown().mmPerUnit > 0);
        QCOMPARE(h.session().scene().count<scene::PlanPicture>(), std::size_t{1});
        // What is put down there stands there, and moving it moves the place.
        h.choose("Camera");
        h.click(h.at({400, 200}));
        h.key(Qt::Key_Escape);
        const auto devices = h.session().selected().devices();
        QCOMPARE(devices.size(), std::size_t{1});
        const Device placed = *h.network().device(devices.front());
        QCOMPARE(placed.place.in, h.floor);
        const QPoint at = h.middle(placed.name.c_str());
        h.drag(at, at + QPoint(60, 0), Qt::ControlModifier);
        QVERIFY(h.network().device(placed.id)->place.xMm > placed.place.xMm);
        h.session().undo();
        QCOMPARE(h.network().device(placed.id)->place.xMm, placed.place.xMm);
    }
    void all_that_ship_can_be_read_and_drawn() {
        MemoryFiles files;
        const app::PlanLibrary library(files, {});
        const auto plans = library.all();
        QCOMPARE(plans.size(), std::size_t{5});
        for (const app::LibraryPlan& plan : plans) {
            const auto picture = library.read(plan);
            QVERIFY2(picture, qPrintable(plan.name));
            QVERIFY(app::PlanLibrary::usualScale(plan, *picture) * picture->width > 10'000);
            const QImage small = paint::smallPicture(QByteArray::fromStdString(picture->bytes), {200, 200});
            int ink = 0;
            for (int y = 0; y < small.height(); ++y)
                for (int x = 0; x < small.width(); ++x)
                    ink += qAlpha(small.pixel(x, y)) > 30;
            QVERIFY2(ink > 500, qPrintable(plan.name));
        }
    }
    void new_networks_begin_with_the_plan_chosen_for_them() {
        Upstairs h;
        const auto choose = [&](bool forNew) {
            h.session().select({refTo(h.floor)});
            h.onDialog<app::PlanDialog>([forNew](app::PlanDialog& dialog) {
                dialog.list().setCurrentItem(dialog.list().findItems("Hall", Qt::MatchExactly).front());
                if (dialog.forNew().isChecked() == forNew)
                    return false;
                QTest::mouseClick(&dialog.forNew(), Qt::LeftButton, {},
                                  QPoint(8, dialog.forNew().height() / 2));
                return dialog.forNew().isChecked() == forNew;
            });
            h.window->action(CommandId::plan)->trigger();
            h.wait();
        };
        choose(true);
        h.window->action(CommandId::newNetwork)->trigger();
        h.wait();
        QCOMPARE(h.network().all<Group>().size(), std::size_t(1));
        const auto sheets = h.network().sheetsInOrder();
        QCOMPARE(sheets.size(), std::size_t(2));
        QVERIFY(sheets.back().mmPerUnit > 0);
        QVERIFY(!h.session().document().modified());
        h.openFirstOffice();
        auto act = edit::makeGroup(h.network(), h.session().sheet(), "Upstairs", GroupKind::floor,
                                   {refTo(h.named("desk-1"))}, {}, h.session().ids());
        h.floor = {act->subjects.front().id};
        h.session().apply(std::move(act));
        choose(false);
        h.window->action(CommandId::newNetwork)->trigger();
        h.wait();
        QCOMPARE(h.network().all<Group>().size(), std::size_t(0));
    }
    void a_file_is_added_to_the_library_once() {
        Upstairs h;
        QTemporaryDir folder;
        const QString path = folder.filePath("yard.png");
        QImage image(600, 300, QImage::Format_RGB32);
        image.fill(Qt::white);
        QVERIFY(image.save(path));
        DiskFiles files;
        app::PlanLibrary library(files, folder.filePath("kept"));
        QVERIFY(library.add(path));
        QVERIFY(library.add(path));
        QCOMPARE(library.all().size(), std::size_t{6});
        const auto own = library.all().front();
        QCOMPARE(own.name, "yard");
        QCOMPARE(app::PlanLibrary::usualScale(own, *library.read(own)), 100.0);
        QVERIFY(!library.add(folder.filePath("nowhere.png")));
        QVERIFY(!library.remove(library.all().back())); // it ships with the program
        QVERIFY(library.remove(own));
        QCOMPARE(library.all().size(), std::size_t{5});
    }
    void what_is_no_picture_is_said_in_the_dialog() {
        Upstairs h;
        QTemporaryDir folder;
        const QString path = folder.filePath("letter.svg");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("dear all");
        file.close();
        h.onDialog<app::PlanDialog>([path](app::PlanDialog& dialog) {
            dialog.addFile(path);
            return !dialog.says().contains("no picture"); // it is: the dialog is left
        });
        h.window->action(CommandId::plan)->trigger();
        QVERIFY(!h.group().plan);
    }
    void a_known_distance_sets_the_scale() {
        Upstairs h;
        h.choosePlan("Hall");
        const double before = h.group().planMmPerPixel;
        QVERIFY(h.window->action(CommandId::measurePlan)->isEnabled());
        QString said;
        h.onDialog<app::ScaleDialog>([&](app::ScaleDialog& dialog) {
            said = dialog.field().text();
            dialog.field().setText("nonsense");
            if (dialog.act().isEnabled())
                return false;
            dialog.field().setText("20 m");
            return dialog.act().isEnabled();
        });
        h.window->action(CommandId::measurePlan)->trigger();
        const QPoint from = h.at({100, 100});
        h.drag(from, h.at({500, 100})); // 400 units are 10 m
        h.wait();
        QVERIFY2(qAbs(said.section(' ', 0, 0).toDouble() - 10) < 0.3, qPrintable(said));
        QVERIFY2(qAbs(h.group().planMmPerPixel / before - 2) < 0.06,
                 qPrintable(QString::number(h.group().planMmPerPixel)));
        h.session().undo();
        QCOMPARE(h.group().planMmPerPixel, before);
    }
    void measuring_is_given_up_by_escape_and_a_click_measures_nothing() {
        Upstairs h;
        h.choosePlan("Hall");
        h.window->action(CommandId::measurePlan)->trigger();
        QVERIFY(h.sheet().inGesture());
        h.click(h.at({100, 100}));
        QVERIFY(h.sheet().inGesture());
        h.sheet().setFocus();
        h.key(Qt::Key_Escape);
        h.key(Qt::Key_Escape);
        QVERIFY(!h.sheet().inGesture());
    }
    void the_plan_is_changed_in_the_details_and_taken_away() {
        Upstairs h;
        h.choosePlan("Hall");
        h.session().select({refTo(h.floor)});
        QTRY_VERIFY(h.window->details().field("Width"));
        auto* width = qobject_cast<QLineEdit*>(h.window->details().field("Width"));
        QVERIFY(width);
        QCOMPARE(width->text(), "60 m");
        width->setFocus();
        width->selectAll();
        h.type("30 m");
        h.key(Qt::Key_Return);
        QCOMPARE(h.group().planMmPerPixel, 25.0);
        QTRY_VERIFY(h.window->details().field("Width"));
        width = qobject_cast<QLineEdit*>(h.window->details().field("Width"));
        width->setFocus();
        width->selectAll();
        h.type("1:96"); // 96 pixels an inch
        h.key(Qt::Key_Return);
        QCOMPARE(h.group().planMmPerPixel, 25.4);
        QTRY_VERIFY(h.window->details().field("Take the plan away"));
        auto* take = h.window->details().field("Take the plan away");
        QTest::mouseClick(take, Qt::LeftButton);
        QVERIFY(!h.group().plan);
        QCOMPARE(h.session().scene().count<scene::PlanPicture>(), std::size_t{0});
    }
    void ink_takes_the_colour_of_the_theme() {
        scene::PlanPicture plan;
        plan.asset = {4711};
        plan.media = "image/svg+xml";
        plan.parts = {SharedText(exchange::toBase64("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 10 "
                                                    "10'><rect width='10' height='10'/></svg>"))};
        plan.frame = {10, 10, 40, 40};
        plan.ink = true;
        const auto drawn = [&](const paint::Theme& theme) {
            QImage image(60, 60, QImage::Format_ARGB32_Premultiplied);
            image.fill(theme.sheet);
            QPainter painter(&image);
            paint::drawPlan(painter, plan, {0, 0, 60, 60}, theme);
            return image;
        };
        QCOMPARE(drawn(paint::darkTheme()).pixelColor(30, 30), paint::darkTheme().ink);
        QCOMPARE(drawn(paint::lightTheme()).pixelColor(30, 30), paint::lightTheme().ink);
        QCOMPARE(drawn(paint::lightTheme()).pixelColor(5, 5), paint::lightTheme().sheet);
        plan.ink = false;
        QCOMPARE(drawn(paint::darkTheme()).pixelColor(30, 30), QColor(Qt::black));
        plan.dim = 90;
        QVERIFY(drawn(paint::lightTheme()).pixelColor(30, 30).lightness() > 200);
    }
};

UNDERRIDGE_TEST(PlanWindowTest)
#include "plan_window_test.moc"
