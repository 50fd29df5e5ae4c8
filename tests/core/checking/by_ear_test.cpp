// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/by_ear.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <random>

#include "support/phrases.h"

namespace ear {
namespace {

using Kind = NoteVerdict::Kind;
using testing::Each;
using testing::HasSubstr;
using testing::IsEmpty;
using testing::SizeIs;

const TimeMap kNoBeats;
const Phrase kPhrase{};

Note at(int id, double start, int string, int fret) {
  Note n = test::note(id, string, fret);
  n.free = TimeSpan{Seconds(start), Seconds(start + 0.3)};
  return n;
}

PlayedNote heard(double start, double midi) {
  return {.note = {{Seconds(start), Seconds(start + 0.28)}, MidiPitch(midi), 0.9F}};
}

/// A line of eight notes a third of a second apart, and what is heard of it where the recording is a bit sharp.
class ByEar : public testing::Test {
 protected:
  ByEar() {
    guitar_.offset = Cents(15);
    for (int i = 0; i < 8; ++i) {
      notes_.push_back(at(i + 1, 1.0 + i / 3.0, 3, 5 + i));
      heard_.push_back(heard(1.0 + i / 3.0 + 0.01, guitar_.pitch(notes_.back().place) + 0.15));
    }
  }
  EarCheck check() const { return checkByEar(notes_, {line_, heard_}, {}, PhraseTime(kPhrase, kNoBeats), guitar_); }
  std::vector<Kind> kinds() const {
    std::vector<Kind> all;
    for (const auto& v : check().verdicts) all.push_back(v.kind);
    return all;
  }
  Guitar guitar_;
  std::vector<Note> notes_;
  std::vector<PlayedNote> heard_;
  F0Contour line_{{100}, {}};
};

TEST_F(ByEar, ATrueLineIsConfirmedAtTheRecordingsOwnPitch) {
  EXPECT_THAT(kinds(), Each(Kind::heard));
  EXPECT_THAT(check().unwritten, IsEmpty());
  for (const auto& v : check().verdicts) EXPECT_NEAR(v.late.value, 0.01, 1e-9);
}

TEST_F(ByEar, AWrongFretIsFoundAndWhatIsThereIsSaid) {
  notes_[3].place.fret -= 1;
  const auto verdicts = check().verdicts;
  for (std::size_t i = 0; i < verdicts.size(); ++i)
    EXPECT_EQ(verdicts[i].kind, i == 3 ? Kind::somethingElse : Kind::heard) << i;
  EXPECT_EQ(sentenceOf(verdicts[3], notes_[3], guitar_, Spelling::sharps), "D♯4 is heard here, not D4.");
}

TEST_F(ByEar, AMissingNoteDoesNotShiftTheOthers) {
  heard_.erase(heard_.begin() + 4);
  const auto verdicts = check().verdicts;
  for (std::size_t i = 0; i < verdicts.size(); ++i)
    EXPECT_EQ(verdicts[i].kind, i == 4 ? Kind::notHeard : Kind::heard) << i;
}

TEST_F(ByEar, WhatSoundsButIsNotWrittenIsSaid) {
  notes_.erase(notes_.begin() + 2);
  EXPECT_THAT(kinds(), Each(Kind::heard));
  ASSERT_THAT(check().unwritten, SizeIs(1));
  EXPECT_NEAR(check().unwritten[0].note.span.start.value, 1.0 + 2 / 3.0 + 0.01, 1e-9);
}

TEST_F(ByEar, BendsAreHeldAgainstTheirSize) {
  notes_[2].bend = Bend{Cents(200)};
  const double from = guitar_.pitch(notes_[2].place) + 0.15;
  heard_[2].bend = HeardBend{{Seconds(1.7), Seconds(1.8)}, MidiPitch(from), MidiPitch(from + 2.05)};
  EXPECT_FALSE(check().verdicts[2].bendDiffers) << "five cents over";
  notes_[2].bend->size = Cents(100);
  EXPECT_TRUE(check().verdicts[2].bendDiffers);
  EXPECT_THAT(sentenceOf(check().verdicts[2], notes_[2], guitar_, Spelling::sharps),
              HasSubstr("205 cents, written are 100"));
  heard_[2].bend.reset();
  EXPECT_EQ(sentenceOf(check().verdicts[2], notes_[2], guitar_, Spelling::sharps), "No bend is heard.");
}

TEST_F(ByEar, ThePitchLineIsAskedWhereNoNoteWasCutOutOfIt) {
  // The second note is hammered: the ear heard one note that is bent.
  line_.points.resize(500);
  for (std::size_t i = 100; i < 366; ++i)
    line_.points[i].pitch = MidiPitch(guitar_.pitch(notes_[(i - 100) * 3 / 100].place) + 0.15);
  const double from = guitar_.pitch(notes_[2].place) + 0.15;
  heard_[2].bend = HeardBend{{Seconds(1.95), Seconds(2.05)}, MidiPitch(from), MidiPitch(from + 1)};
  heard_.erase(heard_.begin() + 3);
  EXPECT_THAT(kinds(), Each(Kind::heard));
  for (const auto& v : check().verdicts) EXPECT_FALSE(v.bendDiffers);
  notes_[3].place.fret += 1;
  EXPECT_EQ(check().verdicts[3].kind, Kind::notHeard) << "a wrong fret is none the less";
}

TEST_F(ByEar, WhatComesLateIsConfirmedAndSaid) {
  heard_[5].note.span.start += Seconds(0.09);
  const auto v = check().verdicts[5];
  EXPECT_EQ(v.kind, Kind::heard);
  EXPECT_EQ(sentenceOf(v, notes_[5], guitar_, Spelling::sharps), "It comes 100 ms late.");
}

TEST_F(ByEar, WithoutATimeOrAPitchNothingIsClaimed) {
  notes_[0].free.reset();
  notes_[1].tone = Tone::dead;
  const auto verdicts = check().verdicts;
  EXPECT_EQ(std::count_if(verdicts.begin(), verdicts.end(), [](const auto& v) { return v.kind == Kind::timeless; }), 2);
}

TEST_F(ByEar, EachNoteHasOneVerdictWhateverIsHeard) {
  std::mt19937 random(8);
  std::uniform_real_distribution<double> time(0.5, 4.5), pitch(50, 80);
  for (int round = 0; round < 100; ++round) {
    heard_.clear();
    for (int i = 0; i < static_cast<int>(random() % 20); ++i) heard_.push_back(heard(time(random), pitch(random)));
    std::sort(heard_.begin(), heard_.end(),
              [](const auto& a, const auto& b) { return a.note.span.start < b.note.span.start; });
    const auto result = check();
    EXPECT_THAT(result.verdicts, SizeIs(notes_.size()));
    EXPECT_LE(result.unwritten.size(), heard_.size());
  }
}

TEST_F(ByEar, AllOfItASemitoneLowerIsNoMatterOfSingleNotes) {
  for (PlayedNote& h : heard_) h.note.pitch = MidiPitch(h.note.pitch.value - 1);
  EXPECT_EQ(commonShift(check(), notes_, guitar_), -1);
  // Two wrong notes are two wrong notes.
  for (std::size_t i = 2; i < heard_.size(); ++i) heard_[i].note.pitch = MidiPitch(heard_[i].note.pitch.value + 1);
  EXPECT_EQ(commonShift(check(), notes_, guitar_), std::nullopt);
}

}  // namespace
}  // namespace ear
