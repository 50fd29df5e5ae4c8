// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/frontend/overtone_comb.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/listening/frontend/spectra.h"
#include "core/listening/melody/voices.h"
#include "support/sounds.h"

namespace ear {
namespace {

/// A string plucked at a share of its length, whose overtones fall off with a power of their number (Fletcher &
/// Rossing, The Physics of Musical Instruments, ch. 2.3: the overtone k is as strong as sin(k pi x) says).
double plucked(double t, double hertz, double place, double slope) {
  double sum = 0;
  for (int k = 1; k <= 30; ++k)
    sum += std::sin(k * std::numbers::pi * place) / std::pow(k, slope) *
           std::sin(2 * std::numbers::pi * k * hertz * t + 0.7 * k);
  return 0.2 * sum;
}

double contrastOf(const Recording& sound, double hertz) {
  const auto mono = listeningMono(sound);
  OvertoneComb comb(mono);
  return comb.contrast(mono.size() / 2, hertz);
}

TEST(OvertoneComb, AStringAloneHasNoVoiceOverIt) {
  for (const double hertz : {82.41, 98.0, 130.81})  // E2, G2, C3
    for (const double place : {1 / 3.0, 0.25, 0.2, 0.13, 0.08, 0.31})
      for (const double slope : {0.6, 1.0, 1.5, 2.0})
        EXPECT_LT(
            contrastOf(test::soundOf(1.0, 44100, [&](double t) { return plucked(t, hertz, place, slope); }), hertz),
            1.9)
            << hertz << " Hz, plucked at " << place << ", slope " << slope;
}

TEST(OvertoneComb, AVoiceOnAnOvertoneOfTheBassStandsOut) {
  for (const double bass : {82.41, 98.0, 116.54})
    for (const int overtone : {2, 3, 4, 5, 6}) {
      const Recording both = test::soundOf(1.0, 44100, [&](double t) {
        return plucked(t, bass, 0.3, 2.5) + 0.5 * plucked(t, overtone * bass, 0.15, 0.8);
      });
      EXPECT_GT(contrastOf(both, bass), 2.1) << bass << " Hz under its overtone " << overtone;
    }
}

TEST(OvertoneComb, SilenceAndTheEndsOfTheSoundAreNoTrouble) {
  const auto mono = listeningMono(test::soundOf(0.2, 44100, [](double) { return 0.0; }));
  OvertoneComb comb(mono);
  EXPECT_NEAR(comb.contrast(0, 82.4), 1.0, 1e-6);
  EXPECT_NEAR(comb.contrast(mono.size() - 1, 82.4), 1.0, 1e-6);
}

/// The share of a voice's frames in which the line lies within half a semitone of a pitch.
double shareAt(const HeardVoice& voice, double midi) {
  int right = 0, all = 0;
  for (const auto& p : voice.line.points) {
    if (!p.pitch) continue;
    ++all;
    right += std::abs(p.pitch->value - midi) < 0.5 ? 1 : 0;
  }
  return all > 0 ? static_cast<double>(right) / all : 0.0;
}

TEST(OvertoneComb, TheLineStaysOnALowStringAndOnTheVoiceOverABass) {
  const auto fading = [](double t) { return std::exp(-1.2 * t); };
  const auto low = hearVoice(
      test::soundOf(1.5, 44100, [&](double t) { return fading(t) * plucked(t, 82.41, 0.2, 1.2); }), Cents(0), {});
  EXPECT_GT(shareAt(low, 40), 0.95);
  // The bass rings on under the voice two octaves and a third above it.
  const auto over = hearVoice(
      test::soundOf(
          1.5, 44100,
          [&](double t) { return 0.4 * plucked(t, 98.0, 0.3, 2.5) + fading(t) * plucked(t, 490.0, 0.15, 0.8); }),
      Cents(0), {});
  EXPECT_GT(shareAt(over, 69 + 12 * std::log2(490.0 / 440)), 0.9);
}

}  // namespace
}  // namespace ear
