// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstddef>
#include <span>

namespace ear {

/// What sounds along the time line of a recording besides the recording itself: it keeps to the recording's frames
/// wherever they are played, at whatever speed, and again in each repetition of a loop.
///
/// All of it belongs to the audio thread, where nothing is allocated, locked or waited for, but prepare().
class TimeLineSource {
 public:
  virtual ~TimeLineSource() = default;

  /// Before the audio thread renders; may allocate.
  virtual void prepare(int sampleRate) = 0;

  /// Frames [from, from + samples x speed) of the recording are played next: what lies there starts to sound.
  /// @param offset  samples into the coming block at which `from` sounds
  virtual void mark(double from, double speed, std::size_t samples, std::size_t offset) = 0;

  /// Adds what sounds to the next samples, left and right in turn.
  virtual void render(std::span<float> interleaved) = 0;
};

}  // namespace ear
