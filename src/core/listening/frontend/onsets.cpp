// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/onsets.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/parameter.h"

namespace ear {
namespace {

struct Parameters {
  std::size_t lag = parameter("onsets.lag", std::size_t{3}, "frames");  ///< 30 ms, about half of the short window
  double scaleWindow = parameter("onsets.scaleWindow", 6.0, "s");       ///< over which "strong" is judged
  double edge = parameter("onsets.edge", 0.5, "s");
  int lowEnd = parameter("onsets.lowEnd", 24, "bands");  ///< E1 + 24 semitones = 165 Hz
  int snareStart = parameter("onsets.snareStart", 58, "bands");
  int snareEnd = parameter("onsets.snareEnd", 80, "bands");
  int highStart = parameter("onsets.highStart", 68, "bands");        ///< 2.1 kHz
  double ofOverall = parameter("onsets.ofOverall", 0.2, "");         ///< of the whole recording's mean, in the scale
  double floor = parameter("onsets.floor", 0.5, "of the mean");      ///< that is taken off
  float clear = parameter("onsets.clear", 0.25F, "onset strength");  ///< of an attack among those around
};
const Parameters kPar{};

/// Divides by the mean of the stronger part around each frame and takes off the local floor.
void scaleLocally(std::vector<float>& strength, FrameClock clock) {
  const auto half = static_cast<std::ptrdiff_t>(kPar.scaleWindow / 2 * clock.rate);
  const auto size = static_cast<std::ptrdiff_t>(strength.size());
  std::vector<double> sum(strength.size() + 1), squares(strength.size() + 1);
  for (std::size_t i = 0; i < strength.size(); ++i) {
    sum[i + 1] = sum[i] + strength[i];
    squares[i + 1] = squares[i] + static_cast<double>(strength[i]) * strength[i];
  }
  const double overall = size > 0 ? sum.back() / static_cast<double>(size) : 0.0;
  std::vector<float> out(strength.size());
  for (std::ptrdiff_t i = 0; i < size; ++i) {
    const auto from = static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, i - half));
    const auto to = static_cast<std::size_t>(std::min(size, i + half + 1));
    const auto n = static_cast<double>(to - from);
    const double mean = (sum[to] - sum[from]) / n;
    const double deviation = std::sqrt(std::max(0.0, (squares[to] - squares[from]) / n - mean * mean));
    const double scale = mean + 2 * deviation + kPar.ofOverall * overall + 1e-6;
    out[static_cast<std::size_t>(i)] =
        static_cast<float>(std::clamp((strength[static_cast<std::size_t>(i)] - kPar.floor * mean) / scale, 0.0, 1.0));
  }
  strength = std::move(out);
}

/// Divides by what one frame in a hundred exceeds.
void scaleOverall(std::vector<float>& strength) {
  if (strength.empty()) return;
  auto sorted = strength;
  const auto strong = sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() * 99 / 100);
  std::nth_element(sorted.begin(), strong, sorted.end());
  for (float& s : strength) s /= *strong + 1e-6F;
}

}  // namespace

OnsetStrength measureOnsets(const LogBandSpectrogram& bands) {
  OnsetStrength onsets{.clock = bands.clock, .all = {}, .low = {}, .high = {}, .kick = {}, .snare = {}};
  const std::size_t count = bands.count();
  onsets.all.assign(count, 0.0F);
  onsets.low.assign(count, 0.0F);
  onsets.snare.assign(count, 0.0F);
  onsets.high.assign(count, 0.0F);
  const auto edge = bands.clock.framesIn(Seconds(kPar.edge));  // where a tone is only switched on and off
  double rises = 0, levels = 0;
  Trail trail(bands.levels);
  for (std::size_t i = kPar.lag; i < count; ++i) {
    trail.reached((i - kPar.lag) * LogBandSpectrogram::kBands);
    const auto now = bands.frame(i), before = bands.frame(i - kPar.lag);
    for (int b = 0; b < LogBandSpectrogram::kBands; ++b) {
      float widest = before[static_cast<std::size_t>(b)];
      if (b > 0) widest = std::max(widest, before[static_cast<std::size_t>(b - 1)]);
      if (b + 1 < LogBandSpectrogram::kBands) widest = std::max(widest, before[static_cast<std::size_t>(b + 1)]);
      const float rise = std::max(0.0F, now[static_cast<std::size_t>(b)] - widest);
      onsets.all[i] += rise;
      if (b < kPar.lowEnd) onsets.low[i] += rise;
      if (b >= kPar.snareStart && b < kPar.snareEnd) onsets.snare[i] += rise;
      if (b >= kPar.highStart) onsets.high[i] += rise;
    }
    if (i < edge || i + edge >= count) continue;
    rises += onsets.all[i];
    levels += std::accumulate(now.begin(), now.end(), 0.0);
  }
  if (levels > 0) onsets.liveliness = rises / levels;
  // The difference over kPar.lag frames answers half of that late.
  if (count > kPar.lag)
    for (auto* s : {&onsets.all, &onsets.low, &onsets.snare, &onsets.high})
      std::rotate(s->begin(), s->begin() + 1, s->end());
  onsets.kick = onsets.low;
  for (auto* s : {&onsets.kick, &onsets.snare}) scaleOverall(*s);
  for (auto* s : {&onsets.all, &onsets.low, &onsets.high}) scaleLocally(*s, bands.clock);
  return onsets;
}

std::vector<Seconds> attacksIn(const Recording& recording, TimeSpan span) {
  constexpr Seconds kAround{0.6};  // what strength is scaled by
  constexpr Seconds kCut{0.03};    // where a recording ends, what rings is cut: that is no attack
  const TimeSpan around{std::max(Seconds(0), span.start - kAround), std::min(recording.duration(), span.end + kAround)};
  if (around.length() <= Seconds(0.1)) return {};
  const auto bands = measureLogBandSpectrogram(listeningMono(excerpt(recording, around)), Progress());
  std::vector<Seconds> attacks;
  for (const std::size_t i : peaksOf(measureOnsets(bands).all, kPar.clear))
    if (const Seconds at = around.start + bands.clock.timeOf(i); span.contains(at) && at < recording.duration() - kCut)
      attacks.push_back(at);
  return attacks;
}

std::vector<std::size_t> peaksOf(std::span<const float> strength, float least) {
  std::vector<std::size_t> peaks;
  for (std::size_t i = 1; i + 1 < strength.size(); ++i)
    if (strength[i] >= least && strength[i] >= strength[i - 1] && strength[i] > strength[i + 1]) peaks.push_back(i);
  return peaks;
}

float strongestNear(std::span<const float> strength, FrameClock clock, Seconds t, double reach) {
  const auto from = clock.frameBefore(t - Seconds(reach));
  const auto to = std::min(strength.size(), clock.frameBefore(t + Seconds(reach)) + 1);
  float top = 0.0F;
  for (std::size_t i = from; i < to; ++i) top = std::max(top, strength[i]);
  return top;
}

}  // namespace ear
