// SPDX-License-Identifier: GPL-3.0-or-later
// A channel: two active ends and everything between them, drawn or planned. Every rule of
// what a link is worth judges one of these; a direct link is the channel with one cable.
#pragma once
#include "core/linking/chain.h"
#include "core/linking/standards.h"
#include "core/model/ports.h"

#include <array>

namespace underridge::linking {

struct ChannelEnd {
    model::PortRef at;
    std::optional<model::PortView> port; ///< nothing when it is not known
    model::Role role = model::Role::unknown;

    /// Whether its model says what it is.
    bool isKnown() const { return port && !port->learned; }
};

/// A piece of a channel, in the order they are met from end A.
struct ChannelPart {
    enum class Kind { cable, connection, splice } kind = Kind::cable;
    model::LinkId link;                     ///< of a cable; none when it is only planned
    model::PortRef at;                      ///< of a cable: where it comes from; else the port passed
    const model::CableType* type = nullptr; ///< of a cable
    bool turned = false;                    ///< the type's end B is nearer to end A
    std::int64_t lengthMm = 0;              ///< 0: not known
    double ownDb = 0;                       ///< of a connection or splice; of a cable, what was measured
    bool measured = false; ///< of a cable: ownDb holds; of others: it is in what was measured of one
};

/// What is passed on the way: in at the port nearer to end A, out at the other.
struct Passage {
    model::PortRef in, out;
    std::optional<model::PortView> inPort, outPort;
    bool midspan = false;
};

/// The pointers it holds live as long as the network, and the catalogue, it was made from.
struct Channel {
    std::array<ChannelEnd, 2> ends;
    std::vector<ChannelPart> parts;
    std::vector<Passage> passages;
    std::int64_t lengthMm = 0;       ///< of the cables whose length is known
    int unmeasured = 0;              ///< cables whose length is not known
    std::int64_t permanentMm = 0;    ///< the longest run of fixed cable between two points it is ended at
    std::int64_t cordsMm = 0;        ///< of twisted-pair cords, which lose a fifth more
    int connections = 0;             ///< mated pairs between the ends
    int splices = 0;                 ///< fibres joined without a plug
    int crossed = 0;                 ///< copper cables that cross
    bool rolled = false;             ///< one is rolled
    std::vector<std::string> grades; ///< of its cables, each once, in order
    int maxRate = 0;                 ///< what its cables and the ports passed carry, Mbit/s; 0: not stated
    std::string slowest;             ///< the name of what says so
    int pairs = 0;                   ///< of copper, the fewest of its cables; 0: not stated
    std::vector<std::pair<int, int>> strands; ///< positions at end A, and where they come out at B

    const model::PortView& port(int end) const { return *ends[static_cast<std::size_t>(end)].port; }
    /// Whether what leaves A at `from` comes out at B at `to`, in order.
    bool leads(const std::vector<int>& from, const std::vector<int>& to) const;
};

/// A link that is not there yet, or another in the place of one.
struct Planned {
    model::PortRef a, b;
    const model::CableType* type = nullptr;        ///< none: radio, circuit
    const model::TransceiverModel* optics[2] = {}; ///< to be fitted at a and b
    std::int64_t lengthMm = 0;                     ///< 0: not known
    model::LinkId instead;                         ///< the link it replaces, with its transceivers
};

/// The chain a planned link would be part of.
Chain plannedChain(const model::Network& network, const Planned& planned);

/// `planned`: of a chain made by plannedChain().
Channel channelOf(const model::Network& network, const Chain& chain, const Planned* planned = nullptr);

/// The highest rate both ends and all between them have, Mbit/s; 0: none, or nothing is
/// known. Both ends are known.
int rateOf(const Channel& channel);

/// What one part loses at a wavelength, dB; of fibre at most (its class), or as measured.
double lossOf(const ChannelPart& part, int wavelengthNm);
/// All of them.
double lossOf(const Channel& channel, int wavelengthNm);

/// The wavelength a channel is judged at: what its first end with optics sends on; 0 when
/// it has none.
int wavelengthOf(const Channel& channel);

} // namespace underridge::linking
