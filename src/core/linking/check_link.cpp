// SPDX-License-Identifier: GPL-3.0-or-later
// The rules that regard one link by itself: whether its plugs go into its ports.
#include "core/linking/judged.h"
#include "core/linking/mending.h"

#include <array>
#include <fmt/format.h>

namespace underridge::linking {
using namespace model;
namespace {

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

Look lookAt(const Network& network, const Link& link) {
    const Cable* cable = network.cable(link.cable);
    return {link, portAt(network, link.a), portAt(network, link.b), cable ? network.typeOf(*cable) : nullptr};
}

/// One end of a cable.
struct Plug {
    Connector connector;
    bool angled, pinned, socket;
};

/// The first rule a plug breaks in a port: its form, its end face, its pins; empty when
/// it goes in and works.
std::string_view misfitOf(const PortView& port, const Plug& plug) {
    if (port.connector() != plug.connector)
        return "connector";
    // TIA-574: a DTE has the plug, a DCE the socket, and the cable what meets it.
    if (plug.connector == Connector::de9 && port.like->serialSide != SerialSide::unknown &&
        plug.socket != (port.like->serialSide == SerialSide::dte))
        return "connector";
    if (!isAdapter(*port.like) || port.transceiver) {
        const bool angled = port.transceiver ? port.transceiver->angled : port.like->angled;
        const bool pinned = port.transceiver ? true : port.like->pinned;
        if (angled != plug.angled)
            return "end-face";
        if (isArray(plug.connector) && pinned == plug.pinned)
            return "pins";
    }
    return {};
}

int badness(std::string_view misfit) {
    return misfit.empty() ? 0 : misfit == "connector" ? 100 : 1;
}

/// The plug at an end of a direct-attach assembly; the far ends of a breakout may be of
/// another form.
Cage plugAt(const Look& look, int end) {
    const CableType& type = *look.type;
    return type.farEnds > 1 && look.view(end).lanes == 1 && type.cageB != Cage::none ? type.cageB : type.cage;
}

void breakConnectors(const Look& look, std::vector<Broken>& out) {
    const CableType& type = *look.type;
    if (isAssembly(type)) {
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
    const Plug a{type.connectorA, type.angledA, type.pinnedA, type.socketA},
        b{type.connectorB, type.angledB, type.pinnedB, type.socketB};
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
}

std::vector<Broken> brokenBy(const Network& network, const Look& look) {
    std::vector<Broken> out;
    const Link& link = look.link;
    if (link.isUpper())
        return out;
    for (const int end : {0, 1}) {
        if (!link.end(end).known())
            out.push_back({"port-unknown", end});
        else if (const Port* record = network.port(link.end(end)); record && record->disabled)
            out.push_back({"port-disabled", end});
    }
    const auto isKnown = [](const std::optional<PortView>& port) { return port && !port->learned; };
    if (!isKnown(look.a) || !isKnown(look.b))
        return out; // nothing is known of an end: nothing is invented
    if (look.a->like->use == PortUse::power || look.b->like->use == PortUse::power)
        return out;
    const bool consoleA = look.a->like->use == PortUse::console,
               consoleB = look.b->like->use == PortUse::console;
    if (consoleA || consoleB) {
        const bool both = consoleA && consoleB && look.a->connector() == look.b->connector();
        if (!link.console || both || (look.type && !look.type->console))
            out.push_back({"console", consoleA == consoleB ? -1 : consoleA ? 0 : 1});
        return out;
    }
    if (!look.type)
        return out;
    if (look.type->console && !link.console)
        out.push_back({"pinout", -1});
    breakConnectors(look, out);
    return out;
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
    if (broken.code == "pinout")
        return fmt::format("{}: {} is for consoles", both, type);
    if (broken.code == "end-face")
        return fmt::format("{}: an angled end face (APC) meets a flat one (UPC)", at);
    if (broken.code == "pins")
        return fmt::format("{}: {}", at,
                           look.view(broken.end).transceiver || look.view(broken.end).like->pinned
                               ? "plug and port both have guide pins"
                               : "neither plug nor port has guide pins");
    if (broken.code == "console")
        return look.a->like->use == look.b->like->use
                   ? fmt::format("{}: two console ports are joined", both)
                   : fmt::format("{}: a console port, but no console cord to a terminal", at);
    if (broken.code == "port-disabled")
        return fmt::format("{} is disabled", at);
    return fmt::format("{}: the port at {} is not known", both,
                       network.device(link.end(broken.end).device)
                           ? network.device(link.end(broken.end).device)->name
                           : std::string("the other end"));
}

Remedy remedyFor(const Network& network, Fits& fits, const Look& look, const Broken& broken) {
    const LinkId id = look.link.id;
    if (broken.code == "port-disabled")
        return {Remedy::Kind::enablePort, "enable it", id, look.link.end(broken.end), {}, {}};
    if (broken.code == "port-unknown")
        return {Remedy::Kind::none, "choose the port in the details", id, {}, {}, {}};
    return otherJoint(network, fits, look.link);
}

} // namespace

bool comesUp(std::string_view code) {
    const Rule* rule = ruleOf(code);
    return !rule || rule->comesUp;
}

bool plugsFit(const Network& network, const Link& link) {
    const auto broken = brokenBy(network, lookAt(network, link));
    return std::all_of(broken.begin(), broken.end(), [](const Broken& each) { return comesUp(each.code); });
}

std::vector<Finding> checkLink(const Network& network, Fits& fits, const Link& link) {
    const Look look = lookAt(network, link);
    std::vector<Finding> findings;
    for (const Broken& broken : brokenBy(network, look)) {
        std::vector<ObjectRef> subjects{refTo(link.id)};
        for (const int end : {0, 1})
            if (broken.end != 1 - end)
                subjects.push_back(refTo(link.end(end).device));
        findings.push_back({ruleOf(broken.code), words(network, look, broken),
                            remedyFor(network, fits, look, broken), std::move(subjects), broken.end});
    }
    return findings;
}

Fails failsOf(const Network& network, const Link& link) {
    Fails fails;
    const auto take = [&](std::string_view code, int end) {
        if (comesUp(code))
            return;
        fails.a |= end != 1;
        fails.b |= end != 0;
    };
    for (const Broken& broken : brokenBy(network, lookAt(network, link)))
        take(broken.code, broken.end);
    if (fails)
        return fails;
    const Channel channel = channelOf(network, chainOfLink(network, link));
    const auto isActive = [](const ChannelEnd& end) {
        return end.isKnown() && end.port->like->block != Block::front && end.port->like->block != Block::rear;
    };
    if (isActive(channel.ends[0]) && isActive(channel.ends[1]))
        judge(network, channel,
              [&](std::string_view code, int end, FunctionRef<Said()>) { take(code, end); });
    return fails;
}

} // namespace underridge::linking
