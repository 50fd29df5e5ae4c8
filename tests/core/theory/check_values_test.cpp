// SPDX-License-Identifier: GPL-3.0-or-later
// Facts of the trade, one by one. Common practice, no source, unless a line names one.

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>

#include "core/theory/chord_naming.h"
#include "core/theory/fretboard.h"
#include "core/theory/harmonic.h"
#include "core/theory/interval.h"
#include "core/theory/key.h"
#include "core/theory/rhythm_values.h"
#include "core/theory/string_tension.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;

Tuning tuning(const std::string& text) {
  return *parseTuning(text);
}
std::string letters(const Guitar& guitar) {
  Tuning open;
  for (int s = 0; s < guitar.strings(); ++s) open.strings.push_back(guitar.open(s));
  return tuningLetters(open, Spelling::sharps, true);
}
/// Note of a standard string by its number (1 = highest sounding).
std::string note(int number, int fret) {
  return noteName(Guitar{}.pitch({6 - number, fret}), Spelling::sharps);
}

TEST(Tunings, OfTheTrade) {
  EXPECT_THAT(standardTuning().strings, ElementsAre(40, 45, 50, 55, 59, 64));
  EXPECT_EQ(tuning("D A D F# A D"), tuning("D2 A2 D3 F#3 A3 D4"));
  EXPECT_THAT(shiftsFromStandard(tuning("D A D F# A D")), ElementsAre(-2, 0, 0, -1, -2, -2));
  EXPECT_THAT(shiftsFromStandard(tuning("D A D F A D")), ElementsAre(-2, 0, 0, -2, -2, -2));
  EXPECT_EQ(tuningLetters(tuning("Eb Ab Db Gb Bb Eb"), Spelling::flats, true), "E♭2 A♭2 D♭3 G♭3 B♭3 E♭4");
  EXPECT_EQ(tuningLetters(tuning("DGCFAD"), Spelling::sharps, true), "D2 G2 C3 F3 A3 D4");
  EXPECT_EQ(tuningLetters(tuning("F# B E A C# F#"), Spelling::sharps, true), "F♯2 B2 E3 A3 C♯4 F♯4");
  EXPECT_THAT(shiftsFromStandard(tuning("F2 A2 C3 G3 C4 E4")), ElementsAre(1, 0, -2, 0, 1, 0));
  EXPECT_THAT(shiftsFromStandard(tuning("D A E A C# D")), ElementsAre(-2, 0, 2, 2, 2, -2));
}

TEST(Tunings, UnderACapo) {
  EXPECT_EQ(letters({.tuning = tuning("D A E A C# D"), .capo = {3, 0}, .offset = {}}), "F2 C3 G3 C4 E4 F4");
  // A capo on the four strings in the middle leaves the outer ones open.
  EXPECT_EQ(letters({.tuning = standardTuning(), .capo = {2, 0b011110}, .offset = {}}), "E2 B2 E3 A3 C♯4 E4");
}

TEST(Tunings, CatalogueIsOfDifferentValidTunings) {
  const auto all = tuningCatalogue();
  EXPECT_GE(all.size(), 40U);
  for (std::size_t i = 0; i < all.size(); ++i) {
    EXPECT_EQ(tuningName(all[i].tuning), all[i].name);
    EXPECT_TRUE(parseTuning(tuningLetters(all[i].tuning, Spelling::sharps, true), all[i].tuning.count()).ok())
        << all[i].name;
    for (std::size_t k = 0; k < i; ++k) EXPECT_NE(all[i].tuning, all[k].tuning) << all[i].name;
  }
}

TEST(Tunings, WrongOnesAreExplained) {
  EXPECT_THAT(parseTuning("D A E A C#").problem(), HasSubstr("5 names for 6 strings"));
  EXPECT_THAT(parseTuning("D A D G B E E").problem(), HasSubstr("7 names"));
  EXPECT_THAT(parseTuning("D A X").problem(), HasSubstr("X"));
  EXPECT_THAT(parseTuning("E0 A2 D3 G3 B3 E4").problem(), HasSubstr("E0"));
  EXPECT_THAT(cautions(tuning("F# B E A C# F#")).front(), HasSubstr("26 % more tension"));
  EXPECT_TRUE(cautions(standardTuning()).empty());
  EXPECT_THAT(cautions(tuning("E2 A2 D3 G3 E4 B3")).back(), HasSubstr("order"));
}

TEST(Capo, ShapesAndWhatTheySound) {
  const auto sounding = [](const char* shape, int capo) {
    return chordName(transposed(*parseChord(shape), capo), Spelling::sharps);
  };
  EXPECT_EQ(sounding("Am", 4), "C♯m");
  EXPECT_EQ(sounding("C", 4), "E");
  EXPECT_EQ(sounding("G", 4), "B");
  EXPECT_EQ(sounding("E", 3), "G");
  EXPECT_EQ(sounding("E", -2), "D");
  EXPECT_EQ(sounding("E", 2), "F♯");
  EXPECT_EQ(chordName(transposed(*parseChord("A"), -1), Spelling::flats), "A♭");
  EXPECT_EQ(keyName(transposed(*parseKey("A minor"), 4)), "C♯ minor");
}

TEST(Hertz, OfStrings) {
  const auto hertz = [](const Guitar& g, int string) { return g.frequency({string, 0}).value; };
  EXPECT_NEAR(hertz({.tuning = tuning("D G C F A D"), .capo = {}, .offset = {}}, 0), 73.416, 5e-4);
  EXPECT_NEAR(hertz({}, 0), 82.407, 5e-4);
  EXPECT_NEAR(hertz({.tuning = tuning("F# B E A C# F#"), .capo = {}, .offset = {}}, 0), 92.499, 5e-4);
  const Tuning flat = tuning("Eb Ab Db Gb Bb Eb");
  EXPECT_NEAR(hertz({.tuning = flat, .capo = {}, .offset = Cents(10)}, 1), 104.428, 5e-4);
  EXPECT_NEAR(hertz({.tuning = flat, .capo = {}, .offset = {}}, 1), 103.826, 5e-4);
  EXPECT_NEAR(std::exp2(10.0 / 1200), 1.005793, 1e-6);
}

TEST(Frets, GiveTheirNotes) {
  EXPECT_EQ(note(2, 15), "D5");
  EXPECT_EQ(note(4, 5), "G3");
  EXPECT_EQ(note(5, 5), "D3") << "not E";
  EXPECT_EQ(note(5, 7), "E3");
  EXPECT_EQ(note(5, 9), "F♯3");
  EXPECT_EQ(note(3, 5), "C4");
  EXPECT_EQ(note(5, 4), "C♯3");
  EXPECT_EQ(note(6, 2), "F♯2");
  EXPECT_EQ(note(6, 5), "A2");
  EXPECT_EQ(note(3, 7), "D4");
  EXPECT_EQ(note(3, 8), "D♯4");
  EXPECT_EQ(note(2, 10), "A4");
  EXPECT_EQ(note(4, 6), "G♯3");
  EXPECT_EQ(note(3, 15), "A♯4");
  EXPECT_EQ(Guitar{.tuning = tuning("D A D F A D")}.pitch({3, 1}), *parsePitch("F#3"));
}

TEST(Frets, EveryPlaceOfAPitch) {
  EXPECT_THAT(placesOf({}, *parsePitch("F#4")), testing::IsSupersetOf({FretPosition{3, 11}, FretPosition{4, 7}}));
  EXPECT_THAT(placesOf({}, *parsePitch("A4")), testing::IsSupersetOf({FretPosition{4, 10}, FretPosition{5, 5}}));
  EXPECT_THAT(placesOf({}, *parsePitch("G4")), testing::IsSupersetOf({FretPosition{4, 8}, FretPosition{5, 3}}));
  EXPECT_THAT(placesOf({}, *parsePitch("E4")), testing::IsSupersetOf({FretPosition{3, 9}, FretPosition{4, 5}}));
  EXPECT_EQ(placesOf({}, *parsePitch("E4")).size(), 5U);
  EXPECT_TRUE(placesOf({}, *parsePitch("D2")).empty());
  // Under a capo the same pitch lies so many frets lower, and below the capo there is nothing.
  EXPECT_THAT(placesOf({.capo = {3, 0}}, *parsePitch("G2")), ElementsAre(FretPosition{0, 0}));
  EXPECT_TRUE(placesOf({.capo = {3, 0}}, *parsePitch("F2")).empty());
}

TEST(Scales, OfTheTrade) {
  const auto notes = [](const char* tonic, ScaleKind kind, Spelling spelling = Spelling::sharps) {
    std::string text;
    for (const PitchClass pc : Scale{*parsePitchClass(tonic), kind}.notes())
      text += (text.empty() ? "" : " ") + pitchClassName(pc, spelling);
    return text;
  };
  EXPECT_EQ(notes("D", ScaleKind::minorPentatonic), "D F G A C");
  EXPECT_EQ(notes("E", ScaleKind::blues, Spelling::flats), "E G A B♭ B D");
  EXPECT_EQ(notes("E", ScaleKind::naturalMinor), "E F♯ G A B C D");
  EXPECT_EQ(notes("G", ScaleKind::majorPentatonic), "G A B D E");
  EXPECT_EQ(notes("F#", ScaleKind::naturalMinor), "F♯ G♯ A B C♯ D E");
  EXPECT_EQ(degreeName(6), "♭5");
  EXPECT_EQ(intervalName(9), "major sixth");
  EXPECT_EQ(intervalName(-8), "minor sixth");
  EXPECT_EQ(intervalName(19), "octave and fifth");
}

/// Frets of a region, string by string: "12-15 12-14 ...".
std::string frets(const NeckRegion& region, int octave = 0) {
  std::string text;
  for (int s = 0; s < 6; ++s) {
    text += s == 0 ? "" : " / ";
    bool first = true;
    for (const FretPosition p : region.places)
      if (p.string == s) text += (first ? "" : "-") + std::to_string(p.fret + octave), first = false;
  }
  return text;
}

TEST(Boxes, OfThePentatonic) {
  const auto boxOf = [](const char* tonic, int number) {
    return boxesOf({}, {*parsePitchClass(tonic), ScaleKind::minorPentatonic})[static_cast<std::size_t>(number - 1)];
  };
  EXPECT_EQ(frets(positionAt({}, {PitchClass(4), ScaleKind::minorPentatonic}, 12)),
            "12-15 / 12-14 / 12-14 / 12-14 / 12-15 / 12-15");
  EXPECT_EQ(boxOf("D", 1).firstFinger, 10);
  EXPECT_EQ(boxOf("A", 1).firstFinger, 5);
  EXPECT_EQ(frets(boxOf("G", 1)), "3-6 / 3-5 / 3-5 / 3-5 / 3-6 / 3-6");
  EXPECT_EQ(frets(boxOf("D", 3)), "3-5 / 3-5 / 3-5 / 2-5 / 3-6 / 3-5");
  EXPECT_EQ(boxesOf({}, {PitchClass(4), ScaleKind::blues}).size(), 5U);
  // In any tuning a box holds only notes of the scale and something on every string.
  const Guitar open{.tuning = tuning("D A D F# A D")};
  for (const auto& box : boxesOf(open, {PitchClass(2), ScaleKind::majorPentatonic}))
    for (int s = 0; s < 6; ++s)
      EXPECT_TRUE(std::any_of(box.places.begin(), box.places.end(), [&](FretPosition p) { return p.string == s; }))
          << box.label << " string " << s;
}

TEST(Boxes, FiveChordShapesOfG) {
  const auto shapes = shapesOf({}, *parseChord("G"));
  ASSERT_EQ(shapes.size(), 5U);
  EXPECT_EQ(shapes[0].label, "E shape");
  EXPECT_EQ(shapes[0].firstFinger, 3);
  for (const auto& [frets, label] : {std::pair{"355433", "E shape"}, {"320003", "G shape"}}) {
    const auto region = std::find_if(shapes.begin(), shapes.end(), [&](const auto& r) { return r.label == label; });
    EXPECT_THAT(region->places, testing::IsSupersetOf(*parseFrets(frets))) << label;
  }
}

TEST(Bends, ReachTheNoteOfAnotherFret) {
  const auto bent = [](int number, int fret, int semitones) { return Guitar{}.pitch({6 - number, fret}) + semitones; };
  const auto fretted = [](int number, int fret) { return Guitar{}.pitch({6 - number, fret}); };
  EXPECT_EQ(bent(3, 12, 2), *parsePitch("A4"));
  EXPECT_EQ(bent(3, 14, 2), *parsePitch("B4"));
  EXPECT_EQ(bent(3, 5, 2), fretted(2, 3));
  EXPECT_EQ(bent(2, 6, 2), fretted(1, 3));
  EXPECT_EQ(bent(2, 13, 2), fretted(1, 10));
  EXPECT_EQ(bent(3, 6, 2), fretted(2, 4));
  EXPECT_EQ(bent(3, 7, 2), fretted(2, 5));
  EXPECT_EQ(bent(1, 14, 1), *parsePitch("G5"));
  EXPECT_EQ(bent(5, 4, 1), *parsePitch("D3"));
  EXPECT_EQ(bent(2, 15, 2), *parsePitch("E5"));
}

TEST(Harmonics, OfOpenStrings) {
  EXPECT_EQ(harmonicAbove(12)->semitones, 12);
  EXPECT_EQ(harmonicAbove(7)->semitones, 19);
  EXPECT_EQ(harmonicAbove(5)->semitones, 24);
  EXPECT_NEAR(harmonicAbove(7)->off.value, 1.955, 1e-3);
  EXPECT_NEAR(harmonicAbove(4)->off.value, -13.686, 1e-3);
  EXPECT_FALSE(harmonicAbove(6).has_value());
}

/// First name of frets in a tuning.
std::string named(const char* frets, const Tuning& t = standardTuning()) {
  const Guitar guitar{.tuning = t};
  const auto readings = nameNotes(pitchesOf(guitar, *parseFrets(frets)));
  return readings.empty() ? "" : readingName(readings.front(), Spelling::sharps);
}
std::vector<std::string> names(const char* frets) {
  std::vector<std::string> out;
  for (const auto& r : nameNotes(pitchesOf({}, *parseFrets(frets)))) out.push_back(readingName(r, Spelling::sharps));
  return out;
}

TEST(ChordNames, OfFrets) {
  EXPECT_EQ(named("3x0033"), "G5");
  EXPECT_EQ(named("2x023x"), "D/F♯");
  EXPECT_EQ(named("0220xx"), "Em");
  EXPECT_EQ(named("x7878x"), "Em7♭5");
  EXPECT_EQ(named("xx768x"), "A7 (no fifth)");
  EXPECT_EQ(named("x x 10 9 8 x"), "C");
  EXPECT_EQ(named("xx6454"), "E/G♯");
  EXPECT_EQ(named("xx4442"), "B/F♯");
  EXPECT_EQ(named("xx7655"), "A");
  EXPECT_EQ(named("022120"), "E6");
  EXPECT_EQ(named("577675"), "A6") << "fret 7 over A at fret 5";
  EXPECT_EQ(named("5x7655"), "A");
  EXPECT_EQ(named("7x9877"), "B");
  EXPECT_EQ(named("x24242"), "B7");
  EXPECT_THAT(names("x x x 12 14 12"), testing::Contains("A7 (no root)"));
  EXPECT_EQ(named("579xxx"), "Asus2");
  EXPECT_EQ(named("x02230"), "Asus4");
  EXPECT_EQ(named("xx0230"), "Dsus2");
  EXPECT_EQ(named("x02020"), "A7");
  EXPECT_EQ(named("x00220"), "Aadd11") << "no seventh in it";
  for (const auto& name : names("x00220")) EXPECT_FALSE(name == "A7" || name.starts_with("A7 ")) << name;
  EXPECT_EQ(named("x46x5x"), "C♯m");
  EXPECT_EQ(named("x222xx"), "Esus4/B");
  EXPECT_EQ(named("x2210x"), "E/B");
  EXPECT_EQ(named("xxx877"), "B/D♯");
  EXPECT_EQ(named("xxx655"), "A/C♯");
  EXPECT_EQ(named("x2003x"), "G/B");
  EXPECT_THAT(names("x2003x"), testing::Contains("Em7 (no root)"));
  EXPECT_EQ(named("x75555"), "Am7/E");
  EXPECT_EQ(named("xxx433"), "G/B");
  EXPECT_EQ(named("x x 14 12 12 12"), "Em");
}

TEST(ChordNames, OfBarresInOpenTuning) {
  const Tuning open = tuning("D A D F# A D");
  EXPECT_EQ(named("12 12 12 12 12 12", open), "D");
  EXPECT_EQ(named("8 8 8 8 8 8", open), "A♯");
  EXPECT_EQ(named("10 10 10 10 10 10", open), "C");
  // Two notes of the barre at 12, found on standard strings.
  const Guitar retuned{.tuning = open};
  EXPECT_EQ(Guitar{}.pitch({3, 11}), retuned.pitch({3, 12}));
  EXPECT_EQ(Guitar{}.pitch({2, 12}), retuned.pitch({2, 12}));
}

TEST(ChordNames, AreReadAsTyped) {
  for (const auto& [typed, shown] : {std::pair{"F#m7", "F♯m7"},
                                     {"Bbmaj7", "B♭maj7"},
                                     {"D/F#", "D/F♯"},
                                     {"asus", "Asus4"},
                                     {"C6/9", "C6/9"},
                                     {"G6/9/B", "G6/9/B"},
                                     {"E-7", "Em7"},
                                     {"Bm7b5", "Bm7♭5"},
                                     {"Gadd9", "Gadd9"},
                                     {"C+", "Caug"},
                                     {"Eb dim7", "E♭dim7"},
                                     {"Cmaj7#11", "Cmaj7♯11"}}) {
    const auto chord = parseChord(typed);
    ASSERT_TRUE(chord.has_value()) << typed;
    EXPECT_EQ(chordName(*chord, std::string(shown).find("♭") != std::string::npos ? Spelling::flats : Spelling::sharps),
              shown);
  }
  for (const char* text : {"", "J7", "Amaybe", "C/", "C/xx", "7"}) EXPECT_FALSE(parseChord(text).has_value()) << text;
}

TEST(Octaves, AndSixths) {
  for (const int n : {2, 4, 6, 7, 9}) EXPECT_EQ(Guitar{}.pitch({4, n + 3}) - Guitar{}.pitch({2, n}), 12);
  EXPECT_EQ(Guitar{}.pitch({3, 9}) - Guitar{}.pitch({1, 7}), 12);
  for (const int n : {3, 5, 8}) {
    EXPECT_EQ(Guitar{}.pitch({3, n - 1}) - Guitar{}.pitch({1, n}), 9);
    EXPECT_EQ(Guitar{}.pitch({3, n - 2}) - Guitar{}.pitch({1, n}), 8);
  }
  EXPECT_EQ(Guitar{}.pitch({3, 5}) + 12, Guitar{}.pitch({3, 17}));
}

TEST(Tension, GrowsWithTheSquareOfTheFrequency) {
  EXPECT_NEAR(relativeTension(-2), 0.794, 5e-4);
  EXPECT_NEAR(relativeTension(-1), 0.891, 5e-4);
  EXPECT_NEAR(relativeTension(1), 1.122, 5e-4);
  EXPECT_NEAR(relativeTension(2), 1.260, 5e-4);
  // Published charts give 16.2 lb for a plain 10 at E4 and 17.5 lb for a wound 46 at E2, both at 25.5 inches (from
  // memory).
  const auto& set = stringSets().front();
  EXPECT_NEAR(tensionPounds(set.strings[5], kUsualScaleInches, frequencyOf(MidiPitch(64))), 16.2, 0.15);
  EXPECT_NEAR(tensionPounds(set.strings[0], kUsualScaleInches, frequencyOf(MidiPitch(40))), 17.5, 0.15);
  const StringGauge light = plainSteel(lighterGauge(0.013, 2));
  EXPECT_LE(tensionPounds(light, 25.5, frequencyOf(MidiPitch(61))),
            tensionPounds(plainSteel(0.013), 25.5, frequencyOf(MidiPitch(59))));
}

TEST(Playback, WithoutPitchLockFallsWithTheSpeed) {
  EXPECT_NEAR(1200 * std::log2(0.5), -1200, 1e-9);
  EXPECT_NEAR(1200 * std::log2(0.75), -498.0, 0.05);
}

TEST(Bars, AddUpOrNot) {
  EXPECT_EQ(tupletBeats(6), Beats(4));
  EXPECT_EQ(tupletBeats(5), Beats(10, 3));
  EXPECT_NEAR(swingShare(2.0), 2.0 / 3, 1e-12);
  EXPECT_NEAR(swingShare(1.0), 0.5, 1e-12);
}

TEST(Tunings, AreReadAsShiftsFromStandard) {
  EXPECT_EQ(*parseTuning("-2 0 0 0 0 0"), *parseTuning("D A D G B E"));
  EXPECT_EQ(*parseTuning("-1 -1 -1 -1 -1 -1"), *parseTuning("Eb Ab Db Gb Bb Eb"));
  EXPECT_EQ(*parseTuning("0 0 0 0 0 +1"), (Tuning{{40, 45, 50, 55, 59, 65}}));
  EXPECT_NE(parseTuning("-2 0 0").problem().find("shifts of 3 strings"), std::string::npos);
  EXPECT_FALSE(parseTuning("-30 0 0 0 0 0").ok());
  EXPECT_EQ(*parseTuning("D-A-D-G-A-D"), *parseTuning("DADGAD")) << "a dash between names is none of theirs";
}

}  // namespace
}  // namespace ear
