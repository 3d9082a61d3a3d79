// SPDX-License-Identifier: GPL-3.0-or-later
// What all widgets have in common: room, flat fills, one filled button, colours of the
// theme, words that are elided rather than cut.
#include "app/style/desktop_theme.h"
#include "app/style/flat_style.h"
#include "app/style/pieces.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QComboBox>
#include <QLineEdit>
#include <QScrollBar>
#include <QSignalSpy>
#include <QSpinBox>
#include <QTreeWidget>
#include <QVBoxLayout>

using namespace underridge;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// A widget alone on a ground of the theme, as it is drawn.
QImage drawn(QWidget& widget, QSize size = {}) {
    widget.resize(size.isValid() ? size : widget.sizeHint());
    widget.show();
    QCoreApplication::processEvents();
    return widget.grab().toImage();
}

int pixelsOf(const QImage& image, const QColor& colour) {
    int count = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            count += QColor(image.pixel(x, y)) == colour;
    return count;
}

/// The first and the last column with a pixel that is not of the ground.
std::pair<int, int> columnsWithInk(const QImage& image, const QColor& ground) {
    int first = image.width(), last = -1;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x)
            if (QColor(image.pixel(x, y)) != ground) {
                first = std::min(first, x);
                last = std::max(last, x);
            }
    return {first, last};
}

} // namespace

class LooksTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void init() {
        app::useFlatStyle();
        QApplication::setPalette(app::paletteFor(paint::lightTheme()));
    }

    void fields_buttons_and_rows_have_room() {
        QLineEdit line;
        QComboBox box;
        QSpinBox spin;
        QPushButton button("Save");
        for (QWidget* field : std::initializer_list<QWidget*>{&line, &box, &spin}) {
            field->ensurePolished();
            QVERIFY2(std::max(field->sizeHint().height(), field->minimumHeight()) >= 28,
                     field->metaObject()->className());
        }
        QVERIFY(button.sizeHint().height() >= 30);
        QTreeWidget tree;
        auto* row = new QTreeWidgetItem(&tree, {"acc-1"});
        drawn(tree, {200, 120});
        QVERIFY(tree.visualItemRect(row).height() >= 26 && tree.visualItemRect(row).height() <= 30);
    }

    void texts_of_fields_one_below_the_other_begin_at_the_same_place() {
        QWidget room;
        auto* layout = new QVBoxLayout(&room);
        auto* line = new QLineEdit("H");
        auto* spin = new QSpinBox;
        spin->setPrefix("H");
        auto* box = new QComboBox;
        box->addItem("H");
        for (QWidget* field : std::initializer_list<QWidget*>{line, spin, box})
            layout->addWidget(field);
        const QImage image = drawn(room, {200, 140});
        const auto start = [&](QWidget* field) { // of the first dark pixel inside its frame
            for (int x = field->x() + 3; x < field->geometry().right(); ++x)
                for (int y = field->y() + 4; y < field->geometry().bottom() - 4; ++y)
                    if (QColor(image.pixel(x, y)).lightness() < 120)
                        return x - field->x();
            return -1;
        };
        QVERIFY(start(line) > 4);
        QVERIFY2(std::abs(start(spin) - start(line)) <= 1, qPrintable(QString::number(start(spin))));
        QVERIFY2(std::abs(start(box) - start(line)) <= 1, qPrintable(QString::number(start(box))));
        QCOMPARE(spin->height(), line->height());
    }

    void only_the_main_button_of_a_dialog_is_filled() {
        const QColor accent = paint::lightTheme().accent;
        QDialog dialog;
        auto* layout = new QVBoxLayout(&dialog);
        auto *main = new QPushButton("Import"), *other = new QPushButton("Cancel");
        layout->addWidget(main);
        layout->addWidget(other);
        other->setAutoDefault(false);
        main->setDefault(true);
        drawn(dialog);
        const auto filled = [&](QPushButton* button) {
            const QImage image = button->grab().toImage();
            return pixelsOf(image, accent) > image.width() * image.height() / 2;
        };
        QVERIFY(filled(main));
        QVERIFY(!filled(other));
        main->setEnabled(false);
        QVERIFY(!filled(main));
    }

    void a_fill_is_of_one_colour_without_a_gradient() {
        QPushButton button(QString{});
        const QImage image = drawn(button, {120, 40});
        const QColor middle(image.pixel(60, 20));
        for (int y = 4; y < 36; ++y)
            QCOMPARE(QColor(image.pixel(60, y)), middle);
    }

    void a_flat_button_is_a_row_its_words_at_the_left() {
        QPushButton flat("fennick-quay"), plain("fennick-quay");
        flat.setFlat(true);
        const QColor ground = flat.palette().color(QPalette::Window);
        const auto [first, last] = columnsWithInk(drawn(flat, {300, 34}), ground);
        QVERIFY(first < 12 && last < 200);
        QPixmap picture(32, 20);
        picture.fill(Qt::darkCyan);
        flat.setIcon(picture);
        flat.setIconSize(picture.size());
        const QImage withPicture = drawn(flat, {300, 34});
        QVERIFY(pixelsOf(withPicture, Qt::darkCyan) == 32 * 20);
        QVERIFY(columnsWithInk(withPicture, ground).second > last + 20);
    }

    void a_scroll_bar_is_slim_and_has_no_arrows() {
        QScrollBar bar(Qt::Vertical);
        bar.setRange(0, 100);
        bar.setPageStep(50);
        drawn(bar, {bar.sizeHint().width(), 300});
        QVERIFY(bar.width() <= 12);
        QTest::mouseClick(&bar, Qt::LeftButton, {}, QPoint(5, 297)); // where an arrow would step by one
        QCOMPARE(bar.value(), 50);
        QTest::mousePress(&bar, Qt::LeftButton, {}, QPoint(5, 150));
        QMouseEvent move(QEvent::MouseMove, QPointF(5, 120), bar.mapToGlobal(QPoint(5, 120)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(&bar, &move);
        QTest::mouseRelease(&bar, Qt::LeftButton, {}, QPoint(5, 120));
        QVERIFY(bar.value() < 50);
    }

    void what_is_wrong_is_said_in_the_colour_of_errors_in_either_theme() {
        for (const paint::Theme* theme : {&paint::lightTheme(), &paint::darkTheme()}) {
            QApplication::setPalette(app::paletteFor(*theme));
            const std::unique_ptr<QLabel> label(app::errorLabel());
            label->setText("12 q is no length");
            QFont large = label->font(); // so that strokes have pixels of their own
            large.setPixelSize(40);
            label->setFont(large);
            QVERIFY(pixelsOf(drawn(*label), theme->error) > 10);
            QCOMPARE(label->textFormat(), Qt::PlainText);
        }
    }

    void a_plain_label_takes_nothing_for_markup() {
        const std::unique_ptr<QLabel> label(app::plainLabel("<b>core</b> & more"));
        QVERIFY(label->wordWrap());
        const int wide = label->fontMetrics().horizontalAdvance("<b>core</b> & more");
        label->setWordWrap(false);
        QVERIFY(label->sizeHint().width() >= wide);
    }

    void a_box_over_the_sheet_has_an_edge_and_round_corners() {
        QWidget sheet;
        QPalette ground;
        ground.setColor(QPalette::Window, Qt::magenta);
        sheet.setPalette(ground);
        sheet.setAutoFillBackground(true);
        app::FloatingBox box("box", &sheet);
        box.setPalette(app::paletteFor(paint::lightTheme()));
        box.setGeometry(20, 20, 100, 60);
        const QImage image = drawn(sheet, {140, 100});
        QCOMPARE(QColor(image.pixel(20, 20)), QColor(Qt::magenta)); // outside its corner
        QCOMPARE(QColor(image.pixel(70, 50)), paint::lightTheme().plate);
        const QColor edge(image.pixel(70, 20));
        QVERIFY(edge != paint::lightTheme().plate && edge != QColor(Qt::magenta));
        QCOMPARE(box.objectName(), QString("box"));
    }

    void words_to_click_are_elided_with_the_whole_in_their_tip() {
        QWidget room;
        auto* layout = new QVBoxLayout(&room);
        auto* button = new app::TextButton("acc-ground-1 X1 to dist-quay-a 12, OM4 duplex LC");
        layout->addWidget(button);
        drawn(room, {120, 60});
        QVERIFY(button->width() <= 120);
        QCOMPARE(button->toolTip(), button->text());
        drawn(room, {900, 60});
        QVERIFY(button->toolTip().isEmpty());
        app::TextButton hugging("Other port…", app::TextButton::Width::hugs);
        QVERIFY(hugging.minimumSizeHint().width() >= hugging.fontMetrics().horizontalAdvance("Other port…"));
    }

    void words_to_click_stand_exactly_below_those_that_are_only_read() {
        QWidget room;
        auto* layout = new QVBoxLayout(&room);
        auto* read = new QLabel("Hub");
        auto* clicked = new app::TextButton("Hub");
        layout->addWidget(read);
        layout->addWidget(clicked);
        drawn(room, {200, 80});
        const auto start = [](QWidget* widget) {
            const QImage image = widget->grab().toImage();
            return columnsWithInk(image, QColor(image.pixel(image.width() - 1, 0))).first;
        };
        QCOMPARE(read->x(), clicked->x());
        QVERIFY2(std::abs(start(read) - start(clicked)) <= 1, qPrintable(QString::number(start(clicked))));
        clicked->setText("Hub with quite a few more words than there is room for in this place");
        QVERIFY(std::abs(start(read) - start(clicked)) <= 1);
        QVERIFY(columnsWithInk(clicked->grab().toImage(), clicked->palette().color(QPalette::Window)).second <
                clicked->width());
    }

    void words_to_click_are_underlined_with_the_focus_and_go_by_keyboard() {
        QWidget room;
        auto* layout = new QVBoxLayout(&room);
        auto *first = new QLineEdit, *dummy = new QLineEdit;
        auto* button = new app::TextButton("mmmmmm");
        layout->addWidget(first);
        layout->addWidget(button);
        layout->addWidget(dummy);
        drawn(room, {200, 120});
        room.activateWindow();
        QApplication::setActiveWindow(&room);
        first->setFocus();
        const QColor accent = paint::lightTheme().accent;
        const int without = pixelsOf(button->grab().toImage(), accent);
        QTest::keyClick(first, Qt::Key_Tab);
        QVERIFY(button->hasFocus());
        QVERIFY(pixelsOf(button->grab().toImage(), accent) > without + 20);
        QSignalSpy clicked(button, &app::TextButton::clicked);
        QTest::keyClick(button, Qt::Key_Space);
        QCOMPARE(clicked.count(), 1);
        QTest::mouseClick(button, Qt::LeftButton);
        QCOMPARE(clicked.count(), 2);
        button->setEnabled(false);
        QTest::mouseClick(button, Qt::LeftButton);
        QCOMPARE(clicked.count(), 2);
        QCOMPARE(pixelsOf(button->grab().toImage(), accent), 0);
    }

    void the_sign_that_empties_a_field_does() {
        QWidget room;
        auto* layout = new QVBoxLayout(&room);
        auto* field = new QLineEdit("quay");
        field->setClearButtonEnabled(true);
        layout->addWidget(field);
        drawn(room, {200, 60});
        auto* sign = field->findChild<QToolButton*>();
        QVERIFY(sign && sign->isVisible());
        QVERIFY(!sign->icon().isNull());
        QTest::mouseClick(sign, Qt::LeftButton);
        QCOMPARE(field->text(), QString());
    }

    void another_theme_changes_every_panel_at_once() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().select({model::refTo(h.named("acc-1"))});
        const auto ground = [&](QWidget& widget) {
            const QImage image = widget.grab().toImage();
            return QColor(image.pixel(image.width() - 3, image.height() - 3)).lightness();
        };
        for (const auto& [command, dark] :
             {std::pair(CommandId::darkTheme, true), std::pair(CommandId::lightTheme, false)}) {
            h.window->action(command)->trigger();
            QCoreApplication::processEvents();
            for (QWidget* widget : std::initializer_list<QWidget*>{
                     &h.window->details(), &h.window->catalogue(), h.window->statusBar()})
                QVERIFY2((ground(*widget) < 128) == dark, widget->metaObject()->className());
        }
    }
};

UNDERRIDGE_TEST(LooksTest)
#include "looks_test.moc"
