// SPDX-License-Identifier: GPL-3.0-or-later
// Acts on findings: set-aside.
#include "core/analysis/check.h"
#include "core/edit/script/line.h"
#include "core/edit/setting_aside.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

ActResult setAsideAct(const Line& line) {
    const auto rule = line.text("rule");
    const auto subjects = line.subjects("of");
    const auto gone = line.flagOr("remove", false);
    const auto reason = line.textOr("reason", ""), date = line.textOr("date", ""),
               until = line.textOr("until", "");
    if (!rule || !subjects)
        return !rule ? rule.refusal() : subjects.refusal();
    if (!gone || !reason || !date || !until)
        return !gone ? gone.refusal() : !reason ? reason.refusal() : !date ? date.refusal() : until.refusal();
    if (!analysis::ruleOf(*rule))
        return line.wrong("rule", fmt::format("{} is no rule", *rule),
                          "see docs/linking.md and docs/forwarding.md");
    const Network& network = line.bench().network;
    if (*gone) {
        const auto records = setAsideOf(network, *rule, *subjects);
        if (records.empty())
            return line.wrong("of", "nothing of that rule is set aside of them", "see check FILE --json");
        return countAgain(network, records);
    }
    auto act = edit::setAside(network, *rule, *subjects, {*reason, *date, *until}, line.bench().ids);
    return act ? std::move(act)
               : line.wrong(trimmed(*reason).empty()          ? "reason"
                            : *until == *date || isDay(*date) ? "until"
                                                              : "date",
                            act.refusal().what, act.refusal().remedy);
}

} // namespace

std::span<const ActWord> findingActs() {
    static const std::vector<ActWord> acts{
        {"set-aside", {"rule", "of", "reason", "date", "until", "remove"}, setAsideAct}};
    return acts;
}

} // namespace underridge::edit
