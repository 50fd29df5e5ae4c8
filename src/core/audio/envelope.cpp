#include "core/audio/envelope.h"

#include <algorithm>
#include <cmath>
#include <span>

namespace ear {
namespace {

/// Gathers parts of equal length.
class Gathering {
 public:
  void add(const Extent& e) {
    low_ = std::min(low_, e.low);
    high_ = std::max(high_, e.high);
    squares_ += static_cast<double>(e.rms) * e.rms;
    ++count_;
  }
  Extent extent() const {
    return count_ == 0 ? Extent{} : Extent{low_, high_, static_cast<float>(std::sqrt(squares_ / count_))};
  }

 private:
  float low_ = 1e9F, high_ = -1e9F;
  double squares_ = 0.0;
  int count_ = 0;
};

Extent extentOf(std::span<const float> samples) {
  Gathering all;
  for (const float s : samples) all.add({s, s, s});
  return all.extent();
}

template <class List>
Extent extentOf(const List& blocks, std::size_t first, std::size_t end) {
  Gathering all;
  for (std::size_t i = first; i < end; ++i) all.add(blocks[i]);
  return all.extent();
}

}  // namespace

Envelope::Envelope(std::shared_ptr<const Recording> recording) : recording_(std::move(recording)) {
  for (const auto& plane : recording_->channels) {
    std::vector<std::vector<Extent>> levels(1);
    const std::span samples(plane);
    for (std::size_t at = 0; at < plane.size(); at += kBlock)
      levels[0].push_back(extentOf(samples.subspan(at, std::min(kBlock, plane.size() - at))));
    while (levels.back().size() > kFactor) {
      const auto& fine = levels.back();
      std::vector<Extent> coarse;
      for (std::size_t at = 0; at < fine.size(); at += kFactor)
        coarse.push_back(extentOf(fine, at, std::min(fine.size(), at + kFactor)));
      levels.push_back(std::move(coarse));
    }
    levels_.push_back(std::move(levels));
  }
}

Extent Envelope::extent(std::size_t channel, double from, double to) const {
  if (empty()) return {};
  channel = std::min(channel, levels_.size() - 1);
  const auto& plane = recording_->channels[channel];
  const double size = static_cast<double>(plane.size());
  from = std::clamp(from, 0.0, size);
  to = std::clamp(to, from, size);
  const double frames = to - from;
  if (frames < 2 * kBlock) {  // so near that the samples themselves are read
    const auto first = std::min(plane.size() - 1, static_cast<std::size_t>(from));
    const auto end = std::clamp(static_cast<std::size_t>(std::ceil(to)), first + 1, plane.size());
    return extentOf(std::span(plane).subspan(first, end - first));
  }
  std::size_t level = 0;
  double grain = kBlock;
  while (level + 1 < levels_[channel].size() && frames >= 16 * grain * kFactor) ++level, grain *= kFactor;
  const auto& blocks = levels_[channel][level];
  const auto first = std::min(blocks.size() - 1, static_cast<std::size_t>(from / grain));
  const auto last = std::min(blocks.size() - 1, static_cast<std::size_t>(to / grain));
  return extentOf(blocks, first, last + 1);
}

}  // namespace ear
