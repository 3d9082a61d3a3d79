// SPDX-License-Identifier: GPL-3.0-or-later
// What an expert says of links, and what the program does: tests/core/situations.json holds
// the situations, each with the answer and where it comes from.
#include "core/edit/remedies.h"
#include "core/exchange/record_json.h"
#include "core/linking/judging.h"
#include "tests/support/registered.h"
#include "tests/support/workbench.h"

#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QJsonObject>

using namespace underridge;
using namespace underridge::model;
using tests::text;

namespace {

QJsonObject situations() {
    QFile file(QStringLiteral(UNDERRIDGE_ROOT "/tests/core/situations.json"));
    if (!file.open(QIODevice::ReadOnly))
        qFatal("no situations");
    QJsonParseError wrong;
    const auto json = QJsonDocument::fromJson(file.readAll(), &wrong);
    if (json.isNull())
        qFatal("%s", qPrintable(wrong.errorString()));
    return json.object();
}

/// Lays out one situation after the other.
struct Bench : tests::Workbench {
    explicit Bench(const QJsonArray& models) {
        std::vector<DeviceModel> own;
        const std::string written = QJsonDocument(models).toJson(QJsonDocument::Compact).toStdString();
        if (auto read = exchange::readEntries(written, "situations.json", own); !read)
            qFatal("%s", read.refusal().text().c_str());
        catalogue.devices.insert(catalogue.devices.end(), own.begin(), own.end());
        for (const CableType& type : catalogue.cables)
            network.put(type);
        for (const TransceiverModel& model : catalogue.transceivers)
            network.put(model);
        for (const DeviceModel& model : own)
            if (!problemsOf(model).empty())
                qFatal("%s", problemsOf(model).front().text().c_str());
    }

    PortRef end(const QString& said) {
        const QStringList parts = said.split(':');
        return {add(parts[0].toStdString()), parts[1].toStdString()};
    }
    void fit(const PortRef& port, const QString& optics) {
        if (optics.isEmpty())
            return;
        if (!catalogue.transceiver(optics.toStdString()))
            qFatal("no transceiver %s", qPrintable(optics));
        Device device = *network.device(port.device);
        device.transceivers.push_back({port.port, optics.toStdString(), {}});
        network.put(device);
    }
    void set(const PortRef& ref, const QJsonObject& how) {
        if (how.isEmpty())
            return;
        port(ref, [&](Port& record) {
            record.speed = how["speed"].toInt();
            record.duplex = fromText<Duplex>(how["duplex"].toString("auto").toStdString()).value();
            record.fec = fromText<Fec>(how["fec"].toString("auto").toStdString()).value();
            record.powerOff = how["powerOff"].toBool();
            record.disabled = how["disabled"].toBool();
        });
    }
    LinkId join(const PortRef& a, const PortRef& b, const QString& said, bool console, double measured) {
        Link link;
        link.id = ids.make<LinkId>();
        link.a = a;
        link.b = b;
        link.console = console;
        if (said == "-") { // through the air
            link.medium = Medium::radio;
            network.put(link);
            return link.id;
        }
        const QStringList parts = said.split(' ');
        if (!catalogue.cable(parts[0].toStdString()))
            qFatal("no cable %s", qPrintable(parts[0]));
        Cable cable;
        cable.id = ids.make<CableId>();
        cable.type = parts[0].toStdString();
        cable.lengthMm = std::llround(parts[1].toDouble() * 1000);
        cable.ends = {{a, {}}, {b, {}}};
        if (parts.size() > 2)
            measured = parts[2].toDouble();
        if (measured > 0)
            cable.measured = {{"insertion loss 1550 nm", measured, 11, "dB"}};
        link.cable = cable.id;
        network.put(cable);
        network.put(link);
        return link.id;
    }
    void lay(const QJsonObject& situation, PortRef from) {
        const QJsonArray chain = situation["chain"].toArray();
        fit(from, situation["opticsA"].toString());
        set(from, situation["setA"].toObject());
        for (qsizetype i = 0; i < chain.size(); i += 2) {
            PortRef to, onwards;
            if (i + 1 < chain.size()) {
                const QStringList parts = chain[i + 1].toString().split(' ');
                const QStringList ports = parts[1].split('>');
                const DeviceId panel = add(parts[0].toStdString());
                to = {panel, ports[0].toStdString()};
                onwards = {panel, ports[1].toStdString()};
            } else {
                to = end(situation["b"].toString());
                fit(to, situation["opticsB"].toString());
                set(to, situation["setB"].toObject());
            }
            join(from, to, chain[i].toString(), situation["console"].toBool(),
                 situation["measured"].toDouble());
            from = onwards;
        }
    }
    std::vector<linking::Finding> findings() const { return linking::check(network, catalogue); }
    QStringList codes() const {
        QStringList out;
        for (const auto& finding : findings())
            out << QString::fromUtf8(finding.rule->code.data(),
                                     static_cast<qsizetype>(finding.rule->code.size()));
        return out;
    }
};

QString told(const std::vector<linking::Finding>& findings) {
    QStringList out;
    for (const auto& finding : findings)
        out << text(finding.message + "; " + finding.remedy.words);
    return out.join('\n');
}

} // namespace

class SituationsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void initTestCase() { all_ = situations(); }

    void the_program_says_what_an_expert_says_data() {
        QTest::addColumn<QJsonObject>("situation");
        int at = 0;
        for (const auto& each : all_["situations"].toArray())
            if (!tests::isSanitized || at++ % 4 == 0) // each takes ten times as long there
                QTest::newRow(qPrintable(each.toObject()["say"].toString())) << each.toObject();
    }
    void the_program_says_what_an_expert_says() {
        QFETCH(QJsonObject, situation);
        Bench bench(all_["models"].toArray());
        const PortRef first = bench.end(situation["a"].toString());
        for (int i = 0; i < situation["repeat"].toInt(1); ++i)
            bench.lay(situation,
                      i == 0 ? first : PortRef{first.device, std::to_string(std::stoi(first.port) + i)});
        QStringList expected;
        for (const auto& code : situation["expect"].toArray())
            expected << code.toString();
        QVERIFY2(bench.codes() == expected,
                 qPrintable(QString("%1 instead of %2\n%3")
                                .arg(bench.codes().join(' '), expected.join(' '), told(bench.findings()))));
    }

    /// A remedy that can be applied takes its finding away and adds none.
    void a_remedy_puts_right_and_breaks_nothing_data() { the_program_says_what_an_expert_says_data(); }
    void a_remedy_puts_right_and_breaks_nothing() {
        QFETCH(QJsonObject, situation);
        if (situation["repeat"].toInt() > 2)
            return;
        Bench bench(all_["models"].toArray());
        bench.lay(situation, bench.end(situation["a"].toString()));
        const auto before = bench.findings();
        for (const auto& finding : before) {
            const auto act = edit::applyRemedy(bench.network, bench.catalogue, finding, bench.ids);
            QCOMPARE(static_cast<bool>(act), finding.remedy.kind != linking::Remedy::Kind::none);
            if (!act)
                continue;
            for (const auto& after : linking::check(act->network, bench.catalogue)) {
                QVERIFY2(after.message != finding.message, after.message.c_str());
                const bool known = std::any_of(before.begin(), before.end(), [&](const auto& each) {
                    return each.message == after.message;
                });
                QVERIFY2(known, qPrintable(text(finding.message + "\nby: " + finding.remedy.words +
                                                "\nnew: " + after.message)));
            }
        }
    }

    void what_a_loss_is_made_of_is_said() {
        Bench bench(all_["models"].toArray());
        QJsonObject four;
        for (const auto& each : all_["situations"].toArray())
            if (each.toObject()["say"] == "10GBASE-SR, four panels")
                four = each.toObject();
        bench.lay(four, bench.end(four["a"].toString()));
        QCOMPARE(bench.codes().join(' '), QString("loss"));
        const QString message = text(bench.findings().front().message);
        QVERIFY2(message.contains("3.2 dB of 2.9 dB: four connections 3.0, 66 m of OM4 0.2"),
                 qPrintable(message));
    }

private:
    QJsonObject all_;
};

UNDERRIDGE_TEST(SituationsTest)
#include "situations_test.moc"
