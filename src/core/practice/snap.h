// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/audio/recording.h"
#include "core/study/grid.h"

namespace ear {

/// How far before an attack an edge is laid, so that a loop does not cut it.
inline constexpr Seconds kBeforeAttack{0.01};

/// Where an edge of a passage near `t` best lies: just before an attack within reach, one that belongs to a bar line or
/// a beat first; else on the bar line or the beat; else where it is.
Seconds snapEdge(const Recording& recording, const Grid& grid, Seconds t, Seconds reach);

}  // namespace ear
