// SPDX-License-Identifier: GPL-3.0-or-later
// Kills the editing program at random moments; at most the last act may be missing
// afterwards.
#include "core/edit/document.h"
#include "core/exchange/own_format.h"
#include "tests/support/registered.h"

#include <QProcess>
#include <QTemporaryDir>
#include <random>

using namespace underridge;

class KillTest : public QObject {
    Q_OBJECT

    static QStringList argumentsFor(const QTemporaryDir& folder, int seed, const QString& how) {
        QStringList out{folder.filePath("journal"), folder.filePath("n.underridge"), QString::number(seed)};
        if (!how.isEmpty())
            out << how;
        return out;
    }

    /// Until the program has saved for the first time, from its first word: the measure
    /// of this machine and build.
    static std::chrono::microseconds untilFirstSave(const QString& how) {
        QTemporaryDir folder;
        QProcess program;
        program.start(QStringLiteral(EDITING_PROGRAM), argumentsFor(folder, 1, how));
        program.waitForReadyRead();
        const auto start = std::chrono::steady_clock::now();
        while (!QFile::exists(folder.filePath("n.underridge")) && program.state() == QProcess::Running &&
               std::chrono::steady_clock::now() - start < std::chrono::seconds(5))
            std::this_thread::sleep_for(std::chrono::microseconds(200));
        program.kill();
        program.waitForFinished();
        return std::chrono::duration_cast<std::chrono::microseconds>(std::chrono::steady_clock::now() -
                                                                     start);
    }

private Q_SLOTS:
    void at_most_the_last_act_is_missing_data() {
        QTest::addColumn<QString>("how");
        QTest::newRow("saving between acts") << QString();
        QTest::newRow("acting while a thread saves") << QStringLiteral("background");
    }
    void at_most_the_last_act_is_missing() {
        QFETCH(QString, how);
        const auto measure = untilFirstSave(how);
        const int kills = measure > std::chrono::milliseconds(20) ? 30 : 200; // a build under a sanitizer
        const auto longest = static_cast<unsigned>(std::max<std::int64_t>(measure.count() * 5, 20'000));
        std::mt19937 random(84);
        int recoveredFromJournal = 0, ontoFile = 0, withSave = 0;
        for (int round = 0; round < kills; ++round) {
            QTemporaryDir folder;
            const std::string journals = folder.filePath("journal").toStdString(),
                              file = folder.filePath("n.underridge").toStdString();
            QProcess program;
            program.start(QStringLiteral(EDITING_PROGRAM), argumentsFor(folder, round + 1, how));
            QVERIFY(program.waitForStarted());
            QVERIFY(program.waitForReadyRead());
            std::this_thread::sleep_for(
                std::chrono::microseconds(random() % longest)); // the random moment itself
            program.kill();
            program.waitForFinished();
            std::vector<QByteArray> lines;
            for (const QByteArray& line : program.readAllStandardOutput().split('\n'))
                if (!line.isEmpty())
                    lines.push_back(line);
            QVERIFY(!lines.empty());
            // What may be there: the last finished value, or the one that was begun.
            std::vector<QByteArray> allowed;
            for (auto at = lines.rbegin(); at != lines.rend() && allowed.size() < 2; ++at) {
                const QByteArray hash = at->mid(at->indexOf(' ') + 1);
                if (std::find(allowed.begin(), allowed.end(), hash) == allowed.end())
                    allowed.push_back(hash);
                if (!at->startsWith("begin"))
                    break;
            }
            DiskFiles files;
            const edit::World world{files, journals, [] { return std::int64_t{0}; }};
            std::optional<model::Network> found;
            if (const auto left = edit::Document::recoverable(world); !left.empty()) {
                auto back = edit::Document::recover(world, left.front());
                QVERIFY2(back, back ? "" : back.refusal().text().c_str());
                QVERIFY(back->remarks.empty());
                found = back->document.network();
                ++recoveredFromJournal;
                ontoFile += files.exists(file);
            } else if (files.exists(file)) {
                auto opened = edit::Document::open(world, file);
                QVERIFY(opened);
                found = opened->document.network();
                ++withSave;
            }
            if (!found) {
                QVERIFY(lines.size() <= 2); // killed in its very first act
                continue;
            }
            const QByteArray hash =
                QByteArray::number(fnv1a(exchange::writeOwn(*found)), 16).rightJustified(16, '0');
            QVERIFY2(std::find(allowed.begin(), allowed.end(), hash) != allowed.end(),
                     qPrintable(QStringLiteral("round %1").arg(round)));
        }
        qInfo(
            "%d kills within %u ms: %d recovered from the journal, %d of them onto a file; %d had just saved",
            kills, longest / 1000, recoveredFromJournal, ontoFile, withSave);
        QVERIFY(recoveredFromJournal > kills / 4 && ontoFile > kills / 8);
    }
};

UNDERRIDGE_TEST(KillTest)
#include "kill_test.moc"
