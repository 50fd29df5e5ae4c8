// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/player.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "support/playing.h"
#include "support/sounds.h"

namespace ear {
namespace {

using test::cents;
using test::Deck;
using test::listen;

/// Clicks at given times, each a short decaying burst.
Recording clicks(double seconds, const std::vector<double>& times) {
  return test::soundOf(seconds, 44100, [&](double t) {
    double sum = 0;
    for (const double at : times)
      if (t >= at && t < at + 0.03)
        sum += 0.8 * std::exp(-(t - at) * 200) * std::sin(2 * std::numbers::pi * 1500 * (t - at) + 1.5);
    return sum;
  });
}

std::size_t loudest(std::span<const float> part) {
  return static_cast<std::size_t>(
      std::max_element(part.begin(), part.end(), [](float a, float b) { return std::abs(a) < std::abs(b); }) -
      part.begin());
}

TEST(Player, PlaysTheSamplesThemselvesAtFullSpeedAndPitch) {
  Player player;
  const auto recording = test::demoTake("studio");
  player.load(Track(recording));
  player.seek(Seconds(20));
  player.play();
  const auto heard = listen(player, 1.0);
  // After the ramp from silence every sample is the recording's own.
  std::size_t delay = 0;
  while (delay < 2048 && heard[4096] != recording->left()[20 * 44100 + 4096 - delay]) ++delay;
  for (std::size_t i = 4096; i < heard.size(); ++i) ASSERT_EQ(heard[i], recording->left()[20 * 44100 + i - delay]);
}

TEST(Player, TheRecordingGoesToOneEarOrFallsSilentWhileWhatFollowsItSounds) {
  Deck player(test::sine(440.0, 4.0));
  player.play();
  listen(player, 0.2);
  const auto levels = [&](double level, double toLeft) {
    player.setRecordingPlace(level, toLeft);
    listen(player, 0.1);  // the change is ramped
    std::vector<float> block(2 * 8192);
    player.render(block);
    std::pair<double, double> sums;
    for (std::size_t i = 0; i < block.size(); i += 2) {
      sums.first += std::abs(static_cast<double>(block[i]));
      sums.second += std::abs(static_cast<double>(block[i + 1]));
    }
    return sums;
  };
  const auto whole = levels(1, 0), left = levels(1, 1), none = levels(0, 0);
  EXPECT_NEAR(whole.first, whole.second, 1e-3 * whole.first);
  EXPECT_NEAR(left.first, std::numbers::sqrt2 * whole.first, 0.02 * whole.first) << "both channels in one ear";
  EXPECT_EQ(left.second, 0.0);
  EXPECT_EQ(none.first, 0.0);
}

class AtSpeed : public testing::TestWithParam<std::pair<double, double>> {};

TEST_P(AtSpeed, PitchIsKeptOrMovedAsAsked) {
  const auto [speed, shift] = GetParam();
  Deck player(test::sine(440.0, 8.0));
  player.setPlayback({speed, Cents(shift)});
  player.seek(Seconds(1));
  player.play();
  const auto heard = listen(player, 2.0);
  const double wanted = 440.0 * std::exp2(shift / 1200);
  EXPECT_NEAR(cents(test::frequencyOf(std::span(heard).subspan(22050, 44100), 44100, wanted), wanted), 0.0, 2.0);
}

TEST_P(AtSpeed, WhatIsHeardIsWhatThePositionSays) {
  const auto [speed, shift] = GetParam();
  Deck player(clicks(6.0, {2.0}));
  player.setPlayback({speed, Cents(shift)});
  player.seek(Seconds(1));
  player.play();
  std::vector<float> buffer(512), heard;
  double clickPosition = 0, loudestYet = 0;
  while (player.position() < Seconds(3)) {
    const Seconds before = player.position();
    player.render(buffer);
    for (std::size_t i = 0; i < buffer.size(); i += 2)
      if (std::abs(buffer[i]) > loudestYet)
        loudestYet = std::abs(buffer[i]), clickPosition = before.value + static_cast<double>(i) / 2 / 44100 * speed;
  }
  // The stretcher smears an attack by some milliseconds; the place itself must hold.
  EXPECT_NEAR(clickPosition, 2.0, 0.012);
}

INSTANTIATE_TEST_SUITE_P(Settings, AtSpeed,
                         testing::Values(std::pair{1.0, 0.0}, std::pair{0.2, 0.0}, std::pair{0.5, 0.0},
                                         std::pair{0.6, -12.0}, std::pair{0.8, 88.0}, std::pair{1.0, 1200.0},
                                         std::pair{1.0, -1200.0}, std::pair{1.5, 0.0}, std::pair{0.6, 700.0},
                                         std::pair{1.5, -500.0}));

class LoopAt : public testing::TestWithParam<double> {};

TEST_P(LoopAt, EveryRepetitionHasTheSameLengthToTheSample) {
  const double speed = GetParam();
  Deck player(*test::demoTake("studio"));
  const TimeSpan loop{Seconds(10.0), Seconds(11.2)};
  player.setPlayback({speed, Cents(0)});
  player.setLoop(loop);
  player.seek(loop.start);
  player.play();
  const auto length = static_cast<std::size_t>(std::lround(1.2 * 44100 / speed));
  const auto heard = listen(player, 5.2 * static_cast<double>(length) / 44100);
  // The lag at which each repetition is most like the next one. (They are not equal bit for bit: the stretcher keeps a
  // trace of what it played before.)
  for (std::size_t k = 1; k < 4; ++k) {
    std::size_t best = 0;
    double least = 1e9;
    for (std::size_t lag = length - 20; lag <= length + 20; ++lag) {
      double difference = 0;
      for (std::size_t i = k * length + length / 4; i < k * length + length / 2; ++i)
        difference += std::abs(heard[i] - heard[i + lag]);
      if (difference < least) least = difference, best = lag;
    }
    EXPECT_EQ(best, length) << "repetition " << k;
  }
}

TEST_P(LoopAt, TheSeamHasNoClick) {
  const double speed = GetParam();
  // A tone that does not fit the loop: its phase breaks at the seam, and only a crossfade keeps that smooth.
  Deck player(test::sine(311.0, 6.0));
  player.setPlayback({speed, Cents(0)});
  player.setLoop(TimeSpan{Seconds(2.0), Seconds(2.5037)});
  player.seek(Seconds(2.0));
  player.play();
  const auto heard = listen(player, 4.0);
  const double steepest = 0.5 * 2 * std::numbers::pi * 311.0 / 44100;  // of the tone itself, sample to sample
  double jump = 0;
  for (std::size_t i = 4000; i < heard.size(); ++i)
    jump = std::max(jump, static_cast<double>(std::abs(heard[i] - heard[i - 1])));
  EXPECT_LT(jump, 1.9 * steepest);
}

INSTANTIATE_TEST_SUITE_P(Speeds, LoopAt, testing::Values(1.0, 0.8, 0.6, 0.5, 0.2, 1.5));

TEST(Player, HeardLoopStartsWithTheAttackAtItsEdge) {
  Deck player(clicks(6.0, {2.0, 2.3}));
  player.setLoop(TimeSpan{Seconds(2.0), Seconds(3.0)});
  player.seek(Seconds(2.0));
  player.play();
  const auto heard = listen(player, 4.0);
  const std::size_t first = 44100 + loudest(std::span(heard).subspan(44100 - 2000, 6000)) - 2000;
  const std::size_t second = 2 * 44100 + loudest(std::span(heard).subspan(2 * 44100 - 2000, 6000)) - 2000;
  EXPECT_EQ(second - first, 44100U);
}

TEST(Player, ChangesAreHeardWithinATenthOfASecond) {
  Deck player(test::sine(440.0, 20.0));
  player.setPlayback({0.5, Cents(0)});
  player.play();
  listen(player, 1.0);
  player.setPlayback({0.5, Cents(200)});
  const auto heard = listen(player, 0.4);
  const double wanted = 440.0 * std::exp2(200.0 / 1200);
  EXPECT_NEAR(cents(test::frequencyOf(std::span(heard).subspan(4410, 8820), 44100, wanted), wanted), 0.0, 6.0);

  const Seconds before = player.position();
  player.setPlayback({1.0, Cents(200)});
  listen(player, 0.1);
  const Seconds changed = player.position();
  listen(player, 0.5);
  EXPECT_NEAR((player.position() - changed).value, 0.5, 0.02);
  EXPECT_GT(changed, before);
}

TEST(Player, LoopEdgesMoveWhilePlaying) {
  Deck player(test::sine(440.0, 20.0));
  player.setLoop(TimeSpan{Seconds(2.0), Seconds(6.0)});
  player.seek(Seconds(2.0));
  player.play();
  listen(player, 1.0);
  player.setLoop(TimeSpan{Seconds(8.0), Seconds(9.0)});
  listen(player, 0.1);
  EXPECT_GE(player.position(), Seconds(8.0));
  for (int i = 0; i < 40; ++i) {
    listen(player, 0.1);
    ASSERT_GE(player.position(), Seconds(7.99));
    ASSERT_LE(player.position(), Seconds(9.01));
  }
}

TEST(Player, NeverJumpsInLevel) {
  Deck player(test::sine(200.0, 20.0));
  const double steepest = 0.5 * 2 * std::numbers::pi * 200.0 / 44100;
  std::vector<float> all;
  const auto hear = [&](double seconds) {
    const auto part = listen(player, seconds, 256);
    all.insert(all.end(), part.begin(), part.end());
  };
  hear(0.1);
  player.play(), hear(0.5);
  player.seek(Seconds(7.313)), hear(0.3);
  player.setPlayback({0.7, Cents(0)}), hear(0.5);
  player.pause(), hear(0.3);
  player.seek(Seconds(3.1)), player.play(), hear(0.4);
  player.setLoop(TimeSpan{Seconds(3.0), Seconds(3.4)}), hear(1.5);
  player.setPlayback({1.0, Cents(0)}), hear(1.0);
  player.pause(), hear(0.2);
  for (std::size_t i = 1; i < all.size(); ++i) ASSERT_LT(std::abs(all[i] - all[i - 1]), 2.5 * steepest) << "at " << i;
}

TEST(Player, ASeamThatItsVoiceIsNotReadyForWaitsAMomentAndTheNextOnesAreExact) {
  Deck player(test::sine(200.0, 6.0));
  player.setPlayback({.speed = 0.3, .shift = Cents(700)});
  const TimeSpan loop{Seconds(2), Seconds(3)};
  player.setLoop(loop);
  player.play();
  listen(player, 0.5);
  player.seek(Seconds(2.995));  // 17 ms of output before the end
  std::vector<float> block(2);
  std::vector<std::int64_t> seams;
  std::uint32_t played = player.place().played;
  for (std::int64_t i = 0; seams.size() < 3 && i < 10 * 44100; ++i) {
    player.render(block);
    if (player.place().played != played) seams.push_back(i), played = player.place().played;
  }
  ASSERT_EQ(seams.size(), 3U);
  EXPECT_LT(seams[0], 44100 / 4) << "late by the priming, no more";
  EXPECT_NEAR(static_cast<double>(seams[1] - seams[0]), 44100 / 0.3, 1.5);
  EXPECT_NEAR(static_cast<double>(seams[2] - seams[1]), 44100 / 0.3, 1.5);
}

TEST(Player, StopsAtTheEndAndRefusesNoPosition) {
  Deck player(test::sine(200.0, 1.0));
  player.seek(Seconds(99));
  EXPECT_EQ(player.position(), Seconds(1.0));
  player.seek(Seconds(-5));
  EXPECT_EQ(player.position(), Seconds(0.0));
  player.play();
  listen(player, 1.2);
  EXPECT_FALSE(player.playing());
}

TEST(Player, KeepsWithinItsLimits) {
  Deck player(test::sine(200.0, 1.0));
  player.setPlayback({0.01, Cents(9999)});
  EXPECT_EQ(player.sounding(), (PlaybackSettings{0.2, Cents(1200)}));
  player.setLoop(TimeSpan{Seconds(0.5), Seconds(0.5001)});
  EXPECT_GE(player.loop()->length(), Seconds(0.0999));
}

}  // namespace
}  // namespace ear
