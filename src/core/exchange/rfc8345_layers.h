// SPDX-License-Identifier: GPL-3.0-or-later
// Layers above the links as networks of RFC 8345, with the attributes of RFC 8346 and, for
// OSPF, of the module in its appendix B.
#pragma once
#include "core/exchange/rfc8345_kept.h"
#include "core/exchange/upper_layers.h"

namespace underridge::exchange::rfc8345 {

/// A whole network of that id, resting on those `below` names objects of. Its nodes go by the ids
/// of the devices there.
ExactJson networkJson(const UpperLayer& layer, const std::string& id, const Naming& below);

/// Parts of one. A node is without its points.
ExactJson nodeJson(const LayerNode& node, const std::string& id, const Naming& below);
ExactJson pointJson(const LayerNode& node, const LayerPoint& point, const std::string& id,
                    const Naming& below);
ExactJson prefixJson(const LayerPrefix& prefix);
/// The ids of an end's node and point; no point: of a pseudonode.
struct LinkEnd {
    std::string node, point;

    auto operator<=>(const LinkEnd&) const = default;
};
ExactJson linkJson(const LayerLink& link, const LinkEnd& from, const LinkEnd& to, const Naming& below);

} // namespace underridge::exchange::rfc8345
