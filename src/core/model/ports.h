// SPDX-License-Identifier: GPL-3.0-or-later
// The ports a device really has: those of its model, its chassis, its modules, those
// added to it, and the children of ports in breakout mode, and those that only a source
// has named.
#pragma once
#include "core/model/network.h"

#include <climits>
#include <optional>

namespace underridge::model {

/// One port of a device. Its pointers live as long as the network value they were taken
/// from.
struct PortView {
    std::string key;
    const PortBlock* like = nullptr;
    const Port* record = nullptr;                  ///< what differs from the model, if anything
    const TransceiverModel* transceiver = nullptr; ///< in its cage
    int lanes = 1;                                 ///< lanes of the parent that a breakout child has one of
    std::string parent;                            ///< of a breakout child
    bool learned = false;                          ///< no model gives it: its connector is not known

    /// Mbit/s, ascending, after transceiver and breakout.
    std::vector<int> rates() const;
    Connector connector() const;
    bool reserved() const { return record && record->reserved; }
    bool disabled() const { return record && record->disabled; }
    bool isData() const { return like->use == PortUse::data; }
    /// Whether any number of links may end here: the radio of an access point.
    bool isShared() const {
        return like->block == Block::access && !like->media.empty() && like->media.front() == Medium::radio;
    }
};

/// What a port passes: its transceiver's medium, else its own, else that of its connector.
/// Medium::unknown for an empty cage, and for an optical connector that says no more.
Medium mediumOf(const PortView& port);

/// The highest rate two ascending lists share, Mbit/s, up to a limit; 0: none.
int commonRate(const std::vector<int>& a, const std::vector<int>& b, int limit = INT_MAX);

/// In the order they are shown: chassis by chassis, the model's own, modules by slot,
/// added ones, those that only a source has named (their connector is not known). A port
/// in breakout mode is replaced by its children.
std::vector<PortView> portsOf(const Network& network, const Device& device);

std::optional<PortView> portAt(const Network& network, const PortRef& ref);

/// Whether a record says nothing: the port is as its model has it.
bool isPlain(const Port& port);

struct PortCount {
    int used = 0;
    int all = 0;
    int unknown = 0; ///< link ends at the device whose port is not known
};
/// Data ports of a device, and how many of them links end in.
PortCount countPorts(const Network& network, const Device& device);

/// "acc-1 17", "acc-1 port not known".
std::string portText(const Network& network, const PortRef& port);

/// "Access switch 24", the id when the model is not there, or "model not known".
std::string modelName(const Network& network, const Device& device);
Role roleOf(const Network& network, const Device& device);

/// The interface whose first address stands for a device: a loopback, else one on no port, else
/// one of a port; null when none has an address.
const Interface* addressedInterface(const Network& network, DeviceId device);
/// That address; an empty one when there is none.
Address firstAddress(const Network& network, DeviceId device);

/// The medium of a link: of its cable, or its own.
Medium mediumOf(const Network& network, const Link& link);

/// The speed at which a link comes up, Mbit/s: the highest rate both ports and the cable
/// can do, or the speed both are set to; 0 when there is none or an end is not known.
int speedOf(const Network& network, const Link& link);

/// The LAG a port is a member of; nothing when it is none.
const Interface* lagAt(const Network& network, const PortRef& port);

/// Whether a link is a member of a LAG at each end.
bool isInLag(const Network& network, const Link& link);

} // namespace underridge::model
