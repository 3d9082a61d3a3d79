// SPDX-License-Identifier: GPL-3.0-or-later
// The commands of a window: an action for each of the table, with what it does and when
// it can, which the features add.
#pragma once
#include "app/commands/command_table.h"

#include <QAction>
#include <functional>
#include <map>

class QSettings;

namespace underridge::app {

class Commands : public QObject {
    Q_OBJECT
public:
    /// Commands for the sheet act while `sheet` has the focus, the others in the whole
    /// `window`.
    Commands(QWidget* window, QWidget* sheet);

    using Run = std::function<void()>;
    using Can = std::function<bool()>;
    /// What a command does; `can` says when, and is asked by refresh(). Without it the
    /// command always can.
    void add(CommandId id, Run run, Can can = {});
    void add(std::initializer_list<std::pair<CommandId, Run>> several, const Can& can);

    QAction* action(CommandId id) const { return actions_.at(id); }
    void run(CommandId id);
    /// Asks each command whether it can act now.
    void refresh();
    /// Gives actions the keys the person chose, or those of the table.
    void applyKeys(QSettings& settings);
    /// Commands of the table that nothing was added for.
    std::vector<CommandId> missing() const;

Q_SIGNALS:
    void running(); ///< a command is about to run
    void ran();     ///< a checkable action has changed its mark by itself

private:
    struct Does {
        Run run;
        Can can;
    };
    std::map<CommandId, QAction*> actions_;
    std::map<CommandId, Does> does_;
};

} // namespace underridge::app
