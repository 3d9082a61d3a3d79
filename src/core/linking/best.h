// SPDX-License-Identifier: GPL-3.0-or-later
// The best pair of free ports between two devices, and the reason; and the port drawer's
// rows.
//
// Pairs are ranked lexicographically: each port in the right block for its peer's role
// (of routers and firewalls access and uplink are as good); the highest speed; the fewest
// transceivers to add; on another module or stack member than the links it stands by for
// (members of a LAG, redundant uplinks); power fits; least of a port's speed wasted; not
// reserved and not disabled; then the lowest ports. The first that would leave nothing to
// be found (judging.h), at the length the places give, is taken. Management ports are for
// devices that have no others.
#pragma once
#include "core/base/result.h"
#include "core/linking/fits.h"
#include "core/linking/supply.h"

namespace underridge::linking {

/// One end of a link in the making: a device, and the port wanted on it, if one is.
struct End {
    model::DeviceId device;
    std::string port;

    bool operator==(const End&) const = default;
};

/// What a person or a project does by habit when a port is chosen for them.
struct Habits {
    bool fromHighEnd = false;      ///< free ports are taken from the high end of their block
    bool hostsTakeUplinks = false; ///< an endpoint may get a port of the uplink block when no other is free

    bool operator==(const Habits&) const = default;
};

struct Proposal {
    model::PortRef a;
    model::PortRef b;
    Joint joint;
    std::string reason;                               ///< a clause: "next free port of the access block"
    std::optional<Supply> supplyA = {}, supplyB = {}; ///< to be fitted first, so that there is such a port
};

/// What somebody has said of a link before it is chosen.
struct Wishes {
    std::int64_t lengthMm = 0;            ///< of its cable; 0: as the places give
    bool insists = false;                 ///< it is made though something will be found wrong with it
    std::vector<std::string> cables = {}; ///< it goes over one of these types; none: over any

    bool operator==(const Wishes&) const = default;
};

/// Refuses with a clause that names the device and what it lacks, or what would be found
/// wrong. Who names both ports insists, and gets the best that fits them.
Result<Proposal> bestPair(const model::Network& network, const model::Catalogue& catalogue, const End& a,
                          const End& b, const Habits& habits = {}, const Wishes& wishes = {});

/// The same where many are asked for of one network.
Result<Proposal> bestPair(const model::Network& network, Fits& fits, const End& a, const End& b,
                          const Habits& habits = {}, const Wishes& wishes = {});

/// Joins two ports that do not fit, because somebody wants it so: with the cable one
/// would take in the hand, whose plugs go into both, else into one of them, else none.
/// Refuses what is taken or gone.
Result<Proposal> anyPair(const model::Network& network, const model::Catalogue& catalogue,
                         const model::PortRef& a, const model::PortRef& b);

/// All ways to join the ports a link already joins, as if its transceivers were not
/// fitted.
Fit fitFor(const model::Network& network, const model::Catalogue& catalogue, const model::Link& link);

enum class Standing { fits, needsTransceiver, needsSupply, taken, doesNotFit };

/// One row of the port drawer: a port of the target, and how it stands to the other end.
struct DrawerRow {
    std::string port;
    Standing standing = Standing::doesNotFit;
    bool best = false;
    std::string text;                  ///< "SFP+ 10G · uplink block", "taken: core-a 17", …
    Joint joint;                       ///< when it fits or needs a transceiver
    std::string other;                 ///< the port it would join at the other end; empty: there is none free
    std::optional<Supply> supply = {}; ///< what must be fitted for the port to be there
    std::optional<Supply> otherSupply = {}; ///< the same at the other end
    model::DeviceId inside = {};            ///< of a group's drawer: the device the row stands for
};

/// Every port of `target`, those that fit first, then those that need a transceiver, then
/// those that a module or an additional port would give, then taken ones, then those that
/// do not fit. `spare` is a link whose ports count as free: the one being changed.
std::vector<DrawerRow> drawerRows(const model::Network& network, const model::Catalogue& catalogue,
                                  const End& from, model::DeviceId target, model::LinkId spare = {});

/// The block a device's port facing `peer` should be in: hosts go on the access block,
/// links upwards leave by the uplink block.
model::Block rightBlock(const model::Network& network, const model::Device& device,
                        const model::Device& peer);

} // namespace underridge::linking
