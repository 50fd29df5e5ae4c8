// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <cstdint>
#include <map>

#include "core/base/units.h"

namespace ear {

using Decibels = Quantity<struct DecibelsTag>;

/// What a level over time comes to against the weekly allowance of WHO-ITU H.870 (2018), mode 1 for adults: 80 dB(A)
/// for 40 hours in seven days, halved for each 3 dB more.
inline constexpr Decibels kAllowedLevel{80.0};
inline constexpr Seconds kAllowedTime{40.0 * 3600.0};

/// @return share of the week's allowance
double doseOf(Decibels level, Seconds time);

/// How long a level may sound in a week until the allowance is used.
Seconds allowedAt(Decibels level);

/// Listening of the last days. Days are counted from any fixed date, seven of them make the week that ends today.
struct ListeningAccount {
  struct Day {
    double dose = 0;  ///< share of the week's allowance
    Seconds time{};
  };
  std::map<std::int64_t, Day> days;

  void add(std::int64_t day, Decibels level, Seconds time);
  /// The seven days that end with this one.
  Day week(std::int64_t today) const;
  Day on(std::int64_t day) const;
  /// Forgets what no week reaches any more.
  void tidy(std::int64_t today);
};

/// What a person said of the loudness: at this digital level (dB, A-weighted, full scale 0) it was as loud as talk.
/// Talk of one person at a metre with usual effort is 60 dB(A) (ISO 9921:2003, table A.1; from memory).
inline constexpr Decibels kTalk{60.0};
struct Calibration {
  Decibels digital;
  /// What a digital level comes to at the ear, while nothing else on the way is turned.
  Decibels heard(Decibels level) const { return level - digital + kTalk; }
};

}  // namespace ear
