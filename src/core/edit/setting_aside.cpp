// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/setting_aside.h"

#include <algorithm>
#include <charconv>
#include <chrono>
#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
namespace {

std::optional<Remark> wrongIn(const Aside& aside) {
    if (trimmed(aside.reason).empty())
        return error("there is no reason", "say why the finding is left as it is");
    for (const std::string& day : {aside.date, aside.until})
        if (!day.empty() && !isDay(day))
            return error(fmt::format("{} is no day", day), "write it as 2027-01-31");
    if (!aside.until.empty() && aside.until < aside.date)
        return error(fmt::format("{} is over", aside.until), "write a day to come, or none");
    return std::nullopt;
}

void put(Network& network, std::string rule, std::vector<ObjectRef> subjects, const Aside& aside,
         IdSource& ids) {
    std::sort(subjects.begin(), subjects.end());
    SetAside record{{}, std::move(rule), std::move(subjects), trimmed(aside.reason), aside.date, aside.until,
                    {}};
    const auto held = setAsideOf(network, record.rule, record.subjects);
    record.id = held.empty() ? ids.make<SetAsideId>() : held.front();
    network.put(std::move(record));
}

} // namespace

bool isDay(std::string_view text) {
    if (text.size() != 10 || text[4] != '-' || text[7] != '-')
        return false;
    const auto number = [&](std::size_t from, std::size_t count) {
        int value = -1;
        const char* end = text.data() + from + count;
        return std::from_chars(text.data() + from, end, value).ptr == end ? value : -1;
    };
    const std::chrono::year_month_day day{std::chrono::year(number(0, 4)),
                                          std::chrono::month(static_cast<unsigned>(number(5, 2))),
                                          std::chrono::day(static_cast<unsigned>(number(8, 2)))};
    return day.ok();
}

ActResult setAside(const Network& network, std::span<const linking::Finding> findings, const Aside& aside,
                   IdSource& ids) {
    if (auto why = wrongIn(aside))
        return *why;
    if (findings.empty())
        return error("no finding is selected", "select one in the list");
    Act act{findings.size() == 1 ? fmt::format("Set aside: {}", findings.front().rule->title)
                                 : fmt::format("Set {} findings aside", findings.size()),
            network,
            {}};
    for (const linking::Finding& finding : findings)
        put(act.network, std::string(finding.rule->code), finding.subjects, aside, ids);
    return act;
}

ActResult setAside(const Network& network, const std::string& rule, std::vector<ObjectRef> subjects,
                   const Aside& aside, IdSource& ids) {
    if (auto why = wrongIn(aside))
        return *why;
    if (subjects.empty())
        return error("there is nothing it is about", "name the objects of the finding");
    Act act{fmt::format("Set aside: {}", rule), network, {}};
    put(act.network, rule, std::move(subjects), aside, ids);
    return act;
}

std::vector<SetAsideId> setAsideOf(const Network& network, const std::string& rule,
                                   const std::vector<ObjectRef>& subjects) {
    std::vector<SetAsideId> records;
    network.all<SetAside>().forEach([&](const SetAside& held) {
        if (held.rule == rule &&
            std::is_permutation(held.subjects.begin(), held.subjects.end(), subjects.begin(), subjects.end()))
            records.push_back(held.id);
    });
    return records;
}

ActResult countAgain(const Network& network, std::span<const SetAsideId> records) {
    Act act{records.size() == 1 ? std::string("Count the finding again")
                                : fmt::format("Count {} findings again", records.size()),
            network,
            {}};
    for (const SetAsideId id : records)
        if (!act.network.erase<SetAside>({id.value, 0}))
            return error("one of them is no longer set aside", "select again");
    return act;
}

} // namespace underridge::edit
