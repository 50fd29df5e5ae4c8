// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/exchange/repeated_bars.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <fstream>
#include <random>
#include <set>

#include "core/exchange/midi_file.h"
#include "core/exchange/musicxml.h"
#include "support/phrases.h"
#include "support/programs.h"
#include "support/sounds.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::SizeIs;

/// Bars of four quarters, each with a note whose fret tells it; a bar of 0 is silent.
TabPiece song(const std::vector<int>& frets) {
  TabPiece p{.title = "Copper Weather", .name = "Right guitar"};
  p.barLines = {Beats(0)};
  for (const int fret : frets) {
    const Beats at = p.barLines.back();
    if (fret > 0) p.notes.push_back(test::note(static_cast<int>(p.notes.size()) + 1, 3, fret, at, 4));
    p.barLines.push_back(at + Beats(4));
  }
  return p;
}

/// As it is read aloud: "|: 0 1 1[ 2 :| 2[ 5 ]".
std::string signs(const TabPiece& p) {
  std::string text;
  for (const WrittenBar& b : repeatedBars({p}, p.barLines).bars) {
    if (!text.empty()) text += ' ';
    if (b.startsRepeat) text += "|: ";
    if (b.startsEnding) text += std::to_string(b.ending) + "[ ";
    text += std::to_string(b.bar);
    if (b.times > 0) text += " :|" + (b.times > 2 ? std::to_string(b.times) : "");
    if (b.endsEnding && b.times == 0) text += " ]";
  }
  return text;
}

// Gould 2011, "Behind Bars", p. 233 ff. (repeats, first and second endings); from memory.
TEST(RepeatedBars, WhatComesAgainAtOnceStandsOnce) {
  EXPECT_EQ(signs(song({1, 2, 3, 4})), "0 1 2 3");
  EXPECT_EQ(signs(song({1, 2, 1, 2, 3})), "|: 0 1 :| 4");
  EXPECT_EQ(signs(song({9, 1, 2, 1, 2, 1, 2, 3})), "0 |: 1 2 :|3 7");
  EXPECT_EQ(signs(song({5, 5, 5, 5})), "|: 0 :|4");
  EXPECT_EQ(signs(song({1, 2, 1, 2, 3, 4, 3, 4})), "|: 0 1 :| |: 4 5 :|") << "one behind the other";
  EXPECT_EQ(signs(song({1, 2, 9, 1, 2})), "0 1 2 3 4") << "not at once";
  EXPECT_EQ(signs(song({1, 1, 2})), "0 1 2") << "a single bar spares too little";
}

TEST(RepeatedBars, AnotherEndMakesEndings) {
  EXPECT_EQ(signs(song({1, 2, 3, 4, 1, 2, 3, 5, 6})), "|: 0 1 2 1[ 3 :| 2[ 7 ] 8");
  EXPECT_EQ(signs(song({1, 2, 3, 7, 4, 1, 2, 3, 8, 5})), "|: 0 1 2 1[ 3 4 :| 2[ 8 9 ]");
  EXPECT_EQ(signs(song({1, 2, 3, 1, 5, 6})), "0 1 2 3 4 5") << "the ends would be longer than what is shared";
}

TEST(RepeatedBars, NothingIsTornAndSilenceIsNoRepeat) {
  EXPECT_EQ(signs(song({0, 0, 0, 0, 1})), "0 1 2 3 4");
  TabPiece held = song({1, 2, 1, 2});
  held.notes[1].length = 6;
  EXPECT_EQ(signs(held), "0 1 2 3") << "a note sounds across the sign";
  TabPiece odd = song({1, 2, 1, 2});
  odd.barLines = {Beats(0), Beats(4), Beats(8), Beats(12), Beats(17)};
  EXPECT_EQ(signs(odd), "0 1 2 3") << "the last bar is longer";
}

TEST(RepeatedBars, ChordsAndHandsAndEveryGuitarCount) {
  TabPiece p = song({1, 2, 1, 2});
  p.chords = {{Beats(0), *parseChord("C")}, {Beats(4), *parseChord("F")}, {Beats(8), *parseChord("C")}};
  EXPECT_EQ(signs(p), "0 1 2 3") << "no F at the second time";
  p.chords.emplace_back(Beats(12), *parseChord("F"));
  EXPECT_EQ(signs(p), "|: 0 1 :|");
  p.notes[2].attack = Attack::slidFromBelow;
  EXPECT_EQ(signs(p), "0 1 2 3");
  const TabPiece one = song({1, 2, 1, 2}), other = song({1, 2, 1, 4});
  EXPECT_THAT(repeatedBars({one, other}, one.barLines).bars, SizeIs(4));
  EXPECT_THAT(repeatedBars({one, one}, one.barLines).bars, SizeIs(2));
}

TEST(RepeatedBars, NamesOfLaterTimesAreSaidToBeLost) {
  TabPiece p = song({1, 2, 1, 2, 3});
  EXPECT_FALSE(repeatedBars({p}, p.barLines).marksLost);
  p.marks = {{Beats(0), "A"}, {Beats(8), "A"}, {Beats(16), "B"}};
  EXPECT_FALSE(repeatedBars({p}, p.barLines).marksLost);
  p.marks[1].second = "A, louder";
  EXPECT_TRUE(repeatedBars({p}, p.barLines).marksLost);
}

/// What is written with signs is played as it was, is the same when written again, and is valid.
TEST(RepeatedBars, WrittenWithSignsTheSongIsPlayedAsItWas) {
  std::mt19937 random(30);
  std::size_t spared = 0;
  for (int round = 0; round < 60; ++round) {
    std::vector<int> frets;
    for (int i = 0; i < 14; ++i) frets.push_back(static_cast<int>(random() % 3));
    frets.push_back(7);  // so that the last bar is none that could be left out
    TabPiece p = song(frets);
    const char* names[] = {"C", "Am7", "F"};
    for (std::size_t i = 0; i < frets.size(); ++i)
      if (random() % 4 != 0) p.chords.emplace_back(p.barLines[i], *parseChord(names[frets[i] % 3]));
    const std::string xml = writeMusicXml({p}, true);
    const auto read = readMusicXml(xml);
    ASSERT_TRUE(read.ok()) << read.problem();
    EXPECT_EQ(read->front().notes, p.notes) << round;
    EXPECT_EQ(read->front().barLines, p.barLines) << round;
    EXPECT_EQ(writeMusicXml(*read, true), xml) << round;
    spared += frets.size() - repeatedBars({p}, p.barLines).bars.size();
    if (round >= 5) continue;
    EXPECT_TRUE(test::isValidMusicXml(xml)) << round;
  }
  EXPECT_GT(spared, 60U);
}

/// musicxml2ly reads signs and endings; LilyPond plays them when told to.
TEST(RepeatedBars, AnIndependentReaderPlaysThem) {
  const TabPiece p = song({1, 2, 3, 4, 1, 2, 3, 5, 6});
  const auto folder = test::freshFolder("repeats-read");
  std::ofstream(folder / "a.musicxml") << writeMusicXml({p}, true);
  const std::string there = "cd " + folder.string() + " && ";
  ASSERT_EQ(test::run(there + "musicxml2ly -m -o a.ly a.musicxml"), 0);
  std::string ly = test::contentOf(folder / "a.ly");
  EXPECT_THAT(ly, HasSubstr("\\repeat volta 2"));
  EXPECT_THAT(ly, HasSubstr("\\alternative"));
  const auto score = ly.find("\\score {");
  ASSERT_NE(score, std::string::npos);
  ly.insert(score + 8, " \\unfoldRepeats");
  std::ofstream(folder / "a.ly") << ly;
  ASSERT_EQ(test::run(there + "lilypond -dno-print-pages a.ly"), 0);
  const auto midi = readMidi(std::filesystem::exists(folder / "a.midi") ? folder / "a.midi" : folder / "a-1.midi");
  ASSERT_TRUE(midi.ok()) << midi.problem();
  std::set<std::pair<Rational, int>> heard, expected;
  for (const auto& voice : midi->voices)
    for (const MidiNote& n : voice.notes) heard.insert({n.at, n.midi});
  for (const Note& n : p.notes) expected.insert({n.at, p.guitar.pitch(n.place)});
  EXPECT_EQ(heard, expected);
}

}  // namespace
}  // namespace ear
