// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/arranging.h"

#include "core/exchange/own_format.h"
#include "core/layout/drawn.h"

#include <CLI/CLI.hpp>
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

void addOptions(CLI::App& app, Arranging& wanted) {
    std::vector<std::string> styles, flows;
    for (const layout::Style style : layout::allStyles)
        styles.emplace_back(textOf(style));
    for (const char* flow : {"down", "up", "left", "right"})
        flows.emplace_back(flow);
    app.add_option("FILE", wanted.file, "network, - for standard input")->required();
    app.add_option("-o,--output", wanted.output, "network to write; - for standard output");
    app.add_option("--style", wanted.style, "how; else as its structure suggests")
        ->check(CLI::IsMember(styles));
    app.add_option("--flow", wanted.flow, "where it goes from the anchor")->check(CLI::IsMember(flows));
    app.add_option("--anchor", wanted.anchor, "device it hangs on, by name or id");
    app.add_option("--sheet", wanted.sheet, "sheet by name; else the first");
    app.add_option("--enter", wanted.enter, "only what is in this group, by name or id");
    app.add_option("--spacing", wanted.spacing, "times the usual distances")->check(CLI::Range(0.5, 3.0));
    app.add_option("--seed", wanted.seed, "another drawing where chance decides");
    std::vector<std::string> orders;
    for (const edit::OrderBy order : edit::allOrders)
        orders.emplace_back(textOf(order));
    app.add_option("--by", wanted.by, "order in rows: name, role, address or floor")
        ->check(CLI::IsMember(orders));
    app.add_flag("--keep-order", wanted.keepOrder, "what stands left of another stays left of it");
}

void addOptions(CLI::App& app, AddingPattern& wanted) {
    std::vector<std::string> shapes;
    for (const edit::PatternShape shape : edit::allPatternShapes)
        shapes.emplace_back(textOf(shape));
    app.add_option("FILE", wanted.file, "network, - for standard input")->required();
    app.add_option("-o,--output", wanted.output, "network to write; - for standard output")->required();
    app.add_option("--shape", wanted.shape, "what it is")->required()->check(CLI::IsMember(shapes));
    const auto figure = [&](const char* name, int& to, int least, int most, const char* words) {
        app.add_option(name, to, words)->check(CLI::Range(least, most));
    };
    figure("--count", wanted.pattern.count, 1, 1000,
           "devices of a row, chain, ring or mesh; endpoints of a star");
    figure("--depth", wanted.pattern.depth, 1, 8, "of a tree");
    figure("--fan", wanted.pattern.fan, 1, 64, "devices below each of a tree");
    figure("--spines", wanted.pattern.spines, 1, 64, "of a fabric");
    figure("--leaves", wanted.pattern.leaves, 1, 512, "of a fabric");
    figure("--parallel", wanted.pattern.parallel, 1, 8, "links between each spine and leaf");
    figure("--access", wanted.pattern.access, 1, 200, "access switches on each pair");
    figure("--sites", wanted.pattern.sites, 1, 100, "buildings of a campus");
    figure("--endpoints", wanted.pattern.endpoints, 0, 200, "on each leaf or access switch");
    figure("--radius", wanted.pattern.radius, 0, 20'000, "of a star, ring or mesh, in sheet units");
    app.add_option("--upper", wanted.pattern.upper.model, "model of centre, spines or core");
    app.add_option("--upper-names", wanted.pattern.upper.names, "such as spine-{1..}");
    app.add_option("--model", wanted.pattern.middle.model, "model of leaves, access, or of all");
    app.add_option("--names", wanted.pattern.middle.names, "such as acc-{01..}");
    app.add_option("--lower", wanted.pattern.lower.model, "model of endpoints");
    app.add_option("--lower-names", wanted.pattern.lower.names, "such as ws-{1..}");
    std::vector<std::string> media;
    for (const auto& word : wordsOf(Medium{}))
        if (word.value != Medium::unknown)
            media.emplace_back(word.text);
    app.add_option("--medium", wanted.medium, "of links but those to endpoints; else as fits best")
        ->check(CLI::IsMember(media));
    app.add_option("--endpoint-medium", wanted.endpointMedium, "of links to endpoints; else as fits best")
        ->check(CLI::IsMember(media));
    app.add_option("--spacing", wanted.pattern.spacing, "times the usual distances")
        ->check(CLI::Range(0.5, 3.0));
    app.add_option("--at", wanted.at, "X,Y of its middle; else below what is there");
    app.add_option("--into", wanted.into, "group it comes into, by name or id");
    app.add_option("--sheet", wanted.sheet, "sheet by name; else the first");
}

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
    wish.keepOrder = wanted.keepOrder;
    wish.by = *edit::orderFromText(wanted.by);
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
    pattern.medium = fromText<Medium>(wanted.medium).value_or(Medium::unknown);
    pattern.endpointMedium = fromText<Medium>(wanted.endpointMedium).value_or(Medium::unknown);
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
