// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/recording.h"

#include <algorithm>
#include <cmath>

namespace ear {

bool sidesCancel(const Recording& recording) {
  constexpr double kLeast = 0.02;                      // of the energy
  constexpr std::size_t kBlocks = 1000, kBlock = 256;  // looked at, all over the recording; all of it is no surer
  if (recording.channels.size() < 2) return false;
  const auto left = recording.left(), right = recording.right();
  const std::size_t step = std::max(kBlock, left.size() / kBlocks);
  double sum = 0, difference = 0;
  // A kernel may map a megabyte or two around each place that is looked at.
  Trail leftTrail(left), rightTrail(right);
  for (std::size_t from = 0; from < left.size(); from += step) {
    leftTrail.reached(from), rightTrail.reached(from);
    for (std::size_t i = from; i < std::min(from + kBlock, left.size()); ++i) {
      sum += static_cast<double>(left[i] + right[i]) * (left[i] + right[i]);
      difference += static_cast<double>(left[i] - right[i]) * (left[i] - right[i]);
    }
  }
  return difference > 0 && sum < kLeast * difference;
}

Samples mixToMono(const Recording& recording) {
  const auto left = recording.left();
  if (sidesCancel(recording)) return {left.begin(), left.end()};
  const auto right = recording.right();
  Samples mono(left.size());
  std::transform(left.begin(), left.end(), right.begin(), mono.begin(),
                 [](float l, float r) { return 0.5F * (l + r); });
  return mono;
}

namespace {
std::size_t frameAt(const Recording& recording, Seconds t) {
  const double frame = std::round(t.value * recording.sampleRate);
  return static_cast<std::size_t>(std::clamp(frame, 0.0, static_cast<double>(recording.frames())));
}

}  // namespace

std::span<const float> partOf(const Recording& recording, std::span<const float> plane, TimeSpan span) {
  const std::size_t from = frameAt(recording, span.start);
  return plane.subspan(from, std::max(from, frameAt(recording, span.end)) - from);
}

void evict(const Recording& recording, TimeSpan span) {
  for (const auto& plane : recording.channels) evict(partOf(recording, plane, span));
}

Recording excerpt(const Recording& recording, TimeSpan span) {
  Recording part{recording.sampleRate, {}, recording.notice};
  for (const auto& plane : recording.channels) {
    const auto samples = partOf(recording, plane, span);
    part.channels.emplace_back(samples.begin(), samples.end());
  }
  return part;
}

}  // namespace ear
