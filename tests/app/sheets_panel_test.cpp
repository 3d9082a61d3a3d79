// SPDX-License-Identifier: GPL-3.0-or-later
// The list of sheets: pictures, order, names, devices put on other sheets.
#include "app/carried.h"
#include "core/edit/sheets.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QMimeData>

using namespace underridge;
using namespace underridge::model;
using app::SheetList;
using tests::WindowHarness;

namespace {

/// The first office on its sheet, and two empty ones after it.
struct Sheets : WindowHarness {
    Sheets() {
        openFirstOffice();
        first = session().sheet();
        for (const char* name : {"Plan", "Radio"}) {
            auto act = edit::newSheet(network(), name, std::nullopt, {}, false, session().ids());
            others.push_back({act->subjects.front().id});
            act->subjects.clear();
            session().apply(std::move(act));
        }
        window->findChild<QTabWidget*>()->setCurrentWidget(&window->sheetsPanel());
        wait();
    }
    SheetList& list() { return window->sheetsPanel().list(); }
    QStringList names() {
        QStringList out;
        for (int row = 0; row < list().count(); ++row)
            out << list().item(row)->text();
        return out;
    }
    QPoint middleOf(int row) { return list().visualItemRect(list().item(row)).center(); }
    void drop(QMimeData* data, QPoint at) {
        const std::unique_ptr<QMimeData> carried(data);
        QDragEnterEvent enter(at, Qt::CopyAction, data, Qt::LeftButton, {});
        QApplication::sendEvent(list().viewport(), &enter);
        QDragMoveEvent over(at, Qt::CopyAction, data, Qt::LeftButton, {});
        QApplication::sendEvent(list().viewport(), &over);
        QDropEvent event(at, Qt::CopyAction, data, Qt::LeftButton, {});
        QApplication::sendEvent(list().viewport(), &event);
    }

    SheetId first;
    std::vector<SheetId> others;
};

} // namespace

class SheetsPanelTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void every_sheet_has_a_row_with_a_picture_and_a_click_shows_it() {
        Sheets h;
        QTRY_COMPARE(h.list().count(), 3);
        const qint64 none = h.list().item(0)->icon().cacheKey();
        QTRY_VERIFY(h.list().item(0)->icon().cacheKey() != none);
        const QImage picture = h.list().item(0)->icon().pixmap(h.list().iconSize()).toImage();
        std::set<QRgb> colours;
        for (int x = 0; x < picture.width(); ++x)
            colours.insert(picture.pixel(x, picture.height() / 2));
        QVERIFY(colours.size() > 2); // something is drawn
        QTest::mouseClick(h.list().viewport(), Qt::LeftButton, {}, h.middleOf(1));
        QCOMPARE(h.session().sheet(), h.others[0]);
        QTRY_COMPARE(h.list().currentRow(), 1);
    }
    void a_name_is_changed_in_place() {
        Sheets h;
        QTRY_COMPARE(h.list().count(), 3);
        h.list().setFocus();
        h.list().setCurrentRow(1);
        QTest::keyClick(&h.list(), Qt::Key_F2);
        auto* field = h.list().findChild<QLineEdit*>();
        QVERIFY(field);
        field->selectAll();
        QTest::keyClicks(field, "Quay");
        QTest::keyClick(field, Qt::Key_Return);
        QTRY_COMPARE(h.network().sheet(h.others[0])->name, std::string("Quay"));
        QTRY_COMPARE(h.names()[1], QStringLiteral("Quay"));
        h.session().undo();
        QTRY_COMPARE(h.names()[1], QStringLiteral("Plan"));
    }
    void keys_put_sheets_in_order_and_undo_takes_it_back() {
        Sheets h;
        QTRY_COMPARE(h.list().count(), 3);
        const QStringList before = h.names();
        h.list().setFocus();
        h.list().setCurrentRow(2);
        QTest::keyClick(&h.list(), Qt::Key_Up, Qt::AltModifier);
        QTRY_COMPARE(h.names(), (QStringList{before[0], before[2], before[1]}));
        h.list().setCurrentRow(0);
        QTest::keyClick(&h.list(), Qt::Key_Up, Qt::AltModifier); // the first stays the first
        h.list().setCurrentRow(0);
        QTest::keyClick(&h.list(), Qt::Key_Down, Qt::AltModifier);
        QTRY_COMPARE(h.names(), (QStringList{before[2], before[0], before[1]}));
        h.session().undo();
        h.session().undo();
        QTRY_COMPARE(h.names(), before);
    }
    void devices_dropped_on_a_sheet_are_drawn_there_too() {
        Sheets h;
        QTRY_COMPARE(h.list().count(), 3);
        const DeviceId desk = h.named("desk-1");
        h.drop(app::carrying({desk, h.named("phone-1")}), h.middleOf(1));
        QVERIFY(h.network().position(h.others[0], desk.value));
        QVERIFY(h.network().position(h.first, desk.value));
        QCOMPARE(h.session().sheet(), h.first); // one stays where one is
        const std::size_t positions = h.network().all<Position>().size();
        h.drop(app::carrying({desk}), h.middleOf(1)); // it is there already
        QCOMPARE(h.network().all<Position>().size(), positions);
        h.session().undo();
        QVERIFY(!h.network().position(h.others[0], desk.value));
    }
    void what_is_dragged_from_the_sheet_onto_a_row_goes_there_and_stays_where_it_was() {
        Sheets h;
        QTRY_COMPARE(h.list().count(), 3);
        h.sheet().fitAll();
        h.wait();
        const DeviceId desk = h.named("desk-1");
        const Point before = h.network().position(h.first, desk.value)->at;
        const QPoint over = h.sheet().mapFromGlobal(h.list().viewport()->mapToGlobal(h.middleOf(2)));
        h.drag(h.middle("desk-1"), over);
        QVERIFY(h.network().position(h.others[1], desk.value));
        QCOMPARE(h.network().position(h.first, desk.value)->at, before);
    }
    void delete_asks_before_a_sheet_goes() {
        Sheets h;
        QTRY_COMPARE(h.list().count(), 3);
        int answer = 1;
        h.onQuestion("Remove sheet", [&](const QString& text) {
            [&] { QVERIFY(text.contains("Radio")); }();
            return answer;
        });
        h.list().setFocus();
        h.list().setCurrentRow(2);
        QTest::keyClick(&h.list(), Qt::Key_Delete);
        h.wait();
        QCOMPARE(h.network().all<Sheet>().size(), std::size_t{3});
        answer = 0;
        QTest::keyClick(&h.list(), Qt::Key_Delete);
        QTRY_COMPARE(h.network().all<Sheet>().size(), std::size_t{2});
        QTRY_COMPARE(h.list().count(), 2);
    }
};

UNDERRIDGE_TEST(SheetsPanelTest)
#include "sheets_panel_test.moc"
