// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/analysis/report.h"

#include "core/exchange/table_text.h"
#include "core/model/ports.h"

#include <fmt/format.h>

namespace underridge::analysis {
using namespace model;

std::string_view textOf(Severity severity) {
    switch (severity) {
    case Severity::error:
        return "error";
    case Severity::warning:
        return "warning";
    case Severity::advice:
        return "advice";
    }
    return {};
}

std::string nameOf(const Network& network, const ObjectRef& object) {
    if (const Device* device = network.device({object.id}))
        return device->name;
    if (const Link* link = network.link({object.id}))
        return fmt::format("{} to {}", portText(network, link->a), portText(network, link->b));
    if (const Cable* cable = network.cable({object.id}))
        return cable->label;
    return {};
}

nlohmann::ordered_json findingsJson(const Network& network, const std::vector<linking::Finding>& findings) {
    auto list = nlohmann::ordered_json::array();
    for (const auto& finding : findings) {
        auto subjects = nlohmann::ordered_json::array();
        for (const ObjectRef& ref : finding.subjects)
            subjects.push_back(
                {{"kind", model::textOf(ref.kind)}, {"id", idText(ref.id)}, {"name", nameOf(network, ref)}});
        list.push_back({{"code", finding.rule->code},
                        {"severity", textOf(finding.rule->severity)},
                        {"message", finding.message},
                        {"remedy", finding.remedy.words},
                        {"source", finding.rule->source},
                        {"subjects", std::move(subjects)}});
    }
    return {{"findings", std::move(list)}};
}

std::string findingsCsv(const Network& network, const std::vector<linking::Finding>& findings) {
    std::string out = "severity,code,finding,remedy,where,source\r\n";
    for (const auto& finding : findings) {
        std::string where;
        for (const ObjectRef& ref : finding.subjects)
            where += (where.empty() ? "" : "; ") + nameOf(network, ref);
        const auto cell = [](std::string_view text) { return exchange::quoted(std::string(text)); };
        out += fmt::format("{},{},{},{},{},{}\r\n", textOf(finding.rule->severity), finding.rule->code,
                           cell(finding.message), cell(finding.remedy.words), cell(where),
                           cell(finding.rule->source));
    }
    return out;
}

} // namespace underridge::analysis
