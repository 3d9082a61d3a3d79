// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/standards.h"

#include <nlohmann/json.hpp>

namespace underridge::model::catalogue_text {
extern const std::string_view grades, phys;
}

namespace underridge::linking {
using namespace model;
namespace {

using Json = nlohmann::json;

// Both texts are compiled in and read once; a mistake in them throws at the first use,
// which a test provokes.

std::vector<Grade> readGrades() {
    std::vector<Grade> out;
    for (const Json& entry : Json::parse(catalogue_text::grades)) {
        Grade grade;
        grade.name = entry.at("name");
        grade.medium = fromText<Medium>(entry.at("family").get<std::string>()).value();
        grade.rank = entry.value("rank", 0);
        grade.coreUm = entry.value("coreUm", 0.0);
        for (const Json& at : entry.value("dbPerKm", Json::array()))
            grade.dbPerKm.emplace_back(at.at(0), at.at(1));
        grade.source = entry.at("source");
        out.push_back(std::move(grade));
    }
    return out;
}

std::vector<Phy> readPhys() {
    std::vector<Phy> out;
    for (const Json& entry : Json::parse(catalogue_text::phys)) {
        Phy phy;
        phy.name = entry.at("name");
        phy.rate = entry.at("rate");
        phy.copper = entry.value("copper", false);
        phy.wavelengthNm = entry.value("nm", 0);
        phy.minLossDb = entry.value("minLossDb", 0.0);
        phy.lanes = entry.value("lanes", 1);
        const Json parts = entry.value("parts", Json::object());
        for (const auto& [count, each] : parts.items())
            phy.parts.emplace(std::stoi(count), each.get<std::string>());
        phy.nodes = entry.value("nodes", 0);
        phy.stubMm = entry.value("stubMm", 0);
        phy.fec = fromText<Fec>(entry.value("fec", "auto")).value();
        phy.rsBeyondM = entry.value("rsBeyondM", 0);
        phy.faces = entry.value("faces", "");
        phy.speaksWith = entry.value("speaksWith", std::vector<std::string>());
        phy.source = entry.at("source");
        for (const Json& over : entry.at("over"))
            phy.over.push_back({over.at("grade"),
                                {over.at("m").get<std::int64_t>() * 1000,
                                 over.value("engineeredM", std::int64_t{0}) * 1000,
                                 over.value("lossDb", 0.0),
                                 {}}});
        out.push_back(std::move(phy));
    }
    return out;
}

const std::vector<Grade>& grades() {
    static const std::vector<Grade> all = readGrades();
    return all;
}

template <class Entry>
const Entry* byName(std::span<const Entry> entries, std::string_view name) {
    const auto at =
        std::find_if(entries.begin(), entries.end(), [&](const Entry& entry) { return entry.name == name; });
    return at == entries.end() ? nullptr : &*at;
}

/// Whether a row of the table that names a class, or a whole medium, holds for another.
bool covers(const std::string& row, const Grade& grade) {
    if (row == grade.name || row == textOf(grade.medium))
        return true;
    const Grade* least = grade.rank > 0 ? gradeOf(row) : nullptr;
    return least && least->medium == grade.medium && least->rank > 0 && least->rank <= grade.rank;
}

} // namespace

std::span<const Phy> phys() {
    static const std::vector<Phy> all = readPhys();
    return all;
}

const Grade* gradeOf(std::string_view name) {
    return byName(std::span<const Grade>(grades()), name);
}

const Phy* phyOf(std::string_view name) {
    return byName(phys(), name);
}

double attenuationDbPerKm(std::string_view name, int wavelengthNm) {
    const Grade* grade = gradeOf(name);
    if (!grade || grade->dbPerKm.empty())
        return 0;
    const auto away = [&](const auto& at) { return std::abs(at.first - wavelengthNm); };
    return std::min_element(grade->dbPerKm.begin(), grade->dbPerKm.end(),
                            [&](const auto& x, const auto& y) { return away(x) < away(y); })
        ->second;
}

std::optional<Reach> reachOf(std::string_view name, std::string_view gradeName) {
    const Phy* phy = phyOf(name);
    const Grade* grade = gradeOf(gradeName);
    std::optional<Reach> best;
    if (!phy || !grade)
        return best;
    for (const Phy::Over& over : phy->over)
        if (covers(over.grade, *grade) && (!best || over.reach.mm > best->mm)) {
            best = over.reach;
            best->source = phy->source;
        }
    return best;
}

std::string_view copperPhy(int mbps) {
    for (const Phy& phy : phys())
        if (phy.copper && phy.rate == mbps)
            return phy.name;
    return {};
}

const Phy* twinaxialPhy(int mbps) {
    for (const Phy& phy : phys())
        if (phy.rate == mbps && phy.over.front().grade == "twinaxial")
            return &phy;
    return nullptr;
}

bool speakAlike(std::string_view a, std::string_view b) {
    if (const Phy* phy = phyOf(a); phy && !phy->faces.empty())
        return phy->faces == b;
    if (a == b)
        return true;
    const auto says = [](const Phy* phy, std::string_view other) {
        return phy &&
               std::find(phy->speaksWith.begin(), phy->speaksWith.end(), other) != phy->speaksWith.end();
    };
    return says(phyOf(a), b) || says(phyOf(b), a);
}

} // namespace underridge::linking
