#pragma once

#include <memory>
#include <vector>

#include "core/audio/recording.h"

namespace ear {

/// Least and greatest sample of a stretch of one plane, and its root mean square.
struct Extent {
  float low = 0.0F, high = 0.0F, rms = 0.0F;
};

/// Extents of a recording at several grains, so that any stretch is drawn in time proportional to its pixels.
class Envelope {
 public:
  Envelope() = default;
  explicit Envelope(std::shared_ptr<const Recording> recording);

  bool empty() const { return recording_ == nullptr; }
  /// Extent of the frames [from, to) of a channel (0 left, 1 right; a mono recording has one for both).
  Extent extent(std::size_t channel, double from, double to) const;

 private:
  static constexpr std::size_t kBlock = 64, kFactor = 8;
  std::shared_ptr<const Recording> recording_;
  // levels_[channel][n]: blocks of kBlock * kFactor^n frames
  std::vector<std::vector<std::vector<Extent>>> levels_;
};

}  // namespace ear
