// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/note_value.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "core/theory/rhythm_values.h"

namespace ear {
namespace {

using testing::ElementsAre;

const std::vector<Beats> kBarsOfFour = {0, 4, 8, 12};

std::vector<Beats> lengths(const std::vector<TiedPiece>& pieces) {
  std::vector<Beats> all;
  for (const TiedPiece& p : pieces) all.push_back(p.length);
  return all;
}

TEST(NoteValue, LengthsOfPlainDottedAndTupletNotes) {
  EXPECT_EQ(lengthOf({.part = 1}), Beats(4));
  EXPECT_EQ(lengthOf({.part = 8, .dots = 1}), Beats(3, 4));
  EXPECT_EQ(lengthOf({.part = 4, .dots = 2}), Beats(7, 4));
  EXPECT_EQ(lengthOf({.part = 8, .tuple = 3, .inTimeOf = 2}), Beats(1, 3));
  EXPECT_EQ(lengthOf({.part = 16, .tuple = 5, .inTimeOf = 4}), Beats(1, 5));
  // In 6/8 the beats are eighths: a dotted quarter lasts three.
  EXPECT_EQ(lengthOf({.part = 4, .dots = 1}, {.part = 8}), Beats(3));
}

TEST(NoteValue, EveryValueIsFoundAgainByItsLength) {
  for (const int unit : {4, 8})
    for (const int part : {1, 2, 4, 8, 16, 32, 64})
      for (const auto& [tuple, inTimeOf] : {std::pair{1, 1}, {3, 2}, {5, 4}, {7, 4}})
        for (int dots = 0; dots <= (tuple == 1 ? 2 : 0); ++dots) {
          const NoteValue value{part, dots, tuple, inTimeOf};
          const auto found = valueOf(lengthOf(value, {unit}), {unit});
          ASSERT_TRUE(found) << part << " " << dots << " " << tuple;
          EXPECT_EQ(*found, value) << part << " " << dots << " " << tuple;
        }
  EXPECT_FALSE(valueOf(Beats(5, 4))) << "takes two notes";
  EXPECT_FALSE(valueOf(Beats(0)));
  EXPECT_FALSE(valueOf(Beats(1, 11)));
}

// Common practice, no source: six quarter-note triplets fill four beats, five last 3 1/3.
TEST(NoteValue, QuarterTripletsFillTwoBeatsByThree) {
  const Beats one = lengthOf({.part = 4, .tuple = 3, .inTimeOf = 2});
  EXPECT_EQ(one * 6, Beats(4));
  EXPECT_EQ(one * 5, Beats(10, 3));
  EXPECT_EQ(one * 5, tupletBeats(5));
  EXPECT_EQ(noteValueName(*valueOf(one)), "quarter triplet");
}

TEST(NoteValue, NamesAsTheyAreSaid) {
  EXPECT_EQ(noteValueName({.part = 2}), "half note");
  EXPECT_EQ(noteValueName({.part = 8, .dots = 1}), "dotted eighth");
  EXPECT_EQ(noteValueName({.part = 16, .tuple = 5, .inTimeOf = 4}), "sixteenth of 5");
}

TEST(TiedPieces, ANoteIsCutAtTheBarLine) {
  EXPECT_THAT(lengths(tiedPieces(3, 2, kBarsOfFour)), ElementsAre(1, 1));
  EXPECT_THAT(lengths(tiedPieces(2, 7, kBarsOfFour)), ElementsAre(2, 4, 1));
  EXPECT_THAT(lengths(tiedPieces(0, 4, kBarsOfFour)), ElementsAre(4));
}

TEST(TiedPieces, NoBeatIsHidden) {
  EXPECT_THAT(lengths(tiedPieces(Beats(3, 4), Beats(1, 2), kBarsOfFour)), ElementsAre(Beats(1, 4), Beats(1, 4)));
  EXPECT_THAT(lengths(tiedPieces(Beats(1, 2), 2, kBarsOfFour)), ElementsAre(Beats(1, 2), Beats(3, 2)));
  EXPECT_THAT(lengths(tiedPieces(Beats(1, 2), 1, kBarsOfFour)), ElementsAre(1)) << "a syncope stays one note";
  EXPECT_THAT(lengths(tiedPieces(1, Beats(3, 2), kBarsOfFour)), ElementsAre(Beats(3, 2)));
  EXPECT_THAT(lengths(tiedPieces(Beats(2, 3), Beats(2, 3), kBarsOfFour)), ElementsAre(Beats(2, 3)))
      << "the second of three quarter triplets";
}

TEST(TiedPieces, WhatIsNoSingleValueBecomesSeveral) {
  EXPECT_THAT(lengths(tiedPieces(0, Beats(5, 2), kBarsOfFour)), ElementsAre(2, Beats(1, 2)));
  EXPECT_THAT(lengths(tiedPieces(0, Beats(5, 4), kBarsOfFour)), ElementsAre(1, Beats(1, 4)));
  EXPECT_THAT(lengths(tiedPieces(0, Beats(5, 3), kBarsOfFour)), ElementsAre(1, Beats(2, 3)));
}

TEST(TiedPieces, PiecesFillTheNoteWhateverItsLength) {
  for (int top = 1; top < 120; ++top)
    for (const int bottom : {1, 2, 3, 4, 5, 6, 7, 8, 12, 16})
      for (int from = 0; from < 24; ++from) {
        const Beats at(from, 8), length(top, bottom);
        Beats sum, place = at;
        for (const TiedPiece& p : tiedPieces(at, length, kBarsOfFour)) {
          EXPECT_EQ(p.at, place);
          EXPECT_GT(p.length, Beats(0));
          if (p.value) {
            EXPECT_EQ(lengthOf(*p.value), p.length);
          }
          place += p.length, sum += p.length;
          const auto line = std::upper_bound(kBarsOfFour.begin(), kBarsOfFour.end(), p.at);
          if (line != kBarsOfFour.end()) {
            EXPECT_LE(p.at + p.length, *line);
          }
        }
        ASSERT_EQ(sum, length) << at.text() << " " << length.text();
      }
}

}  // namespace
}  // namespace ear
