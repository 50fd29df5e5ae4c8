// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/warping.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>

namespace ear {
namespace {

constexpr double kFar = std::numeric_limits<double>::infinity();

enum class Step : std::uint8_t { start, both, first, second };

/// One row of a corridor: values from its first place on.
struct Row {
  std::size_t from = 0;
  std::vector<double> cost;

  double at(std::size_t j) const { return j >= from && j - from < cost.size() ? cost[j - from] : kFar; }
};

}  // namespace

Corridor wholeCorridor(std::size_t first, std::size_t second) {
  return {std::vector<std::size_t>(first, 0), std::vector<std::size_t>(first, second)};
}

Corridor bandCorridor(std::size_t first, std::size_t second, std::size_t reach) {
  Corridor corridor;
  for (std::size_t i = 0; i < first; ++i) {
    const double share = first > 1 ? static_cast<double>(i) / static_cast<double>(first - 1) : 0.0;
    const auto middle = static_cast<std::size_t>(std::lround(share * static_cast<double>(second > 0 ? second - 1 : 0)));
    corridor.from.push_back(middle > reach ? middle - reach : 0);
    corridor.to.push_back(std::min(second, middle + reach + 1));
  }
  return corridor;
}

WarpPath warp(const Corridor& corridor, const FrameDistance& distance, const WarpRules& rules) {
  const std::size_t rows = corridor.from.size();
  std::vector<std::vector<Step>> steps(rows);
  Row before, now;
  for (std::size_t i = 0; i < rows; ++i) {
    now.from = corridor.from[i];
    now.cost.assign(std::max(corridor.to[i], now.from) - now.from, kFar);
    steps[i].resize(now.cost.size(), Step::start);
    for (std::size_t j = now.from; j < corridor.to[i]; ++j) {
      double best = i == 0 && (j == 0 || rules.withinSecond) ? 0.0 : kFar;
      Step step = Step::start;
      const auto come = [&](double cost, Step by) {
        if (cost < best) best = cost, step = by;
      };
      if (i > 0 && j > 0) come(before.at(j - 1), Step::both);
      if (i > 0) come(before.at(j) + rules.wait, Step::first);
      if (j > 0) come(now.at(j - 1) + rules.wait, Step::second);
      if (best == kFar) continue;
      now.cost[j - now.from] = best + distance(i, j);
      steps[i][j - now.from] = step;
    }
    std::swap(before, now);
  }
  if (rows == 0 || before.cost.empty()) return {};
  // `before` is the last row now.
  const auto least =
      rules.withinSecond ? std::min_element(before.cost.begin(), before.cost.end()) : before.cost.end() - 1;
  if (*least == kFar) return {};
  WarpPath path;
  for (std::size_t i = rows - 1, j = before.from + static_cast<std::size_t>(least - before.cost.begin());;) {
    path.emplace_back(i, j);
    const Step step = steps[i][j - corridor.from[i]];
    if (step == Step::start) break;
    if (step != Step::second) --i;
    if (step != Step::first) --j;
  }
  std::reverse(path.begin(), path.end());
  return path;
}

}  // namespace ear
