// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/base/files.h"
#include "core/exchange/own_format.h"
#include "core/exchange/record_json.h"
#include "core/model/references.h"
#include "tests/support/first_office.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"

#include <fstream>
#include <valijson/adapters/nlohmann_json_adapter.hpp>
#include <valijson/schema.hpp>
#include <valijson/schema_parser.hpp>
#include <valijson/validator.hpp>

using namespace underridge;
using namespace underridge::model;
using exchange::readOwn;
using exchange::writeOwn;
using tests::RandomEdits;

namespace {

std::vector<std::string> linesOf(const std::string& text) {
    std::vector<std::string> lines;
    std::istringstream in(text);
    for (std::string line; std::getline(in, line);)
        lines.push_back(line);
    return lines;
}

/// One of every kind of record with every field set.
Network everyKind() {
    RandomEdits edits(12);
    Network n = edits.grown(40);
    const SheetId sheet = n.sheetsInOrder().front().id;
    const DeviceId device = edits.someDevice(n);
    const Catalogue catalogue = exchange::builtInCatalogue();
    for (const auto& m : catalogue.devices)
        n.put(m);
    for (const auto& m : catalogue.modules)
        n.put(m);
    for (const auto& m : catalogue.transceivers)
        n.put(m);
    for (const auto& m : catalogue.cables)
        n.put(m);
    CableType own = catalogue.cables.front();
    own.id = "own";
    own.cageB = Cage::sfp;
    own.farEnds = 4;
    own.angledA = own.pinnedB = true;
    own.approved = false;
    n.put(own);
    Device d = *n.device(device);
    d.outside = true;
    d.modules = {{"A", "module-4-sfp", "s1"}};
    d.transceivers = {{"X1", "sfp-1000base-sx", "s2"}};
    d.stack = {{1, "access-switch-24", "s3", {{70}, 5, 6, 7, 8, Side::front}}};
    d.added = {"2"};
    d.place = {{70}, 1000, -2000, 300, 4, Side::rear, Half::right};
    d.feeds = {{"P1", {70}, "O3", "", {76}}, {"P2", {}, "", "B", {}}};
    d.watts = 90;
    d.vlanAware = false;
    d.routing = true;
    d.spanningTree =
        SpanningTree{TreeMode::mstp, 4096, "02:84:00:00:00:01", "quay", 3, {{2, {{20, 29}}, 8192}}};
    d.ospf = Ospf{"10.84.255.1", {RouteOrigin::fixed, RouteOrigin::connected}, true};
    d.bgp = Bgp{65001, "10.84.255.1", {{"192.0.2.1", 65002}}, {"10.84.0.0/16"}, {RouteOrigin::ospf}};
    d.filter = PacketFilter{{{"web",
                              {"10.84.1.0/24"},
                              {"10.84.2.0/24"},
                              "in",
                              "out",
                              Protocol::tcp,
                              {{443, 443}},
                              FilterAction::refuse}},
                            true};
    d.translations = {{TranslationKind::destination, "192.0.2.9", "10.84.1.9", "X1"}};
    d.serial = "FQ-1";
    d.note = "two\nlines \"quoted\" é";
    d.startUp = "hostname x\n";
    d.attributes = {{"owner", "harbour"}, {"", "empty"}};
    d.provenance = {Origin::discovered, "LLDP", 1700000000};
    n.put(d);
    NetworkInfo info = n.info();
    info.slackMm = 500;
    info.marginPercent = 25;
    info.labels = "FQ-{001..}";
    n.put(info);
    Group floor;
    floor.id = {70};
    floor.name = "Quay level";
    floor.type = GroupKind::floor;
    floor.level = -1;
    floor.plan = {71};
    floor.planMmPerPixel = 2.5;
    floor.planXMm = 6;
    floor.planYMm = -7;
    floor.planTurn = 90;
    floor.rackUnits = 42;
    floor.xMm = 1;
    floor.yMm = 2;
    floor.heightMm = 3;
    floor.risers = {{"north", 4, 5}};
    floor.note = "n";
    floor.attributes = {{"k", "v"}};
    n.put(floor);
    n.put(Vlan{{72}, 20, "video", {70}, {}});
    n.put(Subnet{{73}, "10.84.20.0/24", "video", {72}, "red", {}, {}, {}});
    n.put(Service{{74}, "Ticket sale", {device}, {device}, "n", {}});
    Port port;
    port.device = device;
    port.port = "2/0/24";
    port.label = "l";
    port.speed = 100;
    port.duplex = Duplex::half;
    port.breakout = 4;
    port.reserved = port.powerOff = port.givesClock = true;
    port.fec = Fec::rs;
    port.attributes = {{"a", "b"}};
    n.put(port);
    Interface i;
    i.id = {75};
    i.device = device;
    i.type = InterfaceKind::lag;
    i.members = {"1", "2"};
    i.addresses = {"10.84.1.1/24"};
    i.untagged = {72};
    i.tagged = {{72}};
    i.taggedRanges = {{100, 199}, {300, 300}};
    i.untaggedToo = {{72}};
    i.voice = {72};
    i.frames = Frames::tagged;
    i.zone = "inside";
    i.mtu = 9000;
    i.lacp = true;
    i.spanningTree = PortTree{200, 16, 7, true, true, true};
    i.ospf = OspfInterface{OspfArea("0.0.0.1"), 10, true, OspfNetwork::pointToPoint};
    i.vrrp = {{7, "10.84.1.254", 110}};
    n.put(i);
    n.put(Route{{78}, device, "0.0.0.0/0", "10.84.1.254", "red", 5, true, {}});
    n.put(Statement{{79},
                    "tills reach tickets",
                    {device, {}, {}, {}},
                    {{}, {70}, "10.84.1.1", "role:till"},
                    Protocol::udp,
                    53,
                    true,
                    {}});
    n.put(PanelMap{device, "1", 1, "R1", 2, {}});
    Cable cable;
    cable.id = {76};
    cable.type = "om4-mpo";
    cable.ends = {{{device, "1"}, {1, 2}}, {{device, "2"}, {}}};
    cable.measured = {{"loss", 0.35, 1.5, "dB"}};
    cable.status = CableStatus::toRemove;
    n.put(cable);
    Link link;
    link.id = {77};
    link.a = {device, "1"};
    link.b = {device, ""}; // not known
    link.medium = Medium::radio;
    link.positions = {1, 2};
    link.onlyOn = sheet;
    link.over = {{77}};
    n.put(link);
    Position p;
    p.sheet = sheet;
    p.object = 70;
    p.of = Kind::group;
    p.width = 300;
    p.height = 200;
    p.folded = p.pinned = p.tucks = true;
    n.put(p);
    n.put(Note{{78}, sheet, "zone", true, true, true, {70}, {}});
    n.put(CableRoute{{79}, "T1", CableRouteKind::conduit, {70}, {{0, -5}, {900, 7}}, 3, 25, 6, 40, "n", {}});
    n.put(Asset{{71}, 0, "image/svg+xml", 640, 480, "PHN2Zy8+", {}});
    return n;
}

} // namespace

class OwnFormatTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void saving_and_loading_gives_the_same_value_and_the_same_bytes() {
        for (std::uint64_t seed = 1; seed <= static_cast<std::uint64_t>(tests::tries(15)); ++seed) {
            const Network network = RandomEdits(seed).grown(80);
            const std::string bytes = writeOwn(network);
            const auto loaded = readOwn(bytes, "n");
            QVERIFY2(loaded, loaded ? "" : loaded.refusal().text().c_str());
            QVERIFY(loaded->remarks.empty());
            QVERIFY(loaded->network == network);
            QVERIFY(loaded->network.indicesAreTrue());
            QVERIFY(writeOwn(loaded->network) == bytes);
        }
    }

    void every_kind_and_field_survives() {
        const Network network = everyKind();
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY2(loaded, loaded ? "" : loaded.refusal().text().c_str());
        QVERIFY(loaded->network == network);
        std::size_t kinds = 0;
        network.forEachTable([&](const auto& table) { kinds += !table.empty(); });
        QCOMPARE(kinds, std::size_t{22}); // all but "unknown"
    }

    void one_edit_is_a_one_line_difference() {
        RandomEdits edits(13);
        const Network network = edits.grown(80);
        const DeviceId device = edits.someDevice(network);
        const auto before = linesOf(writeOwn(network));
        for (const auto& act :
             {edit::rename(network, {refTo(device)}, {"new-name"}),
              edit::moveObjects(network, network.sheetsInOrder().front().id, {refTo(device)}, {16, 0})}) {
            const auto after = linesOf(writeOwn(act->network));
            QCOMPARE(after.size(), before.size());
            int different = 0;
            for (std::size_t i = 0; i < before.size(); ++i)
                different += before[i] != after[i];
            QCOMPARE(different, 1);
        }
    }

    void unknown_fields_and_kinds_are_kept() {
        RandomEdits edits(14);
        const Network network = edits.grown(10);
        auto lines = linesOf(writeOwn(network));
        for (std::string& line : lines)
            if (line.find("\"kind\":\"device\"") != std::string::npos)
                line.insert(line.size() - 1, R"(,"glow":{"a":[1,2]},"later":"é")");
        lines.push_back(R"({"kind":"wormhole","id":"x","ends":[1,2]})");
        std::string text;
        for (const std::string& line : lines)
            text += line + "\n";
        const auto loaded = readOwn(text, "n");
        QVERIFY(loaded);
        auto again = linesOf(writeOwn(loaded->network));
        std::sort(lines.begin(), lines.end());
        std::sort(again.begin(), again.end());
        QCOMPARE(again, lines);
        // An edit of something else keeps them too.
        const auto edited = edit::rename(loaded->network, {refTo(edits.someDevice(loaded->network))}, {"x"});
        QVERIFY(writeOwn(edited->network).find("wormhole") != std::string::npos);
        QVERIFY(writeOwn(edited->network).find("\"glow\"") != std::string::npos);
    }

    void every_line_agrees_with_the_schema() {
        std::ifstream in(UNDERRIDGE_ROOT "/docs/underridge.schema.json");
        const auto text = nlohmann::json::parse(in);
        valijson::Schema schema;
        const valijson::adapters::NlohmannJsonAdapter schemaAdapter(text);
        valijson::SchemaParser().populateSchema(schemaAdapter, schema);
        valijson::Validator validator;
        const auto agrees = [&](const nlohmann::json& line) {
            const valijson::adapters::NlohmannJsonAdapter target(line);
            return validator.validate(schema, target, nullptr);
        };
        for (const std::string& line : linesOf(writeOwn(everyKind())))
            QVERIFY2(agrees(nlohmann::json::parse(line)), line.c_str());
        QVERIFY(!agrees(nlohmann::json::parse(R"({"kind":"device","name":"no id"})")));
        QVERIFY(!agrees(nlohmann::json::parse(R"({"kind":"device","id":"0123456789ab","name":7})")));
        QVERIFY(!agrees(nlohmann::json::parse(
            R"({"kind":"position","sheet":"0123456789ab","object":"x","at":{"x":0.5}})")));
        // The schema names each field that is written, so a new field cannot be
        // forgotten.
        Network().forEachTable([&]<class R, std::size_t n>(const Table<R, n>&) {
            if constexpr (HasFields<R>) {
                const auto& known = text["definitions"][std::string(textOf(R::kind))]["properties"];
                forEachField<R>([&](const char* name, auto) { QVERIFY2(known.contains(name), name); });
            }
        });
    }

    void a_file_cut_at_any_byte_is_refused_or_read_whole_never_half() {
        const Network network = RandomEdits(15).grown(30);
        const std::string bytes = writeOwn(network);
        for (std::size_t cut = 0; cut < bytes.size(); cut += 1 + cut / 40) {
            const auto loaded = readOwn(std::string_view(bytes).substr(0, cut), "n");
            if (!loaded) {
                QVERIFY(!loaded.refusal().what.empty());
                QVERIFY(loaded.refusal().where.line >= 1);
            } else {
                QVERIFY(loaded->network.indicesAreTrue()); // cut between lines
            }
        }
    }

    void hostile_input_is_refused_with_a_place_data() {
        QTest::addColumn<QByteArray>("line");
        QTest::addColumn<int>("column");
        const QByteArray id = "\"id\":\"0123456789ab\"";
        QTest::newRow("not json") << QByteArray("{\"kind\":") << 9;
        QTest::newRow("no object") << QByteArray("[1,2]") << 1;
        QTest::newRow("no kind") << QByteArray("{" + id + "}") << 1;
        QTest::newRow("wrong type") << QByteArray("{\"kind\":\"device\"," + id + ",\"name\":[1]}") << 38;
        QTest::newRow("no id") << QByteArray("{\"kind\":\"device\"}") << 1;
        QTest::newRow("bad id") << QByteArray("{\"kind\":\"device\",\"id\":\"../../x\"}") << 18;
        QTest::newRow("zero id") << QByteArray("{\"kind\":\"device\",\"id\":\"000000000000\"}") << 18;
        QTest::newRow("unknown word")
            << QByteArray("{\"kind\":\"group\"," + id + ",\"type\":\"planet\"}") << 37;
        QTest::newRow("huge number") << QByteArray("{\"kind\":\"vlan\"," + id +
                                                   ",\"number\":99999999999999999999}")
                                     << 36;
        QTest::newRow("too large") << QByteArray("{\"kind\":\"vlan\"," + id + ",\"number\":3000000000}")
                                   << 36;
        QTest::newRow("fraction") << QByteArray("{\"kind\":\"vlan\"," + id + ",\"number\":1.5}") << 36;
        QTest::newRow("bad utf-8") << QByteArray("{\"kind\":\"device\"," + id + ",\"name\":\"\xff\xfe\"}")
                                   << -1;
        QTest::newRow("deep") << QByteArray("{\"kind\":\"device\",\"x\":" + QByteArray(200000, '[')) << -1;
        QTest::newRow("ports without end")
            << QByteArray("{\"kind\":\"device-model\",\"id\":\"a\",\"ports\":[{\"keys\":\"1-4000000\"}]}")
            << -1;
        QTest::newRow("link to nowhere")
            << QByteArray("{\"kind\":\"link\"," + id + ",\"a\":{\"port\":\"1\"}}") << -1;
    }
    void hostile_input_is_refused_with_a_place() {
        QFETCH(QByteArray, line);
        QFETCH(int, column);
        const std::string text = "{\"underridge\":1}\n{\"kind\":\"network\",\"id\":\"0123456789zz\"}\n" +
                                 line.toStdString() + "\n";
        const auto loaded = readOwn(text, "bad.underridge");
        QVERIFY(!loaded);
        QCOMPARE(loaded.refusal().where.line, 3);
        QVERIFY(!loaded.refusal().remedy.empty());
        if (column > 0)
            QCOMPARE(loaded.refusal().where.column, column);
        QVERIFY(QString::fromStdString(loaded.refusal().text()).startsWith("bad.underridge:3:"));
    }

    void headers_are_checked() {
        for (const char* bad : {"", "\n", "{}", "{\"underridge\":\"1\"}", "{\"underridge\":99}\n",
                                "{\"underridge\":1}\n", "PNG\n", "{\"underridge\":0}\n"})
            QVERIFY2(!readOwn(bad, "n"), bad);
    }

    void what_refers_to_nothing_is_left_out_with_a_remark() {
        Network network = RandomEdits(17).grown(80);
        QVERIFY(network.all<Link>().size() > 2);
        std::string text;
        DeviceId gone;
        network.all<Link>().forEach([&](const Link& link) { gone = link.a.device; });
        for (const std::string& line : linesOf(writeOwn(network)))
            if (line.find("\"kind\":\"device\",\"id\":\"" + idText(gone.value)) == std::string::npos)
                text += line + "\n";
        const auto loaded = readOwn(text, "n");
        QVERIFY(loaded);
        QVERIFY(loaded->remarks.size() >= 2); // link, cable, position …
        QVERIFY(std::any_of(loaded->remarks.begin(), loaded->remarks.end(), [&](const Remark& remark) {
            return remark.where.object == "position " + idText(gone.value); // named by the id in the file
        }));
        loaded->network.all<Link>().forEach([&](const Link& link) {
            QVERIFY(loaded->network.device(link.a.device) && loaded->network.device(link.b.device));
        });
        QVERIFY(readOwn(writeOwn(loaded->network), "n")->remarks.empty());
    }

    /// Whatever is missing from a file: what is read refers to nothing that is not there,
    /// says so where it did, and needs no more mending when it is read again.
    void a_file_that_lacks_any_one_line_becomes_sound() {
        int mended = 0;
        for (std::uint64_t seed = 30; seed < 33; ++seed) {
            const Network network = RandomEdits(seed).grown(70);
            const auto lines = linesOf(writeOwn(network));
            for (std::size_t missing = 1; missing < lines.size(); missing += tests::isSanitized ? 7 : 1) {
                if (lines[missing].find("\"kind\":\"network\"") != std::string::npos)
                    continue; // without which it is none
                std::string text;
                for (std::size_t i = 0; i < lines.size(); ++i)
                    if (i != missing)
                        text += lines[i] + "\n";
                const auto loaded = readOwn(text, "n");
                QVERIFY2(bool(loaded), lines[missing].c_str());
                mended += !loaded->remarks.empty();
                loaded->network.forEachTable([&](const auto& table) {
                    table.forEach([&](const auto& record) {
                        QVERIFY2(refersToWhatIsThere(loaded->network, record), lines[missing].c_str());
                    });
                });
                QVERIFY(loaded->network.indicesAreTrue());
                const auto again = readOwn(writeOwn(loaded->network), "n");
                QVERIFY(again && again->remarks.empty());
                QVERIFY(again->network == loaded->network);
            }
        }
        QVERIFY2(mended > (tests::isSanitized ? 4 : 30), qPrintable(QString::number(mended)));
    }

    void what_is_beyond_what_can_be_is_brought_within_with_a_remark_each() {
        Network network = RandomEdits(19).grown(20);
        DeviceId first;
        network.all<Device>().forEach([&](const Device& d) { first = d.id; });
        Device device = *network.device(first);
        SpanningTree tree;
        tree.instances.resize(70);
        device.spanningTree = tree;
        network.put(device);
        CableType type;
        type.id = "odd";
        type.farEnds = 99'999;
        type.positions = -3;
        network.put(type);
        Cable cable;
        cable.id = {76};
        cable.type = "odd";
        cable.lengthMm = -5;
        cable.ends = {{{first, "1"}, {}}};
        network.put(cable);
        Port port;
        port.device = first;
        port.port = "1";
        port.breakout = 1'000'000;
        network.put(port);
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(bool(loaded));
        QCOMPARE(loaded->network.device(first)->spanningTree->instances.size(), std::size_t(64));
        const CableType* mended = loaded->network.find<CableType>({fnv1a("odd"), 0});
        QCOMPARE(std::pair(mended->farEnds, mended->positions), std::pair(12, 1));
        QCOMPARE(loaded->network.cable({76})->lengthMm, std::int64_t(0));
        QCOMPARE(loaded->network.port({first, "1"})->breakout, 16);
        QVERIFY(loaded->remarks.size() >= 4);
        QVERIFY(readOwn(writeOwn(loaded->network), "n")->remarks.empty());
    }

    void what_names_something_gone_is_cleared_with_a_remark_each() {
        const GroupId gone{0x1234567};
        Network network = RandomEdits(18).grown(30);
        const SheetId sheet = network.sheetsInOrder().front().id;
        DeviceId first;
        network.all<Device>().forEach([&](const Device& d) { first = d.id; });
        Device device = *network.device(first);
        device.group = gone;
        device.place = {gone, 5, 6, 7, 0, Side::front};
        network.put(device);
        network.put(Vlan{{72}, 20, "video", gone, {}});
        Sheet shown = *network.sheet(sheet);
        shown.shows = gone;
        network.put(shown);
        network.put(Subnet{{73}, "10.84.20.0/24", "video", {999}, {}, {}, {}, {}});
        network.put(Service{{74}, "Ticket sale", {first, {998}}, {{998}}, {}, {}});
        Interface interface;
        interface.id = {75};
        interface.device = first;
        interface.name = "vlan20";
        interface.parent = {997};
        interface.untagged = {996};
        interface.tagged = {{72}, {996}};
        network.put(interface);
        Position far;
        far.sheet = sheet;
        far.object = first.value;
        far.of = Kind::device;
        far.at = {sheetLimit + 5, -sheetLimit - 5};
        network.put(far);
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(loaded);
        QCOMPARE(loaded->remarks.size(), std::size_t{9});
        const Network& mended = loaded->network;
        QCOMPARE(mended.device(first)->group, GroupId{});
        QCOMPARE(mended.device(first)->place, Place{});
        QCOMPARE(mended.vlan({72})->scope, GroupId{});
        QCOMPARE(mended.sheet(sheet)->shows, GroupId{});
        QCOMPARE(mended.find<Subnet>({73, 0})->vlan, VlanId{});
        QCOMPARE(mended.find<Service>({74, 0})->users, std::vector{first});
        QVERIFY(mended.find<Service>({74, 0})->providers.empty());
        const Interface& left = *mended.find<Interface>({first.value, 75});
        QCOMPARE(left.parent, InterfaceId{});
        QCOMPARE(left.untagged, VlanId{});
        QCOMPARE(left.tagged, std::vector{VlanId{72}});
        QCOMPARE(mended.position(sheet, first.value)->at, (Point{sheetLimit, -sheetLimit}));
        QVERIFY(readOwn(writeOwn(mended), "n")->remarks.empty());
    }

    void a_line_of_any_length_is_read() {
        Network network = RandomEdits(19).grown(20);
        Note note{
            {81}, network.sheetsInOrder().front().id, std::string(20 << 20, 'n'), false, false, false, {},
            {}};
        network.put(note);
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(loaded && loaded->remarks.empty());
        QVERIFY(loaded->network == network);
    }

    void the_same_object_twice_is_refused() {
        const std::string text = writeOwn(RandomEdits(20).grown(20));
        for (const std::string& line : linesOf(text)) {
            if (line.starts_with("{\"underridge\""))
                continue;
            const auto loaded = readOwn(text + line + "\n", "n");
            QVERIFY2(!loaded, line.c_str());
            QVERIFY(QString::fromStdString(loaded.refusal().what).contains("twice"));
        }
    }

    void groups_inside_themselves_are_put_right() {
        Network network = RandomEdits(17).start();
        network.put(tests::groupOf({5}, "a", GroupKind::room, {6}));
        network.put(tests::groupOf({6}, "b", GroupKind::room, {5}));
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(loaded);
        QVERIFY(!loaded->remarks.empty());
        for (GroupId id{5}; id; id = loaded->network.group(id)->parent)
            QVERIFY(loaded->network.group(id));
    }

    void lines_may_end_in_carriage_returns() {
        const Network network = RandomEdits(18).grown(10);
        std::string text;
        for (const std::string& line : linesOf(writeOwn(network)))
            text += line + "\r\n";
        QVERIFY(readOwn(text, "n")->network == network);
    }

    void the_demo_is_what_its_maker_writes() {
        DiskFiles files;
        const auto loaded = readOwn(*files.read(UNDERRIDGE_ROOT "/demo/first-office.underridge"), "demo");
        QVERIFY(loaded && loaded->remarks.empty());
        QCOMPARE(loaded->network.all<Device>().size(), std::size_t{8});
        QVERIFY(writeOwn(loaded->network) == *files.read(UNDERRIDGE_ROOT "/demo/first-office.underridge"));
    }

    void files_of_version_1_are_read_and_say_what_positions_are_of() {
        const Network now = everyKind();
        std::string old;
        for (std::string line : linesOf(writeOwn(now))) {
            if (line == "{\"underridge\":2}")
                line = "{\"underridge\":1}";
            for (const char* of :
                 {",\"of\":\"device\"", ",\"of\":\"group\"", ",\"of\":\"link\"", ",\"of\":\"note\""})
                if (const auto at = line.find(of); at != std::string::npos)
                    line.erase(at, std::string_view(of).size());
            old += line + "\n";
        }
        QVERIFY(old.find("\"of\"") == std::string::npos);
        const auto loaded = readOwn(old, "old");
        QVERIFY(loaded);
        QVERIFY2(loaded->remarks.empty(), loaded->remarks.empty() ? "" : loaded->remarks[0].text().c_str());
        QVERIFY(loaded->network == now);
        QVERIFY(!readOwn("{\"underridge\":3}\n" + old.substr(old.find('\n') + 1), "newer"));
    }

    void a_port_that_said_itself_that_it_was_learned_is_named_by_its_device() {
        Network now = tests::firstOffice();
        DeviceId id;
        now.all<Device>().forEach([&](const Device& device) { id = device.id; });
        Device device = *now.device(id);
        device.learned = PortNames({"ge-0/0/10", "ge-0/0/9", "lo,0"});
        now.put(device);
        Port labelled;
        labelled.device = id;
        labelled.port = "ge-0/0/9";
        labelled.label = "to the roof";
        now.put(labelled);
        std::string old;
        for (std::string line : linesOf(writeOwn(now))) { // as it was written before
            if (line.find("\"learned\"") != std::string::npos) {
                const auto at = line.find(",\"learned\":[");
                line.erase(at, line.find(']', at) + 1 - at);
            }
            if (line.find("to the roof") != std::string::npos)
                line.insert(line.size() - 1, ",\"learned\":true,\"shade\":3");
            old += line + "\n";
        }
        for (const char* name : {"ge-0/0/10", "lo,0"})
            old += "{\"kind\":\"port\",\"device\":\"" + idText(id.value) + "\",\"port\":\"" + name +
                   "\",\"learned\":true}\n";
        const auto loaded = readOwn(old, "old");
        QVERIFY(loaded);
        QVERIFY(loaded->remarks.empty());
        QCOMPARE(loaded->network.device(id)->learned.all(),
                 (std::vector<std::string>{"ge-0/0/9", "ge-0/0/10", "lo,0"}));
        QCOMPARE(loaded->network.all<Port>().size(),
                 now.all<Port>().size()); // what says no more has no record
        const Port* port = loaded->network.port({id, "ge-0/0/9"});
        QVERIFY(port && port->label == "to the roof");
        QCOMPARE(port->extra.str(), std::string("{\"shade\":3}")); // only what was understood is gone
        // A journal's line of those days.
        Network replayed = loaded->network;
        QVERIFY(bool(exchange::applyLine(replayed, "{\"kind\":\"port\",\"device\":\"" + idText(id.value) +
                                                       "\",\"port\":\"x\",\"learned\":true}")));
        QVERIFY(replayed.device(id)->learned.contains("x"));
        QVERIFY(replayed.device(id)->learned.contains("lo,0"));
    }

    void devices_with_the_same_learned_ports_share_them_and_keep_them() {
        Network network = tests::firstOffice();
        std::vector<DeviceId> ids;
        network.all<Device>().forEach([&](const Device& device) { ids.push_back(device.id); });
        const auto give = [&](DeviceId id, std::vector<std::string> names) {
            Device device = *network.device(id);
            device.learned = PortNames(std::move(names));
            network.put(device);
        };
        give(ids[0], {"2", "10", "1", "2"});
        give(ids[1], {"1", "2", "10"});
        give(ids[2], {"1", "2"});
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(loaded);
        QVERIFY(loaded->network == network);
        const auto& held = loaded->network;
        QCOMPARE(held.device(ids[0])->learned.all(), (std::vector<std::string>{"1", "2", "10"}));
        QCOMPARE(&held.device(ids[0])->learned.all(), &held.device(ids[1])->learned.all());
        QVERIFY(&held.device(ids[0])->learned.all() != &held.device(ids[2])->learned.all());
        // Names with line feeds in them are not taken for others.
        give(ids[0], {"x\ny", "z"});
        give(ids[1], {"x", "y\nz"});
        const auto odd = readOwn(writeOwn(network), "n");
        QVERIFY(odd && odd->network == network);
    }

    void a_position_of_something_else_is_put_right() {
        const Network network = tests::firstOffice();
        Position held;
        network.all<Position>().forEach([&](const Position& position) {
            if (network.device({position.object}))
                held = position;
        });
        QCOMPARE(held.of, Kind::device);
        held.of = Kind::note;
        Network wrong = network;
        wrong.put(held);
        const auto loaded = readOwn(writeOwn(wrong), "n");
        QVERIFY(loaded);
        QCOMPARE(loaded->remarks.size(), std::size_t{1});
        QVERIFY(loaded->network == network);
    }

    void ranges_of_vlans_that_are_none_are_left_out_with_a_remark() {
        Network network = everyKind();
        Interface held;
        network.all<Interface>().forEach([&](const Interface& interface) {
            if (!interface.taggedRanges.empty())
                held = interface;
        });
        QVERIFY(held.taggedRanges.size() == 2);
        for (const VlanRange wrong : {VlanRange{0, 5}, VlanRange{9, 3}, VlanRange{4000, 4095}}) {
            Interface odd = held;
            odd.taggedRanges.push_back(wrong);
            Network file = network;
            file.put(odd);
            const auto loaded = readOwn(writeOwn(file), "n");
            QVERIFY(loaded);
            QCOMPARE(loaded->remarks.size(), std::size_t{1});
            QVERIFY(loaded->network == network);
        }
    }

    void a_link_whose_own_sheet_is_not_there_is_drawn_on_all() {
        Network network = everyKind();
        Link held;
        network.all<Link>().forEach([&](const Link& link) {
            if (link.onlyOn)
                held = link;
        });
        QVERIFY(held.onlyOn);
        held.onlyOn = {4711};
        network.put(held);
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(loaded);
        QVERIFY(!loaded->network.link(held.id)->onlyOn);
        QVERIFY(!loaded->remarks.empty());
    }

    void a_chassis_in_a_rack_that_is_not_there_has_no_place() {
        Network network = everyKind();
        Device held;
        network.all<Device>().forEach([&](const Device& device) {
            if (!device.stack.empty())
                held = device;
        });
        held.stack[0].place.in = {4711};
        network.put(held);
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(loaded);
        const Device& back = *loaded->network.device(held.id);
        QVERIFY(!back.stack[0].place.in);
        QCOMPARE(back.place, held.place); // its own stays
        QVERIFY(loaded->network.indicesAreTrue());
    }

    void addresses_are_given_back_as_they_were_written() {
        Network network = RandomEdits(21).start();
        Device device;
        device.id = {4001};
        network.put(device);
        Interface interface;
        interface.id = {4002};
        interface.device = device.id;
        interface.addresses = {"10.84.001.1/24", "FD84:FE::0001/64", "by DHCP", "::ffff:10.84.1.1"};
        network.put(interface);
        const auto loaded = readOwn(writeOwn(network), "n");
        QVERIFY(loaded);
        QVERIFY(loaded->network == network);
        const auto& back = loaded->network.find<Interface>(interface.key())->addresses;
        QVERIFY(!back[0].valid()); // leading zeros: octal or decimal, nobody knows
        QVERIFY(back[1].valid() && !back[2].valid() && back[3].valid());
        QCOMPARE(back[1].network().text(), std::string("fd84:fe::/64"));
    }
};

UNDERRIDGE_TEST(OwnFormatTest)
#include "own_format_test.moc"
