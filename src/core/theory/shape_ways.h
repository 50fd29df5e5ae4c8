// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <string>
#include <vector>

#include "core/theory/pitch.h"

namespace ear {

/// A way to make the shapes of one key sound in another.
struct ShapeWay {
  int strings = 0;  ///< semitones by which all strings are shifted from what the shapes are named by
  int capo = 0;     ///< fret, 0 for none
  bool operator==(const ShapeWay&) const = default;
};

/// "E shapes that sound G: which capo?" Strings as they are come first, then slackened by a semitone and by a tone,
/// which is as far as strings are usually let down (common practice, no source); none with the capo above `highest`.
std::vector<ShapeWay> waysToSound(PitchClass shapes, PitchClass sounding, int highest = 9);

/// "capo 3", "strings a whole tone down, capo 5", "no capo".
std::string sentenceOf(const ShapeWay& way);

}  // namespace ear
