// SPDX-License-Identifier: GPL-3.0-or-later
// What a screen reader, a keyboard and weak eyes get.
#include "paint/sheet_painter.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QAccessible>
#include <QComboBox>
#include <QRegularExpression>
#include <QTabBar>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

/// Linear sRGB as a person without the red (protanopia), green (deuteranopia) or blue
/// (tritanopia) cones sees it: Viénot, Brettel, Mollon 1999 for the first two; Brettel,
/// Viénot, Mollon 1997, simplified, for the third.
std::array<double, 3> seen(const QColor& colour, int kind) {
    const auto linear = [](double v) {
        return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
    };
    const double r = linear(colour.redF()), g = linear(colour.greenF()), b = linear(colour.blueF());
    switch (kind) {
    case 1:
        return {0.11238 * r + 0.88762 * g, 0.11238 * r + 0.88762 * g, 0.00401 * r - 0.00401 * g + b};
    case 2:
        return {0.29275 * r + 0.70725 * g, 0.29275 * r + 0.70725 * g, -0.02234 * r + 0.02234 * g + b};
    case 3:
        return {r + 0.1273 * g - 0.1273 * b, 0.8739 * g + 0.1261 * b, 0.8739 * g + 0.1261 * b};
    default:
        return {r, g, b};
    }
}

double apart(const QColor& a, const QColor& b, int kind) {
    const auto x = seen(a, kind), y = seen(b, kind);
    return std::hypot(x[0] - y[0], x[1] - y[1], x[2] - y[2]);
}

} // namespace

class AccessTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void every_control_that_takes_the_focus_has_a_name_and_a_role() {
        WindowHarness h;
        h.openFirstOffice();
        h.session().select({refTo(h.named("acc-1"))});
        h.window->bottomDock().show();
        QCoreApplication::processEvents();
        for (QWidget* widget : h.window->findChildren<QWidget*>()) {
            if (!widget->isVisible() || !(widget->focusPolicy() & Qt::TabFocus))
                continue;
            QAccessibleInterface* face = QAccessible::queryAccessibleInterface(widget);
            QVERIFY2(face, widget->metaObject()->className());
            const bool part = qobject_cast<QAbstractSpinBox*>(widget->parentWidget()) ||
                              qobject_cast<QComboBox*>(widget->parentWidget()) ||
                              qobject_cast<QTabBar*>(widget);
            QVERIFY2(part || !face->text(QAccessible::Name).isEmpty(),
                     qPrintable(
                         QStringLiteral("%1 in %2")
                             .arg(widget->metaObject()->className(), widget->parentWidget()->objectName())));
            QVERIFY(face->role() != QAccessible::NoRole);
        }
    }

    void what_opens_over_the_sheet_is_read_out_after_what_is_on_it() {
        WindowHarness h;
        h.openFirstOffice();
        QAccessibleInterface* sheet = QAccessible::queryAccessibleInterface(&h.sheet());
        const auto names = [&] {
            QStringList all;
            for (int i = 0; i < sheet->childCount(); ++i)
                all << sheet->child(i)->text(QAccessible::Name);
            return all;
        };
        const auto before = names();
        h.linkTo("acc-1", h.middle("edge-1"));
        const QStringList linked = names();
        const auto told = linked.filter(QRegularExpression("^Linked: (edge|acc)-1 .* to (edge|acc)-1 "));
        QVERIFY2(told.size() == 1, qPrintable(linked.join('|')));
        QAccessibleInterface* strip = sheet->child(static_cast<int>(linked.indexOf(told.front())));
        QCOMPARE(sheet->indexOfChild(strip), static_cast<int>(linked.indexOf(told.front())));
        QVERIFY(strip->text(QAccessible::Description).contains("Gbit/s"));
        QTest::mouseClick(&h.sheet().linking().strip().otherPort(1), Qt::LeftButton);
        QVERIFY(!names().filter(QRegularExpression("^Ports of edge-1, linked from acc-1 ")).empty() ||
                !names().filter(QRegularExpression("^Ports of acc-1, linked from edge-1 ")).empty());
        h.key(Qt::Key_Escape);
        h.session().undo();
        h.sheet().setFocus();
        h.key(Qt::Key_Escape);
        QCOMPARE(names().size(), before.size());
        h.key(Qt::Key_A);
        QVERIFY(names().contains("Add devices"));
    }

    void the_child_with_the_focus_is_where_the_keyboard_is() {
        WindowHarness h;
        h.openFirstOffice();
        QAccessibleInterface* sheet = QAccessible::queryAccessibleInterface(&h.sheet());
        h.sheet().setFocus();
        for (int step = 0; step < 3; ++step) {
            h.key(Qt::Key_Tab);
            QAccessibleInterface* at = sheet->focusChild();
            QVERIFY(at);
            QCOMPARE(at->text(QAccessible::Name), h.session().nameOf(h.sheet().selectTool().focused()));
        }
        h.key(Qt::Key_A); // and in what is open over it
        QCOMPARE(sheet->focusChild()->object(), static_cast<QObject*>(&h.sheet().adding().field().field()));
    }

    void tab_goes_into_the_strip_once_and_out_of_it() {
        WindowHarness h;
        h.openFirstOffice();
        h.linkTo("acc-1", h.middle("edge-1"));
        auto& strip = h.sheet().linking().strip();
        QVERIFY(strip.isVisible() && h.sheet().hasFocus());
        h.key(Qt::Key_Tab);
        QVERIFY(strip.otherPort(0).hasFocus());
        h.key(Qt::Key_Tab);
        QVERIFY(strip.otherPort(1).hasFocus());
        h.key(Qt::Key_Tab);
        QVERIFY(h.sheet().hasFocus() && strip.isVisible());
        const ObjectRef before = h.sheet().selectTool().focused();
        h.key(Qt::Key_Tab); // and on from device to device
        QVERIFY(h.sheet().hasFocus() && h.sheet().selectTool().focused() != before);
        h.linkTo("acc-1", h.middle("edge-1"));
        h.key(Qt::Key_Tab);
        h.key(Qt::Key_Backtab);
        QVERIFY(h.sheet().hasFocus() && strip.isVisible());
        h.linkTo("acc-1", h.middle("edge-1"));
        h.key(Qt::Key_Tab);
        h.key(Qt::Key_Escape);
        QVERIFY(h.sheet().hasFocus() && !strip.isVisible());
        h.linkTo("acc-1", h.middle("edge-1"));
        h.key(Qt::Key_Tab);
        h.key(Qt::Key_Tab);
        h.key(Qt::Key_Space); // presses it
        QVERIFY(h.sheet().linking().drawer().isVisible());
    }

    void the_sheet_reads_out_what_is_in_view() {
        WindowHarness h;
        h.openFirstOffice();
        QAccessibleInterface* sheet = QAccessible::queryAccessibleInterface(&h.sheet());
        QVERIFY(sheet);
        QCOMPARE(sheet->role(), QAccessible::List);
        QVERIFY(sheet->text(QAccessible::Description).contains("8 devices"));
        QCOMPARE(sheet->childCount(), 8 + 1 + 7 + 1); // devices, a note, links, the locator
        QAccessibleInterface* found = nullptr;
        for (int i = 0; i < sheet->childCount(); ++i) {
            QAccessibleInterface* child = sheet->child(i);
            QVERIFY(child && !child->text(QAccessible::Name).isEmpty());
            QCOMPARE(sheet->indexOfChild(child), i);
            if (child->text(QAccessible::Name) == "acc-1")
                found = child;
        }
        QVERIFY(found);
        QVERIFY(found->text(QAccessible::Description).contains("Access switch 24"));
        QVERIFY(found->text(QAccessible::Description).contains("10.84.99.11"));
        const QPoint middle = h.sheet().mapToGlobal(h.middle("acc-1"));
        QVERIFY(found->rect().contains(middle));
        QCOMPARE(sheet->childAt(middle.x(), middle.y()), found);
        found->actionInterface()->doAction(QAccessibleActionInterface::pressAction());
        QVERIFY(h.session().selected().contains(refTo(h.named("acc-1"))));
        QVERIFY(found->state().selected);
        // Elsewhere there is nothing to read.
        h.sheet().look({100000, 100000}, 1);
        QCOMPARE(sheet->childCount(), 1); // the locator, to come back by
    }

    void the_keyboard_reaches_every_device_and_goes_along_links() {
        WindowHarness h;
        h.openFirstOffice();
        h.sheet().setFocus();
        std::set<std::uint64_t> reached;
        for (int i = 0; i < 9; ++i) {
            h.key(Qt::Key_Tab);
            reached.insert(h.sheet().selectTool().focused().id);
            QAccessibleInterface* focus = QAccessible::queryAccessibleInterface(&h.sheet())->focusChild();
            QVERIFY(focus && focus->state().focused);
        }
        QCOMPARE(reached.size(), std::size_t{9}); // eight devices and a note
        h.session().select({refTo(h.named("acc-1"))});
        h.key(Qt::Key_PageDown);
        QCOMPARE(h.session().selection().front().kind, Kind::link);
    }

    void texts_and_signs_stand_out_in_both_themes_and_spines_differ_for_the_colour_blind() {
        for (const paint::Theme* theme : {&paint::lightTheme(), &paint::darkTheme()}) {
            for (const QColor& text :
                 {theme->ink, theme->muted, theme->error, theme->warning, theme->advice}) {
                QVERIFY(paint::contrast(text, theme->sheet) >= 4.5);
                QVERIFY(paint::contrast(text, theme->plate) >= 4.5);
            }
            for (const auto& word : wordsOf(Role{}))
                QVERIFY(paint::contrast(theme->spine(word.value), theme->glyph()) >= 3);
            // The families that carry traffic keep apart for every kind of sight; the
            // glyph tells the rest.
            const Role roles[] = {Role::router, Role::switch_, Role::firewall, Role::server};
            for (int kind = 0; kind <= 3; ++kind)
                for (const Role a : roles)
                    for (const Role b : roles)
                        if (a < b)
                            QVERIFY2(apart(theme->spine(a), theme->spine(b), kind) > 0.06,
                                     qPrintable(QStringLiteral("%1 and %2, sight %3")
                                                    .arg(QString::fromUtf8(textOf(a).data()),
                                                         QString::fromUtf8(textOf(b).data()))
                                                    .arg(kind)));
        }
    }

    void with_twice_the_text_nothing_on_the_start_page_and_in_the_details_is_cut_off() {
        const QFont standard = QApplication::font();
        QFont large = standard;
        large.setPointSizeF(standard.pointSizeF() * 2);
        QApplication::setFont(large);
        {
            WindowHarness h;
            for (auto* button : h.window->startPage().findChildren<QPushButton*>())
                QVERIFY2(button->width() >= button->minimumSizeHint().width(), qPrintable(button->text()));
            h.openFirstOffice();
            h.session().select({refTo(h.named("acc-1"))});
            QCoreApplication::processEvents();
            for (auto* label : h.window->details().findChildren<QLabel*>())
                if (label->isVisible() && !label->wordWrap())
                    QVERIFY2(label->height() >= label->fontMetrics().height() - 1, qPrintable(label->text()));
        }
        QApplication::setFont(standard);
    }
};

UNDERRIDGE_TEST(AccessTest)
#include "access_test.moc"
