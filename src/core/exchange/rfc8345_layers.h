// SPDX-License-Identifier: GPL-3.0-or-later
// Layers above the links as networks of RFC 8345, with the attributes of RFC 8346 and, for
// OSPF, of the module in its appendix B.
#pragma once
#include "core/exchange/exact_json.h"
#include "core/exchange/upper_layers.h"

namespace underridge::exchange::rfc8345 {

/// Resting on the network of id `below`, whose nodes and links go by the ids of devices and
/// links.
ExactJson networkJson(const UpperLayer& layer, const std::string& below);

/// The id of a link of the layer below; what goes from its end b to its end a is another.
std::string linkId(model::LinkId link, bool back);

} // namespace underridge::exchange::rfc8345
