// SPDX-License-Identifier: GPL-3.0-or-later
// Power over the cables of a channel: who gives it to whom, and how much is set aside.
#pragma once
#include "core/linking/channel.h"

namespace underridge::linking {

/// Power at the output of a source for a class 0–8, in watts: IEEE 802.3 table 33-7
/// (classes 0–4) and clause 145 (5–8). 0 outside.
double classPowerW(int powerClass);
/// Power at the source for a class 10–15 over a single pair, in watts: IEEE 802.3 clause
/// 104, least voltage times largest current (from memory). 0 outside; the classes 0–9, for
/// vehicles, are not regarded.
double podlPowerW(int podlClass);
/// Whether a source of one single-pair class feeds a load of another: of the same voltage,
/// and not weaker.
bool podlFeeds(int source, int load);
/// The largest class a source of Type 1–4 gives: IEEE 802.3 clauses 33 and 145. -1 outside.
int largestClassOf(int powerType);

/// The class of a load: as its model says, else the largest of its Type; 0 when neither
/// is known.
int classOf(const model::PortBlock& load);

/// Whether power gets to the other end over so many pairs (0: not stated): that on the spare
/// pairs needs them (IEEE 802.3 clause 33.2.3).
bool reaches(const model::PortBlock& source, int pairs);

/// What a source sets aside for a load once the two have agreed: a load of a class beyond
/// the source is given the largest the source has, as is one of class 5 and up on less
/// than four pairs, be it that the channel or the source has no more (IEEE 802.3 clause
/// 145.2.8); none where it does not reach it. Watts. `pairs`: of the channel; 0: not stated.
double allocatedW(const model::PortBlock& load, const model::PortBlock& source, int pairs);

/// Where the power of a load comes from.
struct PowerWay {
    enum class Kind { none, fed, unknown } kind = Kind::none; ///< unknown: what is there is not known
    model::PortRef at;
    std::optional<model::PortView> source;
};
/// For the load at an end of a channel: the first source on the way. A midspan feeds
/// instead of what is behind it.
PowerWay powerAt(const Channel& channel, int end);

/// A load fed from a port, with the channel it hangs on.
struct Fed {
    model::PortRef load, source;
    double watts = 0;
    bool isStated = true; ///< its class is
};
/// Whether a device takes power at another of its ports than `except`, and is given it.
bool isPowered(const model::Network& network, const model::Device& device, const model::PortRef& except);

/// All loads fed from the ports of a device, panels on the way or not.
std::vector<Fed> loadsOf(const model::Network& network, const model::Device& device);

/// The device whose budget feeds what hangs on a port, and the watts of it that are not
/// set aside yet; nothing for a port without a source, or without a budget.
struct Budget {
    model::DeviceId device;
    double leftW = 0;
};
std::optional<Budget> budgetOf(const model::Network& network, model::DeviceId source);

} // namespace underridge::linking
