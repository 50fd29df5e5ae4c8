// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/signal/fft.h"

namespace ear {

/// Tells a low note from a bass under a higher voice. Where the voice plays an overtone of the bass both repeat with
/// the bass's period, and a period alone cannot tell them from one low string. But a string has all of its overtones,
/// while over a bass those of the voice stand out: every second, third ... one, with little between.
class OvertoneComb {
 public:
  /// @param mono  samples at kListeningRate; they must outlive this
  explicit OvertoneComb(std::span<const float> mono);

  /// How far the overtones of the likeliest voice stand out from those between them, as a ratio of amplitudes; 1 for a
  /// string alone. @param centre  sample in the middle of the moment @param hertz  of the low pitch
  double contrast(std::size_t centre, double hertz);

 private:
  double amplitudeAt(double hertz) const;

  std::span<const float> mono_;
  RealFft fft_;
  std::vector<float> window_;
  std::vector<float> magnitude_;
  std::size_t centre_ = static_cast<std::size_t>(-1);  // of the magnitudes
};

}  // namespace ear
