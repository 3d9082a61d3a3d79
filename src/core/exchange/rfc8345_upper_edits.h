// SPDX-License-Identifier: GPL-3.0-or-later
// What has been edited since in the layers above the links that a document brought: written into
// them as they came, so that all else stays as it was.
#pragma once
#include "core/exchange/rfc8345_layers.h"

#include <map>
#include <set>
#include <span>

namespace underridge::exchange::rfc8345 {

/// A network of an imported document, by what its sheet keeps of it.
struct Imported {
    std::string id;
    ExactJson entry;
};

class UpperEdits {
public:
    /// `imported` in the order of the document; `above`: the layers as they follow from the
    /// network now.
    UpperEdits(const model::Network& network, std::span<const Imported> imported,
               std::span<const UpperLayer> above, Naming naming);

    /// Brings the JSON of one as it came to what is there now: router ids, costs, and what takes
    /// part in an area since or no longer does.
    void apply(ExactJson& net, const std::string& id) const;
    /// Layers no imported network is about.
    const std::vector<const UpperLayer*>& missing() const { return missing_; }
    /// Whether a layer above tells an interface, so that its addresses are none of its device.
    bool isTold(const model::Interface& interface) const;

private:
    struct Changes {
        std::set<LinkEnd> gone;             ///< points that take no part any more
        std::map<LinkEnd, int> costs;       ///< other ones; 0: as the speed says
        std::set<model::InterfaceId> fresh; ///< that take part since
    };
    struct Upper {
        std::string id;
        std::optional<std::uint32_t> area;       ///< of OSPF
        int version = 4;                         ///< of addresses
        std::vector<const UpperLayer*> now = {}; ///< what follows from the network
        Changes changes = {};
    };
    class Merging;

    Upper* upperOf(const UpperLayer& layer);
    Changes changesIn(const Upper& upper) const;
    void changesOf(const model::Interface& interface, const Upper& upper, Changes& out) const;
    void setRouterIds(ExactJson& net, const Upper& upper) const;
    void addFresh(ExactJson& net, const Upper& upper, const std::set<model::InterfaceId>& fresh) const;
    std::optional<std::string> nodeIn(const std::string& id, model::DeviceId device) const;
    std::string pointIn(const std::string& id, const model::Interface& interface) const;
    bool isInUpper(const model::Interface& interface) const;
    bool tellsMore(const UpperLayer& layer) const;

    const model::Network& network_;
    Naming naming_;
    bool one_; ///< there is no other network to tell an object from
    std::vector<Upper> uppers_;
    std::vector<const UpperLayer*> missing_;
    std::set<model::InterfaceId> told_;
};

} // namespace underridge::exchange::rfc8345
