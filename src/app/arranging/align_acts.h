// SPDX-License-Identifier: GPL-3.0-or-later
// Hand work on the selection: what each command of the Arrange menu makes of it, and how that
// would look.
#pragma once
#include "app/commands/command_table.h"
#include "app/sheet/sheet_view.h"
#include "core/edit/aligning.h"

namespace underridge::app {

class AlignActs {
public:
    AlignActs(Session& session, SheetView& sheet) : session_(session), sheet_(sheet) {}

    /// All commands of this kind.
    static std::span<const CommandId> commands();
    /// Whether there is enough selected for one.
    bool can(CommandId id) const;
    void act(CommandId id);
    /// Shows on the sheet where it would put what is selected.
    void preview(CommandId id);
    void endPreview() { sheet_.showGhosts({}); }

private:
    std::vector<edit::Shown> shown() const;
    std::vector<model::ObjectRef> frames() const;
    edit::ActResult made(CommandId id) const;

    Session& session_;
    SheetView& sheet_;
};

} // namespace underridge::app
