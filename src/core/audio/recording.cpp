#include "core/audio/recording.h"

#include <algorithm>
#include <cmath>

namespace ear {

std::vector<float> mixToMono(const Recording& recording) {
  const auto left = recording.left();
  const auto right = recording.right();
  std::vector<float> mono(left.size());
  std::transform(left.begin(), left.end(), right.begin(), mono.begin(),
                 [](float l, float r) { return 0.5F * (l + r); });
  return mono;
}

Recording excerpt(const Recording& recording, TimeSpan span) {
  const auto frameAt = [&](Seconds t) {
    const double frame = std::round(t.value * recording.sampleRate);
    return static_cast<std::ptrdiff_t>(std::clamp(frame, 0.0, static_cast<double>(recording.frames())));
  };
  const auto from = frameAt(span.start);
  const auto to = std::max(from, frameAt(span.end));
  Recording part{recording.sampleRate, {}, recording.notice};
  for (const auto& plane : recording.channels) part.channels.emplace_back(plane.begin() + from, plane.begin() + to);
  return part;
}

}  // namespace ear
