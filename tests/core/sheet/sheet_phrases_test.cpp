// SPDX-License-Identifier: GPL-3.0-or-later
// Repeats that end otherwise, guitars that play together, and parts of the sheet by themselves.
#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include "core/engraving/systems.h"
#include "core/sheet/sheet.h"
#include "support/decisions.h"
#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using testing::Each;
using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::SizeIs;

/// A minute at 120 in fours, two guitars in standard tuning.
Study study() {
  Study s{.title = "Copper Weather"};
  Take take;
  take.id = "take1";
  take.name = "Studio take";
  take.duration = Seconds(60);
  Grid grid;
  for (int i = 0; i < 120; ++i) grid.push_back({Seconds(0.5 * i), i % 4 == 0, false});
  take.grid = test::decided(Shared<Grid>(grid), Origin::set);
  take.time = test::decided(TimeValue{Bpm(120), 4, {}}, Origin::set);
  take.key = test::decided(Key{PitchClass(9), Mode::minor}, Origin::set);
  s.takes.push_back(take);
  for (const char* id : {"lead", "rhythm"}) {
    s.parts.push_back({id, "take1", id, Side::centre});
    s.parts.change(s.parts.size() - 1).setup = test::decided(GuitarSetup{}, Origin::set);
  }
  return s;
}

/// Quarter notes over so many bars from a bar on.
Phrase quarters(const std::string& id, const std::string& part, int bar, int bars, int firstId) {
  std::vector<Note> notes;
  for (int i = 0; i < 4 * bars; ++i) notes.push_back(note(firstId + i, 3, 5, i));
  Phrase p = test::phrase(id, notes, "take1", part);
  p.span = {Seconds(2.0 * (bar - 1)), Seconds(2.0 * (bar - 1 + bars))};
  p.name = id;
  return p;
}

Phrase repeat(const std::string& id, const std::string& of, int bar, int bars) {
  Phrase p = quarters(id, "lead", bar, bars, 1);
  p.levels.change()[0].notes.clear();
  p.link = PhraseLink{of};
  return p;
}

std::vector<SheetPhrase> phrasesOf(const Study& s) {
  std::vector<SheetPhrase> phrases;
  for (const SheetBlock& block : layOutSheet({s, s.takes[0]}).blocks)
    if (const auto* p = std::get_if<SheetPhrase>(&block)) phrases.push_back(*p);
  return phrases;
}

std::vector<TabStretch> endingsIn(const TabScore& score) {
  std::vector<TabStretch> endings;
  for (const TabStretch& s : score.stretches)
    if (s.kind == TabStretch::Kind::ending) endings.push_back(s);
  return endings;
}

// Brackets over first and second endings: Gould 2011, "Behind Bars", p. 236 ff.; from memory.
TEST(SheetPhrases, ARepeatThatEndsOtherwiseShowsItsEndingAlone) {
  Study s = study();
  s.phrases.push_back(quarters("hook", "lead", 1, 4, 1));
  Phrase again = repeat("again", "hook", 9, 4);
  again.link->changed = {note(15, 3, 8, 14)};
  s.phrases.push_back(again);
  Phrase third = repeat("third", "hook", 17, 4);
  third.link->without = {13};
  s.phrases.push_back(third);
  const auto all = phrasesOf(s);
  ASSERT_THAT(all, SizeIs(3));
  // The original whole, with a bracket over its last bar.
  EXPECT_THAT(all[0].score.heads, SizeIs(16));
  ASSERT_THAT(endingsIn(all[0].score), SizeIs(1));
  EXPECT_EQ(endingsIn(all[0].score)[0].text, "1.");
  EXPECT_EQ(endingsIn(all[0].score)[0].from, Beats(12));
  // The repeats' last bars alone, in the bars of the recording.
  EXPECT_THAT(all[1].score.heads, SizeIs(4));
  EXPECT_EQ(all[1].bars.front(), 12);
  EXPECT_EQ(endingsIn(all[1].score)[0].text, "2.");
  EXPECT_THAT(all[1].about.back(), HasSubstr("From bar 12 on it has its second ending"));
  EXPECT_THAT(all[2].score.heads, SizeIs(3)) << "one of its notes is left out";
  EXPECT_EQ(endingsIn(all[2].score)[0].text, "3.");
}

TEST(SheetPhrases, ARepeatThatBeginsOtherwiseStandsWhole) {
  Study s = study();
  s.phrases.push_back(quarters("hook", "lead", 1, 2, 1));
  Phrase again = repeat("again", "hook", 5, 2);
  again.link->changed = {note(1, 3, 8, 0)};
  s.phrases.push_back(again);
  Phrase moved = repeat("moved", "hook", 9, 2);
  moved.link->frets = 2;
  s.phrases.push_back(moved);
  const auto all = phrasesOf(s);
  ASSERT_THAT(all, SizeIs(3));
  for (const SheetPhrase& p : all) {
    EXPECT_THAT(p.score.heads, SizeIs(8)) << p.name;
    EXPECT_THAT(endingsIn(p.score), IsEmpty()) << p.name;
  }
}

TEST(SheetPhrases, GuitarsThatPlayTogetherStandInOneCountOfBeats) {
  Study s = study();
  s.phrases.push_back(quarters("hook", "lead", 3, 4, 1));
  s.phrases.push_back(quarters("strumming", "rhythm", 4, 3, 101));
  s.phrases.push_back(quarters("later", "rhythm", 20, 2, 201));
  s.phrases.push_back(quarters("also lead", "lead", 4, 3, 301));
  const auto all = phrasesOf(s);
  ASSERT_THAT(all, SizeIs(3)) << "the strumming stands under the hook";
  EXPECT_EQ(all[0].name, "hook");
  ASSERT_THAT(all[0].with, SizeIs(1));
  EXPECT_EQ(all[0].with[0].name, "strumming");
  EXPECT_THAT(all[0].about.back(), HasSubstr("With it plays: 2 strumming (rhythm)"));
  // Its first note lies a bar behind the hook's.
  EXPECT_EQ(all[0].with[0].score.heads.front().at, Beats(4));
  EXPECT_EQ(all[0].with[0].score.barLines.front(), Beats(4));
  EXPECT_EQ(all[0].with[0].bars.front(), 4);
  EXPECT_EQ(all[1].name, "also lead") << "what one hand plays never stands twice in a line";
  // Nothing is lost in characters.
  const std::string text = sheetText(layOutSheet({s, s.takes[0]}));
  for (const char* name : {"hook: 0:04.0", "strumming: 0:06.0", "later: 0:38.0"}) EXPECT_THAT(text, HasSubstr(name));
}

TEST(Systems, ScoresAreMergedMomentByMoment) {
  Study s = study();
  s.phrases.push_back(quarters("hook", "lead", 1, 2, 1));
  const TabScore score = phrasesOf(s)[0].score;
  const TabScore later = shifted(score, Beats(8));
  EXPECT_EQ(later.from, score.from + Beats(8));
  EXPECT_EQ(later.heads.back().end, score.heads.back().end + Beats(8));
  EXPECT_EQ(later.voices[0].pieces[0].at, score.voices[0].pieces[0].at + Beats(8));
  const TabScore* both[] = {&score, &later};
  const TabScore all = merged(both);
  EXPECT_EQ(all.to, later.to);
  EXPECT_THAT(all.heads, SizeIs(16));
  EXPECT_TRUE(std::is_sorted(all.barLines.begin(), all.barLines.end()));
  EXPECT_EQ(std::adjacent_find(all.barLines.begin(), all.barLines.end()), all.barLines.end()) << "each line once";
}

TEST(SheetPhrases, ChordsAreNamedByTheShapesOfTheGuitarInHand) {
  Study s = study();
  s.parts.change(1).setup = test::decided(GuitarSetup{standardTuning(), {2, 0}}, Origin::set);
  s.takes.change(0).chords = std::vector<ChordDecision>{{{Seconds(0), Seconds(60)}, parseChord("A"), Origin::set}};
  const auto shape = [&](const std::string& hand) {
    for (const SheetBlock& block : layOutSheet({s, s.takes[0], nullptr, {}, hand}).blocks)
      if (const auto* chart = std::get_if<SheetChart>(&block)) return chart->sections[0].bars[0].chords[0].shape;
    return std::string("none");
  };
  EXPECT_EQ(shape("lead"), "") << "no capo: as it sounds";
  EXPECT_EQ(shape("rhythm"), "G") << "with a capo at 2";
  EXPECT_EQ(shape(""), "") << "of the first one";
}

TEST(Pictures, OfTheNeckHaveTheKeysScaleOrAPhrasesPlaces) {
  Study s = study();
  s.phrases.push_back(quarters("hook", "lead", 1, 1, 1));
  const SheetSource source{s, s.takes[0]};
  const auto scale = pictureBlocks(source, PictureOf::neck);
  ASSERT_THAT(scale, SizeIs(1));
  const auto& neck = std::get<SheetNeck>(scale[0]);
  EXPECT_EQ(neck.name, "A natural minor");
  // On the lowest string E F G A B C D E up to the twelfth fret (common practice, no source).
  std::vector<std::string> lowest;
  for (const auto& dot : neck.dots)
    if (dot.string == 0 && dot.fret <= 12) lowest.push_back(dot.label);
  EXPECT_THAT(lowest, ElementsAre("E", "F", "G", "A", "B", "C", "D", "E"));
  for (const auto& dot : neck.dots) EXPECT_EQ(dot.tonic, dot.label == "A");
  const auto places = pictureBlocks(source, PictureOf::neck, "", "hook");
  ASSERT_THAT(places, SizeIs(1));
  EXPECT_THAT(std::get<SheetNeck>(places[0]).rows(),
              ElementsAre(ElementsAre("1", ""), ElementsAre("2", ""), ElementsAre("3", "5"), ElementsAre("4", ""),
                          ElementsAre("5", ""), ElementsAre("6", "")));
  s.takes.change(0).key.reset();
  EXPECT_THAT(pictureBlocks({s, s.takes[0]}, PictureOf::neck), IsEmpty()) << "no key, no scale";
}

TEST(Steps, HaveTheBlocksOfTheSheetThatBelongToThem) {
  Study s = study();
  s.phrases.push_back(quarters("hook", "lead", 1, 2, 1));
  s.phrases.push_back(repeat("again", "hook", 9, 2));
  const auto blocks = [&](LessonStep::Kind kind, const std::string& about) {
    return stepBlocks({s, s.takes[0]}, {1, kind, about}, "");
  };
  const auto tab = blocks(LessonStep::Kind::slow, "again");
  ASSERT_THAT(tab, SizeIs(1));
  EXPECT_EQ(std::get<SheetPhrase>(tab[0]).id, "again");
  EXPECT_THAT(std::get<SheetPhrase>(tab[0]).score.heads, SizeIs(8)) << "a whole repeat shows what it repeats";
  EXPECT_THAT(blocks(LessonStep::Kind::left, ""), IsEmpty());
  s.passages.push_back({"p1", "take1", "Fill", {Seconds(30), Seconds(34)}, 0.6, Cents(0), "e|--8--|"});
  const auto passage = blocks(LessonStep::Kind::slow, "p1");
  ASSERT_THAT(passage, SizeIs(1));
  EXPECT_EQ(std::get<SheetPassage>(passage[0]).typed, "e|--8--|");
  bool tuning = false;
  for (const SheetBlock& block : blocks(LessonStep::Kind::tuning, ""))
    tuning = tuning || std::holds_alternative<SheetTuning>(block);
  EXPECT_TRUE(tuning);
  std::vector<ChordDecision> chords{{{Seconds(0), Seconds(4)}, parseChord("Am"), Origin::set},
                                    {{Seconds(4), Seconds(60)}, parseChord("F"), Origin::set}};
  s.takes.change(0).chords = chords;
  s.takes.change(0).form = test::decided(Shared<Form>(Form{{{Seconds(0), Seconds(4)}, "A", "", Origin::set, 1.0},
                                                           {{Seconds(4), Seconds(60)}, "B", "", Origin::set, 1.0}}),
                                         Origin::set);
  const auto section = blocks(LessonStep::Kind::chords, "A");
  ASSERT_THAT(section, SizeIs(2));
  EXPECT_THAT(std::get<SheetChart>(section[0]).sections, SizeIs(1));
  ASSERT_THAT(std::get<SheetBoxes>(section[1]).boxes, SizeIs(1)) << "the grips of this section alone";
  EXPECT_EQ(std::get<SheetBoxes>(section[1]).boxes[0].sounding, "Am");
}

}  // namespace
}  // namespace ear
