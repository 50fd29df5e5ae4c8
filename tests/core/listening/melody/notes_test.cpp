// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/melody/voices.h"

#include <gmock/gmock.h>

#include <cmath>
#include <numbers>

#include "core/listening/frontend/spectra.h"
#include "support/sounds.h"

namespace ear {
namespace {

std::vector<HeardNote> hearNotes(const Recording& passage) {
  std::vector<HeardNote> notes;
  for (const auto& played : hearVoice(passage, Cents(0), {}).notes) notes.push_back(played.note);
  return notes;
}

/// One voice with overtones: what sounds from when on, with a pitch that may move.
struct Tone {
  double start, end;
  std::function<double(double)> midi;  ///< of the time since its start
  bool struck = true;
};

Recording voice(const std::vector<Tone>& tones, double seconds) {
  Samples samples(static_cast<std::size_t>(seconds * 44100));
  double phase = 0, level = 0;
  for (std::size_t i = 0; i < samples.size(); ++i) {
    const double t = static_cast<double>(i) / 44100;
    const Tone* now = nullptr;
    for (const auto& tone : tones)
      if (tone.start <= t && t < tone.end) now = &tone;
    if (now == nullptr) continue;
    const double since = t - now->start;
    if (since < 1.0 / 44100 && now->struck) phase = 0, level = 1;
    level *= std::exp(-1.2 / 44100);
    phase += 440.0 * std::exp2((now->midi(since) - 69) / 12) / 44100;
    double sum = 0;
    for (int h = 1; h <= 8; ++h)
      sum += std::sin(2 * std::numbers::pi * h * phase) / h * (now->struck ? 1 + 2 * std::exp(-since * 40) : 1.0);
    samples[i] = static_cast<float>(0.15 * level * sum);
  }
  return {44100, {samples, samples}, ""};
}

std::function<double(double)> still(double midi) {
  return [midi](double) { return midi; };
}

TEST(Notes, StartsPitchesAndStepsOfALine) {
  const double pitches[] = {52, 55, 57, 59, 64, 62, 57.3, 45};
  std::vector<Tone> tones;
  for (std::size_t i = 0; i < 8; ++i)
    tones.push_back({0.2 + 0.3 * static_cast<double>(i), 0.5 + 0.3 * static_cast<double>(i), still(pitches[i])});
  const auto notes = hearNotes(voice(tones, 3.0));
  ASSERT_EQ(notes.size(), 8U);
  for (std::size_t i = 0; i < 8; ++i) {
    EXPECT_NEAR(notes[i].span.start.value, tones[i].start, 0.02) << i;
    EXPECT_NEAR(notes[i].pitch.value, pitches[i], 0.1) << i;
  }
}

TEST(Notes, AStepWithoutAnAttackIsANoteOfItsOwn) {
  const auto notes =
      hearNotes(voice({{0.2, 0.6, still(57)}, {0.6, 1.0, still(59), false}, {1.0, 1.5, still(57), false}}, 1.8));
  ASSERT_EQ(notes.size(), 3U);
  EXPECT_NEAR(notes[1].span.start.value, 0.6, 0.03);
  EXPECT_NEAR(notes[1].pitch.value, 59, 0.15);
}

TEST(Notes, BendsAndVibratoCutNothing) {
  const auto bent = [](double t) { return 62 + 2 * std::clamp((t - 0.15) / 0.2, 0.0, 1.0); };
  const auto shaken = [](double t) { return 67 + 0.35 * std::sin(2 * std::numbers::pi * 5.5 * t); };
  const Recording sound = voice({{0.2, 1.2, bent}, {1.4, 2.6, shaken}}, 3.0);
  const auto notes = hearNotes(sound);
  ASSERT_EQ(notes.size(), 2U);
  EXPECT_NEAR(notes[0].pitch.value, 62, 0.15) << "the pitch at its start";
  EXPECT_NEAR(notes[1].pitch.value, 67, 0.3);
  // The line follows the bend up to its top and the vibrato to both sides.
  const auto onsets = OnsetStrength{.clock = {100}, .all = {}, .low = {}, .high = {}, .kick = {}, .snare = {}};
  const auto line = measureF0Contour(listeningMono(sound), onsets, {}, Cents(0), {});
  const auto at = [&](double t) { return line.points[line.clock.framesIn(Seconds(t))].pitch; };
  ASSERT_TRUE(at(0.9));
  EXPECT_NEAR(at(0.9)->value, 64, 0.05);
  double low = 100, high = 0;
  for (double t = 1.7; t < 2.4; t += 0.01)
    if (at(t)) low = std::min(low, at(t)->value), high = std::max(high, at(t)->value);
  EXPECT_NEAR(high - low, 0.7, 0.15);
}

TEST(Notes, SilenceAndNoiseHaveNone) {
  EXPECT_TRUE(hearNotes(test::soundOf(1.0, 44100, [](double) { return 0.0; })).empty());
}

}  // namespace
}  // namespace ear
