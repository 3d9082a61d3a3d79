// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/fit.h"

#include "core/linking/standards.h"

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
    bool adapter = false;   ///< joins two plugs rather than holding a contact of its own
    bool oneStrand = false; ///< both directions go over one strand
    std::string phy;
};

/// The rates a transceiver would give a port, after breakout and what the port is set to.
std::vector<int> ratesIn(const PortView& port, const TransceiverModel& model) {
    PortView fitted = port;
    fitted.transceiver = &model;
    return fitted.rates();
}

std::vector<Face> facesOf(const PortView& port, const Catalogue& catalogue) {
    std::vector<Face> faces;
    const auto optical = [&](const TransceiverModel& model, std::string toFit) {
        return Face{model.connector,
                    Cage::none,
                    model.medium,
                    ratesIn(port, model),
                    std::move(toFit),
                    &model,
                    port.lanes,
                    model.angled,
                    isArray(model.connector), // IEC 61754-7: the pins are in the equipment
                    false,
                    model.receiveNm != 0,
                    model.phy};
    };
    if (port.transceiver) {
        if (fitsCage(*port.like, *port.transceiver))
            faces.push_back(optical(*port.transceiver, {}));
        return faces;
    }
    Face own;
    own.connector = port.like->connector;
    own.cage = port.like->cage;
    own.medium = mediumOf(port);
    own.rates = port.rates();
    own.lanes = port.lanes;
    own.angled = port.like->angled;
    own.pinned = port.like->pinned;
    own.adapter = isAdapter(*port.like);
    own.phy = port.like->phy;
    if (const Phy* phy = phyOf(own.phy))
        own.oneStrand = !phy->faces.empty();
    if (port.like->cage == Cage::none)
        return {own};
    own.connector = Connector::none;
    own.medium = Medium::directAttach;
    faces.push_back(std::move(own));
    for (const TransceiverModel& model : catalogue.transceivers)
        // A wavelength of a grid is for a multiplexer: somebody has to ask for it.
        if (model.grid.empty() && fitsCage(*port.like, model) &&
            (port.lanes == 1 || !phyAt(model, model.rate, port.lanes).empty()))
            faces.push_back(optical(model, model.id));
    return faces;
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
           (!isArray(connector) || face.pinned != pinned);
}

bool plugsInto(const CableType& cable, const Face& a, const Face& b) {
    if (!isForLanes(cable, a, b))
        return false;
    if (cable.medium == Medium::directAttach || cable.medium == Medium::activeOptical) {
        if (a.cage == Cage::none || b.cage == Cage::none)
            return false;
        const Face &near = cable.farEnds > 1 && b.lanes > 1 ? b : a, &far = &near == &a ? b : a;
        return accepts(near.cage, cable.cage) &&
               accepts(far.cage, cable.cageB == Cage::none ? cable.cage : cable.cageB);
    }
    const auto carries = [&](const Face& face) {
        if (face.cage != Cage::none)
            return false;
        if (face.medium == cable.medium || (face.medium == Medium::unknown && isFibre(cable.medium)))
            return true;
        // Some single-mode PHYs run over multimode fibre, too: the table says which.
        return face.optics && isFibre(face.medium) && isFibre(cable.medium) &&
               reachOf(face.optics->phy, cable.grade).has_value();
    };
    if (!carries(a) || !carries(b))
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

/// TIA-574: like to like by a null modem.
Pinout serialPinoutFor(const PortView& a, const PortView& b) {
    const SerialSide x = a.like->serialSide, y = b.like->serialSide;
    return x == y && x != SerialSide::unknown ? Pinout::crossed : Pinout::straight;
}

/// The cord one takes without thinking: A-to-B for duplex fibre, Type B for arrays
/// (TIA-568.3).
bool isOrdinary(const CableType& cable, Pinout copper, Pinout serial) {
    const Pinout usual = cable.medium == Medium::twistedPair             ? copper
                         : cable.medium == Medium::serial                ? serial
                         : !isFibre(cable.medium) || cable.positions < 2 ? Pinout::straight
                         : cable.positions == 2                          ? Pinout::crossed
                                                                         : Pinout::reversed;
    return !cable.console && (cable.farEnds > 1 || (cable.pinout == usual && !isTrunk(cable)));
}

/// One strand for what sends and receives on the same, a pair or more for the rest.
bool hasStrandsFor(const CableType& cable, const Face& a, const Face& b) {
    if (!isFibre(cable.medium))
        return true;
    bool single = false;
    for (const Face* face : {&a, &b})
        single |= face->oneStrand;
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

bool shareMedium(const std::vector<Face>& facesA, const std::vector<Face>& facesB) {
    for (const Face& x : facesA)
        for (const Face& y : facesB)
            if (x.medium == y.medium)
                return true;
    return false;
}

std::string whyNot(const PortView& a, const PortView& b, const std::vector<Face>& facesA,
                   const std::vector<Face>& facesB) {
    if (shareMedium(facesA, facesB))
        return fmt::format("{} and {} have no speed in common", describe(a), describe(b));
    return fmt::format("no cable or transceiver joins {} and {}", describe(a), describe(b));
}

} // namespace

bool isAdapter(const PortBlock& port) {
    return (port.block == Block::front || port.block == Block::rear) && !port.pinned;
}

std::string phyAt(const TransceiverModel& model, int rate, int lanes) {
    if (lanes > 1) {
        const Phy* whole = phyOf(model.phy);
        const auto part = whole ? whole->parts.find(lanes) : std::map<int, std::string>::const_iterator();
        return whole && part != whole->parts.end() ? part->second : std::string();
    }
    if (rate == model.rate || rate == 0)
        return model.phy;
    if (model.medium == Medium::twistedPair)
        return std::string(copperPhy(rate));
    for (const Phy& phy : phys())
        if (phy.rate == rate && phy.wavelengthNm == model.wavelengthNm && phy.lanes == 1)
            return phy.name;
    return {};
}

bool understand(const TransceiverModel& a, const TransceiverModel& b, int lanesA, int lanesB) {
    if (isFibre(a.medium) != isFibre(b.medium) || (a.receiveNm == 0) != (b.receiveNm == 0))
        return false;
    // Both directions over one strand: each sends what the other receives.
    if (a.receiveNm != 0)
        return a.rate == b.rate && a.wavelengthNm == b.receiveNm && b.wavelengthNm == a.receiveNm;
    for (const int rateA : ratesOf(a))
        for (const int rateB : ratesOf(b)) {
            if (rateA / lanesA != rateB / lanesB)
                continue;
            const std::string x = phyAt(a, rateA, lanesA), y = phyAt(b, rateB, lanesB);
            if (!x.empty() && speakAlike(x, y))
                return true;
        }
    return false;
}

bool fitsCage(const PortBlock& port, const TransceiverModel& model) {
    if (!accepts(port.cage, model.cage))
        return false;
    return port.rates.empty() || commonRate(port.rates, ratesOf(model)) > 0;
}

std::string cageText(const PortBlock& port) {
    std::string rates;
    for (std::size_t i = 0; i < port.rates.size(); ++i)
        rates += (i == 0 ? "" : i + 1 == port.rates.size() ? " and " : ", ") + rateText(port.rates[i]);
    return fmt::format("an {} cage{}", titleOf(port.cage), rates.empty() ? rates : " of " + rates);
}

int lanesOf(Cage cage) {
    switch (cage) {
    case Cage::qsfpPlus:
    case Cage::qsfp28:
    case Cage::qsfp56:
        return 4;
    case Cage::qsfpDd:
    case Cage::osfp:
        return 8;
    default:
        return 1;
    }
}

std::vector<int> splitsOf(Cage cage) {
    std::vector<int> out;
    for (int parts = 2; parts <= lanesOf(cage); parts *= 2)
        out.push_back(parts);
    return out;
}

bool accepts(Cage cage, Cage plug) {
    // Forms of one size in the order they came: a cage takes its own and those before.
    constexpr std::array single{Cage::sfp, Cage::sfpPlus, Cage::sfp28, Cage::sfp56};
    constexpr std::array four{Cage::qsfpPlus, Cage::qsfp28, Cage::qsfp56, Cage::qsfpDd};
    const auto placeIn = [](const auto& forms, Cage form) {
        return std::find(forms.begin(), forms.end(), form) - forms.begin();
    };
    if (plug == Cage::none)
        return false;
    if (cage == Cage::osfp)
        return plug == Cage::osfp;
    for (const auto& forms : {single, four})
        if (placeIn(forms, cage) < static_cast<std::ptrdiff_t>(forms.size()))
            return placeIn(forms, plug) <= placeIn(forms, cage);
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
        if (console.like->use == PortUse::console && mediumOf(data) == Medium::serial &&
            !data.like->rates.empty() && data.like->block == Block::access)
            return consoleFit(a, b, catalogue);
        return {{}, fmt::format("{} is not for data", describe(console))};
    }
    Fit out;
    const Pinout pinout = pinoutFor(a, b), serial = serialPinoutFor(a, b);
    const auto facesA = facesOf(a, catalogue), facesB = facesOf(b, catalogue);
    for (const Face& x : facesA)
        for (const Face& y : facesB) {
            const bool bothOptics = x.optics && y.optics;
            if (commonRate(x.rates, y.rates) == 0)
                continue;
            if (!bothOptics && !x.phy.empty() && !y.phy.empty() && !speakAlike(x.phy, y.phy))
                continue;
            if (bothOptics && !understand(*x.optics, *y.optics, x.lanes, y.lanes))
                continue;
            if (x.medium == y.medium && needsNoCable(x.medium)) {
                if (const int speed = commonRate(x.rates, y.rates, INT_MAX); speed > 0)
                    out.joints.push_back({{}, x.medium, speed, {}, {}, false});
                continue;
            }
            for (const CableType& cable : catalogue.cables) {
                if (!cable.approved || !isOrdinary(cable, pinout, serial) || !plugsInto(cable, x, y) ||
                    !hasStrandsFor(cable, x, y))
                    continue;
                const int speed = commonRate(x.rates, y.rates, connectionRate(cable));
                if (speed > 0)
                    out.joints.push_back(
                        {cable.id, cable.medium, speed, x.transceiver, y.transceiver, false});
            }
        }
    std::stable_sort(out.joints.begin(), out.joints.end(), [](const Joint& x, const Joint& y) {
        return std::tuple(-x.speed, x.transceivers()) < std::tuple(-y.speed, y.transceivers());
    });
    if (out.joints.empty()) {
        out.why = whyNot(a, b, facesA, facesB);
        out.isNear = shareMedium(facesA, facesB);
    }
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
    if (port.like->bitRate > 0)
        text += fmt::format(" {:g} kbit/s", static_cast<double>(port.like->bitRate) / 1000);
    else if (!rates.empty())
        text += " " + rateText(rates.back());
    if (port.transceiver)
        text += " (" + port.transceiver->name + ")";
    return text;
}

} // namespace underridge::linking
