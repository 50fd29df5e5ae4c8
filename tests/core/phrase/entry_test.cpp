// SPDX-License-Identifier: GPL-3.0-or-later
// Facts of the trade here are common practice, no source.
#include "core/phrase/entry/entry.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>
#include <set>

namespace ear {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::SizeIs;

/// Places of the notes of a line, written "string/fret" with string 1 the highest; notes at once joined by "+", a rest
/// as "-".
std::string places(const Entry& entry, int strings = 6) {
  std::string text;
  for (const EnteredStep& s : entry.steps) {
    text += text.empty() ? "" : " ";
    if (s.notes.empty()) text += "-";
    for (const Note& n : s.notes)
      text += (&n == &s.notes.front() ? "" : "+") + std::to_string(strings - n.place.string) + "/" +
              (n.tone == Tone::dead ? "x" : std::to_string(n.place.fret));
  }
  return text;
}

Entry read(std::string_view line) {
  return readEntry(line);
}

/// Of a line that has to be clear.
std::string clearly(std::string_view line, const EntryContext& context = {}) {
  const Entry entry = readEntry(line, context);
  for (const auto& q : entry.questions) ADD_FAILURE() << line << " asks: " << q.text;
  for (const auto& p : entry.problems) ADD_FAILURE() << line << " says: " << p.text;
  return places(entry, context.guitar.strings());
}

TEST(Entry, FretAndStringInBothOrders) {
  for (const char* line :
       {"12 on G", "G 12", "12 G", "3rd string 12", "12 3rd", "12 on the third string", "string 3 12",
        "string 3 fret 12", "12 on 3", "fret 12 string 3", "twelve on g", "12 on the G string"})
    EXPECT_EQ(clearly(line), "3/12") << line;
}

TEST(Entry, OneFretOnSeveralStrings) {
  EXPECT_EQ(clearly("9 D G"), "4/9+3/9");
  EXPECT_EQ(clearly("fret 5 strings 2 and 3"), "3/5+2/5");
  EXPECT_EQ(clearly("open D"), "4/0");
  EXPECT_EQ(clearly("open D and G"), "4/0+3/0");
  EXPECT_EQ(clearly("opens"), "6/0+5/0+4/0+3/0+2/0+1/0");
  EXPECT_EQ(clearly("12 on all strings"), "6/12+5/12+4/12+3/12+2/12+1/12");
}

TEST(Entry, ARunOfFretsThenItsStrings) {
  EXPECT_EQ(clearly("11 13 12 A D G"), "5/11 4/13 3/12");
  EXPECT_EQ(clearly("11 13 12 A D G together"), "5/11+4/13+3/12");
  EXPECT_EQ(clearly("12 14 12 on G"), "3/12 3/14 3/12");
  EXPECT_EQ(clearly("G 12 14, B 12"), "3/12 3/14 2/12");
  EXPECT_EQ(clearly("G 12 B 13"), "3/12 2/13");
  EXPECT_EQ(clearly("12 G 13 B"), "3/12 2/13");
  EXPECT_EQ(clearly("12 G, 14, 12"), "3/12 3/14 3/12") << "frets go on where the hand is";
  EXPECT_THAT(read("12 13 14 A D").problems, SizeIs(1));
}

TEST(Entry, GesturesBetweenFrets) {
  auto entry = read("3 slide 8 A");
  ASSERT_EQ(places(entry), "5/3 5/8");
  EXPECT_EQ(entry.steps[1].notes[0].attack, Attack::slidInto);
  entry = read("8 pull 6 D");
  ASSERT_EQ(places(entry), "4/8 4/6");
  EXPECT_EQ(entry.steps[1].notes[0].attack, Attack::pulledOff);
  entry = read("6 hammer 9 G");
  EXPECT_EQ(entry.steps[1].notes[0].attack, Attack::hammeredOn);
  entry = read("5h7p5 B");
  ASSERT_EQ(places(entry), "2/5 2/7 2/5");
  EXPECT_EQ(entry.steps[1].notes[0].attack, Attack::hammeredOn);
  EXPECT_EQ(entry.steps[2].notes[0].attack, Attack::pulledOff);
  entry = read("slide to 9 D, 7/9 G, 12 slide out");
  EXPECT_EQ(entry.steps[0].notes[0].attack, Attack::slidFromBelow);
  EXPECT_EQ(entry.steps[2].notes[0].attack, Attack::slidInto);
  EXPECT_EQ(entry.steps[3].notes[0].ending, Ending::slidDown);
}

TEST(Entry, BendsWithTheirSizes) {
  const auto bend = [](const char* line, std::size_t step = 0) {
    const Entry entry = read(line);
    EXPECT_TRUE(entry.clear()) << line;
    return entry.steps.at(step).notes.at(0).bend.value_or(Bend{Cents(-1)});
  };
  EXPECT_EQ(bend("11 half bend G"), (Bend{Cents(100)}));
  EXPECT_EQ(bend("11 bend half G"), (Bend{Cents(100)}));
  EXPECT_EQ(bend("G 12 bent a whole step"), (Bend{Cents(200)}));
  EXPECT_EQ(bend("G 12 bent a quarter"), (Bend{Cents(50)}));
  EXPECT_EQ(bend("G 12 bend one and a half steps"), (Bend{Cents(300)}));
  EXPECT_EQ(bend("G 12 bend 3 frets"), (Bend{Cents(300)}));
  EXPECT_EQ(bend("G 12 bent to 14"), (Bend{Cents(200)}));
  EXPECT_EQ(bend("12b14 G"), (Bend{Cents(200)}));
  EXPECT_EQ(bend("G 12 bent"), Bend{}) << "nobody has said its size yet";
  EXPECT_EQ(bend("G 12 full prebend release"), (Bend{Cents(200), true, true}));
  EXPECT_EQ(bend("10b12r10 B"), (Bend{Cents(200), false, true}));
  EXPECT_EQ(bend("10 bend release B, 8"), (Bend{std::nullopt, false, true}));
  EXPECT_EQ(clearly("10 bend release 8 B"), "2/10 2/8");
  EXPECT_EQ(bend("12 bent a whole step again twice G"), (Bend{Cents(200), false, false, 2}));
  EXPECT_EQ(clearly("12 bent, 11 on high E"), "1/12 1/11") << "a fret without a string waits for the next one";
  EXPECT_THAT(read("G 12 bent to 11").problems, SizeIs(1)) << "a bend goes up";
}

TEST(Entry, WhatANoteDoes) {
  const auto first = [](const char* line) {
    const Entry entry = read(line);
    EXPECT_TRUE(entry.clear()) << line << (entry.problems.empty() ? "" : ": " + entry.problems[0].text);
    return entry.steps.at(0).notes.at(0);
  };
  EXPECT_EQ(first("12 G vibrato").vibrato, Vibrato{});
  EXPECT_EQ(first("12 G wide vibrato").vibrato, (Vibrato{Vibrato::Kind::wide}));
  EXPECT_EQ(first("G 12 trill 14").trill, (Trill{14}));
  EXPECT_EQ(first("G 12 tremolo").tremolo, Tremolo{}) << "as fast as can be";
  EXPECT_EQ(first("G 12 tremolo 6 per beat").tremolo, Tremolo{6});
  EXPECT_EQ(read("G 12 tremolo 65 per beat").problems.size(), 1U) << "more than a study may hold";
  EXPECT_EQ(first("ghost 5 A").tone, Tone::ghost);
  EXPECT_EQ(first("x A").tone, Tone::dead);
  EXPECT_EQ(first("harmonic 12 D").harmonic, (PlayedHarmonic{}));
  EXPECT_EQ(first("pinch harmonic 5 G").harmonic, (PlayedHarmonic{PlayedHarmonic::Kind::pinch}));
  EXPECT_EQ(first("9 G tap harmonic 21").harmonic, (PlayedHarmonic{PlayedHarmonic::Kind::tapped, 21}));
  EXPECT_EQ(first("tap 12 B").attack, Attack::tapped);
  EXPECT_TRUE(first("5 A staccato").staccato);
  EXPECT_EQ(first("5 A finger 3").finger, Finger::third);
  EXPECT_EQ(first("2 6th finger thumb").finger, Finger::thumb) << "over the neck";
  EXPECT_TRUE(first("5 A finger 1 stays").keptDown);
  EXPECT_TRUE(first("5 A barre").barred);
  EXPECT_EQ(first("5 A plucked i").picking, Picking::index);
  EXPECT_EQ(first("5 A pluck a").picking, Picking::ring);
  EXPECT_EQ(first("5 A hybrid").picking, Picking::hybrid);
  EXPECT_EQ(first("5 A slide bar").bar, SlideBar::atFret);
  EXPECT_EQ(first("5 A lifted").bar, SlideBar::lifted);
  EXPECT_EQ(first("5 A downstroke").picking, Picking::down);
  EXPECT_EQ(first("5 A bar dive a whole step").dive, (Dive{Cents(200)}));
  EXPECT_EQ(first("5 A choke").ending, Ending::choked);
  EXPECT_EQ(first("12 on G, bent a half").bend, (Bend{Cents(100)})) << "said behind a comma, of the note before";
  EXPECT_EQ(first("12, bent a half, 11 on high E").bend, (Bend{Cents(100)})) << "also while that waits for its string";
}

TEST(Entry, GroupsArePalmMutedUntilOpen) {
  const Entry entry = read("palm mute 5 5 7 A, open, 3 D");
  ASSERT_EQ(places(entry), "5/5 5/5 5/7 4/3");
  EXPECT_TRUE(entry.steps[2].notes[0].palmMuted);
  EXPECT_FALSE(entry.steps[3].notes[0].palmMuted);
  const Entry bar = read("slide bar 5 A, 5 slide 7, 8 lifted, off, 3 D");
  ASSERT_EQ(places(bar), "5/5 5/5 5/7 5/8 4/3");
  EXPECT_EQ(bar.steps[2].notes[0].bar, SlideBar::atFret);
  EXPECT_EQ(bar.steps[3].notes[0].bar, SlideBar::lifted);
  EXPECT_EQ(bar.steps[4].notes[0].bar, SlideBar::none);
  const Entry ring = read("let ring 5 7 A stop 3 D");
  EXPECT_TRUE(ring.steps[0].notes[0].letRing);
}

TEST(Entry, CountsAndRepeats) {
  EXPECT_EQ(clearly("5 7 A twice"), "5/5 5/7 5/5 5/7");
  EXPECT_EQ(clearly("5 7 A x3"), "5/5 5/7 5/5 5/7 5/5 5/7");
  EXPECT_EQ(clearly("5 7 A, 2 times"), "5/5 5/7 5/5 5/7");
  EXPECT_EQ(clearly("5 A, 4 more"), "5/5 5/5 5/5 5/5 5/5");
  EXPECT_EQ(clearly("5 7 8 A, back to the first"), "5/5 5/7 5/8 5/5");
  EXPECT_EQ(clearly("5 7 A, same"), "5/5 5/7 5/5 5/7");
  EXPECT_EQ(clearly("5 7 A, same but last 8"), "5/5 5/7 5/5 5/8");
}

TEST(Entry, RepeatsThatDiffer) {
  Entry entry = read("5 7 A, same but last bent a half");
  ASSERT_TRUE(entry.clear());
  EXPECT_FALSE(entry.steps[1].notes[0].bend);
  EXPECT_EQ(entry.steps[3].notes[0].bend, (Bend{Cents(100)}));
  entry = read("5 hammer 7 A twice, second time without the hammer");
  ASSERT_EQ(places(entry), "5/5 5/7 5/5 5/7");
  EXPECT_EQ(entry.steps[1].notes[0].attack, Attack::hammeredOn);
  EXPECT_EQ(entry.steps[3].notes[0].attack, Attack::plucked);
  EXPECT_EQ(clearly("5 7 A, second time last 9"), "5/5 5/7 5/5 5/9");
  EntryContext before;
  before.before = {Note{.id = 1, .at = 4, .place = {2, 7}}, Note{.id = 2, .at = 5, .place = {3, 5}}};
  EXPECT_EQ(clearly("same but last 7", before), "4/7 3/7") << "what was written before the line";
}

TEST(Entry, ChordsByFretsAndByName) {
  EXPECT_EQ(clearly("x 3 2 0 1 0"), "5/3+4/2+3/0+2/1+1/0");
  EXPECT_EQ(clearly("chord 3 2 0 0 0 3"), "6/3+5/2+4/0+3/0+2/0+1/3");
  EXPECT_EQ(clearly("run 3 2 0 0 0 3 A"), "5/3 5/2 5/0 5/0 5/0 5/3");
  for (const char* name : {"Am", "Em7", "D/F#", "Cmaj7", "chord G"}) {
    const Entry entry = read(name);
    ASSERT_TRUE(entry.clear()) << name;
    ASSERT_THAT(entry.steps, SizeIs(1)) << name;
    EXPECT_THAT(entry.steps[0].notes, SizeIs(testing::Ge(4U))) << name;
  }
  const Entry plain = read("3 2 0 0 0 3");
  ASSERT_THAT(plain.questions, SizeIs(1)) << "six frets are a chord or a run";
}

TEST(Entry, AmbiguousWordsAreAskedBackAndAnswered) {
  for (const char* line : {"12 on E", "12 top", "12 on the bottom string", "G12", "A7"}) {
    const Entry entry = read(line);
    ASSERT_THAT(entry.questions, SizeIs(1)) << line;
    ASSERT_THAT(entry.questions[0].choices, SizeIs(2)) << line;
    std::set<std::string> answers;
    for (const auto& choice : entry.questions[0].choices) {
      std::string answered(line);
      const TextRange r = entry.questions[0].range;
      answered.replace(r.from, r.to - r.from, choice.instead);
      EXPECT_TRUE(read(answered).clear()) << answered;
      answers.insert(places(read(answered)));
    }
    EXPECT_THAT(answers, SizeIs(2)) << line << ": the two answers mean two things";
  }
  EntryContext byLetter;
  byLetter.schools.strings = NotationPreferences::Strings::letter;
  EXPECT_EQ(clearly("12 on E", byLetter), "6/12");
  EXPECT_EQ(clearly("12 on e", byLetter), "1/12") << "small e is the high one in that school";
}

TEST(Entry, SchoolsDecideWhatAStringIsCalled) {
  EntryContext fromLow;
  fromLow.schools.strings = NotationPreferences::Strings::numberFromLow;
  EXPECT_EQ(clearly("12 3rd", fromLow), "4/12");
  EntryContext german;
  german.schools.letters = NotationPreferences::Letters::german;
  EXPECT_EQ(clearly("12 auf H", german), "2/12");
  EXPECT_EQ(clearly("7 gezogen ganzer Ton auf G, dann 5 abzug 3", german), "3/7 3/5 3/3");
  EntryContext openD;
  openD.guitar.tuning = *parseTuning("D A D F# A D");
  EXPECT_EQ(clearly("3 F#", openD), "3/3");
  EXPECT_EQ(clearly("3 G", openD), "3/3") << "often called by its letter in standard tuning";
  EXPECT_THAT(readEntry("3 on D", openD).questions, SizeIs(1));
}

TEST(Entry, FretsFromTheNutWithACapo) {
  EntryContext capo;
  capo.guitar.capo = {3};
  EXPECT_EQ(clearly("5 G", capo), "3/5");
  capo.fretsFromNut = true;
  EXPECT_EQ(clearly("5 G", capo), "3/2");
}

TEST(Entry, LengthsAndRests) {
  const auto lengths = [](const char* line) {
    const Entry entry = read(line);
    EXPECT_TRUE(entry.clear()) << line << (entry.problems.empty() ? "" : ": " + entry.problems[0].text);
    std::vector<Beats> all;
    for (const EnteredStep& s : entry.steps) all.push_back(s.length);
    return all;
  };
  const Beats eighth(1, 2), quarter(1), triplet(1, 3);
  EXPECT_THAT(lengths("5 7 A"), ElementsAre(eighth, eighth)) << "as was set";
  EXPECT_THAT(lengths("quarter 5 7 A eighth 8 7"), ElementsAre(quarter, quarter, eighth, eighth));
  EXPECT_THAT(lengths("5 7 8 A all eighth triplets"), ElementsAre(triplet, triplet, triplet));
  EXPECT_THAT(lengths("quarter triplets 5 7 8 A"), ElementsAre(Beats(2, 3), Beats(2, 3), Beats(2, 3)));
  EXPECT_THAT(lengths("5 A, dotted quarter rest, 7"), ElementsAre(eighth, Beats(3, 2), eighth));
  EXPECT_THAT(lengths("5 7 A quarter"), ElementsAre(eighth, quarter)) << "at the end, of the last note";
  EXPECT_THAT(lengths("5 A held 3 beats"), ElementsAre(Beats(3)));
  const Entry counted = read("5 7 8 A count 1 and 2");
  EXPECT_THAT(lengths("5 7 8 A count 1 and 2"), ElementsAre(eighth, eighth, eighth));
  EXPECT_EQ(counted.steps[2].at, Beats(1));
  const Entry trip = read("5 7 8 A count 1 trip let");
  EXPECT_EQ(trip.steps[1].at, Beats(1, 3));
  EXPECT_EQ(trip.steps[2].notes[0].at, Beats(2, 3));
  EXPECT_THAT(read("5 7 8 A count 1 and").problems, SizeIs(1)) << "three notes, two places";
}

TEST(Entry, ALengthBelongsToItsFretWhereverItStands) {
  const auto lengths = [](std::string_view line) {
    std::string text;
    for (const EnteredStep& s : read(line).steps) text += s.length.text() + " ";
    return text;
  };
  EXPECT_EQ(lengths("8 slide quarter 10 on 2, 8"), "1/2 1 1 ") << "before a fret it holds from there on";
  EXPECT_EQ(lengths("8 8 quarter on 2, 7"), "1/2 1 1/2 ") << "behind the last one it is that one's";
  EXPECT_EQ(lengths("all sixteenths, 8 8 half on 2, 7"), "1/4 2 1/4 ")
      << "said of one note, it goes before what is said of all";
  EXPECT_EQ(lengths("8 8 on 2, all sixteenths"), "1/4 1/4 ");
}

TEST(Entry, ASlideAtTheStartOfAClauseComesFromTheNoteBefore) {
  EXPECT_EQ(read("8 2nd, slide to 10").steps[1].notes[0].attack, Attack::slidInto);
  EXPECT_EQ(read("8 3rd, slide to 10 2nd").steps[1].notes[0].attack, Attack::slidFromBelow) << "on another string";
  EXPECT_EQ(read("slide to 10 2nd").steps[0].notes[0].attack, Attack::slidFromBelow);
}

TEST(Entry, SlipsAreSaidWhereTheyAre) {
  struct Row {
    const char* line;
    const char* word;
    const char* says;
  };
  for (const Row& row : {Row{"12 on G blorp", "blorp", "says nothing"}, Row{"5 on string 9", "9", "no string 9"},
                         Row{"48 on G", "48", "no fret 48"}, Row{"24 on G", "24", "ends at fret 22"},
                         Row{"5 7 strings 3 and 3 together", "5 7 strings 3 and 3", "one string"},
                         Row{"12", "12", "which string"}, Row{"twice", "twice", "Nothing was said"}}) {
    const Entry entry = read(row.line);
    ASSERT_THAT(entry.problems, SizeIs(1)) << row.line;
    const TextRange r = entry.problems[0].range;
    EXPECT_EQ(std::string(row.line).substr(r.from, r.to - r.from), row.word) << row.line;
    EXPECT_THAT(entry.problems[0].text, HasSubstr(row.says)) << row.line;
  }
}

TEST(Entry, WhatWasUnderstoodStandsBesideWhatWasNot) {
  const Entry entry = read("12 on G, blorp, 14");
  EXPECT_EQ(places(entry), "3/12 3/14");
  EXPECT_THAT(entry.problems, SizeIs(1));
}

TEST(Entry, NotesFollowEachOther) {
  const Entry entry = read("5 7 A, quarter rest, 9 D G");
  Beats at;
  for (const EnteredStep& s : entry.steps) {
    EXPECT_EQ(s.at, at);
    for (const Note& n : s.notes) EXPECT_EQ(n.at, at);
    at += s.length;
  }
  EXPECT_EQ(at, Beats(5, 2));
}

TEST(Entry, AnyTextIsRead) {
  const std::vector<std::string> words = {"12",
                                          "5",
                                          "0",
                                          "36",
                                          "99999999999999",
                                          "G",
                                          "e",
                                          "E",
                                          "B",
                                          "H",
                                          "string",
                                          "strings",
                                          "3rd",
                                          "second",
                                          "time",
                                          "twice",
                                          "x3",
                                          "x64",
                                          "times",
                                          "more",
                                          "same",
                                          "but",
                                          "last",
                                          "back to the first",
                                          "without",
                                          "the hammer",
                                          "bend",
                                          "bent",
                                          "half",
                                          "a",
                                          "to",
                                          "release",
                                          "slide",
                                          "out",
                                          "/",
                                          "\\",
                                          "hammer",
                                          "pull",
                                          "~",
                                          "x",
                                          "open",
                                          "opens",
                                          "palm mute",
                                          "let ring",
                                          "off",
                                          "chord",
                                          "Am7",
                                          "D/F#",
                                          "G12",
                                          "A7",
                                          "count",
                                          "1",
                                          "and",
                                          "trip",
                                          "let",
                                          "quarter",
                                          "triplets",
                                          "dotted",
                                          "rest",
                                          "all",
                                          "held",
                                          "beats",
                                          ",",
                                          ";",
                                          "harmonic",
                                          "tap",
                                          "pinch",
                                          "bar",
                                          "dive",
                                          "trill",
                                          "finger",
                                          "again",
                                          "one and a half steps",
                                          "\xC3\xA4",
                                          "\xFF",
                                          "♭",
                                          "",
                                          "---",
                                          "12b14r12"};
  std::mt19937 random(17);
  for (int i = 0; i < 5000; ++i) {
    std::string line;
    for (auto k = random() % 14; k > 0; --k) line += words[random() % words.size()] + (random() % 5 == 0 ? "" : " ");
    const Entry entry = read(line);
    EXPECT_LE(entry.steps.size(), 520U);
    Beats at;
    for (const EnteredStep& s : entry.steps) {
      ASSERT_GE(s.at, at) << line;
      ASSERT_GT(s.length, Beats(0)) << line;
      at = s.at + s.length;
      ASSERT_LE(s.range.to, line.size()) << line;
      for (const Note& n : s.notes) {
        ASSERT_TRUE(n.place.string >= 0 && n.place.string < 6) << line;
        ASSERT_TRUE(n.at.sane() && n.length.sane()) << line;
      }
    }
    for (const auto& q : entry.questions) ASSERT_TRUE(q.range.from <= q.range.to && q.range.to <= line.size()) << line;
    for (const auto& p : entry.problems) ASSERT_TRUE(p.range.from <= p.range.to && p.range.to <= line.size()) << line;
  }
}

}  // namespace
}  // namespace ear
