// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/settings/sequence.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/playback/player.h"
#include "support/playing.h"
#include "support/sounds.h"

namespace ear {
namespace {

using test::Deck;
using test::listen;

/// Each second of it has its own level: 0.1, 0.2, 0.3 ... so that what sounds tells where it comes from.
Recording steps() {
  return test::soundOf(6.0, 44100, [](double t) { return 0.1 * (1 + std::floor(t)); });
}

/// The level that stands at a time of what was heard, in tenths; 0 in a rest.
int stepAt(const std::vector<float>& heard, double seconds) {
  return static_cast<int>(std::lround(10 * heard[static_cast<std::size_t>(seconds * 44100)]));
}

Segment turn(double from, double to) {
  return {.span = {Seconds(from), Seconds(to)}};
}

TEST(Sequence, PlaysItsTurnsInOrderAndStartsAnew) {
  Deck player(steps());
  const Segment turns[] = {turn(0, 1), turn(2, 3), turn(4, 5)};
  player.setSequence(turns);
  player.play();
  const auto heard = listen(player, 4.5);
  EXPECT_EQ(stepAt(heard, 0.5), 1);
  EXPECT_EQ(stepAt(heard, 1.5), 3);
  EXPECT_EQ(stepAt(heard, 2.5), 5);
  EXPECT_EQ(stepAt(heard, 3.5), 1);
  EXPECT_EQ(player.place().turn, 1U);
  EXPECT_EQ(player.place().played, 4U);
}

TEST(Sequence, RestsAreAsLongAsAskedAndGrowWithTheSlowness) {
  for (const double speed : {1.0, 0.5}) {
    Deck player(test::soundOf(6.0, 44100, [](double t) { return 0.5 * std::sin(2 * 3.14159 * 330 * t); }));
    player.setPlayback({.speed = speed});
    Segment answer = turn(1, 2);
    answer.rest = Seconds(1);  // call and answer
    player.setSequence({&answer, 1});
    player.seek(Seconds(1));
    player.play();
    const auto heard = listen(player, 4.2 / speed);
    const auto level = [&](double seconds) {
      double sum = 0;
      for (std::size_t i = 0; i < 2000; ++i)
        sum += std::abs(static_cast<double>(heard[static_cast<std::size_t>(seconds / speed * 44100) + i]));
      return sum / 2000;
    };
    EXPECT_GT(level(0.5), 0.2) << speed;
    EXPECT_LT(level(1.2), 1e-4) << speed;
    EXPECT_LT(level(1.85), 1e-4) << speed;
    EXPECT_GT(level(2.1), 0.2) << speed;
    EXPECT_LT(level(3.5), 1e-4) << speed;
    EXPECT_GT(level(4.08), 0.2) << speed;
  }
}

TEST(Sequence, RepetitionsWithRestsComeAtEvenDistancesToTheSample) {
  // One spike in the turn: the distances between its copies are those of the turns.
  Deck player(test::soundOf(4.0, 44100, [](double t) { return std::abs(t - 1.5) < 0.5 / 44100 ? 0.9 : 0.0; }));
  Segment only = turn(1, 2);
  only.rest = Seconds(0.3);
  player.setSequence({&only, 1});
  player.seek(Seconds(1));
  player.play();
  const auto heard = listen(player, 6.0);
  std::vector<std::size_t> spikes;
  for (std::size_t i = 0; i < heard.size(); ++i)
    if (heard[i] > 0.5F) spikes.push_back(i);
  ASSERT_GE(spikes.size(), 4U);
  for (std::size_t i = 1; i < spikes.size(); ++i) EXPECT_EQ(spikes[i] - spikes[i - 1], 44100U + 13230U);
}

TEST(Sequence, AClickedBarEndsTheRest) {
  Deck player(test::soundOf(4.0, 44100, [](double) { return 0.0; }));
  Segment counted = turn(0, 1);
  counted.clicks = 3, counted.each = Seconds(0.25);
  player.setSequence({&counted, 1});
  player.play();
  const auto heard = listen(player, 2.0);
  std::vector<double> starts;
  for (std::size_t i = 1; i < heard.size(); ++i)
    if (std::abs(heard[i]) > 0.02F && (starts.empty() || static_cast<double>(i) / 44100 - starts.back() > 0.15))
      starts.push_back(static_cast<double>(i) / 44100);
  ASSERT_EQ(starts.size(), 3U);
  for (std::size_t i = 0; i < 3; ++i) EXPECT_NEAR(starts[i], 1.0 + 0.25 * static_cast<double>(i), 0.003);
}

TEST(Sequence, EachTurnHasItsSpeedAndItsRepeats) {
  Deck player(steps());
  Segment slow = turn(0, 1), fast = turn(0, 1);
  slow.speed = 0.5, slow.repeats = 2;
  fast.speed = 1.0, fast.repeats = 0;
  const Segment turns[] = {slow, fast};
  player.setSequence(turns);
  player.play();
  listen(player, 3.9);
  EXPECT_EQ(player.place().turn, 0U);
  EXPECT_EQ(player.place().repeat, 1);
  listen(player, 0.2);
  EXPECT_EQ(player.place().turn, 1U);
  const Seconds before = player.position();
  listen(player, 0.5);
  EXPECT_NEAR((player.position() - before).value, 0.5, 0.01);
  listen(player, 5.0);  // without an end of its own it stays
  EXPECT_EQ(player.place().turn, 1U);
}

TEST(Sequence, GoesOnAtTheSeamWhenToldTo) {
  Deck player(steps());
  Segment first = turn(0, 1), second = turn(2, 3);
  first.repeats = second.repeats = 0;
  const Segment turns[] = {first, second};
  player.setSequence(turns);
  player.play();
  listen(player, 1.2);
  player.advance();
  const auto heard = listen(player, 1.8);
  EXPECT_EQ(stepAt(heard, 0.5), 1);  // to the end of what is being played
  EXPECT_EQ(stepAt(heard, 1.2), 3);
  listen(player, 2.0);
  EXPECT_EQ(player.place().turn, 1U);
}

TEST(Sequence, WithoutOneTheLoopIsBack) {
  Deck player(steps());
  const Segment turns[] = {turn(0, 1), turn(2, 3)};
  player.setLoop(TimeSpan{Seconds(4), Seconds(5)});
  player.setSequence(turns);
  player.play();
  listen(player, 1.5);
  player.setSequence({});
  const auto heard = listen(player, 3.0);
  for (const double t : {0.3, 1.0, 2.0, 2.9}) EXPECT_EQ(stepAt(heard, t), 5);
}

}  // namespace
}  // namespace ear
