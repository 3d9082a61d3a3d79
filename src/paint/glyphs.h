// SPDX-License-Identifier: GPL-3.0-or-later
// Our own geometric signs for roles and kinds of groups: lines of one weight in a box of 14 by 14.
#pragma once
#include "core/model/words.h"

#include <QPainterPath>

namespace underridge::paint {

inline constexpr double glyphBox = 14;

/// Made once for each thread: painting may note something in a path.
const QPainterPath& glyphOf(model::Role role);
const QPainterPath& glyphOf(model::GroupKind kind);

} // namespace underridge::paint
