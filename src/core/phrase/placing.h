// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <set>
#include <span>
#include <string>
#include <vector>

#include "core/theory/fretboard.h"

namespace ear {

/// A note of which the pitch is known, and perhaps the place.
struct NoteToPlace {
  int midi = 0;       ///< of the stopped or open string, before any bend
  int moment = 0;     ///< notes of one moment start together; rising through a line
  bool led = false;   ///< hammered, pulled or slid to from the moment before, on its string
  bool slid = false;  ///< the hand goes along
  bool bent = false;
  std::optional<FretPosition> fixed{};  ///< decided; it stays there
};

/// What is wanted of a line's places.
struct PlacingWishes {
  std::optional<int> hand{};          ///< fret of the first finger at the start
  double thick = 0.0;                 ///< -1 thin strings high up the list ... 1 thick ones
  std::set<int> strings{};            ///< that it is to lie on, 0 the lowest; empty: any
  std::vector<FretPosition> inUse{};  ///< a box or the shape of a chord that the line hangs on
};

/// One way to play a line.
struct LinePlacing {
  std::vector<FretPosition> places{};     ///< one for each note that can be played, in their order
  std::vector<std::size_t> unplayable{};  ///< indices of the notes that have no place
  double effort = 0.0;                    ///< the less the better; comparable within one line
  int lowest = 0, highest = 0;            ///< stopped frets; 0 where all is open
  int shifts = 0;                         ///< times the hand has to jump
  int open = 0;                           ///< notes on open strings
};

/// Where a line is played, the easiest ways first: the least effort over the place of each note and of the hand under
/// it (dynamic programming; after Sayegh 1989, "Fingering for string instruments with the optimum path paradigm",
/// Computer Music Journal 13(3)). Shifts, stretches, jumps between strings, bends of thick or open strings and low on
/// the neck cost; what is led from one note to the next stays on its string. The ways differ in where they begin. Cost:
/// linear in the notes, some microseconds for each.
std::vector<LinePlacing> placeLine(const Guitar& guitar, std::span<const NoteToPlace> notes,
                                   const PlacingWishes& wishes = {}, std::size_t most = 3);

/// "frets 5 to 8, the hand stays", "frets 2 to 12, 2 shifts, 3 open strings".
std::string sentenceOf(const LinePlacing& placing);

}  // namespace ear
