// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/isolation_gains.h"

#include <algorithm>
#include <cmath>
#include <complex>
#include <numbers>

namespace ear {
namespace {

constexpr double kPlaceEdge = 0.15;  // over which a place fades out
constexpr int kCutOrder = 4;         // of a Butterworth response

/// Power response of a biquad at a frequency, `z` on the unit circle.
double biquadPower(std::complex<double> z, double b0, double b1, double b2, double a1, double a2) {
  const auto inverse = 1.0 / z;
  return std::norm((b0 + b1 * inverse + b2 * inverse * inverse) / (1.0 + a1 * inverse + a2 * inverse * inverse));
}

}  // namespace

double placeOf(float lr, float li, float rr, float ri) {
  const float left = lr * lr + li * li, right = rr * rr + ri * ri;
  if (left + right <= 0.0F) return 0.0;
  // Least |L - gR| over real g lies at Re(L R*) / |R|^2; out of phase nothing cancels, and it counts as hard to a side.
  const float together = std::max(0.0F, lr * rr + li * ri);
  const float gain = together / std::max(left, right);
  const double angle = 1.0 - 4.0 / std::numbers::pi * std::atan(std::min(1.0F, gain));
  return left > right ? -angle : angle;
}

float placeGain(const Isolation& i, double place) {
  if (i.place == Isolation::Panned::all) return 1.0F;
  const double beyond = std::clamp((std::abs(place - i.centre) - i.width) / kPlaceEdge, 0.0, 1.0);
  const double inside = std::pow(std::cos(beyond * std::numbers::pi / 2), 2);
  return static_cast<float>(i.place == Isolation::Panned::keep ? inside : 1.0 - inside);
}

float bandGain(const Isolation& i, Hertz frequency) {
  const double f = std::max(1.0, frequency.value);
  double gain = 1.0;
  const auto cut = [](double ratio) { return 1.0 / std::sqrt(1.0 + std::pow(ratio, 2 * kCutOrder)); };
  if (i.lowCut > Hertz(0)) gain *= cut(i.lowCut.value / f);
  if (i.highCut > Hertz(0)) gain *= cut(f / i.highCut.value);
  if (i.focus > Hertz(0)) {
    const double octaves = std::abs(std::log2(f / i.focus.value));
    gain *= std::pow(std::cos(std::clamp((octaves - 0.5) / 0.5, 0.0, 1.0) * std::numbers::pi / 2), 2);
  }
  return static_cast<float>(gain);
}

double loudnessWeight(Hertz frequency) {
  // The coefficients of the recommendation's tables 1 and 2, which are for 48 kHz.
  const double f = std::clamp(frequency.value, 1.0, 23900.0);
  const auto z = std::polar(1.0, 2 * std::numbers::pi * f / 48000.0);
  return biquadPower(z, 1.53512485958697, -2.69169618940638, 1.19839281085285, -1.69065929318241, 0.73248077421585) *
         biquadPower(z, 1.0, -2.0, 1.0, -1.99004745483398, 0.99007225036621);
}

}  // namespace ear
