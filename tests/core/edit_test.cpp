// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/history.h"
#include "core/model/references.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

using namespace underridge;
using namespace underridge::model;
using tests::RandomEdits;

namespace {

edit::Act bare(Network network, const char* name = "act") {
    return {name, std::move(network), {}};
}

QStringList namesOf(const Result<std::vector<std::string>>& names) {
    QStringList out;
    if (names)
        for (const std::string& name : *names)
            out << QString::fromStdString(name);
    return out;
}

} // namespace

class EditTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void any_edits_then_undo_all_gives_the_first_value_and_redo_all_the_last() {
        for (int seed = 1; seed <= tests::tries(12); ++seed) {
            RandomEdits edits(static_cast<std::uint64_t>(seed));
            const Network first = edits.start();
            edit::History history(first);
            int done = 0;
            for (int i = 0; i < 120; ++i)
                if (auto act = edits.act(history.now()))
                    done += history.apply(*std::move(act), {}, {}, i * 5000);
            const Network last = history.now();
            QVERIFY(done > 30);
            QVERIFY(last.indicesAreTrue());
            while (history.canUndo())
                history.undo();
            QVERIFY(history.now() == first);
            while (history.canRedo())
                history.redo();
            QVERIFY(history.now() == last);
        }
    }

    void an_act_that_changes_nothing_leaves_no_step_and_keeps_redo() {
        RandomEdits edits(4);
        const Network network = edits.grown(20);
        edit::History history(edits.start());
        history.apply(bare(network), {}, {}, 0);
        history.undo();
        const Network now = history.now();
        QVERIFY(!history.apply(bare(now), {}, {}, 1));
        QVERIFY(history.canRedo());
    }

    void steps_merge_only_with_the_same_key_in_time_and_with_nothing_between() {
        RandomEdits edits(5);
        Network network = edits.start();
        edit::History history(network);
        int n = 0;
        const auto push = [&](const char* field, std::int64_t at) {
            NetworkInfo info = network.info();
            info.name = "name " + std::to_string(++n);
            network.put(std::move(info));
            history.apply(bare(network), {}, {}, at, edit::MergeKey{field, {}});
            return history.steps();
        };
        QCOMPARE(push("nudge", 0), std::size_t{1});
        QCOMPARE(push("nudge", 900), std::size_t{1});
        QCOMPARE(push("nudge", 1800), std::size_t{1});
        QCOMPARE(push("nudge", 1800 + edit::mergeWindowMs + 1), std::size_t{2}); // a pause
        QCOMPARE(push("other", 2900), std::size_t{3});                           // another field
        history.seal();                                                          // saved between
        QCOMPARE(push("other", 2950), std::size_t{4});
        history.undo();
        network = history.now();
        QCOMPARE(push("other", 3000), std::size_t{4}); // not merged into the step before
        history.undo();
        history.undo();
        QCOMPARE(QString::fromStdString(history.now().info().name), QStringLiteral("name 4"));
    }

    void undo_gives_back_what_was_selected() {
        RandomEdits edits(6);
        edit::History history(edits.start());
        edit::Session before, after;
        before.zoom = 2;
        after.selection = {{Kind::device, 7}};
        Network network = history.now();
        NetworkInfo info = network.info();
        info.name = "other";
        network.put(std::move(info));
        history.apply(bare(network, "Rename network"), before, after, 0);
        QCOMPARE(QString::fromStdString(history.undoName()), QStringLiteral("Rename network"));
        QCOMPARE(history.undo(), before);
        QCOMPARE(history.redo(), after);
    }

    void deleting_a_device_takes_its_links_cables_ports_and_positions() {
        RandomEdits edits(7);
        Network network = edits.grown(200);
        edit::Refs all;
        network.all<Device>().forEach([&](const Device& d) { all.push_back(refTo(d.id)); });
        network.all<Note>().forEach([&](const Note& n) { all.push_back(refTo(n.id)); });
        const auto act = edit::removeObjects(network, all);
        QVERIFY(act);
        const Network& left = act->network;
        QVERIFY(left.all<Device>().empty() && left.all<Link>().empty() && left.all<Cable>().empty());
        QVERIFY(left.all<Port>().empty() && left.all<Interface>().empty() && left.all<Position>().empty());
        QVERIFY(left.indicesAreTrue());
    }

    void ungrouping_keeps_the_members() {
        RandomEdits edits(8);
        Network network = edits.start();
        network.put(tests::groupOf({5}, "outer", GroupKind::floor, {}));
        network.put(tests::groupOf({6}, "inner", GroupKind::room, {5}));
        Device device;
        device.id = {9};
        device.name = "d";
        device.group = {6};
        network.put(device);
        const auto act = edit::removeObjects(network, {{Kind::group, 6}});
        QVERIFY(act);
        QCOMPARE(act->network.device({9})->group.value, std::uint64_t{5});
        QVERIFY(act->network.indicesAreTrue());
    }

    void what_named_a_group_names_the_one_around_it() {
        tests::Workbench b;
        const GroupId floor = b.group("Quay level", GroupKind::floor),
                      rack = b.group("R1", GroupKind::rack, floor);
        b.shape(rack, [](Group& group) {
            group.xMm = 4000;
            group.yMm = 2500;
            group.heightMm = 100;
        });
        const DeviceId sw = b.add("access-switch-24", "sw"), pc = b.add("workstation", "pc");
        b.place(sw, {rack, 0, 0, 0, 12, Side::rear});
        b.place(pc, {floor, 7000, 8000, 0, 0, Side::front});
        b.network.put(Vlan{{72}, 20, "video", rack, {}});
        Sheet sheet = *b.network.sheet(b.sheet);
        sheet.shows = rack;
        b.network.put(sheet);
        QVERIFY(b.take(edit::removeObjects(b.network, {refTo(rack)})));
        QCOMPARE(b.network.device(sw)->place, (Place{floor, 4000, 2500, 100, 0, Side::rear}));
        QCOMPARE(b.network.vlan({72})->scope, floor);
        QCOMPARE(b.network.sheet(b.sheet)->shows, floor);
        QVERIFY(b.take(edit::removeObjects(b.network, {refTo(floor)})));
        QCOMPARE(b.network.device(sw)->place, Place{});
        QCOMPARE(b.network.device(pc)->place, Place{});
        QCOMPARE(b.network.vlan({72})->scope, GroupId{});
        QCOMPARE(b.network.sheet(b.sheet)->shows, GroupId{});
        QVERIFY(b.network.indicesAreTrue());
    }

    void services_forget_a_device_that_is_gone() {
        tests::Workbench b;
        const DeviceId one = b.add("server", "one"), two = b.add("till", "two");
        b.network.put(Service{{74}, "Ticket sale", {two, one}, {one}, {}, {}});
        QVERIFY(b.take(edit::removeObjects(b.network, {refTo(one)})));
        QCOMPARE(b.network.find<Service>({74, 0})->users, std::vector{two});
        QVERIFY(b.network.find<Service>({74, 0})->providers.empty());
    }

    void clearing_an_address_clears_nothing_else_data() {
        QTest::addColumn<QString>("what");
        for (const char* what : {"vrf", "parent", "disabled", "name", "mac", "untagged", "second address"})
            QTest::newRow(what) << QString::fromUtf8(what);
    }
    void clearing_an_address_clears_nothing_else() {
        QFETCH(QString, what);
        tests::Workbench b;
        const DeviceId sw = b.add("access-switch-24", "sw");
        QVERIFY(b.take(edit::setAddress(b.network, sw, "1", "10.84.1.1/24", b.ids)));
        Interface held;
        b.network.all<Interface>().forEachIn(sw.value, [&](const Interface& i) { held = i; });
        if (what == "vrf")
            held.vrf = "red";
        else if (what == "parent")
            held.parent = {5};
        else if (what == "disabled")
            held.disabled = true;
        else if (what == "name")
            held.name = "eth1";
        else if (what == "mac")
            held.mac = "02:00:00:00:00:01";
        else if (what == "untagged")
            held.untagged = {6};
        else
            held.addresses.push_back("10.84.2.1/24");
        b.network.put(held);
        QVERIFY(b.take(edit::setAddress(b.network, sw, "1", "", b.ids)));
        const Interface* left = b.network.find<Interface>(held.key());
        QVERIFY(left);
        held.addresses.erase(held.addresses.begin());
        QVERIFY(*left == held);
    }

    void an_interface_that_only_an_address_made_goes_with_it() {
        tests::Workbench b;
        const DeviceId sw = b.add("access-switch-24", "sw");
        for (const char* port : {"1", ""}) {
            QVERIFY(b.take(edit::setAddress(b.network, sw, port, "10.84.1.1/24", b.ids)));
            QVERIFY(b.take(edit::setAddress(b.network, sw, port, "", b.ids)));
            QVERIFY(b.network.all<Interface>().empty());
        }
    }

    void a_copy_has_no_serial_number_address_or_label_of_its_original() {
        tests::Workbench b;
        const DeviceId sw = b.add("access-switch-24", "sw"), pc = b.add("workstation", "pc", {400, 0});
        const LinkId link = b.link({sw, {}}, {pc, {}});
        Device device = *b.network.device(sw);
        device.serial = "FQ-1";
        b.network.put(device);
        Cable cable = b.cableOf(link);
        cable.label = "FQ-0001";
        cable.measured = {{"loss", 0.3, 1, "dB"}};
        b.network.put(cable);
        QVERIFY(b.take(edit::setAddress(b.network, sw, {}, "10.84.1.1/24", b.ids)));
        QVERIFY(b.take(edit::setBends(b.network, b.sheet, link, {{200, 300}})));
        const auto act = edit::duplicateObjects(b.network, b.sheet, {refTo(sw), refTo(pc)}, {100, 50}, b.ids);
        QVERIFY(act);
        for (const ObjectRef copy : act->subjects) {
            QVERIFY(act->network.device({copy.id})->serial.empty());
            act->network.all<Interface>().forEachIn(copy.id,
                                                    [](const Interface& i) { QVERIFY(i.addresses.empty()); });
            act->network.forEachLinkOf({copy.id}, [&](const Link& pasted) {
                QVERIFY(act->network.cable(pasted.cable)->label.empty());
                QVERIFY(act->network.cable(pasted.cable)->measured.empty());
                QCOMPARE(act->network.position(b.sheet, pasted.id.value)->bends.front(), (Point{300, 350}));
            });
        }
    }

    void what_is_pasted_far_away_stays_together_on_the_sheet() {
        tests::Workbench b;
        const DeviceId one = b.add("workstation", "one", {0, 0}),
                       two = b.add("workstation", "two", {300, 40});
        const auto act = edit::duplicateObjects(b.network, b.sheet, {refTo(one), refTo(two)},
                                                {sheetLimit, -sheetLimit}, b.ids);
        QVERIFY(act);
        const Position& first = *act->network.position(b.sheet, act->subjects[0].id);
        const Position& second = *act->network.position(b.sheet, act->subjects[1].id);
        QVERIFY(isOnSheet(first.at) && isOnSheet(second.at));
        QCOMPARE(std::abs(second.at.x - first.at.x), 300);
        QCOMPARE(std::abs(second.at.y - first.at.y), 40);
    }

    void pasting_gives_new_ids_free_names_and_the_links_among_what_was_copied() {
        RandomEdits edits(9);
        Network network = edits.grown(150);
        const SheetId sheet = network.sheetsInOrder().front().id;
        edit::Refs all;
        network.all<Device>().forEach([&](const Device& d) { all.push_back(refTo(d.id)); });
        const auto act = edit::duplicateObjects(network, sheet, all, {10, 20}, edits.ids());
        QVERIFY(act);
        QCOMPARE(act->network.all<Device>().size(), 2 * network.all<Device>().size());
        QCOMPARE(act->network.all<Link>().size(), 2 * network.all<Link>().size());
        QVERIFY(act->network.indicesAreTrue());
        for (const ObjectRef ref : act->subjects)
            QVERIFY(!network.device({ref.id}));
        network.all<Link>().forEach([&](const Link& link) { QVERIFY(*act->network.link(link.id) == link); });
    }

    void refusals_leave_a_reason_and_a_remedy_data() {
        QTest::addColumn<int>("which");
        for (int i = 0; i < 8; ++i)
            QTest::addRow("%d", i) << i;
    }
    void refusals_leave_a_reason_and_a_remedy() {
        QFETCH(int, which);
        RandomEdits edits(10);
        const Network network = edits.grown(60);
        const SheetId sheet = network.sheetsInOrder().front().id;
        const DeviceId device = edits.someDevice(network);
        const auto& model = edits.catalogue().devices.front();
        const edit::ActResult acts[] = {
            edit::placeDevices(network, sheet, model, {{"  ", {0, 0}}}, {}, edits.ids()),
            edit::placeDevices(network, sheet, model, {{"x", {sheetLimit + 1, 0}}}, {}, edits.ids()),
            edit::rename(network, {refTo(device)}, {""}),
            edit::rename(network, {refTo(device)}, {"bad \xff"}),
            edit::moveObjects(network, sheet, {refTo(device)}, {3 * sheetLimit, 0}),
            edit::setAddress(network, device, {}, "10.84.1.300/24", edits.ids()),
            edit::setAddress(network, device, {}, "10.84.1.3/33", edits.ids()),
            edit::changePort(network, {device, "nonsense"}, "x", [](Port&) {}),
        };
        const auto& act = acts[which];
        QVERIFY(!act);
        QVERIFY(!act.refusal().what.empty());
        QVERIFY(!act.refusal().remedy.empty());
    }

    void addresses_are_told_from_other_texts() {
        for (const char* good : {"10.84.1.1", "10.84.1.1/24", "fd84:fe::1/64", "2001:db8::/32", "0.0.0.0/0"})
            QVERIFY(Address(good).valid());
        for (const char* bad :
             {"", "10.84.1", "10.84.1.1/", "10.84.1.1/33", "fd84::g", "::/129", "10.84.1.1/2x"})
            QVERIFY(!Address(bad).valid());
    }

    void names_by_fields_position_and_number() {
        IdSource ids(4);
        const Catalogue catalogue = exchange::builtInCatalogue();
        Network network = emptyNetwork("t", ids);
        const SheetId sheet = network.sheetsInOrder().front().id;
        Group floor;
        floor.id = ids.make<GroupId>();
        floor.name = "Quay level";
        floor.type = GroupKind::floor;
        network.put(floor);
        // Two rows of two, placed out of order; one phone among workstations.
        const std::tuple<const char*, const char*, Point> things[] = {{"workstation", "d", {400, 210}},
                                                                      {"workstation", "b", {400, 0}},
                                                                      {"phone", "c", {0, 200}},
                                                                      {"workstation", "a", {0, 8}}};
        std::vector<DeviceId> devices;
        for (const auto& [model, name, at] : things) {
            auto act =
                edit::placeDevices(network, sheet, *catalogue.device(model), {{name, at}}, floor.id, ids);
            network = act->network;
            devices.push_back({act->subjects.front().id});
        }
        const auto names = [&](const std::string& pattern, edit::NameOrder order) {
            QStringList out;
            const auto made = edit::newNames(network, sheet, devices, pattern, order);
            if (!made)
                return QStringList{QString::fromStdString(made.refusal().text())};
            for (const auto& name : *made)
                out << QString::fromStdString(name.before + ">" + name.after +
                                              (name.remark.empty() ? "" : "!"));
            return out;
        };
        QCOMPARE(names("till-{01..}", edit::NameOrder::selection),
                 (QStringList{"d>till-01", "b>till-02", "c>till-03", "a>till-04"}));
        QCOMPARE(names("till-{1..}", edit::NameOrder::rows),
                 (QStringList{"a>till-1", "b>till-2", "c>till-3", "d>till-4"}));
        QCOMPARE(names("till-{1..}", edit::NameOrder::columns),
                 (QStringList{"a>till-1", "c>till-2", "b>till-3", "d>till-4"}));
        QCOMPARE(names("{role}-{floor}-{n}", edit::NameOrder::rows),
                 (QStringList{"a>workstation-quay-level-1", "b>workstation-quay-level-2",
                              "c>phone-quay-level-1", "d>workstation-quay-level-3"}));
        devices.pop_back(); // "a" is not renamed now, and its name is taken
        QVERIFY(names("{rack}-{n}", edit::NameOrder::rows).front().contains("has no rack"));
        QVERIFY(names("{shelf}-{n}", edit::NameOrder::rows).front().contains("is not a field"));
        QVERIFY(names("{n", edit::NameOrder::rows).front().contains("not closed"));
        devices.resize(1);
        QCOMPARE(names("a", edit::NameOrder::rows), QStringList{"d>a!"});
    }

    void name_series() {
        QCOMPARE(namesOf(edit::seriesNames("till-{01..}", 3, {})),
                 (QStringList{"till-01", "till-02", "till-03"}));
        QCOMPARE(namesOf(edit::seriesNames("till-{01..05}", 2, {"till-01"})),
                 (QStringList{"till-02", "till-03"}));
        QCOMPARE(namesOf(edit::seriesNames("acc-{9..}-q", 2, {})), (QStringList{"acc-9-q", "acc-10-q"}));
        QCOMPARE(namesOf(edit::seriesNames("core", 1, {})), QStringList{"core"});
        QCOMPARE(namesOf(edit::seriesNames("core", 2, {})), (QStringList{"core-1", "core-2"}));
        for (const char* bad : {"a{", "a}", "{x..}", "{1..}{2..}", "a{}b", "{-1..}"})
            QVERIFY2(!edit::seriesNames(bad, 2, {}), bad);
        QVERIFY(!edit::seriesNames("a-{1..}", 0, {}));
    }

    void what_is_typed_to_add_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<int>("count"); // 0: refused
        QTest::addColumn<QString>("model");
        QTest::addColumn<QString>("pattern");
        QTest::newRow("whole") << "4 access switch 24 named acc-{1..}" << 4 << "access-switch-24"
                               << "acc-{1..}";
        QTest::newRow("no count") << "phone" << 1 << "phone"
                                  << "phone-{1..}";
        QTest::newRow("part") << "2 comp" << 2 << "compact-switch-8"
                              << "switch-{1..}";
        QTest::newRow("plural") << "3 printers" << 3 << "printer"
                                << "printer-{1..}";
        QTest::newRow("by ports") << "SFP28" << 1 << "distribution-switch-24"
                                  << "switch-{1..}";
        QTest::newRow("by role") << "wire" << 0 << ""
                                 << "";
        QTest::newRow("nothing") << "" << 0 << ""
                                 << "";
        QTest::newRow("too many") << "99999 phone" << 0 << ""
                                  << "";
        QTest::newRow("bad series") << "2 phone named a{" << 0 << ""
                                    << "";
    }
    void what_is_typed_to_add() {
        QFETCH(QString, typed);
        QFETCH(int, count);
        QFETCH(QString, model);
        QFETCH(QString, pattern);
        const Catalogue catalogue = exchange::builtInCatalogue();
        const auto addition = edit::parseAddition(typed.toStdString(), catalogue);
        QCOMPARE(static_cast<bool>(addition), count > 0);
        if (!addition)
            return;
        QCOMPARE(addition->count, count);
        QCOMPARE(QString::fromStdString(addition->model->id), model);
        QCOMPARE(QString::fromStdString(addition->pattern), pattern);
    }

    void what_is_copied_keeps_saying_what_it_is() {
        IdSource ids(9);
        Network network = emptyNetwork("t", ids);
        const Catalogue catalogue = exchange::builtInCatalogue();
        const SheetId sheet = network.sheetsInOrder().front().id;
        auto placed = edit::placeDevices(network, sheet, *catalogue.device("workstation"),
                                         {{"a", {0, 0}}, {"b", {300, 0}}}, {}, ids);
        network = placed->network;
        network = edit::addNote(network, sheet, {0, 200}, "note", ids)->network;
        edit::Refs all = placed->subjects;
        network.all<Note>().forEach([&](const Note& note) { all.push_back(refTo(note.id)); });
        const auto twice = edit::duplicateObjects(network, sheet, all, {40, 80}, ids);
        QVERIFY(twice);
        int devices = 0, notes = 0;
        twice->network.all<Position>().forEach([&](const Position& position) {
            QVERIFY(isThere(twice->network, position.drawn()));
            devices += position.of == Kind::device;
            notes += position.of == Kind::note;
        });
        QCOMPARE(devices, 4);
        QCOMPARE(notes, 2);
    }

    void removing_something_takes_its_positions_on_every_sheet() {
        IdSource ids(10);
        Network network = emptyNetwork("t", ids);
        const Catalogue catalogue = exchange::builtInCatalogue();
        const SheetId sheet = network.sheetsInOrder().front().id;
        auto placed =
            edit::placeDevices(network, sheet, *catalogue.device("workstation"), {{"a", {0, 0}}}, {}, ids);
        network = placed->network;
        const DeviceId device{placed->subjects.front().id};
        for (const char* name : {"Second", "Third"}) {
            network = edit::addSheet(network, name, ids)->network;
            network =
                edit::showOnSheet(network, network.sheetsInOrder().back().id, {{device, {8, 8}}})->network;
        }
        int drawn = 0;
        network.forEachPositionOf(device.value, [&](const Position&) { ++drawn; });
        QCOMPARE(drawn, 3);
        network = edit::removeObjects(network, {refTo(device)})->network;
        QVERIFY(network.all<Position>().empty());
    }
};

UNDERRIDGE_TEST(EditTest)
#include "edit_test.moc"
