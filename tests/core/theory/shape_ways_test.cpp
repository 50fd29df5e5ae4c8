// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/shape_ways.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

namespace ear {
namespace {

constexpr int kE = 4, kG = 7, kD = 2, kA = 9, kCSharp = 1;

// Which capo makes which shapes sound: common practice, no source.
TEST(ShapeWays, AskForTheCapoThatMakesUpTheDifference) {
  EXPECT_EQ(waysToSound(PitchClass(kE), PitchClass(kG)).front(), (ShapeWay{0, 3}));
  EXPECT_EQ(waysToSound(PitchClass(kA), PitchClass(kCSharp)).front(), (ShapeWay{0, 4}));
  EXPECT_EQ(sentenceOf(waysToSound(PitchClass(kE), PitchClass(kE)).front()), "no capo");
}

TEST(ShapeWays, LetStringsDownWhereNoCapoReachesIt) {
  const auto ways = waysToSound(PitchClass(kE), PitchClass(kD));
  EXPECT_THAT(ways, testing::ElementsAre(ShapeWay{-2, 0})) << "a capo at 10 or 11 is none to play with";
  EXPECT_EQ(sentenceOf(ways.front()), "strings a whole tone down, no capo");
}

TEST(ShapeWays, AllOfThemSoundIt) {
  for (int shapes = 0; shapes < 12; ++shapes)
    for (int sounding = 0; sounding < 12; ++sounding)
      for (const auto& way : waysToSound(PitchClass(shapes), PitchClass(sounding)))
        EXPECT_EQ(PitchClass(shapes + way.strings + way.capo), PitchClass(sounding));
}

}  // namespace
}  // namespace ear
