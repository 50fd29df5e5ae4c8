// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/practice/phrase_strikes.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "core/theory/pitch.h"
#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using testing::SizeIs;

constexpr int kRate = 1000;

/// Beats of half a second from 4 s on.
class PhraseStrikes : public testing::Test {
 protected:
  PhraseStrikes() {
    Grid grid;
    for (int i = 0; i < 40; ++i) grid.push_back({Seconds(4 + 0.5 * i), i % 4 == 0, false});
    map_ = TimeMap(grid, {});
    phrase_ = test::phrase("p", {});
  }
  std::vector<WrittenLine::Strike> strikes(const std::vector<Note>& notes, const Guitar& guitar = {}) {
    return strikesOf(notes, PhraseTime(phrase_, map_), guitar, kRate);
  }
  TimeMap map_;
  Phrase phrase_;
};

TEST_F(PhraseStrikes, NotesSoundAtTheRecordingsOwnPitchAndTime) {
  Guitar sharp;
  sharp.offset = Cents(20);
  const auto found = strikes({note(1, 1, 0, 0), note(2, 3, 5, 1)}, sharp);
  ASSERT_THAT(found, SizeIs(2));
  EXPECT_NEAR(found[0].pluck.pitch.value, 110.0 * std::pow(2.0, 20.0 / 1200), 1e-9);
  EXPECT_NEAR(found[0].from, 4000, 1e-9);
  EXPECT_NEAR(found[0].until, 4500, 1e-9);
  EXPECT_NEAR(found[1].from, 4500, 1e-9);
}

TEST_F(PhraseStrikes, ABendGoesAsFarAsItsSizeSays) {
  Note n = note(1, 3, 12, 0, 2);
  n.bend = Bend{Cents(170), false, true};
  const auto found = strikes({n});
  ASSERT_THAT(found, SizeIs(1));
  const auto& moves = found[0].pluck.moves;
  ASSERT_EQ(moves.count, 2U);
  EXPECT_EQ(moves.all[0].to, Cents(170)) << "a bend 30 cents short sounds 30 cents short";
  EXPECT_EQ(moves.all[1].to, Cents(0));
  n.bend->before = true;
  const auto before = strikes({n});
  EXPECT_NEAR(before[0].pluck.pitch.value, frequencyOf(MidiPitch(67 + 1.7)).value, 1e-9);
  EXPECT_NEAR(before[0].pluck.moves.all[0].to.value, -170, 1e-9) << "let down to the fret";
}

TEST_F(PhraseStrikes, WhatIsLedIsNoNewStroke) {
  Note up = note(2, 3, 7, 1), down = note(3, 3, 5, 2), slide = note(4, 3, 9, 3);
  up.attack = Attack::hammeredOn, down.attack = Attack::pulledOff, slide.attack = Attack::slidInto;
  const auto found = strikes({note(1, 3, 5), up, down, slide});
  ASSERT_THAT(found, SizeIs(1));
  const auto& moves = found[0].pluck.moves;
  ASSERT_EQ(moves.count, 3U);
  EXPECT_EQ(moves.all[0].to, Cents(200));
  EXPECT_GT(moves.all[0].stroke, 0.0);
  EXPECT_EQ(moves.all[1].to, Cents(0));
  EXPECT_EQ(moves.all[2].to, Cents(400));
  EXPECT_EQ(moves.all[2].stroke, 0.0);
  EXPECT_GT(moves.all[2].over, Seconds(0));
  EXPECT_NEAR(found[0].until, 6000, 1e-9);
}

TEST_F(PhraseStrikes, ATremoloIsPickedAsOftenAsItIsWritten) {
  Note n = note(1, 3, 12, 0, 2);
  n.tremolo = Tremolo{4};
  const auto found = strikes({n, note(2, 3, 10, 2)});
  ASSERT_THAT(found, SizeIs(9)) << "four in each of two beats, and the next note";
  for (std::size_t i = 0; i < 8; ++i) {
    EXPECT_NEAR(found[i].from, 4000 + 125.0 * static_cast<double>(i), 1e-6);
    EXPECT_NEAR(found[i].until, found[i].from + 125, 1e-6);
    EXPECT_EQ(found[i].pluck.pitch, found[0].pluck.pitch);
  }
}

TEST_F(PhraseStrikes, MutesShortenAndWhatRingsEndsWhereItsStringIsNeeded) {
  Note muted = note(1, 3, 5), ringing = note(2, 2, 5), next = note(3, 2, 7, 2), shortNote = note(4, 4, 5);
  muted.palmMuted = true, ringing.letRing = true, shortNote.staccato = true;
  const auto found = strikes({muted, ringing, next, shortNote});
  ASSERT_THAT(found, SizeIs(4));
  for (const auto& s : found) {
    if (s.string == 3) {
      EXPECT_LT(s.pluck.ring, Seconds(1));
    }
    if (s.string == 4) {
      EXPECT_NEAR(s.until, 4250, 1e-9);
    }
    if (s.string == 2 && s.from < 4100) {
      EXPECT_NEAR(s.until, 5000, 1e-9);
    }
  }
}

TEST_F(PhraseStrikes, WhateverIsWrittenSoundsWithinBounds) {
  std::mt19937 random(31);
  for (int round = 0; round < 100; ++round) {
    std::vector<Note> notes;
    for (int i = 1; i <= 30; ++i) notes.push_back(test::anyNote(random, i));
    for (const auto& s : strikes(notes)) {
      ASSERT_LT(s.string, WrittenLine::kStrings);
      ASSERT_LE(s.pluck.moves.count, PluckedString::kMostMoves);
      ASSERT_GT(s.pluck.pitch, Hertz(0));
      for (std::size_t m = 1; m < s.pluck.moves.count; ++m)
        ASSERT_GE(s.pluck.moves.all[m].after, s.pluck.moves.all[m - 1].after);
    }
  }
}

}  // namespace
}  // namespace ear
