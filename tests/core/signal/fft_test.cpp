// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/fft.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <numeric>
#include <random>

namespace ear {
namespace {

std::vector<float> noise(std::size_t size) {
  std::mt19937 random(5);
  std::normal_distribution<float> normal(0, 1);
  std::vector<float> samples(size);
  for (float& s : samples) s = normal(random);
  return samples;
}

// X[k] = sum x[n] exp(-2 pi i k n / N): the definition (Oppenheim & Schafer, Discrete-Time Signal Processing, ch. 8).
TEST(RealFft, IsTheDiscreteFourierTransform) {
  for (const std::size_t size : {8U, 60U, 256U}) {
    const auto samples = noise(size);
    RealFft fft(size);
    std::copy(samples.begin(), samples.end(), fft.input().begin());
    const auto bins = fft.transform();
    ASSERT_EQ(bins.size(), size / 2 + 1);
    for (std::size_t k = 0; k < bins.size(); ++k) {
      std::complex<double> sum;
      for (std::size_t n = 0; n < size; ++n)
        sum += static_cast<double>(samples[n]) *
               std::polar(1.0, -2 * std::numbers::pi * static_cast<double>(k * n % size) / static_cast<double>(size));
      EXPECT_NEAR(static_cast<double>(bins[k].real()), sum.real(), 2e-4) << size << " bin " << k;
      EXPECT_NEAR(static_cast<double>(bins[k].imag()), sum.imag(), 2e-4) << size << " bin " << k;
    }
  }
}

TEST(InverseFft, GivesTheSamplesBack) {
  const auto samples = noise(1024);
  RealFft there(1024);
  InverseFft back(1024);
  for (int round = 0; round < 2; ++round) {  // both may be used again
    std::copy(samples.begin(), samples.end(), there.input().begin());
    const auto bins = there.transform();
    std::copy(bins.begin(), bins.end(), back.input().begin());
    const auto again = back.transform();
    for (std::size_t i = 0; i < samples.size(); ++i) ASSERT_NEAR(again[i], samples[i], 1e-5) << i;
  }
}

TEST(HannWindow, SumsToOneWhenItOverlapsByHalf) {
  const auto window = hannWindow(64);
  EXPECT_EQ(window[0], 0.0F);
  EXPECT_NEAR(window[32], 1.0F, 1e-7);
  for (std::size_t i = 0; i < 32; ++i) EXPECT_NEAR(window[i] + window[i + 32], 1.0F, 1e-6);
}

TEST(HannWindow, ItsSlopeIsItsDerivative) {
  constexpr std::size_t kSize = 512;
  const auto window = hannWindow(kSize), slope = hannSlope(kSize);
  for (std::size_t i = 1; i + 1 < kSize; ++i) EXPECT_NEAR(slope[i], (window[i + 1] - window[i - 1]) / 2, 1e-5) << i;
}

}  // namespace
}  // namespace ear
