// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/feel.h"

#include <algorithm>
#include <array>

#include "core/base/parameter.h"

namespace ear {
namespace {

struct Parameters {
  /// to each side that a bar's pattern is taken from
  std::size_t smooth = parameter("feel.smooth", std::size_t{2}, "bars");
  std::size_t shortest = parameter("feel.shortest", std::size_t{4}, "bars");
  double clear = parameter("feel.clear", 0.15, "of the strongest snare");
};
const Parameters kPar{};

/// Snare on the four beats and half-way behind each.
using Pattern = std::array<double, 8>;

Feel feelOf(const Pattern& p) {
  const double backBeat = std::min(p[2], p[6]) - std::max(p[0], p[4]);
  const double half = p[4] - std::max({p[0], p[2], p[6]});
  const double twice = std::min({p[1], p[3], p[5], p[7]}) - std::max({p[0], p[2], p[4], p[6]});
  const double most = std::max({backBeat, half, twice});
  if (most < kPar.clear || most == backBeat) return Feel::usual;
  return most == half ? Feel::halfTime : Feel::doubleTime;
}

}  // namespace

std::vector<FeelSpan> feelChanges(std::span<const Seconds> beats, const Bars& bars, const OnsetStrength& onsets) {
  if (bars.meter != 4) return {};
  const auto snareAt = [&](Seconds t) { return std::min(1.0F, strongestNear(onsets.snare, onsets.clock, t, 0.03)); };
  std::vector<Pattern> patterns;
  std::vector<std::size_t> starts;
  for (const std::size_t first : bars.first) {
    if (first + 4 >= beats.size()) break;
    Pattern pattern{};
    for (std::size_t k = 0; k < 4; ++k) {
      const Seconds beat = beats[first + k], next = beats[first + k + 1];
      pattern[2 * k] = snareAt(beat);
      pattern[2 * k + 1] = snareAt(beat + (next - beat) * 0.5);
    }
    patterns.push_back(pattern);
    starts.push_back(first);
  }
  std::vector<Feel> feels;
  for (std::size_t i = 0; i < patterns.size(); ++i) {
    const std::size_t from = i > kPar.smooth ? i - kPar.smooth : 0, to = std::min(patterns.size(), i + kPar.smooth + 1);
    Pattern mean{};
    for (std::size_t k = from; k < to; ++k)
      for (std::size_t place = 0; place < mean.size(); ++place)
        mean[place] += patterns[k][place] / static_cast<double>(to - from);
    feels.push_back(feelOf(mean));
  }
  // Where one of them is the rule, it is the tempo that would be counted otherwise, not a passage that departs from it.
  std::vector<FeelSpan> changes;
  const auto usual = static_cast<std::size_t>(std::count(feels.begin(), feels.end(), Feel::usual));
  if (2 * usual < feels.size()) return changes;
  for (std::size_t i = 0; i < feels.size();) {
    std::size_t end = i;
    while (end < feels.size() && feels[end] == feels[i]) ++end;
    if (feels[i] != Feel::usual && end - i >= kPar.shortest)
      changes.push_back({{beats[starts[i]], beats[starts[end - 1] + 4]}, feels[i]});
    i = end;
  }
  return changes;
}

}  // namespace ear
