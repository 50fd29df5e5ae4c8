// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <atomic>
#include <cstdint>
#include <span>
#include <vector>

#include "core/base/units.h"

namespace ear {

/// Tones of reference, mixed over the recording: a plucked string (Karplus & Strong 1983, tuned with the all-pass of
/// Jaffe & Smith 1983) and a plain tone that holds still.
///
/// play() and silence() belong to one control thread; render() belongs to the audio thread and neither allocates, locks
/// nor waits.
class Tones {
 public:
  enum class Kind { plucked, plain };
  struct Note {
    Hertz pitch{};  ///< 20 ... 4000
    Kind kind = Kind::plucked;
    Seconds after{};      ///< from now
    double level = 0.25;  ///< peak
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
  static constexpr std::size_t kVoices = 12, kQueue = 32;
  struct Voice {
    Kind kind = Kind::plucked;
    std::int64_t startsIn = 0, left = 0;  // samples
    float gain = 0.0F, fade = 1.0F;       // fade: per sample
    // A plucked string.
    std::vector<float> line;
    std::size_t length = 0, at = 0;
    float loss = 1.0F, allPass = 0.0F, before = 0.0F, allPassIn = 0.0F, allPassOut = 0.0F;
    // A plain tone.
    double phase = 0.0, step = 0.0;
    std::int64_t age = 0;
  };
  void start(Voice& voice, const Note& note);
  float next(Voice& voice) const;

  int rate_ = 0;
  std::array<Voice, kVoices> voices_;
  std::array<Note, kQueue> queue_;
  std::atomic<std::uint32_t> written_ = 0, read_ = 0, silences_ = 0;
  std::uint32_t silenced_ = 0;
  std::uint32_t noise_ = 1;
};

}  // namespace ear
