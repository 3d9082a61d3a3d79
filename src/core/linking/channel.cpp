// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/channel.h"

#include "core/model/ports.h"

#include <algorithm>

namespace underridge::linking {
using namespace model;
namespace {

struct ReachRow {
    std::string_view phy, grade;
    int metres;
    double lossDb;
    const char* source;
};

constexpr const char* clause38 = "IEEE 802.3 clause 38";
constexpr const char* clause40 = "IEEE 802.3 clause 40";
constexpr const char* clause52 = "IEEE 802.3 clause 52";
constexpr const char* clause55 = "IEEE 802.3 clause 55, TIA TSB-155";
constexpr const char* clause58 = "IEEE 802.3 clause 58";
constexpr const char* clause59 = "IEEE 802.3 clause 59";
constexpr const char* clause86 = "IEEE 802.3 clause 86";
constexpr const char* clause87 = "IEEE 802.3 clause 87";
constexpr const char* clause88 = "IEEE 802.3 clause 88";
constexpr const char* clause95 = "IEEE 802.3 clause 95";
constexpr const char* clause112 = "IEEE 802.3 clause 112";
constexpr const char* clause113 = "IEEE 802.3 clause 113";
constexpr const char* clause114 = "IEEE 802.3 clause 114";
constexpr const char* clause126 = "IEEE 802.3 clause 126";
constexpr const char* iso9314 = "IEEE 802.3 clause 26, ISO/IEC 9314-3";
constexpr const char* longReach = "beyond IEEE 802.3: as the transceiver states";

/// Loss is the channel insertion loss of the clause's link power budget.
constexpr ReachRow rows[] = {
    {"100BASE-FX", "OM1", 2000, 11, iso9314},
    {"100BASE-FX", "OM2", 2000, 11, iso9314},
    {"100BASE-FX", "OM3", 2000, 11, iso9314},
    {"100BASE-FX", "OM4", 2000, 11, iso9314},
    {"100BASE-FX", "OM5", 2000, 11, iso9314},
    {"100BASE-LX10", "OS", 10000, 6, clause58},
    {"1000BASE-SX", "OM1", 275, 2.6, clause38},
    {"1000BASE-SX", "OM2", 550, 3.56, clause38},
    {"1000BASE-SX", "OM3", 550, 3.56, clause38},
    {"1000BASE-SX", "OM4", 550, 3.56, clause38},
    {"1000BASE-SX", "OM5", 550, 3.56, clause38},
    {"1000BASE-LX", "OS", 5000, 4.57, clause38},
    {"1000BASE-LX", "OM1", 550, 2.35, clause38},
    {"1000BASE-LX", "OM2", 550, 2.35, clause38},
    {"1000BASE-LX", "OM3", 550, 2.35, clause38},
    {"1000BASE-LX long reach", "OS", 80000, 23, longReach},
    {"1000BASE-BX10-U", "OS", 10000, 5.5, clause59},
    {"1000BASE-BX10-D", "OS", 10000, 5.5, clause59},
    {"10GBASE-SR", "OM1", 33, 1.6, clause52},
    {"10GBASE-SR", "OM2", 82, 1.8, clause52},
    {"10GBASE-SR", "OM3", 300, 2.6, clause52},
    {"10GBASE-SR", "OM4", 400, 2.9, clause52},
    {"10GBASE-SR", "OM5", 400, 2.9, clause52},
    {"10GBASE-LR", "OS", 10000, 6.2, clause52},
    {"10GBASE-ER", "OS", 40000, 10.9, clause52},
    {"25GBASE-SR", "OM3", 70, 1.8, clause112},
    {"25GBASE-SR", "OM4", 100, 1.9, clause112},
    {"25GBASE-SR", "OM5", 100, 1.9, clause112},
    {"25GBASE-LR", "OS", 10000, 6.3, clause114},
    {"40GBASE-SR4", "OM3", 100, 1.9, clause86},
    {"40GBASE-SR4", "OM4", 150, 1.5, clause86},
    {"40GBASE-SR4", "OM5", 150, 1.5, clause86},
    {"40GBASE-LR4", "OS", 10000, 6.7, clause87},
    {"100GBASE-SR4", "OM3", 70, 1.8, clause95},
    {"100GBASE-SR4", "OM4", 100, 1.9, clause95},
    {"100GBASE-SR4", "OM5", 100, 1.9, clause95},
    {"100GBASE-LR4", "OS", 10000, 6.3, clause88},
    {"10BASE-T", "Cat 5e", 100, 0, "IEEE 802.3 clause 14"},
    {"100BASE-TX", "Cat 5e", 100, 0, "IEEE 802.3 clause 25"},
    {"1000BASE-T", "Cat 5e", 100, 0, clause40},
    {"2.5GBASE-T", "Cat 5e", 100, 0, clause126},
    {"5GBASE-T", "Cat 5e", 100, 0, clause126},
    {"10GBASE-T", "Cat 6", 55, 0, clause55},
    {"10GBASE-T", "Cat 6A", 100, 0, clause55},
    {"25GBASE-T", "Cat 8", 30, 0, clause113},
    {"40GBASE-T", "Cat 8", 30, 0, clause113},
};

/// Categories in order: what runs over one runs over those after it. Cat 8 cords stand
/// for shorter channels.
constexpr std::string_view categories[] = {"Cat 5e", "Cat 6", "Cat 6A", "Cat 7", "Cat 7A", "Cat 8"};

std::optional<std::size_t> categoryOf(std::string_view grade) {
    const auto at = std::find(std::begin(categories), std::end(categories), grade);
    return at == std::end(categories) ? std::nullopt
                                      : std::optional(static_cast<std::size_t>(at - std::begin(categories)));
}

} // namespace

std::optional<Reach> reachOf(std::string_view phy, std::string_view grade) {
    const auto category = categoryOf(grade);
    std::optional<Reach> best;
    for (const ReachRow& row : rows) {
        if (row.phy != phy)
            continue;
        const bool runs = category && categoryOf(row.grade) ? *categoryOf(row.grade) <= *category
                          : row.grade == "OS"               ? grade.starts_with("OS")
                                                            : row.grade == grade;
        if (runs && (!best || row.metres * 1000LL > best->mm))
            best = Reach{row.metres * 1000LL, row.lossDb, row.source};
    }
    return best;
}

std::string_view copperPhy(int mbps) {
    switch (mbps) {
    case 10:
        return "10BASE-T";
    case 100:
        return "100BASE-TX";
    case 1000:
        return "1000BASE-T";
    case 2500:
        return "2.5GBASE-T";
    case 5000:
        return "5GBASE-T";
    case 10000:
        return "10GBASE-T";
    case 25000:
        return "25GBASE-T";
    case 40000:
        return "40GBASE-T";
    default:
        return {};
    }
}

double attenuationDbPerKm(std::string_view grade, int wavelengthNm) {
    if (grade.starts_with("OM")) {
        const bool early = grade == "OM1" || grade == "OM2";
        return wavelengthNm < 1000 ? (early ? 3.5 : 3.0) : 1.5;
    }
    if (grade == "OS2")
        return 0.4;
    if (grade.starts_with("OS"))
        return 1.0;
    return 0;
}

double lossOf(const Network& network, const Stretch& stretch, int wavelengthNm) {
    const Link* link = network.link(stretch.link);
    const Cable* cable = link ? network.cable(link->cable) : nullptr;
    const CableType* type = cable ? network.typeOf(*cable) : nullptr;
    if (!type)
        return 0;
    return attenuationDbPerKm(type->grade, wavelengthNm) * static_cast<double>(cable->lengthMm) / 1e6;
}

Channel channelOf(const Network& network, const Chain& chain, int wavelengthNm,
                  const std::vector<int>& transmits, const std::vector<int>& receives) {
    Channel channel;
    std::vector<int> positions = transmits;
    for (std::size_t i = 0; i < chain.stretches.size(); ++i) {
        const Stretch& stretch = chain.stretches[i];
        const Link* link = network.link(stretch.link);
        const Cable* cable = link ? network.cable(link->cable) : nullptr;
        const CableType* type = cable ? network.typeOf(*cable) : nullptr;
        if (cable && cable->lengthMm > 0)
            channel.lengthMm += cable->lengthMm;
        else if (cable)
            ++channel.unmeasured;
        const bool between = i > 0 && i + 1 < chain.stretches.size();
        if (cable && between)
            channel.permanentMm += cable->lengthMm;
        if (type && !type->grade.empty() &&
            std::find(channel.grades.begin(), channel.grades.end(), type->grade) == channel.grades.end())
            channel.grades.push_back(type->grade);
        if (wavelengthNm > 0)
            channel.lossDb += lossOf(network, stretch, wavelengthNm);
        for (int& position : positions) {
            const auto at = std::find(stretch.leaves.begin(), stretch.leaves.end(), position);
            if (at == stretch.leaves.end())
                continue;
            position = stretch.arrives[static_cast<std::size_t>(at - stretch.leaves.begin())];
            if (i + 1 == chain.stretches.size())
                continue;
            const Device* panel = network.device(stretch.to.device);
            if (const auto next =
                    panel ? through(network, *panel, {stretch.to.port, position}) : std::nullopt)
                position = next->position;
        }
    }
    for (std::size_t i = 0; i + 1 < chain.stretches.size(); ++i) {
        const auto port = portAt(network, chain.stretches[i].to);
        ++(port && port->connector() == Connector::splice ? channel.splices : channel.connections);
    }
    if (wavelengthNm > 0)
        channel.lossDb += channel.connections * connectorLossDb + channel.splices * spliceLossDb;
    channel.txMeetsRx = positions == receives;
    return channel;
}

} // namespace underridge::linking
