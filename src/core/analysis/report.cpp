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
    if (const Vlan* vlan = network.vlan({object.id}))
        return fmt::format("VLAN {}", vlan->number);
    if (const auto* ring = network.find<Ring>({object.id, 0}))
        return ring->name;
    if (const auto* statement = network.find<Statement>({object.id, 0}))
        return statement->name;
    return {};
}

namespace {

nlohmann::ordered_json findingJson(const Network& network, const linking::Finding& finding) {
    auto subjects = nlohmann::ordered_json::array();
    for (const ObjectRef& ref : finding.subjects)
        subjects.push_back(
            {{"kind", model::textOf(ref.kind)}, {"id", idText(ref.id)}, {"name", nameOf(network, ref)}});
    return {{"code", finding.rule->code},     {"severity", textOf(finding.rule->severity)},
            {"message", finding.message},     {"remedy", finding.remedy.words},
            {"source", finding.rule->source}, {"subjects", std::move(subjects)}};
}

} // namespace

nlohmann::ordered_json findingsJson(const Network& network, const Sifted& findings) {
    auto open = nlohmann::ordered_json::array(), aside = open;
    for (const auto& finding : findings.open)
        open.push_back(findingJson(network, finding));
    for (const auto& [finding, by] : findings.aside) {
        auto each = findingJson(network, finding);
        const SetAside& record = *network.find<SetAside>({by.value, 0});
        each["reason"] = record.reason;
        each["date"] = record.date;
        each["until"] = record.until;
        aside.push_back(std::move(each));
    }
    return {{"findings", std::move(open)}, {"setAside", std::move(aside)}};
}

std::string findingsCsv(const Network& network, const Sifted& findings) {
    std::string out = "severity,code,finding,remedy,where,source,set aside\r\n";
    const auto add = [&](const linking::Finding& finding, const std::string& reason) {
        std::string where;
        for (const ObjectRef& ref : finding.subjects)
            where += (where.empty() ? "" : "; ") + nameOf(network, ref);
        const auto cell = [](std::string_view text) { return exchange::quoted(std::string(text)); };
        out += fmt::format("{},{},{},{},{},{},{}\r\n", textOf(finding.rule->severity), finding.rule->code,
                           cell(finding.message), cell(finding.remedy.words), cell(where),
                           cell(finding.rule->source), cell(reason));
    };
    for (const auto& finding : findings.open)
        add(finding, {});
    for (const auto& [finding, by] : findings.aside)
        add(finding, network.find<SetAside>({by.value, 0})->reason);
    return out;
}

} // namespace underridge::analysis
