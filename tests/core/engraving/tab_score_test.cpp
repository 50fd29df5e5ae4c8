// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/engraving/tab_score.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "core/engraving/spacing.h"
#include "support/phrases.h"

namespace ear {
namespace {

using test::note;
using testing::ElementsAre;
using testing::SizeIs;
using K = TabMark::Kind;

ShownPhrase shownOf(std::vector<Note> notes) {
  putInOrder(notes);
  ShownPhrase shown;
  for (Note& n : notes) shown.notes.push_back({std::move(n), false});
  return shown;
}

TabScore scoreOf(std::vector<Note> notes) {
  return engrave(shownOf(std::move(notes)), {.barLines = {0, 4, 8}});
}

const TabMark* markOf(const TabScore& score, K kind) {
  const auto found =
      std::find_if(score.marks.begin(), score.marks.end(), [&](const auto& m) { return m.kind == kind; });
  return found == score.marks.end() ? nullptr : &*found;
}

TEST(TabScore, NumbersSayWhatSounds) {
  Note dead = note(1, 3, 0), ghost = note(2, 3, 7, 1), harmonic = note(3, 3, 12, 2);
  dead.tone = Tone::dead, ghost.tone = Tone::ghost, harmonic.harmonic = PlayedHarmonic{};
  const TabScore score = scoreOf({dead, ghost, harmonic});
  EXPECT_EQ(score.heads[0].text, "×");
  EXPECT_EQ(score.heads[1].text, "(7)");
  EXPECT_EQ(score.heads[2].text, "‹12›");
}

TEST(TabScore, FretsAreCountedAsTheStudyHasThem) {
  Guitar guitar;
  guitar.capo = {.fret = 3};
  const auto shown = shownOf({note(1, 3, 2), note(2, 3, 0, 1)});
  EXPECT_EQ(engrave(shown, {.guitar = guitar}).heads[0].text, "2");
  EXPECT_EQ(engrave(shown, {.guitar = guitar, .fretsFromNut = true}).heads[0].text, "5");
  EXPECT_EQ(engrave(shown, {.guitar = guitar, .fretsFromNut = true}).heads[1].text, "0") << "an open string is open";
}

TEST(TabScore, ABendWithoutASizeSaysSo) {
  Note whole = note(1, 3, 14), open = note(2, 3, 12, 1);
  whole.bend = Bend{.size = Cents(200), .released = true};
  open.bend = Bend{};
  const TabScore score = scoreOf({whole, open});
  ASSERT_THAT(score.marks, SizeIs(3));
  EXPECT_EQ(score.marks[0].text, "1");
  EXPECT_EQ(score.marks[1].kind, K::release);
  EXPECT_EQ(score.marks[2].text, "?");
}

TEST(TabScore, BendsAreNamedByTheSchool) {
  const NotationPreferences tones, frets{.bends = NotationPreferences::Bends::frets};
  EXPECT_EQ(bendMark(tones, Cents(50)), "¼");
  EXPECT_EQ(bendMark(tones, Cents(100)), "½");
  EXPECT_EQ(bendMark(tones, Cents(300)), "1½");
  EXPECT_EQ(bendMark(frets, Cents(200)), "+2");
  EXPECT_EQ(bendMark(frets, Cents(50)), "+½");
}

TEST(TabScore, AHammerOnReachesFromTheNoteBefore) {
  Note up = note(2, 3, 7, 1);
  up.attack = Attack::hammeredOn;
  const TabScore score = scoreOf({note(1, 3, 5), note(9, 4, 5), up});
  const TabMark* mark = markOf(score, K::hammer);
  ASSERT_NE(mark, nullptr);
  EXPECT_EQ(mark->from, Beats(0));
  EXPECT_EQ(mark->to, Beats(1));
}

TEST(TabScore, AFingerThatStaysIsDrawnUpToTheNextNoteOnItsString) {
  Note kept = note(1, 4, 5), other = note(2, 3, 7, Beats(1, 2));
  kept.keptDown = true;
  kept.length = Beats(1, 2);
  const TabScore score = scoreOf({kept, other, note(3, 4, 8, Beats(3, 2))});
  EXPECT_EQ(score.heads[0].keptTo, Beats(3, 2));
  EXPECT_FALSE(score.heads[1].keptTo.has_value());
}

TEST(TabScore, MutedNotesInARowAreOneStretch) {
  std::vector<Note> line;
  for (int i = 0; i < 6; ++i) line.push_back(note(i + 1, 0, 3, Beats(i, 2), Beats(1, 2)));
  for (const int i : {1, 2, 3}) line[static_cast<std::size_t>(i)].palmMuted = true;
  const TabScore score = scoreOf(line);
  ASSERT_THAT(score.stretches, SizeIs(1));
  EXPECT_EQ(score.stretches[0].from, Beats(1, 2));
  EXPECT_EQ(score.stretches[0].to, Beats(2));
}

TEST(TabScore, CountsFollowTheSchool) {
  const auto shown = shownOf({note(1, 3, 5, 0, Beats(1, 2)), note(2, 3, 5, Beats(1, 2), Beats(1, 4)),
                              note(3, 3, 5, Beats(3, 4), Beats(1, 4)), note(4, 3, 5, 1, 1)});
  std::vector<std::string> said;
  for (const TabCount& c : engrave(shown, {.barLines = {0, 4}}).counts) said.push_back(c.text);
  EXPECT_THAT(said, ElementsAre("1", "and", "a", "2"));
}

TEST(TabScore, WhatDiffersAndWhatIsDoubtfulIsToldApart) {
  ShownPhrase shown = shownOf({note(1, 3, 5), note(2, 3, 7, 1)});
  shown.notes[0].differs = true;
  shown.notes[1].note.readings.push_back({});
  const TabScore score = engrave(shown, {});
  EXPECT_TRUE(score.heads[0].differs);
  EXPECT_FALSE(score.heads[0].doubtful);
  EXPECT_TRUE(score.heads[1].doubtful);
}

TEST(TabScore, AnyGesturesCanBeEngravedAndSpaced) {
  std::mt19937 random(8);
  for (int round = 0; round < 100; ++round) {
    std::vector<Note> notes;
    for (int id = 1; id <= 12; ++id) notes.push_back(test::anyNote(random, id));
    const TabScore score = scoreOf(notes);
    EXPECT_THAT(score.heads, SizeIs(12));
    const Spacing spacing(score);
    double before = -1e9;
    for (const TabHead& head : score.heads) {
      EXPECT_GE(spacing.xOf(head.at), before) << "time goes to the right";
      before = spacing.xOf(head.at);
      EXPECT_LE(before, spacing.width());
    }
  }
}

TEST(TabSpacing, LongerNotesTakeMoreRoomButLessThanTheirShare) {
  const Spacing spacing(scoreOf({note(1, 3, 5, 0, Beats(1, 2)), note(2, 3, 7, Beats(1, 2), Beats(1, 2)),
                                 note(3, 3, 5, 1, 2), note(4, 3, 5, 3, 1)}));
  const double eighth = spacing.xOf(Beats(1, 2)) - spacing.xOf(0), half = spacing.xOf(3) - spacing.xOf(1);
  EXPECT_GT(half, 1.2 * eighth);
  EXPECT_LT(half, 3 * eighth);
  EXPECT_EQ(spacing.nearestTo(spacing.xOf(1) + 0.2), Beats(1));
}

}  // namespace
}  // namespace ear
