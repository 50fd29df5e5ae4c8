// SPDX-License-Identifier: GPL-3.0-or-later
// Written by bench/fit/borders.py; not changed by hand.
#pragma once

#include <array>
#include <cstddef>

namespace ear {

/// What borders are weighed with. By hand, after a logistic regression over recordings made for development; no recipe
/// was kept.
struct BorderWeights {
  static constexpr std::size_t kSigns = 11;
  /// Log odds that one deviation adds, in the order of BorderSign.
  std::array<double, kSigns> of = {0.50, 0.95, 0.55, 0.95, 0.45, 0.30, 0.70, 0.95, 0.70, 0.80, 0.60};
  double rarity = -3.15;  ///< log odds of a bar at which nothing stands out
  /// Log odds of a section by its number of bars: of eights, of fours, of twos, odd.
  double eights = 1.20, fours = 0.96, twos = -0.96, odd = -2.64;
};

}  // namespace ear
