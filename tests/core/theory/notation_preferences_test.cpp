// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/notation_preferences.h"

#include <gtest/gtest.h>

namespace ear {
namespace {

// The schools are those of the trade; common practice, no source.

const Guitar kStandard, kDroppedD{.tuning = {{38, 45, 50, 55, 59, 64}}},
    kCapo3{.tuning = standardTuning(), .capo = {3, 0}};

std::string all(const NotationPreferences& schools, const Guitar& guitar, Spelling spelling = Spelling::sharps) {
  std::string names;
  for (int s = 0; s < guitar.strings(); ++s) names += (s > 0 ? ", " : "") + stringName(schools, guitar, s, spelling);
  return names;
}

TEST(NotationPreferences, NameStrings) {
  using S = NotationPreferences::Strings;
  EXPECT_EQ(all({}, kStandard), "6, 5, 4, 3, 2, 1");
  EXPECT_EQ(all({.strings = S::numberFromLow}, kStandard), "1, 2, 3, 4, 5, 6");
  EXPECT_EQ(all({.strings = S::letter}, kStandard), "low E, A, D, G, B, high E");
  EXPECT_EQ(all({.strings = S::letter}, kDroppedD), "low D, A, high D, G, B, E");
  EXPECT_EQ(all({.strings = S::standardLetter}, kDroppedD), "low E, A, D, G, B, high E");
  EXPECT_EQ(all({.strings = S::pitch}, kCapo3), "G2, C3, F3, A♯3, D4, G4");
  EXPECT_EQ(all({.strings = S::letter}, kStandard, Spelling::germanSharps), "low E, A, D, G, H, high E");
  const NotationPreferences letters{.strings = S::letter};
  EXPECT_EQ(stringMark(letters, kStandard, 0, Spelling::sharps), "E");
  EXPECT_EQ(stringMark(letters, kStandard, 5, Spelling::sharps), "e") << "small for the high one";
}

TEST(NotationPreferences, NamePlaces) {
  EXPECT_EQ(placeName({}, kStandard, {3, 12}, false, Spelling::sharps), "fret 12 on string 3");
  EXPECT_EQ(
      placeName({.places = NotationPreferences::Places::stringFirst}, kStandard, {3, 12}, false, Spelling::sharps),
      "string 3, fret 12");
  EXPECT_EQ(placeName({}, kCapo3, {4, 2}, false, Spelling::sharps), "fret 2 on string 2");
  EXPECT_EQ(placeName({}, kCapo3, {4, 2}, true, Spelling::sharps), "fret 5 on string 2");
  EXPECT_EQ(placeName({}, kCapo3, {4, 0}, true, Spelling::sharps), "open string 2");
}

TEST(NotationPreferences, NameBends) {
  using B = NotationPreferences::Bends;
  EXPECT_EQ(bendName({}, Cents(50)), "quarter step");
  EXPECT_EQ(bendName({}, Cents(104)), "half step");
  EXPECT_EQ(bendName({}, Cents(300)), "1 1/2 steps");
  EXPECT_EQ(bendName({.bends = B::tones}, Cents(200)), "tone");
  EXPECT_EQ(bendName({.bends = B::halfAndFull}, Cents(200)), "full");
  EXPECT_EQ(bendName({.bends = B::frets}, Cents(100)), "1 fret");
  EXPECT_EQ(bendName({.bends = B::frets}, Cents(-300)), "3 frets");
  EXPECT_EQ(bendName({.bends = B::frets}, Cents(50)), "1/2 frets");
  EXPECT_EQ(bendName({}, Cents(10)), "no bend");
}

TEST(NotationPreferences, Count) {
  using C = NotationPreferences::Counting;
  EXPECT_EQ(countName({}, 2, 1, 4), "2 e");
  EXPECT_EQ(countName({}, 2, 3, 4), "2 a");
  EXPECT_EQ(countName({}, 1, 1, 2), "1 and");
  EXPECT_EQ(countName({.counting = C::ands}, 4, 2, 4), "4 and");
  EXPECT_EQ(countName({.counting = C::triplets}, 4, 2, 3), "4 let");
  EXPECT_EQ(countName({.counting = C::fraction}, 2, 1, 4), "2 + 1/4");
  EXPECT_EQ(countName({.counting = C::syllables}, 3, 0, 4), "3");
}

TEST(NotationPreferences, SignsAndLetters) {
  const Key flat{PitchClass(3), Mode::minor};
  EXPECT_EQ(spellingIn({}, flat), Spelling::flats);
  EXPECT_EQ(spellingIn({.signs = NotationPreferences::Signs::sharps}, flat), Spelling::sharps);
  EXPECT_EQ(spellingIn({.letters = NotationPreferences::Letters::german}, flat), Spelling::germanFlats);
  EXPECT_EQ(pitchClassName(PitchClass(10), Spelling::germanFlats), "B");
  EXPECT_EQ(pitchClassName(PitchClass(11), Spelling::germanFlats), "H");
  EXPECT_EQ(pitchClassName(PitchClass(10), Spelling::germanSharps), "A♯");
}

}  // namespace
}  // namespace ear
