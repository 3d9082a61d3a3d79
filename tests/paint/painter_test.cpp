// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"
#include "core/exchange/own_format.h"
#include "paint/glyphs.h"
#include "paint/picture.h"
#include "paint/sheet_painter.h"
#include "tests/support/random_edits.h"

#include <QFontInfo>
#include <QSvgRenderer>
#include <QTemporaryDir>
#include <QtTest>

using namespace underridge;
using namespace underridge::model;
using paint::Theme;
using scene::Scene;

namespace {

Scene office() {
    DiskFiles files;
    const auto loaded =
        exchange::readOwn(*files.read(UNDERRIDGE_ROOT "/demo/first-office.underridge"), "demo");
    return Scene::build(loaded->network, loaded->network.sheetsInOrder().front().id);
}

QImage painted(const Scene& scene, const scene::Rect& area, double zoom, const Theme& theme) {
    QImage image(static_cast<int>(area.w * zoom), static_cast<int>(area.h * zoom), QImage::Format_RGB32);
    QPainter painter(&image);
    painter.scale(zoom, zoom);
    painter.translate(-area.x, -area.y);
    paint::SheetPainter(theme).paint(painter, scene, area, zoom);
    return image;
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
        QVERIFY(text.readAll().contains("acc-1"));
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
};

QTEST_MAIN(PainterTest)
#include "painter_test.moc"
