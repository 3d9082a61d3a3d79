// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/arranging.h"

#include "core/exchange/own_format.h"
#include "core/layout/drawn.h"

#include <chrono>
#include <fmt/format.h>
#include <sstream>

namespace underridge::cli {
using namespace model;
namespace {

Result<DeviceId> deviceNamed(const Network& network, const std::string& name) {
    DeviceId found;
    bool several = false;
    network.all<Device>().forEach([&](const Device& device) {
        if (device.name == name || idText(device.id.value) == name) {
            several |= static_cast<bool>(found);
            found = device.id;
        }
    });
    if (!found)
        return error(fmt::format("no device is called {}", name), "see underridge list FILE devices");
    if (several)
        return error(fmt::format("several devices are called {}", name), "say it by id");
    return found;
}

double rounded(double value) {
    return std::round(value * 1000) / 1000;
}

} // namespace

Result<ArrangedFile> arrangedAs(const Network& network, const Arranging& wanted) {
    const auto sheet = sheetNamed(network, wanted.sheet);
    if (!sheet)
        return sheet.refusal();
    edit::Look look(*sheet);
    if (!wanted.enter.empty()) {
        const auto group = groupNamed(network, wanted.enter);
        if (!group)
            return group.refusal();
        look.entered = *group;
    }
    edit::ArrangeWish wish;
    wish.style = *layout::styleFromText(wanted.style);
    wish.flow = *layout::flowFromText(wanted.flow);
    wish.spacing = wanted.spacing;
    wish.seed = wanted.seed;
    if (!wanted.anchor.empty()) {
        const auto anchor = deviceNamed(network, wanted.anchor);
        if (!anchor)
            return anchor.refusal();
        wish.anchor = *anchor;
    }
    edit::ArrangeReport report;
    const auto start = std::chrono::steady_clock::now();
    auto act = edit::arrange(network, look, wish, &report);
    const double elapsed =
        std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
    if (!act)
        return act.refusal();
    const auto measures =
        layout::measured(scene::Scene::build(act->network, *sheet, LengthUnit::metres, look.entered));
    Json json{{"style", wanted.style},
              {"found", report.why},
              {"devices", report.devices},
              {"elapsedMs", rounded(elapsed)},
              {"crossings", measures.crossings},
              {"overlaps", measures.overlaps},
              {"linksThroughDevices", measures.linksThroughDevices},
              {"groupIntrusions", measures.groupIntrusions},
              {"labelOverlaps", measures.labelOverlaps},
              {"edgeLength", rounded(measures.edgeLength)},
              {"edgeLengthVariation", rounded(measures.edgeLengthVariation)},
              {"stress", rounded(measures.stress)},
              {"angularResolution", rounded(measures.angularResolution)},
              {"aspect", rounded(measures.aspect)},
              {"area", std::round(measures.area)},
              {"displacement", rounded(report.moved)}};
    return ArrangedFile{std::move(act->network), std::move(json)};
}

Result<ArrangedFile> withPattern(const Network& network, const Catalogue& catalogue,
                                 const AddingPattern& wanted) {
    const auto sheet = sheetNamed(network, wanted.sheet);
    if (!sheet)
        return sheet.refusal();
    edit::Pattern pattern = wanted.pattern;
    pattern.shape = *edit::patternShapeFromText(wanted.shape);
    if (!wanted.into.empty()) {
        const auto group = groupNamed(network, wanted.into);
        if (!group)
            return group.refusal();
        pattern.into = *group;
    }
    if (!wanted.at.empty()) {
        std::istringstream in(wanted.at);
        Point at;
        char comma = 0;
        if (!(in >> at.x >> comma >> at.y) || comma != ',' || !isOnSheet(at))
            return error(fmt::format("{} is no place on a sheet", wanted.at), "write it as X,Y");
        pattern.centre = at;
    }
    IdSource ids(fnv1a(exchange::writeOwn(network))); // the same file gives the same network
    auto act = edit::addPattern(network, catalogue, *sheet, pattern, ids);
    if (!act)
        return act.refusal();
    const Json added{{"devices", act->network.all<Device>().size() - network.all<Device>().size()},
                     {"links", act->network.all<Link>().size() - network.all<Link>().size()}};
    return ArrangedFile{std::move(act->network), Json{{"shape", wanted.shape}, {"added", added}}};
}

std::string arrangedText(const Json& report) {
    std::string out;
    for (const auto& [key, value] : report.items())
        out += fmt::format("{}\t{}\n", key, value.is_string() ? value.get<std::string>() : value.dump());
    return out;
}

} // namespace underridge::cli
