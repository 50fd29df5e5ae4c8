// SPDX-License-Identifier: GPL-3.0-or-later
#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <unistd.h>

#include <fstream>
#include <nlohmann/json.hpp>

#include "core/study/document.h"
#include "core/study/durable_file.h"
#include "core/study/form_edit.h"
#include "core/study/study_file.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::HasSubstr;
namespace fs = std::filesystem;

std::shared_ptr<const Findings> findings(double cents = 12.0) {
  auto f = std::make_shared<Findings>();
  f->duration = Seconds(100);
  f->reference = ReferencePitch{
      .offset = Cents(cents), .certainty = 0.9, .histogram = {}, .curve = {{Seconds(1), Cents(cents), 0.8}}};
  f->reference->histogram[62] = 1.0F;
  f->key = KeyFindings{{{{PitchClass(3), Mode::minor}, 0.8}, {{PitchClass(6), Mode::major}, 0.2}}, {}};
  f->rhythm = RhythmFindings{};
  f->rhythm->tempo = {{Bpm(104), 0.6}, {Bpm(52), 0.4}};
  f->rhythm->tempogram = {{Bpm(60), Bpm(104)}, {0.5F, 1.0F}};
  f->rhythm->beats = {Seconds(0.5), Seconds(1.0), Seconds(1.5), Seconds(2.0)};
  f->rhythm->downbeats = {Seconds(0.5)};
  f->form = {{{Seconds(0), Seconds(40)}, "A", 1.0}, {{Seconds(40), Seconds(100)}, "B", 0.5}};
  return f;
}

Study study(const fs::path& folder = "/music") {
  Study s{.title = "Copper Weather", .takes = {}, .passages = {}};
  Take take;
  take.id = "take1";
  take.name = "Studio take";
  take.file = folder / "sounds" / "studio.ogg";
  take.hash = std::string(64, 'a');
  take.duration = Seconds(100);
  s.takes.push_back(take);
  s.passages.push_back({"passage1",
                        "take1",
                        "Hook",
                        {Seconds(1.25), Seconds(3.5)},
                        0.6,
                        Cents(-12),
                        "e|--3--|\nwith “feel”, ♭ and tabs\t."});
  return s;
}

TEST(Document, MeasurementNeverReplacesADecision) {
  Document d(study(), {});
  EXPECT_FALSE(d.brief().pitch.has_value());
  d.setMeasured("take1", findings(12));
  EXPECT_EQ(d.brief().pitch->origin, Origin::measured);
  EXPECT_DOUBLE_EQ(d.brief().pitch->value.offset.value, 12);
  d.edit("Set pitch", [](Study& s) {
    s.takes.change(0).pitch = Decision<PitchValue>{{Cents(-30)}, Origin::set, 1.0, "Set by hand."};
  });
  d.setMeasured("take1", findings(7));
  EXPECT_EQ(d.brief().pitch->origin, Origin::set);
  EXPECT_DOUBLE_EQ(d.brief().pitch->value.offset.value, -30);
  EXPECT_DOUBLE_EQ(measuredBrief(*d.findings("take1")).pitch->value.offset.value, 7) << "it stands beside it";
  d.undo();
  EXPECT_DOUBLE_EQ(d.brief().pitch->value.offset.value, 7) << "undo takes back the decision, not the measurement";
}

TEST(Document, UndoesAndRedoesEveryEdit) {
  Document d(study(), {});
  const Study before = d.study();
  int changes = 0;
  d.changed = [&](Changed) { ++changes; };
  d.edit("Rename study", [](Study& s) { s.title = "Tin Weather"; });
  d.edit("Remove passage", [](Study& s) { s.passages.clear(); });
  const Study after = d.study();
  EXPECT_EQ(d.undoLabel(), "Remove passage");
  d.undo();
  d.undo();
  EXPECT_EQ(d.study(), before);
  EXPECT_FALSE(d.canUndo());
  EXPECT_EQ(d.redoLabel(), "Rename study");
  d.redo();
  d.redo();
  EXPECT_EQ(d.study(), after);
  EXPECT_EQ(changes, 6);
  d.undo();
  d.edit("Rename study", [](Study& s) { s.title = "Zinc Weather"; });
  EXPECT_FALSE(d.canRedo());
}

TEST(Document, MergesWhatBelongsTogether) {
  Document d(study(), {});
  for (const char* title : {"C", "Co", "Cop"})
    d.edit(
        "Rename study", [&](Study& s) { s.title = title; }, "title");
  d.undo();
  EXPECT_EQ(d.study().title, "Copper Weather");
  d.edit(
      "Rename study", [](Study& s) { s.title = "X"; }, "title");
  d.endMerge();
  d.edit(
      "Rename study", [](Study& s) { s.title = "Y"; }, "title");
  d.undo();
  EXPECT_EQ(d.study().title, "X");
}

TEST(Document, AnEditThatChangesNothingLeavesNoTrace) {
  Document d(study(), {});
  d.edit("Rename study", [](Study& s) { s.title = "Copper Weather"; });
  EXPECT_FALSE(d.canUndo());
  EXPECT_FALSE(d.modified());
}

TEST(Document, FactsOutliveUndo) {
  Document d(study(), {});
  d.edit("Rename study", [](Study& s) { s.title = "X"; });
  d.settle([](Study& s) { s.takes.change(0).duration = Seconds(77); });
  d.undo();
  EXPECT_EQ(d.study().takes[0].duration, Seconds(77));
  EXPECT_EQ(d.study().title, "Copper Weather");
}

TEST(StudyFile, ComesBackAsItWas) {
  const auto folder = test::freshFolder("study-roundtrip");
  Study s = study(folder);
  s.takes.change(0).key = Decision<Key>{{PitchClass(6), Mode::major}, Origin::confirmed, 1.0, "Confirmed by ear."};
  s.takes.change(0).time = Decision<TimeValue>{{Bpm(99.5), 3, 1.7}, Origin::set, 1.0, ""};
  s.takes.change(0).pitch = Decision<PitchValue>{{Cents(12.5)}, Origin::set, 1.0, ""};
  s.takes.change(0).form = Decision<Shared<Form>>{{{{Seconds(0), Seconds(50.125)}, "A", "intro", Origin::set, 1.0},
                                                   {{Seconds(50.125), Seconds(100)}, "B", "", Origin::measured, 0.4}},
                                                  Origin::set,
                                                  1.0,
                                                  ""};
  s.takes.change(0).form->value.change()[1].difference = "ends differently";
  s.takes.change(0).form->value.change()[1].guess = "chorus";
  s.takes.change(0).time->value.swing.level = SwingLevel::sixteenths;
  s.takes.change(0).grid =
      Decision<Shared<Grid>>{{{Seconds(0.5), true, true}, {Seconds(1.0), false, false}, {Seconds(1.55), true, false}},
                             Origin::set,
                             1.0,
                             "Tapped."};
  s.takes.change(0).cues = {{Seconds(3.25), "capo change"}, {Seconds(9), "second guitar in"}};
  Findings heard{*findings()};
  heard.form[1].role = Role::chorus;
  heard.form[1].difference = {.bars = 2, .loudness = -1};
  heard.alike = {.size = 2, .barsEach = 1, .alike = {15, 3, 3, 15}};
  s.passages.change(0).isolation = {.channel = Isolation::Channel::left,
                                    .place = Isolation::Panned::remove,
                                    .centre = -0.4,
                                    .width = 0.25,
                                    .part = Isolation::Component::harmonic,
                                    .lowCut = Hertz(120),
                                    .focus = Hertz(440)};
  s.ear = {12, 7};
  s.notes = {{"take1", Seconds(2.5), "barre stays down"}};
  s.log = {{"2026-03-04T17:20:00", "take1", {Seconds(1), Seconds(2)}, PracticeEntry::Kind::chain, 0.8, 6, "1+2"}};
  ASSERT_TRUE(saveStudy(folder / "song.innerear", s, {{"take1", std::make_shared<const Findings>(heard)}}).ok());
  const auto back = loadStudy(folder / "song.innerear");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study, s);
  EXPECT_EQ(back->measurements.at("take1")->alike.alike, heard.alike.alike);
  EXPECT_EQ(back->measurements.at("take1")->form[1].role, Role::chorus);
  EXPECT_EQ(back->measurements.at("take1")->form[1].difference, (SectionDifference{.bars = 2, .loudness = -1}));
  const Findings& f = *back->measurements.at("take1");
  EXPECT_DOUBLE_EQ(f.reference->offset.value, 12);
  EXPECT_EQ(f.reference->histogram[62], 1.0F);
  EXPECT_EQ(f.reference->curve.size(), 1U);
  EXPECT_EQ(f.key->readings.front().key, (Key{PitchClass(3), Mode::minor}));
  EXPECT_EQ(f.rhythm->beats, findings()->rhythm->beats);
  EXPECT_EQ(f.rhythm->tempogram.tempi.size(), 2U);
  EXPECT_EQ(f.form[1].letter, "B");
}

TEST(StudyFile, KeepsTheChordsThatWereHeard) {
  const auto folder = test::freshFolder("study-chords");
  Findings heard{*findings()};
  for (const char* name : {"E♭m7/D♭", "", "Bmaj7", "B♭7", "F♯m7♭5"})
    heard.chords.push_back({{Seconds(0), Seconds(1)}, parseChord(name), 0.5});
  const auto text = *writeStudyText(study(folder), {{"take1", std::make_shared<const Findings>(heard)}}, folder);
  const auto back = readStudyText(text, folder, "song");
  ASSERT_TRUE(back.ok()) << back.problem();
  const auto& chords = back->measurements.at("take1")->chords;
  ASSERT_EQ(chords.size(), heard.chords.size());
  for (std::size_t i = 0; i < chords.size(); ++i) EXPECT_EQ(chords[i].chord, heard.chords[i].chord) << i;
  // A name that is no chord makes the file a damaged one, not a wrong one.
  std::string broken = text;
  broken.replace(broken.find("Bmaj7"), 5, "Bwhat");
  EXPECT_FALSE(readStudyText(broken, folder, "song").ok());
}

TEST(Brief, KeyEvidenceSaysWhy) {
  Findings heard{*findings()};
  heard.key = KeyFindings{{{Key{PitchClass(9), Mode::minor}, 0.8}, {Key{PitchClass(0), Mode::major}, 0.2}}, {}};
  for (const char* name : {"Am", "F", "C", "Am"}) {
    const Seconds at(static_cast<double>(heard.chords.size()));
    heard.chords.push_back({{at, at + Seconds(1)}, parseChord(name), 1.0});
  }
  EXPECT_EQ(measuredBrief(heard).key->evidence,
            "Its tonic chord stands 50 % of the time, first and last. Next comes C major, its relative, with the same "
            "notes (20 %).");
}

TEST(StudyFile, FindsItsRecordingWhenTheFolderMoves) {
  const auto folder = test::freshFolder("study-move");
  fs::create_directories(folder / "old");
  ASSERT_TRUE(saveStudy(folder / "old" / "song.innerear", study(folder / "old"), {}).ok());
  fs::rename(folder / "old", folder / "new");
  EXPECT_EQ(loadStudy(folder / "new" / "song.innerear")->study.takes[0].file, folder / "new" / "sounds" / "studio.ogg");
}

TEST(StudyFile, RefusesWhatItCannotRead) {
  const auto folder = test::freshFolder("study-refuse");
  const auto file = folder / "song.innerear";
  ASSERT_TRUE(saveStudy(file, study(folder), {{"take1", findings()}}).ok());
  const std::string whole = *readWhole(file, 1 << 20);
  const auto problem = [&](const std::string& text) {
    const auto result = readStudyText(text, folder, "song.innerear");
    return result.ok() ? std::string("opened") : result.problem();
  };
  ASSERT_EQ(problem(whole), "opened");
  for (std::size_t cut = 0; cut + 2 < whole.size(); cut += 97)
    EXPECT_NE(problem(whole.substr(0, cut)), "opened") << cut;
  auto json = nlohmann::ordered_json::parse(whole);
  json["version"] = 99;
  EXPECT_THAT(problem(json.dump()), HasSubstr("newer Inner Ear"));
  const auto broken = [&](auto change) {
    auto j = nlohmann::ordered_json::parse(whole);
    change(j);
    return problem(j.dump());
  };
  EXPECT_THAT(broken([](auto& j) { j["takes"][0].erase("file"); }), HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j["passages"][0]["take"] = "nobody"; }), HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j["passages"][0]["end_s"] = 0.5; }), HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j["passages"][0]["speed"] = "fast"; }), HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j["passages"][0]["isolation"] = "left"; }), HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) {
                j["notes"] = {{{"take", "nobody"}, {"time_s", 1}, {"text", ""}}};
              }),
              HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j["log"] = {{{"when", "now"}}}; }), HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j["takes"][0]["kind"] = "dream"; }), HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j["takes"][0]["measured"]["reference"]["histogram"].erase(3); }),
              HasSubstr("damaged"));
  EXPECT_THAT(broken([](auto& j) { j.erase("version"); }), HasSubstr("damaged"));
  EXPECT_THAT(problem("Dear student"), HasSubstr("no study"));
  EXPECT_THAT(problem("{\"format\": \"other\"}"), HasSubstr("no study"));
}

TEST(StudyFile, NeverReplacesWhatItCannotRead) {
  const auto folder = test::freshFolder("study-keep");
  const auto file = folder / "song.innerear";
  std::ofstream(file) << "{\"format\": \"inner-ear-study\", \"version\": 99}";
  EXPECT_THAT(saveStudy(file, study(folder), {}).problem(), HasSubstr("not replaced"));
  EXPECT_THAT(*readWhole(file, 1000), HasSubstr("99"));
}

TEST(DurableFile, LeavesNoTraceAndKeepsPermissions) {
  const auto folder = test::freshFolder("durable");
  const auto file = folder / "a.txt";
  ASSERT_TRUE(writeDurably(file, "one").ok());
  fs::permissions(file, fs::perms::owner_read | fs::perms::owner_write);
  fs::create_symlink(file, folder / "link.txt");
  ASSERT_TRUE(writeDurably(folder / "link.txt", "two").ok());
  EXPECT_EQ(*readWhole(file, 100), "two");
  EXPECT_TRUE(fs::is_symlink(folder / "link.txt"));
  EXPECT_EQ(fs::status(file).permissions(), fs::perms::owner_read | fs::perms::owner_write);
  EXPECT_EQ(std::distance(fs::directory_iterator(folder), fs::directory_iterator()), 2);
  const auto failed = writeDurably(folder / "no" / "such" / "folder.txt", "x");
  EXPECT_THAT(failed.problem(), HasSubstr("could not be saved"));
}

TEST(FormEdit, KeepsTheFormGapFree) {
  Form form = formOf(*findings());
  splitSection(form, Seconds(10));
  ASSERT_EQ(form.size(), 3U);
  EXPECT_EQ(form[1].span, (TimeSpan{Seconds(10), Seconds(40)}));
  EXPECT_EQ(form[1].letter, "A");
  EXPECT_EQ(form[1].origin, Origin::set);
  EXPECT_EQ(form[2].origin, Origin::measured) << "the others stay as measured";
  moveBorder(form, 2, Seconds(500));
  EXPECT_DOUBLE_EQ(form[1].span.end.value, 99.9);
  moveBorder(form, 2, Seconds(42));
  renameSection(form, 1, "C", "bridge");
  EXPECT_EQ(form[1].name, "bridge");
  mergeWithPrevious(form, 2);
  ASSERT_EQ(form.size(), 2U);
  EXPECT_EQ(form[1].span, (TimeSpan{Seconds(10), Seconds(100)}));
  const Form same = form;
  splitSection(form, Seconds(0.05));
  splitSection(form, Seconds(1000));
  mergeWithPrevious(form, 0);
  moveBorder(form, 9, Seconds(3));
  EXPECT_EQ(form, same);
}

TEST(Brief, Sentences) {
  EXPECT_EQ(sentenceOf(PitchValue{Cents(12.2)}), "12 cents sharp of A 440");
  EXPECT_EQ(sentenceOf(PitchValue{Cents(-1)}), "1 cent flat of A 440");
  EXPECT_EQ(sentenceOf(PitchValue{Cents(0.3)}), "At concert pitch, A 440");
  EXPECT_EQ(sentenceOf(TimeValue{Bpm(103.97), 4, 1.0}), "104 beats a minute, 4 to the bar, straight");
  EXPECT_EQ(sentenceOf(TimeValue{Bpm(80), 3, 1.72}), "80 beats a minute, 3 to the bar, eighths swung 1.7 : 1");
  EXPECT_EQ(certaintyWord(0.9), "sure");
  EXPECT_EQ(certaintyWord(0.5), "likely");
  EXPECT_EQ(certaintyWord(0.1), "guess");
}

}  // namespace
}  // namespace ear
