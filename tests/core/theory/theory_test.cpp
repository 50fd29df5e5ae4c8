// SPDX-License-Identifier: GPL-3.0-or-later
#include <gtest/gtest.h>

#include <cmath>
#include <numeric>

#include "core/theory/key.h"
#include "core/theory/pitch.h"

namespace ear {
namespace {

// ISO 16:1975: A4 = 440 Hz. Frequencies of the standard strings by equal temperament: common practice, no source.
TEST(Pitch, EqualTemperamentFromA440) {
  EXPECT_DOUBLE_EQ(frequencyOf(MidiPitch(69)).value, 440.0);
  EXPECT_NEAR(frequencyOf(MidiPitch(40)).value, 82.407, 5e-4);
  EXPECT_NEAR(frequencyOf(MidiPitch(38)).value, 73.416, 5e-4);
  EXPECT_NEAR(frequencyOf(MidiPitch(42)).value, 92.499, 5e-4);
}

// Common practice, no source.
TEST(Pitch, CentsMoveTheReference) {
  EXPECT_NEAR(a4At(Cents(10)).value, 442.549, 5e-4);
  EXPECT_NEAR(a4At(Cents(20)).value, 445.1126, 5e-4);
  // All strings a semitone down and ten cents sharp of that: the A string.
  EXPECT_NEAR(frequencyOf(MidiPitch(45 - 1), a4At(Cents(10))).value, 104.428, 5e-4);
  EXPECT_NEAR(frequencyOf(MidiPitch(44)).value, 103.826, 5e-4);
}

TEST(Pitch, Names) {
  EXPECT_EQ(noteName(60, Spelling::sharps), "C4");
  EXPECT_EQ(noteName(39, Spelling::flats), "E♭2");
  EXPECT_EQ(noteName(61, Spelling::sharps), "C♯4");
  EXPECT_EQ(noteName(11, Spelling::flats), "B-1");
}

// Key signatures: common practice, no source.
TEST(Key, SpellsByItsSignature) {
  for (const char* flat : {"F", "Bb", "Eb", "Ab", "Db", "Dm", "Gm", "Cm", "Fm", "Bbm", "Ebm"})
    EXPECT_EQ(spellingOf(*parseKey(flat)), Spelling::flats) << flat;
  for (const char* sharp : {"C", "G", "D", "A", "E", "B", "F#", "Am", "Em", "Bm", "F#m", "C#m", "G#m"})
    EXPECT_EQ(spellingOf(*parseKey(sharp)), Spelling::sharps) << sharp;
}

TEST(Key, NamesAndParsing) {
  EXPECT_EQ(keyName({PitchClass(3), Mode::minor}), "E♭ minor");
  EXPECT_EQ(keyName({PitchClass(6), Mode::major}), "F♯ major");
  for (const char* text : {"Eb minor", "e♭ minor", "D# minor", "ebm", "Ebm", " Eb min "}) {
    const auto key = parseKey(text);
    ASSERT_TRUE(key.has_value()) << text;
    EXPECT_EQ(*key, (Key{PitchClass(3), Mode::minor})) << text;
  }
  EXPECT_EQ(*parseKey("C"), (Key{PitchClass(0), Mode::major}));
  EXPECT_EQ(*parseKey("H minor"), (Key{PitchClass(11), Mode::minor})) << "the German name of B";
  EXPECT_EQ(*parseKey("Cb major"), (Key{PitchClass(11), Mode::major}));
  for (const char* text : {"", "J", "E flat", "minor", "C dorian", "12"})
    EXPECT_FALSE(parseKey(text).has_value()) << text;
  for (int tonic = 0; tonic < 12; ++tonic)
    for (const Mode mode : {Mode::major, Mode::minor}) {
      const Key key{PitchClass(tonic), mode};
      EXPECT_EQ(*parseKey(keyName(key)), key);
      EXPECT_EQ(*parseKey(sharpName(key.tonic) + " " + std::string(modeName(mode))), key);
    }
}

double correlation(const KeyProfile& a, const KeyProfile& b, int shift) {
  const double meanA = std::accumulate(a.begin(), a.end(), 0.0) / 12,
               meanB = std::accumulate(b.begin(), b.end(), 0.0) / 12;
  double ab = 0, aa = 0, bb = 0;
  for (std::size_t i = 0; i < 12; ++i) {
    const double x = a[(i + static_cast<std::size_t>(shift)) % 12] - meanA, y = b[i] - meanB;
    ab += x * y, aa += x * x, bb += y * y;
  }
  return ab / std::sqrt(aa * bb);
}

// Krumhansl 1990, "Cognitive Foundations of Musical Pitch", correlations between the Krumhansl & Kessler key profiles
// (C major against the others). Values from memory, hence
// only to the second decimal and a half.
TEST(KeyProfiles, CorrelateAsPublished) {
  const auto& major = krumhanslKessler(Mode::major);
  const auto& minor = krumhanslKessler(Mode::minor);
  EXPECT_NEAR(correlation(major, major, 7), 0.591, 0.002);   // G major
  EXPECT_NEAR(correlation(major, major, 6), -0.683, 0.002);  // F sharp major
  EXPECT_NEAR(correlation(major, major, 1), -0.500, 0.002);  // D flat major
  EXPECT_NEAR(correlation(major, minor, 0), 0.511, 0.002);   // C minor
  EXPECT_NEAR(correlation(major, minor, 9), 0.651, 0.002);   // A minor
  EXPECT_NEAR(correlation(major, minor, 4), 0.536, 0.002);   // E minor
}

}  // namespace
}  // namespace ear
