// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <atomic>
#include <cstdint>
#include <span>

#include "core/base/units.h"
#include "core/playback/plucked_string.h"

namespace ear {

/// Tones of reference, mixed over the recording: a plucked string, or a plain tone that holds still.
///
/// play() and silence() belong to one control thread; render() belongs to the audio thread and neither allocates, locks
/// nor waits.
class Tones {
 public:
  enum class Kind { plucked, plain };
  struct Note {
    Hertz pitch{};  ///< PluckedString::kLowest ... kHighest
    Kind kind = Kind::plucked;
    Seconds after{};      ///< from now
    double level = 0.35;  ///< peak, before the volume
  };

  /// Allocates; not while the audio thread renders.
  void prepare(int sampleRate);
  int sampleRate() const { return rate_; }

  /// @return false when too much was asked for at once
  bool play(const Note& note);
  /// Lets everything fade within a few hundredths of a second.
  void silence() { silences_ = silences_ + 1; }

  /// Adds to the samples, left and right in turn.
  void render(std::span<float> interleaved);

 private:
  static constexpr std::size_t kSlots = 12, kQueue = 32;
  /// Two overtones let a small speaker give a low string.
  struct PlainTone {
    double phase = 0.0, step = 0.0;  // of a turn
    std::int64_t age = 0, left = 0;  // samples
    float gain = 0.0F, fade = 1.0F;  // fade: per sample
    void render(std::span<float> out, double soft);
  };
  struct Slot {
    Kind kind = Kind::plucked;
    std::int64_t startsIn = 0;  // samples
    PluckedString string;
    PlainTone tone;
    std::int64_t left() const { return kind == Kind::plain ? tone.left : string.left(); }
  };
  void start(Slot& voice, const Note& note) const;
  void fadeOut(Slot& voice) const;

  int rate_ = 0;
  std::array<Slot, kSlots> slots_;
  std::array<Note, kQueue> queue_;
  std::atomic<std::uint32_t> written_ = 0, read_ = 0, silences_ = 0;
  std::uint32_t silenced_ = 0;
};

}  // namespace ear
