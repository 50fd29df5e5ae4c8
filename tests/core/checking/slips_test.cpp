// SPDX-License-Identifier: GPL-3.0-or-later
// What can and cannot be played is common practice, no source.
#include "core/checking/slips.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "core/phrase/entry/entry.h"
#include "support/phrases.h"

namespace ear {
namespace {

using Kind = Slip::Kind;
using test::note;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

std::vector<Kind> kindsOf(const std::vector<Slip>& slips) {
  std::vector<Kind> kinds;
  for (const Slip& s : slips) kinds.push_back(s.kind);
  return kinds;
}

std::vector<Kind> kindsIn(const std::vector<Note>& notes, const SlipContext& context = {}) {
  return kindsOf(slipsIn(notes, context));
}

/// The notes of an entry line, numbered from 1.
std::vector<Note> entered(const char* line, const Guitar& guitar = {}) {
  EntryContext context;
  context.guitar = guitar;
  std::vector<Note> notes;
  for (const EnteredStep& s : readEntry(line, context).steps)
    for (Note n : s.notes) n.id = static_cast<int>(notes.size()) + 1, notes.push_back(n);
  return notes;
}

TEST(Slips, WhatCanBePlayedHasNone) {
  for (const char* line :
       {"5 7 8 A, 5 hammer 7 pull 5 D, 12 bent a whole step G", "x 3 2 0 1 0", "harmonic 12 D, harmonic 7 G",
        "eighth triplets 5 7 8 A twice", "quarter triplets 5 7 8 5 7 8 A", "3 slide 8 A, 12 trill 14 G"})
    EXPECT_THAT(kindsIn(entered(line)), IsEmpty()) << line;
}

TEST(Slips, BesideTheNeckAndUnderTheCapo) {
  EXPECT_THAT(kindsIn({note(1, 3, 23)}), ElementsAre(Kind::besideNeck));
  SlipContext capo;
  capo.guitar.capo = {3};
  EXPECT_THAT(kindsIn({note(1, 3, 19)}, capo), IsEmpty());
  const auto slips = slipsIn(std::vector{note(1, 3, 20)}, capo);
  ASSERT_THAT(kindsOf(slips), ElementsAre(Kind::besideNeck));
  EXPECT_THAT(sentenceOf(slips[0], capo, {}, Spelling::sharps), HasSubstr("ends at fret 19"));
}

TEST(Slips, TwoNotesOnOneStringAndChordsNoHandReaches) {
  EXPECT_THAT(kindsIn({note(1, 3, 5), note(2, 3, 7)}), ElementsAre(Kind::sameString));
  EXPECT_THAT(kindsIn({note(1, 0, 1), note(2, 5, 9)}), ElementsAre(Kind::noHand));
  EXPECT_THAT(kindsIn({note(1, 0, 0), note(2, 5, 9)}), IsEmpty()) << "an open string is always at hand";
  Note bar = note(2, 5, 9);
  bar.bar = SlideBar::atFret;
  EXPECT_THAT(kindsIn({note(1, 0, 1), bar}), IsEmpty()) << "a bar and a finger";
}

TEST(Slips, HammerOnsGoUpAndPullOffsDownOnOneString) {
  const auto pair = [](Attack attack, int from, int to, int string = 3) {
    Note second = note(2, string, to, 1);
    second.attack = attack;
    return std::vector{note(1, 3, from), second};
  };
  EXPECT_THAT(kindsIn(pair(Attack::hammeredOn, 5, 7)), IsEmpty());
  EXPECT_THAT(kindsIn(pair(Attack::hammeredOn, 7, 5)), ElementsAre(Kind::hammerDown));
  EXPECT_THAT(kindsIn(pair(Attack::pulledOff, 7, 5)), IsEmpty());
  EXPECT_THAT(kindsIn(pair(Attack::pulledOff, 5, 7)), ElementsAre(Kind::pullUp));
  EXPECT_THAT(kindsIn(pair(Attack::hammeredOn, 5, 7, 4)), ElementsAre(Kind::slurElsewhere));
  // Bent up, let down and pulled off to a fret under it.
  auto bent = pair(Attack::pulledOff, 9, 7);
  bent[0].bend = Bend{Cents(100), false, true};
  EXPECT_THAT(kindsIn(bent), IsEmpty());
  Note nowhere = note(1, 3, 7);
  nowhere.attack = Attack::hammeredOn;
  EXPECT_THAT(kindsIn({nowhere}), IsEmpty()) << "a hammer-on out of nowhere";
}

TEST(Slips, BendsThatNoStringTakesOrThatHaveNoSize) {
  const auto bend = [](int fret, Size size) {
    Note n = note(1, 3, fret);
    n.bend = Bend{size};
    return std::vector{n};
  };
  EXPECT_THAT(kindsIn(bend(12, Cents(400))), IsEmpty());
  EXPECT_THAT(kindsIn(bend(12, Cents(500))), ElementsAre(Kind::wideBend));
  EXPECT_THAT(kindsIn(bend(0, Cents(100))), ElementsAre(Kind::openBend));
  const auto unsaid = slipsIn(bend(12, std::nullopt), {});
  ASSERT_THAT(kindsOf(unsaid), ElementsAre(Kind::noBendSize));
  EXPECT_EQ(unsaid[0].weight(), Slip::Weight::unsaid);
}

TEST(Slips, HarmonicsSpeakOverSomeFretsOnly) {
  EXPECT_THAT(kindsIn(entered("harmonic 11 D")), ElementsAre(Kind::noHarmonic));
  EXPECT_THAT(kindsIn(entered("9 G tap harmonic 21")), IsEmpty());
  EXPECT_THAT(kindsIn(entered("9 G tap harmonic 20")), ElementsAre(Kind::noHarmonic));
  EXPECT_THAT(kindsIn(entered("pinch harmonic 5 G")), IsEmpty());
}

TEST(Slips, NotesOutsideOfTheStatedScaleAreAskedOnce) {
  SlipContext context;
  context.scales = {{Beats(0), {PitchClass(4), ScaleKind::minorPentatonic}}};
  // E minor pentatonic at fret 12; B 15 is D, B 14 is no note of it.
  EXPECT_THAT(kindsIn(entered("12 15 B, 12 14 G"), context), IsEmpty());
  auto notes = entered("12 14 15 B");
  const auto slips = slipsIn(notes, context);
  ASSERT_THAT(kindsOf(slips), ElementsAre(Kind::outsideScale));
  EXPECT_THAT(sentenceOf(slips[0], context, {}, Spelling::sharps), HasSubstr("is not in E minor pentatonic"));
  context.meant = {slips[0].notes[0]};
  EXPECT_THAT(kindsIn(notes, context), IsEmpty());
  // G 11 is outside, bent a half step it reaches G.
  EXPECT_THAT(kindsIn(entered("11 half bend G"), context), IsEmpty());
}

TEST(Slips, ATupletWithANoteMissingDoesNotAddUp) {
  const auto slips = slipsIn(entered("quarter triplets 5 7 8 5 7 A"), {});
  ASSERT_THAT(kindsOf(slips), ElementsAre(Kind::tupletOpen));
  EXPECT_THAT(slips[0].values, ElementsAre(5, 6)) << "five last 3 1/3 beats";
  EXPECT_THAT(sentenceOf(slips[0], {}, {}, Spelling::sharps), HasSubstr("5 notes where 6 fill it"));
  EXPECT_THAT(kindsIn(entered("eighth triplets 5 7 A quarter 8 A")), ElementsAre(Kind::tupletOpen));
  EXPECT_THAT(kindsIn(entered("eighth triplets 5 7 8 A quarter 8 A")), IsEmpty());
}

TEST(Slips, ANoteEndsWhereTheNextOneStartsOnItsString) {
  EXPECT_THAT(kindsIn({note(1, 3, 5, 0, 2), note(2, 3, 7, 1)}), ElementsAre(Kind::overlap));
  EXPECT_THAT(kindsIn({note(1, 3, 5, 0, 2), note(2, 4, 7, 1)}), IsEmpty());
}

TEST(Slips, ComeInOrderOfTimeWhateverThePhrase) {
  std::mt19937 random(23);
  for (int round = 0; round < 200; ++round) {
    std::vector<Note> notes;
    for (int i = 1; i <= 40; ++i) notes.push_back(test::anyNote(random, i));
    SlipContext context;
    context.scales = {{Beats(0), {PitchClass(2), ScaleKind::naturalMinor}}};
    const auto slips = slipsIn(notes, context);
    for (std::size_t i = 0; i < slips.size(); ++i) {
      ASSERT_FALSE(slips[i].notes.empty());
      if (i > 0) {
        ASSERT_LE(slips[i - 1].at, slips[i].at);
      }
      ASSERT_FALSE(sentenceOf(slips[i], context, {}, Spelling::flats).empty());
    }
    auto shuffled = notes;
    std::shuffle(shuffled.begin(), shuffled.end(), random);
    EXPECT_EQ(slipsIn(shuffled, context).size(), slips.size());
  }
}

TEST(Slips, AreToldWhileALineIsTyped) {
  const auto typed = [](std::string_view line, const std::vector<Note>& before = {}) {
    const Entry entry = readEntry(line);
    EXPECT_TRUE(entry.clear()) << line;
    std::vector<std::pair<Kind, std::string>> found;  // with the words that it is about
    for (const Slip& s : slipsWhileTyped(entry, before, {})) {
      const TextRange r = entry.steps.at(static_cast<std::size_t>(s.notes.back()) - 1).range;
      found.emplace_back(s.kind, std::string(line).substr(r.from, r.to - r.from));
    }
    return found;
  };
  using Found = std::pair<Kind, std::string>;
  EXPECT_THAT(typed("6 hammer 9 G"), IsEmpty());
  EXPECT_THAT(typed("9 hammer 6 G"), ElementsAre(Found{Kind::hammerDown, "6"}));
  EXPECT_THAT(typed("6 pull 9 G"), ElementsAre(Found{Kind::pullUp, "9"}));
  EXPECT_THAT(typed("1 + 9 D G"), ElementsAre(testing::Field(&Found::first, Kind::noHand)));
  // Behind a note that is written already.
  const std::vector<Note> before = {test::note(7, 3, 9)};
  EXPECT_THAT(typed("hammer 6 G", before), ElementsAre(Found{Kind::hammerDown, "6"}));
}

}  // namespace
}  // namespace ear
