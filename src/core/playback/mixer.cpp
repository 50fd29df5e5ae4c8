// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/mixer.h"

#include <algorithm>

namespace ear {
namespace {

constexpr double kRamp = 0.02;  // seconds from silence to full level when the volume changes

}  // namespace

void Mixer::load(Track track) {
  readAhead_.change([&] {
    player_.load(std::move(track));
    return player_.shared();
  });
}

void Mixer::prepare(int sampleRate) {
  rate_ = sampleRate;
  gain_ = static_cast<float>(volume_);
  tones_.prepare(sampleRate);
  drone_.prepare(sampleRate);
  held_.prepare(sampleRate);
  monitor_.prepare(sampleRate);
}

void Mixer::render(std::span<float> out) {
  player_.render(out);
  tones_.render(out);
  drone_.render(out);
  held_.render(out);
  const auto target = static_cast<float>(volume_);
  const auto step = static_cast<float>(1.0 / (kRamp * rate_));
  for (std::size_t i = 0; i + 1 < out.size(); i += 2) {
    gain_ = gain_ < target ? std::min(target, gain_ + step) : std::max(target, gain_ - step);
    out[i] *= gain_;
    out[i + 1] *= gain_;
  }
  monitor_.process(out);
}

}  // namespace ear
