// SPDX-License-Identifier: GPL-3.0-or-later
// Beams, rests, ties and tuplets as bars are written (common practice, no source).
#include "core/engraving/rhythm_row.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <algorithm>
#include <random>

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

/// Whatever is written: from the first note to the last no moment is without a piece, none is there twice, no piece
/// crosses a bar line, each is as long as its value says, and beams and tuplets name pieces that are there.
TEST(Rhythm, EveryMomentIsWrittenOnce) {
  std::mt19937 random(17);
  const std::vector<Beats> bars = {0, 4, 7, 11, 16};
  for (int round = 0; round < 200; ++round) {
    std::vector<Note> line;
    for (int id = 1; id <= 12; ++id) {
      Note n = test::anyNote(random, id);
      n.free.reset(), n.voice = 0;
      n.at = Beats(static_cast<std::int64_t>(random() % 60), random() % 3 == 0 ? 6 : 4);
      n.length = Beats(1 + static_cast<std::int64_t>(random() % 9), random() % 3 == 0 ? 3 : 4);
      if (n.end() > Beats(16)) n.length = Beats(16) - n.at;
      line.push_back(n);
    }
    putInOrder(line);
    const RhythmRow row = rhythmOf(line, bars);
    ASSERT_FALSE(row.pieces.empty());
    for (std::size_t i = 0; i < row.pieces.size(); ++i) {
      const RhythmPiece& p = row.pieces[i];
      ASSERT_GT(p.length, Beats(0));
      EXPECT_EQ(p.at, i == 0 ? line.front().at : row.pieces[i - 1].at + row.pieces[i - 1].length) << round << " " << i;
      EXPECT_EQ(std::upper_bound(bars.begin(), bars.end(), p.at),
                std::lower_bound(bars.begin(), bars.end(), p.at + p.length))
          << "crosses a line: " << p.at.text() << " " << p.length.text();
      if (!p.value) continue;
      Beats said(4, p.value->part);
      if (p.value->dots == 1) said = said * Beats(3, 2);
      if (p.value->dots == 2) said = said * Beats(7, 4);
      said = said * Beats(p.value->inTimeOf, p.value->tuple);
      EXPECT_EQ(said, p.length) << round << " " << i;
    }
    for (const Beam& b : row.beams) EXPECT_TRUE(b.first <= b.last && b.last < row.pieces.size());
    for (const Tuplet& t : row.tuplets) EXPECT_TRUE(t.first <= t.last && t.last < row.pieces.size());
  }
}

}  // namespace
}  // namespace ear
