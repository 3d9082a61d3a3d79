// SPDX-License-Identifier: GPL-3.0-or-later
// The rules that regard one link by itself.
#include "core/linking/rules.h"

#include <array>
#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

bool isFibre(Medium medium) {
    return medium == Medium::singleMode || medium == Medium::multimode;
}

/// A broken rule without words: what the notch needs.
struct Broken {
    std::string_view code;
    int end = -1;
};

struct Look {
    const Link& link;
    std::optional<PortView> a, b;
    const CableType* type = nullptr;

    const PortView& view(int end) const { return end == 0 ? *a : *b; }
};

bool isEmptyCage(const PortView& port) {
    return port.like->cage != Cage::none && !port.transceiver;
}

Medium mediumOf(const PortView& port) {
    if (port.transceiver)
        return port.transceiver->medium;
    return port.like->media.empty() ? Medium::unknown : port.like->media.front();
}

/// One end of a cable.
struct Plug {
    Connector connector;
    bool angled, pinned;
};

/// The first rule a plug breaks in a port: its form, its end face, its pins; empty when
/// it goes in and works.
std::string_view misfitOf(const PortView& port, const Plug& plug) {
    if (port.connector() != plug.connector)
        return "connector";
    if (!isAdapter(*port.like) || port.transceiver) {
        const bool angled = !port.transceiver && port.like->angled;
        const bool pinned = port.transceiver ? true : port.like->pinned;
        if (angled != plug.angled)
            return "end-face";
        if (plug.connector == Connector::mpo && pinned == plug.pinned)
            return "pins";
    }
    return {};
}

int badness(std::string_view misfit) {
    return misfit.empty() ? 0 : misfit == "connector" ? 100 : 1;
}

/// Rates of serial ports below this are of asynchronous lines (TIA-232), which have no
/// clock of their own.
constexpr int synchronousMbps = 2;

bool isSynchronous(const PortView& port) {
    return port.isData() && mediumOf(port) == Medium::serial && !port.like->rates.empty() &&
           port.like->rates.back() >= synchronousMbps;
}

/// The plug at an end of a direct-attach assembly; the far ends of a breakout may be of
/// another form.
Cage plugAt(const Look& look, int end) {
    const CableType& type = *look.type;
    return type.farEnds > 1 && look.view(end).lanes == 1 && type.cageB != Cage::none ? type.cageB : type.cage;
}

void breakConnectors(const Look& look, std::vector<Broken>& out) {
    const CableType& type = *look.type;
    if (type.medium == Medium::directAttach || type.medium == Medium::activeOptical) {
        for (const int end : {0, 1})
            if (!isEmptyCage(look.view(end)) || !accepts(look.view(end).like->cage, plugAt(look, end)))
                out.push_back({"connector", end});
        return;
    }
    bool empty = false;
    for (const int end : {0, 1})
        if (isEmptyCage(look.view(end))) {
            out.push_back({"transceiver", end});
            empty = true;
        }
    if (empty)
        return;
    const Plug a{type.connectorA, type.angledA, type.pinnedA}, b{type.connectorB, type.angledB, type.pinnedB};
    const std::array<std::string_view, 2> forth{misfitOf(*look.a, a), misfitOf(*look.b, b)};
    const std::array<std::string_view, 2> back{misfitOf(*look.a, b), misfitOf(*look.b, a)};
    const auto& better =
        badness(forth[0]) + badness(forth[1]) <= badness(back[0]) + badness(back[1]) ? forth : back;
    if (better[0] == "connector" && better[1] == "connector") {
        out.push_back({"connector", -1});
        return;
    }
    for (const int end : {0, 1})
        if (const std::string_view misfit = better[static_cast<std::size_t>(end)]; !misfit.empty())
            out.push_back({misfit, end});
    if (!out.empty())
        return;
    if (isFibre(type.medium))
        for (const int end : {0, 1})
            if (const Medium medium = mediumOf(look.view(end));
                medium != Medium::unknown && medium != type.medium)
                out.push_back({"fibre-class", end});
}

/// IEEE 802.3: RS-FEC is part of 100GBASE-SR4 (clause 95) and 25GBASE-SR (clause 112).
bool wantsRsFec(const TransceiverModel& model) {
    return model.phy == "100GBASE-SR4" || model.phy == "25GBASE-SR";
}

/// What a port does when it is left to itself.
Fec fecOf(const PortView& port) {
    if (port.record && port.record->fec != Fec::automatic)
        return port.record->fec;
    return port.transceiver && wantsRsFec(*port.transceiver) ? Fec::rs : Fec::none;
}

void breakFec(const Look& look, std::vector<Broken>& out) {
    const auto isSet = [](const PortView& port) { return port.record && port.record->fec != Fec::automatic; };
    if (!isSet(*look.a) && !isSet(*look.b))
        return; // both do what their PHY asks
    for (const int end : {0, 1})
        if (const PortView& port = look.view(end);
            port.transceiver && wantsRsFec(*port.transceiver) && fecOf(port) != Fec::rs) {
            out.push_back({"fec", end});
            return;
        }
    if (fecOf(*look.a) != fecOf(*look.b))
        out.push_back({"fec", isSet(*look.a) == isSet(*look.b) ? -1 : isSet(*look.a) ? 0 : 1});
}

void breakClock(const Look& look, std::vector<Broken>& out) {
    if (!isSynchronous(*look.a) || !isSynchronous(*look.b))
        return;
    const auto gives = [](const PortView& port) { return port.record && port.record->givesClock; };
    if (gives(*look.a) == gives(*look.b))
        out.push_back({"clock", -1});
}

void breakPinout(const Look& look, std::vector<Broken>& out) {
    if (look.type->medium == Medium::serial && !look.link.console && look.a->isData() && look.b->isData() &&
        look.type->console)
        out.push_back({"pinout", -1});
    if (look.type->medium != Medium::twistedPair)
        return;
    const Mdi x = look.a->like->mdi, y = look.b->like->mdi;
    const bool fixedBoth = x != Mdi::automatic && y != Mdi::automatic;
    const bool wantsCrossed = fixedBoth && x == y;
    if (look.type->pinout == Pinout::rolled ||
        (fixedBoth && (look.type->pinout == Pinout::crossed) != wantsCrossed))
        out.push_back({"pinout", -1});
}

void breakSpeed(const Look& look, std::vector<Broken>& out) {
    const auto a = look.a->rates(), b = look.b->rates();
    if (a.empty() || b.empty())
        return; // nothing is known of it
    int common = 0, fastest = 0;
    for (const int rate : a)
        if (std::find(b.begin(), b.end(), rate) != b.end()) {
            fastest = std::max(fastest, rate);
            if (!look.type || rate <= connectionRate(*look.type))
                common = std::max(common, rate);
        }
    if (common == 0) {
        const auto isSet = [](const PortView& port) { return port.record && port.record->speed > 0; };
        const bool setA = isSet(*look.a), setB = isSet(*look.b);
        out.push_back({"speed", setA == setB ? -1 : setA ? 0 : 1});
    } else if (common < fastest) {
        out.push_back({"category", -1});
    }
    const auto duplex = [](const PortView& port) {
        return port.record ? port.record->duplex : Duplex::automatic;
    };
    if (duplex(*look.a) != duplex(*look.b))
        out.push_back({"duplex", duplex(*look.a) == Duplex::automatic   ? 1
                                 : duplex(*look.b) == Duplex::automatic ? 0
                                                                        : -1});
}

std::vector<Broken> brokenBy(const Network& network, const Look& look) {
    std::vector<Broken> out;
    const Link& link = look.link;
    for (const int end : {0, 1}) {
        if (!link.end(end).known())
            out.push_back({"port-unknown", end});
        else if (const Port* record = network.port(link.end(end)); record && record->disabled)
            out.push_back({"port-disabled", end});
    }
    const auto isKnown = [](const std::optional<PortView>& port) { return port && !port->learned; };
    if (!isKnown(look.a) || !isKnown(look.b))
        return out; // nothing is known of an end: nothing is invented
    const bool consoleA = look.a->like->use == PortUse::console,
               consoleB = look.b->like->use == PortUse::console;
    if (look.a->like->use == PortUse::power || look.b->like->use == PortUse::power)
        return out;
    if (consoleA || consoleB) {
        if (!link.console || (look.type && !look.type->console))
            out.push_back({"console", consoleA == consoleB ? -1 : consoleA ? 0 : 1});
        return out;
    }
    const bool panelEnd = look.a->like->block == Block::front || look.a->like->block == Block::rear ||
                          look.b->like->block == Block::front || look.b->like->block == Block::rear;
    if (look.type) {
        breakConnectors(look, out);
        breakPinout(look, out);
    }
    if (!out.empty() && !ruleOf(out.back().code)->comesUp)
        return out; // speeds do not matter when the plug does not fit
    if (look.a->transceiver && look.b->transceiver &&
        !understand(*look.a->transceiver, *look.b->transceiver, look.a->lanes, look.b->lanes)) {
        out.push_back({"optics", -1});
    } else if (!panelEnd) {
        breakSpeed(look, out);
        breakFec(look, out);
        breakClock(look, out);
    }
    return out;
}

Look lookAt(const Network& network, const Link& link) {
    const Cable* cable = network.cable(link.cable);
    return {link, portAt(network, link.a), portAt(network, link.b), cable ? network.typeOf(*cable) : nullptr};
}

/// The way to join the ports that changes least of what is there.
Remedy otherJoint(const Network& network, const Catalogue& catalogue, const Look& look) {
    auto a = look.a, b = look.b; // as if nothing were fitted
    a->transceiver = b->transceiver = nullptr;
    const Fit found = fit(*a, *b, catalogue);
    if (!found)
        return {Remedy::Kind::none, "choose other ports", look.link.id, {}, {}, {}};
    const auto differs = [&](const Joint& joint, int end) {
        const TransceiverModel* fitted = look.view(end).transceiver;
        return (end == 0 ? joint.transceiverA : joint.transceiverB) != (fitted ? fitted->id : std::string());
    };
    const auto changes = [&](const Joint& joint) {
        return 2 * (differs(joint, 0) + differs(joint, 1)) + (!look.type || look.type->id != joint.cable);
    };
    const Joint& joint =
        *std::min_element(found.joints.begin(), found.joints.end(),
                          [&](const Joint& x, const Joint& y) { return changes(x) < changes(y); });
    const CableType* type = catalogue.cable(joint.cable);
    const std::string cable = type ? type->name : "no cable";
    if (!differs(joint, 0) && !differs(joint, 1))
        return {Remedy::Kind::useCable, "use " + cable, look.link.id, {}, joint.cable, joint};
    std::vector<std::string> steps;
    for (const int end : {0, 1}) {
        if (!differs(joint, end))
            continue;
        const TransceiverModel* model =
            catalogue.transceiver(end == 0 ? joint.transceiverA : joint.transceiverB);
        steps.push_back(
            model ? fmt::format("fit {} in {}", model->name, portText(network, look.link.end(end)))
                  : fmt::format("take the transceiver out of {}", portText(network, look.link.end(end))));
    }
    if (!look.type || look.type->id != joint.cable)
        steps.push_back("use " + cable);
    return {Remedy::Kind::useJoint, fmt::format("{}", fmt::join(steps, ", ")), look.link.id, {}, {}, joint};
}

std::string words(const Network& network, const Look& look, const Broken& broken) {
    const Link& link = look.link;
    const std::string a = portText(network, link.a), b = portText(network, link.b);
    const std::string both = fmt::format("{} to {}", a, b);
    const std::string at = broken.end == 1 ? b : a;
    const std::string type = look.type ? look.type->name : std::string("the cable");
    if (broken.code == "connector")
        return broken.end < 0
                   ? fmt::format("{} joins neither {} nor {}", type, describe(*look.a), describe(*look.b))
                   : fmt::format("{}: {} does not go into {}", at, type, describe(look.view(broken.end)));
    if (broken.code == "transceiver")
        return fmt::format("{}: the {} cage is empty", at, titleOf(look.view(broken.end).like->cage));
    if (broken.code == "fibre-class")
        return fmt::format("{}: {} is {}, the port {}", at, type, titleOf(look.type->medium),
                           titleOf(mediumOf(look.view(broken.end))));
    if (broken.code == "optics")
        return fmt::format("{}: {} and {} do not understand each other", both, look.a->transceiver->name,
                           look.b->transceiver->name);
    if (broken.code == "pinout")
        return fmt::format("{}: a {} cable between {} and {}", both, titleOf(look.type->pinout),
                           titleOf(look.a->like->mdi), titleOf(look.b->like->mdi));
    if (broken.code == "speed")
        return fmt::format("{}: {} and {} have no speed in common", both, describe(*look.a),
                           describe(*look.b));
    if (broken.code == "category")
        return fmt::format("{}: {} carries no more than {}", both, type,
                           speedText(connectionRate(*look.type)));
    if (broken.code == "duplex")
        return broken.end < 0
                   ? fmt::format("{}: the duplex settings differ", both)
                   : fmt::format("{}: duplex is fixed at {} and negotiated at the other end", both, at);
    if (broken.code == "end-face")
        return fmt::format("{}: an angled end face (APC) meets a flat one (UPC)", at);
    if (broken.code == "pins")
        return fmt::format("{}: {}", at,
                           look.view(broken.end).transceiver || look.view(broken.end).like->pinned
                               ? "plug and port both have guide pins"
                               : "neither plug nor port has guide pins");
    if (broken.code == "fec")
        return fmt::format("{}: forward error correction is {} at one end, {} at the other", both,
                           titleOf(fecOf(*look.a)), titleOf(fecOf(*look.b)));
    if (broken.code == "clock")
        return fmt::format("{}: {} gives the clock", both,
                           look.a->record && look.a->record->givesClock ? "each end" : "neither end");
    if (broken.code == "console")
        return fmt::format("{}: a console port, but no console cord to a terminal", at);
    if (broken.code == "port-disabled")
        return fmt::format("{} is disabled", at);
    return fmt::format("{}: the port at {} is not known", both,
                       network.device(link.end(broken.end).device)
                           ? network.device(link.end(broken.end).device)->name
                           : std::string("the other end"));
}

Remedy remedyFor(const Network& network, const Catalogue& catalogue, const Look& look, const Broken& broken) {
    const LinkId id = look.link.id;
    if (broken.code == "port-disabled")
        return {Remedy::Kind::enablePort, "enable it", id, look.link.end(broken.end), {}, {}};
    if (broken.code == "port-unknown")
        return {Remedy::Kind::none, "choose the port in the details", id, {}, {}, {}};
    if (broken.code == "duplex" && broken.end >= 0)
        return {Remedy::Kind::negotiate, "let it negotiate", id, look.link.end(broken.end), {}, {}};
    if (broken.code == "duplex")
        return {Remedy::Kind::none, "set both alike, or let both negotiate", id, {}, {}, {}};
    if (broken.code == "fec")
        return {Remedy::Kind::freeFec, "leave it to both ends", id, {}, {}, {}};
    if (broken.code == "clock") {
        const bool both = look.a->record && look.a->record->givesClock;
        return {both ? Remedy::Kind::takeClock : Remedy::Kind::giveClock,
                (both ? "take it from " : "give it at ") +
                    portText(network, both ? look.link.b : look.link.a),
                id,
                both ? look.link.b : look.link.a,
                {},
                {}};
    }
    if (broken.code == "speed" && broken.end >= 0)
        return {Remedy::Kind::negotiate, "let it negotiate", id, look.link.end(broken.end), {}, {}};
    return otherJoint(network, catalogue, look);
}

} // namespace

std::vector<Finding> checkLink(const Network& network, const Catalogue& catalogue, const Link& link) {
    const Look look = lookAt(network, link);
    std::vector<Finding> findings;
    for (const Broken& broken : brokenBy(network, look)) {
        std::vector<ObjectRef> subjects{refTo(link.id)};
        for (const int end : {0, 1})
            if (broken.end != 1 - end)
                subjects.push_back(refTo(link.end(end).device));
        findings.push_back({ruleOf(broken.code), words(network, look, broken),
                            remedyFor(network, catalogue, look, broken), std::move(subjects), broken.end});
    }
    return findings;
}

Fails failsOf(const Network& network, const Link& link) {
    Fails fails;
    for (const Broken& broken : brokenBy(network, lookAt(network, link)))
        if (!ruleOf(broken.code)->comesUp) {
            fails.a |= broken.end != 1;
            fails.b |= broken.end != 0;
        }
    return fails;
}

} // namespace underridge::linking
