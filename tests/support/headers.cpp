// SPDX-License-Identifier: GPL-3.0-or-later
// Nothing: carries the precompiled headers that tests share.
