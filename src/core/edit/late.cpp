// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/late.h"

#include "core/exchange/own_format.h"
#include "core/exchange/record_json.h"
#include "core/model/ports.h"
#include "core/model/references.h"
#include "core/model/texts.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

template <class Record>
std::string nameOf(const Record& record) {
    if constexpr (requires { record.name; })
        return record.name;
    else if constexpr (requires { record.label; })
        return record.label;
    else
        return {};
}

Remark overtaken(Kind kind, std::string name) {
    return error(fmt::format("meanwhile a {} that this would change was changed otherwise{}", titleOf(kind),
                             name.empty() ? std::string() : ": " + name),
                 "do it again on what is there now");
}

/// Whether a port carries no more than it can.
bool isFree(const Network& network, const PortRef& port) {
    if (!port.known())
        return true;
    int links = 0;
    network.forEachLinkOf(port.device, [&](const Link& link) { links += link.a == port || link.b == port; });
    if (links < 2)
        return true;
    const auto view = portAt(network, port);
    return view && view->isShared();
}

/// Whether a record can stand where it is put.
template <class Record>
std::optional<Remark> misplaced(const Network& network, const Record& record) {
    if (!refersToWhatIsThere(network, record))
        return error(
            fmt::format("meanwhile something that a {} of this rests on was removed", titleOf(Record::kind)),
            "do it again on what is there now", {{}, 0, 0, nameOf(record)});
    if constexpr (std::is_same_v<Record, Link>)
        for (const PortRef* end : {&record.a, &record.b})
            if (!isFree(network, *end))
                return error(fmt::format("meanwhile port {} was taken", portText(network, *end)),
                             "do it again on what is there now");
    return std::nullopt;
}

template <class Record>
bool isText(const Record& record) {
    bool valid = true;
    forEachText(record, [&](std::string_view text) { valid &= isValidUtf8(text); });
    return valid;
}

} // namespace

ActResult broughtUpTo(Act act, const Network& now) {
    if (!act.base || *act.base == now) {
        act.base.reset();
        return act;
    }
    Network next = now;
    std::optional<Remark> wrong;
    Network::compare(*act.base, act.network, [&]<class Record>(const Record* old, const Record* wanted) {
        const Key key = wanted ? wanted->key() : old->key();
        const Record* present = now.find<Record>(key);
        const auto same = [](const Record* a, const Record* b) { return a == b || (a && b && *a == *b); };
        if (wrong || same(present, wanted))
            return;
        if (!same(present, old))
            wrong = overtaken(Record::kind, nameOf(present ? *present : *old));
        else if (wanted)
            next.put(*wanted);
        else
            next.erase<Record>(key);
    });
    // What was put must find what it refers to; what was taken away must not be missed by
    // what came meanwhile.
    const auto check = [&]<class Record>(const Record*, const Record* after) {
        if (after && !wrong)
            wrong = misplaced(next, *after);
    };
    if (!wrong)
        Network::compare(now, next, check);
    if (!wrong)
        Network::compare(*act.base, next, check);
    if (wrong)
        return *std::move(wrong);
    act.network = std::move(next);
    act.base.reset();
    return act;
}

Result<Done> canBeKept(const Network& before, const Network& after) {
    std::optional<Remark> wrong;
    Network::compare(before, after, [&]<class Record>(const Record*, const Record* record) {
        if (!record || wrong)
            return;
        const Where where{{}, 0, 0, nameOf(*record).substr(0, 60)};
        if (!isText(*record))
            wrong = error("the text is not valid", "type it again", where);
        else if (exchange::lineOf(*record).size() > exchange::maxLineBytes)
            wrong = error(fmt::format("the {} holds more than {} MB of text", titleOf(Record::kind),
                                      exchange::maxLineBytes >> 20),
                          "shorten it", where);
        if constexpr (std::is_same_v<Record, Position>)
            if (!wrong && !(isOnSheet(record->at) &&
                            std::all_of(record->bends.begin(), record->bends.end(), isOnSheet)))
                wrong = error("that is off the sheet", "put it nearer to the rest");
    });
    if (wrong)
        return *std::move(wrong);
    return Done{};
}

} // namespace underridge::edit
