// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/audio/recording.h"

namespace ear {

/// The spectrum of a moment on a scale of pitch.
struct MomentSpectrum {
  static constexpr int kLowest = 36, kHighest = 100;  ///< MIDI, of the recording's own pitch
  static constexpr int kPerSemitone = 4;
  static constexpr int kPoints = (kHighest - kLowest) * kPerSemitone + 1;
  std::vector<float> decibels;  ///< kPoints, of a sine against full scale, -90 at the least
  static double midiOf(std::size_t point) { return kLowest + static_cast<double>(point) / kPerSemitone; }
};

/// Of a Hann window of about a third of a second around `t`, both sides together.
/// Any thread; one transform.
/// @param offset  of the recording from A 440
MomentSpectrum spectrumAt(const Recording& recording, Seconds t, Cents offset);

}  // namespace ear
