// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/command_table.h"

namespace underridge::app {

std::span<const Command> CommandTable::all() {
    using Id = CommandId;
    static constexpr const char *fileMenu = QT_TR_NOOP("&File"), *editMenu = QT_TR_NOOP("&Edit"),
                                *placeMenu = QT_TR_NOOP("&Place"), *linkMenu = QT_TR_NOOP("&Link"),
                                *cableMenu = QT_TR_NOOP("&Cable"), *groupMenu = QT_TR_NOOP("&Group"),
                                *viewMenu = QT_TR_NOOP("&View"), *helpMenu = QT_TR_NOOP("&Help");
    static constexpr Command table[] = {
        {Id::newNetwork, fileMenu, QT_TR_NOOP("&New network"), "Ctrl+N", QT_TR_NOOP("Start an empty network"),
         false},
        {Id::open, fileMenu, QT_TR_NOOP("&Open…"), "Ctrl+O",
         QT_TR_NOOP("Open a network from a file: Underridge, RFC 8345 JSON, GraphML, CSV or a workbook"),
         false},
        {Id::import, fileMenu, QT_TR_NOOP("&Import…"), "Ctrl+I",
         QT_TR_NOOP("Take a network from a file into this one: Underridge, RFC 8345 JSON, GraphML, CSV or a "
                    "workbook"),
         false},
        {Id::firstOffice, fileMenu, QT_TR_NOOP("&First office"), "",
         QT_TR_NOOP("Open the small sample network"), false},
        {Id::fennickQuay, fileMenu, QT_TR_NOOP("Fennick &Quay"), "",
         QT_TR_NOOP("Open the large sample network, a ferry terminal"), false},
        {Id::startPage, fileMenu, QT_TR_NOOP("S&tart page"), "",
         QT_TR_NOOP("Show recent files and work that can be recovered, or go back to the sheet"), false},
        {Id::save, fileMenu, QT_TR_NOOP("&Save"), "Ctrl+S", QT_TR_NOOP("Save the network"), false, false,
         true},
        {Id::saveAs, fileMenu, QT_TR_NOOP("Save &as…"), "Ctrl+Shift+S",
         QT_TR_NOOP("Save the network under another name"), false},
        {Id::mergeCables, fileMenu, QT_TR_NOOP("&Merge cable schedule…"), "",
         QT_TR_NOOP("Match a table of cables against the drawing, and take in what is new or changed"),
         false},
        {Id::mergeResults, fileMenu, QT_TR_NOOP("Merge tester &results…"), "",
         QT_TR_NOOP("Take in what a cable tester measured, by cable label"), false},
        {Id::exportData, fileMenu, QT_TR_NOOP("Export &data…"), "",
         QT_TR_NOOP("Write the network as RFC 8345 JSON, GraphML, CSV or a workbook"), false, false, true},
        {Id::exportPicture, fileMenu, QT_TR_NOOP("&Export picture…"), "Ctrl+Shift+E",
         QT_TR_NOOP("Write the sheet as PNG, SVG or PDF"), false},
        {Id::print, fileMenu, QT_TR_NOOP("&Print…"), "Ctrl+P",
         QT_TR_NOOP("Print the sheet, A4 to A0, with a preview"), false},
        {Id::quit, fileMenu, QT_TR_NOOP("&Quit"), "Ctrl+Q", QT_TR_NOOP("Close the program"), false, false,
         true},
        {Id::undo, editMenu, QT_TR_NOOP("&Undo"), "Ctrl+Z", QT_TR_NOOP("Take the last step back"), false},
        {Id::redo, editMenu, QT_TR_NOOP("&Redo"), "Ctrl+Shift+Z Ctrl+Y", QT_TR_NOOP("Do the step again"),
         false},
        {Id::cut, editMenu, QT_TR_NOOP("Cu&t"), "Ctrl+X", QT_TR_NOOP("Copy the selection and delete it"),
         true, false, true},
        {Id::copy, editMenu, QT_TR_NOOP("&Copy"), "Ctrl+C",
         QT_TR_NOOP("Copy the selection with the links among it"), true},
        {Id::paste, editMenu, QT_TR_NOOP("&Paste"), "Ctrl+V", QT_TR_NOOP("Put down what was copied"), true},
        {Id::duplicate, editMenu, QT_TR_NOOP("D&uplicate"), "Ctrl+D",
         QT_TR_NOOP("Copy the selection beside itself"), true},
        {Id::remove, editMenu, QT_TR_NOOP("&Delete"), "Del", QT_TR_NOOP("Delete the selection"), true},
        {Id::rename, editMenu, QT_TR_NOOP("Re&name…"), "F2",
         QT_TR_NOOP("Rename the selection; several get a name series"), true, false, true},
        {Id::selectAll, editMenu, QT_TR_NOOP("Select &all"), "Ctrl+A",
         QT_TR_NOOP("Select everything on the sheet"), true},
        {Id::find, editMenu, QT_TR_NOOP("&Find…"), "Ctrl+F",
         QT_TR_NOOP("Find a name, an address or a command"), false, false, true},
        {Id::preferences, editMenu, QT_TR_NOOP("Pre&ferences…"), "Ctrl+,",
         QT_TR_NOOP("Theme, text size and keys"), false, false, true},
        {Id::openSelected, editMenu, QT_TR_NOOP("Op&en the selection"), "Return Enter",
         QT_TR_NOOP("Edit the note, show the faceplate, or choose the ports of the link"), true},
        {Id::addDevice, placeMenu, QT_TR_NOOP("&Add devices…"), "A",
         QT_TR_NOOP("Type what to add, such as 4 access switch 24 named acc-{1..}"), true},
        {Id::addNote, placeMenu, QT_TR_NOOP("Add &note…"), "N", QT_TR_NOOP("Put a text on the sheet"), true},
        {Id::ownModels, placeMenu, QT_TR_NOOP("&Own models…"), "",
         QT_TR_NOOP("Make, copy and change device models of your own"), false, false, true},
        {Id::updateModels, placeMenu, QT_TR_NOOP("&Update models…"), "",
         QT_TR_NOOP("Take over models that changed in the library since this network took its copy"), false},
        {Id::link, linkMenu, QT_TR_NOOP("&Link…"), "L",
         QT_TR_NOOP("Link the selection to a device chosen next"), true},
        {Id::linkInRow, linkMenu, QT_TR_NOOP("Link in a &row"), "Shift+L",
         QT_TR_NOOP("Link the selected devices in a row, in order of selection"), true},
        {Id::linkMany, linkMenu, QT_TR_NOOP("Link &many…"), "Ctrl+L",
         QT_TR_NOOP(
             "Link the selected devices to those among them that stand highest, shown before it is done"),
         true},
        {Id::otherPort, linkMenu, QT_TR_NOOP("&Other port…"), "Shift+P",
         QT_TR_NOOP("Choose other ports for the selected link"), true, false, true},
        {Id::makeLag, linkMenu, QT_TR_NOOP("Make a LA&G"), "",
         QT_TR_NOOP("Aggregate the selected links between two devices"), true, false, true},
        {Id::dissolveLag, linkMenu, QT_TR_NOOP("&Dissolve the LAG"), "",
         QT_TR_NOOP("Make the links of a LAG single ones again"), true},
        {Id::straighten, linkMenu, QT_TR_NOOP("&Straighten"), "",
         QT_TR_NOOP("Remove the bends of the selected links"), true},
        {Id::followCables, cableMenu, QT_TR_NOOP("&Follow the cables"), "T",
         QT_TR_NOOP("Show every port and cable from one end of the selected link or port to the other"),
         true},
        {Id::labelCables, cableMenu, QT_TR_NOOP("&Label…"), "Ctrl+Shift+B",
         QT_TR_NOOP("Label cables by a scheme, with every label shown first"), false, false, true},
        {Id::printLabels, cableMenu, QT_TR_NOOP("&Print label sheet…"), "",
         QT_TR_NOOP("Write labels for both ends of the selected cables, or of all, as PDF"), false},
        {Id::cableLengths, cableMenu, QT_TR_NOOP("Le&ngths from places…"), "",
         QT_TR_NOOP("Work out lengths from where the devices stand, by margin, slack and stock"), false},
        {Id::places, cableMenu, QT_TR_NOOP("Floors, &racks and risers…"), "",
         QT_TR_NOOP("Where floors, racks and risers are, for the lengths of cables"), false},
        {Id::cableStock, cableMenu, QT_TR_NOOP("Cable &stock…"), "",
         QT_TR_NOOP("Which cable types are approved, in which lengths, and types of your own"), false, false,
         true},
        {Id::group, groupMenu, QT_TR_NOOP("&Group"), "G",
         QT_TR_NOOP("Put what is selected into a new group and name it; with nothing selected, an empty one"),
         true},
        {Id::ungroup, groupMenu, QT_TR_NOOP("&Ungroup"), "Shift+G",
         QT_TR_NOOP("Dissolve the selected groups; their members stay where they are"), true},
        {Id::foldOrUnfold, groupMenu, QT_TR_NOOP("&Fold or unfold"), "U",
         QT_TR_NOOP("Draw the selected groups as one tile each, or with their contents"), true, false, true},
        {Id::foldAll, groupMenu, QT_TR_NOOP("Fold &all"), "", QT_TR_NOOP("Draw every group as a tile"),
         false},
        {Id::unfoldAll, groupMenu, QT_TR_NOOP("Unfo&ld all"), "",
         QT_TR_NOOP("Draw every group with its contents"), false},
        {Id::enterGroup, groupMenu, QT_TR_NOOP("&Enter"), "",
         QT_TR_NOOP("Look into the selected group only, with doorways to what is outside"), false, false,
         true},
        {Id::leaveGroup, groupMenu, QT_TR_NOOP("Lea&ve"), "Alt+Up", QT_TR_NOOP("Look one level further out"),
         false},
        {Id::showGroups, groupMenu, QT_TR_NOOP("&Show groups"), "",
         QT_TR_NOOP("Draw groups on this sheet as frames and tiles"), false, true, true},
        {Id::zoomIn, viewMenu, QT_TR_NOOP("Zoom &in"), "Ctrl++ Ctrl+=", QT_TR_NOOP("Show less, larger"),
         false},
        {Id::zoomOut, viewMenu, QT_TR_NOOP("Zoom &out"), "Ctrl+-", QT_TR_NOOP("Show more, smaller"), false},
        {Id::zoomWhole, viewMenu, QT_TR_NOOP("&100 %"), "Ctrl+0",
         QT_TR_NOOP("Show the sheet at its own size"), false},
        {Id::fit, viewMenu, QT_TR_NOOP("Fit &all"), "Ctrl+9", QT_TR_NOOP("Show the whole sheet"), false},
        {Id::fitSelection, viewMenu, QT_TR_NOOP("&Fit selection"), "F",
         QT_TR_NOOP("Show the selection, or the whole sheet when nothing is selected"), true},
        {Id::home, viewMenu, QT_TR_NOOP("&Whole sheet"), "Home",
         QT_TR_NOOP("Leave all groups and show the whole sheet"), true},
        {Id::goBack, viewMenu, QT_TR_NOOP("Bac&k"), "Alt+Left",
         QT_TR_NOOP("Go back to where you looked before"), false, false, true},
        {Id::goForward, viewMenu, QT_TR_NOOP("For&ward"), "Alt+Right", QT_TR_NOOP("Go forward again"), false},
        {Id::portLabels, viewMenu, QT_TR_NOOP("Port &labels"), "",
         QT_TR_NOOP("Show the ports of links on this sheet"), false, true, true},
        {Id::linkLabels, viewMenu, QT_TR_NOOP("Lin&k labels"), "",
         QT_TR_NOOP("Show label and length of cables on this sheet"), false, true},
        {Id::nextPanel, viewMenu, QT_TR_NOOP("Next &panel"), "F6",
         QT_TR_NOOP("Move the focus from the sheet to the details, the panels on the left and below, the "
                    "find field and back"),
         false, false, true},
        {Id::followTheme, viewMenu, QT_TR_NOOP("Theme: as the &desktop"), "",
         QT_TR_NOOP("Light or dark as the desktop has it"), false, true, true},
        {Id::lightTheme, viewMenu, QT_TR_NOOP("Theme: &light"), "", QT_TR_NOOP("Light colours"), false, true},
        {Id::darkTheme, viewMenu, QT_TR_NOOP("Theme: dar&k"), "", QT_TR_NOOP("Dark colours"), false, true},
        {Id::showFaceplates, viewMenu, QT_TR_NOOP("Face&plates"), "F9",
         QT_TR_NOOP("Show the ports of the selected device as they are on it; of two devices, face to face"),
         false, false, true},
        {Id::showRegisters, viewMenu, QT_TR_NOOP("&Registers"), "F7",
         QT_TR_NOOP("Show tables of devices, ports, links and cables"), false},
        {Id::showFindings, viewMenu, QT_TR_NOOP("Fin&dings"), "F8",
         QT_TR_NOOP("Show what is wrong with the network"), false},
        {Id::bottomDock, viewMenu, QT_TR_NOOP("&Bottom dock"), "B",
         QT_TR_NOOP("Show or hide what lies below the sheet"), true, true, true},
        {Id::fullScreen, viewMenu, QT_TR_NOOP("F&ull screen"), "F11", QT_TR_NOOP("Use the whole screen"),
         false, true},
        {Id::keys, helpMenu, QT_TR_NOOP("&Keys and gestures"), "F1", QT_TR_NOOP("Show every key and gesture"),
         false},
        {Id::about, helpMenu, QT_TR_NOOP("&About Underridge"), "", QT_TR_NOOP("Version and licence"), false},
    };
    return table;
}

const Command& commandOf(CommandId id) {
    return commandTable()[static_cast<std::size_t>(id)];
}

std::span<const Command> commandTable() {
    return CommandTable::all();
}

QString shown(const char* text) {
    return CommandTable::tr(text);
}

QString tipOf(const Command& command) {
    return shown(command.tip);
}

QString plainText(const Command& command) {
    return shown(command.text).remove(QLatin1Char('&')).remove(QChar(0x2026));
}

} // namespace underridge::app
