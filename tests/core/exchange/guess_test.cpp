// SPDX-License-Identifier: GPL-3.0-or-later
// A guess never gives orders: what is not at least likely stands in no file as if it were known.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "core/exchange/export.h"
#include "core/exchange/jams.h"
#include "core/exchange/lilypond.h"
#include "core/exchange/musicxml.h"
#include "core/sheet/sheet.h"
#include "core/study/study_file.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::AllOf;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::Not;

/// The demo as it was measured, but with nobody's word and nothing that is likely.
class Guesses : public testing::Test {
 protected:
  void SetUp() override {
    auto loaded = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
    ASSERT_TRUE(loaded.ok());
    study_ = loaded->study;
    found_ = test::demoFindings("studio");
    study_.parts.changeEach([](GuitarPart& p) { p.setup.reset(); });
    surely(kLikely - 0.01);
  }
  void surely(double certainty) {
    found_.reference->certainty = certainty;
    for (auto& r : found_.key->readings) r.certainty = certainty;
    for (auto& r : found_.rhythm->tempo) r.certainty = certainty;
    found_.rhythm->pulse = certainty;
    for (auto& c : found_.chords) c.certainty = certainty;
    for (auto& s : found_.form) s.certainty = certainty;
    for (auto& g : found_.guitars)
      for (auto& r : g.readings) r.certainty = certainty;
  }
  std::vector<TabPiece> pieces() const { return tabPiecesOf(study_, study_.takes[0], &found_); }
  TakeLists lists() const { return {study_, study_.takes[0], &found_}; }
  std::string sheet() const { return sheetText(layOutSheet({study_, study_.takes[0], &found_})); }

  Study study_;
  Findings found_;
};

TEST_F(Guesses, StandInNoTab) {
  for (const TabPiece& p : pieces()) {
    EXPECT_FALSE(p.key.has_value());
    EXPECT_FALSE(p.tempo.has_value());
    EXPECT_EQ(p.guitar.tuning, standardTuning());
    EXPECT_EQ(p.guitar.offset, Cents(0));
    EXPECT_THAT(p.chords, IsEmpty());
  }
  const std::string xml = writeMusicXml(pieces());
  EXPECT_THAT(xml, AllOf(Not(HasSubstr("<harmony>")), Not(HasSubstr("<metronome>")), Not(HasSubstr("<mode>"))));
  const std::string text = writeLilyPond(pieces());
  EXPECT_THAT(text, AllOf(Not(HasSubstr("\\key")), Not(HasSubstr("\\tempo")), Not(HasSubstr("ChordNames"))));
}

TEST_F(Guesses, AreQuestionMarksInAChart) {
  const std::string chart = chordProChart(lists());
  EXPECT_THAT(chart, AllOf(Not(HasSubstr("{key")), Not(HasSubstr("{tempo")), Not(HasSubstr("{capo")), HasSubstr("?")));
  for (const char* name : {"Ebm", "Bmaj7", "Gb"}) EXPECT_THAT(chart, Not(HasSubstr(name))) << name;
  EXPECT_THAT(labelText(lists()), Not(HasSubstr("\tA\n"))) << "no section by a guess";
}

TEST_F(Guesses, SayHowSureTheyAreWhereAFileHasAPlaceForIt) {
  const std::string table = csvOfTake(lists());
  EXPECT_THAT(table, HasSubstr("E♭ minor,measured,0.44"));
  const auto read = readJams(writeJams(lists(), {}));
  ASSERT_TRUE(read.ok());
  EXPECT_EQ(read->key, found_.key->readings.front().key) << "research wants guesses, with their confidence";
  EXPECT_THAT(writeJams(lists(), {}), HasSubstr("\"confidence\": 0.44"));
}

TEST_F(Guesses, TuneNoStringOnTheSheet) {
  const std::string guess = sheet();
  EXPECT_THAT(guess, AllOf(Not(HasSubstr("Tune all six strings")), Not(HasSubstr("313.")), Not(HasSubstr("E♭m"))));
  surely(0.9);
  EXPECT_THAT(sheet(), AllOf(HasSubstr("Tune all six strings a semitone down"), HasSubstr("E♭m")))
      << "the check can fail";
}

/// What a person says is no guess, whatever was measured.
TEST_F(Guesses, GiveWayToAPersonsWord) {
  study_.takes.change(0).key = Decision<Key>{Key{PitchClass(2), Mode::minor}, Origin::set, 1.0, {}};
  EXPECT_EQ(pieces().front().key, (Key{PitchClass(2), Mode::minor}));
  EXPECT_THAT(chordProChart(lists()), HasSubstr("{key: Dm}"));
}

}  // namespace
}  // namespace ear
