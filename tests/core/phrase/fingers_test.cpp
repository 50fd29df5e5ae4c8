// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/fingers.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <sstream>

#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using testing::ElementsAre;

std::vector<int> fingersOf(const std::vector<Note>& notes) {
  std::vector<int> fingers;
  for (const ProposedFinger& f : proposedFingers(notes)) fingers.push_back(static_cast<int>(f.finger));
  return fingers;
}

TEST(Fingers, ABoxTakesOneFingerAFret) {
  // A minor pentatonic at fret 5: common practice, no source.
  const std::vector<Note> box = {note(1, 0, 5, 0), note(2, 0, 8, 1), note(3, 1, 5, 2),
                                 note(4, 1, 7, 3), note(5, 2, 5, 4), note(6, 2, 7, 5)};
  EXPECT_THAT(fingersOf(box), ElementsAre(1, 4, 1, 3, 1, 3));
}

TEST(Fingers, OpenStringsTakeNoneAndTheHandStaysForThem) {
  EXPECT_THAT(fingersOf({note(1, 0, 0, 0), note(2, 0, 3, 1), note(3, 1, 0, 2), note(4, 1, 2, 3)}),
              ElementsAre(0, 3, 0, 2));
}

TEST(Fingers, WhatAPersonSaidStaysAndTheHandFollowsIt) {
  std::vector<Note> line = {note(1, 3, 7, 0), note(2, 3, 9, 1)};
  line[0].finger = Finger::first;
  EXPECT_THAT(fingersOf(line), ElementsAre(1, 3));
  line[0].finger = Finger::second;
  EXPECT_THAT(fingersOf(line), ElementsAre(2, 4));
}

TEST(Fingers, ASlideTakesTheHandAlong) {
  std::vector<Note> line = {note(1, 3, 5, 0), note(2, 3, 12, 1)};
  line[1].attack = Attack::slidInto;
  const auto fingers = fingersOf(line);
  EXPECT_EQ(fingers[0], fingers[1]) << "the finger that slides is the one that arrives";
}

TEST(Fingers, AFullWidthChordIsBarred) {
  std::vector<Note> chord;
  for (int s = 0; s < 6; ++s) chord.push_back(note(s + 1, s, s == 1 || s == 2 ? 7 : s == 3 ? 6 : 5));
  const auto fingers = proposedFingers(chord);
  EXPECT_EQ(fingers[0], (ProposedFinger{Finger::first, true}));
  EXPECT_EQ(fingers[5], (ProposedFinger{Finger::first, true}));
  EXPECT_THAT(fingersOf(chord), ElementsAre(1, 3, 4, 2, 1, 1));
}

// The fingers of 1,058 chord shapes of the npm package chords-db (tests/core/theory/reference/extract_tables.mjs).
TEST(Fingers, ChordShapesAreFingeredAsAPublishedTableHasThem) {
  std::ifstream in(std::string(REFERENCE_DIR) + "/chords_db_shapes.tsv");
  int shapes = 0, same = 0, notes = 0, sameNotes = 0;
  for (std::string row; std::getline(in, row);) {
    std::vector<std::string> cells;
    std::istringstream fields(row);
    for (std::string cell; std::getline(fields, cell, '\t');) cells.push_back(cell);
    std::istringstream frets(cells.at(2)), fingers(cells.at(4));
    std::vector<Note> chord;
    std::vector<int> theirs;
    for (int s = 0; s < 6; ++s) {
      std::string fret;
      int finger = 0;
      frets >> fret;
      fingers >> finger;
      if (fret == "x") continue;
      chord.push_back(note(s + 1, s, std::stoi(fret)));
      theirs.push_back(finger);
    }
    const auto ours = fingersOf(chord);
    ++shapes;
    same += ours == theirs ? 1 : 0;
    for (std::size_t i = 0; i < ours.size(); ++i) ++notes, sameNotes += ours[i] == theirs[i] ? 1 : 0;
  }
  ASSERT_EQ(shapes, 1058);
  EXPECT_GE(same, shapes * 75 / 100) << same << " of " << shapes;
  EXPECT_GE(sameNotes, notes * 90 / 100) << sameNotes << " of " << notes;
}

}  // namespace
}  // namespace ear
