// SPDX-License-Identifier: GPL-3.0-or-later
// The sheet for screen readers: a lazy tree of what is in view. A device tells its role,
// name, address, ports and links; a link its two ends. Objects are made when they are
// asked for and dropped when the scene changes.
#pragma once
#include "core/model/object_ref.h"

#include <QAccessible>

namespace underridge::app {

class SheetView;

/// Installs the factory that makes the sheet's accessible tree; once, before the first
/// sheet is shown.
void installSheetAccessibility();

/// Tells a screen reader, if there is one, what has happened to an object in view: focus,
/// selection.
void tellAccessibly(SheetView& view, QAccessible::Event event, model::ObjectRef object);

} // namespace underridge::app
