// SPDX-License-Identifier: GPL-3.0-or-later
// Pieces of cable: what carries a link, trunk cables with spare strands, labels, lengths,
// results.
#pragma once
#include "core/edit/act.h"
#include "core/linking/fit.h"

namespace underridge::edit {

/// The strands or pairs of a cable, and which of them links use.
struct Strands {
    int all = 0;
    std::vector<int> spare; ///< from 1, ascending
};
Strands strandsOf(const model::Network& network, const model::Cable& cable);

/// Takes a link off its cable: a cord goes with it; a breakout assembly loses that end,
/// and goes with its last; a trunk cable stays, its strands spare.
void takeOffCable(model::Network& network, const model::Link& link);

/// Joins panel ports one to one by strands of one trunk cable, in order. `onto`: one that
/// is there already and has enough spare; none: a new one of the type. Refuses ports that
/// are taken or whose plug is another, ports of different counts, and more than the cable
/// has.
ActResult layTrunk(const model::Network& network, const model::Catalogue& catalogue,
                   const std::vector<std::pair<model::PortRef, model::PortRef>>& pairs,
                   const std::string& type, model::CableId onto, model::IdSource& ids);

/// Cables between two devices with so many spare strands.
std::vector<model::CableId> sparesBetween(const model::Network& network, model::DeviceId a, model::DeviceId b,
                                          int strands);

/// One line of a preview over cables: what each has, and would get.
struct CableChange {
    model::CableId cable;
    std::string before, after;
    std::string remark; ///< why it stays as it is, or what is noteworthy; or empty
};

/// Labels by a scheme with fields: {from}, {from-port}, {to}, {to-port}, {type},
/// {medium}, the groups of the first end such as {floor} and {rack}, and a number {n} or
/// {0001..} that counts anew for every combination. Labels other cables carry are passed
/// over. Refuses a field that is not known or that a cable has nothing for.
Result<std::vector<CableChange>> newLabels(const model::Network& network,
                                           const std::vector<model::CableId>& cables,
                                           const std::string& scheme);
/// As one act; the scheme is kept with the network.
ActResult labelCables(const model::Network& network, const std::vector<CableChange>& labels,
                      const std::string& scheme);

/// Lengths from the places of both ends, in the next length in stock. Measured ones stay;
/// one with an end without place stays, with the reason.
std::vector<CableChange> newLengths(const model::Network& network, const std::vector<model::CableId>& cables);
ActResult setLengths(const model::Network& network, const std::vector<CableChange>& lengths);

/// How lengths are worked out in this network. Refuses a margin outside 0–100 %, a slack
/// outside 0–100 m.
ActResult setLengthRule(const model::Network& network, std::int64_t slackMm, int marginPercent);

/// Puts a cable type into the network's stock, or changes it there; links use it as it is
/// from then on.
ActResult stockCable(const model::Network& network, const model::CableType& type);
/// Takes a type out of the stock, so that the catalogue's is as it was. Refuses while
/// cables of it are there and the catalogue has none such.
ActResult unstockCable(const model::Network& network, const model::Catalogue& catalogue,
                       const std::string& id);

/// The catalogue with the network's own cable types in it, in place of those of the same
/// id.
model::Catalogue withStock(const model::Catalogue& catalogue, const model::Network& network);

} // namespace underridge::edit
