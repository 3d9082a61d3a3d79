// SPDX-License-Identifier: GPL-3.0-or-later
// The session without a window: what follows an edit and in which order, sheets and their
// views, what is kept for the person.
#include "app/commands/commands.h"
#include "app/commands/keys.h"
#include "app/session/session.h"
#include "app/session/settings.h"
#include "core/edit/devices.h"
#include "core/edit/objects.h"
#include "core/edit/sheets.h"
#include "core/exchange/catalogue_file.h"
#include "tests/support/first_office.h"
#include "tests/support/registered.h"

#include <QSignalSpy>
#include <QTemporaryDir>
#include <QWidget>

using namespace underridge;
using namespace underridge::model;

namespace {

struct Desk {
    MemoryFiles files;
    std::int64_t clock = 0;
    app::Session session{edit::World{files, "/journal", [this] { return clock += 5000; }},
                         exchange::builtInCatalogue(), 5};

    explicit Desk(const char* sample = "first-office") {
        session.setDocument(edit::Document::fresh(session.workspace().world(), tests::demo(sample)));
    }
    DeviceId named(const char* name) const {
        DeviceId found;
        session.workspace().network().all<Device>().forEach([&](const Device& device) {
            if (device.name == name)
                found = device.id;
        });
        return found;
    }
    bool rename(const char* from, const char* to) {
        return session.apply(edit::rename(session.network(), {refTo(named(from))}, {to}));
    }
    SheetId addSheet(const char* name) {
        session.apply(edit::addSheet(session.network(), name, session.ids()));
        return session.network().sheetsInOrder().back().id;
    }
};

} // namespace

class SessionTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_chosen_port_stays_chosen_while_its_device_is_all_that_is_selected() {
        Desk desk;
        const PortRef port{desk.named("acc-1"), "1"};
        desk.session.selectPort(port);
        QVERIFY(desk.session.selection() == edit::Refs{refTo(port.device)});
        QVERIFY(desk.rename("acc-1", "acc-9")); // and is selected afterwards
        QVERIFY(desk.session.selected().port() == port);
        desk.session.selected().toggle(refTo(desk.named("edge-1")));
        QVERIFY(desk.session.selected().port() == PortRef{});
        desk.session.selectPort(port);
        QVERIFY(desk.rename("wall-1", "outlet-1")); // which is selected instead
        QVERIFY(desk.session.selected().port() == PortRef{});
        desk.session.selectPort(port);
        desk.session.apply(edit::removeObjects(desk.session.network(), {refTo(port.device)}));
        QVERIFY(desk.session.selected().port() == PortRef{});
        QVERIFY(desk.session.selection().empty());
    }

    void whoever_hears_of_an_edit_finds_scene_and_selection_right() {
        Desk desk;
        const DeviceId acc = desk.named("acc-1");
        QStringList heard;
        bool right = true;
        const auto look = [&](const char* what) {
            heard << QString::fromLatin1(what);
            right &= desk.session.scene().plate(acc)->name == "edge-sw";
            right &= desk.session.selection() == edit::Refs{refTo(acc)};
        };
        connect(&desk.session.workspace(), &app::Workspace::networkChanged, this, [&] { look("network"); });
        connect(&desk.session.selected(), &app::Selection::changed, this, [&] { look("selection"); });
        connect(&desk.session.workspace(), &app::Workspace::stateChanged, this, [&] { look("state"); });
        QVERIFY(desk.rename("acc-1", "edge-sw"));
        QVERIFY(right);
        QCOMPARE(heard, (QStringList{"network", "selection", "state"}));
    }

    void a_refusal_is_told_and_changes_nothing() {
        Desk desk;
        QSignalSpy refused(&desk.session.workspace(), &app::Workspace::refused);
        QSignalSpy changed(&desk.session.workspace(), &app::Workspace::networkChanged);
        const Network before = desk.session.network();
        QVERIFY(!desk.session.apply(edit::rename(before, {refTo(desk.named("acc-1"))}, {""})));
        QCOMPARE(refused.size(), 1);
        QCOMPARE(changed.size(), 0);
        QVERIFY(desk.session.network() == before);
        // An act that comes to nothing is no step either.
        QVERIFY(!desk.rename("acc-1", "acc-1"));
        QVERIFY(!desk.session.document().history().canUndo());
    }

    void undo_brings_back_what_was_selected_and_where_one_looked() {
        Desk desk;
        const DeviceId acc = desk.named("acc-1"), phone = desk.named("phone-1");
        desk.session.select({refTo(acc), refTo(phone)});
        desk.session.sheets().setView({{10, 20}, 2});
        QVERIFY(desk.session.apply(edit::removeObjects(desk.session.network(), {refTo(phone)})));
        desk.session.select({});
        desk.session.sheets().setView({{900, 900}, 0.5});
        QSignalSpy wanted(&desk.session.workspace(), &app::Workspace::viewWanted);
        desk.session.undo();
        QCOMPARE(desk.session.selection(), (edit::Refs{refTo(acc), refTo(phone)}));
        QCOMPARE(wanted.size(), 1);
        desk.session.redo();
        QVERIFY(!desk.session.selected().contains(refTo(phone))); // it is gone again
    }

    void a_sheet_that_goes_is_left_for_the_first_there_is() {
        Desk desk;
        const SheetId first = desk.session.sheet(), other = desk.addSheet("Other");
        desk.session.showSheet(other);
        QCOMPARE(desk.session.sheet(), other);
        QSignalSpy shown(&desk.session.sheets(), &app::SheetSession::sheetShown);
        desk.session.undo(); // there is no such sheet now
        QCOMPARE(desk.session.sheet(), first);
        QCOMPARE(shown.size(), 1);
        QVERIFY(desk.session.scene() == scene::Scene::build(desk.session.network(), first));
    }

    void the_scene_agrees_with_the_network_through_edits_on_any_sheet() {
        Desk desk("fennick-quay");
        const auto sheets = desk.session.network().sheetsInOrder();
        QVERIFY(sheets.size() > 2);
        for (int round = 0; round < 3; ++round)
            for (const Sheet& sheet : sheets) {
                desk.session.showSheet(sheet.id);
                const std::string name = "fw-" + std::to_string(round) + sheet.name.substr(0, 2);
                QVERIFY(desk.rename("fw-1", name.c_str()));
                QVERIFY(desk.session.scene() == scene::Scene::build(desk.session.network(), sheet.id));
                desk.session.undo();
                QVERIFY(desk.session.scene() == scene::Scene::build(desk.session.network(), sheet.id));
            }
    }

    void another_document_forgets_sheets_views_and_the_way_back() {
        Desk desk("fennick-quay");
        const auto sheets = desk.session.network().sheetsInOrder();
        desk.session.sheets().setView({{1, 2}, 3});
        desk.session.showSheet(sheets[1].id);
        QVERIFY(desk.session.navigation().canGoBack());
        desk.session.select({refTo(desk.named("core-1"))});
        QSignalSpy replaced(&desk.session.workspace(), &app::Workspace::documentReplaced);
        desk.session.setDocument(
            edit::Document::fresh(desk.session.workspace().world(), tests::firstOffice()));
        QCOMPARE(replaced.size(), 1);
        QVERIFY(!desk.session.navigation().canGoBack());
        QVERIFY(desk.session.selection().empty());
        QVERIFY(!desk.session.sheets().view());
        QCOMPARE(desk.session.sheet(), desk.session.network().sheetsInOrder().front().id);
    }

    void going_back_passes_over_sheets_that_are_gone() {
        Desk desk;
        const SheetId first = desk.session.sheet(), gone = desk.addSheet("Gone");
        desk.session.showSheet(gone);
        desk.session.showSheet(first);
        QVERIFY(desk.session.navigation().canGoBack());
        desk.session.undo(); // the sheet goes
        desk.session.navigation().back();
        QCOMPARE(desk.session.sheet(), first);
    }

    void own_models_stand_beside_those_that_ship_and_can_be_taken_away() {
        Desk desk;
        const std::size_t shipped = desk.session.catalogue().devices.size();
        DeviceModel own = *desk.session.catalogue().device("till");
        own.id = "own-till";
        own.name = "Own till";
        QSignalSpy changed(&desk.session.workspace(), &app::Workspace::catalogueChanged);
        desk.session.workspace().setLibrary({own});
        QCOMPARE(changed.size(), 1);
        QVERIFY(desk.session.catalogue().device("own-till"));
        desk.session.workspace().setLibrary({});
        QVERIFY(!desk.session.catalogue().device("own-till"));
        QCOMPARE(desk.session.catalogue().devices.size(), shipped);
    }

    void overlays_replace_their_like_and_say_what_they_mark() {
        struct Plain : app::Overlay {
            Plain(QString name, ObjectRef object, QString words) : name_(std::move(name)) {
                marks_[object] = {0.5F, std::move(words)};
            }
            QString id() const override { return name_; }
            QString legend() const override { return name_; }
            QString name_;
        };
        app::Overlays overlays;
        QSignalSpy changed(&overlays, &app::Overlays::changed);
        const ObjectRef one{Kind::link, 1}, two{Kind::link, 2};
        overlays.put(std::make_shared<Plain>("load", one, "80 %"));
        overlays.put(std::make_shared<Plain>("trace", one, "hop 2"));
        QCOMPARE(overlays.wordsOn(one), (QStringList{"80 %", "hop 2"}));
        overlays.put(std::make_shared<Plain>("load", two, "20 %"));
        QCOMPARE(overlays.shown().size(), std::size_t{2});
        QCOMPARE(overlays.wordsOn(one), QStringList("hop 2"));
        overlays.remove("load");
        QVERIFY(overlays.wordsOn(two).isEmpty());
        overlays.remove("load"); // not there: nobody is told
        QCOMPARE(changed.size(), 4);
    }

    void settings_are_kept_by_type_and_survive_nonsense() {
        QTemporaryDir folder;
        const QString path = folder.filePath("settings.ini");
        const QString file = folder.filePath("a.underridge");
        QFile made(file);
        QVERIFY(made.open(QIODevice::WriteOnly));
        made.close();
        const app::Settings::Place place{{77}, {{-12.5, 900}, 0.75}};
        {
            QSettings store(path, QSettings::IniFormat);
            app::Settings settings(store);
            QCOMPARE(settings.textScale(), 100);
            QVERIFY(!settings.opensLast() && settings.recentFiles().isEmpty());
            settings.setTextScale(400);
            settings.setLengthUnit(LengthUnit::feet);
            settings.setHabits({true, true});
            settings.addRecent(file);
            settings.addRecent(folder.filePath("gone.underridge"));
            settings.addRecent(file);
            settings.setPlaceIn(file, place);
        }
        QSettings store(path, QSettings::IniFormat);
        app::Settings settings(store);
        QCOMPARE(settings.textScale(), 250); // as large as texts go
        QCOMPARE(settings.lengthUnit(), LengthUnit::feet);
        QVERIFY(settings.habits().fromHighEnd && settings.habits().hostsTakeUplinks);
        QCOMPARE(settings.recentFiles(), QStringList(file)); // once, and without what is gone
        QVERIFY(settings.placeIn(file));
        QCOMPARE(settings.placeIn(file)->sheet, place.sheet);
        QCOMPARE(settings.placeIn(file)->view, place.view);
        QVERIFY(!settings.placeIn("elsewhere"));
        store.setValue("files/places", QVariantList{QStringList{file, "no id", "1", "2", "3"}});
        QVERIFY(!settings.placeIn(file));
        store.setValue("files/places", QVariantList{QStringList{file, "000000000001", "nan", "2", "1"}});
        QVERIFY(!settings.placeIn(file));
        store.setValue("files/places", QVariantList{QStringList{file, "000000000001", "1", "2", "0"}});
        QVERIFY(!settings.placeIn(file));
    }

    void recent_files_are_no_more_than_fit_the_menu() {
        QTemporaryDir folder;
        QSettings store(folder.filePath("s.ini"), QSettings::IniFormat);
        app::Settings settings(store);
        for (int i = 0; i < 12; ++i) {
            QFile file(folder.filePath(QString::number(i)));
            QVERIFY(file.open(QIODevice::WriteOnly));
            settings.addRecent(file.fileName());
        }
        QCOMPARE(settings.recentFiles().size(), 8);
        QVERIFY(settings.recentFiles().front().endsWith("11"));
    }

    void commands_ask_when_they_can_and_do_what_was_added() {
        QWidget window;
        QWidget sheet(&window);
        app::Commands commands(&window, &sheet);
        QCOMPARE(commands.missing().size(), app::commandTable().size());
        int done = 0;
        bool can = false;
        commands.add(
            app::CommandId::save, [&] { ++done; }, [&] { return can; });
        const auto missing = commands.missing();
        QVERIFY(std::find(missing.begin(), missing.end(), app::CommandId::save) == missing.end());
        commands.refresh();
        QVERIFY(!commands.action(app::CommandId::save)->isEnabled());
        commands.action(app::CommandId::save)->trigger(); // not enabled: nothing
        QCOMPARE(done, 0);
        can = true;
        commands.refresh();
        QSignalSpy ran(&commands, &app::Commands::ran);
        commands.action(app::CommandId::save)->trigger();
        QCOMPARE(done, 1);
        QCOMPARE(ran.size(), 1);
    }

    void own_keys_take_the_place_of_the_standard_ones() {
        QTemporaryDir folder;
        QSettings store(folder.filePath("s.ini"), QSettings::IniFormat);
        const app::Command& undo = app::commandOf(app::CommandId::undo);
        QCOMPARE(app::keysText(app::keysOf(undo, store)), QString("Ctrl+Z"));
        store.setValue(app::keySetting(undo), "Ctrl+Backspace");
        QCOMPARE(app::keysText(app::keysOf(undo, store)), QString("Ctrl+Backspace"));
        store.setValue(app::keySetting(undo), "");
        QVERIFY(app::keysOf(undo, store).isEmpty());
        // Without single letters only what is one letter alone goes.
        store.setValue(app::lettersSetting, false);
        QVERIFY(app::keysOf(app::commandOf(app::CommandId::addDevice), store).isEmpty());
        QVERIFY(app::keysOf(app::commandOf(app::CommandId::linkInRow), store).isEmpty());
        QVERIFY(!app::keysOf(app::commandOf(app::CommandId::linkMany), store).isEmpty());
        QVERIFY(!app::keysOf(app::commandOf(app::CommandId::remove), store).isEmpty());
    }
};

UNDERRIDGE_TEST(SessionTest)
#include "session_test.moc"
