// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/signal/weighted_level.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

namespace ear {
namespace {

// Poles of the A-weighting in Hz; its four zeros lie at 0 (IEC 61672-1, annex E).
constexpr double kF1 = 20.598997, kF2 = 107.65265, kF3 = 737.86223, kF4 = 12194.217;

}  // namespace

void WeightedLevel::prepare(int sampleRate) {
  const double rate = sampleRate;
  // s^2 / ((s + p)(s + q)): a high-pass; p q / ((s + p)(s + q)): a low-pass. By the bilinear transform, which bends
  // frequencies; `exact` is the one that it leaves where it is.
  const auto section = [&](double pHertz, double qHertz, double exact, bool high) {
    const double p = 2 * std::numbers::pi * pHertz, q = 2 * std::numbers::pi * qHertz;
    const double k = 2 * std::numbers::pi * exact / std::tan(std::numbers::pi * exact / rate);
    Section s;
    const double a0 = (k + p) * (k + q);
    const double top = high ? k * k : p * q;
    s.b0 = top / a0;
    s.b1 = (high ? -2 : 2) * top / a0;
    s.b2 = top / a0;
    s.a1 = ((p - k) * (k + q) + (k + p) * (q - k)) / a0;
    s.a2 = (p - k) * (q - k) / a0;
    return s;
  };
  constexpr double kExactTop = 6500.0;  // in the middle of what the top pair still shapes
  sections_ = {section(kF1, kF1, kF1, true), section(kF2, kF3, kF3, true), section(kF4, kF4, kExactTop, false)};
  // 0 dB at 1 kHz.
  const std::complex<double> z = std::polar(1.0, 2 * std::numbers::pi * 1000.0 / rate), i = 1.0 / z;
  double gain = 1.0;
  for (const Section& s : sections_)
    gain *= std::abs((s.b0 + s.b1 * i + s.b2 * i * i) / (1.0 + s.a1 * i + s.a2 * i * i));
  for (double* b : {&sections_[0].b0, &sections_[0].b1, &sections_[0].b2}) *b /= gain;
  sum_ = 0;
  samples_ = 0;
}

void WeightedLevel::add(std::span<const float> block) {
  for (std::size_t n = 0; n < block.size(); ++n) {
    const std::size_t side = n % 2;
    auto x = static_cast<double>(block[n]);
    for (Section& s : sections_) {
      const double y = s.b0 * x + s.z1[side];
      s.z1[side] = s.b1 * x - s.a1 * y + s.z2[side];
      s.z2[side] = s.b2 * x - s.a2 * y;
      x = y;
    }
    sum_ += x * x / 2;
  }
  samples_ += block.size() / 2;
}

WeightedLevel::Stretch WeightedLevel::take() {
  const Stretch part{samples_ > 0 ? sum_ / static_cast<double>(samples_) : 0.0, samples_};
  sum_ = 0;
  samples_ = 0;
  return part;
}

}  // namespace ear
