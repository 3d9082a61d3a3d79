// SPDX-License-Identifier: GPL-3.0-or-later
// The real window on files and settings of its own, driven by events as a person would.
#pragma once
#include "app/window/main_window.h"
#include "core/base/files.h"
#include "core/edit/links.h"
#include "tests/support/dialog_answers.h"

#include <QApplication>
#include <QDialog>
#include <QDockWidget>
#include <QMenu>
#include <QMenuBar>
#include <QPushButton>
#include <QTabWidget>
#include <QTemporaryDir>
#include <QtTest>

namespace underridge::tests {

class WindowHarness {
public:
    WindowHarness() : window(freshWindow()) {
        onQuestion("Save changes?", [this](const QString&) {
            saveAsked = true;
            return static_cast<int>(answer);
        });
        onQuestion("Recover", [this](const QString&) { return recovers ? 0 : 1; });
    }

    /// An answer with checks in it that was never asked for has checked nothing.
    ~WindowHarness() {
        QStringList never = answers_.neverAsked();
        for (const QString& usual : {QStringLiteral("Save changes?"), QStringLiteral("Recover")})
            never.removeOne(usual); // answered for every test
        never.removeAll(mayBeAsked_);
        QVERIFY2(never.isEmpty(), qPrintable("never asked: " + never.join(", ")));
    }
    /// For a question whose very absence is the point.
    void mayNeverBeAsked(const QString& title) { mayBeAsked_ = title; }

    /// Another window on the same files and settings, as after a restart.
    void restart() {
        window.reset();
        window = freshWindow();
    }

    /// Saves a network as `path`, goes on, and ends without another word, as when the power
    /// fails. Returns what is only in the journal; a fresh window stands there.
    model::Network cutOffAfterSaving() {
        begin();
        addPhones(1);
        path = folder.filePath("b.underridge");
        key(Qt::Key_S, Qt::ControlModifier);
        wait();
        addPhones(2);
        const model::Network lost = network();
        restart();
        return lost;
    }

    app::SheetView& sheet() { return window->sheet(); }
    app::Session& session() { return window->session(); }
    const model::Network& network() { return window->session().network(); }
    std::size_t devices() { return network().all<model::Device>().size(); }
    std::size_t links() { return network().all<model::Link>().size(); }

    void begin() { QTest::mouseClick(button("New network"), Qt::LeftButton); }

    QPushButton* button(const QString& text) {
        for (auto* each : window->findChildren<QPushButton*>())
            if (each->text() == text)
                return each;
        return nullptr;
    }

    model::DeviceId named(const char* name) {
        model::DeviceId found;
        network().all<model::Device>().forEach([&](const model::Device& d) {
            if (d.name == name)
                found = d.id;
        });
        return found;
    }
    const scene::Plate& plate(const char* name) { return *session().scene().plate(named(name)); }
    QPoint at(scene::PointF p) { return sheet().camera().toScreen(p).toPoint(); }
    QPoint middle(const char* name) { return at(plate(name).frame.centre() + scene::PointF{10, -6}); }
    QPoint grip(const char* name) {
        return at(app::SelectTool::gripOf(plate(name), sheet().camera().zoom()).centre());
    }

    void moveTo(QPoint p, Qt::MouseButtons held = Qt::NoButton, Qt::KeyboardModifiers modifiers = {}) {
        QMouseEvent event(QEvent::MouseMove, p, sheet().mapToGlobal(p), Qt::NoButton, held, modifiers);
        QApplication::sendEvent(&sheet(), &event);
    }
    void drag(QPoint from, QPoint to, Qt::KeyboardModifiers modifiers = {}) {
        moveTo(from);
        QTest::mousePress(&sheet(), Qt::LeftButton, {}, from);
        moveTo((from + to) / 2, Qt::LeftButton, modifiers);
        moveTo(to, Qt::LeftButton, modifiers);
        QTest::mouseRelease(&sheet(), Qt::LeftButton, modifiers, to);
    }
    /// From a plate onto its grip, and from there to the target.
    void linkTo(const char* from, QPoint to) {
        moveTo(middle(from));
        drag(grip(from), to);
    }
    void click(QPoint p, Qt::KeyboardModifiers modifiers = {}) {
        moveTo(p);
        QTest::mouseClick(&sheet(), Qt::LeftButton, modifiers, p);
    }
    /// Chooses a model in the catalogue with the mouse.
    void choose(const QString& model) {
        QListWidget& list = window->catalogue().list();
        for (int i = 0; i < list.count(); ++i)
            if (list.item(i)->text() == model) {
                list.scrollToItem(list.item(i));
                QTest::mouseClick(list.viewport(), Qt::LeftButton, {},
                                  list.visualItemRect(list.item(i)).center());
                return;
            }
        QFAIL(qPrintable("no model " + model));
    }
    void key(Qt::Key k, Qt::KeyboardModifiers modifiers = {}) {
        QTest::keyClick(QApplication::focusWidget() ? QApplication::focusWidget() : &sheet(), k, modifiers);
    }
    /// Adds phones by keyboard.
    void addPhones(int count) {
        sheet().setFocus();
        key(Qt::Key_A);
        type(QString::number(count) + " phone");
        key(Qt::Key_Return);
    }
    void type(const QString& text) { QTest::keyClicks(QApplication::focusWidget(), text); }

    /// Answers dialogs of a kind from now on instead of a person; the answer given last
    /// counts first.
    template <class Kind, class Answer>
    void onDialog(Answer given) {
        answers_.add<Kind>(std::move(given));
    }
    /// Answers questions with a title by the index of a choice.
    void onQuestion(const QString& title, std::function<int(const QString& words)> given) {
        answers_.addQuestion(title, std::move(given));
    }
    /// Starts what takes its time, and waits for its end: whether it was done.
    template <class Start>
    bool finished(Start start) {
        auto result = std::make_shared<std::optional<bool>>();
        start([result](bool good) { *result = good; });
        const bool ended = QTest::qWaitFor([&] { return result->has_value(); }, 20'000);
        QApplication::setActiveWindow(window.get()); // as a window manager does when a dialog has gone
        return ended && **result;
    }
    /// Until nothing is being read or written.
    void wait() { QTRY_VERIFY_WITH_TIMEOUT(!window->jobs().busy(), 20'000); }
    bool open(const QString& file) {
        return finished([&](auto done) { window->files().open(file, done); });
    }
    void openSample(const QString& name) {
        QVERIFY(finished([&](auto done) { window->files().openSample(name, done); }));
    }
    void openFirstOffice() { openSample("first-office"); }
    void openFennickQuay() { openSample("fennick-quay"); }
    bool import(const QString& file) {
        return finished([&](auto done) { window->interchange().importFile(file, done); });
    }
    bool merge(const QString& file) {
        return finished([&](auto done) { window->interchange().mergeCables(file, done); });
    }
    bool mergeResults(const QString& file) {
        return finished([&](auto done) { window->interchange().mergeResults(file, done); });
    }
    bool exportTo(const QString& file) {
        return finished([&](auto done) { window->interchange().exportTo(file, done); });
    }

    QTemporaryDir folder;
    DiskFiles files;
    std::int64_t clock = 0;
    bool saveAsked = false;
    bool motion = false;  ///< whether views fly to where they go
    bool recovers = true; ///< how "Recover?" is answered
    app::NetworkFiles::SaveAnswer answer = app::NetworkFiles::SaveAnswer::discard;
    QString path;
    std::unique_ptr<app::MainWindow> window;

private:
    DialogAnswers answers_;
    QString mayBeAsked_;

    std::unique_ptr<app::MainWindow> freshWindow() {
        const edit::World world{files, folder.filePath("journal").toStdString(),
                                [this] { return clock += 10; }};
        QSettings(folder.filePath("settings.ini"), QSettings::IniFormat).setValue("window/motion", motion);
        auto fresh = std::make_unique<app::MainWindow>(
            app::WindowWorld{world, 7, folder.filePath("settings.ini"), folder.filePath("models.json"),
                             QStringLiteral(UNDERRIDGE_ROOT "/demo"), folder.filePath("thumbnails"),
                             folder.filePath("plans")});
        fresh->fileDialogs().answer = [this](const app::FileQuestion&) { return path; };
        fresh->dialogs().answer = [this](QDialog& dialog) -> std::optional<int> {
            const auto given = answers_(dialog);
            const auto* told = qobject_cast<app::QuestionBox*>(&dialog);
            return !given && told && told->buttons().size() == 1 ? 0 : given; // nothing is asked
        };
        fresh->resize(1280, 800);
        fresh->show();
        fresh->activateWindow();
        QApplication::setActiveWindow(fresh.get());
        return fresh;
    }
};

} // namespace underridge::tests
