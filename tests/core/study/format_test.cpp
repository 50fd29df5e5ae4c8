// SPDX-License-Identifier: GPL-3.0-or-later
// Files of every version of the format are read, and what the later ones brought is kept.

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <algorithm>
#include <fstream>
#include <nlohmann/json.hpp>
#include <random>
#include <sstream>

#include "core/sheet/sheet.h"
#include "core/study/parts.h"
#include "core/study/study_file.h"
#include "core/study/validity.h"
#include "support/phrases.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::HasSubstr;

std::string fixture(const std::string& name) {
  std::ostringstream text;
  text << std::ifstream(std::string(STUDIES_DIR) + "/" + name).rdbuf();
  return text.str();
}

std::string versionOne() {
  return fixture("version-1.innerear");
}

/// Every key of `before` stands in `after` with the same value, but for those that another test looks at.
void expectKept(const nlohmann::json& before, const nlohmann::json& after, const std::string& path) {
  if (path.ends_with("/evidence") || path == "/version") return;
  if (path.find("/measured/form/") != std::string::npos && path.ends_with("/difference")) return;
  if (before.is_object()) {
    for (const auto& [key, value] : before.items()) {
      if (path.ends_with("/measured/time") && key == "reason") continue;
      ASSERT_TRUE(after.contains(key)) << path << "/" << key;
      expectKept(value, after.at(key), path + "/" + key);
    }
  } else if (before.is_array()) {
    ASSERT_EQ(before.size(), after.size()) << path;
    for (std::size_t i = 0; i < before.size(); ++i) expectKept(before[i], after[i], path + "/" + std::to_string(i));
  } else {
    EXPECT_EQ(before, after) << path;
  }
}

TEST(StudyFormat, AFileOfVersionOneOpensWithNothingLost) {
  const auto before = nlohmann::json::parse(versionOne());
  ASSERT_EQ(before["version"], 1);
  const auto read = readStudyText(versionOne(), "/music", "old");
  ASSERT_TRUE(read.ok()) << read.problem();
  const auto written = writeStudyText(read->study, read->measurements, "/music");
  ASSERT_TRUE(written.ok()) << written.problem();
  const auto after = nlohmann::json::parse(*written);
  EXPECT_EQ(after["version"], 3);
  expectKept(before, after, "");
}

TEST(StudyFormat, AFileOfVersionTwoOpensWithNothingLost) {
  const std::string text = fixture("version-2.innerear");
  const auto before = nlohmann::json::parse(text);
  ASSERT_EQ(before["version"], 2);
  const auto read = readStudyText(text, "/music", "old");
  ASSERT_TRUE(read.ok()) << read.problem();
  EXPECT_TRUE(read->study.phrases.empty());
  const auto written = writeStudyText(read->study, read->measurements, "/music");
  ASSERT_TRUE(written.ok()) << written.problem();
  auto after = nlohmann::json::parse(*written);
  EXPECT_EQ(after["version"], 3);
  after["version"] = 2;
  EXPECT_EQ(after, before);
}

/// A study with one take and one phrase of so many notes with any gestures.
Study withPhrase(int notes, unsigned seed) {
  std::mt19937 random(seed);
  Study study;
  Take take;
  take.id = "take1", take.name = "One", take.file = "/music/one.flac", take.duration = Seconds(60);
  study.takes.push_back(take);
  std::vector<Note> all;
  for (int i = 1; i <= notes; ++i) all.push_back(test::anyNote(random, i));
  putInOrder(all);
  study.phrases.push_back(test::phrase("phrase1", all));
  return study;
}

TEST(StudyFormat, GesturesOfEveryKindSurviveTheFile) {
  const Study study = withPhrase(2000, 5);
  const auto text = writeStudyText(study, {}, "/music");
  ASSERT_TRUE(text.ok()) << text.problem();
  const auto back = readStudyText(*text, "/music", "again");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study.phrases, study.phrases);
}

TEST(StudyFormat, EachNoteStandsInALineOfItsOwn) {
  const std::string before = *writeStudyText(withPhrase(40, 6), {}, "/music");
  Study changed = withPhrase(40, 6);
  changed.phrases.change(0).levels.change().front().notes[20].why = "Checked once more";
  const std::string after = *writeStudyText(changed, {}, "/music");
  const auto lines = [](const std::string& text) {
    std::vector<std::string> all;
    std::istringstream stream(text);
    for (std::string line; std::getline(stream, line);) all.push_back(line);
    return all;
  };
  const auto a = lines(before), b = lines(after);
  ASSERT_EQ(a.size(), b.size());
  int differing = 0;
  for (std::size_t i = 0; i < a.size(); ++i)
    if (a[i] != b[i]) ++differing;
  EXPECT_EQ(differing, 1) << "two people who change two notes can merge their files";
}

TEST(StudyFormat, OpenQuestionsAndRepeatsSurviveTheFile) {
  Study study = withPhrase(8, 7);
  Phrase repeat = test::phrase("phrase2", {});
  repeat.link =
      PhraseLink{"phrase1", 2, -1, {3, 4}, {test::note(100, 2, 5, Beats(1, 3), Beats(2, 3))}, "another ending"};
  repeat.levels.change().push_back({"easier",
                                    "without the run",
                                    {test::note(101, 4, 8)},
                                    {{1, 2, OpenStretch::Kind::unclear, "under the cymbal"}},
                                    std::pair{Beats(1, 2), Beats(3)}});
  study.phrases.push_back(repeat);
  study.questions.push_back(
      {"question1", "take1", {Seconds(1), Seconds(2)}, "Bent or slid?", {"bent", "slid"}, "whoever saw it played", ""});
  const auto text = writeStudyText(study, {}, "/music");
  ASSERT_TRUE(text.ok()) << text.problem();
  const auto back = readStudyText(*text, "/music", "again");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study, study);
}

TEST(StudyFormat, NotesThatNoPhraseCanHoldAreRefusedWithTheReason) {
  const auto faultWith = [](const std::function<void(Study&)>& change) {
    Study study = withPhrase(2, 8);
    change(study);
    tidy(study);
    return faultOf(study).value_or("");
  };
  const auto notes = [](Study& s) -> std::vector<Note>& { return s.phrases.change(0).levels.change().front().notes; };
  EXPECT_EQ(faultWith([](Study&) {}), "");
  EXPECT_THAT(faultWith([&](Study& s) { notes(s)[0].length = 0; }), HasSubstr("no length"));
  EXPECT_THAT(faultWith([&](Study& s) { notes(s)[1].id = notes(s)[0].id; }), HasSubstr("one number"));
  EXPECT_THAT(faultWith([&](Study& s) { notes(s)[0].place = {6, 37}; }), HasSubstr("beside the neck"));
  EXPECT_THAT(faultWith([](Study& s) { s.phrases.change(0).link = PhraseLink{.to = "phrase1"}; }),
              HasSubstr("the same as itself"));
  EXPECT_THAT(faultWith([](Study& s) { s.phrases.change(0).take = "gone"; }), HasSubstr("a take that is not"));
}

TEST(StudyFormat, SentencesOfVersionOneAreReadAsTheFactsTheyTell) {
  auto json = nlohmann::ordered_json::parse(versionOne());
  auto& take = json["takes"][0];
  take["key"] = {{"value", {{"tonic", "E"}, {"mode", "minor"}}}, {"origin", "set"}, {"certainty", 1.0}};
  const auto evidenceFor = [&](const char* sentence) {
    take["key"]["evidence"] = sentence;
    const auto read = readStudyText(json.dump(), "/music", "old");
    EXPECT_TRUE(read.ok()) << read.problem();
    return read->study.takes[0].key->evidence;
  };
  EXPECT_EQ(evidenceFor("Confirmed by ear.").kind, Evidence::Kind::confirmedByEar);
  EXPECT_EQ(evidenceFor("Set by hand.").kind, Evidence::Kind::setByHand);
  EXPECT_EQ(evidenceFor("").kind, Evidence::Kind::none);
  const Evidence own = evidenceFor("12 beats tapped, 104.2 a minute.");
  EXPECT_EQ(own.kind, Evidence::Kind::words) << "its numbers are rounded in the sentence: it stays one";
  EXPECT_EQ(sentenceOf(own), "12 beats tapped, 104.2 a minute.");
}

TEST(StudyFormat, WhatWasMeasuredInWordsReadsTheSameFromItsFacts) {
  const auto before = nlohmann::json::parse(versionOne());
  const auto read = *readStudyText(versionOne(), "/music", "old");
  std::size_t said = 0;
  for (const auto& take : before["takes"]) {
    if (!take.contains("measured")) continue;
    const Findings& found = *read.measurements.at(take["id"].get<std::string>());
    EXPECT_EQ(sentenceOf(found.rhythm->reason), take["measured"]["time"].value("reason", ""));
    const auto& form = take["measured"]["form"];
    ASSERT_EQ(form.size(), found.form.size());
    for (std::size_t i = 0; i < form.size(); ++i) {
      EXPECT_EQ(wordsOf(found.form[i].difference), form[i].value("difference", ""));
      said += form[i].value("difference", "").empty() ? 0 : 1;
    }
  }
  EXPECT_GT(said, 0U);
}

TEST(StudyFormat, ADifferenceBeyondMeasureIsHeldWithinBounds) {
  const auto read = *readStudyText(versionOne(), "/music", "old");
  auto json = nlohmann::ordered_json::parse(*writeStudyText(read.study, read.measurements, "/music"));
  auto& take = *std::ranges::find_if(json["takes"], [](const auto& t) { return t.contains("measured"); });
  take["measured"]["form"][0]["difference"] = {{"bars", INT32_MIN}, {"semitones", INT32_MAX}};
  const auto back = readStudyText(json.dump(), "/music", "new");
  ASSERT_TRUE(back.ok()) << back.problem();
  const auto& form = back->measurements.at(take["id"].get<std::string>())->form;
  EXPECT_EQ(wordsOf(form[0].difference), "9999 semitones higher, 9999 bars shorter");
}

TEST(StudyFormat, EvidenceIsKeptWithItsNumbers) {
  auto read = *readStudyText(versionOne(), "/music", "old");
  read.study.takes.change(0).grid = Decision<Shared<Grid>>{
      {{Seconds(1), true}, {Seconds(2)}}, Origin::set, 1.0, {Evidence::Kind::beatsTapped, {12, 104.23}}};
  const auto text = writeStudyText(read.study, {}, "/music");
  ASSERT_TRUE(text.ok()) << text.problem();
  const auto back = readStudyText(*text, "/music", "new");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study, read.study);
  EXPECT_EQ(sentenceOf(back->study.takes[0].grid->evidence), "12 beats tapped, 104.2 a minute.");
  // Numbers that are missing make the file a damaged one.
  auto json = nlohmann::ordered_json::parse(*text);
  json["takes"][0]["grid"]["evidence"].erase("numbers");
  EXPECT_THAT(readStudyText(json.dump(), "/music", "new").problem(), HasSubstr("damaged"));
}

TEST(StudyFormat, WhatAGuitarIsAndWhosePassageItIs) {
  auto stored = *readStudyText(versionOne(), "/music", "old");
  Study& s = stored.study;
  const Take take = s.takes[0];
  s.parts.clear();
  s.parts.push_back({"g1", take.id, "Lead", Side::left});
  s.parts.push_back({"g2", take.id, "Second", Side::right});
  GuitarPart& lead = *s.part("g1");
  lead.instrument = Instrument::electric;
  lead.sound = "neck pickup, a little gain";
  lead.range = parseRange("B4 – E2");
  EXPECT_FALSE(lead.range.has_value()) << "a dash of another kind is no sign we know";
  lead.range = parseRange("B4 to E2");
  ASSERT_EQ(lead.range, (NoteRange{40, 71}));
  lead.doubledBy = "g2";
  s.passages.clear();
  s.passages.push_back({"p1", take.id, "Hook", {Seconds(1), Seconds(2)}, 1.0, Cents(0), ""});
  s.passage("p1")->part = "g1";
  const auto back = readStudyText(*writeStudyText(s, {}, "/music"), "/music", "new");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study, s);
  const std::string sheet = sheetText(layOutSheet({s, take}));
  EXPECT_THAT(sheet, HasSubstr("Electric guitar; neck pickup, a little gain; from E2 to B4; doubled by Second."));
  EXPECT_THAT(sheet, HasSubstr("practise at 100 %, Lead"));

  removePart(s, "g2");
  EXPECT_EQ(s.part("g1")->doubledBy, "");
  removePart(s, "g1");
  EXPECT_EQ(s.passage("p1")->part, "") << "and the passage stays";
}

TEST(StudyFormat, AGuitarThatCannotBeIsRefused) {
  Document d(readStudyText(versionOne(), "/music", "old")->study, {});
  std::string why;
  d.refused = [&](const std::string& sentence) { why = sentence; };
  const auto take = d.study().takes[0].id;
  d.edit("Guitar", [&](Study& s) { s.parts.push_back({"g9", take, "Odd"}); });
  EXPECT_FALSE(d.edit("Range", [](Study& s) { s.part("g9")->range = NoteRange{70, 50}; }));
  EXPECT_THAT(why, HasSubstr("lowest note would lie above its highest"));
  EXPECT_FALSE(d.edit("Itself", [](Study& s) { s.part("g9")->doubledBy = "g9"; }));
}

TEST(Document, AnEditSharesWhatItLeavesAlone) {
  auto stored = *readStudyText(versionOne(), "/music", "old");
  stored.study.takes.change(0).grid =
      Decision<Shared<Grid>>{{{Seconds(1), true}, {Seconds(2)}}, Origin::set, 1.0, Evidence::Kind::barsSet};
  Document d(stored.study, stored.measurements);
  const Study before = d.study();
  d.edit("Rename take", [](Study& s) { s.takes.change(0).name = "Another name"; });
  EXPECT_TRUE(before.takes[0].grid->value.isSame(d.study().takes[0].grid->value)) << "its beats were not touched";
  EXPECT_EQ(&before.takes[1], &d.study().takes[1]);
  EXPECT_EQ(&before.passages[0], &d.study().passages[0]);
  EXPECT_TRUE(before.log.isSame(d.study().log));
}

TEST(Document, TellsWhatHasChanged) {
  const auto stored = *readStudyText(versionOne(), "/music", "old");
  Document d(stored.study, stored.measurements);
  Changed told = Changed::nothing;
  d.changed = [&](Changed what) { told = what; };
  const std::string take = d.study().takes[0].id;
  d.edit("Key", [&](Study& s) {
    s.take(take)->key = Decision<Key>{{PitchClass(2), Mode::minor}, Origin::set, 1.0, Evidence::Kind::setByHand};
  });
  EXPECT_EQ(told, Changed::key | Changed::history);
  d.edit("Title", [](Study& s) { s.title = "Another"; });
  EXPECT_EQ(told, Changed::title | Changed::history);
  d.undo();
  EXPECT_EQ(told, Changed::title | Changed::history);
  d.undo();
  EXPECT_EQ(told, Changed::key | Changed::history);
  d.record([&](Study& s) {
    s.log.change().push_back({"2026-01-01T10:00:00", take, {Seconds(1), Seconds(2)}, PracticeEntry::Kind::ladder});
  });
  EXPECT_EQ(told, Changed::log | Changed::history);
  d.redo();
  EXPECT_EQ(told, Changed::key | Changed::history);
  EXPECT_EQ(d.study().log->size(), stored.study.log->size() + 1) << "what was practised is no edit";
  d.activate(d.study().takes[1].id);
  EXPECT_EQ(told, Changed::desk);
}

}  // namespace
}  // namespace ear
