// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/drone.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ear {
namespace {

// Root, octave, fifth over it, double octave, and two more octave partials, weaker the higher; they sum to one.
constexpr std::array<std::pair<double, float>, 6> kSpectrum = {
    {{1, 0.34F}, {2, 0.28F}, {3, 0.14F}, {4, 0.12F}, {6, 0.07F}, {8, 0.05F}}};
constexpr double kSwell = 0.15;  // seconds
constexpr double kGlide = 0.05;

}  // namespace

void Drone::prepare(int sampleRate) {
  rate_ = sampleRate;
  level_ = 0.0F;
  sounding_ = 0.0;
}

void Drone::render(std::span<float> out) {
  const double root = root_;
  const float target = root > 0.0 ? static_cast<float>(kLevel) : 0.0F;
  if (level_ == 0.0F && target == 0.0F) return;
  if (root > 0.0 && level_ == 0.0F) sounding_ = root;
  const auto step = static_cast<float>(kLevel / (kSwell * rate_));
  const double glide = 1.0 - std::exp(-1.0 / (kGlide * rate_));
  for (std::size_t i = 0; i + 1 < out.size(); i += 2) {
    level_ = level_ < target ? std::min(target, level_ + step) : std::max(target, level_ - step);
    if (root > 0.0) sounding_ += glide * (root - sounding_);
    float sum = 0;
    for (std::size_t k = 0; k < kPartials; ++k) {
      phases_[k] += sounding_ * kSpectrum[k].first / rate_;
      phases_[k] -= std::floor(phases_[k]);
      sum += kSpectrum[k].second * static_cast<float>(std::sin(2 * std::numbers::pi * phases_[k]));
    }
    out[i] += level_ * sum;
    out[i + 1] += level_ * sum;
  }
}

}  // namespace ear
