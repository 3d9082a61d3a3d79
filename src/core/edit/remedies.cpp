// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/edit/remedies.h"

#include "core/edit/devices.h"
#include "core/edit/links.h"
#include "core/edit/script/script.h"

#include <fmt/format.h>

namespace underridge::edit {
using namespace model;
using linking::Remedy;

ActResult applyRemedy(const Network& network, const Catalogue& catalogue, const linking::Finding& finding,
                      IdSource& ids) {
    const Remedy& remedy = finding.remedy;
    const auto port = [&](const char* what, auto change) {
        return changePort(network, remedy.port, fmt::format("{} {}", what, portText(network, remedy.port)),
                          change);
    };
    switch (remedy.kind) {
    case Remedy::Kind::none:
        return advice("this needs a hand", remedy.words);
    case Remedy::Kind::useCable: {
        const Link* link = network.link(remedy.link);
        const CableType* type = catalogue.cable(remedy.id);
        if (!link || !type)
            return error("the link is no longer there", "check again");
        const Cable* old = network.cable(link->cable);
        const CableType* oldType = old ? network.typeOf(*old) : nullptr;
        const bool ownCord = old && !(oldType && (oldType->farEnds > 1 || linking::isTrunk(*oldType)));
        if (!ownCord) // no piece of cable yet, or one that others use too and that stays as it is
            return changeLink(network, catalogue, remedy.link, {link->a, link->b, remedy.joint, {}}, ids);
        Act act{
            fmt::format("Use {} from {}", type->name, linkText(network, *link)), network, {refTo(link->id)}};
        act.network.put(*type);
        Cable cable = *old;
        cable.type = type->id;
        cable.jacket.clear(); // another cable has another colour
        act.network.put(std::move(cable));
        Link changed = *link;
        changed.console = type->console;
        act.network.put(std::move(changed));
        return act;
    }
    case Remedy::Kind::useJoint: {
        const Link* link = network.link(remedy.link);
        if (!link)
            return error("the link is no longer there", "check again");
        return changeLink(network, catalogue, remedy.link, {link->a, link->b, remedy.joint, {}}, ids);
    }
    case Remedy::Kind::negotiate:
        return port("Negotiate at", [](Port& p) {
            p.speed = 0;
            p.duplex = Duplex::automatic;
        });
    case Remedy::Kind::enablePort:
        return port("Enable", [](Port& p) { p.disabled = false; });
    case Remedy::Kind::freeFec: {
        const Link* link = network.link(remedy.link);
        if (!link)
            return error("the link is no longer there", "check again");
        const auto free = [](Port& p) { p.fec = Fec::automatic; };
        auto act = changePort(network, link->a, "Leave error correction to both ends", free);
        return act ? changePort(act->network, link->b, act->name, free) : std::move(act);
    }
    case Remedy::Kind::giveClock:
        return port("Give the clock at", [](Port& p) { p.givesClock = true; });
    case Remedy::Kind::takeClock:
        return port("Take the clock at", [](Port& p) { p.givesClock = false; });
    case Remedy::Kind::script: {
        std::string lines;
        for (const std::string& act : remedy.acts)
            lines += act + "\n";
        auto script = applyActs(network, catalogue, lines, "remedy", ids, {});
        if (!script)
            return script.refusal();
        return Act{"Put right: " + remedy.words, std::move(script->network), finding.subjects};
    }
    case Remedy::Kind::givePower:
        return port("Give power at", [](Port& p) { p.powerOff = false; });
    }
    return error("this remedy is not known");
}

} // namespace underridge::edit
