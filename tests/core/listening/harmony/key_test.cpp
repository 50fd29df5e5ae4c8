// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/harmony/chords.h"
#include "core/listening/harmony/key_finder.h"

#include <gtest/gtest.h>

#include "support/activity.h"

namespace ear {
namespace {

using test::Score;

/// A song of these chords, four beats each, played over and over for a minute, all so many semitones up.
Key keyOf(const std::vector<const char*>& names, int up, const char* last = nullptr) {
  Score score;
  const auto play = [&](const char* name) {
    const Chord chord = transposed(*parseChord(name), up);
    std::vector<int> notes{28 + PitchClass(chord.root.value - 28).value};  // a bass, from E1 up
    for (const int tone : chord.type->tones) notes.push_back(60 + (chord.root.value + tone) % 12);
    score.play(notes, 2.0);
  };
  while (score.length() < Seconds(60))
    for (const char* name : names) play(name);
  if (last != nullptr) play(last);
  const auto chords = findChords(score.notes(), score.beats(0.5), score.downbeats(0.5), score.length(), {});
  return findKey(score.notes(), chords).readings.front().key;
}

struct Song {
  const char* key;
  std::vector<const char*> chords;
  const char* last;
};

class Songs : public testing::TestWithParam<Song> {};

// Progressions everybody knows and the key they are in: common practice, no source.
TEST_P(Songs, HaveTheirKeyWhereverTheyArePlayed) {
  for (int up = 0; up < 12; ++up)
    EXPECT_EQ(keyName(keyOf(GetParam().chords, up, GetParam().last)),
              keyName(transposed(*parseKey(GetParam().key), up)))
        << up;
}

INSTANTIATE_TEST_SUITE_P(Known, Songs,
                         testing::Values(Song{"C major", {"C", "Am", "F", "G"}, "C"},
                                         Song{"G major", {"G", "D", "Em", "C"}, "G"},
                                         Song{"A minor", {"Am", "Dm", "E", "Am"}, "Am"},
                                         Song{"A minor", {"Am", "F", "C", "G"}, "Am"},
                                         Song{"E minor", {"Em", "C", "Am", "B7"}, "Em"},
                                         // Blues: three dominant sevenths, and still major on the first.
                                         Song{"A major", {"A7", "A7", "D7", "A7", "E7", "A7"}, "A7"},
                                         // Mixolydian: the major triad under the tonic.
                                         Song{"D major", {"D", "C", "G", "D"}, "D"}),
                         [](const auto& song) { return "song" + std::to_string(song.index); });

/// A line of one guitar, half a second a note, as an ideal ear would have it.
KeyFindings ofLine(const std::vector<int>& midi, double swing = 1.0) {
  Score score;
  GuitarActivations guitar{{Score::kRate}, {}, {}};
  for (const int note : midi) {
    score.play({note}, 0.5);
    for (int i = 0; i < 5; ++i) {
      for (int n = 0; n < GuitarActivations::kNotes; ++n) {
        const bool here = n + GuitarActivations::kLowestMidi == note;
        guitar.sounding.push_back(here ? 1.0F : 0.0F);
        guitar.struck.push_back(here && i == 0 ? 1.0F : 0.0F);
      }
    }
  }
  return findKey(score.notes(), {}, keySignsOf(guitar, score.notes(), {}, swing));
}

TEST(Phrases, SignsAreSharesOfWhatIsPlayed) {
  GuitarActivations guitar{{4.0}, std::vector<float>(8 * GuitarActivations::kNotes), {}};
  guitar.struck = guitar.sounding;
  for (std::size_t i = 0; i < 8; ++i)  // A3 three times as long as C4
    guitar.sounding[i * GuitarActivations::kNotes + (i < 6 ? 57 : 60) - GuitarActivations::kLowestMidi] = 1.0F;
  std::vector<FoundChord> chords = {{{Seconds(0), Seconds(1)}, parseChord("Am"), 1.0},
                                    {{Seconds(1), Seconds(4)}, parseChord("C"), 1.0}};
  const KeySigns signs = keySignsOf(guitar, {}, chords, 1.0);
  EXPECT_NEAR(signs.of[KeySigns::sounding][9], 0.75, 1e-5);
  EXPECT_NEAR(signs.of[KeySigns::sounding][0], 0.25, 1e-5);
  EXPECT_GT(signs.of[KeySigns::last][0], 0.45) << "what it comes to rest on weighs most";
  EXPECT_NEAR(signs.of[KeySigns::minorChords][9], 0.25, 1e-5);
  EXPECT_NEAR(signs.of[KeySigns::majorChords][0], 0.75, 1e-5);
  for (const float c : signs.of[KeySigns::bass]) EXPECT_EQ(c, 0.0F);
  for (const float c : signs.of[KeySigns::shuffled]) EXPECT_EQ(c, 0.0F);
  EXPECT_EQ(keySignsOf(guitar, {}, chords, 2.0).of[KeySigns::shuffled], signs.of[KeySigns::sounding]);
}

TEST(Phrases, ComeToRestOnTheirTonic) {
  // The same five notes: A minor pentatonic when they end on A, C major pentatonic when they end on C.
  EXPECT_EQ(keyName(ofLine({69, 72, 74, 76, 79, 76, 74, 72, 69, 67, 69, 69}).readings.front().key), "A minor");
  EXPECT_EQ(keyName(ofLine({72, 74, 76, 79, 81, 79, 76, 74, 72, 76, 72, 72}).readings.front().key), "C major");
}

/// Certainty of one reading.
double certaintyOf(const KeyFindings& found, const char* key) {
  for (const auto& r : found.readings)
    if (keyName(r.key) == key) return r.certainty;
  return 0.0;
}

TEST(Phrases, AShuffleSpeaksForTheMajorName) {
  // The blues scale on A: by its notes A minor; a shuffled blues is named major after its chord, whatever third is
  // played (common practice, no source).
  const std::vector<int> blues = {69, 72, 74, 75, 76, 79, 81, 79, 76, 75, 74, 72, 69, 69};
  const auto straight = ofLine(blues), shuffled = ofLine(blues, 2.0);
  EXPECT_EQ(keyName(straight.readings.front().key), "A minor");
  EXPECT_GT(certaintyOf(shuffled, "A major"), 2 * certaintyOf(straight, "A major"));
  EXPECT_GT(certaintyOf(shuffled, "A major"), 0.3);
}

/// Chords of two seconds each, over and over.
void append(std::vector<FoundChord>& chords, const std::vector<const char*>& names, int rounds, int up = 0) {
  for (int round = 0; round < rounds; ++round)
    for (const char* name : names) {
      const Seconds from = chords.empty() ? Seconds(0) : chords.back().span.end;
      chords.push_back({{from, from + Seconds(2)}, transposed(*parseChord(name), up), 1.0});
    }
}

TEST(KeyChanges, LastChorusAToneHigherIsTold) {
  std::vector<FoundChord> chords;
  append(chords, {"G", "D", "Em", "C"}, 8);
  append(chords, {"G", "D", "Em", "C"}, 3, 2);
  const auto changes = findKeyChanges(chords, *parseKey("G major"));
  ASSERT_EQ(changes.size(), 1U);
  EXPECT_EQ(changes[0].at, Seconds(64));
  EXPECT_EQ(keyName(changes[0].key), "A major");
}

TEST(KeyChanges, BorrowedChordsAndTheRelativeAreNoChange) {
  std::vector<FoundChord> chords;
  append(chords, {"G", "D", "Em", "C"}, 4);
  append(chords, {"Em", "C", "Am", "B7"}, 2);
  append(chords, {"G", "F", "Cm", "G"}, 1);
  append(chords, {"G", "D", "Em", "C"}, 4);
  EXPECT_TRUE(findKeyChanges(chords, *parseKey("G major")).empty());
  EXPECT_TRUE(findKeyChanges({}, *parseKey("G major")).empty());
}

TEST(Phrases, ReadingsAreRankedAndSumUp) {
  const auto found = ofLine({64, 67, 69, 71, 74, 71, 69, 67, 64, 64});
  ASSERT_GE(found.readings.size(), 2U);
  double sum = 0;
  for (std::size_t i = 0; i < found.readings.size(); ++i) {
    sum += found.readings[i].certainty;
    EXPECT_LE(found.readings[i].certainty, found.readings[i > 0 ? i - 1 : 0].certainty);
  }
  EXPECT_LE(sum, 1.0 + 1e-9);
}

TEST(Phrases, OfSilenceHaveNoKey) {
  Score score;
  score.rest(4.0);
  EXPECT_TRUE(findKey(score.notes(), {}).readings.empty());
}

}  // namespace
}  // namespace ear
