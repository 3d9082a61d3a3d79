// SPDX-License-Identifier: GPL-3.0-or-later
// Foreign files, the clipboard and what is dropped, in the window.
#include "app/files/clipboard.h"
#include "app/files/import_dialog.h"
#include "tests/support/foreign_texts.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QClipboard>
#include <QMimeData>
#include <QSvgRenderer>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

QString fileWith(WindowHarness& h, const char* name, const QByteArray& bytes) {
    const QString path = h.folder.filePath(QString::fromUtf8(name));
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(bytes) != bytes.size())
        qFatal("cannot write");
    return path;
}

void drop(QWidget& onto, QMimeData& data, QPoint at) {
    QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&onto, &enter);
    QVERIFY(enter.isAccepted());
    QDropEvent event(at, Qt::CopyAction, &data, Qt::LeftButton, {});
    QApplication::sendEvent(&onto, &event);
}

} // namespace

class InterchangeTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_foreign_file_opens_as_a_new_network_and_its_remarks_lead_to_objects() {
        WindowHarness h;
        const QString path = fileWith(h, "layers.json", tests::twoLayers);
        QVERIFY(h.open(path));
        QVERIFY(h.window->showsSheet());
        QCOMPARE(h.devices(), std::size_t{3});
        QVERIFY(h.session().document().path().empty()); // the source is never written over
        QVERIFY(!h.window->bottomDock().isVisible());   // nothing to remark
        QVERIFY(h.open(fileWith(h, "odd.json", tests::oddTopology)));
        QVERIFY(h.window->bottomDock().isVisible());
        auto& list = h.window->remarks().list();
        QVERIFY(list.topLevelItemCount() > 2);
        QVERIFY(list.topLevelItem(0)->text(3).startsWith("odd.json:"));
        h.key(Qt::Key_B); // the sheet has the focus
        QVERIFY(!h.window->bottomDock().isVisible());
    }

    void a_click_on_a_remark_selects_what_it_is_about() {
        WindowHarness h;
        QVERIFY(h.open(fileWith(h, "odd.json", tests::oddTopology)));
        auto& list = h.window->remarks().list();
        for (int i = 0; i < list.topLevelItemCount(); ++i) {
            QTreeWidgetItem* item = list.topLevelItem(i);
            if (!item->text(0).contains("there twice"))
                continue;
            list.scrollToItem(item);
            QTest::mouseClick(list.viewport(), Qt::LeftButton, {}, list.visualItemRect(item).center());
            QCOMPARE(h.session().selection(), (edit::Refs{refTo(h.named("a"))}));
            return;
        }
        QFAIL("no such remark");
    }

    void an_import_is_previewed_and_undone_in_one_step() {
        WindowHarness h;
        h.begin();
        h.addPhones(2);
        const Network before = h.network();
        const QString path = fileWith(h, "harbour.graphml", tests::harbour);
        bool previewed = false;
        h.onDialog<app::ImportDialog>([&](app::ImportDialog& dialog) {
            previewed = true;
            dialog.show();
            dialog.presentSheet().click();
            return dialog.remarks().topLevelItemCount() > 0;
        });
        QVERIFY(h.import(path));
        QVERIFY(previewed);
        QCOMPARE(h.devices(), std::size_t{5});
        QCOMPARE(h.session().selection().size(), std::size_t{3});
        QCOMPARE(h.network().all<Sheet>().size(), std::size_t{1});
        const auto sceneIsTrue = [&] { // it comes with the import
            return h.session().scene() == scene::Scene::build(h.network(), h.session().sheet());
        };
        QVERIFY(sceneIsTrue());
        h.key(Qt::Key_Z, Qt::ControlModifier);
        QVERIFY(h.network() == before);

        h.onDialog<app::ImportDialog>([](app::ImportDialog&) { return true; });
        QVERIFY(h.import(path));
        QCOMPARE(h.network().all<Sheet>().size(), std::size_t{2});
        QVERIFY(h.session().sheet() != before.sheetsInOrder().front().id); // it is shown at once
        QVERIFY(sceneIsTrue());
        QVERIFY(h.session().scene().count<scene::Plate>() == 3);
        h.onDialog<app::ImportDialog>([](app::ImportDialog&) { return false; });
        const Network now = h.network();
        QVERIFY(!h.import(path));
        QVERIFY(h.network() == now);
    }

    void what_cannot_be_read_is_told_with_its_place_and_changes_nothing() {
        WindowHarness h;
        h.begin();
        h.addPhones(1);
        const Network before = h.network();
        QVERIFY(!h.import(fileWith(h, "broken.json", "{\"ietf-network:networks\":\n {")));
        QVERIFY(h.window->statusText().contains("broken.json:2"));
        QVERIFY(h.network() == before);
    }

    void export_lists_what_the_format_cannot_hold() {
        WindowHarness h;
        h.openFirstOffice();
        const QString path = h.folder.filePath("office.json");
        h.path = path;
        h.window->action(CommandId::exportData)->trigger();
        h.wait();
        QVERIFY(QFile::exists(path));
        QVERIFY(h.window->remarks().list().topLevelItemCount() > 2);
        QVERIFY(h.open(path));
        QCOMPARE(h.devices(), std::size_t{8});
        QCOMPARE(h.links(), std::size_t{7});
    }

    void what_is_copied_is_there_for_other_programs_and_pastes_with_new_ids() {
        WindowHarness h;
        h.openFirstOffice();
        h.sheet().setFocus();
        h.session().select({refTo(h.named("acc-1")), refTo(h.named("print-1"))});
        h.key(Qt::Key_C, Qt::ControlModifier);
        const QMimeData* held = QGuiApplication::clipboard()->mimeData();
        QVERIFY(held->text().startsWith("id,name,role"));
        QVERIFY(QSvgRenderer(held->data("image/svg+xml")).isValid());
        QImage image;
        QVERIFY(image.loadFromData(held->data("image/png"), "PNG"));
        QVERIFY(image.width() > 100);

        // Another window, as another program would be: only the bytes cross over.
        auto* carried = new QMimeData;
        carried->setData(app::networkMimeType, held->data(app::networkMimeType));
        QGuiApplication::clipboard()->setMimeData(carried);
        WindowHarness other;
        other.begin();
        other.sheet().setFocus();
        QVERIFY(other.window->action(CommandId::paste)->isEnabled());
        other.key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(other.devices(), std::size_t{2});
        QCOMPARE(other.links(), std::size_t{1});
        QVERIFY(other.named("acc-1") != h.named("acc-1"));
        QVERIFY(other.network().find<DeviceModel>({fnv1a("access-switch-24"), 0}));
        other.key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(other.devices(), std::size_t{4});
        QVERIFY(other.network().indicesAreTrue());
    }

    void a_copied_table_is_pasted_as_devices_and_other_text_is_refused() {
        WindowHarness h;
        h.begin();
        h.sheet().setFocus();
        QGuiApplication::clipboard()->setText("name\tmodel\ntill-1\ttill\ntill-2\ttill\n");
        h.key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(h.devices(), std::size_t{2});
        QGuiApplication::clipboard()->setText("low tide at four");
        h.key(Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(h.devices(), std::size_t{2});
        QVERIFY(h.window->statusText().contains("clipboard", Qt::CaseInsensitive));
    }

    void a_dropped_file_is_opened_or_imported() {
        WindowHarness h;
        QMimeData data;
        data.setUrls({QUrl::fromLocalFile(fileWith(h, "list.csv", "name,model\na,till\nb,till\n"))});
        drop(*h.window, data, {600, 400});
        h.wait();
        QCOMPARE(h.devices(), std::size_t{2});
        h.onDialog<app::ImportDialog>([](app::ImportDialog& dialog) {
            dialog.presentSheet().setChecked(true);
            return true;
        });
        drop(*h.window, data, {600, 400});
        h.wait();
        QCOMPARE(h.devices(), std::size_t{4});
    }

    void a_piece_dragged_from_another_window_is_put_where_it_is_dropped() {
        WindowHarness h;
        h.openFirstOffice();
        auto clip = edit::copyObjects(h.network(), h.session().sheet(), {refTo(h.named("print-1"))});
        app::ClipData carried(clip, paint::lightTheme());
        QMimeData data;
        data.setData(app::networkMimeType, carried.data(app::networkMimeType));
        const QPoint at(300, 500);
        drop(h.sheet(), data, at);
        QCOMPARE(h.devices(), std::size_t{9});
        const auto* plate = h.session().scene().plate({h.session().selection().front().id});
        QVERIFY(plate);
        QVERIFY(scene::length(plate->frame.centre() - h.sheet().camera().toSheet(at)) < 40);
    }

    void a_move_out_of_the_window_becomes_a_drag_and_leaves_the_plate_where_it_was() {
        WindowHarness h;
        h.openFirstOffice();
        const Network before = h.network();
        QSignalSpy wanted(&h.sheet(), &app::SheetView::dragOutWanted);
        QObject::disconnect(&h.sheet(), &app::SheetView::dragOutWanted, h.window.get(), nullptr);
        h.moveTo(h.middle("print-1"));
        QTest::mousePress(&h.sheet(), Qt::LeftButton, {}, h.middle("print-1"));
        h.moveTo({400, 300}, Qt::LeftButton);
        QCOMPARE(wanted.count(), 0);
        h.moveTo({-60, 300}, Qt::LeftButton); // over a panel: the view goes on instead
        QCOMPARE(wanted.count(), 0);
        h.moveTo({-2000, 300}, Qt::LeftButton);
        QCOMPARE(wanted.count(), 1);
        QTest::mouseRelease(&h.sheet(), Qt::LeftButton, {}, {-60, 300});
        QVERIFY(h.network() == before);
    }
};

UNDERRIDGE_TEST(InterchangeTest)
#include "interchange_test.moc"
