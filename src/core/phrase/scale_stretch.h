// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/phrase/note.h"
#include "core/theory/scale.h"

namespace ear {

/// The scale that a phrase uses from a place on, and the box of it under the hand.
struct ScaleStretch {
  Beats from;  ///< of the first one nothing is asked: it reaches back to the start
  Scale scale;
  int box = 0;  ///< 1 ... as boxesOf() counts them; 0: not said
  bool operator==(const ScaleStretch&) const = default;
};

/// The stretch that holds a place; null where no scale is stated. @param stretches  rising
const ScaleStretch* stretchAt(std::span<const ScaleStretch> stretches, Beats at);

/// Where a box lies on the neck for these notes: the one of its two octaves that holds more of them. Nothing where the
/// scale has no such box.
std::optional<NeckRegion> regionOf(const Guitar& guitar, const Scale& scale, int box, std::span<const Note> notes);

/// Every place of the boxes that are stated, an octave up as well; empty where none is.
std::vector<FretPosition> placesInBoxes(const Guitar& guitar, std::span<const ScaleStretch> stretches);

/// What a line uses by its notes.
struct ScaleUse {
  std::vector<ScaleStretch> stretches{};
  int inside = 0;  ///< notes in the scale and the box of their stretch
  int of = 0;      ///< notes with a pitch
};

/// In which boxes of the minor and the major pentatonic on a tonic a line lies, and where it goes from one to another:
/// the cheapest way through (Viterbi 1967) where a note out of the scale costs more than one out of the box, and a
/// change of scale or box as much as several of them. Weights are common practice, no source. Empty for a line of
/// under four notes.
/// @param notes  in order
ScaleUse scalesUsed(const Guitar& guitar, std::span<const Note> notes, PitchClass tonic);

}  // namespace ear
