// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <span>
#include <vector>

#include "core/audio/recording.h"
#include "core/base/progress.h"
#include "core/signal/frame_clock.h"

namespace ear {

/// One spectral peak of a frame.
struct Partial {
  float hertz;
  float amplitude;  ///< of the sinusoid, full scale = 1
};

/// Peaks of long windows (0.37 s): what sounds, and at which exact frequency.
struct SpectralPeaks {
  FrameClock clock;
  std::vector<Partial> partials;     ///< of all frames, each frame's by rising frequency
  std::vector<std::uint32_t> first;  ///< frames + 1 indices into `partials`

  std::size_t count() const { return first.empty() ? 0 : first.size() - 1; }
  std::span<const Partial> frame(std::size_t i) const {
    return std::span(partials).subspan(first[i], first[i + 1] - first[i]);
  }
};

/// Loudness in quarter-tone-wide bands of short windows (46 ms): when something starts, and its colour.
struct LogBandSpectrogram {
  static constexpr int kLowestMidi = 28;  ///< lower edge of the first band
  static constexpr int kBands = 96;       ///< one a semitone, up to about 10 kHz
  FrameClock clock;
  Samples levels;  ///< frames x kBands, log10(1 + 1000 x magnitude); of hours it lies in a file, as samples do

  std::size_t count() const { return levels.size() / kBands; }
  std::span<const float> frame(std::size_t i) const { return std::span(levels).subspan(i * kBands, kBands); }
};

/// Measures at 22 050 Hz, whatever the recording's own rate.
inline constexpr int kListeningRate = 22050;

/// Both channels together at kListeningRate.
Samples listeningMono(const Recording& recording);

/// Peaks of a 8192-point Hann STFT, hop 2048. Frequencies are reassigned (Auger & Flandrin 1995), which is exact
/// for a steady partial whatever its place between two bins.
/// @param mono  samples at kListeningRate
SpectralPeaks measureSpectralPeaks(std::span<const float> mono, const Progress& progress);

/// Magnitudes of a 1024-point Hann STFT, hop 220, summed into triangular bands a semitone apart.
/// @param mono  samples at kListeningRate
LogBandSpectrogram measureLogBandSpectrogram(std::span<const float> mono, const Progress& progress);

}  // namespace ear
