// SPDX-License-Identifier: GPL-3.0-or-later
// Dependencies point one way: app → paint → core. This looks at includes and at what is
// linked.
#include "tests/support/registered.h"

#include <QDirIterator>

class LayersTest : public QObject {
    Q_OBJECT
    static QStringList offenders(const QString& folder, const QRegularExpression& forbidden) {
        QStringList out;
        int files = 0;
        QDirIterator all(QStringLiteral(UNDERRIDGE_ROOT "/src/") + folder, {"*.h", "*.cpp"}, QDir::Files,
                         QDirIterator::Subdirectories);
        while (all.hasNext()) {
            QFile file(all.next());
            if (!file.open(QIODevice::ReadOnly))
                continue;
            ++files;
            for (const QString& line : QString::fromUtf8(file.readAll()).split('\n'))
                if (forbidden.match(line).hasMatch())
                    out << file.fileName() + ": " + line;
        }
        if (files == 0)
            out << "no files in " + folder;
        return out;
    }
private Q_SLOTS:
    void core_includes_neither_qt_nor_what_stands_above_it() {
        const QRegularExpression forbidden("#include\\s*[<\"](Q[A-Z]|Qt|paint/|app/|cli/|live/)");
        QCOMPARE(offenders("core", forbidden), QStringList());
    }
    void inside_core_each_part_knows_only_those_before_it() {
        const QStringList order{"base",     "model", "exchange", "linking", "find",
                                "analysis", "scene", "layout",   "edit"};
        QStringList known;
        QDirIterator folders(QStringLiteral(UNDERRIDGE_ROOT "/src/core"), QDir::Dirs | QDir::NoDotAndDotDot);
        while (folders.hasNext())
            known << QFileInfo(folders.next()).fileName();
        for (const QString& part : known)
            QVERIFY2(order.contains(part), qPrintable(part + " has no place in the order"));
        for (qsizetype i = 0; i < order.size(); ++i) {
            const QStringList later = order.mid(i + 1);
            if (!later.isEmpty())
                QCOMPARE(offenders("core/" + order[i],
                                   QRegularExpression("#include\\s*\"core/(" + later.join('|') + ")/")),
                         QStringList());
        }
    }
    void paint_includes_neither_widgets_nor_app() {
        const QRegularExpression forbidden(
            "#include\\s*[<\"](QtWidgets|QWidget|QApplication|QMainWindow|QGraphics|app/|cli/)");
        QCOMPARE(offenders("paint", forbidden), QStringList());
    }
    void the_command_line_includes_no_window() {
        QCOMPARE(
            offenders("cli", QRegularExpression("#include\\s*[<\"](QtWidgets|QWidget|QApplication|app/)")),
            QStringList());
    }
    void libraries_link_only_downwards() {
        const QString core = QStringLiteral(CORE_LINKS), paint = QStringLiteral(PAINT_LINKS);
        QVERIFY(!core.isEmpty());
        QVERIFY2(!core.contains("Qt"), qPrintable(core));
        QVERIFY2(!core.contains("paint") && !core.contains("app"), qPrintable(core));
        QVERIFY2(!paint.contains("Widgets") && !paint.contains("app"), qPrintable(paint));
    }
};

UNDERRIDGE_TEST(LayersTest)
#include "layers_test.moc"
