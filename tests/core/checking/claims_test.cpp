// SPDX-License-Identifier: GPL-3.0-or-later
// Slips of the tongue; the facts are common practice, no source.
#include "core/checking/claims.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "core/theory/pitch.h"

namespace ear {
namespace {

using testing::HasSubstr;

PitchClass pc(const char* name) {
  return *parsePitchClass(name);
}

std::string noteSlip(int string, int fret, const char* said, const Guitar& guitar = {}) {
  const auto wrong = wrongNote(guitar, {string, fret}, pc(said), {}, Spelling::sharps);
  return wrong ? wrong->sentence : "";
}

std::string chordSlip(const char* frets, const char* said) {
  const auto wrong = wrongChord({}, *parseFrets(frets), *parseChord(said), Spelling::sharps);
  return wrong ? wrong->sentence : "";
}

TEST(Claims, ANoteCalledByTheWrongName) {
  EXPECT_THAT(noteSlip(1, 5, "E"), HasSubstr("is D, not E (that is fret 7)"));
  EXPECT_EQ(noteSlip(1, 5, "D"), "");
  EXPECT_EQ(noteSlip(1, 4, "Db"), "") << "C sharp by its other name";
  EXPECT_THAT(noteSlip(3, 8, "E"), HasSubstr("is D♯, not E (that is fret 9)"));
}

TEST(Claims, RetunedAndWithACapoTheFretsMoveOn) {
  Guitar openD;
  openD.tuning = *parseTuning("D A D F# A D");
  EXPECT_THAT(noteSlip(3, 7, "D", openD), HasSubstr("is C♯, not D (that is fret 8)"));
  Guitar capo;
  capo.capo = {4};
  EXPECT_EQ(noteSlip(1, 0, "C#", capo), "");
  EXPECT_THAT(noteSlip(1, 0, "A", capo), HasSubstr("is C♯, not A"));
}

TEST(Claims, AChordCalledByTheWrongName) {
  EXPECT_THAT(chordSlip("x00220", "A7"), HasSubstr("There is no G in them"));
  EXPECT_EQ(chordSlip("x02020", "A7"), "");
  EXPECT_EQ(chordSlip("x02220", "A"), "");
  EXPECT_EQ(chordSlip("002220", "A"), "") << "the bass was not named";
  EXPECT_THAT(chordSlip("x02230", "A7"), HasSubstr("Asus4"));
  EXPECT_EQ(chordSlip("x02230", "Asus4"), "");
  EXPECT_EQ(chordSlip("2x023x", "D/F#"), "");
  EXPECT_THAT(chordSlip("2x023x", "F#m"), HasSubstr("D/F♯"));
  EXPECT_EQ(chordSlip("x24242", "B7"), "");
  EXPECT_THAT(chordSlip("3x0033", "G"), HasSubstr("There is no B in them")) << "a power chord has no third";
}

TEST(Claims, OneLetterWrongInAChromaticRun) {
  const std::vector<FretPosition> places = {{1, 2}, {1, 3}, {1, 4}, {1, 5}};
  const std::vector<PitchClass> right = {pc("B"), pc("C"), pc("C#"), pc("D")},
                                wrong = {pc("B"), pc("C"), pc("D"), pc("D")};
  EXPECT_FALSE(wrongInRun({}, places, right, {}, Spelling::sharps));
  const auto found = wrongInRun({}, places, wrong, {}, Spelling::sharps);
  ASSERT_TRUE(found);
  EXPECT_EQ(found->index, 2U);
  EXPECT_THAT(found->name.sentence, HasSubstr("is C♯, not D"));
}

TEST(Claims, AreReadBehindTheLineTheyAreMadeOf) {
  const auto claim = [](std::string_view line, std::string_view said, const NotationPreferences& schools = {}) {
    return wrongClaim(readEntry(line, {.schools = schools}), said, {}, schools, Spelling::flats);
  };
  EXPECT_EQ(claim("5 on A", "D"), "");
  EXPECT_NE(claim("5 on A", "E").find("D"), std::string::npos);
  EXPECT_EQ(claim("5 6 7 on A", "D Eb E"), "");
  EXPECT_NE(claim("5 6 7 on A", "D E E").find("Name 2"), std::string::npos);
  EXPECT_EQ(claim("x 0 2 0 2 0", "A7"), "");
  EXPECT_NE(claim("x 0 0 2 2 0", "A7"), "");
  EXPECT_NE(claim("5 7 on A", "D"), "") << "one name for two notes";
  EXPECT_EQ(claim("5 on A", ""), "");
  NotationPreferences german;
  german.letters = NotationPreferences::Letters::german;
  EXPECT_EQ(claim("2 on A", "H", german), "");
  EXPECT_EQ(claim("1 on A", "B", german), "");
}

}  // namespace
}  // namespace ear
