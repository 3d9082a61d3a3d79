// SPDX-License-Identifier: GPL-3.0-or-later
// Two windows on one file, and a file changed underneath.
#include "core/edit/claim.h"
#include "core/edit/devices.h"
#include "core/edit/differences.h"
#include "core/edit/sheets.h"
#include "core/exchange/own_format.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using Changed = app::ChangedDialog::Answer;
using tests::WindowHarness;

namespace {

enum Elsewhere { readOnly, copy, cancel }; // the choices, in the order they are offered

/// A window with two phones, saved.
QString saved(WindowHarness& h) {
    h.begin();
    h.addPhones(2);
    h.path = h.folder.filePath("shared.underridge");
    h.key(Qt::Key_S, Qt::ControlModifier);
    if (!QTest::qWaitFor([&] { return !h.window->files().isSaving(); }))
        qFatal("not saved");
    return h.path;
}

} // namespace

class SharingTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void the_second_opener_is_told_and_opens_read_only_or_a_copy() {
        WindowHarness first;
        const QString path = saved(first);
        WindowHarness second;
        QString told;
        second.onQuestion("Open elsewhere", [&](const QString& words) {
            told = words;
            return readOnly;
        });
        QVERIFY(second.open(path));
        QVERIFY2(told.startsWith("shared.underridge is open elsewhere, by "), qPrintable(told));
        QVERIFY(second.window->files().isReadOnly());
        QVERIFY(second.window->windowTitle().contains("read-only"));
        const QByteArray before = [&] {
            QFile file(path);
            return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
        }();
        second.addPhones(1);
        second.path = second.folder.filePath("other.underridge"); // where "save" asks to save to
        second.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!second.window->files().isSaving());
        QVERIFY(!second.window->files().isReadOnly());
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly) && file.readAll() == before);
        QVERIFY(QFile::exists(second.path));

        WindowHarness third;
        third.session().ids().next(); // windows under test begin from the same seed
        third.onQuestion("Open elsewhere", [](const QString&) { return copy; });
        QVERIFY(third.open(path));
        QVERIFY(third.session().document().path().empty());
        QVERIFY(third.network().info().id != first.network().info().id);
        third.onQuestion("Open elsewhere", [](const QString&) { return cancel; });
        QVERIFY(!third.open(path));
    }

    void leaving_a_read_only_window_by_save_does_not_write_over_the_file() {
        WindowHarness first;
        const QString path = saved(first);
        WindowHarness second;
        second.onQuestion("Open elsewhere", [](const QString&) { return readOnly; });
        QVERIFY(second.open(path));
        QVERIFY(second.window->files().isReadOnly());
        second.addPhones(1);
        const auto before = *second.files.read(path.toStdString());
        second.answer = app::NetworkFiles::SaveAnswer::save;
        second.path = second.folder.filePath("mine.underridge");
        second.window->close();
        QTRY_VERIFY(!second.window->isVisible());
        QVERIFY(*first.files.read(path.toStdString()) == before);
        QVERIFY(QFile::exists(second.path));
    }

    void saving_onto_a_file_that_is_open_elsewhere_is_refused_before_anything_is_written() {
        WindowHarness first;
        const QString path = saved(first);
        const auto before = *first.files.read(path.toStdString());
        WindowHarness second;
        second.begin();
        second.addPhones(5);
        second.path = path;
        second.window->action(CommandId::saveAs)->trigger();
        second.wait();
        QVERIFY(*first.files.read(path.toStdString()) == before);
        QVERIFY(second.window->isWindowModified());
        QVERIFY(second.session().document().path().empty());
        QVERIFY2(second.window->statusText().contains("open elsewhere"),
                 qPrintable(second.window->statusText()));
    }

    void a_change_from_outside_waits_for_the_open_dialog_and_the_latest_counts() {
        WindowHarness h;
        const QString path = saved(h);
        auto* blocking = new QDialog(h.window.get());
        h.window->dialogs().ask([blocking] { return blocking; }, [](QDialog&, int) {});
        QVERIFY(h.window->dialogs().isOpen());
        const auto write = [&](const char* name) {
            auto other = exchange::readOwn(*h.files.read(path.toStdString()), "other");
            const Device* phone = nullptr;
            other->network.all<Device>().forEach([&](const Device& d) { phone = phone ? phone : &d; });
            const Network theirs = edit::rename(other->network, {refTo(phone->id)}, {name})->network;
            QVERIFY(bool(h.files.writeAtomically(path.toStdString(), exchange::writeOwn(theirs))));
        };
        write("first");
        QTest::qWait(600); // seen, and waiting
        write("second");
        QTest::qWait(600);
        QCOMPARE(h.window->dialogs().open(), blocking);
        int asked = 0;
        h.onDialog<QDialog>([&](QDialog& dialog) {
            ++asked;
            for (auto* button : dialog.findChildren<QPushButton*>())
                if (button->text() == "Take the file's")
                    button->click();
            return true;
        });
        blocking->accept();
        QTRY_VERIFY(h.named("second"));
        QCOMPARE(asked, 1);
        QVERIFY(!h.named("first"));
        QVERIFY(!h.window->isWindowModified());
    }

    void a_sheet_that_the_file_no_longer_has_is_not_shown() {
        WindowHarness h;
        const QString path = saved(h);
        h.session().apply(edit::addSheet(h.network(), "Pier", h.session().ids()));
        h.key(Qt::Key_S, Qt::ControlModifier);
        h.wait();
        const auto sheets = h.network().sheetsInOrder();
        h.session().showSheet(sheets.back().id);
        Network theirs = h.network();
        theirs.erase<Sheet>(sheets.back().key());
        h.onDialog<app::ChangedDialog>([](app::ChangedDialog& dialog) { dialog.choose(Changed::takeFile); });
        QVERIFY(bool(h.files.writeAtomically(path.toStdString(), exchange::writeOwn(theirs))));
        QTRY_COMPARE_WITH_TIMEOUT(h.network().all<Sheet>().size(), std::size_t{1}, 5000);
        QCOMPARE(h.session().sheet(), sheets.front().id);
        QCOMPARE(h.session().scene().sheet(), sheets.front().id);
    }

    void a_file_is_given_free_when_another_network_takes_its_place() {
        WindowHarness h;
        const QString path = saved(h);
        QVERIFY(edit::Claim::holder(h.files, path.toStdString()));
        h.window->action(CommandId::newNetwork)->trigger();
        QVERIFY(!edit::Claim::holder(h.files, path.toStdString()));
        QVERIFY(h.open(path));
        QVERIFY(edit::Claim::holder(h.files, path.toStdString()));
        h.path = h.folder.filePath("elsewhere.underridge");
        h.window->action(CommandId::saveAs)->trigger();
        h.wait();
        QVERIFY(!edit::Claim::holder(h.files, path.toStdString()));
        QVERIFY(edit::Claim::holder(h.files, h.path.toStdString()));
    }

    void a_closed_window_gives_the_file_free_and_the_same_window_may_open_it_again() {
        WindowHarness first;
        const QString path = saved(first);
        QVERIFY(edit::Claim::holder(first.files, path.toStdString()));
        bool asked = false;
        first.mayNeverBeAsked("Open elsewhere");
        first.onQuestion("Open elsewhere", [&](const QString&) {
            asked = true;
            return cancel;
        });
        QVERIFY(first.open(path));
        QVERIFY(!asked);
        first.window->close();
        QVERIFY(!edit::Claim::holder(first.files, path.toStdString()));
        QVERIFY(!QFile::exists(QString::fromStdString(edit::Claim::pathFor(path.toStdString()))));
    }

    void a_claim_left_by_a_program_that_died_does_not_count() {
        MemoryFiles files;
        QVERIFY(bool(files.writeAtomically(edit::Claim::pathFor("/n/a"), "{\"user\":\"mara\"}")));
        QVERIFY(!edit::Claim::holder(files, "/n/a"));
        auto claim = edit::Claim::take(files, "/n/a", {"ida", "control-2", "14:05"});
        QVERIFY(bool(claim));
        QCOMPARE(QString::fromStdString(edit::Claim::holder(files, "/n/a")->text()),
                 QString("ida on control-2, since 14:05"));
        QVERIFY(!edit::Claim::take(files, "/n/a", {}));
    }

    void a_file_changed_underneath_is_shown_and_taken_over_as_one_step_data() {
        QTest::addColumn<int>("answer");
        QTest::newRow("take the file's") << static_cast<int>(Changed::takeFile);
        QTest::newRow("keep mine") << static_cast<int>(Changed::keepMine);
    }
    void a_file_changed_underneath_is_shown_and_taken_over_as_one_step() {
        QFETCH(int, answer);
        WindowHarness h;
        const QString path = saved(h);
        h.addPhones(1); // not saved yet
        const Network mine = h.network();
        auto other = exchange::readOwn(*h.files.read(path.toStdString()), "other");
        QVERIFY(bool(other));
        Network theirs = edit::rename(other->network, {refTo(h.named("phone-1"))}, {"desk-phone"})->network;
        std::vector<edit::Difference> shown;
        h.onDialog<app::ChangedDialog>([&](app::ChangedDialog& dialog) {
            shown = dialog.differences();
            dialog.choose(static_cast<Changed>(answer));
        });
        QVERIFY(bool(h.files.writeAtomically(path.toStdString(), exchange::writeOwn(theirs))));
        QTRY_VERIFY_WITH_TIMEOUT(!shown.empty(), 5000);
        // From what is open to the file: one phone and its position go, one is called
        // otherwise.
        QCOMPARE(edit::countsText(shown), std::string("0 added, 2 removed, 1 changed"));
        if (static_cast<Changed>(answer) == Changed::takeFile) {
            QVERIFY(h.named("desk-phone"));
            QVERIFY(!h.window->isWindowModified());
            h.session().undo();
            QVERIFY(h.network() == mine);
        } else {
            QVERIFY(h.network() == mine);
        }
        QVERIFY(h.window->isWindowModified());
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->isWindowModified());
        QVERIFY(exchange::readOwn(*h.files.read(path.toStdString()), "x")->network == mine);
    }

    void a_file_that_vanishes_costs_nothing() {
        WindowHarness h;
        const QString path = saved(h);
        bool asked = false;
        h.mayNeverBeAsked("underridge::app::ChangedDialog");
        h.onDialog<app::ChangedDialog>([&](app::ChangedDialog&) { asked = true; });
        QVERIFY(QFile::remove(path));
        h.addPhones(1);
        QTest::qWait(400);
        QVERIFY(!asked);
        QCOMPARE(h.devices(), std::size_t{3});
        h.key(Qt::Key_S, Qt::ControlModifier);
        QTRY_VERIFY(!h.window->isWindowModified());
        QVERIFY(QFile::exists(path));
    }
};

UNDERRIDGE_TEST(SharingTest)
#include "sharing_test.moc"
