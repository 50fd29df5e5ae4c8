// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/plan.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace ear {
namespace {

using testing::DoubleNear;
using testing::ElementsAre;

constexpr TimeSpan kPassage{Seconds(10), Seconds(14)};

TEST(Ladder, ClimbsInStepsToItsTop) {
  EXPECT_THAT(rungsOf({.from = 0.5, .to = 0.7, .step = 0.1}),
              ElementsAre(DoubleNear(0.5, 1e-9), DoubleNear(0.6, 1e-9), DoubleNear(0.7, 1e-9)));
  EXPECT_THAT(rungsOf({.from = 0.5, .to = 0.72, .step = 0.1}),
              ElementsAre(DoubleNear(0.5, 1e-9), DoubleNear(0.6, 1e-9), DoubleNear(0.7, 1e-9), DoubleNear(0.72, 1e-9)));
  EXPECT_THAT(rungsOf({.from = 0.8, .to = 0.8}), ElementsAre(0.8));
  EXPECT_THAT(rungsOf({.from = 0.8, .to = 0.7, .step = 0.05}),
              ElementsAre(DoubleNear(0.8, 1e-9), DoubleNear(0.75, 1e-9), DoubleNear(0.7, 1e-9)));
  EXPECT_LE(rungsOf({.from = 0.2, .to = 1.5, .step = 0.0}).size(), Sequence::kMostSegments);
}

TEST(Ladder, StaysOnTheTopAndWaitsForTheKeyWhereAsked) {
  const auto counted = ladder(kPassage, {.from = 0.5, .to = 0.6, .step = 0.1, .clean = 3}, {});
  ASSERT_EQ(counted.size(), 2U);
  EXPECT_EQ(counted[0].repeats, 3);
  EXPECT_EQ(counted[1].repeats, 0);
  EXPECT_EQ(counted[0].speed, 0.5);
  for (const Segment& turn : ladder(kPassage, {.byKey = true}, {})) EXPECT_EQ(turn.repeats, 0);
}

// As solos are taught (common practice, no source): 1, 2, 1+2, 3, 1+2+3.
TEST(Chain, PutsPhrasesTogetherOneByOne) {
  const TimeSpan phrases[] = {{Seconds(0), Seconds(2)}, {Seconds(2), Seconds(5)}, {Seconds(8), Seconds(9)}};
  const Breath breath{Seconds(0.5), 4, Seconds(0.25)};
  const Chain made = chain(phrases, 1, breath);
  EXPECT_THAT(made.links, ElementsAre("1", "2", "1+2", "3", "1+2+3"));
  ASSERT_EQ(made.turns.size(), 6U);  // 1+2 meet; 3 lies apart
  EXPECT_EQ(made.turns[2].span, (TimeSpan{Seconds(0), Seconds(5)}));
  EXPECT_EQ(made.turns[4].span, (TimeSpan{Seconds(0), Seconds(5)}));
  EXPECT_EQ(made.turns[4].rest, Seconds(0));
  EXPECT_EQ(made.turns[4].clicks, 0);
  EXPECT_EQ(made.turns[5].rest, Seconds(0.5));
  EXPECT_EQ(made.turns[5].clicks, 4);
  EXPECT_THAT(made.linkOf, ElementsAre(0U, 1U, 2U, 3U, 4U, 4U));
  EXPECT_EQ(chain(phrases, 2, breath).turns.size(), 12U);
  EXPECT_TRUE(chain({}, 1, breath).turns.empty());
}

TEST(CallAndAnswer, LeavesAsMuchTimeAsWasPlayed) {
  const auto turns = callAndAnswer(kPassage, {Seconds(1), 0, {}});
  ASSERT_EQ(turns.size(), 1U);
  EXPECT_EQ(turns[0].rest, Seconds(5));
}

}  // namespace
}  // namespace ear
