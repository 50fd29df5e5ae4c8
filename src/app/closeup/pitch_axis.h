// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QRectF>

namespace ear {

/// Which pitches the pitch map shows. MIDI, of the recording's own tuning.
struct PitchAxis {
  double low = 38, high = 86;  ///< at the lower and the upper edge

  double range() const { return high - low; }
  double yOf(double midi, QRectF area) const { return area.bottom() - (midi - low) / range() * area.height(); }
  double pitchAt(double y, QRectF area) const { return low + (area.bottom() - y) / area.height() * range(); }
  /// Pixels of a semitone.
  double room(QRectF area) const { return area.height() / range(); }

  friend bool operator==(const PitchAxis&, const PitchAxis&) = default;
};

}  // namespace ear
