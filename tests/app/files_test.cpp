// SPDX-License-Identifier: GPL-3.0-or-later
// Saving, opening, recovering and remembering, in the window.
#include "app/files/import_dialog.h"
#include "app/files/print_dialog.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QFileInfo>
#include <QMimeData>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using Answer = app::NetworkFiles::SaveAnswer;
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
        QTRY_VERIFY(!h.window->files().isSaving());
        QVERIFY(!h.window->isWindowModified());
        h.restart();
        QVERIFY(h.open(h.folder.filePath("a.underridge")));
        QVERIFY(h.network() == saved);
        QVERIFY(!h.window->isWindowModified());
    }

    void what_is_done_while_the_worker_saves_is_kept_and_still_to_be_saved() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("w.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QVERIFY(h.window->files().isSaving());
        h.addPhones(1);
        QTRY_VERIFY(!h.window->files().isSaving());
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
        QCOMPARE(h.devices(), std::size_t{1}); // until it is saved
        QTRY_COMPARE(h.devices(), std::size_t{0});
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
        h.wait();
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
        const Network lost = h.cutOffAfterSaving();
        QVERIFY(h.open(h.path));
        QVERIFY(h.network() == lost);
    }

    void what_is_drawn_while_a_sample_opens_is_asked_about() {
        WindowHarness h;
        h.begin();
        h.answer = Answer::cancel;
        h.window->action(CommandId::fennickQuay)->trigger(); // nothing to ask about yet
        QVERIFY(!h.saveAsked);
        h.addPhones(2);
        h.wait();
        QVERIFY(h.saveAsked);
        QCOMPARE(h.devices(), std::size_t{2});
        h.answer = Answer::discard;
        h.openFennickQuay();
        QVERIFY(h.devices() > 100);
        QVERIFY(h.session().document().path().empty());
        QVERIFY(!h.window->isWindowModified());
    }

    void a_sample_that_is_not_there_is_told_and_the_network_stays() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        const Network before = h.network();
        h.answer = Answer::discard;
        QVERIFY(!h.finished([&](auto done) { h.window->files().openSample("no-such", done); }));
        QVERIFY2(h.window->statusText().contains("no-such.underridge"), qPrintable(h.window->statusText()));
        QVERIFY(h.network() == before);
    }

    void a_question_is_answered_by_its_buttons_and_escape_never_discards() {
        WindowHarness h;
        h.window->dialogs().answer = {}; // a person answers
        h.begin();
        h.addPhones(1);
        const auto asked = [&] { return qobject_cast<app::QuestionBox*>(h.window->dialogs().open()); };
        h.window->close();
        QVERIFY(asked());
        QCOMPARE(asked()->windowTitle(), QStringLiteral("Save changes?"));
        QCOMPARE(asked()->defaultButton()->text(), QStringLiteral("Save"));
        QTest::keyClick(asked(), Qt::Key_Escape);
        QVERIFY(!asked());
        QVERIFY(h.window->isVisible());
        QCOMPARE(h.devices(), std::size_t{1});
        h.path.clear(); // and the file dialog is cancelled
        h.window->close();
        QTest::mouseClick(asked()->defaultButton(), Qt::LeftButton);
        QVERIFY(h.window->isVisible());
        h.window->close();
        for (QAbstractButton* button : asked()->buttons())
            if (button->text() == QStringLiteral("Discard changes")) {
                QTest::mouseClick(button, Qt::LeftButton);
                break;
            }
        QVERIFY(!h.window->isVisible());
    }

    void a_second_question_waits_for_the_first() {
        WindowHarness h;
        h.window->dialogs().answer = {};
        std::vector<int> chosen;
        const app::Query query{"Which?", "One of these.", {{"One"}, {"Other"}}};
        for (int i = 0; i < 2; ++i)
            h.window->dialogs().choose(query, [&](int choice) { chosen.push_back(choice); });
        const auto* first = h.window->dialogs().open();
        QVERIFY(first && chosen.empty());
        auto* box = qobject_cast<app::QuestionBox*>(h.window->dialogs().open());
        QTest::mouseClick(box->buttons().back(), Qt::LeftButton);
        QCOMPARE(chosen, std::vector<int>{1});
        QVERIFY(h.window->dialogs().open() && h.window->dialogs().open() != first);
        QTest::keyClick(h.window->dialogs().open(), Qt::Key_Escape); // no answer means "no": it stays
        box = qobject_cast<app::QuestionBox*>(h.window->dialogs().open());
        QVERIFY(box);
        QTest::mouseClick(box->buttons().front(), Qt::LeftButton);
        QCOMPARE(chosen, (std::vector<int>{1, 0}));
    }

    void pages_are_written_beside_the_window_and_a_closed_dialog_still_tells() {
        WindowHarness h;
        h.openFirstOffice();
        const QString path = h.folder.filePath("pages.pdf");
        h.onDialog<app::PrintDialog>([&](app::PrintDialog& dialog) {
            dialog.writeTo(path);
            dialog.reject(); // at once, before the worker can be done
        });
        h.window->action(CommandId::print)->trigger();
        h.wait();
        QVERIFY(QFileInfo(path).size() > 2000);
        QTRY_VERIFY2(h.window->statusText().contains("pages.pdf"), qPrintable(h.window->statusText()));
        h.onDialog<app::PrintDialog>([&](app::PrintDialog& dialog) {
            QVERIFY(!h.finished([&](auto done) { dialog.writeTo("/proc/none/pages.pdf", done); }));
            QVERIFY2(dialog.summary().contains("/proc/none/pages.pdf"), qPrintable(dialog.summary()));
        });
        h.window->action(CommandId::print)->trigger();
    }

    void recent_files_show_a_small_picture_while_they_are_as_it_shows_them() {
        WindowHarness h;
        h.openFirstOffice();
        h.path = h.folder.filePath("a&b.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.wait();
        const auto shown = [&]() -> QImage {
            h.window->showStart();
            QPushButton* recent = h.button("a&&b"); // one & is shown
            return recent ? recent->icon().pixmap(recent->iconSize()).toImage() : QImage();
        };
        const auto isBlank = [](const QImage& image) {
            for (int y = 0; y < image.height(); ++y)
                for (int x = 0; x < image.width(); ++x)
                    if (qAlpha(image.pixel(x, y)) != 0)
                        return false;
            return true;
        };
        const QImage picture = shown();
        QVERIFY(!picture.isNull() && !isBlank(picture));
        const app::SmallPictures pictures(h.folder.filePath("thumbnails"));
        QVERIFY(std::max(pictures.of(h.path).width(), pictures.of(h.path).height()) <= 256);
        QFile file(h.path);
        QVERIFY(file.open(QIODevice::ReadWrite));
        file.setFileTime(QDateTime::currentDateTime().addSecs(-3600), QFileDevice::FileModificationTime);
        file.close();
        QVERIFY(isBlank(shown())); // another program wrote it: the picture is of something else
        QTest::mouseClick(h.button("a&&b"), Qt::LeftButton);
        h.wait();
        QVERIFY(h.window->showsSheet());
        QVERIFY(!isBlank(shown()));
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
        QVERIFY(!h.open(bad.fileName()));
        QVERIFY(h.network() == before);
        QVERIFY2(h.window->statusText().contains("bad.underridge:2:"), qPrintable(h.window->statusText()));
        QVERIFY(!h.open(h.folder.filePath("none.underridge")));
    }

    void a_save_that_fails_is_told_and_loses_nothing() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = QStringLiteral("/proc/none/x.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->files().isSaving());
        QVERIFY(h.window->isWindowModified());
        QVERIFY2(h.window->statusText().contains("annot write"), qPrintable(h.window->statusText()));
        QVERIFY(h.session().document().path().empty());
    }

    void pictures_are_written_in_all_three_formats() {
        WindowHarness h;
        h.openFirstOffice();
        for (const char* suffix : {"png", "svg", "pdf"}) {
            const QString path = h.folder.filePath(QStringLiteral("p.") + suffix);
            h.path = path;
            h.window->action(CommandId::exportPicture)->trigger();
            h.wait();
            QVERIFY2(QFileInfo(path).size() > 2000, suffix);
        }
        h.path = h.folder.filePath("p.bmp");
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
        h.window->close();
        QTRY_VERIFY(!h.window->isVisible()); // when it is saved
        h.restart();
        QVERIFY(h.window->theme().theme().dark);
        QVERIFY(h.window->findChild<QDockWidget*>("detailsDock")->isHidden());
        QVERIFY(h.button("c"));
    }

    void the_suffix_that_is_added_does_not_write_over_another_file_unasked() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        QFile other(h.folder.filePath("quay.underridge"));
        QVERIFY(other.open(QIODevice::WriteOnly));
        other.write("somebody's");
        other.close();
        QString asked;
        bool may = false;
        h.onQuestion("File is there", [&](const QString& words) {
            asked = words;
            return may ? 0 : 1;
        });
        h.path = h.folder.filePath("quay");
        h.window->action(CommandId::saveAs)->trigger();
        h.wait();
        QCOMPARE(asked, QString("quay.underridge is there already."));
        QVERIFY(other.open(QIODevice::ReadOnly) && other.readAll() == "somebody's");
        other.close();
        QVERIFY(h.session().document().path().empty());
        may = true;
        h.window->action(CommandId::saveAs)->trigger();
        h.wait();
        QVERIFY(!h.window->isWindowModified());
        // Pictures and data too.
        may = false;
        for (const char* suffix : {"png", "json"}) {
            QFile there(h.folder.filePath(QStringLiteral("picture.") + suffix));
            QVERIFY(there.open(QIODevice::WriteOnly));
            there.close();
        }
        asked.clear();
        h.path = h.folder.filePath("picture");
        h.window->action(CommandId::exportPicture)->trigger();
        h.wait();
        QVERIFY(asked.startsWith("picture.png "));
        QCOMPARE(QFileInfo(h.folder.filePath("picture.png")).size(), qint64{0});
        h.path = h.folder.filePath("picture");
        h.window->action(CommandId::exportData)->trigger();
        h.wait();
        QVERIFY(asked.startsWith("picture.json "));
        QCOMPARE(QFileInfo(h.folder.filePath("picture.json")).size(), qint64{0});
    }

    void a_second_save_during_one_is_done_too() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("one.underridge");
        h.window->action(CommandId::saveAs)->trigger();
        QVERIFY(h.window->files().isSaving());
        h.addPhones(1);
        h.path = h.folder.filePath("two.underridge");
        h.window->action(CommandId::saveAs)->trigger();
        h.wait();
        QVERIFY(!h.window->isWindowModified());
        QCOMPARE(QString::fromStdString(h.session().document().path()), h.path);
        for (const auto& [name, devices] : {std::pair("one", 1), std::pair("two", 2)}) {
            const std::string file = h.folder.filePath(QString::fromUtf8(name) + ".underridge").toStdString();
            const auto saved = edit::Document::open({h.files, {}, [] { return std::int64_t{0}; }}, file);
            QVERIFY(saved);
            QCOMPARE(saved->document.network().all<Device>().size(), static_cast<std::size_t>(devices));
        }
    }

    void closing_while_it_saves_waits_for_the_save() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("late.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QVERIFY(h.window->files().isSaving());
        QVERIFY(!h.window->close());
        QTRY_VERIFY(!h.window->isVisible());
        QVERIFY(!h.saveAsked); // there was nothing left to ask about
        QVERIFY(QFileInfo::exists(h.path));
    }

    void recovering_asks_about_what_is_open_and_a_save_under_way_is_its_own() {
        WindowHarness h;
        h.begin();
        h.addPhones(3);
        h.restart(); // as after a crash
        const auto left = edit::Document::recoverable(h.session().workspace().world());
        QCOMPARE(left.size(), std::size_t{1});
        h.begin();
        h.addPhones(1);
        h.answer = Answer::cancel;
        QVERIFY(!h.finished([&](auto done) { h.window->files().recover(left.front(), done); }));
        QVERIFY(h.saveAsked);
        QCOMPARE(h.devices(), std::size_t{1});
        h.path = h.folder.filePath("mine.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QVERIFY(h.window->files().isSaving());
        QVERIFY(h.finished([&](auto done) { h.window->files().recover(left.front(), done); }));
        QCOMPARE(h.devices(), std::size_t{3});
        QVERIFY(h.session().document().path().empty()); // the path is that of what was saved before
        QVERIFY(h.window->isWindowModified());
        QVERIFY(h.files.read(h.path.toStdString())->find("phone-1") != std::string::npos);
    }

    void work_that_is_not_recovered_now_can_be_later() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("b.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.wait();
        h.addPhones(2);
        const Network lost = h.network();
        h.restart();
        h.recovers = false;
        QVERIFY(h.open(h.path));
        QCOMPARE(h.devices(), std::size_t{1});
        h.addPhones(1); // a journal of its own, beside the one that was left
        h.restart();
        const auto left = edit::Document::recoverable(h.session().workspace().world());
        QCOMPARE(left.size(), std::size_t{2});
        QVERIFY(std::any_of(left.begin(), left.end(), [&](const edit::Recoverable& from) {
            auto back = edit::Document::recover(h.session().workspace().world(), from);
            return back && back->document.network() == lost;
        }));
    }

    void what_is_done_while_a_file_is_opened_is_asked_about() {
        WindowHarness h;
        h.begin();
        h.addPhones(2);
        h.path = h.folder.filePath("first.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.wait();
        h.window->files().open(h.path); // being read again
        QVERIFY(h.window->jobs().busy());
        h.addPhones(1);
        h.answer = Answer::cancel;
        h.wait();
        QVERIFY(h.saveAsked);
        QCOMPARE(h.devices(), std::size_t{3});
    }

    void an_import_that_ends_late_keeps_what_was_done_meanwhile() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        QFile file(h.folder.filePath("list.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("name,model\na,till\nb,till\n");
        file.close();
        h.onDialog<app::ImportDialog>([&](app::ImportDialog& dialog) {
            dialog.presentSheet().setChecked(true);
            h.window->activateWindow();
            return true;
        });
        h.window->interchange().importFile(file.fileName());
        h.addPhones(1);
        h.wait();
        QCOMPARE(h.devices(), std::size_t{4});
    }

    void a_model_chosen_on_the_start_page_begins_a_new_network() {
        WindowHarness h;
        h.openFirstOffice();
        h.window->action(CommandId::startPage)->trigger();
        h.choose("Phone");
        QVERIFY(h.window->showsSheet());
        QCOMPARE(h.devices(), std::size_t{0});
        h.click({400, 300});
        QCOMPARE(h.devices(), std::size_t{1});
        h.window->action(CommandId::startPage)->trigger();
        QMimeData data;
        data.setData(QString::fromUtf8(app::modelMimeType), "phone");
        QDragEnterEvent enter({600, 400}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(h.window.get(), &enter);
        QVERIFY(enter.isAccepted());
        QDropEvent drop({600, 400}, Qt::CopyAction, &data, Qt::LeftButton, {});
        QApplication::sendEvent(h.window.get(), &drop);
        QVERIFY(h.saveAsked); // about the phone put down before
        QVERIFY(h.window->showsSheet());
        QCOMPARE(h.devices(), std::size_t{1});
    }

    void the_journal_that_cannot_be_written_is_told_and_tried_again() {
        WindowHarness h;
        h.begin();
        // A file in the place of the folder: no journal can be written.
        QFile block(h.folder.filePath("journal"));
        QVERIFY(block.open(QIODevice::WriteOnly));
        block.close();
        h.addPhones(1);
        QVERIFY(h.session().document().journalTrouble());
        QVERIFY2(h.window->statusText().contains("not being kept safe"), qPrintable(h.window->statusText()));
        QVERIFY(block.remove());
        h.clock += 10'000;
        QTRY_VERIFY_WITH_TIMEOUT(!h.session().document().journalTrouble(), 8000);
        const Network lost = h.network();
        h.restart();
        const auto left = edit::Document::recoverable(h.session().workspace().world());
        QCOMPARE(left.size(), std::size_t{1});
        QVERIFY(edit::Document::recover(h.session().workspace().world(), left.front())->document.network() ==
                lost);
    }

    void work_cut_off_on_another_file_is_not_asked_about() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("a.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.wait();
        const QString other = h.folder.filePath("other.underridge");
        QVERIFY(QFile::copy(h.path, other));
        h.addPhones(2); // and the program dies
        h.restart();
        bool asked = false;
        h.mayNeverBeAsked("Recover");
        h.onQuestion("Recover", [&](const QString&) {
            asked = true;
            return 0;
        });
        QVERIFY(h.open(other));
        QVERIFY(!asked);
        QCOMPARE(h.devices(), std::size_t{1});
    }
};

UNDERRIDGE_TEST(FilesTest)
#include "files_test.moc"
