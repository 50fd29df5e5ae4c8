// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/peak.h"

#include <gtest/gtest.h>

namespace ear::test {
namespace {

TEST(SummitOffset, IsThatOfTheParabolaThroughThreeSamples) {
  for (const double top : {-0.5, -0.31, 0.0, 0.2, 0.5}) {
    const auto parabola = [&](double x) { return 3.0 - 0.7 * (x - top) * (x - top); };
    EXPECT_NEAR(summitOffset(parabola(-1), parabola(0), parabola(1)), top, 1e-12);
    EXPECT_NEAR(summitOffset(-parabola(-1), -parabola(0), -parabola(1)), 0.0, 1e-12) << "a dip is no summit";
  }
}

TEST(SummitOffset, OfALineIsNone) {
  EXPECT_EQ(summitOffset(1, 1, 1), 0.0);
  EXPECT_EQ(summitOffset(1, 2, 3), 0.0);
}

}  // namespace
}  // namespace ear::test
