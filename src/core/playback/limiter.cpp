// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/limiter.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <utility>

namespace ear {
namespace {

constexpr double kRelease = 0.12;   // seconds in which the level comes back by two thirds
constexpr std::size_t kRing = 128;  // samples kept, over kDelay + kTaps

}  // namespace

void Limiter::prepare(int sampleRate) {
  for (std::size_t phase = 0; phase < phases_.size(); ++phase) {
    double sum = 0;
    for (std::size_t tap = 0; tap < kTaps; ++tap) {
      // A sinc under a Hann window; the point lies (phase + 1) / 4 behind the tap in the middle.
      const double x = static_cast<double>(tap) - (kTaps / 2.0 - 1) - (static_cast<double>(phase) + 1) / 4;
      const double sinc = std::sin(std::numbers::pi * x) / (std::numbers::pi * x);
      const double window = std::pow(std::cos(std::numbers::pi * x / (kTaps + 1.0)), 2);
      phases_[phase][tap] = static_cast<float>(sinc * window);
      sum += sinc * window;
    }
    for (float& tap : phases_[phase]) tap /= static_cast<float>(sum);
  }
  ring_.assign(2 * kRing, 0.0F);
  needed_.assign(kLook, 1.0F);
  smooth_.assign(kLook, 1.0F);
  smoothSum_ = kLook;
  at_ = gainAt_ = 0;
  untouched_ = 2 * kLook;
  released_ = least_ = 1.0F;
  release_ = static_cast<float>(1.0 - std::exp(-1.0 / (kRelease * sampleRate)));
}

/// The highest level from the sample kTaps / 2 before the newest one to the next.
float Limiter::peakOf(std::size_t channel) const {
  const auto sample = [&](std::size_t back) { return ring_[2 * ((at_ + kRing - back) % kRing) + channel]; };
  float peak = std::abs(sample(kTaps / 2));
  for (const auto& taps : phases_) {
    float value = 0;
    for (std::size_t tap = 0; tap < kTaps; ++tap) value += taps[tap] * sample(kTaps - 1 - tap);
    peak = std::max(peak, std::abs(value));
  }
  return peak;
}

void Limiter::process(std::span<float> block) {
  for (std::size_t i = 0; i + 1 < block.size(); i += 2) {
    at_ = (at_ + 1) % kRing;
    ring_[2 * at_] = block[i];
    ring_[2 * at_ + 1] = block[i + 1];
    const float peak = std::max(peakOf(0), peakOf(1));
    const float needed = peak > static_cast<float>(kCeiling) ? static_cast<float>(kCeiling) / peak : 1.0F;
    needed_[gainAt_] = needed;
    const float held = *std::min_element(needed_.begin(), needed_.end());
    released_ = held < released_ ? held : released_ + release_ * (held - released_);
    if (released_ > 0.999F) released_ = 1.0F;
    untouched_ = released_ < 1.0F ? 0 : untouched_ + 1;
    // The mean over the look-ahead of gains that are each low enough is low enough when the peak comes out.
    smoothSum_ += static_cast<double>(released_) - static_cast<double>(smooth_[gainAt_]);
    smooth_[gainAt_] = released_;
    gainAt_ = (gainAt_ + 1) % kLook;
    const float gain = untouched_ >= kLook ? 1.0F : static_cast<float>(smoothSum_ / kLook);
    least_ = std::min(least_, gain);
    const std::size_t from = 2 * ((at_ + kRing - kDelay) % kRing);
    block[i] = ring_[from] * gain;
    block[i + 1] = ring_[from + 1] * gain;
  }
}

float Limiter::reduction() {
  return std::exchange(least_, 1.0F);
}

}  // namespace ear
