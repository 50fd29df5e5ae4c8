// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/refingering.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "core/theory/fingering.h"
#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using testing::ElementsAre;
using testing::IsEmpty;
using testing::SizeIs;

std::vector<int> pitches(const Guitar& guitar, const std::vector<Note>& notes) {
  std::vector<int> list;
  for (const Note& n : notes) list.push_back(guitar.pitch(n.place));
  return list;
}

TEST(Refingering, ThePartOfACapoSoundsTheSameWithoutIt) {
  // E shapes with capo 3 sound in G (check values): 2 on the A string there is D, fret 5 of the bare string.
  Guitar with, without;
  with.capo = {.fret = 3};
  const std::vector<Note> line = {note(1, 0, 0, 0), note(2, 1, 2, 1), note(3, 2, 2, 2), note(4, 3, 1, 3)};
  const auto ways = refingered(line, with, without);
  ASSERT_FALSE(ways.empty());
  EXPECT_THAT(ways.front().unplayable, IsEmpty());
  EXPECT_EQ(pitches(without, ways.front().notes), pitches(with, line));
}

TEST(Refingering, WhatNoStringHasIsNamed) {
  Guitar dropped, standard;
  dropped.tuning.strings[0] -= 2;
  const auto ways = refingered(std::vector{note(1, 0, 0, 0), note(2, 1, 0, 1)}, dropped, standard);
  ASSERT_FALSE(ways.empty());
  EXPECT_THAT(ways.front().unplayable, ElementsAre(1));
  EXPECT_THAT(ways.front().notes, SizeIs(1));
}

TEST(Refingering, AnOctaveUpSoundsAnOctaveUp) {
  const Guitar guitar;
  const std::vector<Note> line = {note(1, 1, 3, 0), note(2, 1, 5, 1), note(3, 2, 2, 2)};
  const auto ways = refingered(line, guitar, guitar, 12);
  ASSERT_FALSE(ways.empty());
  auto wanted = pitches(guitar, line);
  for (int& p : wanted) p += 12;
  EXPECT_EQ(pitches(guitar, ways.front().notes), wanted);
}

TEST(Refingering, ATrillKeepsItsIntervalAndANaturalHarmonicItsPlace) {
  const Guitar guitar;
  std::vector<Note> line = {note(1, 5, 5, 0), note(2, 3, 12, 1)};
  line[0].trill = Trill{.fret = 7};
  line[1].harmonic = PlayedHarmonic{};
  for (const Refingered& way : refingered(line, guitar, guitar)) {
    ASSERT_THAT(way.notes, SizeIs(2));
    EXPECT_EQ(way.notes[0].trill->fret - way.notes[0].place.fret, 2);
    EXPECT_EQ(way.notes[1].place, (FretPosition{3, 12}));
  }
  const auto up = refingered(line, guitar, guitar, 2);
  ASSERT_FALSE(up.empty());
  EXPECT_THAT(up.front().unplayable, ElementsAre(2)) << "a partial of an open string cannot be two semitones higher";
}

TEST(Refingering, NothingIsLostAndWhatIsLedStaysOnItsString) {
  std::mt19937 random(5);
  const Guitar guitar;
  for (int round = 0; round < 60; ++round) {
    std::vector<Note> line;
    for (int i = 0; i < 12; ++i)
      line.push_back(note(i + 1, static_cast<int>(random() % 6), static_cast<int>(random() % 13), i));
    for (const Refingered& way : refingered(line, guitar, guitar)) {
      EXPECT_EQ(way.notes.size() + way.unplayable.size(), line.size());
      EXPECT_EQ(pitches(guitar, way.notes), pitches(guitar, line));
    }
  }
}

TEST(Refingering, AnOpenShapeUnderACapoBecomesABarre) {
  // Open Am with the capo at 4 (check values).
  const Guitar capo{.capo = {4, 0}};
  std::vector<Note> chord;
  const auto shape = parseFrets("x02210");
  ASSERT_TRUE(shape.has_value());
  for (const FretPosition p : *shape) chord.push_back(note(static_cast<int>(chord.size()) + 1, p.string, p.fret));
  const auto ways = refingered(chord, capo, Guitar{});
  ASSERT_FALSE(ways.empty());
  EXPECT_THAT(ways.front().unplayable, IsEmpty());
  EXPECT_EQ(pitches({}, ways.front().notes), pitches(capo, chord));
  EXPECT_TRUE(gripOf(ways.front().way.places).playable());
}

TEST(Refingering, APhraseOnARetunedStringLiesAFretHigher) {
  // A phrase on the third string tuned to F#: 7 5 becomes 8 6 (check values).
  const Guitar retuned{.tuning = *parseTuning("E A D F# B E")};
  const std::vector<Note> line = {note(1, 3, 7, 0), note(2, 3, 5, 1)};
  EXPECT_EQ(retuned.pitch({3, 8}), Guitar{}.pitch({3, 7}));
  const auto ways = refingered(line, Guitar{}, retuned);
  ASSERT_FALSE(ways.empty());
  EXPECT_EQ(pitches(retuned, ways.front().notes), pitches({}, line));
}

}  // namespace
}  // namespace ear
