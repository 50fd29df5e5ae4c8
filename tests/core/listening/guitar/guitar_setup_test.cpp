// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/guitar/guitar_setup.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "support/activity.h"

namespace ear {
namespace {

using test::Score;

/// Shapes strummed on a guitar, two seconds each, and the chords they sound.
struct Strummed {
  Score score;
  std::vector<FoundChord> chords;
};

Strummed strum(const Guitar& guitar, const std::vector<std::pair<const char*, const char*>>& shapes) {
  Strummed s;
  for (int round = 0; round < 4; ++round)
    for (const auto& [name, frets] : shapes) {
      const auto places = *parseFrets(frets);
      const Seconds from = s.score.length();
      s.score.play(pitchesOf(guitar, places), 2.0);
      s.chords.push_back({{from, s.score.length()}, transposed(*parseChord(name), guitar.capo.fret), 1.0});
    }
  return s;
}

std::vector<SetupReading> readings(const Strummed& s) {
  return readGuitarSetup(s.score.notes(), s.chords, true);
}

std::string shown(const SetupReading& r) {
  return tuningName(r.tuning) + (r.capo.fret > 0 ? ", capo " + std::to_string(r.capo.fret) : "");
}

std::vector<std::string> shown(const std::vector<SetupReading>& list) {
  std::vector<std::string> names;
  for (const auto& r : list) names.push_back(shown(r));
  return names;
}

const std::vector<std::pair<const char*, const char*>> kOpenShapes = {
    {"G", "320003"}, {"D", "xx0232"}, {"Em", "022000"}, {"C", "x32010"}};

TEST(GuitarSetup, OpenChordsAreThoseOfAStandardGuitar) {
  EXPECT_EQ(shown(readings(strum({}, kOpenShapes)).front()), "standard");
}

std::string said(const SetupReason& reason) {
  return sentenceOf(reason, Spelling::sharps);
}

TEST(GuitarSetup, ALowDTellsOfADroppedString) {
  const Guitar dropped{.tuning = *parseTuning("D A D G B E")};
  const auto found = readings(strum(dropped, {{"D", "000232"}, {"G", "520003"}, {"A", "x02220"}, {"Bm", "x24432"}}));
  EXPECT_EQ(shown(found.front()), "dropped D");
  EXPECT_THAT(said(found.front().reasons.front()), testing::HasSubstr("D2"));
}

TEST(GuitarSetup, OpenShapesUnderACapoPointToIt) {
  for (const int fret : {3, 4, 5}) {
    const auto found = shown(readings(strum({.capo = {fret, 0}}, kOpenShapes)));
    EXPECT_THAT(std::vector(found.begin(), found.begin() + 3),
                testing::Contains("standard, capo " + std::to_string(fret)));
  }
}

TEST(GuitarSetup, WithAndWithoutACapoStandSideBySide) {
  for (const int fret : {0, 2, 5}) {
    const auto found = readings(strum({.capo = {fret, 0}}, kOpenShapes));
    EXPECT_TRUE(std::any_of(found.begin(), found.end(), [](const auto& r) { return r.capo.fret == 0; }));
    EXPECT_TRUE(std::any_of(found.begin(), found.end(), [](const auto& r) { return r.capo.fret > 0; }));
  }
}

TEST(GuitarSetup, EveryReadingSaysWhyAndWhere) {
  for (const auto& r : readings(strum({}, kOpenShapes))) {
    ASSERT_GE(r.reasons.size(), 2U) << shown(r);
    for (const auto& reason : r.reasons) {
      EXPECT_THAT(said(reason), testing::EndsWith("."));
      EXPECT_TRUE(reason.at.has_value());
    }
  }
}

TEST(GuitarSetup, WithABassTheLowestNoteIsNotClaimed) {
  const auto s = strum({}, kOpenShapes);
  for (const auto& r : readGuitarSetup(s.score.notes(), s.chords, false)) {
    EXPECT_THAT(said(r.reasons.front()), testing::Not(testing::HasSubstr("lowest note heard")));
    EXPECT_THAT(said(r.reasons.back()), testing::HasSubstr("A bass plays below it"));
  }
}

TEST(GuitarSetup, AStringThatRingsOnIsPointedOut) {
  // D and A ring on under every chord of a drone: open strings in D A D G A D.
  const Guitar drone{.tuning = *parseTuning("D A D G A D")};
  const auto s =
      strum(drone, {{"Dsus4", "000000"}, {"G", "5x0000"}, {"D5", "000200"}, {"Gsus2", "5x0200"}, {"Asus4", "x00200"}});
  std::vector<std::string> all;
  for (const auto& r : readings(s))
    for (const auto& reason : r.reasons) all.push_back(said(reason));
  EXPECT_THAT(all, testing::Contains(testing::HasSubstr("rings on over")));
}

TEST(GuitarSetup, NoChordsNoReading) {
  EXPECT_TRUE(readGuitarSetup(Score().play({40}, 2.0).notes(), {}, true).empty());
}

}  // namespace
}  // namespace ear
