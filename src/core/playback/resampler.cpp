// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/resampler.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ear {
namespace {

constexpr double kBeta = 9.0;   // of the Kaiser window: 90 dB down beyond the edge
constexpr double kEdge = 0.96;  // of the band that is kept

}  // namespace

Resampler::Resampler() {
  table_.resize(kWings * kSteps + 2);
  for (std::size_t i = 0; i < table_.size(); ++i) {
    const double x = static_cast<double>(i) / kSteps, share = std::min(1.0, x / kWings);
    const double sinc = x == 0.0 ? kEdge : std::sin(std::numbers::pi * kEdge * x) / (std::numbers::pi * x);
    table_[i] = static_cast<float>(sinc * std::cyl_bessel_i(0.0, kBeta * std::sqrt(1.0 - share * share)) /
                                   std::cyl_bessel_i(0.0, kBeta));
  }
  for (auto& ring : ring_) ring.assign(kRing, 0.0F);
}

void Resampler::start(double pace) {
  pace_ = std::min(pace, kFastest);
  reach_ = static_cast<int>(std::ceil(kWings * std::max(1.0, pace_)));
  pushed_ = 0;
  next_ = reach_;
}

std::size_t Resampler::room() const {
  const auto oldest = static_cast<std::int64_t>(next_) - reach_;  // still needed
  return kRing - static_cast<std::size_t>(std::max<std::int64_t>(0, pushed_ - oldest));
}

void Resampler::push(std::span<const float> left, std::span<const float> right) {
  for (std::size_t i = 0; i < left.size(); ++i, ++pushed_) {
    const auto at = static_cast<std::size_t>(pushed_) % kRing;
    ring_[0][at] = left[i], ring_[1][at] = right[i];
  }
}

std::size_t Resampler::pull(std::span<float> left, std::span<float> right) {
  const double stretch = std::max(1.0, pace_);  // of the kernel
  std::size_t done = 0;
  for (; done < left.size() && static_cast<std::int64_t>(next_) + reach_ < pushed_; ++done, next_ += pace_) {
    const auto middle = static_cast<std::int64_t>(next_);
    float l = 0, r = 0;
    for (std::int64_t k = std::max<std::int64_t>(0, middle - reach_ + 1); k <= middle + reach_; ++k) {
      const double x = std::abs(static_cast<double>(k) - next_) / stretch * kSteps;
      const auto step = static_cast<std::size_t>(x);
      if (step >= kWings * kSteps) continue;
      const float weight =
          table_[step] + static_cast<float>(x - static_cast<double>(step)) * (table_[step + 1] - table_[step]);
      const auto at = static_cast<std::size_t>(k) % kRing;
      l += weight * ring_[0][at], r += weight * ring_[1][at];
    }
    left[done] = l / static_cast<float>(stretch), right[done] = r / static_cast<float>(stretch);
  }
  return done;
}

}  // namespace ear
