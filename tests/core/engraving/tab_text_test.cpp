// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/tab_text.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cctype>
#include <map>
#include <random>

#include "support/phrases.h"

namespace ear {
namespace {

using testing::ElementsAre;
using testing::HasSubstr;
using testing::IsEmpty;

Note note(Beats at, Beats length, int string, int fret) {
  Note n;
  n.id = static_cast<int>(at.value() * 100) + string + 1;
  n.at = at, n.length = length, n.place = {string, fret};
  return n;
}

TabScore scoreOf(const std::vector<Note>& notes, std::vector<Beats> barLines = {}) {
  ShownPhrase shown;
  for (const Note& n : notes) shown.notes.push_back({n});
  return engrave(shown, {.barLines = std::move(barLines)});
}

const std::vector<std::string> kNames = {"E", "A", "D", "G", "B", "e"};

TEST(TabText, LinesUpNumbersOfOneMoment) {
  const auto lines = tabText(scoreOf({note(0, 1, 0, 3), note(0, 1, 4, 12), note(1, 1, 3, 0)}, {Beats(0), Beats(4)}),
                             {.strings = kNames, .bars = {7, 8}});
  ASSERT_GE(lines.size(), 7U);
  EXPECT_EQ(lines[0], " 7") << "over its bar line";
  EXPECT_EQ(lines[1].substr(0, 3), "e|-");
  EXPECT_EQ(lines[2].substr(0, 5), "B|-12");
  EXPECT_EQ(lines[6].substr(0, 5), "E|-3-");
  const auto second = lines[3].find('0');
  EXPECT_EQ(lines[7].find('2'), second) << "the count stands under its beat";
  for (std::size_t i = 1; i < 7; ++i) EXPECT_EQ(lines[i].size(), lines[1].size()) << i;
}

TEST(TabText, SaysWhatTheHandDoes) {
  Note bent = note(1, 1, 3, 14), hammered = note(2, 1, 4, 15), shaken = note(3, 1, 4, 13);
  bent.bend = Bend{Cents(150)};
  bent.bend->released = true;
  hammered.attack = Attack::hammeredOn;
  shaken.vibrato = Vibrato{};
  const auto score = scoreOf({note(0, 1, 4, 12), bent, hammered, shaken}, {Beats(0), Beats(4)});
  const std::string all = testing::PrintToString(tabText(score, {.strings = kNames}));
  EXPECT_THAT(all, HasSubstr("^3/4v")) << "three quarters of a tone, let down again";
  EXPECT_THAT(all, HasSubstr("h15"));
  EXPECT_THAT(all, HasSubstr("13~"));
  Note both = bent;
  both.attack = Attack::tapped;
  EXPECT_THAT(testing::PrintToString(tabText(scoreOf({both}, {Beats(0), Beats(4)}), {.strings = kNames})),
              testing::AnyOf(HasSubstr("^3/4v tap"), HasSubstr("tap ^3/4v")))
      << "a word does not run into a sign";
  EXPECT_EQ(tabTextLegend(score), "^1 bend by so many tones, h hammer-on, v let down again, ~ vibrato");
}

TEST(TabText, BreaksLinesAtBarsAndLongBarsWhereItMust) {
  std::vector<Note> notes;
  std::vector<Beats> bars;
  for (int beat = 0; beat < 32; ++beat) {
    if (beat % 4 == 0) bars.emplace_back(beat);
    for (int part = 0; part < 2; ++part) notes.push_back(note(Beats(2 * beat + part, 2), Beats(1, 2), 2, 5));
  }
  bars.emplace_back(32);
  const auto lines =
      tabText(scoreOf(notes, bars), {.strings = kNames, .bars = {1, 2, 3, 4, 5, 6, 7, 8, 9}, .width = 76});
  std::size_t numbers = 0;
  for (const auto& line : lines) {
    EXPECT_LE(charactersOf(line), 76U);
    numbers += static_cast<std::size_t>(std::count(line.begin(), line.end(), '5'));
    if (line.starts_with("D|")) {
      EXPECT_EQ(std::count(line.begin(), line.end(), '|'), 3) << "two whole bars: " << line;
    }
  }
  EXPECT_EQ(numbers, 64U + 1U) << "every note once, and the number of bar 5";
  for (const auto& line : tabText(scoreOf(notes, bars), {.strings = kNames, .width = 20})) EXPECT_LE(line.size(), 20U);
}

/// Whatever is written: in each system every string's line is as long as the others, none is longer than the page is
/// wide, and each fret stands on its string as often as it is played.
TEST(TabText, LinesUpWhateverIsWritten) {
  std::mt19937 random(23);
  for (int round = 0; round < 60; ++round) {
    std::vector<Note> notes;
    std::vector<Beats> bars;
    for (int bar = 0; bar <= 6; ++bar) bars.emplace_back(4 * bar);
    for (int id = 1; id <= 24; ++id) {
      Note n = test::anyNote(random, id);
      n.free.reset(), n.voice = 0, n.harmonic.reset(), n.trill.reset(), n.tone = Tone::full, n.slidFrom.reset();
      n.at = Beats(id - 1), n.length = 1;
      notes.push_back(n);
    }
    const auto lines = tabText(scoreOf(notes, bars), {.strings = kNames, .width = 60});
    std::vector<std::string> system;
    std::size_t bad = 0, strings = 0;
    for (const std::string& line : lines) {
      EXPECT_LE(charactersOf(line), 60U) << line;
      const bool isString = line.size() > 2 && line[1] == '|';
      if (!isString) {
        system.clear();
        continue;
      }
      ++strings;
      if (!system.empty() && charactersOf(system.front()) != charactersOf(line)) ++bad;
      system.push_back(line);
    }
    EXPECT_EQ(bad, 0U) << testing::PrintToString(lines);
    EXPECT_EQ(strings % 6, 0U);
    std::map<std::pair<char, int>, int> played, found;
    for (const Note& n : notes) ++played[{kNames[static_cast<std::size_t>(n.place.string)][0], n.place.fret}];
    for (const std::string& line : lines) {
      if (line.size() < 3 || line[1] != '|') continue;
      for (std::size_t i = 2; i < line.size();) {
        if (std::isdigit(static_cast<unsigned char>(line[i])) == 0 || line[i - 1] == '^' || line[i - 1] == '.') {
          ++i;
          continue;
        }
        std::size_t used = 0;
        const int fret = std::stoi(line.substr(i), &used);
        ++found[{line[0], fret}];
        i += used;
      }
    }
    EXPECT_EQ(found, played) << round << testing::PrintToString(lines);
  }
}

TEST(TabText, OfNothingIsNothing) {
  EXPECT_THAT(tabText(TabScore{}, {}), IsEmpty());
  EXPECT_EQ(tabTextLegend(TabScore{}), "");
}

}  // namespace
}  // namespace ear
