// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/pitch_map.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "support/sounds.h"

namespace ear {
namespace {

std::vector<float> columnOf(const Recording& sound, double seconds, Cents offset = Cents(0), PitchMap::Mix mix = {}) {
  PitchMap map(sound.sampleRate, offset);
  std::vector<float> column(PitchMap::kRows);
  map.column(sound, std::llround(seconds * sound.sampleRate), mix, column);
  return column;
}

int strongest(const std::vector<float>& column) {
  return static_cast<int>(std::max_element(column.begin(), column.end()) - column.begin());
}

/// A tone as loud as one note of a mix.
Recording tone(double hertz, int rate = 44100) {
  return test::soundOf(1.0, rate, [hertz](double t) { return 0.1 * std::sin(2 * std::numbers::pi * hertz * t); });
}

double hertzOf(double midi, double cents = 0) {
  return 440 * std::exp2((midi - 69 + cents / 100) / 12);
}

TEST(PitchMap, APureToneLiesOnItsRow) {
  for (const int rate : {44100, 48000, 96000})
    for (const int midi : {40, 52, 64, 76, 88}) {
      const auto column = columnOf(tone(hertzOf(midi), rate), 0.5);
      EXPECT_EQ(strongest(column), static_cast<int>(PitchMap::rowOf(midi))) << midi << " at " << rate;
      // A semitone off it is clearly weaker.
      EXPECT_LT(column[static_cast<std::size_t>(PitchMap::rowOf(midi + 2))], 0.6F) << midi;
    }
}

TEST(PitchMap, RowsFollowTheRecordingsOwnPitch) {
  const auto sound = tone(hertzOf(64, 38));
  EXPECT_EQ(strongest(columnOf(sound, 0.5, Cents(38))), static_cast<int>(PitchMap::rowOf(64)));
  EXPECT_EQ(strongest(columnOf(sound, 0.5)), static_cast<int>(PitchMap::rowOf(64)) + 1);
}

TEST(PitchMap, WhatWasPlayedStandsOutOverItsOvertones) {
  // A string: overtones falling by 1 / h (Fletcher & Rossing, The Physics of Musical Instruments, ch. 2).
  const auto sound = test::soundOf(1.0, 44100, [](double t) {
    double sum = 0;
    for (int h = 1; h <= 8; ++h) sum += 0.1 / h * std::sin(2 * std::numbers::pi * hertzOf(45) * h * t);
    return sum;
  });
  const auto column = columnOf(sound, 0.5);
  EXPECT_EQ(strongest(column), static_cast<int>(PitchMap::rowOf(45)));
  for (const int overtone : {57, 64, 69, 76, 81})
    EXPECT_LT(column[static_cast<std::size_t>(PitchMap::rowOf(overtone))],
              0.75F * column[static_cast<std::size_t>(PitchMap::rowOf(45))])
        << overtone;
}

TEST(PitchMap, ShowsOneSideAndSilence) {
  Recording sound = tone(hertzOf(60));
  sound.channels[1] = tone(hertzOf(67)).channels[0];
  EXPECT_EQ(strongest(columnOf(sound, 0.5, Cents(0), {1, 0})), static_cast<int>(PitchMap::rowOf(60)));
  EXPECT_EQ(strongest(columnOf(sound, 0.5, Cents(0), {0, 1})), static_cast<int>(PitchMap::rowOf(67)));
  const auto after = columnOf(sound, 5.0);
  EXPECT_EQ(after[static_cast<std::size_t>(strongest(after))], 0.0F);
}

}  // namespace
}  // namespace ear
