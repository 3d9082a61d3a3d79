// SPDX-License-Identifier: GPL-3.0-or-later
// How pairs of ports are ranked: what best.h and assign.h stand on.
#pragma once
#include "core/linking/best.h"
#include "core/linking/fits.h"
#include "core/linking/judging.h"
#include "core/linking/route.h"

#include <array>
#include <map>
#include <set>

namespace underridge::linking {

/// How far from the endpoints a device stands, in halves: a phone carries a workstation,
/// so it stands half a step up.
int tierOf(const model::Network& network, const model::Device& device);
bool hasBlock(const model::Network& network, const model::Device& device, model::Block block);

/// A device's ports that a link could take, with what ranking needs of them.
struct Side {
    const model::Device* device = nullptr;
    model::Block right = model::Block::access;
    std::vector<model::PortView> ports;
    std::set<std::string> taken;
    bool fromHighEnd = false;
    bool sparesUplinks = false;    ///< an endpoint gets none of its uplink block
    bool sparesManagement = false; ///< it has other ports for data
    bool anyBlock = false;         ///< of a router or firewall: its access and uplink blocks are as good
    bool passive = false;          ///< of a panel: behind each port may be something else
    std::map<std::string, int> standsBy =
        {}; ///< links a new one would stand by for, by module or stack member

    bool isFree(const model::PortView& port) const;
};
/// `spare`: a link whose ports and transceivers count as free.
Side sideOf(const model::Network& network, const model::Device& device, const model::Device& peer,
            model::LinkId spare, const Habits& habits = {});

/// The module or stack member a port is on: "2" of 2/17, "1/3" of 1/3/4; empty: the
/// chassis itself.
std::string unitOf(const model::PortView& port);

/// Compared from the first figure: console use, ports in the wrong block, speed (less is
/// faster), transceivers to add, links of the same kind on the module, power, waste of
/// speed, reserved or disabled.
using Rank = std::array<int, 8>;
Rank rankOf(const model::PortView& a, const model::PortView& b, const Joint& joint, const Side& sideA,
            const Side& sideB);

/// Whether two ports of a side are alike in everything that ranking and judging regard.
bool areAlike(const Side& side, const model::PortView& x, const model::PortView& y);
/// Of ports that are alike only the first free one need be tried.
std::vector<const model::PortView*> firstsOf(const Side& side, const std::string& wanted);

struct Best {
    const model::PortView* a = nullptr;
    const model::PortView* b = nullptr;
    Joint joint;
    Rank rank{};
    std::string why; ///< when there is none
};

/// Looks for the best pair of ports that leaves nothing to be found.
class PairSearch {
public:
    /// `spare`: the link that is being changed, which counts as gone. The sides outlive this.
    PairSearch(const model::Network& network, Fits& fits, const Side& a, const Side& b,
               model::LinkId spare = {});

    /// The cable is this long, whatever the places say; 0: as they say. It is of one of
    /// these types; none: of any.
    void assume(std::int64_t lengthMm, std::vector<std::string> cables) {
        lengthMm_ = lengthMm;
        cables_ = std::move(cables);
    }
    /// What the last search would have taken, had nothing been found wrong with it.
    const Best& leastBad() const { return leastBad_; }
    /// Of the ports wanted, or of all free ones.
    Best best(const std::string& wantedA, const std::string& wantedB);

private:
    Planned planned(const model::PortView& a, const model::PortView& b, const Joint& joint);

    const model::Network& network_;
    const model::Catalogue& catalogue_;
    const Side &a_, &b_;
    model::LinkId spare_;
    CableWays ways_;
    std::int64_t lengthMm_ = 0;
    std::vector<std::string> cables_;
    Best leastBad_;
    Fits& fits_;
};

} // namespace underridge::linking
