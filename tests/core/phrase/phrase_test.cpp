// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/phrase/phrase.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "core/phrase/moving.h"
#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using test::phrase;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

const Guitar kStandard;

std::vector<int> idsOf(const ShownPhrase& shown) {
  std::vector<int> ids;
  for (const ShownNote& s : shown.notes) ids.push_back(s.note.id);
  return ids;
}

std::vector<int> starred(const ShownPhrase& shown) {
  std::vector<int> ids;
  for (const ShownNote& s : shown.notes)
    if (s.differs) ids.push_back(s.note.id);
  return ids;
}

/// Four quarter notes on the B string, 8 10 8 7.
Phrase original() {
  return phrase("p1", {note(1, 4, 8), note(2, 4, 10, 1), note(3, 4, 8, 2), note(4, 4, 7, 3)});
}

/// The same with its last note a fret higher and one note more.
Pieces<Phrase> withRepeat() {
  Phrase repeat = phrase("p2", {});
  repeat.link = PhraseLink{.to = "p1"};
  repeat.link->changed = {note(4, 4, 8, 3, Beats(1, 2)), note(9, 3, 9, Beats(7, 2), Beats(1, 2))};
  return {original(), repeat};
}

TEST(Phrase, ARepeatShowsItsOriginalWithTheDifferenceStarred) {
  const auto phrases = withRepeat();
  const auto repeat = shown(phrases, phrases[1], kStandard);
  EXPECT_THAT(idsOf(repeat), ElementsAre(1, 2, 3, 4, 9));
  EXPECT_THAT(starred(repeat), ElementsAre(4, 9));
  EXPECT_EQ(repeat.notes[3].note.place.fret, 8);
  EXPECT_THAT(repeat.problem, IsEmpty());
}

TEST(Phrase, ACorrectionOfTheOriginalReachesTheRepeat) {
  auto phrases = withRepeat();
  phrases.change(0).levels.change().front().notes[1].place.fret = 11;
  EXPECT_EQ(shown(phrases, phrases[1], kStandard).notes[1].note.place.fret, 11);
  EXPECT_EQ(shown(phrases, phrases[1], kStandard).notes[3].note.place.fret, 8) << "what differs stays as it is";
}

TEST(Phrase, ANewNoteNeverStandsForOneThatTheOriginalGainsLater) {
  auto phrases = withRepeat();
  const int fresh = freshNoteId(phrases);
  EXPECT_EQ(fresh, 10) << "over those of the repeat too";
  phrases.change(0).levels.change().front().notes.push_back(note(fresh, 4, 5, 4));
  EXPECT_THAT(idsOf(shown(phrases, phrases[1], kStandard)), ElementsAre(1, 2, 3, 4, 9, 10));
}

TEST(Phrase, DetachedItIsItsOwn) {
  auto phrases = withRepeat();
  const auto before = shown(phrases, phrases[1], kStandard);
  detach(phrases, phrases.change(1), kStandard);
  EXPECT_FALSE(phrases[1].link);
  phrases.change(0).levels.change().front().notes.clear();
  const auto after = shown(phrases, phrases[1], kStandard);
  EXPECT_EQ(idsOf(after), idsOf(before));
  EXPECT_THAT(starred(after), IsEmpty());
}

TEST(Phrase, OfNotesAndAnOriginalTheDifferenceIsFound) {
  Pieces<Phrase> phrases = {original(), phrase("p2", {})};
  auto wanted = original().levels->front().notes;
  wanted.erase(wanted.begin() + 2);
  wanted[0].bend = Bend{Cents(100)};
  ASSERT_TRUE(linkTo(phrases, phrases.change(1), "p1", wanted, kStandard));
  EXPECT_THAT(phrases[1].link->without, ElementsAre(3));
  EXPECT_THAT(phrases[1].link->changed, ElementsAre(wanted[0]));
  const auto now = shown(phrases, phrases[1], kStandard);
  ASSERT_EQ(now.notes.size(), wanted.size());
  for (std::size_t i = 0; i < wanted.size(); ++i) EXPECT_EQ(now.notes[i].note, wanted[i]);
}

TEST(Phrase, ATransposedRepeatFollowsByFretsAndStrings) {
  Pieces<Phrase> phrases = {original(), phrase("p2", {}), phrase("p3", {})};
  phrases.change(1).link = PhraseLink{.to = "p1", .frets = 2};
  phrases.change(2).link = PhraseLink{.to = "p2", .strings = -1};
  const auto second = shown(phrases, phrases[1], kStandard), third = shown(phrases, phrases[2], kStandard);
  for (std::size_t i = 0; i < 4; ++i) {
    const FretPosition first = original().levels->front().notes[i].place;
    EXPECT_EQ(second.notes[i].note.place, (FretPosition{first.string, first.fret + 2}));
    EXPECT_EQ(third.notes[i].note.place, (FretPosition{first.string - 1, first.fret + 2}));
  }
  phrases.change(1).link->frets = -8;
  EXPECT_THAT(shown(phrases, phrases[1], kStandard).lost, ElementsAre(4)) << "fret 7 has no place eight frets lower";
}

TEST(Phrase, ALinkInACircleOrIntoNothingSaysSo) {
  auto phrases = withRepeat();
  phrases.change(0).link = PhraseLink{.to = "p2"};
  EXPECT_THAT(shown(phrases, phrases[0], kStandard).problem, HasSubstr("the same as one that is the same"));
  phrases.change(0).link->to = "p1";
  EXPECT_THAT(shown(phrases, phrases[0], kStandard).problem, HasSubstr("the same as one that is the same"));
  phrases.change(0).link->to = "gone";
  EXPECT_THAT(shown(phrases, phrases[1], kStandard).problem, HasSubstr("no longer there"));
  EXPECT_THAT(starred(shown(phrases, phrases[1], kStandard)), ElementsAre(4, 9)) << "what it has itself is not lost";
  Pieces<Phrase> two = {original(), phrase("p2", {})};
  two.change(0).link = PhraseLink{.to = "p2"};
  EXPECT_FALSE(linkTo(two, two.change(1), "p1", {}, kStandard)) << "that would close a circle";
  EXPECT_FALSE(two[1].link);
}

TEST(Phrase, ALevelHasNotesOfItsOwn) {
  auto phrases = withRepeat();
  phrases.change(1).levels.change().push_back({"easier", "the run is left out", {note(20, 4, 8, 0, 4)}});
  EXPECT_THAT(idsOf(shown(phrases, phrases[1], kStandard, 1)), ElementsAre(20));
  EXPECT_THAT(starred(shown(phrases, phrases[1], kStandard, 1)), IsEmpty());
}

TEST(Moving, ThereAndBackAgainIsTheSame) {
  std::mt19937 random(41);
  int moved = 0;
  for (int i = 0; i < 3000; ++i) {
    const Note before = test::anyNote(random, 1);
    Note n = before;
    const int frets = std::uniform_int_distribution(-6, 6)(random),
              strings = std::uniform_int_distribution(-3, 3)(random);
    if (!move(n, kStandard, frets, strings)) {
      EXPECT_EQ(n, before) << "what does not fit is left alone";
      continue;
    }
    ++moved;
    ASSERT_TRUE(move(n, kStandard, -frets, -strings));
    EXPECT_EQ(n, before);
  }
  EXPECT_GT(moved, 1000);
}

TEST(Moving, WhatIsSaidInFretsGoesAlong) {
  Note n = note(1, 3, 5);
  n.trill = Trill{7};
  n.attack = Attack::slidInto, n.slidFrom = 3;
  n.bend = Bend{Cents(200)};
  ASSERT_TRUE(move(n, kStandard, 12, 0));
  EXPECT_EQ(n.place, (FretPosition{3, 17}));
  EXPECT_EQ(n.trill->fret, 19);
  EXPECT_EQ(n.slidFrom, 15);
  EXPECT_EQ(n.bend->size, Cents(200));
  EXPECT_FALSE(move(n, kStandard, 5, 0)) << "the trill's partner would lie beyond fret 22";
}

}  // namespace
}  // namespace ear
