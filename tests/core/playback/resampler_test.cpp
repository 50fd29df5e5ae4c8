// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/resampler.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 48000;

/// A sine read at a pace, some thousands of samples of it.
std::vector<float> readAt(double pace, double hertz, std::size_t wanted = 16000) {
  Resampler resampler;
  resampler.start(pace);
  std::vector<float> out;
  std::int64_t n = 0;
  while (out.size() < wanted) {
    std::vector<float> in(std::min<std::size_t>(resampler.room(), 480));
    for (float& s : in)
      s = static_cast<float>(0.5 * std::sin(2 * std::numbers::pi * hertz * static_cast<double>(n++) / kRate));
    resampler.push(in, in);
    std::vector<float> left(256), right(256);
    std::size_t got = 0;
    while ((got = resampler.pull(left, right)) > 0)
      out.insert(out.end(), left.begin(), left.begin() + static_cast<std::ptrdiff_t>(got));
  }
  return out;
}

double rms(const std::vector<float>& samples) {
  double sum = 0;
  for (const float s : samples) sum += static_cast<double>(s) * s;
  return std::sqrt(sum / static_cast<double>(samples.size()));
}

TEST(Resampler, MovesThePitchByItsPace) {
  for (const double semitones : {-12.0, -5.0, -0.3, 0.4, 7.0, 12.0}) {
    const double pace = std::exp2(semitones / 12);
    const auto out = readAt(pace, 440);
    EXPECT_NEAR(test::cents(test::frequencyOf(out, kRate, 440 * pace), 440 * pace), 0, 0.05) << semitones;
    EXPECT_NEAR(rms(out), 0.5 / std::numbers::sqrt2, 0.002) << semitones;
  }
}

TEST(Resampler, AtItsOwnPaceTheFirstPulledIsTheFirstBehindItsReach) {
  Resampler resampler;
  resampler.start(1.0);
  const auto reach = static_cast<std::size_t>(resampler.reach());
  // Low noise-free content passes unchanged: a slow sine, compared sample by sample.
  std::vector<float> in(1000);
  for (std::size_t i = 0; i < in.size(); ++i) in[i] = static_cast<float>(std::sin(0.02 * static_cast<double>(i)));
  resampler.push(in, in);
  std::vector<float> left(800), right(800);
  const std::size_t got = resampler.pull(left, right);
  ASSERT_GT(got, 500U);
  for (std::size_t i = 0; i < got; ++i) ASSERT_NEAR(left[i], in[reach + i], 1e-3) << i;
  EXPECT_EQ(left, right);
}

// What lies above half of the rate after reading has to be gone; the Kaiser window with beta 9 promises about 90 dB
// (Kaiser & Schafer 1980; the band's edge lies at 0.96).
TEST(Resampler, NothingFoldsBack) {
  const double heard = rms(readAt(2.0, 5000)), folded = rms(readAt(2.0, 14500));
  EXPECT_LT(20 * std::log10(folded / heard), -80);
}

TEST(Resampler, StaysWithinItsRoomAtEveryPace) {
  for (const double pace : {0.25, 1.0, 3.7, 4.0, 9.0}) {
    Resampler resampler;
    resampler.start(pace);
    EXPECT_GT(resampler.room(), 2 * static_cast<std::size_t>(resampler.reach())) << pace;
    std::vector<float> in(resampler.room(), 0.25F), left(64), right(64);
    resampler.push(in, in);
    EXPECT_EQ(resampler.room(), 0U);
    while (resampler.pull(left, right) == left.size()) {
      for (const float s : left) ASSERT_LT(std::abs(s), 0.3F);
    }
    EXPECT_GT(resampler.room(), 0U) << "what was read makes room";
  }
}

}  // namespace
}  // namespace ear
