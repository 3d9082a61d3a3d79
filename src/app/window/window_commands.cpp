// SPDX-License-Identifier: GPL-3.0-or-later
// The main window's commands: what each of the table does, with its key, its menu and when it is enabled.
#include "app/sheet/snapping.h"
#include "app/window/main_window.h"
#include "app/window/preferences.h"
#include "core/edit/lags.h"
#include "core/edit/links.h"
#include "core/edit/objects.h"
#include "core/edit/sheets.h"

#include <QDockWidget>
#include <QMenuBar>

namespace underridge::app {
using namespace model;

void MainWindow::buildActions() {
    for (const Command& command : commandTable()) {
        auto* action = new QAction(tr(command.text), this);
        action->setCheckable(command.checkable);
        action->setStatusTip(tr(command.tip));
        if (command.onSheet)
            action->setShortcutContext(Qt::WidgetShortcut);
        sheet_->addAction(action);
        addAction(action);
        const CommandId id = command.id;
        connect(action, &QAction::triggered, this, [this, id] { run(id); });
        actions_[id] = action;
    }
    applyKeys();
    auto& menu = sheet_->contextMenu();
    using Id = CommandId;
    for (const Id id :
         {Id::rename, Id::link, Id::linkMany, Id::otherPort, Id::makeLag, Id::dissolveLag, Id::followCables,
          Id::labelCables, Id::straighten, Id::cut, Id::copy, Id::paste, Id::duplicate, Id::remove})
        menu.addAction(action(id));
    menu.addSeparator();
    for (const Id id : {Id::addDevice, Id::addNote, Id::fitSelection})
        menu.addAction(action(id));
}

void MainWindow::applyKeys() {
    for (const Command& command : commandTable()) {
        const auto keys = keysOf(command, settings());
        QStringList names;
        for (const QKeySequence& key : keys)
            names << key.toString(QKeySequence::NativeText);
        action(command.id)->setShortcuts(keys);
        action(command.id)
            ->setToolTip(keys.isEmpty() ? tr(command.tip)
                                        : QStringLiteral("%1 (%2)").arg(tr(command.tip),
                                                                        names.join(QStringLiteral(", "))));
    }
}

void MainWindow::buildMenus() {
    std::map<std::string, QMenu*> menus;
    for (const Command& command : commandTable()) {
        QMenu*& menu = menus[command.menu];
        if (!menu) {
            menu = menuBar()->addMenu(tr(command.menu));
            menu->setToolTipsVisible(true);
        }
        if (command.separatorBefore)
            menu->addSeparator();
        menu->addAction(action(command.id));
        if (command.id == CommandId::open) {
            recentMenu_ = menu->addMenu(tr("Open &recent"));
            connect(recentMenu_, &QMenu::aboutToShow, this, &MainWindow::fillRecentMenu);
        }
    }
    QMenu* view = menus.at("&View");
    view->addSeparator();
    view->addAction(leftDock_->toggleViewAction());
    view->addAction(detailsDock_->toggleViewAction());
}

void MainWindow::refreshEnabled() {
    const edit::Refs& selection = editor_->selection();
    const bool any = !selection.empty();
    const bool oneLink = selection.size() == 1 && selection.front().kind == Kind::link;
    const bool onSheet = showsSheet();
    const auto enable = [this](CommandId id, bool on) { action(id)->setEnabled(on); };
    using Id = CommandId;
    for (const Id id : {Id::cut, Id::copy, Id::duplicate, Id::remove})
        enable(id, any);
    enable(Id::rename, !editor_->selectedDevices().empty());
    enable(Id::paste, clipboardHolds_);
    enable(Id::linkInRow, editor_->selectedDevices().size() > 1);
    enable(Id::otherPort, oneLink);
    enable(Id::straighten, oneLink);
    enable(Id::followCables, any);
    enable(Id::linkMany, editor_->selectedDevices().size() > 1);
    const auto links = selectedLinks();
    enable(Id::makeLag, links.size() > 1);
    enable(Id::dissolveLag, std::any_of(links.begin(), links.end(), [this](LinkId id) {
               return isInLag(editor_->network(), *editor_->network().link(id));
           }));
    for (const Id id : {Id::labelCables, Id::printLabels, Id::cableLengths})
        enable(id, onSheet && editor_->network().all<Cable>().size() > 0);
    for (const Id id : {Id::addDevice, Id::addNote,    Id::link,          Id::updateModels, Id::save,
                        Id::saveAs,    Id::import,     Id::mergeCables,   Id::mergeResults, Id::cableStock,
                        Id::places,    Id::exportData, Id::exportPicture, Id::print,        Id::selectAll,
                        Id::zoomIn,    Id::zoomOut,    Id::zoomWhole,     Id::fit,          Id::fitSelection})
        enable(id, onSheet);
}

void MainWindow::run(CommandId id) {
    switch (id) {
    case CommandId::newNetwork:
        newNetwork();
        break;
    case CommandId::open:
        chooseNetwork([this](const QString& path) { openFile(path); });
        break;
    case CommandId::firstOffice:
        openFirstOffice();
        break;
    case CommandId::fennickQuay:
        openFennickQuay();
        break;
    case CommandId::startPage:
        showsSheet() ? showStart() : showSheet();
        break;
    case CommandId::save:
    case CommandId::saveAs:
        pathToSave(id == CommandId::saveAs || readOnly_, [this](const QString& path) { saveTo(path); });
        break;
    case CommandId::import:
        chooseNetwork([this](const QString& path) { importFile(path); });
        break;
    case CommandId::mergeCables:
        chooseNetwork([this](const QString& path) { mergeCables(path); });
        break;
    case CommandId::mergeResults:
        chooseNetwork([this](const QString& path) { mergeResults(path); });
        break;
    case CommandId::exportData:
        chooseFile({tr("Export data"),
                    tr("RFC 8345 JSON (*.json);;GraphML (*.graphml);;CSV: devices, then "
                       "links (*.csv);;Spreadsheet workbook (*.xlsx)"),
                    QStringLiteral("json"), QStringLiteral("network.json"), true},
                   askExportPath, [this](const QString& path) { exportTo(path); });
        break;
    case CommandId::exportPicture:
        exportPicture();
        break;
    case CommandId::print:
        printSheet();
        break;
    case CommandId::quit:
        close();
        break;
    case CommandId::undo:
        editor_->undo();
        break;
    case CommandId::redo:
        editor_->redo();
        break;
    case CommandId::cut:
        copySelection();
        editor_->apply(edit::removeObjects(editor_->network(), editor_->selection()));
        break;
    case CommandId::copy:
        copySelection();
        break;
    case CommandId::paste:
        pasteClipboard();
        break;
    case CommandId::duplicate:
        editor_->apply(edit::duplicateObjects(editor_->network(), editor_->sheet(), editor_->selection(),
                                              {gridStep * 4, gridStep * 8}, editor_->ids()));
        break;
    case CommandId::remove:
        editor_->apply(edit::removeObjects(editor_->network(), editor_->selection()));
        break;
    case CommandId::rename:
        sheet_->renameInPlace(editor_->selection());
        break;
    case CommandId::selectAll: {
        edit::Refs all;
        editor_->scene().forEachPlate([&](const scene::Plate& plate) { all.push_back(refTo(plate.id)); });
        editor_->network().forEachNoteOf(editor_->sheet(),
                                         [&](const Note& note) { all.push_back(refTo(note.id)); });
        editor_->select(std::move(all));
        break;
    }
    case CommandId::find:
        find_->setFocus();
        find_->selectAll();
        break;
    case CommandId::ownModels:
        editModels();
        break;
    case CommandId::updateModels:
        updateModels();
        break;
    case CommandId::preferences:
        editPreferences();
        break;
    case CommandId::addDevice:
        sheet_->openAddField(std::nullopt, std::nullopt);
        break;
    case CommandId::addNote:
        sheet_->addNoteHere();
        break;
    case CommandId::link:
        sheet_->linkSelection();
        break;
    case CommandId::linkInRow:
        editor_->apply(edit::linkInRow(editor_->network(), editor_->catalogue(), editor_->selectedDevices(),
                                       editor_->ids(), editor_->habits()));
        break;
    case CommandId::linkMany:
        linkMany();
        break;
    case CommandId::makeLag:
        editor_->apply(edit::makeLag(editor_->network(), selectedLinks(), {}, editor_->ids()));
        break;
    case CommandId::dissolveLag:
        editor_->apply(edit::dissolveLag(editor_->network(), selectedLinks()));
        break;
    case CommandId::labelCables:
        labelCables();
        break;
    case CommandId::printLabels:
        printLabels();
        break;
    case CommandId::cableLengths:
        setCableLengths();
        break;
    case CommandId::places:
        editPlaces();
        break;
    case CommandId::cableStock:
        editStock();
        break;
    case CommandId::otherPort:
        if (editor_->selection().size() == 1)
            sheet_->openDrawerForLink({editor_->selection().front().id}, 1);
        break;
    case CommandId::followCables:
        showBottom(chain_);
        break;
    case CommandId::straighten:
        if (editor_->selection().size() == 1)
            editor_->apply(
                edit::setBends(editor_->network(), editor_->sheet(), {editor_->selection().front().id}, {}));
        break;
    case CommandId::zoomIn:
        sheet_->zoomBy(1.25);
        break;
    case CommandId::zoomOut:
        sheet_->zoomBy(0.8);
        break;
    case CommandId::zoomWhole:
        sheet_->look(sheet_->camera().centre(), 1);
        break;
    case CommandId::fit:
        sheet_->fitAll();
        break;
    case CommandId::fitSelection:
        sheet_->fitSelection();
        break;
    case CommandId::nextPanel:
        focusNextPanel();
        break;
    case CommandId::followTheme:
        theme_->choose(ThemeChoice::desktop);
        break;
    case CommandId::lightTheme:
        theme_->choose(ThemeChoice::light);
        break;
    case CommandId::darkTheme:
        theme_->choose(ThemeChoice::dark);
        break;
    case CommandId::showFaceplates:
        showBottom(faceplates_);
        faceplates_->first().setFocus();
        break;
    case CommandId::showRegisters:
        showBottom(registers_);
        registers_->table().setFocus();
        break;
    case CommandId::showFindings:
        showBottom(findings_);
        findings_->list().setFocus();
        break;
    case CommandId::bottomDock:
        bottomDock_->setVisible(!bottomDock_->isVisible());
        break;
    case CommandId::fullScreen:
        isFullScreen() ? showNormal() : showFullScreen();
        break;
    case CommandId::keys:
        showKeys();
        break;
    case CommandId::about:
        showAbout();
        break;
    }
    refreshThemeChecks(); // a checkable action changes its mark by itself
}

} // namespace underridge::app
