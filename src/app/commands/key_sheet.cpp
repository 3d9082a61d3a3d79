// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/key_sheet.h"

#include "app/commands/keys.h"

#include <QVBoxLayout>

namespace underridge::app {
namespace {

struct Gesture {
    const char* does;
    const char* effect;
};

std::span<const Gesture> gestures() {
    static constexpr Gesture all[] = {
        {QT_TRANSLATE_NOOP("KeySheet", "Drag the grip or a port"),
         QT_TRANSLATE_NOOP(
             "KeySheet",
             "Link; release on empty sheet adds a device, already linked; Down opens the port drawer")},
        {QT_TRANSLATE_NOOP("KeySheet", "Click the grip or a port, then a plate"),
         QT_TRANSLATE_NOOP("KeySheet", "The same without dragging")},
        {QT_TRANSLATE_NOOP("KeySheet", "Click with Ctrl or Shift"),
         QT_TRANSLATE_NOOP("KeySheet", "Add to the selection, or take away")},
        {QT_TRANSLATE_NOOP("KeySheet", "Drag a plate"),
         QT_TRANSLATE_NOOP("KeySheet", "Move; Ctrl: no snapping, Shift: one axis")},
        {QT_TRANSLATE_NOOP("KeySheet", "Hold what is dragged at the edge"),
         QT_TRANSLATE_NOOP("KeySheet", "The view goes on")},
        {QT_TRANSLATE_NOOP("KeySheet", "Drag a selection out of the window"),
         QT_TRANSLATE_NOOP("KeySheet", "Put it down elsewhere as a picture")},
        {QT_TRANSLATE_NOOP("KeySheet", "Drag a link"), QT_TRANSLATE_NOOP("KeySheet", "Bend it")},
        {QT_TRANSLATE_NOOP("KeySheet", "Drag the empty sheet"),
         QT_TRANSLATE_NOOP("KeySheet",
                           "Select what lies inside; with Shift, what it touches; with Ctrl, in addition")},
        {QT_TRANSLATE_NOOP("KeySheet", "Middle button, or Space and drag"),
         QT_TRANSLATE_NOOP("KeySheet", "Pan")},
        {QT_TRANSLATE_NOOP("KeySheet", "Wheel, or pinch"),
         QT_TRANSLATE_NOOP("KeySheet", "Zoom at the pointer; two fingers on a touchpad pan")},
        {QT_TRANSLATE_NOOP("KeySheet", "Double-click a name or note"),
         QT_TRANSLATE_NOOP("KeySheet", "Rename, edit")},
        {QT_TRANSLATE_NOOP("KeySheet", "Double-click a plate below its name"),
         QT_TRANSLATE_NOOP("KeySheet", "Show its faceplate")},
        {QT_TRANSLATE_NOOP("KeySheet", "Tab, Shift+Tab"),
         QT_TRANSLATE_NOOP("KeySheet", "Go to the next or previous device or note")},
        {QT_TRANSLATE_NOOP("KeySheet", "Page Down, Page Up"),
         QT_TRANSLATE_NOOP("KeySheet", "Select the next or previous link of the device the keyboard is at")},
        {QT_TRANSLATE_NOOP("KeySheet", "Space"),
         QT_TRANSLATE_NOOP("KeySheet", "Select what the keyboard is at; with Shift, in addition")},
        {QT_TRANSLATE_NOOP("KeySheet", "Arrow keys"),
         QT_TRANSLATE_NOOP("KeySheet", "Move the selection; with Ctrl, finely; with nothing selected, pan")},
        {QT_TRANSLATE_NOOP("KeySheet", "Esc"), QT_TRANSLATE_NOOP("KeySheet", "Leave all as it was")},
    };
    return all;
}

QString told(const char* text) {
    return QCoreApplication::translate("KeySheet", text);
}

QString rowOf(std::initializer_list<QString> cells) {
    QString row;
    for (const QString& cell : cells)
        row += QStringLiteral("<td>%1</td>").arg(cell.toHtmlEscaped());
    return QStringLiteral("<tr>%1</tr>").arg(row);
}

} // namespace

QString keySheetHtml(const QSettings& settings, const QString& words) {
    const auto says = [&](std::initializer_list<QString> cells) {
        return std::any_of(cells.begin(), cells.end(), [&](const QString& cell) {
            return cell.contains(words.trimmed(), Qt::CaseInsensitive);
        });
    };
    QString keys, moves;
    const char* menu = "";
    for (const Command& command : commandTable()) {
        const QString key = keysText(keysOf(command, settings)), name = plainText(command),
                      tip = tipOf(command);
        if (!says({key, name, tip}))
            continue;
        if (QByteArray(menu) != command.menu) {
            menu = command.menu;
            keys += QStringLiteral("<tr><td colspan='3'><b>%1</b></td></tr>")
                        .arg(shown(menu).remove(QLatin1Char('&')).toHtmlEscaped());
        }
        keys += rowOf({key, name, tip});
    }
    for (const Gesture& gesture : gestures())
        if (says({told(gesture.does), told(gesture.effect)}))
            moves += rowOf({told(gesture.does), told(gesture.effect)});
    const QString section = QStringLiteral("<h3>%1</h3><table cellpadding='3'>%2</table>");
    QString html;
    if (!keys.isEmpty())
        html += section.arg(KeySheet::tr("Keys"), keys);
    if (!moves.isEmpty())
        html += section.arg(KeySheet::tr("On the sheet"), moves);
    return html.isEmpty() ? QStringLiteral("<p>%1</p>").arg(KeySheet::tr("Nothing found")) : html;
}

KeySheet::KeySheet(const QSettings& settings, QWidget* parent)
    : QDialog(parent), search_(new QLineEdit), sheet_(new QTextBrowser) {
    setObjectName(QStringLiteral("keys"));
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Keys and gestures"));
    search_->setPlaceholderText(tr("Search commands, keys and gestures"));
    search_->setClearButtonEnabled(true);
    search_->setAccessibleName(tr("Search commands, keys and gestures"));
    sheet_->setAccessibleName(tr("Keys and gestures"));
    sheet_->setHtml(keySheetHtml(settings));
    connect(search_, &QLineEdit::textChanged, this,
            [this, &settings](const QString& words) { sheet_->setHtml(keySheetHtml(settings, words)); });
    auto* layout = new QVBoxLayout(this);
    layout->addWidget(search_);
    layout->addWidget(sheet_, 1);
    resize(760, 620);
    search_->setFocus();
}

void showKeySheet(const QSettings& settings, QWidget* window) {
    auto* open = window->findChild<KeySheet*>();
    if (!open)
        open = new KeySheet(settings, window);
    open->show();
    open->raise();
    open->activateWindow();
}

} // namespace underridge::app
