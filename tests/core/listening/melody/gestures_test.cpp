// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/melody/voices.h"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <numbers>

#include "support/sounds.h"

namespace ear {
namespace {

/// A plucked string whose pitch (MIDI) is a function of time since each stroke; strokes rise.
Recording string(double seconds, const std::vector<double>& strokes, const std::function<double(double)>& midi) {
  double phase = 0, before = 0;
  return test::soundOf(seconds, 44100, [&, phase, before](double t) mutable {
    phase += 440 * std::exp2((midi(t) - 69) / 12) * (t - before);
    before = t;
    double since = 1e9;
    for (const double at : strokes)
      if (t >= at) since = t - at;
    double sum = 0;
    if (since < 1e8)
      for (int h = 1; h <= 6; ++h)
        sum += 0.25 / h * std::exp(-since * (0.8 + 0.5 * h)) * std::sin(2 * std::numbers::pi * h * phase);
    return sum * std::min(1.0, since / 0.002);
  });
}

double ramp(double t, double from, double to) {
  return 0.5 - 0.5 * std::cos(std::numbers::pi * std::clamp((t - from) / (to - from), 0.0, 1.0));
}

const PlayedNote& longest(const HeardVoice& voice) {
  const auto length = [](const PlayedNote& n) { return n.note.span.length(); };
  return *std::max_element(voice.notes.begin(), voice.notes.end(),
                           [&](auto& a, auto& b) { return length(a) < length(b); });
}

// Bends of a quarter, half, whole and one and a half tone (check-values: 50, 100, 200, 300 cents).
TEST(Gestures, ABendsSizeAndTimeAreMeasured) {
  for (const double cents : {50.0, 100.0, 200.0, 300.0}) {
    const auto voice =
        hearVoice(string(2.0, {0.2}, [&](double t) { return 67 + cents / 100 * ramp(t, 0.6, 0.75); }), Cents(0), {});
    ASSERT_FALSE(voice.notes.empty());
    const PlayedNote& note = longest(voice);
    ASSERT_TRUE(note.bend) << cents;
    EXPECT_NEAR(note.bend->size().value, cents, 8);
    EXPECT_NEAR(note.bend->from.value, 67, 0.08);
    EXPECT_NEAR(note.bend->rise.start.value, 0.62, 0.06) << cents;
    EXPECT_NEAR(note.bend->rise.length().value, 0.11, 0.07) << cents;
    EXPECT_FALSE(note.bend->before);
    EXPECT_FALSE(note.bend->released);
    EXPECT_FALSE(note.vibrato);
  }
}

TEST(Gestures, LettingDownAndBendingBeforeTheStroke) {
  const auto down = hearVoice(
      string(2.4, {0.2}, [](double t) { return 64 + 2 * ramp(t, 0.4, 0.55) - 2 * ramp(t, 1.2, 1.4); }), Cents(0), {});
  const PlayedNote& released = longest(down);
  ASSERT_TRUE(released.bend && released.bend->released);
  EXPECT_NEAR(released.bend->size().value, 200, 10);
  EXPECT_NEAR(released.bend->released->value, 1.24, 0.08);

  const auto before = hearVoice(string(2.0, {0.2}, [](double t) { return 66 - 2 * ramp(t, 0.9, 1.1); }), Cents(0), {});
  const PlayedNote& pre = longest(before);
  ASSERT_TRUE(pre.bend);
  EXPECT_TRUE(pre.bend->before);
  EXPECT_NEAR(pre.bend->size().value, 200, 12);
}

TEST(Gestures, AHeldBendIsStruckAgain) {
  const auto bentAndHeld = [](double t) { return 64 + 2 * ramp(t, 0.4, 0.55) - 2 * ramp(t, 2.3, 2.45); };
  const auto voice = hearVoice(string(3.0, {0.2, 1.0, 1.6}, bentAndHeld), Cents(0), {});
  ASSERT_EQ(voice.notes.size(), 3U);
  ASSERT_TRUE(voice.notes[0].bend);
  EXPECT_FALSE(voice.notes[0].bend->again);
  for (const std::size_t i : {1U, 2U}) {
    ASSERT_TRUE(voice.notes[i].bend) << i;
    EXPECT_TRUE(voice.notes[i].bend->again) << i;
    EXPECT_NEAR(voice.notes[i].bend->size().value, 200, 12) << i;
  }
  EXPECT_FALSE(voice.notes[1].bend->released);
  ASSERT_TRUE(voice.notes[2].bend->released);
  EXPECT_NEAR(voice.notes[2].bend->released->value, 2.33, 0.08);

  // The same pitches fretted: nothing was bent, so nothing is struck again.
  const auto fretted =
      hearVoice(string(3.0, {0.2, 1.0, 1.6}, [](double t) { return t < 1.0 ? 64 : 66; }), Cents(0), {});
  for (const auto& note : fretted.notes) EXPECT_FALSE(note.bend);
}

TEST(Gestures, TheRecordingsOwnPitchIsWhereABendStarts) {
  // Bent at once: nothing stands at the lower pitch, so that the semitone of the recording is taken.
  const auto voice =
      hearVoice(string(2.0, {0.2}, [](double t) { return 67.3 + 2 * ramp(t, 0.21, 0.36); }), Cents(30), {});
  const PlayedNote& note = longest(voice);
  ASSERT_TRUE(note.bend);
  EXPECT_NEAR(note.bend->size().value, 200, 15);
}

TEST(Gestures, VibratoHasARateAndAWidth) {
  for (const auto& [rate, cents] : {std::pair{5.2, 30.0}, {6.4, 18.0}, {4.0, 60.0}}) {
    const auto voice =
        hearVoice(string(2.5, {0.2},
                         [&, r = rate, c = cents](double t) {
                           return 62 + (t > 0.45 ? c / 100 * std::sin(2 * std::numbers::pi * r * t) : 0.0);
                         }),
                  Cents(0), {});
    const PlayedNote& note = longest(voice);
    ASSERT_TRUE(note.vibrato) << rate;
    EXPECT_NEAR(note.vibrato->rate.value, rate, 0.25);
    EXPECT_NEAR(note.vibrato->width.value, cents, 0.25 * cents);
    EXPECT_FALSE(note.bend) << rate;
  }
}

TEST(Gestures, PlainNotesHaveNone) {
  const auto voice = hearVoice(
      string(3.0, {0.2, 0.9, 1.6}, [](double t) { return t < 0.9   ? 60.0
                                                         : t < 1.6 ? 64
                                                                   : 67; }), Cents(0), {});
  ASSERT_EQ(voice.notes.size(), 3U);
  for (const auto& n : voice.notes) EXPECT_TRUE(!n.bend && !n.vibrato && !n.slide);
}

TEST(Gestures, AHammerIsNoBendAndASlideIsPassedThrough) {
  const auto hammer = hearVoice(string(1.6, {0.2}, [](double t) { return t < 0.8 ? 60.0 : 62.0; }), Cents(0), {});
  for (const auto& n : hammer.notes) EXPECT_FALSE(n.bend);
  // Five frets, one every 40 ms.
  const auto slide = hearVoice(
      string(2.0, {0.2}, [](double t) { return 60 + std::clamp(std::floor((t - 0.8) / 0.04) + 1, 0.0, 5.0); }),
      Cents(0), {});
  ASSERT_TRUE(slide.notes.back().slide);
  EXPECT_NEAR(slide.notes.back().note.pitch.value, 65, 0.1);
  EXPECT_NEAR(slide.notes.back().slide->from.value, 60, 0.1);
}

TEST(Gestures, AJumpToAnotherStrokeIsNoSlide) {
  for (const double jump : {4.0, 7.0, 12.0}) {
    const auto voice =
        hearVoice(string(2.0, {0.2, 0.8}, [&](double t) { return t < 0.8 ? 57.0 : 57.0 + jump; }), Cents(0), {});
    ASSERT_GE(voice.notes.size(), 2U) << jump;
    for (const auto& n : voice.notes) EXPECT_FALSE(n.slide) << jump;
  }
}

}  // namespace
}  // namespace ear
