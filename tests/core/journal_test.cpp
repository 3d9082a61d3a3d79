// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/document.h"
#include "core/exchange/own_format.h"
#include "tests/support/random_edits.h"
#include "tests/support/registered.h"

using namespace underridge;
using namespace underridge::model;
using edit::Document;
using tests::RandomEdits;

namespace {

const std::string folder = "/state/journal";

struct Desk {
    MemoryFiles files;
    std::int64_t clock = 0;
    RandomEdits edits{11};
    edit::World world{files, folder, [this] { return clock += 5000; }};

    /// Applies random acts; the values after each, the first included.
    std::vector<Network> work(Document& document, int acts) {
        std::vector<Network> values{document.network()};
        while (acts > 0)
            if (auto act = edits.act(document.network())) {
                const auto applied = document.apply(*std::move(act), {}, {});
                if (!applied || !*applied)
                    continue;
                values.push_back(document.network());
                --acts;
            }
        return values;
    }
    std::string journalOf(const Document& document) {
        return *files.read(folder + "/" + idText(document.network().info().id.value) + ".journal");
    }
};

Result<Network> recovered(const std::string& journal) {
    const auto contents = edit::readJournal(journal);
    if (!contents)
        return contents.refusal();
    return edit::replay(Network(), contents->payloads);
}

} // namespace

class JournalTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void a_journal_cut_at_any_byte_gives_one_of_the_values_and_the_latest_whole_one() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        const auto values = desk.work(document, 12);
        const std::string whole = desk.journalOf(document);
        QVERIFY(*recovered(whole) == values.back());
        std::size_t at = 0;
        for (std::size_t cut = 0; cut < whole.size(); cut += tests::isSanitized ? 7 : 1) {
            const auto contents = edit::readJournal(whole.substr(0, cut));
            if (!contents)
                continue; // not even the header yet
            QCOMPARE(contents->bytesLost, std::size_t{0});
            const auto value = edit::replay(Network(), contents->payloads);
            QVERIFY(value);
            if (contents->payloads.empty())
                continue;
            while (at < values.size() && !(values[at] == *value))
                ++at; // never goes back
            QVERIFY(at < values.size());
        }
        QVERIFY(at + 2 >= values.size());
    }

    void a_network_open_twice_has_two_journals_and_both_can_be_recovered() {
        Desk desk;
        Document first = Document::fresh(desk.world, desk.edits.start());
        desk.work(first, 2);
        {
            Document second = Document::fresh(desk.world, first.network());
            desk.work(second, 3);
            QVERIFY(!second.journalTrouble());
            QCOMPARE(desk.files.list(folder).size(), std::size_t{2});
        } // as after a crash: nothing was closed
        const auto left = Document::recoverable(desk.world);
        QCOMPARE(left.size(), std::size_t{1});
        QVERIFY(Document::recover(desk.world, left.front()));
        QVERIFY(!first.journalTrouble());
    }

    void damage_in_the_middle_is_told_from_a_torn_tail() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        desk.work(document, 6);
        std::string bytes = desk.journalOf(document);
        bytes[bytes.size() / 2] ^= 1;
        const auto damaged = edit::readJournal(bytes);
        QVERIFY(damaged);
        QVERIFY(damaged->bytesLost > 0 && !damaged->torn);
        bytes = desk.journalOf(document);
        bytes.back() ^= 1;
        const auto torn = edit::readJournal(bytes);
        QVERIFY(torn && torn->torn && torn->bytesLost == 0);
        QVERIFY(!edit::readJournal("not a journal"));
        QVERIFY(!edit::readJournal(""));
    }

    void a_journal_replays_undo_and_redo_too() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        desk.work(document, 10);
        for (int i = 0; i < 6; ++i)
            document.undo();
        document.redo();
        QVERIFY(*recovered(desk.journalOf(document)) == document.network());
    }

    void work_on_a_saved_file_is_recovered_onto_it() {
        Desk desk;
        Network lost;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            desk.work(document, 8);
            QVERIFY(document.save("/office.underridge"));
            QVERIFY(!document.modified());
            desk.work(document, 5);
            QVERIFY(document.modified());
            lost = document.network();
        } // died: nothing was closed
        const auto found = Document::recoverable(desk.world);
        QCOMPARE(found.size(), std::size_t{1});
        QCOMPARE(found.front().acts, std::size_t{5});
        QCOMPARE(QString::fromStdString(found.front().header.path), QStringLiteral("/office.underridge"));
        auto back = Document::recover(desk.world, found.front());
        QVERIFY(back);
        QVERIFY(back->document.network() == lost);
        QVERIFY(back->document.modified());
        QVERIFY(back->remarks.empty());
        QVERIFY(back->document.save("/office.underridge"));
        QVERIFY(Document::open(desk.world, "/office.underridge")->document.network() == lost);
    }

    void what_was_recovered_is_itself_safe_at_once() {
        Desk desk;
        Network lost;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            desk.work(document, 4);
            lost = document.network();
        }
        {
            auto back = Document::recover(desk.world, Document::recoverable(desk.world).front());
        } // died again
        const auto again = Document::recoverable(desk.world);
        QCOMPARE(again.size(), std::size_t{1});
        QVERIFY(Document::recover(desk.world, again.front())->document.network() == lost);
    }

    void a_document_that_lives_or_ended_well_is_not_offered() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        desk.work(document, 3);
        QVERIFY(Document::recoverable(desk.world).empty()); // held
        document.close();
        QVERIFY(desk.files.list(folder).empty());
    }

    void a_file_changed_underneath_is_remarked_on_recovery() {
        Desk desk;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            QVERIFY(document.save("/a.underridge"));
            desk.work(document, 2);
            const std::string other = *desk.files.read("/a.underridge") + "\n";
            QVERIFY(desk.files.writeAtomically("/a.underridge", other));
        }
        const auto back = Document::recover(desk.world, Document::recoverable(desk.world).front());
        QVERIFY(back);
        QCOMPARE(back->remarks.size(), std::size_t{1});
    }

    void a_file_changed_after_a_save_with_a_mark_is_remarked_too() {
        Desk desk;
        std::string saved;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            QVERIFY(document.save("/a.underridge"));
            desk.work(document, 2);
            // A save under way when the program dies: the journal has its mark.
            const auto saving = document.beginSave("/a.underridge");
            QVERIFY(Document::write(desk.files, saving));
            desk.work(document, 1);
            saved = *desk.files.read("/a.underridge");
            QVERIFY(desk.files.writeAtomically("/a.underridge", saved + "\n"));
        }
        const auto back = Document::recover(desk.world, Document::recoverable(desk.world).front());
        QVERIFY(back);
        QCOMPARE(back->remarks.size(), std::size_t{1});
        QVERIFY(back->remarks.front().what.find("another program") != std::string::npos);
    }

    void killed_between_writing_the_file_and_beginning_the_journal_anew() {
        Desk desk;
        Network last;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            QVERIFY(document.save("/a.underridge"));
            desk.work(document, 3);
            QVERIFY(Document::write(desk.files, document.beginSave("/a.underridge"))); // and died
            last = document.network();
        }
        QVERIFY(Document::recoverable(desk.world).empty()); // nothing is missing from the file
        QVERIFY(Document::open(desk.world, "/a.underridge")->document.network() == last);
        {
            auto document = std::move(Document::open(desk.world, "/a.underridge")->document);
            desk.work(document, 2);
            auto saving = document.beginSave("/a.underridge");
            QVERIFY(Document::write(desk.files, saving));
            desk.work(document, 1); // after the mark
            last = document.network();
        }
        const auto found = Document::recoverable(desk.world);
        QCOMPARE(found.size(), std::size_t{1});
        QCOMPARE(found.front().acts, std::size_t{1});
        const auto back = Document::recover(desk.world, found.front());
        QVERIFY(back && back->remarks.empty());
        QVERIFY(back->document.network() == last);
    }

    void a_full_disk_leaves_the_old_file_and_says_so() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        desk.work(document, 3);
        QVERIFY(document.save("/a.underridge"));
        const std::string old = *desk.files.read("/a.underridge");
        desk.work(document, 5);
        desk.files.capacity = 0;
        const auto refused = document.save("/a.underridge");
        QVERIFY(!refused);
        QVERIFY(QString::fromStdString(refused.refusal().text()).contains("space"));
        QCOMPARE(*desk.files.read("/a.underridge"), old);
        QVERIFY(document.modified());
        desk.work(document, 1); // editing goes on though the journal cannot be written
        QVERIFY(document.journalTrouble());
        desk.files.capacity = SIZE_MAX;
        desk.work(document, 1); // and the journal begins anew, whole
        QVERIFY(!document.journalTrouble());
        const auto contents = edit::readJournal(desk.journalOf(document));
        QVERIFY(contents);
        QVERIFY(*edit::replay(exchange::readOwn(old, "a")->network, contents->payloads) ==
                document.network());
    }

    void a_journal_somebody_left_is_never_written_over() {
        Desk desk;
        Network lost;
        const Network start = desk.edits.start();
        {
            Document document = Document::fresh(desk.world, start);
            desk.work(document, 4);
            lost = document.network();
        } // died; "Recover?" is declined, and the same network is edited again
        {
            Document again = Document::fresh(desk.world, start);
            desk.work(again, 2);
            again.close();
        }
        const auto left = Document::recoverable(desk.world);
        QCOMPARE(left.size(), std::size_t{1});
        QVERIFY(Document::recover(desk.world, left.front())->document.network() == lost);
        Document::discard(desk.world, Document::recoverable(desk.world).front());
        QVERIFY(desk.files.list(folder).empty());
    }

    void what_a_journal_begins_with_may_be_made_beforehand() {
        Desk desk;
        Network start = desk.edits.start();
        for (int i = 0; i < 30; ++i)
            if (auto act = desk.edits.act(start))
                start = std::move(act->network);
        Document document = Document::fresh(desk.world, start);
        document.beginAhead();
        document.beginAhead(); // is being made already
        const auto values = desk.work(document, 3);
        QVERIFY(*recovered(desk.journalOf(document)) == values.back());
        QCOMPARE(edit::readJournal(desk.journalOf(document))->payloads.size(), std::size_t{4});
    }

    void a_beginning_made_before_there_was_room_is_not_taken_for_the_present() {
        Desk desk;
        Network after;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            document.beginAhead();
            desk.files.capacity = 0;
            desk.work(document, 4);
            QVERIFY(document.journalTrouble());
            desk.files.capacity = SIZE_MAX;
            after = desk.work(document, 1).back();
            QVERIFY(!document.journalTrouble());
            QVERIFY(*recovered(desk.journalOf(document)) == after);
        } // killed
        const auto left = Document::recoverable(desk.world);
        QCOMPARE(left.size(), std::size_t{1});
        QVERIFY(Document::recover(desk.world, left.front())->document.network() == after);
    }

    void saved_first_it_begins_from_the_file() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        document.beginAhead();
        QVERIFY(document.save("/work.underridge"));
        const Network after = desk.work(document, 2).back();
        const auto left = edit::readJournal(desk.journalOf(document));
        QCOMPARE(left->header.path, std::string("/work.underridge"));
        const auto saved = exchange::readOwn(*desk.files.read("/work.underridge"), "work");
        QVERIFY(*edit::replay(saved->network, left->payloads) == after);
    }

    void a_full_disk_costs_nothing_of_what_the_journal_holds() {
        Desk desk;
        Network before, after;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            before = desk.work(document, 6).back();
            desk.files.capacity = 0;
            desk.work(document, 3);
            QVERIFY(document.journalTrouble());
            const auto contents = edit::readJournal(desk.journalOf(document));
            QVERIFY(contents && !contents->torn && contents->bytesLost == 0);
            QVERIFY(*edit::replay(Network(), contents->payloads) == before);
            desk.files.capacity = SIZE_MAX;
            document.catchUpJournal(); // without another act
            QVERIFY(!document.journalTrouble());
            after = document.network();
        } // killed
        const auto left = Document::recoverable(desk.world);
        QCOMPARE(left.size(), std::size_t{1});
        QVERIFY(Document::recover(desk.world, left.front())->document.network() == after);
    }

    void killed_while_the_disk_is_full_what_was_written_before_is_there() {
        Desk desk;
        Network before;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            before = desk.work(document, 6).back();
            desk.files.capacity = 0;
            desk.work(document, 3);
        }
        desk.files.capacity = SIZE_MAX;
        const auto left = Document::recoverable(desk.world);
        QCOMPARE(left.size(), std::size_t{1});
        QVERIFY(Document::recover(desk.world, left.front())->document.network() == before);
    }

    void killed_at_any_step_of_a_save_beside_edits_nothing_is_missing_data() {
        QTest::addColumn<int>("editedBefore");
        QTest::addColumn<int>("editedBeside");
        QTest::addColumn<bool>("fileWritten");
        QTest::addColumn<bool>("ended");
        for (const int editedBefore : {0, 2})
            for (const int editedBeside : {0, 3})
                for (const bool fileWritten : {false, true})
                    for (const bool ended : {false, true})
                        if (fileWritten || !ended)
                            QTest::addRow("%d before, %d beside, %s%s", editedBefore, editedBeside,
                                          fileWritten ? "written" : "not written", ended ? ", ended" : "")
                                << editedBefore << editedBeside << fileWritten << ended;
    }
    void killed_at_any_step_of_a_save_beside_edits_nothing_is_missing() {
        QFETCH(int, editedBefore);
        QFETCH(int, editedBeside);
        QFETCH(bool, fileWritten);
        QFETCH(bool, ended);
        Desk desk;
        Network last;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            desk.work(document, 1);
            QVERIFY(document.save("/a.underridge"));
            desk.work(document, editedBefore);
            const auto saving = document.beginSave("/a.underridge");
            desk.work(document, editedBeside); // while the worker serialises
            if (fileWritten) {
                const auto written = Document::write(desk.files, saving);
                QVERIFY(written);
                desk.work(document, editedBeside); // until the window hears of it
                if (ended)
                    QVERIFY(document.endSave(saving, *written));
            }
            last = document.network();
        } // killed
        const auto left = Document::recoverable(desk.world);
        const bool missing = !(Document::open(desk.world, "/a.underridge")->document.network() == last);
        QCOMPARE(left.size(), std::size_t{missing ? 1U : 0U});
        if (!missing)
            return;
        const auto back = Document::recover(desk.world, left.front());
        QVERIFY(back && back->remarks.empty());
        QVERIFY(back->document.network() == last);
    }

    void a_save_that_was_overtaken_notes_nothing() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        desk.work(document, 2);
        const auto first = document.beginSave("/a.underridge");
        const auto second = document.beginSave("/b.underridge");
        QVERIFY(!document.endSave(first, 1));
        QVERIFY(document.modified() && document.path().empty());
        const auto written = Document::write(desk.files, second);
        QVERIFY(document.endSave(second, *written));
        QCOMPARE(QString::fromStdString(document.path()), QStringLiteral("/b.underridge"));
        // A save of one document is not taken for another's.
        Document other = Document::fresh(desk.world, desk.edits.start());
        QVERIFY(!other.endSave(document.beginSave("/c.underridge"), 1));
    }

    void power_loss_costs_at_most_what_was_not_synced() {
        Desk desk;
        Network last;
        {
            Document document = Document::fresh(desk.world, desk.edits.start());
            desk.work(document, 5);
            last = document.network();
            const std::string path = folder + "/" + idText(last.info().id.value) + ".journal";
            QTRY_VERIFY_WITH_TIMEOUT(desk.files.syncedAll(path), 4 * edit::JournalWriter::syncDelayMs);
        }
        desk.files.losePower();
        const auto found = Document::recoverable(desk.world);
        QCOMPARE(found.size(), std::size_t{1});
        QVERIFY(Document::recover(desk.world, found.front())->document.network() == last);
    }

    void modified_means_different_from_what_was_saved() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        QVERIFY(!document.modified());
        desk.work(document, 1);
        QVERIFY(document.modified());
        document.undo();
        QVERIFY(!document.modified());
    }

    void saving_on_a_worker_keeps_what_was_done_meanwhile() {
        Desk desk;
        Document document = Document::fresh(desk.world, desk.edits.start());
        desk.work(document, 3);
        auto saving = document.beginSave("/a.underridge");
        desk.work(document, 2); // while the worker writes
        const auto written = Document::write(desk.files, saving);
        QVERIFY(written);
        const Network kept = saving.network;
        QVERIFY(document.endSave(saving, *written));
        QVERIFY(document.modified());
        const auto contents = edit::readJournal(desk.journalOf(document));
        QVERIFY(*edit::replay(kept, contents->payloads) == document.network());
    }
};

UNDERRIDGE_TEST(JournalTest)
#include "journal_test.moc"
