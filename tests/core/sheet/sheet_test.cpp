// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/sheet/sheet.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cstdlib>
#include <fstream>
#include <random>
#include <sstream>

#include "core/engraving/tab_text.h"
#include "core/listening/listener.h"
#include "core/study/study_file.h"
#include "core/study/tune_up.h"
#include "support/decisions.h"
#include "support/phrases.h"
#include "support/programs.h"
#include "support/sounds.h"

namespace ear {
namespace {

using test::decided;
using testing::HasSubstr;
using testing::Not;

const Tuning kDown = {{39, 44, 49, 54, 58, 63}};

Study study() {
  Study s{.title = "Copper Weather", .takes = {}, .passages = {}};
  Take take;
  take.id = "take1";
  take.name = "Studio take";
  take.duration = Seconds(115.63);
  take.pitch = Decision<PitchValue>{{Cents(12)}, Origin::confirmed, 1.0, ""};
  take.key = Decision<Key>{{PitchClass(3), Mode::minor}, Origin::measured, 0.9, ""};
  take.time = Decision<TimeValue>{{Bpm(104), 4, 1.0}, Origin::set, 1.0, ""};
  take.form = Decision<Shared<Form>>{{{{Seconds(0), Seconds(9.58)}, "A", "intro", Origin::set, 1.0},
                                      {{Seconds(9.58), Seconds(115.63)}, "B", "", Origin::measured, 0.5}},
                                     Origin::set,
                                     1.0,
                                     ""};
  s.takes.push_back(take);
  s.parts.push_back({"g1", "take1", "Guitar", Side::centre});
  s.parts.change(s.parts.size() - 1).setup = decided({kDown, {}}, Origin::confirmed);
  s.passages.push_back({"p1", "take1", "Hook", {Seconds(0.35), Seconds(4.96)}, 0.6, Cents(-12), "e|--8--|\nB|-----|"});
  s.passages.push_back({"p2", "take2", "Elsewhere", {Seconds(0.35), Seconds(4.96)}, 0.6, Cents(0), ""});
  return s;
}

std::string text(const Study& s) {
  return sheetText(layOutSheet({s, s.takes[0], nullptr}));
}

TEST(Sheet, SaysTheBriefTuningFormAndPassages) {
  const std::string sheet = text(study());
  EXPECT_THAT(sheet, HasSubstr("Copper Weather\n==============\n"));
  EXPECT_THAT(sheet, HasSubstr("Studio take (recording, 1:55.6)"));
  EXPECT_THAT(sheet, HasSubstr("12 cents sharp of A 440"));
  EXPECT_THAT(sheet, HasSubstr("confirmed by ear"));
  EXPECT_THAT(sheet, HasSubstr("measured, sure"));
  EXPECT_THAT(sheet, HasSubstr("E♭ minor"));
  EXPECT_THAT(sheet, HasSubstr("104 beats a minute, 4 to the bar, straight"));
  EXPECT_THAT(sheet, HasSubstr("0:00.0  0:09.6  A     intro"));
  EXPECT_THAT(sheet, HasSubstr("Hook: 0:00.4 to 0:05.0, practise at 60 %, shifted -12 cents"));
  EXPECT_THAT(sheet, HasSubstr("    e|--8--|\n    B|-----|\n"));
  EXPECT_THAT(sheet, Not(HasSubstr("Elsewhere"))) << "a passage of another take";
}

// The A string a semitone down and 12 cents sharp: 110 * 2^(-88/1200); common practice, no source.
TEST(Sheet, TellsHowToTuneEachString) {
  const std::string sheet = text(study());
  EXPECT_THAT(sheet, HasSubstr("Tune all six strings a semitone down, then 12 cents sharp of that."));
  EXPECT_THAT(tuningAdvice({kDown, {}}, Cents(12)), HasSubstr("shifted by +88 cents"));
  EXPECT_THAT(sheet, HasSubstr("A♭2"));
  EXPECT_THAT(sheet, HasSubstr("104.55"));
  EXPECT_THAT(sheet, HasSubstr("-88 cents"));
}

TEST(Sheet, WarnsOfStringsTunedUp) {
  EXPECT_THAT(tuningAdvice({{{42, 47, 52, 57, 61, 66}}, {}}, Cents(0)), HasSubstr("strains strings"));
  EXPECT_THAT(tuningAdvice({{{41, 46, 51, 56, 60, 65}}, {}}, Cents(0)), Not(HasSubstr("strains")));
  EXPECT_THAT(tuningAdvice({}, Cents(0)), HasSubstr("fits the recording as it is"));
  EXPECT_THAT(tuningAdvice({}, Cents(-20)), HasSubstr("A = 434.9 Hz"));
}

TEST(Sheet, TellsEachGuitarByItself) {
  Study s = study();
  s.parts.push_back({"g2", "take1", "Slide guitar", Side::right, true});
  s.parts.change(s.parts.size() - 1).setup = decided({{{38, 45, 50, 54, 57, 62}}, {3, 0}}, Origin::set);
  const std::string sheet = text(s);
  EXPECT_THAT(sheet, HasSubstr("How to tune: Guitar"));
  EXPECT_THAT(sheet, HasSubstr("How to tune: Slide guitar"));
  EXPECT_THAT(sheet, HasSubstr("Open D, capo 3 (set by hand), arranged"));
  EXPECT_THAT(sheet, HasSubstr("E♭ minor, C minor shapes"));
  EXPECT_THAT(sheet, HasSubstr("to D A D F♯ A D, then 12 cents sharp of that.\nCapo at fret 3."));
}

TEST(Sheet, NamesStringsAsTheStudioDoes) {
  NotationPreferences schools;
  schools.strings = NotationPreferences::Strings::numberFromLow;
  const Study s = study();
  const std::string sheet = sheetText(layOutSheet({s, s.takes[0], nullptr, schools}));
  EXPECT_THAT(sheet, HasSubstr("String 1 is the lowest sounding."));
  EXPECT_THAT(sheet, HasSubstr("  1       E♭2"));
}

TEST(Sheet, CountsBarsOnTheGridAndNamesMarksAndDifferences) {
  Study s = study();
  Grid grid;
  for (int i = 0; i < 40; ++i) grid.push_back({Seconds(i), i % 4 == 0, false});
  s.takes.change(0).grid = decided(Shared<Grid>(grid), Origin::set);
  s.takes.change(0).form =
      decided(Shared<Form>{{{Seconds(0), Seconds(16)}, "A", "verse"},
                           {{Seconds(16), Seconds(40)}, "A", "verse", Origin::set, 1.0, "2 bars longer"}},
              Origin::set);
  s.takes.change(0).cues = {{Seconds(21.5), "capo change"}};
  const std::string sheet = text(s);
  EXPECT_THAT(sheet, HasSubstr("0:00.0  0:16.0  A     verse  4"));
  EXPECT_THAT(sheet, HasSubstr("0:16.0  0:40.0  A     verse  6     2 bars longer"));
  EXPECT_THAT(sheet, HasSubstr("0:21.5  capo change"));
}

TEST(Sheet, WrapsWordsAndNotTab) {
  Study s = study();
  s.passages.change(0).text = std::string(200, '-');
  std::istringstream lines(text(s));
  for (std::string line; std::getline(lines, line);)
    if (!line.starts_with("    ") && !line.starts_with("  ")) {
      EXPECT_LE(line.size(), 90U) << line;
    }
  EXPECT_THAT(text(s), HasSubstr(std::string(200, '-')));
}

TEST(Sheet, OfAnUnknownRecordingSaysSo) {
  Study s = study();
  s.takes.change(0).pitch.reset(), s.takes.change(0).key.reset(), s.takes.change(0).time.reset(),
      s.takes.change(0).form.reset();
  EXPECT_THAT(text(s), HasSubstr("Nothing was measured or set yet."));
}

/// Readings of one guitar, the first of them as sure as told.
Findings heardGuitar(double certainty) {
  Findings f{.duration = Seconds(115.63)};
  f.guitars = {
      {Side::centre, 1.0, {{{{38, 45, 50, 54, 57, 62}}, {2, 0}, certainty, {}}, {standardTuning(), {}, 0.2, {}}}}};
  return f;
}

TEST(Sheet, NeverTunesByAGuess) {
  Study s = study();
  s.parts.clear();
  const Findings guess = heardGuitar(0.31), likely = heardGuitar(0.5);
  const std::string open = sheetText(layOutSheet({s, s.takes[0], &guess}));
  EXPECT_THAT(open,
              HasSubstr("Tuning and capo are open. Perhaps open D, capo 2; or standard tuning, no capo:\nlisten"));
  EXPECT_THAT(open, HasSubstr("set the tuner's reference to A = 443.1 Hz"));
  EXPECT_THAT(open, Not(HasSubstr("Tune to")));
  EXPECT_THAT(open, Not(HasSubstr("Tune the strings")));
  EXPECT_THAT(open, Not(HasSubstr("shapes"))) << "nor is the key told by shapes of a guess";
  EXPECT_THAT(sheetText(layOutSheet({s, s.takes[0], &likely})), HasSubstr("Tune the strings, low to high"));

  s.takes.change(0).pitch = Decision<PitchValue>{{Cents(12)}, Origin::measured, 0.3, ""};
  s.takes.change(0).time->origin = Origin::measured;
  s.takes.change(0).time->certainty = 0.2;
  const std::string more = sheetText(layOutSheet({s, s.takes[0], &guess}));
  EXPECT_THAT(more, HasSubstr("open; perhaps 12 cents sharp"));
  EXPECT_THAT(more, HasSubstr("open; perhaps 104 beats"));
  EXPECT_THAT(more, Not(HasSubstr("A = 443.1 Hz:")));
}

TEST(Sheet, OfTheDemosLiveTakeAsksNobodyToRetune) {
  const auto demo = loadStudy(std::string(DEMO_DIR) + "/copper-weather.innerear");
  ASSERT_TRUE(demo.ok());
  const Take& live = demo->study.takes[1];
  const std::string sheet = sheetText(layOutSheet({demo->study, live, &test::demoFindings("live")}));
  EXPECT_THAT(sheet, Not(HasSubstr("204")));
  EXPECT_THAT(sheet, HasSubstr("Standard tuning, no capo (measured, sure)."));
  EXPECT_THAT(sheet, Not(HasSubstr("Tune the strings")));
}

/// A study of anything that one may hold: odd bars, other guitars, phrases full of gestures, or hardly anything.
Study anyStudy(std::mt19937& random) {
  const auto pick = [&](int from, int to) { return std::uniform_int_distribution(from, to)(random); };
  Study s = study();
  s.passages = {};
  s.parts = {};
  if (pick(0, 3) > 0) {
    Grid grid;
    double t = pick(0, 3) * 0.4;
    for (int i = 0, left = pick(1, 5); i < pick(2, 200); ++i, t += 0.4 + 0.01 * pick(0, 20)) {
      const bool bar = --left == 0;
      if (bar) left = pick(2, 7);
      grid.push_back({Seconds(t), bar, false});
    }
    s.takes.change(0).grid = decided(Shared<Grid>(grid), Origin::set);
  }
  Tuning tuning;
  for (int i = 0, midi = pick(28, 42); i < pick(4, 8); ++i, midi += pick(2, 6)) tuning.strings.push_back(midi);
  s.parts.push_back({"g1", "take1", "Guitar & <co>", Side::centre});
  if (pick(0, 2) > 0 && isGuitar(tuning, {pick(0, 5), 0}))
    s.parts.change(0).setup = decided({tuning, {pick(0, 5), 0}}, Origin::set);
  std::vector<ChordDecision> chords;
  for (int i = 0; i < pick(0, 40); ++i)
    chords.push_back(
        {{Seconds(2.0 * i), Seconds(2.0 * i + 2)},
         pick(0, 5) == 0
             ? std::nullopt
             : std::optional(Chord{PitchClass(pick(0, 11)), &chordTypes()[static_cast<std::size_t>(pick(0, 15))], {}}),
         Origin::set});
  s.takes.change(0).chords = chords;
  for (int p = 0; p < pick(0, 4); ++p) {
    std::vector<Note> notes;
    for (int i = 0; i < pick(0, 40); ++i) {
      Note n = test::anyNote(random, 1000 * p + i + 1);
      n.place.string = pick(0, static_cast<int>(tuning.count()) - 1);
      notes.push_back(n);
    }
    Phrase phrase = test::phrase("p" + std::to_string(p), notes, "take1", pick(0, 1) == 0 ? "g1" : "");
    phrase.name = pick(0, 2) == 0 ? "" : std::string(static_cast<std::size_t>(pick(1, 120)), 'n');
    phrase.levels.change().front().open = {{Beats(1), Beats(3), OpenStretch::Kind::unclear, "two \"voices\" <there>"}};
    s.phrases.push_back(phrase);
  }
  return s;
}

/// By libxml2's reader of HTML, which knows the tags of HTML 4 and says so of newer ones.
TEST(Sheet, ItsWebPageIsWellFormedWhateverIsWritten) {
  std::mt19937 random(29);
  const auto folder = test::freshFolder("html");
  const auto faults = [&](const std::string& html) {
    std::ofstream(folder / "page.html") << html;
    static_cast<void>(std::system(("cd " + folder.string() + " && xmllint --html --noout page.html 2>errors").c_str()));
    std::istringstream lines(test::contentOf(folder / "errors"));
    std::string found;
    for (std::string line; std::getline(lines, line);)
      if (line.find(" error : ") != std::string::npos && !line.ends_with("invalid")) found += line + "\n";
    return found;
  };
  for (int round = 0; round < 25; ++round) {
    const Study s = anyStudy(random);
    EXPECT_EQ(faults(sheetHtml(layOutSheet({s, s.takes[0]}))), "") << round;
  }
  EXPECT_NE(faults("<html><body><p>one</i></p></body></html>"), "") << "the check can fail";
}

TEST(Sheet, StandsAnythingThatAStudyMayHold) {
  std::mt19937 random(3);
  for (int round = 0; round < 150; ++round) {
    const Study s = anyStudy(random);
    for (const auto extent : {SheetChoice::Extent::complete, SheetChoice::Extent::onePage, SheetChoice::Extent::phrases,
                              SheetChoice::Extent::chart, SheetChoice::Extent::form}) {
      const Sheet sheet = layOutSheet({s, s.takes[0]}, {.extent = extent});
      const std::string plain = sheetText(sheet), html = sheetHtml(sheet);
      EXPECT_THAT(plain, HasSubstr("Copper Weather"));
      EXPECT_THAT(html, Not(HasSubstr("<co>"))) << "what is typed is no markup";
      EXPECT_THAT(html, Not(HasSubstr("<there>")));
      for (const auto& block : sheet.blocks) {
        const auto* p = std::get_if<SheetPhrase>(&block);
        if (p == nullptr) continue;
        for (const auto& line : tabText(p->score, {p->strings, p->bars, p->chords}))
          EXPECT_LE(charactersOf(line), 120U) << line;
      }
    }
  }
}

}  // namespace
}  // namespace ear
