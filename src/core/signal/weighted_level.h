// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstddef>
#include <span>

namespace ear {

/// Follows the A-weighted level of a stream (the pole frequencies of IEC 61672-1, annex E, by the bilinear
/// transform; within 0.3 dB of the standard's curve up to 8 kHz at 44.1 and 48 kHz).
/// Neither allocates nor locks.
class WeightedLevel {
 public:
  /// Silence lies behind it. @pre sampleRate > 0
  void prepare(int sampleRate);
  void add(std::span<const float> interleaved);  ///< left and right in turn; @pre prepare() was called
  /// Mean square of both sides since the last call, full scale 1, and how many samples of each it covers.
  struct Stretch {
    double meanSquare = 0;
    std::size_t samples = 0;
  };
  Stretch take();

 private:
  struct Section {
    double b0 = 1, b1 = 0, b2 = 0, a1 = 0, a2 = 0;
    std::array<double, 2> z1{}, z2{};  // of both sides
  };
  std::array<Section, 3> sections_;
  double sum_ = 0;
  std::size_t samples_ = 0;
};

}  // namespace ear
