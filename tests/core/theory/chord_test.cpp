// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/chord.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <map>

#include "core/exchange/jams.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::ElementsAreArray;
using testing::HasSubstr;

// Harte, Sandler, Abdallah and Gomez 2005, "Symbolic representation of musical chords", table of shorthands, as degrees
// of the major scale; in semitones here. From memory.
TEST(Chord, KindsHaveTheTonesOfThePublishedShorthands) {
  const std::map<std::string_view, std::vector<int>> published = {
      {"maj", {0, 4, 7}},       {"min", {0, 3, 7}},          {"dim", {0, 3, 6}},          {"aug", {0, 4, 8}},
      {"maj7", {0, 4, 7, 11}},  {"min7", {0, 3, 7, 10}},     {"7", {0, 4, 7, 10}},        {"dim7", {0, 3, 6, 9}},
      {"hdim7", {0, 3, 6, 10}}, {"minmaj7", {0, 3, 7, 11}},  {"maj6", {0, 4, 7, 9}},      {"min6", {0, 3, 7, 9}},
      {"9", {0, 4, 7, 10, 14}}, {"maj9", {0, 4, 7, 11, 14}}, {"min9", {0, 3, 7, 10, 14}}, {"sus4", {0, 5, 7}},
      {"sus2", {0, 2, 7}}};
  std::size_t compared = 0;
  for (const ChordType& type : chordTypes())
    if (const auto found = published.find(type.harte); found != published.end()) {
      ++compared;
      EXPECT_THAT(std::vector<int>(type.tones.begin(), type.tones.end()), ElementsAreArray(found->second))
          << type.harte;
    }
  EXPECT_EQ(compared, published.size());
}

TEST(Chord, EveryNameIsReadBackInBothSpellings) {
  for (int root = 0; root < 12; ++root)
    for (const ChordType& type : chordTypes())
      for (int bass = -1; bass < 12; ++bass) {
        Chord chord{PitchClass(root), &type, std::nullopt};
        if (bass >= 0 && bass != root) chord.bass = PitchClass(bass);
        for (const Spelling spelling : {Spelling::sharps, Spelling::flats}) {
          const std::string name = chordName(chord, spelling);
          ASSERT_EQ(parseChord(name), chord) << name;
        }
      }
}

TEST(Chord, NamesAsPlayersTypeThem) {
  const auto same = [](const char* one, const char* other) { return parseChord(one) == parseChord(other); };
  for (const auto& [one, other] : {std::pair{"F#m7", "F♯m7"},
                                   {"E-7", "Em7"},
                                   {"Amin7", "Am7"},
                                   {"Dmaj7", "DM7"},
                                   {"Bb/D", "B♭/D"},
                                   {"C+", "Caug"},
                                   {"H7", "B7"},
                                   {"Bm7b5", "Bm7♭5"}})
    EXPECT_TRUE(same(one, other)) << one << " " << other;
  for (const char* none : {"", "X", "N.C.", "hello", "C##x", "/G", "C/", "Cmajj7", "7"})
    EXPECT_FALSE(parseChord(none).has_value()) << none;
}

TEST(Chord, NotesGoUpFromTheRootWithAForeignBassFirst) {
  EXPECT_THAT(notesOf(*parseChord("C7")), ElementsAre(PitchClass(0), PitchClass(4), PitchClass(7), PitchClass(10)));
  EXPECT_EQ(notesOf(*parseChord("C/D")).front(), PitchClass(2));
  EXPECT_EQ(notesOf(*parseChord("C/G")).size(), 3U);
  EXPECT_TRUE(parseChord("Em7b5")->minor());
  EXPECT_FALSE(parseChord("E5")->minor());
}

TEST(Chord, ACapoAndBackIsTheSameChord) {
  for (const char* name : {"Ebm7", "F#/A#", "Bsus4"})
    for (int capo = -11; capo <= 11; ++capo)
      EXPECT_EQ(transposed(transposed(*parseChord(name), -capo), capo), *parseChord(name)) << name << capo;
  EXPECT_EQ(transposed(*parseChord("G/B"), 2), *parseChord("A/C#"));
}

/// Every label that is written is read from a JAMS file as the chord that it was.
TEST(Chord, EveryLabelComesBack) {
  std::string data;
  std::vector<Chord> chords;
  for (int root = 0; root < 12; ++root)
    for (const ChordType& type : chordTypes()) {
      chords.push_back({PitchClass(root), &type, std::nullopt});
      for (const int tone : type.tones)
        if (tone % 12 != 0) chords.push_back({PitchClass(root), &type, PitchClass(root + tone)});
    }
  for (std::size_t i = 0; i < chords.size(); ++i)
    data += std::string(i > 0 ? "," : "") + "{\"time\": " + std::to_string(i) + ", \"duration\": 1, \"value\": \"" +
            harteLabel(chords[i]) + "\"}";
  const auto read = readJams("{\"annotations\": [{\"namespace\": \"chord\", \"data\": [" + data + "]}]}");
  ASSERT_TRUE(read.ok()) << read.problem();
  ASSERT_EQ(read->chords.size(), chords.size()) << testing::PrintToString(read->notKept);
  for (std::size_t i = 0; i < chords.size(); ++i) EXPECT_EQ(read->chords[i].chord, chords[i]) << harteLabel(chords[i]);
  EXPECT_EQ(harteLabel(*parseChord("D/F#")), "D:maj/3");
  EXPECT_THAT(harteLabel(*parseChord("Ebm7")), HasSubstr(":min7"));
}

}  // namespace
}  // namespace ear
