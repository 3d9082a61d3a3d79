// SPDX-License-Identifier: GPL-3.0-or-later
// The rules of linking as one table, and what they say of a network: findings, each with
// a remedy.
#pragma once
#include "core/linking/channel.h"
#include "core/linking/fits.h"

#include <map>
#include <span>

namespace underridge::linking {

struct Rule {
    std::string_view code; ///< stable, for filters and other programs
    Severity severity = Severity::error;
    std::string_view title;
    std::string_view source; ///< the standard it comes from
    bool comesUp = true;     ///< false: a link that breaks it does not come up
};

/// In the order findings are listed.
std::span<const Rule> rules();
const Rule* ruleOf(std::string_view code);

/// What would put a finding right, as far as one act can.
struct Remedy {
    enum class Kind {
        none,       ///< words only
        useCable,   ///< another cable type on the link: `id`
        useJoint,   ///< other cable and transceivers on the same ports: `joint`
        negotiate,  ///< take back the fixed speed and duplex of `port`
        enablePort, ///< take back that `port` is disabled
        givePower,  ///< take back that power is off at `port`
        freeFec,    ///< take back what is fixed of error correction at both ends
        giveClock,  ///< `port` gives the clock of its line
        takeClock,  ///< `port` takes it from the other end
        script,     ///< does the lines of `acts`
    };
    Kind kind = Kind::none;
    std::string words; ///< "use a crossed cable", as the end of a sentence
    model::LinkId link;
    model::PortRef port;
    std::string id;
    Joint joint;
    std::vector<std::string> acts = {}; ///< as core/edit/script has them

    bool operator==(const Remedy&) const = default;
};

struct Finding {
    const Rule* rule = nullptr;
    std::string message; ///< a sentence without a full stop that names the objects
    Remedy remedy;
    std::vector<model::ObjectRef> subjects; ///< what it is about, first what a click should show
    int end = -1;                           ///< end of the link at fault: 0, 1, or -1 for both or neither

    bool operator==(const Finding&) const = default;
};

/// What is wrong with a link by itself: whether its plugs go into its ports, without the
/// channel it is part of.
std::vector<Finding> checkLink(const model::Network& network, Fits& fits, const model::Link& link);

/// Whether a link will not come up, and at which ends: what the notch on the sheet shows.
/// Regards what checkLink() does, and what checkChannel() does of a link between two
/// devices, without words.
struct Fails {
    bool a = false, b = false;

    bool operator==(const Fails&) const = default;
    explicit operator bool() const { return a || b; }
};
Fails failsOf(const model::Network& network, const model::Link& link);

/// What is wrong with the channel a chain makes: whether its ends understand each other,
/// reach, loss, polarity, open ends.
std::vector<Finding> checkChannel(const model::Network& network, Fits& fits, const Chain& chain);

/// What is wrong with the power a device gives or takes over its cables.
std::vector<Finding> checkPower(const model::Network& network, const model::Device& device);

/// Ports of a device that more than one link ends in.
std::vector<Finding> checkTaken(const model::Network& network, const model::Device& device);

/// Whether the members of a LAG belong together; nothing for other interfaces.
std::vector<Finding> checkLag(const model::Network& network, const model::Interface& lag);

/// What a tester measured of a cable, what the cable stock says of it, and whether two
/// links use the same of its strands.
std::vector<Finding> checkCable(const model::Network& network, const model::Cable& cable);

/// What is wrong with how devices are fed from the mains, by the device it is said of.
std::map<model::DeviceId, std::vector<Finding>> checkFeeds(const model::Network& network);

/// Cable routes of a floor that are too full.
std::vector<Finding> checkRoutes(const model::Network& network, model::GroupId floor);

/// What is said of cables, two or more, that carry one label.
Finding labelTwice(const std::string& label, const std::vector<model::CableId>& cables);

/// All findings of a network, by rule, then by name.
std::vector<Finding> check(const model::Network& network, const model::Catalogue& catalogue);

} // namespace underridge::linking
