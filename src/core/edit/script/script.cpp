// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/script/script.h"

#include "core/edit/following.h"
#include "core/edit/late.h"
#include "core/edit/script/line.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
using exchange::JsonText;
using exchange::JsonView;
namespace {

std::vector<const ActWord*> allActs() {
    std::vector<const ActWord*> all;
    for (const auto acts : {deviceActs(), linkActs(), groupActs(), routeActs(), powerActs(), forwardingActs(),
                            declaredActs(), findingActs(), sheetActs(), patternActs()})
        for (const ActWord& act : acts)
            all.push_back(&act);
    return all;
}

std::string listed(const std::vector<std::string_view>& words) {
    std::string out;
    for (const std::string_view word : words)
        out += (out.empty() ? "" : ", ") + std::string(word);
    return out;
}

/// The act a line names, when all its members are ones of that act.
Result<const ActWord*> wordOf(const Line& line, JsonView object) {
    const auto name = line.text("act");
    if (!name)
        return name.refusal();
    const auto acts = allActs();
    const auto act =
        std::find_if(acts.begin(), acts.end(), [&](const ActWord* a) { return a->name == *name; });
    if (act == acts.end()) {
        std::vector<std::string_view> names;
        for (const ActWord* each : acts)
            names.push_back(each->name);
        return line.wrong("act", fmt::format("there is no act {}", *name), "write one of: " + listed(names));
    }
    std::string unknown;
    object.forEachMember([&](std::string_view member, JsonView) {
        const auto& known = (*act)->members;
        if (member != "act" && std::find(known.begin(), known.end(), member) == known.end())
            unknown = member;
    });
    if (!unknown.empty())
        return line.wrong(unknown, fmt::format("{} knows no \"{}\"", *name, unknown),
                          "it knows: " + listed((*act)->members));
    return *act;
}

Result<Applied> applyLine(Bench& bench, const std::string& text) {
    auto parsed = JsonText::parse(text, {});
    if (!parsed)
        return parsed.refusal();
    if (!parsed->root().isObject())
        return error("the line is not a JSON object", "write it as {\"act\":\"…\", …}");
    const Line line(bench, parsed->root());
    const auto word = wordOf(line, parsed->root());
    if (!word)
        return word.refusal();
    auto act = (*word)->run(line);
    if (!act)
        return act.refusal();
    followAct(bench.network, act->network);
    if (auto kept = canBeKept(bench.network, act->network); !kept)
        return kept.refusal();
    bench.names.follow(bench.network, act->network);
    bench.network = std::move(act->network);
    return Applied{0, std::string((*word)->name), std::move(act->subjects)};
}

} // namespace

Result<Script> applyActs(const Network& network, const Catalogue& catalogue, std::string_view text,
                         const std::string& file, IdSource& ids, const ReadFile& readFile) {
    Bench bench{network, catalogue, ids, readFile, NameIndex(network)};
    Script script;
    int number = 0;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find('\n'), text.size());
        const std::string line(text.substr(0, end));
        text.remove_prefix(std::min(end + 1, text.size()));
        ++number;
        if (trimmed(line).empty())
            continue;
        auto applied = applyLine(bench, line);
        if (!applied) {
            Remark why = applied.refusal();
            why.where.file = file;
            why.where.line = number;
            return why;
        }
        applied->line = number;
        script.lines.push_back(*std::move(applied));
    }
    script.network = std::move(bench.network);
    return script;
}

std::vector<std::string> actNames() {
    std::vector<std::string> out;
    for (const ActWord* act : allActs())
        out.emplace_back(act->name);
    return out;
}

} // namespace underridge::edit
