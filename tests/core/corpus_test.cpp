// SPDX-License-Identifier: GPL-3.0-or-later
// The corpus kept for the fuzz target, whole and cut off.
#include "tests/support/hostile_input.h"
#include "tests/support/registered.h"

#include <QDirIterator>

using namespace underridge;

class CorpusTest : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void every_reader_keeps_its_promise_data() {
        QTest::addColumn<QByteArray>("reader");
        QTest::addColumn<QByteArray>("bytes");
        for (const std::string_view reader : tests::readers) {
            const QByteArray folder(reader.data(), static_cast<qsizetype>(reader.size()));
            QDirIterator files(QStringLiteral(UNDERRIDGE_ROOT "/tests/corpus/") + QString::fromUtf8(folder),
                               QDir::Files);
            while (files.hasNext()) {
                QFile file(files.next());
                QVERIFY(file.open(QIODevice::ReadOnly));
                QTest::newRow(qPrintable(QString::fromUtf8(folder) + QLatin1Char('/') + files.fileName()))
                    << folder << file.readAll();
            }
        }
    }

    void every_reader_keeps_its_promise() {
        QFETCH(QByteArray, reader);
        QFETCH(QByteArray, bytes);
        QVERIFY(tests::keepsPromise(reader.toStdString(), bytes.toStdString()));
        const qsizetype step = std::max<qsizetype>(1, bytes.size() / tests::tries(40));
        for (qsizetype length = 0; length < bytes.size(); length += step)
            QVERIFY2(tests::keepsPromise(reader.toStdString(), bytes.left(length).toStdString()),
                     qPrintable(QStringLiteral("cut after %1 bytes").arg(length)));
    }
};

UNDERRIDGE_TEST(CorpusTest)
#include "corpus_test.moc"
