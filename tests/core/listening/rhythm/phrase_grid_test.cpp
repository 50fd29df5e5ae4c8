// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/rhythm/phrase_grid.h"

#include <gmock/gmock.h>

#include "core/listening/rhythm/rhythm.h"
#include "support/groove.h"

namespace ear {
namespace {

/// A phrase of one guitar, written note by note.
class Phrase {
 public:
  static constexpr double kSeconds = 10.0, kBeat = 0.5;

  Phrase() {
    notes_.clock = guitar_.clock = {GuitarFrames::kRate};
    const auto frames = static_cast<std::size_t>(kSeconds * GuitarFrames::kRate);
    guitar_.sounding.assign(frames * GuitarActivations::kNotes, 0.01F);
    guitar_.struck.assign(frames * GuitarActivations::kNotes, 0.01F);
    notes_.activity.assign(frames * NoteActivations::kNotes, 0.0F);
  }
  Phrase& note(int midi, double at, double length) {
    groove_.strum(at, 0.9F);
    const std::size_t from = guitar_.clock.frameAt(Seconds(at)), to = guitar_.clock.frameAt(Seconds(at + length));
    guitar_.struck[from * GuitarActivations::kNotes + static_cast<std::size_t>(midi - GuitarActivations::kLowestMidi)] =
        0.95F;
    for (std::size_t i = from; i < to; ++i) {
      guitar_
          .sounding[i * GuitarActivations::kNotes + static_cast<std::size_t>(midi - GuitarActivations::kLowestMidi)] =
          0.95F;
      notes_.activity[i * NoteActivations::kNotes + static_cast<std::size_t>(midi - NoteActivations::kLowestMidi)] =
          1.0F;
    }
    return *this;
  }
  PhraseGrid readOver(const std::vector<Seconds>& tracked) const {
    return readPhraseGrid(tracked, groove_.onsets(), notes_, guitar_);
  }
  std::vector<GridCandidate> candidates(const std::vector<Seconds>& tracked) const {
    return gridCandidates(tracked, groove_.onsets(), notes_, guitar_);
  }

 private:
  test::Groove groove_{kSeconds};
  GuitarActivations guitar_;
  NoteActivations notes_;
};

/// Four bars of a quarter, two eighths and two quarters, another harmony in each.
Phrase fourBars(double from) {
  Phrase phrase;
  const int roots[] = {52, 57, 59, 52};
  for (int bar = 0; bar < 4; ++bar) {
    const double at = from + 4 * Phrase::kBeat * bar;
    phrase.note(roots[bar], at, 0.5).note(roots[bar] + 4, at + 0.5, 0.25).note(roots[bar] + 7, at + 0.75, 0.25);
    phrase.note(roots[bar] + 12, at + 1.0, 0.5).note(roots[bar] + 7, at + 1.5, 0.4);
  }
  return phrase;
}

std::vector<Seconds> beatsFrom(double first, double gap) {
  std::vector<Seconds> beats;
  for (double t = first; t < Phrase::kSeconds - 0.5; t += gap) beats.emplace_back(t);
  return beats;
}

TEST(PhraseGrid, BarsBeginWithThePhraseAndWhereItsHarmonyChanges) {
  // Tracked from a beat before the phrase on.
  const auto grid = fourBars(1.0).readOver(beatsFrom(0.5, Phrase::kBeat));
  EXPECT_EQ(grid.bars.meter, 4);
  ASSERT_GE(grid.bars.first.size(), 4U);
  EXPECT_NEAR(grid.beats[grid.bars.first.front()].value, 1.0, 1e-9);
  EXPECT_THAT(grid.bars.first, testing::ElementsAre(1U, 5U, 9U, 13U, 17U));
  EXPECT_GT(grid.bars.certainty, 0.5);
  EXPECT_LE(grid.bars.certainty, 1.0);
}

TEST(PhraseGrid, OffBeatsThatWereTrackedAreMovedOntoTheBeats) {
  const auto grid = fourBars(1.0).readOver(beatsFrom(0.75, Phrase::kBeat));
  ASSERT_FALSE(grid.bars.first.empty());
  EXPECT_NEAR(grid.beats[grid.bars.first.front()].value, 1.0, 1e-9);
  EXPECT_NEAR((grid.beats[1] - grid.beats[0]).value, Phrase::kBeat, 1e-9);
}

TEST(PhraseGrid, EighthsThatWereTrackedAreCountedInQuarters) {
  const auto grid = fourBars(1.0).readOver(beatsFrom(1.0, Phrase::kBeat / 2));
  EXPECT_NEAR((grid.beats[1] - grid.beats[0]).value, Phrase::kBeat, 1e-9);
  EXPECT_NEAR(grid.beats[grid.bars.first.front()].value, 1.0, 1e-9);
}

TEST(PhraseGrid, EveryGridIsTriedInFoursAndThreesFromEachOfItsBeats) {
  const auto candidates = fourBars(1.0).candidates(beatsFrom(1.0, Phrase::kBeat));
  EXPECT_EQ(candidates.size(), 4U * (4 + 3)) << "as tracked, half-way between, every second from two places";
  for (const auto& c : candidates) {
    EXPECT_LT(c.first, static_cast<std::size_t>(c.meter));
    EXPECT_EQ(c.signs.of[GridSigns::three], c.meter == 3 ? 1 : 0);
  }
}

TEST(PhraseGrid, TwoBeatsTellNothing) {
  const std::vector<Seconds> two = {Seconds(1), Seconds(2)};
  const auto grid = fourBars(1.0).readOver(two);
  EXPECT_EQ(grid.beats, two);
  EXPECT_TRUE(grid.bars.first.empty());
}

}  // namespace
}  // namespace ear
