#include "core/audio/resample.h"

#include <soxr.h>

#include <cmath>

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

Recording resample(const Recording& recording, int toRate) {
  Recording result{toRate, {}, recording.notice};
  for (const auto& plane : recording.channels)
    result.channels.push_back(resample(plane, recording.sampleRate, toRate, true));
  return result;
}

}  // namespace ear
