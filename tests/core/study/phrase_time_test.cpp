// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/phrase_time.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "support/phrases.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::SizeIs;

/// Beats at 100 a minute from 1 s on, bars as long as the list says, then over and over its last.
Grid grid(std::vector<int> bars, std::size_t beats = 64, int pickup = 0, double tempo = 100) {
  Grid g;
  int left = pickup;
  std::size_t bar = 0;
  for (std::size_t i = 0; i < beats; ++i) {
    const bool begins = left == 0;
    if (begins) left = bars[std::min(bar++, bars.size() - 1)];
    --left;
    g.push_back({Seconds(1.0 + 60.0 / tempo * static_cast<double>(i)), begins, false});
  }
  return g;
}

Phrase phraseAt(double start) {
  Phrase p = test::phrase("p", {});
  p.span = {Seconds(start), Seconds(start + 4)};
  return p;
}

TEST(PhraseTime, ItsFirstBeatIsTheSixteenthNearestToItsStart) {
  const TimeMap map(grid({4}), {});
  const Phrase phrase = phraseAt(1.0 + 0.6 * 4 + 0.02);
  const PhraseTime time(phrase, map);
  EXPECT_NEAR(time.timeOf(0).value, 3.4, 1e-9);
  EXPECT_NEAR(time.timeOf({1, 2}).value, 3.7, 1e-9);
  EXPECT_NEAR(time.placeOf(Seconds(4.0)), 1.0, 1e-9);
}

TEST(PhraseTime, NotesFollowTheGridWhenItIsCorrected) {
  const Note n = test::note(1, 3, 5, 2, 1);
  const Phrase phrase = phraseAt(1.0);
  const TimeMap before(grid({4}), {}), after(grid({4}, 64, 0, 120), {});
  EXPECT_NEAR(PhraseTime(phrase, before).spanOf(n)->start.value, 2.2, 1e-9);
  EXPECT_NEAR(PhraseTime(phrase, after).spanOf(n)->start.value, 2.0, 1e-9);
}

TEST(PhraseTime, WhereNoBeatIsKnownOnlySecondsCount) {
  const TimeMap none;
  const Phrase phrase = phraseAt(1.0);
  const PhraseTime time(phrase, none);
  Note n = test::note(1, 3, 5);
  EXPECT_FALSE(time.spanOf(n));
  n.free = TimeSpan{Seconds(2), Seconds(3)};
  EXPECT_EQ(time.spanOf(n), n.free);
}

TEST(PhraseTime, BarLinesOfOddBarsAndPickups) {
  const TimeMap odd(grid({4, 3, 4}), {});
  const Phrase phrase = phraseAt(1.0 + 0.6 * 2);  // on beat 3 of bar 1
  EXPECT_THAT(PhraseTime(phrase, odd).barLines(0, 8), ElementsAre(-2, 2, 5, 9));
  const TimeMap pickup(grid({4}, 64, 1), {});
  const Phrase early = phraseAt(1.0);
  EXPECT_THAT(PhraseTime(early, pickup).barLines(0, 6), ElementsAre(1, 5, 9));
  const TimeMap shortGrid(grid({4}, 6), {});
  const Phrase late = phraseAt(1.0);
  EXPECT_THAT(PhraseTime(late, shortGrid).barLines(0, 12), SizeIs(testing::Ge(4U))) << "they go on after the grid";
}

TEST(Quantised, WhatIsPlayedALittleOffComesBackToWhereItIsWritten) {
  std::mt19937 random(3);
  std::normal_distribution<double> off(0.0, 0.012);
  const TimeMap map(grid({4}), {});
  const Phrase phrase = phraseAt(1.0);
  const PhraseTime time(phrase, map);
  const std::vector<Beats> written = {0, Beats(1, 2), 1,           Beats(5, 4), Beats(3, 2),
                                      2, Beats(7, 3), Beats(8, 3), 3,           Beats(7, 2)};
  for (int round = 0; round < 50; ++round) {
    std::vector<Seconds> starts;
    for (const Beats b : written) starts.push_back(time.timeOf(b) + Seconds(off(random)));
    const auto found = quantised(starts, time);
    ASSERT_THAT(found, SizeIs(written.size()));
    for (std::size_t i = 0; i < written.size(); ++i) {
      EXPECT_EQ(found[i].at, written[i]) << round << " " << i;
      EXPECT_NEAR(found[i].moved.value, (time.timeOf(written[i]) - starts[i]).value, 1e-9) << "it is shown how far";
    }
  }
}

TEST(Quantised, SwungEighthsAreWrittenStraight) {
  const TimeMap map(grid({4}), {2.0, SwingLevel::eighths});
  const Phrase phrase = phraseAt(1.0);
  const PhraseTime time(phrase, map);
  const std::vector<Seconds> starts = {Seconds(1.0), Seconds(1.4), Seconds(1.6), Seconds(2.0)};
  std::vector<Beats> at;
  for (const Quantised& q : quantised(starts, time)) at.push_back(q.at);
  EXPECT_THAT(at, ElementsAre(0, Beats(1, 2), 1, Beats(3, 2)));
}

TEST(Quantised, StartsStayApartAndInOrderHoweverCloseTheyAre) {
  std::mt19937 random(4);
  const TimeMap map(grid({4}), {});
  const Phrase phrase = phraseAt(1.0);
  const PhraseTime time(phrase, map);
  for (int round = 0; round < 200; ++round) {
    std::vector<Seconds> starts;
    double t = 1.0;
    for (int i = 0; i < 40; ++i) starts.emplace_back(t += std::uniform_real_distribution(0.02, 0.6)(random));
    const auto found = quantised(starts, time, {round % 2 == 0 ? 4 : 2, round % 3 == 0});
    for (std::size_t i = 1; i < found.size(); ++i) ASSERT_LT(found[i - 1].at, found[i].at) << round << " " << i;
  }
}

}  // namespace
}  // namespace ear
