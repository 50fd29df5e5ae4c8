#include "core/audio/envelope.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

Extent joined(Extent a, Extent b) { return {std::min(a.low, b.low), std::max(a.high, b.high)}; }

}  // namespace

Envelope::Envelope(std::shared_ptr<const Recording> recording) : recording_(std::move(recording)) {
  for (const auto& plane : recording_->channels) {
    std::vector<std::vector<Extent>> levels(1);
    for (std::size_t at = 0; at < plane.size(); at += kBlock) {
      const auto [low, high] = std::minmax_element(plane.begin() + static_cast<std::ptrdiff_t>(at),
                                                   plane.begin() + static_cast<std::ptrdiff_t>(std::min(plane.size(), at + kBlock)));
      levels[0].push_back({*low, *high});
    }
    while (levels.back().size() > kFactor) {
      const auto& fine = levels.back();
      std::vector<Extent> coarse;
      for (std::size_t at = 0; at < fine.size(); at += kFactor) {
        Extent e = fine[at];
        for (std::size_t i = at + 1; i < std::min(fine.size(), at + kFactor); ++i) e = joined(e, fine[i]);
        coarse.push_back(e);
      }
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
    Extent e{plane[first], plane[first]};
    for (std::size_t i = first; i < static_cast<std::size_t>(std::ceil(to)) && i < plane.size(); ++i) e = joined(e, {plane[i], plane[i]});
    return e;
  }
  std::size_t level = 0;
  double grain = kBlock;
  while (level + 1 < levels_[channel].size() && frames >= 2 * grain * kFactor) ++level, grain *= kFactor;
  const auto& blocks = levels_[channel][level];
  const auto first = std::min(blocks.size() - 1, static_cast<std::size_t>(from / grain));
  const auto last = std::min(blocks.size() - 1, static_cast<std::size_t>(to / grain));
  Extent e = blocks[first];
  for (std::size_t i = first + 1; i <= last; ++i) e = joined(e, blocks[i]);
  return e;
}

}  // namespace ear
