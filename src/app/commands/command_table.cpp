// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/command_table.h"

#include <QKeySequence>
#include <QStringList>

namespace underridge::app {

std::span<const Command> commandTable() {
    using Id = CommandId;
    static constexpr Command table[] = {
        {Id::newNetwork, "&File", "&New network", "Ctrl+N", "Start an empty network", false},
        {Id::open, "&File", "&Open…", "Ctrl+O",
         "Open a network from a file: Underridge, RFC 8345 JSON, GraphML, CSV or a workbook", false},
        {Id::import, "&File", "&Import…", "Ctrl+I",
         "Take a network from a file into this one: Underridge, RFC 8345 JSON, GraphML, CSV or a workbook",
         false},
        {Id::firstOffice, "&File", "&First office", "", "Open the small sample network", false},
        {Id::fennickQuay, "&File", "Fennick &Quay", "", "Open the large sample network, a ferry terminal",
         false},
        {Id::startPage, "&File", "S&tart page", "",
         "Show recent files and work that can be recovered, or go back to the sheet", false},
        {Id::save, "&File", "&Save", "Ctrl+S", "Save the network", false, false, true},
        {Id::saveAs, "&File", "Save &as…", "Ctrl+Shift+S", "Save the network under another name", false},
        {Id::mergeCables, "&File", "&Merge cable schedule…", "",
         "Match a table of cables against the drawing, and take in what is new or changed", false},
        {Id::mergeResults, "&File", "Merge tester &results…", "",
         "Take in what a cable tester measured, by cable label", false},
        {Id::exportData, "&File", "Export &data…", "",
         "Write the network as RFC 8345 JSON, GraphML, CSV or a workbook", false, false, true},
        {Id::exportPicture, "&File", "&Export picture…", "Ctrl+Shift+E", "Write the sheet as PNG, SVG or PDF",
         false},
        {Id::print, "&File", "&Print…", "Ctrl+P", "Print the sheet, A4 to A0, with a preview", false},
        {Id::quit, "&File", "&Quit", "Ctrl+Q", "Close the program", false, false, true},
        {Id::undo, "&Edit", "&Undo", "Ctrl+Z", "Take the last step back", false},
        {Id::redo, "&Edit", "&Redo", "Ctrl+Shift+Z Ctrl+Y", "Do the step again", false},
        {Id::cut, "&Edit", "Cu&t", "Ctrl+X", "Copy the selection and delete it", true, false, true},
        {Id::copy, "&Edit", "&Copy", "Ctrl+C", "Copy the selection with the links among it", true},
        {Id::paste, "&Edit", "&Paste", "Ctrl+V", "Put down what was copied", true},
        {Id::duplicate, "&Edit", "D&uplicate", "Ctrl+D", "Copy the selection beside itself", true},
        {Id::remove, "&Edit", "&Delete", "Del", "Delete the selection", true},
        {Id::rename, "&Edit", "Re&name…", "F2", "Rename the selection; several get a name series", true,
         false, true},
        {Id::selectAll, "&Edit", "Select &all", "Ctrl+A", "Select everything on the sheet", true},
        {Id::find, "&Edit", "&Find…", "Ctrl+F", "Find a name, an address or a command", false, false, true},
        {Id::preferences, "&Edit", "Pre&ferences…", "Ctrl+,", "Theme, text size and keys", false, false,
         true},
        {Id::addDevice, "&Place", "&Add devices…", "A",
         "Type what to add, such as 4 access switch 24 named acc-{1..}", true},
        {Id::addNote, "&Place", "Add &note…", "N", "Put a text on the sheet", true},
        {Id::ownModels, "&Place", "&Own models…", "", "Make, copy and change device models of your own",
         false, false, true},
        {Id::updateModels, "&Place", "&Update models…", "",
         "Take over models that changed in the library since this network took its copy", false},
        {Id::link, "&Link", "&Link…", "L", "Link the selection to a device chosen next", true},
        {Id::linkInRow, "&Link", "Link in a &row", "Shift+L",
         "Link the selected devices in a row, in order of selection", true},
        {Id::linkMany, "&Link", "Link &many…", "Ctrl+L",
         "Link the selected devices to those among them that stand highest, shown before it is done", true},
        {Id::otherPort, "&Link", "&Other port…", "Shift+P", "Choose other ports for the selected link", true,
         false, true},
        {Id::makeLag, "&Link", "Make a LA&G", "", "Aggregate the selected links between two devices", true,
         false, true},
        {Id::dissolveLag, "&Link", "&Dissolve the LAG", "", "Make the links of a LAG single ones again",
         true},
        {Id::straighten, "&Link", "&Straighten", "", "Remove the bends of the selected links", true},
        {Id::followCables, "&Cable", "&Follow the cables", "T",
         "Show every port and cable from one end of the selected link or port to the other", true},
        {Id::labelCables, "&Cable", "&Label…", "Ctrl+Shift+B",
         "Label cables by a scheme, with every label shown first", false, false, true},
        {Id::printLabels, "&Cable", "&Print label sheet…", "",
         "Write labels for both ends of the selected cables, or of all, as PDF", false},
        {Id::cableLengths, "&Cable", "Le&ngths from places…", "",
         "Work out lengths from where the devices stand, by margin, slack and stock", false},
        {Id::places, "&Cable", "Floors, &racks and risers…", "",
         "Where floors, racks and risers are, for the lengths of cables", false},
        {Id::cableStock, "&Cable", "Cable &stock…", "",
         "Which cable types are approved, in which lengths, and types of your own", false, false, true},
        {Id::zoomIn, "&View", "Zoom &in", "Ctrl++ Ctrl+=", "Show less, larger", false},
        {Id::zoomOut, "&View", "Zoom &out", "Ctrl+-", "Show more, smaller", false},
        {Id::zoomWhole, "&View", "&100 %", "Ctrl+0", "Show the sheet at its own size", false},
        {Id::fit, "&View", "Fit &all", "Ctrl+9", "Show the whole sheet", false},
        {Id::fitSelection, "&View", "&Fit selection", "F",
         "Show the selection, or the whole sheet when nothing is selected", true},
        {Id::nextPanel, "&View", "Next &panel", "F6",
         "Move the focus from the sheet to the details, the panel on the left, the find field and back",
         false},
        {Id::followTheme, "&View", "Theme: as the &desktop", "", "Light or dark as the desktop has it", false,
         true, true},
        {Id::lightTheme, "&View", "Theme: &light", "", "Light colours", false, true},
        {Id::darkTheme, "&View", "Theme: dar&k", "", "Dark colours", false, true},
        {Id::showFaceplates, "&View", "Face&plates", "F9",
         "Show the ports of the selected device as they are on it; of two devices, face to face", false,
         false, true},
        {Id::showRegisters, "&View", "&Registers", "F7", "Show tables of devices, ports, links and cables",
         false},
        {Id::showFindings, "&View", "Fin&dings", "F8", "Show what is wrong with the network", false},
        {Id::bottomDock, "&View", "&Bottom dock", "B", "Show or hide what lies below the sheet", true, true,
         true},
        {Id::fullScreen, "&View", "F&ull screen", "F11", "Use the whole screen", false, true},
        {Id::keys, "&Help", "&Keys and gestures", "F1", "Show every key and gesture", false},
        {Id::about, "&Help", "&About Underridge", "", "Version and licence", false},
    };
    return table;
}

const Command& commandOf(CommandId id) {
    return commandTable()[static_cast<std::size_t>(id)];
}

QString keysText(const Command& command) {
    QStringList out;
    for (const QString& key : QString::fromUtf8(command.keys).split(QLatin1Char(' '), Qt::SkipEmptyParts))
        out << QKeySequence::fromString(key, QKeySequence::PortableText).toString(QKeySequence::NativeText);
    return out.join(QStringLiteral(", "));
}

QString plainText(const Command& command) {
    return QString::fromUtf8(command.text).remove(QLatin1Char('&')).remove(QChar(0x2026));
}

} // namespace underridge::app
