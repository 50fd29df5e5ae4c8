// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/audio/resample.h"

#include <soxr.h>

#include <algorithm>
#include <cmath>
#include <functional>
#include <memory>
#include <type_traits>

namespace ear {
namespace {

/// One plane of `frames` samples at another rate, little of it in memory at a time. @param read  fills a span with the
/// samples from a frame on
Samples resampleStream(std::size_t frames, int fromRate, int toRate, bool best,
                       const std::function<void(std::size_t, std::span<float>)>& read) {
  const double ratio = static_cast<double>(toRate) / fromRate;
  const auto length = static_cast<std::size_t>(std::ceil(static_cast<double>(frames) * ratio));
  const soxr_quality_spec_t quality = soxr_quality_spec(best ? SOXR_HQ : SOXR_MQ, 0);
  const std::unique_ptr<std::remove_pointer_t<soxr_t>, decltype(&soxr_delete)> resampler(
      soxr_create(fromRate, toRate, 1, nullptr, nullptr, &quality, nullptr), &soxr_delete);
  std::vector<float> part(1 << 16);
  const auto room = static_cast<std::size_t>(static_cast<double>(part.size()) * ratio) + 64;
  Samples out;
  out.reserve(length + room);
  Trail trail({out.data(), out.capacity()});
  std::size_t used = 0, got = 0;
  /// Passes samples on, none at the end; what comes out goes behind what is there.
  const auto pass = [&](const float* from, std::size_t count) {
    const std::size_t before = out.size();
    out.resize(std::min(before + room, out.capacity()));
    soxr_process(resampler.get(), from, count, &used, out.data() + before, out.size() - before, &got);
    out.resize(before + got);
    trail.reached(out.size());
  };
  for (std::size_t at = 0; at < frames; at += used) {
    const auto chunk = std::span(part).first(std::min(part.size(), frames - at));
    read(at, chunk);
    pass(chunk.data(), chunk.size());
    if (used == 0 && got == 0) break;
  }
  do pass(nullptr, 0);
  while (got > 0);
  if (out.size() > length) out.resize(length);
  return out;
}

}  // namespace

Samples resample(std::span<const float> samples, int fromRate, int toRate, bool best) {
  Trail trail(samples);
  if (fromRate == toRate) return {samples.begin(), samples.end()};
  return resampleStream(samples.size(), fromRate, toRate, best, [&](std::size_t at, std::span<float> out) {
    trail.reached(at);
    std::copy_n(samples.begin() + static_cast<std::ptrdiff_t>(at), out.size(), out.begin());
  });
}

Samples resampledMix(const Recording& recording, int toRate) {
  const auto left = recording.left(), right = recording.right();
  Trail leftTrail(left), rightTrail(right);
  if (recording.sampleRate == toRate) return mixToMono(recording);
  if (sidesCancel(recording)) return resample(left, recording.sampleRate, toRate);
  return resampleStream(recording.frames(), recording.sampleRate, toRate, false,
                        [&](std::size_t at, std::span<float> out) {
                          leftTrail.reached(at), rightTrail.reached(at);
                          for (std::size_t i = 0; i < out.size(); ++i) out[i] = 0.5F * (left[at + i] + right[at + i]);
                        });
}

Recording resample(const Recording& recording, int toRate) {
  Recording result{toRate, {}, recording.notice};
  for (const auto& plane : recording.channels)
    result.channels.push_back(resample(plane, recording.sampleRate, toRate, true));
  return result;
}

}  // namespace ear
