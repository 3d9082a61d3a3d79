// SPDX-License-Identifier: GPL-3.0-or-later
// Numbers of things, in words: tr("%Ln device(s)", nullptr, n). Translations have the
// forms their language needs; without one, English has two.
#pragma once

namespace underridge::app {

/// Gives texts with "(s)" their English forms unless a translation knows better. Once,
/// before any text is made.
void useEnglishPlurals();

} // namespace underridge::app
