// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/nesting.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr Seconds kSame{0.03};    // edges this near are one
constexpr Seconds kOnBeat{0.06};  // an edge this near to a beat is on it

bool same(TimeSpan a, TimeSpan b) {
  return std::abs((a.start - b.start).value) < kSame.value && std::abs((a.end - b.end).value) < kSame.value;
}

bool holds(TimeSpan outer, TimeSpan inner) {
  return outer.start <= inner.start + kSame && inner.end <= outer.end + kSame;
}

/// Number of the beat that a time lies on.
std::optional<std::size_t> beatAt(const Grid& grid, Seconds t) {
  for (std::size_t i = 0; i < grid.size(); ++i)
    if (std::abs((grid[i].time - t).value) < kOnBeat.value) return i;
  return std::nullopt;
}

}  // namespace

std::vector<TimeSpan> nestedAround(const Grid& grid, const Form& form, Seconds duration, Seconds t) {
  const TimeSpan whole{Seconds(0), duration};
  TimeSpan section = whole;
  for (const auto& s : form)
    if (s.span.contains(t)) section = s.span;
  std::vector<TimeSpan> spans;
  const auto add = [&](TimeSpan span) {
    span.start = std::max(span.start, section.start);
    span.end = std::min(span.end, section.end);
    if (span.contains(t) && (spans.empty() || (!same(spans.back(), span) && holds(span, spans.back()))))
      spans.push_back(span);
  };
  std::vector<Seconds> bars;
  for (const Seconds bar : barLines(grid))
    if (section.start - kOnBeat <= bar && bar < section.end - kOnBeat) bars.push_back(bar);
  if (const auto after = std::upper_bound(bars.begin(), bars.end(), t + kSame); after != bars.begin()) {
    const auto at = static_cast<std::size_t>(after - bars.begin()) - 1;
    for (const std::size_t length : {1U, 2U, 4U}) {
      const std::size_t first = at / length * length, end = first + length;
      add({bars[first], end < bars.size() ? bars[end] : section.end});
    }
  }
  add(section);
  section = whole;
  add(whole);
  return spans;
}

std::optional<TimeSpan> wider(const Grid& grid, const Form& form, Seconds duration, TimeSpan passage) {
  for (const TimeSpan span : nestedAround(grid, form, duration, passage.start + passage.length() * 0.5))
    if (holds(span, passage) && !same(span, passage)) return span;
  return std::nullopt;
}

std::optional<TimeSpan> narrower(const Grid& grid, const Form& form, Seconds duration, TimeSpan passage, Seconds t) {
  const auto spans = nestedAround(grid, form, duration, t);
  for (auto span = spans.rbegin(); span != spans.rend(); ++span)  // NOLINT(modernize-loop-convert): no ranges there
    if (holds(passage, *span) && !same(*span, passage)) return *span;
  return std::nullopt;
}

std::optional<TimeSpan> neighbour(const Grid& grid, Seconds duration, TimeSpan passage, bool next) {
  const auto first = beatAt(grid, passage.start), end = beatAt(grid, passage.end);
  if (first && end && *end > *first) {
    const std::size_t beats = *end - *first;
    if (next && *end + beats < grid.size()) return TimeSpan{grid[*end].time, grid[*end + beats].time};
    if (!next && *first >= beats) return TimeSpan{grid[*first - beats].time, grid[*first].time};
  }
  const Seconds by = passage.length() * (next ? 1.0 : -1.0);
  const TimeSpan moved{passage.start + by, passage.end + by};
  if (moved.start < Seconds(0) || moved.end > duration) return std::nullopt;
  return moved;
}

}  // namespace ear
