// SPDX-License-Identifier: GPL-3.0-or-later
#include "measures.h"

#include <gmock/gmock.h>

namespace ear::bench {
namespace {

// Cases worked by hand from the definitions named in measures.h.

TEST(Measures, EachEventIsFoundOnce) {
  // Two said within the window of one true event: one hit of 1 true and 2 said, F = 2 / 3.
  EXPECT_DOUBLE_EQ(*fMeasure({10.0}, {9.95, 10.05}, 0.07), 2.0 / 3);
  // 10.00 takes 10.05, so that 10.10 must take 10.15: both found, F = 4 / 4.
  EXPECT_DOUBLE_EQ(*fMeasure({10.0, 10.1}, {10.05, 10.15}, 0.07), 1.0);
  EXPECT_DOUBLE_EQ(*fMeasure({1, 2, 3}, {}, 0.07), 0.0);
  EXPECT_FALSE(fMeasure({}, {1.0}, 0.07));
  // On the edge of the window counts.
  EXPECT_DOUBLE_EQ(*fMeasure({10.0}, {10.5}, 0.5), 1.0);
  EXPECT_DOUBLE_EQ(*fMeasure({10.0}, {10.51}, 0.5), 0.0);
}

TEST(Measures, BeatsOfTheFirstFiveSecondsAreLeftOut) {
  // True beats behind 5 s: 5, 6, 7, 8. Said: 5.05, 6.08, 7.0: two hits of 4 + 3, F = 4 / 7.
  EXPECT_DOUBLE_EQ(*beatF({3, 4, 5, 6, 7, 8}, {1.0, 2.0, 5.05, 6.08, 7.0}), 4.0 / 7);
}

TEST(Measures, CemgilWeighsByNearness) {
  // One beat exact, one 40 ms off: (1 + exp(-1/2)) / ((2 + 2) / 2) = 0.80326...
  EXPECT_NEAR(*cemgil({6, 7}, {6, 7.04}), (1 + std::exp(-0.5)) / 2, 1e-12);
}

TEST(Measures, TempoWithinFourPercent) {
  EXPECT_TRUE(tempoAccuracy1(100, 104));
  EXPECT_FALSE(tempoAccuracy1(100, 104.1));
  EXPECT_FALSE(tempoAccuracy1(100, 50));
  EXPECT_TRUE(tempoAccuracy2(100, 50));
  EXPECT_TRUE(tempoAccuracy2(100, 33.0));
  EXPECT_TRUE(tempoAccuracy2(100, 300));
  EXPECT_FALSE(tempoAccuracy2(100, 150));
}

TEST(Measures, NotesByStartAndPitch) {
  // Right; 60 ms late; 60 cents off; said twice: 2 hits of 4 + 5, F = 4 / 9.
  EXPECT_DOUBLE_EQ(
      *noteF({{1, 60}, {2, 62}, {3, 64}, {4, 65}}, {{1.02, 60.1}, {2.06, 62}, {3, 64.6}, {4, 65}, {4.01, 65}}),
      4.0 / 9);
  // Greedily the first would take what only the second can have: both are found.
  EXPECT_DOUBLE_EQ(*noteF({{1.00, 60}, {1.04, 60.4}}, {{1.02, 60.2}, {0.97, 60}}), 1.0);
  EXPECT_FALSE(noteF({}, {{1, 60}}));
}

TEST(Measures, BordersWithoutTheOuterOnes) {
  const std::vector<Labelled> truth = {{0, 10, "a"}, {10, 20, "b"}, {20, 30, "a"}};
  const std::vector<Labelled> said = {{0, 10.4, "x"}, {10.4, 18, "y"}, {18, 25, "z"}, {25, 30, "x"}};
  // Inner borders 10, 20 against 10.4, 18, 25: one within 0.5 s (F = 2/5), two within 3 s (F = 4/5).
  EXPECT_DOUBLE_EQ(*borderF(truth, said, 0.5), 0.4);
  EXPECT_DOUBLE_EQ(*borderF(truth, said, 3.0), 0.8);
}

TEST(Measures, PairsOfFrames) {
  // Four frames of 0.1 s; truth aabb, said xxxy. Pairs: truth 2, said 3, both 1: P = 1/3, R = 1/2, F = 0.4.
  const std::vector<Labelled> truth = {{0, 0.2, "a"}, {0.2, 0.4, "b"}};
  const std::vector<Labelled> said = {{0, 0.3, "x"}, {0.3, 0.4, "y"}};
  EXPECT_NEAR(pairwiseF(truth, said), 0.4, 1e-12);
  EXPECT_DOUBLE_EQ(pairwiseF(truth, truth), 1.0);
}

TEST(Measures, EntropiesTellOverFromUnderSegmentation) {
  const std::vector<Labelled> truth = {{0, 0.2, "a"}, {0.2, 0.4, "b"}};
  const std::vector<Labelled> one = {{0, 0.4, "x"}};
  const std::vector<Labelled> four = {{0, 0.1, "p"}, {0.1, 0.2, "q"}, {0.2, 0.3, "r"}, {0.3, 0.4, "s"}};
  // One label for all: nothing is split (over = 1), the truth is wholly unknown (under = 1 - 1 bit / log2 2 = 0).
  EXPECT_DOUBLE_EQ(conditionalEntropies(truth, one).over, 1.0);
  EXPECT_NEAR(conditionalEntropies(truth, one).under, 0.0, 1e-12);
  // Each label split in two: over = 1 - 1 bit / log2 4 = 0.5, and what is said tells the truth.
  EXPECT_NEAR(conditionalEntropies(truth, four).over, 0.5, 1e-12);
  EXPECT_DOUBLE_EQ(conditionalEntropies(truth, four).under, 1.0);
}

}  // namespace
}  // namespace ear::bench
