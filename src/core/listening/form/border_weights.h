// SPDX-License-Identifier: GPL-3.0-or-later
// bench/fit/borders.py --write writes this file anew.
#pragma once

#include <array>
#include <cstddef>

namespace ear {

/// What borders are weighed with: from an early regression whose recipe was not kept, then by hand. It stays, since
/// what bench/fit/borders.py learns is no better yet (bench/RESULTS.md).
struct BorderWeights {
  static constexpr std::size_t kSigns = 11;
  /// Log odds that one deviation adds, in the order of BorderSign.
  std::array<double, kSigns> of = {0.50, 0.95, 0.55, 0.95, 0.45, 0.30, 0.70, 0.95, 0.70, 0.80, 0.60};
  double rarity = -3.15;  ///< log odds of a bar at which nothing stands out
  /// Log odds of a section by its number of bars: of eights, of fours, of twos, odd.
  double eights = 1.20, fours = 0.96, twos = -0.96, odd = -2.64;
};

}  // namespace ear
