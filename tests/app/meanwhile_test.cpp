// SPDX-License-Identifier: GPL-3.0-or-later
// What happens in the middle of something else: opening, saving, closing, dialogs.
#include "core/edit/sheets.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QFile>
#include <sys/stat.h>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using Answer = app::NetworkFiles::SaveAnswer;
using tests::WindowHarness;

namespace {

/// A file on a slow disk: whoever reads it waits until it is let go.
class SlowFile {
public:
    explicit SlowFile(QString path) : path_(std::move(path)) {
        if (mkfifo(path_.toLocal8Bit().constData(), 0600) != 0)
            qFatal("no slow file");
    }
    ~SlowFile() { release(); }
    const QString& path() const { return path_; }
    void release(const QByteArray& bytes = "nothing") {
        if (std::exchange(released_, true))
            return;
        QFile file(path_);
        if (file.open(QIODevice::WriteOnly | QIODevice::Unbuffered))
            file.write(bytes);
    }

private:
    QString path_;
    bool released_ = false;
};

} // namespace

class MeanwhileTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void of_two_samples_asked_for_at_once_the_later_one_is_shown() {
        for (const auto& [first, second, devices] :
             {std::tuple(CommandId::fennickQuay, CommandId::firstOffice, 8),
              std::tuple(CommandId::firstOffice, CommandId::fennickQuay, 129)}) {
            WindowHarness h;
            h.window->action(first)->trigger();
            h.window->action(second)->trigger();
            h.wait();
            QCOMPARE(h.devices(), static_cast<std::size_t>(devices));
            QTest::qWait(30);
            QCOMPARE(h.devices(), static_cast<std::size_t>(devices));
        }
    }

    void an_opening_that_is_given_up_leaves_all_as_it_was() {
        WindowHarness h;
        h.begin();
        h.addPhones(2);
        h.answer = Answer::discard;
        const Network before = h.network();
        SlowFile slow(h.folder.filePath("slow.csv"));
        std::optional<bool> ended;
        h.window->files().open(slow.path(), [&](bool good) { ended = good; });
        QTRY_COMPARE(h.window->jobs().words(), QStringLiteral("Opening slow.csv"));
        h.addPhones(1); // the sheet goes on meanwhile
        h.window->jobs().cancel();
        QCOMPARE(ended, std::optional(false));
        slow.release("name,role\na,router\n");
        QTest::qWait(50);
        QCOMPARE(h.devices(), std::size_t{3});
        h.session().undo();
        QVERIFY(h.network() == before);
    }

    void a_new_network_while_a_file_is_read_stays_unless_the_person_says_otherwise() {
        WindowHarness h;
        h.begin();
        SlowFile slow(h.folder.filePath("slow.csv"));
        h.window->files().open(slow.path());
        h.addPhones(2);
        h.answer = Answer::cancel;
        slow.release("name,role\na,router\n");
        h.wait();
        QVERIFY(h.saveAsked);
        QCOMPARE(h.devices(), std::size_t{2});
        QVERIFY(h.window->isWindowModified());
    }

    void a_new_network_is_wanted_rather_than_what_is_still_being_read() {
        WindowHarness h;
        h.begin();
        SlowFile slow(h.folder.filePath("slow.csv"));
        std::optional<bool> ended;
        h.window->files().open(slow.path(), [&](bool good) { ended = good; });
        h.window->action(CommandId::newNetwork)->trigger();
        const NetworkId fresh = h.network().info().id;
        slow.release("name,role\na,router\n");
        h.wait();
        QCOMPARE(ended, std::optional(false));
        QVERIFY(h.network().info().id == fresh);
        QCOMPARE(h.devices(), std::size_t{0});
    }

    void a_window_does_not_close_over_a_save_that_failed() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.answer = Answer::save;
        h.path = QStringLiteral("/proc/none/x.underridge");
        QVERIFY(!h.window->close());
        h.wait();
        QVERIFY(h.window->isVisible());
        QVERIFY2(h.window->statusText().contains("x.underridge"), qPrintable(h.window->statusText()));
        QCOMPARE(h.devices(), std::size_t{1});
        h.path = h.folder.filePath("x.underridge"); // and the next try is as good as the first
        QVERIFY(!h.window->close());
        QTRY_VERIFY(!h.window->isVisible());
        QVERIFY(QFile::exists(h.path));
    }

    void what_is_done_while_it_saves_is_not_saved_and_is_told_so() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        h.path = h.folder.filePath("a.underridge");
        h.key(Qt::Key_S, Qt::ControlModifier);
        QVERIFY(h.window->files().isSaving());
        h.addPhones(1);
        h.wait();
        QVERIFY(h.window->isWindowModified());
        const auto saved =
            edit::Document::open({h.files, {}, [] { return std::int64_t{0}; }}, h.path.toStdString());
        QVERIFY(saved);
        QCOMPARE(saved->document.network().all<Device>().size(), std::size_t{1});
        h.session().undo(); // back to what was saved
        QVERIFY(!h.window->isWindowModified());
    }

    void a_sheet_that_goes_while_its_picture_is_written_is_in_the_picture() {
        WindowHarness h;
        h.openFirstOffice();
        const SheetId sheet = h.session().sheet();
        const QString path = h.folder.filePath("p.png");
        bool done = false;
        h.window->interchange().writePicture(path, [&](bool good) { done = good; });
        QVERIFY(h.session().apply(edit::addSheet(h.network(), "Next", h.session().ids())));
        h.session().showSheet(h.network().sheetsInOrder().back().id);
        QVERIFY(h.session().sheet() != sheet);
        h.wait();
        QVERIFY(done);
        const QImage image(path);
        QVERIFY(image.width() > 400); // of the office, not of the empty sheet
    }

    void an_import_of_what_was_read_before_an_edit_keeps_the_edit() {
        WindowHarness h;
        h.begin();
        SlowFile slow(h.folder.filePath("slow.csv"));
        int shown = 0;
        h.onDialog<QDialog>([&](QDialog& dialog) {
            if (dialog.objectName() == QStringLiteral("import"))
                ++shown;
            return true;
        });
        h.window->interchange().importFile(slow.path());
        h.addPhones(2);
        slow.release("name,role\nrouter-9,router\n");
        h.wait();
        QCOMPARE(shown, 1);
        QVERIFY(h.named("router-9") && h.named("phone-1") && h.named("phone-2"));
        h.session().undo();
        QCOMPARE(h.devices(), std::size_t{2});
    }
};

UNDERRIDGE_TEST(MeanwhileTest)
#include "meanwhile_test.moc"
