// SPDX-License-Identifier: GPL-3.0-or-later
// What the headers promise of threads: values may be read, written out and let go of
// anywhere while their successors are made. Worth its time under the thread sanitizer.
#include "core/analysis/running_findings.h"
#include "core/edit/document.h"
#include "core/exchange/foreign.h"
#include "core/exchange/own_format.h"
#include "core/scene/scene.h"
#include "tests/support/large_network.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"
#include "tests/support/routed_campus.h"

#include <atomic>
#include <thread>

using namespace underridge;
using namespace underridge::model;
using tests::RandomEdits;

class ThreadsTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_document_is_edited_while_others_save_it_draw_it_and_write_it_out() {
        MemoryFiles files;
        std::int64_t clock = 0;
        RandomEdits edits(5);
        edit::Document document =
            edit::Document::fresh({files, "/state", [&clock] { return clock += 5000; }}, edits.start());
        const SheetId sheet = document.network().sheetsInOrder().front().id;
        for (int round = 0; round < 8; ++round) {
            const Network value = document.network();
            const std::string expected = exchange::writeOwn(value);
            auto saving = document.beginSave("/net.underridge");
            std::atomic<int> agreed = 0;
            Result<std::uint64_t> written = std::uint64_t{0};
            {
                std::jthread saver([&] { written = edit::Document::write(files, saving); });
                std::jthread drawer(
                    [&agreed, value, sheet] { agreed += scene::Scene::build(value, sheet).gridIsTrue(); });
                std::jthread writer([&agreed, value, &expected] {
                    agreed += exchange::writeOwn(value) == expected;
                    static_cast<void>(exchange::write(value, exchange::Format::graphml));
                });
                for (int i = 0; i < 8; ++i)
                    if (auto act = edits.act(document.network()))
                        static_cast<void>(document.apply(*std::move(act), {}, {}));
            }
            QCOMPARE(agreed.load(), 2);
            QVERIFY(written);
            QCOMPARE(*files.read("/net.underridge"), expected);
            document.endSave(saving, *written);
        }
        QVERIFY(document.network().indicesAreTrue());
    }

    void what_is_split_among_threads_where_there_is_much_comes_out_whole() {
        const Network large = tests::largeGrouped(1200);
        const auto own = exchange::readOwn(exchange::writeOwn(large), "own");
        QVERIFY(own && own->network == large && own->network.indicesAreTrue());
        const SheetId sheet = large.sheetsInOrder().front().id;
        const auto scene = scene::Scene::build(large, sheet);
        QVERIFY(scene.gridIsTrue() && scene == scene::Scene::build(own->network, sheet));
        const Catalogue catalogue = exchange::builtInCatalogue();
        const auto graph = exchange::readAny(exchange::write(large, exchange::Format::graphml).bytes,
                                             {"large.graphml", catalogue});
        QVERIFY(graph && graph->network.indicesAreTrue());
        QCOMPARE(graph->network.all<Device>().size(), large.all<Device>().size());
        QCOMPARE(graph->network.all<Link>().size(), large.all<Link>().size());
    }

    void several_look_for_findings_in_what_forwarding_all_share() {
        Network campus = tests::routedCampus(300);
        LinkId some; // without it something is wrong
        campus.all<Link>().forEach([&](const Link& link) { some = link.id; });
        campus.erase<Link>({some.value, 0});
        const auto forwarding = std::make_shared<const analysis::Forwarding>(campus);
        std::array<std::size_t, 3> found{};
        {
            std::vector<std::jthread> lookers;
            for (std::size_t& each : found)
                lookers.emplace_back([&] {
                    analysis::RunningFindings running;
                    running.update(forwarding, campus);
                    each = running.findings().size();
                });
        }
        QVERIFY(found[0] > 0);
        QCOMPARE(found[1], found[0]);
        QCOMPARE(found[2], found[0]);
    }

    void readers_share_the_catalogue() {
        const Catalogue catalogue = exchange::builtInCatalogue();
        const std::string csv = "from,from port,to,to port\na,1,b,1\nb,2,c,1\n";
        std::atomic<int> good = 0;
        {
            std::vector<std::jthread> readers;
            for (int i = 0; i < 4; ++i)
                readers.emplace_back([&] {
                    for (int round = 0; round < 5; ++round)
                        good +=
                            exchange::readAny(csv, {"links.csv", catalogue})->network.all<Device>().size() ==
                            3;
                });
        }
        QCOMPARE(good.load(), 20);
    }
};

UNDERRIDGE_TEST(ThreadsTest)
#include "threads_test.moc"
