// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/strokes.h"

#include <gmock/gmock.h>

#include <cmath>
#include <numbers>

#include "core/listening/rhythm/micro_timing.h"
#include "support/sounds.h"

namespace ear {
namespace {

constexpr double kTwoPi = 2 * std::numbers::pi;

/// A string with overtones, struck `rate` times a second.
Recording picked(double rate, double seconds) {
  return test::soundOf(seconds, 44100, [rate](double t) {
    const double since = std::fmod(t, 1 / rate);
    double sum = 0;
    for (int h = 1; h <= 6; ++h) sum += std::sin(kTwoPi * 330 * h * since) * std::exp(-since * (6 + 3 * h)) / h;
    return 0.3 * sum;
  });
}

/// The same string held, with a wave of loudness over it.
Recording tremolo(double rate, double depth, double seconds) {
  return test::soundOf(seconds, 44100, [=](double t) {
    double sum = 0;
    for (int h = 1; h <= 6; ++h) sum += std::sin(kTwoPi * 330 * h * t) / h;
    return 0.25 * std::exp(-0.3 * t) * sum * (1 - depth / 2 + depth / 2 * std::cos(kTwoPi * rate * t));
  });
}

TEST(Strokes, PickingHasAnAttackEachTime) {
  for (const double rate : {5.0, 7.5, 11.0}) {
    const auto found = measureStrokes(picked(rate, 3.0));
    EXPECT_EQ(found.repeats, Repeats::picked) << rate << ": " << found.evidence << " " << found.attacks.size();
    EXPECT_NEAR(found.rate.value, rate, 0.15);
    EXPECT_NEAR(static_cast<double>(found.attacks.size()), 3.0 * rate, 1.0);
  }
}

TEST(Strokes, AnEffectIsAWaveWithoutAttacks) {
  for (const double rate : {4.0, 6.3, 8.0}) {
    const auto found = measureStrokes(tremolo(rate, 0.7, 3.0));
    EXPECT_EQ(found.repeats, Repeats::tremolo) << rate << ": " << found.evidence;
    EXPECT_NEAR(found.rate.value, rate, 0.15);
    EXPECT_NEAR(found.depth, 0.7, 0.15);
  }
}

TEST(Strokes, AHeldNoteIsNeither) {
  EXPECT_EQ(measureStrokes(test::sine(330, 3.0)).repeats, Repeats::none);
  EXPECT_EQ(measureStrokes(test::soundOf(2.0, 44100, [](double) { return 0.0; })).repeats, Repeats::none);
}

TEST(Strokes, NoteValuesAtATempo) {
  // At 120 beats a minute a beat lasts half a second: arithmetic.
  EXPECT_EQ(noteValueOf(Hertz(8), Bpm(120)), "sixteenths");
  EXPECT_EQ(noteValueOf(Hertz(6.1), Bpm(120)), "eighth triplets");
  EXPECT_EQ(noteValueOf(Hertz(4), Bpm(120)), "eighths");
  EXPECT_EQ(noteValueOf(Hertz(5), Bpm(120)), "");
}

std::vector<Seconds> times(std::initializer_list<double> values) {
  std::vector<Seconds> list;
  for (const double v : values) list.emplace_back(v);
  return list;
}

TEST(MicroTiming, SaysWhichSixteenthAndHowLate) {
  const auto beats = times({1.0, 1.5, 2.0, 2.5, 3.0, 3.5, 4.0, 4.5, 5.0}), downbeats = times({1.0, 3.0, 5.0});
  const auto placed = placeAttacks(times({0.2, 1.0, 1.13, 1.74, 2.99, 3.515, 4.385}), beats, downbeats);
  ASSERT_EQ(placed.size(), 6U);  // the one before the grid is left out
  const auto expect = [&](std::size_t i, int bar, int beat, int part, double late) {
    EXPECT_EQ(placed[i].bar, bar) << i;
    EXPECT_EQ(placed[i].beat, beat) << i;
    EXPECT_EQ(placed[i].part, part) << i;
    EXPECT_NEAR(placed[i].late.value, late, 1e-9) << i;
  };
  expect(0, 1, 1, 0, 0.0);
  expect(1, 1, 1, 1, 0.005);
  expect(2, 1, 2, 2, -0.01);
  expect(3, 2, 1, 0, -0.01);  // ahead of the next bar's first beat
  expect(4, 2, 2, 0, 0.015);
  expect(5, 2, 3, 3, 0.01);
  EXPECT_NEAR(meanLateness(placed).value, 0.01 / 6, 1e-9);
}

TEST(MicroTiming, ThirdsWhereTheFeelIsShuffled) {
  const auto beats = times({0, 0.6, 1.2, 1.8, 2.4});
  const auto placed = placeAttacks(times({0.0, 0.41, 0.6, 1.0, 1.2, 1.605}), beats, times({0}));
  ASSERT_EQ(placed.size(), 6U);
  EXPECT_EQ(placed[1].parts, 3);
  EXPECT_EQ(placed[1].part, 2);
  EXPECT_NEAR(placed[1].late.value, 0.01, 1e-9);
}

}  // namespace
}  // namespace ear
