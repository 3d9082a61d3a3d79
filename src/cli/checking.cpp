// SPDX-License-Identifier: GPL-3.0-or-later
#include "cli/checking.h"

#include "core/analysis/report.h"
#include "core/edit/links.h"
#include "core/linking/light.h"
#include "core/model/ports.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

namespace underridge::cli {
using namespace model;
namespace {

Json endJson(const Network& network, const PortRef& port, linking::ChainEnd end) {
    const Device* device = network.device(port.device);
    return {{"device", device ? device->name : ""}, {"port", port.port}, {"end", linking::textOf(end)}};
}

} // namespace

std::string findingsText(const analysis::Sifted& findings) {
    std::string out;
    for (const auto& finding : findings.open)
        out += fmt::format("{} {}: {}; {}\n", analysis::textOf(finding.rule->severity), finding.rule->code,
                           finding.message, finding.remedy.words);
    if (!findings.aside.empty())
        out += fmt::format("{} set aside\n", findings.aside.size());
    return out;
}

std::string today() {
    return fmt::format("{:%Y-%m-%d}", fmt::localtime(std::time(nullptr)));
}

Result<PortRef> portFrom(const Network& network, const std::string& text) {
    const auto colon = text.rfind(':');
    if (colon == std::string::npos)
        return error(fmt::format("{} names no port", text), "write it as DEVICE:PORT");
    const std::string name = text.substr(0, colon);
    std::vector<DeviceId> found;
    network.all<Device>().forEach([&](const Device& device) {
        if (device.name == name || idText(device.id.value) == name)
            found.push_back(device.id);
    });
    if (found.empty())
        return error(fmt::format("there is no device {}", name), "see list FILE devices");
    if (found.size() > 1)
        return error(fmt::format("{} devices are named {}", found.size(), name), "write its id");
    const PortRef port{found.front(), text.substr(colon + 1)};
    if (!portAt(network, port))
        return error(fmt::format("{} has no port {}", name, port.port), "see list FILE ports");
    return port;
}

Json chainJson(const Network& network, const linking::Chain& chain) {
    Json list = Json::array();
    const linking::Channel channel = linking::channelOf(network, chain);
    const int wavelength = wavelengthOf(channel);
    std::map<LinkId, double> losses;
    for (const linking::ChannelPart& part : channel.parts)
        losses[part.link] += lossOf(part, wavelength);
    for (const auto& stretch : chain.stretches) {
        const Link* link = network.link(stretch.link);
        const Cable* cable = network.cable(link->cable);
        const CableType* type = cable ? network.typeOf(*cable) : nullptr;
        const auto device = [&](const PortRef& port) {
            const Device* held = network.device(port.device);
            return held ? held->name : std::string();
        };
        list.push_back({{"device", device(stretch.from)},
                        {"port", stretch.from.port},
                        {"toDevice", device(stretch.to)},
                        {"toPort", stretch.to.port},
                        {"cable", type ? type->name : ""},
                        {"label", cable ? cable->label : ""},
                        {"lengthM", cable ? static_cast<double>(cable->lengthMm) / 1000 : 0.0},
                        {"lossDb", losses[stretch.link]}});
    }
    Json out{
        {"chain", std::move(list)},
        {"ends", Json::array({endJson(network, chain.a, chain.endA), endJson(network, chain.b, chain.endB)})},
        {"lengthM", static_cast<double>(channel.lengthMm) / 1000},
        {"connections", channel.connections},
        {"lossDb", lossOf(channel, wavelength)}};
    if (const auto budget = linking::lightBudgetOf(channel)) {
        Json shares = Json::array();
        for (const linking::LightShare& share : budget->shares)
            shares.push_back({{"what", share.what}, {"lossDb", share.db}});
        out["light"] = {{"phy", budget->limit.phy},           {"wavelengthNm", budget->wavelengthNm},
                        {"lossDb", budget->lossDb},           {"allowedDb", budget->limit.lossDb},
                        {"leastDb", budget->limit.minLossDb}, {"shares", std::move(shares)}};
    }
    return out;
}

Json scheduleJson(const edit::Schedule& schedule) {
    Json rows = Json::array();
    for (const edit::ScheduleRow& row : schedule.rows)
        rows.push_back(
            {{"line", row.line}, {"match", edit::textOf(row.match)}, {"what", row.what}, {"why", row.why}});
    Json out = Json::object();
    for (const auto match : {edit::Match::same, edit::Match::added, edit::Match::changed, edit::Match::wrong})
        out[std::string(edit::textOf(match))] = schedule.count(match);
    out["rows"] = std::move(rows);
    return out;
}

std::string scheduleText(const edit::Schedule& schedule) {
    std::string out;
    for (const edit::ScheduleRow& row : schedule.rows)
        if (row.match != edit::Match::same)
            out += fmt::format("line {}: {} {}{}{}\n", row.line, edit::textOf(row.match), row.what,
                               row.why.empty() ? "" : "; ", row.why);
    return out + fmt::format("{} same, {} new, {} changed, {} wrong\n", schedule.count(edit::Match::same),
                             schedule.count(edit::Match::added), schedule.count(edit::Match::changed),
                             schedule.count(edit::Match::wrong));
}

std::string chainText(const Network& network, const linking::Chain& chain) {
    std::string out;
    for (const auto& stretch : chain.stretches) {
        const Cable* cable = network.cable(network.link(stretch.link)->cable);
        const CableType* type = cable ? network.typeOf(*cable) : nullptr;
        out +=
            fmt::format("{}\t{}\t{}\t{}\t{:g} m\n", edit::portText(network, stretch.from),
                        edit::portText(network, stretch.to), type ? type->name : "no cable",
                        cable ? cable->label : "", cable ? static_cast<double>(cable->lengthMm) / 1000 : 0.0);
    }
    if (const auto budget = linking::lightBudgetOf(linking::channelOf(network, chain)))
        out += fmt::format("{} at {} nm: {}\n", budget->limit.phy, budget->wavelengthNm, textOf(*budget));
    if (!chain.whole())
        out += fmt::format("ends: {}, {}\n", linking::textOf(chain.endA), linking::textOf(chain.endB));
    return out;
}

} // namespace underridge::cli
