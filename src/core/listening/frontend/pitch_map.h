// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <complex>
#include <cstdint>
#include <memory>
#include <span>
#include <vector>

#include "core/audio/recording.h"
#include "core/signal/fft.h"

namespace ear {

/// A picture of which pitches sound: a constant-Q spectrum by sparse kernels (Brown & Puckette 1992) whose windows are
/// held under 0.37 s, so that low notes do not smear over bars (after the variable-Q of Schoerkhuber et al. 2014); its
/// rows lie on the semitones of the recording's own pitch. Overtones of what sounds below are damped, so that what was
/// played stands out.
class PitchMap {
 public:
  static constexpr int kLowest = 36;      ///< MIDI of the middle of the lowest semitone: C2
  static constexpr int kSemitones = 60;   ///< up to B6
  static constexpr int kPerSemitone = 3;  ///< rows; the middle one is the note
  static constexpr int kRows = kSemitones * kPerSemitone;
  /// Row of a pitch relative to the recording's own, fractional.
  static constexpr double rowOf(double midi) { return (midi - kLowest) * kPerSemitone + (kPerSemitone - 1) / 2.0; }

  /// @param offset  of the recording from A 440
  PitchMap(int sampleRate, Cents offset);

  /// How the two sides are added for the picture.
  struct Mix {
    float left = 0.5F, right = 0.5F;
  };
  /// One column, by one transform; one thread at a time: the pitches around a frame of the recording, lowest row first,
  /// 0 (nothing) ... 1 (as loud as it gets).
  /// @param column  kRows values
  void column(const Recording& recording, std::int64_t frame, Mix mix, std::span<float> column);

 private:
  struct Kernel {
    std::size_t first;  // bin
    std::vector<std::complex<float>> weights;
  };

  std::size_t size_;
  RealFft fft_;
  std::vector<float> right_;  // the right side of what goes into it
  std::vector<Kernel> kernels_;
};

}  // namespace ear
