// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <vector>

#include "core/audio/recording.h"

namespace ear {

/// A pitch that a guitar seems to sound.
struct NoteHint {
  int midi = 0;       ///< of the recording's own tuning
  double likely = 0;  ///< in [0, 1]
};

/// What guitars sound around a moment, the likeliest first, at most six: the learned activations (guitar_activations.h)
/// over about a quarter of a second, so that what was just struck is in it.
/// @param offset  of the recording from A 440
std::vector<NoteHint> noteHintsAt(const Recording& recording, Seconds t, Cents offset);

}  // namespace ear
