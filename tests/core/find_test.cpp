// SPDX-License-Identifier: GPL-3.0-or-later
// The language of filters, what they find, and looking for words.
#include "core/exchange/own_format.h"
#include "core/find/matching.h"
#include "core/find/search.h"
#include "tests/support/first_office.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <QFile>

using namespace underridge;
using namespace underridge::model;
using find::Filter;
using find::Section;
using tests::text;
using tests::Workbench;

namespace {

/// A small house: two switches on two floors, a camera and a till behind an outlet.
struct House : Workbench {
    DeviceId up, down, camera, till;
    GroupId house, ground, first;

    House() {
        house = group("House", GroupKind::building);
        ground = group("Ground floor", GroupKind::floor, house);
        first = group("First floor", GroupKind::floor, house);
        up = named("acc-up", "access-switch-24", first);
        down = named("acc-down", "access-switch-24", ground);
        camera = named("cam-door", "camera", ground);
        till = named("till-1", "till", first);
        link({up, {}}, {down, {}});
        link({camera, {}}, {down, {}});
        link({till, {}}, {up, {}});
        shape(first, [](Group& group) { group.level = 1; });
    }

    DeviceId named(const char* name, const char* model, GroupId in) {
        const DeviceId id = add(model, name);
        Device device = *network.device(id);
        device.group = in;
        network.put(device);
        return id;
    }
    void address(DeviceId device, const char* address, const char* mac = "") {
        Interface interface;
        interface.id = ids.make<InterfaceId>();
        interface.device = device;
        interface.addresses = {Address(address)};
        interface.mac = mac;
        network.put(interface);
    }
    VlanId vlan(int number, const char* name) {
        Vlan vlan;
        vlan.id = ids.make<VlanId>();
        vlan.number = number;
        vlan.name = name;
        network.put(vlan);
        return vlan.id;
    }

    /// Names of the devices a filter finds, in order; a refusal's text where it is none.
    QString devices(const char* filter) const {
        const auto read = Filter::parse(filter);
        if (!read)
            return text(read.refusal().text());
        QStringList names;
        for (const DeviceId id : find::Matcher(network, *read).devices())
            names << text(network.device(id)->name);
        names.sort();
        return names.join(' ');
    }
    template <class Record>
    int count(const char* filter) const {
        const auto read = Filter::parse(filter);
        if (!read)
            return -1;
        const find::Matcher matcher(network, *read);
        int found = 0;
        network.all<Record>().forEach([&](const Record& record) { found += matcher.matches(record); });
        return found;
    }
    std::vector<find::FoundIn> search(const char* words) const {
        return find::TextIndex(network).search(words);
    }
    /// What a section holds, in order.
    QString found(const char* words, Section section) const {
        QStringList texts;
        const auto all = search(words);
        for (const find::Found& each : all[static_cast<std::size_t>(section)].best)
            texts << text(each.text);
        return texts.join(", ");
    }
};

const QString nothing = "", all = "acc-down acc-up cam-door till-1";

} // namespace

class FindTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    // ---- the language ----

    void an_empty_filter_finds_everything() {
        const House house;
        QCOMPARE(house.devices(""), all);
        QCOMPARE(house.devices("   "), all);
        QCOMPARE(house.devices("()"), all);
        QVERIFY(Filter::parse("")->empty());
        QVERIFY(!Filter::parse("a")->empty());
    }
    void conditions_side_by_side_must_all_hold() {
        const House house;
        QCOMPARE(house.devices("role:switch in:ground"), "acc-down");
        QCOMPARE(house.devices("acc up"), "acc-up");
        QCOMPARE(house.devices("acc role:camera"), nothing);
    }
    void alternatives_and_what_must_not_hold() {
        const House house;
        QCOMPARE(house.devices("role:camera or role:terminal"), "cam-door till-1");
        QCOMPARE(house.devices("role:camera,terminal"), "cam-door till-1");
        QCOMPARE(house.devices("-role:switch"), "cam-door till-1");
        QCOMPARE(house.devices("not role:switch"), "cam-door till-1");
        QCOMPARE(house.devices("role!=switch"), "cam-door till-1");
        QCOMPARE(house.devices("in:ground (role:switch or role:camera)"), "acc-down cam-door");
        QCOMPARE(house.devices("in:ground role:switch or role:terminal"), "acc-down till-1");
        QCOMPARE(house.devices("-(role:switch or in:ground)"), "till-1");
        QCOMPARE(house.devices("not not role:camera"), "cam-door");
    }
    void text_is_held_equal_or_shaped_not_regarding_case() {
        const House house;
        QCOMPARE(house.devices("name:ACC"), "acc-down acc-up");
        QCOMPARE(house.devices("name=acc"), nothing);
        QCOMPARE(house.devices("name=Acc-Up"), "acc-up");
        QCOMPARE(house.devices("name:*-up"), "acc-up");
        QCOMPARE(house.devices("name:a*d*"), "acc-down");
        QCOMPARE(house.devices("name:acc*x"), nothing);
        QCOMPARE(house.devices("in:\"First floor\""), "acc-up till-1");
        QCOMPARE(house.devices("in:house"), all);
    }
    void roles_go_by_their_words_and_by_what_they_do() {
        const House house;
        QCOMPARE(house.devices("role:cameras"), "cam-door");
        QCOMPARE(house.devices("role:endpoint"), "cam-door till-1");
        QCOMPARE(house.devices("role:infrastructure"), "acc-down acc-up");
        QCOMPARE(house.devices("role:cam"), nothing);
        QCOMPARE(house.devices("is:endpoint"), "cam-door till-1");
    }
    void numbers_are_compared() {
        const House house;
        QCOMPARE(house.devices("free-ports>1"), "acc-down acc-up");
        QCOMPARE(house.devices("used-ports=2"), "acc-down acc-up");
        QCOMPARE(house.devices("links>=2"), "acc-down acc-up");
        QCOMPARE(house.devices("links<2"), "cam-door till-1");
        QCOMPARE(house.devices("links:1-2"), all);
        QCOMPARE(house.devices("links<=0"), nothing);
        QCOMPARE(house.devices("level:1"), "acc-up till-1");
        QCOMPARE(house.devices("kind:building"), all);
        QCOMPARE(house.devices("kind:rack"), nothing);
    }
    void speeds_and_lengths_have_units() {
        House house;
        house.network.all<Cable>().forEach([&, first = true](const Cable& each) mutable {
            Cable cable = each;
            cable.lengthMm = first ? 95'000 : 3'000;
            first = false;
            house.network.put(cable);
        });
        QCOMPARE(house.count<Link>("length>90m"), 1);
        QCOMPARE(house.count<Link>("length>100ft"), 1);
        QCOMPARE(house.count<Cable>("length:1-5"), 2);
        QCOMPARE(house.count<Link>("speed=100M") + house.count<Link>("speed=1G") +
                     house.count<Link>("speed>=2.5G"),
                 3);
        QCOMPARE(house.count<Link>("medium:copper"), house.count<Link>("medium:twisted-pair"));
        QCOMPARE(house.count<Link>("medium:fibre,copper,direct-attach"), 3);
        QVERIFY(house.count<Link>("medium:copper") > 0);
    }
    void addresses_prefixes_and_macs() {
        House house;
        house.address(house.camera, "10.84.20.7/24", "00:1b:2c:3d:4e:5f");
        house.address(house.till, "fd84:20::7/64");
        QCOMPARE(house.devices("address:10.84.20.7"), "cam-door");
        QCOMPARE(house.devices("address:10.84.20.0/24"), "cam-door");
        QCOMPARE(house.devices("address:10.84.0.0/16"), "cam-door");
        QCOMPARE(house.devices("address:10.84.21.0/24"), nothing);
        QCOMPARE(house.devices("address:10.84.2"), "cam-door"); // as far as it is typed
        QCOMPARE(house.devices("address:fd84:20::/64"), "till-1");
        QCOMPARE(house.devices("mac:001b.2c3d.4e5f"), "cam-door");
        QCOMPARE(house.devices("mac:1B-2C"), "cam-door");
        QCOMPARE(house.devices("mac:ffff"), nothing);
        // Colons in an address are no signs of a field.
        QCOMPARE(house.devices("fd84:20::7"), "till-1");
        QCOMPARE(house.devices("ab:cd:ef:00:01:02"), nothing);
    }
    void an_endpoint_is_in_the_vlan_of_its_port_and_of_its_subnet() {
        House house;
        const VlanId video = house.vlan(20, "Video"), tills = house.vlan(30, "Tills");
        Subnet subnet;
        subnet.id = house.ids.make<SubnetId>();
        subnet.prefix = Address("10.84.30.0/24");
        subnet.name = "Till lane";
        subnet.vlan = tills;
        house.network.put(subnet);
        house.address(house.till, "10.84.30.4/24");
        house.network.forEachLinkOf(house.camera, [&](const Link& link) {
            Interface interface;
            interface.id = house.ids.make<InterfaceId>();
            interface.device = house.down;
            interface.port = link.a.device == house.down ? link.a.port : link.b.port;
            interface.untagged = video;
            interface.taggedRanges = {{100, 110}};
            house.network.put(interface);
        });
        QCOMPARE(house.devices("vlan:20"), "acc-down cam-door");
        QCOMPARE(house.devices("vlan:video role:camera"), "cam-door");
        QCOMPARE(house.devices("vlan:30"), "till-1");
        QCOMPARE(house.devices("vlan:105"), "acc-down");
        QCOMPARE(house.devices("vlan>100"), "acc-down");
        QCOMPARE(house.devices("vlan>110"), nothing);
        QCOMPARE(house.devices("vlan<25"), "acc-down cam-door");
        QCOMPARE(house.devices("subnet:lane"), "till-1");
        QCOMPARE(house.devices("subnet:10.84.30.0/24"), "till-1");
        QCOMPARE(house.count<Vlan>("vlan:20,30"), 2);
        QCOMPARE(house.count<Subnet>("lane"), 1);
    }
    void findings_by_severity_and_rule() {
        const House house;
        const auto read = Filter::parse("finding:error");
        std::vector<linking::Finding> findings(1);
        findings[0].rule = linking::ruleOf(linking::rules().front().code);
        findings[0].subjects = {refTo(house.camera)};
        const find::Findings known(findings);
        const auto names = [&](const std::string& filter) {
            const auto parsed = Filter::parse(filter);
            QStringList out;
            for (const DeviceId id : find::Matcher(house.network, *parsed, &known).devices())
                out << text(house.network.device(id)->name);
            out.sort();
            return out.join(' ');
        };
        QCOMPARE(names("finding:any"), "cam-door");
        QCOMPARE(names("finding:" + std::string(linking::rules().front().code)), "cam-door");
        QCOMPARE(names("finding:none"), "acc-down acc-up till-1");
        QCOMPARE(names("finding:never"), nothing);
        QVERIFY(read->asks(find::Field::finding));
        QVERIFY(!Filter::parse("role:camera")->asks(find::Field::finding));
    }
    void what_belongs_to_devices_answers_by_them() {
        const House house;
        QCOMPARE(house.count<Link>("role:camera"), 1);
        QCOMPARE(house.count<Link>("name:acc-up"), 2);
        QCOMPARE(house.count<Group>("role:camera"), 2); // the ground floor and the house
        QCOMPARE(house.count<Group>("kind:floor role:camera"), 1);
        QCOMPARE(house.count<Group>("devices>2"), 1);
        QCOMPARE(house.count<Group>("in:house"), 2);
        const auto free = Filter::parse("is:free name:acc-up");
        const find::Matcher matcher(house.network, *free);
        int ports = 0;
        for (const PortView& port : portsOf(house.network, *house.network.device(house.up)))
            ports += matcher.matches(PortRef{house.up, port.key});
        QVERIFY(ports > 10);
        QVERIFY(!matcher.matches(PortRef{house.down, "1"}));
    }
    void every_field_and_state_can_be_asked_of_everything() {
        const House house;
        for (const find::FieldWord& field : find::fields()) {
            std::string value = field.takes == find::Takes::number ? "1" : "a";
            if (field.field == find::Field::is)
                value = "linked";
            const std::string filter = std::string(field.text) + ":" + value;
            const auto read = Filter::parse(filter);
            QVERIFY2(read, filter.c_str());
            QCOMPARE(house.count<Device>((filter + " -" + filter).c_str()), 0);
            QCOMPARE(house.count<Link>((filter + " -" + filter).c_str()), 0);
            QCOMPARE(house.count<Group>((filter + " or -" + filter).c_str()), 3);
            QCOMPARE(house.count<Cable>((filter + " or -" + filter).c_str()),
                     static_cast<int>(house.network.all<Cable>().size()));
        }
        for (const find::StateWord& state : find::states())
            QVERIFY2(Filter::parse("is:" + std::string(state.text)), state.text.data());
    }
    void errors_name_the_column_and_what_to_do_data() {
        QTest::addColumn<QString>("filter");
        QTest::addColumn<int>("column");
        QTest::addColumn<QString>("says");
        QTest::newRow("field") << "role:camera colour:red" << 13 << "no field colour";
        QTest::newRow("near a field") << "rol:camera" << 1 << "perhaps role";
        QTest::newRow("no value") << "role:camera vlan:" << 18 << "vlan: has no value";
        QTest::newRow("number") << "free-ports>many" << 12 << "no number for free-ports";
        QTest::newRow("order") << "name>a" << 6 << "name has no order";
        QTest::newRow("length") << "length>9lights" << 8 << "write 90m or 300ft";
        QTest::newRow("state") << "is:happy" << 4 << "the states are endpoint";
        QTest::newRow("open quotes") << "in:\"Quay" << 4 << "quotes are not closed";
        QTest::newRow("open") << "a (b" << 3 << "parenthesis is not closed";
        QTest::newRow("closed") << "a) b" << 2 << "nothing is open";
        QTest::newRow("or first") << "or a" << 1 << "before or";
        QTest::newRow("or last") << "a or" << 5 << "after or";
        QTest::newRow("not last") << "a not" << 3 << "nothing follows";
        QTest::newRow("beyond ASCII") << QString::fromUtf8("name:Kühlhaus rôle:x") << 15 << "no field";
    }
    void errors_name_the_column_and_what_to_do() {
        QFETCH(QString, filter);
        QFETCH(int, column);
        QFETCH(QString, says);
        const auto read = Filter::parse(filter.toStdString());
        if (filter.contains(QString::fromUtf8("rôle"))) { // letters of a field are ASCII: a word
            QVERIFY(read);
            return;
        }
        QVERIFY(!read);
        QCOMPARE(read.refusal().where.column, column);
        QVERIFY2(text(read.refusal().text()).contains(says), read.refusal().text().c_str());
        QVERIFY(!read.refusal().remedy.empty());
    }
    void depth_and_size_have_bounds() {
        QVERIFY(!Filter::parse(std::string(60, '(') + "a" + std::string(60, ')')));
        QVERIFY(Filter::parse(std::string(40, '(') + "a" + std::string(40, ')')));
        QVERIFY(!Filter::parse(std::string(10'001, 'a')));
        std::string nots;
        for (int i = 0; i < 2'000; ++i)
            nots += "not ";
        QVERIFY(!Filter::parse(nots + "a"));
        QVERIFY(!Filter::parse("links>99999999999999999999"));
        QVERIFY(!Filter::parse("speed:99999999999G"));
        QVERIFY(!Filter::parse(std::string(3'000, '-') + "a"));
    }
    void words_are_told_from_filters() {
        QVERIFY(find::looksLikeFilter("role:camera"));
        QVERIFY(find::looksLikeFilter("cam (vlan:20"));
        QVERIFY(find::looksLikeFilter("-free-ports>4"));
        QVERIFY(!find::looksLikeFilter("acc-1"));
        QVERIFY(!find::looksLikeFilter("fd84:20::7"));
        QVERIFY(!find::looksLikeFilter("00:1b:2c:3d:4e:5f"));
        QVERIFY(!find::looksLikeFilter("Control floor: second shelf"));
    }

    void every_field_and_state_is_documented() {
        QFile file(QStringLiteral(UNDERRIDGE_ROOT "/docs/finding.md"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QString page = QString::fromUtf8(file.readAll());
        for (const find::FieldWord& field : find::fields())
            QVERIFY2(page.contains("`" + text(std::string(field.text)) + "`"), field.text.data());
        for (const find::StateWord& state : find::states())
            QVERIFY2(page.contains("`" + text(std::string(state.text)) + "`"), state.text.data());
    }

    // ---- completion ----

    void fields_and_then_values_are_offered() {
        House house;
        house.vlan(20, "Video");
        const auto offered = [&](const std::string& typed) {
            QStringList out;
            for (const auto& each : find::completions(house.network, typed, typed.size()))
                out << text(typed.substr(0, each.from) + each.text);
            return out;
        };
        QVERIFY(offered("rol").contains("role:"));
        QVERIFY(offered("in:House fr").contains("in:House free-ports>"));
        QCOMPARE(offered("role:cam"), QStringList{"role:camera"});
        QCOMPARE(offered("role:camera,ter").front(), "role:camera,terminal");
        QCOMPARE(offered("in:gr"), QStringList{"in:\"Ground floor\""});
        QCOMPARE(offered("in:\"Fir"), QStringList{"in:\"First floor\""});
        QCOMPARE(offered("-(vlan:2"), QStringList{"-(vlan:20"});
        QVERIFY(offered("is:").size() > 5);
        QCOMPARE(offered("qqq"), QStringList());
        // What is offered can be read.
        for (const QString& each : offered("in:House is:"))
            QVERIFY2(Filter::parse(each.toStdString()), qPrintable(each));
    }

    // ---- words ----

    void of_more_than_can_be_shown_all_are_counted_and_the_best_are_first() {
        Workbench bench;
        for (int i = 1; i <= 700; ++i) {
            const std::string name = (i % 7 == 0 ? "south-acc-" : "acc-") + std::to_string(i);
            Device device = *bench.network.device(bench.add("camera", name.c_str()));
            device.serial = "SN" + std::to_string(100'000 + 31 * i);
            bench.network.put(device);
        }
        const find::TextIndex index(bench.network);
        const auto devicesOf = [&](const char* words) {
            return index.search(words)[static_cast<std::size_t>(Section::devices)];
        };
        const auto some = devicesOf("acc");
        QCOMPARE(some.all, std::size_t{700});
        QCOMPARE(some.best.size(), find::mostFound);
        for (std::size_t i = 0; i < some.best.size(); ++i)
            QCOMPARE(some.best[i].rank, 1); // 600 begin with it
        for (std::size_t i = 1; i < some.best.size(); ++i)
            QVERIFY(naturalLess(some.best[i - 1].text, some.best[i].text));
        QCOMPARE(devicesOf("south").all, std::size_t{100});
        QCOMPARE(devicesOf("acc south-acc").all, std::size_t{100});
        const auto one = devicesOf("acc-70");
        QCOMPARE(one.all, std::size_t{2}); // south-acc-70 and south-acc-700
        QCOMPARE(devicesOf("sn100031").best.size(), std::size_t{1});
        QCOMPARE(devicesOf("nowhere").all, std::size_t{0});
        // The same counts as by looking at each.
        for (const char* word : {"1", "cc-3", "7", "n1", "acc-6", "-4"}) {
            std::size_t count = 0;
            bench.network.all<Device>().forEach([&](const Device& device) {
                for (const std::string& each : {device.name, lowered(device.serial)})
                    count += each.find(word) != std::string::npos;
            });
            QCOMPARE(devicesOf(word).all, count);
        }
    }

    void words_find_each_kind_the_best_first() {
        House house;
        house.address(house.camera, "10.84.20.7/24", "00:1b:2c:3d:4e:5f");
        QCOMPARE(house.found("acc", Section::devices), "acc-down, acc-up");
        QCOMPARE(house.found("up", Section::devices), "acc-up");
        QCOMPARE(house.found("floor", Section::groups), "First floor, Ground floor");
        QCOMPARE(house.found("floor first", Section::groups), "First floor");
        QCOMPARE(house.found("10.84.20", Section::addresses), "10.84.20.7/24");
        QCOMPARE(house.found("10.84.0.0/16", Section::addresses), "10.84.20.7/24");
        QCOMPARE(house.found("001b.2c3d", Section::addresses), "00:1b:2c:3d:4e:5f");
        QCOMPARE(house.found("nowhere", Section::devices), nothing);
        QCOMPARE(house.found("", Section::devices), nothing);
        const auto devices = house.search("acc-up")[static_cast<std::size_t>(Section::devices)];
        QCOMPARE(devices.best.front().rank, 0);
        QCOMPARE(devices.best.front().object, refTo(house.up));
    }
    void serials_notes_and_labels_are_found() {
        House house;
        Device device = *house.network.device(house.camera);
        device.serial = "SN-4711";
        device.note = SharedText("faces the barrier");
        device.attributes["owner"] = "harbour office";
        house.network.put(device);
        Port port;
        port.device = house.down;
        port.port = "7";
        port.label = "Q.014";
        port.note = "barrier till";
        house.network.put(port);
        QCOMPARE(house.found("4711", Section::devices), "SN-4711");
        QCOMPARE(house.found("barrier", Section::devices), "faces the barrier");
        QCOMPARE(house.found("harbour", Section::devices), "owner: harbour office");
        QCOMPARE(house.found("q.014", Section::ports), "Q.014");
        const auto ports = house.search("barrier till")[static_cast<std::size_t>(Section::ports)];
        QCOMPARE(ports.best.front().port, (PortRef{house.down, "7"}));
    }
    void the_index_knows_when_it_is_old() {
        House house;
        const find::TextIndex index(house.network);
        QVERIFY(index.isOf(house.network));
        Position position = *house.network.position(house.sheet, house.up.value);
        position.at.x += 40;
        house.network.put(position);
        QVERIFY(index.isOf(house.network)); // where it is drawn is not looked for
        Device device = *house.network.device(house.up);
        device.name = "other";
        house.network.put(device);
        QVERIFY(!index.isOf(house.network));
    }
    void what_is_found_in_the_sample_answers_its_questions() {
        QFile file(QStringLiteral(UNDERRIDGE_ROOT "/demo/fennick-quay.underridge"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const auto loaded = exchange::readOwn(file.readAll().toStdString(), "fennick-quay");
        QVERIFY(loaded);
        const auto filter = Filter::parse("role:camera vlan:20 in:concourse");
        int cameras = 0;
        for (const DeviceId id : find::Matcher(loaded->network, *filter).devices()) {
            QCOMPARE(roleOf(loaded->network, *loaded->network.device(id)), Role::camera);
            ++cameras;
        }
        QVERIFY(cameras >= 3);
    }
};

UNDERRIDGE_TEST(FindTest)
#include "find_test.moc"
