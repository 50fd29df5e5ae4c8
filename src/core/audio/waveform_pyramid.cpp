// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/waveform_pyramid.h"

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

template <class List>
Extent extentOf(const List& blocks, std::size_t first, std::size_t end) {
  Gathering all;
  for (std::size_t i = first; i < end; ++i) all.add(blocks[i]);
  return all.extent();
}

}  // namespace

Extent extentOf(std::span<const float> samples) {
  Gathering all;
  for (const float s : samples) all.add({s, s, s});
  return all.extent();
}

WaveformPyramid::Levels WaveformPyramid::coarserAndCoarser(std::vector<Extent> finest) {
  Levels levels{std::move(finest)};
  while (levels.back().size() > kFactor) {
    const auto& fine = levels.back();
    std::vector<Extent> coarse;
    for (std::size_t at = 0; at < fine.size(); at += kFactor)
      coarse.push_back(extentOf(fine, at, std::min(fine.size(), at + kFactor)));
    levels.push_back(std::move(coarse));
  }
  return levels;
}

WaveformPyramid::WaveformPyramid(std::shared_ptr<const Recording> recording)
    : recording_(std::move(recording)), rate_(recording_->sampleRate), finest_(kBlock) {
  for (const std::span<const float> plane : recording_->channels) {
    std::vector<Extent> blocks;
    Trail trail(plane);
    blocks.reserve(plane.size() / kBlock + 1);
    for (std::size_t at = 0; at < plane.size(); at += kBlock) {
      trail.reached(at);
      blocks.push_back(extentOf(plane.subspan(at, std::min(kBlock, plane.size() - at))));
    }
    levels_.push_back(coarserAndCoarser(std::move(blocks)));
  }
}

WaveformPyramid::WaveformPyramid(std::vector<std::vector<Extent>> planes, Seconds each) : rate_(1.0 / each.value) {
  for (auto& plane : planes) levels_.push_back(coarserAndCoarser(std::move(plane)));
}

Extent WaveformPyramid::extent(std::size_t channel, TimeSpan stretch) const {
  if (empty()) return {};
  channel = std::min(channel, levels_.size() - 1);
  const Levels& levels = levels_[channel];
  const double size =
      recording_ != nullptr ? static_cast<double>(recording_->frames()) : static_cast<double>(levels.front().size());
  const double from = std::clamp(stretch.start.value * rate_, 0.0, size);
  const double to = std::clamp(stretch.end.value * rate_, from, size);
  const double frames = to - from;
  if (recording_ != nullptr && frames < 2 * kBlock) {  // so near that the samples themselves are read
    const std::span<const float> plane = recording_->channels[channel];
    const auto first = std::min(plane.size() - 1, static_cast<std::size_t>(from));
    const auto end = std::clamp(static_cast<std::size_t>(std::ceil(to)), first + 1, plane.size());
    return extentOf(plane.subspan(first, end - first));
  }
  std::size_t level = 0;
  double grain = finest_;
  while (level + 1 < levels.size() && frames >= kFewest * grain * kFactor) ++level, grain *= kFactor;
  const auto& blocks = levels[level];
  const auto first = std::min(blocks.size() - 1, static_cast<std::size_t>(from / grain));
  const auto last = std::min(blocks.size() - 1, static_cast<std::size_t>(to / grain));
  return extentOf(blocks, first, last + 1);
}

}  // namespace ear
