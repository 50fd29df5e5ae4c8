// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/mixer.h"

#include <algorithm>

namespace ear {
namespace {

constexpr double kRamp = 0.02;  // seconds from silence to full level when the volume changes

}  // namespace

void Mixer::load(Track track) {
  segments_.clear();
  readAhead_.change([&] {
    player_.load(std::move(track));
    return player_.shared();
  });
}

void Mixer::seek(Seconds to) {
  player_.seek(to);
  readAhead_.hurry();
}

void Mixer::setLoop(std::optional<TimeSpan> span) {
  player_.setLoop(span);
  expectNext();
}

void Mixer::setSequence(std::span<const Segment> segments) {
  player_.setSequence(segments);
  segments_.clear();
  for (const Segment& segment : segments) segments_.push_back(segment.span);
  expectNext();
}

void Mixer::expectNext() {
  auto spans = segments_;
  if (const auto loop = player_.loop()) spans.push_back(*loop);
  readAhead_.expect(std::move(spans));
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
