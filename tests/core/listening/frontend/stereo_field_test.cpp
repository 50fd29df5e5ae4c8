// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/stereo_field.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace ear {
namespace {

/// Sines on each side at the listening rate, as (hertz, amplitude).
using Tones = std::vector<std::pair<double, double>>;

SpectralPeaks framesOf(const Tones& tones, double seconds = 4) {
  std::vector<float> mono(static_cast<std::size_t>(seconds * kListeningRate));
  for (std::size_t i = 0; i < mono.size(); ++i)
    for (const auto& [hertz, amplitude] : tones)
      mono[i] += static_cast<float>(amplitude *
                                    std::sin(2 * std::numbers::pi * hertz * static_cast<double>(i) / kListeningRate));
  return measureSpectralPeaks(mono, {});
}

/// Whether a partial near `hertz` sounds in the middle frame of a side.
bool sounds(const StereoField& field, Side side, double hertz) {
  const auto& frames = field.at(side);
  for (const Partial& p : frames.frame(frames.count() / 2))
    if (std::abs(p.hertz - hertz) < 3 && p.amplitude > 0.05F) return true;
  return false;
}

TEST(StereoField, WhatSitsOnOneSideIsFoundThereAlone) {
  const auto field = splitStereo(framesOf({{330, 0.3}, {700, 0.3}}), framesOf({{500, 0.3}, {700, 0.3}}));
  EXPECT_TRUE(sounds(field, Side::left, 330));
  EXPECT_FALSE(sounds(field, Side::right, 330));
  EXPECT_TRUE(sounds(field, Side::right, 500));
  EXPECT_FALSE(sounds(field, Side::left, 500));
  EXPECT_TRUE(sounds(field, Side::centre, 700));
  EXPECT_FALSE(sounds(field, Side::left, 700)) << "what both have is taken out of the sides";
  EXPECT_FALSE(sounds(field, Side::right, 700));
}

TEST(StereoField, SharesSumToOneAndFollowTheLevel) {
  const auto field = splitStereo(framesOf({{330, 0.4}, {700, 0.2}}), framesOf({{700, 0.2}}));
  EXPECT_NEAR(field.shareOf(Side::left) + field.shareOf(Side::centre) + field.shareOf(Side::right), 1, 1e-9);
  EXPECT_GT(field.shareOf(Side::left), field.shareOf(Side::centre));
  EXPECT_LT(field.shareOf(Side::right), 0.05);
}

TEST(StereoField, ATonePannedHalfwayLiesOnTheLouderSide) {
  const auto field = splitStereo(framesOf({{440, 0.4}}), framesOf({{440, 0.1}}));
  EXPECT_GT(field.shareOf(Side::left), 0.5);
}

TEST(StereoField, OverTimeTheSideThatPlaysIsSeen) {
  // Left for the first half, right for the second.
  const auto silentHalf = [](double hertz, bool first) {
    std::vector<float> mono(6 * kListeningRate);
    for (std::size_t i = 0; i < mono.size(); ++i)
      if ((i < mono.size() / 2) == first)
        mono[i] =
            static_cast<float>(0.3 * std::sin(2 * std::numbers::pi * hertz * static_cast<double>(i) / kListeningRate));
    return measureSpectralPeaks(mono, {});
  };
  const auto points = sidesOverTime(splitStereo(silentHalf(330, true), silentHalf(500, false)), Seconds(1));
  ASSERT_GE(points.size(), 6U);
  EXPECT_GT(points[1].level[0], 5 * points[1].level[2]);
  EXPECT_GT(points[4].level[2], 5 * points[4].level[0]);
}

}  // namespace
}  // namespace ear
