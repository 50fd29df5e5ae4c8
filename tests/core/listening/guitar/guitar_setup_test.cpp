// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/guitar/guitar_setup.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>

#include "core/listening/guitar/setup_prior.h"

namespace ear {
namespace {

/// Shapes strummed on a guitar, two seconds each, as the note activations of a good ear would have them, and the chords
/// they sound.
struct Strummed {
  GuitarActivations notes{{20.0}, {}, {}};
  std::vector<FoundChord> chords;
};

using Shapes = std::vector<std::pair<const char*, const char*>>;

Strummed strum(const Guitar& guitar, const Shapes& shapes) {
  constexpr std::size_t kFrames = 40;
  Strummed s;
  for (int round = 0; round < 4; ++round)
    for (const auto& [name, frets] : shapes) {
      const auto pitches = pitchesOf(guitar, *parseFrets(frets));
      const std::size_t from = s.notes.count();
      s.notes.sounding.resize((from + kFrames) * GuitarActivations::kNotes, 0.02F);
      for (std::size_t i = from; i < from + kFrames; ++i)
        for (const int midi : pitches)
          s.notes.sounding[i * GuitarActivations::kNotes +
                           static_cast<std::size_t>(midi - GuitarActivations::kLowestMidi)] = 0.9F;
      s.chords.push_back({{s.notes.clock.timeOf(from), s.notes.clock.timeOf(from + kFrames)},
                          transposed(*parseChord(name), guitar.capo.fret),
                          1.0});
    }
  s.notes.struck.resize(s.notes.sounding.size(), 0.0F);
  return s;
}

std::vector<SetupReading> readings(const Strummed& s) {
  return readGuitarSetup(s.notes, s.chords);
}

std::string shown(const SetupReading& r) {
  return tuningName(r.tuning) + (r.capo.fret > 0 ? ", capo " + std::to_string(r.capo.fret) : "");
}

std::string said(const SetupReason& reason) {
  return sentenceOf(reason, Spelling::sharps);
}

std::vector<std::string> allSaid(const std::vector<SetupReading>& list) {
  std::vector<std::string> all;
  for (const auto& r : list)
    for (const auto& reason : r.reasons) all.push_back(said(reason));
  return all;
}

const Shapes kOpenShapes = {{"G", "320003"}, {"D", "xx0232"}, {"Em", "022000"}, {"C", "x32010"}};

TEST(GuitarSetup, OpenChordsAreThoseOfAStandardGuitar) {
  const auto found = readings(strum({}, kOpenShapes));
  EXPECT_EQ(shown(found.front()), "standard");
  EXPECT_GT(found.front().certainty, 0.8);
}

TEST(GuitarSetup, ALowDTellsOfADroppedString) {
  const Guitar dropped{.tuning = *parseTuning("D A D G B E")};
  const auto found = readings(strum(dropped, {{"D", "000232"}, {"G", "520003"}, {"A", "x02220"}, {"Bm", "x24432"}}));
  EXPECT_EQ(shown(found.front()), "dropped D");
  EXPECT_EQ(said(found.front().reasons.front()), "The lowest note heard is D2, its lowest string.");
}

TEST(GuitarSetup, OpenShapesUnderACapoPointToIt) {
  for (const int fret : {1, 2, 3, 4, 5})
    EXPECT_EQ(shown(readings(strum({.capo = {fret, 0}}, kOpenShapes)).front()),
              "standard, capo " + std::to_string(fret));
}

TEST(GuitarSetup, ShapesOfAGuitarTunedDownPointToIt) {
  for (const int down : {-1, -2}) {
    Guitar guitar;
    for (int& string : guitar.tuning.strings) string += down;
    auto s = strum(guitar, kOpenShapes);
    for (auto& c : s.chords) c.chord = transposed(*c.chord, down);
    EXPECT_EQ(shown(readings(s).front()), tuningName(guitar.tuning));
  }
}

TEST(GuitarSetup, WithAndWithoutACapoStandSideBySide) {
  for (const int fret : {0, 2, 5}) {
    const auto found = readings(strum({.capo = {fret, 0}}, kOpenShapes));
    EXPECT_TRUE(std::any_of(found.begin(), found.end(), [](const auto& r) { return r.capo.fret == 0; }));
    EXPECT_TRUE(std::any_of(found.begin(), found.end(), [](const auto& r) { return r.capo.fret > 0; }));
  }
}

TEST(GuitarSetup, OpenStringsThatSoundAlikeAreOneReading) {
  const auto found = readings(strum({.capo = {2, 0}}, kOpenShapes));
  EXPECT_EQ(shown(found.front()), "standard, capo 2");
  std::vector<std::vector<int>> open;
  for (const auto& r : found) {
    open.push_back(r.tuning.strings);
    for (int& string : open.back()) string += r.capo.fret;
  }
  std::sort(open.begin(), open.end());
  EXPECT_EQ(std::unique(open.begin(), open.end()), open.end());
}

TEST(GuitarSetup, WhatSoundsTheSameIsSaid) {
  const auto found = readings(strum({.capo = {4, 0}}, kOpenShapes));
  EXPECT_THAT(allSaid({found.front()}),
              testing::Contains("The open strings would sound the same with all a semitone down, capo 5."));
}

TEST(GuitarSetup, WithoutWordsFromTheSoundTheUsualIsLikelier) {
  const Tuning standard = standardTuning(), dropped = *parseTuning("D A D G B E"), open = *parseTuning("D G D G B D");
  EXPECT_GT(logPrior(standard, 0), logPrior(standard, 2));
  EXPECT_GT(logPrior(standard, 2), logPrior(standard, 6));
  EXPECT_GT(logPrior(dropped, 0), logPrior(dropped, 2));
  EXPECT_GT(logPrior(open, 0), logPrior(*parseTuning("C G C F C D"), 0));
  // Shares of all setups: no more than everything, and not far from it.
  double sum = 0;
  for (const auto& named : tuningCatalogue())
    if (named.tuning.count() == 6)
      for (int capo = 0; capo <= kHighestCapo; ++capo) sum += std::exp(logPrior(named.tuning, capo));
  EXPECT_NEAR(sum, 1.0, 0.15);
}

TEST(GuitarSetup, CertaintiesAreShares) {
  double sum = 0;
  const auto s = strum({.capo = {3, 0}}, kOpenShapes);
  for (const auto& setup : weighSetups(gatherPlayed(s.notes, s.chords))) {
    EXPECT_GE(setup.certainty, 0.0);
    sum += setup.certainty;
  }
  EXPECT_NEAR(sum, 1.0, 1e-9);
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

TEST(GuitarSetup, WhatNoHandCanHoldSpeaksAgainstAReading) {
  // Close chords of the open position, which bare strings cannot give four frets higher.
  const auto s = strum({.capo = {4, 0}}, {{"C", "x32010"}, {"G", "320001"}, {"Am", "x02210"}, {"D", "x54030"}});
  for (const auto& setup : weighSetups(gatherPlayed(s.notes, s.chords))) {
    if (setup.tuning != standardTuning()) continue;
    if (setup.capo == 4) {
      EXPECT_EQ(setup.fit.cannotHold, 0.0);
    }
    if (setup.capo == 0) {
      EXPECT_GT(setup.fit.cannotHold, 0.2);
    }
  }
  EXPECT_EQ(said({.kind = SetupReason::Kind::cannotHold, .numbers = {13}}),
            "For 13 % of the time no hand could hold what sounds together.");
}

TEST(GuitarSetup, AStringThatRingsOnIsPointedOut) {
  // D and A ring on under every chord of a drone: open strings in D A D G A D.
  const Guitar drone{.tuning = *parseTuning("D A D G A D")};
  const auto s =
      strum(drone, {{"Dsus4", "000000"}, {"G", "5x0000"}, {"D5", "000200"}, {"Gsus2", "5x0200"}, {"Asus4", "x00200"}});
  EXPECT_THAT(allSaid(readings(s)), testing::Contains(testing::HasSubstr("rings on over")));
}

TEST(GuitarSetup, NoChordsNoReading) {
  EXPECT_TRUE(readGuitarSetup(strum({}, kOpenShapes).notes, {}).empty());
}

TEST(GuitarSetup, WhereNoGuitarSoundsThereIsNoReading) {
  auto s = strum({}, kOpenShapes);
  std::fill(s.notes.sounding.begin(), s.notes.sounding.end(), 0.02F);
  EXPECT_TRUE(readings(s).empty());
}

}  // namespace
}  // namespace ear
