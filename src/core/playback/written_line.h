// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <atomic>
#include <cstdint>
#include <vector>

#include "core/base/units.h"
#include "core/playback/mailbox.h"
#include "core/playback/plucked_string.h"
#include "core/playback/time_line_source.h"

namespace ear {

/// A line that was written down, sounding along the recording it was written from: a plucked string for each string of
/// the guitar. It keeps to the recording's frames at every speed and in every repetition; bends and slides take longer
/// where it is slowed down.
///
/// setStrikes() and setLevel() belong to one control thread; the rest to the audio thread, where nothing is allocated
/// or locked.
class WrittenLine : public TimeLineSource {
 public:
  static constexpr std::size_t kStrings = 8;

  /// One string struck, with all that happens to it until it is damped.
  struct Strike {
    double from = 0.0, until = 0.0;  ///< frames of the recording
    std::size_t string = 0;          ///< below kStrings
    PluckedString::Pluck pluck{};    ///< its times as at the recording's own speed
  };

  /// Allocates. @param strikes  in any order
  void setStrikes(std::vector<Strike> strikes);
  void setLevel(double level) { level_ = level; }  ///< 0 (off) ... 1
  double level() const { return level_; }

  // --- audio thread -------------------------------------------------------------------------------------------
  void prepare(int sampleRate) override;
  void mark(double from, double speed, std::size_t samples, std::size_t offset) override;
  void render(std::span<float> interleaved) override;

 private:
  /// A strike or its end, by frame.
  struct Event {
    double frame = 0.0;
    std::size_t strike = 0;
    bool end = false;
  };
  struct Score {
    std::vector<Strike> strikes;
    std::vector<Event> events;  // rising
  };
  /// What happens in the block that comes.
  struct Due {
    std::size_t at = 0;  // sample
    std::size_t string = 0;
    bool end = false;
    PluckedString::Pluck pluck{};
  };

  Handover<Score> score_;
  std::atomic<double> level_ = 0.0;
  std::array<PluckedString, kStrings> strings_;
  std::array<double, kStrings> until_{};  // frame at which what sounds on each string ends
  std::array<Due, 32> due_;
  std::size_t dues_ = 0;
  double next_ = 0.0;  // frame that follows the last one marked
};

}  // namespace ear
