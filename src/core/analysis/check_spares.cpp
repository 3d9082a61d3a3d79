// SPDX-License-Identifier: GPL-3.0-or-later
// What is kept free without a word why: somebody will take it, or nobody ever will.
#include "core/analysis/checks.h"

#include <fmt/format.h>
#include <map>

namespace underridge::analysis {
using namespace model;

void checkSpares(Told& told) {
    constexpr std::size_t most = 4; // named, of several
    const Network& network = told.network;
    std::map<DeviceId, std::vector<std::string>> ports;
    network.all<Port>().forEach([&](const Port& port) {
        if (port.reserved && port.note.empty() && port.label.empty() && network.device(port.device) &&
            !network.linkAt({port.device, port.port}))
            ports[port.device].push_back(port.port);
    });
    for (auto& [id, names] : ports) {
        std::sort(names.begin(), names.end(), naturalLess);
        std::string words;
        for (std::size_t i = 0; i < names.size() && i < most; ++i)
            words += (words.empty() ? "" : ", ") + names[i];
        if (names.size() > most)
            words += fmt::format(" and {} more", names.size() - most);
        told.tell("spare-unexplained", {refTo(id)},
                  fmt::format("{} {} of {} {} reserved, and no note says for what",
                              names.size() == 1 ? "port" : "ports", words, network.device(id)->name,
                              names.size() == 1 ? "is" : "are"),
                  "write into its note what for, or free it");
    }
    network.all<Cable>().forEach([&](const Cable& cable) {
        if (cable.status != CableStatus::spare || !cable.note.empty())
            return;
        const std::string name = cable.label.empty() ? "a cable without a label" : "cable " + cable.label;
        told.tell("spare-unexplained", {refTo(cable.id)},
                  fmt::format("{} is kept as a spare, and no note says for what", name),
                  "write into its note what for, or take it out");
    });
}

} // namespace underridge::analysis
