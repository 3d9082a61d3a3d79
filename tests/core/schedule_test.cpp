// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/schedule.h"
#include "core/exchange/catalogue_file.h"
#include "core/exchange/foreign.h"
#include "tests/support/first_office.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using edit::Match;

namespace {

struct Office {
    Office() : catalogue(exchange::builtInCatalogue()), ids(9), network(tests::firstOffice()) {}
    Result<edit::Schedule> merge(const std::string& text) {
        return edit::mergeSchedule(network, catalogue, text, "cables.csv", ids);
    }
    /// What becomes of each row, and why.
    QStringList matches(const std::string& text) {
        QStringList out;
        const auto schedule = merge(text);
        for (const auto& row : schedule->rows)
            out << QString::fromUtf8(edit::textOf(row.match).data());
        return out;
    }
    std::string why(const std::string& text) { return merge(text)->rows.front().why; }

    Catalogue catalogue;
    IdSource ids;
    Network network;
};

const std::string header = "label,from,from port,to,to port,cable,length m\n";

} // namespace

class ScheduleTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void rows_are_same_new_changed_or_wrong() {
        Office office;
        const auto schedule = office.merge(header + "OF-002,wall-1,X2,acc-1,X1,OM4 duplex LC,12\n"
                                                    ",acc-1,9,desk-1,2,Cat 6A cord,4\n"
                                                    "OF-003,acc-1,1,files-1,1,,9.5\n"
                                                    "OF-100,acc-1,10,nobody,1,,3\n");
        QVERIFY(schedule);
        QCOMPARE(schedule->count(Match::same), 1);
        QCOMPARE(schedule->count(Match::wrong), 2); // desk-1 has no second port, and nobody is not there
        QCOMPARE(schedule->count(Match::changed), 1);
        QCOMPARE(schedule->rows[2].why, std::string("length 8 m becomes 9.5 m"));
        QVERIFY(schedule->rows[3].why.find("no device nobody") != std::string::npos);
        QCOMPARE(schedule->rows[3].line, 5);
        const auto act = edit::takeSchedule(*schedule);
        QVERIFY(act);
        QCOMPARE(act->network
                     .cable(act->network.linkAt({schedule->network.link(schedule->rows[2].link)->a})->cable)
                     ->lengthMm,
                 std::int64_t{9500});
    }

    void new_cables_are_made_over_the_ports_named_or_the_best() {
        Office office;
        const std::size_t before = office.network.all<Link>().size();
        const auto schedule =
            office.merge("from;to;label;length\nacc-1:20;edge-1:2;OF-050;1,5\nacc-1;files-1;OF-051;3 m\n");
        QVERIFY(schedule);
        QCOMPARE(schedule->count(Match::added), 2);
        QCOMPARE(schedule->network.all<Link>().size(), before + 2);
        const Link* link = schedule->network.link(schedule->rows[0].link);
        QCOMPARE(link->a.port, std::string("20"));
        QCOMPARE(schedule->network.cable(link->cable)->lengthMm, std::int64_t{1500});
        QCOMPARE(schedule->network.cable(link->cable)->label, std::string("OF-050"));
        QVERIFY(schedule->network.indicesAreTrue());
    }

    void a_mains_cord_feeds_and_is_no_link() {
        Office office;
        const auto stand = [&](const char* model, const char* name) {
            Device device;
            device.id = office.ids.make<DeviceId>();
            device.name = name;
            device.model = model;
            office.network.put(*office.catalogue.device(model));
            office.network.put(device);
            return device.id;
        };
        stand("pdu", "pdu-1");
        const DeviceId core = stand("core-switch-modular", "core-1"), server = stand("server", "srv-1");
        const std::size_t links = office.network.all<Link>().size();
        const std::string rows = header + "PW-1,pdu-1,O1,core-1,P1,,1.5\n"
                                          "PW-2,srv-1,,pdu-1,O2,mains-c14-c13,2\n";
        auto schedule = office.merge(rows);
        QCOMPARE(schedule->count(Match::added), 2);
        QCOMPARE(schedule->network.all<Link>().size(), links);
        const auto feedOf = [&](DeviceId id) { return office.network.device(id)->feeds.front(); };
        office.network = schedule->network;
        QCOMPARE(feedOf(core).outlet, std::string("O1"));
        QCOMPARE(office.network.cable(feedOf(core).cable)->lengthMm, std::int64_t{1500});
        QCOMPARE(office.network.cable(feedOf(server).cable)->label, std::string("PW-2"));
        // Once more it is the same; elsewhere it is another outlet; one outlet feeds one.
        QCOMPARE(office.matches(rows), QStringList({"same", "same"}));
        QCOMPARE(office.matches(header + "PW-1,core-1,P1,pdu-1,O4,,1.5\n"), QStringList("changed"));
        QCOMPARE(office.why(header + "PW-1,core-1,P1,pdu-1,O4,,1.5\n"),
                 std::string("fed from another outlet; "
                             "label not set becomes PW-1; length not set becomes 1.5 m"));
        QVERIFY(office.why(header + ",core-1,P2,pdu-1,O2,,\n").find("feeds another supply") !=
                std::string::npos);
        QCOMPARE(office.matches(header + ",core-1,P2,pdu-1,O5,,\n,pdu-1,O6,core-1,P2,,\n"),
                 QStringList({"new", "wrong"}));
    }

    void a_label_finds_a_cable_that_has_moved() {
        Office office;
        const auto schedule = office.merge(header + "OF-003,acc-1,11,files-1,1,,\n");
        QCOMPARE(schedule->count(Match::changed), 1);
        const Link* link = schedule->network.linkAt({schedule->network.link(schedule->rows[0].link)->b});
        QVERIFY(link);
        QVERIFY(schedule->rows[0].why.find("becomes acc-1 11 to files-1 1") != std::string::npos);
        QVERIFY(schedule->network.indicesAreTrue());
    }

    void what_cannot_be_is_told() {
        Office office;
        QVERIFY(office.why(header + "X,acc-1,1,edge-1,1,,\n").find("taken") != std::string::npos);
        QVERIFY(office.why(header + "X,acc-1,99,edge-1,1,,\n").find("no port 99") != std::string::npos);
        QVERIFY(office.why(header + "X,acc-1,20,edge-1,2,string,\n").find("no cable type") !=
                std::string::npos);
        QVERIFY(office.why(header + "OF-001,wall-1,X1,edge-1,X1,,80\n").find("longer than") !=
                std::string::npos);
        QVERIFY(office.why(header + "X,acc-1,20,edge-1,2,,long\n").find("not a length") != std::string::npos);
        QCOMPARE(office.matches(header + "OF-003,acc-1,1,files-1,1,,8\nOF-003,acc-1,1,files-1,1,,8\n"),
                 (QStringList{"same", "wrong"}));
        const auto none = office.merge("cable,colour\nx,y\n");
        QVERIFY(!none);
        QCOMPARE(none.refusal().where.line, 1);
        QVERIFY(!edit::takeSchedule(*office.merge(header)));
    }

    void every_way_of_writing_the_file_is_understood() {
        Office office;
        const QStringList same{"same"};
        QCOMPARE(office.matches("\xEF\xBB\xBF" + header + "OF-003,acc-1,1,files-1,1,,8\n"), same);
        QCOMPARE(
            office.matches(
                "Label\tFrom device\tPort A\tTo device\tPort B\tLength\nOF-003\tacc-1\t1\tfiles-1\t1\t8 m\n"),
            same);
        QCOMPARE(office.matches("\"To port\";\"To\";\"From port\";\"From\";\"Length "
                                "ft\"\r\n\"1\";\"acc-1\";\"1\";\"files-1\";\"26,25\"\r\n"),
                 same); // 8.001 m, shown as 8 m
        QCOMPARE(office.matches("length m,to,to port,from,from port\n\"8,0\",files-1,1,acc-1,1\n"), same);
    }

    void what_is_written_out_merges_as_the_same() {
        Office office;
        bool first = true;
        Network changed = office.network;
        office.network.all<Cable>().forEach([&](const Cable& held) {
            Cable cable = held;
            cable.status = std::exchange(first, false) ? CableStatus::planned : held.status;
            cable.jacket = "#AA5500";
            changed.put(cable);
        });
        office.network = changed;
        const auto written = exchange::writeCsv(office.network, exchange::Tables::links);
        const auto schedule = office.merge(written.bytes);
        QVERIFY(schedule);
        QCOMPARE(schedule->count(Match::same), 7);
        QCOMPARE(schedule->rows.size(), std::size_t{7});
        QVERIFY(schedule->network == office.network);
        // And comes back when it is read as a network of its own.
        const auto loaded = exchange::readAny(written.bytes, {"cables.csv", office.catalogue});
        int planned = 0, coloured = 0;
        loaded->network.all<Cable>().forEach([&](const Cable& cable) {
            planned += cable.status == CableStatus::planned;
            coloured += cable.jacket == "#AA5500";
        });
        QCOMPARE(planned, 1);
        QCOMPARE(coloured, 7);
    }
};

UNDERRIDGE_TEST(ScheduleTest)
#include "schedule_test.moc"
