// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/repeats.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

/// A time as beats of the grid, fractional; empty off the grid.
std::optional<double> beatAt(const Grid& grid, Seconds t) {
  if (grid.size() < 2) return std::nullopt;
  const auto after =
      std::upper_bound(grid.begin() + 1, grid.end() - 1, t, [](Seconds s, const Beat& b) { return s < b.time; });
  const auto before = std::prev(after);
  return static_cast<double>(before - grid.begin()) + (t - before->time) / (after->time - before->time);
}

std::optional<Seconds> timeOf(const Grid& grid, double beat) {
  const auto last = static_cast<double>(grid.size() - 1);
  if (beat < -0.5 || beat > last + 0.5) return std::nullopt;
  const auto i = static_cast<std::size_t>(std::clamp(std::floor(beat), 0.0, last - 1));
  return grid[i].time + (grid[i + 1].time - grid[i].time) * (beat - static_cast<double>(i));
}

}  // namespace

std::vector<TimeSpan> repeatsOf(const Grid& grid, const Form& form, TimeSpan passage) {
  const Seconds middle = passage.start + passage.length() / 2;
  const auto own = std::find_if(form.begin(), form.end(), [&](const Section& s) { return s.span.contains(middle); });
  if (own == form.end()) return {};
  std::vector<TimeSpan> repeats;
  for (auto other = form.begin(); other != form.end(); ++other) {
    if (other == own || other->letter != own->letter) continue;
    const auto here = beatAt(grid, own->span.start), there = beatAt(grid, other->span.start);
    const auto start = beatAt(grid, passage.start), end = beatAt(grid, passage.end);
    TimeSpan span{passage.start - own->span.start + other->span.start,
                  passage.end - own->span.start + other->span.start};
    if (here && there && start && end) {
      const double by = std::round(*there) - std::round(*here);
      const auto from = timeOf(grid, *start + by), to = timeOf(grid, *end + by);
      if (!from || !to) continue;
      span = {*from, *to};
    }
    constexpr Seconds kOver{0.3};
    if (span.start >= Seconds(0) && span.end <= other->span.end + kOver) repeats.push_back(span);
  }
  return repeats;
}

}  // namespace ear
