// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/held_sound.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <complex>
#include <numbers>

#include "core/signal/fft.h"

namespace ear {
namespace {

constexpr std::size_t kSize = 16384, kHop = kSize / 4, kHops = 24;  // of the transform; what lasts, in hops
constexpr double kSwell = 0.06;                                     // seconds

}  // namespace

std::vector<float> holdMoment(const Recording& recording, Seconds t) {
  RealFft forward(kSize);
  InverseFft back(kSize);
  const auto window = hannWindow(kSize);
  const std::int64_t from = std::llround(t.value * recording.sampleRate) - static_cast<std::int64_t>(kSize / 2);
  std::array<std::vector<std::complex<float>>, 2> spectra;
  for (std::size_t side = 0; side < 2; ++side) {
    readWindow(side == 0 ? recording.left() : recording.right(), from, window, forward.input());
    const auto bins = forward.transform();
    spectra[side].assign(bins.begin(), bins.end());
  }
  constexpr std::size_t kLength = kHop * kHops;
  std::vector<float> held(2 * kLength, 0.0F);
  std::uint32_t noise = 1;
  std::vector<std::complex<float>> turn(kSize / 2 + 1);
  for (std::size_t hop = 0; hop < kHops; ++hop) {
    for (auto& phase : turn) {
      noise = noise * 1664525U + 1013904223U;
      phase = std::polar(1.0F, static_cast<float>(2 * std::numbers::pi * static_cast<double>(noise >> 8) / 16777216.0));
    }
    for (std::size_t side = 0; side < 2; ++side) {
      auto bins = back.input();
      for (std::size_t k = 0; k < bins.size(); ++k) bins[k] = spectra[side][k] * turn[k];
      const auto samples = back.transform();
      // Random phases add as power: four overlapping windows with the mean square 3/8, and one more in the analysis.
      constexpr float kScale = 1.3F;
      for (std::size_t n = 0; n < kSize; ++n)
        held[2 * ((hop * kHop + n) % kLength) + side] += kScale * window[n] * samples[n];
    }
  }
  return held;
}

void HeldSound::hold(std::vector<float> moment) {
  moment_.give(std::make_unique<const std::vector<float>>(std::move(moment)));
  on_ = true;
}

void HeldSound::render(std::span<float> out) {
  const float target = on_ ? 1.0F : 0.0F;
  if (level_ == 0.0F) {
    if (target == 0.0F) return;
    sounding_ = moment_.newest();
    at_ = 0;
  }
  if (sounding_ == nullptr || sounding_->empty()) return;
  const auto step = static_cast<float>(1.0 / (kSwell * rate_));
  for (std::size_t i = 0; i + 1 < out.size(); i += 2) {
    level_ = level_ < target ? std::min(target, level_ + step) : std::max(target, level_ - step);
    out[i] += level_ * (*sounding_)[at_];
    out[i + 1] += level_ * (*sounding_)[at_ + 1];
    at_ = (at_ + 2) % sounding_->size();
  }
}

}  // namespace ear
