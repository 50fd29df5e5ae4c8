// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/backing.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <set>

#include "core/practice/practice_audio.h"
#include "support/sounds.h"

namespace ear {
namespace {

constexpr int kRate = 44100;

/// Two bars of four at 120 from 1 s on.
Grid grid() {
  Grid g;
  for (int i = 0; i <= 8; ++i) g.push_back({Seconds(1 + 0.5 * i), i % 4 == 0, false});
  return g;
}

ShownChord chord(double from, double to, const char* name, double certainty = 0.9) {
  return {{Seconds(from), Seconds(to)}, parseChord(name), Origin::measured, certainty};
}

constexpr TimeSpan kTwoBars{Seconds(1), Seconds(5)};

std::set<int> pitchClassesAt(const std::vector<WrittenLine::Strike>& strikes, double from, double to) {
  std::set<int> sounding;
  for (const auto& s : strikes)
    if (s.from >= from * kRate && s.from < to * kRate)
      sounding.insert(static_cast<int>(std::lround(69 + 12 * std::log2(s.pluck.pitch.value / 440))) % 12);
  return sounding;
}

TEST(Backing, StrumsEachChordOnItsBeats) {
  const std::vector chords{chord(1, 3, "C"), chord(3, 5, "Am")};
  const auto strikes = strummed(kTwoBars, grid(), chords, {}, {}, kRate);
  EXPECT_EQ(pitchClassesAt(strikes, 1, 3), (std::set{0, 4, 7})) << "C E G";
  EXPECT_EQ(pitchClassesAt(strikes, 3, 5), (std::set{9, 0, 4})) << "A C E";
  double first = 0, other = 0, between = 0;
  for (const auto& s : strikes) {
    EXPECT_GE(s.from, kTwoBars.start.value * kRate);
    EXPECT_LE(s.until, kTwoBars.end.value * kRate);
    EXPECT_LT(s.from, s.until);
    const double beat = (s.from / kRate - 1) / 0.5, within = beat - std::floor(beat);
    (within > 0.4 ? between : std::fmod(std::floor(beat), 4) == 0 ? first : other) = s.pluck.level;
  }
  EXPECT_GT(first, other);
  EXPECT_GT(other, between);
  EXPECT_GT(between, 0) << "up between the beats";
  // A string never sounds twice at once.
  for (const auto& a : strikes)
    for (const auto& b : strikes)
      EXPECT_TRUE(&a == &b || a.string != b.string || a.until <= b.from || b.until <= a.from);
}

TEST(Backing, LowStringsComeFirstGoingDownAndUpstrokesFollowTheSwing) {
  const std::vector chords{chord(1, 5, "Em")};
  const auto strikes = strummed(kTwoBars, grid(), chords, {2.0, SwingLevel::eighths}, {}, kRate);
  std::vector<std::size_t> down;
  double up = 0;
  for (const auto& s : strikes) {
    if (s.from < 1.2 * kRate) down.push_back(s.string);
    if (s.from > 1.25 * kRate && s.from < 1.5 * kRate && up == 0) up = s.from / kRate;
  }
  EXPECT_TRUE(std::is_sorted(down.begin(), down.end()));
  EXPECT_EQ(down.size(), 6U) << "E minor rings on all six";
  EXPECT_NEAR(up, 1 + 0.5 * 2 / 3, 0.001) << "two thirds into the beat";
}

TEST(Backing, AGuessIsNotStrummed) {
  const std::vector chords{chord(1, 3, "C", 0.3), chord(3, 5, "G")};
  const auto strikes = strummed(kTwoBars, grid(), chords, {}, {}, kRate);
  EXPECT_TRUE(pitchClassesAt(strikes, 1, 2.95).empty());
  EXPECT_FALSE(pitchClassesAt(strikes, 3, 5).empty());
}

TEST(Backing, SoundsWithoutTheRecordingAndWithAClick) {
  Recording loud = test::sine(1000, 6.0, kRate);
  loud.channels.push_back(loud.channels.front());
  PracticeAudio wanted{.span = kTwoBars, .speeds = {1.0}, .times = 1, .clicks = 0};
  wanted.recordingSounds = false;
  wanted.ticks = ticksIn(kTwoBars, grid(), kRate);
  EXPECT_EQ(wanted.ticks.size(), 8U);
  const auto clicks = renderPractice(std::make_shared<const Recording>(loud), wanted, {});
  ASSERT_TRUE(clicks);
  const auto loudest = [&](double from, double to) {
    float most = 0;
    for (auto i = static_cast<std::size_t>(from * kRate); i < static_cast<std::size_t>(to * kRate); ++i)
      most = std::max(most, std::abs(clicks->channels[0][i]));
    return most;
  };
  EXPECT_GT(loudest(0.0, 0.1), 0.1F) << "the first beat";
  EXPECT_LT(loudest(0.3, 0.48), 0.01F) << "nothing of the recording between two";
  EXPECT_GT(loudest(0.48, 0.6), 0.1F) << "the second one";
}

}  // namespace
}  // namespace ear
