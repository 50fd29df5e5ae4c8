// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/held_sound.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/listening/frontend/moment_spectrum.h"
#include "core/playback/drone.h"
#include "support/sounds.h"

namespace ear {
namespace {

std::vector<float> leftOf(const std::vector<float>& interleaved) {
  std::vector<float> left;
  for (std::size_t i = 0; i < interleaved.size(); i += 2) left.push_back(interleaved[i]);
  return left;
}

double rms(std::span<const float> x) {
  double sum = 0;
  for (const float s : x) sum += static_cast<double>(s * s);
  return std::sqrt(sum / static_cast<double>(x.size()));
}

TEST(HeldSound, LastsAtItsPitchAndItsLevelWithoutASeam) {
  // A tone that dies away: what is held is its state at one moment.
  const Recording tone = test::soundOf(
      4.0, 44100, [](double t) { return 0.5 * std::exp(-0.5 * t) * std::sin(2 * std::numbers::pi * 330 * t); });
  const auto held = holdMoment(tone, Seconds(1.0));
  const auto left = leftOf(held);
  EXPECT_NEAR(test::cents(test::frequencyOf(left, 44100, 330), 330), 0, 8);
  const double wanted = 0.5 * std::exp(-0.5) / std::sqrt(2.0);
  EXPECT_NEAR(20 * std::log10(rms(left) / wanted), 0, 2.5);
  // The end meets the beginning as any two samples meet.
  const double steepest = 2 * std::numbers::pi * 330 / 44100 * *std::max_element(left.begin(), left.end());
  EXPECT_LT(std::abs(left.front() - left.back()), 2 * steepest);
}

TEST(HeldSound, SwellsInAndOutAndIsSilentElse) {
  HeldSound sound;
  sound.prepare(44100);
  std::vector<float> block(2 * 4410);
  sound.render(block);
  EXPECT_EQ(rms(block), 0.0);
  sound.hold(holdMoment(test::sine(440, 2.0), Seconds(1.0)));
  for (int i = 0; i < 20; ++i) std::fill(block.begin(), block.end(), 0.0F), sound.render(block);
  EXPECT_GT(rms(block), 0.15);
  sound.release();
  sound.render(block);
  std::fill(block.begin(), block.end(), 0.0F);
  sound.render(block);
  EXPECT_EQ(rms(block), 0.0);
}

TEST(Drone, StandsOnItsRootAndFades) {
  Drone drone;
  drone.prepare(44100);
  drone.set(Hertz(82.41));
  std::vector<float> block(2 * 44100, 0.0F);
  drone.render(block);
  EXPECT_NEAR(test::cents(test::frequencyOf(leftOf(block), 44100, 82.41), 82.41), 0, 1);
  drone.set(Hertz(0));
  drone.render(block);
  std::fill(block.begin(), block.end(), 0.0F);
  drone.render(block);
  EXPECT_EQ(rms(block), 0.0);
}

TEST(MomentSpectrum, PeaksAtWhatSounds) {
  const Recording tone = test::sine(440 * std::exp2(-5.0 / 12) * std::exp2(20.0 / 1200), 2.0);
  const auto spectrum = spectrumAt(tone, Seconds(1.0), Cents(20));
  const auto most = std::max_element(spectrum.decibels.begin(), spectrum.decibels.end());
  EXPECT_NEAR(MomentSpectrum::midiOf(static_cast<std::size_t>(most - spectrum.decibels.begin())), 64, 0.13);
  EXPECT_NEAR(*most, -6.0, 1.5);
  const auto silent = spectrumAt(tone, Seconds(9.0), Cents(0));
  EXPECT_EQ(*std::max_element(silent.decibels.begin(), silent.decibels.end()), -90.0F);
}

}  // namespace
}  // namespace ear
