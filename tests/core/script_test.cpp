// SPDX-License-Identifier: GPL-3.0-or-later
// Acts written as text.
#include "core/edit/script/line.h"
#include "core/edit/script/script.h"

#include "core/edit/shown_places.h"
#include "core/linking/within.h"
#include "core/model/group_tree.h"
#include "core/model/ports.h"
#include "core/scene/scene.h"
#include "tests/support/first_office.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <nlohmann/json.hpp>

using namespace underridge;
using namespace underridge::model;
using tests::text;
using tests::Workbench;

namespace {

/// JSON is written with single quotes here.
std::string q(std::string text) {
    std::replace(text.begin(), text.end(), '\'', '"');
    return text;
}

struct Scripted : Workbench {
    Result<edit::Script> run(const std::string& acts) {
        auto script = edit::applyActs(network, catalogue, acts, "some.acts", ids);
        if (script)
            network = script->network;
        return script;
    }
    /// Why it is refused; empty: it is not, and was done.
    QString why(const std::string& acts) {
        const auto script = run(acts);
        return script ? QString() : text(script.refusal().text());
    }
    const Device& device(const char* name) const {
        const Device* found = nullptr;
        network.all<Device>().forEach([&](const Device& each) {
            if (each.name == name)
                found = &each;
        });
        if (!found)
            qFatal("no device %s", name);
        return *found;
    }
    GroupId groupNamed(const char* name) const {
        GroupId found;
        network.all<Group>().forEach([&](const Group& each) {
            if (each.name == name)
                found = each.id;
        });
        return found;
    }
    Point corner(const char* name) const {
        return *edit::shownCorner(network, sheet, edit::foldingOf(network, sheet), refTo(device(name).id));
    }
};

const std::string twoSwitches = q("{'act':'add','model':'access-switch-24','count':2,'names':'acc-{1..}'}\n"
                                  "{'act':'add','model':'workstation','names':'desk-1'}\n"
                                  "");

} // namespace

class ScriptTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void devices_are_added_linked_and_renamed() {
        Scripted s;
        QCOMPARE(s.why(twoSwitches + q("{'act':'link','from':'acc-1','to':'acc-2'}\n"
                                       "\n"
                                       "{'act':'link','from':'acc-1:3','to':'desk-1:1','cable':'cat6a','"
                                       "lengthM':12.5,'label':'FQ-001'}\n"
                                       "{'act':'rename','member':'acc-1','name':'acc-q1'}")),
                 QString());
        QCOMPARE(s.network.all<Link>().size(), std::size_t{2});
        const Link* link = s.network.linkAt({s.device("acc-q1").id, "3"});
        QVERIFY(link);
        const Cable& cable = s.cableOf(link->id);
        QCOMPARE(text(cable.type), QStringLiteral("cat6a"));
        QCOMPARE(cable.lengthMm, std::int64_t{12'500});
        QCOMPARE(text(cable.label), QStringLiteral("FQ-001"));
    }
    void what_each_line_made_is_told() {
        Scripted s;
        const auto script = s.run("\n" + twoSwitches);
        QVERIFY(script);
        QCOMPARE(script->lines.size(), std::size_t{2});
        QCOMPARE(script->lines[0].line, 2);
        QCOMPARE(script->lines[0].objects.size(), std::size_t{2});
        QCOMPARE(script->lines[0].objects[0], refTo(s.device("acc-1").id));
        QCOMPARE(text(script->lines[1].act), QStringLiteral("add"));
    }
    void devices_are_added_where_there_is_room() {
        Scripted s;
        QCOMPARE(s.why(twoSwitches), QString());
        const auto scene = scene::Scene::build(s.network, s.sheet);
        scene.forEachPlate([&](const scene::Plate& a) {
            scene.forEachPlate(
                [&](const scene::Plate& b) { QVERIFY(a.id == b.id || !a.frame.intersects(b.frame)); });
        });
    }
    void groups_are_made_entered_into_folded_and_dissolved() {
        Scripted s;
        QCOMPARE(
            s.why(
                twoSwitches +
                q("{'act':'group','kind':'floor','name':'Concourse','level':1,'members':['acc-1','desk-1']}\n"
                  "{'act':'move-into','group':'Concourse','members':['acc-2']}\n"
                  "{'act':'fold','group':'Concourse','sheet':'Overview'}")),
            QString());
        const GroupId group = s.groupNamed("Concourse");
        QCOMPARE(devicesWithin(s.network, group).size(), std::size_t{3});
        QCOMPARE(s.network.group(group)->level, 1);
        QVERIFY(s.network.position(s.sheet, group.value)->folded);
        QCOMPARE(s.why(q("{'act':'unfold','group':['Concourse']}\n"
                         "{'act':'group','kind':'site','name':'Quay'}\n"
                         "{'act':'move-into','group':'Quay','members':['Concourse']}\n"
                         "{'act':'ungroup','group':'Concourse'}")),
                 QString());
        QCOMPARE(s.device("acc-1").group, s.groupNamed("Quay"));
        QCOMPARE(s.why(q("{'act':'move-into','group':null,'members':['acc-1']}")), QString());
        QVERIFY(!s.device("acc-1").group);
    }
    void what_is_moved_is_shown_there_whatever_is_folded() {
        Scripted s;
        QCOMPARE(s.why(twoSwitches + q("{'act':'group','name':'A','members':['acc-1','desk-1']}\n"
                                       "{'act':'fold','group':'A'}\n"
                                       "{'act':'move','members':['acc-2'],'to':{'x':400,'y':120}}")),
                 QString());
        QCOMPARE(s.corner("acc-2"), (Point{400, 120}));
        QCOMPARE(s.why(q("{'act':'unfold','group':'A'}\n"
                         "{'act':'move','members':['acc-1'],'to':{'x':-900,'y':300}}")),
                 QString());
        QCOMPARE(s.corner("acc-1"), (Point{-900, 300}));
        QCOMPARE(s.why(q("{'act':'move','members':['acc-2','acc-1'],'by':{'x':8,'y':-8}}")), QString());
        QCOMPARE(s.corner("acc-1"), (Point{-892, 292}));
        QVERIFY(s.why(q("{'act':'fold','group':'A'}\n"
                        "{'act':'move','members':['acc-1'],'to':{'x':0,'y':0}}"))
                    .contains("none of them is shown"));
    }
    void sheets_notes_and_zones_are_made() {
        Scripted s;
        QCOMPARE(s.why(twoSwitches +
                       q("{'act':'sheet','name':'Copy','from':'Overview','groups':false}\n"
                         "{'act':'take-off','members':['desk-1'],'sheet':'Copy'}\n"
                         "{'act':'note','text':'Before the move','at':{'x':0,'y':300},'sheet':'Copy'}\n"
                         "{'act':'zone','text':'Quay','at':{'x':-50,'y':-50},'width':700,'height':300,'sheet'"
                         ":'Copy'}\n"
                         "{'act':'sheet','name':'Empty'}\n"
                         "{'act':'show','members':['desk-1'],'at':{'x':40,'y':40},'sheet':'Empty'}")),
                 QString());
        const auto sheets = s.network.sheetsInOrder();
        QCOMPARE(sheets.size(), std::size_t{3});
        const Device& desk = s.device("desk-1");
        QVERIFY(!s.network.position(sheets[1].id, desk.id.value));
        QVERIFY(s.network.position(sheets[0].id, desk.id.value));
        QCOMPARE(s.network.position(sheets[2].id, desk.id.value)->at, (Point{40, 40}));
        QCOMPARE(s.network.all<Note>().size(), std::size_t{2});
        QVERIFY(!sheets[1].groups && sheets[2].groups);
    }
    void endpoints_are_tucked_in_and_brought_out() {
        Scripted s;
        QCOMPARE(s.why(twoSwitches + q("{'act':'link','from':'acc-1','to':'desk-1'}\n"
                                       "{'act':'group','kind':'room','name':'Shop','members':['acc-1']}\n"
                                       "{'act':'group','kind':'room','name':'Empty','at':{'x':0,'y':900}}\n"
                                       "{'act':'tuck-in','members':['Shop']}")),
                 QString());
        QVERIFY(s.network.position(s.sheet, s.device("acc-1").id.value)->tucks);
        QCOMPARE(s.why(q("{'act':'bring-out'}")), QString());
        QVERIFY(!s.network.position(s.sheet, s.device("acc-1").id.value)->tucks);
        QVERIFY(s.why(q("{'act':'tuck-in','members':['acc-2']}")).contains("endpoints"));
        QVERIFY(s.why(q("{'act':'tuck-in','members':['Empty']}")).contains("no device"));
    }
    void a_sheet_of_racks_has_what_is_mounted_and_notes_look_as_asked() {
        Scripted s;
        QVERIFY(s.why(q("{'act':'sheet','name':'Racks','racks':[]}")).contains("units"));
        QCOMPARE(
            s.why(twoSwitches + q("{'act':'group','kind':'rack','name':'R1','units':20}\n"
                                  "{'act':'note','text':'# Low','at':{'x':0,'y':0},'behind':true}\n"
                                  "{'act':'zone','text':'Wet','at':{'x':0,'y':0},'width':200,'height':100"
                                  ",'outline':true}")),
            QString());
        int behind = 0, outline = 0;
        s.network.all<Note>().forEach([&](const Note& note) {
            behind += note.behind;
            outline += note.outline;
        });
        QCOMPARE(behind, 1);
        QCOMPARE(outline, 1);
        QCOMPARE(s.why(q("{'act':'place','members':['acc-1'],'in':'R1','unit':12}\n"
                         "{'act':'sheet','name':'Racks','racks':'R1'}")),
                 QString());
        const Sheet sheet = s.network.sheetsInOrder().back();
        QVERIFY(sheet.racks && s.network.position(sheet.id, s.device("acc-1").id.value));
        QVERIFY(!s.network.position(sheet.id, s.device("acc-2").id.value));
        const Point before = s.network.position(sheet.id, s.device("acc-1").id.value)->at;
        QCOMPARE(s.why(q("{'act':'place','members':['acc-1'],'in':'R1','unit':1}")), QString());
        QVERIFY(s.network.position(sheet.id, s.device("acc-1").id.value)->at.y > before.y);
    }
    void cables_lags_vlans_places_and_modules_are_set() {
        Scripted s;
        QCOMPARE(s.why(twoSwitches + q("{'act':'link','from':'acc-1','to':'acc-2'}\n"
                                       "{'act':'link','from':'acc-1','to':'acc-2'}\n"
                                       "{'act':'lag','from':'acc-1','to':'acc-2','name':'lag7'}\n"
                                       "{'act':'cable','from':'acc-1','to':'acc-2','status':'planned'}\n"
                                       "{'act':'group','kind':'rack','name':'R1'}\n"
                                       "{'act':'place','members':['acc-1'],'in':'R1','unit':12}\n"
                                       "{'act':'vlan','number':20,'name':'video'}\n"
                                       "{'act':'vlan','number':30}\n"
                                       "{'act':'vlan','port':'acc-1:5','untagged':20,'tagged':'30,100-110'}\n"
                                       "{'act':'address','at':'acc-1','address':'10.84.99.11/24'}")),
                 QString());
        const DeviceId acc = s.device("acc-1").id;
        int planned = 0, lag = 0;
        s.network.all<Link>().forEach([&](const Link& link) {
            planned += s.cableOf(link.id).status == CableStatus::planned;
            lag += isInLag(s.network, link);
        });
        QCOMPARE(planned, 2);
        QCOMPARE(lag, 2);
        QCOMPARE(s.device("acc-1").place.unit, 12);
        bool carries = false;
        s.network.all<Interface>().forEachIn(acc.value, [&](const Interface& each) {
            if (each.port == "5")
                carries = s.network.vlan(each.untagged)->number == 20 && each.tagged.size() == 1 &&
                          each.taggedRanges == std::vector<VlanRange>{{100, 110}};
        });
        QVERIFY(carries);
        QVERIFY(s.why(q("{'act':'vlan','port':'acc-1:5','untagged':77}")).contains("there is no VLAN 77"));
    }
    void a_refusal_names_line_and_column_and_does_nothing() {
        const std::pair<std::string, const char*> wrong[] = {
            {q("{'act':'ad','model':'till'}"), "there is no act ad; write one of: add, rename"},
            {q("{'act':'add','modell':'till'}"), "add knows no \"modell\""},
            {q("{'act':'add'}"), "\"model\" is missing"},
            {q("{'act':'add','model':'none'}"), "there is no model none"},
            {q("{'act':'add','model':'till','count':0}"), "\"count\" is not a whole number from 1"},
            {q("{'act':'add','model':'till','at':{'x':1e400,'y':0}}"), "\"at\" is not a place"},
            {q("{'act':'link','from':'acc-1','to':'nobody'}"), "there is no nobody"},
            {q("{'act':'link','from':'acc-1:99','to':'acc-2'}"), "there is no port acc-1:99"},
            {q("{'act':'link','from':'acc-1','to':'desk-1','cable':'os2-lc'}"), "does not fit these ports"},
            {q("{'act':'group','kind':'tower','name':'x'}"), "tower is not known here"},
            {q("{'act':'fold','group':'acc-1'}"), "that is not a group"},
            {q("{'act':'fold','group':'x','sheet':'none'}"), "there is no x"},
            {q("['act']"), "the line is not a JSON object"},
            {q("{'act':'add"), "some.acts:5"},
            {q("{'act':'rename','member':'acc-1','name':'\xff'}"), "is not JSON from here on"}};
        for (const auto& [line, words] : wrong) {
            Scripted s;
            const Network before = s.network;
            const QString why = s.why(twoSwitches + "\n\n" + line);
            QVERIFY2(why.contains(QString::fromUtf8(words)), qPrintable(why + QString::fromStdString(line)));
            QVERIFY2(why.startsWith("some.acts:5"), qPrintable(why));
            QVERIFY(s.network == before);
        }
    }
    void a_name_that_several_have_asks_for_an_id() {
        Scripted s;
        QCOMPARE(s.why(twoSwitches + q("{'act':'rename','member':'acc-2','name':'acc-1'}")), QString());
        QVERIFY(s.why(q("{'act':'delete','members':['acc-1']}")).contains("2 objects are called acc-1"));
        const std::string id = idText(s.device("acc-1").id.value);
        QCOMPARE(s.why(q("{'act':'delete','members':['") + id + q("']}")), QString());
        QCOMPARE(s.network.all<Device>().size(), std::size_t{2});
    }
    void the_schema_knows_every_act_and_member() {
        QFile file(QStringLiteral(UNDERRIDGE_ROOT "/docs/acts.schema.json"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const auto schema = nlohmann::json::parse(file.readAll().toStdString());
        std::vector<std::string> described;
        for (const auto& each : schema.at("oneOf"))
            described.push_back(each.at("properties").at("act").at("const"));
        QCOMPARE(described, edit::actNames());
        std::size_t at = 0;
        for (const auto acts : {edit::deviceActs(), edit::linkActs(), edit::groupActs(), edit::routeActs(),
                                edit::powerActs(), edit::forwardingActs(), edit::declaredActs(),
                                edit::findingActs(), edit::sheetActs(), edit::patternActs()})
            for (const edit::ActWord& act : acts) {
                const auto& properties = schema.at("oneOf").at(at++).at("properties");
                QVERIFY2(properties.size() == act.members.size() + 1, std::string(act.name).c_str());
                for (const std::string_view member : act.members)
                    QVERIFY2(properties.contains(member), std::string(member).c_str());
            }
        QFile told(QStringLiteral(UNDERRIDGE_ROOT "/docs/acts.md"));
        QVERIFY(told.open(QIODevice::ReadOnly));
        const QByteArray words = told.readAll();
        for (const std::string& name : edit::actNames())
            QVERIFY2(words.contains(QByteArray("`") + name.c_str() + "`"), name.c_str());
    }
    void the_example_builds_the_first_office() {
        QFile file(QStringLiteral(UNDERRIDGE_ROOT "/demo/first-office.acts"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        Scripted s;
        QCOMPARE(s.why(file.readAll().toStdString()), QString());
        const Network office = tests::firstOffice();
        QCOMPARE(s.network.all<Device>().size(), office.all<Device>().size());
        QCOMPARE(s.network.all<Link>().size(), office.all<Link>().size());
        office.all<Device>().forEach([&](const Device& each) {
            const Device& made = s.device(each.name.c_str());
            QCOMPARE(text(made.model), text(each.model));
            QCOMPARE(s.corner(each.name.c_str()),
                     office.position(office.sheetsInOrder().front().id, each.id.value)->at);
            QCOMPARE(text(firstAddress(s.network, made.id).text()),
                     text(firstAddress(office, each.id).text()));
        });
        office.all<Link>().forEach([&](const Link& each) {
            const PortRef a{s.device(office.device(each.a.device)->name.c_str()).id, each.a.port};
            const Link* made = s.network.linkAt(a);
            QVERIFY(made);
            QCOMPARE(text(s.cableOf(made->id).label), text(office.cable(each.cable)->label));
            QCOMPARE(text(s.cableOf(made->id).type), text(office.cable(each.cable)->type));
        });
    }
    void the_best_device_of_a_group_is_the_nearest_tier_up() {
        Scripted s;
        QCOMPARE(s.why(q("{'act':'add','model':'phone','count':3,'names':'phone-{1..}'}\n"
                         "{'act':'add','model':'access-switch-24','count':2,'names':'acc-{1..}'}\n"
                         "{'act':'add','model':'border-router','names':'edge-1'}\n"
                         "{'act':'add','model':'workstation','names':'desk-1'}\n"
                         "{'act':'link','from':'acc-1','to':'phone-1'}")),
                 QString());
        std::vector<DeviceId> inside;
        for (const char* name : {"phone-2", "acc-1", "acc-2", "edge-1"})
            inside.push_back(s.device(name).id);
        const auto from = [&](const char* name) {
            return linking::candidatesIn(s.network, s.catalogue, {s.device(name).id, {}}, inside);
        };
        // Of two alike the one with more ports free; the router is a tier further.
        QCOMPARE(from("phone-3").front().device, s.device("acc-2").id);
        QVERIFY2(from("phone-3").front().proposal.reason.find("of 4 devices acc-2 is the nearest switch") ==
                     0,
                 from("phone-3").front().proposal.reason.c_str());
        QVERIFY(linking::candidatesIn(s.network, s.catalogue, {s.device("desk-1").id, {}}, {}).empty());
    }

    void notes_and_zones_come_where_they_are_to_be_shown() {
        Scripted bench;
        QVERIFY(bench
                    .why(q("{'act':'add','model':'access-switch-24','count':6,'names':'a-{1..}'}\n"
                           "{'act':'add','model':'server','names':'b-{1..}','count':2}\n"
                           "{'act':'group','kind':'room','name':'Room','members':['a-1','a-2','a-3','a-4','a-"
                           "5','a-6']}\n"
                           "{'act':'fold','group':'Room'}\n"
                           "{'act':'note','text':'here','at':{'x':900,'y':700}}\n"
                           "{'act':'zone','text':'there','at':{'x':900,'y':900},'width':200,'height':100}"))
                    .isEmpty());
        const auto scene = scene::Scene::build(bench.network, bench.sheet);
        QVERIFY(scene.folding());
        int seen = 0;
        scene.forEach<scene::NoteCard>([&](const scene::NoteCard& card) {
            QCOMPARE(card.frame.x, 900.0);
            QCOMPARE(card.frame.y, card.zone ? 900.0 : 700.0);
            ++seen;
        });
        QCOMPARE(seen, 2);
    }
};

UNDERRIDGE_TEST(ScriptTest)
#include "script_test.moc"
