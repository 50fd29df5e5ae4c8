// SPDX-License-Identifier: GPL-3.0-or-later
// What a study goes through without losing anything: odd values, odd text, odd files, failing and killed saves.

#include <gmock/gmock.h>
#include <gtest/gtest.h>
#include <sys/stat.h>

#include <fstream>
#include <limits>
#include <nlohmann/json.hpp>
#include <random>

#include "core/base/text.h"
#include "core/study/document.h"
#include "core/study/durable_file.h"
#include "core/study/form_edit.h"
#include "core/study/grid_edit.h"
#include "core/study/lesson_notes.h"
#include "core/study/running_order.h"
#include "core/study/study_file.h"
#include "core/study/validity.h"
#include "support/decisions.h"
#include "support/phrases.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::HasSubstr;
using testing::Not;
namespace fs = std::filesystem;
using Random = std::mt19937;

std::string demoText() {
  return *readWhole(std::string(DEMO_DIR) + "/copper-weather.innerear", 1 << 20);
}

StoredStudy demo() {
  return *readStudyText(demoText(), DEMO_DIR, "demo");
}

/// Why a state does not survive being written and read; empty where it does.
std::string lossOf(const Study& study, const Measurements& measurements) {
  const auto text = writeStudyText(study, measurements, DEMO_DIR);
  if (!text) return text.problem();
  const auto back = readStudyText(*text, DEMO_DIR, "again");
  if (!back) return back.problem();
  return back->study == study ? "" : "it came back differently";
}

TEST(Survival, APassageInHalfTimeIsSaved) {
  auto [study, measurements] = demo();
  Findings found = *measurements.begin()->second;
  found.rhythm->feels = {{{Seconds(8), Seconds(16.5)}, Feel::halfTime}, {{Seconds(20), Seconds(24)}, Feel::doubleTime}};
  const std::string take = measurements.begin()->first;
  measurements[take] = std::make_shared<const Findings>(found);
  const auto text = writeStudyText(study, measurements, DEMO_DIR);
  ASSERT_TRUE(text.ok()) << text.problem();
  const auto back = readStudyText(*text, DEMO_DIR, "again");
  ASSERT_TRUE(back.ok()) << back.problem();
  const auto& feels = back->measurements.at(take)->rhythm->feels;
  ASSERT_EQ(feels.size(), 2U);
  EXPECT_EQ(feels[0].feel, Feel::halfTime);
  EXPECT_EQ(feels[0].span, (TimeSpan{Seconds(8), Seconds(16.5)}));
  EXPECT_EQ(feels[1].feel, Feel::doubleTime);
}

TEST(Survival, WhatNoFileCanHoldIsNoEdit) {
  auto [study, measurements] = demo();
  Document d(study, measurements);
  std::string said;
  d.refused = [&](const std::string& why) { said = why; };
  const auto tempo = [&](double bpm) {
    d.edit("Set", [bpm](Study& s) { s.takes.change(0).time = test::decided(TimeValue{Bpm(bpm), 4, {}}, Origin::set); });
  };
  tempo(601);
  EXPECT_EQ(d.study().takes[0].time->value.tempo, Bpm(601));
  EXPECT_EQ(lossOf(d.study(), measurements), "") << "a measured 601 may be confirmed";
  tempo(1e305);
  EXPECT_THAT(said, HasSubstr("5 to 1000 can be kept"));
  tempo(std::numeric_limits<double>::quiet_NaN());
  EXPECT_EQ(d.study().takes[0].time->value.tempo, Bpm(601));
  said.clear();
  // Twice as many beats, time and again, ends where the file does.
  for (int i = 0; i < 12; ++i) {
    d.edit("Twice", [&](Study& s) {
      Grid grid = gridOf(s.takes[0], measurements.at(s.takes.change(0).id).get());
      doubleTempo(grid);
      decideGrid(s.takes.change(0), grid, Origin::set, "Twice.");
    });
    ASSERT_EQ(lossOf(d.study(), measurements), "") << i;
  }
  EXPECT_THAT(said, HasSubstr("beats a minute"));
  EXPECT_LE(tempoOf(d.study().takes[0].grid->value)->value, StudyLimits::kFastest.value);
}

TEST(Survival, NumbersBeyondJsonTakeNothingElseAlong) {
  auto [study, measurements] = demo();
  Findings found = *measurements.begin()->second;
  found.reference->offset = Cents(1.9e304);
  found.key->chroma[3] = std::numeric_limits<float>::quiet_NaN();
  measurements.begin()->second = std::make_shared<const Findings>(found);
  const auto text = writeStudyText(study, measurements, DEMO_DIR);
  ASSERT_TRUE(text.ok()) << text.problem();
  const auto back = readStudyText(*text, DEMO_DIR, "again");
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study, study);
  EXPECT_TRUE(back->measurements.empty()) << "it can be measured again";
}

TEST(Survival, FactsAreTidiedInEveryStepOfUndo) {
  auto [study, measurements] = demo();
  Document d(study, measurements);
  d.edit("Title", [](Study& s) { s.title = "Later"; });
  const std::string take = d.study().takes[0].id;
  d.settle([&](Study& s) { s.take(take)->name = "Caf\xe9"; });
  d.undo();
  EXPECT_EQ(d.study().takes[0].name, "Café") << "read as Windows-1252";
  EXPECT_EQ(lossOf(d.study(), measurements), "");
}

TEST(Survival, TextOfAnyEncodingIsKept) {
  auto [study, measurements] = demo();
  Document d(study, measurements);
  // "Sécurité" in Latin-1, a curly quotation mark of Windows-1252, half a character of UTF-8.
  d.edit("Rename", [](Study& s) {
    s.title =
        "S\xE9"
        "curit\xE9";
    s.takes.change(0).name =
        "\x93"
        "one\x94";
    s.passages.change(0).text = std::string("cut \xE2\x99 here\0there", 17);
  });
  EXPECT_EQ(d.study().title, "Sécurité");
  EXPECT_EQ(d.study().takes[0].name, "“one”");
  EXPECT_EQ(lossOf(d.study(), measurements), "");
  d.edit("Name", [](Study& s) { s.passages.change(0).name = std::string(100'000, 'x'); });
  EXPECT_LE(d.study().passages[0].name.size(), StudyLimits::kLongestName);
  EXPECT_EQ(lossOf(d.study(), measurements), "");
}

TEST(Survival, FilesAndFoldersMayHaveNamesThatAreNoUtf8) {
  const auto folder = test::freshFolder("odd-names") / "M\xFCsik";
  fs::create_directories(folder);
  auto [study, measurements] = demo();
  study.takes.change(0).file = folder / "caf\xE9.ogg";
  const auto file = folder / "\xE9tude.innerear";
  const auto done = saveStudy(file, study, measurements);
  ASSERT_TRUE(done.ok()) << done.problem();
  const auto back = loadStudy(file);
  ASSERT_TRUE(back.ok()) << back.problem();
  EXPECT_EQ(back->study.takes[0].file, study.takes.change(0).file);
  EXPECT_THAT(*readWhole(file, 1 << 20), HasSubstr("\"caf%E9.ogg\""));
  EXPECT_EQ(shownPath(file.filename()), "%E9tude.innerear");
  std::ofstream(folder / "br\xF6ken.innerear") << "{";
  const auto refused = loadStudy(folder / "br\xF6ken.innerear");
  ASSERT_FALSE(refused.ok());
  EXPECT_THAT(refused.problem(), HasSubstr("br%F6ken"));
}

// --- every state that edits lead to ------------------------------------------------------------------------------

/// One edit of any kind, with values from sane to absurd.
class Walker {
 public:
  Walker(Document& document, unsigned seed) : document_(document), random_(seed) {}

  void step() {
    const std::size_t which = pick(document_.study().takes.size());
    const std::string id = document_.study().takes[which].id;
    document_.activate(id);
    switch (pick(20)) {
      case 0:
        return grid([&](Grid& g) { doubleTempo(g); });
      case 1:
        return grid([&](Grid& g) { halveTempo(g); });
      case 2:
        return grid([&](Grid& g) { shiftBars(g, static_cast<int>(pick(9)) - 4); });
      case 3:
        return grid([&](Grid& g) { setMeter(g, static_cast<int>(pick(40)) - 2); });
      case 4:
        return grid([&](Grid& g) { startBarAt(g, pick(g.size() + 2)); });
      case 5:
        return grid(
            [&](Grid& g) { moveBeat(g, pick(g.size() + 1), time(), flip() ? Neighbours::follow : Neighbours::stay); });
      case 6:
        return grid([&](Grid& g) {
          std::vector<Seconds> taps;
          Seconds at = time();
          for (std::size_t i = 0; i < pick(12); ++i) taps.push_back(at += Seconds(number(0.001, 2)));
          placeTaps(g, smoothTaps(taps), static_cast<int>(pick(7)) + 1, pick(4));
          fixBeats(g, span(), flip());
        });
      case 7:
        return form([&](Form& f) { splitSection(f, time()); });
      case 8:
        return form([&](Form& f) { moveBorder(f, pick(f.size() + 1), time()); });
      case 9:
        return form([&](Form& f) { renameSection(f, pick(f.size() + 1), text(), text()); });
      case 10:
        return form([&](Form& f) {
          mergeWithPrevious(f, pick(f.size() + 1));
          markSame(f, pick(f.size() + 1), pick(f.size() + 1), text());
          if (const auto ordered = withRunningOrder(f, "intro, A, B, A'", Grid{}); ordered && flip()) f = *ordered;
        });
      case 11:
        return take([&](Take& t) { setCue(t, time(), text()); });
      case 12:
        return take([&](Take& t) {
          const auto shown = chordsOf(t, document_.findings(t.id));
          if (shown.empty()) return;
          const char* const kNames[] = {"Am", "D/F#", "Cm7b5", "G7#9", "Fsus4", "Bb6", "E5", "A9", ""};
          decideChord(t, {shown[pick(shown.size())].span, parseChord(kNames[pick(9)]), Origin::set});
        });
      case 13:
        return take([&](Take& t) {
          t.time =
              test::decided(TimeValue{Bpm(number(-10, 2000)), static_cast<int>(pick(36)), {number(0, 8)}}, Origin::set);
          t.pitch = test::decided(PitchValue{Cents(number(-60, 60))}, Origin::confirmed);
          t.key = test::decided(Key{PitchClass(static_cast<int>(pick(12))), flip() ? Mode::minor : Mode::major},
                                Origin::set);
          if (flip()) t.key->evidence = {Evidence::Kind::beatsTapped, {number(0, 500), number(-10, 400)}};
          t.name = text();
        });
      case 14: {
        const auto part = document_.part();
        document_.editPart("Part", part.id, [&](GuitarPart& p) {
          p.name = text();
          p.arranged = flip();
          p.fretsFromNut = flip();
          p.frets = static_cast<int>(pick(40));
          p.instrument = static_cast<Instrument>(pick(kInstruments));
          p.sound = text();
          if (flip()) p.range = NoteRange{static_cast<int>(pick(100)) - 5, static_cast<int>(pick(140))};
          p.doubledBy = flip() ? text() : "";
          GuitarSetup setup{tuningCatalogue()[pick(tuningCatalogue().size())].tuning,
                            {static_cast<int>(pick(14)) - 1, static_cast<std::uint16_t>(pick(70'000))},
                            text()};
          p.setup = test::decided(setup, Origin::set);
        });
        return;
      }
      case 15:
        document_.edit("Passage", [&](Study& s) {
          Passage p{freshId(s, "passage"), id, text(), span(), number(0, 5), Cents(number(-3000, 3000)), text()};
          p.part = flip() ? text() : document_.part().id;
          p.isolation.centre = number(-2, 2);
          p.isolation.place = flip() ? Isolation::Panned::keep : Isolation::Panned::all;
          p.isolation.lowCut = Hertz(number(-10, 30000));
          p.isolation.highCut = Hertz(number(-10, 30000));
          s.passages.push_back(p);
          if (s.passages.size() > 20)
            s.passages.removeIf([first = s.passages.front().id](const Passage& q) { return q.id == first; });
        });
        return;
      case 16:
        document_.edit("Note", [&](Study& s) {
          pinNote(s, {id, time(), text()});
          if (!s.notes->empty()) rewriteNote(s, LessonNote((*s.notes)[pick(s.notes->size())]), text());
        });
        {
          const PracticeEntry entry{
              text(), id, span(), PracticeEntry::Kind::ladder, number(0, 2), static_cast<int>(pick(99))};
          document_.record([&](Study& s) {
            s.ear = {std::min(s.ear.guesses + 1, StudyLimits::kMostCount), s.ear.hits};
            if (s.log->size() > 20) s.log.change().clear();
            s.log.change().push_back(entry);
          });
        }
        return;
      case 17:
        return phrases();
      case 18:
        document_.edit("Ask", [&](Study& s) {
          s.questions.push_back({freshId(s, "question"), id, span(), text(), {text(), text()}, text(), text()});
          if (s.questions.size() > 20) s.questions.clear();
        });
        return;
      default:
        flip() ? document_.undo() : document_.redo();
    }
  }

 private:
  std::size_t pick(std::size_t below) { return below == 0 ? 0 : random_() % below; }
  bool flip() { return pick(2) == 0; }
  double number(double low, double high) {
    // Now and then what no spin box lets through.
    constexpr double kOdd[] = {0.0, -0.0, 1e-310, 1.8e305, -1e300, std::numeric_limits<double>::infinity()};
    if (pick(60) == 0) return kOdd[pick(6)];
    return std::uniform_real_distribution(low, high)(random_);
  }
  Seconds time() { return Seconds(number(0, document_.activeTake()->duration.value)); }
  TimeSpan span() {
    const Seconds a = time(), b = time();
    return {std::min(a, b), std::max(a, b)};
  }
  std::string text() {
    const std::string kTexts[] = {
        "", "Verse", "A", "B2", "„äöü“ ♭", "\xFF\xFE", "tab\tline\nend", std::string(5000, 'y'), "\"\\/", "\x01\x7F"};
    return kTexts[pick(10)];
  }
  /// Writes a phrase, a repeat of another, or detaches one; now and then with what no hand does.
  void phrases() {
    document_.edit("Phrase", [&](Study& s) {
      Phrase p =
          test::phrase(freshId(s, "phrase"), {}, document_.activeTake()->id, flip() ? document_.part().id : text());
      p.span = span(), p.name = text(), p.remark = text(), p.certainty = number(0, 1);
      for (int at = 0; flip() && at < 4; ++at)
        p.scales.push_back({Beats(at, 2),
                            {PitchClass(static_cast<int>(pick(12))), kAllScales[pick(kAllScales.size())]},
                            static_cast<int>(pick(6))});
      if (flip()) p.meant = {static_cast<int>(pick(40)) + 1, static_cast<int>(pick(40)) + 50};
      const auto notes = [&] {
        std::vector<Note> some;
        for (int i = 0; i < 6; ++i) some.push_back(test::anyNote(random_, freshNoteId(s.phrases) + i));
        if (pick(9) == 0) some.front().bend = Bend{Cents(number(-9000, 9000))};
        return some;
      };
      if (!s.phrases.empty() && flip()) {
        p.link = PhraseLink{.to = s.phrases[pick(s.phrases.size())].id, .frets = static_cast<int>(pick(9))};
        p.link->how = text(), p.link->changed = notes();
        if (flip()) p.link->without = {1, 2};
      } else {
        p.levels.change().front().notes = notes();
        if (flip()) p.levels.change().front().open.push_back({1, Beats(5, 2), OpenStretch::Kind::freeFill, text()});
      }
      s.phrases.push_back(p);
      const std::size_t other = pick(s.phrases.size());
      if (flip()) detach(s.phrases, s.phrases.change(other), Guitar{});
      if (s.phrases.size() > 20) s.phrases.clear();
    });
  }
  void take(const std::function<void(Take&)>& change) {
    document_.edit("Take", [&](Study& s) { change(*s.take(document_.activeTake()->id)); });
  }
  void grid(const std::function<void(Grid&)>& change) {
    take([&](Take& t) {
      Grid g = gridOf(t, document_.findings(t.id));
      change(g);
      decideGrid(t, g, Origin::set, text());
    });
  }
  void form(const std::function<void(Form&)>& change) {
    take([&](Take& t) {
      Form f = document_.brief().form ? document_.brief().form->value : Form{};
      if (f.empty()) return;
      change(f);
      t.form = Decision<Shared<Form>>{f, Origin::set, 1.0, text()};
    });
  }

  Document& document_;
  Random random_;
};

/// The demo with everything that has a limit at that limit.
StoredStudy extremes() {
  StoredStudy stored = demo();
  Take& t = stored.study.takes.change(0);
  t.time =
      test::decided(TimeValue{StudyLimits::kFastest, StudyLimits::kMostBeats, {StudyLimits::kMostSwing}}, Origin::set);
  t.pitch = test::decided(PitchValue{Cents(-50)}, Origin::set);
  t.duration = StudyLimits::kLongestTime;
  stored.study.passages.change(0).speed = StudyLimits::kLeastSpeed;
  stored.study.passages.change(0).shift = -StudyLimits::kMostShift;
  stored.study.passages.change(0).text = std::string(StudyLimits::kLongestText, 'z');
  stored.study.title = std::string(StudyLimits::kLongestName, 'z');
  stored.study.ear = {StudyLimits::kMostCount, StudyLimits::kMostCount};
  return stored;
}

class EveryState : public testing::TestWithParam<unsigned> {};

TEST_P(EveryState, IsReadBackAsItWas) {
  auto [study, measurements] = GetParam() % 2 == 0 ? demo() : extremes();
  tidy(study);
  ASSERT_EQ(lossOf(study, measurements), "");
  Document d(study, measurements);
  int changes = 0;
  d.changed = [&](Changed) { ++changes; };
  Walker walker(d, GetParam());
  for (int i = 0; i < 1000; ++i) {
    walker.step();
    if (i % 20 == 19) {
      ASSERT_EQ(lossOf(d.study(), measurements), "") << "step " << i;
    }
  }
  EXPECT_GT(changes, 600) << "most edits do something";
}

INSTANTIATE_TEST_SUITE_P(Seeds, EveryState, testing::Values(1U, 2U, 3U, 4U));

// --- files that somebody damaged ---------------------------------------------------------------------------------

TEST(DamagedStudy, EveryTruncationIsRefusedOrWhole) {
  const std::string whole = demoText();
  for (std::size_t cut = 0; cut + 2 < whole.size(); cut += 131)
    EXPECT_FALSE(readStudyText(whole.substr(0, cut), DEMO_DIR, "cut").ok()) << cut;
}

TEST(DamagedStudy, BracketsWithoutEndAreRefused) {
  for (const char* bracket : {"[", "{\"a\":"}) {
    std::string text = "{\"format\": \"inner-ear-study\", \"version\": 1, \"takes\": ";
    for (int i = 0; i < 100'000; ++i) text += bracket;
    EXPECT_THAT(readStudyText(text, "/", "deep").problem(), HasSubstr("damaged"));
  }
}

TEST(DamagedStudy, LongTextIsShortenedAndManyChordsAreReadAtOnce) {
  auto json = nlohmann::ordered_json::parse(demoText());
  json["takes"][0]["name"] = std::string(100'000, 'n');
  auto& chords = json["takes"][0]["chords"] = nlohmann::ordered_json::array();
  for (int i = 0; i < 20'000; ++i)
    chords.push_back({{"start_s", i * 0.01}, {"end_s", i * 0.01 + 0.01 - 1e-9}, {"name", "Am"}, {"origin", "set"}});
  const auto read = readStudyText(json.dump(), DEMO_DIR, "long");
  ASSERT_TRUE(read.ok()) << read.problem();
  EXPECT_EQ(read->study.takes[0].chords->size(), 20'000U);
  EXPECT_LE(read->study.takes[0].name.size(), StudyLimits::kLongestName);
}

/// Replaces a value somewhere in the tree by something that does not belong there.
void spoil(nlohmann::ordered_json& json, Random& random) {
  nlohmann::ordered_json* at = &json;
  while (at->is_structured() && !at->empty() && random() % 12 != 0) {
    auto item = at->begin();
    std::advance(item, static_cast<std::ptrdiff_t>(random() % at->size()));
    at = &*item;
  }
  const nlohmann::ordered_json kOdd[] = {nullptr,
                                         true,
                                         -1,
                                         1e308,
                                         4294967296,
                                         "",
                                         "x",
                                         nlohmann::ordered_json::array(),
                                         nlohmann::ordered_json::object(),
                                         18446744073709551615ULL,
                                         0.5,
                                         {1, 2, 3}};
  *at = kOdd[random() % 12];
}

TEST(DamagedStudy, OddValuesAreRefusedOrKeptAsTheyAre) {
  const auto whole = nlohmann::ordered_json::parse(demoText());
  Random random(7);
  int opened = 0;
  for (int i = 0; i < 400; ++i) {
    auto json = whole;
    for (unsigned k = 0; k <= random() % 3; ++k) spoil(json, random);
    const auto read = readStudyText(json.dump(), DEMO_DIR, "odd");
    if (!read) continue;
    ++opened;
    EXPECT_EQ(lossOf(read->study, read->measurements), "") << i;
  }
  EXPECT_GT(opened, 10) << "some of them make a study all the same";
}

// --- saving ------------------------------------------------------------------------------------------------------

TEST(Saving, KeepsTheGenerationBeforeAndSweepsWhatAKilledSaveLeft) {
  const auto folder = test::freshFolder("generations");
  const auto file = folder / "song.innerear";
  auto [study, measurements] = demo();
  ASSERT_TRUE(saveStudy(file, study, measurements).ok());
  EXPECT_FALSE(fs::exists(generationBefore(file)));
  Study later = study;
  later.title = "Later";
  ASSERT_TRUE(saveStudy(file, later, measurements).ok());
  EXPECT_EQ(loadStudy(file)->study.title, "Later");
  EXPECT_EQ(loadStudy(generationBefore(file))->study.title, study.title);
  std::ofstream(folder / ".song.innerear.saving-aB3xYz") << "half";
  std::ofstream(folder / ".other.innerear.saving-aB3xYz") << "not ours";
  sweepLeftovers(file);
  EXPECT_FALSE(fs::exists(folder / ".song.innerear.saving-aB3xYz"));
  EXPECT_TRUE(fs::exists(folder / ".other.innerear.saving-aB3xYz"));
}

TEST(Saving, KeepsModeGroupAndHardLinks) {
  const auto folder = test::freshFolder("links");
  const auto file = folder / "a.txt", other = folder / "b.txt";
  ASSERT_TRUE(writeDurably(file, "one").ok());
  ASSERT_EQ(chmod(file.c_str(), 0640), 0);
  if (getuid() == 0) {
    ASSERT_EQ(chown(file.c_str(), 0, 4), 0);
  }
  struct stat before {};
  ASSERT_EQ(stat(file.c_str(), &before), 0);
  ASSERT_TRUE(writeDurably(file, "two", Before::keep).ok());
  struct stat after {};
  ASSERT_EQ(stat(file.c_str(), &after), 0);
  EXPECT_EQ(after.st_mode, before.st_mode);
  EXPECT_EQ(after.st_gid, before.st_gid);
  fs::create_hard_link(file, other);
  ASSERT_TRUE(writeDurably(file, "three", Before::keep).ok());
  EXPECT_EQ(*readWhole(other, 100), "three") << "both names still mean one file";
  EXPECT_EQ(fs::hard_link_count(file), 2U);
  EXPECT_EQ(*readWhole(generationBefore(file), 100), "two");
}

TEST(Saving, ADamagedCopyIsReplaced) {
  const auto folder = test::freshFolder("damaged-copy");
  const auto copy = autosaveFor(folder / "song.innerear");
  std::ofstream(copy) << "{\"format\": \"inner-ear-st";
  auto [study, measurements] = demo();
  ASSERT_TRUE(saveCopy(copy, study, measurements).ok());
  EXPECT_EQ(loadStudy(copy)->study.title, study.title);
}

}  // namespace
}  // namespace ear
