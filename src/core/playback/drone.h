// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <atomic>
#include <span>

#include "core/base/units.h"

namespace ear {

/// A held note under the music: its octaves and fifths, as a bourdon sounds. set() belongs to the control thread,
/// render() to the audio thread; nothing is allocated or locked.
class Drone {
 public:
  static constexpr double kLevel = 0.17;  ///< peak of the whole, before the volume
  void prepare(int sampleRate);
  /// @param root  30 ... 500 Hz, or 0 to end; the pitch glides, the level swells
  void set(Hertz root) { root_ = root.value; }
  bool on() const { return root_ > 0.0; }
  /// Adds to the samples, left and right in turn.
  void render(std::span<float> interleaved);

 private:
  static constexpr std::size_t kPartials = 6;
  std::atomic<double> root_ = 0.0;
  int rate_ = 48000;
  double sounding_ = 0.0;  // Hz
  float level_ = 0.0F;
  std::array<double, kPartials> phases_{};
};

}  // namespace ear
