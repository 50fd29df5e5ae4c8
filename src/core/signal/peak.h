// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

namespace ear {

/// Where the summit lies between samples: that of the parabola through a sample and its two neighbours (Smith & Serra
/// 1987, "PARSHL", sec. 5). For a dip give the negated values.
/// @return in samples from the middle one, in [-0.5, 0.5] where it is the greatest of the three; 0 where the three bend
/// upwards or not at all
inline double summitOffset(double before, double at, double after) {
  const double bend = before - 2 * at + after;
  return bend < 0 ? 0.5 * (before - after) / bend : 0.0;
}

}  // namespace ear
