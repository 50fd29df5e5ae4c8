// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/limiter.h"

#include <ebur128.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/playback/monitor.h"
#include "support/sounds.h"

namespace ear {
namespace {

/// True peak of interleaved stereo, by libebur128 (EBU R 128, ITU-R BS.1770).
double truePeak(const std::vector<float>& samples) {
  ebur128_state* state = ebur128_init(2, 44100, EBUR128_MODE_TRUE_PEAK);
  ebur128_add_frames_float(state, samples.data(), samples.size() / 2);
  double left = 0, right = 0;
  ebur128_true_peak(state, 0, &left);
  ebur128_true_peak(state, 1, &right);
  ebur128_destroy(&state);
  return std::max(left, right);
}

/// A tone on both sides, as an output plays it.
std::vector<float> tone(double hertz, double level, double phase, double seconds) {
  std::vector<float> samples;
  for (std::size_t i = 0; i < static_cast<std::size_t>(seconds * 44100); ++i) {
    const auto s =
        static_cast<float>(level * std::sin(2 * std::numbers::pi * hertz * static_cast<double>(i) / 44100 + phase));
    samples.push_back(s), samples.push_back(s);
  }
  return samples;
}

TEST(Limiter, LetsWhatIsUnderTheCeilingThroughBitForBit) {
  Limiter limiter;
  limiter.prepare(44100);
  const auto before = tone(997, 0.85, 0.3, 0.5);
  auto after = before;
  limiter.process(after);
  for (std::size_t i = 2 * Limiter::kDelay; i < after.size(); ++i)
    ASSERT_EQ(after[i], before[i - 2 * Limiter::kDelay]) << i;
  EXPECT_EQ(limiter.reduction(), 1.0F);
}

TEST(Limiter, HoldsTheTruePeak) {
  // A quarter of the sampling rate at an angle of 45 degrees has samples 3 dB under its true peak (EBU Tech 3341,
  // case 15 and after, use such tones).
  for (const auto& [hertz, level, phase] :
       {std::tuple{11025.0, 1.3, std::numbers::pi / 4}, {997.0, 2.0, 0.0}, {5003.0, 1.5, 1.0}, {60.0, 4.0, 0.0}}) {
    Limiter limiter;
    limiter.prepare(44100);
    auto samples = tone(hertz, level, phase, 1.0);
    limiter.process(samples);
    EXPECT_LT(truePeak(samples), Limiter::kCeiling * std::pow(10, 0.3 / 20)) << hertz;
    EXPECT_GT(truePeak(samples), 0.7) << hertz;  // and does not turn down more than it must
    EXPECT_LT(limiter.reduction(), 0.95F);
  }
}

TEST(Limiter, ComesBackAfterAPeak) {
  Limiter limiter;
  limiter.prepare(44100);
  auto loud = tone(400, 3.0, 0, 0.1), soft = tone(400, 0.5, 0, 2.0);
  limiter.process(loud);
  const auto before = soft;
  limiter.process(soft);
  for (std::size_t i = soft.size() / 2; i < soft.size(); ++i) ASSERT_EQ(soft[i], before[i - 2 * Limiter::kDelay]);
}

TEST(Monitor, ReadsALevelEverySecond) {
  Monitor monitor;
  monitor.prepare(44100);
  auto samples = tone(1000, 0.5, 0, 2.5);
  for (std::size_t at = 0; at + 1024 <= samples.size(); at += 1024)
    monitor.process(std::span(samples).subspan(at, 1024));
  EXPECT_EQ(monitor.newest().number, 2U);
  EXPECT_NEAR(monitor.newest().meanSquare, 0.125, 0.002);
  EXPECT_NEAR(monitor.newest().seconds, 1.0, 0.02);
}

}  // namespace
}  // namespace ear
