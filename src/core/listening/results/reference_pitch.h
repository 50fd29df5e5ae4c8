// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <optional>
#include <vector>

#include "core/theory/pitch.h"

namespace ear {

/// How far a recording lies from A 440, modulo a semitone, with the evidence for it.
struct ReferencePitch {
  Cents offset;            ///< in (-50, 50]
  double certainty = 0.0;  ///< in [0, 1]

  /// Weight of stable partials by cents off the nearest tempered note at A 440: bin i is (i - 50, i - 49].
  std::array<float, 100> histogram{};

  struct Point {
    Seconds time;
    Cents offset;      ///< continuous with the neighbours, so it may leave (-50, 50]
    double certainty;  ///< in [0, 1]
  };
  /// Steady tones that agree on another pitch: an instrument that is out of tune with the rest.
  struct Group {
    Cents offset;
    double share = 0.0;  ///< of what steady tones weigh, in [0, 1]
    bool operator==(const Group&) const = default;
  };
  std::optional<Group> second{};  ///< the weaker of two groups; the offset is that of the stronger one
  std::vector<Point> curve;       ///< every 2 s over windows of 8 s; places without a stable pitch are left out

  Hertz a4() const { return a4At(offset); }
};

}  // namespace ear
