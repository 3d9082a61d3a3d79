// SPDX-License-Identifier: GPL-3.0-or-later
// Own models, updates of changed ones, and preferences, in the window.
#include "app/models/model_editor.h"
#include "app/window/preferences.h"
#include "core/edit/fittings.h"
#include "core/edit/models.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/library.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QCheckBox>
#include <QComboBox>
#include <QSettings>
#include <QSignalSpy>
#include <QSpinBox>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

void add(WindowHarness& h, const QString& typed) {
    h.sheet().setFocus();
    h.key(Qt::Key_A);
    h.type(typed);
    h.key(Qt::Key_Return);
}

/// A crane controller of two ports in the library.
void makeCrane(WindowHarness& h) {
    h.onDialog<app::ModelEditor>([](app::ModelEditor& dialog) {
        dialog.show();
        dialog.addNew();
        QTest::keyClicks(&dialog.name(), "Crane controller");
        dialog.role().setCurrentIndex(static_cast<int>(Role::controller));
        dialog.blocks().item(0, 0)->setText("1-2");
        QTest::mouseClick(&dialog.saveButton(), Qt::LeftButton);
    });
    h.window->action(CommandId::ownModels)->trigger();
}

/// The library's dialog by itself.
struct Library {
    app::ModelEditor editor{exchange::builtInCatalogue(), {}, paint::lightTheme(), nullptr};
};

} // namespace

class ModelsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void an_own_model_is_made_kept_and_placed() {
        WindowHarness h;
        h.begin();
        makeCrane(h);
        QCOMPARE(h.session().workspace().library().size(), std::size_t{1});
        QCOMPARE(h.session().workspace().library().front().id, std::string("own-new-model"));
        add(h, "2 crane controller");
        QCOMPARE(h.devices(), std::size_t{2});
        h.restart();
        QCOMPARE(h.session().workspace().library().size(), std::size_t{1});
        QCOMPARE(h.session().workspace().library().front().name, std::string("Crane controller"));
        QTest::keyClicks(&h.window->catalogue().search(), "crane");
        QCOMPARE(h.window->catalogue().list().count(), 2); // the heading and the model
    }

    void what_is_wrong_with_a_model_is_said_and_it_cannot_be_saved() {
        WindowHarness h;
        h.begin();
        h.onDialog<app::ModelEditor>([](app::ModelEditor& dialog) {
            dialog.show();
            dialog.addCopy("access-switch-24");
            dialog.blocks().item(0, 0)->setText("24-1");
            QVERIFY(dialog.problems().contains("24-1"));
            QVERIFY(!dialog.saveButton().isEnabled());
            dialog.blocks().item(0, 0)->setText("1-26");
            QVERIFY(dialog.problems().isEmpty());
            dialog.addBlock();
            QCOMPARE(dialog.draws().value(), 460);
            dialog.draws().setValue(75);
            QTest::mouseClick(&dialog.saveButton(), Qt::LeftButton);
        });
        h.window->action(CommandId::ownModels)->trigger();
        QCOMPARE(h.session().workspace().library().size(), std::size_t{1});
        const DeviceModel& own = h.session().workspace().library().front();
        QVERIFY(own.ports.find("26"));
        QCOMPARE(own.watts, 75);
        QCOMPARE(own.weightKg, 4.5);
        const DeviceModel* source = h.session().catalogue().device("access-switch-24");
        QCOMPARE(own.ports.blocks().size(), source->ports.blocks().size() + 1);
        for (std::size_t i = 1; i < source->ports.blocks().size(); ++i)
            QVERIFY(own.ports.blocks()[i] == source->ports.blocks()[i]); // a copy loses nothing
    }

    void enter_in_a_field_keeps_the_model_and_adds_nothing() {
        Library library;
        library.editor.show();
        library.editor.addNew();
        const int blocks = library.editor.blocks().rowCount();
        QTest::keyClicks(&library.editor.name(), "Winch");
        QTest::keyClick(&library.editor.name(), Qt::Key_Return);
        QCOMPARE(library.editor.blocks().rowCount(), blocks);
        QCOMPARE(library.editor.own().size(), std::size_t{1});
        QCOMPARE(library.editor.own().front().name, std::string("Winch"));
    }

    void every_model_that_ships_comes_through_the_editor_unchanged() {
        const Catalogue catalogue = exchange::builtInCatalogue();
        for (const DeviceModel& model : catalogue.devices) {
            app::ModelEditor dialog(catalogue, {model}, paint::lightTheme(), nullptr);
            dialog.saveButton().click();
            QVERIFY2(dialog.own().front() == model, model.id.c_str());
        }
    }

    void rows_of_port_blocks_say_what_was_changed_and_keep_what_they_do_not_show() {
        app::BlocksTable table;
        QSignalSpy edited(&table, &app::BlocksTable::edited);
        const Catalogue catalogue = exchange::builtInCatalogue();
        const auto blocks = catalogue.device("access-switch-24")->ports.blocks();
        table.show(blocks);
        QVERIFY(table.blocks() == blocks);
        QCOMPARE(edited.count(), 0); // nobody has edited anything
        table.item(0, 3)->setText("1G, 100M 2.5g, nonsense, 100M");
        QCOMPARE(edited.count(), 1);
        QCOMPARE(table.blocks()[0].rates, (std::vector<int>{100, 1000, 2500}));
        table.add(blocks.front());
        QCOMPARE(edited.count(), 2);
        QCOMPARE(table.blocks().size(), blocks.size() + 1);
        QVERIFY(table.blocks().back() == blocks.front());
        table.setCurrentCell(0, 0);
        table.removeOne();
        QCOMPARE(edited.count(), 3);
        QVERIFY(table.blocks().front() == blocks[1]);
        table.setCurrentCell(-1, -1);
        table.removeOne(); // none is chosen: the last
        QCOMPARE(table.blocks().size(), blocks.size() - 1);
        QVERIFY(table.blocks().back() == blocks.back());
    }

    void models_are_exported_and_imported() {
        WindowHarness h;
        h.begin();
        makeCrane(h);
        const QString path = h.folder.filePath("cranes.json");
        h.onDialog<app::ModelEditor>([&](app::ModelEditor& dialog) { QVERIFY(dialog.exportTo(path)); });
        h.window->action(CommandId::ownModels)->trigger();
        WindowHarness other;
        other.begin();
        other.onDialog<app::ModelEditor>([&](app::ModelEditor& dialog) {
            QVERIFY(!dialog.importFrom(other.folder.filePath("none.json")));
            QVERIFY(!dialog.problems().isEmpty());
            QVERIFY(dialog.importFrom(path));
        });
        other.window->action(CommandId::ownModels)->trigger();
        QVERIFY(other.session().workspace().library() == h.session().workspace().library());
        QVERIFY(!exchange::readModels("[{\"id\": \"a\"}]", "x"));
        QVERIFY(!exchange::readModels("[", "x"));
    }

    void a_changed_model_is_offered_with_a_preview_and_updated_in_one_step() {
        WindowHarness h;
        h.begin();
        makeCrane(h);
        add(h, "2 crane controller named c-{1..}");
        h.session().apply(edit::linkInRow(h.network(), h.session().catalogue(),
                                          {h.named("c-1"), h.named("c-2")}, h.session().ids()));
        const Network before = h.network();
        QString preview;
        h.onDialog<QDialog>([&](QDialog& dialog) {
            auto& tree = *dialog.findChild<QTreeWidget*>();
            for (int i = 0; i < tree.topLevelItem(0)->childCount(); ++i)
                preview += tree.topLevelItem(0)->child(i)->text(0) + "\n";
            return true;
        });
        h.onDialog<app::ModelEditor>([](app::ModelEditor& dialog) {
            dialog.blocks().item(0, 0)->setText("2-5"); // port 1 goes, though it is linked
            dialog.saveButton().click();
        });
        h.window->action(CommandId::ownModels)->trigger();
        QVERIFY2(preview.contains("new ports: 3, 4, 5"), qPrintable(preview));
        QVERIFY(preview.contains("ports that go: 1"));
        QVERIFY(preview.contains("in use"));
        const Device* device = h.network().device(h.named("c-1"));
        QCOMPARE(portsOf(h.network(), *device).size(), std::size_t{5}); // four, and the one in use
        QCOMPARE(h.links(), std::size_t{1});
        QVERIFY(device->learned.contains("1"));
        h.session().undo();
        QVERIFY(h.network() == before);
    }

    void the_details_set_a_model_and_fit_modules() {
        WindowHarness h;
        h.begin();
        add(h, "core switch, modular");
        const auto core = h.session().selection().front();
        const std::size_t ports = portsOf(h.network(), *h.network().device({core.id})).size();
        QTRY_VERIFY(h.window->details().field("Slot 1"));
        auto* slot = qobject_cast<QComboBox*>(h.window->details().field("Slot 1"));
        QVERIFY(slot);
        slot->setCurrentIndex(1);
        Q_EMIT slot->activated(1);
        QCOMPARE(portsOf(h.network(), *h.network().device({core.id})).size(), ports + 24);
        auto refused = edit::fitModule(h.network(), h.session().catalogue(), {core.id}, "9", "module-24-rj45",
                                       edit::WithLinks::refuse);
        QVERIFY(!refused);
    }

    void lengths_are_shown_and_typed_in_feet_by_those_who_want_it() {
        WindowHarness h;
        h.openFirstOffice();
        const Link* link = h.network().linkAt({h.named("wall-1"), "X2"});
        const auto labels = [&] {
            std::string all;
            for (const auto& label : h.session().scene().link(link->id)->labels)
                all += label.text + '\n';
            return all;
        };
        QVERIFY(labels().find("12 m") != std::string::npos);
        h.onDialog<app::Preferences>([](app::Preferences& dialog) { dialog.units().setCurrentIndex(1); });
        h.window->action(CommandId::preferences)->trigger();
        QVERIFY(labels().find("39.4 ft") != std::string::npos);
        h.session().select({refTo(link->id)});
        QCoreApplication::processEvents();
        auto* field = qobject_cast<QLineEdit*>(h.window->details().field("Length"));
        QCOMPARE(field->text(), QString("39.4 ft"));
        field->setFocus();
        field->selectAll();
        h.type("50");
        h.key(Qt::Key_Return);
        QCOMPARE(h.network().cable(h.network().link(link->id)->cable)->lengthMm, std::int64_t{15240});
    }

    void port_habits_are_followed_by_the_next_link() {
        WindowHarness h;
        h.openFirstOffice();
        h.onDialog<app::Preferences>([](app::Preferences& dialog) { dialog.portEnd().setCurrentIndex(1); });
        h.window->action(CommandId::preferences)->trigger();
        h.addPhones(1);
        const std::size_t before = h.links();
        h.session().select({refTo(h.named("phone-2")), refTo(h.named("acc-1"))});
        h.window->action(CommandId::linkInRow)->trigger();
        QCOMPARE(h.links(), before + 1);
        QVERIFY(h.network().linkAt({h.named("acc-1"), "24"}));
    }

    void keys_are_changed_refused_when_taken_and_kept() {
        WindowHarness h;
        h.begin();
        h.onDialog<app::Preferences>([](app::Preferences& dialog) {
            QVERIFY(!dialog.setKey(CommandId::addNote, QKeySequence("A")));
            QVERIFY(dialog.wrong().contains("Add devices"));
            QVERIFY(dialog.setKey(CommandId::addNote, QKeySequence("Ctrl+M")));
        });
        h.window->action(CommandId::preferences)->trigger();
        QCOMPARE(h.window->action(CommandId::addNote)->shortcut(), QKeySequence("Ctrl+M"));
        h.window->close();
        h.restart();
        QCOMPARE(h.window->action(CommandId::addNote)->shortcut(), QKeySequence("Ctrl+M"));
        h.onDialog<app::Preferences>([](app::Preferences& dialog) {
            dialog.resetKeys();
            dialog.letters().setChecked(false);
            dialog.scale().setValue(150);
        });
        const double before = QApplication::font().pointSizeF();
        h.window->action(CommandId::preferences)->trigger();
        QVERIFY(h.window->action(CommandId::addDevice)->shortcuts().isEmpty());
        QCOMPARE(h.window->action(CommandId::undo)->shortcut(), QKeySequence("Ctrl+Z"));
        QVERIFY(QApplication::font().pointSizeF() > before * 1.4);
        h.onDialog<app::Preferences>([](app::Preferences& dialog) {
            dialog.scale().setValue(100);
            dialog.letters().setChecked(true);
        });
        h.window->action(CommandId::preferences)->trigger();
        QCOMPARE(h.window->action(CommandId::addDevice)->shortcut(), QKeySequence("A"));
    }

    void going_to_another_own_model_keeps_what_was_changed_and_deleting_asks() {
        Library library;
        app::ModelEditor& editor = library.editor;
        editor.addNew();
        QTest::keyClicks(&editor.name(), "Crane");
        editor.addNew();
        QTest::keyClicks(&editor.name(), "Winch");
        editor.list().setCurrentRow(0);
        QCOMPARE(editor.name().text(), QStringLiteral("Crane"));
        editor.name().setText({});
        Q_EMIT editor.name().textEdited({});
        editor.list().setCurrentRow(1); // a model without a name cannot be kept: it is put right first
        QCOMPARE(editor.list().currentRow(), 0);
        QVERIFY(!editor.problems().isEmpty());
        QTest::keyClicks(&editor.name(), "Crane 2");
        editor.list().setCurrentRow(1);
        QCOMPARE(editor.list().currentRow(), 1);
        QCOMPARE(editor.own()[0].name, std::string("Crane 2"));
        QCOMPARE(editor.own()[1].name, std::string("Winch"));
        QString asked;
        bool may = false;
        editor.answer = [&](const QString& question) {
            asked = question;
            return may;
        };
        QPushButton* remove = nullptr;
        for (auto* button : editor.findChildren<QPushButton*>())
            if (button->text() == "Delete")
                remove = button;
        QVERIFY(remove);
        remove->click();
        QVERIFY(asked.contains("Winch"));
        QCOMPARE(editor.own().size(), std::size_t{2});
        may = true;
        remove->click();
        QCOMPARE(editor.own().size(), std::size_t{1});
    }
};

UNDERRIDGE_TEST(ModelsTest)
#include "models_test.moc"
