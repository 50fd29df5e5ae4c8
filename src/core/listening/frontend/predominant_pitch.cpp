// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/predominant_pitch.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parameter.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

constexpr int kLowest = 40, kHighest = 88;  // MIDI
constexpr int kPartials = 16;

struct Parameters {
  double alpha = parameter("predominantPitch.alpha", 52.0, "Hz", "Klapuri 2006, windows of 93 ms");
  double beta = parameter("predominantPitch.beta", 320.0, "Hz", "Klapuri 2006, windows of 93 ms");
  /// a bent note still counts for its neighbours
  double reach = parameter("predominantPitch.reach", 0.6, "semitones");
};
const Parameters kPar{};

}  // namespace

std::vector<PredominantPitch> measurePredominantPitch(const SpectralPeaks& frames, Cents tuning) {
  constexpr auto kCount = static_cast<std::size_t>(kHighest - kLowest + 1);
  std::vector<PredominantPitch> result;
  for (std::size_t i = 0; i < frames.count(); ++i) {
    // best[note][h]: the strongest partial near harmonic h of the note
    std::array<std::array<float, kPartials>, kCount> best{};
    for (const Partial& p : frames.frame(i)) {
      const double midi = pitchOf(Hertz(p.hertz)).value - tuning.value / 100;
      for (int h = 1; h <= kPartials; ++h) {
        const double root = midi - 12 * std::log2(h);
        const int note = static_cast<int>(std::lround(root));
        if (note < kLowest || note > kHighest || std::abs(root - note) > kPar.reach) continue;
        float& slot = best[static_cast<std::size_t>(note - kLowest)][static_cast<std::size_t>(h - 1)];
        slot = std::max(slot, p.amplitude);
      }
    }
    PredominantPitch found;
    for (std::size_t n = 0; n < kCount; ++n) {
      const double f0 = frequencyOf(MidiPitch(static_cast<double>(n) + kLowest)).value;
      double salience = 0;
      for (int h = 1; h <= kPartials; ++h)
        salience +=
            (f0 + kPar.alpha) / (h * f0 + kPar.beta) * static_cast<double>(best[n][static_cast<std::size_t>(h - 1)]);
      if (salience > static_cast<double>(found.salience))
        found = {static_cast<int>(n) + kLowest, static_cast<float>(salience)};
    }
    result.push_back(found);
  }
  return result;
}

}  // namespace ear
