// SPDX-License-Identifier: GPL-3.0-or-later
// How the window comes up: with what is opened, or soon without it.
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QSignalSpy>

using namespace underridge;
using namespace underridge::tests;
using namespace underridge::model;

namespace {

/// Whether a widget was ever told to paint.
class EverPainted : public QObject {
public:
    explicit EverPainted(QWidget& widget) { widget.installEventFilter(this); }
    bool yes = false;

protected:
    bool eventFilter(QObject*, QEvent* event) override {
        yes = yes || event->type() == QEvent::Paint;
        return false;
    }
};

} // namespace

class StartTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_window_that_opens_nothing_shows_itself_at_once() {
        WindowHarness h;
        h.window->hide();
        h.window->showWhenOpened();
        QVERIFY(h.window->isVisible());
        QVERIFY(!h.window->showsSheet());
        QVERIFY(h.button("New network")->isVisible());
    }

    void the_first_button_has_the_keyboard_once_the_start_page_is_built() {
        WindowHarness h;
        QTRY_COMPARE(QApplication::focusWidget(), h.button("New network"));
        h.key(Qt::Key_Space);
        QTRY_VERIFY(h.window->showsSheet());
    }

    void the_start_page_does_not_flash_up_before_what_is_opened() {
        WindowHarness h;
        h.window->hide();
        const EverPainted start(h.window->startPage());
        h.window->files().openSample("first-office");
        h.window->showWhenOpened();
        QVERIFY(!h.window->isVisible());
        QTRY_VERIFY(h.window->isVisible());
        QTRY_VERIFY(h.sheet().tilesComplete());
        QVERIFY(h.window->showsSheet());
        QCOMPARE(h.devices(), std::size_t{8});
        QVERIFY(!start.yes);
    }

    void what_takes_its_time_is_waited_for_in_the_open_window() {
        WindowHarness h;
        h.window->hide();
        std::atomic<bool> go{false};
        h.window->jobs().run<int>(
            "Reading something large",
            [&go](const app::Wanted&) {
                while (!go)
                    std::this_thread::sleep_for(std::chrono::milliseconds(1));
                return 1;
            },
            [](int) {});
        h.window->showWhenOpened();
        QVERIFY(!h.window->isVisible());
        QTRY_VERIFY(h.window->isVisible());
        QVERIFY(h.window->jobs().busy());
        QVERIFY(h.button("New network")->isVisible());
        go = true;
        h.wait();
    }

    void what_cannot_be_opened_is_told_in_the_open_window() {
        WindowHarness h;
        h.window->hide();
        QString told;
        h.onQuestion("Open", [&](const QString& words) {
            told = words;
            return 0;
        });
        QFile broken(h.folder.filePath("broken.underridge"));
        QVERIFY(broken.open(QIODevice::WriteOnly));
        broken.write("no network\n");
        broken.close();
        h.window->files().open(broken.fileName());
        h.window->showWhenOpened();
        QTRY_VERIFY(h.window->isVisible());
        QTRY_VERIFY(!told.isEmpty());
        QVERIFY2(told.contains("broken.underridge"), qPrintable(told));
        QVERIFY(!h.window->showsSheet());
    }

    void work_that_was_cut_off_is_asked_about_over_the_open_window() {
        WindowHarness h;
        const Network lost = h.cutOffAfterSaving();
        h.window->hide();
        h.window->dialogs().answer = {}; // a person answers
        h.window->files().open(h.path);
        h.window->showWhenOpened();
        QTRY_VERIFY(h.window->dialogs().isOpen());
        QTRY_VERIFY(h.window->isVisible());
        auto* question = qobject_cast<app::QuestionBox*>(h.window->dialogs().open());
        QVERIFY(question && question->isVisible());
        QTest::mouseClick(question->buttons().constFirst(), Qt::LeftButton);
        QTRY_VERIFY(h.window->showsSheet());
        QVERIFY(h.network() == lost);
    }

    void the_second_of_two_programs_asks_over_its_open_window() {
        WindowHarness first, second;
        first.openFirstOffice();
        const QString path = first.folder.filePath("office.underridge");
        QVERIFY(first.finished([&](auto done) { first.window->files().saveTo(path, done); }));
        second.window->hide();
        second.window->dialogs().answer = {};
        second.window->files().open(path);
        second.window->showWhenOpened();
        QTRY_VERIFY(second.window->dialogs().isOpen());
        QTRY_VERIFY(second.window->isVisible());
        QTest::keyClick(second.window->dialogs().open(), Qt::Key_Escape);
        QTRY_VERIFY(!second.window->dialogs().isOpen());
        QVERIFY(!second.window->showsSheet());
        QVERIFY(second.button("New network")->isVisible());
    }

    void the_start_page_tells_of_work_to_recover_before_it_is_ever_shown() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.restart();
        QVERIFY(h.window->startPage().offersRecovery());
        WindowHarness other;
        QVERIFY(!other.window->startPage().offersRecovery());
    }

    void a_window_that_was_closed_since_is_not_shown_again() {
        WindowHarness h;
        h.window->hide();
        h.window->files().openSample("first-office");
        h.window->showWhenOpened();
        QTRY_VERIFY(h.window->isVisible());
        h.window->close();
        QTRY_VERIFY(!h.window->isVisible());
        QSignalSpy idle(&h.window->jobs(), &app::Jobs::idle);
        h.window->jobs().run<int>(
            "Another", [](const app::Wanted&) { return 1; }, [](int) {});
        QTRY_COMPARE(idle.count(), 1);
        QTest::qWait(0);
        QVERIFY(!h.window->isVisible());
    }

    void details_that_were_hidden_say_what_is_selected_when_they_are_shown() {
        WindowHarness h;
        h.openFirstOffice();
        auto* dock = h.window->findChild<QDockWidget*>("detailsDock");
        dock->hide();
        h.click(h.middle("files-1"));
        QCoreApplication::processEvents();
        dock->show();
        auto* name = qobject_cast<QLineEdit*>(h.window->details().field("Name"));
        QVERIFY(name);
        QCOMPARE(name->text(), QString("files-1"));
    }

    void rows_of_details_are_shown_together_not_one_after_another() {
        WindowHarness h;
        h.openFirstOffice();
        QCoreApplication::processEvents();
        h.session().select({refTo(h.named("acc-1"))});
        h.window->details().refresh();
        // Before any more events: what a layout shows by itself comes later, one by one.
        for (const char* label : {"Name", "Address", "Note"}) {
            QWidget* field = h.window->details().field(label);
            QVERIFY2(field && field->isVisible(), label);
        }
    }
};

UNDERRIDGE_TEST(StartTest)
#include "start_test.moc"
