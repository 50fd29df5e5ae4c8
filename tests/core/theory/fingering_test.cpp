// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/theory/fingering.h"

#include <gtest/gtest.h>

#include <cmath>
#include <set>

#include "core/theory/chord.h"
#include "core/theory/harmonic.h"
#include "core/theory/tuning.h"

namespace ear {
namespace {

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
