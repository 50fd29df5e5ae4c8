// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/study/parts.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <nlohmann/json.hpp>

#include "core/study/document.h"
#include "core/study/study_file.h"
#include "core/study/tune_up.h"
#include "support/decisions.h"

namespace ear {
namespace {

using test::decided;
using testing::HasSubstr;

const Tuning kDown = {{39, 44, 49, 54, 58, 63}}, kOpenD = {{38, 45, 50, 54, 57, 62}};

SetupReading reading(const Tuning& tuning, int capo, double certainty) {
  return {tuning,
          {capo, 0},
          certainty,
          {{.kind = SetupReason::Kind::lowestIsOpen, .at = Seconds(12.5), .numbers = {39, 39}}}};
}

std::shared_ptr<Findings> twoGuitars() {
  auto f = std::make_shared<Findings>();
  f->duration = Seconds(60);
  f->guitars = {{Side::left, 0.4, {reading(kDown, 0, 0.6), reading(standardTuning(), 4, 0.2)}},
                {Side::right, 0.3, {reading(kOpenD, 2, 0.5)}}};
  f->chords = {{{Seconds(0), Seconds(4)}, parseChord("Ebm"), 0.9}, {{Seconds(4), Seconds(8)}, parseChord("B"), 0.4}};
  f->sides = {{Seconds(0.5), {0.5F, 0.1F, 1.0F}}};
  return f;
}

Document document() {
  Study s{.title = "Copper Weather"};
  s.takes.push_back({.id = "take1",
                     .name = "Studio take",
                     .file = "/music/studio.ogg",
                     .hash = "",
                     .duration = {},
                     .pitch = {},
                     .key = {},
                     .time = {},
                     .form = {},
                     .chords = {}});
  Document d(std::move(s), {});
  d.setMeasured("take1", twoGuitars());
  return d;
}

TEST(Parts, AreTheGuitarsThatWereHeardUntilOneIsTouched) {
  Document d = document();
  ASSERT_EQ(d.parts().size(), 2U);
  EXPECT_TRUE(d.study().parts.empty()) << "a measurement is no edit";
  EXPECT_EQ(d.part().name, "Left guitar");
  EXPECT_EQ(d.brief().guitar->value, (GuitarSetup{kDown, {}}));
  EXPECT_EQ(d.brief().guitar->origin, Origin::measured);
  d.takeInHand(d.parts()[1].id);
  EXPECT_EQ(d.setup(), (GuitarSetup{kOpenD, {2, 0}}));
  d.editPart("Set guitar", d.part().id, [](GuitarPart& p) { p.setup = decided({kOpenD, {3, 0}}, Origin::set); });
  EXPECT_EQ(d.study().parts.size(), 2U);
  EXPECT_EQ(d.setup().capo.fret, 3);
  d.setMeasured("take1", std::make_shared<Findings>());
  EXPECT_EQ(d.setup().capo.fret, 3) << "what a person set stays";
  d.undo();
  EXPECT_TRUE(d.study().parts.empty());
}

TEST(Parts, WhatIsOpenSaysWhereItCouldBeHeard) {
  Document d = document();
  Findings f = *twoGuitars();
  f.sides.clear();
  for (int i = 0; i < 20; ++i) {
    const bool alone = i >= 8 && i < 14;
    f.sides.push_back({Seconds(i + 0.5), {0.6F, alone ? 0.05F : 0.5F, alone ? 0.1F : 1.0F}});
  }
  EXPECT_FALSE(whatWouldTell(d.part(), &f)) << "a settled one asks nothing";
  f.guitars[0].readings[0].certainty = 0.3;
  const auto hint = whatWouldTell(d.part(), &f);
  ASSERT_TRUE(hint);
  EXPECT_EQ(hint->span, (TimeSpan{Seconds(8), Seconds(14)}));
  EXPECT_THAT(hint->sentence, HasSubstr("From 0:08.0 to 0:14.0"));
  for (auto& p : f.sides) p.level[0] = 0.1F;
  EXPECT_FALSE(whatWouldTell(d.part(), &f)) << "never heard over the others";
}

TEST(Parts, KnowTheirShapes) {
  EXPECT_EQ(shapeShift({kDown, {}}), -1);
  EXPECT_EQ(shapeShift({kDown, {3, 0}}), 2);
  EXPECT_EQ(shapeShift({{{36, 43, 48, 53, 57, 62}}, {}}), -2) << "dropped C is dropped D a tone down";
  EXPECT_EQ(shapeShift({kOpenD, {2, 0}}), 2);
  EXPECT_EQ(shapeShift({standardTuning(), {2, 0b111110}}), 0) << "a partial capo moves no shape as a whole";
  // "E-based shapes that sound in G need capo 3": check value of the trade; common practice, no source.
  const NotationPreferences sound, shapes{.keyLead = NotationPreferences::KeyLead::shapes};
  const Key g{PitchClass(7), Mode::major};
  EXPECT_EQ(keySentence(sound, g, {standardTuning(), {3, 0}}), "G major, E major shapes");
  EXPECT_EQ(keySentence(shapes, g, {standardTuning(), {3, 0}}), "E major shapes, sounding G major");
  EXPECT_EQ(keySentence(sound, g, {}), "G major");
}

TEST(Parts, SplitThePitchIntoStringsAndRecording) {
  const Document d = document();
  const auto splits = splitsOf(Cents(10), d.part(), d.findings("take1"));
  ASSERT_GE(splits.size(), 3U);
  EXPECT_EQ(splits[0].semitones, -1);
  EXPECT_NEAR(splits[0].certainty, 0.75, 1e-9);
  EXPECT_EQ(sentenceOf(splits[0]), "All strings a semitone down, 10 cents sharp of that");
  EXPECT_THAT(splits[0].reason, HasSubstr("D♯2, its lowest string"));
  EXPECT_EQ(sentenceOf(splits[1]), "Strings at standard, 10 cents sharp of that");
}

TEST(Parts, TwoGuitarsThatDifferAreNotTakenForOne) {
  EXPECT_THAT(sidesSentence(*twoGuitars()),
              HasSubstr("they differ: left all a semitone down, no capo; right open D, capo 2"));
  auto alike = *twoGuitars();
  alike.guitars[1].readings = alike.guitars[0].readings;
  EXPECT_THAT(sidesSentence(alike), HasSubstr("read alike"));
  alike.guitars.pop_back();
  EXPECT_THAT(sidesSentence(alike), HasSubstr("One guitar can be told apart, left"));
  EXPECT_EQ(sidesSentence(Findings{}), "");
}

TEST(Parts, ComeBackFromTheFileWithTheMeasurement) {
  Document d = document();
  d.editPart("Set", d.part().id, [](GuitarPart& p) {
    p.arranged = true;
    p.setup = decided({kOpenD, {4, 0b111100}, "porch"}, Origin::confirmed);
    p.fretsFromNut = true;
    p.frets = 19;
  });
  d.edit("Chord", [](Study& s) {
    decideChord(s.takes.change(0), {{Seconds(4), Seconds(8)}, parseChord("Bmaj7"), Origin::set});
  });
  const auto back = readStudyText(*writeStudyText(d.study(), d.measurements(), "/music"), "/music", "x");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study, d.study());
  const Findings& found = *back->measurements.at("take1");
  ASSERT_EQ(found.guitars.size(), 2U);
  EXPECT_EQ(found.guitars[1].side, Side::right);
  EXPECT_EQ(found.guitars[0].readings[1].capo.fret, 4);
  EXPECT_EQ(found.guitars[0].readings[0].reasons[0].at, Seconds(12.5));
  EXPECT_EQ(found.sides[0].level[2], 1.0F);
}

TEST(Parts, FilesThatCountedFretsAlikeForAllGuitarsStillDo) {
  Document d = document();
  auto json = nlohmann::ordered_json::parse(*writeStudyText(d.study(), d.measurements(), "/music"));
  json["frets_from_nut"] = true;
  json.erase("end"), json["end"] = true;
  const auto back = readStudyText(json.dump(), "/music", "x");
  ASSERT_TRUE(back.ok()) << back.problem();
  ASSERT_EQ(back->study.parts.size(), 2U) << "the guitars that were heard";
  for (const auto& part : back->study.parts) EXPECT_TRUE(part.fretsFromNut);
}

TEST(Parts, ATuningIsCalledByItsNickname) {
  EXPECT_EQ(sentenceOf(GuitarSetup{kOpenD, {2, 0}, "porch"}), "“porch” (open D), capo 2");
}

TEST(Parts, ANeckHasSaneFrets) {
  Document d = document();
  std::string why;
  d.refused = [&](const std::string& sentence) { why = sentence; };
  d.editPart("Frets", d.part().id, [](GuitarPart& p) { p.frets = 3; });
  EXPECT_EQ(d.part().frets, kUsualFrets);
  EXPECT_THAT(why, HasSubstr("3 frets"));
  d.editPart("Frets", d.part().id, [](GuitarPart& p) { p.frets = 24; });
  EXPECT_EQ(d.guitar().frets, 24);
}

TEST(Parts, FilesThatKeptSemitonesWithThePitchAreReadAsAGuitar) {
  Document d = document();
  d.edit("Pitch", [](Study& s) { s.takes.change(0).pitch = decided(PitchValue{Cents(12)}, Origin::confirmed); });
  auto json = nlohmann::ordered_json::parse(*writeStudyText(d.study(), {}, "/music"));
  json["takes"][0]["pitch"]["value"]["semitones"] = -1;
  const auto back = readStudyText(json.dump(), "/music", "x");
  ASSERT_TRUE(back.ok()) << back.problem();
  ASSERT_EQ(back->study.parts.size(), 1U);
  EXPECT_EQ(back->study.parts[0].setup->value.tuning, kDown);
  EXPECT_EQ(back->study.parts[0].setup->origin, Origin::confirmed);
}

TEST(Chords, DecisionStandsInPlaceOfTheMeasurement) {
  Document d = document();
  Take take = d.study().takes[0];
  decideChord(take, {{Seconds(3), Seconds(5)}, parseChord("F#"), Origin::set});
  const auto shown = chordsOf(take, d.findings("take1"));
  ASSERT_EQ(shown.size(), 3U);
  EXPECT_EQ(shown[0].span, (TimeSpan{Seconds(0), Seconds(3)}));
  EXPECT_EQ(shown[1].chord, parseChord("F#"));
  EXPECT_EQ(shown[1].origin, Origin::set);
  EXPECT_EQ(shown[2].span, (TimeSpan{Seconds(5), Seconds(8)}));
  decideChord(take, {{Seconds(4), Seconds(4.5)}, std::nullopt, Origin::set});
  ASSERT_EQ(take.chords->size(), 3U) << "the earlier decision is cut, not lost";
  EXPECT_EQ((*take.chords)[2].span, (TimeSpan{Seconds(4.5), Seconds(5)}));
}

// 110 Hz lowered by 90 cents is 104.43 Hz: equal temperament (ISO 16 for A 440).
TEST(TuneUp, GivesEachStringsPitchAndTension) {
  const auto targets = tuneUp({kDown, {}}, Cents(10));
  ASSERT_EQ(targets.size(), 6U);
  EXPECT_NEAR(targets[1].pitch.value, 104.43, 0.005);
  EXPECT_NEAR(targets[1].fromStandard.value, -90, 1e-9);
  EXPECT_FALSE(targets[1].strained());
  // A whole tone up carries 26 % more: tension grows with the square of the frequency (Mersenne 1636).
  const GuitarSetup up{{{42, 47, 52, 57, 61, 66}}, {}};
  EXPECT_NEAR(tuneUp(up, Cents(0))[0].tension, 1.26, 0.005);
  const auto cautions = tensionCautions(up, Cents(0));
  EXPECT_THAT(cautions, testing::Contains(HasSubstr("26 % more")));
  EXPECT_THAT(cautions, testing::Contains(HasSubstr("capo at fret 2")));
  EXPECT_TRUE(tensionCautions({kDown, {}}, Cents(10)).empty());
  EXPECT_THAT(tensionCautions({{{45, 40, 50, 55, 59, 64}}, {}}, Cents(0)),
              testing::Contains(HasSubstr("check the order")));
}

TEST(TuneUp, MovesThePlaybackInstead) {
  const GuitarSetup setup{kDown, {2, 0}};
  const auto shifts = playbackShifts(setup, Cents(10));
  ASSERT_EQ(shifts.size(), 4U);
  EXPECT_NEAR(shifts[1].shift.value, -10, 1e-9);
  EXPECT_NEAR(shifts[2].shift.value, 90, 1e-9) << "a semitone up, 10 cents down";
  EXPECT_NEAR(shifts[3].shift.value, -110, 1e-9) << "two semitones lower than that without the capo";
  const auto standard = fitting(setup, Cents(10), shifts[2].shift);
  EXPECT_EQ(standard.setup, (GuitarSetup{standardTuning(), {2, 0}}));
  EXPECT_NEAR(standard.offset.value, 0, 1e-9);
  const auto open = fitting(setup, Cents(10), shifts[3].shift);
  EXPECT_EQ(open.setup, (GuitarSetup{standardTuning(), {}}));
  const auto asItIs = fitting(setup, Cents(10), Cents(0));
  EXPECT_EQ(asItIs.setup, setup);
  EXPECT_NEAR(asItIs.offset.value, 10, 1e-9);
}

}  // namespace
}  // namespace ear
