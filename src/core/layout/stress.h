// SPDX-License-Identifier: GPL-3.0-or-later
// Nodes as far apart as they are in the graph: behind spring.h.
#pragma once
#include "core/layout/spring.h"

namespace underridge::layout {

/// Where each node stands, with lines about 1 long. Stress by stochastic gradient descent (Zheng,
/// Pawar and Goodman 2018): up to some hundred nodes between all pairs, half of the nodes with the
/// other half at a time, as in a tournament where everybody meets everybody once (the circle method,
/// Lucas 1883); beyond between neighbours and pivots only (Ortmann, Klimenta and Brandes 2017). The
/// same for the same seed.
std::vector<PointF> leastStress(const Springs& springs);

} // namespace underridge::layout
