// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>
#include <span>
#include <vector>

namespace ear {

/// Reads a stereo stream at another pace, for pitch: a sinc under a Kaiser window (Smith & Gossett 1984), wider where
/// the pace is faster so that nothing folds back. Unlike the resamplers at hand it changes its pace without allocating.
class Resampler {
 public:
  static constexpr double kFastest = 4.0;  ///< two octaves up

  Resampler();  ///< allocates; nothing does later

  /// The next sample pulled is that of the first one pushed after `reach()` others.
  /// @param pace  samples pushed for each one pulled, over 0 and up to kFastest
  void start(double pace);
  /// Samples that are needed before and behind one that is pulled.
  int reach() const { return reach_; }
  /// How many may be pushed now.
  std::size_t room() const;
  /// @pre spans of equal size, no longer than room()
  void push(std::span<const float> left, std::span<const float> right);
  /// @return samples written, fewer than wanted when more have to be pushed first
  std::size_t pull(std::span<float> left, std::span<float> right);

 private:
  static constexpr int kWings = 24;   // zero crossings to each side at a pace of 1
  static constexpr int kSteps = 256;  // of the table, from one crossing to the next
  static constexpr std::size_t kRing = 4096;

  std::vector<float> table_;
  std::array<std::vector<float>, 2> ring_;
  std::int64_t pushed_ = 0;
  double pace_ = 1.0, next_ = 0.0;
  int reach_ = kWings;
};

}  // namespace ear
