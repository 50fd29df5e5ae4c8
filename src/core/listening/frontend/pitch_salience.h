// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/base/progress.h"

namespace ear {

/// How strongly each pitch is supported by its overtones, frame by frame; for a voice among others.
struct PitchSalience {
  static constexpr double kLowest = 38.0, kHighest = 91.0;  ///< MIDI: D2 to G6
  static constexpr int kBinsPerSemitone = 5;
  static constexpr int kBins = static_cast<int>((kHighest - kLowest) * kBinsPerSemitone);
  std::vector<float> strength;  ///< frames x kBins, 1 = the strongest of the passage
  std::vector<float> level;     ///< frames x kBins: of the overtones themselves, attacks included

  std::size_t count() const { return strength.size() / kBins; }
  std::span<const float> frame(std::size_t i) const { return std::span(strength).subspan(i * kBins, kBins); }
};

/// Weighted sum of the overtones of each pitch in a whitened spectrum (Klapuri 2006, "Multiple fundamental frequency
/// estimation by summing harmonic amplitudes"), after what stands still in time is kept and what is struck is taken out
/// (median over time; Fitzgerald 2010).
/// @param mono  samples at kListeningRate; frame i is centred at i x 220 samples
/// @return empty when cancelled
PitchSalience measureSalience(std::span<const float> mono, const Progress& progress);

}  // namespace ear
