// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/listening/tuning/tuner.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/playback/tones.h"

namespace ear {
namespace {

constexpr int kRate = 48000;

double cents(Hertz a, Hertz b) {
  return 1200 * std::log2(a / b);
}

std::vector<float> pluck(Hertz pitch, double seconds) {
  Tones tones;
  tones.prepare(kRate);
  EXPECT_TRUE(tones.play({pitch}));
  std::vector<float> stereo(2 * static_cast<std::size_t>(seconds * kRate)), mono;
  tones.render(stereo);
  for (std::size_t i = 0; i < stereo.size(); i += 2) mono.push_back(stereo[i]);
  return mono;
}

std::vector<float> sines(Hertz pitch, double seconds, int overtones) {
  std::vector<float> out(static_cast<std::size_t>(seconds * kRate));
  for (std::size_t i = 0; i < out.size(); ++i)
    for (int h = 1; h <= overtones; ++h)
      out[i] += static_cast<float>(
          0.3 / h * std::sin(2 * std::numbers::pi * h * pitch.value * static_cast<double>(i) / kRate + h));
  return out;
}

TEST(PitchOfString, IsThatOfTheSoundToHalfACent) {
  for (const double hertz : {30.87, 41.2, 82.41, 104.43, 146.83, 246.94, 329.63, 659.26, 1318.5}) {
    const auto found = pitchOfString(sines(Hertz(hertz), 0.17, 5), kRate);
    ASSERT_TRUE(found.has_value()) << hertz;
    EXPECT_NEAR(cents(*found, Hertz(hertz)), 0, 0.5) << hertz;
  }
}

TEST(PitchOfString, IsNotInventedForNoiseOrSilence) {
  std::vector<float> noise(8192);
  unsigned seed = 7;
  for (float& v : noise) seed = seed * 1664525U + 1013904223U, v = static_cast<float>(seed >> 8) / 8388608.0F - 1.0F;
  EXPECT_FALSE(pitchOfString(noise, kRate).has_value());
  EXPECT_FALSE(pitchOfString(std::vector<float>(8192), kRate).has_value());
  EXPECT_FALSE(pitchOfString({}, kRate).has_value());
}

TEST(Tones, PluckedStringSoundsAtItsPitch) {
  const Guitar standard;
  for (int s = 0; s < 6; ++s) {
    const Hertz wanted = standard.frequency({s, 0});
    const auto sound = pluck(wanted, 1.0);
    const auto found = pitchOfString(std::span(sound).subspan(kRate / 2, 8192), kRate);
    ASSERT_TRUE(found.has_value()) << s;
    EXPECT_NEAR(cents(*found, wanted), 0, 1.0) << s;
  }
}

TEST(Tones, SilenceFadesAndAFullQueueSaysSo) {
  Tones tones;
  tones.prepare(kRate);
  for (int i = 0; i < 32; ++i) EXPECT_TRUE(tones.play({Hertz(220), Tones::Kind::plain}));
  EXPECT_FALSE(tones.play({Hertz(220)}));
  std::vector<float> out(2 * kRate / 10);
  tones.render(out);
  EXPECT_NE(out[out.size() - 2], 0.0F);
  tones.silence();
  for (int i = 0; i < 3; ++i) {
    std::fill(out.begin(), out.end(), 0.0F);
    tones.render(out);
  }
  EXPECT_EQ(out.back(), 0.0F);
}

TEST(Tuner, NamesTheStringAndHowFarOffItIs) {
  // A guitar a semitone down on a recording that lies 10 cents sharp: its A string belongs at 104.43 Hz.
  Guitar guitar{.tuning = {{39, 44, 49, 54, 58, 63}}, .offset = Cents(10)};
  EXPECT_NEAR(guitar.frequency({1, 0}).value, 104.43, 0.01);
  for (const double off : {-35.0, -4.0, 0.0, 12.0}) {
    Tuner tuner(kRate);
    tuner.setGuitar(guitar);
    EXPECT_FALSE(tuner.reading().has_value());
    tuner.feed(pluck(guitar.frequency({1, 0}) * std::exp2(off / 1200), 0.8));
    const auto reading = tuner.reading();
    ASSERT_TRUE(reading.has_value());
    EXPECT_EQ(reading->string, 1);
    EXPECT_NEAR(reading->off.value, off, 1.0);
  }
}

}  // namespace
}  // namespace ear
