// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <span>
#include <vector>

namespace ear {

/// Keeps the true peak of a stereo stream under a ceiling: the signal is interpolated to four times its rate (ITU-R
/// BS.1770-4, annex 2, with an interpolator of our own) and turned down a moment before a peak. Samples below the
/// ceiling pass bit for bit, kDelay samples late. Neither allocates nor locks after prepare().
class Limiter {
 public:
  static constexpr double kCeiling = 0.891;  ///< -1 dB true peak
  static constexpr std::size_t kLook = 64;   ///< samples looked ahead
  static constexpr std::size_t kTaps = 12;   ///< of the interpolator, for each of its four phases
  static constexpr std::size_t kDelay = kLook + kTaps / 2;

  /// Allocates; silence lies behind it. Not while process() runs.
  void prepare(int sampleRate);
  /// In place, left and right in turn. @pre prepare() was called
  void process(std::span<float> interleaved);
  /// The least factor since the last call, 1 when nothing was turned down.
  float reduction();

 private:
  float peakOf(std::size_t channel) const;

  std::array<std::array<float, kTaps>, 3> phases_{};  // between the samples; the fourth is the sample itself
  std::vector<float> ring_;                           // interleaved
  std::vector<float> needed_, smooth_;                // gains over the look-ahead
  std::size_t at_ = 0, gainAt_ = 0;
  double smoothSum_ = 0.0;
  std::size_t untouched_ = 0;  // samples since anything had to be turned down
  float released_ = 1.0F, release_ = 0.0F, least_ = 1.0F;
};

}  // namespace ear
