// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <algorithm>
#include <cmath>
#include <cstddef>

#include "core/base/units.h"

namespace ear {

/// When the frames of anything measured at a steady rate sound: frame i is centred at i / rate seconds.
/// Precondition of all but timeOf(): rate > 0.
struct FrameClock {
  double rate = 0.0;  ///< frames a second

  Seconds timeOf(double frame) const { return Seconds(frame / rate); }
  Seconds timeOf(std::size_t frame) const { return timeOf(static_cast<double>(frame)); }
  /// Where a time lies between the frames; negative before the first.
  double placeOf(Seconds time) const { return time.value * rate; }
  /// The last frame that is not after a time; the first for what lies before it.
  std::size_t frameBefore(Seconds time) const { return static_cast<std::size_t>(std::max(0.0, placeOf(time))); }
  /// The frame nearest to a time; the first for what lies before it.
  std::size_t frameAt(Seconds time) const { return static_cast<std::size_t>(std::max(0.0, std::round(placeOf(time)))); }
  /// How many frames a stretch of time takes, rounded down.
  std::size_t framesIn(Seconds length) const { return frameBefore(length); }
};

}  // namespace ear
