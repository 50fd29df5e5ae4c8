#include "core/audio/resample.h"

#include <soxr.h>

#include <algorithm>
#include <cmath>
#include <memory>
#include <type_traits>

namespace ear {

std::vector<float> resample(std::span<const float> samples, int fromRate, int toRate, bool best) {
  if (fromRate == toRate) return {samples.begin(), samples.end()};
  const double ratio = static_cast<double>(toRate) / fromRate;
  std::vector<float> out(static_cast<std::size_t>(std::ceil(static_cast<double>(samples.size()) * ratio)));
  const soxr_quality_spec_t quality = soxr_quality_spec(best ? SOXR_HQ : SOXR_MQ, 0);
  std::size_t read = 0, written = 0;
  soxr_oneshot(fromRate, toRate, 1, samples.data(), samples.size(), &read, out.data(), out.size(), &written, nullptr,
               &quality, nullptr);
  out.resize(written);
  return out;
}

std::vector<float> resampledMix(const Recording& recording, int toRate) {
  const auto left = recording.left(), right = recording.right();
  const auto mix = [&](std::size_t at, std::span<float> out) {
    for (std::size_t i = 0; i < out.size(); ++i) out[i] = 0.5F * (left[at + i] + right[at + i]);
  };
  if (recording.sampleRate == toRate) {
    std::vector<float> same(recording.frames());
    mix(0, same);
    return same;
  }
  const double ratio = static_cast<double>(toRate) / recording.sampleRate;
  const soxr_quality_spec_t quality = soxr_quality_spec(SOXR_MQ, 0);
  const std::unique_ptr<std::remove_pointer_t<soxr_t>, decltype(&soxr_delete)> resampler(
      soxr_create(recording.sampleRate, toRate, 1, nullptr, nullptr, &quality, nullptr), &soxr_delete);
  std::vector<float> out(static_cast<std::size_t>(std::ceil(static_cast<double>(recording.frames()) * ratio)) + 64);
  std::vector<float> part(1 << 16);
  std::size_t written = 0;
  for (std::size_t at = 0; at < recording.frames();) {
    const auto chunk = std::span(part).first(std::min(part.size(), recording.frames() - at));
    mix(at, chunk);
    std::size_t read = 0, got = 0;
    soxr_process(resampler.get(), chunk.data(), chunk.size(), &read, out.data() + written, out.size() - written, &got);
    at += read, written += got;
    if (read == 0 && got == 0) break;
  }
  for (std::size_t got = 1; got > 0 && written < out.size(); written += got)
    soxr_process(resampler.get(), nullptr, 0, nullptr, out.data() + written, out.size() - written, &got);
  out.resize(std::min(written, static_cast<std::size_t>(std::ceil(static_cast<double>(recording.frames()) * ratio))));
  return out;
}

Recording resample(const Recording& recording, int toRate) {
  Recording result{toRate, {}, recording.notice};
  for (const auto& plane : recording.channels)
    result.channels.push_back(resample(plane, recording.sampleRate, toRate, true));
  return result;
}

}  // namespace ear
