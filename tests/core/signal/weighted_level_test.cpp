// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/weighted_level.h"

#include <gtest/gtest.h>

#include <cmath>

#include "support/sounds.h"

namespace ear {
namespace {

/// The A-weighted level of a sine against its plain one, in dB.
double weightAt(double hertz, int rate) {
  const Recording tone = test::sine(hertz, 2.0, rate);
  std::vector<float> block;
  for (std::size_t i = 0; i < tone.frames(); ++i) block.push_back(tone.left()[i]), block.push_back(tone.right()[i]);
  WeightedLevel level;
  level.prepare(rate);
  level.add(std::span(block).first(block.size() / 2));  // settles
  level.take();
  level.add(std::span(block).subspan(block.size() / 2));
  const auto part = level.take();
  EXPECT_EQ(part.samples, tone.frames() / 2);
  return 10 * std::log10(part.meanSquare / 0.125);  // half of full scale
}

// IEC 61672-1:2013, table 3 (A-weighting at exact frequencies, rounded to 0.1 dB).
TEST(WeightedLevel, FollowsTheCurveOfTheStandard) {
  for (const int rate : {44100, 48000}) {
    for (const auto& [hertz, decibels] : {std::pair{31.62, -39.4},
                                          {63.1, -26.2},
                                          {125.9, -16.1},
                                          {251.2, -8.6},
                                          {501.2, -3.2},
                                          {1000.0, 0.0},
                                          {1995.3, 1.2},
                                          {3981.1, 1.0},
                                          {6309.6, -0.1}})
      EXPECT_NEAR(weightAt(hertz, rate), decibels, 0.3) << hertz << " Hz at " << rate;
    EXPECT_NEAR(weightAt(7943.3, rate), -1.1, 0.6) << rate;
  }
}

}  // namespace
}  // namespace ear
