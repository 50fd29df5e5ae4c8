// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/time_map.h"

#include <algorithm>
#include <cassert>
#include <cmath>

namespace ear {

TimeMap::TimeMap(const Grid& grid, const Swing& swing) : swing_(swing) {
  if (grid.size() < 2) return;
  const auto bar = std::find_if(grid.begin(), grid.end(), [](const Beat& b) { return b.bar; });
  first_ = bar == grid.end() ? 0 : grid.begin() - bar;
  for (std::size_t i = 0; i < grid.size(); ++i) {
    times_.push_back(grid[i].time);
    if (grid[i].bar) bars_.push_back(first_ + static_cast<std::int64_t>(i));
  }
  if (bars_.empty()) bars_.push_back(0);
}

double TimeMap::sounding(double written) const {
  const double pairs = swing_.level == SwingLevel::sixteenths ? 2 : 1;  // in a beat
  const double at = written * pairs, whole = std::floor(at), part = at - whole, share = swingShare(swing_.ratio);
  return (whole + (part < 0.5 ? part * 2 * share : share + (part - 0.5) * 2 * (1 - share))) / pairs;
}

double TimeMap::written(double sounding) const {
  const double pairs = swing_.level == SwingLevel::sixteenths ? 2 : 1;
  const double at = sounding * pairs, whole = std::floor(at), part = at - whole, share = swingShare(swing_.ratio);
  return (whole + (part < share ? part / (2 * share) : 0.5 + (part - share) / (2 * (1 - share)))) / pairs;
}

Seconds TimeMap::timeAt(Beats written) const {
  assert(!empty());
  const std::int64_t beat = written.floor() - first_;
  const double part = sounding((written - Beats(written.floor())).value());
  const auto last = static_cast<std::int64_t>(times_.size()) - 1;
  // Outside of the grid as long as the beat at its edge.
  const auto from = static_cast<std::size_t>(std::clamp<std::int64_t>(beat, 0, last - 1));
  const Seconds length = times_[from + 1] - times_[from];
  return times_[from] + length * (static_cast<double>(beat) - static_cast<double>(from) + part);
}

double TimeMap::beatsAt(Seconds t) const {
  assert(!empty());
  const auto after = std::upper_bound(times_.begin(), times_.end(), t) - times_.begin();
  const auto last = static_cast<std::ptrdiff_t>(times_.size()) - 1;
  const auto from = static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(after - 1, 0, last - 1));
  const double along = (t - times_[from]) / (times_[from + 1] - times_[from]);
  const double whole = std::floor(along);
  return static_cast<double>(first_) + static_cast<double>(from) + whole + written(along - whole);
}

Beats TimeMap::nearest(Seconds t, int parts) const {
  assert(parts > 0);
  // What sounds nearest, not what is written nearest: with swing the two may differ.
  const auto below = static_cast<std::int64_t>(std::floor(beatsAt(t) * parts));
  const Beats early(below, parts), late(below + 1, parts);
  return t - timeAt(early) <= timeAt(late) - t ? early : late;
}

TimeMap::Anchor TimeMap::placeOf(Beats written) const {
  assert(!empty());
  const auto after = std::upper_bound(bars_.begin(), bars_.end(), written.floor());
  if (after == bars_.begin()) return {0, written - Beats(bars_.front())};
  return {static_cast<int>(after - bars_.begin()), written - Beats(*(after - 1))};
}

std::optional<Beats> TimeMap::beatsOf(const Anchor& place) const {
  if (empty() || place.bar < 0 || place.bar > bars()) return std::nullopt;
  const auto bar = static_cast<std::size_t>(std::max(place.bar - 1, 0));
  return Beats(bars_[bar]) + place.within;
}

Beats TimeMap::lengthOf(int bar) const {
  assert(bar >= 1 && bar <= bars());
  const auto i = static_cast<std::size_t>(bar - 1);
  if (i + 1 < bars_.size()) return {bars_[i + 1] - bars_[i]};
  const std::int64_t there = first_ + static_cast<std::int64_t>(times_.size()) - bars_[i];
  return {i > 0 ? std::max(there, bars_[i] - bars_[i - 1]) : there};
}

}  // namespace ear
