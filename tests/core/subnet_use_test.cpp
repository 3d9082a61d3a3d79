// SPDX-License-Identifier: GPL-3.0-or-later
// How much of a subnet is used, and where in it.
#include "core/analysis/subnet_use.h"
#include "tests/support/forwarded.h"
#include "tests/support/registered.h"

#include <numeric>

using namespace underridge;
using namespace underridge::model;
using analysis::useOf;

namespace {

/// A switch with addresses on its ports, one after another.
struct Addressed : tests::Forwarded {
    explicit Addressed(std::initializer_list<const char*> addresses, const std::string& vrf = {}) {
        acts("{'act':'add','model':'access-switch-24','names':'r'}");
        int port = 0;
        for (const char* address : addresses)
            acts(fmt::format("{{'act':'interface','device':'r','port':'{}','addresses':['{}'],'vrf':'{}'}}",
                             ++port, address, vrf));
    }
    analysis::SubnetUse use(const char* subnet, int parts = 4, const std::string& vrf = {}) const {
        return useOf(network, subnet, vrf, parts);
    }
};

} // namespace

class SubnetUseTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void addresses_are_counted_where_they_lie() {
        const Addressed n(
            {"10.84.1.1/24", "10.84.1.2/24", "10.84.1.255/24", "10.84.1.200/24", "10.84.2.1/24"});
        const auto use = n.use("10.84.1.0/24");
        QCOMPARE(use.size, std::uint64_t{254});
        QCOMPARE(use.used, std::uint64_t{3}); // not the broadcast address
        QCOMPARE(use.filled.size(), std::size_t{4});
        QCOMPARE(use.filled[0], 2.0 / 64);
        QCOMPARE(use.filled[1], 0.0);
        QCOMPARE(use.filled[3], 1.0 / 64);
    }
    void an_address_two_have_counts_once() {
        const Addressed n({"10.84.1.1/24", "10.84.1.1/24"});
        QCOMPARE(n.use("10.84.1.0/24").used, std::uint64_t{1});
    }
    void each_vrf_counts_its_own() {
        const Addressed n({"10.84.1.1/24"}, "red");
        QCOMPARE(n.use("10.84.1.0/24").used, std::uint64_t{0});
        QCOMPARE(n.use("10.84.1.0/24", 4, "red").used, std::uint64_t{1});
    }
    void sizes_follow_the_length() {
        const Addressed n({"10.84.1.0/31", "10.84.1.1/31"});
        QCOMPARE(n.use("10.84.1.0/31").size, std::uint64_t{2}); // RFC 3021
        QCOMPARE(n.use("10.84.1.0/31").used, std::uint64_t{2});
        QCOMPARE(n.use("10.84.1.1/32").size, std::uint64_t{1});
        QCOMPARE(n.use("10.84.1.0/30").size, std::uint64_t{2});
        QCOMPARE(n.use("0.0.0.0/0").size, (std::uint64_t{1} << 32) - 2);
        QCOMPARE(n.use("fd84:fe::/64").size, std::uint64_t{1} << 63);
        QCOMPARE(n.use("nonsense").size, std::uint64_t{0});
        QCOMPARE(n.use("10.84.1.0").size, std::uint64_t{0});
        QVERIFY(n.use("10.84.1.0/24", 0).filled.empty());
    }
    void parts_smaller_than_an_address_fill_up() {
        const Addressed n({"10.84.1.1/30", "10.84.1.2/30"});
        const auto use = n.use("10.84.1.0/30", 64);
        for (const double filled : use.filled)
            QVERIFY(filled >= 0 && filled <= 1);
        QCOMPARE(std::accumulate(use.filled.begin(), use.filled.end(), 0.0), 2.0);
    }
    void addresses_of_version_6_lie_somewhere_too() {
        const Addressed n({"fd84:fe::1/64", "fd84:fe::ffff:ffff:ffff:ffff/64"});
        const auto use = n.use("fd84:fe::/64");
        QCOMPARE(use.used, std::uint64_t{2});
        QVERIFY(use.filled.front() > 0 && use.filled.back() > 0);
        QCOMPARE(use.filled[1], 0.0);
    }
    void subnets_in_use_without_a_record_are_told_once() {
        Addressed n({"10.84.1.1/24", "10.84.1.2/24", "10.84.2.1/32", "10.84.3.1/24"});
        n.network.put(Subnet{n.ids.make<SubnetId>(), "10.84.3.0/24", {}, {}, {}, {}, {}, {}});
        const auto found = analysis::subnetsWithoutRecord(n.network);
        QCOMPARE(found.size(), std::size_t{1});
        QCOMPARE(found.front().second.text(), std::string("10.84.1.0/24"));
    }
};

UNDERRIDGE_TEST(SubnetUseTest)
#include "subnet_use_test.moc"
