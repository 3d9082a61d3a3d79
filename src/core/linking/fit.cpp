// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/fit.h"

#include <climits>
#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

/// What a port shows to a cable: as it is, or with a transceiver that would have to be
/// fitted.
struct Face {
    Connector connector = Connector::none;
    Cage cage = Cage::none; ///< an open cage, for direct-attach plugs
    Medium medium = Medium::unknown;
    std::vector<int> rates;
    std::string transceiver;
    const TransceiverModel* optics = nullptr;
    int lanes = 1;
    bool angled = false, pinned = false;
    bool adapter = false; ///< joins two plugs rather than holding a contact of its own
};

Medium fixedMedium(const PortView& port) {
    if (!port.like->media.empty())
        return port.like->media.front();
    switch (port.like->connector) {
    case Connector::rj45:
    case Connector::m12d:
    case Connector::m12x:
        return Medium::twistedPair;
    case Connector::f:
    case Connector::bnc:
        return Medium::coax;
    case Connector::lc:
    case Connector::sc:
    case Connector::mpo:
        return Medium::multimode;
    case Connector::usbC:
        return Medium::serial;
    case Connector::idc:
        return Medium::twistedPair;
    case Connector::splice:
        return Medium::singleMode;
    case Connector::iec63171:
        return Medium::singlePair;
    case Connector::de9:
        return Medium::serial;
    case Connector::n:
        return Medium::coax;
    case Connector::none:
    case Connector::c13:
    case Connector::c14:
        return Medium::unknown;
    }
    return Medium::unknown;
}

std::vector<Face> facesOf(const PortView& port, const Catalogue& catalogue) {
    std::vector<Face> faces;
    const auto optical = [&](const TransceiverModel& model, std::string toFit) {
        return Face{model.connector,
                    Cage::none,
                    model.medium,
                    {model.rate / port.lanes},
                    std::move(toFit),
                    &model,
                    port.lanes,
                    false,
                    model.connector == Connector::mpo, // IEC 61754-7: the pins are in the equipment
                    false};
    };
    if (port.transceiver) {
        Face face = optical(*port.transceiver, {});
        face.rates = port.rates();
        faces.push_back(std::move(face));
        return faces;
    }
    Face own{port.like->connector, port.like->cage,   fixedMedium(port), port.rates(),         {}, nullptr,
             port.lanes,           port.like->angled, port.like->pinned, isAdapter(*port.like)};
    if (port.like->cage == Cage::none)
        return {own};
    own.connector = Connector::none;
    own.medium = Medium::directAttach;
    const auto rates = port.rates();
    faces.push_back(std::move(own));
    for (const TransceiverModel& model : catalogue.transceivers)
        if (accepts(port.like->cage, model.cage) &&
            std::find(rates.begin(), rates.end(), model.rate / port.lanes) != rates.end())
            faces.push_back(optical(model, model.id));
    return faces;
}

int commonRate(const std::vector<int>& a, const std::vector<int>& b, int limit) {
    int best = 0;
    for (const int rate : a)
        if (rate <= limit && std::find(b.begin(), b.end(), rate) != b.end())
            best = std::max(best, rate);
    return best;
}

/// A breakout assembly serves ports in breakout mode, at its near end, and nothing else
/// does.
bool isForLanes(const CableType& cable, const Face& a, const Face& b) {
    return cable.farEnds > 1
               ? (a.lanes == cable.farEnds) != (b.lanes == cable.farEnds) && (a.lanes == 1 || b.lanes == 1)
               : a.lanes == 1 && b.lanes == 1;
}

/// One plug of a cable in one port: form, end face and pins.
bool takes(const Face& face, Connector connector, bool angled, bool pinned) {
    return face.connector == connector && (face.adapter || face.angled == angled) &&
           (connector != Connector::mpo || face.pinned != pinned);
}

bool plugsInto(const CableType& cable, const Face& a, const Face& b) {
    if (!isForLanes(cable, a, b))
        return false;
    if (cable.medium == Medium::directAttach) {
        if (a.cage == Cage::none || b.cage == Cage::none)
            return false;
        const Face &near = cable.farEnds > 1 && b.lanes > 1 ? b : a, &far = &near == &a ? b : a;
        return accepts(near.cage, cable.cage) &&
               accepts(far.cage, cable.cageB == Cage::none ? cable.cage : cable.cageB);
    }
    if (a.cage != Cage::none || b.cage != Cage::none || a.medium != cable.medium || b.medium != cable.medium)
        return false;
    const auto goes = [&](const Face& x, const Face& y) {
        return takes(x, cable.connectorA, cable.angledA, cable.pinnedA) &&
               takes(y, cable.connectorB, cable.angledB, cable.pinnedB) &&
               (cable.farEnds == 1 || x.lanes > 1);
    };
    return goes(a, b) || goes(b, a);
}

/// IEEE 802.3 clause 40.4.4: a port with automatic MDI-X takes what it gets; two fixed
/// ports that send on the same pairs need a crossed cord.
Pinout pinoutFor(const PortView& a, const PortView& b) {
    const Mdi x = a.like->mdi, y = b.like->mdi;
    return x == y && x != Mdi::automatic ? Pinout::crossed : Pinout::straight;
}

/// The cord one takes without thinking: A-to-B for duplex fibre, Type B for arrays
/// (TIA-568.3).
bool isOrdinary(const CableType& cable, Pinout copper) {
    const bool fibre = cable.medium == Medium::singleMode || cable.medium == Medium::multimode;
    const Pinout usual = cable.medium == Medium::twistedPair ? copper
                         : !fibre || cable.positions < 2     ? Pinout::straight
                         : cable.positions == 2              ? Pinout::crossed
                                                             : Pinout::reversed;
    return !cable.console && (cable.farEnds > 1 || (cable.pinout == usual && !isTrunk(cable)));
}

/// One strand for what sends and receives on the same, a pair or more for the rest.
bool hasStrandsFor(const CableType& cable, const Face& a, const Face& b) {
    if (cable.medium != Medium::singleMode && cable.medium != Medium::multimode)
        return true;
    bool single = false;
    for (const Face* face : {&a, &b})
        single |= face->optics && face->optics->receiveNm != 0;
    const bool adapters = a.adapter && b.adapter;
    return single == (cable.positions == 1) || (adapters && cable.positions == 1 && (a.angled || b.angled));
}

/// Radio and leased circuits join two ports without a cable of ours.
bool needsNoCable(Medium medium) {
    return medium == Medium::radio || medium == Medium::circuit;
}

Fit consoleFit(const PortView& a, const PortView& b, const Catalogue& catalogue) {
    Fit out;
    for (const CableType& cable : catalogue.cables) {
        if (!cable.console || !cable.approved)
            continue;
        const auto plugs = [&](const PortView& x, const PortView& y) {
            return cable.connectorA == x.connector() && cable.connectorB == y.connector();
        };
        if (plugs(a, b) || plugs(b, a))
            out.joints.push_back({cable.id, Medium::serial, 0, {}, {}, true});
    }
    if (out.joints.empty())
        out.why =
            fmt::format("no console cord joins {} and {}", titleOf(a.connector()), titleOf(b.connector()));
    return out;
}

std::string whyNot(const PortView& a, const PortView& b, const std::vector<Face>& facesA,
                   const std::vector<Face>& facesB) {
    bool sameMedium = false;
    for (const Face& x : facesA)
        for (const Face& y : facesB)
            sameMedium |= x.medium == y.medium;
    if (sameMedium)
        return fmt::format("{} and {} have no speed in common", describe(a), describe(b));
    return fmt::format("no cable or transceiver joins {} and {}", describe(a), describe(b));
}

} // namespace

bool isAdapter(const PortBlock& port) {
    return (port.block == Block::front || port.block == Block::rear) && !port.pinned;
}

bool understand(const TransceiverModel& a, const TransceiverModel& b, int lanesA, int lanesB) {
    if (a.medium != b.medium || a.rate / lanesA != b.rate / lanesB)
        return false;
    // A lane of an array is a transceiver of its own: 100GBASE-SR4 and 25GBASE-SR send
    // alike (clauses 95, 112).
    if (lanesA != lanesB)
        return a.wavelengthNm == b.wavelengthNm;
    const auto receives = [](const TransceiverModel& t) {
        return t.receiveNm != 0 ? t.receiveNm : t.wavelengthNm;
    };
    if (a.receiveNm == 0 && b.receiveNm == 0)
        return a.phy == b.phy;
    return a.wavelengthNm == receives(b) && b.wavelengthNm == receives(a);
}

bool accepts(Cage cage, Cage plug) {
    switch (cage) {
    case Cage::none:
        return false;
    case Cage::sfp:
        return plug == Cage::sfp;
    case Cage::sfpPlus:
        return plug == Cage::sfp || plug == Cage::sfpPlus;
    case Cage::sfp28:
        return plug == Cage::sfpPlus || plug == Cage::sfp28;
    case Cage::qsfpPlus:
        return plug == Cage::qsfpPlus;
    case Cage::qsfp28:
        return plug == Cage::qsfpPlus || plug == Cage::qsfp28;
    }
    return false;
}

Fit fit(const PortView& a, const PortView& b, const Catalogue& catalogue) {
    if (a.learned)
        return {{},
                fmt::format("the connector of port {} is not known; choose the device's model first", a.key)};
    if (b.learned)
        return {{},
                fmt::format("the connector of port {} is not known; choose the device's model first", b.key)};
    if (a.like->use == PortUse::power || b.like->use == PortUse::power)
        return {{}, "a power port carries no data"};
    if (!a.isData() && !b.isData())
        return a.like->use == b.like->use && a.like->use == PortUse::console && a.connector() != b.connector()
                   ? consoleFit(a, b, catalogue)
                   : Fit{{}, "a console port needs a terminal at the other end"};
    if (a.isData() != b.isData()) {
        const PortView& console = a.isData() ? b : a;
        const PortView& data = a.isData() ? a : b;
        // A serial server's data ports are serial; they drive consoles.
        if (console.like->use == PortUse::console && fixedMedium(data) == Medium::serial &&
            !data.like->rates.empty() && data.like->block == Block::access)
            return consoleFit(a, b, catalogue);
        return {{}, fmt::format("{} is not for data", describe(console))};
    }
    Fit out;
    const Pinout pinout = pinoutFor(a, b);
    const auto facesA = facesOf(a, catalogue), facesB = facesOf(b, catalogue);
    for (const Face& x : facesA)
        for (const Face& y : facesB) {
            if (x.medium == y.medium && needsNoCable(x.medium)) {
                if (const int speed = commonRate(x.rates, y.rates, INT_MAX); speed > 0)
                    out.joints.push_back({{}, x.medium, speed, {}, {}, false});
                continue;
            }
            for (const CableType& cable : catalogue.cables) {
                if (!cable.approved || !isOrdinary(cable, pinout) || !plugsInto(cable, x, y) ||
                    !hasStrandsFor(cable, x, y))
                    continue;
                const int speed = commonRate(x.rates, y.rates, connectionRate(cable));
                if (speed > 0 &&
                    (!x.optics || !y.optics || understand(*x.optics, *y.optics, x.lanes, y.lanes)))
                    out.joints.push_back(
                        {cable.id, cable.medium, speed, x.transceiver, y.transceiver, false});
            }
        }
    std::stable_sort(out.joints.begin(), out.joints.end(), [](const Joint& x, const Joint& y) {
        return std::tuple(x.transceivers(), -x.speed) < std::tuple(y.transceivers(), -y.speed);
    });
    if (out.joints.empty())
        out.why = whyNot(a, b, facesA, facesB);
    return out;
}

std::string describe(const PortView& port) {
    if (port.like->use == PortUse::console)
        return fmt::format("console {}", titleOf(port.connector()));
    const auto rates = port.rates();
    if (!port.like->media.empty() && needsNoCable(port.like->media.front()))
        return std::string(titleOf(port.like->media.front())) +
               (rates.empty() ? std::string() : " " + rateText(rates.back()));
    std::string text(port.transceiver                ? titleOf(port.connector())
                     : port.like->cage != Cage::none ? titleOf(port.like->cage)
                                                     : titleOf(port.connector()));
    if (!rates.empty())
        text += " " + rateText(rates.back());
    if (port.transceiver)
        text += " (" + port.transceiver->name + ")";
    return text;
}

} // namespace underridge::linking
