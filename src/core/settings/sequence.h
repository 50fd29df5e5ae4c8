// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <array>
#include <cstdint>

#include "core/base/units.h"

namespace ear {

/// One stretch of a program: played so often, with a rest behind each time. Rests and clicks are given in time of the
/// recording and grow with it when it is slowed down.
struct Segment {
  TimeSpan span{};
  double speed = 0.0;  ///< 0: the speed that is set
  int repeats = 1;     ///< 0: until the player is told to go on
  Seconds rest{};      ///< silence behind each time; 0 joins the next one on without a gap
  int clicks = 0;      ///< that end the rest, as a count before the next time
  Seconds each{};      ///< from click to click
  bool operator==(const Segment&) const = default;
};

/// Turns that are played one after the other, and then again from the first.
struct Sequence {
  static constexpr std::size_t kMostSegments = 256;
  std::uint32_t id = 0;  ///< another one for each program
  std::size_t count = 0;
  std::array<Segment, kMostSegments> turns{};
};

}  // namespace ear
