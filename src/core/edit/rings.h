// SPDX-License-Identifier: GPL-3.0-or-later
// Declaring rings: ITU-T G.8032, IEC 62439-2 and -3.
#pragma once
#include "core/edit/act.h"

namespace underridge::edit {

/// The links by which devices are joined to a ring, in the order they go round, with those
/// behind the panels they pass; a LAG with all its links. Refuses devices that are not joined in one ring
/// that each is in once.
Result<std::vector<model::LinkId>> ringAmong(const model::Network& network,
                                             const std::vector<model::DeviceId>& devices);
/// What links end at, panels and the like left aside.
std::vector<model::DeviceId> devicesOf(const model::Network& network,
                                       const std::vector<model::LinkId>& links);

/// Keeps a ring, in the place of one of the same id. Without a name it gets the next free
/// one; without an owner the first end of its first link blocks, and without a blocked link
/// the owner's last one. Refuses fewer than two links, an owner that is in none of them, a
/// blocked link that is none of them or not the owner's, and a name another ring has.
ActResult declareRing(const model::Network& network, model::Ring ring, model::IdSource& ids);
/// The ring with another link blocked, by who has that link.
model::Ring blockedAt(const model::Network& network, model::Ring ring, model::LinkId link);
/// The links stay. Refuses rings that are gone.
ActResult dissolveRings(const model::Network& network, const std::vector<model::RingId>& rings);

/// Rings any of these links is in.
std::vector<model::RingId> ringsOf(const model::Network& network, const std::vector<model::LinkId>& links);

} // namespace underridge::edit
