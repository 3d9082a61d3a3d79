// SPDX-License-Identifier: GPL-3.0-or-later
// Benches of the sheet widget at 1280 x 800 on the offscreen platform: one frame is one
// repaint of the widget after one step of the gesture. The reference is copying one
// frame's bytes.
#include "app/window/main_window.h"
#include "bench/group_window_bench.h"
#include "bench/percentiles.h"
#include "core/base/files.h"
#include "core/edit/sheets.h"
#include "tests/support/large_network.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QLabel>
#include <QMouseEvent>
#include <QProcess>
#include <QTemporaryDir>
#include <QTreeWidget>
#include <QVBoxLayout>
#include <cstdlib>
#include <cstring>
#include <map>

using namespace underridge;
using bench::Percentiles;

namespace {

struct Stage {
    explicit Stage(int devices) {
        session = std::make_unique<app::Session>(edit::World{files, "/j", [] { return std::int64_t{0}; }},
                                                 exchange::builtInCatalogue(), 1);
        session->setDocument(
            edit::Document::fresh(session->workspace().world(), tests::largeNetwork(devices)));
        view = std::make_unique<app::SheetView>(*session);
        view->resize(1280, 800);
        view->show();
        view->look(session->scene().bounds().centre(), 1);
        settle();
    }
    void paint() { frame = view->grab().toImage(); }
    /// Lets the worker finish its tiles.
    double settle() {
        QElapsedTimer timer;
        timer.start();
        do {
            QCoreApplication::processEvents(QEventLoop::AllEvents, 5);
            paint();
        } while (!view->tilesComplete() && timer.elapsed() < 20000);
        return static_cast<double>(timer.nsecsElapsed()) / 1e6;
    }
    /// What one frame costs the window's thread: taking tiles that are ready, and
    /// painting.
    void step() {
        QCoreApplication::processEvents();
        view->repaint();
    }

    MemoryFiles files;
    std::unique_ptr<app::Session> session;
    std::unique_ptr<app::SheetView> view;
    QImage frame;
};

std::map<int, std::unique_ptr<Stage>>& allStages() {
    static std::map<int, std::unique_ptr<Stage>> stages;
    return stages;
}

Stage& stage(int devices) {
    auto& stages = allStages();
    auto& held = stages[devices];
    if (!held) {
        stages.clear(); // one at a time
        auto& fresh = stages[devices];
        fresh = std::make_unique<Stage>(devices);
        return *fresh;
    }
    return *held;
}

double copyFrameMs() {
    std::vector<char> from(1280 * 800 * 4), to(from.size());
    QElapsedTimer timer;
    timer.start();
    for (int i = 0; i < 50; ++i) {
        std::memcpy(to.data(), from.data(), from.size());
        benchmark::DoNotOptimize(to.data());
    }
    return static_cast<double>(timer.nsecsElapsed()) / 50e6;
}

void finish(benchmark::State& state, Percentiles& times) {
    times.report(state);
    state.counters["ratio_copy_frame"] = times.at(0.5) / copyFrameMs();
}

void framePan(benchmark::State& state) {
    Stage& s = stage(static_cast<int>(state.range(0)));
    const auto middle = s.session->scene().bounds().centre();
    s.view->look(middle, 1);
    s.settle();
    Percentiles times;
    int i = 0;
    for (auto _ : state)
        times.time(state, [&] {
            s.view->pan({(i / 60) % 2 ? 14.0 : -14.0, (i / 60) % 2 ? 6.0 : -6.0});
            ++i;
            s.step();
        });
    finish(state, times);
}

void frameZoom(benchmark::State& state) {
    Stage& s = stage(static_cast<int>(state.range(0)));
    s.view->look(s.session->scene().bounds().centre(), 1);
    s.settle();
    Percentiles times;
    int i = 0;
    for (auto _ : state)
        times.time(state, [&] {
            s.view->zoomBy((i / 25) % 2 ? 1.1 : 1 / 1.1);
            ++i;
            s.step();
        });
    finish(state, times);
    state.counters["sharp_after_ms"] = s.settle();
}

void frameDrag(benchmark::State& state) {
    Stage& s = stage(static_cast<int>(state.range(0)));
    s.view->look(s.session->scene().bounds().centre(), 1);
    s.settle();
    const auto plates = s.session->scene().itemsIn(s.view->camera().visible().grown(-200)).of<scene::Plate>();
    const QPointF start =
        s.view->camera().toScreen(plates[plates.size() / 2]->frame.centre() + scene::PointF{0, -8});
    const auto send = [&](QEvent::Type type, QPointF at, Qt::MouseButton button, Qt::MouseButtons buttons) {
        QMouseEvent event(type, at, s.view->mapToGlobal(at), button, buttons, {});
        QApplication::sendEvent(s.view.get(), &event);
    };
    send(QEvent::MouseMove, start, Qt::NoButton, Qt::NoButton);
    send(QEvent::MouseButtonPress, start, Qt::LeftButton, Qt::LeftButton);
    Percentiles times;
    int i = 0;
    for (auto _ : state)
        times.time(state, [&] {
            ++i;
            send(QEvent::MouseMove, start + QPointF(i % 200, (i * 3) % 120), Qt::NoButton, Qt::LeftButton);
            s.step();
        });
    QKeyEvent escape(QEvent::KeyPress, Qt::Key_Escape, {});
    QApplication::sendEvent(s.view.get(), &escape);
    send(QEvent::MouseButtonRelease, start, Qt::LeftButton, Qt::NoButton);
    finish(state, times);
}

/// To a sheet that was seen before and back, after an edit on the other, until the sheet can be drawn.
void switchSheet(benchmark::State& state) {
    Stage& s = stage(static_cast<int>(state.range(0)));
    const auto sheets = [&] { return s.session->network().sheetsInOrder(); };
    if (sheets().size() < 2) {
        s.session->apply(edit::addSheet(s.session->network(), "Second", s.session->ids()));
        std::vector<std::pair<model::DeviceId, model::Point>> all;
        s.session->network().all<model::Position>().forEachIn(s.session->sheet().value,
                                                              [&](const model::Position& p) {
                                                                  all.push_back({{p.object}, p.at});
                                                              });
        s.session->apply(edit::showOnSheet(s.session->network(), sheets().back().id, all));
    }
    const model::SheetId one = sheets().front().id, two = sheets().back().id;
    s.session->showSheet(two);
    while (s.session->sheet() != two) // a thread makes it
        QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    s.session->showSheet(one);
    Percentiles times;
    bool there = false;
    for (auto _ : state)
        times.time(state, [&] {
            s.session->showSheet(there ? one : two);
            there = !there;
        });
    s.session->showSheet(one);
    finish(state, times);
}

/// From "fit all" to the last tile painted by the worker.
void sharpFit(benchmark::State& state) {
    Stage& s = stage(static_cast<int>(state.range(0)));
    Percentiles times;
    for (auto _ : state) {
        s.view->look(s.session->scene().bounds().centre(), 1);
        s.settle();
        times.time(state, [&] {
            s.view->fitAll();
            s.settle();
        });
    }
    times.report(state);
}

constexpr const char* startArgument = "--start";

/// Tells when a widget has been painted.
class Painted : public QObject {
public:
    explicit Painted(QWidget& widget) { widget.installEventFilter(this); }
    /// Goes on with events until it has been, and `also` is true.
    void wait(const std::function<bool()>& also = [] { return true; }) const {
        while (!painted_ || !also())
            QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    }

protected:
    bool eventFilter(QObject*, QEvent* event) override {
        painted_ = painted_ || event->type() == QEvent::Paint;
        return false;
    }

private:
    bool painted_ = false;
};

/// The plain references, up to their first paint: an empty window, one with a label, one with a label and a
/// tree.
[[noreturn]] void plainWindow(const QString& what) {
    QMainWindow window;
    auto* column = new QWidget;
    auto* layout = new QVBoxLayout(column);
    if (what != "empty") // what any window with text in it pays
        layout->addWidget(new QLabel("Underridge"));
    if (what == "tree") {
        auto* tree = new QTreeWidget;
        tree->setHeaderLabels({"Name", "Role"});
        for (int i = 0; i < 20; ++i)
            new QTreeWidgetItem(tree, {QString("acc-%1").arg(i), "switch"});
        layout->addWidget(tree);
    }
    window.setCentralWidget(column);
    window.resize(1280, 800);
    const Painted painted(*column);
    window.show();
    painted.wait();
    std::_Exit(0);
}

/// What a started process does: a plain window, or the program's with the sample as the
/// program starts, its journal in `folder`; first paint with everything sharp, and gone
/// without taking down what it built.
int started(const QString& what, const QString& folder) {
    if (what != "demo")
        plainWindow(what);
    DiskFiles files;
    app::MainWindow window({{files, (folder + "/journal").toStdString(), [] { return std::int64_t{0}; }},
                            1,
                            folder + "/s.ini",
                            {},
                            UNDERRIDGE_DEMO});
    const Painted painted(window.sheet());
    window.files().openSample(QStringLiteral("fennick-quay"));
    window.showWhenOpened();
    painted.wait([&] { return window.sheet().tilesComplete(); });
    std::_Exit(0);
}

double processMs(const char* what) {
    const QTemporaryDir folder;
    QElapsedTimer timer;
    timer.start();
    QProcess::execute(QCoreApplication::applicationFilePath(), {startArgument, what, folder.path()});
    return static_cast<double>(timer.nsecsElapsed()) / 1e6;
}

/// Whole processes, from their start to the first paint, against ones that show a plain Qt
/// window.
void startDemo(benchmark::State& state) {
    Percentiles ours;
    std::map<const char*, std::vector<double>> plain{{"empty", {}}, {"label", {}}, {"tree", {}}};
    for (auto _ : state) {
        for (auto& [what, times] : plain)
            times.push_back(processMs(what));
        ours.time(state, [] { processMs("demo"); });
    }
    ours.report(state);
    for (auto& [what, times] : plain) {
        std::sort(times.begin(), times.end());
        const double median = times[times.size() / 2];
        state.counters[std::string(what) + "_p50_ms"] = median;
        state.counters[std::string("ratio_") + what] = ours.at(0.5) / median;
    }
}

} // namespace

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    QApplication::setStyle("fusion");
    if (argc == 4 && QString::fromLatin1(argv[1]) == startArgument)
        return started(QString::fromLatin1(argv[2]), QString::fromLocal8Bit(argv[3]));
    benchmark::RegisterBenchmark("start/demo", startDemo)
        ->UseManualTime()
        ->Unit(benchmark::kMillisecond)
        ->Iterations(10);
    for (const int size : {1000, 10000, 50000}) {
        benchmark::RegisterBenchmark("frame/pan", framePan)
            ->Arg(size)
            ->UseManualTime()
            ->Unit(benchmark::kMillisecond)
            ->Iterations(400);
        benchmark::RegisterBenchmark("frame/zoom", frameZoom)
            ->Arg(size)
            ->UseManualTime()
            ->Unit(benchmark::kMillisecond)
            ->Iterations(200);
        benchmark::RegisterBenchmark("frame/drag", frameDrag)
            ->Arg(size)
            ->UseManualTime()
            ->Unit(benchmark::kMillisecond)
            ->Iterations(400);
        benchmark::RegisterBenchmark("sheet/switch", switchSheet)
            ->Arg(size)
            ->UseManualTime()
            ->Unit(benchmark::kMillisecond)
            ->Iterations(20);
        benchmark::RegisterBenchmark("sharp/fit", sharpFit)
            ->Arg(size)
            ->UseManualTime()
            ->Unit(benchmark::kMillisecond)
            ->Iterations(3);
    }
    for (const int size : {1000, 10000, 50000})
        bench::registerGroupBenches(size);
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    allStages().clear(); // before the application goes
    bench::endGroupBenches();
    return 0;
}
