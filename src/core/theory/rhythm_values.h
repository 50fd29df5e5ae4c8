// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/rational.h"

namespace ear {

/// Beats that notes of a tuplet fill: `tuple` of them in the time of `inTimeOf` plain ones of `unit` beats.
/// Six quarter-note triplets: tupletBeats(6) = 4.
constexpr Beats tupletBeats(int notes, int tuple = 3, int inTimeOf = 2, Beats unit = 1) {
  return unit * Beats(notes) * Beats(inTimeOf, tuple);
}

/// Which pair of notes is played long and short.
enum class SwingLevel { eighths, sixteenths };

struct Swing {
  double ratio = 1.0;  ///< first to second of the pair: 1 straight, 2 triplet swing
  SwingLevel level = SwingLevel::eighths;
  constexpr bool operator==(const Swing&) const = default;
};

/// Share of the beat before its second half, for a swing ratio: 1 -> 0.5, 2 -> 2/3.
constexpr double swingShare(double ratio) {
  return ratio / (ratio + 1.0);
}

}  // namespace ear
