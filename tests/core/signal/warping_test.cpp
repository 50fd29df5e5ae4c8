// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/warping.h"

#include <gmock/gmock.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

namespace ear::test {
namespace {

using testing::IsEmpty;
using Series = std::vector<double>;

FrameDistance between(const Series& a, const Series& b) {
  return [&](std::size_t i, std::size_t j) { return std::abs(a[i] - b[j]); };
}

double costOf(const WarpPath& path, const FrameDistance& distance, const WarpRules& rules) {
  double sum = 0;
  for (std::size_t k = 0; k < path.size(); ++k) {
    const auto [i, j] = path[k];
    sum += distance(i, j);
    if (k > 0 && (path[k - 1].first == i || path[k - 1].second == j)) sum += rules.wait;
  }
  return sum;
}

/// By trying every path.
double leastCost(const FrameDistance& distance, std::size_t i, std::size_t j, const WarpRules& rules) {
  const double here = distance(i, j);
  if (i == 0 && (j == 0 || rules.withinSecond)) return here;
  double best = 1e9;
  if (i > 0 && j > 0) best = std::min(best, leastCost(distance, i - 1, j - 1, rules));
  if (i > 0) best = std::min(best, leastCost(distance, i - 1, j, rules) + rules.wait);
  if (j > 0) best = std::min(best, leastCost(distance, i, j - 1, rules) + rules.wait);
  return best + here;
}

Series randomSeries(std::mt19937& random, std::size_t count) {
  Series s(count);
  std::uniform_real_distribution<double> value(0, 1);
  for (double& v : s) v = value(random);
  return s;
}

TEST(Warp, FindsTheLeastOfAllPaths) {
  std::mt19937 random(3);
  for (const double wait : {0.0, 0.1})
    for (const bool within : {false, true})
      for (int round = 0; round < 20; ++round) {
        const Series a = randomSeries(random, 4), b = randomSeries(random, 6);
        const WarpRules rules{wait, within};
        const auto path = warp(wholeCorridor(4, 6), between(a, b), rules);
        double least = leastCost(between(a, b), 3, 5, rules);
        for (std::size_t j = 0; within && j < 6; ++j) least = std::min(least, leastCost(between(a, b), 3, j, rules));
        EXPECT_NEAR(costOf(path, between(a, b), rules), least, 1e-9);
        EXPECT_EQ(path.front().first, 0U);
        EXPECT_EQ(path.back().first, 3U);
      }
}

TEST(Warp, StaysInItsBand) {
  std::mt19937 random(4);
  const Series a = randomSeries(random, 60), b = randomSeries(random, 60);
  for (const auto& [i, j] : warp(bandCorridor(60, 60, 5), between(a, b)))
    EXPECT_LE(std::abs(static_cast<int>(i) - static_cast<int>(j)), 5);
}

TEST(Warp, FindsAPhraseWithinALongerSeries) {
  std::mt19937 random(5);
  const Series all = randomSeries(random, 300);
  const Series phrase(all.begin() + 120, all.begin() + 160);
  const auto path = warp(wholeCorridor(40, 300), between(phrase, all), {.wait = 0.01, .withinSecond = true});
  EXPECT_EQ(path.front(), (std::pair<std::size_t, std::size_t>(0, 120)));
  EXPECT_EQ(path.back(), (std::pair<std::size_t, std::size_t>(39, 159)));
}

TEST(Warp, OfNothingIsNothing) {
  EXPECT_THAT(warp(wholeCorridor(0, 0), nullptr), IsEmpty());
  EXPECT_THAT(warp(wholeCorridor(3, 0), nullptr), IsEmpty());
  // A corridor that breaks off leads nowhere.
  const Series a{0, 0, 0};
  EXPECT_THAT(warp({{0, 2, 0}, {1, 3, 1}}, between(a, a)), IsEmpty());
}

}  // namespace
}  // namespace ear::test
