// SPDX-License-Identifier: GPL-3.0-or-later
// Every command once, as plain data: menus, shortcuts, the F1 sheet, the find field and
// the documents are made from this table.
#pragma once
#include <QCoreApplication>
#include <QString>
#include <span>

namespace underridge::app {

enum class CommandId {
    newNetwork,
    open,
    import,
    firstOffice,
    fennickQuay,
    fennickAsFound,
    startPage,
    save,
    saveAs,
    mergeCables,
    mergeResults,
    exportData,
    exportPicture,
    print,
    quit,
    undo,
    redo,
    cut,
    copy,
    paste,
    duplicate,
    remove,
    rename,
    selectAll,
    find,
    preferences,
    openSelected,
    addDevice,
    addNote,
    addZone,
    addPattern,
    ownModels,
    updateModels,
    link,
    linkInRow,
    linkMany,
    otherPort,
    makeLag,
    dissolveLag,
    declareRing,
    dissolveRing,
    straighten,
    followCables,
    labelCables,
    printLabels,
    cableLengths,
    places,
    cableStock,
    group,
    ungroup,
    foldOrUnfold,
    foldAll,
    unfoldAll,
    enterGroup,
    leaveGroup,
    showGroups,
    closeFar,
    tuck,
    tuckAll,
    bringOutAll,
    sortOut,
    rack,
    plan,
    sheetOnPlan,
    measurePlan,
    feedPower,
    printDoorSheets,
    drawTray,
    drawConduit,
    arrange,
    arrangeAgain,
    fitIn,
    alignLeft,
    alignCentre,
    alignRight,
    alignTop,
    alignMiddle,
    alignBottom,
    distributeAcross,
    distributeDown,
    middlesAcross,
    middlesDown,
    gapsAsFirstAcross,
    gapsAsFirstDown,
    sameSize,
    mirrorAcross,
    mirrorDown,
    turnQuarter,
    swapTwo,
    makeRoom,
    closeUp,
    newSheet,
    sheetLikeThis,
    sheetOfGroup,
    sheetOfSelection,
    sheetOfRacks,
    sheetOfDataLink,
    sheetOfNetwork,
    takeOff,
    showMissing,
    filterSheet,
    removeSheet,
    zoomIn,
    zoomOut,
    zoomWhole,
    fit,
    fitSelection,
    home,
    goBack,
    goForward,
    portLabels,
    linkLabels,
    linesAlongAxes,
    linesBundled,
    linksOnDemand,
    nextPanel,
    followTheme,
    lightTheme,
    darkTheme,
    showFaceplates,
    showRegisters,
    showFindings,
    trace,
    overlay,
    bottomDock,
    fullScreen,
    keys,
    about
};

struct Command {
    CommandId id;
    const char* menu; ///< the menu it stands in
    const char* text; ///< with mnemonic
    const char* keys; ///< default keys, separated by spaces, in QKeySequence's portable text; may be empty
    const char* tip;  ///< what it does, one line
    bool onSheet;     ///< acts only while the sheet has the focus (single letters)
    bool checkable = false;
    bool separatorBefore = false;
};

/// The table, in a class of its own so that its texts can be found for translating.
class CommandTable {
    Q_DECLARE_TR_FUNCTIONS(CommandTable)
public:
    static std::span<const Command> all();
};
std::span<const Command> commandTable();
const Command& commandOf(CommandId id);

/// A text of the table in the person's language.
QString shown(const char* text);
/// What it does, in the person's language.
QString tipOf(const Command& command);
/// The text without mnemonic and dots.
QString plainText(const Command& command);

} // namespace underridge::app
