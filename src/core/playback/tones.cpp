// SPDX-License-Identifier: GPL-3.0-or-later
#include "core/playback/tones.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace ear {
namespace {

constexpr Seconds kPlain{3.0};  // that a plain tone stands
constexpr Seconds kSoft{0.03};  // of its rise and fall
constexpr Seconds kFade{0.04};  // in which silence() damps what sounds

}  // namespace

void Tones::prepare(int sampleRate) {
  rate_ = sampleRate;
  for (Slot& v : slots_) {
    v.string.prepare(sampleRate);
    v.tone.left = 0;
  }
}

bool Tones::play(const Note& note) {
  const std::uint32_t at = written_;
  if (rate_ == 0 || at - read_ >= kQueue) return false;
  queue_[at % kQueue] = note;
  written_ = at + 1;
  return true;
}

void Tones::start(Slot& v, const Note& note) const {
  v.kind = note.kind;
  v.startsIn = std::llround(std::max(0.0, note.after.value) * rate_);
  if (note.kind == Kind::plucked) {
    v.string.pluck({.pitch = note.pitch, .level = note.level});
    return;
  }
  v.tone = {.step = std::clamp(note.pitch, PluckedString::kLowest, PluckedString::kHighest).value / rate_,
            .left = std::llround(kPlain.value * rate_),
            .gain = static_cast<float>(note.level)};
}

void Tones::fadeOut(Slot& v) const {
  if (v.kind == Kind::plucked) {
    v.string.damp(kFade);
    return;
  }
  v.tone.fade = static_cast<float>(std::exp(-std::log(1000.0) / (kFade.value * rate_)));
  v.tone.left = std::min<std::int64_t>(v.tone.left, std::llround(2 * kFade.value * rate_));
}

void Tones::PlainTone::render(std::span<float> out, double soft) {
  for (std::size_t i = 0; i + 1 < out.size() && left > 0; i += 2) {
    const double rise = std::min({1.0, static_cast<double>(age++) / soft, static_cast<double>(left) / soft});
    const double turn = 2 * std::numbers::pi * phase;
    phase += step;
    phase -= std::floor(phase);
    const auto sample =
        gain *
        static_cast<float>(rise * (0.6 * std::sin(turn) + 0.28 * std::sin(2 * turn) + 0.12 * std::sin(3 * turn)));
    gain *= fade;
    --left;
    out[i] += sample;
    out[i + 1] += sample;
  }
}

void Tones::render(std::span<float> out) {
  if (rate_ == 0) return;
  if (const std::uint32_t wanted = silences_; wanted != silenced_) {
    silenced_ = wanted;
    for (Slot& v : slots_) fadeOut(v);
  }
  for (std::uint32_t at = read_; at != written_; at = read_) {
    // The voice with the least left to say makes room.
    start(*std::min_element(slots_.begin(), slots_.end(),
                            [](const Slot& a, const Slot& b) { return a.left() < b.left(); }),
          queue_[at % kQueue]);
    read_ = at + 1;
  }
  for (Slot& v : slots_) {
    if (v.left() <= 0) continue;
    const auto silent = std::min<std::int64_t>(v.startsIn, static_cast<std::int64_t>(out.size() / 2));
    v.startsIn -= silent;
    const auto rest = out.subspan(2 * static_cast<std::size_t>(silent));
    if (v.kind == Kind::plucked)
      v.string.render(rest);
    else
      v.tone.render(rest, kSoft.value * rate_);
  }
}

}  // namespace ear
