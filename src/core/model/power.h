// SPDX-License-Identifier: GPL-3.0-or-later
// Mains power: which outlet or feed each supply of a device hangs on, what that makes of
// load, and what goes dark without what.
#pragma once
#include "core/model/network.h"

#include <map>
#include <optional>
#include <set>

namespace underridge::model {

/// The supplies of a device: its inlets by their keys; one named "supply" of what is
/// mounted in a rack, is not passive, and says none.
std::vector<std::string> suppliesOf(const Network& network, const Device& device);
/// Outlets others are fed from, by their keys.
std::vector<std::string> outletsOf(const Network& network, const Device& device);
/// What a device draws at most, in watts: said of it, else of its model; 0: not known.
int drawOf(const Network& network, const Device& device);

/// What power comes from: a device with outlets, or a mains feed by its name.
struct PowerSource {
    DeviceId device;
    std::string mains; ///< when it is no device

    auto operator<=>(const PowerSource&) const = default;
    explicit operator bool() const { return device || !mains.empty(); }
};

struct PowerLoad {
    double watts = 0;      ///< with every feed alive: each supply takes its share
    double worstWatts = 0; ///< when it alone feeds what has several supplies
    int ratingWatts = 0;   ///< of a device, by its model; 0: not known
    int unknown = 0;       ///< devices fed whose draw is not known

    bool isOver() const { return ratingWatts > 0 && worstWatts > ratingWatts; }
};

/// Everything that is fed, worked out once for a network.
class PowerTree {
public:
    explicit PowerTree(const Network& network);

    /// All sources that feed something, mains feeds first, by name.
    const std::vector<PowerSource>& sources() const { return sources_; }
    PowerLoad loadOf(const PowerSource& source) const;
    /// Devices that go dark without it, sorted: every one of their feeds hangs on it.
    std::vector<DeviceId> darkWithout(const PowerSource& source) const;
    /// Devices that lose some of their feeds without it, but not all; sorted.
    std::vector<DeviceId> weakerWithout(const PowerSource& source) const;
    struct Loss {
        std::vector<DeviceId> dark, weaker;
    };
    /// Both of every source anything hangs on, in one pass.
    std::map<PowerSource, Loss> losses() const;
    /// What a device alone hangs on: without any of these it goes dark. Empty for a device
    /// whose feeds are not said, or that hangs on itself.
    const std::set<PowerSource>& needs(DeviceId device) const;
    /// Whether a device is fed, in the end, by itself.
    bool circles(DeviceId device) const { return circles_.contains(device); }
    std::string nameOf(const PowerSource& source) const;

private:
    const std::set<PowerSource>& work(DeviceId device, std::set<DeviceId>& open);
    std::set<PowerSource> behind(const PowerSource& source, std::set<DeviceId>& open);
    double throughput(DeviceId device, bool worst, std::set<DeviceId>& open) const;
    static PowerSource sourceOf(const PowerFeed& feed) { return {feed.from, feed.mains}; }

    Network network_;
    std::vector<PowerSource> sources_;
    std::map<PowerSource, std::vector<DeviceId>> fed_; ///< a device once for each supply
    std::map<DeviceId, std::set<PowerSource>> needs_;
    std::map<DeviceId, std::vector<std::set<PowerSource>>> feeds_; ///< what each feed hangs on
    std::set<DeviceId> circles_;
};

} // namespace underridge::model
