// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <string>
#include <vector>

#include "core/theory/chord.h"

namespace ear {

/// One way to name notes that sound together.
struct ChordReading {
  Chord chord;
  bool rootMissing = false;  ///< a rootless voicing: somebody else plays it
  bool fifthMissing = false;
  std::vector<PitchClass> missing{};  ///< other tones of the kind that do not sound
  double oddity = 0.0;                ///< 0 for a plain triad over its root; the readings are sorted by it
};

/// Names for notes that sound together, the most usual first.
///
/// Every kind of chord on every root is tried; all notes must belong to it. A missing fifth is cheap, a missing root
/// dear, a bass that is not the root costs little, a missing third or seventh rules the kind out. How the costs are
/// weighed is common practice, no source.
///
/// @param midi  the notes; the lowest is the bass
/// @return empty for fewer than two different pitch classes
std::vector<ChordReading> nameNotes(std::span<const int> midi);

/// "D/F♯", "A7 (no root, no fifth)".
std::string readingName(const ChordReading& reading, Spelling spelling);

}  // namespace ear
