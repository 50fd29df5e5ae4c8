// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/snap.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "support/sounds.h"

namespace ear {
namespace {

/// Plucked tones that start at these times.
Recording plucks(const std::vector<double>& times) {
  return test::soundOf(6.0, 44100, [&](double t) {
    double sum = 0;
    for (const double at : times)
      if (t >= at) sum += 0.4 * std::exp(-(t - at) * 6) * std::sin(2 * std::numbers::pi * 330 * (t - at));
    return sum;
  });
}

Grid beats() {
  Grid grid;
  for (int i = 0; i < 12; ++i) grid.push_back({Seconds(0.5 * i), i % 4 == 0, false});
  return grid;
}

TEST(SnapEdge, LiesJustBeforeAnAttack) {
  const Recording sound = plucks({1.23, 2.71});
  const Seconds edge = snapEdge(sound, {}, Seconds(1.26), Seconds(0.05));
  EXPECT_LT(edge, Seconds(1.23));
  EXPECT_GT(edge, Seconds(1.20));
  EXPECT_EQ(snapEdge(sound, {}, Seconds(1.6), Seconds(0.05)), Seconds(1.6)) << "nothing within reach";
}

TEST(SnapEdge, TakesTheBarLineBeforeTheBeatAndTheBeatBeforeTheAttack) {
  const Recording sound = plucks({1.515, 2.3});
  EXPECT_EQ(snapEdge(sound, beats(), Seconds(2.04), Seconds(0.08)), Seconds(2.0)) << "a bar line where nothing starts";
  // The beat at 1.5 has an attack a little late: the edge lies before that one.
  const Seconds edge = snapEdge(sound, beats(), Seconds(1.47), Seconds(0.08));
  EXPECT_NEAR(edge.value, 1.515 - kBeforeAttack.value, 0.012);
  EXPECT_LT(edge.value, 1.515);
}

TEST(SnapEdge, SilenceAndEndsAreNoTrouble) {
  const Recording silent = test::soundOf(1.0, 44100, [](double) { return 0.0; });
  EXPECT_EQ(snapEdge(silent, {}, Seconds(0.5), Seconds(0.1)), Seconds(0.5));
  EXPECT_EQ(snapEdge(silent, {}, Seconds(99), Seconds(0.1)), Seconds(99));
}

}  // namespace
}  // namespace ear
