// SPDX-License-Identifier: GPL-3.0-or-later
// Facts of pitch: common practice, no source, but where one is named.
#include "core/phrase/note.h"

#include <gtest/gtest.h>

#include "core/theory/pitch.h"
#include "support/phrases.h"

namespace ear {
namespace {

using test::note;

const Guitar kStandard;

double startOf(const Note& n, const Guitar& guitar = kStandard) {
  return pitchAtStart(guitar, n).value_or(MidiPitch(-1)).value;
}

Note bent(int string, int fret, double cents, bool before = false) {
  Note n = note(1, string, fret);
  n.bend = Bend{Cents(cents), before};
  return n;
}

TEST(Note, APlainNoteSoundsItsFret) {
  EXPECT_EQ(startOf(note(1, 1, 5)), 50) << "A string 5 is D3, not E";
  EXPECT_EQ(startOf(note(1, 4, 10)), startOf(note(1, 5, 5)));
  EXPECT_EQ(startOf(note(1, 3, 11)), startOf(note(1, 4, 7)));
  Guitar capo;
  capo.capo = {3};
  EXPECT_EQ(startOf(note(1, 0, 0), capo), 43);
  Note dead = note(1, 3, 5);
  dead.tone = Tone::dead;
  EXPECT_FALSE(pitchAtStart(kStandard, dead));
}

TEST(Note, BendsLeadWhereTheirSizeSays) {
  struct Row {
    int string, fret;
    double cents;
    int target;
  };
  // G 12 whole: A4; G 14 whole: B4; high E 14 half: G5; A 4 half: D3; low E 4 half: A2; G 9 half: F4; B 8 whole: A4.
  for (const Row& row : {Row{3, 12, 200, 69},
                         {3, 14, 200, 71},
                         {5, 14, 100, 79},
                         {1, 4, 100, 50},
                         {0, 4, 100, 45},
                         {3, 9, 100, 65},
                         {3, 9, 200, 66},
                         {4, 8, 200, 69}}) {
    const Note n = bent(row.string, row.fret, row.cents);
    EXPECT_EQ(bendTarget(kStandard, n)->value, row.target) << row.string << " " << row.fret;
    EXPECT_EQ(startOf(n), row.target - row.cents / 100) << "it starts on the fret";
    EXPECT_EQ(startOf(bent(row.string, row.fret, row.cents, true)), row.target) << "but not where it is bent before";
  }
}

TEST(Note, ABendWithoutASizeHasNoTargetYet) {
  Note n = note(1, 3, 12);
  n.bend = Bend{};
  EXPECT_FALSE(bendTarget(kStandard, n));
  EXPECT_EQ(startOf(n), 67);
  n.bend->before = true;
  EXPECT_FALSE(pitchAtStart(kStandard, n)) << "nobody knows where a pre-bend without a size starts";
}

TEST(Note, UnisonBendsMeetTheirNeighbour) {
  struct Row {
    int string, fret, other, still;
  };
  for (const Row& row : {Row{3, 5, 4, 3}, {4, 6, 5, 3}, {4, 13, 5, 10}, {3, 6, 4, 4}, {3, 7, 4, 5}}) {
    EXPECT_TRUE(isUnisonBend(kStandard, bent(row.string, row.fret, 200), note(2, row.other, row.still)));
    EXPECT_TRUE(isUnisonBend(kStandard, note(2, row.other, row.still), bent(row.string, row.fret, 200)));
    EXPECT_FALSE(isUnisonBend(kStandard, bent(row.string, row.fret, 100), note(2, row.other, row.still)));
    EXPECT_FALSE(isUnisonBend(kStandard, bent(row.string, row.fret, 200), note(2, row.other, row.still, 1)))
        << "one after the other";
  }
}

TEST(Note, TwoStringsCanBeBentToDifferentSizes) {
  // B 15 = D5 and G 14 = A4; raised a whole step they are E5 and B4.
  EXPECT_EQ(bendTarget(kStandard, bent(4, 15, 200))->value, 76);
  EXPECT_EQ(bendTarget(kStandard, bent(3, 14, 200))->value, 71);
  EXPECT_EQ(bendTarget(kStandard, bent(3, 14, 150))->value, 70.5);
}

TEST(Note, HarmonicsSoundTheirPartial) {
  const auto natural = [](int string, int fret) {
    Note n = note(1, string, fret);
    n.harmonic = PlayedHarmonic{};
    return n;
  };
  EXPECT_EQ(startOf(natural(0, 12)), 52) << "E3";
  EXPECT_NEAR(startOf(natural(0, 7)), 59 + 0.01955, 1e-4) << "B3, 1.955 cents sharp (ratio 3:2 twice over)";
  EXPECT_EQ(startOf(natural(2, 5)), 74);
  EXPECT_EQ(startOf(natural(3, 5)), 79);
  EXPECT_EQ(startOf(natural(4, 5)), 83) << "D, G, B strings at 5: a G major triad";
  EXPECT_EQ(startOf(natural(0, 11)), -1) << "nothing speaks there";
  Note tapped = note(1, 3, 9);
  tapped.harmonic = PlayedHarmonic{PlayedHarmonic::Kind::tapped, 21};
  EXPECT_EQ(startOf(tapped), 76) << "fretted 9, touched 21: an octave up";
  Note pinch = note(1, 3, 9);
  pinch.harmonic = PlayedHarmonic{PlayedHarmonic::Kind::pinch};
  EXPECT_EQ(startOf(pinch), -1) << "which partial it is nobody said";
}

}  // namespace
}  // namespace ear
