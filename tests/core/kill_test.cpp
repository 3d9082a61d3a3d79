// SPDX-License-Identifier: GPL-3.0-or-later
// Kills the editing program at random moments; at most the last act may be missing afterwards.
#include "core/edit/document.h"
#include "core/exchange/own_format.h"

#include <QProcess>
#include <QTemporaryDir>
#include <QtTest>
#include <random>

using namespace underridge;

class KillTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void at_most_the_last_act_is_missing_data() {
        QTest::addColumn<QString>("how");
        QTest::newRow("saving between acts") << QString();
        QTest::newRow("acting while a thread saves") << QStringLiteral("background");
    }
    void at_most_the_last_act_is_missing() {
        QFETCH(QString, how);
        constexpr int kills = 200;
        std::mt19937 random(84);
        int recoveredFromJournal = 0, ontoFile = 0, withSave = 0;
        for (int round = 0; round < kills; ++round) {
            QTemporaryDir folder;
            const std::string journals = folder.filePath("journal").toStdString(),
                              file = folder.filePath("n.underridge").toStdString();
            QProcess program;
            QStringList arguments{QString::fromStdString(journals), QString::fromStdString(file),
                                  QString::number(round + 1)};
            if (!how.isEmpty())
                arguments << how;
            program.start(QStringLiteral(EDITING_PROGRAM), arguments);
            QVERIFY(program.waitForStarted());
            QVERIFY(program.waitForReadyRead());
            std::this_thread::sleep_for(
                std::chrono::microseconds(random() % 40000)); // the random moment itself
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
        QVERIFY(recoveredFromJournal > kills / 4 && ontoFile > kills / 8);
        qInfo("%d kills: %d recovered from the journal, %d of them onto a file; %d had just saved", kills,
              recoveredFromJournal, ontoFile, withSave);
    }
};

QTEST_GUILESS_MAIN(KillTest)
#include "kill_test.moc"
