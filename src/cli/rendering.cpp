// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/rendering.h"

#include "cli/checking.h"
#include "core/analysis/check.h"
#include "core/analysis/forwarding.h"
#include "core/edit/cables.h"
#include "core/edit/groups.h"
#include "core/exchange/catalogue_file.h"
#include "core/scene/overlay_keys.h"
#include "paint/overlays/overlay_choices.h"
#include "paint/pages.h"
#include "paint/picture.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <fmt/format.h>
#include <iterator>
#include <map>
#include <sstream>

namespace underridge::cli {
using namespace model;
namespace {

/// "1280x800" as two numbers from 1 on.
std::optional<std::pair<int, int>> pairFrom(const std::string& text) {
    int first = 0, second = 0;
    char x = 0;
    std::istringstream parts(text);
    if (!(parts >> first >> x >> second) || x != 'x' || first < 1 || second < 1 ||
        parts.peek() != std::istringstream::traits_type::eof())
        return std::nullopt;
    return std::pair(first, second);
}

Result<paint::LaidOver> laidOver(const Network& network, const Catalogue& catalogue,
                                 const std::vector<std::string>& keys) {
    if (keys.empty())
        return paint::LaidOver{};
    const analysis::Forwarding forwarding(network);
    std::vector<linking::Finding> findings; // only where they are asked for
    const bool asked = std::any_of(keys.begin(), keys.end(), [](const std::string& key) {
        return key.find("finding") != std::string::npos;
    });
    if (asked) {
        findings = linking::check(network, edit::withStock(catalogue, network));
        auto more = analysis::checkForwarding(forwarding);
        findings.insert(findings.end(), std::make_move_iterator(more.begin()),
                        std::make_move_iterator(more.end()));
        findings = analysis::sift(network, std::move(findings), today()).open;
    }
    paint::LaidOver laid{network, {}};
    for (const std::string& key : keys) {
        const auto read = scene::OverlayKey::parse(key);
        if (!read)
            return read.refusal();
        laid.overlays.push_back(paint::overlayOf(QString::fromStdString(read->text()), forwarding, findings));
    }
    return laid;
}

/// The network with groups of a sheet folded and unfolded as the options say.
Result<Network> foldedFor(const Rendering& wanted, Network network, SheetId sheet) {
    for (const bool folded : {true, false})
        for (const std::string& name : folded ? wanted.fold : wanted.unfold) {
            const auto group = groupNamed(network, name);
            if (!group)
                return group.refusal();
            auto act = edit::setFolded(network, sheet, {*group}, folded);
            if (!act)
                return act.refusal();
            network = std::move(act->network);
        }
    return network;
}

/// On paper: a PDF of all pages, or an SVG of the first.
Result<Drawn> onPaper(const Rendering& wanted, const Network& network, const scene::Scene& scene,
                      paint::PictureFormat format, const paint::LaidOver& laid) {
    paint::PageSetup setup;
    setup.paper = *paint::paperFromText(wanted.paper);
    setup.landscape = wanted.landscape;
    const auto pages = pairFrom(wanted.pages);
    if (!pages)
        return error(fmt::format("{} is not a number of pages", wanted.pages), "write it as 2x1");
    std::tie(setup.across, setup.down) = *pages;
    if (wanted.scale)
        setup.scalePercent = *wanted.scale * 100;
    const Sheet* sheet = network.sheet(scene.sheet());
    const paint::TitleBlock title{network.info().name, sheet ? sheet->name : std::string(), today(),
                                  paint::revisionOf(network)};
    if (format == paint::PictureFormat::png)
        return error("paper is written as .pdf or .svg", "choose one of these", {wanted.output});
    const auto bytes = format == paint::PictureFormat::svg
                           ? paint::pageSvg(scene, network, setup, 0, title, laid)
                           : paint::pagesPdf(scene, network, setup, title, laid);
    if (!bytes)
        return bytes.refusal();
    const auto layout = paint::layOut(scene, setup);
    return Drawn{bytes->toStdString(),
                 {{"pages", layout->count()},
                  {"widthMm", layout->paperMm.width()},
                  {"heightMm", layout->paperMm.height()},
                  {"scalePercent", layout->scalePercent()}}};
}

} // namespace

Result<Drawn> rendered(const Network& network, const Catalogue& catalogue, const Rendering& wanted,
                       const std::function<void()>& prepareDrawing) {
    paint::PictureOptions options;
    const auto format = paint::formatFromSuffix(wanted.output);
    if (!format)
        return error("the suffix is not .png, .svg or .pdf", "choose one of these", {wanted.output});
    options.format = *format;
    options.theme = wanted.theme == "dark" ? &paint::darkTheme() : &paint::lightTheme();
    options.scale = wanted.scale.value_or(1);
    if (!wanted.size.empty()) {
        const auto size = pairFrom(wanted.size);
        if (!size)
            return error(fmt::format("{} is not a size", wanted.size), "write it as 1280x800");
        options.size = QSize(size->first, size->second);
    }
    const std::map<std::string, scene::Detail> details{{"far", scene::Detail::far},
                                                       {"middle", scene::Detail::middle},
                                                       {"near", scene::Detail::near},
                                                       {"close", scene::Detail::close}};
    if (!wanted.detail.empty())
        options.detail = details.at(wanted.detail);
    const auto sheet = sheetNamed(network, wanted.sheet);
    if (!sheet)
        return sheet.refusal();
    const auto folded = foldedFor(wanted, network, *sheet);
    if (!folded)
        return folded.refusal();
    GroupId entered;
    if (!wanted.enter.empty()) {
        const auto group = groupNamed(network, wanted.enter);
        if (!group)
            return group.refusal();
        entered = *group;
    }
    prepareDrawing();
    const auto own = wanted.overlays.empty()
                         ? scene::overlaysOf(*folded->sheet(*sheet)) // where none are said
                         : wanted.overlays;
    auto laid = laidOver(*folded, catalogue, own);
    if (!laid)
        return laid.refusal();
    options.laidOver = *std::move(laid);
    const auto scene = scene::Scene::build(*folded, *sheet, LengthUnit::metres, entered);
    if (!wanted.paper.empty())
        return onPaper(wanted, *folded, scene, *format, options.laidOver);
    paint::PictureInfo info;
    const auto bytes = paint::pictureBytes(scene, options, network.info().name, &info);
    if (!bytes)
        return bytes.refusal();
    return Drawn{bytes->toStdString(), {{"width", info.width}, {"height", info.height}}};
}

void addOptions(CLI::App& app, Rendering& wanted) {
    app.add_option("FILE", wanted.file, "network, - for standard input")->required();
    app.add_option("-o,--output", wanted.output, "picture to write")->required();
    app.add_option("--sheet", wanted.sheet, "sheet by name; else the first");
    app.add_option("--enter", wanted.enter, "only what is in this group, by name or id");
    app.add_option("--fold", wanted.fold, "groups to fold, by name or id");
    app.add_option("--unfold", wanted.unfold, "groups to unfold, by name or id");
    app.add_option("--size", wanted.size, "WIDTHxHEIGHT in pixels");
    app.add_option("--scale", wanted.scale, "pixels a sheet unit")->check(CLI::Range(0.01, 16.0));
    app.add_option("--theme", wanted.theme, "light or dark")->check(CLI::IsMember({"light", "dark"}));
    app.add_option("--detail", wanted.detail, "far, middle, near or close")
        ->check(CLI::IsMember({"far", "middle", "near", "close"}));
    app.add_option("--overlay", wanted.overlays,
                   "lay over it: tree, findings, areas, speed, power, mains, age, vlan:NUMBER, "
                   "subnet:PREFIX, where:FILTER, impact:ID; else what the sheet keeps");
    app.add_option("--paper", wanted.paper, "on paper with a title block: A4, A3, A2, A1 or A0")
        ->check(CLI::IsMember({"A4", "A3", "A2", "A1", "A0"}, CLI::ignore_case));
    app.add_flag("--landscape", wanted.landscape, "paper the wide way round");
    app.add_option("--pages", wanted.pages, "fit on ACROSSxDOWN pages; with --scale as many as it takes");
}

} // namespace underridge::cli
