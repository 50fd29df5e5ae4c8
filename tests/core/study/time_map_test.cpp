// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/time_map.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/study/grid_edit.h"

namespace ear {
namespace {

/// Beats at a tempo that a function of the beat's number gives, bars as long as the list says, over and over.
template <class Tempo>
Grid gridAt(Tempo tempo, std::size_t beats, const std::vector<int>& bars, int pickup = 0, double start = 1.0) {
  Grid grid;
  double at = start;
  int left = pickup;
  std::size_t bar = 0;
  for (std::size_t i = 0; i < beats; ++i) {
    const bool begins = left == 0;
    if (begins) left = bars[bar++ % bars.size()];
    --left;
    grid.push_back({Seconds(at), begins, false});
    at += 60.0 / tempo(i);
  }
  return grid;
}

TEST(TimeMap, BeatsOfASteadyTempoLieAsFarApartAsTheySound) {
  const TimeMap map(gridAt([](auto) { return 120.0; }, 16, {4}), {});
  EXPECT_DOUBLE_EQ(map.timeAt(0).value, 1.0);
  EXPECT_DOUBLE_EQ(map.timeAt(5).value, 3.5);
  EXPECT_DOUBLE_EQ(map.timeAt({1, 2}).value, 1.25);
  EXPECT_DOUBLE_EQ(map.timeAt(-2).value, 0.0) << "before the grid it goes on";
  EXPECT_DOUBLE_EQ(map.timeAt(20).value, 11.0) << "and after it";
}

// Swing of 2 : 1 is a triplet: the off-beat sounds at two thirds of the beat (../theory/check_values_test.cpp).
TEST(TimeMap, SwungPairsAreWrittenStraight) {
  const Grid grid = gridAt([](auto) { return 60.0; }, 8, {4}, 0, 0.0);
  const TimeMap eighths(grid, {2.0, SwingLevel::eighths});
  EXPECT_NEAR(eighths.timeAt({1, 2}).value, 2.0 / 3, 1e-12);
  EXPECT_NEAR(eighths.timeAt({1, 4}).value, 1.0 / 3, 1e-12);
  EXPECT_NEAR(eighths.beatsAt(Seconds(2.0 / 3)), 0.5, 1e-12);
  const TimeMap sixteenths(grid, {2.0, SwingLevel::sixteenths});
  EXPECT_NEAR(sixteenths.timeAt({1, 2}).value, 0.5, 1e-12) << "its eighths are even";
  EXPECT_NEAR(sixteenths.timeAt({1, 4}).value, 1.0 / 3, 1e-12);
  EXPECT_NEAR(sixteenths.timeAt({3, 4}).value, 0.5 + 1.0 / 3, 1e-12);
}

TEST(TimeMap, APickupIsCountedBackFromTheFirstBarLine) {
  const TimeMap map(gridAt([](auto) { return 100.0; }, 14, {4}, 2), {});
  EXPECT_DOUBLE_EQ(map.timeAt(-2).value, 1.0);
  EXPECT_EQ(map.placeOf(-1), (TimeMap::Anchor{0, -1}));
  EXPECT_EQ(map.placeOf(Beats(-1, 2)), (TimeMap::Anchor{0, {-1, 2}}));
  EXPECT_EQ(map.placeOf(0), (TimeMap::Anchor{1, 0}));
  EXPECT_EQ(map.beatsOf({0, {-3, 2}}), Beats(-3, 2));
  EXPECT_EQ(map.bars(), 3);
}

TEST(TimeMap, BarsAreAsLongAsTheGridSays) {
  const TimeMap map(gridAt([](auto) { return 100.0; }, 24, {4, 3, 4, 5}), {});
  EXPECT_EQ(map.lengthOf(1), Beats(4));
  EXPECT_EQ(map.lengthOf(2), Beats(3));
  EXPECT_EQ(map.lengthOf(4), Beats(5));
  EXPECT_EQ(map.placeOf(Beats(15, 2)), (TimeMap::Anchor{3, {1, 2}}));
  EXPECT_EQ(map.beatsOf({4, Beats(3, 4)}), Beats(47, 4));
  EXPECT_FALSE(map.beatsOf({99, 0}).has_value());
  EXPECT_EQ(map.placeOf(500).bar, map.bars()) << "what lies behind the last bar line belongs to it";
}

TEST(TimeMap, OfTooFewBeatsIsEmpty) {
  EXPECT_TRUE(TimeMap().empty());
  EXPECT_TRUE(TimeMap({{Seconds(1), true}}, {}).empty());
  EXPECT_FALSE(TimeMap({{Seconds(1)}, {Seconds(2)}}, {}).empty()) << "without bar lines the first beat starts bar 1";
}

// Whatever the grid does: there and back again is where one began, and later is later.
TEST(TimeMap, ThereAndBackAgain) {
  std::mt19937 random(3);
  const auto drifting = [](std::size_t i) { return 100 + 12 * std::sin(static_cast<double>(i) / 9.0); };
  for (const double ratio : {1.0, 1.4, 2.0, 0.7})
    for (const auto level : {SwingLevel::eighths, SwingLevel::sixteenths}) {
      const TimeMap map(gridAt(drifting, 200, {4, 4, 3, 7}, 3), {ratio, level});
      Seconds before = map.timeAt(-20);
      for (int i = -20 * 48 + 1; i < 230 * 48; i += 1 + static_cast<int>(random() % 40)) {
        const Beats beats(i, 48);
        const Seconds t = map.timeAt(beats);
        ASSERT_GT(t, before) << beats.text();
        ASSERT_NEAR(map.beatsAt(t), beats.value(), 1e-7) << beats.text();
        ASSERT_EQ(map.nearest(t, 48), beats) << beats.text();
        ASSERT_EQ(map.beatsOf(map.placeOf(beats)), beats) << beats.text();
        before = t;
      }
    }
}

TEST(TimeMap, TheNearestIsTheOneThatSoundsNearest) {
  // Swung 2 : 1 at one beat a second the off-beat sounds at 0.667; 0.8 s lies nearer to it than to the next beat.
  const TimeMap map(gridAt([](auto) { return 60.0; }, 8, {4}, 0, 0.0), {2.0, SwingLevel::eighths});
  EXPECT_EQ(map.nearest(Seconds(0.80), 2), Beats(1, 2));
  EXPECT_EQ(map.nearest(Seconds(0.85), 2), Beats(1));
  EXPECT_EQ(map.nearest(Seconds(-0.9), 2), Beats(-1));
}

TEST(TimeMap, WhatIsWrittenFollowsTheGridAsItIsCorrected) {
  Grid grid = gridAt([](auto) { return 120.0; }, 16, {4});
  const Beats note(9, 2);
  const Seconds before = TimeMap(grid, {}).timeAt(note);
  moveBeat(grid, 4, grid[4].time + Seconds(0.1), Neighbours::follow);
  const Seconds after = TimeMap(grid, {}).timeAt(note);
  EXPECT_GT(after, before);
  EXPECT_LT(after, before + Seconds(0.1));
}

}  // namespace
}  // namespace ear
