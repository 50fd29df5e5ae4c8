// SPDX-License-Identifier: GPL-3.0-or-later
// Beams, rests, ties and tuplets as bars are written (common practice, no source).
#include "core/engraving/rhythm_row.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using testing::ElementsAre;
using testing::IsEmpty;
using testing::SizeIs;

const std::vector<Beats> kBars = {0, 4, 8};

std::vector<int> parts(const RhythmRow& row) {
  std::vector<int> list;
  for (const RhythmPiece& p : row.pieces) list.push_back(p.value ? (p.rest ? -p.value->part : p.value->part) : 0);
  return list;
}

TEST(Rhythm, EighthsAreBeamedWithinTheirBeat) {
  std::vector<Note> line;
  for (int i = 0; i < 4; ++i) line.push_back(note(i + 1, 3, 5, Beats(i, 2), Beats(1, 2)));
  EXPECT_THAT(rhythmOf(line, kBars).beams, ElementsAre(Beam{0, 1, 1, false}, Beam{2, 3, 1, false}));
}

TEST(Rhythm, EighthsThatAreCountedAreBeamedByThree) {
  std::vector<Note> line;
  for (int i = 0; i < 6; ++i) line.push_back(note(i + 1, 3, 5, Beats(i), Beats(1)));
  EXPECT_THAT(rhythmOf(line, std::vector<Beats>{0, 6}, {.part = 8}).beams,
              ElementsAre(Beam{0, 2, 1, false}, Beam{3, 5, 1, false}));
}

TEST(Rhythm, ADottedEighthGivesTheSixteenthAStubBackward) {
  const std::vector<Note> line = {note(1, 3, 5, 0, Beats(3, 4)), note(2, 3, 7, Beats(3, 4), Beats(1, 4))};
  const RhythmRow row = rhythmOf(line, kBars);
  EXPECT_EQ(row.pieces[0].value->dots, 1);
  EXPECT_THAT(row.beams, ElementsAre(Beam{0, 1, 1, false}, Beam{1, 1, 2, true}));
}

TEST(Rhythm, SilenceBetweenNotesIsWritten) {
  const std::vector<Note> line = {note(1, 3, 5, 0, 1), note(2, 3, 7, 3, 1)};
  EXPECT_THAT(parts(rhythmOf(line, kBars)), ElementsAre(4, -2, 4));
}

TEST(Rhythm, WhatCrossesABarLineIsTied) {
  const RhythmRow row = rhythmOf(std::vector{note(1, 3, 5, 3, 2)}, kBars);
  ASSERT_THAT(row.pieces, SizeIs(2));
  EXPECT_FALSE(row.pieces[0].tied);
  EXPECT_TRUE(row.pieces[1].tied);
  EXPECT_EQ(row.pieces[1].at, Beats(4));
}

TEST(Rhythm, QuarterTripletsFillTwoBeats) {
  std::vector<Note> line;
  for (int i = 0; i < 3; ++i) line.push_back(note(i + 1, 3, 5, Beats(2 * i, 3), Beats(2, 3)));
  EXPECT_THAT(rhythmOf(line, kBars).tuplets, ElementsAre(Tuplet{0, 2, 3, true}));
  line.pop_back();
  EXPECT_THAT(rhythmOf(line, kBars).tuplets, ElementsAre(Tuplet{0, 1, 3, false})) << "one of three is missing";
}

TEST(Rhythm, TwoBeatsOfTripletsAreTwoTuplets) {
  std::vector<Note> line;
  for (int i = 0; i < 6; ++i) line.push_back(note(i + 1, 3, 5, Beats(i, 3), Beats(1, 3)));
  EXPECT_THAT(rhythmOf(line, kBars).tuplets, ElementsAre(Tuplet{0, 2, 3, true}, Tuplet{3, 5, 3, true}));
}

TEST(Rhythm, AChordIsOneMomentAndWhatRingsOnIsCutByTheNextNote) {
  const std::vector<Note> line = {note(1, 0, 0, 0, 4), note(2, 3, 2, 0, 1), note(3, 4, 3, 1, 1)};
  EXPECT_THAT(parts(rhythmOf(line, kBars)), ElementsAre(4, 4));
}

TEST(Rhythm, FreeNotesHaveNone) {
  Note free = note(1, 3, 5);
  free.free = TimeSpan{Seconds(1), Seconds(2)};
  EXPECT_THAT(rhythmOf(std::vector{free}, kBars).pieces, IsEmpty());
}

}  // namespace
}  // namespace ear
