// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/settings/isolation.h"

namespace ear {

/// How a recording is heard.
struct PlaybackSettings {
  double speed = 1.0;     ///< 0.2 ... 1.5 of the recording's own
  Cents shift{};          ///< of the pitch, -1200 ... 1200
  Isolation isolation{};  ///< what of it
  bool operator==(const PlaybackSettings&) const = default;

  /// Of the pitch, with the bass that was asked for an octave up.
  Cents wholeShift() const { return isolation.bassUp ? shift + Cents(1200) : shift; }
  bool stretched() const { return speed != 1.0 || wholeShift() != Cents(0); }
  /// The recording's own samples are played, bit for bit.
  bool plain() const { return !stretched() && isolation.plain(); }
};

}  // namespace ear
