// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"
#include "core/edit/fittings.h"
#include "core/exchange/own_format.h"
#include "paint/door_sheets.h"
#include "paint/faceplate.h"
#include "paint/glyphs.h"
#include "paint/label_sheet.h"
#include "paint/pages.h"
#include "paint/picture.h"
#include "paint/sheet_painter.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <QBuffer>
#include <QFontInfo>
#include <QSvgGenerator>
#include <QSvgRenderer>
#include <QTemporaryDir>
#include <fmt/format.h>
#include <functional>
#include <set>

using namespace underridge;
using namespace underridge::model;
using paint::Theme;
using scene::Scene;

namespace {

Network sample(const std::string& name) {
    DiskFiles files;
    return exchange::readOwn(*files.read(UNDERRIDGE_ROOT "/demo/" + name + ".underridge"), name)->network;
}

Network demoNetwork() {
    return sample("first-office");
}

Scene office() {
    const Network network = demoNetwork();
    return Scene::build(network, network.sheetsInOrder().front().id);
}

QImage painted(const Scene& scene, const scene::Rect& area, double zoom, const Theme& theme) {
    QImage image(static_cast<int>(area.w * zoom), static_cast<int>(area.h * zoom), QImage::Format_RGB32);
    QPainter painter(&image);
    painter.scale(zoom, zoom);
    painter.translate(-area.x, -area.y);
    paint::SheetPainter(theme).paint(painter, scene, area, zoom);
    return image;
}

/// What is drawn, as SVG: texts are paths from their own origin, so equal texts have
/// equal paths.
QByteArray svgOf(const std::function<void(QPainter&)>& draw) {
    QBuffer svg;
    QSvgGenerator generator;
    generator.setOutputDevice(&svg);
    QPainter painter(&generator);
    draw(painter);
    painter.end();
    return svg.data();
}

} // namespace

class PainterTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void colours_have_contrast_in_both_themes() {
        for (const Theme* theme : {&paint::lightTheme(), &paint::darkTheme()}) {
            for (const QColor& ground : {theme->plate, theme->panel, theme->sheet})
                for (const QColor& text : {theme->ink, theme->muted})
                    QVERIFY2(paint::contrast(text, ground) >= 4.5,
                             qPrintable(text.name() + " on " + ground.name()));
            for (const QColor& text : {theme->error, theme->warning, theme->advice, theme->accent})
                QVERIFY2(paint::contrast(text, theme->plate) >= 4.5, qPrintable(text.name()));
            for (const auto& word : wordsOf(Role{})) {
                QVERIFY2(paint::contrast(theme->glyph(), theme->spine(word.value)) >= 3, word.text.data());
                if (!theme->dark)
                    QVERIFY2(paint::contrast(theme->spine(word.value), theme->plate) >= 3, word.text.data());
            }
            QVERIFY(paint::contrast(theme->socket, theme->plate) >= 3);
        }
    }

    void where_media_cross_one_line_has_a_gap() {
        tests::Workbench b;
        const std::vector<DeviceId> ends{
            b.add("access-switch-24", "left", {-500, -22}), b.add("access-switch-24", "right", {400, -22}),
            b.add("access-switch-24", "above", {-62, -500}), b.add("access-switch-24", "below", {-62, 450})};
        const LinkId across = b.link({ends[0], {}}, {ends[1], {}}),
                     down = b.link({ends[2], {}}, {ends[3], {}});
        // Of one medium, and of two; the labels would lie on the crossing.
        Sheet sheet = *b.network.sheet(b.sheet);
        sheet.portLabels = sheet.linkLabels = false;
        b.network.put(sheet);
        const auto aroundCrossing = [&] {
            const Scene scene = Scene::build(b.network, b.sheet);
            const auto& path = scene.link(across)->path;
            const auto& other = scene.link(down)->path;
            const double share = (path.front().y - other.front().y) / (other.back().y - other.front().y);
            const scene::PointF at = other.front() + (other.back() - other.front()) * share;
            return painted(scene, {at.x - 20, at.y - 20, 40, 40}, 1, paint::lightTheme());
        };
        const auto inkAlong = [](const QImage& image, bool level) {
            int ink = 0;
            for (int i = 12; i < 28; ++i) {
                int darkest = 255;
                for (int aside = 17; aside <= 23; ++aside)
                    darkest = std::min(darkest, qGray(level ? image.pixel(i, aside) : image.pixel(aside, i)));
                ink += darkest < 190;
            }
            return ink;
        };
        QCOMPARE(inkAlong(aroundCrossing(), true), 16);
        QCOMPARE(inkAlong(aroundCrossing(), false), 16);
        Link coax = *b.network.link(across); // its form comes later
        coax.cable = {};
        coax.medium = Medium::coax;
        b.network.put(coax);
        QVERIFY(inkAlong(aroundCrossing(), true) < 14); // it passes under
        QCOMPARE(inkAlong(aroundCrossing(), false), 16);
    }
    void every_role_has_a_sign_of_its_own() {
        std::vector<QImage> signs;
        for (const auto& word : wordsOf(Role{})) {
            const QPainterPath path = paint::glyphOf(word.value);
            QVERIFY(!path.isEmpty());
            QVERIFY2(QRectF(0, 0, 14, 14).contains(path.boundingRect()), word.text.data());
            QImage image(12, 12, QImage::Format_Grayscale8);
            image.fill(0);
            QPainter painter(&image);
            painter.scale(12 / 14.0, 12 / 14.0);
            painter.setPen(QPen(Qt::white, 1.5));
            painter.drawPath(path);
            painter.end();
            for (const QImage& other : signs) {
                int different = 0;
                for (int y = 0; y < 12; ++y)
                    for (int x = 0; x < 12; ++x)
                        different += std::abs(qGray(image.pixel(x, y)) - qGray(other.pixel(x, y))) > 90;
                QVERIFY2(different >= 8, word.text.data());
            }
            signs.push_back(image);
        }
    }

    void the_sheet_font_is_there_and_as_wide_as_the_table_says() {
        QFont font(QString::fromLatin1(scene::sheetFont));
        font.setPixelSize(100);
        font.setHintingPreference(QFont::PreferNoHinting);
        font.setKerning(false);
        QCOMPARE(QFontInfo(font).family(), QString::fromLatin1(scene::sheetFont));
        for (const char* text : {"acc-1", "10.84.99.11", "Distribution switch 24", "Überseekai"}) {
            const double real = QFontMetricsF(font).horizontalAdvance(QString::fromUtf8(text));
            QVERIFY2(std::abs(real - scene::textWidth(text, 100, scene::Weight::regular)) < 0.02 * real + 2,
                     text);
        }
    }

    void what_is_drawn_is_what_pointing_means() {
        const Scene scene = office();
        const auto area = scene.bounds().grown(20);
        const Theme& theme = paint::lightTheme();
        const QImage image = painted(scene, area, 1, theme);
        scene.forEachPlate([&](const scene::Plate& plate) {
            const scene::PointF onSpine{plate.frame.x + 2.5, plate.frame.centre().y};
            QCOMPARE(QColor(image.pixel(static_cast<int>(onSpine.x - area.x),
                                        static_cast<int>(onSpine.y - area.y)))
                         .name(),
                     theme.spine(plate.role).name());
            QVERIFY(scene::hitAt(scene, onSpine, 0).object == refTo(plate.id));
        });
        std::mt19937 random(1);
        for (int i = 0; i < 2000; ++i) { // where nothing is hit, the bare sheet is drawn
            const scene::PointF p{area.x + random() % static_cast<unsigned>(area.w),
                                  area.y + random() % static_cast<unsigned>(area.h)};
            if (scene::hitAt(scene, p, 8) || !scene.labelsIn(scene::Rect{p.x, p.y, 1, 1}.grown(2)).empty())
                continue;
            const QColor drawn(image.pixel(static_cast<int>(p.x - area.x), static_cast<int>(p.y - area.y)));
            QVERIFY2(paint::contrast(drawn, theme.sheet) < 1.4, qPrintable(drawn.name()));
        }
    }

    void every_detail_and_theme_draws_any_network() {
        const Network network = tests::RandomEdits(31).grown(150);
        const Scene scene = Scene::build(network, network.sheetsInOrder().front().id);
        for (const double zoom : {0.05, 0.2, 0.5, 1.0, 3.0})
            for (const Theme* theme : {&paint::lightTheme(), &paint::darkTheme()}) {
                const QImage image = painted(scene, {-400, -300, 800, 600}, zoom, *theme);
                QVERIFY(!image.isNull());
            }
    }

    void far_off_each_device_still_shows_in_its_hue() {
        const Scene scene = office();
        const auto area = scene.bounds().grown(20);
        const QImage image = painted(scene, area, 0.2, paint::lightTheme());
        scene.forEachPlate([&](const scene::Plate& plate) {
            const scene::PointF c = plate.frame.centre();
            QCOMPARE(QColor(image.pixel(static_cast<int>((c.x - area.x) * 0.2),
                                        static_cast<int>((c.y - area.y) * 0.2)))
                         .name(),
                     paint::lightTheme().spine(plate.role).name());
        });
    }

    void members_of_a_lag_are_tied() {
        Network network = demoNetwork();
        const Scene before = Scene::build(network, network.sheetsInOrder().front().id);
        LinkId tied;
        network.all<Link>().forEach([&](const Link& link) { tied = link.id; });
        const Link link = *network.link(tied);
        std::uint64_t id = 900;
        for (const PortRef& end : {link.a, link.b}) {
            Interface lag;
            lag.id = {++id};
            lag.device = end.device;
            lag.type = InterfaceKind::lag;
            lag.members = {end.port};
            network.put(lag);
        }
        const Scene after = Scene::build(network, network.sheetsInOrder().front().id);
        const auto* line = after.link(tied);
        QVERIFY(line->inLag);
        const auto middle = scene::alongPath(line->path, scene::pathLength(line->path) * 0.3).at;
        const scene::Rect around{middle.x - 8, middle.y - 8, 16, 16};
        QVERIFY(painted(before, around, 2, paint::lightTheme()) !=
                painted(after, around, 2, paint::lightTheme()));
    }

    void each_mark_at_the_end_of_a_link_is_drawn_and_looks_its_own() {
        const Scene scene = office();
        const scene::LinkLine* line = nullptr;
        scene.forEachLink([&](const scene::LinkLine& each) { line = &each; });
        QVERIFY(line);
        const auto drawn = [&](auto mark, const scene::PointF& end) {
            scene::LinkLine item = *line;
            mark(item);
            QImage image(160, 160, QImage::Format_RGB32);
            image.fill(Qt::white);
            QPainter painter(&image);
            painter.scale(2, 2);
            painter.translate(40 - end.x, 40 - end.y);
            paint::SheetPainter(paint::lightTheme()).line(painter, item, scene::Detail::near, 2);
            return image;
        };
        using Line = scene::LinkLine;
        const scene::PointF a = line->path.front(), b = line->path.back();
        const auto nothing = [](Line&) {};
        const std::vector<QImage> atA{drawn(nothing, a), drawn([](Line& l) { l.failsA = true; }, a),
                                      drawn([](Line& l) { l.disabledA = true; }, a),
                                      drawn([](Line& l) { l.openA = true; }, a)};
        const std::vector<QImage> atB{drawn(nothing, b), drawn([](Line& l) { l.failsB = true; }, b),
                                      drawn([](Line& l) { l.disabledB = true; }, b),
                                      drawn([](Line& l) { l.openB = true; }, b)};
        for (const auto& end : {atA, atB})
            for (std::size_t i = 0; i < end.size(); ++i)
                for (std::size_t j = i + 1; j < end.size(); ++j)
                    QVERIFY2(end[i] != end[j], qPrintable(QStringLiteral("%1 and %2").arg(i).arg(j)));
        // A mark stands at its own end alone.
        QCOMPARE(drawn([](Line& l) { l.failsB = true; }, a), atA[0]);
        QCOMPARE(drawn([](Line& l) { l.disabledA = true; }, b), atB[0]);
    }

    void labels_fill_the_page_between_its_margins_and_keep_their_gap() {
        const paint::LabelGrid grid{QPageSize::A4, 4, 16, 8, 2};
        const QRectF first = paint::labelPlace(grid, 0), last = paint::labelPlace(grid, 63);
        QCOMPARE(first.topLeft(), QPointF(8, 8));
        QVERIFY(std::abs(last.right() - (210 - 8)) < 0.01 && std::abs(last.bottom() - (297 - 8)) < 0.01);
        QVERIFY(std::abs(paint::labelPlace(grid, 1).left() - first.right() - 2) < 0.01); // rows first
        QVERIFY(std::abs(paint::labelPlace(grid, 4).top() - first.bottom() - 2) < 0.01);
        QCOMPARE(paint::labelPlace(grid, 64), first); // on the next page
    }

    void labels_come_two_for_each_cable() {
        const Network network = demoNetwork();
        std::vector<CableId> cables;
        network.all<Cable>().forEach([&](const Cable& cable) { cables.push_back(cable.id); });
        Network bare = network;
        for (const CableId id : cables) {
            Cable cable = *network.cable(id);
            cable.label.clear();
            bare.put(cable);
        }
        QVERIFY(!paint::labelSheet(bare, cables)); // none has a label
        const auto one =
            paint::labelSheet(network, cables, {QPageSize::A4, 2, static_cast<int>(cables.size()), 8, 2});
        const auto many = paint::labelSheet(network, cables, {QPageSize::A4, 1, 1, 8, 2}); // a page for each
        QVERIFY(one && many);
        QCOMPARE(one->count("/Type /Page\n"), qsizetype(1));
        QCOMPARE(many->count("/Type /Page\n"), static_cast<qsizetype>(2 * cables.size()));
    }

    void door_sheets_have_a_page_for_each_rack_and_panel() {
        const Network network = sample("fennick-quay");
        const auto sheets = edit::doorSheets(network, edit::racksAndPanels(network));
        QVERIFY(sheets && sheets->size() > 5);
        const QByteArray pdf = paint::doorSheetsPdf(network, *sheets, "Fennick Quay");
        QCOMPARE(pdf.count("/Type /Page\n"),
                 static_cast<qsizetype>(sheets->size()) + 2);   // R1 and R2 have two
        std::vector<edit::DoorSheet> longer(1, sheets->back()); // a table of three pages
        longer.front().rows.assign(120, longer.front().rows.back());
        QCOMPARE(paint::doorSheetsPdf(network, longer, "t").count("/Type /Page\n"), qsizetype(3));
    }

    void pictures_are_what_they_say() {
        QTemporaryDir folder;
        const Scene scene = office();
        paint::PictureOptions options;
        const std::string png = folder.filePath("a.png").toStdString();
        const auto written = paint::writePicture(scene, png, options, "t");
        QVERIFY(written);
        QCOMPARE(QImage(QString::fromStdString(png)).size(), QSize(written->width, written->height));
        options.size = QSize(640, 400);
        QVERIFY(paint::writePicture(scene, png, options, "t"));
        QCOMPARE(QImage(QString::fromStdString(png)).size(), QSize(640, 400));
        options.size.reset();
        options.format = paint::PictureFormat::svg;
        const QString svg = folder.filePath("a.svg");
        QVERIFY(paint::writePicture(scene, svg.toStdString(), options, "<t> & co"));
        QVERIFY(QSvgRenderer(svg).isValid());
        QFile text(svg);
        QVERIFY(text.open(QIODevice::ReadOnly));
        const QByteArray svgText = text.readAll();
        QVERIFY(!svgText.contains("<text")); // outlines: it looks the same where the font is missing
        QVERIFY(svgText.contains("&lt;t&gt;"));
        options.format = paint::PictureFormat::pdf;
        const QString pdf = folder.filePath("a.pdf");
        QVERIFY(paint::writePicture(scene, pdf.toStdString(), options, "t"));
        QFile bytes(pdf);
        QVERIFY(bytes.open(QIODevice::ReadOnly));
        QVERIFY(bytes.read(5) == "%PDF-");
        options.format = paint::PictureFormat::png;
        options.scale = 1000;
        QVERIFY(!paint::writePicture(scene, png, options, "t"));
        options.scale = 1;
        QVERIFY(!paint::writePicture(scene, "/proc/none/a.png", options, "t"));
        QVERIFY(paint::writePicture(Scene(), png, options, "t")); // an empty sheet is a picture too
    }

    void a_sheet_on_paper_covers_all_of_it_in_pages_that_join_data() {
        QTest::addColumn<QString>("paper");
        QTest::addColumn<int>("scale"); // 0: fitted
        QTest::addColumn<int>("pages"); // 0: more than one
        QTest::newRow("A4, fitted") << "A4" << 0 << 1;
        QTest::newRow("A0, fitted") << "A0" << 0 << 1;
        QTest::newRow("A4 at 400 %") << "A4" << 400 << 0;
        QTest::newRow("A0 at 100 %") << "A0" << 100 << 1;
    }
    void a_sheet_on_paper_covers_all_of_it_in_pages_that_join() {
        QFETCH(QString, paper);
        QFETCH(int, scale);
        QFETCH(int, pages);
        const auto loaded = demoNetwork();
        const auto scene = scene::Scene::build(loaded, loaded.sheetsInOrder().front().id);
        paint::PageSetup setup;
        setup.paper = *paint::paperFromText(paper.toStdString());
        if (scale > 0)
            setup.scalePercent = scale;
        const auto layout = paint::layOut(scene, setup);
        QVERIFY(bool(layout));
        if (pages > 0)
            QCOMPARE(layout->count(), pages);
        else
            QVERIFY(layout->count() > 1);
        QVERIFY(layout->area.contains(scene.bounds()));
        double covered = 0;
        for (int page = 0; page < layout->count(); ++page)
            covered += layout->areaOf(page).w * layout->areaOf(page).h;
        QVERIFY(std::abs(covered / (layout->area.w * layout->area.h) - 1) < 1e-9);
        if (scale > 0)
            QCOMPARE(layout->scalePercent(), scale);
        const auto pdf = paint::pagesPdf(scene, loaded, setup, {"n", "s", "d", "r"});
        QVERIFY(bool(pdf));
        QCOMPARE(static_cast<int>(pdf->count("/Type /Page\n")), layout->count());
        QVERIFY(pdf->contains("/FontFile")); // embedded
    }

    void pages_go_row_by_row_and_each_names_those_it_joins() {
        const auto loaded = demoNetwork();
        const auto scene = scene::Scene::build(loaded, loaded.sheetsInOrder().front().id);
        paint::PageSetup setup;
        setup.across = 3;
        setup.down = 2;
        setup.titleBlock = false;
        const auto layout = paint::layOut(scene, setup);
        QVERIFY(bool(layout));
        QCOMPARE(layout->count(), 6);
        const std::vector<std::set<int>> joins{{2, 4}, {1, 3, 5}, {2, 6}, {1, 5}, {2, 4, 6}, {3, 5}};
        for (int page = 0; page < 6; ++page) {
            const auto area = layout->areaOf(page), first = layout->areaOf(0);
            QVERIFY(std::abs(area.x - (first.x + page % 3 * first.w)) < 1e-6);
            QVERIFY(std::abs(area.y - (first.y + page / 3 * first.h)) < 1e-6);
            const QByteArray drawn =
                svgOf([&](QPainter& painter) { paint::drawPage(painter, scene, loaded, *layout, page, {}); });
            std::set<int> named;
            for (int other = -3; other <= 9; ++other) { // and none that is not there
                const QByteArray words = svgOf([&](QPainter& painter) {
                    paint::SheetPainter outlined(paint::lightTheme());
                    outlined.outlineText(true);
                    outlined.text(painter, {0, 0}, fmt::format("page {}", other), 2.6, scene::Weight::regular,
                                  Qt::black);
                });
                const auto from = words.lastIndexOf("d=\"M");
                QVERIFY2(from > 0, words.constData());
                if (drawn.contains(words.mid(from, words.indexOf('"', from + 3) - from + 1)))
                    named.insert(other);
            }
            QCOMPARE(named, joins[static_cast<std::size_t>(page)]);
        }
    }

    void a_page_has_its_drawing_inside_the_margins_and_a_title_block() {
        const auto loaded = demoNetwork();
        const auto scene = scene::Scene::build(loaded, loaded.sheetsInOrder().front().id);
        paint::PageSetup setup;
        const auto layout = paint::layOut(scene, setup);
        QImage page((layout->paperMm * 4).toSize(), QImage::Format_RGB32);
        page.fill(Qt::white);
        QPainter painter(&page);
        painter.scale(4, 4);
        paint::drawPage(painter, scene, loaded, *layout, 0, {"First office", "Sheet 1", "1 May 2026", "abc"});
        painter.end();
        const auto inkIn = [&](QRectF mm) {
            int ink = 0;
            const QRect r(static_cast<int>(mm.x() * 4), static_cast<int>(mm.y() * 4),
                          static_cast<int>(mm.width() * 4), static_cast<int>(mm.height() * 4));
            for (int y = r.top(); y < r.bottom(); ++y)
                for (int x = r.left(); x < r.right(); ++x)
                    ink += qGray(page.pixel(x, y)) < 140;
            return ink;
        };
        QCOMPARE(inkIn({0, 0, layout->paperMm.width(), 9}), 0);
        QVERIFY(inkIn(layout->drawingMm) > 500);
        QVERIFY(inkIn({layout->drawingMm.left(), layout->drawingMm.bottom() + 2, 60, 11}) > 100);
        setup.scalePercent = 400;
        setup.paper = QPageSize::A4;
        QVERIFY(paint::layOut(scene, setup));
        QVERIFY(!paint::pageSvg(scene, loaded, setup, 500, {}));
        QVERIFY(QSvgRenderer(*paint::pageSvg(scene, loaded, setup, 0, {"<n>", "", "", ""})).isValid());
    }
};

UNDERRIDGE_TEST(PainterTest)
#include "painter_test.moc"
