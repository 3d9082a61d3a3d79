// SPDX-License-Identifier: GPL-3.0-or-later
// Undo and redo: named steps between values, each with what the person had selected and
// in view.
#pragma once
#include "core/edit/act.h"

#include <optional>

namespace underridge::edit {

/// What belongs to the person rather than to the network: never saved as content, never
/// makes it modified.
struct Session {
    model::SheetId sheet;
    Refs selection;
    double centreX = 0, centreY = 0, zoom = 1; ///< sheet units, screen pixels per unit

    bool operator==(const Session&) const = default;
};

/// Two acts merge into one step when both carry an equal key, follow within
/// mergeWindowMs, and nothing (undo, redo, save, another act) came between.
struct MergeKey {
    std::string field; ///< "move by arrow keys"
    Refs objects;

    bool operator==(const MergeKey&) const = default;
};
inline constexpr std::int64_t mergeWindowMs = 1000;

class History {
public:
    explicit History(model::Network start) : now_(std::move(start)) {}

    const model::Network& now() const { return now_; }

    /// Takes an act. False (and nothing happens, redo stays) when its network equals the
    /// present one.
    bool apply(Act act, const Session& before, const Session& after, std::int64_t nowMs,
               std::optional<MergeKey> merge = std::nullopt);

    bool canUndo() const { return done_ > 0; }
    bool canRedo() const { return done_ < steps_.size(); }
    /// Names of the steps; empty when there is none.
    std::string undoName() const { return canUndo() ? steps_[done_ - 1].name : std::string(); }
    std::string redoName() const { return canRedo() ? steps_[done_].name : std::string(); }

    /// What undo() would come to. REQUIRES: canUndo().
    const model::Network& beforeLast() const { return steps_[done_ - 1].before; }

    /// The session to go back to. REQUIRES: canUndo(), canRedo().
    Session undo();
    Session redo();

    /// Ends merging: what comes next is a step of its own.
    void seal() { mergeable_ = false; }

    std::size_t steps() const { return steps_.size(); }

private:
    struct Step {
        std::string name;
        model::Network before, after;
        Session sessionBefore, sessionAfter;
        std::optional<MergeKey> merge;
        std::int64_t atMs = 0;
    };

    model::Network now_;
    std::vector<Step> steps_;
    std::size_t done_ = 0;
    bool mergeable_ = false;
};

} // namespace underridge::edit
