// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/listening/frontend/spectra.h"
#include "core/signal/frame_clock.h"

namespace ear {

/// Liveliness under which nothing is played: a tone, a hum, a motor.
inline constexpr double kLively = 0.015;

/// How strongly something starts, frame by frame.
struct OnsetStrength {
  FrameClock clock;          ///< as of the band frames
  std::vector<float> all;    ///< every band; locally scaled so that clear onsets are near 1
  std::vector<float> low;    ///< bands under 160 Hz (kick drum, bass), scaled alike
  std::vector<float> high;   ///< bands over 2 kHz (snare, hi-hat, pick), scaled alike
  std::vector<float> kick;   ///< bands under 160 Hz, strong ones near 1 all through: levels stay comparable over time
  std::vector<float> snare;  ///< bands of 1.2 to 4.2 kHz, where a snare speaks loudest, scaled as kick
  /// Mean rise from frame to frame against the mean level: under 0.01 for a held tone or a hum, over 0.025 for music.
  /// The curves above are scaled to what there is, and show nothing of it.
  double liveliness = 1.0;
};

/// Spectral flux against a frequency-maximum-filtered frame, so that vibrato and bends raise nothing
/// (SuperFlux: Boeck & Widmer 2013).
OnsetStrength measureOnsets(const LogBandSpectrogram& bands);

/// Clear attacks of a part of a recording.
std::vector<Seconds> attacksIn(const Recording& recording, TimeSpan span);

/// Frames that are peaks of at least that strength, rising.
std::vector<std::size_t> peaksOf(std::span<const float> strength, float least);

/// Greatest strength within `reach` seconds of a time.
float strongestNear(std::span<const float> strength, FrameClock clock, Seconds t, double reach);

}  // namespace ear
