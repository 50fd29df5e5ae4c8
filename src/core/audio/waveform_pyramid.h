// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <memory>
#include <vector>

#include "core/audio/recording.h"

namespace ear {

/// Least and greatest sample of a stretch of one plane, and its root mean square.
struct Extent {
  float low = 0.0F, high = 0.0F, rms = 0.0F;
};
Extent extentOf(std::span<const float> samples);  ///< all 0 of no samples

/// Extents of a recording at several grains, so that any stretch is drawn in time proportional to its pixels. Making it
/// goes through all samples once; then it can be read from any thread.
class WaveformPyramid {
 public:
  WaveformPyramid() = default;
  explicit WaveformPyramid(std::shared_ptr<const Recording> recording);
  /// Of extents that were found in another way. @param planes  one or two, of stretches that are `each` long
  WaveformPyramid(std::vector<std::vector<Extent>> planes, Seconds each);

  bool empty() const { return levels_.empty(); }
  /// Extent of a stretch of a channel (0 left, 1 right; a mono recording has one for both).
  Extent extent(std::size_t channel, TimeSpan stretch) const;

 private:
  static constexpr std::size_t kBlock = 64, kFactor = 8;
  static constexpr double kFewest = 4;  // blocks that make a stretch: its ends are a quarter of it off at the most
  using Levels = std::vector<std::vector<Extent>>;  // level n: blocks of finest_ * kFactor^n frames
  static Levels coarserAndCoarser(std::vector<Extent> finest);

  std::shared_ptr<const Recording> recording_;  // null where the finest blocks are all there is
  double rate_ = 1.0, finest_ = 1.0;            // frames a second, frames of a finest block
  std::vector<Levels> levels_;                  // of each channel
};

}  // namespace ear
