// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/commands/commands.h"

#include "app/commands/keys.h"

#include <QWidget>

namespace underridge::app {

Commands::Commands(QWidget* window, QWidget* sheet) : QObject(window) {
    for (const Command& command : commandTable()) {
        auto* action = new QAction(shown(command.text), window);
        action->setCheckable(command.checkable);
        action->setStatusTip(tipOf(command));
        if (command.onSheet)
            action->setShortcutContext(Qt::WidgetShortcut);
        sheet->addAction(action);
        window->addAction(action);
        connect(action, &QAction::triggered, this, [this, id = command.id] { run(id); });
        actions_[command.id] = action;
    }
}

void Commands::add(CommandId id, Run run, Can can) {
    does_[id] = {std::move(run), std::move(can)};
}

void Commands::add(std::initializer_list<std::pair<CommandId, Run>> several, const Can& can) {
    for (const auto& [id, run] : several)
        add(id, run, can);
}

void Commands::run(CommandId id) {
    Q_EMIT running();
    does_.at(id).run();
    Q_EMIT ran();
}

void Commands::refresh() {
    for (const auto& [id, does] : does_)
        actions_.at(id)->setEnabled(!does.can || does.can());
}

void Commands::applyKeys(QSettings& settings) {
    for (const Command& command : commandTable()) {
        const auto keys = keysOf(command, settings);
        const QString tip = tipOf(command);
        action(command.id)->setShortcuts(keys);
        action(command.id)
            ->setToolTip(keys.isEmpty() ? tip : QStringLiteral("%1 (%2)").arg(tip, keysText(keys)));
    }
}

std::vector<CommandId> Commands::missing() const {
    std::vector<CommandId> out;
    for (const Command& command : commandTable())
        if (!does_.contains(command.id))
            out.push_back(command.id);
    return out;
}

} // namespace underridge::app
