// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/results/sides.h"

#include <algorithm>

namespace ear {

std::vector<SideEntry> sideEntries(const std::vector<SidePoint>& points) {
  constexpr double kQuiet = 1.0 / 6, kClear = 1.0 / 3;
  constexpr Seconds kStretch{4.0};
  std::vector<SideEntry> entries;
  for (const Side side : {Side::left, Side::right}) {
    const auto level = [&](std::size_t i) {
      return static_cast<double>(points[i].level[static_cast<std::size_t>(side)]);
    };
    double top = 1e-9;
    for (std::size_t i = 0; i < points.size(); ++i) top = std::max(top, level(i));
    if (top < 0.05) continue;  // nothing ever sits there
    for (std::size_t i = 1; i < points.size(); ++i) {
      if (level(i) < kClear * top || level(i - 1) >= kQuiet * top) continue;
      bool quietBefore = true, clearAfter = true;
      for (std::size_t k = i; k-- > 0 && points[i].time - points[k].time <= kStretch;)
        quietBefore = quietBefore && level(k) < kQuiet * top;
      for (std::size_t k = i; k < points.size() && points[k].time - points[i].time <= kStretch; ++k)
        clearAfter = clearAfter && level(k) >= kClear * top;
      if (quietBefore && clearAfter) entries.push_back({points[i].time, side});
    }
  }
  std::sort(entries.begin(), entries.end(), [](auto& a, auto& b) { return a.time < b.time; });
  return entries;
}

std::optional<TimeSpan> mostAlone(const std::vector<SidePoint>& points, Side side) {
  constexpr float kClear = 1.0F / 3, kHalf = 0.5F;
  constexpr std::size_t kPoints = 6;
  if (points.size() < kPoints) return std::nullopt;
  const auto own = static_cast<std::size_t>(side);
  float top = 0;
  for (const auto& p : points) top = std::max(top, p.level[own]);
  std::optional<TimeSpan> best;
  float bestShare = kHalf;
  const Seconds half((points[1].time - points[0].time).value / 2);
  for (std::size_t i = 0; i + kPoints <= points.size(); ++i) {
    float mine = 0, all = 0;
    bool clear = true;
    for (std::size_t k = i; k < i + kPoints; ++k) {
      mine += points[k].level[own];
      for (const float level : points[k].level) all += level;
      clear = clear && points[k].level[own] >= kClear * top;
    }
    if (!clear || all <= 0 || mine <= bestShare * all) continue;
    bestShare = mine / all;
    best = TimeSpan{points[i].time - half, points[i + kPoints - 1].time + half};
  }
  return best;
}

}  // namespace ear
