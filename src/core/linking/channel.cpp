// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/channel.h"

#include "core/linking/fit.h"

#include <algorithm>

namespace underridge::linking {
using namespace model;
namespace {

/// A cable of a chain, drawn or planned.
struct Laid {
    const Link* link = nullptr;
    const Cable* cable = nullptr;
    const CableType* type = nullptr;
    std::int64_t lengthMm = 0;
};

Laid laidAt(const Network& network, const Stretch& stretch, const Planned* planned) {
    if (planned && stretch.from == planned->a && stretch.to == planned->b)
        return {nullptr, nullptr, planned->type, planned->lengthMm};
    if (planned && stretch.from == planned->b && stretch.to == planned->a)
        return {nullptr, nullptr, planned->type, planned->lengthMm};
    const Link* link = network.link(stretch.link);
    const Cable* cable = link ? network.cable(link->cable) : nullptr;
    return {link, cable, cable ? network.typeOf(*cable) : nullptr, cable ? cable->lengthMm : 0};
}

/// What a tester found a fibre cable to lose; its own plugs are in it (IEC 61280-4, one
/// reference cord).
std::optional<double> measuredLoss(const Laid& laid, int wavelengthNm) {
    if (!laid.cable || !laid.type || !isFibre(laid.type->medium))
        return std::nullopt;
    const Measured* found = nullptr;
    for (const Measured& each : laid.cable->measured) {
        const std::string what = lowered(each.what);
        const bool loss =
            what.find("return") == std::string::npos &&
            (what.find("loss") != std::string::npos || what.find("attenuation") != std::string::npos);
        if (!loss || each.unit != "dB")
            continue;
        if (!found || what.find(std::to_string(wavelengthNm)) != std::string::npos)
            found = &each;
    }
    return found ? std::optional(found->value) : std::nullopt;
}

/// Which way round a cable lies that has two different ends.
bool isTurned(const CableType& type, const Stretch& stretch, const Link* link, const PortView* from,
              const PortView* to) {
    const auto goes = [](const PortView* port, Connector connector) {
        return !port || port->connector() == Connector::none || port->connector() == connector;
    };
    if (type.connectorA != type.connectorB) {
        const bool straight = goes(from, type.connectorA) && goes(to, type.connectorB);
        const bool turned = goes(from, type.connectorB) && goes(to, type.connectorA);
        if (straight != turned)
            return turned;
    }
    // An end face in a port of its own tells; in an adapter it does not.
    for (const auto& [port, atFrom] : {std::pair(from, true), std::pair(to, false)})
        if (port && type.angledA != type.angledB && (port->transceiver || !isAdapter(*port->like)))
            return (port->transceiver ? port->transceiver->angled : port->like->angled) ==
                   (atFrom ? type.angledB : type.angledA);
    return link && stretch.from == link->b;
}

bool isFixed(const CableType& type, const PortView* from, const PortView* to) {
    const auto isRear = [](const PortView* port) { return port && port->like->block == Block::rear; };
    return type.installed || (isRear(from) && isRear(to));
}

class Making {
public:
    Making(const Network& network, const Chain& chain, const Planned* planned)
        : network_(network), chain_(chain), planned_(planned) {}

    Channel make() {
        for (const int end : {0, 1})
            makeEnd(end, end == 0 ? chain_.a : chain_.b);
        for (const auto& from :
             chain_.stretches.empty() ? std::vector<int>() : chain_.stretches.front().leaves)
            channel_.strands.emplace_back(from, from);
        std::int64_t fixedRun = 0;
        for (std::size_t i = 0; i < chain_.stretches.size(); ++i) {
            const bool last = i + 1 == chain_.stretches.size();
            const Stretch& stretch = chain_.stretches[i];
            std::optional<PortView> passedIn = last ? channel_.ends[1].port : portAt(network_, stretch.to);
            const PortView* from = i == 0                      ? view(channel_.ends[0].port)
                                   : channel_.passages.empty() ? nullptr
                                                               : view(channel_.passages.back().outPort);
            addCable(stretch, from, view(passedIn), fixedRun);
            if (!last)
                addPassage(stretch, chain_.stretches[i + 1], std::move(passedIn));
        }
        coverMeasured();
        return std::move(channel_);
    }

private:
    static const PortView* view(const std::optional<PortView>& port) { return port ? &*port : nullptr; }

    void makeEnd(int which, const PortRef& at) {
        ChannelEnd& end = channel_.ends[static_cast<std::size_t>(which)];
        end.at = at;
        end.port = portAt(network_, at);
        if (const Device* device = network_.device(at.device))
            end.role = roleOf(network_, *device);
        if (!planned_ || !end.port)
            return;
        for (const auto& [port, optics] :
             {std::pair(&planned_->a, planned_->optics[0]), std::pair(&planned_->b, planned_->optics[1])})
            if (*port == at && (optics || planned_->instead))
                end.port->transceiver = optics;
    }

    void addCable(const Stretch& stretch, const PortView* from, const PortView* to, std::int64_t& fixedRun) {
        const Laid laid = laidAt(network_, stretch, planned_);
        ChannelPart part{
            ChannelPart::Kind::cable, stretch.link, stretch.from, laid.type, false, laid.lengthMm, 0, false};
        if (laid.lengthMm > 0)
            channel_.lengthMm += laid.lengthMm;
        else if (laid.type)
            ++channel_.unmeasured;
        if (const CableType* type = laid.type) {
            part.turned = isTurned(*type, stretch, laid.link, from, to);
            if (const auto loss = measuredLoss(laid, wavelengthOf(channel_))) {
                part.ownDb = *loss;
                part.measured = true;
            }
            if (!type->grade.empty() && std::find(channel_.grades.begin(), channel_.grades.end(),
                                                  type->grade) == channel_.grades.end())
                channel_.grades.push_back(type->grade);
            slowTo(type->maxRate / type->farEnds, type->name);
            if (type->medium == Medium::twistedPair) {
                channel_.crossed += type->pinout == Pinout::crossed;
                channel_.rolled |= type->pinout == Pinout::rolled;
                channel_.pairs =
                    channel_.pairs == 0 ? type->positions : std::min(channel_.pairs, type->positions);
                if (isFixed(*type, from, to)) {
                    fixedRun += laid.lengthMm; // a consolidation point does not end it
                    channel_.permanentMm = std::max(channel_.permanentMm, fixedRun);
                } else {
                    fixedRun = 0;
                    channel_.cordsMm += laid.lengthMm;
                }
            }
        }
        for (auto& [start, position] : channel_.strands) {
            const auto at = std::find(stretch.leaves.begin(), stretch.leaves.end(), position);
            position = at == stretch.leaves.end()
                           ? 0
                           : stretch.arrives[static_cast<std::size_t>(at - stretch.leaves.begin())];
        }
        channel_.parts.push_back(part);
    }

    void addPassage(const Stretch& in, const Stretch& out, std::optional<PortView> inPort) {
        const Device* device = network_.device(in.to.device);
        Passage passage{in.to, out.from, std::move(inPort), portAt(network_, out.from), false};
        const DeviceModel* model = device ? network_.modelOf(*device) : nullptr;
        passage.midspan = model && model->midspan;
        for (auto& [start, position] : channel_.strands)
            if (const auto next = device && position > 0 ? through(network_, *device, {in.to.port, position})
                                                         : std::nullopt)
                position = next->position;
        const auto join = [&](const PortRef& at, const PortView* port) {
            const bool splice = port && port->connector() == Connector::splice;
            ++(splice ? channel_.splices : channel_.connections);
            const double own = port ? port->like->lossDb : 0;
            channel_.parts.push_back({splice ? ChannelPart::Kind::splice : ChannelPart::Kind::connection,
                                      {},
                                      at,
                                      nullptr,
                                      false,
                                      0,
                                      own > 0  ? own
                                      : splice ? spliceLossDb
                                               : connectorLossDb,
                                      false});
            if (port && !port->like->rates.empty())
                slowTo(port->like->rates.back(), portText(network_, at));
        };
        join(in.to, view(passage.inPort));
        // A cassette has a plug on either side of what is between.
        if (passage.inPort && passage.outPort &&
            passage.inPort->connector() != passage.outPort->connector() && isFibre(mediumOf(*passage.inPort)))
            join(out.from, view(passage.outPort));
        channel_.passages.push_back(std::move(passage));
    }

    void slowTo(int rate, const std::string& what) {
        if (rate <= 0 || (channel_.maxRate > 0 && channel_.maxRate <= rate))
            return;
        channel_.maxRate = rate;
        channel_.slowest = what;
    }

    /// The plugs of a cable that was measured are in its figure.
    void coverMeasured() {
        auto& parts = channel_.parts;
        for (std::size_t i = 0; i < parts.size(); ++i) {
            if (parts[i].kind != ChannelPart::Kind::cable || !parts[i].measured)
                continue;
            for (std::size_t k = i; k-- > 0 && parts[k].kind != ChannelPart::Kind::cable;)
                parts[k].measured = true;
            for (std::size_t k = i + 1; k < parts.size() && parts[k].kind != ChannelPart::Kind::cable; ++k)
                parts[k].measured = true;
        }
    }

    const Network& network_;
    const Chain& chain_;
    const Planned* planned_;
    Channel channel_;
};

} // namespace

bool Channel::leads(const std::vector<int>& from, const std::vector<int>& to) const {
    for (std::size_t i = 0; i < from.size(); ++i) {
        const auto at = std::find_if(strands.begin(), strands.end(),
                                     [&](const auto& strand) { return strand.first == from[i]; });
        if (at == strands.end() || at->second != to[i])
            return false;
    }
    return true;
}

Channel channelOf(const Network& network, const Chain& chain, const Planned* planned) {
    return Making(network, chain, planned).make();
}

int rateOf(const Channel& channel) {
    return commonRate(channel.port(0).rates(), channel.port(1).rates(),
                      channel.maxRate > 0 ? channel.maxRate : INT_MAX);
}

double lossOf(const ChannelPart& part, int wavelengthNm) {
    if (part.kind != ChannelPart::Kind::cable)
        return part.measured ? 0 : part.ownDb;
    if (part.measured)
        return part.ownDb;
    return part.type
               ? attenuationDbPerKm(part.type->grade, wavelengthNm) * static_cast<double>(part.lengthMm) / 1e6
               : 0;
}

double lossOf(const Channel& channel, int wavelengthNm) {
    double loss = 0;
    for (const ChannelPart& part : channel.parts)
        loss += lossOf(part, wavelengthNm);
    return loss;
}

int wavelengthOf(const Channel& channel) {
    for (const ChannelEnd& end : channel.ends)
        if (end.port && end.port->transceiver && end.port->transceiver->wavelengthNm > 0)
            return end.port->transceiver->wavelengthNm;
    return 0;
}

} // namespace underridge::linking
