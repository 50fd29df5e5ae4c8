// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <atomic>
#include <cstdint>
#include <memory>
#include <span>
#include <vector>

#include "core/base/units.h"
#include "core/playback/mailbox.h"
#include "core/playback/time_line_source.h"

namespace ear {

/// A click on every beat, mixed over the recording: higher on the first of a bar. It follows the beats wherever they
/// are, so it drifts with the players and slows down with the playback.
///
/// setBeats() and setLevel() belong to one control thread; mark() and render() to the audio thread, where nothing
/// is allocated or locked.
class Click : public TimeLineSource {
 public:
  /// A beat in frames of the recording.
  struct Tick {
    double frame;
    bool bar;
  };

  /// Allocates. @param beats  rising
  void setBeats(std::vector<Tick> beats);
  void setLevel(double level) { level_ = level; }  ///< 0 (off) ... 1
  double level() const { return level_; }

  // --- audio thread -------------------------------------------------------------------------------------------
  void prepare(int sampleRate) override { rate_ = sampleRate; }
  void mark(double from, double speed, std::size_t samples, std::size_t offset) override;
  /// Starts one click that no beat of the recording asks for.
  void strike(bool bar, std::size_t offset, double level);
  void render(std::span<float> interleaved) override;

 private:
  struct Sound {
    std::int64_t age = -1;  ///< samples since its start; negative: starts in so many
    bool bar = false;
    float level = 0.0F;
    bool on = false;
  };

  Handover<std::vector<Tick>> beats_;
  std::atomic<double> level_ = 0.0;
  int rate_ = 48000;
  std::array<Sound, 8> sounds_;
};

}  // namespace ear
