// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/placing.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

namespace ear {
namespace {

using testing::Each;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::SizeIs;

const Guitar kStandard;

std::vector<NoteToPlace> line(const std::vector<FretPosition>& places, const Guitar& guitar = kStandard) {
  std::vector<NoteToPlace> notes;
  for (const FretPosition p : places) notes.push_back({guitar.pitch(p), static_cast<int>(notes.size())});
  return notes;
}

TEST(Placing, ABoxOfTheMinorPentatonicIsFoundAgain) {
  // Common practice, no source: A minor pentatonic, first shape at fret 5.
  const std::vector<FretPosition> box = {{0, 5}, {0, 8}, {1, 5}, {1, 7}, {2, 5}, {2, 7},
                                         {3, 5}, {3, 7}, {4, 5}, {4, 8}, {5, 5}, {5, 8}};
  const auto ways = placeLine(kStandard, line(box));
  ASSERT_FALSE(ways.empty());
  EXPECT_EQ(ways.front().places, box);
  EXPECT_EQ(ways.front().shifts, 0);
  EXPECT_EQ(sentenceOf(ways.front()), "frets 5 to 8, the hand stays");
}

TEST(Placing, EachWaySoundsTheNotesThatWereAskedFor) {
  std::mt19937 random(9);
  for (int round = 0; round < 200; ++round) {
    Guitar guitar;
    if (round % 3 == 1) guitar.tuning = *parseTuning("D A D F# A D");
    if (round % 3 == 2) guitar.capo = {static_cast<int>(random() % 6)};
    std::vector<NoteToPlace> notes;
    int midi = 60;
    for (int i = 0; i < 12; ++i) {
      midi = std::clamp(midi + static_cast<int>(random() % 9) - 4, 48, 80);
      notes.push_back({midi, i, i > 0 && random() % 4 == 0, false, random() % 5 == 0});
    }
    const auto ways = placeLine(guitar, notes);
    ASSERT_THAT(ways, SizeIs(testing::AllOf(testing::Ge(1U), testing::Le(3U))));
    for (std::size_t w = 0; w < ways.size(); ++w) {
      ASSERT_EQ(ways[w].places.size() + ways[w].unplayable.size(), notes.size());
      if (!ways[w].unplayable.empty()) continue;
      for (std::size_t i = 0; i < notes.size(); ++i) {
        EXPECT_EQ(guitar.pitch(ways[w].places[i]), notes[i].midi);
        EXPECT_FALSE(notes[i].bent && ways[w].places[i].fret == 0) << "an open string is not bent";
      }
      if (w > 0) {
        EXPECT_LE(ways[w - 1].effort, ways[w].effort);
      }
    }
  }
}

TEST(Placing, WhatIsLedStaysOnItsString) {
  // B string 10 and high E string 5 are the same pitch: led from B 8, it is B 10.
  auto notes = line({{4, 8}, {4, 10}, {4, 12}});
  for (std::size_t i = 1; i < notes.size(); ++i) notes[i].led = true;
  for (const LinePlacing& way : placeLine(kStandard, notes))
    EXPECT_THAT(way.places, Each(testing::Field(&FretPosition::string, way.places.front().string)));
}

TEST(Placing, WhatIsDecidedStaysAndTheRestFollows) {
  auto notes = line({{5, 5}, {5, 7}, {5, 8}});
  notes[0].fixed = FretPosition{4, 10};
  const auto ways = placeLine(kStandard, notes);
  ASSERT_THAT(ways, SizeIs(1));
  EXPECT_THAT(ways[0].places, ElementsAre(FretPosition{4, 10}, FretPosition{5, 7}, FretPosition{5, 8}))
      << "under the hand that is there";
}

TEST(Placing, TheHandThatIsThereIsAskedFirst) {
  const auto notes = line({{3, 12}, {3, 14}, {4, 12}});
  PlacingWishes low, high;
  low.hand = 5, high.hand = 12;
  EXPECT_NE(placeLine(kStandard, notes, low).front().places, placeLine(kStandard, notes, high).front().places);
  EXPECT_EQ(placeLine(kStandard, notes, high).front().places.front(), (FretPosition{3, 12}));
}

TEST(Placing, OnlyTheStringsThatAreWishedAreUsed) {
  PlacingWishes wishes;
  wishes.strings = {2, 3};
  const auto ways = placeLine(kStandard, line({{1, 12}, {3, 5}, {3, 7}, {3, 9}}), wishes, 3);
  ASSERT_THAT(ways.front().places, SizeIs(4));
  for (const FretPosition p : ways.front().places) EXPECT_TRUE(p.string == 2 || p.string == 3);
  wishes.strings = {5};
  EXPECT_THAT(placeLine(kStandard, line({{2, 2}, {5, 0}}), wishes, 1).front().unplayable, ElementsAre(0))
      << "the high string has no such low note";
}

TEST(Placing, TheWaysDifferInWhereTheyBegin) {
  const auto ways = placeLine(kStandard, line({{4, 8}, {4, 10}}), {}, 6);
  std::set<FretPosition> begins;
  for (const LinePlacing& way : ways) begins.insert(way.places.front());
  EXPECT_EQ(begins.size(), ways.size());
  EXPECT_GE(ways.size(), 3U);
}

TEST(Placing, NotesAtOnceLieUnderOneHand) {
  std::vector<NoteToPlace> notes = {{55, 0}, {59, 0}, {64, 0}, {57, 1}, {60, 1}, {65, 1}};
  const auto way = placeLine(kStandard, notes).front();
  ASSERT_THAT(way.places, SizeIs(6));
  for (const std::size_t chord : {0U, 3U}) {
    std::set<int> strings;
    for (std::size_t i = chord; i < chord + 3; ++i) strings.insert(way.places[i].string);
    EXPECT_THAT(strings, SizeIs(3));
  }
}

TEST(Placing, WhatNoStringHasIsSaid) {
  const std::vector<NoteToPlace> notes = {{30, 0}, {60, 1}};
  const auto way = placeLine(kStandard, notes).front();
  EXPECT_THAT(way.unplayable, ElementsAre(0U));
  EXPECT_THAT(way.places, SizeIs(1));
  EXPECT_THAT(sentenceOf(way), HasSubstr("1 note cannot be played"));
  const std::vector<NoteToPlace> none = {{20, 0}};
  EXPECT_THAT(placeLine(kStandard, none).front().places, IsEmpty());
}

}  // namespace
}  // namespace ear
