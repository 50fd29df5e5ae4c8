// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include "core/base/units.h"

namespace ear {

/// What of a recording is heard. All parts combine.
struct Isolation {
  enum class Channel { both, left, right, middle, sides };
  enum class Panned { all, keep, remove };
  enum class Component { all, harmonic, percussive };

  Channel channel = Channel::both;
  Panned place = Panned::all;
  double centre = 0.0;  ///< of the place: -1 hard left ... 1 hard right
  double width = 0.2;   ///< from the place's centre to its edge, kLeastWidth ... 1
  Component part = Component::all;
  Hertz lowCut{};       ///< nothing below; 0: off
  Hertz highCut{};      ///< nothing above; 0: off
  Hertz focus{};        ///< middle of the one octave that is heard; 0: off
  bool bassUp = false;  ///< the bass alone, an octave up

  static constexpr double kLeastWidth = 0.05;
  static constexpr Hertz kLowest{30}, kHighest{12000};  ///< of cuts and focus

  bool operator==(const Isolation&) const = default;
  /// Everything is heard as it is.
  bool plain() const;
};

/// The same within the limits above; a low cut over the high cut gives way to it.
Isolation withinLimits(Isolation isolation);

}  // namespace ear
