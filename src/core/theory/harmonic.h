// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <vector>

#include "core/base/units.h"
#include "core/theory/fretboard.h"

namespace ear {

/// A natural harmonic of a string.
struct Harmonic {
  int semitones = 0;  ///< above the open string, to the nearest tempered note
  Cents off;  ///< how far it lies from that note: the partials of a string are whole multiples (harmonic series)
};

/// The harmonic that speaks when a string is touched over a fret (12, 7, 19, 5, 24, 4, 9, 16); nothing over others.
std::optional<Harmonic> harmonicAbove(int fret);

/// Where a natural harmonic is touched.
struct HarmonicPlace {
  FretPosition touched;
  Cents off;  ///< of the partial from the tempered note
};

/// Every node that sounds a pitch, on every string, the low frets first: the harmonics finder.
std::vector<HarmonicPlace> harmonicPlaces(const Guitar& guitar, int midi);

}  // namespace ear
