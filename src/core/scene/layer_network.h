// SPDX-License-Identifier: GPL-3.0-or-later
// What a sheet of an upper layer draws, as a network of its own: links from device to
// device, panels passed, or interfaces of routers that lead to their subnets. All that
// draws or arranges a sheet takes this in the place of the network and need not know
// layers.
#pragma once
#include "core/model/network.h"

#include <map>
#include <memory>

namespace underridge::scene {

class LayerNetwork {
public:
    /// Of a sheet that is not physical.
    LayerNetwork(const model::Network& network, model::SheetId sheet);
    /// The same after an edit. Where the edit is of no matter for the layer the cost follows
    /// what it changed. `later`: so it does for every edit, but what is drawn may then be behind.
    LayerNetwork after(const model::Network& network, bool later = false) const;
    /// Whether links are drawn as they were before some edit, but for those of which an end or what
    /// they stand for is gone.
    bool isBehind() const { return behind_; }

    /// Links that are drawn are only on this sheet and have the id of what they stand for: of
    /// the first link they go over, or of an interface. A subnet is there as a device, too.
    /// What else is in it is as in the network.
    const model::Network& drawn() const { return drawn_; }
    /// Links of the network by the one that stands for them, where a chain or a LAG is one;
    /// null: there are none.
    const std::shared_ptr<const std::map<model::LinkId, model::LinkId>>& merged() const { return merged_; }

private:
    void drawFrameLinks();
    void drawSubnets();
    template <class Record>
    void follow(const Record* before, const Record* now, model::Key key);
    void dropDevice(model::DeviceId device);

    model::Network network_, drawn_;
    model::SheetId sheet_;
    bool behind_ = false;
    std::shared_ptr<const std::map<model::LinkId, model::LinkId>> merged_; ///< null: none
};

/// What a sheet draws as a network: of a physical sheet the network itself.
model::Network networkOn(const model::Network& network, model::SheetId sheet);

} // namespace underridge::scene
