// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/theory/fretboard.h"

namespace ear {

/// What a hand has to do for places that sound together; how it is weighed is common practice, no source.
struct Grip {
  int fingers = 0;        ///< needed, a barre counting as one
  int barre = 0;          ///< fret of the barre, 0 without one
  int low = 0, high = 0;  ///< lowest and highest stopped fret, from the capo; 0 when all is open
  int innerMutes = 0;     ///< silent strings between sounding ones
  double effort = 0.0;  ///< 0 for open strings; about 3 for a plain open chord, 6 for a full barre, more for stretches
  bool playable() const { return fingers <= 4 && high - low <= 4; }
};

/// How places that sound together are gripped. At most one place a string.
Grip gripOf(std::span<const FretPosition> places);

/// A way to play a chord.
struct Fingering {
  std::vector<FretPosition> places;
  Grip grip;
};

/// "x32010", with blanks between when a fret needs two digits.
std::string fretsText(std::span<const FretPosition> places, int strings);

/// The easiest shapes of a chord in a tuning, with its bass lowest and every tone but the fifth (of four and more)
/// present.
/// @param most     how many at the most
/// @param highest  lowest fret of the hand up to which is looked
std::vector<Fingering> easiestShapes(const Guitar& guitar, const Chord& chord, std::size_t most = 12, int highest = 12);

/// The same shapes in the order in which a teacher would show them: full and firm in the bass before bare and easy, so
/// that the first one is what a student expects under the chord's name. The weights were found on a list of the grips
/// that are taught first in standard tuning (common practice, no source): 0.96 of 92 chords come first, 0.88 where they
/// were found on the other half of the list; by ease alone 0.48.
std::vector<Fingering> usualShapes(const Guitar& guitar, const Chord& chord, std::size_t most = 12, int highest = 12);

}  // namespace ear
