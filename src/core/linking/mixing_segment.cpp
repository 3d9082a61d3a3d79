// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/linking/mixing_segment.h"

#include "core/linking/judged.h"

#include <map>

namespace underridge::linking {
using namespace model;
namespace {

/// The PHY for many nodes that the ports of a hub speak; else null.
const Phy* sharedPhyOf(const Network& network, const Device& device) {
    const DeviceModel* model = network.modelOf(device);
    if (!model || model->role != Role::hub)
        return nullptr;
    for (const PortBlock& block : model->ports.blocks())
        if (const Phy* phy = block.phy.empty() ? nullptr : phyOf(block.phy); phy && phy->nodes > 0)
            return phy;
    return nullptr;
}

/// A cable of the segment as seen from one of its pieces.
struct Leg {
    LinkId link;
    DeviceId to;
    std::int64_t mm = 0; ///< 0: not known
};

std::vector<Leg> legsOf(const Network& network, DeviceId piece) {
    std::vector<Leg> out;
    network.forEachLinkOf(piece, [&](const Link& link) {
        const PortRef& there = link.a.device == piece ? link.b : link.a;
        const Cable* cable = network.cable(link.cable);
        if (there.device && there.device != piece)
            out.push_back({link.id, there.device, cable ? cable->lengthMm : 0});
    });
    return out;
}

class Segment {
public:
    Segment(const Network& network, const Phy& phy, const std::set<DeviceId>& pieces)
        : network_(network), phy_(phy), pieces_(pieces) {
        first_ = *std::min_element(pieces.begin(), pieces.end(), [&](DeviceId x, DeviceId y) {
            return naturalLess(network.device(x)->name, network.device(y)->name);
        });
    }

    std::vector<Finding> check() {
        walk();
        if (isRing_) {
            say("the cables come round to where they began", "take one of them out", pieces_, {});
            return std::move(out_);
        }
        if (nodes_.size() > static_cast<std::size_t>(phy_.nodes))
            say(fmt::format("{} nodes share one segment, {} may have {}", nodes_.size(), phy_.name,
                            phy_.nodes),
                "split it into two segments", nodes_, {});
        for (const Leg& stub : stubs_)
            if (stub.mm > phy_.stubMm)
                say(fmt::format("{} stands {} off the trunk, {} allows {}", network_.device(stub.to)->name,
                                metres(stub.mm), phy_.name, metres(phy_.stubMm)),
                    "bring the trunk to it", {stub.to}, stub.link);
        std::int64_t reach = 0;
        for (const Phy::Over& over : phy_.over)
            reach = std::max(reach, over.reach.mm);
        // The two ends that are farthest apart: the farthest from anywhere, and the farthest
        // from that.
        const auto [end, begins] = farthestFrom(first_);
        const auto [other, length] = farthestFrom(end);
        if (reach > 0 && length > reach)
            say(fmt::format("from {} to {} it is {}{}, {} reaches {}", network_.device(end)->name,
                            network_.device(other)->name, unknown_ ? "at least " : "", metres(length),
                            phy_.name, metres(reach)),
                "shorten it, or split it into two segments", {end, other}, {});
        return std::move(out_);
    }

private:
    void walk() {
        std::set<DeviceId> seen{first_};
        std::vector<std::pair<DeviceId, LinkId>> open{{first_, {}}};
        while (!open.empty()) {
            const auto [piece, cameBy] = open.back();
            open.pop_back();
            for (const Leg& leg : legsOf(network_, piece)) {
                if (leg.link == cameBy || !network_.device(leg.to))
                    continue;
                unknown_ |= leg.mm == 0;
                next_[piece].push_back(leg);
                next_[leg.to].push_back({leg.link, piece, leg.mm});
                if (!pieces_.contains(leg.to)) {
                    nodes_.insert(leg.to);
                    stubs_.push_back(leg);
                } else if (seen.insert(leg.to).second) {
                    open.emplace_back(leg.to, leg.link);
                } else {
                    isRing_ = true;
                }
            }
        }
    }

    std::pair<DeviceId, std::int64_t> farthestFrom(DeviceId start) const {
        std::pair<DeviceId, std::int64_t> farthest{start, 0};
        std::set<DeviceId> seen{start};
        std::vector<std::pair<DeviceId, std::int64_t>> open{{start, 0}};
        while (!open.empty()) {
            const auto [at, far] = open.back();
            open.pop_back();
            if (far > farthest.second)
                farthest = {at, far};
            if (const auto legs = next_.find(at); legs != next_.end())
                for (const Leg& leg : legs->second)
                    if (seen.insert(leg.to).second)
                        open.emplace_back(leg.to, far + leg.mm);
        }
        return farthest;
    }

    void say(std::string what, const char* remedy, const std::set<DeviceId>& devices, LinkId link) {
        std::vector<ObjectRef> subjects;
        for (const DeviceId id : devices)
            subjects.push_back(refTo(id));
        if (link)
            subjects.push_back(refTo(link));
        subjects.push_back(refTo(first_));
        out_.push_back({ruleOf("mixing-segment"),
                        fmt::format("{}: {}", network_.device(first_)->name, what),
                        {Remedy::Kind::none, remedy, {}, {}, {}, {}},
                        std::move(subjects),
                        -1});
    }

    const Network& network_;
    const Phy& phy_;
    const std::set<DeviceId>& pieces_;
    DeviceId first_; ///< by name
    std::set<DeviceId> nodes_;
    std::map<DeviceId, std::vector<Leg>> next_;
    std::vector<Leg> stubs_; ///< that end in nodes
    std::vector<Finding> out_;
    bool isRing_ = false, unknown_ = false;
};

} // namespace

bool isOfMixingSegment(const Network& network, const Device& device) {
    return sharedPhyOf(network, device) != nullptr;
}

std::set<DeviceId> mixingSegmentOf(const Network& network, DeviceId piece) {
    std::set<DeviceId> out;
    std::vector<DeviceId> open{piece};
    while (!open.empty()) {
        const DeviceId id = open.back();
        open.pop_back();
        const Device* device = network.device(id);
        if (device && isOfMixingSegment(network, *device) && out.insert(id).second)
            for (const Leg& leg : legsOf(network, id))
                open.push_back(leg.to);
    }
    return out;
}

std::vector<Finding> checkMixingSegment(const Network& network, const Device& piece) {
    const Phy* phy = sharedPhyOf(network, piece);
    if (!phy)
        return {};
    const auto pieces = mixingSegmentOf(network, piece.id);
    return *pieces.begin() == piece.id ? Segment(network, *phy, pieces).check() : std::vector<Finding>();
}

} // namespace underridge::linking
