// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/click.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ear {
namespace {

constexpr double kBar = 2100.0, kBeat = 1400.0;                    // Hz: above the guitar's notes, below the cymbals
constexpr double kDecay = 0.012, kLength = 0.07, kAttack = 0.001;  // seconds

}  // namespace

void Click::setBeats(std::vector<Tick> beats) {
  beats_.give(std::make_unique<const std::vector<Tick>>(std::move(beats)));
}

void Click::mark(double from, double speed, std::size_t samples, std::size_t offset) {
  const auto* beats = beats_.newest();
  const double level = level_;
  if (beats == nullptr || level <= 0.0) return;
  const double to = from + static_cast<double>(samples) * speed;
  const auto first =
      std::lower_bound(beats->begin(), beats->end(), from, [](const Tick& b, double frame) { return b.frame < frame; });
  for (auto beat = first; beat != beats->end() && beat->frame < to; ++beat)
    strike(beat->bar, offset + static_cast<std::size_t>((beat->frame - from) / speed), level);
}

void Click::strike(bool bar, std::size_t offset, double level) {
  // The oldest gives way; eight at once never happen at a tempo that anyone plays.
  auto* sound = &sounds_[0];
  for (auto& s : sounds_) {
    if (!s.on) {
      sound = &s;
      break;
    }
    if (s.age > sound->age) sound = &s;
  }
  *sound = {-static_cast<std::int64_t>(offset), bar, static_cast<float>(level), true};
}

void Click::render(std::span<float> out) {
  const auto last = static_cast<std::int64_t>(kLength * rate_);
  for (auto& s : sounds_) {
    if (!s.on) continue;
    const double pitch = 2 * std::numbers::pi * (s.bar ? kBar : kBeat) / rate_;
    for (std::size_t i = 0; i < out.size() / 2 && s.age < last; ++i, ++s.age) {
      if (s.age < 0) continue;
      const auto t = static_cast<double>(s.age);
      const double shape = std::min(1.0, t / (kAttack * rate_)) * std::exp(-t / (kDecay * rate_));
      // An octave and a bit over the tone makes it wooden rather than a beep.
      const auto value = static_cast<float>(static_cast<double>(s.level) * shape *
                                            (0.7 * std::sin(pitch * t) + 0.3 * std::sin(2.76 * pitch * t)));
      out[2 * i] += value;
      out[2 * i + 1] += value;
    }
    if (s.age >= last) s.on = false;
  }
}

}  // namespace ear
