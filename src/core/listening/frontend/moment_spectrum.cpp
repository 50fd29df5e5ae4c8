// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/moment_spectrum.h"

#include <algorithm>
#include <cmath>

#include "core/signal/fft.h"
#include "core/theory/pitch.h"

namespace ear {

MomentSpectrum spectrumAt(const Recording& recording, Seconds t, Cents offset) {
  constexpr std::size_t kSize = 16384;
  constexpr float kFloor = -90.0F;
  RealFft fft(kSize);
  const auto window = hannWindow(kSize);
  const std::int64_t from = std::llround(t.value * recording.sampleRate) - static_cast<std::int64_t>(kSize / 2);
  std::vector<float> right(kSize);
  readWindow(recording.left(), from, window, fft.input());
  readWindow(recording.right(), from, window, right);
  for (std::size_t n = 0; n < kSize; ++n) fft.input()[n] = 0.5F * (fft.input()[n] + right[n]);
  const auto bins = fft.transform();
  MomentSpectrum spectrum;
  const auto binOf = [&](double midi) {
    const double hertz = frequencyOf(MidiPitch(midi), a4At(offset)).value;
    return hertz * kSize / recording.sampleRate;
  };
  for (std::size_t i = 0; i < MomentSpectrum::kPoints; ++i) {
    // The strongest bin that belongs to the point, so that no partial falls between two points.
    const double midi = MomentSpectrum::midiOf(i), half = 0.5 / MomentSpectrum::kPerSemitone;
    const auto first = static_cast<std::size_t>(std::lround(binOf(midi - half)));
    const auto last = std::max(first, static_cast<std::size_t>(std::lround(binOf(midi + half))));
    float most = 0;
    for (std::size_t k = first; k <= std::min(last, bins.size() - 1); ++k) most = std::max(most, std::abs(bins[k]));
    spectrum.decibels.push_back(std::max(kFloor, 20.0F * std::log10(4.0F * most / kSize + 1e-9F)));
  }
  return spectrum;
}

}  // namespace ear
