// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/checking/manner.h"

#include <gmock/gmock.h>
#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/listening/frontend/spectra.h"
#include "support/phrases.h"
#include "support/sounds.h"

namespace ear {
namespace {

using test::note;
using testing::ElementsAre;
using testing::IsEmpty;
using Kind = MannerDoubt::Kind;

/// Four notes of a second each on the third string, frets 5 7 9 7; they fade as told, and the pitch of the third is
/// shaken by so many cents five times a second.
Recording plucked(double dampedBy, double shaken) {
  return test::soundOf(4.2, 44100, [=](double t) {
    constexpr int kFrets[] = {5, 7, 9, 7};
    const auto i = static_cast<std::size_t>(std::clamp(t - 0.1, 0.0, 3.0));
    const double since = t - 0.1 - static_cast<double>(i);
    if (since < 0) return 0.0;
    const double hertz = 196.0 * std::exp2(kFrets[i] / 12.0), wide = i == 2 ? shaken / 1731 : 0.0;
    const double phase =
        hertz * (since - wide / (2 * std::numbers::pi * 5) * std::cos(2 * std::numbers::pi * 5 * since));
    double sum = 0;
    for (int h = 1; h <= 8; ++h) sum += 0.2 / h * std::sin(2 * std::numbers::pi * h * phase);
    return sum * std::exp(-dampedBy * since) * std::min(1.0, since / 0.003);
  });
}

std::vector<Note> written() {
  std::vector<Note> notes;
  for (const int fret : {5, 7, 9, 7}) {
    Note n = note(static_cast<int>(notes.size()) + 1, 3, fret);
    const double start = 0.1 + static_cast<double>(notes.size());
    n.free = TimeSpan{Seconds(start), Seconds(start + 0.98)};
    notes.push_back(n);
  }
  return notes;
}

std::vector<MannerDoubt> doubts(const Recording& sound, const std::vector<Note>& notes) {
  const HeardVoice voice = hearVoice(sound, Cents(0), {});
  const PitchSalience salience = measureSalience(listeningMono(sound), {});
  const TimeMap noBeats;
  const Guitar guitar;
  const EarCheck check = checkByEar(notes, voice, salience, {Phrase{}, noBeats}, guitar);
  EXPECT_GE(shareHeard(check), 0.99) << "the pitches are right";
  return mannerDoubts(notes, check, voice, salience, guitar);
}

TEST(Manner, APalmMuteThatRingsAndARingingNoteThatIsDampedAreTold) {
  auto muted = written(), ringing = written();
  for (Note& n : muted) n.palmMuted = true;
  for (Note& n : ringing) n.letRing = true;
  const Recording open = plucked(0.8, 0), damped = plucked(14, 0);
  EXPECT_THAT(doubts(open, ringing), IsEmpty());
  EXPECT_THAT(doubts(damped, muted), IsEmpty());
  const auto rings = doubts(open, muted), stops = doubts(damped, ringing);
  ASSERT_EQ(rings.size(), 4U);
  EXPECT_EQ(rings[0].kind, Kind::ringsOn);
  ASSERT_EQ(stops.size(), 4U);
  EXPECT_EQ(stops[0].kind, Kind::damped);
  EXPECT_NEAR(stops[0].value, 20 * std::log10(std::exp(14 * 0.1)), 4) << "dB over a tenth of a second";
}

TEST(Manner, AVibratoThatIsNotWrittenIsTold) {
  auto notes = written();
  const Recording shaken = plucked(0.8, 40);
  const auto told = doubts(shaken, notes);
  ASSERT_EQ(told.size(), 1U);
  EXPECT_EQ(told[0].note, 3);
  EXPECT_EQ(told[0].kind, Kind::vibrato);
  EXPECT_NEAR(told[0].value, 40, 10);
  EXPECT_THAT(sentenceOf(told[0]), testing::HasSubstr("no vibrato is written"));
  notes[2].vibrato = Vibrato{};
  EXPECT_THAT(doubts(shaken, notes), IsEmpty());
}

TEST(Manner, ASlideFromElsewhereAndABendThatIsNotStruckAgainAreTold) {
  // What was heard is given, so that nothing but the comparison is asked.
  auto notes = written();
  notes[1].attack = Attack::slidInto;  // from 5
  notes[2].bend = Bend{Cents(200), false, false, 2};
  HeardVoice voice;
  const Guitar guitar;
  for (const Note& n : notes) voice.notes.push_back({{*n.free, MidiPitch(guitar.pitch(n.place)), 1.0F}});
  voice.notes[1].slide = HeardSlide{{Seconds(1), Seconds(1.1)}, MidiPitch(guitar.pitch({3, 5}))};
  voice.notes[2].bend = HeardBend{{Seconds(2.2), Seconds(2.3)}, MidiPitch(64), MidiPitch(66)};
  EarCheck check;
  for (const Note& n : notes) check.verdicts.push_back({n.id, NoteVerdict::Kind::heard});
  const auto told = [&] { return mannerDoubts(notes, check, voice, {}, guitar); };
  EXPECT_THAT(told(), ElementsAre(MannerDoubt{3, Kind::again, 0}));
  voice.notes[1].slide->from = MidiPitch(guitar.pitch({3, 2}));
  EXPECT_THAT(told(), ElementsAre(MannerDoubt{2, Kind::slidFrom, 2}, MannerDoubt{3, Kind::again, 0}));
  notes[1].slidFrom = 2;
  notes[2].bend->again = 0;
  EXPECT_THAT(told(), IsEmpty());
  check.verdicts[1].kind = NoteVerdict::Kind::somethingElse;
  notes[1].slidFrom = 4;
  EXPECT_THAT(told(), IsEmpty()) << "what is another note is not asked how it is played";
}

/// One note of 1.2 seconds on the third string, fret 7, struck so often a second.
Recording tremolo(double strokes) {
  return test::soundOf(1.6, 44100, [=](double t) {
    const double since = t - 0.2;
    if (since < 0 || since > 1.2) return 0.0;
    const double stroke = std::fmod(since, 1 / strokes);
    double sum = 0;
    for (int h = 1; h <= 10; ++h)
      sum += 0.1 * std::sin(2 * std::numbers::pi * h * 196.0 * std::exp2(7 / 12.0) * stroke);
    return sum * std::exp(-12 * stroke) * std::min(1.0, stroke / 0.002);
  });
}

TEST(Manner, StrokesOfATremoloAreCounted) {
  Note n = note(1, 3, 7, 0, 2);  // two beats of 0.6 s
  n.free = TimeSpan{Seconds(0.2), Seconds(1.4)};
  n.tremolo = Tremolo{4};
  EarCheck check;
  check.verdicts.push_back({1, NoteVerdict::Kind::heard});
  const double eight = 8 / 1.2, twelve = 12 / 1.2;
  EXPECT_THAT(strokeDoubts({&n, 1}, check, tremolo(eight)), IsEmpty());
  const auto told = strokeDoubts({&n, 1}, check, tremolo(twelve));
  ASSERT_EQ(told.size(), 1U);
  EXPECT_EQ(told[0].kind, Kind::strokes);
  EXPECT_NEAR(told[0].value, 12, 1);
  n.tremolo = Tremolo{};
  EXPECT_EQ(strokeDoubts({&n, 1}, check, tremolo(eight)).size(), 1U) << "no count is written: it is told";
  check.verdicts[0].kind = NoteVerdict::Kind::notHeard;
  EXPECT_THAT(strokeDoubts({&n, 1}, check, tremolo(eight)), IsEmpty());
}

}  // namespace
}  // namespace ear
