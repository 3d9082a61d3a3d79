// SPDX-License-Identifier: GPL-3.0-or-later
// Saving, opening, recovering and remembering, in the window.
#include "tests/support/window_harness.h"

#include <QFileInfo>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using Answer = app::MainWindow::SaveAnswer;
using tests::WindowHarness;

class FilesTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void what_was_saved_is_reopened_equal() {
        WindowHarness h;
        h.begin();
        h.addPhones(3);
        h.path = h.folder.filePath("a"); // the suffix is added
        h.key(Qt::Key_S, Qt::ControlModifier);
        const Network saved = h.network();
        QTRY_VERIFY(!h.window->isSaving());
        QVERIFY(!h.window->isWindowModified());
        h.restart();
        QVERIFY(h.window->openFile(h.folder.filePath("a.underridge")));
        QVERIFY(h.network() == saved);
        QVERIFY(!h.window->isWindowModified());
    }

    void what_is_done_while_the_worker_saves_is_kept_and_still_to_be_saved() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("w.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QVERIFY(h.window->isSaving());
        h.addPhones(1);
        QTRY_VERIFY(!h.window->isSaving());
        QVERIFY(h.window->isWindowModified());
        QCOMPARE(h.devices(), std::size_t{2});
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->isWindowModified());
    }

    void changes_are_asked_about_before_they_are_lost() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.answer = Answer::cancel;
        h.window->action(CommandId::newNetwork)->trigger();
        QVERIFY(h.saveAsked);
        QCOMPARE(h.devices(), std::size_t{1});
        h.answer = Answer::save;
        h.path = h.folder.filePath("kept.underridge");
        h.window->action(CommandId::newNetwork)->trigger();
        QCOMPARE(h.devices(), std::size_t{0});
        QVERIFY(QFileInfo::exists(h.path));
        h.saveAsked = false;
        h.window->action(CommandId::newNetwork)->trigger(); // nothing to lose
        QVERIFY(!h.saveAsked);
        h.addPhones(1);
        h.answer = Answer::save;
        h.path.clear(); // the file dialog is cancelled
        QVERIFY(!h.window->close());
    }

    void a_crash_costs_nothing_that_was_done() {
        WindowHarness h;
        h.begin();
        h.addPhones(2);
        const Network lost = h.network();
        // A window that just goes away, as when the program dies: nothing is closed.
        h.restart();
        QPushButton* recover = nullptr;
        for (auto* button : h.window->findChildren<QPushButton*>())
            if (button->text().startsWith("Recover"))
                recover = button;
        QVERIFY(recover);
        QTest::mouseClick(recover, Qt::LeftButton);
        QVERIFY(h.network() == lost);
        QVERIFY(h.window->isWindowModified());
    }

    void the_start_page_is_there_again_when_asked_for() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.window->action(CommandId::startPage)->trigger();
        QVERIFY(!h.window->showsSheet());
        QVERIFY(!h.window->action(CommandId::addDevice)->isEnabled());
        h.window->action(CommandId::startPage)->trigger();
        QVERIFY(h.window->showsSheet());
        QCOMPARE(h.devices(), std::size_t{1});
        QVERIFY(h.window->action(CommandId::addDevice)->isEnabled());
    }

    void opening_a_file_offers_the_work_that_was_cut_off() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("b.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->isSaving());
        h.addPhones(2);
        const Network lost = h.network();
        h.restart();
        QVERIFY(h.window->openFile(h.path));
        QVERIFY(h.network() == lost);
    }

    void what_cannot_be_read_is_refused_and_the_network_stays() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        const Network before = h.network();
        QFile bad(h.folder.filePath("bad.underridge"));
        QVERIFY(bad.open(QIODevice::WriteOnly));
        bad.write("{\"underridge\":1}\n{\"kind\":\n");
        bad.close();
        QVERIFY(!h.window->openFile(bad.fileName()));
        QVERIFY(h.network() == before);
        QVERIFY2(h.window->statusText().contains("bad.underridge:2:"), qPrintable(h.window->statusText()));
        QVERIFY(!h.window->openFile(h.folder.filePath("none.underridge")));
    }

    void a_save_that_fails_is_told_and_loses_nothing() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = QStringLiteral("/proc/none/x.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->isSaving());
        QVERIFY(h.window->isWindowModified());
        QVERIFY2(h.window->statusText().contains("annot write"), qPrintable(h.window->statusText()));
        QVERIFY(h.editor().document().path().empty());
    }

    void pictures_are_written_in_all_three_formats() {
        WindowHarness h;
        h.window->openFirstOffice();
        for (const char* suffix : {"png", "svg", "pdf"}) {
            const QString path = h.folder.filePath(QStringLiteral("p.") + suffix);
            h.window->askPicturePath = [path] { return path; };
            h.window->action(CommandId::exportPicture)->trigger();
            QVERIFY2(QFileInfo(path).size() > 2000, suffix);
        }
        h.window->askPicturePath = [&] { return h.folder.filePath("p.bmp"); };
        h.window->action(CommandId::exportPicture)->trigger();
        QVERIFY(h.window->statusText().contains(".png, .svg or .pdf"));
    }

    void the_window_remembers_its_theme_docks_and_recent_files() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("c.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.window->action(CommandId::darkTheme)->trigger();
        QVERIFY(h.window->theme().theme().dark);
        h.window->findChild<QDockWidget*>("detailsDock")->hide();
        QVERIFY(h.window->close());
        h.restart();
        QVERIFY(h.window->theme().theme().dark);
        QVERIFY(h.window->findChild<QDockWidget*>("detailsDock")->isHidden());
        QVERIFY(h.button("c.underridge"));
    }
};

QTEST_MAIN(FilesTest)
#include "files_test.moc"
