// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/chord_kinds.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <numeric>

#include "core/theory/fretboard.h"

namespace ear {
namespace {

/// Grips that ring for two seconds each, as a good ear hears them, told as chords on their roots.
struct Played {
  GuitarActivations guitar{{20.0}, {}, {}};
  NoteActivations notes{.clock = {20.0}, .activity = {}};
  std::vector<FoundChord> chords;

  Played& grip(const char* told, const char* frets) {
    constexpr std::size_t kFrames = 40;
    const std::size_t from = guitar.count();
    guitar.sounding.resize((from + kFrames) * GuitarActivations::kNotes, 0.02F);
    guitar.struck.resize(guitar.sounding.size(), 0.0F);
    notes.activity.resize((from + kFrames) * NoteActivations::kNotes, 0.0F);
    for (const int midi : pitchesOf({}, *parseFrets(frets)))
      for (std::size_t i = from; i < from + kFrames; ++i) {
        guitar
            .sounding[i * GuitarActivations::kNotes + static_cast<std::size_t>(midi - GuitarActivations::kLowestMidi)] =
            0.9F;
        notes.activity[i * NoteActivations::kNotes + static_cast<std::size_t>(midi - NoteActivations::kLowestMidi)] =
            1.0F;
      }
    chords.push_back({{guitar.clock.timeOf(from), guitar.clock.timeOf(from + kFrames)}, parseChord(told), 0.9});
    return *this;
  }

  std::vector<std::string> told() const {
    std::vector<std::string> names;
    for (const auto& c : withKindsByGuitar(chords, guitar, notes, false))
      names.push_back(c.chord ? chordName(*c.chord, Spelling::sharps) : "none");
    return names;
  }
};

TEST(ChordKinds, SeventhsOfABluesAreHeard) {
  // What templates call major, since a plain chord explains most of it.
  EXPECT_THAT(Played().grip("A", "x02020").grip("D", "xx0212").grip("E", "020100").told(),
              testing::ElementsAre("A7", "D7", "E7"));
}

TEST(ChordKinds, AThirdThatNobodySoundsIsNotSaid) {
  EXPECT_THAT(Played().grip("E", "022xxx").grip("A", "x022xx").grip("G", "355xxx").told(),
              testing::ElementsAre("E5", "A5", "G5"));
}

TEST(ChordKinds, PlainChordsStayPlain) {
  EXPECT_THAT(Played().grip("G", "320003").grip("Em", "022000").grip("C", "x32010").grip("Am", "x02210").told(),
              testing::ElementsAre("G", "Em", "C", "Am"));
}

TEST(ChordKinds, MinorSeventhsAreToldFromMinor) {
  EXPECT_THAT(Played().grip("Am", "x02010").grip("Bm", "x20202").told(), testing::ElementsAre("Am7", "Bm7"));
}

TEST(ChordKinds, ARootAloneIsToldByTheOtherChordsOnIt) {
  const auto lastOf = [](const Played& played) { return played.told().back(); };
  const auto blues = Played().grip("A", "x02020").grip("D", "xx0212").grip("A", "x02020").grip("D", "xx0212");
  EXPECT_EQ(lastOf(Played().grip("A", "x0xxxx")), "A");
  EXPECT_EQ(lastOf(Played(blues).grip("A", "x0xxxx")), "A7");
}

TEST(ChordKinds, NeighboursThatBecomeTheSameAreOne) {
  auto played = Played().grip("A", "x02020").grip("A7", "x02020").grip("D", "xx0212");
  const auto chords = withKindsByGuitar(played.chords, played.guitar, played.notes, false);
  ASSERT_EQ(chords.size(), 2U);
  EXPECT_EQ(chords.front().span.end, chords.back().span.start);
  EXPECT_NEAR(chords.front().span.length().value, 4.0, 1e-9);
}

TEST(ChordKinds, WhatIsToldByTheBassIsLeftAlone) {
  auto played = Played().grip("A", "x02020").grip("A7sus4", "x02030").grip("D", "xx0212");
  played.chords.push_back(
      {{played.chords.back().span.end, played.chords.back().span.end + Seconds(1)}, std::nullopt, 0.5});
  const auto signs = kindSignsOf(played.chords, played.guitar, played.notes);
  EXPECT_TRUE(signs[0].has_value());
  EXPECT_FALSE(signs[1].has_value());  // suspended
  EXPECT_FALSE(signs[3].has_value());  // no chord
  EXPECT_EQ(played.told().back(), "none");
}

TEST(ChordKinds, OddsSumToOneAndTheRootStaysAsSureAsItWas) {
  const auto played = Played().grip("A", "x02020");
  const auto odds = kindOdds(*kindSignsOf(played.chords, played.guitar, played.notes).front(), false);
  EXPECT_NEAR(std::accumulate(odds.begin(), odds.end(), 0.0), 1.0, 1e-9);
  const auto told = withKindsByGuitar(played.chords, played.guitar, played.notes, false).front();
  EXPECT_DOUBLE_EQ(told.certainty, 0.9);
  EXPECT_GT(told.kindCertainty, 0.5);
}

}  // namespace
}  // namespace ear
