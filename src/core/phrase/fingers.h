// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <span>
#include <vector>

#include "core/phrase/note.h"

namespace ear {

/// Proposes fingers of the left hand for notes that have a place: one finger a fret from where the hand lies, which
/// moves as seldom and as little as it can (dynamic programming over its position). Of notes together on one fret each
/// takes the next finger while there are fingers left, else one finger lies over all of them. What is open or has no
/// place on a fret takes none; what a person said stays. One finger a fret is common practice, no source.
/// @param notes  in order
/// @return a finger for each note, and whether it lies over several strings
struct ProposedFinger {
  Finger finger = Finger::unsaid;
  bool barred = false;
  bool operator==(const ProposedFinger&) const = default;
};
std::vector<ProposedFinger> proposedFingers(std::span<const Note> notes);

}  // namespace ear
