// SPDX-License-Identifier: GPL-3.0-or-later
// Makes the pictures in docs/screenshots/ from the demo, by the events a person makes:
// screenshots FOLDER.
#include "app/window/main_window.h"
#include "core/base/files.h"
#include "core/edit/devices.h"
#include "core/edit/links.h"

#include <QApplication>
#include <QDir>
#include <QDockWidget>
#include <QElapsedTimer>
#include <QMouseEvent>
#include <QTabWidget>
#include <QTemporaryDir>
#include <cstdio>

using namespace underridge;

namespace {

class Studio {
public:
    explicit Studio(const QString& folder)
        : folder_(folder),
          window_({{files_, scratch_.filePath("journal").toStdString(), [] { return std::int64_t{0}; }},
                   1,
                   scratch_.filePath("settings.ini"),
                   scratch_.filePath("models.json"),
                   QStringLiteral(UNDERRIDGE_DEMO),
                   scratch_.filePath("thumbnails")}) {
        window_.resize(1280, 800);
        window_.theme().choose(app::ThemeChoice::light);
        window_.show();
        settle();
    }
    ~Studio() { window_.session().document().close(); }

    app::MainWindow& window() { return window_; }
    app::SheetView& sheet() { return window_.sheet(); }

    void settle() {
        QElapsedTimer timer;
        timer.start();
        do {
            QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
            sheet().repaint();
        } while (((sheet().isFlying() || sheet().isMorphing() || sheet().mark().isDrawingIn() ||
                   !sheet().tilesComplete()) &&
                  timer.elapsed() < 5000) ||
                 timer.elapsed() < 120);
    }
    void shoot(const char* name) {
        settle();
        if (!window_.grab().save(folder_ + QLatin1Char('/') + QString::fromLatin1(name) +
                                 QStringLiteral(".png")))
            std::fprintf(stderr, "screenshots: cannot write %s\n", name);
    }
    model::DeviceId named(const char* name) {
        model::DeviceId found;
        window_.session().network().all<model::Device>().forEach([&](const model::Device& d) {
            if (d.name == name)
                found = d.id;
        });
        return found;
    }
    QPointF middle(const char* name) {
        return sheet().camera().toScreen(window_.session().scene().plate(named(name))->frame.centre() +
                                         scene::PointF{10, -8});
    }
    void pointer(QEvent::Type type, QPointF at, Qt::MouseButton button = Qt::NoButton,
                 Qt::MouseButtons held = {}) {
        QMouseEvent event(type, at, sheet().mapToGlobal(at), button, held, {});
        QApplication::sendEvent(&sheet(), &event);
    }
    /// Until nothing is being read or written.
    void waitForJobs() {
        while (window_.jobs().busy())
            QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    }
    void openSample(const char* name) {
        window_.files().openSample(QString::fromLatin1(name));
        waitForJobs();
    }
    void showSheet(std::string_view name) {
        for (const model::Sheet& sheet : window_.session().network().sheetsInOrder())
            if (sheet.name == name)
                window_.session().showSheet(sheet.id);
        settle();
    }
    QString scratch(const char* name) const { return scratch_.filePath(QString::fromLatin1(name)); }

private:
    QString folder_;
    QTemporaryDir scratch_;
    DiskFiles files_;
    app::MainWindow window_;
};

void shootAll(const QString& folder) {
    Studio s(folder);
    for (const char* name : {"first-office", "fennick-quay"}) { // so that there are recent files
        s.openSample(name);
        s.window().files().saveTo(s.scratch(name) + QStringLiteral(".underridge"));
        s.waitForJobs();
    }
    s.window().showStart();
    s.shoot("start");
    s.openSample("first-office");
    s.shoot("first-office-near");

    // A second uplink from the switch, its port chosen from the drawer.
    s.pointer(QEvent::MouseMove, s.middle("acc-1"));
    const auto* plate = s.window().session().scene().plate(s.named("acc-1"));
    const auto grip = app::SelectTool::gripOf(*plate, s.sheet().camera().zoom()).centre();
    s.pointer(QEvent::MouseMove, s.sheet().camera().toScreen(grip));
    s.pointer(QEvent::MouseButtonPress, s.sheet().camera().toScreen(grip), Qt::LeftButton, Qt::LeftButton);
    s.pointer(QEvent::MouseMove, s.middle("edge-1"), Qt::NoButton, Qt::LeftButton);
    s.pointer(QEvent::MouseButtonRelease, s.middle("edge-1"), Qt::LeftButton);
    s.sheet().linking().strip().otherPort(1).click();
    s.shoot("linking-drawer");
    s.sheet().linking().drawer().hide();
}

/// The ferry terminal: far and near.
void shootPort(const QString& folder) {
    Studio s(folder);
    s.openSample("fennick-quay");
    s.shoot("fennick-quay-far");
    s.sheet().look(
        s.window().session().scene().plate(s.named("fw-2"))->frame.centre() + scene::PointF{-60, 140}, 1);
    s.window().session().select({model::refTo(s.named("core-2"))});
    s.shoot("fennick-quay-near");
}

/// Cables followed through panels, and links that do not come up with what the checks say
/// of them.
void shootCabling(const QString& folder) {
    Studio s(folder);
    s.openSample("fennick-quay");
    s.window().session().selectPort({s.named("mm-quay"), "1"});
    s.window().action(app::CommandId::followCables)->trigger();
    s.settle();
    s.sheet().look(
        s.window().session().scene().plate(s.named("mm-quay"))->frame.centre() + scene::PointF{240, 0}, 0.9);
    s.shoot("chain");

    s.window().session().select({model::refTo(s.named("acc-o2")), model::refTo(s.named("pp-ctrl"))});
    s.window().action(app::CommandId::showFaceplates)->trigger();
    s.window().faceplates().first().choose({"7", "8", "9", "10"});
    s.window().faceplates().second().choose({"13"});
    s.shoot("faceplates");

    s.window().action(app::CommandId::showRegisters)->trigger();
    s.window().registers().show(edit::Register::cables);
    s.window().registers().filter().setText(QStringLiteral("FQ-08"));
    s.window().session().select(
        {model::refTo(s.window().session().network().linkAt({s.named("acc-o2"), "3"})->id)});
    s.shoot("registers");

    s.openSample("first-office");
    const auto& network = s.window().session().network();
    const auto* files = network.linkAt({s.named("files-1"), "1"});
    const auto forced = linking::anyPair(network, s.window().session().catalogue(), {s.named("acc-1"), "X3"},
                                         {s.named("files-1"), "1"});
    s.window().session().apply(edit::changeLink(network, s.window().session().catalogue(), files->id, *forced,
                                                s.window().session().ids()));
    s.window().session().apply(edit::changePort(s.window().session().network(), {s.named("acc-1"), "2"},
                                                "Fix", [](model::Port& p) { p.speed = 100; }));
    s.window().action(app::CommandId::showFindings)->trigger();
    QElapsedTimer timer;
    timer.start();
    while (!s.window().checker().isCurrent() && timer.elapsed() < 5000)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    auto& list = s.window().findings().list();
    list.setCurrentItem(list.topLevelItem(0));
    Q_EMIT list.itemClicked(list.topLevelItem(0), 0);
    s.sheet().fitAll();
    s.shoot("findings");
}

} // namespace

/// Groups: a site folded to its buildings with one floor open, and a floor looked into.
void shootGroups(const QString& folder) {
    Studio s(folder);
    s.openSample("fennick-quay");
    model::Network network = s.window().session().network();
    for (const model::Sheet& sheet : network.sheetsInOrder())
        if (sheet.name == "Site overview")
            s.window().session().showSheet(sheet.id);
    const auto groupNamed = [&](const char* name) {
        model::GroupId found;
        network.all<model::Group>().forEach([&](const model::Group& group) {
            if (group.name == name)
                found = group.id;
        });
        return found;
    };
    s.window().findChild<QTabWidget*>()->setCurrentIndex(1);
    s.window().session().select({model::refTo(groupNamed("Quay level"))});
    s.window().action(app::CommandId::foldOrUnfold)->trigger();
    s.sheet().fitAll();
    s.shoot("site-overview");
    s.window().theme().choose(app::ThemeChoice::dark);
    s.window().session().navigation().enter(groupNamed("Gatehouse"));
    s.window().session().select({model::refTo(s.named("ind-gate"))});
    s.shoot("entered-dark");
}

/// A floor on its plan: all of it, and near enough to read ports.
void shootPlan(const QString& folder) {
    Studio s(folder);
    s.openSample("fennick-quay");
    s.showSheet("Concourse");
    app::SheetsPanel& sheets = s.window().sheetsPanel();
    s.window().findChild<QTabWidget*>()->setCurrentWidget(&sheets);
    QElapsedTimer timer;
    timer.start();
    const auto isDrawn = [&](int row) {
        return sheets.list().item(row)->icon().pixmap(8).toImage().pixelColor(4, 4).alpha() > 0;
    };
    do
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    while (timer.elapsed() < 8000 && !isDrawn(sheets.list().count() - 1));
    s.sheet().look(s.window().session().scene().plate(s.named("till-2"))->frame.centre(), 0.9);
    s.window().session().network().all<model::CableRoute>().forEach([&](const model::CableRoute& route) {
        if (route.name == "C-counter")
            s.window().session().select({model::refTo(route.id)});
    });
    s.shoot("floor-plan-near");
}

/// Until what follows from switching and routing is known.
void waitForForwarding(Studio& s) {
    QElapsedTimer timer;
    timer.start();
    while ((!s.window().checker().forwarding() || !s.window().checker().isCurrent()) &&
           timer.elapsed() < 8000)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
}

void layOver(Studio& s, const QString& row) {
    s.window().action(app::CommandId::overlay)->trigger();
    QComboBox& choice = s.window().overlayBar().choice();
    choice.setCurrentIndex(choice.findText(row, Qt::MatchStartsWith));
    s.settle();
}

/// A rack by unit, with what is on the rear, and its power laid over the sheet.
void shootRack(const QString& folder) {
    Studio s(folder);
    s.openSample("fennick-quay");
    s.showSheet("Racks");
    waitForForwarding(s);
    layOver(s, QStringLiteral("Mains power"));
    s.window().session().select({model::refTo(s.named("core-1"))});
    s.window().action(app::CommandId::rack)->trigger();
    s.window().resizeDocks({&s.window().bottomDock()}, {330}, Qt::Vertical);
    s.settle();
    s.sheet().look(
        s.window().session().scene().plate(s.named("fw-1"))->frame.centre() + scene::PointF{280, 40}, 0.75);
    s.shoot("rack");
}

/// Finding: a filter being typed over a sheet that has one, and what was gone to, marked.
void shootFinding(const QString& folder) {
    Studio s(folder);
    s.openSample("fennick-quay");
    s.window().action(app::CommandId::filterSheet)->trigger();
    s.window().filter().field().setText(QStringLiteral("in:concourse"));
    s.window().filter().commit();
    s.window().session().navigation().goTo(model::refTo(s.named("cam-hall-1")));
    s.settle();
    s.window().find().setFocus();
    s.window().find().setText(QStringLiteral("role:camera vlan:2"));
    Q_EMIT s.window().find().textEdited(s.window().find().text());
    s.shoot("find");
}

/// What follows from switching and routing: a trace that stops, a VLAN that breaks, the spanning
/// tree on the data link layer, a trace on the network layer.
void shootForwarding(const QString& folder) {
    Studio s(folder);
    const auto trace = [&](const char* from, const char* to) {
        s.window().session().select({model::refTo(s.named(from)), model::refTo(s.named(to))});
        s.sheet().setFocus();
        s.window().action(app::CommandId::trace)->trigger();
        s.window().resizeDocks({&s.window().bottomDock()}, {300}, Qt::Vertical);
        s.window().session().select({});
        s.sheet().fitAll();
    };
    const auto lay = [&](const QString& row, const char* at, double zoom, const char* picture) {
        layOver(s, row);
        s.sheet().look(s.window().session().scene().plate(s.named(at))->frame.centre(), zoom);
        s.shoot(picture);
    };
    s.openSample("fennick-quay");
    waitForForwarding(s);

    trace("till-shop-1", "plc-crane");
    s.shoot("trace-stops");
    s.window().bottomDock().hide();
    s.showSheet("Data link");
    lay(QStringLiteral("Spanning tree"), "dist-ctrl", 0.52, "spanning-tree");
    s.showSheet("Subnets");
    trace("cam-ramp-1", "srv-tickets");
    s.window().resizeDocks({&s.window().bottomDock()}, {150}, Qt::Vertical);
    s.sheet().look(s.window().session().scene().plate(s.named("rtr-skarn"))->frame.centre() +
                       scene::PointF{-300, -90},
                   0.72);
    s.shoot("subnets");
    s.openSample("fennick-quay-as-found");
    waitForForwarding(s);
    s.window().action(app::CommandId::showRegisters)->trigger();
    s.window().registers().show(edit::Register::interfaces);
    s.window().registers().filter().setText(QStringLiteral("core-1"));
    lay(QStringLiteral("VLAN 10"), "dist-ctrl", 0.6, "vlan-break");
}

/// The bar of styles, with a small picture of each.
void shootArranging(const QString& folder) {
    Studio s(folder);
    s.openSample("fennick-quay");
    s.window().action(app::CommandId::arrange)->trigger();
    s.window().arranging().button(layout::Style::suggest)->click();
    QElapsedTimer timer;
    timer.start();
    while (timer.elapsed() < 3000) // for the small pictures
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    s.shoot("arrange");
}

int main(int argc, char** argv) {
    if (argc < 2) {
        std::fprintf(stderr, "usage: screenshots FOLDER [PART]\n");
        return 2;
    }
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    QApplication::setStyle(QStringLiteral("fusion"));
    const QString folder = QString::fromLocal8Bit(argv[1]);
    QDir().mkpath(folder);
    const std::pair<const char*, void (*)(const QString&)> parts[] = {
        {"all", shootAll},         {"port", shootPort},           {"cabling", shootCabling},
        {"groups", shootGroups},   {"plan", shootPlan},           {"rack", shootRack},
        {"finding", shootFinding}, {"arranging", shootArranging}, {"forwarding", shootForwarding},
    };
    for (const auto& [name, shootPart] : parts)
        if (argc == 2 || qstrcmp(argv[2], name) == 0)
            shootPart(folder);
    return 0;
}
