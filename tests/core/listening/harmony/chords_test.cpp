// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/chords.h"

#include <gtest/gtest.h>

#include "core/theory/fretboard.h"
#include "support/activity.h"

namespace ear {
namespace {

using test::Score;

/// A chord as a bass and a keyboard would play it: the bass from E1 up, the tones from middle C up.
std::vector<int> voiced(const Chord& chord) {
  std::vector<int> notes{28 + PitchClass(chord.bass.value_or(chord.root).value - 28).value};
  for (const int tone : chord.type->tones) notes.push_back(60 + (chord.root.value + tone) % 12);
  return notes;
}

std::string names(const std::vector<FoundChord>& found) {
  std::string text;
  for (const auto& c : found)
    text += (text.empty() ? "" : " ") + (c.chord ? chordName(*c.chord, Spelling::sharps) : std::string("-"));
  return text;
}

std::vector<FoundChord> heard(const Score& score, const std::optional<Key>& key = {}) {
  return findChords(score.notes(), score.beats(0.5), score.downbeats(0.5), score.length(), key);
}

class Vocabulary : public testing::TestWithParam<const char*> {};

TEST_P(Vocabulary, IsToldOnEveryRoot) {
  for (int root = 0; root < 12; ++root) {
    const Chord chord{PitchClass(root), chordType(GetParam()), {}};
    Score score;
    score.play(voiced(chord), 4.0);
    const auto found = heard(score);
    ASSERT_EQ(found.size(), 1U) << names(found);
    EXPECT_EQ(names(found), chordName(chord, Spelling::sharps));
  }
}

INSTANTIATE_TEST_SUITE_P(Kinds, Vocabulary,
                         testing::Values("", "m", "5", "7", "maj7", "m7", "sus2", "sus4", "6", "m6", "dim", "m7♭5",
                                         "aug"));

TEST(Chords, ChangeWhereTheMusicDoes) {
  Score score;
  for (const char* name : {"G", "D", "Em", "C"}) score.play(voiced(*parseChord(name)), 2.0);
  const auto found = heard(score);
  EXPECT_EQ(names(found), "G D Em C");
  for (std::size_t i = 0; i < found.size(); ++i) {
    EXPECT_DOUBLE_EQ(found[i].span.start.value, 2.0 * static_cast<double>(i));
    EXPECT_GT(found[i].certainty, 0.6) << "a clear chord is sure";
  }
}

TEST(Chords, ANoteInPassingChangesNothing) {
  Score score;
  auto chord = voiced(*parseChord("C"));
  score.play(chord, 1.5);
  chord.push_back(69);  // A for half a beat
  score.play(chord, 0.3).play(voiced(*parseChord("C")), 2.2);
  EXPECT_EQ(names(heard(score)), "C");
}

TEST(Chords, SilenceIsNoChord) {
  Score score;
  score.play(voiced(*parseChord("A")), 4.0).rest(4.0).play(voiced(*parseChord("A")), 4.0);
  EXPECT_EQ(names(heard(score)), "A - A");
}

TEST(Chords, TellTheBassUnderAChord) {
  Score score;
  score.play(voiced(*parseChord("G")), 2.0).play(voiced(*parseChord("D/F#")), 2.0).play(voiced(*parseChord("Em")), 2.0);
  EXPECT_EQ(names(heard(score)), "G D/F♯ Em");
}

TEST(Chords, AFifthAloneGetsNoThird) {
  Score score;
  score.play({35, 59, 66}, 4.0);
  EXPECT_EQ(names(heard(score)), "B5");
}

TEST(Chords, KeyMakesItsOwnChordsLikelier) {
  // Halfway between a major and a minor third: the key has the say.
  Score score;
  score.play({28, 64, 67, 68, 71}, 4.0);
  EXPECT_EQ(names(heard(score, *parseKey("E major"))).substr(0, 2), "E");
  EXPECT_TRUE(heard(score, *parseKey("G major")).front().chord->minor());
}

TEST(Chords, NeedNoBeats) {
  Score score;
  score.play(voiced(*parseChord("Am")), 3.0).play(voiced(*parseChord("F")), 3.0);
  const auto found = findChords(score.notes(), {}, {}, score.length(), {});
  EXPECT_EQ(names(found), "Am F");
  EXPECT_EQ(found.back().span.end, score.length());
}

TEST(Chords, OfNothingAreNone) {
  EXPECT_TRUE(findChords({.clock = {10}, .activity = {}}, {}, {}, Seconds(0), {}).empty());
}

}  // namespace
}  // namespace ear
