// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fingering.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <set>

#include "core/theory/chord.h"
#include "core/theory/chord_naming.h"
#include "core/theory/harmonic.h"
#include "core/theory/tuning.h"

namespace ear {
namespace {

Tuning tuning(const std::string& text) {
  return *parseTuning(text);
}

TEST(Fingering, EasiestShapesAreThoseEverybodyPlays) {
  for (const auto& [name, frets] : {std::pair{"E", "022100"},
                                    {"Em", "022000"},
                                    {"A", "x02220"},
                                    {"Am", "x02210"},
                                    {"D", "xx0232"},
                                    {"Dm", "xx0231"},
                                    {"C", "x32010"},
                                    {"G", "320003"},
                                    {"A7", "x02020"},
                                    {"E7", "020100"},
                                    {"F", "133211"},
                                    {"Bm", "x24432"}}) {
    std::vector<std::string> found;
    for (const auto& shape : easiestShapes({}, *parseChord(name), 14)) found.push_back(fretsText(shape.places, 6));
    EXPECT_THAT(found, testing::Contains(frets)) << name;
  }
}

/// The grips that are taught first in standard tuning, or that are as good: common practice, no source.
TEST(Fingering, TheUsualShapeIsTheOneThatIsTaught) {
  const std::vector<std::pair<std::string, std::string>> taught = {{"C", "x32010"},
                                                                   {"A", "x02220"},
                                                                   {"G", "320003|320033"},
                                                                   {"E", "022100"},
                                                                   {"D", "xx0232"},
                                                                   {"F", "133211|xx3211"},
                                                                   {"B", "x24442"},
                                                                   {"Am", "x02210"},
                                                                   {"Em", "022000"},
                                                                   {"Dm", "xx0231"},
                                                                   {"Bm", "x24432"},
                                                                   {"F#m", "244222"},
                                                                   {"Gm", "355333"},
                                                                   {"Cm", "x35543"},
                                                                   {"Bb", "x13331"},
                                                                   {"Eb", "x68886|xx1343"},
                                                                   {"Ab", "466544"},
                                                                   {"C#m", "x46654"},
                                                                   {"G#m", "466444"},
                                                                   {"F#", "244322"},
                                                                   {"Fm", "133111"},
                                                                   {"Bbm", "x13321"},
                                                                   {"A7", "x02020|x02223"},
                                                                   {"B7", "x21202"},
                                                                   {"C7", "x32310"},
                                                                   {"D7", "xx0212"},
                                                                   {"E7", "020100|022130"},
                                                                   {"G7", "320001"},
                                                                   {"F7", "131211"},
                                                                   {"F#7", "242322"},
                                                                   {"Bb7", "x13131"},
                                                                   {"Ab7", "464544"},
                                                                   {"Eb7", "x68686|xx1323"},
                                                                   {"Cmaj7", "x32000"},
                                                                   {"Fmaj7", "xx3210|103210|132210|132211"},
                                                                   {"Dmaj7", "xx0222"},
                                                                   {"Amaj7", "x02120"},
                                                                   {"Gmaj7", "320002"},
                                                                   {"Emaj7", "021100"},
                                                                   {"Bbmaj7", "x13231"},
                                                                   {"Em7", "022030|020000"},
                                                                   {"Am7", "x02010"},
                                                                   {"Dm7", "xx0211"},
                                                                   {"Bm7", "x24232|x20202"},
                                                                   {"F#m7", "242222"},
                                                                   {"C#m7", "x46454"},
                                                                   {"Gm7", "353333"},
                                                                   {"Cm7", "x35343"},
                                                                   {"Dsus4", "xx0233"},
                                                                   {"Asus4", "x02230"},
                                                                   {"Esus4", "022200"},
                                                                   {"Gsus4", "330013|355533|3x0013"},
                                                                   {"Csus4", "x33011|x35563|x33010"},
                                                                   {"Fsus4", "133311|xx3311"},
                                                                   {"Asus2", "x02200"},
                                                                   {"Dsus2", "xx0230"},
                                                                   {"Csus2", "x30010|x30033|x35533|x30013"},
                                                                   {"Fsus2", "xx3013|133011|xx3213"},
                                                                   {"Cadd9", "x32030|x32033"},
                                                                   {"G6", "320000"},
                                                                   {"A6", "x02222"},
                                                                   {"C6", "x32210"},
                                                                   {"E6", "022120"},
                                                                   {"D6", "xx0202"},
                                                                   {"Am6", "x02212"},
                                                                   {"Em6", "022020"},
                                                                   {"C/G", "332010"},
                                                                   {"D/F#", "200232|2x0232|20023x"},
                                                                   {"G/B", "x20003|x20033"},
                                                                   {"Am/G", "302210|3x2210"},
                                                                   {"C/E", "032010"},
                                                                   {"A/C#", "x42220|x4222x"},
                                                                   {"F/C", "x33211"},
                                                                   {"E5", "022xxx|0224xx|02245x"},
                                                                   {"A5", "x022xx|x02255"},
                                                                   {"D5", "xx023x|xx0235"},
                                                                   {"G5", "355xxx|35503x|3x0033"},
                                                                   {"C5", "x355xx"},
                                                                   {"F5", "133xxx"},
                                                                   {"B5", "x244xx"},
                                                                   {"Caug", "x32110|x3211x"},
                                                                   {"E9", "020102"},
                                                                   {"A9", "x02423|x02400|x02100"},
                                                                   {"D9", "x54555|x5455x|xx0210"},
                                                                   {"C9", "x32333|x3233x"},
                                                                   {"Bm7b5", "x2323x|x20201"},
                                                                   {"F#m7b5", "2x221x|20221x|202210"},
                                                                   {"Dm7b5", "xx0111"},
                                                                   {"B7sus4", "x24252|x22200|x24200"},
                                                                   {"A7sus4", "x02030|x02033"},
                                                                   {"D7sus4", "xx0213"},
                                                                   {"E7sus4", "020200|022230"}};
  int right = 0;
  std::string others;
  for (const auto& [name, frets] : taught) {
    const auto chord = parseChord(name);
    ASSERT_TRUE(chord) << name;
    const auto shapes = usualShapes({}, *chord, 1);
    ASSERT_FALSE(shapes.empty()) << name;
    const std::string found = fretsText(shapes.front().places, 6);
    const bool is = ("|" + frets + "|").find("|" + found + "|") != std::string::npos;
    right += is ? 1 : 0;
    if (!is) others += name + " " + found + " ";
  }
  EXPECT_GE(right, 88) << others;
  EXPECT_EQ(taught.size(), 92U);
}

TEST(Fingering, UsualShapesFollowTheTuningAndTheCapo) {
  const Guitar openD{.tuning = tuning("D A D F# A D")};
  EXPECT_EQ(fretsText(usualShapes(openD, *parseChord("D"), 1).front().places, 6), "000000");
  EXPECT_EQ(fretsText(usualShapes(openD, *parseChord("G"), 1).front().places, 6), "555555");
  const Guitar dropD{.tuning = tuning("D A D G B E")};
  EXPECT_EQ(fretsText(usualShapes(dropD, *parseChord("D5"), 1).front().places, 6), "000xxx");
  Guitar second;
  second.capo.fret = 2;
  EXPECT_EQ(fretsText(usualShapes(second, *parseChord("D"), 1).front().places, 6), "x32010") << "as a C";
  EXPECT_THAT(usualShapes({}, *parseChord("C"), 3), testing::SizeIs(3));
}

TEST(Fingering, OneFingerMajorChordInOpenTuning) {
  const auto shapes = easiestShapes({.tuning = tuning("D A D F# A D")}, *parseChord("G"), 5);
  EXPECT_THAT(shapes, testing::Contains(testing::Field(&Fingering::places, *parseFrets("555555"))));
}

TEST(Fingering, KnowsOpenAndBarredGrips) {
  EXPECT_EQ(gripOf(*parseFrets("000000")).fingers, 0);
  EXPECT_EQ(gripOf(*parseFrets("x32010")).fingers, 3);
  const Grip barre = gripOf(*parseFrets("133211"));
  EXPECT_EQ(barre.barre, 1);
  EXPECT_EQ(barre.fingers, 4);
  EXPECT_GT(barre.effort, gripOf(*parseFrets("022100")).effort);
  EXPECT_FALSE(gripOf(*parseFrets("1 x x x 7 x")).playable());
}

/// Whatever the tuning and the chord: a shape sounds nothing but the chord, with its bass lowest and with all that
/// makes it what it is; one hand holds it; and no shape is given twice.
TEST(Shapes, SoundTheirChordInEveryTuning) {
  std::size_t shapes = 0, without = 0;
  for (const NamedTuning& named : tuningCatalogue()) {
    const Guitar guitar{.tuning = named.tuning};
    for (int root = 0; root < 12; root += 5)
      for (const ChordType& type : chordTypes()) {
        const Chord chord{PitchClass(root), &type, std::nullopt};
        std::set<int> tones;
        for (const PitchClass pc : notesOf(chord)) tones.insert(pc.value);
        const auto found = usualShapes(guitar, chord, 6);
        without += found.empty() ? 1 : 0;
        std::set<std::string> seen;
        for (const Fingering& shape : found) {
          ++shapes;
          const std::string where = std::string(named.name) + ": " + chordName(chord, Spelling::sharps) + " " +
                                    fretsText(shape.places, guitar.strings());
          ASSERT_TRUE(seen.insert(where).second) << where;
          std::set<int> sounding;
          for (std::size_t i = 0; i < shape.places.size(); ++i) {
            sounding.insert(PitchClass(guitar.pitch(shape.places[i])).value);
            ASSERT_TRUE(i == 0 || shape.places[i].string > shape.places[i - 1].string) << where;
          }
          for (const int pc : sounding) ASSERT_TRUE(tones.contains(pc)) << where;
          ASSERT_EQ(PitchClass(guitar.pitch(shape.places.front())).value, root) << where;
          ASSERT_TRUE(type.tones.size() > 3 || sounding == tones) << where;
          // Of larger chords the fifth may be missing, of ninths and beyond what lies between as well.
          ASSERT_GE(sounding.size() + (type.tones.size() > 5   ? 2U
                                       : type.tones.size() > 3 ? 1U
                                                               : 0U),
                    tones.size())
              << where;
          ASSERT_TRUE(shape.grip.playable()) << where;
          ASSERT_EQ(shape.grip.effort, gripOf(shape.places).effort) << where;
        }
      }
  }
  EXPECT_GT(shapes, 20'000U);
  EXPECT_LT(without, shapes / 50) << "hardly any chord cannot be held at all";
}

/// The two orders are of the same shapes.
TEST(Shapes, AreTheSameByEaseAndByUse) {
  for (const char* name : {"C", "F#m7", "Bb9", "Dsus4", "G/B"}) {
    std::set<std::string> easy, usual;
    for (const Fingering& s : easiestShapes({}, *parseChord(name), 100'000)) easy.insert(fretsText(s.places, 6));
    for (const Fingering& s : usualShapes({}, *parseChord(name), 100'000)) usual.insert(fretsText(s.places, 6));
    EXPECT_EQ(easy, usual) << name;
  }
}

/// The harmonic series: the n-th partial of a string is n times as fast (textbooks of acoustics).
TEST(HarmonicPlaces, LieWhereAPartialOfAStringSounds) {
  const Guitar guitar;
  std::size_t places = 0;
  for (int midi = 40; midi <= 100; ++midi)
    for (const HarmonicPlace& place : harmonicPlaces(guitar, midi)) {
      ++places;
      const double above = midi + place.off.value / 100 - guitar.open(place.touched.string);
      const double ratio = std::exp2(above / 12);
      EXPECT_NEAR(ratio, std::round(ratio), 1e-6) << midi;
      // Touched at a node: a whole number of n-th parts of the string lies behind the fret, to a third of a fret.
      const double sounding = std::exp2(-place.touched.fret / 12.0), parts = (1 - sounding) * ratio;
      EXPECT_NEAR(parts, std::round(parts), 0.12) << midi << " fret " << place.touched.fret;
    }
  EXPECT_EQ(places, 6U * 8U) << "eight frets of each string";
  EXPECT_TRUE(harmonicPlaces(guitar, 41).empty());
}

}  // namespace
}  // namespace ear
