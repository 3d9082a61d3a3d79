// SPDX-License-Identifier: GPL-3.0-or-later
// Reach, loss and attenuation by the figures of the standards, written down here a second
// time.
#include "core/linking/standards.h"
#include "tests/support/registered.h"

using namespace underridge;

class ReachTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_phy_reaches_as_far_as_its_clause_says_data() {
        QTest::addColumn<QString>("phy");
        QTest::addColumn<QString>("grade");
        QTest::addColumn<int>("metres"); // 0: does not run over it
        QTest::addColumn<double>("lossDb");
        const auto row = [](const char* phy, const char* grade, int metres, double lossDb) {
            QTest::addRow("%s over %s", phy, grade) << phy << grade << metres << lossDb;
        };
        row("100BASE-FX", "OM1", 2000, 11);
        for (const char* grade : {"OM2", "OM3", "OM4", "OM5"})
            row("100BASE-FX", grade, 2000, 6);
        for (const char* grade : {"OS1", "OS1a", "OS2"}) {
            row("100BASE-LX10", grade, 10'000, 6);
            row("1000BASE-LX", grade, 5000, 4.57);
            row("1000BASE-BX10-U", grade, 10'000, 5.5);
            row("1000BASE-BX10-D", grade, 10'000, 5.5);
            row("10GBASE-LR", grade, 10'000, 6.2);
            row("10GBASE-ER", grade, 30'000, 10.9);
            row("25GBASE-LR", grade, 10'000, 6.3);
            row("40GBASE-LR4", grade, 10'000, 6.7);
            row("100GBASE-LR4", grade, 10'000, 6.3);
        }
        row("1000BASE-SX", "OM1", 275, 2.6);
        for (const char* grade : {"OM2", "OM3", "OM4", "OM5"})
            row("1000BASE-SX", grade, 550, 3.56);
        for (const char* grade : {"OM1", "OM2", "OM3", "OM4", "OM5"})
            row("1000BASE-LX", grade, 550, 2.35);
        row("10GBASE-SR", "OM1", 33, 1.6);
        row("10GBASE-SR", "OM2", 82, 1.8);
        row("10GBASE-SR", "OM3", 300, 2.6);
        for (const char* grade : {"OM4", "OM5"}) {
            row("10GBASE-SR", grade, 400, 2.9);
            row("25GBASE-SR", grade, 100, 1.9);
            row("40GBASE-SR4", grade, 150, 1.5);
            row("100GBASE-SR4", grade, 100, 1.9);
        }
        row("25GBASE-SR", "OM3", 70, 1.8);
        row("40GBASE-SR4", "OM3", 100, 1.9);
        row("100GBASE-SR4", "OM3", 70, 1.8);
        // What does not run over what.
        row("10GBASE-SR", "OS2", 0, 0);
        row("10GBASE-LR", "OM4", 0, 0);
        row("25GBASE-SR", "OM2", 0, 0);
        row("1000BASE-SX", "Cat 6A", 0, 0);
        row("1000BASE-T", "OM4", 0, 0);
        // Copper: 100 m from the category the clause asks for upwards.
        for (const char* grade : {"Cat 5e", "Cat 6", "Cat 6A", "Cat 7", "Cat 7A", "Cat 8"})
            for (const char* phy : {"10BASE-T", "100BASE-TX", "1000BASE-T", "2.5GBASE-T", "5GBASE-T"})
                row(phy, grade, 100, 0);
        row("10GBASE-T", "Cat 5e", 0, 0);
        row("10GBASE-T", "Cat 6", 55, 0);
        for (const char* grade : {"Cat 6A", "Cat 7", "Cat 7A", "Cat 8"})
            row("10GBASE-T", grade, 100, 0);
        row("25GBASE-T", "Cat 7A", 0, 0);
        row("25GBASE-T", "Cat 8", 30, 0);
        row("40GBASE-T", "Cat 8", 30, 0);
    }
    void a_phy_reaches_as_far_as_its_clause_says() {
        QFETCH(QString, phy);
        QFETCH(QString, grade);
        QFETCH(int, metres);
        QFETCH(double, lossDb);
        const auto reach = linking::reachOf(phy.toStdString(), grade.toStdString());
        QCOMPARE(reach.has_value(), metres > 0);
        if (!reach)
            return;
        QCOMPARE(reach->mm, metres * 1000LL);
        QCOMPARE(reach->lossDb, lossDb);
        QVERIFY(std::string_view(reach->source).starts_with("IEEE 802.3"));
    }

    void fibre_loses_what_its_class_may_at_the_wavelength() {
        QCOMPARE(linking::attenuationDbPerKm("OM1", 850), 3.5);
        QCOMPARE(linking::attenuationDbPerKm("OM2", 850), 3.5);
        for (const char* grade : {"OM3", "OM4", "OM5"})
            QCOMPARE(linking::attenuationDbPerKm(grade, 850), 3.0);
        for (const char* grade : {"OM1", "OM2", "OM3", "OM4", "OM5"})
            QCOMPARE(linking::attenuationDbPerKm(grade, 1300), 1.5);
        for (const int wavelength : {1310, 1550}) {
            QCOMPARE(linking::attenuationDbPerKm("OS1a", wavelength), 1.0);
            QCOMPARE(linking::attenuationDbPerKm("OS2", wavelength), wavelength == 1310 ? 0.4 : 0.22);
        }
        QCOMPARE(linking::attenuationDbPerKm("Cat 6A", 850), 0.0);
        QCOMPARE(linking::connectorLossDb, 0.75);
        QCOMPARE(linking::spliceLossDb, 0.3);
    }

    void a_speed_over_copper_has_one_phy() {
        const std::map<int, std::string_view> phys{{10, "10BASE-T"},      {100, "100BASE-TX"},
                                                   {1000, "1000BASE-T"},  {2500, "2.5GBASE-T"},
                                                   {5000, "5GBASE-T"},    {10'000, "10GBASE-T"},
                                                   {25'000, "25GBASE-T"}, {40'000, "40GBASE-T"},
                                                   {100'000, ""},         {0, ""}};
        for (const auto& [mbps, phy] : phys)
            QVERIFY(linking::copperPhy(mbps) == phy);
    }
};

UNDERRIDGE_TEST(ReachTest)
#include "reach_test.moc"
