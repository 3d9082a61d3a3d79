// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/command_line.h"
#include "core/base/files.h"
#include "core/exchange/own_format.h"
#include "core/model/ports.h"
#include "tests/support/registered.h"

#include <QGuiApplication>
#include <QImage>
#include <QTemporaryDir>
#include <nlohmann/json.hpp>
#include <set>
#include <sstream>

using namespace underridge;
using nlohmann::json;

namespace {

const std::string demo = UNDERRIDGE_ROOT "/demo/first-office.underridge";

struct Ran {
    int code = -1;
    std::string out, err;
    bool window = false;
};

Ran ran(const std::vector<std::string>& arguments, const std::string& input = {}) {
    std::istringstream in(input);
    std::ostringstream out, err;
    const auto outcome = cli::run(arguments, in, out, err, [] {});
    return {outcome.exitCode, out.str(), err.str(), outcome.window.has_value()};
}

} // namespace

class CommandLineTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void the_summary_counts() {
        const auto r = ran({"list", demo, "summary", "--json"});
        QCOMPARE(r.code, 0);
        const auto s = json::parse(r.out);
        QCOMPARE(s["devices"].get<int>(), 8);
        QCOMPARE(s["links"].get<int>(), 7);
        QCOMPARE(s["endpoints"].get<int>(), 4);
        QCOMPARE(s["infrastructure"].get<int>(), 4);
        QCOMPARE(s["components"].get<int>(), 1);
        const auto port = json::parse(
            ran({"list", UNDERRIDGE_ROOT "/demo/fennick-quay.underridge", "summary", "--json"}).out);
        QCOMPARE(port["devices"].get<int>(), 129);
        QCOMPARE(port["endpoints"].get<int>(), 72);
        QCOMPARE(port["infrastructure"].get<int>(), 57);
        QCOMPARE(s["byRole"]["switch"].get<int>(), 1);
        QCOMPARE(s["byMedium"]["multimode"].get<int>(), 1);
    }

    void a_trace_is_told_hop_by_hop_with_its_cables() {
        const std::string quay = UNDERRIDGE_ROOT "/demo/fennick-quay.underridge";
        const auto r =
            ran({"trace", quay, "--from", "ws-office-1", "--to", "srv-tickets", "--both", "--json"});
        QCOMPARE(r.code, 0);
        const auto t = json::parse(r.out);
        QVERIFY(t["reached"].get<bool>() && t["back"]["reached"].get<bool>());
        std::vector<std::string> devices;
        for (const auto& hop : t["hops"])
            devices.push_back(hop["device"]);
        QCOMPARE(devices, (std::vector<std::string>{"ws-office-1", "acc-o2", "dist-ctrl", "core-1", "core-2",
                                                    "srv-tickets"}));
        QCOMPARE(t["hops"][0]["decision"].get<std::string>(),
                 std::string("0.0.0.0/0 via 10.84.30.1, static"));
        QCOMPARE(t["hops"][1]["vlan"].get<int>(), 30);
        QCOMPARE(t["hops"][0]["chain"].size(), std::size_t(3)); // outlet, panel
        QVERIFY(t["stoppedAt"].is_null() && t["reason"].is_null());
    }
    void findings_are_written_as_tables_and_on_paper() {
        const std::string found = UNDERRIDGE_ROOT "/demo/fennick-quay-as-found.underridge";
        QTemporaryDir folder;
        const auto written = [&](const char* name) {
            const QString path = folder.filePath(name);
            if (ran({"check", found, "-o", path.toStdString()}).code != 1)
                return QByteArray();
            QFile file(path);
            return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
        };
        const QByteArray csv = written("f.csv");
        QCOMPARE(csv.count("\r\n"), 14); // titles and 13 findings
        QVERIFY(csv.contains("error,route-loop,rtr-2 and fw-2 send 10.84.250.0/24 to each other,"));
        QCOMPARE(json::parse(written("f.json").toStdString())["findings"].size(), std::size_t(13));
        QVERIFY(written("f.pdf").startsWith("%PDF"));
        QCOMPARE(ran({"check", found, "-o", folder.filePath("f.txt").toStdString()}).code, 2);
    }
    void a_trace_that_stops_says_where_and_why() {
        const std::string quay = UNDERRIDGE_ROOT "/demo/fennick-quay.underridge";
        const auto r = ran({"trace", quay, "--from", "till-shop-1", "--to", "plc-crane", "--json"});
        QCOMPARE(r.code, 1);
        const auto t = json::parse(r.out);
        QCOMPARE(t["stoppedAt"].get<std::string>(), std::string("core-1"));
        QCOMPARE(t["stop"].get<std::string>(), std::string("refused"));
        QVERIFY(t["reason"].get<std::string>().find("visitors keep out") != std::string::npos);
        QVERIFY(
            ran({"trace", quay, "--from", "till-shop-1", "--to", "plc-crane"}).out.find("stops: rule 1") !=
            std::string::npos);
        QCOMPARE(ran({"trace", quay, "--from", "nobody", "--to", "plc-crane"}).code, 2);
        QCOMPARE(
            ran({"trace", quay, "--from", "10.84.30.101", "--to", "10.84.10.11", "--without", "nobody"}).code,
            2);
        QCOMPARE(ran({"trace", quay, "--from", "till-1", "--to", "srv-tickets", "--without", "core-1"}).code,
                 0);
        QCOMPARE(ran({"trace", quay, "--from", "till-1", "--to", "srv-tickets", "--without", "core-2"}).code,
                 1);
    }
    void what_follows_is_listed() {
        const std::string quay = UNDERRIDGE_ROOT "/demo/fennick-quay.underridge";
        const auto list = [&](const char* what) {
            return json::parse(ran({"list", quay, what, "--json"}).out);
        };
        const auto tree = list("spanning-tree")["instances"];
        const auto main =
            std::find_if(tree.begin(), tree.end(), [](const auto& t) { return t["root"] == "core-1"; });
        QVERIFY(main != tree.end());
        QVERIFY((*main)["rootAddressStated"].get<bool>());
        int blocked = 0;
        for (const auto& port : (*main)["ports"])
            blocked += port["role"] == "alternate";
        QCOMPARE(blocked, 5); // three floors, the ring, and its standby
        bool external = false;
        for (const auto& route : list("routes"))
            external |=
                route["device"] == "core-1" && route["to"] == "0.0.0.0/0" && route["path"] == "external";
        QVERIFY(external);
        int ofVideo = 0;
        for (const auto& island : list("islands"))
            ofVideo += island["vlan"] == 20;
        QCOMPARE(ofVideo, 2); // one on each side of the sound
        bool gateway = false;
        for (const auto& interface : list("interfaces"))
            gateway |= interface["device"] == "core-2" && interface["name"] == "vlan10" &&
                       interface["up"] == true && interface["untagged"] == 10 &&
                       interface["vrrp"][0]["address"] == "10.84.10.1";
        QVERIFY(gateway);
        QVERIFY(ran({"list", quay, "spanning-tree"}).out.find("root core-1") != std::string::npos);
        QCOMPARE(json::parse(ran({"list", quay, "routes", "--where", "till-1", "--json"}).out).size(),
                 std::size_t(2));
    }
    void a_sheet_is_arranged_and_measured() {
        QTemporaryDir folder;
        const std::string out = folder.filePath("out.underridge").toStdString();
        std::string csv = "from,to\n";
        for (int i = 1; i <= 6; ++i)
            csv += "leaf-" + std::to_string(i) + ",spine-1\nleaf-" + std::to_string(i) + ",spine-2\n";
        const auto r = ran({"arrange", "-", "-o", out, "--json"}, csv);
        QCOMPARE(r.code, 0);
        const auto report = json::parse(r.out);
        for (const char* key :
             {"elapsedMs", "crossings", "overlaps", "linksThroughDevices", "aspect", "stress", "area",
              "edgeLengthVariation", "angularResolution", "displacement", "labelOverlaps", "groupIntrusions"})
            QVERIFY2(report.contains(key), key);
        QCOMPARE(report["crossings"].get<int>(), 0);
        QCOMPARE(report["overlaps"].get<int>(), 0);
        // As written: the paths of its links are there, and end at plates.
        const auto links = json::parse(ran({"list", out, "links", "--json"}).out);
        QCOMPARE(links.size(), std::size_t{12});
        for (const auto& link : links)
            QVERIFY(link["path"].size() >= 2);
        const auto layered = json::parse(
            ran({"arrange", out, "--style", "layered", "--flow", "right", "--anchor", "spine-1", "--json"})
                .out);
        QCOMPARE(layered["style"].get<std::string>(), std::string("layered"));
        QCOMPARE(ran({"arrange", out, "--style", "pretty"}).code, 2);
        QCOMPARE(ran({"arrange", out, "--anchor", "nobody"}).code, 2);
        QVERIFY(ran({"arrange", out, "--anchor", "nobody"}).err.find("nobody") != std::string::npos);
        QCOMPARE(ran({"arrange", "missing.underridge"}).code, 3);
    }

    void an_order_and_a_medium_are_said() {
        QTemporaryDir folder;
        const std::string out = folder.filePath("out.underridge").toStdString();
        const auto made = ran({"add-pattern", demo, "-o", out, "--shape", "dual-homed", "--medium",
                               "single-mode", "--names", "late-{1..}"});
        QCOMPARE(made.code, 0);
        std::size_t fibre = 0;
        const model::Network pair = exchange::readOwn(*DiskFiles().read(out), out)->network;
        pair.all<model::Link>().forEach([&](const model::Link& link) {
            fibre += model::mediumOf(pair, link) == model::Medium::singleMode;
        });
        QCOMPARE(fibre, std::size_t{9}); // the pair, and each of four on both
        QCOMPARE(ran({"add-pattern", demo, "-o", out, "--shape", "ring", "--medium", "string"}).code, 2);
        // In one row by role the router comes first, by name not.
        const auto firstOf = [&](const std::vector<std::string>& more) {
            std::vector<std::string> words{"arrange", demo, "-o", out, "--style", "row"};
            words.insert(words.end(), more.begin(), more.end());
            if (ran(words).code != 0)
                qFatal("not arranged");
            std::string name;
            int leftmost = model::sheetLimit;
            const model::Network network = exchange::readOwn(*DiskFiles().read(out), out)->network;
            const model::SheetId sheet = network.sheetsInOrder().front().id;
            network.all<model::Device>().forEach([&](const model::Device& device) {
                const model::Position* at = network.position(sheet, device.id.value);
                if (at && at->at.x < leftmost) {
                    leftmost = at->at.x;
                    name = device.name;
                }
            });
            return name;
        };
        QCOMPARE(firstOf({"--by", "name"}), std::string("acc-1"));
        QVERIFY(firstOf({"--by", "role"}) != "acc-1");
        QVERIFY(firstOf({"--keep-order"}) != "acc-1"); // the router stands above all
        QCOMPARE(ran({"arrange", demo, "--by", "weight"}).code, 2);
    }
    void a_pattern_is_added_and_told() {
        QTemporaryDir folder;
        const std::string out = folder.filePath("out.underridge").toStdString();
        const auto r = ran({"add-pattern", demo, "-o", out, "--shape", "ring", "--count", "5", "--names",
                            "q-{1..}", "--at", "2000,2000", "--json"});
        QCOMPARE(r.code, 0);
        QCOMPARE(json::parse(r.out)["added"]["devices"].get<int>(), 5);
        QCOMPARE(json::parse(r.out)["added"]["links"].get<int>(), 5);
        const auto devices = json::parse(ran({"list", out, "devices", "--json", "--where", "name:q-"}).out);
        QCOMPARE(devices.size(), std::size_t{5});
        // The same file gives the same network.
        const std::string again = folder.filePath("again.underridge").toStdString();
        ran({"add-pattern", demo, "-o", again, "--shape", "ring", "--count", "5", "--names", "q-{1..}",
             "--at", "2000,2000"});
        QFile a(QString::fromStdString(out)), b(QString::fromStdString(again));
        QVERIFY(a.open(QIODevice::ReadOnly) && b.open(QIODevice::ReadOnly));
        QCOMPARE(a.readAll(), b.readAll());
        const auto tooMany = ran({"add-pattern", demo, "-o", out, "--shape", "star", "--count", "60"});
        QCOMPARE(tooMany.code, 2);
        QVERIFY(tooMany.err.find("fit") != std::string::npos);
        QCOMPARE(ran({"add-pattern", demo, "-o", out, "--shape", "ring", "--at", "there"}).code, 2);
        QCOMPARE(ran({"add-pattern", demo, "-o", out, "--shape", "ring", "--into", "nowhere"}).code, 2);
        QCOMPARE(ran({"add-pattern", demo, "-o", out, "--shape", "blob"}).code, 2);
    }

    void acts_are_applied_and_what_is_shown_is_listed() {
        QTemporaryDir folder;
        const std::string out = folder.filePath("out.underridge").toStdString();
        const std::string acts = folder.filePath("some.acts").toStdString();
        const auto write = [&](const char* text) {
            QFile file(QString::fromStdString(acts));
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(QByteArray(text).replace('\'', '"'));
        };
        write("{'act':'group','kind':'room','name':'Office','members':['desk-1','phone-1']}\n"
              "{'act':'fold','group':'Office'}\n");
        const auto applied = ran({"apply", demo, acts, "-o", out, "--json"});
        QCOMPARE(applied.code, 0);
        QCOMPARE(json::parse(applied.out)["made"][0]["names"][0].get<std::string>(), std::string("Office"));
        const auto devices = json::parse(ran({"list", out, "devices", "--json"}).out);
        const auto groups = json::parse(ran({"list", out, "groups", "--json"}).out);
        QVERIFY(groups[0]["folded"].get<bool>());
        for (const auto& device : devices) {
            const bool inside = device["group"] == "Office";
            QCOMPARE(device["shownAs"]["kind"].get<std::string>(), std::string(inside ? "group" : "device"));
            if (inside)
                QCOMPARE(device["shown"], groups[0]["shown"]);
            else
                QCOMPARE(device["shown"]["w"], device["w"]);
        }
        const auto other = ran({"render", out, "-o", folder.filePath("a.png").toStdString(), "--unfold",
                                "Office", "--enter", "Office", "--json"});
        QCOMPARE(other.code, 0);
        QCOMPARE(ran({"render", out, "-o", folder.filePath("b.png").toStdString(), "--fold", "Nowhere"}).code,
                 2);
        write("{'act':'fold','group':'Office'}\n\n{'act':'delete','members':['nobody']}\n");
        const auto refused = ran({"apply", out, acts, "-o", out});
        QCOMPARE(refused.code, 3);
        QVERIFY(refused.err.find("some.acts:3:") != std::string::npos);
        QCOMPARE(json::parse(ran({"list", out, "groups", "--json"}).out), groups); // nothing was written
    }

    void lists_take_a_filter() {
        const auto phones =
            json::parse(ran({"list", demo, "devices", "--where", "role:phone", "--json"}).out);
        QVERIFY(!phones.empty());
        for (const auto& phone : phones)
            QCOMPARE(phone["role"].get<std::string>(), std::string("phone"));
        const auto links = json::parse(ran({"list", demo, "links", "--where", "role:phone", "--json"}).out);
        QVERIFY(links.size() >= phones.size());
        const auto free =
            json::parse(ran({"list", demo, "ports", "--where", "is:free role:switch", "--json"}).out);
        for (const auto& port : free)
            QVERIFY(port["peer"].is_null());
        QVERIFY(!free.empty());
        const auto wrong = ran({"list", demo, "devices", "--where", "role:phone colour:red"});
        QCOMPARE(wrong.code, 2);
        QVERIFY2(wrong.err.find("filter:1:12: there is no field colour") != std::string::npos,
                 wrong.err.c_str());
        QCOMPARE(ran({"list", demo, "summary", "--where", "role:phone"}).code, 2);
        for (const char* what : {"groups", "sheets", "vlans", "subnets", "cables"})
            QCOMPARE(ran({"list", demo, what, "--where", "name:never-so", "--json"}).out,
                     std::string("[]\n"));
    }

    void every_list_has_its_keys() {
        const std::map<std::string, std::vector<std::string>> keys{
            {"devices",
             {"id", "name", "role", "model", "group", "x", "y", "w", "h", "shown", "shownAs", "addresses",
              "ports", "portsUsed"}},
            {"links", {"id", "a", "b", "medium", "cable", "lengthM", "speedMbps", "provenance"}},
            {"ports", {"device", "port", "block", "speedMbps", "peer"}},
            {"cables", {"id", "type", "label", "lengthM", "ends"}},
            {"sheets", {"id", "name"}}};
        for (const auto& [what, wanted] : keys) {
            const auto rows = json::parse(ran({"list", demo, what, "--json"}).out);
            QVERIFY(!rows.empty());
            for (const std::string& key : wanted)
                QVERIFY2(rows.front().contains(key), (what + " " + key).c_str());
            QVERIFY(!ran({"list", demo, what}).out.empty());
        }
    }

    void convert_gives_the_same_bytes_and_reads_standard_input() {
        QTemporaryDir folder;
        const std::string out = folder.filePath("o.underridge").toStdString();
        QCOMPARE(ran({"convert", demo, out}).code, 0);
        const auto piped = ran({"convert", demo, "-"});
        QVERIFY(ran({"convert", "-", "-"}, piped.out).out == piped.out);
        QVERIFY(ran({"list", out, "devices"}).out == ran({"list", demo, "devices"}).out);
    }

    void convert_goes_through_every_format_and_tells_what_is_left_out() {
        QTemporaryDir folder;
        for (const std::string suffix : {"json", "graphml", "csv"}) {
            const std::string out = folder.filePath("o.").toStdString() + suffix;
            const auto there = ran({"convert", demo, out, "--json"});
            QCOMPARE(there.code, 0);
            const auto remarks = json::parse(there.out).at("remarks");
            QVERIFY(!remarks.empty());
            for (const char* key : {"severity", "message", "remedy", "file", "line", "column", "object"})
                QVERIFY(remarks[0].contains(key));
            const auto devices = json::parse(ran({"list", out, "devices", "--json"}).out);
            QCOMPARE(devices.size(), std::size_t{8});
            QCOMPARE(json::parse(ran({"list", out, "links", "--json"}).out).size(), std::size_t{7});
        }
        const auto links = ran({"convert", demo, "-", "--to", "csv", "--table", "links"});
        QVERIFY(links.out.starts_with("id,from,from port,to,to port"));
        QCOMPARE(std::count(links.out.begin(), links.out.end(), '\n'), std::ptrdiff_t{8});
        QCOMPARE(json::parse(ran({"list", "-", "summary", "--json"}, links.out).out).at("devices"), 8);
    }

    void check_lists_findings_and_tells_of_them_by_its_code() {
        const auto good = ran({"check", demo});
        QCOMPARE(good.code, 0);
        QVERIFY(good.out.empty());
        const std::string table = "from,from port,to,to port\na,1,b,1\na,1,c,1\n";
        const auto bad = ran({"check", "-", "--json"}, table);
        QCOMPARE(bad.code, 1);
        const auto findings = json::parse(bad.out).at("findings");
        QCOMPARE(findings.size(), std::size_t{1});
        QCOMPARE(findings[0].at("code"), "port-taken");
        QCOMPARE(findings[0].at("severity"), "error");
        QVERIFY(findings[0].at("message").get<std::string>().find("a 1") != std::string::npos);
        for (const char* key : {"kind", "id", "name"})
            QVERIFY(findings[0].at("subjects")[0].contains(key));
        QVERIFY(ran({"check", "-"}, table).out.starts_with("error port-taken: "));
        QCOMPARE(ran({"check", "-", "--rule", "speed"}, table).code, 0);
        QCOMPARE(ran({"check", "-", "--rule", "nonsense"}, table).code, 2);
    }

    void chain_follows_cables_to_both_ends() {
        const auto r = ran({"chain", demo, "acc-1:X1", "--json"});
        QCOMPARE(r.code, 0);
        const auto told = json::parse(r.out);
        QCOMPARE(told.at("chain").size(), std::size_t{1});
        QCOMPARE(told.at("chain")[0].at("device"), "acc-1");
        QCOMPARE(told.at("chain")[0].at("lengthM").get<double>(), 12.0);
        QCOMPARE(told.at("ends").size(), std::size_t{2});
        QCOMPARE(told.at("ends")[1].at("end"), "device");
        QVERIFY(ran({"chain", demo, "acc-1:X1"}).out.starts_with("acc-1 X1\t"));
        for (const char* key : {"chain", "ends", "lengthM", "connections", "lossDb"})
            QVERIFY2(told.contains(key), key);
        for (const char* key :
             {"device", "port", "toDevice", "toPort", "cable", "label", "lengthM", "lossDb"})
            QVERIFY2(told.at("chain")[0].contains(key), key);
        QCOMPARE(told.at("chain")[0].at("toDevice"), "wall-1");
        QCOMPARE(told.at("chain")[0].at("toPort"), "X2");
        QCOMPARE(told.at("chain")[0].at("label"), "OF-002");
        QCOMPARE(told.at("lengthM").get<double>(), 12.0);
        QCOMPARE(told.at("connections").get<int>(), 0);
        QVERIFY(std::abs(told.at("lossDb").get<double>() - 0.036) < 1e-9); // 12 m of OM4 at 850 nm
        QCOMPARE(ran({"chain", demo, "nobody:1"}).code, 2);
        QCOMPARE(ran({"chain", demo, "acc-1"}).code, 2);
        QCOMPARE(ran({"chain", demo, "acc-1:99"}).code, 2);
    }

    void a_chain_that_ends_in_the_open_says_so() {
        const std::string quay = UNDERRIDGE_ROOT "/demo/fennick-quay.underridge";
        const auto whole = ran({"chain", quay, "outlet-2:1", "--json"});
        QCOMPARE(whole.code, 0);
        const auto told = json::parse(whole.out);
        QCOMPARE(told.at("chain").size(), std::size_t{3});
        QCOMPARE(told.at("connections").get<int>(), 2);
        QCOMPARE(told.at("lengthM").get<double>(), 41.0);
        // Nothing is plugged in behind the panel.
        const auto open =
            ran({"chain", "-", "sw:1", "--json"}, "name,model\nsw,access-switch-24\npp,patch-panel-24\n\n"
                                                  "from,from port,to,to port\nsw,1,pp,1\n");
        QCOMPARE(open.code, 1);
        const auto end = json::parse(open.out).at("ends");
        QCOMPARE((std::set<std::string>{end[0].at("end"), end[1].at("end")}),
                 (std::set<std::string>{"device", "open"}));
    }

    void quiet_leaves_out_remarks_and_nothing_else() {
        const std::string table = "name,model\nacc-1,access-switch-24\nacc-1,till\n";
        const auto loud = ran({"list", "-", "summary", "--json"}, table);
        const auto quiet = ran({"list", "-", "summary", "--json", "--quiet"}, table);
        QVERIFY(!loud.err.empty());
        QCOMPARE(quiet.err, std::string());
        QCOMPARE(quiet.out, loud.out);
        QCOMPARE(quiet.code, loud.code);
    }

    void merge_cables_takes_a_schedule_and_tells_what_became_of_each_row() {
        QTemporaryDir folder;
        const std::string out = folder.filePath("o.underridge").toStdString();
        const std::string csv = "label,from,from port,to,to port,length\nOF-003,acc-1,1,files-1,1,9\n"
                                "N-1,acc-1,20,edge-1,2,3\nN-2,acc-1,21,nobody,1,3\n";
        const auto r = ran({"merge-cables", demo, "-", "-o", out, "--json"}, csv);
        QCOMPARE(r.code, 1);
        const auto told = json::parse(r.out);
        for (const auto& [key, count] :
             std::map<std::string, int>{{"same", 0}, {"new", 1}, {"changed", 1}, {"wrong", 1}})
            QCOMPARE(told.at(key).get<int>(), count);
        QCOMPARE(told.at("rows").size(), std::size_t{3});
        QCOMPARE(told.at("rows")[2].at("line"), 4);
        QCOMPARE(json::parse(ran({"list", out, "links", "--json"}).out).size(), std::size_t{8});
        const auto again = ran({"merge-cables", out, "-", "-o", out, "--json"}, csv);
        QCOMPARE(json::parse(again.out).at("same").get<int>(), 2);
        QCOMPARE(ran({"merge-cables", demo, "-", "-o", out}, "a,b\n1,2\n").code, 3);
    }

    void the_list_of_ports_says_who_is_really_at_the_other_end() {
        const std::string port = UNDERRIDGE_ROOT "/demo/fennick-quay.underridge";
        const auto rows = json::parse(ran({"list", port, "ports", "--json"}).out);
        int past = 0;
        for (const auto& row : rows)
            if (row["device"] == "acc-o2" && row["port"] == "1") {
                QCOMPARE(row["peer"]["device"].get<std::string>(), std::string("pp-ctrl"));
                QCOMPARE(row["farEnd"]["device"].get<std::string>(), std::string("ws-office-1"));
                ++past;
            }
        QCOMPARE(past, 1);
    }

    void results_are_merged_and_labels_written() {
        QTemporaryDir folder;
        const std::string port = UNDERRIDGE_ROOT "/demo/fennick-quay.underridge",
                          out = folder.filePath("o.underridge").toStdString(),
                          pdf = folder.filePath("l.pdf").toStdString();
        const auto merged = ran({"merge-results", port, "-", "-o", out, "--json"},
                                "label,test,value,limit,unit\nFQ-001,loss,2.1,6.2,dB\nno-such,loss,1,2,dB\n");
        QCOMPARE(merged.code, 1); // one row is wrong
        QCOMPARE(json::parse(merged.out)["new"].get<int>(), 1);
        QCOMPARE(json::parse(merged.out)["wrong"].get<int>(), 1);
        QVERIFY(ran({"convert", out, "-"}).out.find("\"value\":2.1") != std::string::npos);
        QCOMPARE(ran({"labels", port, "-o", pdf}).code, 0);
        QFile file(QString::fromStdString(pdf));
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(file.readAll().startsWith("%PDF"));
        QCOMPARE(ran({"labels", port, "-o", "/nowhere/l.pdf"}).code, 4);
    }

    void a_workbook_goes_out_and_comes_in_as_a_schedule() {
        QTemporaryDir folder;
        const std::string port = UNDERRIDGE_ROOT "/demo/fennick-quay.underridge",
                          book = folder.filePath("b.xlsx").toStdString(),
                          out = folder.filePath("o.underridge").toStdString();
        QCOMPARE(ran({"convert", port, book}).code, 0);
        const auto merged = ran({"merge-cables", port, book, "-o", out, "--json"});
        QCOMPARE(merged.code, 0);
        const auto told = json::parse(merged.out);
        QVERIFY(told["same"].get<int>() > 150);
        QCOMPARE(told["new"].get<int>() + told["changed"].get<int>() + told["wrong"].get<int>(), 0);
        QCOMPARE(ran({"convert", out, "-"}).out, ran({"convert", port, "-"}).out);
    }

    void render_draws_and_tells_its_size() {
        QTemporaryDir folder;
        const std::string png = folder.filePath("o.png").toStdString();
        const auto r = ran({"render", demo, "-o", png, "--size", "800x500", "--theme", "dark", "--detail",
                            "near", "--json"});
        QCOMPARE(r.code, 0);
        const auto told = json::parse(r.out);
        QCOMPARE(QImage(QString::fromStdString(png)).size(), QSize(told["width"], told["height"]));
        QVERIFY(told.contains("elapsedMs"));
    }

    void overlays_are_laid_over_pictures() {
        QTemporaryDir folder;
        const auto file = [&](const char* name) {
            return folder.filePath(QLatin1String(name)).toStdString();
        };
        const std::string found = UNDERRIDGE_ROOT "/demo/fennick-quay-as-found.underridge";
        QCOMPARE(ran({"render", found, "-o", file("a.png"), "--size", "800x500"}).code, 0);
        QCOMPARE(ran({"render", found, "-o", file("b.png"), "--size", "800x500", "--overlay", "tree",
                      "--overlay", "vlan:20"})
                     .code,
                 0);
        QVERIFY(QImage(QString::fromStdString(file("a.png"))) !=
                QImage(QString::fromStdString(file("b.png"))));
        const auto wrong = ran({"render", found, "-o", file("c.png"), "--overlay", "vlan:5000"});
        QCOMPARE(wrong.code, 2);
        QVERIFY(wrong.err.find("vlan:5000 is no overlay") != std::string::npos);
        // On paper too: a halo more for each link of the tree.
        const auto paper = [&](const char* overlay, const std::string& to) {
            if (ran({"render", found, "-o", to, "--paper", "A4", "--sheet", "Routing", "--overlay", overlay})
                    .code != 0)
                return qsizetype(-1);
            QFile svg(QString::fromStdString(to));
            return svg.open(QIODevice::ReadOnly) ? svg.readAll().count("<p") : qsizetype(-1);
        };
        const auto plain = paper("age", file("p.svg")), haloed = paper("tree", file("t.svg"));
        QVERIFY2(plain > 0 && haloed > plain, qPrintable(QStringLiteral("%1 %2").arg(plain).arg(haloed)));
    }
    void findings_set_aside_do_not_count() {
        QTemporaryDir folder;
        const std::string file = folder.filePath("n.underridge").toStdString(),
                          acts = folder.filePath("acts").toStdString();
        const std::string found = UNDERRIDGE_ROOT "/demo/fennick-quay-as-found.underridge";
        const auto before = json::parse(ran({"check", found, "--json"}).out);
        QCOMPARE(before["findings"].size(), std::size_t(13));
        std::string lines;
        for (const auto& finding : before["findings"]) {
            json act{
                {"act", "set-aside"}, {"rule", finding["code"]}, {"reason", "known"}, {"of", json::array()}};
            for (const auto& subject : finding["subjects"])
                act["of"].push_back(subject["id"]);
            lines += act.dump() + "\n";
        }
        QFile script(QString::fromStdString(acts));
        QVERIFY(script.open(QIODevice::WriteOnly));
        script.write(QByteArray::fromStdString(lines));
        script.close();
        QCOMPARE(ran({"apply", found, acts, "-o", file}).code, 0);
        const auto after = ran({"check", file, "--json"});
        QCOMPARE(after.code, 0); // nothing counts
        QCOMPARE(json::parse(after.out)["findings"].size(), std::size_t(0));
        QCOMPARE(json::parse(after.out)["setAside"].size(), std::size_t(13));
        QCOMPARE(ran({"check", file}).out, std::string("13 set aside\n"));
        QCOMPARE(ran({"list", file, "devices", "--where", "finding:error"}).out, std::string());
    }

    void exit_codes_tell_what_went_wrong_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        const QString d = QString::fromStdString(demo);
        QTest::newRow("unknown option") << QStringList{"list", d, "devices", "--colour"} << 2;
        QTest::newRow("unknown what") << QStringList{"list", d, "unicorns"} << 2;
        QTest::newRow("missing argument") << QStringList{"list", d} << 2;
        QTest::newRow("unknown sheet") << QStringList{"list", d, "devices", "--sheet", "none"} << 2;
        QTest::newRow("no such file") << QStringList{"list", "/none.underridge", "devices"} << 3;
        QTest::newRow("not a network") << QStringList{"list", UNDERRIDGE_ROOT "/README.md", "devices"} << 3;
        QTest::newRow("cannot write") << QStringList{"convert", d, "/proc/none/x.csv"} << 4;
        QTest::newRow("no format by suffix") << QStringList{"convert", d, "/tmp/x.doc"} << 2;
        QTest::newRow("another format than stated")
            << QStringList{"list", d, "devices", "--from", "graphml"} << 3;
        QTest::newRow("bad suffix") << QStringList{"render", d, "-o", "/tmp/x.bmp"} << 2;
        QTest::newRow("bad size") << QStringList{"render", d, "-o", "/tmp/x.png", "--size", "12"} << 2;
        QTest::newRow("picture cannot be written") << QStringList{"render", d, "-o", "/proc/none/x.png"} << 4;
    }
    void exit_codes_tell_what_went_wrong() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        std::vector<std::string> words;
        for (const QString& a : arguments)
            words.push_back(a.toStdString());
        const auto r = ran(words);
        QCOMPARE(r.code, code);
        QVERIFY2(r.err.starts_with("underridge: "), r.err.c_str());
        QVERIFY(r.err.find(';') != std::string::npos); // what to do
        QVERIFY(r.out.empty());
    }

    void without_a_subcommand_the_window_opens() {
        QVERIFY(ran({}).window);
        QVERIFY(ran({"--demo"}).window);
        QVERIFY(ran({demo}).window);
        QVERIFY(!ran({"--version"}).window);
        QVERIFY(ran({"--help"}).out.find("render") != std::string::npos);
    }

    void a_broken_file_is_told_with_its_place() {
        const auto r =
            ran({"list", "-", "devices"},
                "{\"underridge\":1}\n{\"kind\":\"network\",\"id\":\"0123456789ab\"}\n{\"kind\":7}\n");
        QCOMPARE(r.code, 3);
        QVERIFY2(r.err.starts_with("underridge: -:3:1: "), r.err.c_str());
    }
};

UNDERRIDGE_TEST(CommandLineTest)
#include "command_line_test.moc"
