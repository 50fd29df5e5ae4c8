// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/onsets.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "support/sounds.h"

namespace ear {
namespace {

constexpr double kTwoPi = 2 * std::numbers::pi;

/// A string struck every `each` seconds from `first` on.
double plucked(double t, double first, double each, double hertz = 220) {
  if (t < first) return 0;
  const double since = std::fmod(t - first, each);
  double sum = 0;
  for (int k = 1; k <= 5; ++k) sum += std::exp(-since * (3 + k)) / k * std::sin(kTwoPi * hertz * k * since);
  return 0.3 * sum;
}

OnsetStrength onsetsOf(const Recording& recording) {
  return measureOnsets(measureLogBandSpectrogram(listeningMono(recording), {}));
}

float strongest(const std::vector<float>& strength) {
  return *std::max_element(strength.begin(), strength.end());
}

TEST(Onsets, EachStrokeIsAnAttackAndNothingElseIs) {
  const auto sound = test::soundOf(6.0, 44100, [](double t) { return plucked(t, 0.5, 0.45); });
  const auto attacks = attacksIn(sound, {Seconds(0), Seconds(6)});
  ASSERT_EQ(attacks.size(), 13U) << attacks.front().value << " ... " << attacks.back().value;
  for (std::size_t i = 0; i < attacks.size(); ++i)
    EXPECT_NEAR(attacks[i].value, 0.5 + 0.45 * static_cast<double>(i), 0.02) << i;
}

TEST(Onsets, APartIsAskedForByItself) {
  const auto sound = test::soundOf(6.0, 44100, [](double t) { return plucked(t, 0.5, 0.45); });
  const auto attacks = attacksIn(sound, {Seconds(2), Seconds(3)});
  ASSERT_EQ(attacks.size(), 2U);
  EXPECT_NEAR(attacks[0].value, 2.30, 0.02);
  EXPECT_NEAR(attacks[1].value, 2.75, 0.02);
}

// The point of the maximum filter: a vibrato of half a semitone, six times a second, starts nothing (Boeck & Widmer
// 2013).
TEST(Onsets, VibratoStartsNothing) {
  double phase = 0;
  const auto voice = test::soundOf(6.0, 44100, [&](double t) {
    if (t < 1) return plucked(t, 0.5, 10);
    phase += kTwoPi * 440 * std::exp2(0.5 / 12 * std::sin(kTwoPi * 6 * t)) / 44100;
    return 0.2 * std::min(1.0, (t - 1) / 1.5) * std::sin(phase);
  });
  const auto onsets = onsetsOf(voice);
  const float struck = strongestNear(onsets.all, onsets.clock, Seconds(0.5), 0.05);
  for (double t = 3; t < 5.4; t += 0.1)
    EXPECT_LT(strongestNear(onsets.all, onsets.clock, Seconds(t), 0.05), 0.4F * struck) << t;
}

TEST(Onsets, WhatIsHeldIsNotLivelyAndWhatIsPlayedIs) {
  EXPECT_LT(onsetsOf(test::sine(440, 5)).liveliness, 0.01);
  EXPECT_GT(onsetsOf(test::soundOf(5.0, 44100, [](double t) { return plucked(t, 0.3, 0.4); })).liveliness, kLively);
}

TEST(Onsets, LowAndHighAreToldApart) {
  std::mt19937 random(3);
  std::normal_distribution<double> normal(0, 0.2);
  // A thump of 60 Hz each second, a hiss between.
  const auto sound = test::soundOf(6.0, 44100, [&](double t) {
    const double thump = std::fmod(t, 1.0), hiss = std::fmod(t + 0.5, 1.0);
    return 0.5 * std::exp(-20 * thump) * std::sin(kTwoPi * 60 * thump) + std::exp(-40 * hiss) * normal(random);
  });
  const auto onsets = onsetsOf(sound);
  const auto at = [&](const std::vector<float>& s, double t) {
    return strongestNear(s, onsets.clock, Seconds(t), 0.05);
  };
  for (const double t : {2.0, 3.0, 4.0}) {
    EXPECT_GT(at(onsets.kick, t), 2 * at(onsets.kick, t + 0.5)) << t;
    EXPECT_GT(at(onsets.snare, t + 0.5), 2 * at(onsets.snare, t)) << t;
    EXPECT_GT(at(onsets.high, t + 0.5), 2 * at(onsets.high, t)) << t;
  }
}

TEST(Onsets, OfSilenceAreNone) {
  const auto onsets = onsetsOf(test::soundOf(3.0, 44100, [](double) { return 0.0; }));
  EXPECT_TRUE(peaksOf(onsets.all, 0.1F).empty());
  EXPECT_LT(strongest(onsets.all), 0.1F);
}

TEST(Onsets, PeaksAreGreatestAmongTheirNeighbours) {
  const std::vector<float> strength{0, 0.2F, 0.9F, 0.3F, 0, 0, 0.5F, 0.1F, 0};
  EXPECT_EQ(peaksOf(strength, 0.4F), (std::vector<std::size_t>{2, 6}));
  EXPECT_EQ(peaksOf(strength, 0.6F), (std::vector<std::size_t>{2}));
  EXPECT_TRUE(peaksOf({}, 0.1F).empty());
}

}  // namespace
}  // namespace ear
