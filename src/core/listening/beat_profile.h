#pragma once

#include <array>
#include <span>
#include <vector>

#include "core/listening/onsets.h"
#include "core/theory/rhythm_values.h"
#include "core/units.h"

namespace ear {

/// How strongly things start within a beat, over all beats; the beat itself comes first.
struct BeatProfile {
  static constexpr std::size_t kPlaces = 96;  ///< places of a beat
  std::array<double, kPlaces> strength{};     ///< mean onset strength, in [0, 1]

  /// Greatest strength within 1/24 of a beat around a place.
  /// @param share  of the beat, in [0, 1)
  double near(double share) const;
};

/// @param strength  onset strength of any kind, frame by frame
BeatProfile profileOf(std::span<const Seconds> beats, std::span<const float> strength, double rate);

/// Where the off-beats fall. Pairs that are played within 1.18 : 1 count as straight: ears and hands are no finer.
Swing measureSwing(const BeatProfile& profile);

}  // namespace ear
