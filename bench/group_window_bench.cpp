// SPDX-License-Identifier: GPL-3.0-or-later
// Benches of gestures with groups in the whole window at 1280 x 800 on the offscreen platform, driven by
// events: how long the window's thread is busy at a time, up to the repaint and after it.
#include "bench/group_window_bench.h"
#include "app/window/main_window.h"
#include "bench/percentiles.h"
#include "core/base/files.h"
#include "core/edit/groups.h"
#include "core/edit/sheets.h"
#include "core/model/group_tree.h"
#include "tests/support/large_network.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QTemporaryDir>
#include <QThread>
#include <map>

namespace underridge::bench {
namespace {

/// Whether what it watches was painted.
class PaintSeen : public QObject {
public:
    bool seen = false;

protected:
    bool eventFilter(QObject*, QEvent* event) override {
        seen |= event->type() == QEvent::Paint;
        return false;
    }
};

class GroupStage {
public:
    explicit GroupStage(int devices)
        : window_({{files_, "/j", [] { return std::int64_t{0}; }}, 1, folder_.filePath("s.ini"), {}, {}}) {
        auto& session = window_.session();
        session.setDocument(edit::Document::fresh(session.workspace().world(), tests::largeGrouped(devices)));
        window_.showSheet();
        sheet().installEventFilter(&isDrawn_);
        window_.resize(1280, 800);
        window_.show();
        sheet().fitAll();
        settle();
        // The journal of what was never saved begins with all of it.
        QElapsedTimer timer;
        timer.start();
        session.apply(edit::addNote(session.network(), session.look(), {0, 0}, "begun", session.ids()));
        firstEdit_ = static_cast<double>(timer.nsecsElapsed()) / 1e6;
        settle();
    }

    app::SheetView& sheet() { return window_.sheet(); }
    app::Session& session() { return window_.session(); }
    app::MainWindow& window() { return window_; }
    std::vector<model::GroupId> groups(model::GroupKind kind) {
        std::vector<model::GroupId> out;
        session().network().all<model::Group>().forEach([&](const model::Group& group) {
            if (group.type == kind)
                out.push_back(group.id);
        });
        return out;
    }

    /// The events that wait, and the sheet drawn once: by one of them, or else after them.
    /// Milliseconds.
    double step() {
        QElapsedTimer timer;
        timer.start();
        isDrawn_.seen = false;
        QCoreApplication::processEvents();
        if (!isDrawn_.seen)
            sheet().repaint();
        return static_cast<double>(timer.nsecsElapsed()) / 1e6;
    }
    /// Until nothing is left to be done on the sheet for a while. The longest step.
    double settle() {
        double longest = 0;
        QElapsedTimer quiet, all;
        quiet.start();
        all.start();
        sharp_ = 0;
        while (quiet.elapsed() < 300 && all.elapsed() < 60'000) {
            const double took = step();
            if (sharp_ == 0 && sheet().tilesComplete() && !session().workspace().isUnsettled())
                sharp_ = static_cast<double>(all.nsecsElapsed()) / 1e6;
            longest = std::max(longest, took);
            if (took > 8 || !sheet().tilesComplete() || session().workspace().isUnsettled())
                quiet.restart();
            QThread::msleep(1);
        }
        return longest;
    }
    /// How long the first edit of a network that was never saved took, milliseconds.
    double firstEdit() const { return firstEdit_; }
    /// How long the last settle() took until everything in view was drawn sharp.
    double sharpAfter() const { return sharp_; }
    void send(QEvent::Type type, QPointF at, Qt::MouseButton button, Qt::MouseButtons buttons) {
        QMouseEvent event(type, at, sheet().mapToGlobal(at), button, buttons, {});
        QApplication::sendEvent(&sheet(), &event);
    }

private:
    MemoryFiles files_;
    QTemporaryDir folder_;
    PaintSeen isDrawn_;
    app::MainWindow window_;
    double sharp_ = 0, firstEdit_ = 0;
};

GroupStage& stage(int devices, bool keep = true) {
    static std::map<int, std::unique_ptr<GroupStage>> stages; // one at a time
    if (!keep || !stages.contains(devices))
        stages.clear();
    auto& held = stages[devices];
    if (!held && keep)
        held = std::make_unique<GroupStage>(devices);
    return *held;
}

/// A place at which a press takes the frame of a group, on the screen.
std::optional<QPointF> holdOf(GroupStage& s, model::GroupId group) {
    const scene::Frame* frame = s.session().scene().frame(group);
    if (!frame)
        return std::nullopt;
    const double zoom = s.sheet().camera().zoom();
    const auto seen = s.session().scene().seenAt(zoom);
    for (double along = 0.02; along < 1; along += 0.01)
        for (const double down : {2.0, 6.0, 12.0, 20.0}) {
            const scene::PointF at{frame->frame.x + frame->frame.w * along, frame->frame.y + down};
            if (scene::hitAt(*seen, at, 6 / zoom).object == model::refTo(group))
                return s.sheet().camera().toScreen(at);
        }
    return std::nullopt;
}

/// A group of hundreds to thousands of devices dragged and dropped: from the release of the button to the
/// repaint, and the longest the window is busy at a time until all is as it will be.
void drop(benchmark::State& state) {
    GroupStage& s = stage(static_cast<int>(state.range(0)));
    const auto groups = s.groups(model::GroupKind::row);
    Percentiles times, frames, longest, whole, undone;
    double devices = 0;
    std::size_t i = 0;
    for (auto _ : state) {
        const model::GroupId group = groups[i / 2 % groups.size()];
        const scene::Frame* frame = s.session().scene().frame(group);
        s.sheet().fit(frame->frame.grown(frame->frame.w / 2));
        s.settle();
        const auto hold = holdOf(s, group);
        if (!hold)
            return state.SkipWithError("no hold");
        const QPointF far = *hold + QPointF(i % 2 ? 30 : -30, 0);
        ++i;
        s.send(QEvent::MouseMove, *hold, Qt::NoButton, Qt::NoButton);
        s.send(QEvent::MouseButtonPress, *hold, Qt::LeftButton, Qt::LeftButton);
        constexpr double parts = 40;
        for (int part = 1; part <= parts; ++part) {
            QElapsedTimer timer;
            timer.start();
            s.send(QEvent::MouseMove, *hold + (far - *hold) * (part / parts), Qt::NoButton, Qt::LeftButton);
            s.step();
            frames.add(static_cast<double>(timer.nsecsElapsed()) / 1e6);
        }
        const model::Network before = s.session().network();
        QElapsedTimer all;
        all.start();
        times.time(state, [&] {
            s.send(QEvent::MouseButtonRelease, far, Qt::LeftButton, Qt::NoButton);
            s.step();
        });
        longest.add(s.settle());
        whole.add(static_cast<double>(all.elapsed()) - 300);
        if (before == s.session().network())
            return state.SkipWithError("nothing was dropped");
        QElapsedTimer back;
        for (const bool undo : {true, false}) {
            back.start();
            undo ? s.session().undo() : s.session().redo();
            s.step();
            undone.add(static_cast<double>(back.nsecsElapsed()) / 1e6);
            s.settle();
        }
        devices = static_cast<double>(model::devicesWithin(s.session().network(), group).size());
    }
    times.report(state);
    state.counters["devices"] = devices;
    state.counters["drag_p95_ms"] = frames.at(0.95);
    state.counters["longest_p95_ms"] = longest.at(0.95);
    state.counters["whole_p50_ms"] = whole.at(0.5);
    state.counters["first_edit_ms"] = s.firstEdit();
    state.counters["undo_p95_ms"] = undone.at(0.95);
}

/// Into a group and out again.
void enter(benchmark::State& state) {
    GroupStage& s = stage(static_cast<int>(state.range(0)));
    const auto groups = s.groups(model::GroupKind::floor);
    Percentiles times, longest, whole;
    std::size_t i = 0;
    for (auto _ : state) {
        const bool in = i % 2 == 0;
        const model::GroupId group = groups[i / 2 * 7 % groups.size()];
        if (in)
            s.sheet().fitAll();
        ++i;
        s.settle();
        QElapsedTimer all;
        all.start();
        times.time(state, [&] {
            s.session().navigation().enter(in ? group : model::GroupId{});
            s.step();
        });
        longest.add(s.settle());
        whole.add(static_cast<double>(all.elapsed()) - 300);
        if (bool(s.session().scene().entered()) != in)
            return state.SkipWithError("not entered, or not left");
    }
    times.report(state);
    state.counters["longest_p95_ms"] = longest.at(0.95);
    state.counters["whole_p50_ms"] = whole.at(0.5);
}

/// One of the innermost groups folded, then unfolded, somewhere in view.
void fold(benchmark::State& state) {
    GroupStage& s = stage(static_cast<int>(state.range(0)));
    const auto groups = s.groups(model::GroupKind{});
    Percentiles times, longest, sharp;
    std::size_t i = 0;
    for (auto _ : state) {
        const model::GroupId group = groups[i / 2 * 37 % groups.size()];
        s.sheet().look(s.session().scene().item(model::refTo(group))->bounds.centre(), 0.5);
        s.session().select({model::refTo(group)});
        s.settle();
        const bool folded = s.session().scene().tile(group) != nullptr;
        times.time(state, [&] {
            s.window().action(app::CommandId::foldOrUnfold)->trigger();
            s.step();
        });
        ++i;
        longest.add(s.settle());
        if ((s.session().scene().tile(group) != nullptr) == folded)
            return state.SkipWithError("neither folded nor unfolded");
        sharp.add(s.sharpAfter());
    }
    times.report(state);
    state.counters["longest_p95_ms"] = longest.at(0.95);
    state.counters["sharp_p95_ms"] = sharp.at(0.95);
}

/// From a plate as large as the view to the whole sheet and back, a notch of the wheel a frame.
void throughAllLevels(benchmark::State& state) {
    GroupStage& s = stage(static_cast<int>(state.range(0)));
    Percentiles times;
    int i = 0;
    s.sheet().look(s.session().scene().bounds().centre(), 2);
    s.settle();
    for (auto _ : state)
        times.time(state, [&] {
            s.sheet().zoomBy((i / 40) % 2 ? 1.2 : 1 / 1.2);
            ++i;
            s.step();
        });
    times.report(state);
    state.counters["sharp_after_ms"] = s.settle();
}

/// Letters typed into a field; of each until it is handled and the sheet drawn again.
void typeInto(benchmark::State& state, GroupStage& s, QLineEdit& field, const QString& text) {
    Percentiles times;
    int i = 0;
    for (auto _ : state) {
        const auto at = i++ % text.size();
        if (at == 0)
            field.clear();
        QKeyEvent key(QEvent::KeyPress, 0, {}, text.mid(at, 1));
        times.time(state, [&] {
            QApplication::sendEvent(&field, &key);
            s.step();
        });
    }
    times.report(state);
    state.counters["longest_p95_ms"] = s.settle();
}

void typeFilter(benchmark::State& state) {
    GroupStage& s = stage(static_cast<int>(state.range(0)));
    s.window().filter().open();
    typeInto(state, s, s.window().filter().field(), "role:switch in:g-1 free-ports>4 vlan:20");
    s.window().filter().off().click();
    s.settle();
}

void typeFind(benchmark::State& state) {
    GroupStage& s = stage(static_cast<int>(state.range(0)));
    s.window().find().setFocus();
    typeInto(state, s, s.window().find(), "acc-4711 10.84.20");
    s.window().find().clear();
    s.settle();
}

} // namespace

void registerGroupBenches(int size) {
    const auto add = [&](const char* name, auto bench, int times) {
        benchmark::RegisterBenchmark(name, bench)
            ->Arg(size)
            ->UseManualTime()
            ->Unit(benchmark::kMillisecond)
            ->Iterations(times);
    };
    add("group/drop", drop, 10);
    add("group/enter", enter, 60);
    add("group/fold", fold, 60);
    add("group/zoom", throughAllLevels, 240);
    add("group/filter_key", typeFilter, 120);
    add("group/find_key", typeFind, 120);
}

void endGroupBenches() {
    stage(0, false);
}

} // namespace underridge::bench
