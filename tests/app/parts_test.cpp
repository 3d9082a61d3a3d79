// SPDX-License-Identifier: GPL-3.0-or-later
// The parts of a window, each without one: work in the background, the status line,
// looking at a surface, tiles, choosing files, counting in words.
#include "app/dialogs/file_dialogs.h"
#include "app/jobs/jobs.h"
#include "app/plurals.h"
#include "app/session/when_done.h"
#include "app/sheet/surface.h"
#include "app/window/status_line.h"
#include "core/edit/document.h"
#include "paint/theme.h"
#include "tests/support/first_office.h"
#include "tests/support/registered.h"

#include <QFileDialog>
#include <QLabel>
#include <QNativeGestureEvent>
#include <QPainter>
#include <QPointingDevice>
#include <QPushButton>
#include <QSettings>
#include <QSignalSpy>
#include <QTemporaryDir>
#include <QTranslator>
#include <QWheelEvent>
#include <semaphore>

using namespace underridge;
using namespace underridge::model;
using app::Wanted;
using scene::PointF;
using scene::Rect;

namespace {

/// Work that goes on until it is let go.
struct Held {
    std::binary_semaphore go{0};
    std::atomic<bool> wantedAtTheEnd = true;

    std::function<int(const Wanted&)> work(int result) {
        return [this, result](const Wanted& wanted) {
            go.acquire();
            wantedAtTheEnd = wanted->load();
            return result;
        };
    }
};

/// A surface that shows squares of a colour for each sheet unit square of 100.
class Squares : public app::Surface {
public:
    Squares() : Surface(nullptr) {
        resize(800, 600);
        show();
    }
    app::TileCache& cache() { return tiles(); }
    using Surface::beginPan;
    using Surface::endPan;
    using Surface::holdSpace;
    using Surface::panTo;
    using Surface::releaseSpace;
};

void wheel(QWidget& on, QPointF at, QPoint pixels, QPoint angle, const QPointingDevice* device,
           Qt::KeyboardModifiers modifiers = {}) {
    QWheelEvent event(at, on.mapToGlobal(at), pixels, angle, Qt::NoButton, modifiers, Qt::NoScrollPhase,
                      false, Qt::MouseEventNotSynthesized, device);
    QApplication::sendEvent(&on, &event);
}

QMouseEvent mouse(QEvent::Type type, QPointF at, Qt::MouseButton button) {
    return {type, at, at, button, button, {}};
}

} // namespace

class PartsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // --- work in the background -------------------------------------------------

    void what_a_job_makes_is_told_on_this_thread_and_once() {
        app::Jobs jobs;
        std::thread::id madeOn, toldOn;
        std::vector<int> told;
        jobs.run<int>(
            "Counting",
            [&](const Wanted&) {
                madeOn = std::this_thread::get_id();
                return 7;
            },
            [&](int made) {
                toldOn = std::this_thread::get_id();
                told.push_back(made);
            });
        QVERIFY(jobs.busy());
        QVERIFY(told.empty()); // not before this returns
        QTRY_VERIFY(!jobs.busy());
        QCOMPARE(told, std::vector<int>{7});
        QVERIFY(madeOn != toldOn);
        QCOMPARE(toldOn, std::this_thread::get_id());
    }

    void short_work_is_not_told_of_and_long_work_can_be_given_up() {
        app::Jobs jobs;
        QSignalSpy changed(&jobs, &app::Jobs::changed);
        bool done = false;
        jobs.run<int>(
            "Quick", [](const Wanted&) { return 1; }, [&](int) { done = true; });
        QTRY_VERIFY(done);
        QCOMPARE(changed.count(), 0);
        QVERIFY(jobs.words().isEmpty());

        Held held;
        bool told = false, givenUp = false;
        jobs.run<int>(
            "Reading quay", held.work(1), [&](int) { told = true; }, [&] { givenUp = true; });
        QVERIFY(jobs.words().isEmpty());
        QTRY_COMPARE(jobs.words(), QStringLiteral("Reading quay"));
        jobs.cancel();
        QVERIFY(givenUp); // at once, though the thread still runs
        QVERIFY(jobs.words().isEmpty() && !jobs.busy());
        held.go.release();
        QTRY_VERIFY(!held.wantedAtTheEnd);
        QTest::qWait(20);
        QVERIFY(!told); // what it made is dropped
        jobs.cancel();  // and there is nothing more to give up
    }

    void the_latest_of_several_is_told_of_and_given_up_first() {
        app::Jobs jobs;
        Held first, second;
        QStringList ended;
        jobs.run<int>("First", first.work(1), [&](int) { ended << "first"; });
        jobs.run<int>(
            "Second", second.work(2), [&](int) { ended << "second"; }, [&] { ended << "not second"; });
        QTRY_COMPARE(jobs.words(), QStringLiteral("Second"));
        jobs.cancel();
        QCOMPARE(jobs.words(), QStringLiteral("First"));
        first.go.release();
        second.go.release();
        QTRY_VERIFY(!jobs.busy());
        QCOMPARE(ended, (QStringList{"not second", "first"}));
    }

    void a_window_that_goes_takes_its_work_along() {
        Held held;
        bool told = false;
        {
            app::Jobs jobs;
            jobs.run<int>("Reading", held.work(1), [&](int) { told = true; });
            std::thread([&held] {
                std::this_thread::sleep_for(std::chrono::milliseconds(20));
                held.go.release();
            }).detach();
        }
        QVERIFY(!held.wantedAtTheEnd);
        QCoreApplication::processEvents();
        QVERIFY(!told);
    }

    void who_wants_to_know_how_it_ended_is_told() {
        app::WhenDone nobody;
        nobody(true); // does no harm
        std::vector<bool> told;
        const app::WhenDone somebody = [&](bool good) { told.push_back(good); };
        somebody(true);
        somebody.orNot()();
        QCOMPARE(told, (std::vector<bool>{true, false}));
    }

    // --- the status line ---------------------------------------------------------

    void a_message_stays_to_be_read_unless_something_is_in_hand() {
        app::Jobs jobs;
        app::StatusLine line(jobs);
        line.setHint("acc-1", false);
        QCOMPARE(line.text(), QStringLiteral("acc-1"));
        line.tell(warning("the port is taken", "choose another"), paint::lightTheme());
        QVERIFY(line.text().startsWith("The port is taken"));
        line.setHint("edge-1", false);
        QVERIFY(line.text().startsWith("The port is taken"));
        line.setHint("Release to link", true);
        QCOMPARE(line.text(), QStringLiteral("Release to link"));
        line.tell(error("cannot be read", {}, {"/home/mara/networks/quay.underridge", 4, 2, {}}),
                  paint::lightTheme());
        QVERIFY2(line.text().startsWith("quay.underridge:4:2: cannot be read"), qPrintable(line.text()));
        QVERIFY(!line.text().contains("mara"));
        line.setHint("Release to link", true);
        line.setHint("edge-1", false); // the message is not to come back
        QCOMPARE(line.text(), QStringLiteral("edge-1"));
    }

    void the_status_line_offers_to_give_up_what_takes_its_time() {
        app::Jobs jobs;
        app::StatusLine line(jobs);
        line.show();
        auto* cancel = line.findChild<QToolButton*>();
        QVERIFY(cancel && !cancel->isVisible());
        Held held;
        bool givenUp = false;
        jobs.run<int>(
            "Opening quay", held.work(1), [](int) {}, [&] { givenUp = true; });
        QTRY_VERIFY(cancel->isVisible());
        QCOMPARE(cancel->accessibleName(), QStringLiteral("Cancel: Opening quay"));
        QTest::mouseClick(cancel, Qt::LeftButton);
        QVERIFY(givenUp && !cancel->isVisible());
        held.go.release();
    }

    void the_status_line_says_how_much_there_is_and_whether_it_is_saved() {
        app::useEnglishPlurals();
        app::Jobs jobs;
        app::StatusLine line(jobs);
        const auto shown = [&] {
            QStringList all;
            for (const QLabel* label : line.findChildren<QLabel*>())
                all << label->text();
            return all;
        };
        MemoryFiles files;
        const edit::World world{files, "/journal", [] { return std::int64_t{0}; }};
        IdSource ids(1);
        auto document = edit::Document::fresh(world, emptyNetwork("n", ids));
        line.showState(document, false);
        QVERIFY2(shown().contains("0 devices · 0 links") && shown().contains("new"),
                 qPrintable(shown().join('|')));
        Network network = document.network();
        Device device;
        device.id = ids.make<DeviceId>();
        network.put(device);
        QVERIFY(bool(document.apply(edit::Act{"Add", network, {}}, {}, {})));
        line.showState(document, false);
        QVERIFY(shown().contains("1 device · 0 links") && shown().contains("not saved"));
        line.showState(document, true);
        QVERIFY(shown().contains(QString::fromUtf8("saving…")));
        QVERIFY(bool(document.save("/n.underridge")));
        line.showState(document, false);
        QVERIFY(shown().contains("saved"));
    }

    // --- looking at a surface ------------------------------------------------------

    void the_wheel_zooms_about_the_pointer_and_a_touchpad_moves() {
        Squares surface;
        surface.look({0, 0}, 1);
        const QPointF at(600, 100);
        const PointF under = surface.camera().toSheet(at);
        wheel(surface, at, {}, {0, 240}, QPointingDevice::primaryPointingDevice());
        QVERIFY(std::abs(surface.camera().zoom() - 1.44) < 1e-9);
        const PointF now = surface.camera().toSheet(at);
        QVERIFY(std::abs(now.x - under.x) < 1e-6 && std::abs(now.y - under.y) < 1e-6);
        wheel(surface, at, {}, {0, -240}, QPointingDevice::primaryPointingDevice());
        QVERIFY(std::abs(surface.camera().zoom() - 1) < 1e-9);

        const QPointingDevice pad("pad", 7, QInputDevice::DeviceType::TouchPad,
                                  QPointingDevice::PointerType::Finger, QInputDevice::Capability::Scroll, 2,
                                  0);
        surface.look({0, 0}, 2);
        wheel(surface, at, {30, -50}, {}, &pad);
        QCOMPARE(surface.camera().zoom(), 2.0);
        QCOMPARE(surface.camera().centre().x, -15.0); // what is seen goes with the fingers
        QCOMPARE(surface.camera().centre().y, 25.0);
        wheel(surface, at, {}, {0, 120}, &pad, Qt::ControlModifier);
        QVERIFY(surface.camera().zoom() > 2); // Ctrl makes it a wheel
    }

    void a_pinch_zooms_and_never_turns_the_view_over() {
        Squares surface;
        surface.look({0, 0}, 1);
        const auto pinch = [&](double value) {
            QNativeGestureEvent event(Qt::ZoomNativeGesture, QPointingDevice::primaryPointingDevice(), 2,
                                      QPointF(400, 300), QPointF(400, 300), QPointF(400, 300), value, {}, 0);
            QApplication::sendEvent(&surface, &event);
        };
        pinch(0.5);
        QVERIFY(std::abs(surface.camera().zoom() - 1.5) < 1e-9);
        pinch(-3);
        QVERIFY(surface.camera().zoom() > 0);
        for (int i = 0; i < 40; ++i)
            pinch(-0.9);
        QCOMPARE(surface.camera().zoom(), app::Camera::minZoom);
        for (int i = 0; i < 40; ++i)
            pinch(1);
        QCOMPARE(surface.camera().zoom(), app::Camera::maxZoom);
    }

    void space_moves_the_view_and_pressing_it_alone_is_something_else() {
        Squares surface;
        surface.look({0, 0}, 1);
        const QKeyEvent space(QEvent::KeyPress, Qt::Key_Space, {});
        const auto press = mouse(QEvent::MouseButtonPress, {100, 100}, Qt::LeftButton);
        QVERIFY(!surface.beginPan(press)); // the left button alone does not
        surface.holdSpace(space);
        QVERIFY(surface.beginPan(press));
        QVERIFY(surface.panTo(mouse(QEvent::MouseMove, {140, 90}, Qt::LeftButton)));
        QCOMPARE(surface.camera().centre().x, -40.0);
        QCOMPARE(surface.camera().centre().y, 10.0);
        QVERIFY(surface.endPan(mouse(QEvent::MouseButtonRelease, {140, 90}, Qt::LeftButton)));
        QVERIFY(!surface.panTo(mouse(QEvent::MouseMove, {300, 300}, Qt::LeftButton)));
        QVERIFY(!surface.releaseSpace()); // it was for moving
        surface.holdSpace(space);
        QVERIFY(surface.releaseSpace()); // it was pressed
        QVERIFY(surface.beginPan(mouse(QEvent::MouseButtonPress, {0, 0}, Qt::MiddleButton)));
    }

    void fitting_shows_everything_and_revealing_moves_no_more_than_it_must() {
        Squares surface;
        QSignalSpy moved(&surface, &app::Surface::cameraMoved);
        surface.fit({1000, 2000, 4000, 300});
        QVERIFY(surface.camera().visible().x < 1000 && surface.camera().visible().right() > 5000);
        QVERIFY(surface.camera().zoom() < 1);
        surface.fit({0, 0, 10, 10});
        QCOMPARE(surface.camera().zoom(), 1.0); // no larger than life
        const PointF before = surface.camera().centre();
        surface.reveal({0, 0, 20, 20});
        QVERIFY(surface.camera().centre().x == before.x && surface.camera().centre().y == before.y);
        const Rect seen = surface.camera().visible();
        surface.reveal({seen.right() + 100, before.y, 50, 10});
        QVERIFY(surface.camera().centre().x > before.x);
        QCOMPARE(surface.camera().centre().y, before.y);
        QCOMPARE(moved.count(), 4);
    }

    void tiles_are_drawn_anew_where_something_changed_and_nowhere_else() {
        const Network network = tests::firstOffice();
        const SheetId sheet = network.sheetsInOrder().front().id;
        const auto scene = scene::Scene::build(network, sheet);
        app::TileCache tiles;
        app::Camera camera;
        camera.setViewport({800, 600});
        camera.fit(scene.bounds());
        QImage image(800, 600, QImage::Format_RGB32);
        const auto draw = [&] {
            QPainter painter(&image);
            tiles.draw(painter, camera, 1);
            return tiles.complete();
        };
        tiles.setScene(scene, {}, true);
        QVERIFY(!draw()); // nothing is painted yet
        QTRY_VERIFY(draw());
        const QImage sharp = image;
        tiles.setScene(scene, {{90000, 90000, 10, 10}}, false);
        QVERIFY(draw()); // far from what is seen
        DeviceId id;
        network.all<Device>().forEach([&](const Device& device) { id = device.id; });
        Network changed = network;
        Device device = *network.device(id);
        device.name = "renamed";
        changed.put(device);
        const auto updated = scene::update(scene, network, changed);
        QVERIFY(!updated.damage.empty());
        tiles.setScene(updated.scene, updated.damage, updated.all);
        QVERIFY(!draw());
        QVERIFY(image == sharp); // the stale ones stand in
        QTRY_VERIFY(draw());
        QVERIFY(image != sharp);
        tiles.setTheme(paint::darkTheme());
        QVERIFY(!draw());
        QTRY_VERIFY(draw());
        QVERIFY(qGray(image.pixel(2, 2)) < 128 && qGray(sharp.pixel(2, 2)) > 128);
    }

    // --- choosing files --------------------------------------------------------------

    void a_file_dialog_has_its_own_title_folder_and_name_and_the_suffix_of_its_filter() {
        QTemporaryDir folder;
        QSettings store(folder.filePath("settings.ini"), QSettings::IniFormat);
        app::Settings settings(store);
        settings.setFolder(folder.path());
        QWidget window;
        window.show();
        app::Dialogs dialogs(&window);
        app::FileDialogs files(dialogs, settings, &window);
        QString chosen;
        const app::FileQuestion question{"Export picture", "PNG (*.png);;SVG (*.svg)", "png", "quay.png",
                                         true};
        files.choose(question, [&](const QString& path) { chosen = path; });
        auto* shown = qobject_cast<QFileDialog*>(dialogs.open());
        QVERIFY(shown);
        QCOMPARE(shown->windowTitle(), QStringLiteral("Export picture"));
        QCOMPARE(QDir(shown->directory()).canonicalPath(), QDir(folder.path()).canonicalPath());
        QCOMPARE(shown->defaultSuffix(), QStringLiteral("png"));
        QCOMPARE(QFileInfo(shown->selectedFiles().front()).fileName(), QStringLiteral("quay.png"));
        Q_EMIT shown->filterSelected("SVG (*.svg)");
        QCOMPARE(shown->defaultSuffix(), QStringLiteral("svg"));
        shown->reject();
        QVERIFY(chosen.isEmpty() && !dialogs.isOpen());

        // Answered: the folder is remembered, a suffix added where the name has none.
        QVERIFY(QDir(folder.path()).mkdir("plans"));
        files.answer = [&](const app::FileQuestion&) { return folder.filePath("plans/quay"); };
        files.choose(question, [&](const QString& path) { chosen = path; });
        QCOMPARE(chosen, folder.filePath("plans/quay.png"));
        QCOMPARE(QDir(settings.folder()).canonicalPath(), QDir(folder.filePath("plans")).canonicalPath());
        files.answer = [](const app::FileQuestion&) { return QString(); };
        chosen.clear();
        files.choose(question, [&](const QString&) { QFAIL("cancelled"); });
    }

    // --- counting in words -------------------------------------------------------------

    void one_thing_is_told_as_one_and_a_translation_comes_first() {
        app::useEnglishPlurals();
        const auto counted = [](int n) {
            return QCoreApplication::translate("T", "%Ln free port(s)", nullptr, n);
        };
        QCOMPARE(counted(0), QStringLiteral("0 free ports"));
        QCOMPARE(counted(1), QStringLiteral("1 free port"));
        QCOMPARE(counted(2), QStringLiteral("2 free ports"));
        QCOMPARE(QCoreApplication::translate("T", "Port(s)"),
                 QStringLiteral("Port(s)")); // nothing is counted
        struct Other : QTranslator {
            QString translate(const char*, const char*, const char*, int n) const override {
                return n == 1 ? QStringLiteral("%Ln Anschluss") : QStringLiteral("%Ln Anschlüsse");
            }
            bool isEmpty() const override { return false; }
        } german;
        QCoreApplication::installTranslator(&german);
        const QString one = counted(1), many = counted(3);
        QCoreApplication::removeTranslator(&german);
        QCOMPARE(one, QStringLiteral("1 Anschluss"));
        QCOMPARE(many, QStringLiteral("3 Anschlüsse"));
        QLocale::setDefault(QLocale(QLocale::English, QLocale::UnitedKingdom));
        QCOMPARE(counted(12000), QStringLiteral("12,000 free ports"));
        QLocale::setDefault(QLocale::c());
    }
};

UNDERRIDGE_TEST(PartsTest)
#include "parts_test.moc"
