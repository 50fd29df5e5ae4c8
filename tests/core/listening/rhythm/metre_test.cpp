// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/metre.h"

#include <gmock/gmock.h>

#include <cmath>

#include "core/listening/rhythm/beat_profile.h"
#include "core/listening/rhythm/feel.h"
#include "core/listening/rhythm/rhythm.h"
#include "support/activity.h"
#include "support/groove.h"

namespace ear {
namespace {

using test::Groove;

std::vector<Seconds> every(double step, double until) {
  std::vector<Seconds> list;
  for (double t = step; t < until; t += step) list.emplace_back(t);
  return list;
}

/// Chords of so many beats each, a bass under them.
test::Score chordsOf(const std::vector<int>& beatsEach, double beat) {
  const int roots[] = {36, 41, 43, 45};
  test::Score score;
  score.rest(beat);
  for (std::size_t i = 0; i < beatsEach.size(); ++i) {
    const int root = roots[i % 4];
    score.play({root, root + 24, root + 28, root + 31}, beat * beatsEach[i]);
  }
  return score;
}

const auto noTracking = [](Bpm, double) { return std::vector<Seconds>(); };

TEST(Metre, BarsOfThreeAndFourFollowTheHarmony) {
  for (const int meter : {3, 4}) {
    const auto score = chordsOf(std::vector<int>(16, meter), 0.5);
    Groove groove(score.length().value);
    for (double t = 0.5; t < score.length().value; t += 0.5) groove.strum(t, 0.8F).strum(t + 0.25, 0.4F);
    const Tactus counted{every(0.5, score.length().value)};
    const Bars bars = findBars(counted, groove.onsets(), score.notes());
    EXPECT_EQ(bars.meter, meter);
    ASSERT_GE(bars.first.size(), 15U);
    for (std::size_t i = 0; i + 1 < bars.first.size(); ++i)
      EXPECT_EQ(bars.first[i], i * static_cast<std::size_t>(meter));
  }
}

TEST(Metre, ChangesForALongStretch) {
  std::vector<int> lengths(12, 4);
  lengths.insert(lengths.end(), 16, 3);
  const auto score = chordsOf(lengths, 0.5);
  Groove groove(score.length().value);
  for (double t = 0.5; t < score.length().value; t += 0.5) groove.strum(t, 0.8F).strum(t + 0.25, 0.4F);
  const Bars bars = findBars({every(0.5, score.length().value)}, groove.onsets(), score.notes());
  ASSERT_GE(bars.first.size(), 26U);
  int fours = 0, threes = 0;
  for (std::size_t i = 0; i + 1 < bars.first.size(); ++i) {
    const auto length = bars.first[i + 1] - bars.first[i];
    fours += length == 4 ? 1 : 0;
    threes += length == 3 ? 1 : 0;
  }
  EXPECT_NEAR(fours, 12, 1);
  EXPECT_NEAR(threes, 16, 2);
}

TEST(Metre, WhatIsNeverDividedIsHalfABeat) {
  // Attacks at 150 a minute with a chord for each eight of them: beats at 75.
  const auto score = chordsOf(std::vector<int>(10, 8), 60.0 / 150);
  Groove groove(score.length().value);
  const auto tracked = every(60.0 / 150, score.length().value);
  for (const Seconds t : tracked) groove.strum(t.value, 0.8F);
  const auto counted = countedBeats(tracked, groove.onsets(), score.notes(), noTracking);
  EXPECT_NEAR((counted.beats[1] - counted.beats[0]).value, 60.0 / 75, 0.01);
  EXPECT_NEAR(counted.beats[0].value, 60.0 / 150, 0.01) << "on the beats where chords begin";
  EXPECT_NE(counted.reason, LevelReason::none);
}

TEST(Metre, ThirdsAllThroughAreCompoundTime) {
  const auto score = chordsOf(std::vector<int>(20, 2), 0.9);
  Groove groove(score.length().value);
  const auto tracked = every(0.9, score.length().value);
  for (const Seconds t : tracked) groove.kick(t.value).strum(t.value + 0.3, 0.5F).strum(t.value + 0.6, 0.5F);
  const auto counted = countedBeats(tracked, groove.onsets(), score.notes(), noTracking);
  EXPECT_TRUE(counted.threes);
  EXPECT_NEAR((counted.beats[1] - counted.beats[0]).value, 0.3, 0.01);
  EXPECT_EQ(findBars(counted, groove.onsets(), score.notes()).meter, 6);
}

TEST(Metre, OffBeatsThatWereTakenForBeatsAreLeft) {
  // Chords begin on the beats; the tracker holds on to the loud off-beats for most of it, then to the beats.
  const auto score = chordsOf(std::vector<int>(40, 4), 0.5);
  Groove groove(score.length().value);
  for (double t = 0.5; t < score.length().value; t += 0.5) groove.strum(t, 0.6F).strum(t + 0.25, 0.9F);
  std::vector<Seconds> tracked;
  for (double t = 0.75; t < 60; t += 0.5) tracked.emplace_back(t);
  for (double t = 60.5; t < score.length().value - 0.5; t += 0.5) tracked.emplace_back(t);
  // Followed anew at that tempo, the beats may come on either phase.
  const auto counted = countedBeats(tracked, groove.onsets(), score.notes(),
                                    [&](Bpm, double) { return every(0.5, score.length().value - 0.5); });
  std::size_t on = 0;
  for (const Seconds b : counted.beats) on += std::abs(std::remainder(b.value, 0.5)) < 0.05 ? 1 : 0;
  EXPECT_GT(static_cast<double>(on) / static_cast<double>(counted.beats.size()), 0.9);
}

/// Kick and snare in turn at 180 a minute, tracked at 90.
struct FastBackBeat {
  const double beat = 60.0 / 180;
  const test::Score score = chordsOf(std::vector<int>(16, 4), beat);
  Groove groove{score.length().value};
  std::vector<Seconds> tracked;

  FastBackBeat() {
    bool kick = true;
    for (double t = beat; t < score.length().value; t += beat, kick = !kick) {
      (kick ? groove.kick(t) : groove.snare(t)).strum(t + beat / 2, 0.4F);
      if (kick) tracked.emplace_back(t);
    }
  }
};

TEST(Metre, ASnareBetweenTheBeatsMakesThemTwo) {
  const FastBackBeat fast;
  const auto counted = countedBeats(fast.tracked, fast.groove.onsets(), fast.score.notes(), [&](Bpm near, double) {
    EXPECT_NEAR(near.value, 180, 2);
    return every(fast.beat, fast.score.length().value);
  });
  EXPECT_NEAR((counted.beats[1] - counted.beats[0]).value, fast.beat, 0.01);
}

TEST(Metre, BeatsInFourFasterThanAnyAreHalved) {
  // Sixteenths of a funky hundred, struck as strongly as the beats: tracked at two hundred and ten.
  const double beat = 60.0 / 105;
  const auto score = chordsOf(std::vector<int>(20, 4), beat);
  Groove groove(score.length().value);
  for (double t = beat; t < score.length().value; t += beat) groove.kick(t);
  for (double t = beat; t < score.length().value; t += beat / 4) groove.strum(t, 0.7F);
  const auto counted = countedBeats(every(beat / 2, score.length().value), groove.onsets(), score.notes(), noTracking);
  EXPECT_NEAR((counted.beats[1] - counted.beats[0]).value, beat, 0.01);
  EXPECT_EQ(counted.reason, LevelReason::twiceIsFast);
  EXPECT_FALSE(sentenceOf(counted.reason).empty());
}

TEST(Metre, SlowBeatsThatAreDividedInFourAreTwo) {
  const double beat = 60.0 / 54;
  const auto score = chordsOf(std::vector<int>(16, 4), beat / 2);
  Groove groove(score.length().value);
  const auto tracked = every(beat, score.length().value);
  for (const Seconds t : tracked) groove.strum(t.value, 0.8F).strum(t.value + beat / 4, 0.6F);
  const auto counted = countedBeats(tracked, groove.onsets(), score.notes(), [&](Bpm near, double) {
    EXPECT_NEAR(near.value, 108, 1);
    return every(beat / 2, score.length().value);
  });
  EXPECT_NEAR((counted.beats[1] - counted.beats[0]).value, beat / 2, 0.01);
  EXPECT_EQ(counted.reason, LevelReason::slowlyDivided);
}

TEST(Metre, SlowBeatsThatAreNotDividedStay) {
  const double beat = 60.0 / 54;
  const auto score = chordsOf(std::vector<int>(16, 4), beat);
  Groove groove(score.length().value);
  const auto tracked = every(beat, score.length().value);
  for (const Seconds t : tracked) groove.strum(t.value, 0.8F);
  EXPECT_EQ(countedBeats(tracked, groove.onsets(), score.notes(), noTracking).reason, LevelReason::none);
}

TEST(Metre, BarsOfSixAreOfEighths) {
  // A chord for each six: two bars of a waltz, or one of six eighths.
  for (const double tempo : {110.0, 170.0}) {
    const double beat = 60.0 / tempo;
    const auto score = chordsOf(std::vector<int>(16, 6), beat);
    Groove groove(score.length().value);
    for (double t = beat; t < score.length().value; t += beat) groove.strum(t, 0.7F);
    const Tactus counted{every(beat, score.length().value)};
    EXPECT_EQ(findBars(counted, groove.onsets(), score.notes()).meter, tempo < 128 ? 3 : 6) << tempo;
  }
}

TEST(Metre, BeatsStayWhereNothingIsFoundAnew) {
  // A tracker that is cancelled finds nothing; the beats known before are what is left.
  const FastBackBeat fast;
  EXPECT_EQ(countedBeats(fast.tracked, fast.groove.onsets(), fast.score.notes(), noTracking).beats, fast.tracked);
}

TEST(Feel, FindsHalfTimeAndDoubleTimePassages) {
  Groove groove(90);
  const auto beats = every(0.5, 90);
  Bars bars{.meter = 4};
  for (std::size_t i = 0; i + 4 < beats.size(); i += 4) bars.first.push_back(i);
  for (std::size_t bar = 0; bar < bars.first.size(); ++bar) {
    const double at = beats[bars.first[bar]].value;
    groove.kick(at);
    if (bar >= 12 && bar < 20)
      groove.snare(at + 1.0);
    else if (bar >= 30 && bar < 36)
      for (int k = 0; k < 4; ++k) groove.kick(at + 0.5 * k).snare(at + 0.5 * k + 0.25);
    else
      groove.snare(at + 0.5).kick(at + 1.0).snare(at + 1.5);
  }
  const auto found = feelChanges(beats, bars, groove.onsets());
  ASSERT_EQ(found.size(), 2U);
  EXPECT_EQ(found[0].feel, Feel::halfTime);
  EXPECT_NEAR(found[0].span.start.value, beats[48].value, 2.1);
  EXPECT_NEAR(found[0].span.end.value, beats[80].value, 2.1);
  EXPECT_EQ(found[1].feel, Feel::doubleTime);
  EXPECT_NEAR(found[1].span.start.value, beats[120].value, 2.1);
  EXPECT_TRUE(feelChanges(beats, bars, Groove(90).onsets()).empty());
}

BeatProfile profileWith(std::initializer_list<std::pair<double, double>> attacks) {
  BeatProfile profile;
  for (const auto& [share, how] : attacks)
    for (std::size_t i = 0; i < BeatProfile::kPlaces; ++i) {
      double off = std::abs(static_cast<double>(i) / BeatProfile::kPlaces - share);
      off = std::min(off, 1 - off);
      profile.strength[i] = std::max(profile.strength[i], how * std::exp(-off * off / 0.0002));
    }
  return profile;
}

TEST(Swing, OnEighthsAndOnSixteenths) {
  const auto straight = measureSwing(profileWith({{0, 1}, {0.5, 0.6}}));
  EXPECT_EQ(straight.ratio, 1.0);
  const auto triplet = measureSwing(profileWith({{0, 1}, {2.0 / 3, 0.5}}));
  EXPECT_NEAR(triplet.ratio, 2.0, 0.05);
  EXPECT_EQ(triplet.level, SwingLevel::eighths);
  // Sixteenths 1.7 : 1 : the second one of each half beat lies at 1.7 / 2.7 of it.
  const double late = 0.5 * 1.7 / 2.7;
  const auto shuffled = measureSwing(profileWith({{0, 1}, {late, 0.4}, {0.5, 0.7}, {0.5 + late, 0.4}}));
  EXPECT_EQ(shuffled.level, SwingLevel::sixteenths);
  EXPECT_NEAR(shuffled.ratio, 1.7, 0.1);
  const auto even = measureSwing(profileWith({{0, 1}, {0.25, 0.4}, {0.5, 0.7}, {0.75, 0.4}}));
  EXPECT_EQ(even.ratio, 1.0);
}

}  // namespace
}  // namespace ear
