// SPDX-License-Identifier: GPL-3.0-or-later
// Pictures under floors, and sheets to scale on them.
#include "core/edit/document.h"
#include "core/edit/places.h"
#include "core/edit/plans.h"
#include "core/edit/script/script.h"
#include "core/exchange/own_format.h"
#include "core/scene/plates.h"
#include "core/scene/scene.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using exchange::readPicture;
using tests::text;
using tests::Workbench;

namespace {

std::string svg(const std::string& root, const std::string& body = {}) {
    return "<svg xmlns=\"http://www.w3.org/2000/svg\" " + root + ">" + body + "</svg>";
}
std::string png(std::uint32_t width, std::uint32_t height) {
    std::string out("\x89PNG\r\n\x1a\n\0\0\0\x0DIHDR", 16);
    for (const std::uint32_t side : {width, height})
        for (int shift = 24; shift >= 0; shift -= 8)
            out += static_cast<char>(side >> shift & 0xFF);
    return out + std::string("\x08\x02\0\0\0", 5);
}
std::string jpeg(int width, int height) {
    std::string out("\xFF\xD8\xFF\xE0\0\x04xx\xFF\xFF\xC2\0\x0B\x08", 14);
    for (const int side : {height, width}) {
        out += static_cast<char>(side >> 8);
        out += static_cast<char>(side & 0xFF);
    }
    return out + std::string("\x01\x01\x11\0", 4);
}
QString refused(const std::string& bytes) {
    const auto picture = readPicture(bytes, "plan");
    return picture ? QString() : text(picture.refusal().text());
}

/// A floor with a plan 40 m wide, a sheet on it, and a device that stands there.
struct Floor : Workbench {
    GroupId building = group("House", GroupKind::building),
            floor = group("Ground", GroupKind::floor, building), rack = group("R1", GroupKind::rack, floor);
    DeviceId device = add("access-switch-24", "acc-1");
    SheetId onPlan;

    Floor() {
        place(device, {floor, 10'000, 5'000, 0, 0, Side::front});
        take(edit::setPlan(network, floor, *readPicture(svg("viewBox=\"0 0 800 400\""), "plan"), 50));
        QVERIFY(act(edit::sheetOnPlan(network, floor, "On the plan", ids)));
        for (const Sheet& each : network.sheetsInOrder())
            if (each.mmPerUnit > 0)
                onPlan = each.id;
    }
    /// An act as the document takes it.
    bool act(edit::ActResult act) {
        if (!act)
            return false;
        edit::followPlans(network, act->network);
        network = std::move(act->network);
        return true;
    }
    scene::PointF centre(DeviceId id) const {
        return scene::plateOf(network, onPlan, *network.device(id))->frame.centre();
    }
    const Place& placeNow(DeviceId id) const { return network.device(id)->place; }
};

} // namespace

class PlansTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // ---- pictures ----

    void the_size_of_a_picture_is_told_from_its_bytes_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<QString>("media");
        QTest::addColumn<QSize>("size");
        const auto row = [](const char* name, const std::string& bytes, const char* media, int w, int h) {
            QTest::newRow(name) << QByteArray::fromStdString(bytes) << QString(media) << QSize(w, h);
        };
        row("png", png(1200, 800), "image/png", 1200, 800);
        row("jpeg", jpeg(640, 480), "image/jpeg", 640, 480);
        row("view box", svg("viewBox=\"0 0 84 36.4\""), "image/svg+xml", 84, 36);
        row("view box with commas", svg("viewBox=\"-1,-1, 84,36\""), "image/svg+xml", 84, 36);
        row("millimetres", svg("width=\"254mm\" height=\"127mm\""), "image/svg+xml", 960, 480);
        row("the view box counts", svg("width=\"10\" height=\"10\" viewBox=\"0 0 50 20\""), "image/svg+xml",
            50, 20);
        row("a prefix", "<s:svg xmlns:s=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 9 8\"/>",
            "image/svg+xml", 9, 8);
    }
    void the_size_of_a_picture_is_told_from_its_bytes() {
        QFETCH(QByteArray, bytes);
        QFETCH(QString, media);
        QFETCH(QSize, size);
        const auto picture = readPicture(bytes.toStdString(), "plan");
        QVERIFY2(picture, qPrintable(refused(bytes.toStdString())));
        QCOMPARE(text(picture->media), media);
        QCOMPARE(QSize(picture->width, picture->height), size);
        QCOMPARE(picture->bytes, bytes.toStdString());
    }
    void what_cannot_be_drawn_is_refused_with_what_to_do_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const std::string& bytes, const char* says) {
            QTest::newRow(name) << QByteArray::fromStdString(bytes) << QString(says);
        };
        row("nothing", "", "choose a PNG, JPEG or SVG");
        row("text", "hello", "choose a PNG, JPEG or SVG");
        row("cut off png", png(1200, 800).substr(0, 20), "cut off");
        row("cut off jpeg", jpeg(640, 480).substr(0, 12), "cut off");
        row("jpeg with no frame", std::string("\xFF\xD8\xFF\xD9", 4), "cut off");
        row("jpeg with a length of nothing", std::string("\xFF\xD8\xFF\xE0\0\0\0\0\0", 9), "cut off");
        row("too wide", png(30'000, 10), "scale it down to 20000");
        row("too many pixels", png(15'000, 15'000), "100 million");
        row("no size", svg(""), "viewBox");
        row("no width", svg("viewBox=\"0 0 0 10\""), "viewBox");
        row("per cent", svg("width=\"100%\" height=\"100%\""), "viewBox");
        row("endless", svg("width=\"1e999\" height=\"10\""), "viewBox");
        row("refers to a file", svg("viewBox=\"0 0 9 9\"", "<image href=\"file:///etc/x.png\"/>"),
            "nothing is fetched");
        row("refers to a server",
            svg("viewBox=\"0 0 9 9\" xmlns:x=\"http://www.w3.org/1999/xlink\"",
                "<g><use x:href=\" HTTP://198.51.100.1/a\"/></g>"),
            "nothing is fetched");
        row("broken", "<svg viewBox=\"0 0 9 9\"><g></svg>", "plan:1:");
        row("other XML", "<html><svg/></html>", "no drawing");
    }
    void what_cannot_be_drawn_is_refused_with_what_to_do() {
        QFETCH(QByteArray, bytes);
        QFETCH(QString, says);
        const QString why = refused(bytes.toStdString());
        QVERIFY2(why.contains(says), qPrintable(why));
    }
    void a_drawing_may_refer_to_itself() {
        QVERIFY(readPicture(
            svg("viewBox=\"0 0 9 9\"", "<use href=\"#a\"/><image href=\"data:image/png;base64,\"/>"),
            "plan"));
    }
    void every_beginning_of_a_picture_is_taken_or_refused() {
        for (const std::string& whole : {png(1200, 800), jpeg(640, 480), svg("viewBox=\"0 0 9 9\"", "<g/>")})
            for (std::size_t length = 0; length < whole.size(); ++length) {
                const auto picture = readPicture(whole.substr(0, length), "plan");
                QVERIFY(!picture || picture->width > 0);
            }
    }
    void base64_goes_there_and_back() {
        std::string bytes;
        for (int i = 0; i < 300; ++i) {
            bytes += static_cast<char>(i * 37);
            QCOMPARE(exchange::fromBase64(exchange::toBase64(bytes)).value(), bytes);
        }
        QCOMPARE(exchange::toBase64("Ma"), std::string("TWE=")); // RFC 4648
        QVERIFY(!exchange::fromBase64("?"));
    }

    // ---- under a group ----

    void a_picture_is_kept_once_however_many_show_it() {
        Floor f;
        const GroupId other = f.group("First", GroupKind::floor, f.building);
        const auto picture = *readPicture(svg("viewBox=\"0 0 800 400\""), "plan");
        QVERIFY(f.act(edit::setPlan(f.network, other, picture, 25)));
        QCOMPARE(f.network.all<Asset>().size(), std::size_t{1});
        QVERIFY(f.act(edit::removePlan(f.network, other)));
        QCOMPARE(f.network.all<Asset>().size(), std::size_t{1}); // the other still shows it
        QVERIFY(f.act(edit::removePlan(f.network, f.floor)));
        QCOMPARE(f.network.all<Asset>().size(), std::size_t{0});
    }
    void a_large_picture_goes_through_a_file_whole() {
        Floor f;
        auto picture = *readPicture(png(5000, 4000), "plan");
        for (int i = 0; i < 700'000; ++i)
            picture.bytes += static_cast<char>(i * 31 >> 3);
        QVERIFY(f.act(edit::setPlan(f.network, f.floor, picture, 10)));
        QVERIFY(f.network.all<Asset>().size() > 1);
        const auto again = exchange::readOwn(exchange::writeOwn(f.network), "x");
        QVERIFY(again && again->remarks.empty());
        QVERIFY(again->network == f.network);
        const scene::Scene scene = scene::Scene::build(again->network, f.onPlan);
        std::string whole;
        scene.forEach<scene::PlanPicture>([&](const scene::PlanPicture& plan) {
            for (const SharedText& part : plan.parts)
                whole += part.view();
        });
        QCOMPARE(exchange::fromBase64(whole).value(), picture.bytes);
    }
    void a_scale_that_is_none_is_refused() {
        const Floor f;
        for (const double bad : {0.0, -1.0, 1e9, std::nan("")})
            QVERIFY(!edit::scalePlan(f.network, f.floor, bad, false));
        QVERIFY(!edit::scalePlan(f.network, f.building, 50, false)); // it has no plan
        QVERIFY(!edit::placePlan(f.network, f.floor, {0, 0, 0, 95, false}));
        QVERIFY(!edit::placePlan(f.network, f.floor, {0, 0, 1000, 0, false}));
        QVERIFY(!edit::sheetOnPlan(f.network, f.building, "x", *std::make_unique<IdSource>(1)));
        QCOMPARE(edit::mmPerPixelAt(100, 254), 10.0);
    }

    // ---- sheets to scale ----

    void the_plan_lies_under_all_to_scale() {
        Floor f;
        const scene::Scene scene = scene::Scene::build(f.network, f.onPlan);
        QCOMPARE(scene.count<scene::PlanPicture>(), std::size_t{1});
        scene.forEach<scene::PlanPicture>([&](const scene::PlanPicture& plan) {
            QCOMPARE(plan.frame.w, 40'000.0 / edit::standardMmPerUnit);
            QCOMPARE(plan.frame.h, 20'000.0 / edit::standardMmPerUnit);
        });
        QCOMPARE(scene.itemsIn(scene.bounds()).all().front()->layer, scene::Layer::ground);
        QVERIFY(!scene::hitAt(scene, {30, 30}, 4)); // one points through it
        QCOMPARE(f.centre(f.device).x, 400.0);
        QVERIFY(std::abs(f.centre(f.device).y - 200) <= 1);
        // Turned, it covers what it covers.
        QVERIFY(f.act(edit::placePlan(f.network, f.floor, {0, 0, 90, 0, false})));
        const scene::Rect all = scene::Scene::build(f.network, f.onPlan).bounds();
        QVERIFY(all.x <= -799 && all.bottom() >= 1599);
    }
    void a_plate_that_is_moved_takes_its_device_along() {
        Floor f;
        QVERIFY(f.act(edit::moveObjects(f.network, f.onPlan, {refTo(f.device)}, {80, -40})));
        QCOMPARE(f.placeNow(f.device).xMm, 12'000);
        QVERIFY(std::abs(f.placeNow(f.device).yMm - 4'000) <= edit::standardMmPerUnit);
        QCOMPARE(f.placeNow(f.device).in, f.floor);
        // On a sheet that is not to scale it only moves.
        const Place before = f.placeNow(f.device);
        QVERIFY(f.act(edit::moveObjects(f.network, f.sheet, {refTo(f.device)}, {80, 0})));
        QVERIFY(f.placeNow(f.device) == before);
    }
    void a_device_that_is_placed_takes_its_plate_along() {
        Floor f;
        Place place = f.placeNow(f.device);
        place.xMm = 20'000;
        QVERIFY(f.act(edit::setPlace(f.network, {f.device}, place)));
        QCOMPARE(f.centre(f.device).x, 800.0);
        QCOMPARE(f.placeNow(f.device).xMm, 20'000);
    }
    void moving_back_and_forth_does_not_creep() {
        Floor f;
        const Network before = f.network;
        for (int i = 0; i < 20; ++i) {
            QVERIFY(f.act(edit::moveObjects(f.network, f.onPlan, {refTo(f.device)}, {7, 3})));
            QVERIFY(f.act(edit::moveObjects(f.network, f.onPlan, {refTo(f.device)}, {-7, -3})));
        }
        QCOMPARE(f.network.position(f.onPlan, f.device.value)->at,
                 before.position(f.onPlan, f.device.value)->at);
        QVERIFY(std::abs(f.placeNow(f.device).xMm - 10'000) <= edit::standardMmPerUnit);
    }
    void what_is_put_down_on_the_plan_stands_there() {
        Floor f;
        QVERIFY(f.act(edit::placeDevices(f.network, f.onPlan, *f.catalogue.device("camera"),
                                         {{"cam-1", {400, 100}}}, {}, f.ids)));
        DeviceId camera;
        f.network.all<Device>().forEach([&](const Device& device) {
            if (device.name == "cam-1")
                camera = device.id;
        });
        QCOMPARE(f.placeNow(camera).in, f.floor);
        QVERIFY(f.placeNow(camera).xMm > 10'000);
        QCOMPARE(f.network.device(camera)->group, f.floor);
        QVERIFY(scene::Scene::build(f.network, f.onPlan).plate(camera));
    }
    void what_stands_in_a_rack_keeps_its_place() {
        Floor f;
        f.shape(f.rack, [](Group& g) { g.rackUnits = 42; });
        const DeviceId inRack = f.add("access-switch-24", "acc-2");
        f.place(inRack, {f.rack, 0, 0, 0, 12, Side::front});
        QVERIFY(f.act(edit::showOnSheet(f.network, f.onPlan, {{inRack, {0, 0}}})));
        QVERIFY(f.act(edit::moveObjects(f.network, f.onPlan, {refTo(inRack)}, {200, 200})));
        QCOMPARE(f.placeNow(inRack).in, f.rack);
        QCOMPARE(f.placeNow(inRack).unit, 12);
    }
    void lengths_follow_what_is_moved_on_the_plan() {
        Floor f;
        const DeviceId far = f.add("access-switch-24", "acc-2");
        f.place(far, {f.floor, 30'000, 5'000, 0, 0, Side::front});
        QVERIFY(f.act(edit::showOnSheet(f.network, f.onPlan, {{far, {1200, 180}}})));
        const Place before = f.placeNow(far);
        QVERIFY(f.act(edit::moveObjects(f.network, f.onPlan, {refTo(far)}, {0, 400})));
        QCOMPARE(f.placeNow(far).yMm - before.yMm, 10'000);
    }
    void another_scale_keeps_things_on_the_picture_or_in_metres() {
        Floor f;
        Floor g = f;
        QVERIFY(f.act(edit::scalePlan(f.network, f.floor, 100, true)));
        QCOMPARE(f.placeNow(f.device).xMm, 20'000);
        QCOMPARE(f.centre(f.device).x, 800.0);
        QVERIFY(g.act(edit::scalePlan(g.network, g.floor, 100, false)));
        QCOMPARE(g.placeNow(g.device).xMm, 10'000);
        QCOMPARE(g.centre(g.device).x, 400.0);
    }
    void the_document_follows_plans_by_itself_and_undo_leads_back() {
        Floor f;
        MemoryFiles files;
        auto document = edit::Document::fresh({files, "j", [] { return std::int64_t{0}; }}, f.network);
        auto moved = edit::moveObjects(document.network(), f.onPlan, {refTo(f.device)}, {80, 0});
        QVERIFY(moved && document.apply(std::move(*moved), {}, {}));
        QCOMPARE(document.network().device(f.device)->place.xMm, 12'000);
        document.undo();
        QCOMPARE(document.network().device(f.device)->place.xMm, 10'000);
        document.close();
    }

    // ---- acts ----

    void a_plan_is_put_by_an_act() {
        Floor f;
        const auto read = [](const std::string& path) -> Result<std::string> {
            if (path == "hall.svg")
                return svg("viewBox=\"0 0 1200 800\"");
            return error("there is no " + path, "check the path");
        };
        const auto run = [&](std::string line) {
            std::replace(line.begin(), line.end(), '\'', '"');
            return edit::applyActs(f.network, f.catalogue, line, "some.acts", f.ids, read);
        };
        const auto done =
            run("{'act':'plan','group':'House','file':'hall.svg','widthM':60,'turn':15,'dim':30,'ink':true,"
                "'sheet':'Site'}");
        QVERIFY2(done, done ? "" : done.refusal().text().c_str());
        const Group& house = *done->network.group(f.building);
        QCOMPARE(house.planMmPerPixel, 50.0);
        QCOMPARE(house.planTurn, 15.0);
        QVERIFY(house.planInk && house.planDim == 30);
        QCOMPARE(done->network.all<Sheet>().size(), f.network.all<Sheet>().size() + 1);
        const auto missing = run("{'act':'plan','group':'House','file':'nowhere.svg'}");
        QVERIFY(!missing && missing.refusal().where.column > 1);
        QVERIFY(!run("{'act':'plan','group':'House','dim':95}"));
        QVERIFY(!run("{'act':'plan','group':'House','sheet':'x'}")); // it has no plan
    }
};

UNDERRIDGE_TEST(PlansTest)
#include "plans_test.moc"
