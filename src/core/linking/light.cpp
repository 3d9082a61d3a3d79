// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/light.h"

#include "core/linking/fit.h"
#include "core/linking/judged.h"

namespace underridge::linking {
using namespace model;
namespace {

std::string counted(int count, const char* one, const char* more) {
    constexpr std::array<const char*, 13> numbers{"no",    "one",   "two",  "three", "four",   "five",  "six",
                                                  "seven", "eight", "nine", "ten",   "eleven", "twelve"};
    return fmt::format("{} {}",
                       count < static_cast<int>(numbers.size()) ? numbers[static_cast<std::size_t>(count)]
                                                                : std::to_string(count),
                       count == 1 ? one : more);
}

/// Transmit and receive positions: 1 and 2 of a pair; 1–4 and 12–9 of an array of twelve
/// (IEEE 802.3 clause 86.10.3), 1–8 and 16–9 of one of sixteen (clause 138.10.3).
std::pair<std::vector<int>, std::vector<int>> lanesOf(const PortView& port) {
    if (!isArray(port.connector()) || port.lanes > 1)
        return {{1}, {2}};
    const int all = strandsOf(port.connector()), lanes = all == 16 ? 8 : 4;
    std::pair<std::vector<int>, std::vector<int>> out;
    for (int lane = 0; lane < lanes; ++lane) {
        out.first.push_back(1 + lane);
        out.second.push_back(all - lane);
    }
    return out;
}

const Phy* fixedPhy(const PortView& port) {
    return port.transceiver || port.like->phy.empty() ? nullptr : phyOf(port.like->phy);
}

bool isOneStrand(const PortView& port) {
    const Phy* phy = fixedPhy(port);
    return (port.transceiver && port.transceiver->receiveNm != 0) || (phy && !phy->faces.empty());
}

/// What an end sends on; 0: not known.
int sendsOn(const PortView& port) {
    const Phy* phy = fixedPhy(port);
    return port.transceiver ? port.transceiver->wavelengthNm : phy ? phy->wavelengthNm : 0;
}

std::vector<LightShare> sharesOf(const Channel& channel, int wavelengthNm) {
    LightShare connections{}, splices{};
    int howMany = 0, spliced = 0;
    std::vector<LightShare> out;
    std::vector<std::pair<std::string, std::int64_t>> grades;
    std::vector<double> losses;
    for (const ChannelPart& part : channel.parts) {
        const double db = lossOf(part, wavelengthNm);
        if (part.kind == ChannelPart::Kind::connection && !part.measured) {
            ++howMany;
            connections.db += db;
        } else if (part.kind == ChannelPart::Kind::splice && !part.measured) {
            ++spliced;
            splices.db += db;
        } else if (part.kind == ChannelPart::Kind::cable && part.measured) {
            out.push_back({"measured", db});
        } else if (part.kind == ChannelPart::Kind::cable && part.type && part.lengthMm > 0) {
            const auto at = std::find_if(grades.begin(), grades.end(),
                                         [&](const auto& grade) { return grade.first == part.type->grade; });
            if (at == grades.end()) {
                grades.emplace_back(part.type->grade, part.lengthMm);
                losses.push_back(db);
            } else {
                at->second += part.lengthMm;
                losses[static_cast<std::size_t>(at - grades.begin())] += db;
            }
        }
    }
    if (howMany > 0)
        out.insert(out.begin(), {counted(howMany, "connection", "connections"), connections.db});
    if (spliced > 0)
        out.push_back({counted(spliced, "splice", "splices"), splices.db});
    for (std::size_t i = 0; i < grades.size(); ++i)
        out.push_back({fmt::format("{} of {}", metres(grades[i].second), grades[i].first), losses[i]});
    return out;
}

class Lit : Judged {
public:
    using Judged::Judged;

    void all() {
        if (mixedCores(channel_) || !polarity() || !runs())
            return;
        reach();
        loss();
    }

private:
    bool polarity() {
        if (isOneStrand(a_) || isOneStrand(b_) || (!a_.transceiver && !b_.transceiver))
            return true;
        const auto [tx, rx] = lanesOf(a_);
        const auto [txB, rxB] = lanesOf(b_);
        if (tx.size() != txB.size() || (channel_.leads(tx, rxB) && channel_.leads(rx, txB)))
            return true;
        say_("polarity", -1, [&] {
            return Said{fmt::format("{}: what one end sends does not reach where the other receives", both()),
                        words("use one cable that crosses (A to B, Type B), or one less")};
        });
        return false;
    }

    bool runs() {
        for (const int end : {0, 1})
            for (const ChannelPart& part : channel_.parts) {
                const PortView& port = channel_.port(end);
                if (!part.type || !isFibre(part.type->medium))
                    continue;
                const LightLimit limit = limitOf(port, speed_, part.type->grade);
                const Medium medium = mediumOf(port);
                // Where no clause says what it runs over, its medium does.
                if (limit.runs &&
                    (phyOf(limit.phy) || medium == Medium::unknown || medium == part.type->medium))
                    continue;
                say_("fibre-class", -1, [&] {
                    return Said{fmt::format("{}: {} does not run over {}", both(),
                                            limit.phy.empty() ? std::string(titleOf(medium)) : limit.phy,
                                            part.type->grade.empty() ? std::string(titleOf(part.type->medium))
                                                                     : part.type->grade),
                                words("use another cable or other transceivers")};
                });
                return false;
            }
        return true;
    }

    void reach() {
        for (const int end : {0, 1})
            for (const std::string& grade : channel_.grades) {
                const LightLimit limit = limitOf(channel_.port(end), speed_, grade);
                const std::int64_t most = std::max(limit.mm, limit.engineeredMm);
                if (most > 0 && channel_.lengthMm > most) {
                    say_("reach", -1, [&] {
                        return Said{fmt::format("{}: {} over {} reaches {}, the channel is {}{}", both(),
                                                limit.phy, grade, metres(most),
                                                channel_.unmeasured > 0 ? "at least " : "",
                                                metres(channel_.lengthMm)),
                                    words("use transceivers with a longer reach")};
                    });
                    return;
                }
                const auto isMeasured = [](const ChannelPart& part) {
                    return part.kind != ChannelPart::Kind::cable || part.measured;
                };
                if (limit.mm > 0 && channel_.lengthMm > limit.mm &&
                    !std::all_of(channel_.parts.begin(), channel_.parts.end(), isMeasured)) {
                    say_("engineered", -1, [&] {
                        return Said{
                            fmt::format("{}: {} reaches {} by itself, and {} where the loss is known; it "
                                        "is {}",
                                        both(), limit.phy, metres(limit.mm), metres(limit.engineeredMm),
                                        metres(channel_.lengthMm)),
                            words("measure the loss of its cables, and enter it")};
                    });
                    return;
                }
            }
    }

    void loss() {
        const auto budget = lightBudgetOf(channel_);
        if (!budget)
            return;
        constexpr double tiny = 1e-9;
        if (budget->limit.lossDb > 0 && budget->lossDb > budget->limit.lossDb + tiny)
            say_("loss", -1, [&] {
                return Said{fmt::format("{}: {}, {}", both(), budget->limit.phy, textOf(*budget)),
                            words(channel_.connections > 0
                                      ? "pass fewer panels, splice, or use transceivers that allow more"
                                      : "use transceivers that allow more")};
            });
        else if (channel_.unmeasured == 0 && budget->lossDb + tiny < budget->limit.minLossDb)
            say_("overload", -1, [&] {
                return Said{
                    fmt::format(
                        "{}: {} needs {:.1f} dB or more between the ends, there are at most {:.1f} dB",
                        both(), budget->limit.phy, budget->limit.minLossDb, budget->lossDb),
                    words("use transceivers for this length, or put an attenuator in")};
            });
    }
};

} // namespace

std::optional<std::pair<const Grade*, const Grade*>> mixedCores(const Channel& channel) {
    const Grade* first = nullptr;
    for (const std::string& name : channel.grades) {
        const Grade* grade = gradeOf(name);
        if (!grade || grade->coreUm == 0)
            continue;
        if (!first)
            first = grade;
        if (first->coreUm != grade->coreUm)
            return std::pair(first, grade);
    }
    return std::nullopt;
}

LightLimit limitOf(const PortView& port, int rate, std::string_view grade) {
    LightLimit limit;
    const TransceiverModel* model = port.transceiver;
    limit.phy = model ? phyAt(*model, rate * port.lanes, port.lanes) : port.like->phy;
    if (const Phy* phy = phyOf(limit.phy)) {
        const auto reach = reachOf(limit.phy, grade);
        limit.runs = reach || !gradeOf(grade) || gradeOf(grade)->coreUm == 0;
        if (reach) {
            limit.mm = reach->mm;
            limit.engineeredMm = reach->engineeredMm;
            limit.lossDb = reach->lossDb;
        }
        limit.minLossDb = phy->minLossDb;
    }
    if (!model)
        return limit;
    if (model->lossDb > 0)
        limit.lossDb = limit.lossDb > 0 ? std::min(limit.lossDb, model->lossDb) : model->lossDb;
    if (model->minLossDb > 0)
        limit.minLossDb = std::max(limit.minLossDb, model->minLossDb);
    if (model->reachMm > 0 && (limit.mm == 0 || model->reachMm < limit.mm))
        limit.mm = model->reachMm;
    return limit;
}

std::optional<LightBudget> lightBudgetOf(const Channel& channel) {
    if (!channel.ends[0].isKnown() || !channel.ends[1].isKnown())
        return std::nullopt;
    const bool fibre = std::any_of(channel.parts.begin(), channel.parts.end(), [](const ChannelPart& part) {
        return part.type && isFibre(part.type->medium);
    });
    std::optional<LightBudget> worst;
    const int rate = rateOf(channel);
    for (const int end : {0, 1}) {
        const PortView& port = channel.port(end);
        if (!fibre || sendsOn(port) <= 0)
            continue;
        LightBudget budget;
        budget.wavelengthNm = sendsOn(port);
        budget.lossDb = lossOf(channel, budget.wavelengthNm);
        budget.limit = limitOf(port, rate, channel.grades.empty() ? std::string() : channel.grades.front());
        for (const std::string& grade : channel.grades)
            if (const LightLimit other = limitOf(port, rate, grade);
                other.lossDb > 0 && other.lossDb < budget.limit.lossDb)
                budget.limit = other;
        const auto spare = [](const LightBudget& b) {
            return b.limit.lossDb > 0 ? b.limit.lossDb - b.lossDb : 1e9;
        };
        if (!worst || spare(budget) < spare(*worst))
            worst = std::move(budget);
    }
    if (worst)
        worst->shares = sharesOf(channel, worst->wavelengthNm);
    return worst;
}

std::string partsOf(const LightBudget& budget) {
    std::string out;
    for (const LightShare& share : budget.shares)
        out += fmt::format("{}{} {:.1f}", out.empty() ? "" : ", ", share.what, share.db);
    return out;
}

std::string textOf(const LightBudget& budget) {
    std::string out = fmt::format("{:.1f} dB", budget.lossDb);
    if (budget.limit.lossDb > 0)
        out += fmt::format(" of {:.1f} dB", budget.limit.lossDb);
    const std::string parts = partsOf(budget);
    return parts.empty() ? out : out + ": " + parts;
}

void judgeLight(const Network& network, const Channel& channel, int rate, Say say) {
    Lit(network, channel, say, rate).all();
}

} // namespace underridge::linking
