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

}  // namespace ear
