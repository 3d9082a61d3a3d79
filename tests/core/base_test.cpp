// SPDX-License-Identifier: GPL-3.0-or-later
// Files on a real disk, texts and plane geometry.
#include "core/base/files.h"
#include "core/base/parallel.h"
#include "core/base/text.h"
#include "core/scene/geometry.h"
#include "core/scene/pieces.h"
#include "tests/support/registered.h"

#include <QFile>
#include <QTemporaryDir>
#include <atomic>
#include <set>
#include <thread>

using namespace underridge;
using scene::PointF;
using scene::Rect;

namespace {

/// The same promises on the disk and in memory.
struct Place {
    explicit Place(bool onDisk) : root(onDisk ? folder.path().toStdString() : std::string("/m")) {
        if (onDisk)
            files = std::make_unique<DiskFiles>();
        else
            files = std::make_unique<MemoryFiles>();
    }
    std::string path(const char* name) const { return root + "/" + name; }
    QTemporaryDir folder;
    std::string root;
    std::unique_ptr<Files> files;
};

} // namespace

class BaseTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void files_keep_their_promises_data() {
        QTest::addColumn<bool>("onDisk");
        QTest::newRow("disk") << true;
        QTest::newRow("memory") << false;
    }
    void files_keep_their_promises() {
        QFETCH(bool, onDisk);
        Place p(onDisk);
        Files& files = *p.files;
        QVERIFY(!files.exists(p.path("a")));
        const auto missing = files.read(p.path("a"));
        QVERIFY(!missing);
        QVERIFY(!missing.refusal().remedy.empty());
        QVERIFY(files.writeAtomically(p.path("a"), "one"));
        QVERIFY(files.writeAtomically(p.path("a"), "two\0three"));
        QCOMPARE(*files.read(p.path("a")), std::string("two"));
        QCOMPARE(files.list(p.root), std::vector<std::string>{"a"}); // nothing temporary is left
        {
            auto held = files.startAppending(p.path("j"), "begin ", Over::left);
            QVERIFY(held);
            QVERIFY(files.isHeld(p.path("j")));
            QVERIFY(!files.startAppending(p.path("j"), "other", Over::left));
            QVERIFY((*held)->append("more"));
            QVERIFY((*held)->sync());
            QCOMPARE(*files.read(p.path("j")), std::string("begin more"));
        }
        QVERIFY(!files.isHeld(p.path("j")));
        QVERIFY(files.startAppending(p.path("j"), "anew", Over::left));
        QCOMPARE(*files.read(p.path("j")), std::string("anew"));
        QVERIFY(files.remove(p.path("j")));
        QVERIFY(files.remove(p.path("j"))); // gone is gone
        QVERIFY(files.list(p.root + "/none").empty());
    }

    void a_saved_file_keeps_its_permissions_and_a_link_stays_a_link() {
        QTemporaryDir folder;
        DiskFiles files;
        const QString real = folder.filePath("real"), link = folder.filePath("link");
        QVERIFY(files.writeAtomically(real.toStdString(), "x"));
        QFile(real).setPermissions(QFile::ReadOwner | QFile::WriteOwner);
        QVERIFY(QFile::link(real, link));
        QVERIFY(files.writeAtomically(link.toStdString(), "y"));
        QVERIFY(QFileInfo(link).isSymLink());
        QCOMPARE(*files.read(real.toStdString()), std::string("y"));
        QVERIFY(!(QFile(real).permissions() & QFile::ReadOther));
    }

    void a_place_that_cannot_be_written_is_refused_and_left_clean() {
        DiskFiles files;
        QVERIFY(!files.writeAtomically("/proc/none/file", "x"));
        QVERIFY(!files.startAppending("/proc/none/file", "x", Over::left));
        QTemporaryDir folder;
        QVERIFY(!files.writeAtomically(folder.path().toStdString(), "a folder is no file"));
        QVERIFY(QDir(folder.path()).isEmpty());
    }

    void names_sort_as_people_sort_them() {
        std::vector<std::string> names{"acc-10", "acc-2", "Acc-1", "acc-02", "b", "acc", "acc-2b"};
        std::sort(names.begin(), names.end(), [](const auto& a, const auto& b) { return naturalLess(a, b); });
        QCOMPARE(names,
                 (std::vector<std::string>{"acc", "Acc-1", "acc-02", "acc-2", "acc-2b", "acc-10", "b"}));
        for (const auto& a : names) // a strict order
            for (const auto& b : names)
                QVERIFY(!(naturalLess(a, b) && naturalLess(b, a)));
    }

    void words_match_in_any_order_and_case() {
        QVERIFY(matchesWords("Access switch 24", "24 acc"));
        QVERIFY(matchesWords("Access switch 24", ""));
        QVERIFY(!matchesWords("Access switch 24", "24 router"));
    }

    void utf_8_is_checked_by_the_book_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<bool>("valid");
        QTest::newRow("ascii") << QByteArray("abc") << true;
        QTest::newRow("two") << QByteArray("\xc3\xa9") << true;
        QTest::newRow("four") << QByteArray("\xf0\x9f\x9a\xa2") << true;
        QTest::newRow("lone continuation") << QByteArray("\x80") << false;
        QTest::newRow("overlong") << QByteArray("\xc0\xaf") << false;
        QTest::newRow("overlong three") << QByteArray("\xe0\x80\xaf") << false;
        QTest::newRow("surrogate") << QByteArray("\xed\xa0\x80") << false;
        QTest::newRow("too high") << QByteArray("\xf4\x90\x80\x80") << false;
        QTest::newRow("cut off") << QByteArray("a\xe2\x82") << false;
    }
    void utf_8_is_checked_by_the_book() {
        QFETCH(QByteArray, bytes);
        QFETCH(bool, valid);
        QCOMPARE(isValidUtf8(bytes.toStdString()), valid);
        std::size_t last = 0, n = 0;
        forEachCodePoint(bytes.toStdString(), [&](char32_t, std::size_t at) {
            QVERIFY(n == 0 || at > last);
            last = at;
            ++n;
        });
        QVERIFY(n <= static_cast<std::size_t>(bytes.size()));
    }

    void segments_meet_rectangles_data() {
        QTest::addColumn<QPointF>("a");
        QTest::addColumn<QPointF>("b");
        QTest::addColumn<bool>("meets");
        QTest::newRow("through") << QPointF(-5, 5) << QPointF(15, 5) << true;
        QTest::newRow("inside") << QPointF(2, 2) << QPointF(3, 3) << true;
        QTest::newRow("past a corner") << QPointF(-3, 6) << QPointF(6, 15) << true;
        QTest::newRow("just past a corner") << QPointF(-6, 6) << QPointF(4, 16) << false;
        QTest::newRow("beside") << QPointF(-5, 11) << QPointF(15, 11) << false;
        QTest::newRow("a point") << QPointF(5, 5) << QPointF(5, 5) << true;
        QTest::newRow("stops short") << QPointF(-5, 5) << QPointF(-1, 5) << false;
    }
    void segments_meet_rectangles() {
        QFETCH(QPointF, a);
        QFETCH(QPointF, b);
        QFETCH(bool, meets);
        const Rect rect{0, 0, 10, 10};
        QCOMPARE(scene::segmentMeets({a.x(), a.y()}, {b.x(), b.y()}, rect), meets);
        QCOMPARE(scene::segmentMeets({b.x(), b.y()}, {a.x(), a.y()}, rect), meets);
    }

    void what_two_rectangles_have_in_common_is_empty_where_they_do_not_meet() {
        const Rect a{0, 0, 10, 10};
        QVERIFY(a.common({4, -5, 20, 8}) == (Rect{4, 0, 6, 3}));
        QVERIFY(a.common(a) == a);
        QVERIFY(a.common({10, 0, 5, 5}).empty() && a.common({40, 40, 5, 5}).empty());
        QVERIFY(a.united({4, -5, 20, 8}).contains(a.common({4, -5, 20, 8})));
    }

    void points_along_a_path() {
        const std::vector<PointF> path{{0, 0}, {10, 0}, {10, 20}};
        QCOMPARE(scene::pathLength(path), 30.0);
        QVERIFY(scene::alongPath(path, 5).at == (PointF{5, 0}));
        QVERIFY(scene::alongPath(path, 15).at == (PointF{10, 5}));
        QVERIFY(scene::alongPath(path, 15).direction == (PointF{0, 1}));
        QCOMPARE(scene::distanceToSegment({5, 3}, {0, 0}, {10, 0}), 3.0);
        QCOMPARE(scene::distanceToSegment({-4, 3}, {0, 0}, {10, 0}), 5.0);
        QVERIFY(scene::boundsOf(path) == (Rect{0, 0, 10, 20}));
    }

    void pieces_of_a_path_are_short_in_order_and_leave_nothing_out() {
        const std::vector<PointF> path{{0, 0}, {1000, 0}, {1000, 30}, {1000, 30}};
        PointF at = path.front();
        int pieces = 0;
        scene::forEachPiece(path, 256, [&](PointF from, PointF to) {
            QVERIFY(scene::length(from - at) < 1e-9);
            QVERIFY(scene::length(to - from) <= 256);
            at = to;
            ++pieces;
        });
        QCOMPARE(pieces, 4 + 1 + 1);
        QVERIFY(at == path.back());
        scene::forEachPiece({{3, 4}}, 10, [&](PointF, PointF) { ++pieces; });
        QCOMPARE(pieces, 6); // a single point has none
    }

    void work_side_by_side_is_all_done_and_little_of_it_by_one_thread() {
        for (const bool much : {false, true}) {
            std::array<std::thread::id, 3> by;
            inParallel(much, {[&] { by[0] = std::this_thread::get_id(); },
                              [&] { by[1] = std::this_thread::get_id(); },
                              [&] { by[2] = std::this_thread::get_id(); }});
            QVERIFY(by[0] == std::this_thread::get_id());
            for (const auto& each : by)
                QVERIFY(each != std::thread::id());
            QCOMPARE(std::set(by.begin(), by.end()).size(), much ? std::size_t{3} : std::size_t{1});
        }
    }

    void every_index_has_its_turn_once_however_many_runs_there_are() {
        for (const std::size_t count : {0U, 1U, 7U, 1000U})
            for (const std::size_t atLeast : {0U, 1U, 10U, 5000U}) {
                std::vector<std::atomic<int>> turns(count);
                forEachIndex(count, atLeast, [&](std::size_t i) { ++turns[i]; });
                QVERIFY(std::all_of(turns.begin(), turns.end(), [](const auto& each) { return each == 1; }));
            }
    }

    void a_remark_reads_as_one_line() {
        const Remark remark = error("the name is empty", "type one", {"a.underridge", 3, 7, "acc-1"});
        QCOMPARE(remark.text(), std::string("a.underridge:3:7: acc-1: the name is empty; type one"));
        QCOMPARE(warning("odd").text(), std::string("odd"));
    }
};

UNDERRIDGE_TEST(BaseTest)
#include "base_test.moc"
