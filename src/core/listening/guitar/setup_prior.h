// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/theory/tuning.h"

namespace ear {

/// The highest capo that is asked about.
inline constexpr int kHighestCapo = 7;

/// How usual a setup is before anything is heard, as the logarithm of its share of guitars on recordings (common
/// practice, no source): every other one is in standard tuning without a capo, one in five has a capo, the rest is
/// tuned down as a whole, has a dropped string or an open tuning. Not scaled to sum to one.
/// @param tuning  of six strings
/// @param capo    fret, 0 to kHighestCapo
double logPrior(const Tuning& tuning, int capo);

}  // namespace ear
