// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <optional>
#include <span>

#include "core/playback/limiter.h"
#include "core/playback/mailbox.h"
#include "core/signal/weighted_level.h"

namespace ear {

/// The last thing before the output: the limiter, and the level that an account of listening is kept of.
/// process() belongs to the audio thread and neither allocates nor locks.
class Monitor {
 public:
  /// Not while the audio thread runs.
  void prepare(int sampleRate);

  /// Of about a second of sound.
  struct Reading {
    std::uint32_t number = 0;  ///< counts up; another number is another second
    double meanSquare = 0;     ///< A-weighted, of both sides, full scale 1
    double seconds = 0;
    float reduction = 1;  ///< least factor of the limiter
  };
  /// Of the one control thread.
  const Reading& newest() { return readings_.newest(); }

  void process(std::span<float> interleaved);

 private:
  Limiter limiter_;
  WeightedLevel level_;
  int rate_ = 48000;
  std::size_t since_ = 0;
  std::uint32_t number_ = 0;
  Mailbox<Reading> readings_;
};

}  // namespace ear
