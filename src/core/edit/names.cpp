// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/names.h"

#include "core/edit/fields.h"
#include "core/model/ports.h"

#include <charconv>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <set>

namespace underridge::edit {
using namespace model;
namespace {

constexpr int maxCount = 10'000;
constexpr std::size_t maxDigits = 9; // so that whatever is counted on is a number still

struct NamePattern {
    std::string before, after;
    int from = 1;
    int digits = 1;
    bool counted = false;
};

Result<NamePattern> parseNamePattern(const std::string& text) {
    const auto open = text.find('{'), close = text.find('}');
    if (open == std::string::npos && close == std::string::npos)
        return NamePattern{text, "", 1, 1, false};
    const Remark wrong = error(fmt::format("{} is not a name series", text), "write it as till-{01..}");
    if (open == std::string::npos || close == std::string::npos || close < open ||
        text.find('{', open + 1) != std::string::npos || text.find('}', close + 1) != std::string::npos)
        return wrong;
    const std::string inside = text.substr(open + 1, close - open - 1);
    const std::string first = inside.substr(0, inside.find(".."));
    NamePattern pattern{text.substr(0, open), text.substr(close + 1), 0, static_cast<int>(first.size()),
                        true};
    const auto [end, code] = std::from_chars(first.data(), first.data() + first.size(), pattern.from);
    if (first.empty() || first.size() > maxDigits || code != std::errc() ||
        end != first.data() + first.size() || pattern.from < 0)
        return wrong;
    return pattern;
}

/// What is typed, in its three parts.
struct Typed {
    std::string count, model, pattern;
};

Typed split(const std::string& typed) {
    Typed out;
    std::string rest = trimmed(typed);
    const auto named = lowered(rest).find(" named ");
    if (named != std::string::npos) {
        out.pattern = trimmed(rest.substr(named + 7));
        rest = trimmed(rest.substr(0, named));
    }
    const auto space = rest.find(' ');
    const std::string first = rest.substr(0, space);
    const bool number = !first.empty() && first.find_first_not_of("0123456789") == std::string::npos;
    if (number && space != std::string::npos) {
        out.count = first;
        rest = trimmed(rest.substr(space));
    }
    out.model = rest;
    return out;
}

/// Lower is better; -1: no match.
int matchRank(const DeviceModel& model, const std::string& query) {
    const std::string name = lowered(model.name), wanted = lowered(query);
    if (name == wanted || name + "s" == wanted || name + "es" == wanted)
        return 0;
    if (name.starts_with(wanted))
        return 1;
    if (matchesWords(name, wanted))
        return 2;
    if (matchesWords(name + " " + std::string(titleOf(model.role)) + " " + portSummary(model), wanted))
        return 3;
    return -1;
}

} // namespace

Result<std::vector<std::string>> seriesNames(const std::string& text, int count,
                                             const std::vector<std::string>& taken) {
    if (count < 1 || count > maxCount)
        return error(fmt::format("{} is not a count from 1 to {}", count, maxCount), "use a smaller one");
    auto pattern = parseNamePattern(text);
    if (!pattern)
        return pattern.refusal();
    const std::set<std::string> used(taken.begin(), taken.end());
    if (!pattern->counted) {
        if (count == 1 && !used.contains(text))
            return std::vector<std::string>{text};
        pattern->before += "-";
    }
    std::vector<std::string> names;
    for (int number = pattern->from; static_cast<int>(names.size()) < count; ++number) {
        std::string name =
            fmt::format("{}{:0{}}{}", pattern->before, number, pattern->digits, pattern->after);
        if (!used.contains(name))
            names.push_back(std::move(name));
    }
    return names;
}

namespace {

void sortByPosition(const Network& network, SheetId sheet, std::vector<DeviceId>& devices, NameOrder order) {
    constexpr int band = 40; // plates that overlap by half count as one row or column
    const auto rank = [&](DeviceId id) {
        const Position* position = network.position(sheet, id.value);
        const Point at = position ? position->at : Point{};
        return order == NameOrder::rows ? std::pair(at.y, at.x) : std::pair(at.x, at.y);
    };
    std::stable_sort(devices.begin(), devices.end(),
                     [&](DeviceId x, DeviceId y) { return rank(x) < rank(y); });
    for (std::size_t from = 0; from < devices.size();) { // within a row by x, within a column by y
        std::size_t to = from + 1;
        while (to < devices.size() && rank(devices[to]).first - rank(devices[from]).first < band)
            ++to;
        std::stable_sort(devices.begin() + static_cast<std::ptrdiff_t>(from),
                         devices.begin() + static_cast<std::ptrdiff_t>(to),
                         [&](DeviceId x, DeviceId y) { return rank(x).second < rank(y).second; });
        from = to;
    }
}

} // namespace

Result<std::vector<NewName>> newNames(const Network& network, SheetId sheet,
                                      const std::vector<DeviceId>& chosen, const std::string& pattern,
                                      NameOrder order) {
    std::vector<DeviceId> devices = chosen;
    std::erase_if(devices, [&](DeviceId id) { return !network.device(id); });
    if (devices.empty())
        return error("no device is selected", "select some");
    if (order != NameOrder::selection)
        sortByPosition(network, sheet, devices, order);
    std::map<std::string, std::vector<std::size_t>> series;
    for (std::size_t i = 0; i < devices.size(); ++i) {
        const auto text = filledFields(trimmed(pattern), [&](const std::string& field) {
            return deviceField(network, *network.device(devices[i]), field);
        });
        if (!text)
            return text.refusal();
        series[*text].push_back(i);
    }
    std::vector<NewName> out(devices.size());
    for (const auto& [text, members] : series) {
        const auto names = seriesNames(text, static_cast<int>(members.size()), {});
        if (!names)
            return names.refusal();
        for (std::size_t k = 0; k < members.size(); ++k)
            out[members[k]] = {
                devices[members[k]], network.device(devices[members[k]])->name, (*names)[k], {}};
    }
    const std::set<DeviceId> renamed(devices.begin(), devices.end());
    std::set<std::string> others;
    network.all<Device>().forEach([&](const Device& device) {
        if (!renamed.contains(device.id))
            others.insert(device.name);
    });
    std::set<std::string> mine;
    for (NewName& name : out) {
        if (trimmed(name.after).empty())
            return error("a name may not be empty", "write it as till-{01..}");
        if (others.contains(name.after) || !mine.insert(name.after).second)
            name.remark = "another device has this name";
    }
    return out;
}

std::string defaultPattern(Role role) {
    std::string word(textOf(role));
    return word + "-{1..}";
}

std::vector<std::string> namesLike(const Network& network, const std::string& pattern) {
    const std::string start = pattern.substr(0, pattern.find('{'));
    std::vector<std::string> names;
    network.all<Device>().forEach([&](const Device& device) {
        if (device.name.starts_with(start))
            names.push_back(device.name);
    });
    return names;
}

std::vector<const DeviceModel*> completions(const std::string& typed, const Catalogue& catalogue) {
    const std::string query = split(typed).model;
    std::vector<std::pair<int, const DeviceModel*>> ranked;
    for (const DeviceModel& model : catalogue.devices)
        if (const int rank = matchRank(model, query); rank >= 0)
            ranked.emplace_back(rank, &model);
    std::stable_sort(ranked.begin(), ranked.end(),
                     [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<const DeviceModel*> out;
    for (const auto& [rank, model] : ranked)
        out.push_back(model);
    return out;
}

std::string completed(const std::string& typed, const DeviceModel& model) {
    const Typed parts = split(typed);
    std::string out = parts.count.empty() ? lowered(model.name) : parts.count + " " + lowered(model.name);
    if (!parts.pattern.empty())
        out += " named " + parts.pattern;
    return out;
}

Result<Addition> parseAddition(const std::string& typed, const Catalogue& catalogue) {
    const Typed parts = split(typed);
    Addition addition;
    if (!parts.count.empty()) {
        const auto [end, code] =
            std::from_chars(parts.count.data(), parts.count.data() + parts.count.size(), addition.count);
        if (code != std::errc() || addition.count < 1 || addition.count > maxCount)
            return error(fmt::format("{} is not a count from 1 to {}", parts.count, maxCount),
                         "use a smaller one");
    }
    const auto found = completions(typed, catalogue);
    if (parts.model.empty() || found.empty())
        return error(parts.model.empty() ? "no model is named"
                                         : fmt::format("no model matches {}", parts.model),
                     "type a part of its name, such as access switch");
    addition.model = found.front();
    addition.pattern = parts.pattern.empty() ? defaultPattern(addition.model->role) : parts.pattern;
    if (auto pattern = parseNamePattern(addition.pattern); !pattern)
        return pattern.refusal();
    return addition;
}

} // namespace underridge::edit
