// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/grid_edit.h"

#include <algorithm>
#include <cmath>

namespace ear {
namespace {

constexpr Seconds kApart{0.05};  // between two beats

std::size_t firstBar(const Grid& grid) {
  const auto bar = std::find_if(grid.begin(), grid.end(), [](const Beat& b) { return b.bar; });
  return bar == grid.end() ? 0 : static_cast<std::size_t>(bar - grid.begin());
}

/// Bar lines every `meter` beats to both sides of `from`.
void layBars(Grid& grid, std::size_t from, int meter) {
  const auto step = static_cast<std::size_t>(std::max(1, meter));
  for (std::size_t i = 0; i < grid.size(); ++i) grid[i].bar = (i + step - from % step) % step == 0;
}

}  // namespace

void halveTempo(Grid& grid) {
  if (grid.size() < 4) return;
  const int meter = meterOf(grid);
  const std::size_t first = firstBar(grid);
  Grid half;
  for (std::size_t i = first % 2; i < grid.size(); i += 2) half.push_back(grid[i]);
  layBars(half, first / 2, meter);
  grid = std::move(half);
}

void doubleTempo(Grid& grid) {
  if (grid.size() < 2) return;
  const int meter = meterOf(grid);
  const std::size_t first = firstBar(grid);
  Grid twice;
  for (std::size_t i = 0; i < grid.size(); ++i) {
    twice.push_back(grid[i]);
    if (i + 1 < grid.size())
      twice.push_back(
          {grid[i].time + (grid[i + 1].time - grid[i].time) * 0.5, false, grid[i].fixed && grid[i + 1].fixed});
  }
  layBars(twice, 2 * first, meter);
  grid = std::move(twice);
}

void shiftBars(Grid& grid, int beats) {
  std::vector<bool> bars(grid.size(), false);
  for (std::size_t i = 0; i < grid.size(); ++i) {
    const auto to = static_cast<std::ptrdiff_t>(i) + beats;
    if (grid[i].bar && to >= 0 && to < static_cast<std::ptrdiff_t>(grid.size()))
      bars[static_cast<std::size_t>(to)] = true;
  }
  const int meter = meterOf(grid);
  for (std::size_t i = 0; i < grid.size(); ++i) grid[i].bar = bars[i];
  // A whole bar may have come free at either end.
  const auto step = static_cast<std::size_t>(meter);
  if (const std::size_t first = firstBar(grid); first >= step) grid[first - step].bar = true;
  const auto last = std::find_if(grid.rbegin(), grid.rend(), [](const Beat& b) { return b.bar; });
  if (last != grid.rend() && static_cast<std::size_t>(last - grid.rbegin()) >= step)
    grid[grid.size() - 1 - static_cast<std::size_t>(last - grid.rbegin()) + step].bar = true;
}

void setMeter(Grid& grid, int meter) {
  if (meter >= 1) layBars(grid, firstBar(grid), meter);
}

void startBarAt(Grid& grid, std::size_t index) {
  if (index >= grid.size()) return;
  const int meter = meterOf(grid);
  for (std::size_t i = index; i < grid.size(); ++i) {
    if (i > index && grid[i].fixed && grid[i].bar) break;
    grid[i].bar = (i - index) % static_cast<std::size_t>(meter) == 0;
  }
}

void moveBeat(Grid& grid, std::size_t index, Seconds to, Neighbours neighbours) {
  if (index >= grid.size()) return;
  std::size_t low = index, high = index;  // the ends of what moves along
  if (neighbours == Neighbours::follow) {
    while (low > 0 && !grid[--low].bar) {
    }
    while (high + 1 < grid.size() && !grid[++high].bar) {
    }
  } else {
    if (low > 0) --low;
    if (high + 1 < grid.size()) ++high;
  }
  const auto room = [&](std::size_t end) {
    return kApart * static_cast<double>(end > index ? end - index : index - end);
  };
  if (low < index) to = std::max(to, grid[low].time + room(low));
  if (high > index) to = std::min(to, grid[high].time - room(high));
  grid[index].time = to;
  grid[index].fixed = true;
  const auto spread = [&](std::size_t from, std::size_t until) {
    for (std::size_t i = from + 1; i < until; ++i)
      grid[i].time = grid[from].time + (grid[until].time - grid[from].time) *
                                           (static_cast<double>(i - from) / static_cast<double>(until - from));
  };
  spread(low, index);
  spread(index, high);
}

void fixBeats(Grid& grid, TimeSpan span, bool fixed) {
  for (Beat& beat : grid)
    if (span.contains(beat.time)) beat.fixed = fixed;
}

std::vector<Seconds> smoothTaps(std::span<const Seconds> taps) {
  if (taps.size() < 4) return {};
  constexpr std::ptrdiff_t kReach = 2;
  const auto n = static_cast<std::ptrdiff_t>(taps.size());
  std::vector<Seconds> smooth;
  for (std::ptrdiff_t i = 0; i < n; ++i) {
    // Least squares over the neighbours, at least four of them at the ends.
    const std::ptrdiff_t from = std::clamp<std::ptrdiff_t>(i - kReach, 0, n - 4);
    const std::ptrdiff_t to = std::min(n, std::max(i + kReach + 1, from + 4));
    double sx = 0, sy = 0, sxx = 0, sxy = 0;
    const auto count = static_cast<double>(to - from);
    for (std::ptrdiff_t k = from; k < to; ++k) {
      const auto x = static_cast<double>(k - i);
      const double y = taps[static_cast<std::size_t>(k)].value;
      sx += x, sy += y, sxx += x * x, sxy += x * y;
    }
    const double slope = (count * sxy - sx * sy) / (count * sxx - sx * sx);
    smooth.emplace_back((sy - slope * sx) / count);
  }
  return smooth;
}

void placeTaps(Grid& grid, std::span<const Seconds> beats, int meter, std::size_t firstOfBar) {
  if (beats.size() < 2) return;
  const Seconds beat = (beats.back() - beats.front()) / static_cast<double>(beats.size() - 1);
  const Seconds from = beats.front() - beat * 0.5, to = beats.back() + beat * 0.5;
  const auto step = static_cast<std::size_t>(std::max(1, meter));
  std::erase_if(grid, [&](const Beat& b) { return from <= b.time && b.time < to; });
  for (std::size_t i = 0; i < beats.size(); ++i)
    grid.push_back({beats[i], (i + step - firstOfBar % step) % step == 0, true});
  std::sort(grid.begin(), grid.end(), [](const Beat& a, const Beat& b) { return a.time < b.time; });
}

Grid aroundFixed(const Grid& old, std::span<const Seconds> beats, int meter) {
  // Found beats that are no nearer to a fixed one than a third of their distance, and the fixed ones themselves.
  Grid grid;
  for (const Beat& b : old)
    if (b.fixed) grid.push_back(b);
  const Grid anchors = grid;
  for (std::size_t i = 0; i < beats.size(); ++i) {
    const Seconds distance = i + 1 < beats.size() ? beats[i + 1] - beats[i]
                             : i > 0              ? beats[i] - beats[i - 1]
                                                  : Seconds(0);
    const bool taken = std::any_of(anchors.begin(), anchors.end(), [&](const Beat& a) {
      return std::abs((a.time - beats[i]).value) < 0.5 * distance.value;
    });
    if (!taken) grid.push_back({beats[i], false, false});
  }
  std::sort(grid.begin(), grid.end(), [](const Beat& a, const Beat& b) { return a.time < b.time; });
  if (anchors.empty()) {
    layBars(grid, 0, meter);
    return grid;
  }
  // Count on from each fixed bar line to the next one, and back from the first.
  const auto step = static_cast<std::size_t>(std::max(1, meter));
  std::size_t since = 0;
  bool counting = false;
  for (Beat& b : grid) {
    if (b.fixed) {
      if (b.bar)
        counting = true, since = 0;
      else
        ++since;
      continue;
    }
    if (!counting) continue;
    b.bar = ++since % step == 0;
    if (b.bar) since = 0;
  }
  const std::size_t first = firstBar(grid);
  for (std::size_t i = first; i >= step;) i -= step, grid[i].bar = true;
  return grid;
}

}  // namespace ear
