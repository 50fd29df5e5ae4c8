// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/tones.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ear {
namespace {

constexpr double kLowest = 20.0, kHighest = 4000.0;  // Hz
constexpr double kRing = 5.0;                        // seconds until a plucked string has lost 60 dB
constexpr double kPlain = 3.0;                       // seconds that a plain tone stands
constexpr double kSoft = 0.03;                       // seconds of its rise and fall
constexpr double kFade = 0.04;                       // seconds in which silence() damps what sounds

}  // namespace

void Tones::prepare(int sampleRate) {
  rate_ = sampleRate;
  for (Voice& v : voices_) {
    v.line.assign(static_cast<std::size_t>(sampleRate / kLowest) + 4, 0.0F);
    v.left = 0;
  }
}

bool Tones::play(const Note& note) {
  const std::uint32_t at = written_;
  if (rate_ == 0 || at - read_ >= kQueue) return false;
  queue_[at % kQueue] = note;
  written_ = at + 1;
  return true;
}

void Tones::start(Voice& v, const Note& note) {
  const double hertz = std::clamp(note.pitch.value, kLowest, kHighest);
  v.kind = note.kind;
  v.startsIn = std::llround(std::max(0.0, note.after.value) * rate_);
  v.fade = 1.0F;
  v.age = 0;
  v.phase = 0;
  v.step = hertz / rate_;
  v.gain = static_cast<float>(note.level);
  v.left = std::llround((note.kind == Kind::plain ? kPlain : kRing) * rate_);
  if (note.kind == Kind::plain) return;
  // The loop holds N samples, half a sample of the averaging and what the all-pass adds to make up the period.
  const double period = rate_ / hertz;
  v.length = static_cast<std::size_t>(period - 0.6);
  const double rest = period - static_cast<double>(v.length) - 0.5, w = 2 * std::numbers::pi * v.step;
  v.allPass = static_cast<float>(std::sin((w - w * rest) / 2) / std::sin((w + w * rest) / 2));
  v.loss = static_cast<float>(std::pow(10.0, -3.0 / (hertz * kRing)));
  v.before = v.allPassIn = v.allPassOut = 0.0F;
  v.at = 0;
  // A softened burst of noise is the pluck; its mean is taken out, since the loop would keep it.
  float soft = 0, mean = 0, peak = 1e-6F;
  for (std::size_t i = 0; i < v.length; ++i) {
    noise_ = noise_ * 1664525U + 1013904223U;
    soft += 0.5F * (static_cast<float>(noise_ >> 8) / 8388608.0F - 1.0F - soft);
    v.line[i] = soft;
    mean += soft / static_cast<float>(v.length);
  }
  for (std::size_t i = 0; i < v.length; ++i) v.line[i] -= mean, peak = std::max(peak, std::abs(v.line[i]));
  for (std::size_t i = 0; i < v.length; ++i) v.line[i] /= peak;
}

float Tones::next(Voice& v) const {
  if (v.kind == Kind::plain) {
    const double soft = kSoft * rate_;
    const double rise = std::min({1.0, static_cast<double>(v.age++) / soft, static_cast<double>(v.left) / soft});
    const double turn = 2 * std::numbers::pi * v.phase;
    v.phase += v.step;
    v.phase -= std::floor(v.phase);
    // Two overtones let a small speaker give a low string.
    return static_cast<float>(rise * (0.6 * std::sin(turn) + 0.28 * std::sin(2 * turn) + 0.12 * std::sin(3 * turn)));
  }
  const float out = v.line[v.at];
  const float mean = v.loss * 0.5F * (out + v.before);
  v.before = out;
  v.allPassOut = v.allPass * (mean - v.allPassOut) + v.allPassIn;
  v.allPassIn = mean;
  v.line[v.at] = v.allPassOut;
  v.at = v.at + 1 == v.length ? 0 : v.at + 1;
  return out;
}

void Tones::render(std::span<float> out) {
  if (rate_ == 0) return;
  if (const std::uint32_t wanted = silences_; wanted != silenced_) {
    silenced_ = wanted;
    const auto fade = static_cast<float>(std::exp(-std::log(1000.0) / (kFade * rate_)));
    for (Voice& v : voices_) v.fade = fade, v.left = std::min<std::int64_t>(v.left, std::llround(2 * kFade * rate_));
  }
  for (std::uint32_t at = read_; at != written_; at = read_) {
    // The voice with the least left to say makes room.
    start(*std::min_element(voices_.begin(), voices_.end(),
                            [](const Voice& a, const Voice& b) { return a.left < b.left; }),
          queue_[at % kQueue]);
    read_ = at + 1;
  }
  for (Voice& v : voices_) {
    if (v.left <= 0) continue;
    for (std::size_t i = 0; i + 1 < out.size() && v.left > 0; i += 2) {
      if (v.startsIn > 0) {
        --v.startsIn;
        continue;
      }
      const float sample = v.gain * next(v);
      v.gain *= v.fade;
      --v.left;
      out[i] += sample;
      out[i + 1] += sample;
    }
  }
}

}  // namespace ear
