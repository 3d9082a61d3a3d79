// SPDX-License-Identifier: GPL-3.0-or-later
// Making links and changing what they run over.
#pragma once
#include "core/edit/act.h"
#include "core/linking/best.h"
#include "core/model/ports.h"

namespace underridge::edit {

/// Makes a link with its cable, fits the transceivers it needs, and copies the models
/// used into the network. Refuses when an end is taken or gone.
ActResult makeLink(const model::Network& network, const model::Catalogue& catalogue,
                   const linking::Proposal& proposal, model::IdSource& ids);

/// Moves a link to other ports and another cable type, keeping its id, label and length:
/// what "Other port…" does. Its transceivers are taken out; the proposal, made as if they
/// were not fitted, says which are needed. Off a trunk cable or breakout assembly the
/// link goes onto a cable of its own.
ActResult changeLink(const model::Network& network, const model::Catalogue& catalogue, model::LinkId link,
                     const linking::Proposal& proposal, model::IdSource& ids);

/// Each pair of neighbours in the list is linked over the best ports; all or nothing.
ActResult linkInRow(const model::Network& network, const model::Catalogue& catalogue,
                    const std::vector<model::DeviceId>& devices, model::IdSource& ids,
                    const linking::Habits& habits = {});

/// Each device is linked to the target over the best ports; all or nothing.
ActResult linkEachTo(const model::Network& network, const model::Catalogue& catalogue,
                     const std::vector<model::DeviceId>& devices, model::DeviceId target,
                     model::IdSource& ids, const linking::Habits& habits = {});

/// Links ports one to one, in order; all or nothing. Refuses the first pair that does not
/// fit or is not free.
ActResult linkPorts(const model::Network& network, const model::Catalogue& catalogue,
                    const std::vector<std::pair<model::PortRef, model::PortRef>>& pairs,
                    model::IdSource& ids);

/// "core-a X1 to acc-1 X1".
std::string linkText(const model::Network& network, const model::Link& link);
using model::portText;
/// What a port is joined to and, past panels, what is really at the other end: "pp-1 7,
/// in the end desk-1 1". Empty when it is free.
std::string peerText(const model::Network& network, const model::PortRef& port);

} // namespace underridge::edit
