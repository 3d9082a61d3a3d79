// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/mending.h"

#include "core/linking/best.h"
#include "core/linking/judging.h"

#include <fmt/format.h>

namespace underridge::linking {
using namespace model;

Remedy otherJoint(const Network& network, Fits& fits, const Link& link) {
    const Catalogue& catalogue = fits.catalogue();
    const Remedy none{Remedy::Kind::none, "choose other ports", link.id, {}, {}, {}};
    const PortView* ports[2] = {};
    const auto a = portAt(network, link.a), b = portAt(network, link.b);
    if (!a || !b)
        return none;
    ports[0] = &*a;
    ports[1] = &*b;
    const Cable* cable = network.cable(link.cable);
    const CableType* held = cable ? network.typeOf(*cable) : nullptr;
    auto emptyA = a, emptyB = b; // as if nothing were fitted
    emptyA->transceiver = emptyB->transceiver = nullptr;
    const Fit& found = fits.of(*emptyA, *emptyB);
    const auto idAt = [](const Joint& joint, int end) -> const std::string& {
        return end == 0 ? joint.transceiverA : joint.transceiverB;
    };
    const auto differs = [&](const Joint& joint, int end) {
        const TransceiverModel* fitted = ports[end]->transceiver;
        return idAt(joint, end) != (fitted ? fitted->id : std::string());
    };
    const auto changes = [&](const Joint& joint) {
        return 2 * (differs(joint, 0) + differs(joint, 1)) + (!held || held->id != joint.cable);
    };
    const auto isRight = [&](const Joint& joint) {
        Planned planned;
        planned.a = link.a;
        planned.b = link.b;
        planned.type = catalogue.cable(joint.cable);
        for (const int end : {0, 1})
            planned.optics[end] = catalogue.transceiver(idAt(joint, end));
        planned.lengthMm = cable ? cable->lengthMm : 0;
        planned.instead = link.id;
        return !objectionTo(network, planned);
    };
    // Without losing speed, if that can be; the least change first: a cable counts one, a
    // transceiver two.
    const int speed = commonRate(a->rates(), b->rates());
    constexpr int most = 5;
    const Joint* joint = nullptr;
    for (const bool slower : {false, true})
        for (int change = 1; change <= most && !joint; ++change)
            for (const Joint& each : found.joints)
                if (!joint && (each.speed < speed) == slower && changes(each) == change && isRight(each))
                    joint = &each;
    if (!joint)
        return none;
    const CableType* type = catalogue.cable(joint->cable);
    const std::string name = type ? type->name : "no cable";
    if (!differs(*joint, 0) && !differs(*joint, 1))
        return {Remedy::Kind::useCable, "use " + name, link.id, {}, joint->cable, *joint};
    std::vector<std::string> steps;
    for (const int end : {0, 1}) {
        if (!differs(*joint, end))
            continue;
        const TransceiverModel* model = catalogue.transceiver(idAt(*joint, end));
        steps.push_back(
            model ? fmt::format("fit {} in {}", model->name, portText(network, link.end(end)))
                  : fmt::format("take the transceiver out of {}", portText(network, link.end(end))));
    }
    if (!held || held->id != joint->cable)
        steps.push_back("use " + name);
    return {Remedy::Kind::useJoint, fmt::format("{}", fmt::join(steps, ", ")), link.id, {}, {}, *joint};
}

} // namespace underridge::linking
