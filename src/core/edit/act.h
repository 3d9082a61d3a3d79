// SPDX-License-Identifier: GPL-3.0-or-later
// Every change of a network is a function that takes a value and gives the next one, or
// refuses with a remark. What the person did has a name, for the undo menu; what it
// concerns is selected afterwards.
#pragma once
#include "core/base/result.h"
#include "core/model/network.h"

#include <optional>

namespace underridge::edit {

struct Act {
    std::string name; ///< "Link acc-1 1 to till-01 1": sentence case, no full stop
    model::Network network;
    std::vector<model::ObjectRef> subjects;
    /// The network it was made from, where that may be another than the present one by
    /// the time it is taken: a worker's, a dialog's. None: the present one.
    std::optional<model::Network> base = {};
};

using ActResult = Result<Act>;

using Refs = std::vector<model::ObjectRef>;

/// Applies `change(Record&)` to the records with these keys, as one act. An act that
/// changes nothing has an equal network. Refuses when a record is gone.
template <class Record, class Change>
ActResult changeEach(const model::Network& network, const std::vector<model::Key>& keys, std::string name,
                     Change&& change) {
    Act act{std::move(name), network, {}};
    for (const model::Key key : keys) {
        const Record* record = network.find<Record>(key);
        if (!record)
            return error("one of them is no longer there", "select again");
        Record copy = *record;
        change(copy);
        act.network.put(std::move(copy));
    }
    return act;
}

/// What an act says whose device somebody removed meanwhile.
inline Remark deviceGone() {
    return error("the device is no longer there", "select again");
}

} // namespace underridge::edit
