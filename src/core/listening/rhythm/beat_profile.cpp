// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/beat_profile.h"

#include <algorithm>
#include <cmath>

#include "core/base/parameter.h"
#include "core/signal/peak.h"

namespace ear {
namespace {

struct Parameters {
  double straight = parameter("beatProfile.straight", 1.18, "ratio");
  /// of the mid-beat: sixteenths that say how they are played
  double sixteenthsShare = parameter("beatProfile.sixteenthsShare", 0.5, "of the strength");
  /// by which the two pairs of sixteenths may differ
  double halvesApart = parameter("beatProfile.halvesApart", 0.06, "of the beat");
};
const Parameters kPar{};

/// Exact place of the summit between two places of the beat, both as shares; empty where nothing starts.
double summit(const BeatProfile& profile, double from, double to) {
  const auto at = [](double share) { return static_cast<std::size_t>(std::lround(share * BeatProfile::kPlaces)); };
  const auto& s = profile.strength;
  const auto peak = static_cast<std::size_t>(std::max_element(s.begin() + static_cast<std::ptrdiff_t>(at(from)),
                                                              s.begin() + static_cast<std::ptrdiff_t>(at(to))) -
                                             s.begin());
  // The summit itself: what rings after an attack would draw a centre of weight to the late side.
  return (static_cast<double>(peak) + summitOffset(s[peak - 1], s[peak], s[peak + 1])) / BeatProfile::kPlaces;
}

}  // namespace

BeatProfile profileOf(std::span<const Seconds> beats, std::span<const float> strength, FrameClock clock) {
  BeatProfile profile;
  std::size_t counted = 0;
  for (std::size_t i = 0; i + 1 < beats.size(); ++i) {
    if (clock.placeOf(beats[i + 1]) + 1 >= static_cast<double>(strength.size())) break;
    ++counted;
    for (std::size_t b = 0; b < BeatProfile::kPlaces; ++b) {
      const double share = static_cast<double>(b) / BeatProfile::kPlaces;
      const double frame = clock.placeOf(beats[i] + (beats[i + 1] - beats[i]) * share);
      const auto before = static_cast<std::size_t>(frame);
      profile.strength[b] += std::lerp(static_cast<double>(strength[before]), static_cast<double>(strength[before + 1]),
                                       frame - static_cast<double>(before));
    }
  }
  if (counted > 0)
    for (double& s : profile.strength) s /= static_cast<double>(counted);
  return profile;
}

Swing measureSwing(const BeatProfile& profile) {
  const double offBeat = summit(profile, 0.42, 0.75);
  if (profile.near(offBeat) <= 0) return {};
  const double eighths = offBeat / (1 - offBeat);
  if (eighths >= kPar.straight) return {eighths, SwingLevel::eighths};
  // Straight eighths may be halved in a lilt: the sixteenths of both halves must then lie late alike.
  const double first = summit(profile, 0.20, 0.38) / 0.5, second = (summit(profile, 0.70, 0.88) - 0.5) / 0.5;
  const double least = kPar.sixteenthsShare * profile.near(0.5);
  if (profile.near(first * 0.5) < least || profile.near(0.5 + second * 0.5) < least) return {};
  const double share = 0.5 * (first + second), ratio = share / (1 - share);
  if (ratio < kPar.straight || std::abs(first - second) > kPar.halvesApart) return {};
  return {ratio, SwingLevel::sixteenths};
}

}  // namespace ear
