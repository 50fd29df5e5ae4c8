// SPDX-License-Identifier: GPL-3.0-or-later
// bench/fit/borders.py --write writes this file anew.
#pragma once

#include <array>
#include <cstddef>

namespace ear {

/// What borders are weighed with: found by bench/fit/borders.py on 2026-11-30,
/// from 80 songs of one and 72 songs of two and 90 moved copies, 500 steps, seed 1.
struct BorderWeights {
  static constexpr std::size_t kSigns = 11;
  /// Log odds that one deviation adds, in the order of BorderSign.
  std::array<double, kSigns> of = {0.52, 0.95, 0.50, 1.02, 0.45, 0.20, 1.00, 1.31, 0.97, 0.76, 0.73};
  double rarity = -3.35;  ///< log odds of a bar at which nothing stands out
  /// Log odds of a section by its number of bars: of eights, of fours, of twos, odd.
  double eights = 1.24, fours = 0.85, twos = -0.94, odd = -3.21;
};

}  // namespace ear
