// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/history.h"

namespace underridge::edit {

bool History::apply(Act act, const Session& before, const Session& after, std::int64_t nowMs,
                    std::optional<MergeKey> merge) {
    if (act.network == now_)
        return false;
    steps_.resize(done_);
    Step* last = steps_.empty() ? nullptr : &steps_.back();
    const bool merges =
        mergeable_ && merge && last && last->merge == merge && nowMs - last->atMs <= mergeWindowMs;
    if (merges) {
        last->after = act.network;
        last->sessionAfter = after;
        last->atMs = nowMs;
    } else {
        steps_.push_back({std::move(act.name), now_, act.network, before, after, std::move(merge), nowMs});
        ++done_;
    }
    mergeable_ = true;
    now_ = std::move(act.network);
    return true;
}

Session History::undo() {
    const Step& step = steps_[--done_];
    now_ = step.before;
    seal();
    return step.sessionBefore;
}

Session History::redo() {
    const Step& step = steps_[done_++];
    now_ = step.after;
    seal();
    return step.sessionAfter;
}

} // namespace underridge::edit
