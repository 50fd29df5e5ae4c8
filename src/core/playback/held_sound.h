// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <span>
#include <vector>

#include "core/audio/recording.h"
#include "core/playback/mailbox.h"

namespace ear {

/// A moment of a recording made to last: the spectrum of a third of a second around it, given out again and again with
/// other phases, the same ones left and right so that everything keeps its place.
/// @return interleaved samples whose end joins their beginning
std::vector<float> holdMoment(const Recording& recording, Seconds t);

/// Plays a held moment until it is let go. hold() and release() belong to one control thread, render() to the audio
/// thread, where nothing is allocated or locked.
class HeldSound {
 public:
  void prepare(int sampleRate) { rate_ = sampleRate; }
  void hold(std::vector<float> moment);
  void release() { on_ = false; }
  bool holding() const { return on_; }
  /// Adds to the samples, left and right in turn.
  void render(std::span<float> interleaved);

 private:
  Handover<std::vector<float>> moment_;
  std::atomic<bool> on_ = false;
  int rate_ = 48000;
  const std::vector<float>* sounding_ = nullptr;
  std::size_t at_ = 0;
  float level_ = 0.0F;
};

}  // namespace ear
