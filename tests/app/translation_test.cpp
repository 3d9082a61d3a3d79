// SPDX-License-Identifier: GPL-3.0-or-later
// The window in a made-up language whose texts are a third longer and in brackets:
// whatever lacks the brackets was not given to translators, whatever is wider than its
// place would be cut off.
#include "app/files/print_dialog.h"
#include "app/files/schedule_dialog.h"
#include "app/models/model_editor.h"
#include "app/sheet/name_series_dialog.h"
#include "app/window/preferences.h"
#include "tests/support/registered.h"
#include "tests/support/window_harness.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDirIterator>
#include <QGroupBox>
#include <QLineEdit>
#include <QRadioButton>
#include <QTabBar>
#include <QTranslator>

using namespace underridge;
using namespace underridge::model;
using app::CommandId;
using tests::WindowHarness;

namespace {

class LongLanguage : public QTranslator {
public:
    QString translate(const char*, const char* source, const char*, int) const override {
        const QString text = QString::fromUtf8(source);
        if (text.isEmpty())
            return {};
        QString more;
        for (qsizetype i = 0; i <= text.size() / 3; ++i)
            more += i % 6 == 5 ? QLatin1Char(' ') : QLatin1Char('~'); // long texts are several words
        return QStringLiteral("[%1%2]").arg(text, more);
    }
    bool isEmpty() const override { return false; }
};

/// The widget's text when it has one to be read whole.
QString textOf(const QWidget* widget) {
    if (const auto* label = qobject_cast<const QLabel*>(widget))
        return label->textFormat() == Qt::RichText ? QString() : label->text();
    if (const auto* button = qobject_cast<const QAbstractButton*>(widget))
        return button->text();
    if (const auto* group = qobject_cast<const QGroupBox*>(widget))
        return group->title();
    return {};
}

/// The texts cut off among the visible children.
QStringList cutOff(QWidget& root) {
    QStringList cut;
    for (const QWidget* widget : root.findChildren<QWidget*>()) {
        const QString text = textOf(widget);
        if (!widget->isVisible() || text.isEmpty() ||
            widget->sizePolicy().horizontalPolicy() == QSizePolicy::Ignored) // elided on purpose
            continue;
        bool fits = true;
        if (const auto* label = qobject_cast<const QLabel*>(widget); label && label->wordWrap())
            fits = label->heightForWidth(label->width()) <= label->height() + 1;
        else if (label)
            fits = label->fontMetrics().size(0, text).width() <= label->contentsRect().width() + 1;
        else
            fits = widget->minimumSizeHint().width() <= widget->width() + 1;
        if (!fits)
            cut << QStringLiteral("%1 (%2, %3 × %4 of %5 × %6)")
                       .arg(text, QString::fromUtf8(widget->metaObject()->className()))
                       .arg(widget->width())
                       .arg(widget->height())
                       .arg(widget->sizeHint().width())
                       .arg(widget->heightForWidth(widget->width()));
    }
    for (const QTabBar* tabs : root.findChildren<QTabBar*>())
        if (tabs->isVisible() && tabs->sizeHint().width() > tabs->width() + 1)
            cut << QStringLiteral("tabs from %1").arg(tabs->tabText(0));
    return cut;
}

void verifyWhole(QWidget& root) {
    root.show();
    QCoreApplication::processEvents();
    QCoreApplication::processEvents();
    // Heights that follow from widths take a round or two to settle.
    static_cast<void>(QTest::qWaitFor([&root] { return cutOff(root).isEmpty(); }, 1000));
    const QStringList cut = cutOff(root);
    QVERIFY2(cut.isEmpty(), qPrintable(cut.join(QLatin1Char('\n'))));
    static const QRegularExpression unfilled(QStringLiteral("%[1-9]"));
    for (const QWidget* widget : root.findChildren<QWidget*>())
        QVERIFY2(!textOf(widget).contains(unfilled) && !widget->toolTip().contains(unfilled),
                 qPrintable(textOf(widget)));
}

} // namespace

class TranslationTest : public QObject {
    Q_OBJECT
    LongLanguage language_;
private Q_SLOTS:
    void initTestCase() { QCoreApplication::installTranslator(&language_); }

    void every_command_menu_and_tool_tip_is_translated() {
        WindowHarness h;
        for (const app::Command& command : app::commandTable()) {
            const QAction* action = h.window->action(command.id);
            QVERIFY2(action->text().startsWith(QLatin1Char('[')), command.text);
            QVERIFY2(action->toolTip().startsWith(QLatin1Char('[')), command.tip);
        }
        for (const QAction* menu : h.window->menuBar()->actions())
            QVERIFY2(menu->text().startsWith(QLatin1Char('[')), qPrintable(menu->text()));
        const QRect last = h.window->menuBar()->actionGeometry(h.window->menuBar()->actions().last());
        QVERIFY(h.window->menuBar()->rect().contains(last));
    }

    /// What app says itself is in the sources as tr("…"); the core's texts come in by
    /// shownText().
    void words_in_the_sources_are_given_to_translators() {
        static const QRegularExpression literal(QStringLiteral("\"((?:[^\"\\\\\n]|\\\\.)*)\""));
        static const QRegularExpression words(QStringLiteral("[A-Za-z] [A-Za-z]|^[A-Z][a-z]"));
        static const QRegularExpression given(
            QStringLiteral("(\\btr|QT_TR_NOOP|QT_TRANSLATE_NOOP|translate)\\(\\s*(\"[A-Za-z]+\",\\s*)?(\"[^"
                           "\"\n]*\"\\s*)*$"));
        // Keys, names of the desktop's interfaces, forms of dates, markup, names of merges.
        static const QRegularExpression other(
            QStringLiteral("^(Ctrl|Shift|Alt|Del|Return|Space|Page|Home)\\b|^(SettingChanged|Read|KeySheet|"
                           "Clipboard)$|::|^<|"
                           "^[dMyhms :]+$|^move by arrow keys$"));
        QStringList missing;
        int seen = 0;
        QDirIterator files(QStringLiteral(UNDERRIDGE_ROOT "/src/app"), {"*.cpp", "*.h"}, QDir::Files,
                           QDirIterator::Subdirectories);
        while (files.hasNext()) {
            QFile file(files.next());
            QVERIFY(file.open(QIODevice::ReadOnly));
            QString text = QString::fromUtf8(file.readAll());
            text.remove(QRegularExpression(QStringLiteral("//[^\n]*|#include [^\n]*")));
            for (auto found = literal.globalMatch(text); found.hasNext();) {
                const auto match = found.next();
                if (!match.captured(1).contains(words) || match.captured(1).contains(other))
                    continue;
                ++seen;
                if (!given
                         .match(text.mid(std::max<qsizetype>(0, match.capturedStart() - 600),
                                         std::min<qsizetype>(600, match.capturedStart())))
                         .hasMatch())
                    missing << QStringLiteral("%1: %2").arg(QFileInfo(file).fileName(), match.captured(1));
            }
        }
        QVERIFY2(seen > 600, qPrintable(QString::number(seen)));
        QVERIFY2(missing.isEmpty(), qPrintable(missing.join(QLatin1Char('\n'))));
    }

    void buttons_and_fields_are_translated() {
        WindowHarness h;
        QStringList missing;
        const auto look = [&missing](QWidget& root) {
            for (const QWidget* widget : root.findChildren<QWidget*>()) {
                const auto* button = qobject_cast<const QAbstractButton*>(widget);
                const auto* field = qobject_cast<const QLineEdit*>(widget);
                const QString text = button ? button->text() : field ? field->placeholderText() : QString();
                if (!text.isEmpty() && text.contains(QRegularExpression(QStringLiteral("[a-z]{3}"))) &&
                    !text.contains(QLatin1Char('~')))
                    missing << text;
            }
        };
        look(h.window->startPage());
        h.onDialog<app::Preferences>([&](app::Preferences& dialog) { look(dialog); });
        h.window->action(CommandId::preferences)->trigger();
        QVERIFY2(missing.isEmpty(), qPrintable(missing.join(QLatin1Char('\n'))));
    }

    void nothing_is_cut_off_in_the_window() {
        WindowHarness h;
        verifyWhole(*h.window);
        h.openFirstOffice();
        verifyWhole(*h.window);
        h.session().select({refTo(h.named("acc-1"))});
        verifyWhole(*h.window);
        h.session().select({refTo(h.named("acc-1")), refTo(h.named("edge-1"))});
        verifyWhole(*h.window);
        h.network().all<Link>().forEach([&](const Link& link) { h.session().select({refTo(link.id)}); });
        for (const CommandId panel : {CommandId::showFaceplates, CommandId::showRegisters,
                                      CommandId::showFindings, CommandId::followCables}) {
            h.window->action(panel)->trigger();
            verifyWhole(*h.window);
        }
        h.session().select({refTo(h.named("acc-1")), refTo(h.named("edge-1"))});
        h.window->action(CommandId::showFaceplates)->trigger();
        verifyWhole(*h.window);
    }

    void nothing_is_cut_off_in_the_dialogs() {
        WindowHarness h;
        h.openFirstOffice();
        h.onDialog<app::Preferences>([](app::Preferences& dialog) {
            auto* tabs = dialog.findChild<QTabWidget*>();
            for (int tab = 0; tab < tabs->count(); ++tab) {
                tabs->setCurrentIndex(tab);
                verifyWhole(dialog);
            }
        });
        h.window->action(CommandId::preferences)->trigger();
        h.onDialog<app::ModelEditor>([](app::ModelEditor& dialog) { verifyWhole(dialog); });
        h.window->action(CommandId::ownModels)->trigger();
        h.onDialog<app::PrintDialog>([](app::PrintDialog& dialog) { verifyWhole(dialog); });
        h.window->action(CommandId::print)->trigger();
        h.session().select({refTo(h.named("acc-1")), refTo(h.named("edge-1"))});
        h.onDialog<app::NameSeriesDialog>([](app::NameSeriesDialog& dialog) {
            verifyWhole(dialog);
            return false;
        });
        h.window->action(CommandId::rename)->trigger();
        h.onDialog<QDialog>([](QDialog& dialog) {
            verifyWhole(dialog);
            return false;
        });
        for (const CommandId each : {CommandId::cableStock, CommandId::cableLengths, CommandId::labelCables,
                                     CommandId::places, CommandId::linkMany, CommandId::about})
            h.window->action(each)->trigger();
        h.onDialog<app::ScheduleDialog>([](app::ScheduleDialog& dialog) {
            verifyWhole(dialog);
            return false;
        });
        QFile file(h.folder.filePath("cables.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("from,to,label\nacc-1,nobody,X\n");
        file.close();
        h.merge(file.fileName());
        h.import(QStringLiteral(UNDERRIDGE_ROOT "/tests/corpus/rfc8345/two-layers"));
    }
};

UNDERRIDGE_TEST(TranslationTest)
#include "translation_test.moc"
